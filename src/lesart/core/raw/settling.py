"""Readings taken too early: sooner after the last than a sensor allows, or before it has settled."""

from __future__ import annotations

from typing import Any, TypeVar

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.ranked import median

Value = TypeVar("Value", float, Floats)
RECONNECT_INTERVALS = 10.0
"""After a pause of this many usual intervals a sensor was most likely without power, and settles again."""
SOON_SHARE = 1e-3
"""Of a sensor's least interval: a reading this little too soon is the clock of whoever measured."""


def is_too_soon(interval_s: Value, least_interval_s: float) -> Any:
    """True where a sensor is asked again sooner than it allows, from start to start of readings; for one or an
    array."""
    return interval_s < least_interval_s * (1 - SOON_SHARE)


def with_early_marked(block: Block, settle_s: float, least_interval_s: float, begun: Floats | None = None) -> Block:
    """The block, its samples SETTLING for ``settle_s`` after its start and after each long pause.

    A sample that comes sooner than ``least_interval_s`` after the one before is marked RATE: the sensor repeats its
    last value then, or none at all. ``begun``, shape (n,), is when each reading began, where that is known: samples
    stand at the end of their frames, which last longer or shorter by what is in them. Zeros ask for nothing.
    """
    if not len(block) or (settle_s <= 0 and least_interval_s <= 0):
        return block
    mark = block.mark.copy()
    intervals = np.diff(block.t)
    if settle_s > 0:
        forward = intervals[intervals > 0]
        usual = median(forward) if len(forward) else np.inf
        starts = np.concatenate(([0], np.flatnonzero(intervals > RECONNECT_INTERVALS * usual) + 1))
        since = block.t - block.t[starts][np.searchsorted(starts, np.arange(len(block)), side="right") - 1]
        mark[since < settle_s] |= np.uint8(Mark.SETTLING)
    if least_interval_s > 0:
        between = intervals if begun is None else np.diff(begun)
        mark[np.concatenate(([False], is_too_soon(between, least_interval_s)))] |= np.uint8(Mark.RATE)
    return Block(block.t, block.x, mark)
