"""A kind of panel that Lesart does not have: a row of lamps, each lit or dark. What one more kind has to bring."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.panel import Memory, Plain
from lesart.core.glass.panels.panel_kind import Given, PanelKind
from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class LampRow(Plain):
    """Lamps in one row; a digit lights its lamp where it is odd, and no other letter lights any."""

    name: str
    lamps: int
    kind: str = "lamps"

    @property
    def columns(self) -> int:
        """One a lamp."""
        return self.lamps

    @property
    def rows(self) -> int:
        """Always one."""
        return 1

    @property
    def line(self) -> int:
        """No lamp is beyond the glass."""
        return self.lamps

    @property
    def joined(self) -> str:
        """Nothing shares a lamp."""
        return ""

    def says(self) -> str:
        """What it is."""
        return f"{self.lamps} lamps"

    def code(self, cell: Cell) -> int | None:
        """1 lights it."""
        if cell.code is not None:
            return cell.code & 1
        return (
            int(cell.letter) & 1
            if cell.letter.isascii() and cell.letter.isdigit()
            else 0
            if cell.letter == " "
            else None
        )

    def blank(self) -> Memory:
        """All dark."""
        return ((0,) * self.lamps,)

    def lit(self, memory: Memory) -> PixelFrame:
        """A pixel a lamp."""
        return self.cells_lit(memory[0])

    def cells_lit(self, codes: tuple[int, ...]) -> PixelFrame:
        """Lamps by themselves."""
        return PixelFrame(len(codes), 1, (sum(code << place for place, code in enumerate(reversed(codes))),))


def _build(name: str, values: Mapping[str, Any], given: Given) -> LampRow:
    return LampRow(name, values["lamps"])


LAMPS = PanelKind("lamps", (Parameter("lamps", "lamps", "integer", "in the row", 8, lowest=1, highest=64),), _build)
