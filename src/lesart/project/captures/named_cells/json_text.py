"""JSON as small programs write it: one value or several, truncated by a power failure, printed in another language's
syntax, or as arrays in source code."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.lines.printed import as_json
from lesart.project.captures.named_cells.source_arrays import arrays_in

_MARK = re.compile(r'"(?:[^"\\]|\\.)*"?|[\[\]{},]', re.DOTALL)
_BETWEEN = re.compile(r"[\s,\x1e]*")
_Opened = tuple[str, Any] | None
"""Closing signs still to come, the next one first, as a shared linked list, which is not copied at each entry."""


@dataclass(frozen=True)
class Said:
    """``value`` of a text, a list where there are several; ``is_cut`` where its end is missing."""

    value: Any
    is_cut: bool = False


def said_in(text: str) -> Said:
    """The value of a text; of a truncated one the intact part. Raises ValueError and RecursionError."""
    if (arrays := arrays_in(text)) is not None:
        return Said(arrays.by_name, arrays.is_cut)
    try:
        return _said_in(text)
    except json.JSONDecodeError:
        if (written := as_json(text)) == text:
            raise
        return _said_in(written)


def _said_in(text: str) -> Said:
    try:
        return Said(json.loads(text))
    except json.JSONDecodeError as error:
        if error.msg == "Extra data":
            return Said(list(_one_after_the_other(text)))
        try:
            return Said(json.loads(_closed(text)), is_cut=True)
        except json.JSONDecodeError:
            raise error from None


def _one_after_the_other(text: str) -> Iterator[Any]:
    decoder, text = json.JSONDecoder(), text.strip()
    at = 0
    while at < len(text):
        value, at = decoder.raw_decode(text, at)
        yield value
        if found := _BETWEEN.match(text, at):
            at = found.end()


def _closed(text: str) -> str:
    """The text up to the last intact entry of a list, with open brackets closed; empty where it is not truncated, or no
    list has an intact entry."""
    opened: _Opened = None
    end, there = 0, opened
    for mark in _MARK.finditer(text):
        sign = mark[0]
        if sign in ("[", "{"):
            opened = ("]" if sign == "[" else "}", opened)
        elif sign in ("]", "}"):
            if opened is None or opened[0] != sign:
                return ""
            opened = opened[1]
        if sign in ("]", "}", ",") and opened is not None and opened[0] == "]":
            end, there = mark.start() if sign == "," else mark.end(), opened
    closing = []
    while there is not None:
        closing.append(there[0])
        there = there[1]
    return text[:end] + "".join(closing) if opened is not None else ""
