"""Words that change what is said, unlike a name: they are taken or refused, and never passed over."""

from __future__ import annotations

import re

CHANGES = re.compile(
    r"[×*÷±]|\b(?:not|twice|doubled|halved|squared|inverted|reversed?|mirrored|negative|upside|times|divided|minus|plus|"
    r"less|per|active|if|when|unless|until|every|each|only|max(?:imum)?|min(?:imum)?|rounded|averaged|clipped|"
    r"in\s+[^\W\d]{1,4})\b|\bin\s+[°%µΩ]",
    re.IGNORECASE,
)
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
