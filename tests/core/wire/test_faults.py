"""Small hook-ups, each with exactly one fault and exactly its note; and what each remedy makes of it."""

from __future__ import annotations

import dataclasses

import pytest

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.part import PartKind, Pin
from tests.core.wire.hookups import findings, hookup, mended
from tests.figures import unsaid

POWER = "{0}.supply > node.3V3; {0}.gnd > node.gnd"
BUS = "{0}.clock > node.p16; {0}.data > node.p15"
NODE = {"node": "3.3 V board"}
STRONG = {"node": {"kind": "3.3 V board", "plug": "2 A"}}
BIG = {"node": "5 V board"}


def fed(*names: str, rail: str = "3V3") -> str:
    return ";".join(POWER.format(name).replace("3V3", rail) for name in names) + ";"


def bus(*names: str) -> str:
    return ";".join(BUS.format(name) for name in names) + ";"


SEGMENTS = ";".join(f"d.{name} > node.p{number} through r" for number, name in enumerate("abcdefg", 1))

GOOD = {
    "a sensor on one wire": ({**NODE, "lid": "single-wire sensor"}, fed("lid") + "lid.data > node.p1"),
    "two modules on the bus": (
        {**NODE, "air": "two-wire module", "pix": "two-wire pixel display"},
        fed("air", "pix") + bus("air", "pix"),
    ),
    "a bare sensor with pull-ups": (
        {**NODE, "s": "two-wire sensor", "up": {"kind": "resistor", "resistance": "4.7 kΩ"}},
        fed("s") + bus("s") + "node.p15 > node.3V3 through up; node.p16 > node.3V3 through up",
    ),
    "a thermistor with its fixed half": (
        {**NODE, "t": "thermistor", "r": {"kind": "resistor", "resistance": "10 kΩ"}},
        "t.1 > node.a1; t.2 > node.gnd; node.a1 > node.3V3 through r",
    ),
    "a lamp with a resistor": (
        {**NODE, "l": "lamp", "r": {"kind": "resistor", "resistance": "130 Ω"}},
        "l.+ > node.p1 through r; l.− > node.gnd",
    ),
    "a resistor at the lamp's other leg": (
        {**NODE, "l": "lamp", "r": {"kind": "resistor", "resistance": "130 Ω"}},
        "l.+ > node.p1; l.− > node.gnd through r",
    ),
    "an echo through a divider": (
        {**NODE, "e": "echo ranger", "d": {"kind": "divider", "upper": "1 kΩ", "lower": "1.8 kΩ"}},
        fed("e", rail="5V") + "e.start > node.p1; e.echo > node.p4 through d",
    ),
    "a board fed by a battery, grounds common": (
        {**NODE, "b": {"kind": "battery", "voltage": "5 V"}},
        "node.in > b.+; node.gnd > b.−",
    ),
    "a differential bus": (
        {**NODE, "d": "line driver", "m": "register meter", "s": {"kind": "supply", "voltage": "12 V"}},
        fed("d") + "d.out > node.p14; d.in > node.p13; d.enable > node.p1; m.A > d.A; m.B > d.B;"
        "m.supply > s.+; m.gnd > s.−; s.− > node.gnd",
    ),
}


@pytest.mark.parametrize("case", GOOD)
def test_a_hook_up_that_works_has_no_fault(case: str) -> None:
    assert findings(hookup(*GOOD[case])) == []


FAULTS: dict[str, tuple[dict, str, str, str, str, float | None, float | None]] = {
    # case: parts, joins, mark, part it speaks of, words of its text, figure, limit
    "a pin left open": (
        {**NODE, "lid": "single-wire sensor"},
        fed("lid"),
        FAULT,
        "lid",
        "lid.data (one wire) is open",
        1,
        0,
    ),
    "the supply left open": (
        {**NODE, "lid": "single-wire sensor"},
        "lid.gnd > node.gnd; lid.data > node.p1",
        FAULT,
        "lid",
        "lid.supply (supply) is open",
        1,
        0,
    ),
    "two jobs on one pin": (
        {**NODE, "lid": "single-wire sensor", "sw": "contact"},
        fed("lid") + "lid.data > node.p1; sw.1 > node.p1; sw.2 > node.gnd",
        FAULT,
        "sw",
        "node.p1 has two jobs: lid.data and sw.1",
        None,
        None,
    ),
    "a pulse on a pin that cannot time it": (
        {**NODE, "b": "beam counter"},
        fed("b") + "b.out > node.p12",
        FAULT,
        "b",
        "b.out (count out) does not work with node.p12 (digital, width out, four-wire in)",
        None,
        None,
    ),
    "a voltage on a digital pin": (
        {**NODE, "m": "analog sensor"},
        fed("m") + "m.out > node.p1",
        FAULT,
        "m",
        "m.out (analog out) does not work",
        None,
        None,
    ),
    "data and clock of the bus changed over": (
        {**NODE, "air": "two-wire module", "pix": "two-wire pixel display"},
        fed("air", "pix") + bus("pix") + "air.clock > node.p16; air.data > node.p14",
        FAULT,
        "air",
        "air.data (two-wire data) does not work with node.p14",
        None,
        None,
    ),
    "a short": (NODE, "node.5V > node.gnd", FAULT, "node", "a short of 5 V", None, None),
    "5 V on a 3.3 V module": (
        {**NODE, "m": "analog sensor", "air": "two-wire module", "pix": "two-wire pixel display"},
        fed("m", "pix") + "m.out > node.a1;" + bus("pix") + "air.gnd > node.gnd; air.supply > node.5V;"
        "air.clock > node.p16; air.data > node.p15",
        FAULT,
        "air",
        "air.supply gets 5 V from node.5V, more than it tolerates (1.8 V to 3.6 V)",
        5.0,
        3.6,
    ),
    "3.3 V for a 5 V part": (
        {**BIG, "e": "echo ranger"},
        "e.supply > node.3V3; e.gnd > node.gnd; e.start > node.p1; e.echo > node.p4",
        FAULT,
        "e",
        "e.supply gets 3.3 V from node.3V3, less than it works at (4.5 V to 5.5 V)",
        3.3,
        4.5,
    ),
    "a 5 V output into a 3.3 V input": (
        {**NODE, "e": "echo ranger"},
        fed("e", rail="5V") + "e.start > node.p1; e.echo > node.p4",
        FAULT,
        "e",
        "e.echo puts 5 V on node.p4, which tolerates only 3.6 V",
        5.0,
        3.6,
    ),
    "a 3.3 V output into a 5 V input": (
        {**NODE, "c": "clocked"},
        "c.gnd > node.gnd; c.supply > node.5V; c.in > node.p1",
        FAULT,
        "c",
        "node.p1 puts 3.3 V on c.in, which reads high only from 3.5 V",
        3.3,
        3.5,
    ),
    "a voltage above the converter's range": (
        {**NODE, "m": "rail-to-rail sensor"},
        fed("m", rail="5V") + "m.out > node.a1",
        FAULT,
        "m",
        "m.out puts 5 V on node.a1, which tolerates only 3.3 V",
        5.0,
        3.3,
    ),
    "a divider that divides too little": (
        {**NODE, "m": "rail-to-rail sensor", "d": {"kind": "divider", "upper": "1 kΩ", "lower": "3.3 kΩ"}},
        fed("m", rail="5V") + "m.out > node.a1 through d",
        FAULT,
        "m",
        "m.out puts 3.837 V on node.a1",
        5 * 3.3 / 4.3,
        3.3,
    ),
    "a rail too weak as usual": (
        {**STRONG, "h": "heater"},
        fed("h"),
        FAULT,
        "h",
        "node.3V3 gives 300 mA; h draws 350 mA",
        0.35,
        0.3,
    ),
    "a rail too weak for one peak": (
        {**STRONG, "r": "radio"},
        fed("r"),
        FAULT,
        "r",
        "node.3V3 gives 300 mA, too little for r at its peak of 350 mA: 350 mA in all",
        0.35,
        0.3,
    ),
    "a rail too weak if all peaks meet": (
        {**STRONG, "r": "half radio", "s": "half radio"},
        fed("r", "s"),
        DOUBT,
        "r",
        "node.3V3 gives 300 mA; if all peaks meet, 360 mA are drawn",
        0.36,
        0.3,
    ),
    "a plug too weak": (
        {"node": {"kind": "3.3 V board", "plug": "100 mA"}, "r": "half radio"},
        fed("r"),
        FAULT,
        "node",
        "The plug of node gives 100 mA, too little for node at its peak of 250 mA: 260 mA in all",
        0.26,
        0.1,
    ),
    "a battery too weak": (
        {**NODE, "b": {"kind": "battery", "voltage": "5 V", "current": "100 mA"}},
        "node.in > b.+; node.gnd > b.−",
        FAULT,
        "node",
        "b.+ gives 100 mA, too little for node at its peak of 250 mA",
        0.25,
        0.1,
    ),
    "an address taken twice": (
        {**NODE, "p": "two-wire pixel display", "q": "two-wire pixel display"},
        fed("p", "q") + bus("p", "q"),
        FAULT,
        "q",
        "q and p both answer at 0x3C",
        0x3C,
        None,
    ),
    "no pull-ups": (
        {**NODE, "s": "two-wire sensor"},
        fed("s") + bus("s"),
        FAULT,
        "node",
        "No pull-ups on the bus of node: its lines never rise and s cannot answer",
        None,
        None,
    ),
    "too many pull-ups": (
        {**NODE, "s": "two-wire sensor", "up": {"kind": "resistor", "resistance": "470 Ω"}},
        fed("s") + bus("s") + "node.p15 > node.3V3 through up; node.p16 > node.3V3 through up",
        FAULT,
        "up",
        "470 Ω at 3.3 V ask 6.17 mA of an output; the bus allows 3 mA",
        470.0,
        (3.3 - 0.4) / 0.003,
    ),
    "a bus too slow for its clock": (
        {
            "node": {"kind": "3.3 V board", "bus_clock": "400 kHz", "bus_wire": "1 m"},
            "s": "two-wire sensor",
            "up": {"kind": "resistor", "resistance": "10 kΩ"},
        },
        fed("s") + bus("s") + "node.p15 > node.3V3 through up; node.p16 > node.3V3 through up",
        FAULT,
        "node",
        "1020 ns with 10 kΩ and 120 pF; 300 ns are allowed at 400 kHz",
        0.847298 * 10e3 * 120e-12,
        300e-9,
    ),
    "pull-ups to 5 V on a 3.3 V bus": (
        {**NODE, "c": "two-wire character display"},
        fed("c", rail="5V") + bus("c"),
        FAULT,
        "c",
        "c pulls the bus up to 5 V, but node.p15 tolerates only 3.6 V",
        5.0,
        3.6,
    ),
    "pull-ups of one's own to 5 V": (
        {**NODE, "s": "two-wire sensor", "up": {"kind": "resistor", "resistance": "4.7 kΩ"}},
        fed("s") + bus("s") + "node.p15 > node.5V through up; node.p16 > node.5V through up",
        FAULT,
        "up",
        "up pulls the bus up to 5 V, but node.p15 tolerates only 3.6 V",
        5.0,
        3.6,
    ),
    "a lamp without a resistor": (
        {**NODE, "l": "lamp"},
        "l.+ > node.p1; l.− > node.gnd",
        FAULT,
        "l",
        "l.+: no resistor in its way from node.p1; nothing limits the current",
        None,
        None,
    ),
    "segments without resistors": (
        {**NODE, "d": "one digit"},
        SEGMENTS.replace(" through r", "") + "; d.common > node.gnd",
        FAULT,
        "d",
        "d.a to g: no resistor in their way",
        None,
        None,
    ),
    "a lamp that gets too much": (
        {**BIG, "l": "lamp", "r": {"kind": "resistor", "resistance": "160 Ω"}},
        "l.+ > node.p1 through r; l.− > node.gnd",
        FAULT,
        "l",
        "l.+ carries 18.8 mA, more than the 10 mA wanted",
        3 / 160,
        0.01,
    ),
    "a lamp that gets hardly anything": (
        {**NODE, "l": "lamp", "r": {"kind": "resistor", "resistance": "1 kΩ"}},
        "l.+ > node.p1 through r; l.− > node.gnd",
        DOUBT,
        "l",
        "l.+ carries 1.3 mA, much less than the 10 mA wanted",
        1.3e-3,
        0.01,
    ),
    "more than a pin can carry": (
        {**NODE, "l": {"kind": "lamp", "current": "20 mA"}, "r": {"kind": "resistor", "resistance": "68 Ω"}},
        "l.+ > node.p1 through r; l.− > node.gnd",
        FAULT,
        "l",
        "node.p1 has to carry 19.1 mA for l; it can carry 12 mA",
        1.3 / 68,
        0.012,
    ),
    "a digit's common without a transistor": (
        {**NODE, "d": "four digits", "r": {"kind": "resistor", "resistance": "270 Ω"}},
        SEGMENTS + ";" + ";".join(f"d.digit {n} > node.p{n + 8}" for n in range(1, 5)),
        FAULT,
        "d",
        "node.p9 has to carry 33.7 mA for d; it can carry 12 mA",
        7 * 1.3 / 270,
        0.012,
    ),
    "all pins together": (
        {**NODE, **{f"l{n}": "lamp" for n in range(1, 14)}, "r": {"kind": "resistor", "resistance": "130 Ω"}},
        ";".join(f"l{n}.+ > node.p{n} through r; l{n}.− > node.gnd" for n in range(1, 14)),
        FAULT,
        "node",
        "The pins of node carry 130 mA together; they can carry 120 mA",
        0.13,
        0.12,
    ),
    "a resistor too small for its heat": (
        {**BIG, "l": {"kind": "lamp", "current": "200 mA"}, "r": {"kind": "resistor", "resistance": "15 Ω"}},
        "l.+ > node.5V through r; l.− > node.gnd",
        FAULT,
        "l",
        "r turns 600 mW into heat; it is rated for 250 mW",
        0.6,
        0.25,
    ),
    "a backlight without a resistor": (
        {**BIG, "c": "character display", "p": "potentiometer"},
        "c.gnd > node.gnd; c.supply > node.5V; c.contrast > p.wiper; p.1 > node.5V; p.3 > node.gnd; c.rs > node.p1;"
        "c.rw > node.gnd; c.e > node.p2; c.d4 > node.p3; c.d5 > node.p4; c.d6 > node.p5; c.d7 > node.p6;"
        "c.lamp+ > node.5V; c.lamp− > node.gnd",
        FAULT,
        "c",
        "c.lamp+: no resistor in its way from node.5V",
        None,
        None,
    ),
    "a source the converter cannot read": (
        {
            **NODE,
            "t": {"kind": "thermistor", "resistance": "100 kΩ"},
            "r": {"kind": "resistor", "resistance": "100 kΩ"},
        },
        "t.1 > node.a1; t.2 > node.gnd; node.a1 > node.3V3 through r",
        DOUBT,
        "t",
        "t.1 reaches node.a1 through 50 kΩ; the converter reads rightly up to 10 kΩ",
        50e3,
        10e3,
    ),
    "a thermistor alone": (
        {**NODE, "t": "thermistor"},
        "t.1 > node.a1; t.2 > node.gnd",
        FAULT,
        "t",
        "t.1 is alone at node.a1; without a fixed resistor",
        None,
        None,
    ),
    "the fixed half to a rail above the converter": (
        {**NODE, "t": "thermistor", "r": {"kind": "resistor", "resistance": "10 kΩ"}},
        "t.1 > node.a1; t.2 > node.gnd; node.a1 > node.5V through r",
        FAULT,
        "node",
        "r pulls node.a1 up to 5 V; it tolerates only 3.3 V",
        5.0,
        3.3,
    ),
    "a board fed from what it feeds": (
        NODE,
        "node.in > node.5V",
        FAULT,
        "node",
        "node.in is fed by node.5V, which comes from node.in itself: nothing gives either of them power",
        None,
        None,
    ),
    "12 V on a board": (
        {**BIG, "s": {"kind": "supply", "voltage": "12 V"}},
        "node.in > s.+; node.gnd > s.−",
        FAULT,
        "node",
        "node.in gets 12 V from s.+, more than it tolerates (4.5 V to 5.5 V)",
        12.0,
        5.5,
    ),
    "a thermistor across the supply": (
        {**NODE, "t": "thermistor"},
        "t.1 > node.5V; t.2 > node.gnd",
        FAULT,
        "t",
        "Nothing reads t: t.1, t.2 go to node.5V and node.gnd only",
        None,
        None,
    ),
    "one resistor for all segments of a digit": (
        {**NODE, "d": "four digits", "r": {"kind": "resistor", "resistance": "270 Ω"}},
        SEGMENTS.replace(" through r", "")
        + ";"
        + ";".join(f"d.digit {n} > node.p{n + 8} through r" for n in range(1, 5)),
        DOUBT,
        "d",
        "A segment lit alone carries 4.81 mA, each of 7 only 0.688 mA",
        None,
        None,
    ),
    "grounds apart": (
        {**NODE, "m": "analog sensor", "b": {"kind": "battery", "voltage": "3.3 V"}},
        "m.supply > b.+; m.gnd > b.−; m.out > node.a1",
        FAULT,
        "m",
        "m and node have no common ground",
        None,
        None,
    ),
}

OWN = {
    kind.name: kind
    for kind in (
        PartKind(
            "clocked",
            "5 V logic",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=4.5, highest_v=5.5, current_a=0.001),
                Pin("gnd", ("ground",)),
                Pin("in", ("digital in",)),
            ),
        ),
        PartKind(
            "heater",
            "always on",
            "sensor",
            (Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.35), Pin("gnd", ("ground",))),
        ),
        PartKind(
            "radio",
            "bursts",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.02, peak_a=0.35),
                Pin("gnd", ("ground",)),
            ),
        ),
        PartKind(
            "half radio",
            "bursts",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.01, peak_a=0.18),
                Pin("gnd", ("ground",)),
            ),
        ),
    )
}
ALL = {**KINDS, **OWN}


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
        "a rail too weak if all peaks meet",
        "a plug too weak",
        "a battery too weak",
        "all pins together",
        "a source the converter cannot read",
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
    assert "air, pix are sold with more than one order of pins" in note.text
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
