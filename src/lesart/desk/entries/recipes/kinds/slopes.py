"""Sensors with a slope in volts per unit: alone, or a shunt, a thermocouple or a pH probe with an amplifier; and pulses
with a value per pulse rate."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError, UnitError
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.core.units import Unit, parse_unit, ratio_symbol
from lesart.desk.entries.recipes.questions import BITS, PLAIN, REFERENCE, VOLT, bare, converter, of_law, of_part
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table


def _giving(said: Said) -> Sketch:
    measured = measured_by(bare(said["slope"]))
    line = above_zero(said, measured)
    span = _either_way(str(said["most"]), measured)
    return Sketch(
        (converter(said), line), {"probe": {"kind": "analog sensor"}}, "probe", span=span, span_is=("most", "most")
    )


def _either_way(most: str, measured: Unit) -> tuple[str, str] | None:
    """The symmetric range, as ``±30 A``; none where it is not stated."""
    reach = parse_quantity(bare(most), measured)
    if not reach.value:
        return None
    if not reach.unit.same_dimension(measured):
        raise RequestError(f"A sensor of {measured} has its range in that unit, not {most}.")
    end = abs(reach.to(measured))
    return beside_unit(f"{-end:.12g}", measured.symbol), beside_unit(f"{end:.12g}", measured.symbol)


def above_zero(said: Said, measured: Unit) -> Table:
    """The line from what a sensor gives to what it measures, by its slope and what it gives at 0."""
    return {
        "kind": "linear",
        "input": said["zero"],
        "output": beside_unit("0", measured.symbol),
        "slope": said["slope"],
    }


def measured_by(slope: str, given: Unit = VOLT) -> Unit:
    """The ampere of ``66 mV/A``, and the W/m² of ``0.2 mV·m²/W``. Raises RequestError for anything but a voltage per
    unit, or a current per unit where that is what is ``given``."""
    found = _PER_UNIT.fullmatch(str(parse_quantity(slope, PLAIN).unit))
    try:
        if found and parse_unit(found["gives"]).same_dimension(given):
            return parse_unit("/".join(filter(None, (found["per"].strip("()"), found["times"]))))
    except UnitError:
        pass
    like = "volts per unit of what it measures, like 100 mV/A"
    like = like if given == VOLT else "amperes per unit of what it measures, like 10 nA/lx"
    raise RequestError(f"A sensor gives {like}, not {slope}.")


_PER_UNIT = re.compile(r"(?P<gives>[^/·]+)(?:·(?P<times>[^/]+))?/(?P<per>.+)")
SLOPE = Parameter("slope", "slope", "any quantity", "of the sensor", "100 mV/A")
ZERO = Parameter("zero", "voltage at 0", "quantity", "of the sensor", "2.5 V", unit="V")
MOST = Parameter("most", "most", "any quantity", "that it measures either way; 0: not stated", "0")
GIVING = Recipe(
    "sensor giving",
    "millivolts per ampere, per bar or per whatever it measures, above a zero",
    "a sensor giving 100 mV/A, zero = 2.5 V",
    (
        BITS,
        REFERENCE,
        Ask("slope", SLOPE, (("laws", 1, "slope"),), sign="/"),
        Ask("zero", ZERO, (("laws", 1, "input"),)),
        Ask("most", MOST, ()),
    ),
    _giving,
)


def _amplifier(said: Said) -> Table:
    """The law from an amplifier's output back to its input."""
    return {"kind": "linear", "input": said["zero"], "output": "0 V", "slope": _back(said)}


def _back(said: Said) -> str:
    gain = float(parse_quantity(bare(said["gain"]), PLAIN).value)
    if not gain:
        raise RequestError("An amplifier has a gain that is not 0.")
    return f"{1.0 / gain:.12g} V/V"


def _amplified(said: Said) -> Sketch:
    return Sketch(
        (converter(said), _amplifier(said), {"kind": "shunt", "part": "@shunt"}),
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


def _junction(said: Said) -> Sketch:
    """The law of a thermocouple; without an amplifier the voltage is that of the junctions."""
    is_amplified = str(said["gain"]) != "1"
    amplifier = ({"kind": "linear", "input": "0 V", "output": "0 V", "slope": _back(said)},) if is_amplified else ()
    return Sketch((converter(said), *amplifier, {"kind": "thermocouple", "type": said["type"], "cold": said["cold"]}))


UNAMPLIFIED = Parameter("gain", "gain", "quantity", "of an amplifier; 1: none", "1", lowest=1e-3, highest=1e6)
THERMOCOUPLE = Recipe(
    "thermocouple",
    "two junctions, as their voltage, or behind an amplifier on a converter",
    "a thermocouple of type K, gain = 100",
    (
        BITS,
        REFERENCE,
        Ask("gain", UNAMPLIFIED, (("laws", 1, "slope"),)),
        of_law("thermocouple", "type", "K", ("laws", 1, "type"), ("laws", 2, "type")),
        of_law("thermocouple", "cold", "25 °C", ("laws", 1, "cold"), ("laws", 2, "cold")),
    ),
    _junction,
)


def _worth(said: Said) -> Sketch:
    """The law of ``2.4 km/h`` per pulse per second."""
    each = parse_quantity(bare(said["each"]), PLAIN)
    gate: Table = {"kind": "gate rate", "gate": said["gate"], "marks": "1", "per": "1/s"}
    line: Table = {
        "kind": "linear",
        "input": "0 1/s",
        "output": beside_unit("0", each.unit.symbol),
        "slope": beside_unit(f"{float(each.value):.12g}", ratio_symbol(each.unit, parse_unit("1/s"))),
    }
    return Sketch((gate, line), jumps=True)


EACH = Parameter("each", "each hertz", "any quantity", "that a pulse a second stands for", "1 m/s")
PULSES = Recipe(
    "pulses giving",
    "pulses counted over a gate time, a fixed amount per hertz, as from a cup anemometer",
    "pulses giving 2.4 km/h per Hz",
    (of_law("gate rate", "gate", "1 s", ("laws", 0, "gate")), Ask("each", EACH, (("laws", 1, "slope"),))),
    _worth,
    "pulses giving",
)


def _acidity(said: Said) -> Sketch:
    """The law of a glass electrode, which gives 0 V at neutral pH."""
    # Stated without its sign too: it always falls, and an amplifier that turns it has a gain below 0.
    slope = f"-{str(said['slope']).lstrip('-−+ ')}"
    line: Table = {"kind": "linear", "input": "0 V", "output": "7 pH", "slope": slope}
    return Sketch(
        (converter(said), _amplifier(said), line),
        {"probe": {"kind": "analog sensor"}},
        "probe",
        span=("0 pH", "14 pH"),
    )


OF_PROBE = Parameter("slope", "slope", "any quantity", "of the probe alone", "-59.16 mV/pH")
"""R·T·ln 10 ÷ F at 25 °C, by the equation of Nernst; 0.198 mV/pH more or less for each kelvin."""
NEUTRAL = Parameter("zero", "voltage at pH 7", "quantity", "behind the amplifier", "2.5 V", unit="V")
TURNED = Parameter("gain", "gain", "quantity", "of the amplifier; below 0 where it turns the sign", "3", lowest=-1e6)
ACIDITY = Recipe(
    "pH probe",
    "acidity by the voltage of a glass electrode, behind an amplifier, read by a converter",
    "a pH probe, 2.5 V at pH 7, gain = 3",
    (
        BITS,
        REFERENCE,
        Ask("gain", TURNED, (("laws", 1, "slope"),)),
        Ask("slope", OF_PROBE, (("laws", 2, "slope"),), sign="/"),
        Ask("zero", NEUTRAL, (("laws", 1, "input"),)),
    ),
    _acidity,
)
