"""Hum of the mains in what is left of a signal: as what it is, or as the slow wave that it looks like when samples
come too seldom to follow it."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.calm.effect import without_spikes
from lesart.core.calm.windowed import sliding_sum
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import median

MAINS_HZ = (50.0, 60.0)
MOST, FEWEST = 8192, 256
"""Samples that are looked at, from the middle of the capture."""
UNEVEN = 0.02
"""Of the usual interval: samples that come less evenly smear a wave over others."""
TREND = 51
"""Samples that a trend is a mean of, which is no noise."""
MOSTLY = 0.5
"""Of the power of the noise: less of it is not what makes the reading restless."""
BESIDE = 2
"""Bins to either side of its own that hold the power of one wave behind a Hann window."""
WANDERS_HZ = 0.1
"""The mains keeps its frequency to about this, and so does a clock that times samples of it."""
BY_CHANCE = 0.15
"""Of all waves that there may be: where more of them would pass for mains, none does."""
MEANS = range(2, 65)
LITTLE = 0.05


@dataclass(frozen=True)
class Hum:
    """``mains_hz`` looks like ``seen_hz``, goes ``height`` to either side and makes ``share`` of the noise's power; a
    mean of ``samples`` leaves ``left`` of it."""

    mains_hz: float
    seen_hz: float
    height: float
    share: float
    samples: int
    left: float


def hum_in(block: Block) -> Hum | None:
    """The mains, where it makes most of the noise of evenly timed samples; None where another wave does, or none.

    What is read at f looks like |f − n·rate| for the n that makes it least (the sampling theorem).
    """
    good = block.usable
    t, x = block.t[good], block.x[good]
    begin = max((len(t) - MOST) // 2, 0)
    t, x = t[begin : begin + MOST], x[begin : begin + MOST]
    if len(t) < FEWEST:
        return None
    interval = median(np.diff(t))
    if not interval > 0 or np.abs(np.diff(t) - interval).max() > UNEVEN * interval:
        return None
    interval = float(t[-1] - t[0]) / (len(t) - 1)
    rate, lasts = 1.0 / interval, float(t[-1] - t[0])
    within = WANDERS_HZ + 1.0 / lasts
    if 2.0 * within * len(MAINS_HZ) > BY_CHANCE * rate / 2.0:
        return None
    seen, height, share = _strongest(without_spikes(x), interval)
    for mains in MAINS_HZ:
        looks = abs(mains - rate * round(mains / rate))
        if share >= MOSTLY and abs(looks - seen) <= within and looks > within:
            samples, left = _mean_for(seen, rate)
            return Hum(mains, seen, height, share, samples, left)
    return None


def _strongest(x: Floats, interval: float) -> tuple[float, float, float]:
    """The strongest wave about the trend: its frequency in Hz, its height, and its share of the power."""
    half = TREND // 2
    about = x[half:-half] - sliding_sum(x, TREND) / TREND
    power = np.abs(np.fft.rfft(about * np.hanning(len(about)))) ** 2
    power[0] = 0.0
    total = float(power.sum())
    if not total > 0:
        return math.nan, 0.0, 0.0
    at = int(np.argmax(power))
    bins = slice(max(at - BESIDE, 0), at + BESIDE + 1)
    own = power[bins]
    middle = float((own * np.arange(len(power))[bins]).sum() / own.sum())
    share = float(own.sum()) / total
    return middle / (len(about) * interval), math.sqrt(2.0 * share * float(np.mean(about * about))), share


def _mean_for(seen: float, rate: float) -> tuple[int, float]:
    """The shortest mean that leaves little of a wave, else the best of them, and what it leaves."""
    left = {n: _left_by(n, seen / rate) for n in MEANS}
    samples = next((n for n in MEANS if left[n] <= LITTLE), min(MEANS, key=lambda n: left[n]))
    return samples, left[samples]


def _left_by(samples: int, cycles: float) -> float:
    """Of a wave of so many cycles a sample behind a mean: |sin(πnc) ÷ (n·sin(πc))|, the Dirichlet kernel."""
    below = samples * math.sin(math.pi * cycles)
    return abs(math.sin(math.pi * samples * cycles) / below) if abs(below) > 1e-12 else 1.0
