"""Sensors and the drivers they speak through, each by its pins and how it speaks.

Currents and levels are the usual ones of such modules; whoever has the data sheet writes a kind of their own.
"""

from __future__ import annotations

from lesart.core.parameters import Parameter
from lesart.core.wire.part import PartKind, Pin


def _supply(lowest_v: float, highest_v: float, current_a: float, peak_a: float | None = None) -> tuple[Pin, Pin]:
    """The supply and ground pins of nearly every module."""
    return (
        Pin(
            "supply",
            ("supply",),
            lowest_v=lowest_v,
            highest_v=highest_v,
            current_a=current_a,
            peak_a=peak_a or current_a,
        ),
        Pin("gnd", ("ground",)),
    )


def _bus(pull_up_ohm: float | None) -> tuple[Pin, Pin]:
    return (
        Pin("clock", ("two-wire clock",), pull_up_ohm=pull_up_ohm),
        Pin("data", ("two-wire data",), pull_up_ohm=pull_up_ohm),
    )


def _bridge() -> tuple[Pin, ...]:
    return (
        Pin("E+", ("excitation +",)),
        Pin("E−", ("excitation −",)),
        Pin("A+", ("bridge +",)),
        Pin("A−", ("bridge −",)),
    )


def _pressed() -> Pin:
    return Pin("switch", ("contact",), optional=True)


_RESISTANCE_25 = Parameter(
    "resistance",
    "resistance",
    "quantity",
    "at 25 °C, or in the middle of its range",
    "10 kΩ",
    unit="Ω",
    lowest=0,
    above=True,
    highest=1e9,
)

SENSORS = (
    PartKind(
        "two-wire module",
        "sensor module of four pins on the two-wire bus, 3.3 V",
        "sensor",
        (*_supply(1.8, 3.6, 0.001), *_bus(10_000.0)),
        addresses=(0x76, 0x77),
        orders=(("supply", "gnd", "clock", "data"), ("gnd", "supply", "data", "clock")),
    ),
    PartKind(
        "two-wire sensor",
        "bare sensor on the two-wire bus, 3.3 V, no pull-ups of its own",
        "sensor",
        (*_supply(1.8, 3.6, 0.001), *_bus(None)),
        addresses=(0x40, 0x41, 0x44, 0x45),
    ),
    PartKind(
        "four-wire module",
        "sensor module on the four-wire bus, six pins, 3.3 V",
        "sensor",
        (
            *_supply(1.8, 3.6, 0.001),
            Pin("clock", ("four-wire clock in",)),
            Pin("out", ("four-wire data out",)),
            Pin("in", ("four-wire data in",), optional=True),
            Pin("select", ("select",)),
        ),
        orders=(("supply", "gnd", "clock", "out", "in", "select"), ("gnd", "supply", "clock", "select", "out", "in")),
    ),
    PartKind(
        "inertial module",
        "acceleration and rate of turn on the two-wire bus, with an interrupt",
        "sensor",
        (*_supply(3.0, 5.5, 0.004, 0.005), *_bus(4_700.0), Pin("int", ("count out",), optional=True, gives_v=3.3)),
        addresses=(0x68, 0x69),
        logic_v=3.3,
    ),
    PartKind(
        "single-wire sensor",
        "three pins, single wire, 40 bits by pulse length, sum checksum",
        "sensor",
        (*_supply(3.0, 5.5, 0.001, 0.0025), Pin("data", ("one wire",))),
        orders=(("supply", "data", "gnd"), ("data", "supply", "gnd")),
    ),
    PartKind(
        "analog sensor",
        "three pins, gives a voltage",
        "sensor",
        (*_supply(2.7, 5.5, 0.001), Pin("out", ("analog out",), gives_v=1.75, source_ohm=1_000.0)),
        orders=(("supply", "out", "gnd"), ("gnd", "out", "supply")),
    ),
    PartKind(
        "rail-to-rail sensor",
        "three pins, gives a voltage up to its supply",
        "sensor",
        (*_supply(2.7, 5.5, 0.005), Pin("out", ("analog out",), source_ohm=1_000.0)),
        orders=(("supply", "gnd", "out"), ("out", "gnd", "supply")),
    ),
    PartKind(
        "microphone module",
        "three pins, gives a voltage about half its supply",
        "sensor",
        (*_supply(2.4, 5.5, 0.003), Pin("out", ("analog out",), source_ohm=200.0)),
        orders=(("supply", "gnd", "out"), ("out", "gnd", "supply")),
    ),
    PartKind(
        "echo ranger",
        "four pins, a start pulse asks, the width of a pulse answers, 5 V",
        "sensor",
        (
            *_supply(4.5, 5.5, 0.004, 0.015),
            Pin("start", ("digital in",), needs_high_v=2.4),
            Pin("echo", ("pulse out",)),
        ),
    ),
    PartKind(
        "beam counter",
        "light beam of three pins, a pulse for each that passes",
        "sensor",
        (*_supply(3.0, 5.5, 0.015, 0.02), Pin("out", ("count out",))),
        orders=(("supply", "gnd", "out"), ("gnd", "supply", "out")),
    ),
    PartKind(
        "switching sensor",
        "three pins, high or low: motion, touch, tilt, a level that is passed",
        "sensor",
        (*_supply(3.0, 5.5, 0.005, 0.02), Pin("out", ("digital out",))),
        orders=(("supply", "out", "gnd"), ("gnd", "out", "supply")),
    ),
    PartKind(
        "rotary encoder",
        "a knob on a module of five pins: two contacts that close in turn, and one that is pressed",
        "sensor",
        (*_supply(3.0, 5.5, 0.001), Pin("A", ("count out",)), Pin("B", ("count out",)), _pressed()),
        orders=(("A", "B", "switch", "supply", "gnd"), ("gnd", "supply", "switch", "B", "A")),
    ),
    PartKind(
        "joystick",
        "a lever on a module of five pins: two potentiometers, and a contact that is pressed",
        "sensor",
        (
            *_supply(3.0, 5.5, 0.001),
            Pin("x", ("analog out",), source_ohm=2_500.0),
            Pin("y", ("analog out",), source_ohm=2_500.0),
            _pressed(),
        ),
        orders=(("gnd", "supply", "x", "y", "switch"),),
    ),
    PartKind(
        "contact",
        "a switch, reed or button",
        "sensor",
        (Pin("1", ("contact",)), Pin("2", ("contact", "ground"), optional=False)),
    ),
    PartKind(
        "thermistor",
        "a resistance that falls with temperature",
        "sensor",
        (Pin("1", ("element",)), Pin("2", ("element",))),
        (_RESISTANCE_25,),
    ),
    PartKind(
        "resistive sensor",
        "two legs, a resistance that follows what it measures: light, force, bend, heat",
        "sensor",
        (Pin("1", ("element",)), Pin("2", ("element",))),
        (Parameter(**{**_RESISTANCE_25.__dict__, "help": "in the middle of its range"}),),
    ),
    PartKind(
        "potentiometer",
        "a turned resistance with a tap",
        "sensor",
        (Pin("1", ("element",)), Pin("wiper", ("wiper",)), Pin("3", ("element",))),
        (
            Parameter(
                "resistance",
                "resistance",
                "quantity",
                "from end to end",
                "10 kΩ",
                unit="Ω",
                lowest=0,
                above=True,
                highest=1e9,
            ),
            Parameter(
                "turned", "turned", "quantity", "share from pin 1 to the wiper", "50 %", unit="%", lowest=0, highest=100
            ),
        ),
    ),
    PartKind(
        "load cell",
        "a bridge of strain gauges, four wires",
        "sensor",
        _bridge(),
        (
            Parameter(
                "resistance",
                "resistance",
                "quantity",
                "of the bridge, as measured between E+ and E−",
                "1 kΩ",
                unit="Ω",
                lowest=0,
                above=True,
                highest=1e6,
            ),
        ),
    ),
    PartKind(
        "bridge amplifier",
        "converter for a bridge, asked with a clock line, 24 bits",
        "sensor",
        (*_supply(2.7, 5.5, 0.0015), Pin("data", ("digital out",)), Pin("clock", ("digital in",)), *_bridge()),
    ),
    PartKind(
        "line driver",
        "from serial to the differential bus",
        "driver",
        (
            *_supply(3.0, 5.5, 0.001, 0.06),
            Pin("out", ("serial send",)),
            Pin("in", ("serial receive",)),
            Pin("enable", ("digital in",)),
            Pin("A", ("line A",)),
            Pin("B", ("line B",)),
        ),
    ),
    PartKind(
        "register meter",
        "meter with registers on the differential bus",
        "sensor",
        (*_supply(4.5, 30.0, 0.01, 0.03), Pin("A", ("line A",)), Pin("B", ("line B",))),
    ),
)
"""Kinds of sensors, and the driver that some of them speak through."""
