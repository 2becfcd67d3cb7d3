"""Readings taken too early: sooner after the last than a sensor allows, or before it has settled."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block, Mark

RECONNECT_INTERVALS = 10.0
"""After a pause of so many usual intervals a sensor was most likely without power, and settles again."""


def with_early_marked(block: Block, settle_s: float, least_interval_s: float) -> Block:
    """The block, its samples SETTLING for ``settle_s`` after its start and after each long pause.

    A sample that comes sooner than ``least_interval_s`` after the one before is marked RATE: the sensor repeats its
    last value then, or none at all. Zeros ask for nothing.
    """
    if not len(block) or (settle_s <= 0 and least_interval_s <= 0):
        return block
    mark = block.mark.copy()
    intervals = np.diff(block.t)
    if settle_s > 0:
        forward = intervals[intervals > 0]
        usual = float(np.median(forward)) if len(forward) else np.inf
        starts = np.concatenate(([0], np.flatnonzero(intervals > RECONNECT_INTERVALS * usual) + 1))
        since = block.t - block.t[starts][np.searchsorted(starts, np.arange(len(block)), side="right") - 1]
        mark[since < settle_s] |= np.uint8(Mark.SETTLING)
    if least_interval_s > 0:
        # A hair, because times that are meant to be a tenth apart come out a rounding nearer.
        soon = np.concatenate(([False], intervals < least_interval_s * (1 - 1e-9)))
        mark[soon] |= np.uint8(Mark.RATE)
    return Block(block.t, block.x, mark)
