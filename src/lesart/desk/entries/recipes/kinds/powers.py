"""A resistance that follows a power of what it measures, as of force sensors and gas sensors, and its phrases."""

from __future__ import annotations

import math
import re
from fractions import Fraction

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity, beside_unit, parse_quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.recipes.kinds.halves import TOLERANCE, half
from lesart.desk.entries.recipes.questions import BITS, OHM, REFERENCE, bare, of_law, of_part
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table
from lesart.desk.entries.said.patterns import UNIT

SIDE = of_law("half of a divider", "sensor", "to supply", ("laws", 1, "sensor"))
"""The fixed resistor goes to ground, so that more of what is measured gives more volts."""


def _power(said: Said) -> Sketch:
    law: Table = {
        "kind": "power",
        "input": bare(said["resistance"]),
        "output": bare(said["reads"]),
        "exponent": bare(said["exponent"]),
    }
    return half(said, law, span=None)


def _recipe(name: str, says: str, example: str, resistance: str, reads: str, exponent: str) -> Recipe:
    at = Parameter("resistance", "resistance", "quantity", "at one point of its curve", resistance, unit="Ω")
    there = Parameter("reads", "reads", "any quantity", "what it measures at that resistance", reads)
    falls = Parameter(
        "exponent",
        "exponent",
        "quantity",
        "to which the resistance is taken",
        exponent,
        unit="1",
        lowest=-20,
        highest=20,
    )
    return Recipe(
        name,
        says,
        example,
        (
            BITS,
            REFERENCE,
            Ask("resistance", at, (("laws", 2, "input"),)),
            Ask("reads", there, (("laws", 2, "output"),)),
            Ask("exponent", falls, (("laws", 2, "exponent"),)),
            of_part("resistor", "resistance", "10 kΩ", "half", "fixed"),
            TOLERANCE,
            SIDE,
        ),
        _power,
    )


FORCE_HALF = _recipe(
    "force sensor half",
    "a force-sensing resistor in series with a resistor: twice the force, half the resistance, or as its curve has it",
    "a force sensor half, 6 kΩ at 1 kg",
    "6 kΩ",
    "1 kg",
    "-1",
)
GAS_HALF = _recipe(
    "gas sensor half",
    "a gas sensor whose resistance falls as a power of the gas in the air, over a load resistor",
    "a gas sensor half, ppm = 110 * (Rs/R0)^-2.5, R0 = 10 kΩ",
    "10 kΩ",
    "100 ppm",
    "-2.5",
)

# Its phrases

_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?(?:e[-+]?\d+)?"
OHMS = r"(?<![\w.,])\d+(?:[.,]\d+)?\s*(?:[kM]\d*\s*(?:Ω|ohms?)?|R\d*|Ω|ohms?)(?!\w)"
_IS = r"\s*(?:at|@|=|:|->|→|for|is|with|when|under|in)\s*"
_POINTS = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        rf"(?P<ohms>{OHMS}){_IS}(?P<value>{_NUMBER}\s*{UNIT})(?![\w/])",
        rf"(?<![\w.,])(?P<value>{_NUMBER}\s*{UNIT}){_IS}(?P<ohms>{OHMS})",
    )
)
_FLAT = re.compile(r"\b(?:when|if|lying|at|is|=)?\s*(?:flat|straight|unbent|unflexed)\b", re.IGNORECASE)
_THERMISTOR = re.compile(r"(?:an?\s+)?(?:NTC\b|thermistor)", re.IGNORECASE)
_DEGREES = re.compile(r"(?<=\d)\s*(?:degrees?|deg)\b(?!\s*[CF]\b)", re.IGNORECASE)
_LOADED = re.compile(
    rf"\b(?:load(?:\s+resistor)?|R_?L)\s*(?:of|is|=|:)?\s*(?P<behind>{OHMS})|(?P<before>{OHMS})\s*load(?:\s+resistor)?\b",
    re.IGNORECASE,
)
_RATIO = r"(?:\(\s*)?(?:R_?s\s*/\s*R_?[o0]|ratio)(?:\s*\))?"
_TO = r"\s*(?:\^|\*\*)\s*\(?\s*"
_BY = r"\s*(?:[*×·]|x(?=\s*\())?\s*"
_IN_AIR = r"(?P<unit>ppm|ppb|mg/L|mg/m3|mg/m³|%)"
_CURVES = (
    # ppm = 110 * (Rs/R0)^-2.5
    re.compile(
        rf"{_IN_AIR}\s*=\s*(?P<times>{_NUMBER}){_BY}(?:{_RATIO}{_TO}|pow\(\s*{_RATIO}\s*,\s*)(?P<to>{_NUMBER})\s*\)?",
        re.IGNORECASE,
    ),
    # Rs/R0 = 5 * ppm^-0.4
    re.compile(
        rf"{_RATIO}\s*=\s*(?P<of>{_NUMBER}){_BY}(?:{_IN_AIR}{_TO}|pow\(\s*(?P<other>ppm|ppb)\s*,\s*)(?P<by>{_NUMBER})\s*\)?",
        re.IGNORECASE,
    ),
    # ppm = 10^((log10(Rs/R0) - 0.7) / -0.4)
    re.compile(
        rf"{_IN_AIR}\s*=\s*(?:10{_TO}|pow\(\s*10\s*,\s*)\(*\s*log(?:10)?\s*\(\s*{_RATIO}\s*\)\s*(?P<sign>[-+−])\s*"
        rf"(?P<shift>{_NUMBER})\s*\)*\s*/\s*\(?\s*(?P<per>{_NUMBER})[\s)]*",
        re.IGNORECASE,
    ),
)
_BASE = re.compile(rf"\bR_?[o0]\s*(?:is|=|:)\s*(?P<ohms>{OHMS})", re.IGNORECASE)
_GAS = re.compile(
    r"(?:(?:gas|smoke|alcohol|air[\s-]quality|CO2?|VOC|methane|propane|hydrogen|ammonia)\s+)+(?:sensor|detector)?(?:\s+half)?[\s,:]*",
    re.IGNORECASE,
)
_FORCE = re.compile(
    r"(?:fsr|(?:force|pressure)[\s-](?:sens(?:ing|itive)[\s-])?(?:sensor|resistor|pad)|force|weight\s+sensor)(?:\s+half)?[\s,:]*",
    re.IGNORECASE,
)
_BENT = re.compile(
    r"(?:(?:flex|bend|stretch|resistive|level|position)\s+)+(?:sensor|resistor|strip|cord)?[\s,:]*", re.IGNORECASE
)
_LIGHT = re.compile(
    r"(?:ldr|photo\s?resistor|photo\s?cell|light[\s-]dependent\s+resistor|light\s+sensor)[\s,:]*", re.IGNORECASE
)
_OTHER = re.compile(r"(?:[^\W\d_][\w-]*[,:]?\s+){1,4}(?=\d)")
"""What it is, in words that say nothing more."""
_CELSIUS = re.compile(r"(?<=\d)\s*(?:degrees?\s+)?C\b")
NOT_MEASURED = tuple(parse_unit(each) for each in ("V", "A", "Ω", "W", "ct", "Hz", "s"))
"""What comes beside a resistance and is not what it measures: ``10k at 3.3 V``."""
FORCES = parse_unit("kg"), parse_unit("N")
LUX, PARTS, KELVIN, CELSIUS, PLAIN = (parse_unit(each) for each in ("lx", "ppm", "K", "°C", "1"))
AT_25_K = 298.15
LEAST_EXPONENT, MOST_DECADES = 0.05, 12
BETAS_K = 100.0, 20_000.0
"""Nothing steeper or flatter is a curve of such a sensor; what is comes of points that lie too close together."""


@dataclass(frozen=True)
class Point:
    """A resistance in ohms, and what it means."""

    ohms: float
    value: float
    unit: Unit

    @property
    def kelvin(self) -> float:
        """Its temperature."""
        return Quantity(Fraction(self.value), self.unit).to(KELVIN)


def by_power(said: str) -> str:
    """A sensor by points or by the equation of its curve: ``force sensor 30k at 100 g, 6k at 1 kg, 10k to ground``,
    ``flex sensor 25k flat, 100k at 90°``, ``gas sensor ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k``.

    Raises RequestError for a curve through points that make none.
    """
    if curve := next((found for pattern in _CURVES if (found := pattern.search(said))), None):
        return _of_gas(said, curve)
    named = next((name for name in (_FORCE, _GAS, _LIGHT, _BENT, _OTHER) if name.match(said)), None)
    rest = _DEGREES.sub("°", _CELSIUS.sub(" °C", named.sub("", said, count=1) if named else said))
    rest = _LOADED.sub(_as_load, _FLAT.sub(" at 0°", rest) if named is _BENT else rest)
    usual = LUX if named is _LIGHT else CELSIUS if _THERMISTOR.match(said) else PLAIN
    points, rest = _points_in(rest, usual)
    if not points or any(not each.unit.same_dimension(points[0].unit) for each in points):
        return ""
    if len(points) == 1 and named is _FORCE:
        return f"a force sensor half, resistance = {points[0].ohms:.10g} Ω, reads = {_written(points[0])}, {rest}"
    if len(points) != 2:
        return ""
    if points[0].unit == PLAIN:
        value = f"{points[0].value:.10g}"
        light, warm = (beside_unit(value, each) for each in ("lx", "°C"))
        raise RequestError(f'"{said.strip()}": {value} of what? Say its unit, like {light} or {warm}.')
    is_force = named is _FORCE or any(points[0].unit.same_dimension(each) for each in FORCES)
    if is_force or points[0].unit.symbol in ("ppm", "ppb"):
        called = "force sensor half" if is_force else "gas sensor half"
        at = f"resistance = {points[0].ohms:.10g} Ω, reads = {_written(points[0])}"
        return f"a {called}, {at}, exponent = {_exponent(said, points):.10g}, {rest}"
    if points[0].unit.same_dimension(LUX):
        gamma = -1.0 / _exponent(said, points)
        at_ten = points[0].ohms * _ten_to(gamma * math.log10(points[0].value / 10))
        return f"a photoresistor half, resistance = {at_ten:.10g} Ω, gamma = {gamma:.10g}, {rest}"
    if points[0].unit.is_temperature and (points[0].kelvin < points[1].kelvin) == (points[0].ohms > points[1].ohms):
        return _of_thermistor(said, points, rest)
    ends = f"from = {points[0].ohms:.10g} Ω, to = {points[1].ohms:.10g} Ω"
    return f"a sender half, {ends}, low = {_written(points[0])}, high = {_written(points[1])}, {rest}"


def _points_in(said: str, usual: Unit) -> tuple[list[Point], str]:
    """Points of a curve, and the phrase without them; bare values are in the ``usual`` unit."""
    points = []
    for pattern in _POINTS:
        rest = said
        while found := pattern.search(rest):
            point = _point(found, usual)
            if point is None:
                break
            points.append(point)
            rest = f"{rest[: found.start()]}, {rest[found.end() :]}"
        if points:
            return points, rest.strip(" ,")
    return [], said


def _point(found: re.Match[str], usual: Unit) -> Point | None:
    try:
        ohms, value = _ohms(found["ohms"]), quantity_typed(found["value"].strip(), usual)
        read = float(value.value)
    except (QuantityError, UnitError, ValueError, OverflowError):
        return None
    if any(value.unit.same_dimension(each) for each in NOT_MEASURED):
        return None
    return Point(ohms, read, value.unit)


def _ohms(said: str) -> float:
    """Of ``10k``, ``4k7``, ``220R`` or ``10 kohm``."""
    return parse_quantity(re.sub(r"\s*ohms?$|(?<=\d)R$", "Ω", said.strip(), flags=re.IGNORECASE), OHM).to(OHM)


def _written(point: Point) -> str:
    return beside_unit(f"{point.value:.10g}", point.unit.symbol)


def _exponent(said: str, points: list[Point]) -> float:
    """Of the power that goes through two points. Raises RequestError where there is none."""
    first, last = points
    factor = last.value * float(last.unit.scale / first.unit.scale)
    reads, ohms = (first.value, factor), (first.ohms, last.ohms)
    is_curve = min(*reads, *ohms) > 0 and reads[0] != reads[1] and ohms[0] != ohms[1]
    exponent = math.log(reads[1] / reads[0]) / math.log(ohms[1] / ohms[0]) if is_curve else 0.0
    if not LEAST_EXPONENT <= abs(exponent) <= 1.0 / LEAST_EXPONENT:
        raise RequestError(
            f'"{said.strip()}": its curve is a power, which goes through two different points, both above 0; '
            "take them where it is used."
        )
    return exponent


def _of_thermistor(said: str, points: list[Point], rest: str) -> str:
    """By its β between two points. Raises RequestError where no thermistor goes through both."""
    (first_k, first), (last_k, last) = ((each.kelvin, each.ohms) for each in points)
    is_curve = min(first, last, first_k, last_k) > 0 and first_k != last_k
    beta = math.log(first / last) / (1.0 / first_k - 1.0 / last_k) if is_curve else 0.0
    if not BETAS_K[0] <= beta <= BETAS_K[1]:
        raise RequestError(
            f'"{said.strip()}": a thermistor is known by two different points, like 10k at 25 °C, 3k6 at 50 °C.'
        )
    at_25 = first * math.exp(beta * (1.0 / AT_25_K - 1.0 / first_k))
    return f"a thermistor half, resistance = {at_25:.10g} Ω, beta = {beta:.10g} K, {rest}"


def _of_gas(said: str, curve: re.Match[str]) -> str:
    """A gas sensor by the equation of its curve, in R/R₀. Raises RequestError where that is none."""
    known = curve.groupdict()
    unit = unit_said(known.get("unit") or known.get("other") or "") or PARTS
    if known.get("times"):
        reads, exponent = _read(known["times"]), _read(known["to"])
    elif known.get("of"):
        of, by = _read(known["of"]), _read(known["by"])
        reads, exponent = (_ten_to(-math.log10(of) / by), 1.0 / by) if of > 0 and by else (0.0, 0.0)
    else:
        per, shift = _read(known["per"]), _read(known["shift"]) * (1 if known["sign"] == "+" else -1)
        reads, exponent = (_ten_to(shift / per), 1.0 / per) if per else (0.0, 0.0)
    if not (reads > 0 and math.isfinite(reads) and LEAST_EXPONENT <= abs(exponent) <= 1.0 / LEAST_EXPONENT):
        raise RequestError(f'"{said.strip()}": no gas sensor has such a curve; write it like {GAS_HOW}.')
    rest = f"{said[: curve.start()]} , {said[curve.end() :]}"
    base = _BASE.search(rest)
    rest = _LOADED.sub(_as_load, _GAS.sub("", _BASE.sub("", rest).strip(" ,"), count=1)).strip(" ,;")
    at = f"resistance = {_ohms(base['ohms']):.10g} Ω, " if base else ""
    there = beside_unit(f"{reads:.10g}", unit.symbol)
    return f"a gas sensor half, {at}reads = {there}, exponent = {exponent:.10g}, {rest}"


def _ten_to(decades: float) -> float:
    """0 for what nothing that is measured comes to."""
    return 10.0**decades if abs(decades) <= MOST_DECADES else 0.0


GAS_HOW = "ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k"


def _read(number: str) -> float:
    return float(number.replace(",", ".").replace("−", "-"))


def _as_load(found: re.Match[str]) -> str:
    """The resistor over which it is read, which goes to ground."""
    return f", fixed = {(found['behind'] or found['before']).strip()}, sensor = to supply, "
