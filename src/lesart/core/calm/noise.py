"""Noise of a signal that may itself bend within a few samples: a day's wave in a log that is written each hour."""

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
"""Of trends in samples, each twice as long as the one before: what turns within a dozen samples is noise, as the
swinging of a load, and what stands about the longest is noise unless much less stands about a shorter."""
SHORTER = 3
"""One more, where nothing swings as slowly as the samples come."""
BENDS = 1.67
"""About a trend twice as long there is at most 1.62 times as much of noise that was averaged, √2 times of noise that
wanders, and up to 16 times of a wave: from this on it is the signal that bends. Source: measured on simulated noise."""
SELDOM_S = 10.0
"""Samples so far apart show no swinging and no hum as an even wave: what goes smoothly from one to the next is slow."""


@dataclass(frozen=True)
class Noise:
    """Robust standard deviation ``sigma``, in the block's unit; whether the signal bends within a usual trend."""

    sigma: float
    bends: bool = False


def noise_of(block: Block) -> Noise:
    """Noise of the good samples about a trend that is as long as the signal allows.

    About a short trend little is left of noise that was averaged, about a long one much of a signal that bends. So the
    trend grows, until what stands about it jumps. Hum of the mains is noise however smoothly it goes, and so are the
    steps of counts, between which a slow signal stands still. 0 when there are too few samples.

    Not for what filters leave: a mean behind a median goes as smoothly as a signal. See ``noise_left``.
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
    """Noise about a trend; a mean over W samples takes 1 ÷ W of its power with it."""
    return noise_about(good, calm, half_span) / math.sqrt(1.0 - 1.0 / (2 * half_span + 1))


def _before_it_bends(found: list[float], step: float) -> float:
    """The last of them before the first that is much more than the one before it, and than a step of counts."""
    for narrow, wide in pairwise(found):
        if narrow > 0 and wide > max(BENDS * narrow, step):
            return narrow
    return found[-1]


def _step(good: Floats) -> float:
    """The least step between neighbours that is more than what floats round; 0 without any."""
    apart = np.abs(np.diff(good))
    apart = apart[apart > ROUNDED * float(np.abs(good).max(initial=0.0))]
    return float(apart.min()) if len(apart) else 0.0
