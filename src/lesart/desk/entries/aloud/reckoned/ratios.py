"""Ratios of two units, after laws that end in one of them: ``0.0343 cm/µs / 2``, ``41 µV per degree``, ``11.3 litres
per cm``; the value of a pulse where the time between two is read; and the content of a tank."""

from __future__ import annotations

import math
import re
from fractions import Fraction

from lesart.core.quantity import Quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.aloud.reckoned.expressions import Reckoned, Scene, line

METRE, LITRE, SECOND, TURN = parse_unit("m"), parse_unit("L"), parse_unit("s"), parse_unit("turn")
VOLT, CELSIUS = parse_unit("V"), parse_unit("°C")
_NUMBER = r"\d+(?:[.,]\d+)?(?:e-?\d+)?"
_UNIT = r"[^\W\d][\w²³%]*(?:\s[CF]\b)?|[°%Ω][^\W\d]*"
_EACH = re.compile(
    rf"(?P<many>{_NUMBER}|1/\d+)\s*(?P<of>{_UNIT})\s*(?:/|\bper\b)\s*(?:an?\s+)?(?P<each>{_UNIT})"
    rf"(?:\s*(?P<sign>[*/×÷])\s*(?P<times>{_NUMBER})|,?\s*(?P<back>there\s+and\s+back|round\s+trip|both\s+ways))?",
    re.IGNORECASE,
)
_PER_PULSE = re.compile(
    rf"(?P<many>{_NUMBER})\s*(?P<of>{_UNIT})\s*(?:/|\bper\b)\s*(?:an?\s+)?"
    r"(?:pulse|tip|imp(?:ulse)?|flash|blink|tick|turn|rev\w*)",
    re.IGNORECASE,
)
_PULSES_PER = re.compile(
    r"(?:(?:meter|encoder|wheel|fan|flow\s+(?:meter|sensor))\s+)?(?P<many>\d+(?:\.\d+)?)\s*"
    r"(?:pulses?|imp(?:ulse)?s?|flashes|blinks|tips|ticks|marks|magnets|teeth|slots)"
    rf"\s*(?:/|\bper\b|\ba\b)\s*(?:an?\s+)?(?P<of>{_UNIT})",
    re.IGNORECASE,
)
_OF_TURNS = re.compile(r"rev(?:olution)?s?|turns?|rotations?", re.IGNORECASE)
RATES = (("Wh", "W", 1.0), ("L", "L/min", 60.0), ("turn", "rpm", 60.0), ("m", "m/s", 1.0), ("mm", "mm/h", 3600.0))
"""Units of a pulse, and the unit of the rate, with its seconds."""
_SIZE = rf"(?P<{{0}}>{_NUMBER}\s*(?:[mcdk]?m|in|inch(?:es)?|ft|feet)?)"
_WHAT = (
    r"(?:(?:litres?|liters?|volume|contents?|gallons?)(?:\s+of)?(?:\s+an?)?[\s:,]+)?(?:(?:round|upright|vertical)\s+)?"
)
_ACROSS = (
    rf"(?:{_SIZE.format('size')}\s+(?P<how>diameter|radius|across|wide)"
    rf"|(?P<how_first>diameter|radius)\s+(?:of\s+)?{_SIZE.format('behind')})"
)
_TANK = r"(?:tank|barrel|drum|cylinder|cistern|well|butt)"
_UPRIGHT = re.compile(rf"{_WHAT}{_TANK}[\s,]+(?:of\s+|with\s+)?(?:an?\s+)?{_ACROSS}", re.IGNORECASE)
_SQUARE = re.compile(
    rf"{_WHAT}(?:rectangular\s+|square\s+|box\s+)?{_TANK}[\s,]+(?:of\s+)?{_SIZE.format('long')}\s*(?:x|×|by)\s*"
    rf"{_SIZE.format('broad')}",
    re.IGNORECASE,
)
_LYING = re.compile(
    rf"{_WHAT}(?:lying|horizontal)\s+{_TANK}[\s,]+(?:of\s+|with\s+)?{_ACROSS}[\s,]+(?:and\s+)?"
    rf"(?:{_SIZE.format('long')}\s+long|length\s+(?:of\s+)?{_SIZE.format('length')})",
    re.IGNORECASE,
)


def by_ratio(said: str, scene: Scene) -> Reckoned | None:
    """The law for a line; None where it is not a ratio, or of other units."""
    end = scene.end
    if end.same_dimension(SECOND) and (pulse := _pulse(said)) is not None:
        return _of_period(*pulse, scene)
    if end.same_dimension(METRE) and (made := _held(said, scene)) is not None:
        return made
    found = _EACH.fullmatch(said)
    if found is None:
        return None
    of, each = (_meant(found[name], end) for name in ("of", "each"))
    if of is None or each is None:
        return None
    many = _number(found["many"]) / (2 if found["back"] else 1)
    if found["times"]:
        times = _number(found["times"])
        many = many * times if found["sign"] in "*×" else many / times if times else 0.0
    if not many:
        return None
    zero = Quantity(Fraction(0), end)
    if each.same_dimension(end.step):
        return line(zero, Quantity(Fraction(0), of), Fraction(many) * end.scale / each.scale)
    if of.same_dimension(end.step):
        # An input per unit of output divides; there and back doubles it.
        many = many * 4 if found["back"] else many
        return line(zero, Quantity(Fraction(0), each), end.scale / of.scale / Fraction(many))
    return None


def _number(said: str) -> float:
    above, _, below = said.replace(",", ".").partition("/")
    return float(above) / float(below or 1) if float(below or 1) else 0.0


def _meant(said: str, end: Unit) -> Unit | None:
    """The unit that is meant; per degree of a voltage means temperature."""
    if re.fullmatch(r"deg(?:ree)?s?", said, re.IGNORECASE) and end.same_dimension(VOLT):
        return CELSIUS
    return unit_said(said)


def _pulse(said: str) -> tuple[float, Unit] | None:
    """The value of one pulse."""
    if (found := _PULSES_PER.fullmatch(said)) and _number(found["many"]):
        unit = TURN if _OF_TURNS.fullmatch(found["of"]) else unit_said(found["of"])
        return (1 / _number(found["many"]), unit) if unit is not None else None
    if found := _PER_PULSE.fullmatch(said):
        unit = unit_said(found["of"])
        return (_number(found["many"]), unit) if unit is not None else None
    return None


def _of_period(each: float, unit: Unit, scene: Scene) -> Reckoned | None:
    """A rate, where the time between two pulses is read."""
    usual = next((rate for rate in RATES if parse_unit(rate[0]) == unit), None)
    usual = usual or next((rate for rate in RATES if parse_unit(rate[0]).same_dimension(unit)), None)
    if usual is None:
        return None
    _, told_in, _ = usual
    rate = parse_unit(told_in)
    # In SI for a period of one unit of the readings, then in the unit of the rate.
    number = each * float(unit.scale) / float(scene.end.scale) / float(rate.scale)
    return scene.by_formula(f"{number:.12g} / x", {}, into=rate)


def _held(said: str, scene: Scene) -> Reckoned | None:
    """Litres by level."""
    if found := _LYING.fullmatch(said):
        radius, length = _radius(found), _metres(found["long"] or found["length"])
        if not radius or not length:
            return None
        depth = float(scene.end.scale)
        x, r = (f"({depth:.12g} * x)" if depth != 1 else "x"), f"{radius:.12g}"
        segment = f"{r}**2 * acos(({r} - {x}) / {r}) - ({r} - {x}) * sqrt(2 * {r} * {x} - {x}**2)"
        return scene.by_formula(f"{1000 * length:.12g} * ({segment})", {}, into=LITRE)
    if found := _UPRIGHT.fullmatch(said):
        area = math.pi * _radius(found) ** 2
    elif found := _SQUARE.fullmatch(said):
        broad = found["broad"]
        shared = re.sub(r"[\d.,\s]", "", broad)
        long = found["long"] if re.search(r"[^\W\d]", found["long"]) else f"{found['long']} {shared}"
        area = _metres(long) * _metres(broad)
    else:
        return None
    zero = Quantity(Fraction(0), scene.end)
    return line(zero, Quantity(Fraction(0), LITRE), Fraction(1000 * area) * scene.end.scale) if area else None


def _radius(found: re.Match[str]) -> float:
    size, how = found["size"] or found["behind"], (found["how"] or found["how_first"]).lower()
    return _metres(size) * (1.0 if how == "radius" else 0.5)


def _metres(said: str) -> float:
    return float(quantity_typed(said, METRE).to(METRE))
