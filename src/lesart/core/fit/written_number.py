"""A number as text: rounded, signed, grouped, with its unit and its prefix, before it is placed in cells."""

from __future__ import annotations

import math
from collections.abc import Iterator
from decimal import Decimal

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import AS_FIT, BY_RANGE, GROUPS, POINT_LETTERS, Field
from lesart.core.fit.rounding import LARGEST, rounded

PREFIXES = {-12: "p", -9: "n", -6: "µ", -3: "m", 0: "", 3: "k", 6: "M", 9: "G"}
STEP = 3
THOUSAND = 1000


@dataclass(frozen=True)
class Written:
    """The parts of a number in this order, with padding zeros after the sign."""

    before: str
    sign: str
    digits: str
    behind: str
    number: Decimal
    decimals: int

    def text(self, zeros: int = 0) -> str:
        """The text with this many padding zeros."""
        return self.before + self.sign + "0" * zeros + self.digits + self.behind


def written(field: Field, shown_value: float) -> Iterator[Written]:
    """The ways to write a number in the field's unit, from the most decimals down."""
    fewest = 0 if field.decimals_are == AS_FIT else field.decimals
    for decimals in range(field.decimals, fewest - 1, -1):
        yield _written(field, shown_value, decimals)


def _written(field: Field, value: float, decimals: int) -> Written:
    number, exponent = (
        _scaled(value, decimals, field.round)
        if field.prefix == BY_RANGE
        else (rounded(value, decimals, field.round), 0)
    )
    sign = "-" if number < 0 else "+" if field.sign == "always" else ""
    if field.sign == "never":
        sign = ""
    whole, _, part = f"{abs(number):f}".partition(".")
    digits = _grouped(whole, GROUPS[field.group]) + (POINT_LETTERS[field.point] + part if part else "")
    unit = _unit_with(PREFIXES[exponent], field.unit_text)
    before, behind = (unit, "") if field.unit_place == "before" else ("", unit)
    return Written(before, sign, digits, behind, number, decimals)


def _unit_with(prefix: str, unit_text: str) -> str:
    """The unit with its prefix, after a blank that a person wrote before the unit."""
    bare = unit_text.lstrip(" ")
    return unit_text[: len(unit_text) - len(bare)] + prefix + bare


def _scaled(value: float, decimals: int, mode: str) -> tuple[Decimal, int]:
    """The number scaled by a power of a thousand to 1 … 1000, as far as there are prefixes."""
    lowest, highest = min(PREFIXES), max(PREFIXES)
    magnitude = abs(value)
    exponent = 0 if magnitude == 0 else math.floor(math.log10(magnitude) / STEP) * STEP
    exponent = min(max(exponent, lowest), highest)
    if exponent < highest and magnitude >= 10.0 ** (exponent + STEP):
        exponent += STEP  # the logarithm of a power of a thousand may come out a little low,
    elif exponent > lowest and magnitude < 10.0**exponent:
        exponent -= STEP  # and that of what lies just below one a little high
    number = rounded(value, decimals, mode, exponent)
    if abs(number) >= THOUSAND and exponent < highest:
        exponent += STEP
        number = rounded(value, decimals, mode, exponent)
    # Below the least prefix it is zero, and zero has no prefix.
    return (number, exponent) if number != 0 else (number, 0)


def _grouped(whole: str, mark: str) -> str:
    if not mark:
        return whole
    first = len(whole) % STEP or STEP
    return mark.join([whole[:first], *(whole[place : place + STEP] for place in range(first, len(whole), STEP))])


def number_cells(field: Field, shown_value: float, *, joined: str) -> tuple[Cell, ...] | None:
    """The cells of a number in the field's unit before padding with blanks; None where it does not fit."""
    found = fitting(field, shown_value, joined=joined)
    if found is None:
        return None
    cells = split_cells(found.text(), joined=joined)
    missing = field.width - len(cells)
    if field.pad == "zero" and missing:
        return split_cells(found.text(missing), joined=joined)
    return cells


def fitting(field: Field, shown_value: float, *, joined: str) -> Written | None:
    """The number as it is written in the field; None where it does not fit."""
    if not abs(shown_value) < LARGEST:
        return None
    for each in written(field, shown_value):
        if len(split_cells(each.text(), joined=joined)) <= field.width:
            return each
    return None
