"""Boards and what feeds them. Their pins are spread by our own rules; a real board is written as a kind of one's own.

Figures are the usual ones of such boards: 12 mA a pin at 3.3 V, 20 mA at 5 V, a converter that wants at most 10 kΩ.
"""

from __future__ import annotations

from lesart.core.parameters import Parameter
from lesart.core.wire.part import PartKind, Pin

DROPOUT_V = 1.1
"""Of a usual regulator at its current; one of a low dropout has a quarter of it. Data sheets."""
SAMPLING_OHM = 10_000.0
"""Greatest source resistance a sampling converter reads rightly; usual in data sheets."""
BUS_TABLE = (
    Parameter(
        "bus_clock", "bus clock", "quantity", "of the two-wire bus", "100 kHz", unit="Hz", lowest=1e3, highest=1e6
    ),
    Parameter(
        "bus_wire",
        "bus wire",
        "quantity",
        "length of the two-wire bus, all branches",
        "0.3 m",
        unit="m",
        lowest=0,
        highest=100,
    ),
)
RAILS_WITHIN = Parameter(
    "rails_within",
    "rails within",
    "quantity",
    "how far what it gives may be off; 0: nobody says",
    "0 %",
    unit="%",
    lowest=0,
    highest=50,
)
RAILS_TABLE = (
    RAILS_WITHIN,
    Parameter(
        "reference",
        "reference",
        "quantity",
        "of its converter; 0: the rail of its signals",
        "0 V",
        unit="V",
        lowest=0,
        highest=60,
    ),
    Parameter(
        "converter_bits", "converter bits", "integer", "that really come; 0: nobody says", 0, lowest=0, highest=32
    ),
)
"""Facts that the laws of channels take from a board which reads them."""
PLUG = Parameter(
    "plug",
    "plug",
    "quantity",
    "what its own plug gives, for when nothing else feeds it",
    "500 mA",
    unit="A",
    lowest=0,
    highest=10,
)


def _most_current(says: str, default: str) -> Parameter:
    return Parameter("current", "most current", "quantity", says, default, unit="A", lowest=0, above=True, highest=100)


def _signals(level_v: float, current_a: float, count: int = 16) -> tuple[Pin, ...]:
    """The first eight answer edges, 4 to 7 time them, 9 to 14 give widths, 15 and 16 are the bus, more are plain."""
    more: dict[int, tuple[str, ...]] = {10: ("four-wire clock",), 11: ("four-wire out",), 12: ("four-wire in",)}
    more |= {13: ("serial send",), 14: ("serial receive",), 15: ("two-wire data",), 16: ("two-wire clock",)}
    pins = []
    for number in range(1, count + 1):
        roles = ["digital"]
        if number <= 8:
            roles.append("interrupt")
        if 4 <= number <= 7:
            roles.append("capture")
        if 9 <= number <= 14:
            roles.append("width out")
        pins.append(
            Pin(
                f"p{number}",
                (*roles, *more.get(number, ())),
                optional=True,
                gives_v=level_v,
                tolerates_v=round(level_v + 0.3, 6),
                current_a=current_a,
            )
        )
    return tuple(pins)


def _analog(count: int, level_v: float) -> tuple[Pin, ...]:
    return tuple(
        Pin(f"a{number}", ("analog in",), optional=True, tolerates_v=level_v, accepts_ohm=SAMPLING_OHM)
        for number in range(1, count + 1)
    )


def _rails(own_a: float, peak_a: float) -> tuple[Pin, ...]:
    """Fed at ``in`` or by the plug; 5 V goes through, 3.3 V comes from a regulator on the board."""
    return (
        Pin("in", ("supply",), optional=True, lowest_v=4.5, highest_v=5.5, current_a=own_a, peak_a=peak_a),
        Pin("5V", ("supply out",), optional=True, gives_v=5.0, current_a=1.0, fed_by="in"),
        Pin("3V3", ("supply out",), optional=True, gives_v=3.3, current_a=0.3, fed_by="in"),
        Pin("gnd", ("ground",), optional=True),
    )


BOARDS = (
    PartKind(
        "3.3 V board",
        "controller board, 3.3 V signals, 16 pins and 4 analog inputs",
        "board",
        (*_rails(0.05, 0.25), *_signals(3.3, 0.012), *_analog(4, 3.3)),
        (*BUS_TABLE, *RAILS_TABLE, PLUG),
        logic_v=3.3,
        total_a=0.12,
    ),
    PartKind(
        "5 V board",
        "controller board, 5 V signals, 16 pins and 6 analog inputs",
        "board",
        (*_rails(0.03, 0.05), *_signals(5.0, 0.020), *_analog(6, 5.0)),
        (*BUS_TABLE, *RAILS_TABLE, PLUG),
        logic_v=5.0,
        total_a=0.2,
    ),
    PartKind(
        "large 3.3 V board",
        "controller board, 3.3 V signals, 26 pins and 6 analog inputs",
        "board",
        (*_rails(0.05, 0.25), *_signals(3.3, 0.012, 26), *_analog(6, 3.3)),
        (*BUS_TABLE, *RAILS_TABLE, PLUG),
        logic_v=3.3,
        total_a=0.12,
    ),
    PartKind(
        "3.3 V computer",
        "small computer with 3.3 V pins and no analog input",
        "board",
        (*_rails(0.4, 1.2), *_signals(3.3, 0.008)),
        (*BUS_TABLE, Parameter(**{**PLUG.__dict__, "default": "2.5 A"})),
        logic_v=3.3,
        total_a=0.05,
    ),
    PartKind(
        "battery",
        "a battery of any kind",
        "source",
        (Pin("+", ("supply out",), optional=True), Pin("−", ("ground",))),
        (
            Parameter("voltage", "voltage", "quantity", "while it is used", unit="V", lowest=0.5, highest=60),
            _most_current("what it gives without harm", "1 A"),
            Parameter(
                "capacity",
                "capacity",
                "quantity",
                "as printed on it",
                "2 Ah",
                unit="Ah",
                lowest=0,
                above=True,
                highest=1000,
            ),
            Parameter(
                "usable",
                "usable",
                "quantity",
                "share of the capacity that cold and age leave",
                "80 %",
                unit="%",
                lowest=1,
                highest=100,
            ),
        ),
    ),
    PartKind(
        "supply",
        "mains adapter or bench supply",
        "source",
        (Pin("+", ("supply out",), optional=True), Pin("−", ("ground",))),
        (
            Parameter("voltage", "voltage", "quantity", "what it gives", "5 V", unit="V", lowest=0.5, highest=60),
            _most_current("the most it gives", "1 A"),
            RAILS_WITHIN,
        ),
    ),
    PartKind(
        "step-up",
        "converter module that makes a higher voltage of a lower one",
        "source",
        (
            Pin("in", ("supply",), lowest_v=0.9, highest_v=5.0, current_a=0.0005),
            Pin("gnd", ("ground",)),
            Pin("out", ("supply out",), optional=True, fed_by="in"),
        ),
        (
            Parameter("voltage", "voltage", "quantity", "what it gives", "5 V", unit="V", lowest=0.5, highest=60),
            _most_current("the most it gives", "1 A"),
            Parameter(
                "efficiency",
                "efficiency",
                "quantity",
                "share of the power that comes out again",
                "85 %",
                unit="%",
                lowest=1,
                highest=100,
            ),
            RAILS_WITHIN,
        ),
    ),
    PartKind(
        "regulator",
        "regulator module of three pins",
        "source",
        (
            Pin("in", ("supply",), lowest_v=2.5, highest_v=15.0, current_a=0.005),
            Pin("gnd", ("ground",)),
            Pin("out", ("supply out",), optional=True, fed_by="in"),
        ),
        (
            Parameter("voltage", "voltage", "quantity", "what it gives", "3.3 V", unit="V", lowest=0.5, highest=14),
            _most_current("the most it gives", "0.8 A"),
            Parameter(
                "dropout",
                "dropout",
                "quantity",
                "what it needs above what it gives",
                f"{DROPOUT_V:g} V",
                unit="V",
                lowest=0,
                highest=10,
            ),
            Parameter(
                "heat",
                "heat",
                "quantity",
                "that it gets rid of as it stands, without a heat sink",
                "1 W",
                unit="W",
                lowest=0,
                above=True,
                highest=100,
            ),
            RAILS_WITHIN,
        ),
        orders=(("gnd", "out", "in"), ("in", "gnd", "out")),
    ),
)
