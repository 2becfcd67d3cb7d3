"""A counter to test a display with: range, rate and position, from a line that a person types."""

from __future__ import annotations

import re

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT, written_text
from lesart.core.quantity import counted, parse_quantity
from lesart.core.units import parse_unit

SECOND = parse_unit("s")
MOST = 10**9
SHORTEST_S, LONGEST_S = 1e-3, 3600.0
HOW = "0 to 99 every 300 ms at column 2 row 0 width 2 padded 0"
_PARTS = {
    "range": re.compile(r"(?:count(?:ing)? )?(?P<first>\d{1,9}) to (?P<last>\d{1,9})"),
    "every": re.compile(r"every (?P<every>[\d.,]+ ?[a-zµ]*)"),
    "column": re.compile(r"(?:at )?column (?P<column>\d{1,4})"),
    "row": re.compile(r"(?:at )?row (?P<row>\d{1,4})"),
    "width": re.compile(r"(?:in |width )(?P<width>\d{1,3})(?: cells?| digits?)?"),
    "pad": re.compile(r"padded(?: with)? (?P<pad>0|blanks?)"),
}


@dataclass(frozen=True)
class Counting:
    """``last`` may be below ``first``: then it counts down.

    The number is right-aligned in ``width`` cells, 0 for as many as needed; on pixels ``row`` and ``column`` are those
    of its upper left one.
    """

    first: int
    last: int
    every_s: float = 0.5
    row: int = 0
    column: int = 0
    width: int = 0
    pad: str = " "

    @property
    def steps(self) -> int:
        """Steps until it begins again."""
        return abs(self.last - self.first) + 1

    def number(self, step: int) -> int:
        """The number at a step, from 0."""
        way = 1 if self.last >= self.first else -1
        return self.first + way * (step % self.steps)

    def text(self, step: int) -> str:
        """The number in its cells."""
        width = self.width or len(str(max(self.first, self.last)))
        return f"{self.number(step)}".rjust(width, self.pad)

    def step_at(self, seconds: float) -> int:
        """The step at a time."""
        return int(seconds / self.every_s + 1e-9)

    def memory(self, panel: Panel, step: int) -> Memory:
        """The panel's memory at a time, with nothing but the counter."""
        cells = [Cell(letter) for letter in self.text(step)]
        if panel.grid is not None:
            font = panel.grid.font(DEFAULT_FONT)
            return written_text(panel.blank(), panel.columns, font, self.column, self.row, cells)
        rows = [list(row) for row in panel.blank()]
        for place, cell in enumerate(cells, self.column):
            code = panel.code(cell)
            if place < panel.columns and code is not None:
                rows[self.row][place] = code
        return tuple(map(tuple, rows))


def read_counting(typed: str, panel: Panel) -> Counting:
    """A counter from a line like HOW; all but the range may be left out. Raises RequestError with what would do."""
    rest = " ".join(typed.lower().split())
    found: dict[str, str] = {}
    for pattern in _PARTS.values():
        match = pattern.search(rest)
        if match is not None:
            found |= {name: value for name, value in match.groupdict().items() if value is not None}
            rest = (rest[: match.start()] + " " + rest[match.end() :]).strip()
    if "first" not in found or rest.strip(" ,"):
        wrong = f'"{rest.strip(" ,")}" is not understood' if rest.strip(" ,") else "its range is missing"
        raise RequestError(f"{wrong}; say a count like {HOW}.")
    every_s = _seconds(found.get("every", "0.5 s"))
    counting = Counting(
        int(found["first"]),
        int(found["last"]),
        every_s,
        int(found.get("row", 0)),
        int(found.get("column", 0)),
        int(found.get("width", 0)),
        "0" if found.get("pad") == "0" else " ",
    )
    width = len(counting.text(0))
    if counting.row >= panel.rows or counting.column >= panel.columns:
        raise RequestError(
            f"row {counting.row}, column {counting.column} is beyond {panel.name}, which has rows 0 to "
            f"{panel.rows - 1} and columns 0 to {panel.columns - 1}."
        )
    if panel.grid is None and counting.column + width > panel.columns:
        raise RequestError(
            f"{counted(width, 'cell')} from column {counting.column} on {'ends' if width == 1 else 'end'} beyond "
            f"{panel.name}, which has {panel.columns}."
        )
    return counting


def _seconds(written: str) -> float:
    try:
        found = parse_quantity(written, SECOND).to(SECOND)
    except (QuantityError, UnitError) as error:
        raise RequestError(f"every {written}: {error}") from error
    if not SHORTEST_S <= found <= LONGEST_S:
        raise RequestError(f"every {written}: a step takes from 1 ms to 1 h.")
    return found
