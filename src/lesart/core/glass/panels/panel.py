"""Panels: a display's physics. What letters it has, under which codes, and what a code lights up."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels import character_panel, pixel_panel, segment_panel
from lesart.core.glass.panels.character_panel import CharacterPanel, build_character_panel
from lesart.core.glass.panels.drive import Scan
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.pixel_panel import PixelPanel, build_pixel_panel
from lesart.core.glass.panels.segment_panel import SegmentPanel, build_segment_panel
from lesart.core.glyphs.charsets import CharacterSet
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import Parameter

Memory = tuple[tuple[int, ...], ...]
"""What a panel remembers: one code a cell, row by row. What is not overwritten stays."""


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
    def line(self) -> int:
        """Cells of a row that can be written; some may lie beyond the glass."""
        ...

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

    def sent_code(self, code: int) -> int:
        """What goes over the wires for the code of one cell."""
        ...

    def blank(self) -> Memory: ...
    def lit(self, memory: Memory) -> Frame: ...
    def cells_lit(self, codes: tuple[int, ...]) -> Frame:
        """Cells by themselves, wherever they will stand."""
        ...


KIND = Parameter("kind", "kind", "choice", "what sort of display", choices=("segments", "characters", "pixels"))
PARAMETERS: dict[str, tuple[Parameter, ...]] = {
    "segments": segment_panel.PARAMETERS, "characters": character_panel.PARAMETERS,
    "pixels": pixel_panel.PARAMETERS,
}  # fmt: skip


def build_panel(
    name: str, kind: str, values: Mapping[str, Any], scan: Scan | None, glyphs: Mapping[str, str] | None = None,
    charsets: Mapping[str, CharacterSet] | None = None, fonts: Mapping[str, Font] | None = None,
) -> Panel:  # fmt: skip
    """From values by parameter name, a person's own glyphs by letter, character sets and fonts by name.

    Raises ValueError with a clause.
    """
    if kind == "segments":
        return build_segment_panel(name, values, scan, glyphs or {})
    if kind == "pixels":
        return build_pixel_panel(name, values, fonts or {})
    return build_character_panel(name, values, glyphs or {}, charsets or {})


__all__ = ["KIND", "PARAMETERS", "CharacterPanel", "Memory", "Panel", "PixelPanel", "SegmentPanel", "build_panel"]
