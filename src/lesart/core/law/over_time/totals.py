"""Totals: a rate over time, amounts one by one, and the rise of a running counter."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.periods import ANEW, Periods, lasting, periods_of, running
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, parse_unit, product, ratio_symbol

SECOND, PER_HOUR = parse_unit("s"), parse_unit("1/h")
AMOUNTS = ("mAh", "Ah", "Wh", "kWh", "L", "mm", "m", "ct", "turn", "kg", "bit")
"""Units for totals; a new total starts with one of them where the channel states none."""


@dataclass(frozen=True)
class Come:
    """State of a total: the time of the first sample, and time and value of the last; ``period`` counts from 0."""

    first_s: float
    t: float
    x: float
    period: float
    total: float


def _before(state: Come, t: Floats, x: Floats) -> tuple[Floats, Floats]:
    """Time and value of the sample before each."""
    return np.concatenate([[state.t], t[:-1]]), np.concatenate([[state.x], x[:-1]])


def _periods(periods: Periods, state: Come, t: Floats) -> tuple[Floats, Bools]:
    """The period of each sample, and whether it is the first in it."""
    number = periods.number(t - state.first_s)
    return number, np.diff(number, prepend=state.period) > 0


def _summed(state: Come, t: Floats, x: Floats, amounts: Floats, number: Floats, anew: Bools) -> tuple[Come, Floats]:
    """The total at each sample; the first amount in a period begins it."""
    sums = running(state.total, amounts, anew)
    return Come(state.first_s, float(t[-1]), float(x[-1]), float(number[-1]), float(sums[-1])), sums


@dataclass(frozen=True)
class _Total:
    """What all totals share: the first period begins with ``begin``, in ``unit_out``, each later one with 0."""

    unit_in: Unit
    begin: float
    periods: Periods

    @property
    def unit_out(self) -> Unit:
        return self.unit_in

    @property
    def adds_up(self) -> bool:
        return True

    @property
    def slope(self) -> float:
        return 1.0

    @property
    def says(self) -> str:
        return self.periods.says

    def at_rest(self, x: Floats) -> Floats:
        return self._alone + x * self.slope

    def inverse(self, y: float) -> float:
        return (y - self._alone) / self.slope

    @property
    def _alone(self) -> float:
        return 0.0 if self.periods.every_s else self.begin

    def _begun(self, t: Floats, x: float) -> Come:
        """The state before the first sample, with ``x`` as the value before it."""
        return Come(float(t[0]), float(t[0]), x, 0.0, self.begin)


@dataclass(frozen=True)
class OverTime(_Total):
    """total = begin + Σ (x before + x) ÷ 2 × Δt, in ``amount``. Source: the trapezoidal rule.

    ``scale`` converts ``unit_in`` × s to ``amount``. Between two samples further apart than ``longest_gap_s`` nothing
    is counted; 0 bridges any gap. Where a period ends between two samples the trapezoid is cut there.
    """

    amount: Unit
    scale: float
    longest_gap_s: float

    @property
    def unit_out(self) -> Unit:
        return self.amount

    @property
    def slope(self) -> float:
        return self.periods.alone_s * self.scale

    @property
    def by_hand(self) -> str:
        return f"in {lasting(self.periods.alone_s)}"

    def advance(self, state: Come | None, t: Floats, x: Floats) -> tuple[Come, Floats]:
        state = state or self._begun(t, float(x[0]))
        t0, x0 = _before(state, t, x)
        took = t - t0
        mean = 0.5 * (x0 + x)
        number, anew = _periods(self.periods, state, t)
        if self.periods.every_s:
            since = (t - state.first_s) - self.periods.begin_s(number)
            own = np.where(anew, np.clip(since, 0.0, took), took)
            # Only the part of the trapezoid in the new period: its mean is nearer to the later value.
            share = np.divide(own, took, out=np.zeros(len(t)), where=took > 0)
            mean = np.where(anew, x - 0.5 * (x - x0) * share, mean)
        else:
            own = took
        amounts = own * mean * self.scale
        if self.longest_gap_s:
            amounts = np.where(took > self.longest_gap_s, 0.0, amounts)
        return _summed(state, t, x, amounts, number, anew)


@dataclass(frozen=True)
class Sum(_Total):
    """total = begin + Σ x, each good sample once. Source: definition."""

    @property
    def by_hand(self) -> str:
        return "once"

    def advance(self, state: Come | None, t: Floats, x: Floats) -> tuple[Come, Floats]:
        state = state or self._begun(t, 0.0)
        return _summed(state, t, x, x, *_periods(self.periods, state, t))


@dataclass(frozen=True)
class Rise(_Total):
    """total = begin + Σ rise of the counter from sample to sample. Source: definition.

    ``full`` is where it wraps to 0; 0 for never. For a counter that counts ``up`` a fall is a wrap, if that makes the
    rise less than half of ``full``, or else a restart at 0. One that counts both ways went the shorter way round.
    """

    full: float
    counts: Literal["up", "both ways"]

    @property
    def by_hand(self) -> str:
        return "from 0"

    def advance(self, state: Come | None, t: Floats, x: Floats) -> tuple[Come, Floats]:
        state = state or self._begun(t, float(x[0]))
        rises = self.rises(_before(state, t, x)[1], x)
        return _summed(state, t, x, rises, *_periods(self.periods, state, t))

    def rises(self, before: Floats, x: Floats) -> Floats:
        """The rise from each value to the next."""
        rose = x - before
        if self.counts == "both ways":
            return rose - self.full * np.rint(rose / self.full) if self.full else rose
        round_it = rose + self.full
        is_full = (round_it >= 0) & (round_it < 0.5 * self.full)
        return np.where(rose >= 0, rose, np.where(is_full, round_it, x))


def _over_time(values: dict[str, Any]) -> OverTime:
    unit: Unit = values["unit"]
    begin: Quantity = values["begin"]
    if unit.is_temperature:
        raise ValueError(f"a temperature in {unit} has no zero to add up from; subtract a base from it first")
    dimension, scale = product(unit, SECOND)
    if begin.unit.dimension != dimension or begin.unit.is_temperature:
        raise ValueError(f"begin must be an amount: {unit} adds up to {amount_symbol(unit)}, not to {begin.unit}")
    per_second = float(scale / begin.unit.scale)
    return OverTime(unit, float(begin.value), periods_of(values), begin.unit, per_second, values["longest_gap"])


def amount_symbol(unit: Unit) -> str:
    """The unit that a rate adds up to over time, as people write it: mAh for mA, L for L/min, turn for rpm."""
    dimension = product(unit, SECOND)[0]
    whole, _, per = unit.symbol.rpartition("/")
    usual = [whole] if per in ("s", "min", "h", "d") else [f"{unit.symbol}h"] if unit.root in ("A", "W") else []
    found = [each for each in (*usual, *AMOUNTS) if each and parse_unit(each).dimension == dimension]
    return found[0] if found else ratio_symbol(unit, PER_HOUR)


def _sum(values: dict[str, Any]) -> Sum:
    begin = _amount(values["begin"])
    return Sum(begin.unit, float(begin.value), periods_of(values))


def _rise(values: dict[str, Any]) -> Rise:
    begin = _amount(values["begin"])
    return Rise(begin.unit, float(begin.value), periods_of(values), values["full"], values["counts"])


def _amount(begin: Quantity) -> Quantity:
    if begin.unit.is_temperature:
        raise ValueError(f"temperatures in {begin.unit} do not add up; differences in {begin.unit.step} do")
    return begin


def _start_over_time(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    fits = unit_out.dimension == product(unit_in, SECOND)[0] and not unit_out.is_temperature
    return {"unit": unit_in.step.symbol, "begin": f"0 {unit_out.symbol if fits else amount_symbol(unit_in.step)}"}


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    unit = unit_out if unit_out.same_dimension(unit_in) else unit_in
    return {"begin": f"0 {unit.step}".removesuffix(" 1")}


TOTAL = LawKind(
    name="total over time",
    title="a rate added up over time",
    formula="total = begin + Σ (x before + x) ÷ 2 × time between them",
    source="the trapezoidal rule",
    example="1.5 A, kept for an hour → 1.5 Ah",
    parameters=(
        Parameter("unit", "rate in", "unit", "unit of what comes in", "A"),
        Parameter("begin", "begins at", "any quantity", "in the unit of the total, e.g. 0 mAh"),
        *ANEW,
        Parameter(
            "longest_gap",
            "longest gap",
            "quantity",
            "between two samples; over a longer one nothing is counted; 0: any is bridged by a straight line",
            "0 s",
            unit="s",
            lowest=0,
        ),
    ),
    build=_over_time,
    start=_start_over_time,
)
SUM = LawKind(
    name="sum",
    title="amounts added up, one a sample",
    formula="total = begin + Σ x",
    source="definition",
    example="0.2 mm, begun at 4.6 mm → 4.8 mm",
    parameters=(
        Parameter("begin", "begins at", "any quantity", "in the unit of what comes in, e.g. 0 mm"),
        *ANEW,
    ),
    build=_sum,
    start=_start,
)
RISE = LawKind(
    name="counter rise",
    title="what a running counter has risen by",
    formula="total = begin + Σ (x − x before), where it began at 0 again what it says, or what is left to full as well",
    source="definition",
    example="12 ct, begun at 30 ct → 42 ct",
    parameters=(
        Parameter("begin", "begins at", "any quantity", "in the unit of the counter, e.g. 0 ct"),
        Parameter(
            "full",
            "full at",
            "quantity",
            "value at which it is 0 again, in the unit it begins in: 65536 for 16 bits; 0: never",
            "0",
            lowest=0,
            usual=("256", "65536", "4294967296"),
        ),
        Parameter(
            "counts", "counts", "choice", "a wheel may turn back, a meter does not", "up", choices=("up", "both ways")
        ),
        *ANEW,
    ),
    build=_rise,
    start=_start,
)
