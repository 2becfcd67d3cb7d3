"""Converters that lose some of the power, buzzers on pins, outputs that feed nothing, resistors in digit lines."""

from __future__ import annotations

import pytest

from lesart.core.notes import DOUBT, FAULT
from lesart.core.wire.currents import loads_of
from lesart.core.wire.faults.currents import milliamps
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import End, Hookup, takes_v
from tests.core.wire.hookups import hookup
from tests.core.wire.small_hookups import NODE, SEGMENTS

CELL = {"kind": "battery", "voltage": "3.7 V", "capacity": "2 Ah"}
UP = {"kind": "step-up", "voltage": "5 V", "efficiency": "80 %"}
BOARD = "3.3 V board"


def wired(board: str = BOARD, **parts: object) -> Hookup:
    joins = "cell.+ > up.in; cell.− > up.gnd; up.out > board.in; up.gnd > board.gnd"
    return hookup({"board": board, "cell": CELL, "up": UP, **parts}, joins)


def test_a_step_up_takes_more_than_it_gives() -> None:
    """5 V at 50 mA from 3.7 V at 80 %: 50 × 5 ÷ (3.7 × 0.8) = 84.5 mA, and its own half."""
    (cell,) = [load for load in loads_of(wired()) if str(load.rail) == "cell.+"]
    drawn = {each.of: each.usual_a for each in cell.drawn}
    assert drawn["board"] == pytest.approx(0.05 * 5 / (3.7 * 0.8))
    assert drawn["up"] == pytest.approx(0.0005)
    (out,) = [load for load in loads_of(wired()) if str(load.rail) == "up.out"]
    assert out.usual_a == pytest.approx(0.05)


def test_a_regulator_lets_the_same_current_through() -> None:
    """What it drops is heat."""
    parts = {
        "board": BOARD,
        "mains": {"kind": "supply", "voltage": "9 V"},
        "reg": {"kind": "regulator", "voltage": "5 V"},
    }
    joins = "mains.+ > reg.in; mains.− > reg.gnd; reg.out > board.in; reg.gnd > board.gnd"
    (mains,) = [load for load in loads_of(hookup(parts, joins)) if str(load.rail) == "mains.+"]
    assert {each.of: each.usual_a for each in mains.drawn}["board"] == pytest.approx(0.05)


def test_a_battery_whose_plus_is_open() -> None:
    """It feeds nothing, while the board lives on its plug; the remedy joins them where the voltage fits."""
    joins = "cell.− > board.gnd"
    for volts, mends in (("5 V", 1), ("3.7 V", 0)):
        notes = inspect_hookup(hookup({"board": BOARD, "cell": {**CELL, "voltage": volts}}, joins))
        (note,) = [each for each in notes if "feeds nothing" in each.text]
        assert note.mark == DOUBT
        assert note.pins == ("cell.+",)
        assert len(note.mend) == mends


def test_a_buzzer_is_too_much_for_a_pin() -> None:
    """30 mA from one that carries 12; behind a transistor it takes nothing from there."""
    straight = hookup({"board": BOARD, "horn": "buzzer"}, "horn.+ > board.p1; horn.− > board.gnd")
    (note,) = [each for each in inspect_hookup(straight) if each.part == "horn"]
    assert (note.mark, note.figure, note.limit) == (FAULT, pytest.approx(0.03), pytest.approx(0.012))
    assert note.mend
    parts = {"board": BOARD, "horn": "buzzer", "switch": "transistor"}
    behind = hookup(parts, "horn.+ > board.p1 through switch; horn.− > board.gnd")
    assert [each for each in inspect_hookup(behind) if each.part == "horn"] == []


def test_a_buzzer_draws_through_the_board() -> None:
    """30 mA more at its supply, from the pin that drives it; none of it behind a transistor."""
    feeds = "mains.+ > board.in; mains.− > board.gnd; horn.− > board.gnd"
    parts = {"board": BOARD, "horn": "buzzer", "mains": {"kind": "supply", "voltage": "5 V"}}
    (mains,) = [each for each in loads_of(hookup(parts, f"{feeds}; horn.+ > board.p1")) if str(each.rail) == "mains.+"]
    drawn = {each.of: each.usual_a for each in mains.drawn}
    assert drawn["horn"] == pytest.approx(0.03)
    assert drawn["board"] == pytest.approx(0.05)
    behind = hookup({**parts, "switch": "transistor"}, f"{feeds}; horn.+ > board.p1 through switch")
    (mains,) = [each for each in loads_of(behind) if str(each.rail) == "mains.+"]
    assert "horn" not in {each.of for each in mains.drawn}


def test_a_bias_resistor_at_an_output() -> None:
    """A sensor that gives its voltage only with a current from a rail."""
    parts = {"board": "5 V board", "warm": "analog sensor", "bias": {"kind": "resistor", "resistance": "4.7 kΩ"}}
    joins = "warm.supply > board.5V; warm.gnd > board.gnd; warm.out > board.a1; warm.out > board.5V through bias"
    assert [note.text for note in inspect_hookup(hookup(parts, joins)) if note.is_fault] == []


def test_what_converters_work_at() -> None:
    """A step-up from its own least to what it gives; a regulator from what it gives and its dropout on."""
    parts = {"up": UP, "reg": {"kind": "regulator", "voltage": "5 V", "dropout": "1.1 V"}, "board": BOARD}
    found = hookup(parts, "")
    assert takes_v(found, End("up", "in")) == (0.9, 5.0)
    assert takes_v(found, End("reg", "in"))[0] == pytest.approx(6.1)


def test_a_lamp_at_a_rail_is_a_load_of_it() -> None:
    """3.3 V less the 2 V that it drops, over 130 Ω."""
    parts = {"board": BOARD, "l": {"kind": "lamp", "forward": "2 V"}, "r": {"kind": "resistor", "resistance": "130 Ω"}}
    lit = hookup(parts, "l.+ > board.3V3 through r; l.− > board.gnd")
    (rail,) = [load for load in loads_of(lit) if str(load.rail) == "board.3V3"]
    assert {each.of: each.usual_a for each in rail.drawn} == {"l": pytest.approx(0.01)}


@pytest.mark.parametrize(
    ("amps", "says"), [(0.0005, "0.5 mA"), (0.0123456, "12.3 mA"), (0.9996, "1000 mA"), (1.2345, "1.23 A")]
)
def test_currents_have_three_digits(amps: float, says: str) -> None:
    assert milliamps(amps) == says


@pytest.mark.parametrize(("shared", "uneven"), [("10 Ω", False), ("330 Ω", True)])
def test_segments_behind_one_resistor_are_uneven(shared: str, uneven: bool) -> None:
    """A segment alone has all of its current, and one of seven a seventh; with resistors of their own all are alike."""
    parts = {**NODE, "d": "one digit", "r": {"kind": "resistor", "resistance": shared}}
    if uneven:
        joins = "; ".join(f"d.{each} > node.p{place}" for place, each in enumerate("abcdefg", 1))
        joins += "; d.common > node.gnd through r"
    else:
        parts["r"] = {"kind": "resistor", "resistance": "270 Ω"}
        joins = SEGMENTS + "; d.common > node.gnd"
    notes = [note for note in inspect_hookup(hookup(parts, joins)) if "share one resistor" in note.text]
    assert [note.figure for note in notes] == ([pytest.approx(7.0, rel=0.05)] if uneven else [])
