"""Words that change what is said, unlike a name: they are taken or refused, and never passed over."""

from __future__ import annotations

import re
from collections.abc import Iterator

CHANGES = re.compile(
    r"[×*÷±]|\b(?:not|twice|doubled|halved|squared|inverted|reversed?|mirrored|negative|upside|times|divided|minus|plus|"
    r"less|per|active|if|when|unless|until|every|each|only|max(?:imum)?|min(?:imum)?|rounded|averaged|clipped|"
    r"in\s+[^\W\d]{1,4})\b|\bin\s+[°%µΩ]",
    re.IGNORECASE,
)
_TURNS = re.compile(
    r"(?<![\w-])(?:not|twice|doubled?|inverted|reversed|mirrored|squared|negated|negative|minus)(?![\w-])\s*",
    re.IGNORECASE,
)
"""Words that can never be part of a sensor's or a part's name."""
FIGURES = re.compile(r"(?:[^\W\d]+\s+)?(?<![\w.,×x-])[-−+±]?\s?\d+(?:[.,]\d+)*(?:\s*(?:[^\W\d]{1,4}\b|[°%Ω]))?")
"""A number alone, with the word before it and its unit."""


def first_change(rest: str) -> str:
    """The first figure or word that changes something; empty where there is none."""
    found = FIGURES.search(rest) or CHANGES.search(rest)
    return found[0].strip() if found else ""


def as_typed(typed: str, lower: str) -> str:
    """A piece of the text in small letters as it was typed."""
    place = typed.lower().find(lower)
    return typed[place : place + len(lower)] if place >= 0 else lower


def without_each_turn(typed: str) -> Iterator[tuple[str, str]]:
    """Every word that turns the meaning round, and the line without it."""
    for found in _TURNS.finditer(typed):
        yield found[0].strip(), f"{typed[: found.start()]}{typed[found.end() :]}".strip()
