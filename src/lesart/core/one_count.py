"""The change of a reading for one raw count: its slope, or the height of a step where a law has steps."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import numpy as np

from lesart.core.block import Floats, block_of
from lesart.core.chain import Chain, Pointwise
from lesart.core.step import Step

FARTHEST = 33
"""A step is looked for up to 2³² counts away, the span of a 32-bit word."""
AT_ONCE = 64
"""Points between two bounds that are evaluated at once."""
SMOOTH = 2.0
"""A law is smooth where its slope and the change over the next counts differ by less than this factor."""


def one_count(chain: Chain, raw: float, step: float = 1.0) -> float:
    """Change of the reading from ``raw`` to the next count that comes, ``step`` counts on: 0 or more, in its unit.

    By the slope where the law is smooth. A law with a floor in it keeps its value for some counts and then jumps: its
    slope is zero, or infinite at the jump, so the height of the nearest jump is taken. NaN where there is no slope.
    """
    by_slope = abs(chain.slope(raw)) * step
    laws = [link for link in chain.links if link.step is not Step.CALM]
    if math.isnan(by_slope) or not all(isinstance(link.stage, Pointwise) for link in laws):
        return by_slope

    def readings(counts: Floats) -> Floats:
        block = block_of(raw + step * counts)
        for link in laws:
            block = link.settled(block)
        return np.where(block.usable, block.x, np.nan)

    here = readings(np.array([-1.0, 0.0, 1.0]))
    sides = np.abs(np.diff(here))
    sides = sides[np.isfinite(sides)]
    if not len(sides):
        return by_slope
    if sides.min() > 0:
        is_smooth = max(by_slope, sides.max()) <= SMOOTH * min(by_slope, sides.min())
        return by_slope if is_smooth else float(sides.min())
    jumps = [_jump(partial(_one_way, readings, way), float(here[1])) for way in (1.0, -1.0)]
    # Flat for good to one side, a reading is held at an end there: no step of it is near.
    return min(jumps) if all(jumps) else by_slope


def _one_way(readings: Callable[[Floats], Floats], way: float, counts: Floats) -> Floats:
    return readings(way * counts)


def _jump(readings: Callable[[Floats], Floats], here: float) -> float:
    """Height of the first change away from ``here``; 0 where none follows, or where the readings end before it."""
    far: Floats = np.exp2(np.arange(FARTHEST, dtype=np.float64))
    found = _first_other(readings(far), here)
    if found is None:
        return 0.0
    low, high = (float(far[found - 1]) if found else 0.0), float(far[found])
    while high - low > 1.0:
        between = np.unique(np.floor(np.linspace(low, high, AT_ONCE + 1))).astype(np.float64)[1:]
        first = _first_other(readings(between), here)
        if first is None:
            return 0.0
        low, high = (float(between[first - 1]) if first else low), float(between[first])
    return abs(float(readings(np.array([high]))[0]) - here)


def _first_other(x: Floats, here: float) -> int | None:
    """Index of the first value that differs from ``here``; None where none does, or where the readings end before
    it."""
    other = np.flatnonzero(x != here)
    return int(other[0]) if len(other) and math.isfinite(float(x[other[0]])) else None
