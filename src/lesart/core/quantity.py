"""Numbers as makers write them: ``4k7``, ``10 kΩ``, ``3.3V``, ``2.5 mV/K``, ``1e-3``, ``400 kHz``, ``1/16``.

Values are exact fractions until they are asked for as floats, so 0.1 V is exactly a tenth.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from lesart.core.errors import QuantityError, UnitError
from lesart.core.units import PREFIXES, Unit, conversion, parse_unit

_GROUPED = r"\d{1,3}(?:[ \u2009\u202f]\d{3})+(?!\d)"
"""Thousands apart by a space, as Lesart itself writes them: 8 412 907."""
_NUMBER = re.compile(rf"[+\-−]?\s*(?:(?:{_GROUPED}|\d[\d_]*)(?:[.,]\d+)?|[.,]\d+)(?:[eE][+\-−]?\d{{1,3}})?")
_CODE = re.compile(r"(?P<whole>[+\-−]?\d+)(?P<letter>[pnuµmkMGRV])(?P<part>\d+)\s*(?P<unit>\D.*)?$")
_RATIO = re.compile(r"(?P<above>[+\-−]?\d+)\s*/\s*(?P<below>\d+)(?:\s+(?P<unit>\D.*))?$")


@dataclass(frozen=True)
class Quantity:
    """An exact number and its unit."""

    value: Fraction
    unit: Unit

    def to(self, unit: Unit) -> float:
        """As a float in ``unit``. Raises UnitError when the two do not measure the same thing."""
        conversion(self.unit, unit)
        base = self.value * self.unit.scale + self.unit.offset_k
        return float((base - unit.offset_k) / unit.scale)

    def difference_in(self, unit: Unit) -> float:
        """As a difference of two values in ``unit``: of a temperature only its scale counts. Nothing needs no unit.

        Raises UnitError when it does not measure the same thing.
        """
        if self.value == 0 and self.unit.symbol == "1":
            return 0.0
        if self.unit.dimension != unit.dimension:
            raise UnitError(f'it must be a difference in {unit}, like "0.1 {unit.step}", not {self}')
        return float(self.value * self.unit.scale / unit.scale)

    def __str__(self) -> str:
        return format_quantity(float(self.value), self.unit)


def parse_quantity(text: str, expected: Unit, *, unit_needed: bool = False) -> Quantity:
    """The quantity that ``text`` writes. A number without a unit is taken in ``expected``, unless ``unit_needed``.

    A bare prefix multiplies the unit without its own prefix: ``4k7`` for Ω or kΩ is 4700 Ω. Raises QuantityError with
    an example of what would be right; units are not compared here, because some parameters accept several.
    """
    cleaned = text.strip()
    if not cleaned or len(cleaned) > 60:
        shown = cleaned[:20] + "…" if cleaned else "nothing"
        raise QuantityError(f"{shown} is not a number; write one like {example(expected)}.")
    try:
        value, rest, prefix = _split(cleaned)
        if prefix is not None:
            return Quantity(value * prefix, parse_unit(rest or expected.root or "1"))
        if rest:
            return _with_unit(value, rest, expected)
    except (UnitError, ZeroDivisionError, OverflowError) as error:
        reason = str(error) if isinstance(error, UnitError) else f'"{cleaned}" has no finite value.'
        raise QuantityError(reason) from error
    if unit_needed and expected.symbol != "1":
        raise QuantityError(f'"{cleaned}" has no unit; write it like {example(expected)}.')
    return Quantity(value, expected)


def _split(text: str) -> tuple[Fraction, str, Fraction | None]:
    """Number, unit text, and the prefix that stood inside the number, if one did."""
    if match := _CODE.match(text):
        whole, letter, part, unit = match["whole"], match["letter"], match["part"], match["unit"] or ""
        value = Fraction(Decimal(f"{whole.replace('−', '-')}.{part}"))
        if letter in "RV":
            return value, "Ω" if letter == "R" else "V", None
        return value, unit.strip(), PREFIXES[letter.replace("u", "µ")]
    if match := _RATIO.match(text):
        value = Fraction(int(match["above"].replace("−", "-")), int(match["below"]))
        return value, (match["unit"] or "").strip(), None
    # The exponent is only taken where digits follow it, so that "1 eV" or "2E" are not half a number.
    number_match = _NUMBER.match(text)
    if number_match is None:
        raise UnitError(f'"{text}" is not a number; write one like 4k7, 3.3 V or 1e-3.')
    digits = re.sub(r"[ _\u2009\u202f]", "", number_match.group().replace("−", "-"))
    if "," in digits:
        if re.search(r"[1-9]\d{0,2},\d{3}$", digits):
            raise UnitError(
                f'"{text}" can be read in two ways; write a thousand without a comma, a fraction with a point.'
            )
        digits = digits.replace(",", ".")
    return Fraction(Decimal(digits)), text[number_match.end() :].strip(), None


def _with_unit(value: Fraction, rest: str, expected: Unit) -> Quantity:
    """``10k`` alone means ten thousand of the expected unit's root; anything else must be a unit."""
    prefix = PREFIXES.get(rest.replace("u", "µ"))
    if prefix is not None and rest in ("k", "M", "G", "u", "µ", "n", "p") and expected.root:
        return Quantity(value * prefix, parse_unit(expected.root))
    return Quantity(value, parse_unit(rest))


def example(unit: Unit) -> str:
    """How a value of this unit is written, for a sentence that says what would be right."""
    return "2.5" if unit.symbol == "1" else f'"2.5 {unit}"'


def plain_number(value: float, digits: int = 6) -> str:
    """The shortest usual writing of a number with at most ``digits`` significant figures."""
    if value == 0:
        return "0"
    text = f"{value:.{digits}g}"
    if "e" in text:
        mantissa, exponent = text.split("e")
        text = f"{Decimal(text):f}" if -5 <= int(exponent) < 9 else f"{mantissa}e{int(exponent)}"
    return text.replace("-", "−")


def clock(seconds: float) -> str:
    """``00:14:32.4`` of a time in a capture."""
    tenths = round(seconds * 10)
    whole, tenth = divmod(max(tenths, 0), 10)
    return f"{whole // 3600:02d}:{whole // 60 % 60:02d}:{whole % 60:02d}.{tenth}"


def grouped(number: str) -> str:
    """Five or more digits before the point in groups of three: ``457 795``, but ``1000``."""
    match = re.match(r"[+\-−]?(\d{5,})", number)
    if match is None:
        return number
    start, end = match.span(1)
    return number[:start] + f"{int(number[start:end]):,}".replace(",", " ") + number[end:]


def format_quantity(value: float, unit: Unit, digits: int = 6) -> str:
    """Number and unit with the space between them that SI asks for; none before ° alone."""
    number = grouped(plain_number(value, digits))
    if unit.symbol == "1":
        return number
    return f"{number}{unit}" if unit.symbol == "°" else f"{number} {unit}"
