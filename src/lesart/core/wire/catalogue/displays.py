"""Displays and lamps by their pins. How they show is for Glass; here it is what they are connected to."""

from __future__ import annotations

from lesart.core.parameters import Parameter
from lesart.core.wire.part import PartKind, Pin

_FORWARD = Parameter(
    "forward", "forward voltage", "quantity", "what a lit lamp drops", "2 V", unit="V", lowest=0.5, highest=40
)


def _wanted(default: str) -> Parameter:
    return Parameter(
        "current", "current", "quantity", "wanted while it is lit", default, unit="A", lowest=0, above=True, highest=10
    )


def _of_all(name: str, title: str, says: str) -> Parameter:
    """A current of all lamps of a chain, which follows from their number if nobody says it."""
    return Parameter(name, title, "quantity", says, unit="A", lowest=0, above=True, highest=200, optional=True)


_DUTY = Parameter("duty", "duty", "quantity", "share of the time that it is lit", "1", lowest=0, above=True, highest=1)
_BACKLIGHT = Parameter(
    "backlight_resistor",
    "resistor built in",
    "quantity",
    "before the backlight; measure it",
    "0 Ω",
    unit="Ω",
    lowest=0,
    highest=1e5,
)


def _segments() -> tuple[Pin, ...]:
    return tuple(Pin(name, ("segment",), optional=name == "dp") for name in ("a", "b", "c", "d", "e", "f", "g", "dp"))


DISPLAYS = (
    PartKind(
        "character display",
        "character display of sixteen pins, parallel, 5 V",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=4.5, highest_v=5.5, current_a=0.0015),
            Pin("contrast", ("contrast",)),
            Pin("rs", ("digital in",), needs_high_v=2.2),
            Pin("rw", ("ground", "digital in"), needs_high_v=2.2),
            Pin("e", ("digital in",), needs_high_v=2.2),
            *(Pin(f"d{bit}", ("digital in",), optional=bit < 4, needs_high_v=2.2) for bit in range(8)),
            Pin("lamp+", ("lamp +",)),
            Pin("lamp−", ("lamp −",)),
        ),
        (
            Parameter(
                "forward", "backlight drops", "quantity", "while it is lit", "3 V", unit="V", lowest=0.5, highest=40
            ),
            _wanted("20 mA"),
            _BACKLIGHT,
        ),
    ),
    PartKind(
        "two-wire character display",
        "character display with an adapter for the two-wire bus, four pins, 5 V",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=4.5, highest_v=5.5, current_a=0.025, peak_a=0.03),
            Pin("data", ("two-wire data",), pull_up_ohm=4_700.0, needs_high_v=3.0),
            Pin("clock", ("two-wire clock",), pull_up_ohm=4_700.0, needs_high_v=3.0),
        ),
        # Two expanders are usual on such adapters; they differ in their upper bits.
        addresses=(*range(0x27, 0x1F, -1), *range(0x3F, 0x37, -1)),
    ),
    PartKind(
        "two-wire pixel display",
        "pixel display of four pins on the two-wire bus",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=3.0, highest_v=5.5, current_a=0.01, peak_a=0.025),
            Pin("clock", ("two-wire clock",), pull_up_ohm=4_700.0, tolerates_v=5.5),
            Pin("data", ("two-wire data",), pull_up_ohm=4_700.0, tolerates_v=5.5),
        ),
        logic_v=3.3,
        addresses=(0x3C, 0x3D),
        orders=(("gnd", "supply", "clock", "data"), ("supply", "gnd", "clock", "data")),
    ),
    PartKind(
        "four-wire pixel display",
        "pixel display of seven pins on the four-wire bus, 3.3 V",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=2.7, highest_v=3.6, current_a=0.01, peak_a=0.025),
            Pin("clock", ("four-wire clock in",)),
            Pin("data", ("four-wire data in",)),
            Pin("reset", ("digital in",)),
            Pin("dc", ("digital in",)),
            Pin("select", ("select",)),
        ),
        orders=(
            ("gnd", "supply", "clock", "data", "reset", "dc", "select"),
            ("supply", "gnd", "clock", "data", "reset", "dc", "select"),
        ),
    ),
    PartKind(
        "e-paper display",
        "paper-like display of eight pins on the four-wire bus, 3.3 V, which says when it is busy",
        "display",
        (
            Pin("supply", ("supply",), lowest_v=2.4, highest_v=3.6, current_a=0.002, peak_a=0.02),
            Pin("gnd", ("ground",)),
            Pin("data", ("four-wire data in",)),
            Pin("clock", ("four-wire clock in",)),
            Pin("select", ("select",)),
            Pin("dc", ("digital in",)),
            Pin("reset", ("digital in",)),
            Pin("busy", ("digital out",)),
        ),
        orders=(("supply", "gnd", "data", "clock", "select", "dc", "reset", "busy"),),
    ),
    PartKind(
        "colour display",
        "display in colours of eight pins on the four-wire bus, its light among them",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=3.0, highest_v=5.5, current_a=0.04, peak_a=0.1),
            Pin("clock", ("four-wire clock in",), tolerates_v=3.6),
            Pin("data", ("four-wire data in",), tolerates_v=3.6),
            Pin("reset", ("digital in",), tolerates_v=3.6),
            Pin("dc", ("digital in",), tolerates_v=3.6),
            Pin("select", ("select",), tolerates_v=3.6),
            Pin("light", ("digital in",), tolerates_v=3.6, optional=True),
        ),
        orders=(
            ("gnd", "supply", "clock", "data", "reset", "dc", "select", "light"),
            ("supply", "gnd", "select", "reset", "dc", "data", "clock", "light"),
        ),
        logic_v=3.3,
    ),
    PartKind(
        "four digits",
        "four digits of seven segments, twelve pins, lit in turn",
        "display",
        (*_segments(), *(Pin(f"digit {number}", ("digit",)) for number in range(1, 5))),
        (_FORWARD, _wanted("5 mA"), Parameter(**{**_DUTY.__dict__, "default": "1/4"})),
    ),
    PartKind(
        "digits on registers",
        "digits behind two shift registers, one for the segments and one that chooses the digit, five pins",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=3.0, highest_v=5.5, current_a=0.04, peak_a=0.08),
            Pin("clock", ("digital in",)),
            Pin("data", ("digital in",)),
            Pin("latch", ("digital in",)),
        ),
    ),
    PartKind(
        "digits on two lines",
        "digits behind a driver of two lines, which has no address and scans by itself, four pins",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=3.0, highest_v=5.5, current_a=0.04, peak_a=0.08),
            Pin("clock", ("digital in",)),
            Pin("data", ("digital in",)),
        ),
    ),
    PartKind(
        "digits with an address",
        "digits behind a driver with sixteen bytes of memory on the two-wire bus, four pins",
        "display",
        (
            Pin("gnd", ("ground",)),
            Pin("supply", ("supply",), lowest_v=3.0, highest_v=5.5, current_a=0.06, peak_a=0.16),
            Pin("data", ("two-wire data",), pull_up_ohm=10_000.0),
            Pin("clock", ("two-wire clock",), pull_up_ohm=10_000.0),
        ),
        addresses=tuple(range(0x70, 0x78)),
        orders=(("gnd", "supply", "data", "clock"), ("supply", "gnd", "data", "clock")),
    ),
    PartKind(
        "numbered digits",
        "up to eight digits behind a driver that is sent the number of each, on three lines, five pins",
        "display",
        (
            Pin("supply", ("supply",), lowest_v=4.0, highest_v=5.5, current_a=0.15, peak_a=0.33),
            Pin("gnd", ("ground",)),
            Pin("data", ("digital in",), needs_high_v=3.5),
            Pin("select", ("digital in",), needs_high_v=3.5),
            Pin("clock", ("digital in",), needs_high_v=3.5),
        ),
    ),
    PartKind(
        "chained modules",
        "modules of eight by eight pixels one behind the other, each with its driver, on three lines, five pins",
        "display",
        (
            Pin("supply", ("supply",), lowest_v=4.0, highest_v=5.5, current_a=0.2, peak_a=0.4),
            Pin("gnd", ("ground",)),
            Pin("data", ("digital in",), needs_high_v=3.5),
            Pin("select", ("digital in",), needs_high_v=3.5),
            Pin("clock", ("digital in",), needs_high_v=3.5),
        ),
    ),
    PartKind(
        "colour lamps",
        "lamps in a chain on one line, each with three lights and a driver, three pins, 5 V",
        "display",
        (
            Pin("supply", ("supply",), lowest_v=4.5, highest_v=5.5),
            Pin("data", ("digital in",)),
            Pin("gnd", ("ground",)),
        ),
        (
            Parameter(
                "lamps",
                "lamps",
                "integer",
                "how many there are; as its panel has them, where it has one",
                8,
                lowest=1,
                highest=2048,
            ),
            _of_all("draws", "usual current", "usually; as its panel is lit, or with one of its lights in each lamp"),
            _of_all("at_worst", "current at worst", "while all are white; as bright as its panel is, or full"),
        ),
        orders=(("gnd", "data", "supply"), ("supply", "gnd", "data")),
    ),
    PartKind(
        "one digit",
        "one digit of seven segments, ten pins",
        "display",
        (*_segments(), Pin("common", ("lamp −",)), Pin("common 2", ("lamp −",), optional=True)),
        (_FORWARD, _wanted("5 mA"), _DUTY),
    ),
    PartKind(
        "buzzer",
        "sounds while its pin is high, two legs",
        "display",
        (Pin("+", ("digital in",), needs_high_v=2.0, load_a=0.03), Pin("−", ("ground",))),
    ),
    PartKind(
        "lamp",
        "a lamp of two legs",
        "display",
        (Pin("+", ("lamp +",)), Pin("−", ("lamp −",))),
        (_FORWARD, _wanted("10 mA"), _DUTY),
    ),
)
