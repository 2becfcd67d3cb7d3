"""Cells: places of a display, and text split into them."""

from __future__ import annotations

import unicodedata

from lesart.core.dataclass_later import dataclass

POINTS = ".,"
"""A comma lights the decimal point too: a digit has only one."""


@dataclass(frozen=True)
class Cell:
    """One place: a character, and on segment displays whether its point or its colon is lit.

    ``code`` is the code sent where it is not the character's own: a number taken for a letter.
    """

    letter: str
    point: bool = False
    colon: bool = False
    code: int | None = None

    def __str__(self) -> str:
        return self.letter + ("." if self.point else "") + (":" if self.colon else "")


def split_cells(text: str, *, joined: str) -> tuple[Cell, ...]:
    """A text as cells. ``joined`` are the marks that share the cell of the letter before them, if it has none yet.

    A letter written as itself and its accent is one glyph, and takes one cell.
    """
    cells: list[Cell] = []
    for letter in text if text.isascii() else unicodedata.normalize("NFC", text):
        is_point, is_colon = letter in POINTS and "." in joined, letter == ":" and ":" in joined
        if not is_point and not is_colon:
            cells.append(Cell(letter))
        elif cells and not cells[-1].point and not cells[-1].colon:
            cells[-1] = Cell(cells[-1].letter, is_point, is_colon)
        else:
            cells.append(Cell(" ", is_point, is_colon))
    return tuple(cells)
