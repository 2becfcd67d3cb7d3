"""The parts of every panel: a display by its physics, and defaults for what most of them lack."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.scan import Scan
from lesart.core.glass.panels.slow_change import SlowChange
from lesart.core.glass.panels.transfer import Bus
from lesart.core.glyphs.fonts import Font

Memory = tuple[tuple[int, ...], ...]
"""A panel's memory: one code per cell, row by row. Cells that are not overwritten keep theirs."""


class Panel(Protocol):
    """A display by its physics: what letters it has, under which codes, and what a code lights up.

    Anything that a step does for one kind only is a function dispatched by class, with a plain default: another kind is
    a module of its own and a line in ``kinds``.
    """

    def __hash__(self) -> int:
        """Hash of all its parts: results are cached by it."""
        ...

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
        """Writable cells of a row; some may be beyond the glass."""
        ...

    @property
    def joined(self) -> str:
        """Marks that share the cell of the digit before them: ``.`` for points, ``:`` for colons."""
        ...

    @property
    def counted_from(self) -> int:
        """The number of its first row and column: 0 or 1."""
        ...

    @property
    def digit_mm(self) -> float | None:
        """Height of a digit in millimetres; None where it depends on the font."""
        ...

    @property
    def shift(self) -> int:
        """Cells by which the display is shifted."""
        ...

    @property
    def clear_ms(self) -> float:
        """Duration of its clear command in milliseconds; 0 where it has none."""
        ...

    @property
    def start(self) -> bytes:
        """Its start sequence, where a person gives one."""
        ...

    @property
    def scan(self) -> Scan | None:
        """How its digits are scanned; None where all are lit all the time."""
        ...

    @property
    def is_shifted(self) -> bool:
        """True where it is scanned through registers, so that there are bytes instead of digit lines."""
        ...

    @property
    def scan_hz(self) -> float:
        """Scan rate of its own controller, where it scans; 0: not known."""
        ...

    @property
    def change(self) -> SlowChange:
        """How long it takes to show what it was sent."""
        ...

    @property
    def see_through(self) -> bool:
        """True where what is behind it shows."""
        ...

    @property
    def bus(self) -> Bus | None:
        """The bus of its bytes; None where it has lines of its own."""
        ...

    @property
    def grid(self) -> PixelGrid | None:
        """Itself, where items are drawn in pixels; None where they are in cells."""
        ...

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """Characters of a bar's cell, from least filled to full; none where bars are not made of characters."""
        ...

    @property
    def slots(self) -> tuple[int, int] | None:
        """Its custom glyphs, and its room for them; None for no limit."""
        ...

    def says(self) -> str:
        """A description in a few words."""
        ...

    def code(self, cell: Cell) -> int | None:
        """The code to send for a cell; None where the panel does not have that letter."""
        ...

    def sent_code(self, code: int) -> int:
        """The value sent for the code of one cell."""
        ...

    def substitute(self, letter: str) -> str | None:
        """A letter it has that looks like one it lacks."""
        ...

    def blank(self) -> Memory: ...
    def lit(self, memory: Memory) -> Frame: ...
    def seen(self, frame: Any) -> Any:
        """The frame as the glass shows it with wrong settings; else the frame itself."""
        ...

    def cells_lit(self, codes: tuple[int, ...]) -> Frame:
        """Cells alone, independent of position."""
        ...


class PixelGrid(Panel, Protocol):
    """A panel whose items are drawn in pixels: its memory is one row of integers, each a row of pixels."""

    @property
    def pitch_mm(self) -> float: ...
    @property
    def planes(self) -> int:
        """Number of bit planes in its memory, after that of lit pixels, with the colour of each; 0 for monochrome."""
        ...

    @property
    def fonts(self) -> Mapping[str, Font]:
        """A person's own fonts, besides the built-in ones."""
        ...

    def font(self, name: str) -> Font:
        """A font by name; the default for an unknown name."""
        ...


class Plain:
    """Defaults for what a panel lacks, unless its kind overrides them."""

    counted_from: int = 0
    digit_mm: float | None = None
    shift: int = 0
    clear_ms: float = 0.0
    scan: Scan | None = None
    see_through: bool = False
    start: bytes = b""
    scan_hz: float = 0.0
    change: SlowChange = SlowChange()

    @property
    def is_shifted(self) -> bool:
        """False: scanned by lines of its own, or not at all."""
        return False

    @property
    def bus(self) -> Bus | None:
        """None: lines of its own."""
        return None

    @property
    def grid(self) -> PixelGrid | None:
        """None: items are in cells."""
        return None

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """No bars."""
        return ()

    @property
    def slots(self) -> tuple[int, int] | None:
        """No limit for its glyphs."""
        return None

    def sent_code(self, code: int) -> int:
        """The code itself."""
        return code

    def seen(self, frame: Any) -> Any:
        """The frame itself."""
        return frame

    def substitute(self, letter: str) -> str | None:
        """No substitute."""
        return None
