"""How fast a value changes: its rise over a stated time, or from sample to sample."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.periods import lasting
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit, product, ratio_symbol

SAME_TIME = 1e-6
"""Of the time span: a sample this close to its beginning is at it, however times were rounded."""


@dataclass(frozen=True, eq=False)
class Recent:
    """The samples that a later one may be compared with."""

    t: Floats
    x: Floats


@dataclass(frozen=True)
class Change:
    """(x − x then) ÷ (t − t then), in ``unit_out``, against the newest sample that is at least ``over_s`` older.

    What it says is of the while up to now, and so it is not late. 0 s: against the one before. Before there is one
    there is no value. ``scale`` from ``unit_in`` ÷ s to ``unit_out``.
    Source: the difference quotient.
    """

    unit_in: Unit
    unit_out: Unit
    scale: float
    over_s: float
    by_hand: str = "standing still"
    adds_up: bool = False

    @property
    def slope(self) -> float:
        return self.scale / self.over_s if self.over_s else 0.0

    @property
    def says(self) -> str:
        return f"over {lasting(self.over_s)}" if self.over_s else "since the last"

    def advance(self, state: Recent | None, t: Floats, x: Floats) -> tuple[Recent, Floats]:
        before = len(state.t) if state is not None else 0
        if state is not None:
            t, x = np.concatenate([state.t, t]), np.concatenate([state.x, x])
        new = np.arange(before, len(t))
        if self.over_s:
            then = np.searchsorted(t, t[before:] - self.over_s * (1.0 - SAME_TIME), side="right") - 1
        else:
            then = new - 1
        there = then >= 0
        at = np.maximum(then, 0)
        took = np.where(there, t[before:] - t[at], 0.0)
        rose = x[before:] - x[at]
        y = np.divide(rose, took, out=np.full(len(new), np.nan), where=took > 0) * self.scale
        keep = int(at[-1])
        return Recent(t[keep:].copy(), x[keep:].copy()), y

    def at_rest(self, x: Floats) -> Floats:
        return 0.0 * x

    def inverse(self, y: float) -> float:
        return float("nan")


def _change(values: dict[str, Any]) -> Change:
    unit: Unit = values["unit"]
    rate = parse_unit(rate_symbol(unit, values["per"]))
    scale = product(unit, parse_unit("s"), -1)[1] / rate.scale
    return Change(unit, rate, float(scale), values["over"])


def rate_symbol(unit: Unit, per: str) -> str:
    """The symbol of a unit per the time in ``1/min``: hPa/h, ct/s, Δ°C/min."""
    return ratio_symbol(unit.step, parse_unit(per.removeprefix("1/")))


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    """Start values: per hour or minute where the wanted unit has that."""
    for per in ("1/h", "1/min"):
        if unit_out.symbol.endswith(per[1:]):
            return {"unit": unit_in.symbol, "per": per}
    return {"unit": unit_in.symbol}


CHANGE = LawKind(
    name="change over time",
    title="how fast a value changes",
    formula="rate = (x − x then) ÷ time since then",
    source="the difference quotient",
    example="2 L, within 10 s → 12 L/min",
    parameters=(
        Parameter("unit", "value in", "unit", "unit of what comes in", "ct"),
        Parameter(
            "over",
            "over",
            "quantity",
            "how long ago then is: longer is steadier and later; 0: the sample before",
            "10 s",
            unit="s",
            lowest=0,
            highest=31 * 86_400,
        ),
        Parameter("per", "per", "choice", "of the rate", "1/s", choices=("1/s", "1/min", "1/h")),
    ),
    build=_change,
    start=_start,
)
