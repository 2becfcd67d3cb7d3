"""Voltages and currents on a converter, and their meanings."""

from __future__ import annotations

import math
from dataclasses import replace
from fractions import Fraction

from lesart.core.errors import RequestError
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity, beside_unit, parse_quantity
from lesart.core.units import ratio_symbol
from lesart.desk.entries.recipes.questions import (
    BITS,
    OHM,
    PERCENT,
    PLAIN,
    REFERENCE,
    VOLT,
    bare,
    converter,
    of_law,
    of_part,
)
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table


def _divided(said: Said) -> Sketch:
    divider: Table = {"kind": "divider", "upper": said["upper"], "lower": said["lower"]}
    return Sketch((converter(said), {"kind": "divider", "part": "@divider"}), {"divider": divider})


VOLTAGE = Recipe(
    "voltage over a divider",
    "a voltage brought down to a converter by two resistors",
    "a voltage over a divider 30 kΩ 10 kΩ",
    (
        BITS,
        REFERENCE,
        of_part("divider", "upper", "30 kΩ", "divider", "upper"),
        of_part("divider", "lower", "10 kΩ", "divider", "lower"),
    ),
    _divided,
)


def _divided_by(said: Said) -> Sketch:
    """The law that undoes a divider whose resistors are not stated."""
    ratio = float(parse_quantity(bare(said["ratio"]), PLAIN).value)
    line: Table = {"kind": "linear", "input": "0 V", "output": "0 V", "slope": f"{ratio:.12g} V/V"}
    return Sketch((converter(said), line))


RATIO = Parameter("ratio", "ratio", "quantity", "of what comes in to what is read", "4", lowest=1, highest=1e6)
DIVIDED = Recipe(
    "voltage divided by",
    "a voltage brought down to a converter by a known factor, by whatever means",
    "a voltage divided by 11",
    (BITS, REFERENCE, Ask("ratio", RATIO, (("laws", 1, "slope"),))),
    _divided_by,
)

PLAIN_VOLTAGE = Recipe(
    "voltage on a converter",
    "a voltage straight on a converter",
    "a voltage on a converter of 12 bits",
    (BITS, REFERENCE),
    lambda said: Sketch((converter(said),)),
)


def _straight(said: Said) -> Sketch:
    line: Table = {"kind": "linear", "input": said["zero"], "output": "0 °C", "slope": said["slope"]}
    return Sketch((converter(said), line), {"probe": {"kind": "analog sensor"}}, "probe", span=("-20 °C", "60 °C"))


SLOPE = Parameter("slope", "slope", "quantity", "of the sensor", "10 mV/°C", unit="mV/K")
AT_ZERO = Parameter("zero", "voltage at 0 °C", "quantity", "of the sensor", "500 mV", unit="mV")
SENSOR = Recipe(
    "thermometer in volts",
    "a sensor that gives millivolts per degree, on a converter",
    "a thermometer in volts 10 mV/°C, zero = 500 mV",
    (BITS, REFERENCE, Ask("slope", SLOPE, (("laws", 1, "slope"),)), Ask("zero", AT_ZERO, (("laws", 1, "input"),))),
    _straight,
)


def between(begin: Quantity, end: Quantity, low: Quantity, high: Quantity) -> Table:
    """A line through two points, in what a sensor gives and in what that means. Raises RequestError where they do not
    make one."""
    if not low.unit.same_dimension(high.unit):
        raise RequestError(f"Both ends of a range are of one kind, not {low.unit} and {high.unit}.")
    given, span = end.to(begin.unit) - float(begin.value), high.to(low.unit) - float(low.value)
    if not given or not span:
        what = "resistance" if begin.unit.same_dimension(OHM) else "voltage"
        raise RequestError(f"A range goes from one {what} to another, and from one reading to another.")
    slope = beside_unit(f"{span / given:.12g}", ratio_symbol(low.unit, begin.unit))
    return {"kind": "linear", "input": written_quantity(begin), "output": written_quantity(low), "slope": slope}


def written_quantity(quantity: Quantity) -> str:
    """As the project file has it."""
    return beside_unit(f"{float(quantity.value):.12g}", quantity.unit.symbol)


def _ranged(said: Said) -> Sketch:
    return _from_end_to_end(said, (converter(said),), _volts(said, "from"), _volts(said, "to"))


def _over_divider(said: Said) -> Sketch:
    """Of a sensor that gives more than the converter takes, such as 10 V."""
    divider: Table = {"kind": "divider", "upper": said["upper"], "lower": said["lower"]}
    undone: Table = {"kind": "divider", "part": "@divider"}
    sketch = _from_end_to_end(said, (converter(said), undone), _volts(said, "from"), _volts(said, "to"))
    return replace(sketch, parts={**sketch.parts, "divider": divider})


def _of_supply(said: Said) -> Sketch:
    """A ratiometric sensor, by its share of the supply: another supply voltage, or its tolerance, changes no
    reading."""
    supply_v = _volts(said, "supply").to(VOLT)
    if not supply_v > 0:
        raise RequestError(f"A supply is above 0 V, not {said['supply']}.")
    begin, end = (
        Quantity(Fraction(100 * _volts(said, word).to(VOLT) / supply_v).limit_denominator(10**9), PERCENT)
        for word in ("from", "to")
    )
    return _from_end_to_end(said, (converter(said), {"kind": "ratiometric"}), begin, end)


def _volts(said: Said, word: str) -> Quantity:
    return parse_quantity(bare(said[word]), VOLT)


def _from_end_to_end(said: Said, before: tuple[Table, ...], begin: Quantity, end: Quantity) -> Sketch:
    low, high = (parse_quantity(bare(said[word]), PLAIN) for word in ("low", "high"))
    line = between(begin, end, low, high)
    ends = sorted((low, high), key=lambda each: each.to(low.unit))
    return Sketch(
        (*before, line),
        {"probe": {"kind": "analog sensor"}},
        "probe",
        span=(written_quantity(ends[0]), written_quantity(ends[1])),
        span_is=("low", "high"),
    )


def _range_of(law: int, begins: str = "0.5 V", to: str = "4.5 V") -> tuple[Ask, ...]:
    """The ends in volts and in readings; ``law`` is the index of the line between them, ``begins`` and ``to`` the usual
    ends."""
    return (
        Ask("from", replace(FROM, default=begins), (("laws", law, "input"),)),
        Ask("to", replace(TO, default=to), (("laws", law, "slope"),)),
        Ask("low", LOW, (("laws", law, "output"),)),
        Ask("high", HIGH, ()),  # the slope depends on it too, and the channel's highest reading shows what was assumed
    )


FROM = Parameter("from", "voltage at the low end", "quantity", "of the sensor", "0.5 V", unit="V")
TO = Parameter("to", "voltage at the high end", "quantity", "of the sensor", "4.5 V", unit="V")
SUPPLY = Parameter("supply", "supply", "quantity", "at which its voltages hold", "5 V", unit="V")
LOW = Parameter("low", "low end", "any quantity", "of its range", "0 %")
HIGH = Parameter("high", "high end", "any quantity", "of its range", "100 %")
RANGED = Recipe(
    "sensor in volts",
    "from one voltage to another over its range, as from pressure sensors, on a converter",
    "a sensor in volts from 0.5 V to 4.5 V, 0 to 10 bar",
    (BITS, REFERENCE, *_range_of(1)),
    _ranged,
)
BEHIND_DIVIDER = Recipe(
    "sensor over a divider",
    "the same from a sensor that gives more volts than the converter takes, brought down by two resistors",
    "a sensor over a divider 15 kΩ 4.7 kΩ, from 0 V to 10 V, 0 to 100 %",
    (
        BITS,
        REFERENCE,
        of_part("divider", "upper", "15 kΩ", "divider", "upper"),
        of_part("divider", "lower", "10 kΩ", "divider", "lower"),
        *_range_of(2, to="10 V", begins="0 V"),
    ),
    _over_divider,
)
OF_SUPPLY = Recipe(
    "ratiometric sensor",
    "the same by the share of its supply, which the converter compares with too",
    "a ratiometric sensor from 0.5 V to 4.5 V, 0 to 10 bar",
    (BITS, REFERENCE, *_range_of(2), Ask("supply", SUPPLY, ())),
    _of_supply,
)


def _by_power(said: Said) -> Sketch:
    """Through both points by a power of the volts. Raises RequestError where no power goes through them."""
    begin, end = (_volts(said, word).to(VOLT) for word in ("from", "to"))
    low, high = (parse_quantity(bare(said[word]), PLAIN) for word in ("low", "high"))
    if not low.unit.same_dimension(high.unit):
        raise RequestError(f"Both ends of a range are of one kind, not {low.unit} and {high.unit}.")
    ratio = high.to(low.unit) / float(low.value) if low.value else 0.0
    if not (begin > 0 and end > 0 and begin != end and ratio > 0 and ratio != 1):
        raise RequestError("The volts and the distances of such a sensor are above 0, and differ from each other.")
    law: Table = {
        "kind": "power",
        "input": f"{begin:.12g} V",
        "output": written_quantity(low),
        "exponent": f"{math.log(ratio) / math.log(end / begin):.12g}",
    }
    ends = sorted((low, high), key=lambda each: each.to(low.unit))
    span = written_quantity(ends[0]), written_quantity(ends[1])
    probe: dict[str, Table] = {"probe": {"kind": "analog sensor"}}
    return Sketch((converter(said), law), probe, "probe", span=span, span_is=("low", "high"))


RANGER = Recipe(
    "infrared ranger",
    "a distance by the angle of light that comes back: through two points, by a power of its volts, since they fall "
    "about as the distance grows",
    "an infrared ranger from 2.5 V to 0.4 V, 20 to 150 cm",
    (
        BITS,
        REFERENCE,
        Ask("from", replace(FROM, default="2.5 V"), (("laws", 1, "input"),)),
        Ask("to", replace(TO, default="0.4 V"), (("laws", 1, "exponent"),)),
        Ask("low", replace(LOW, default="20 cm"), (("laws", 1, "output"),)),
        Ask("high", replace(HIGH, default="150 cm"), ()),
    ),
    _by_power,
)


def _turned(said: Said) -> Sketch:
    share: Table = {"kind": "ratiometric"}
    knob: Table = {"kind": "potentiometer", "resistance": said["resistance"]}
    low, high = (parse_quantity(bare(said[word]), PLAIN) for word in ("low", "high"))
    is_plain = (f"{low}", f"{high}") == ("0 %", "100 %")
    none, whole = (Quantity(Fraction(share), PERCENT) for share in (0, 100))
    over = () if is_plain else (between(none, whole, low, high),)
    ends = sorted((low, high), key=lambda each: each.to(low.unit))
    span = (written_quantity(ends[0]), written_quantity(ends[1]))
    return Sketch((converter(said), share, *over), {"knob": knob}, "knob", span=span, span_is=("low", "high"))


KNOB = Recipe(
    "knob",
    "a potentiometer between supply and ground, in per cent, or over so many degrees or millimetres",
    "a knob on a 10-bit converter",
    (
        BITS,
        REFERENCE,
        of_part("potentiometer", "resistance", "10 kΩ", "knob", "resistance"),
        Ask("low", LOW, (("laws", 2, "output"),)),
        Ask("high", HIGH, ()),
    ),
    _turned,
)


def _loop(said: Said) -> Sketch:
    return Sketch(
        (
            converter(said),
            {"kind": "shunt", "part": "@shunt"},
            {"kind": "current loop", "low": said["low"], "high": said["high"]},
        ),
        {"shunt": {"kind": "resistor", "resistance": said["shunt"]}},
        span=(bare(said["low"]), bare(said["high"])),
        span_is=("low", "high"),
    )


LOOP = Recipe(
    "current loop",
    "4 to 20 mA through a resistor, read by a converter",
    "a current loop low = 0 bar, high = 10 bar",
    (
        BITS,
        REFERENCE,
        of_part("resistor", "resistance", "165 Ω", "shunt", "shunt"),
        of_law("current loop", "low", "0 %", ("laws", 2, "low")),
        of_law("current loop", "high", "100 %", ("laws", 2, "high")),
    ),
    _loop,
)
