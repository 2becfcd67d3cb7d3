"""Boards and what feeds them. Their pins are spread by our own rules; a real board is written as a kind of one's own.

Figures are the usual ones of such boards: 12 mA a pin at 3.3 V, 20 mA at 5 V, a converter that wants at most 10 kΩ.
"""

from __future__ import annotations

from lesart.core.parameters import Parameter
from lesart.core.wire.part import PartKind, Pin
from lesart.core.wire.pinout import laid_out, pinout_table

DROPOUT_V = 1.1
"""Dropout of a usual regulator at its current; a low-dropout one has a quarter of it. Source: data sheets."""
SAMPLING_OHM = 10_000.0
"""Greatest source resistance that a sampling converter reads correctly; usual in data sheets."""
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
    "how far what it gives may be off; 0: not stated",
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
        "converter_bits", "converter bits", "integer", "that really come; 0: not stated", 0, lowest=0, highest=32
    ),
)
"""Facts that the laws of channels take from the board that reads them."""
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


def _signals(level_v: float, current_a: float) -> tuple[Pin, ...]:
    """What a signal pin tolerates and carries; the pinout says which pins there are."""
    most_v = round(level_v + 0.3, 6)
    return (Pin("p1", ("digital",), optional=True, gives_v=level_v, tolerates_v=most_v, current_a=current_a),)


def _analog(level_v: float) -> tuple[Pin, ...]:
    return (Pin("a1", ("analog in",), optional=True, tolerates_v=level_v, accepts_ohm=SAMPLING_OHM),)


def _rails(own_a: float, peak_a: float) -> tuple[Pin, ...]:
    """Rails of a board fed at ``in`` or by its plug; 5 V goes through, 3.3 V comes from a regulator on the board."""
    return (
        Pin("in", ("supply",), optional=True, lowest_v=4.5, highest_v=5.5, current_a=own_a, peak_a=peak_a),
        Pin("5V", ("supply out",), optional=True, gives_v=5.0, current_a=1.0, fed_by="in"),
        Pin("3V3", ("supply out",), optional=True, gives_v=3.3, current_a=0.3, fed_by="in"),
        Pin("gnd", ("ground",), optional=True),
    )


def _controller(
    name: str,
    says: str,
    rails: tuple[Pin, ...],
    signals: tuple[Pin, ...],
    *,
    pinout: tuple[str, str],
    plug: str,
    total_a: float,
) -> PartKind:
    """A board with signal pins, and analog ones where its pinout has any."""
    level_v = signals[0].gives_v
    own = pinout_table(*pinout)
    table = (*BUS_TABLE, *(RAILS_TABLE if pinout[1] else ()), Parameter(**{**PLUG.__dict__, "default": plug}), *own)
    kind = PartKind(name, says, "board", (*rails, *signals), table, logic_v=level_v, total_a=total_a)
    spread, wrong = laid_out(kind, {each.name: each.default for each in own})
    assert not wrong, wrong
    return spread


BOARDS = (
    _controller(
        "3.3 V board",
        "controller board, 3.3 V signals, 16 pins and 4 analog inputs",
        _rails(0.05, 0.25),
        (*_signals(3.3, 0.012), *_analog(3.3)),
        pinout=("p1-p16", "a1-a4"),
        plug="500 mA",
        total_a=0.12,
    ),
    _controller(
        "5 V board",
        "controller board, 5 V signals, 16 pins and 6 analog inputs",
        _rails(0.03, 0.05),
        (*_signals(5.0, 0.020), *_analog(5.0)),
        pinout=("p1-p16", "a1-a6"),
        plug="500 mA",
        total_a=0.2,
    ),
    _controller(
        "large 3.3 V board",
        "controller board, 3.3 V signals, 26 pins and 6 analog inputs",
        _rails(0.05, 0.25),
        (*_signals(3.3, 0.012), *_analog(3.3)),
        pinout=("p1-p26", "a1-a6"),
        plug="500 mA",
        total_a=0.12,
    ),
    _controller(
        "3.3 V computer",
        "small computer with 3.3 V pins and no analog input",
        _rails(0.4, 1.2),
        _signals(3.3, 0.008),
        pinout=("p1-p16", ""),
        plug="2.5 A",
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
                "that it gets rid of by itself, without a heat sink",
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
