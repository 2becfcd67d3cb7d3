"""Numbers as programs write them into cells: with separated thousands, a unit, hexadecimal, true and false.

A cell is read where it can be read in one way only; after a number only a unit may follow, not any word.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache
from types import MappingProxyType

from lesart.core.errors import UnitError
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit, convert

THOUSANDS = {"none": "", ",": ",", ".": ".", "'": "'", "space": " "}
"""Separators of groups of three digits, as the project file names them."""
FLAGS = {
    "true": 1.0,
    "false": 0.0,
    "on": 1.0,
    "off": 0.0,
    "yes": 1.0,
    "no": 0.0,
    "high": 1.0,
    "low": 0.0,
    "open": 1.0,
    "closed": 0.0,
}
NO_VALUE = frozenset(
    {
        "",
        "nan",
        "na",
        "n/a",
        "null",
        "none",
        "nil",
        "-",
        "--",
        "---",
        "?",
        "err",
        "error",
        "ovf",
        "ol",
        "missing",
        "#n/a",
    }
)
"""Words for a missing value; a column may be full of them and still be one of numbers."""
_NUMBER = {
    ".": re.compile(r"[+-]?(?:\d++(?:\.\d*+)?+|\.\d++)(?:[eE][+-]?\d++|[dD][+-]\d++)?+$"),
    ",": re.compile(r"[+-]?(?:\d++(?:,\d*+)?+|,\d++)(?:[eE][+-]?\d++|[dD][+-]\d++)?+$"),
}
"""``2.09D+01`` is double precision, as older programs write it; without the sign a d is a day."""
_EXPONENT = str.maketrans("dD", "ee")
_HEX = re.compile(r"(?:0[xX]([0-9a-fA-F]{1,16})|(?=\S*\d|[A-F]{2,}h)([0-9a-fA-F]{1,16})[hH])$")
"""``ch`` and ``Ah`` are words, and ``each`` is one."""
_BITS = re.compile(r"0[bB]([01]{1,64})$")
_DIGITS_H = re.compile(r"([0-9a-fA-F]{1,16})h$")
_HOURS = re.compile(r"(?:0|[1-9]\d*)h$")
_NO_HOURS = re.compile(r"(?=\d*[a-fA-F]|0\d)[0-9a-fA-F]+h$")
_WITH_UNIT = re.compile(r"([+\-−]?\s?[\d.,'\u00a0\u202f ]*\d[.,]?(?:[eE][+-]?\d{1,3})?)\s*([^\d\s.,:;+\-].{0,11})$")
_GROUPED = {
    ",": re.compile(r"[+-]?\d{1,3}(?:,\d{3})+(?:\.\d*)?$"),
    ".": re.compile(r"[+-]?\d{1,3}(?:\.\d{3})+(?:,\d*)?$"),
    "'": re.compile(r"[+-]?\d{1,3}(?:['’]\d{3})+(?:[.,]\d*)?$"),
    "space": re.compile(r"[+-]?\d{1,3}(?:[ \u00a0\u202f]\d{3})+(?:[.,]\d*)?$"),
}


def plain(cell: str, decimal: str, thousands: str = "none") -> float | None:
    """The value of a cell that is nothing but a number; None for any other."""
    text = cell.strip().replace("−", "-")
    if thousands != "none":
        match = _GROUPED[thousands].match(text)
        if match:
            text = re.sub(r"[ \u00a0\u202f'’]" if thousands in ("space", "'") else re.escape(thousands), "", text)
    if not _NUMBER[decimal].match(text):
        return None
    try:
        return float(text.replace(",", ".") if decimal == "," else text)
    except ValueError:
        return float(text.replace(",", ".").translate(_EXPONENT))


def in_code(cell: str) -> float | None:
    """The value of ``0x1F``, ``1Fh`` or ``0b11111``; None for anything else. Digits alone are decimal."""
    text = cell.strip()
    if match := _HEX.match(text):
        return float(int(match[1] or match[2], 16))
    return float(int(match[1], 2)) if (match := _BITS.match(text)) else None


NO_BASES: Mapping[str, int] = MappingProxyType({})
BITS_OF_WORDS = (4, 8, 10, 12, 16, 24, 32)
BYTE = 8
FEWEST_CODED = 8
"""Fewest cells that have to agree: a few short ones may be words or numbers as well."""
MOST_PINS = 8
_PIN = re.compile(r"[A-Fa-f]\d$")
_HEX_DIGITS = re.compile(r"(?:[0-9A-F]{2,8}|[0-9a-f]{2,8})$")


def base_written(cells: Sequence[str]) -> int:
    """2 or 16 where whole numbers of one length are written in that base without a prefix, ``00010110`` and ``07C4``; 0
    where they may be decimal, or words."""
    told = [text for cell in cells if (text := cell.strip()) and text.lower() not in NO_VALUE]
    if len(told) < FEWEST_CODED or len({len(text) for text in told}) != 1:
        return 0
    length, letters = len(told[0]), set().union(*told)
    if letters <= {"0", "1"}:
        is_word = length in BITS_OF_WORDS and len(set(told)) > 1
        return 2 if is_word and (length >= BYTE or any(text.startswith("0") for text in told)) else 0
    if not all(_HEX_DIGITS.match(text) for text in told) or all(text[:2] in ("0b", "0B") for text in told):
        return 0
    with_letters = [text for text in told if not text.isdigit()]
    in_digits = [text for text in told if any(sign.isdigit() for sign in text)]
    # 1E05 is a number as well, and face is a word: most have a digit, and one is neither.
    is_no_number = any(plain(text, ".") is None for text in with_letters)
    return 16 if is_no_number and 2 * len(in_digits) > len(told) and not _are_pins(told) else 0


def _are_pins(told: Sequence[str]) -> bool:
    """True for ``A0`` and ``A1``, which name inputs that take turns; numbers that change would not all begin so."""
    names = set(told)
    return len(names) <= MOST_PINS and len({name[0] for name in names}) == 1 and all(map(_PIN.match, names))


def _in_digits(text: str) -> float | None:
    """The value of ``fah`` in a column that is hexadecimal."""
    match = _DIGITS_H.match(text)
    return float(int(match[1], 16)) if match else None


def with_unit(cell: str, decimal: str, thousands: str = "none") -> tuple[float, Unit] | None:
    """A number and the unit after it; None where no unit follows."""
    match = _WITH_UNIT.match(cell.strip())
    if match is None:
        return None
    value = plain(match[1].replace("− ", "-").replace("- ", "-"), decimal, thousands)
    unit = unit_said(match[2]) if value is not None else None
    return None if value is None or unit is None else (value, unit)


def is_in_hours(cell: str) -> bool:
    """True for ``24h``, as far as one cell can tell."""
    return _HOURS.match(cell.strip()) is not None


def are_hours(cells: Iterable[str]) -> bool | None:
    """For cells with a small h after whole numbers: ``24h`` is in hours, unless others read ``1Fh`` or ``05h``.

    None where there are no such cells.
    """
    behind = [text for cell in cells if (text := cell.strip()).endswith("h") and _HEX.match(text)]
    return not any(_NO_HOURS.match(text) for text in behind) if behind else None


class CellReader:
    """Reads the cells of a file's columns, and remembers the unit of each column's first cell.

    A cell in another unit of the same kind is converted to that one: 1.2 kΩ below 999 Ω is 1200.
    """

    def __init__(self, decimal: str, thousands: str = "none", bases: Mapping[str, int] = NO_BASES) -> None:
        """``bases`` of columns that are written in base 2 or 16 without a prefix."""
        self.decimal, self.thousands, self.bases = decimal, thousands, bases
        self.units: dict[str, Unit] = {}
        self._hours: dict[str, bool] = {}

    def numbers(self, column: str, cells: Sequence[str]) -> list[float]:
        """The numbers of a column, or of its next cells."""
        self.look(column, cells)
        return [self.number(column, cell) for cell in cells]

    def look(self, column: str, cells: Sequence[str]) -> None:
        """Decide from the first such cells whether an h after a number means hours."""
        if column not in self._hours and (hours := are_hours(cells)) is not None:
            self._hours[column] = hours

    def number(self, column: str, cell: str) -> float:
        """The number in a cell; NaN where there is none."""
        text = cell.strip()
        if base := self.bases.get(column, 0):
            try:
                return float(int(text, base))
            except ValueError:
                return math.nan
        value = plain(text, self.decimal, self.thousands)
        if value is not None:
            return value
        lowered = text.lower()
        if lowered in FLAGS:
            return FLAGS[lowered]
        if lowered in ("inf", "+inf", "infinity"):
            return math.inf
        if lowered in ("-inf", "-infinity"):
            return -math.inf
        value = in_code(text)
        if value is None and self._hours.get(column) is False:
            value = _in_digits(text)
        in_hours = text.endswith("h") and self._hours.get(column, is_in_hours(text))
        if value is not None and not in_hours:
            return value
        found = with_unit(text, self.decimal, self.thousands)
        if found is None:
            return math.nan
        first = self.units.setdefault(column, found[1])
        try:
            return convert(found[0], found[1], first)
        except UnitError:
            return math.nan


@lru_cache(maxsize=1 << 13)
def is_number(cell: str, decimal: str) -> bool:
    """True for anything that may be a number, however it is written.

    Cached: each cell of a file's head is asked for several times.
    """
    text = cell.strip().replace("−", "-")
    if plain(text, decimal) is not None or in_code(text) is not None:
        return True
    ways = (sign for sign in THOUSANDS if sign not in ("none", decimal))
    # What is not written in groups was not a number above, and is not one here.
    return any(_GROUPED[sign].match(text) and plain(text, decimal, sign) is not None for sign in ways)


def thousands_in(columns: Iterable[Sequence[str]], decimal: str) -> str:
    """The separator of groups of three digits in these cells; ``none`` where there is none."""
    cells = [cell.strip() for column in columns for cell in column]
    for name, sign in THOUSANDS.items():
        if not sign or sign == decimal:
            continue
        grouped = [cell for cell in cells if _GROUPED[name].match(cell)]
        if grouped and all(plain(cell, decimal, name) is not None for cell in grouped):
            return name
    return "none"


def is_grouped_whole(column: Sequence[str], sign: str) -> bool:
    """True where the signs in whole numbers are thousands separators: 980, 1.024, 1.234.567, and nothing else."""
    cells = [cell.strip() for cell in column if cell.strip()]
    mark = re.escape(sign)
    grouped = [cell for cell in cells if re.match(rf"[+-]?[1-9]\d{{0,2}}(?:{mark}\d{{3}})+$", cell)]
    bare = [cell for cell in cells if re.match(r"[+-]?\d{1,3}$", cell)]
    if not grouped or len(grouped) + len(bare) < len(cells):
        return False
    return any(cell.count(sign) > 1 for cell in grouped) or (len(bare) >= 2 and min(map(int, bare)) >= 100)


def may_be_grouped(column: Sequence[str], sign: str) -> bool:
    """True where every cell has exactly three places, so that its sign may be a thousands separator as well."""
    cells = [cell.strip() for cell in column if cell.strip()]
    return len(cells) > 2 and all(re.match(rf"[+-]?[1-9]\d{{0,2}}{re.escape(sign)}\d{{3}}$", cell) for cell in cells)


def is_decimal(cell: str, sign: str) -> bool:
    """True where the sign cannot be a thousands separator: 0,5 and 21,75, and 0,125 too."""
    return bool(re.match(rf"[+-]?(?:0?{re.escape(sign)}\d+|\d+{re.escape(sign)}(?:\d{{1,2}}|\d{{4,}}))$", cell.strip()))


def is_single_group(cell: str, sign: str) -> bool:
    """True for one sign with three digits after it, which may be a decimal sign as well."""
    return bool(re.match(rf"[+-]?\d{{1,3}}{re.escape(sign)}\d{{3}}$", cell))
