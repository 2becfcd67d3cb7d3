"""A min/max pyramid, so that a chart of ten million samples is drawn from at most two points a column."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lesart.core.block import Block, Floats

FACTOR = 8


@dataclass(frozen=True, eq=False)
class Envelope:
    """``levels[k]`` holds least and greatest of runs of ``FACTOR**(k+1)`` samples; NaN where a run has no number."""

    t: Floats
    x: Floats
    levels: tuple[tuple[Floats, Floats], ...]

    def between(self, start_s: float, end_s: float, columns: int) -> tuple[Floats, Floats]:
        """Times and values to draw, at most two points a column, none of them NaN.

        Edges of columns are taken to the nearest run, so a spike may stand one column beside its place, never be lost.
        """
        first, last = np.searchsorted(self.t, [start_s, end_s])
        first, last = max(int(first) - 1, 0), min(int(last) + 1, len(self.t))
        if last - first <= 2 * columns:
            t, x = self.t[first:last], self.x[first:last]
            good = np.isfinite(x)
            return t[good], x[good]
        least, greatest, grain = self._level((last - first) / columns)
        edges = np.unique(np.linspace(first // grain, -(-last // grain), columns + 1).astype(int)[:-1])
        end = -(-last // grain)
        low = np.fmin.reduceat(least[:end], edges)
        high = np.fmax.reduceat(greatest[:end], edges)
        t = np.repeat(self.t[np.minimum(edges * grain, len(self.t) - 1)], 2)
        x = np.column_stack([low, high]).ravel()
        good = np.isfinite(x)
        return t[good], x[good]

    def _level(self, samples_per_column: float) -> tuple[Floats, Floats, int]:
        """The coarsest level that still has two runs in a column."""
        least, greatest, grain = self.x, self.x, 1
        for level, (low, high) in enumerate(self.levels):
            if FACTOR ** (level + 1) * 2 > samples_per_column:
                break
            least, greatest, grain = low, high, FACTOR ** (level + 1)
        return least, greatest, grain


def envelope_of(block: Block) -> Envelope:
    """The pyramid over the usable samples of a block."""
    x = np.where(block.usable, block.x, np.nan)
    levels = []
    low = high = x
    while len(low) > FACTOR:
        edges = np.arange(0, len(low), FACTOR)
        low, high = np.fmin.reduceat(low, edges), np.fmax.reduceat(high, edges)
        levels.append((low, high))
    return Envelope(block.t, x, tuple(levels))
