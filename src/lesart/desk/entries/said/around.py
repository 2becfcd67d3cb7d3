"""What stands around a line and says nothing: the stop of a sentence, that something is to be added, and where it is
measured."""

from __future__ import annotations

import re
from collections.abc import Iterator

STOPS = " .;,!"
"""Behind a sentence that was pasted, or a line of a program."""
ASKED_FOR = re.compile(
    r"\s*(?:please\s+)?(?:(?:add|insert|put|create|make|use|set|i\s+(?:want|need|have))\s+(?:(?:an?|the|in)\s+)?)+(?=\S)",
    re.IGNORECASE,
)
"""What + does anyway."""
PLACED = re.compile(
    r"\s*(?:(?:coolant|oil|engine|exhaust|intake|outside|outdoor|indoor|inside|room|house|garden|greenhouse|boiler|pool|"
    r"fridge|freezer|water|air|fuel)\s+)+(?:temp(?:erature)?\s+|level\s+|pressure\s+)?(?:sensor\s+|probe\s+)?"
    r"(?=(?:NTC|thermistor|Pt\s?\d{2,4})\b|\d.*\d)",
    re.IGNORECASE,
)
"""Before figures that say all: ``coolant 2252 ohm at 25 °C beta 3978``."""
_NAMES = re.compile(r"[^\W\d]{3}")
"""What is to be added has a name: ``add 0.5`` is a sum."""


def without_around(typed: str) -> Iterator[str]:
    """The line without its stop, without that as well by which it is asked for, and without where it is measured; none
    where there is nothing of that."""
    sentence = typed.rstrip(STOPS)
    if sentence and sentence != typed.rstrip():
        yield sentence
    asked = ASKED_FOR.match(sentence)
    if asked is not None and _NAMES.search(sentence, asked.end()):
        yield sentence[asked.end() :]
    placed = PLACED.match(sentence)
    if placed is not None:
        yield sentence[placed.end() :]
