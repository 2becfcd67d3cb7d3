"""Panels: a display's physics. What letters it has, under which codes, and what a code lights up."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

from lesart.core.fit.cells import Cell
from lesart.core.glass.drive import Scan
from lesart.core.glass.frame import CharacterFrame, Frame, SegmentFrame
from lesart.core.glyphs.cell5x8 import BLANK, CELLS_5X8
from lesart.core.glyphs.segments import POINT, SHAPES_7
from lesart.core.parameters import Parameter

Memory = tuple[tuple[int, ...], ...]
"""What a panel remembers: one code a cell, row by row. What is not overwritten stays."""

COLOURS = {"red": "#ff5a36", "green": "#7de05a", "amber": "#ffb629", "blue": "#69a8ff", "white": "#e9f1ff"}
LIGHTS = {
    "green light": ("#86a135", "#10160a"),
    "blue light": ("#1c3f9e", "#e6efff"),
    "grey": ("#a9ad9b", "#23241f"),
}
"""Of character panels: the colour of the light behind, and that of a lit dot before it."""


class Panel(Protocol):
    """A display by its physics."""

    @property
    def name(self) -> str: ...
    @property
    def kind(self) -> str: ...
    @property
    def columns(self) -> int: ...
    @property
    def rows(self) -> int: ...
    @property
    def joined(self) -> str:
        """Marks that share the cell of the digit before them: ``.`` for points, ``:`` for colons."""
        ...

    def says(self) -> str:
        """What it is, in a few words."""
        ...

    def code(self, cell: Cell) -> int | None:
        """The code to send for a cell; None when the panel does not have that letter."""
        ...

    def blank(self) -> Memory: ...
    def lit(self, memory: Memory) -> Frame: ...


@dataclass(frozen=True)
class SegmentPanel:
    """Digits of seven segments with points in one row. Its codes are the segment masks themselves."""

    name: str
    digits: int
    points: bool
    colour: str
    scan: Scan | None
    kind: str = "segments"

    @property
    def columns(self) -> int:
        """One a digit."""
        return self.digits

    @property
    def rows(self) -> int:
        """Always one."""
        return 1

    @property
    def joined(self) -> str:
        """Where digits have points."""
        return "." if self.points else ""

    def says(self) -> str:
        """E.g. ``4 digits, scanned``."""
        return f"{self.digits} digits, {'scanned' if self.scan else 'steady'}"

    def code(self, cell: Cell) -> int | None:
        """The segment mask."""
        shape = SHAPES_7.get(cell.letter)
        if shape is None or (cell.point and not self.points):
            return None
        return shape | (POINT if cell.point else 0)

    def blank(self) -> Memory:
        """All dark."""
        return ((0,) * self.digits,)

    def lit(self, memory: Memory) -> SegmentFrame:
        """A mask lights what it says."""
        return SegmentFrame(memory[0])


_DEGREE_CODE = 0xDF
"""Such displays have the degree sign outside ASCII; sending the letter's own number shows something else."""
CHARACTER_CODES = {letter: _DEGREE_CODE if letter == "°" else ord(letter) for letter in CELLS_5X8}
_LETTERS = {code: letter for letter, code in CHARACTER_CODES.items()}


@dataclass(frozen=True)
class CharacterPanel:
    """Cells of 5×8 dots. Printable ASCII under its own codes, the degree sign under 0xDF."""

    name: str
    columns: int
    rows: int
    light: str
    kind: str = "characters"
    joined: str = ""

    def says(self) -> str:
        """E.g. ``16×2 characters``."""
        return f"{self.columns}×{self.rows} characters"

    def code(self, cell: Cell) -> int | None:
        """The character code."""
        return CHARACTER_CODES.get(cell.letter)

    def blank(self) -> Memory:
        """All blanks."""
        return ((CHARACTER_CODES[" "],) * self.columns,) * self.rows

    def lit(self, memory: Memory) -> CharacterFrame:
        """Every code as its glyph; a code without one is dark."""
        dots = tuple(tuple(CELLS_5X8.get(_LETTERS.get(code, " "), BLANK) for code in row) for row in memory)
        return CharacterFrame(memory, dots)


KIND = Parameter("kind", "kind", "choice", "what sort of display", choices=("segments", "characters"))
PARAMETERS: dict[str, tuple[Parameter, ...]] = {
    "segments": (
        Parameter("digits", "digits", "integer", "digits in the row", 4, lowest=1, highest=16),
        Parameter("points", "points", "flag", "each digit has a decimal point", True),
        Parameter("colour", "colour", "choice", "of the light", "red", choices=tuple(COLOURS)),
    ),
    "characters": (
        Parameter("columns", "columns", "integer", "characters in a row", 16, lowest=8, highest=40),
        Parameter("rows", "rows", "integer", "rows of characters", 2, lowest=1, highest=4),
        Parameter("light", "light", "choice", "behind the characters", "green light", choices=tuple(LIGHTS)),
    ),
}


def build_panel(name: str, kind: str, values: dict[str, Any], scan: Scan | None) -> Panel:
    """From values by parameter name."""
    if kind == "segments":
        return SegmentPanel(name, values["digits"], values["points"], values["colour"], scan)
    return CharacterPanel(name, values["columns"], values["rows"], values["light"])
