"""Filters that go from sample to sample: what they share, and the exponential, low-pass and tracking ones.

Sample by sample in plain floats, which costs a third of a microsecond each and is the same to the bit wherever a block
is cut. A scan of arrays would be faster, and its rounding would hang on where it was cut, unless it were aligned to the
count of samples.
"""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit

SETTLED = 0.05
"""A filter has settled when less than this part of its first sample is left in it."""
MOST_SETTLING = 20_000
LEAST_SHARE = 1e-6
"""Of the sample rate that a cut-off can be: below it floats do not hold the coefficients apart."""


@dataclass(frozen=True)
class Stepping(Passing):
    """Good samples go through ``step`` one by one; bad ones pass with their mark and leave the state as it was.

    State: how many good samples have come, up to ``settling_samples``, and the filter's own numbers; none at first.
    """

    @property
    def settling_samples(self) -> int:
        """Good samples until its output is its own, and before which it is marked SETTLING."""
        raise NotImplementedError

    @property
    def memory_samples(self) -> int:
        """After so many equal samples nothing of before is left that counts."""
        return self.settling_samples

    def initial(self) -> tuple[int, Any]:
        """Nothing has come."""
        return 0, None

    def start(self, t: float, x: float) -> Any:
        """The state in which ``x`` has always been."""
        raise NotImplementedError

    def step(self, state: Any, t: float, x: float) -> tuple[Any, float]:
        """The state and the output after one more good sample."""
        raise NotImplementedError

    def run(self, state: tuple[int, Any], block: Block) -> tuple[tuple[int, Any], Block]:
        """The filtered block."""
        usable = block.usable
        times, values = block.t[usable].tolist(), block.x[usable].tolist()
        if not values:
            return state, block
        count, inner = state
        if inner is None:
            inner = self.start(times[0], values[0])
        out, step = [], self.step
        for t, x in zip(times, values, strict=True):
            inner, y = step(inner, t, x)
            out.append(y)
        settling = min(max(self.settling_samples - count, 0), len(out))
        x_out, mark = block.x.copy(), block.mark
        x_out[usable] = out
        if settling:
            mark = mark.copy()
            mark[np.flatnonzero(usable)[:settling]] |= np.uint8(Mark.SETTLING)
        return (min(count + len(out), self.settling_samples), inner), block.with_values(x_out, mark)


def _settling(left_a_sample: float) -> int:
    """Samples until ``left_a_sample`` to that power is less than ``SETTLED``."""
    if not 0 < left_a_sample < 1:
        return 0
    return min(math.ceil(math.log(SETTLED) / math.log(left_a_sample)), MOST_SETTLING)


@dataclass(frozen=True)
class Exponential(Stepping):
    """y += weight × (x − y). Source: textbooks; noise × √(w ÷ (2 − w)), delay (1 − w) ÷ w samples."""

    weight: float
    kind: str = "exponential"

    @property
    def settling_samples(self) -> int:
        return _settling(1.0 - self.weight)

    def start(self, t: float, x: float) -> float:
        return x

    def step(self, state: float, t: float, x: float) -> tuple[float, float]:
        state += self.weight * (x - state)
        return state, state


@dataclass(frozen=True)
class TimeConstant(Stepping):
    """y += (1 − e^(−dt ÷ time)) × (x − y), dt from sample to sample, so gaps and jitter count as they are.

    Times that stand still or run back change nothing. ``interval_s`` is for how long it settles.
    """

    time_s: float
    kind: str = "time constant"
    interval_s: float = 1.0

    @property
    def settling_samples(self) -> int:
        return _settling(math.exp(-self.interval_s / self.time_s))

    def start(self, t: float, x: float) -> tuple[float, float]:
        return t, x

    def step(self, state: tuple[float, float], t: float, x: float) -> tuple[tuple[float, float], float]:
        before, y = state
        if t > before:
            y += -math.expm1((before - t) / self.time_s) * (x - y)
            before = t
        return (before, y), y


@dataclass(frozen=True)
class LowPass(Stepping):
    """Butterworth low-pass of order 1 to 4 at ``cutoff_hz``, for samples that come at ``rate_hz``.

    Sections of second order from the analog poles by the bilinear transform, the cut-off prewarped; each begins as if
    its first sample had always been. Source: any textbook of digital filters.
    """

    order: int
    cutoff_hz: float
    rate_hz: float
    kind: str = "low-pass"

    @cached_property
    def sections(self) -> tuple[tuple[float, float, float, float, float], ...]:
        """b0, b1, b2, a1, a2 of each, a0 being 1."""
        return _butterworth(self.order, self.cutoff_hz / self.rate_hz)

    @property
    def settling_samples(self) -> int:
        return _settled_after(self.order, self.cutoff_hz / self.rate_hz)

    def start(self, t: float, x: float) -> tuple[tuple[float, float], ...]:
        state = []
        for b0, _, b2, _, a2 in self.sections:
            # Of the transposed form, at rest with gain 1: s1 = y − b0·x, s2 = b2·x − a2·y.
            state.append((x - b0 * x, b2 * x - a2 * x))
        return tuple(state)

    def step(
        self, state: tuple[tuple[float, float], ...], t: float, x: float
    ) -> tuple[tuple[tuple[float, float], ...], float]:
        after = []
        for (s1, s2), (b0, b1, b2, a1, a2) in zip(state, self.sections, strict=True):
            y = b0 * x + s1
            after.append((b1 * x - a1 * y + s2, b2 * x - a2 * y))
            x = y
        return tuple(after), x


def _butterworth(order: int, share: float) -> tuple[tuple[float, float, float, float, float], ...]:
    """Sections for a cut-off of ``share`` of the sample rate, 0 to 0.5."""
    warped = 2.0 * math.tan(math.pi * share)
    sections = []
    for index in range(order // 2):
        pole = warped * cmath.exp(1j * math.pi * (2 * index + order + 1) / (2 * order))
        z = (2.0 + pole) / (2.0 - pole)
        a1, a2 = -2.0 * z.real, abs(z) ** 2
        b = (1.0 + a1 + a2) / 4.0
        sections.append((b, 2.0 * b, b, a1, a2))
    if order % 2:
        z1 = (2.0 - warped) / (2.0 + warped)
        b = (1.0 - z1) / 2.0
        sections.append((b, b, 0.0, -z1, 0.0))
    return tuple(sections)


@lru_cache(maxsize=64)
def _settled_after(order: int, share: float) -> int:
    """Samples until a step is within ``SETTLED`` of 1 and stays there for a while; at most ``MOST_SETTLING``."""
    sections = _butterworth(order, share)
    state = [[0.0, 0.0] for _ in sections]
    # At rest within a fraction of the slowest pole's time; a ringing one crosses 1 and comes back.
    patience = max(int(0.5 / share), 4)
    count = quiet = 0
    while quiet < patience and count < MOST_SETTLING:
        x = 1.0
        for memory, (b0, b1, b2, a1, a2) in zip(state, sections, strict=True):
            y = b0 * x + memory[0]
            memory[0], memory[1] = b1 * x - a1 * y + memory[1], b2 * x - a2 * y
            x = y
        count += 1
        quiet = quiet + 1 if abs(x - 1.0) < SETTLED else 0
    return count


def _lowpass_cost(values: dict[str, Any], interval_s: float) -> Cost:
    """Delay at low frequency and noise factor, both in closed form.

    Delay: the slope of the phase at 0, (Σn·b ÷ Σb) − (Σn·a ÷ Σa) summed over the sections. Noise: √(C·P·Cᵀ + D²) where
    P = A·P·Aᵀ + B·Bᵀ is the covariance of the state under white noise. Source: textbooks of digital filters and of
    linear systems.
    """
    sections = _butterworth(values["order"], values["cutoff"] / values["rate"])
    delay = sum((b1 + 2 * b2) / (b0 + b1 + b2) - (a1 + 2 * a2) / (1 + a1 + a2) for b0, b1, b2, a1, a2 in sections)
    return Cost(delay, _noise_of(sections), 8 * len(sections), 9.0 * len(sections))


def _noise_of(sections: tuple[tuple[float, float, float, float, float], ...]) -> float:
    """Of a cascade in the transposed form, on white noise."""
    size = 2 * len(sections)
    a, b, c, d = np.zeros((size, size)), np.zeros(size), np.zeros(size), 1.0
    for place, (b0, b1, b2, a1, a2) in enumerate(sections):
        # What comes into the section is c·state + d·input of those before it; what goes out is that times b0 and s1.
        at, into, through = 2 * place, c.copy(), d
        c, d = b0 * into, b0 * through
        c[at] += 1.0
        for row, (b_own, a_own) in enumerate(((b1, a1), (b2, a2))):
            a[at + row] = b_own * into - a_own * c
            b[at + row] = b_own * through - a_own * d
        a[at, at + 1] += 1.0
    covariance = np.linalg.solve(np.eye(size * size) - np.kron(a, a), np.outer(b, b).ravel()).reshape(size, size)
    return math.sqrt(max(float(c @ covariance @ c) + d * d, 0.0))


@dataclass(frozen=True)
class Tracking(Stepping):
    """A level and its slope, both corrected by what the next sample shows: a ramp is followed without lag.

    level += slope·dt, then by ``level_weight`` of the miss; slope by ``slope_weight`` of it ÷ dt. Source: textbooks,
    as the α–β filter; its noise is √((2α² + β(2 − 3α)) ÷ (α(4 − 2α − β))).
    """

    level_weight: float
    slope_weight: float
    kind: str = "tracking"

    @property
    def settling_samples(self) -> int:
        # The slower root of z² − (2 − α − β)z + (1 − α).
        half = (2.0 - self.level_weight - self.slope_weight) / 2.0
        root = abs(half + cmath.sqrt(half * half - (1.0 - self.level_weight)))
        return _settling(max(root, math.sqrt(max(1.0 - self.level_weight, 0.0))))

    def start(self, t: float, x: float) -> tuple[float, float, float]:
        return t, x, 0.0

    def step(self, state: tuple[float, float, float], t: float, x: float) -> tuple[tuple[float, float, float], float]:
        before, level, slope = state
        dt = t - before
        if not dt > 0:
            return state, level
        level += slope * dt
        missed = x - level
        level += self.level_weight * missed
        slope += self.slope_weight * missed / dt
        return (t, level, slope), level


def _weights(values: dict[str, Any], unit: Unit) -> Tracking:
    a, b = values["level"], values["slope"]
    if not 0 < b < 4 - 2 * a:
        raise ValueError(f"slope must be above 0 and below {4 - 2 * a:g}, else it swings ever wider")
    return Tracking(unit, a, b)


def _tracking_cost(values: dict[str, Any], interval_s: float) -> Cost:
    a, b = values["level"], values["slope"]
    return Cost(0.0, math.sqrt((2 * a * a + b * (2 - 3 * a)) / (a * (4 - 2 * a - b))), 12, 10.0)


def _lowpass(values: dict[str, Any], unit: Unit) -> LowPass:
    if not values["cutoff"] < values["rate"] / 2:
        raise ValueError(f"cut-off must be below half the rate, {values['rate'] / 2:g} Hz, not {values['cutoff']:g} Hz")
    if values["cutoff"] < LEAST_SHARE * values["rate"]:
        least = values["rate"] * LEAST_SHARE
        raise ValueError(
            f"cut-off must be {least:g} Hz or more at this rate, not {values['cutoff']:g} Hz; decimate first"
        )
    return LowPass(unit, values["order"], values["cutoff"], values["rate"])


def _time_cost(values: dict[str, Any], interval_s: float) -> Cost:
    weight = -math.expm1(-interval_s / values["time"]) if interval_s > 0 else 1.0
    return Cost((1 - weight) / weight, math.sqrt(weight / (2 - weight)), 8, 7.0)


_POSITIVE = {"lowest": 0.0, "above": True}

EXPONENTIAL = FilterKind(
    name="exponential",
    averages=True,
    title="exponential by weight",
    says=lambda values: f"exponential {values['weight']:g}",
    parameters=(
        Parameter("weight", "weight", "quantity", "of the newest sample; 1 keeps none", "0.1", lowest=1e-6, highest=1),
    ),
    build=lambda values, unit: Exponential(unit, values["weight"]),
    cost=lambda values, interval_s: Cost(
        (1 - values["weight"]) / values["weight"], math.sqrt(values["weight"] / (2 - values["weight"])), 4, 3.0
    ),
)
TIME_CONSTANT = FilterKind(
    name="time constant",
    averages=True,
    rate="interval",
    title="exponential by time",
    says=lambda values: f"time {values['time']:g} s",
    parameters=(
        Parameter(
            "time",
            "time",
            "quantity",
            "after which 63 % of a step have come through",
            "1 s",
            unit="s",
            lowest=0,
            above=True,
            highest=86_400,
        ),
        Parameter(
            "interval",
            "interval",
            "quantity",
            "from sample to sample, for how long it settles",
            "1 s",
            unit="s",
            lowest=0,
            above=True,
        ),
    ),
    build=lambda values, unit: TimeConstant(unit, values["time"], interval_s=values["interval"]),
    cost=_time_cost,
    start=lambda unit, interval_s: (
        {
            "interval": f"{interval_s:.6g} s",
            "time": f"{10 * interval_s:.3g} s",
        }
        if interval_s > 0
        else {}
    ),
)
LOW_PASS = FilterKind(
    name="low-pass",
    averages=True,
    rate="rate",
    title="low-pass by order and cut-off",
    says=lambda values: f"low-pass {values['cutoff']:g} Hz",
    parameters=(
        Parameter("order", "order", "integer", "how steep", 2, lowest=1, highest=4),
        Parameter(
            "cutoff", "cut-off", "quantity", "frequency of which 71 % are left", "1 Hz", unit="Hz", lowest=0, above=True
        ),
        Parameter("rate", "rate", "quantity", "at which samples come", "10 Hz", unit="Hz", lowest=0, above=True),
    ),
    build=_lowpass,
    cost=_lowpass_cost,
    in_turn=("cutoff", "order", "rate"),
    start=lambda unit, interval_s: (
        {
            "rate": f"{1 / interval_s:.6g} Hz",
            "cutoff": f"{0.1 / interval_s:.3g} Hz",
        }
        if interval_s > 0
        else {}
    ),
)
TRACKING = FilterKind(
    name="tracking",
    averages=True,
    title="level and slope, followed",
    says=lambda values: f"tracking {values['level']:g}",
    parameters=(
        Parameter(
            "level", "level weight", "quantity", "of a miss, for the level", "0.2", lowest=0, above=True, highest=1
        ),
        Parameter(
            "slope", "slope weight", "quantity", "of a miss, for the slope", "0.02", lowest=0, above=True, highest=2
        ),
    ),
    build=_weights,
    cost=_tracking_cost,
)
