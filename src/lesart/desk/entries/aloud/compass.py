"""A direction as the points of a compass: ``compass``, ``16 compass points``, ``N NE E SE S SW W NW``."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.quantity import plain_number
from lesart.core.units import Unit

POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")
NAMED = {"4": 4, "four": 4, "8": 8, "eight": 8, "16": 16, "sixteen": 16}
USUAL = 8
DEGREE = "°"
_SAID = re.compile(
    r"(?:as\s+|in\s+|with\s+)?(?:an?\s+|the\s+)?(?:(?P<many>4|8|16|four|eight|sixteen)(?:[\s-]+point)?\s+)?"
    r"(?:compass(?:\s+(?:points?|directions?|rose|letters|names|words))?|(?:cardinal|wind)\s+(?:points?|directions?|rose|"
    r"letters|names|words))",
    re.IGNORECASE,
)
_LISTED = re.compile(r"N(?:[\s,/]+(?:[NESW]{1,3}))+", re.IGNORECASE)


def compass_said(said: str, own: Unit) -> str:
    """The words of a field that shows the points of a compass; empty for anything else.

    Raises RequestError for a reading that is no direction, and for points that are not all there.
    """
    many = _many(said)
    if not many:
        return ""
    if own.symbol != DEGREE:
        raise RequestError(f'"{said.strip()}": points of a compass show a direction in {DEGREE}, and this is in {own}.')
    names = POINTS[:: len(POINTS) // many]
    step = 360 / many
    limited = (f"{name} < {plain_number((place + 0.5) * step, 6)}{DEGREE}" for place, name in enumerate(names))
    return "; ".join((*limited, names[0]))


def _many(said: str) -> int:
    """How many points; 0 where it is none of this."""
    if found := _SAID.fullmatch(said.strip()):
        return NAMED[(found["many"] or str(USUAL)).lower()]
    if not _LISTED.fullmatch(said.strip()):
        return 0
    names = tuple(re.split(r"[\s,/]+", said.strip().upper()))
    many = next((each for each in sorted(set(NAMED.values())) if names == POINTS[:: len(POINTS) // each]), 0)
    if not many:
        raise RequestError(f'"{said.strip()}": a compass has 4, 8 or 16 points, in turn from N over E.')
    return many
