"""The latest value of another channel at or before the time of a sample."""

from __future__ import annotations

import numpy as np

from lesart.core.block import UNUSABLE, Block, Floats, Mark, Marks

LOOK_BACK = 1024


def latest(other: Block, t: Floats, stale_s: float = float("inf")) -> tuple[Floats, Marks]:
    """Values of ``other`` at times ``t``, and the marks to add to each sample; both of shape (n,).

    The latest usable one at or before each time: NaN with MISSING where there is none yet, HELD where a later one is
    unusable or it is older than ``stale_s``. Depends on the times alone, so cutting ``t`` into blocks changes nothing.
    Times of ``other`` must rise.
    """
    if not len(t) or not len(other):
        return np.full(len(t), np.nan), np.full(len(t), Mark.MISSING, np.uint8)
    # Only what lies between the first and the last time is looked at: other channels can be long.
    last = int(np.searchsorted(other.t, t.max(), side="right"))
    first = _usable_before(other, int(np.searchsorted(other.t, t.min(), side="right")) - 1)
    part = other[first:last]
    if not len(part):
        return np.full(len(t), np.nan), np.full(len(t), Mark.MISSING, np.uint8)
    places = np.where(part.usable, np.arange(len(part)), -1)
    newest = np.searchsorted(part.t, t, side="right") - 1
    found = np.where(newest >= 0, np.maximum.accumulate(places)[newest], -1)
    there = found >= 0
    held = there & ((found < newest) | (t - part.t[found] > stale_s))
    mark = np.where(there, np.where(held, np.uint8(Mark.HELD), np.uint8(0)), np.uint8(Mark.MISSING))
    return np.where(there, part.x[found], np.nan), mark.astype(np.uint8)


def _usable_before(other: Block, place: int) -> int:
    """Index of the last usable sample at or before ``place``; 0 where there is none."""
    end = place + 1
    while end > 0:
        start = max(end - LOOK_BACK, 0)
        usable = np.flatnonzero((other.mark[start:end] & np.uint8(UNUSABLE)) == 0)
        if len(usable):
            return start + int(usable[-1])
        end = start
    return 0
