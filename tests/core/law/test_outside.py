"""Readings that cannot be are counted and named; where another unit explains them, that is said."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from lesart.core.block import Block, Mark, block_of
from lesart.core.law.outside import MARKED, Ranged, _factor, inspect_range
from lesart.core.law.slips import FAMILIES, HABITS, Habit, meant_instead, unlikely
from lesart.core.notes import DOUBT, FAULT
from lesart.core.units import convert, parse_unit


def seen(x: object, unit: str, lowest: float, highest: float, **more: object) -> Ranged:
    block = x if isinstance(x, Block) else block_of(np.asarray(x, np.float64), 1.0)
    usual = Ranged("c", ("channels", "c"), parse_unit(unit), lowest, highest, block, block, lambda other: other)
    return replace(usual, **more)  # type: ignore[arg-type]


INSIDE = np.linspace(20.0, 30.0, 200)


def test_nothing_is_said_of_readings_inside() -> None:
    """Both ends belong to the range."""
    assert inspect_range(seen(INSIDE, "kg", 20.0, 30.0)) == []
    assert inspect_range(seen(np.array([]), "kg", 20.0, 30.0)) == []


@pytest.mark.parametrize(("count", "mark"), [(1, DOUBT), (2, DOUBT), (3, FAULT), (200, FAULT)])
def test_how_many_lie_outside(count: int, mark: str) -> None:
    """One in a hundred is still one bad sample; more is a wrong range, or a wrong law."""
    x = INSIDE.copy()
    x[-count:] = 999.0
    (note,) = inspect_range(seen(x, "kg", 0.0, 100.0))
    assert note.mark == mark
    assert note.figure == pytest.approx(count / 2.0)
    assert note.limit == 1.0
    assert note.place == ("channels", "c", "highest")
    lie, they = ("lies", "It is") if count == 1 else ("lie", "They are")
    of_them = "all 200 readings" if count == 200 else f"{count} of 200 readings ({count / 2:g} %)"
    share = f"c: {of_them} {lie} outside its range, 0 kg to 100 kg"
    when = f"00:0{(200 - count) // 60}:{(200 - count) % 60:04.1f}"
    first = f": 999 kg at {when}." if count == 1 else f"; the first, 999 kg, at {when}."
    assert note.text == share + first
    (marked,) = inspect_range(seen(x, "kg", 0.0, 100.0, outside=MARKED))
    assert marked.text == f"{note.text} {they} marked and not shown."


def test_the_first_is_named_with_its_time_and_its_side() -> None:
    """Below the lowest it is the lowest that is looked at."""
    x = INSIDE.copy()
    x[[30, 70]] = -5.0, 500.0
    (note,) = inspect_range(seen(x, "kg", 0.0, 100.0))
    assert "the first, −5 kg, at 00:00:30.0" in note.text
    assert note.place == ("channels", "c", "lowest")


def test_bad_samples_are_not_counted() -> None:
    """They have no number to be outside with."""
    block = block_of(np.full(10, 999.0))
    bad = block.with_values(block.x, np.full(10, np.uint8(Mark.CHECKSUM)))
    assert inspect_range(seen(bad, "kg", 0.0, 100.0)) == []


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family[0])
def test_a_unit_taken_for_another_is_named(family: tuple[str, ...]) -> None:
    """Of every pair: readings that are right in one unit, taken in the other, and back. A pair that another one
    explains as well is told as that: what is named always brings the readings inside."""
    for right in family:
        for wrong in family:
            unit, meant = parse_unit(wrong), parse_unit(right)
            true = convert(INSIDE, parse_unit("°C"), unit) if unit.is_temperature else INSIDE
            lowest, highest = float(true.min()) - 1, float(true.max()) + 1
            taken = convert(true, unit, meant)
            named = meant_instead(taken, unit, lowest, highest)
            if right == wrong or (taken.min() >= lowest and taken.max() <= highest):
                assert named is None
                continue
            assert named is not None, f"{right} taken for {wrong}"
            back = convert(taken, named, unit)
            assert back.min() >= lowest - 1e-9
            assert back.max() <= highest + 1e-9


def test_a_slip_of_a_typed_unit_is_mended_there() -> None:
    """A channel without a law has its unit from what was typed; behind laws a person has to look."""
    pascals = np.linspace(101_000.0, 101_500.0, 100)
    key = ("channels", "c", "raw_unit")
    (typed,) = inspect_range(seen(pascals, "hPa", 300.0, 1100.0, typed_unit=key))
    assert [(mend.key, mend.value) for mend in typed.mend] == [(key, "Pa")]
    inside = "its readings would lie inside if they were in Pa"
    assert typed.remedy == f"{inside}: write that as its raw unit"
    (by_law,) = inspect_range(seen(pascals, "hPa", 300.0, 1100.0))
    assert (by_law.mend, by_law.mark) == ((), FAULT)
    assert by_law.remedy == f"{inside}: check the units of its laws"


@pytest.mark.parametrize(("unit", "zero"), [("K", 0.0), ("°C", -273.15), ("°F", -459.67)])
def test_no_temperature_is_below_absolute_zero(unit: str, zero: float) -> None:
    """Whatever the channel's range says."""
    (note,) = inspect_range(seen([zero + 1, zero - 2.05], unit, -1000.0, 1000.0))
    assert (note.mark, note.figure) == (FAULT, 1.0)
    said = {"K": "0 K, down to −2.05 K", "°C": "−273.15 °C, down to −275.2 °C", "°F": "−459.67 °F, down to −461.7 °F"}[
        unit
    ]
    assert note.text == f"c: 1 of 2 readings (50 %) lies below absolute zero, {said}."
    assert not any(note.is_fault for note in inspect_range(seen([zero, zero + 1], unit, -1000.0, 1000.0)))


@pytest.mark.parametrize("habit", HABITS, ids=lambda habit: f"{habit.meant} for {habit.unit}")
def test_numbers_that_a_quantity_does_not_have(habit: Habit) -> None:
    """A range taken from the data lets all of them through; the quantity does not."""
    lowest = max(habit.lowest, 0.0)
    middle = (lowest + min(habit.highest, lowest + habit.spread)) / 2
    x = np.full(100, middle)
    name = habit.names[0] if habit.names else "value"
    assert unlikely(x, parse_unit(habit.unit), name) is habit
    assert unlikely(convert(x, parse_unit(habit.meant), parse_unit(habit.unit)), parse_unit(habit.unit), name) is None
    if habit.names:
        assert unlikely(x, parse_unit(habit.unit), "value") is not habit
    (note,) = inspect_range(seen(x, habit.unit, 0.5 * middle - 1, 2 * middle + 1, named=name))
    assert (note.mark, note.figure) == (DOUBT, pytest.approx(middle))


def mean(block: Block) -> Block:
    """Of ten, about 20 where there is nothing."""
    kept = np.where(block.usable, block.x, 20.0)
    return block_of(np.convolve(kept, np.ones(10) / 10, "same"), 1.0)


def test_what_cannot_be_is_not_averaged_in_silently() -> None:
    """The mean of ten stays inside, and yet is wrong by a tenth of the error."""
    x = np.full(100, 20.0)
    x[50] = -127.0

    block = block_of(x, 1.0)
    (note,) = inspect_range(seen(block, "°C", 0.0, 50.0, calm=mean(block), filtered=mean))
    assert note.mark == DOUBT
    assert note.figure == pytest.approx(14.7)
    assert note.text == (
        "c: −127 °C at 00:00:50.0 is outside its range, 0 °C to 50 °C, and its filters average it in: what they give "
        "moves by 15 °C."
    )
    assert [(mend.key[-1], mend.value) for mend in note.mend] == [("outside", MARKED)]


def test_many_that_cannot_be_are_not_marked_away() -> None:
    """One in five: marked, all of them would be the next fault; the range or the laws are wrong."""
    x = np.full(100, 20.0)
    x[::5] = -10.0

    block = block_of(x, 1.0)
    (note,) = inspect_range(seen(block, "°C", 0.0, 50.0, calm=mean(block), filtered=mean))
    assert note.mark == DOUBT
    assert "its filters average it in" in note.text
    assert "outside" not in [mend.key[-1] for mend in note.mend]
    assert (note.remedy or "").startswith("check its laws")


@pytest.mark.parametrize(
    ("meant", "unit", "says"),
    [("Pa", "hPa", "100 times too large"), ("hPa", "Pa", "100 times too small"), ("°F", "°C", "°F taken for °C")],
)
def test_by_how_much_a_unit_is_wrong(meant: str, unit: str, says: str) -> None:
    assert _factor(replace(HABITS[0], meant=meant), parse_unit(unit)) == says
