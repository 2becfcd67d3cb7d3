"""A sensor that gives a current, as a photodiode does, over a resistor, and its phrases."""

from __future__ import annotations

import math
import re

from lesart.core.errors import QuantityError, RequestError
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit, parse_unit, ratio_symbol
from lesart.desk.entries.recipes.kinds.powers import OHMS
from lesart.desk.entries.recipes.kinds.slopes import above_zero, measured_by
from lesart.desk.entries.recipes.questions import BITS, PLAIN, REFERENCE, bare, converter, of_part
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table
from lesart.desk.entries.said.patterns import UNIT

AMPERE, WATT, MICROWATT = parse_unit("A"), parse_unit("W"), parse_unit("µW")


def _giving(said: Said) -> Sketch:
    line = above_zero(said, measured_by(bare(said["slope"]), AMPERE))
    parts: dict[str, Table] = {"load": {"kind": "resistor", "resistance": said["fixed"]}}
    return Sketch((converter(said), {"kind": "shunt", "part": "@load"}, line), parts)


SLOPE = Parameter("slope", "slope", "any quantity", "of the sensor", "10 nA/lx")
DARK = Parameter("zero", "current at 0", "quantity", "in the dark, or at 0 of what it measures", "0 A", unit="A")
GIVING_CURRENT = Recipe(
    "sensor giving a current",
    "a current per lux or per whatever it measures, over a resistor or in an amplifier with one, as of a photodiode",
    "a sensor giving a current 10 nA/lx, fixed = 100 kΩ",
    (
        BITS,
        REFERENCE,
        Ask("slope", SLOPE, (("laws", 2, "slope"),), sign="/"),
        of_part("resistor", "resistance", "100 kΩ", "load", "fixed"),
        Ask("zero", DARK, (("laws", 2, "input"),)),
    ),
    _giving,
)

_NUMBER = r"\d+(?:[.,]\d+)?"
_AMPS = rf"(?<![\w.,])(?P<amps>{_NUMBER}\s*[pnuµm]?A)"
_DEGREE = r"degrees?(?:\s+(?:C|Celsius))?|°\s?[CF]"
_PER = re.compile(
    rf"{_AMPS}\s*(?:/\s*|\bper\s+(?-i:an?\s+)?)(?P<many>{_NUMBER}\s*)?(?P<unit>{_DEGREE}|{UNIT})(?!\w)", re.IGNORECASE
)
_AT = re.compile(
    rf"{_AMPS}\s*(?:at|@|for|=|in)\s*(?P<many>{_NUMBER}\s*)(?P<unit>{_DEGREE}|{UNIT})(?![\w/])", re.IGNORECASE
)
_OHMS = re.compile(OHMS, re.IGNORECASE)
_NAMED = re.compile(
    r"(?:(?:silicon|UV|IR|infra-?red|ambient|light|temperature|oxygen|gas|radiation|current[\s-]output)\s+)*"
    r"(?:photo[\s-]?(?:diode|transistor|cell)|light|sensor|transducer|probe|electrode)(?:\s+(?:sensor|amplifier))?[\s,:]*",
    re.IGNORECASE,
)
_FROM_NOTHING = re.compile(r"\b0\s*(?:mA\s*)?(?:to|[-–…]|\.\.+)\s*20\s*mA\b", re.IGNORECASE)
_LOOP = re.compile(
    rf"(?:[^\W\d][\w-]*[,:]?\s+){{0,3}}?0 to 20 mA[\s,]*(?:is|are|=|for|->|→|means)?\s*"
    rf"(?P<low>[-−+]?\d+(?:[.,]\d+)?)\s*(?:{UNIT})?"
    rf"\s*(?:to|[-–…]|\.\.+)\s*(?P<high>[-−+]?\d+(?:[.,]\d+)?)\s*(?P<unit>{UNIT})"
    rf"(?:[\s,]+(?:(?:over|into|across|with|on|an?)\s+)*(?P<ohms>{OHMS})(?:\s+(?:resistor|shunt))?)?(?P<rest>[\s,]+\d.*)?",
    re.IGNORECASE,
)
"""A loop that begins at no current."""
_IN_FULL = re.compile(r"(?:an?\s+)?sensor giving", re.IGNORECASE)
_AROUND = re.compile(
    r"\b(?:transimpedance|TIA|feedback|load|resistor|amplifier|into|over|across|through|with|an?|R_?[fL](?=\s*[=:]))\b"
    r"(?:\s*[=:])?",
    re.IGNORECASE,
)
_NOT_MEASURED = tuple(parse_unit(each) for each in ("V", "ct", "Ω", "s", "A"))
_ZEROS = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        rf"\bdark(?:\s+current)?\s*(?:of|is|=|:)?\s*{_AMPS}",
        rf"{_AMPS}\s+dark(?:\s+current)?\b",
        rf"{_AMPS}\s*(?:at|@|for|=|in)\s*(?:0\s*(?:{_DEGREE}|{UNIT})?|(?:the\s+)?dark(?:ness)?)(?![\w/])",
    )
)
"""The current at nothing."""


def by_current(said: str) -> str:
    """``photodiode 10 nA/lx, 100k``, ``phototransistor 0.5 mA at 100 lx, 1k``, ``1 µA/K over 10k``.

    Raises RequestError for degrees Celsius without the current at 0 °C.
    """
    if _IN_FULL.match(said):
        return ""
    if loop := _LOOP.fullmatch(_FROM_NOTHING.sub("0 to 20 mA", said)):
        return _of_loop(said, loop)
    named = _NAMED.match(said)
    rest = said[named.end() :] if named else said
    zero = next((found for pattern in _ZEROS if (found := pattern.search(rest))), None)
    rest = f"{rest[: zero.start()]}, {rest[zero.end() :]}" if zero else rest
    found = _PER.search(rest) or (_AT.search(rest) if named else None)
    if found is None:
        return ""
    is_degree = found["unit"].lower().startswith("degree")
    unit = unit_said("°C" if is_degree else found["unit"])
    if unit is None or unit == PLAIN or any(unit.same_dimension(each) and unit.symbol != "%" for each in _NOT_MEASURED):
        return ""
    try:
        slope = _slope(found["amps"], float((found["many"] or "1").replace(",", ".")), unit)
    except (QuantityError, ZeroDivisionError):
        return ""
    rest = f"{rest[: found.start()]}, {rest[found.end() :]}"
    ohms = _OHMS.search(rest)
    if ohms is not None:
        rest = f"{rest[: ohms.start()]}, {rest[ohms.end() :]}"
    rest = _AROUND.sub(" ", rest).strip(" ,;")
    if unit.is_temperature and unit.symbol != "K" and zero is None:
        raise RequestError(
            f'"{said.strip()}": say its current at 0 °C too, like 1 µA/°C, 273.2 µA at 0 °C; or in kelvin, like 1 µA/K.'
        )
    known = (
        f"slope = {slope}",
        f"fixed = {ohms[0].strip()}" if ohms else "",
        f"zero = {zero['amps']}" if zero else "",
        rest,
    )
    return ", ".join(("a sensor giving a current", *filter(None, known)))


def _of_loop(said: str, found: re.Match[str]) -> str:
    """From no current on, over its range; empty where that is none."""
    unit = unit_said(found["unit"])
    low, high = (float(found[end].replace(",", ".").replace("−", "-")) for end in ("low", "high"))
    if unit is None or unit == PLAIN or high == low or not math.isfinite(high - low):
        return ""
    if not found["ohms"]:
        raise RequestError(f'"{said.strip()}": say what it is read over, like 0-20 mA is 0-10 bar over 250 ohm.')
    each_ma = 20.0 / (high - low)
    known = (
        f"slope = {beside_unit(f'{each_ma:.12g}', ratio_symbol(parse_unit('mA'), unit))}",
        f"zero = {-low * each_ma:.12g} mA" if low else "",
        f"fixed = {found['ohms'].strip()}",
        (found["rest"] or "").strip(" ,"),
    )
    return ", ".join(("a sensor giving a current", *filter(None, known)))


def _slope(amps: str, many: float, unit: Unit) -> str:
    """Amperes per unit; a responsivity in A/W is written per microwatt, which is what such sensors see."""
    given = parse_quantity(re.sub(r"(?<=\d)\s*u(?=A$)", " µ", amps.replace(",", ".")), AMPERE)
    scaled = float(given.value) / many
    if unit == WATT:
        micro = scaled * float(given.unit.scale)
        return beside_unit(f"{micro:.10g}", ratio_symbol(parse_unit("µA"), MICROWATT))
    return beside_unit(f"{scaled:.10g}", ratio_symbol(given.unit, unit))
