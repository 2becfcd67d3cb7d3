"""A polynomial through references that continues in a straight line beyond them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.curve import root_by_halving


@dataclass(frozen=True)
class Bent:
    """c₀ + c₁·s + c₂·s² …, s = (x − centre) ÷ scale, rising from ``low`` to ``high``; outside, its tangent.

    Centred and scaled, so that references far from zero lose no digits. Beyond its points a polynomial bends away
    unpredictably; a straight line is a guess too, but one that a person can picture.
    """

    coefficients: tuple[float, ...]
    centre: float
    scale: float
    low: float
    high: float

    def forward(self, x: Floats) -> Floats:
        inside = np.clip(x, self.low, self.high)
        return self._value(inside) + (x - inside) * self._steep(inside)

    def inverse(self, y: Floats) -> Floats:
        ends = self._value(np.array([self.low, self.high]))
        steep = self._steep(np.array([self.low, self.high]))
        low, high = np.full_like(y, self.low), np.full_like(y, self.high)
        inside = root_by_halving(self._value, np.clip(y, ends[0], ends[1]), low, high)
        below, above = self.low + (y - ends[0]) / steep[0], self.high + (y - ends[1]) / steep[1]
        return np.where(y < ends[0], below, np.where(y > ends[1], above, inside))

    def slope(self, x: Floats) -> Floats:
        return self._steep(np.clip(x, self.low, self.high))

    def _value(self, x: Floats) -> Floats:
        return _sum(self.coefficients, (x - self.centre) / self.scale)

    def _steep(self, x: Floats) -> Floats:
        powers = [power * each for power, each in enumerate(self.coefficients)][1:]
        return _sum(powers, (x - self.centre) / self.scale) / self.scale


def _sum(coefficients: Sequence[float], s: Floats) -> Floats:
    total = np.zeros_like(s)
    for each in reversed(coefficients):
        total = total * s + each
    return total
