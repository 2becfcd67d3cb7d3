"""A field in its place, and the codes that its panel wants."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import GROUPS, POINT_LETTERS, SENT, Field
from lesart.core.pack.machine import PackError
from lesart.core.units import conversion

MOST_CODES = (0xFF, 0xFFFF, 0xFF_FFFF)
CodeOf = Callable[[Cell], int | None]


@dataclass(frozen=True)
class FieldWanted:
    """A field where it stands: ``short`` begins its variables, ``channel`` its name.

    ``code`` gives what a panel wants for a cell, ``joined`` the marks that share a cell there.
    """

    channel: str
    short: str
    place: str
    field: Field
    code: CodeOf
    joined: str = ""

    @property
    def name(self) -> str:
        """Name of its function and tables."""
        return f"{self.channel}_{self.short}"

    def code_of(self, cell: Cell) -> int:
        """The panel's code for a cell; that of a blank where it cannot show it."""
        code = self.code(cell)
        if code is None:
            code = self.code(Cell(" "))
        return code if code is not None else ord(" ")

    def code_of_digit(self, digit: int, *, point: bool = False) -> int:
        """The code of a digit, or of its number where it is sent as one by mistake."""
        cell = Cell(str(digit), point=point)
        return self.code_of(cell if self.field.sent == SENT[0] else replace(cell, code=digit))


def last_place(field: Field) -> Fraction:
    """The last place of a field, in the unit of its channel."""
    scale, _ = conversion(field.unit_in, field.unit_shown)
    return Fraction(1, 10**field.decimals) / Fraction(scale).limit_denominator(10**12)


def refuse_uncarried(wanted: FieldWanted) -> None:
    """Raises PackError for what has no integer form: prefixes by range, times, alarms."""
    field = wanted.field
    missing = (
        "a prefix by range"
        if field.prefix != "none"
        else f"shows {field.shows}"
        if field.shows not in ("number", "word")
        else "digits sent as one byte"
        if field.sent == SENT[2]
        else ""
    )
    if missing:
        raise PackError(f"{wanted.place}: {missing} is not carried into whole numbers; a plain number is.")


def most_code(wanted: FieldWanted) -> int:
    """The greatest code for its cells: of one byte, two, or three, as 16 segments and a point need."""
    letters = [Cell(letter) for letter in "0123456789-+ "] + [Cell(str(digit), point=True) for digit in range(10)]
    field = wanted.field
    for text in (field.overflow, field.invalid, field.stale, field.underflow, field.settling, field.unit_text):
        letters += split_cells(text, joined=wanted.joined)
    letters += [cell for _, word in field.words for cell in split_cells(word, joined=wanted.joined)]
    letters += split_cells(GROUPS[field.group] + POINT_LETTERS[field.point], joined="")
    most = max(wanted.code_of(each) for each in letters)
    return next(end for end in MOST_CODES if most <= end)
