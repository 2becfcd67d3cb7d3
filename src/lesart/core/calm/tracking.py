"""The tracking filter: a level and its slope."""

from __future__ import annotations

import cmath
import math
from typing import Any

from lesart.core.block import Floats
from lesart.core.calm import level_and_slope
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.stepping import Stepping, settling_by
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit


@dataclass(frozen=True)
class Tracking(Stepping):
    """A level and its slope, both corrected by each sample: a ramp is followed without lag.

    level += slope·dt, then by ``level_weight`` of the miss; slope by ``slope_weight`` ÷ dt of it. Source: textbooks,
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
        return settling_by(max(root, math.sqrt(max(1.0 - self.level_weight, 0.0))))

    def begin(self, t: float, x: float) -> level_and_slope.Stand:
        return level_and_slope.begin(t, x)

    def advance(self, state: level_and_slope.Stand, t: Floats, x: Floats) -> tuple[level_and_slope.Stand, Floats]:
        return level_and_slope.advance(self.level_weight, self.slope_weight, state, t, x)


def _weights(values: dict[str, Any], unit: Unit) -> Tracking:
    a, b = values["level"], values["slope"]
    if not 0 < b < 4 - 2 * a:
        raise ValueError(f"slope must be above 0 and below {4 - 2 * a:g}, else it swings ever wider")
    return Tracking(unit, a, b)


def _tracking_cost(values: dict[str, Any], interval_s: float) -> Cost:
    a, b = values["level"], values["slope"]
    return Cost(0.0, math.sqrt((2 * a * a + b * (2 - 3 * a)) / (a * (4 - 2 * a - b))), 12, 10.0)


TRACKING = FilterKind(
    name="tracking",
    computes=(
        "The first good sample stands for all before it: level = x, slope = 0. Then with dt from the good sample "
        "before: level ← level + slope · dt, miss = x − level, level ← level + level weight · miss, slope ← "
        "slope + slope weight · miss ÷ dt; if time stands still or runs back nothing changes. y = level. Marked "
        "settling until the slower root of z² − (2 − a − b)z + (1 − a), a and b being the weights, to the "
        "count of samples is below 0.05."
    ),
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
