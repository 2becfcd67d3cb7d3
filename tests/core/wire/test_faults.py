"""Small hook-ups, each with exactly one fault and exactly its note; and what each remedy makes of it."""

from __future__ import annotations

import dataclasses

import pytest

from lesart.core.step import Step
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.part import PartKind, Pin
from tests.core.wire.fault_cases import FAULTS, GOOD
from tests.core.wire.hookups import findings, hookup, mended
from tests.core.wire.own_kinds import ALL, OWN
from tests.core.wire.small_hookups import BIG, NODE, SEGMENTS, STRONG, fed
from tests.figures import unsaid


@pytest.mark.parametrize("case", GOOD)
def test_a_hook_up_that_works_has_no_fault(case: str) -> None:
    assert findings(hookup(*GOOD[case])) == []


@pytest.mark.parametrize("case", FAULTS)
def test_one_fault_gives_exactly_its_note(case: str) -> None:
    parts, joins, mark, part, words, figure, limit = FAULTS[case]
    found = findings(hookup(parts, joins, ALL))
    assert [(note.mark, note.part) for note in found] == [(mark, part)], [note.text for note in found]
    note = found[0]
    assert note.step == Step.WIRE
    assert words in note.text
    assert unsaid(note) == ""
    assert note.remedy
    if figure is not None:
        assert note.figure == pytest.approx(figure, rel=1e-4)
    if limit is not None:
        assert note.limit == pytest.approx(limit, rel=1e-4)


NO_KEY = frozenset(
    {
        "a short",
        "a board fed from what it feeds",
        "a rail too weak as usual",
        "a rail too weak for one peak",
        "a rail too weak if all peaks coincide",
        "a plug too weak",
        "a battery too weak",
        "all pins together",
        "a source the converter cannot read",
        "a regulator with too little above what it gives",
        "a regulator too hot as usual",
        "a regulator too hot at a peak",
    }
)
"""A person has to do these: take something away, buy something stronger, choose what to give up."""


@pytest.mark.parametrize("case", sorted(set(FAULTS) - NO_KEY))
def test_its_remedy_leaves_no_fault_behind(case: str) -> None:
    """The key that mends a note mends it: applied to the hook-up, nothing is left to say."""
    parts, joins, *_ = FAULTS[case]
    before = hookup(parts, joins, ALL)
    (note,) = findings(before)
    assert note.mend, "no key mends it"
    assert [left.text for left in findings(mended(before, note.mend))] == []


@pytest.mark.parametrize("case", sorted(NO_KEY))
def test_what_no_key_can_mend_says_what_a_person_does(case: str) -> None:
    parts, joins, *_ = FAULTS[case]
    (note,) = findings(hookup(parts, joins, ALL))
    assert not note.mend
    assert note.remedy


def test_a_regulator_that_is_too_hot_is_fed_from_the_lowest_rail_that_does() -> None:
    """Of 12, 9 and 7 V the last has two above what it gives; what drops least is coolest. One of 6 V has too little."""
    adapters = {f"m{volts}": {"kind": "supply", "voltage": f"{volts} V"} for volts in (12, 9, 7, 6)}
    parts = {**NODE, **adapters, "reg": {"kind": "regulator", "voltage": "5 V"}}
    grounds = ";".join(f"{name}.− > node.gnd" for name in adapters)
    joined = hookup(parts, f"m12.+ > reg.in; reg.gnd > node.gnd; reg.out > node.in; {grounds}")
    (hot,) = [note for note in findings(joined) if "heat" in note.text]
    assert hot.remedy == "feed reg.in from m7.+"
    assert not [note for note in findings(mended(joined, hot.mend)) if "heat" in note.text or "too little" in note.text]


@pytest.mark.parametrize(("heat", "fits"), [("1.75 W", True), ("1.74 W", False)])
def test_a_regulator_at_its_limit_is_cool_enough(heat: str, fits: bool) -> None:
    parts = {
        **NODE,
        "m": {"kind": "supply", "voltage": "12 V"},
        "reg": {"kind": "regulator", "voltage": "5 V", "heat": heat},
    }
    joined = hookup(parts, "m.+ > reg.in; m.− > reg.gnd; reg.out > node.in; reg.gnd > node.gnd")
    assert (findings(joined) == []) is fits


@pytest.mark.parametrize(("dropout", "fits"), [("1.1 V", False), ("0.25 V", True), ("0.4 V", True), ("0.41 V", False)])
def test_a_low_dropout_is_what_a_cell_wants(dropout: str, fits: bool) -> None:
    """3.3 V of a cell of 3.7 V."""
    parts = {
        **NODE,
        "s": "single-wire sensor",
        "b": {"kind": "battery", "voltage": "3.7 V"},
        "reg": {"kind": "regulator", "dropout": dropout},
    }
    joins = "b.+ > reg.in; b.− > reg.gnd; reg.out > s.supply; s.gnd > reg.gnd; s.data > node.p1; s.gnd > node.gnd"
    assert (findings(hookup(parts, joins)) == []) is fits


def test_a_lamp_whose_driver_gives_no_more_than_it_drops_stays_dark() -> None:
    parts = {**NODE, "r": {"kind": "resistor", "resistance": "100 Ω"}}
    one = hookup({**parts, "l": {"kind": "lamp", "forward": "3.4 V"}}, "l.+ > node.p1 through r; l.− > node.gnd")
    assert [note.text for note in findings(one)] == ["l.+ stays dark: node.p1 gives no more than it drops."]
    digit = {**parts, "d": {"kind": "one digit", "forward": "3.4 V"}}
    (note,) = findings(hookup(digit, SEGMENTS + "; d.common > node.gnd"))
    assert note.text == "d.a to g stay dark: node.p1 gives no more than it drops."


def test_of_two_dark_segments_the_darkest_is_said() -> None:
    """1.3 V are left over 2.2 kΩ and 1.5 kΩ."""
    ohm = {"r": "270 Ω", "q": "2.2 kΩ", "w": "1.5 kΩ"}
    parts = {**NODE, "d": "one digit", **{name: {"kind": "resistor", "resistance": each} for name, each in ohm.items()}}
    joins = SEGMENTS + "; d.common > node.gnd"
    for segment, pin, name in (("a", 1, "q"), ("b", 2, "w")):
        joins = joins.replace(f"d.{segment} > node.p{pin} through r", f"d.{segment} > node.p{pin} through {name}")
    (note,) = findings(hookup(parts, joins))
    assert note.text == "d.a and b carry as little as 0.591 mA, much less than the 5 mA wanted."
    assert note.figure == pytest.approx(1.3 / 2200, rel=1e-4)


def test_the_display_that_takes_the_pin_which_the_capture_needs_changes_places_with_it() -> None:
    """Only p4 to p7 time edges. All four are taken, three of them by pulses, one by a display that needs none of it."""
    ranges = {f"e{number}": "echo ranger" for number in range(4)}
    parts = {**BIG, **ranges, "d": "four-wire pixel display"}
    joins = fed(*ranges, rail="5V") + ";".join(
        [f"e{n}.start > node.p{n + 1 if n < 3 else 8}; e{n}.echo > node.p{n + 4 if n < 3 else 9}" for n in range(4)]
        + ["d.gnd > node.gnd; d.supply > node.3V3; d.clock > node.p10 through s; d.data > node.p11 through s"]
        + ["d.reset > node.p12 through s; d.dc > node.p13 through s; d.select > node.p7 through s"]
    )
    before = hookup({**parts, "s": "level shifter"}, joins)
    (note,) = findings(before)
    assert "e3.echo (pulse out) does not work with node.p9" in note.text
    assert note.remedy == "swap them: move d.select to node.p9, where it works too, and e3.echo to node.p7"
    after = mended(before, note.mend)
    assert findings(after) == []
    assert {str(join.pin): str(join.to) for join in after.joins}["d.select"] == "node.p9"


def test_modules_sold_in_several_orders_are_one_remark_in_all() -> None:
    remarks = [note for note in inspect_hookup(hookup(*GOOD["two modules on the bus"])) if note.mark == "·"]
    (note,) = remarks
    assert "air and pix are sold with more than one order of pins" in note.text
    assert "read the print" in (note.remedy or "")


def test_an_order_names_every_pin_of_its_kind_once() -> None:
    for kind in KINDS.values():
        for order in kind.orders:
            assert sorted(order) == sorted(pin.name for pin in kind.pins), kind.name
        assert len(set(kind.orders)) == len(kind.orders)


def test_every_board_pin_that_can_do_more_can_do_less() -> None:
    """A pin that times edges can also be a plain one, or the swap of two pins could not mend anything."""
    for kind in KINDS.values():
        if kind.group == "board":
            for pin in kind.pins:
                if {"capture", "interrupt"} & set(pin.roles):
                    assert "digital" in pin.roles


def test_a_pin_may_be_left_open_where_its_kind_says_so() -> None:
    kind = dataclasses.replace(
        KINDS["single-wire sensor"],
        pins=tuple(dataclasses.replace(pin, optional=True) for pin in KINDS["single-wire sensor"].pins),
    )
    assert findings(hookup({**NODE, "lid": "x"}, "", {**KINDS, "x": dataclasses.replace(kind, name="x")})) == []


def lit(ohm: float, **lamp: object) -> list[str]:
    """What is said of a lamp at a pin of 3.3 V that carries 12 mA, behind so many ohms."""
    parts = {**NODE, "l": {"kind": "lamp", **lamp}, "r": {"kind": "resistor", "resistance": f"{ohm!r} Ω"}}
    return [note.text for note in findings(hookup(parts, "l.+ > node.p1 through r; l.− > node.gnd", ALL))]


@pytest.mark.parametrize(
    ("amps", "lamp", "words"),
    [
        # The pin carries 12 mA; a lamp may get 1.25 times what it wants, and 0.3 of it is still seen.
        (0.012, {"current": "12 mA"}, "has to carry"),
        (0.0125 * 0.8, {"current": "8 mA"}, "more than the 8 mA wanted"),
        (0.003, {"current": "10 mA"}, None),
    ],
)
def test_at_a_limit_all_is_well(amps: float, lamp: dict[str, object], words: str | None) -> None:
    """And a thousandth beyond it is not."""
    assert lit(1.3 / amps, **lamp) == []
    beyond = lit(1.3 / amps * (0.999 if words else 1.001), **lamp)
    assert [text for text in beyond if (words or "much less than") in text] == beyond != []


def test_at_the_limit_of_a_rail_and_of_all_pins() -> None:
    """300 mA of a rail that gives 300; ten pins of 12 mA, where a board carries 120."""

    def heated(amps: float) -> list[str]:
        pins = tuple(
            dataclasses.replace(pin, current_a=amps) if pin.name == "supply" else pin for pin in OWN["heater"].pins
        )
        kinds = {**ALL, "heater": dataclasses.replace(OWN["heater"], pins=pins)}
        return [note.text for note in findings(hookup({**STRONG, "h": "heater"}, fed("h"), kinds))]

    assert heated(0.3) == []
    assert heated(0.301) == ["node.3V3 gives 300 mA; h draws 301 mA."]

    def shining(ohm: float) -> list[str]:
        parts = {**NODE, **{f"l{n}": {"kind": "lamp", "current": "12 mA"} for n in range(1, 11)}}
        joins = ";".join(f"l{n}.+ > node.p{n} through r; l{n}.− > node.gnd" for n in range(1, 11))
        found = hookup({**parts, "r": {"kind": "resistor", "resistance": f"{ohm!r} Ω"}}, joins)
        return [note.text for note in findings(found) if "together" in note.text]

    assert shining(1.3 / 0.012) == []
    assert len(shining(1.3 / 0.01201)) == 1


NO_PIN = frozenset({"a plug too weak", "all pins together"})


@pytest.mark.parametrize("case", FAULTS)
def test_every_note_stands_at_pins_that_there_are(case: str) -> None:
    """A screen or a sheet can show it on its wire."""
    parts, joins, *_ = FAULTS[case]
    found = hookup(parts, joins, ALL)
    (note,) = findings(found)
    ends = {str(end) for end, _ in found.ends()}
    assert set(note.pins) <= ends
    # Of a whole board no single pin is to blame.
    assert note.pins or case in NO_PIN, note.text


@pytest.mark.parametrize(
    ("parts", "remedy"),
    [
        (
            {"node": "5 V board", "shelf": "chained modules", "clock": "digits with an address"},
            "add a supply of 3 to 5.5 V with 160 mA to spare; no rail that is in range has 160 mA left",
        ),
        (
            {"node": "3.3 V computer", "clock": {"kind": "sounder"}},
            "add a supply of 9 to 15 V with 30 mA to spare; no rail is in that range",
        ),
    ],
)
def test_a_part_that_finds_no_supply_is_told_what_it_needs(parts: dict[str, object], remedy: str) -> None:
    """The plug of the board gives 500 mA, and 450 are taken; or no rail has so many volts."""
    pins = (
        Pin("supply", ("supply",), lowest_v=9.0, highest_v=15.0, current_a=0.03),
        Pin("gnd", ("ground",)),
    )
    kinds = {**KINDS, "sounder": PartKind("sounder", "a sounder", "sensor", pins)}
    joins = "shelf.supply > node.5V; shelf.gnd > node.gnd; shelf.data > node.p1; shelf.select > node.p2; "
    joins += "shelf.clock > node.p3; clock.data > node.p15; clock.clock > node.p16; "
    joins = (joins if "shelf" in parts else "") + "clock.gnd > node.gnd"
    (note,) = [each for each in findings(hookup(parts, joins, kinds)) if "open" in each.text]
    assert note.text == "clock.supply (supply) is open."
    assert note.remedy == remedy


@pytest.mark.parametrize(("forward", "ohm"), [("3.4 V", "160 Ω"), ("3.6 V", "150 Ω")])
def test_a_lamp_that_drops_all_of_its_rail_goes_to_a_higher_one(forward: str, ohm: str) -> None:
    """(5 V − 3.4 V) ÷ 10 mA, and 140 Ω are 150 Ω in the series of resistors."""
    parts = {**NODE, "l": {"kind": "lamp", "forward": forward}, "r": {"kind": "resistor", "resistance": "100 Ω"}}
    before = hookup(parts, "l.+ > node.3V3 through r; l.− > node.gnd")
    (note,) = findings(before)
    assert note.text == "l.+ stays dark: node.3V3 gives no more than it drops."
    assert note.remedy == f"feed l.+ from node.5V, through {ohm}"
    assert findings(mended(before, note.mend)) == []


BATTERY = {"kind": "battery", "voltage": "5 V"}


@pytest.mark.parametrize(
    ("parts", "joins", "text", "remedy"),
    [
        (
            {**NODE, "b": BATTERY, "reg": {"kind": "regulator", "voltage": "5 V"}},
            "b.+ > reg.in; b.− > reg.gnd; reg.out > node.in; reg.gnd > node.gnd",
            "reg.in gets 5 V from b.+, too little to give 5 V: that takes 6.1 V.",
            "feed it from a supply of 6.1 V to 15 V, or put a step-up between",
        ),
        (
            {**NODE, "b": {"kind": "battery", "voltage": "24 V"}},
            "b.+ > node.in; b.− > node.gnd",
            "node.in gets 24 V from b.+, more than it tolerates (4.5 V to 5.5 V).",
            "feed it from a supply of 4.5 V to 5.5 V, or put a regulator between",
        ),
    ],
)
def test_what_goes_between_a_supply_and_what_it_does_not_suit(
    parts: dict[str, object], joins: str, text: str, remedy: str
) -> None:
    """Up where it is too low, down where it is too high; 24 V are more than a usual regulator takes, so no key."""
    found = [note for note in findings(hookup(parts, joins)) if note.text == text]
    assert [note.remedy for note in found] == [remedy], [note.text for note in findings(hookup(parts, joins))]
