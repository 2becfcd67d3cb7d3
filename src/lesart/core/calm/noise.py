"""Noise of a signal that may itself curve within a few samples: the daily wave in an hourly log."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.calm.effect import ROUNDED, noise_about, without_spikes
from lesart.core.calm.hum import hum_in
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import median, noise_of_neighbours

HALF_SPANS = (6, 12, 25)
"""Half spans of trends in samples, each twice as long as the one before: what turns within a dozen samples is noise, as
the swinging of a load, and the residual of the longest is noise unless a shorter one leaves much less."""
SHORTER = 3
"""A shorter one, for samples so slow that nothing swings at their pace."""
BENDS = 1.67
"""About a trend twice as long there is at most 1.62 times as much of noise that was averaged, √2 times of noise that
wanders, and up to 16 times of a wave: from this on it is the signal that bends. Source: measured on simulated noise."""
SELDOM_S = 10.0
"""Samples this far apart cannot show swinging or hum as a smooth wave: what is smooth from one to the next is slow."""


@dataclass(frozen=True)
class Noise:
    """Robust standard deviation ``sigma``, in the block's unit, and whether the signal bends within a usual trend."""

    sigma: float
    bends: bool = False


def noise_of(block: Block) -> Noise:
    """Noise of the good samples about a trend that is as long as the signal allows.

    About a short trend little is left of noise that was averaged, about a long one much of a signal that bends. So the
    trend grows, until what stands about it jumps. Hum of the mains is noise however smoothly it goes, and so are the
    steps of counts, between which a slow signal stands still. 0 when there are too few samples.

    Not for filtered signals: a mean after a median is as smooth as a signal. See ``noise_left``.
    """
    x, t = block.x[block.usable], block.t[block.usable]
    calm = without_spikes(x)
    found = [_about(x, calm, half_span) for half_span in HALF_SPANS]
    if len(t) > 1 and median(np.diff(t)) >= SELDOM_S:
        found = [noise_of_neighbours(x), _about(x, calm, SHORTER), *found]
    steady = _before_it_bends(found, _step(calm))
    return Noise(found[-1]) if steady >= found[-1] or hum_in(block) is not None else Noise(steady, True)


def noise_in(block: Block) -> float:
    """The standard deviation alone."""
    return noise_of(block).sigma


def _about(good: Floats, calm: Floats, half_span: int) -> float:
    """Noise about a trend, corrected for the 1 ÷ W of its power that a mean over W samples follows."""
    return noise_about(good, calm, half_span) / math.sqrt(1.0 - 1.0 / (2 * half_span + 1))


def _before_it_bends(found: list[float], step: float) -> float:
    """The last value before the first that is much more than the one before it, and than a step of counts."""
    for narrow, wide in pairwise(found):
        if narrow > 0 and wide > max(BENDS * narrow, step):
            return narrow
    return found[-1]


def _step(good: Floats) -> float:
    """The least step between neighbours beyond float rounding; 0 without any."""
    apart = np.abs(np.diff(good))
    apart = apart[apart > ROUNDED * float(np.abs(good).max(initial=0.0))]
    return float(apart.min()) if len(apart) else 0.0
