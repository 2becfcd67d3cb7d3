"""The exponential by time: a step response in seconds, however unevenly it is sampled."""

from __future__ import annotations

import math
from functools import cached_property
from typing import Any

from lesart.core.block import Floats
from lesart.core.calm import by_time
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.stepping import Stepping, settling_by
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class TimeConstant(Stepping):
    """y += (1 − e^(−dt ÷ time)) × (x − y), dt from sample to sample, so gaps and jitter are accounted for.

    Times that stand still or run back change nothing. ``interval_s`` only serves to say how long it settles.
    """

    time_s: float
    kind: str = "time constant"
    interval_s: float = 1.0

    @property
    def settling_samples(self) -> int:
        return settling_by(math.exp(-self.interval_s / self.time_s))

    @cached_property
    def parts(self) -> by_time.ByTime:
        """The form that runs over many samples at once."""
        return by_time.ByTime(self.time_s, self.interval_s)

    def begin(self, t: float, x: float) -> by_time.Stand:
        return by_time.begin(t, x)

    def advance(self, state: by_time.Stand, t: Floats, x: Floats) -> tuple[by_time.Stand, Floats]:
        return by_time.advance(self.parts, state, t, x)


def _time_cost(values: dict[str, Any], interval_s: float) -> Cost:
    weight = -math.expm1(-interval_s / values["time"]) if interval_s > 0 else 1.0
    return Cost((1 - weight) / weight, math.sqrt(weight / (2 - weight)), 8, 7.0)


TIME_CONSTANT = FilterKind(
    name="time constant",
    computes=(
        "The first good sample stands for all before it: y = x. Then y ← y + (1 − e^(−dt ÷ time)) · (x − y), dt from "
        "the good sample before, 0 if time stands still or runs back. Marked settling as an exponential of "
        "weight 1 − e^(−interval ÷ time) would be."
    ),
    averages=True,
    rate="interval",
    title="exponential by time",
    says=lambda values: f"time {values['time']:g} s",
    parameters=(
        Parameter(
            "time",
            "time",
            "quantity",
            "after which 63 % of a step has come through",
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
