"""A value as JSON has it, or as an interpreter on a microcontroller prints it: ``{'temp': 21.5, 'hum': None}``."""

from __future__ import annotations

import json
import re
from typing import Any

_WORDS = {
    "None": "null",
    "True": "true",
    "False": "false",
    "nan": "NaN",
    "inf": "Infinity",
    "-inf": "-Infinity",
    "(": "[",
    ")": "]",
}
_WORD = re.compile(r"\"[^\"\\\n]*\"|'([^'\"\\\n]*)'|-?\b(?:None|True|False|nan|inf)\b|[()]")


def value_in(text: str) -> Any:
    """A value as JSON has it, or as an interpreter prints a dictionary. Raises ValueError and RecursionError."""
    try:
        return json.loads(text)
    except json.JSONDecodeError:
        if (written := as_json(text)) == text:
            raise
        return json.loads(written)


def as_json(printed: str) -> str:
    """An interpreter's output as JSON: single quotes, None, True and False, tuples."""
    return _WORD.sub(lambda found: f'"{found[1]}"' if found[1] is not None else _WORDS.get(found[0], found[0]), printed)
