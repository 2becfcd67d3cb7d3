"""What gives so many volts for each unit that it measures: on a converter, or across a shunt behind an amplifier."""

from __future__ import annotations

from lesart.core.errors import RequestError, UnitError
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.recipes.questions import BITS, PLAIN, REFERENCE, VOLT, bare, converter, of_part
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table


def _giving(said: Said) -> Sketch:
    measured = _measured(bare(said["slope"]))
    line: Table = {
        "kind": "linear",
        "input": said["zero"],
        "output": beside_unit("0", measured.symbol),
        "slope": said["slope"],
    }
    return Sketch((converter(said), line), {"probe": {"kind": "analog sensor"}}, "probe")


def _measured(slope: str) -> Unit:
    """The ampere of ``66 mV/A``. Raises RequestError for what is no voltage per something."""
    volts, _, per = str(parse_quantity(slope, PLAIN).unit).partition("/")
    try:
        if per and parse_unit(volts).same_dimension(VOLT):
            return parse_unit(per.strip("()"))
    except UnitError:
        pass
    raise RequestError(f"A sensor gives so many volts for each unit of what it measures, as 100 mV/A, not {slope}.")


SLOPE = Parameter("slope", "slope", "any quantity", "of the sensor", "100 mV/A")
ZERO = Parameter("zero", "voltage at 0", "quantity", "of the sensor", "2.5 V", unit="V")
GIVING = Recipe(
    "sensor giving",
    "so many millivolts per ampere, per bar or per whatever it measures, from a zero on",
    "a sensor giving 100 mV/A, zero = 2.5 V",
    (BITS, REFERENCE, Ask("slope", SLOPE, (("laws", 1, "slope"),)), Ask("zero", ZERO, (("laws", 1, "input"),))),
    _giving,
)


def _amplified(said: Said) -> Sketch:
    gain = float(parse_quantity(bare(said["gain"]), PLAIN).value)
    amplifier: Table = {"kind": "linear", "input": said["zero"], "output": "0 V", "slope": f"{1.0 / gain:.12g} V/V"}
    return Sketch(
        (converter(said), amplifier, {"kind": "shunt", "part": "@shunt"}),
        {"shunt": {"kind": "resistor", "resistance": said["shunt"]}},
    )


GAIN = Parameter("gain", "gain", "quantity", "of the amplifier", "20", lowest=1e-3, highest=1e6)
NO_CURRENT = Parameter("zero", "voltage without current", "quantity", "behind the amplifier", "0 V", unit="V")
SHUNT = Recipe(
    "current over a shunt",
    "a current by the voltage across a small resistor, behind an amplifier, read by a converter",
    "a current over a shunt 0.1 Ω, gain = 20",
    (
        BITS,
        REFERENCE,
        of_part("resistor", "resistance", "0.1 Ω", "shunt", "shunt"),
        Ask("gain", GAIN, (("laws", 1, "slope"),)),
        Ask("zero", NO_CURRENT, (("laws", 1, "input"),)),
    ),
    _amplified,
)
