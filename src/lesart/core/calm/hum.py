"""Mains hum in a signal about its trend: as itself, or aliased to a slow wave where the sample rate is too low for
it."""

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
"""The most and the fewest samples examined, from the middle of the capture."""
UNEVEN = 0.02
"""Of the usual interval: with less even samples a wave smears over its neighbours."""
TREND = 51
"""Samples that the trend is a mean of."""
MOSTLY = 0.5
"""Of the noise power: with less, hum is not what makes the reading restless."""
BESIDE = 2
"""Bins to either side that hold the power of one wave under a Hann window."""
WANDERS_HZ = 0.1
"""The mains frequency, and the clock that times the samples, are off by about this at most."""
BY_CHANCE = 0.15
"""Of all possible waves: where more than this share would pass for mains, none is taken for it."""
MEANS = range(2, 65)
LITTLE = 0.05


@dataclass(frozen=True)
class Hum:
    """``mains_hz`` appears at ``seen_hz`` with amplitude ``height`` and makes ``share`` of the noise power; a mean of
    ``samples`` leaves ``left`` of it."""

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
    """The strongest wave about the trend: frequency in Hz, amplitude, and share of the power."""
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
    """The shortest mean that leaves little of a wave, or else the best one, and the share it leaves."""
    left = {n: _left_by(n, seen / rate) for n in MEANS}
    samples = next((n for n in MEANS if left[n] <= LITTLE), min(MEANS, key=lambda n: left[n]))
    return samples, left[samples]


def _left_by(samples: int, cycles: float) -> float:
    """What a mean of n samples leaves of a wave of c cycles per sample: |sin(πnc) ÷ (n·sin(πc))|, the Dirichlet
    kernel."""
    below = samples * math.sin(math.pi * cycles)
    return abs(math.sin(math.pi * samples * cycles) / below) if abs(below) > 1e-12 else 1.0
