"""Preferred values, IEC 60063: what resistors and capacitors can be bought as."""

from __future__ import annotations

import math
from fractions import Fraction
from functools import lru_cache

E6 = (1.0, 1.5, 2.2, 3.3, 4.7, 6.8)
E12 = (1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2)
E24 = (
    1.0,
    1.1,
    1.2,
    1.3,
    1.5,
    1.6,
    1.8,
    2.0,
    2.2,
    2.4,
    2.7,
    3.0,
    3.3,
    3.6,
    3.9,
    4.3,
    4.7,
    5.1,
    5.6,
    6.2,
    6.8,
    7.5,
    8.2,
    9.1,
)

E96 = tuple(round(10.0 ** (step / 96), 2) for step in range(96))
"""The E96 series; rounding to three digits gives exactly the printed values."""


def around(value: float, series: tuple[float, ...] = E24) -> tuple[float, float]:
    """The preferred values next to ``value`` (> 0): the greatest at or below, and the least at or above."""
    decade = math.floor(math.log10(value))
    near = [_times(step, power) for power in (decade - 1, decade, decade + 1) for step in series]
    # A computed value that should be a preferred one may be off by rounding.
    below = max(each for each in near if each <= value * (1 + 1e-9))
    above = min(each for each in near if each >= value * (1 - 1e-9))
    return below, above


def nearest(value: float, series: tuple[float, ...] = E24) -> float:
    """The nearest preferred value by ratio."""
    below, above = around(value, series)
    return below if value * value <= below * above else above


def decade_of(lowest: float, highest: float, series: tuple[float, ...] = E24) -> list[float]:
    """All preferred values from lowest to highest, both ends included."""
    first, last = math.floor(math.log10(lowest)), math.ceil(math.log10(highest))
    every = [_times(step, power) for power in range(first, last + 1) for step in series]
    return [value for value in every if lowest * (1 - 1e-9) <= value <= highest * (1 + 1e-9)]


@lru_cache(maxsize=2048)
def _times(step: float, power: int) -> float:
    """A preferred value in its decade: exactly 4700, not 4700.000000000001."""
    return float(Fraction(str(step)) * Fraction(10) ** power)
