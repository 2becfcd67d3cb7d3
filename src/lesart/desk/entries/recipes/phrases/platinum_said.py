"""A platinum resistor as people say it, with how it is joined and how good it is."""

from __future__ import annotations

import re

_PLATINUM = re.compile(r"(?:an?\s+)?(?:(?:rtd|platinum|sensor)\s+)*(?:pt\s?-?1?00\d*|rtd|platinum)\b", re.IGNORECASE)
_SAID_OF_PLATINUM = re.compile(
    r"(?<!\s),?\s+(?:(?:in\s+)?(?:[2-4]|two|three|four)[\s-]?wires?|class\s+A{1,2}|class\s+B|alpha\s*=?\s*(?:0\.00)?385\d?)\b",
    re.IGNORECASE,
)
"""How it is joined and how good it is changes nothing in what its resistance means."""


def platinum_plainly(typed: str) -> str:
    """``Pt100, 3 wire`` as ``Pt100``; any other line unchanged."""
    return _SAID_OF_PLATINUM.sub("", typed) if _PLATINUM.match(typed.strip()) else typed
