"""How much noise filters leave, where the rest of it is as slow as the signal could be."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from lesart.core.block import Block, block_of
from lesart.core.calm.effect import SPANS, noise_about, without_spikes
from lesart.core.calm.noise import Noise, noise_of
from lesart.core.calm.record import FilterEntry
from lesart.core.chain import Chain

HALF_SPAN = 25
"""Of a short trend, in samples."""
WIDE = 8
"""A trend over this many times the samples that a filter averages takes little of the noise it leaves."""
LEAST_LEFT = 0.5
"""Of the noise power: a trend that leaves less than this leaves too little to measure."""
LONGEST = 1 << 17
SEED = 20_260_517
"""Fixed, so that the same filters always give the same figure."""


def noise_factor(filters: Sequence[FilterEntry], chain: Chain, interval_s: float, about: float, noise: float) -> float:
    """Standard deviation of what is left of white noise, as a share of it.

    Stated by a single filter. Of several it is measured, on samples every ``interval_s`` with the standard deviation
    ``noise`` about a reading ``about``: factors do not multiply, for what comes out of the first is white no more.
    """
    if len(filters) < 2 or not noise > 0:
        return math.prod(each.cost(interval_s).noise_factor for each in filters)
    memory = chain.memory_samples
    count = min(max(400 * memory, 1 << 14), LONGEST)
    x = about + noise * np.random.default_rng(SEED).standard_normal(count)
    block = block_of(x, 1.0 / (interval_s or 1.0))
    out = chain.run(chain.initial(), block)[1][-1]
    good = out.x[out.usable & (out.mark == 0)]
    return float(good.std()) / noise if len(good) > 1 else 1.0


def noise_left(before: Noise, after: Block, factor: float) -> float:
    """Standard deviation of the noise that filters left, in the block's unit.

    ``before`` is the noise before them, ``factor`` what they leave of white noise. A trend over a few samples more than
    a filter averages goes with what it leaves, and little is found about it: half of what there is after a mean of 32.
    So it is looked for about a trend that is wide beside the filter; where the signal itself bends within that, or the
    capture is too short, as much is left as of white noise. It is never less than what stands about a short trend: that
    is hum, or what else is not white.

    What a trend over W samples takes of noise averaged over M of them is M ÷ W of its power.
    """
    good = after.x[after.usable]
    calm = without_spikes(good)
    near = noise_of(after).sigma if before.bends else noise_about(good, calm, HALF_SPAN)
    white = before.sigma * factor
    if near >= white:
        return near
    averaged = 1.0 / factor**2
    width = min(WIDE * averaged, len(good) / SPANS)
    left = 1.0 - averaged / width if width > 0 else 0.0
    if left < LEAST_LEFT:
        return white
    wide = noise_about(good, calm, max(int(width / 2.0), HALF_SPAN)) / math.sqrt(left)
    return max(near, min(wide, white))
