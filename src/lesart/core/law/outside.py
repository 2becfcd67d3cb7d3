"""Impossible readings: outside a channel's stated range, below absolute zero, or in a unit nobody meant."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.law.slips import Habit, meant_instead, unlikely
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.quantity import clock, counted_of, format_quantity, plain_number
from lesart.core.ranked import median
from lesart.core.step import Step
from lesart.core.units import Unit, convert, parse_unit

KELVIN = parse_unit("K")
MOST_OUTSIDE = 0.01
"""Above this share of readings outside the range it is a fault: not one bad sample, but a wrong range or law."""
LEAST_MOVED = 0.005
"""Of the channel's range: an impossible reading must move a result by this much to be worth a note."""
SHOWN, MARKED = "shown", "marked"
"""What happens to a reading outside: it is shown as it is, or marked and not trusted."""


@dataclass(frozen=True)
class Ranged:
    """A channel as its readings are compared with its range, both in ``unit``.

    ``key`` is that of its tables, ``named`` all names of it and of its column.

    ``before`` are readings before its filters, ``calm`` those after them, ``filtered`` runs the filters on other
    readings. ``typed_unit`` is the key of its raw unit, for a channel without a law: if a unit is wrong, it is that
    one.
    """

    name: str
    key: Key
    unit: Unit
    lowest: float
    highest: float
    before: Block
    calm: Block
    filtered: Callable[[Block], Block]
    named: str = ""
    typed_unit: Key | None = None
    outside: str = SHOWN
    goes_on: bool = False
    """True where it depends on all that came before, as a total does: its range then follows from how long it has
    run."""


def inspect_range(seen: Ranged) -> list[Note]:
    """Notes on impossible readings."""
    found = _below_zero(seen)
    if found:
        return found
    outside = _outside(seen)
    return outside or _unlikely(seen)


def _good(block: Block) -> Floats:
    return block.x[block.usable]


def _below_zero(seen: Ranged) -> list[Note]:
    """A note on temperatures below absolute zero, whatever the channel's range says."""
    if not seen.unit.is_temperature:
        return []
    kelvin = convert(_good(seen.before), seen.unit, KELVIN)
    cold = np.flatnonzero(kelvin < -1e-6)
    if not len(cold):
        return []
    zero = format_quantity(convert(0.0, KELVIN, seen.unit), seen.unit)
    worst = format_quantity(float(_good(seen.before).min()), seen.unit, 4)
    return [
        Note(
            FAULT,
            Step.LAW,
            seen.name,
            f"{seen.name}: {_share(len(cold), len(kelvin))} below absolute zero, {zero}, down to {worst}.",
            figure=float(len(cold)),
            unit="readings",
            limit=0.0,
            remedy="check the units of its laws, and what the sensor says when it fails",
        )
    ]


def _beyond(seen: Ranged, block: Block) -> npt.NDArray[np.intp]:
    """Indices of the samples of a block that passed for good and lie outside."""
    return np.flatnonzero(block.usable & ~((block.x >= seen.lowest) & (block.x <= seen.highest)))


def _outside(seen: Ranged) -> list[Note]:
    marked = seen.outside == MARKED
    block = seen.before if marked else seen.calm
    away = _beyond(seen, block)
    total = int(block.usable.sum())
    if not len(away):
        return _averaged_in(seen)
    share, first = len(away) / total, int(away[0])
    low, high = (format_quantity(end, seen.unit, 4) for end in (seen.lowest, seen.highest))
    value = format_quantity(float(block.x[first]), seen.unit, 4)
    said = f"{seen.name}: {_share(len(away), total)} outside its range, {low} to {high}"
    when = clock(float(block.t[first]))
    said += f": {value} at {when}." if len(away) == 1 else f"; the first, {value}, at {when}."
    if marked:
        said += f" {'It is' if len(away) == 1 else 'They are'} marked and not shown."
    remedy, mend = _mended(seen, block)
    return [
        Note(
            FAULT if share > MOST_OUTSIDE else DOUBT,
            Step.LAW,
            seen.name,
            said,
            figure=100 * share,
            unit="%",
            limit=100 * MOST_OUTSIDE,
            remedy=remedy,
            mend=mend,
            limit_at=(*seen.key, "highest" if float(block.x[first]) > seen.highest else "lowest"),
            place=(*seen.key, "highest" if float(block.x[first]) > seen.highest else "lowest"),
        )
    ]


def _averaged_in(seen: Ranged) -> list[Note]:
    """A note where an impossible reading went into a mean, whose result looks possible but is wrong."""
    away = _beyond(seen, seen.before)
    if not len(away):
        return []
    x, mark = seen.before.x.copy(), seen.before.mark.copy()
    x[away], mark[away] = np.nan, mark[away] | np.uint8(Mark.RANGE)
    without = seen.filtered(Block(seen.before.t, x, mark))
    both = seen.calm.usable & without.usable
    moved = np.where(both, np.abs(np.where(both, seen.calm.x - without.x, 0.0)), 0.0)
    if not len(moved) or not moved.max() > LEAST_MOVED * (seen.highest - seen.lowest):
        return []
    when = int(np.argmax(moved))
    worst = int(away[max(int(np.searchsorted(seen.before.t[away], seen.calm.t[when], side="right")) - 1, 0)])
    value = format_quantity(float(seen.before.x[worst]), seen.unit, 4)
    low, high = (format_quantity(end, seen.unit, 4) for end in (seen.lowest, seen.highest))
    by = format_quantity(float(moved[when]), seen.unit, 2)
    remedy = "mark what is outside, so that no filter takes it in"
    mend: tuple[Mend, ...] = (Mend((*seen.key, "outside"), MARKED),)
    if len(away) > MOST_OUTSIDE * seen.before.usable.sum():
        # This many are not slips: marking them would only make the next fault.
        remedy, mend = _mended(seen, seen.before)
    return [
        Note(
            DOUBT,
            Step.LAW,
            seen.name,
            f"{seen.name}: {value} at {clock(float(seen.before.t[worst]))} is outside its range, {low} to {high}, and "
            f"its filters average it in: what they give moves by {by}.",
            figure=float(moved[when]),
            unit=seen.unit.step.symbol,
            limit=LEAST_MOVED * (seen.highest - seen.lowest),
            remedy=remedy,
            mend=mend,
            place=(*seen.key, "outside"),
        )
    ]


def _mended(seen: Ranged, block: Block) -> tuple[str, tuple[Mend, ...]]:
    other = meant_instead(_good(block), seen.unit, seen.lowest, seen.highest)
    if seen.goes_on:
        most = format_quantity(float(_good(block)[np.argmax(np.abs(_good(block)))]), seen.unit, 4)
        return f"it comes to {most} here and may go on; lowest and highest in 3 Law leave it the room", ()
    if other is None:
        return "check its laws; lowest and highest are in 3 Law", ()
    said = f"its readings would lie inside if they were in {other}"
    if seen.typed_unit is not None:
        return f"{said}: write that as its raw unit", (Mend(seen.typed_unit, other.symbol),)
    return f"{said}: check the units of its laws", ()


def _unlikely(seen: Ranged) -> list[Note]:
    """A note on numbers that the quantity never has in this unit, where the range itself was taken from them."""
    habit = unlikely(_good(seen.before), seen.unit, seen.named)
    if habit is None:
        return []
    middle = median(_good(seen.before))
    remedy = f"in {habit.meant} they would be {habit.said}"
    remedy += f": {_factor(habit, seen.unit)}"
    mend: tuple[Mend, ...] = ()
    if seen.typed_unit is not None:
        # The range was typed, or taken from the data, with the same mistake.
        ends = (("lowest", seen.lowest), ("highest", seen.highest))
        mend = (Mend(seen.typed_unit, habit.meant), *(Mend((*seen.key, name), _in(end, habit)) for name, end in ends))
    return [
        Note(
            DOUBT,
            Step.LAW,
            seen.name,
            f"{seen.name}: its readings are about {format_quantity(middle, seen.unit, 4)}, which is hardly "
            f"{habit.said}.",
            figure=middle,
            unit=seen.unit.symbol,
            remedy=remedy,
            mend=mend,
            place=(*seen.key, "raw_unit") if seen.typed_unit is not None else (*seen.key, "unit"),
        )
    ]


def _in(end: float, habit: Habit) -> str:
    """The number of a limit in the unit that was meant, as the project file has it."""
    return f"{end:.10g} {habit.meant}".removesuffix(" 1")


def _factor(habit: Habit, unit: Unit) -> str:
    meant = parse_unit(habit.meant)
    if unit.is_temperature:
        return f"{habit.meant} taken for {unit}"
    factor = float(unit.scale / meant.scale)
    return f"{plain_number(factor)} times too large" if factor > 1 else f"{plain_number(1 / factor)} times too small"


def _share(count: int, total: int) -> str:
    return f"{counted_of(count, total, 'reading', percent=True)} {'lies' if count == 1 else 'lie'}"
