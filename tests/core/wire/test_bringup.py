"""The bring-up list: the right checks in the right order, and what a wrong value is said to mean."""

import math

import pytest

from lesart.core.errors import QuantityError
from lesart.core.step import Step
from lesart.core.wire.bringup import bring_up
from lesart.core.wire.check import Check, is_answer, judge
from lesart.core.wire.faults.measured import inspect_measured
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.proposal.propose import propose
from tests.core.wire.hookups import hookup

BUS = hookup(
    {"node": "3.3 V board", "lid": "two-wire module"},
    "lid.supply > node.3V3; lid.gnd > node.gnd; lid.data > node.p15; lid.clock > node.p16",
)
PROBE = hookup(
    {"node": "3.3 V board", "probe": "thermistor", "half": {"kind": "resistor", "resistance": "10 kΩ"}},
    "probe.1 > node.a1; probe.2 > node.gnd; node.a1 > node.3V3 through half",
)


def check(found: tuple[Check, ...], key: str) -> Check:
    return next(each for each in found if each.key == key)


def test_what_needs_no_power_comes_first_and_readings_last() -> None:
    keys = [each.key for each in bring_up(BUS)]
    assert keys == [
        "lid print",
        "node.3V3 short",
        "ground",
        "node.3V3 volts",
        "lid.supply volts",
        "node.in current",
        "node.p15 idle",
        "node.p16 idle",
        "bus answers",
        "lid moves",
    ]


def test_a_rail_is_right_within_a_twentieth_and_wrong_values_say_what_they_mean() -> None:
    rail = check(bring_up(BUS), "node.3V3 volts")
    assert judge(rail, "3.31 V").good
    assert judge(rail, "3310 mV").value == pytest.approx(3.31)
    low, high = judge(rail, "2.1"), judge(rail, "5.02 V")
    assert not low.good
    assert "Overloaded" in low.says
    assert not high.good
    assert "wrong rail" in high.says


def test_a_line_of_the_bus_that_is_held_low_is_said() -> None:
    idle = check(bring_up(BUS), "node.p15 idle")
    assert judge(idle, "3.2 V").good
    assert judge(idle, "0.1 V").says.startswith("Held low")


def test_all_addresses_are_listed_and_answered_with_yes_or_no() -> None:
    answers = check(bring_up(BUS), "bus answers")
    assert "0x76 lid" in answers.does
    assert judge(answers, " Yes ").good
    said = judge(answers, "no")
    assert not said.good
    assert "Every address answers: the data line is held low" in said.says
    with pytest.raises(QuantityError):
        judge(answers, "3.3 V")
    assert is_answer(answers, "3.3 V") == '"3.3 V" is not an answer here; it is yes or no'


def test_a_thermistor_at_room_temperature_stands_about_in_the_middle() -> None:
    # 10 kΩ against 10 kΩ on 3.3 V: 1.65 V.
    half = check(bring_up(PROBE), "node.a1 half")
    assert judge(half, "1.65 V").good
    assert judge(half, "0 V").says.startswith("probe is shorted")
    assert judge(half, "3.3 V").says.startswith("probe is open")


def test_the_current_of_the_plug_contains_all_that_hangs_on_it() -> None:
    # 50 mA of the board and 1 mA of the module usually, 250 mA and 1 mA at worst.
    current = check(bring_up(BUS), "node.in current")
    assert (current.lowest, current.highest) == (pytest.approx(0.3 * 51), pytest.approx(1.3 * 251))
    assert "into the plug of node" in current.does


def test_contrast_of_five_volts_is_where_glasses_want_it() -> None:
    found = propose(hookup({"node": "5 V board", "door": "character display", "pot": "potentiometer"})).hookup
    contrast = check(bring_up(found), "door.contrast volts")
    assert judge(contrast, "0.7 V").good
    assert "dark square" in judge(contrast, "0.05 V").says
    assert "turn towards ground" in judge(contrast, "3 V").says


def test_a_lamp_is_measured_across_its_resistor() -> None:
    # (3.3 − 2) V over 150 Ω: all 1.3 V stand across it.
    found = hookup(
        {"node": "3.3 V board", "led": "lamp", "r": {"kind": "resistor", "resistance": "150 Ω"}},
        "led.+ > node.p1 through r; led.− > node.gnd",
    )
    lit = check(bring_up(found), "led.+ lit")
    assert "voltage across r" in lit.does
    assert judge(lit, "1.3 V").good
    assert judge(lit, "0 V").says.startswith("The lamp is the wrong way round")


def test_behind_a_divider_the_far_side_is_measured() -> None:
    # 5 V through 10 kΩ and 18 kΩ: 3.214 V arrive.
    found = hookup(
        {"node": "3.3 V board", "bee": "echo ranger", "d": {"kind": "divider", "upper": "10 kΩ", "lower": "18 kΩ"}},
        "bee.supply > node.5V; bee.gnd > node.gnd; bee.start > node.p1; bee.echo > node.p4 through d",
    )
    level = check(bring_up(found), "bee.echo level")
    assert judge(level, "3.2 V").good
    assert "would be harmed" in judge(level, "4.9 V").says


def test_a_short_is_looked_for_without_power() -> None:
    short = check(bring_up(BUS), "node.3V3 short")
    assert short.expects == "100 Ω or more"
    assert judge(short, "1k").good
    assert judge(short, "3 Ω").says.startswith("A short")


def test_nothing_joined_gives_nothing_to_check() -> None:
    assert bring_up(hookup({"node": "3.3 V board"})) == ()


def test_every_check_has_a_key_of_its_own_and_every_wrong_value_a_meaning() -> None:
    parts = {
        "node": "3.3 V board",
        "lid": "two-wire module",
        "amp": "bridge amplifier",
        "cell": "load cell",
        "air": "single-wire sensor",
        "bee": "echo ranger",
        "gate": "beam counter",
        "led": "lamp",
        "probe": "thermistor",
        "door": "two-wire pixel display",
        "cold": "analog sensor",
        "line": "line driver",
        "meter": "register meter",
    }
    found = bring_up(propose(hookup(parts)).hookup)
    keys = [each.key for each in found]
    assert len(keys) == len(set(keys))
    for each in found:
        if not each.unit:
            assert each.means_low
        else:
            assert each.means_low or each.lowest in (0.0, float("-inf"))
            assert each.means_high or each.highest == float("inf")


@pytest.mark.parametrize("which", [BUS, PROBE])
def test_a_note_names_the_end_that_a_value_is_beyond(which: Hookup) -> None:
    """Every check of a quantity, a little too low and a little too high; right at its ends there is no note."""
    checks = bring_up(which)
    told = 0
    for each in checks:
        for end, beyond in ((each.lowest, -1), (each.highest, 1)):
            if not each.unit or not math.isfinite(end):
                continue
            assert list(inspect_measured(checks, {each.key: f"{end!r} {each.unit}"})) == []
            value = end + beyond * 0.01 * max(abs(end), 1.0)
            (note,) = inspect_measured(checks, {each.key: f"{value!r} {each.unit}"})
            assert (note.mark, note.step, note.place) == ("†", Step.WIRE, ("wire", "measured", each.key))
            assert (note.figure, note.unit) == (pytest.approx(value), each.unit)
            assert note.limit == end
            assert note.text.startswith(f"{each.key}: {value!r} {each.unit}, where {each.expects} would be right.")
            told += 1
        if not each.unit:
            (note,) = inspect_measured(checks, {each.key: "no"})
            assert (note.figure, note.unit, note.limit) == (None, None, None)
            assert list(inspect_measured(checks, {each.key: "yes"})) == []
    assert told >= 5
