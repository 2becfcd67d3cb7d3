"""The signals that makers meet most, each said in a line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Key, Written
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table

PLAIN = parse_unit("1")
COUNT = parse_unit("ct")


def _of(parameters: Sequence[Parameter], name: str, usual: Written) -> Parameter:
    return replace(next(each for each in parameters if each.name == name), default=usual)


def _of_law(kind: str, name: str, usual: Written, *places: Key, word: str = "") -> Ask:
    return Ask(word or name.replace("_", " "), _of(LAWS[kind].parameters, name, usual), places)


def _of_part(kind: str, name: str, usual: Written, part: str, word: str) -> Ask:
    return Ask(word, _of(PARTS[kind].parameters, name, usual), (("parts", part, name),))


BITS = _of_law("converter", "bits", 10, ("laws", 0, "bits"))
TOLERANCE = _of_part("resistor", "tolerance", "1 %", "half", "tolerance")
REFERENCE = _of_law("converter", "reference", "5 V", ("laws", 0, "reference"))


SIDE = _of_law("half of a divider", "sensor", "to ground", ("laws", 1, "sensor"))
"""At which end of the two it is: at the other one what rises falls."""


def _converter(said: Said) -> Table:
    return {"kind": "converter", "bits": said["bits"], "reference": said["reference"]}


def _bare(written: Written) -> str:
    """Without a tolerance."""
    return str(written).partition("±")[0].strip()


# A resistance in one half of a divider


def _half(said: Said, *laws: Table, part: Table | None = None, span: tuple[str, str] = ("-20 °C", "60 °C")) -> Sketch:
    parts: dict[str, Table] = {"probe": part} if part else {}
    parts["half"] = {"kind": "resistor", "resistance": said["fixed"], "tolerance": said["tolerance"]}
    # Its supply is the converter's, or the rail.
    half: Table = {"kind": "half of a divider", "sensor": said["sensor"], "part": "@half"}
    return Sketch((_converter(said), half, *laws), parts, "probe" if part else "", span=span)


def _thermistor(said: Said) -> Sketch:
    law: Table = {"kind": "thermistor by beta", "beta": said["beta"], "resistance": said["resistance"]}
    return _half(said, law, part={"kind": "thermistor", "resistance": _bare(said["resistance"])})


THERMISTOR_HALF = Recipe(
    "thermistor half",
    "a thermistor in series with a resistor, its tap on a converter",
    "a thermistor half on a 10-bit converter",
    (
        BITS,
        REFERENCE,
        _of_law(
            "thermistor by beta", "resistance", "10 kΩ", ("laws", 2, "resistance"), ("parts", "probe", "resistance")
        ),
        _of_part("resistor", "resistance", "10 kΩ", "half", "fixed"),
        TOLERANCE,
        _of_law("thermistor by beta", "beta", "3950 K", ("laws", 2, "beta")),
        SIDE,
    ),
    _thermistor,
)


def _platinum(said: Said) -> Sketch:
    return _half(said, {"kind": "platinum", "resistance": said["resistance"]})


PLATINUM_HALF = Recipe(
    "platinum half",
    "a platinum resistor in series with a resistor, its tap on a converter",
    "a platinum half on a 12-bit converter",
    (
        BITS,
        REFERENCE,
        _of_law("platinum", "resistance", "1 kΩ", ("laws", 2, "resistance")),
        _of_part("resistor", "resistance", "1 kΩ", "half", "fixed"),
        TOLERANCE,
        SIDE,
    ),
    _platinum,
)


def _photoresistor(said: Said) -> Sketch:
    """Its resistance falls as a power of the light: so many decades, γ, for each decade of it."""
    gamma = float(parse_quantity(_bare(said["gamma"]), PLAIN).value)
    law: Table = {
        "kind": "power",
        "input": said["resistance"],
        "output": "10 lx",
        "exponent": f"{-1.0 / gamma:.12g}",
    }
    return _half(said, law, span=("1 lx", "10000 lx"))


DARK = Parameter("resistance", "resistance at 10 lx", "quantity", "of the photoresistor", "20 kΩ", unit="Ω")
GAMMA = Parameter(
    "gamma", "gamma", "quantity", "decades of resistance for a decade of light", "0.7", unit="1", lowest=0.1, highest=3
)
PHOTORESISTOR_HALF = Recipe(
    "photoresistor half",
    "a photoresistor in series with a resistor, its tap on a converter",
    "a photoresistor half on a 10-bit converter",
    (
        BITS,
        REFERENCE,
        Ask("resistance", DARK, (("laws", 2, "input"),)),
        _of_part("resistor", "resistance", "10 kΩ", "half", "fixed"),
        TOLERANCE,
        Ask("gamma", GAMMA, (("laws", 2, "exponent"),)),
        _of_law("half of a divider", "sensor", "to supply", ("laws", 1, "sensor")),
    ),
    _photoresistor,
)

# A bridge


def _bridge(said: Said) -> Sketch:
    return Sketch(
        (
            {"kind": "bridge converter", "bits": said["bits"], "gain": said["gain"]},
            {"kind": "load cell", "capacity": said["capacity"], "sensitivity": said["sensitivity"]},
        ),
        {"cell": {"kind": "load cell"}, "amplifier": {"kind": "bridge amplifier"}},
        "cell",
        span=(_below_zero(_bare(said["capacity"])), _bare(said["capacity"])),
    )


def _below_zero(capacity: str) -> str:
    """A twentieth of what it carries: empty it reads noise about zero, and less where something was taken off."""
    carried = parse_quantity(capacity, parse_unit("kg"))
    return f"{-float(carried.value) / 20:g} {carried.unit}"


BRIDGE = Recipe(
    "bridge",
    "a load cell on a converter for bridges",
    "a bridge of 5 kg",
    (
        _of_law("load cell", "capacity", "5 kg", ("laws", 1, "capacity")),
        _of_law("load cell", "sensitivity", "1 mV/V", ("laws", 1, "sensitivity")),
        _of_law("bridge converter", "bits", 24, ("laws", 0, "bits")),
        _of_law("bridge converter", "gain", "128", ("laws", 0, "gain")),
    ),
    _bridge,
)

# Voltages


def _divided(said: Said) -> Sketch:
    divider: Table = {"kind": "divider", "upper": said["upper"], "lower": said["lower"]}
    return Sketch((_converter(said), {"kind": "divider", "part": "@divider"}), {"divider": divider})


VOLTAGE = Recipe(
    "voltage over a divider",
    "a voltage brought down to a converter by two resistors",
    "a voltage over a divider 30 kΩ 10 kΩ",
    (
        BITS,
        REFERENCE,
        _of_part("divider", "upper", "30 kΩ", "divider", "upper"),
        _of_part("divider", "lower", "10 kΩ", "divider", "lower"),
    ),
    _divided,
)

PLAIN_VOLTAGE = Recipe(
    "voltage on a converter",
    "a voltage straight on a converter",
    "a voltage on a converter of 12 bits",
    (BITS, REFERENCE),
    lambda said: Sketch((_converter(said),)),
)


def _straight(said: Said) -> Sketch:
    line: Table = {"kind": "linear", "input": said["zero"], "output": "0 °C", "slope": said["slope"]}
    return Sketch((_converter(said), line), {"probe": {"kind": "analog sensor"}}, "probe", span=("-20 °C", "60 °C"))


SLOPE = Parameter("slope", "slope", "quantity", "of the sensor", "10 mV/°C", unit="mV/K")
AT_ZERO = Parameter("zero", "voltage at 0 °C", "quantity", "of the sensor", "500 mV", unit="mV")
SENSOR = Recipe(
    "thermometer in volts",
    "a sensor that gives so many millivolts per degree, on a converter",
    "a thermometer in volts 10 mV/°C, zero = 500 mV",
    (BITS, REFERENCE, Ask("slope", SLOPE, (("laws", 1, "slope"),)), Ask("zero", AT_ZERO, (("laws", 1, "input"),))),
    _straight,
)


def _turned(said: Said) -> Sketch:
    volts = parse_quantity(_bare(said["reference"]), parse_unit("V"))
    line: Table = {
        "kind": "linear",
        "input": "0 V",
        "output": "0 %",
        "slope": f"{float(100 / volts.value):g} %/{volts.unit}",
    }
    return Sketch((_converter(said), line), {"knob": {"kind": "potentiometer"}}, "knob", span=("0 %", "100 %"))


KNOB = Recipe(
    "knob", "a potentiometer between supply and ground, in per cent", "a knob on a 10-bit converter",
    (BITS, REFERENCE), _turned,
)  # fmt: skip


def _loop(said: Said) -> Sketch:
    return Sketch(
        (
            _converter(said),
            {"kind": "shunt", "part": "@shunt"},
            {"kind": "current loop", "low": said["low"], "high": said["high"]},
        ),
        {"shunt": {"kind": "resistor", "resistance": said["shunt"]}},
        span=(_bare(said["low"]), _bare(said["high"])),
    )


LOOP = Recipe(
    "current loop",
    "4 to 20 mA through a resistor, read by a converter",
    "a current loop low = 0 bar, high = 10 bar",
    (
        BITS,
        REFERENCE,
        _of_part("resistor", "resistance", "165 Ω", "shunt", "shunt"),
        _of_law("current loop", "low", "0 %", ("laws", 2, "low")),
        _of_law("current loop", "high", "100 %", ("laws", 2, "high")),
    ),
    _loop,
)

# Pulses and times


def _wheel(said: Said) -> Sketch:
    return Sketch(
        ({"kind": "gate rate", "gate": said["gate"], "marks": said["marks"], "per": said["per"]},), jumps=True
    )


WHEEL = Recipe(
    "wheel's pulses",
    "pulses counted over a gate time, as turns per minute",
    "a wheel's pulses, marks = 20",
    (
        _of_law("gate rate", "gate", "1 s", ("laws", 0, "gate")),
        _of_law("gate rate", "marks", "1", ("laws", 0, "marks")),
        _of_law("gate rate", "per", "1/min", ("laws", 0, "per")),
    ),
    _wheel,
)

TURNS = Recipe(
    "time between pulses",
    "a time for each pulse, as turns per minute",
    "a time between pulses, marks = 2",
    (
        _of_law("interval rate", "marks", "1", ("laws", 0, "marks")),
        _of_law("interval rate", "per", "1/min", ("laws", 0, "per")),
    ),
    lambda said: Sketch(
        ({"kind": "interval rate", "marks": said["marks"], "per": said["per"]},), raw_unit="µs", jumps=True
    ),
)

ECHO = Recipe(
    "time of an echo",
    "a ranger's answer, as a distance through air",
    "a time of an echo in air of 20 °C",
    (_of_law("echo", "air", "20 °C", ("laws", 0, "air")),),
    lambda said: Sketch(({"kind": "echo", "air": said["air"]},), raw_unit="µs", jumps=True),
)

# Figures that are finished, or nearly

UNIT = Ask("unit", Parameter("unit", "unit", "unit", "that it is in", "°C"), (("channel", "unit"),))


def _already(said: Said) -> Sketch:
    return Sketch(raw_unit=str(said["unit"]))


ALREADY = Recipe(
    "already in", "a reading that is finished already", "already in °C", (UNIT,), _already, "already in °C"
)

STEP = Parameter("step", "step", "any quantity", "that one count means", "0.1 °C")


def _counts(said: Said) -> Sketch:
    step = parse_quantity(str(said["step"]), PLAIN)
    zero = "0" if step.unit == PLAIN else f"0 {step.unit}"
    slope = f"{float(step.value):g} {_step_of(step.unit)}/ct"
    return Sketch(({"kind": "linear", "input": "0 ct", "output": zero, "slope": slope},))


def _step_of(unit: Unit) -> str:
    return unit.step.symbol


COUNTS = Recipe(
    "count of",
    "whole numbers worth so much each, as registers and digital sensors give",
    "a count of 0.1 °C",
    (Ask("step", STEP, (("laws", 0, "slope"),)),),
    _counts,
    "a count of 0.1 °C",
)

BEGIN = Parameter("begin", "begin", "any quantity", "raw value at 0 %", "0 ct")
END = Parameter("end", "end", "any quantity", "raw value at 100 %", "1023 ct")


def _share(said: Said) -> Sketch:
    begin, end = (parse_quantity(_bare(said[word]), COUNT) for word in ("from", "to"))
    if begin.unit == PLAIN and end.unit == PLAIN:
        begin, end = replace(begin, unit=COUNT), replace(end, unit=COUNT)
    span = end.to(begin.unit) - float(begin.value)
    if not span:
        raise RequestError(f"A share goes from one raw value to another, not from {said['from']} to {said['to']}.")
    slope = f"{100.0 / span:.12g} %/{begin.unit.step.symbol}"
    line: Table = {
        "kind": "linear",
        "input": f"{float(begin.value):.12g} {begin.unit}",
        "output": "0 %",
        "slope": slope,
    }
    return Sketch((line,), span=("0 %", "100 %"))


SHARE = Recipe(
    "share",
    "in per cent, from one raw value to another, as of moisture from dry to wet",
    "a share from 0 ct to 1023 ct",
    (Ask("from", BEGIN, (("laws", 0, "input"),)), Ask("to", END, (("laws", 0, "slope"),))),
    _share,
)

SIGNALS = {
    each.name: each
    for each in (
        THERMISTOR_HALF,
        BRIDGE,
        WHEEL,
        VOLTAGE,
        ALREADY,
        COUNTS,
        SENSOR,
        PLAIN_VOLTAGE,
        LOOP,
        PLATINUM_HALF,
        KNOB,
        TURNS,
        ECHO,
        PHOTORESISTOR_HALF,
        SHARE,
    )
}
"""By name, the usual ones first."""
