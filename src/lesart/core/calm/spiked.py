"""Spikes: single samples, or two in a row, that stand out from all around them."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.effect import FEWEST, SPIKE, usual_off
from lesart.core.calm.windowed import sliding_median

BEYOND_NOISE = 4.0
"""A spike stands out by more than this many times the noise."""
BEYOND_SLOPE = 1.5
"""And by more than this many steps from sample to sample about it: next to a spike on a slope the median moves by
one."""
BESIDE = np.arange(-3, 3)
"""Steps about a sample, six, of which two neighbouring spikes make two."""


def spikes(block: Block, noise: float) -> int:
    """Good samples many times the usual distance from the median of the five about them, beyond the noise, and beyond
    what the slope of the signal explains.

    An averaged signal is so smooth from sample to sample that its usual distance alone says little; its ``noise``, in
    its unit, says more.
    """
    good = block.x[block.usable]
    if len(good) < FEWEST:
        return 0
    off = np.abs(good[2:-2] - sliding_median(good, 5))
    least = max(SPIKE * usual_off(off, good), BEYOND_NOISE * noise)
    if not least > 0:
        return 0
    found = np.flatnonzero(off > least)
    steps = np.abs(np.diff(good))
    about = np.clip(found[:, np.newaxis] + 2 + BESIDE, 0, len(steps) - 1)
    return int(np.count_nonzero(off[found] > BEYOND_SLOPE * np.median(steps[about], axis=1)))
