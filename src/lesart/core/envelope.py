"""A min/max pyramid, so that a chart of ten million samples is drawn from at most two points per column."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import distinct

FACTOR = 16
"""Eight would draw no faster and take twice the memory."""


@dataclass(frozen=True, eq=False)
class Envelope:
    """``levels[k]`` holds the minimum and maximum of each run of ``FACTOR**(k+1)`` samples; NaN where it has no
    number."""

    block: Block
    levels: tuple[tuple[Floats, Floats], ...]

    def between(self, start_s: float, end_s: float, columns: int) -> tuple[Floats, Floats]:
        """Times and values to draw, at most two points per column, none of them NaN.

        Column edges are rounded to the nearest run, so a spike may be drawn one column off, but is never lost.
        """
        times = self.block.t
        first, last = np.searchsorted(times, [start_s, end_s])
        first, last = max(int(first) - 1, 0), min(int(last) + 1, len(times))
        if last - first <= 2 * columns:
            seen = self.block[first:last]
            return seen.t[seen.usable], seen.x[seen.usable]
        least, greatest, grain, begins = self._level(first, last, (last - first) / columns)
        edges = distinct(np.linspace(first // grain, -(-last // grain), columns + 1).astype(int)[:-1])
        end = -(-last // grain) - begins
        low = np.fmin.reduceat(least[:end], edges - begins)
        high = np.fmax.reduceat(greatest[:end], edges - begins)
        t = np.repeat(times[np.minimum(edges * grain, len(times) - 1)], 2)
        x = np.column_stack([low, high]).ravel()
        good = np.isfinite(x)
        return t[good], x[good]

    def _level(self, first: int, last: int, samples_per_column: float) -> tuple[Floats, Floats, int, int]:
        """The coarsest level that still has two runs per column, its samples per run, and the first run to draw."""
        fitting = [level for level in range(len(self.levels)) if FACTOR ** (level + 1) * 2 <= samples_per_column]
        if fitting:
            return *self.levels[fitting[-1]], FACTOR ** (fitting[-1] + 1), 0
        x = _usable(self.block[first:last])
        return x, x, 1, first


def _usable(block: Block) -> Floats:
    """The values, NaN where the sample is not usable."""
    usable = block.usable
    return block.x if usable.all() else np.where(usable, block.x, np.nan)


def envelope_of(block: Block) -> Envelope:
    """The pyramid over the usable samples of a block."""
    levels = []
    low = high = _usable(block)
    while len(low) > FACTOR:
        edges = np.arange(0, len(low), FACTOR)
        low, high = np.fmin.reduceat(low, edges), np.fmax.reduceat(high, edges)
        levels.append((low, high))
    return Envelope(block, tuple(levels))
