"""Units within an expression: behind a number, behind all of it, and in place of the reading."""

from __future__ import annotations

import re
from collections.abc import Collection

from lesart.core.law.formula_words import FUNCTIONS
from lesart.core.quantity import beside_unit
from lesart.core.raw.spelled.unit_said import unit_in_name, unit_said
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.said.patterns import NO_UNIT, any_case

LETTERS_OF = (("A", "Ii"), ("Ω", "Rr"), ("Pa", "Pp"), ("Hz", "f"), ("V", "UuVv"), ("°C", "Tt"))
"""Letters that formulas have for a quantity, by a unit of it."""
OF_DEGREES = {"°C": "C", "°F": "F"}
_MEASURED = re.compile(r"(?<![\w.])(\d+(?:\.\d+)?(?:[eE][-+]?\d+)?)\s*([^\W\d_][\w²³%]*(?:/[^\W\d_]+)?|[°%Ω][^\W\d_]*)")
_LAST = re.compile(
    r"(?P<made>.*?(?:(?P<sign>[-+*/−×·÷])\s*\d[\d.]*(?:[eE][-+]?\d+)?|\)))\s*"
    r"(?P<unit>[^\W\d_][^\s\d()*+=,;]*[²³23]?|[°%Ω]\S*)"
)
_ONE = re.compile(r"x\s*(?P<sign>[*/])\s*(?P<number>\d[\d.]*)\s*(?P<unit>[^\W\d_][^\s\d()*+=,;/]*|Ω)")
AMPERE, VOLT, OHM = (parse_unit(each) for each in ("A", "V", "Ω"))
_READING = re.compile(r"(?<![A-Za-z_])x(?!\w)")
_ADDED_ALONE = re.compile(r"\s*x\s*[-+−]\s*[\d.]+")


def without_its_unit(name: str, names: Collection[str]) -> str:
    """A channel's name without the unit that stands at its end: in brackets, behind a slash, or as a suffix, which a
    letter may be where none of the other ``names`` has the same beginning."""
    bare = re.split(r"\s*[\[(/]", name)[0].strip()
    head, _, last = bare.rpartition("_")
    is_letter = last in ("g", "c", "f") and not any(each.startswith(f"{head}_") for each in names if each != name)
    return head if head and (is_letter or unit_in_name(bare) is not None) else bare


def without_units(text: str, letters: Collection[str], end: Unit) -> tuple[str, Unit | None]:
    """Numbers with units as bare ones: in ``end``, the unit of the laws, where they match it; for bare inputs the unit
    becomes that of the result: ``5 V * x / 1023``. Unchanged where a unit is neither.

    ``letters`` stand for readings.
    """
    made, unit = _without_last(text, letters, end)
    if unit is not None:
        return made, unit
    units: dict[str, Unit] = {}

    def bare(found: re.Match[str]) -> str:
        unit = unit_said(found[2]) if found[2] not in letters and found[2] not in FUNCTIONS else None
        if unit is None:
            return found[0]
        if end.symbol in NO_UNIT:
            units[unit.symbol] = unit
            return found[1]
        if not unit.same_dimension(end):
            return found[0]
        return f"{float(found[1]) * float(unit.scale / end.scale):.15g}"

    made = _MEASURED.sub(bare, text)
    return (made, next(iter(units.values()), None)) if len(units) < 2 else (text, None)


def with_its_quantity(text: str, end: Unit) -> tuple[str, str] | None:
    """The sign and the quantity of ``x * 12 V`` of a current, which is a power, and of ``x / 250 Ω``: what Ohm's law
    has beside the reading, and no unit of the result. None for anything else."""
    found = _ONE.fullmatch(text.replace("\u200b", "").strip())
    unit = unit_said(found["unit"]) if found is not None else None
    if found is None or unit is None or end.symbol in NO_UNIT:
        return None
    is_power = end.same_dimension(AMPERE) and unit.same_dimension(VOLT) and found["sign"] == "*"
    is_ohms = unit.same_dimension(OHM) and any(map(end.same_dimension, (AMPERE, VOLT)))
    return (found["sign"], beside_unit(found["number"], unit.symbol)) if is_power or is_ohms else None


def _without_last(text: str, letters: Collection[str], end: Unit) -> tuple[str, Unit | None]:
    """The expression without the unit behind it, which is that of the result: ``(x - 500) / 10 °C`` of millivolts.

    Unchanged for bare numbers, and where it is the unit of what is added: ``x - 20 mm``. A temperature in another unit
    is added to nothing but a converted one: ``x * 1.8 + 32 °F``.
    """
    found = None if end.symbol in NO_UNIT else _LAST.fullmatch(text.replace("\u200b", "").strip())
    if found is None or found["unit"] in letters or found["unit"] in FUNCTIONS:
        return text, None
    unit = unit_said(found["unit"])
    if unit is None or unit == end or not _READING.search(found["made"]):
        return text, None
    is_added = found["sign"] in ("+", "-", "−") and unit.same_dimension(end)
    if is_added and (_ADDED_ALONE.fullmatch(found["made"]) or not end.is_temperature):
        return text, None
    return found["made"], unit


def reading_by_its_unit(text: str, spoken: Collection[str], end: Unit) -> str:
    """What the reading is called where nothing ``spoken`` refers to it: by its unit, ``(mV - 500) / 10``, or by the
    letter of its quantity, ``R / 10000``; empty where it is not."""
    others = "|".join(map(re.escape, spoken))
    if end.symbol in NO_UNIT or any_case(rf"(?<![A-Za-z_])(?:{others})(?![\w(])").search(text):
        return ""
    letters = next((signs for unit, signs in LETTERS_OF if end.same_dimension(parse_unit(unit))), "")
    called = [end.symbol, *letters, *OF_DEGREES.get(end.symbol, "")]
    met = [each for each in called if re.search(rf"(?<![\w.])(?<!\d ){re.escape(each)}(?![\w/])", text)]
    return met[0] if len(met) == 1 else ""
