"""The exponential by weight: each new sample has a fixed weight, and everything before it the rest."""

from __future__ import annotations

import math
from functools import cached_property

from lesart.core.block import Floats
from lesart.core.calm import poles
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.stepping import Stepping, settling_by
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class Exponential(Stepping):
    """y += weight × (x − y). Source: textbooks; noise × √(w ÷ (2 − w)), delay (1 − w) ÷ w samples."""

    weight: float
    kind: str = "exponential"

    @property
    def settling_samples(self) -> int:
        return settling_by(1.0 - self.weight)

    @cached_property
    def parts(self) -> poles.Poles:
        """One pole: the share that is left from sample to sample."""
        return poles.Poles(0.0, False, (complex(1.0 - self.weight),), (complex(self.weight),))

    def begin(self, t: float, x: float) -> poles.Stand:
        return poles.begin(self.parts, x)

    def advance(self, state: poles.Stand, t: Floats, x: Floats) -> tuple[poles.Stand, Floats]:
        return poles.advance(self.parts, state, x)


EXPONENTIAL = FilterKind(
    name="exponential",
    computes=(
        "The first good sample stands for all before it: y = x. Then y ← y + weight · (x − y). Marked settling until "
        "(1 − weight) to the count of samples is below 0.05."
    ),
    averages=True,
    title="exponential by weight",
    says=lambda values: f"exponential {values['weight']:g}",
    parameters=(
        Parameter(
            "weight",
            "weight",
            "quantity",
            "of the newest sample; 1 does not smooth at all",
            "0.1",
            lowest=1e-6,
            highest=1,
        ),
    ),
    build=lambda values, unit: Exponential(unit, values["weight"]),
    cost=lambda values, interval_s: Cost(
        (1 - values["weight"]) / values["weight"], math.sqrt(values["weight"] / (2 - values["weight"])), 4, 3.0
    ),
)
