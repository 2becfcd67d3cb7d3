"""Pulses that firmware does not see because it is busy, and what counting in a gate cannot resolve."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools
from lesart.core.dataclass_later import dataclass

Times = npt.NDArray[np.int64]


def missed(rise_ns: Times, fall_ns: Times, busy: Sequence[tuple[int, int]]) -> Bools:
    """Which pulses a loop misses that polls the pin whenever it is not busy: those that rise and fall within one busy
    span. Times and the result have shape (pulses,); spans do not overlap and are in order."""
    if not len(busy):
        return np.zeros(len(rise_ns), bool)
    starts, ends = np.array(busy, np.int64).T
    place = np.searchsorted(starts, rise_ns, side="right") - 1
    within: Bools = fall_ns <= ends[np.maximum(place, 0)]
    return (place >= 0) & within


@dataclass(frozen=True)
class Counting:
    """Pulses counted in a gate, ``marks`` per turn; ``tick_s`` is a timer's, where intervals are timed instead."""

    gate_s: float
    marks: float
    tick_s: float = 1e-6

    @property
    def step_per_min(self) -> float:
        """Turns per minute per pulse: 60 ÷ (marks × gate)."""
        return 60.0 / (self.marks * self.gate_s)

    def errors_per_min(self, turns_per_min: float) -> tuple[float, float]:
        """Mean and worst error over all moments at which the gate may open.

        With x pulses in a gate on average, and q what x has beyond a whole number, it counts one more in q of all cases
        and is 1 − q off then, else q: on average 2·q·(1 − q).
        """
        x = turns_per_min / self.step_per_min
        q = x - math.floor(x)
        worst = max(q, 1.0 - q) if q else 0.0
        return 2.0 * q * (1.0 - q) * self.step_per_min, worst * self.step_per_min

    def interval_error_per_min(self, turns_per_min: float) -> float:
        """Error of one interval timed in ticks, one tick at most: rate² × marks × tick."""
        rate_hz = turns_per_min / 60.0 * self.marks
        return turns_per_min * rate_hz * self.tick_s

    @property
    def crossing_per_min(self) -> float:
        """Below this rate timing an interval is finer, above it counting is: where pulses × tick = 1 ÷ (pulses ×
        gate)."""
        return 60.0 / (self.marks * math.sqrt(self.gate_s * self.tick_s))
