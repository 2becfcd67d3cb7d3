"""The signals that makers meet most, each as one line."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.recipes.kinds.currents import GIVING_CURRENT
from lesart.desk.entries.recipes.kinds.halves import PHOTORESISTOR_HALF, PLATINUM_HALF, SENDER_HALF, THERMISTOR_HALF
from lesart.desk.entries.recipes.kinds.powers import FORCE_HALF, GAS_HALF
from lesart.desk.entries.recipes.kinds.referenced import PLATINUM_CONVERTER
from lesart.desk.entries.recipes.kinds.slopes import ACIDITY, GIVING, PULSES, SHUNT, THERMOCOUPLE
from lesart.desk.entries.recipes.kinds.strained import STRAIN
from lesart.desk.entries.recipes.kinds.volts import (
    BEHIND_DIVIDER,
    DIVIDED,
    KNOB,
    LOOP,
    OF_SUPPLY,
    PLAIN_VOLTAGE,
    RANGED,
    RANGER,
    SENSOR,
    VOLTAGE,
)
from lesart.desk.entries.recipes.questions import COUNT, PLAIN, bare, of_law
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table

# A bridge


def _bridge(said: Said) -> Sketch:
    return Sketch(
        (
            {"kind": "bridge converter", "bits": said["bits"], "gain": said["gain"]},
            {"kind": "load cell", "capacity": said["capacity"], "sensitivity": said["sensitivity"]},
        ),
        {"cell": {"kind": "load cell"}, "amplifier": {"kind": "bridge amplifier"}},
        "cell",
        span=(_below_zero(bare(said["capacity"])), bare(said["capacity"])),
    )


def _below_zero(capacity: str) -> str:
    """A twentieth of its capacity below zero: empty it reads noise about zero, and less where something was removed."""
    carried = parse_quantity(capacity, parse_unit("kg"))
    return f"{-float(carried.value) / 20:g} {carried.unit}"


BRIDGE = Recipe(
    "bridge",
    "a load cell on a converter for bridges",
    "a bridge of 5 kg",
    (
        of_law("load cell", "capacity", "5 kg", ("laws", 1, "capacity")),
        of_law("load cell", "sensitivity", "1 mV/V", ("laws", 1, "sensitivity")),
        of_law("bridge converter", "bits", 24, ("laws", 0, "bits")),
        of_law("bridge converter", "gain", "128", ("laws", 0, "gain")),
    ),
    _bridge,
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
        of_law("gate rate", "gate", "1 s", ("laws", 0, "gate")),
        of_law("gate rate", "marks", "1", ("laws", 0, "marks")),
        of_law("gate rate", "per", "1/min", ("laws", 0, "per")),
    ),
    _wheel,
)


def _flow(said: Said) -> Sketch:
    turns: Table = {"kind": "gate rate", "gate": said["gate"], "marks": said["marks"], "per": "1/min"}
    litres: Table = {"kind": "linear", "input": "0 1/min", "output": "0 L/min", "slope": "1 L"}
    return Sketch((turns, litres), jumps=True)


FLOW = Recipe(
    "pulses of a flow",
    "pulses of a flow meter, counted over a gate time, as litres per minute",
    "pulses of a flow, 450 pulses per litre",
    (
        of_law("gate rate", "gate", "1 s", ("laws", 0, "gate")),
        of_law("gate rate", "marks", "450", ("laws", 0, "marks")),
    ),
    _flow,
    "pulses of a flow",
)

TURNS = Recipe(
    "time between pulses",
    "a time for each pulse, as turns per minute",
    "a time between pulses, marks = 2",
    (
        of_law("interval rate", "marks", "1", ("laws", 0, "marks")),
        of_law("interval rate", "per", "1/min", ("laws", 0, "per")),
    ),
    lambda said: Sketch(
        ({"kind": "interval rate", "marks": said["marks"], "per": said["per"]},), raw_unit="µs", jumps=True
    ),
)

ECHO = Recipe(
    "time of an echo",
    "a ranger's answer, as a distance through air",
    "a time of an echo in air of 20 °C",
    (of_law("echo", "air", "20 °C", ("laws", 0, "air")),),
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
ZERO = Parameter("zero", "count at zero", "quantity", "as whole numbers without a sign have it", "0 ct", unit="ct")
OFFSET = Parameter("offset", "offset", "any quantity", "what is read at the count of zero", "0")
SIGNED = Parameter(
    "signed", "signed", "integer", "bits of a number in two's complement; 0: it is none", 0, lowest=0, highest=64
)


def _counts(said: Said) -> Sketch:
    step = parse_quantity(str(said["step"]), PLAIN)
    at = parse_quantity(bare(said["offset"]), step.unit)
    if not at.unit.same_dimension(step.unit):
        raise RequestError(f"The offset here is in {step.unit}, not {said['offset']}.")
    output = beside_unit(f"{at.to(step.unit):.12g}", step.unit.symbol)
    slope = f"{float(step.value):.12g} {_step_of(step.unit)}/ct"
    line: Table = {"kind": "linear", "input": bare(said["zero"]), "output": output, "slope": slope}
    bits = int(said["signed"])
    return Sketch((_folded(bits), line) if bits else (line,))


def _folded(bits: int) -> Table:
    """The law by which a word of ``bits`` in two's complement, read without its sign, gets it back."""
    return {
        "kind": "formula",
        "formula": f"x - {2**bits} if x >= {2 ** (bits - 1)} else x",
        "units": "plain numbers",
        "from": "ct",
        "to": "ct",
        "lowest": f"-{2 ** (bits - 1)} ct",
        "highest": f"{2**bits - 1} ct",
    }


def _step_of(unit: Unit) -> str:
    return unit.step.symbol


COUNTS = Recipe(
    "count of",
    "whole numbers of equal steps, as from registers and digital sensors",
    "a count of 0.1 °C",
    (
        Ask("step", STEP, (("laws", 0, "slope"), ("laws", 1, "slope"))),
        Ask("zero", ZERO, ()),
        Ask("offset", OFFSET, ()),
        Ask("signed", SIGNED, ()),
    ),
    _counts,
    "a count of 0.1 °C",
)

BEGIN = Parameter("begin", "begin", "any quantity", "raw value at 0 %", "0 ct")
END = Parameter("end", "end", "any quantity", "raw value at 100 %", "1023 ct")


def _share(said: Said) -> Sketch:
    begin, end = (parse_quantity(bare(said[word]), COUNT) for word in ("from", "to"))
    if begin.unit == PLAIN and end.unit == PLAIN:
        begin, end = replace(begin, unit=COUNT), replace(end, unit=COUNT)
    if not begin.unit.same_dimension(end.unit):
        raise RequestError(f"Both ends of a share are raw values in one unit, not {said['from']} and {said['to']}.")
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
    return Sketch((line,), raw_unit=begin.unit.symbol, span=("0 %", "100 %"))


SHARE = Recipe(
    "share",
    "in per cent, from one raw value to another, as of moisture from dry to wet",
    "a share from 0 ct to 1023 ct",
    (Ask("from", BEGIN, (("laws", 0, "input"),)), Ask("to", END, (("laws", 0, "slope"),))),
    _share,
)


def _angle(said: Said) -> Sketch:
    slope = f"{360.0 / 2 ** int(said['bits']):.12g} °/ct"
    line: Table = {"kind": "linear", "input": "0 ct", "output": "0°", "slope": slope}
    return Sketch((line,), span=("0°", "360°"), comes_round=True)


ANGLE = Recipe(
    "angle",
    "a turn in whole numbers, as from a wind vane or a magnet over a sensor, where 359° and 0° are neighbours",
    "an angle of 12 bits",
    (of_law("converter", "bits", 10, ("laws", 0, "slope")),),
    _angle,
    "an angle",
)

SIGNALS = {
    each.name: each
    for each in (
        THERMISTOR_HALF,
        BRIDGE,
        WHEEL,
        VOLTAGE,
        DIVIDED,
        ALREADY,
        COUNTS,
        SENSOR,
        RANGED,
        RANGER,
        OF_SUPPLY,
        BEHIND_DIVIDER,
        PLAIN_VOLTAGE,
        GIVING,
        SHUNT,
        ACIDITY,
        THERMOCOUPLE,
        LOOP,
        PLATINUM_HALF,
        PLATINUM_CONVERTER,
        KNOB,
        ANGLE,
        TURNS,
        FLOW,
        PULSES,
        ECHO,
        PHOTORESISTOR_HALF,
        SENDER_HALF,
        FORCE_HALF,
        GAS_HALF,
        GIVING_CURRENT,
        STRAIN,
        SHARE,
    )
}
"""By name, the usual ones first."""
