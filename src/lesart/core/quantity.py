"""Numbers as makers write them: ``4k7``, ``10 kΩ``, ``3.3V``, ``2.5 mV/K``, ``1e-3``, ``400 kHz``, ``1/16``, ``0x2F``.

Values are exact fractions until they are asked for as floats, so 0.1 V is exactly a tenth.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, UnitError
from lesart.core.units import PREFIXES, Unit, conversion, parse_unit

_GROUPED = r"\d{1,3}(?:[ \u2009\u202f]\d{3})+(?!\d)"
"""Thousands separated by a space, as Lesart itself writes them: 8 412 907."""
_NUMBER = re.compile(rf"[+\-−]?\s*(?:(?:{_GROUPED}|\d[\d_]*)(?:[.,]\d+)?|[.,]\d+)(?:[eE][+\-−]?\d{{1,4}})?")
_CODE = re.compile(
    r"(?P<whole>[+\-−]?\d+|[+\-−]?(?=R))(?P<letter>[pnuµmkMGRV])(?P<part>\d+|(?<=\dR)$)\s*(?P<unit>\D.*)?$"
)
_BITS = re.compile(r"(?P<sign>[+\-−]?)0(?:[xX](?P<hex>[0-9a-fA-F]+)|[bB](?P<binary>[01]+))(?:\s+(?P<unit>\D.*))?$")
_RATIO = re.compile(r"(?P<above>[+\-−]?\d+)\s*/\s*(?P<below>\d+)(?:\s+(?P<unit>\D.*))?$")
_LEVEL = re.compile(r"(?P<step>\d{1,5})\s*(?:/|of)\s*(?P<most>\d{1,5})(?P<low>\s+low)?")
"""Of a brightness: 50/255, or 50/255 low where a low level lights."""


MOST = Fraction(10) ** 60
"""No quantity needs a number beyond this, or nearer to 0 than its inverse; squares and products of some still fit."""


@dataclass(frozen=True)
class Quantity:
    """An exact number and its unit."""

    value: Fraction
    unit: Unit

    def to(self, unit: Unit) -> float:
        """The value in ``unit`` as a float. Raises UnitError where the two do not measure the same thing."""
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
    cleaned = text.strip().replace("\u03bc", "µ")
    if not cleaned or len(cleaned) > 60:
        shown = cleaned[:20] + "…" if cleaned else "nothing"
        raise QuantityError(f"{shown} is not a number; write one like {example(expected)}.")
    if expected.symbol == "%" and (level := _LEVEL.fullmatch(cleaned)) is not None:
        return _of_level(level, expected)
    try:
        value, rest, prefix = _split(cleaned)
        if not _is_sensible(value):
            raise QuantityError(f'"{cleaned}" is {_beyond(value)}; no quantity needs that.')
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


def is_level(text: str, expected: Unit) -> bool:
    """True for a level out of a number of them, as 50/255, where a share is meant."""
    return expected.symbol == "%" and _LEVEL.fullmatch(text.strip()) is not None


def _of_level(level: re.Match[str], expected: Unit) -> Quantity:
    """A level out of a number of them as a share; for an active-low line, the remainder. Raises QuantityError."""
    step, most = int(level["step"]), int(level["most"])
    if not 0 <= step <= most or most == 0:
        raise QuantityError(f'"{level[0]}" is not a level; write it like 50/255, from 0 to the highest.')
    share = Fraction(100 * (most - step if level["low"] else step), most)
    return Quantity(share, expected)


def _is_sensible(value: Fraction) -> bool:
    return value == 0 or 1 / MOST <= abs(value) <= MOST


def _beyond(value: Fraction) -> str:
    return "beyond 1e60" if abs(value) > 1 else "nearer to 0 than 1e−60"


def _split(text: str) -> tuple[Fraction, str, Fraction | None]:
    """Number, unit text, and the prefix written inside the number, if there was one."""
    if match := _BITS.match(text):
        digits, base = (match["hex"], 16) if match["hex"] else (match["binary"], 2)
        value = Fraction(int(digits, base) * (-1 if match["sign"] in ("-", "−") else 1))
        return value, (match["unit"] or "").strip(), None
    if match := _CODE.match(text):
        whole, letter, part, unit = match["whole"] or "0", match["letter"], match["part"], match["unit"] or ""
        whole = f"{whole}0" if whole in ("+", "-", "−") else whole
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


def whole_number(text: str) -> int | None:
    """The value of ``24``, ``−3``, ``0x2F`` or ``0b1010``; None where it is not a whole number, or has too many
    digits."""
    match = re.fullmatch(r"([+\-−]?)(0[xX][0-9a-fA-F]{1,16}|0[bB][01]{1,64}|\d[\d_]{0,18})", text.strip())
    if match is None:
        return None
    number = int(match[2].replace("_", ""), 0 if match[2][:2].lower() in ("0x", "0b") else 10)
    return -number if match[1] in ("-", "−") else number


def example(unit: Unit, value: float = 2.5) -> str:
    """An example of a value in this unit, for a sentence that says what would be right."""
    written = f"{value:.15g}"
    return written if unit.symbol == "1" else f'"{written} {unit}"'


LARGEST_WHOLE, LARGEST_ROUGH = 1e15, 1e5
"""Whole numbers below these are written out in full, whatever number of figures is asked for: where all are wanted,
and where some are enough."""
WRITTEN_DIGITS = 6
SELDOM_HZ = 0.5
"""Below this a rate is said as the time from one to the next."""
SPANS_S = (("d", 86_400.0), ("h", 3600.0), ("min", 60.0), ("s", 1.0))


def plain_number(value: float, digits: int = 6) -> str:
    """A number as short as usual with at most ``digits`` significant figures; a dash for NaN."""
    if value == 0:
        return "0"
    if not math.isfinite(value):
        return "—" if math.isnan(value) else "∞" if value > 0 else "−∞"
    if value == round(value, 0) and abs(value) < (LARGEST_WHOLE if digits >= WRITTEN_DIGITS else LARGEST_ROUGH):
        return f"{value:.0f}".replace("-", "−")  # 1024 bytes are not 1020
    text = f"{value:.{digits}g}"
    if "e" in text:
        mantissa, exponent = text.split("e")
        text = f"{Decimal(text):f}" if -5 <= int(exponent) < 9 else f"{mantissa}e{int(exponent)}"
    return text.replace("-", "−")


def told_apart(figure: float, limit: float, digits: int = 3) -> tuple[str, str]:
    """Both as short as they can be and still read differently, so that no sentence says 2 s is more than the allowed 2
    s."""
    shown, other = plain_number(figure, digits), plain_number(limit, digits)
    while shown == other and figure != limit and digits < 15:
        digits += 1
        shown, other = plain_number(figure, digits), plain_number(limit, digits)
    return shown, other


def times_said(count: str) -> str:
    """``once``, ``28 times``."""
    return "once" if count == "1" else f"{count} times"


def clock(seconds: float) -> str:
    """A time in a capture as ``00:14:32.4``."""
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


def counted(count: int, noun: str, nouns: str = "") -> str:
    """``1 gap``, ``72 000 samples``; ``nouns`` is the plural where that is not ``noun`` with an s."""
    return f"{grouped(str(count))} {noun if count == 1 else nouns or f'{noun}s'}"


def counted_of(count: int, total: int, noun: str, *, percent: bool = False) -> str:
    """``12 of 72 000 samples``, with the share where it is wanted, ``all 30 samples``, ``the only sample``.

    The number of a verb after it is that of ``count``.
    """
    if count == total:
        return f"the only {noun}" if total == 1 else f"all {counted(total, noun)}"
    share = f" ({plain_number(100.0 * count / total, 2)} %)" if percent else ""
    return f"{grouped(str(count))} of {counted(total, noun)}{share}"


def listed(names: Sequence[str]) -> str:
    """``stand, door and lid``."""
    return " and ".join((", ".join(names[:-1]), names[-1])) if len(names) > 1 else "".join(names)


def rate_said(rate_hz: float, digits: int = 4) -> str:
    """A rate as people say it: ``10 Hz``; for slow ones ``every 30 s``, ``every 15 min``."""
    if not 0 < rate_hz < SELDOM_HZ:
        return f"{plain_number(rate_hz, digits)} Hz"
    every_s = 1.0 / rate_hz
    unit, seconds = next((each for each in SPANS_S if every_s > 1.99 * each[1]), SPANS_S[-1])
    if abs(every_s / seconds - round(every_s / seconds)) > 0.01:
        unit, seconds = SPANS_S[-1]  # 90 s, not 1.5 min
    return f"every {plain_number(every_s / seconds, digits)} {unit}"


def format_quantity(value: float, unit: Unit, digits: int = 6) -> str:
    """Number and unit with the space between them that SI asks for; none before ° alone. A dash for no number."""
    return "—" if math.isnan(value) else beside_unit(grouped(plain_number(value, digits)), unit.symbol)


def beside_unit(number: str, unit: str) -> str:
    """A written number with its unit after it: ``2.5 kg``, ``27°``, ``3`` without a unit."""
    if unit in ("", "1"):
        return number
    return f"{number}{unit}" if unit == "°" else f"{number} {unit}"


def slope_unit_said(above: str, below: str) -> str:
    """The unit of a slope: ``mV/K``, ``1/V``, ``1/min per ct``, ``kg`` per plain number; none where neither has one.

    For people: ``ratio_symbol`` writes one that is read again.
    """
    if below in ("", "1"):
        return "" if above == "1" else above
    by = " per " if any(sign in above + below for sign in "/·") and above not in ("", "1") else "/"
    return f"{above or '1'}{by}{below}"
