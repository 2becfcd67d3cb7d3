"""A row of cells, of a text file or a spreadsheet, and which cells are values."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.cells import FLAGS, is_number, with_unit


@dataclass(frozen=True)
class Row:
    """``number`` is its line or row, from 1. A comment's cells are those after its sign, and after what says that they
    are units."""

    number: int
    cells: list[str]
    is_comment: bool = False
    says_units: bool = False


def is_value(cell: str, decimal: str) -> bool:
    """True for a number in any notation, with or without a unit, and for true or false."""
    text = cell.strip()
    return is_number(text, decimal) or text.lower() in FLAGS or with_unit(text, decimal) is not None
