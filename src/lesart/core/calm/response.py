"""What a chain of filters does to a step, a ramp, a spike and to each frequency: measured on signals made for it.

Measured and not derived, because a median or a deadband has no transfer function: test signals of a realistic size
about the present reading go through the filters themselves.
"""

from __future__ import annotations

import math

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass

MOST_SAMPLES = 32_768
PERIODS, SAMPLES_A_PERIOD = 6, 4
FREQUENCIES = 36
SETTLED_WITHIN = 0.02
LEFT = math.sqrt(0.5)
"""Share of the amplitude left at the cut-off: half the power."""


@dataclass(frozen=True)
class Step:
    """The response to a step from 0 to 1: ``t_s`` from the step on, ``y``; NaN where it never gets there.

    ``rise_s`` from 10 to 90 %, ``overshoot`` as a share of the step, ``settles_s`` until it stays within 2 %.
    """

    t_s: Floats
    y: Floats
    rise_s: float
    overshoot: float
    settles_s: float


@dataclass(frozen=True)
class Frequencies:
    """``gain`` at each of ``hz``, shape (n,); ``cutoff_hz`` where 71 % is left, NaN where it never falls that far."""

    hz: Floats
    gain: Floats
    cutoff_hz: float


@dataclass(frozen=True)
class Response:
    """The whole response.

    ``ramp_lag_s`` is the lag behind a ramp, ``spike`` the largest share of a lone spike that is left.
    """

    step: Step
    frequencies: Frequencies
    ramp_lag_s: float
    spike: float


def respond(chain: Chain, interval_s: float, about: float, size: float) -> Response:
    """The response of filters on samples every ``interval_s`` about a reading ``about``; the step is ``size`` > 0, in
    its unit."""
    memory = min(chain.memory_samples, MOST_SAMPLES // 4)
    before = memory + 8
    return Response(
        _step(chain, interval_s, about, size, before),
        _frequencies(chain, interval_s, about, size, before),
        _ramp_lag(chain, interval_s, about, size, before),
        _spike(chain, interval_s, about, size, before),
    )


def _through(chain: Chain, x: Floats, interval_s: float) -> Block:
    t = np.asarray(np.arange(len(x)) * interval_s, np.float64)
    block = Block(t, x, np.zeros(len(x), np.uint8))
    return chain.run(chain.initial(), block)[1][-1] if chain.links else block


def _step(chain: Chain, interval_s: float, about: float, size: float, before: int) -> Step:
    after = min(max(8 * before, 64), MOST_SAMPLES)
    x = np.full(before + after, about)
    x[before:] += size
    out = _through(chain, x, interval_s)
    good = out.usable & (out.t >= (before - 0.5) * interval_s)
    t, y = out.t[good] - before * interval_s, (out.x[good] - about) / size
    if not len(y):
        return Step(t, y, math.nan, math.nan, math.nan)
    reached = [float(t[np.argmax(y >= level)]) if (y >= level).any() else math.nan for level in (0.1, 0.9)]
    away = np.flatnonzero(np.abs(y - 1.0) > SETTLED_WITHIN)
    last = int(away[-1]) + 1 if len(away) else 0
    settles = float(t[last]) if last < len(t) else math.nan
    return Step(t, y, reached[1] - reached[0], max(float(y.max()) - 1.0, 0.0), settles)


def _ramp_lag(chain: Chain, interval_s: float, about: float, size: float, before: int) -> float:
    """Lag behind a ramp of a hundredth of the size per sample: too slow for limits on rate or range to act."""
    count = min(4 * before + 64, MOST_SAMPLES)
    steep = size / 100.0
    x = np.asarray(about + steep * (np.arange(count) - count + 1), np.float64)
    out = _through(chain, x, interval_s)
    good = out.usable & (out.t >= 0.75 * count * interval_s)
    if not good.any():
        return math.nan
    ramp = about + steep * (out.t[good] / interval_s - count + 1)
    return float(np.mean(ramp - out.x[good])) / steep * interval_s


def _spike(chain: Chain, interval_s: float, about: float, size: float, before: int) -> float:
    x = np.full(3 * before + 32, about)
    x[before] += size
    out = _through(chain, x, interval_s)
    good = out.usable & (out.t >= (before - 0.5) * interval_s)
    return float(np.abs(out.x[good] - about).max()) / size if good.any() else 0.0


def _frequencies(chain: Chain, interval_s: float, about: float, size: float, before: int) -> Frequencies:
    highest = 0.5 / interval_s
    lowest = max(highest / 2000.0, PERIODS / ((MOST_SAMPLES - before) * interval_s))
    hz = np.geomspace(lowest, highest * 0.98, FREQUENCIES)
    gain = np.array([_gain(chain, interval_s, about, size, before, each) for each in hz.tolist()])
    below = np.flatnonzero(gain < LEFT)
    cutoff = math.nan
    if len(below) and below[0] > 0:
        a, b = int(below[0]) - 1, int(below[0])
        share = (gain[a] - LEFT) / (gain[a] - gain[b])
        cutoff = float(hz[a] * (hz[b] / hz[a]) ** share)
    return Frequencies(hz, gain, cutoff)


def _gain(chain: Chain, interval_s: float, about: float, size: float, before: int, hz: float) -> float:
    """Output amplitude at the same frequency, by least squares over the settled part."""
    count = before + min(max(int(PERIODS / (hz * interval_s)), PERIODS * SAMPLES_A_PERIOD * 4), MOST_SAMPLES - before)
    x = np.asarray(about + 0.5 * size * np.sin(2 * np.pi * hz * np.arange(count) * interval_s), np.float64)
    out = _through(chain, x, interval_s)
    good = out.usable & (out.t >= before * interval_s)
    if good.sum() < 8:
        return math.nan
    t, y = out.t[good], out.x[good] - about
    waves = np.column_stack([np.sin(2 * np.pi * hz * t), np.cos(2 * np.pi * hz * t), np.ones(len(t))])
    found = np.linalg.lstsq(waves, y, rcond=None)[0]
    return float(np.hypot(found[0], found[1])) / (0.5 * size)
