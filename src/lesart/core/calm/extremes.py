"""The highest and the lowest so far, of all time or of a day, as a thermometer keeps them beside its reading."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, Literal

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.periods import ANEW, Periods, lasting, periods_of, running
from lesart.core.units import Unit


@dataclass(frozen=True)
class Kept:
    """The latest time, the time of the first good sample, the period of the last, and the extreme of that period."""

    latest_s: float
    first_s: float = float("nan")
    period: float = 0.0
    value: float = float("nan")


@dataclass(frozen=True)
class Extreme(Passing):
    """y = the greatest or the least good x since a period began. A bad sample passes as it is and counts for nothing.

    A period holds its end, as those of totals do.
    """

    which: Literal["highest", "lowest"]
    periods: Periods
    memory_samples: int = 0
    lasting: None = None

    @property
    def kind(self) -> str:
        """Its name in the project file."""
        return f"{self.which} so far"

    def initial(self) -> Kept:
        """The state before the first sample."""
        return Kept(float("-inf"))

    def run(self, state: Kept, block: Block) -> tuple[Kept, Block]:
        """The same times and marks."""
        if not len(block):
            return state, block
        t = np.maximum.accumulate(np.maximum(block.t, state.latest_s))
        state, usable = replace(state, latest_s=float(t[-1])), block.usable
        if not usable.any():
            return state, block
        is_all = bool(usable.all())
        x, t = (block.x, t) if is_all else (block.x[usable], t[usable])
        if np.isnan(state.value):
            state = replace(state, first_s=float(t[0]), value=float(x[0]))
        number = self.periods.number(t - state.first_s)
        anew = np.diff(number, prepend=state.period) > 0
        kept = running(state.value, x, anew, np.maximum if self.which == "highest" else np.minimum)
        state = replace(state, period=float(number[-1]), value=float(kept[-1]))
        if is_all:
            return state, block.with_values(kept)
        out = block.x.copy()
        out[usable] = kept
        return state, block.with_values(out)


def _says(values: dict[str, Any], which: str) -> str:
    return f"{which} of {lasting(values['every'])}" if values["every"] else which


def _kind(which: Literal["highest", "lowest"], greatest: str) -> FilterKind:
    every, first = ANEW
    return FilterKind(
        name=f"{which} so far",
        computes=(
            f"y = the {greatest} of the good samples since the period began. With `every` above 0 the first period "
            "ends `first` after the first good sample, or `every` after it where `first` is 0, and the next ones last "
            "`every` each; a sample at the end of one belongs to it."
        ),
        title=f"keep the {which}",
        says=lambda values: _says(values, which),
        parameters=(
            replace(every, help="after which it begins again, such as 24 h; 0: never"),
            replace(first, help="from the first sample until it first begins again; 0: a whole period"),
        ),
        build=lambda values, unit: _build(values, unit, which),
        cost=lambda values, interval_s: Cost(0.0, 1.0, 8, 2.0) if values["every"] else Cost(0.0, 1.0, 4, 1.0),
    )


def _build(values: dict[str, Any], unit: Unit, which: Literal["highest", "lowest"]) -> Extreme:
    return Extreme(unit, which, periods_of(values))


HIGHEST = _kind("highest", "greatest")
LOWEST = _kind("lowest", "least")
