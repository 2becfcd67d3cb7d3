"""What every panel is: a display by its physics, and what most of them have not."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.scan import Scan
from lesart.core.glass.panels.transfer import Bus
from lesart.core.glyphs.fonts import Font

Memory = tuple[tuple[int, ...], ...]
"""What a panel remembers: one code a cell, row by row. What is not overwritten stays."""


class Panel(Protocol):
    """A display by its physics: what letters it has, under which codes, and what a code lights up.

    What a step does with one kind only is a function dispatched by its class, with something plain for all others:
    a further kind is a module of its own and a line in ``kinds``.
    """

    def __hash__(self) -> int:
        """Of all that it is made of: what was worked out for one is kept under it."""
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
        """Cells of a row that can be written; some may lie beyond the glass."""
        ...

    @property
    def joined(self) -> str:
        """Marks that share the cell of the digit before them: ``.`` for points, ``:`` for colons."""
        ...

    @property
    def counted_from(self) -> int:
        """What its first row and column are called: 0 or 1."""
        ...

    @property
    def digit_mm(self) -> float | None:
        """Height of a digit; None where that is a matter of the font."""
        ...

    @property
    def shift(self) -> int:
        """Cells that the glass shows further on."""
        ...

    @property
    def clear_ms(self) -> float:
        """How long it is busy with clearing itself; 0 where it has no such command."""
        ...

    @property
    def start(self) -> bytes:
        """Commands that set it up, where a person says which."""
        ...

    @property
    def scan(self) -> Scan | None:
        """How its digits are lit in turn; None where all are lit all the time."""
        ...

    @property
    def is_shifted(self) -> bool:
        """Is it scanned through registers, so that there are bytes and no lines of digits?"""
        ...

    @property
    def scan_hz(self) -> float:
        """How often its own controller lights its rows or digits in turn, where it does so; 0: not known."""
        ...

    @property
    def see_through(self) -> bool:
        """Does what is behind it show?"""
        ...

    @property
    def bus(self) -> Bus | None:
        """The bus that its bytes come by; None where they come by lines of its own."""
        ...

    @property
    def grid(self) -> PixelGrid | None:
        """Itself, where items are drawn on its pixels; None where they stand in cells."""
        ...

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """Letters of a cell of a bar, from filled least to full; none where bars are no matter of letters."""
        ...

    @property
    def slots(self) -> tuple[int, int] | None:
        """Glyphs of a person's own that it is given, and for how many it has room; None where nothing limits them."""
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

    def substitute(self, letter: str) -> str | None:
        """A letter it has that looks like one it lacks."""
        ...

    def blank(self) -> Memory: ...
    def lit(self, memory: Memory) -> Frame: ...
    def seen(self, frame: Any) -> Any:
        """A frame of its own as the glass shows it, where it is told wrongly what it is; else the frame itself."""
        ...

    def cells_lit(self, codes: tuple[int, ...]) -> Frame:
        """Cells by themselves, wherever they will stand."""
        ...


class PixelGrid(Panel, Protocol):
    """A panel whose items are drawn pixel by pixel: its memory is one row of whole numbers, each a row of pixels."""

    @property
    def pitch_mm(self) -> float: ...
    @property
    def planes(self) -> int:
        """Rows of bits of its memory, after that of lit pixels, that say which colour each has; 0 of one light."""
        ...

    @property
    def fonts(self) -> Mapping[str, Font]:
        """A person's own, beside those that are built in."""
        ...

    def font(self, name: str) -> Font:
        """By name; the usual one where a name is none."""
        ...


class Plain:
    """What a panel has not, unless its kind says otherwise."""

    counted_from: int = 0
    digit_mm: float | None = None
    shift: int = 0
    clear_ms: float = 0.0
    scan: Scan | None = None
    see_through: bool = False
    start: bytes = b""
    scan_hz: float = 0.0

    @property
    def is_shifted(self) -> bool:
        """By lines of its own, or by a bus."""
        return False

    @property
    def bus(self) -> Bus | None:
        """Lines of its own."""
        return None

    @property
    def grid(self) -> PixelGrid | None:
        """Cells."""
        return None

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """No bars."""
        return ()

    @property
    def slots(self) -> tuple[int, int] | None:
        """Nothing limits its glyphs."""
        return None

    def sent_code(self, code: int) -> int:
        """The code itself."""
        return code

    def seen(self, frame: Any) -> Any:
        """As it is."""
        return frame

    def substitute(self, letter: str) -> str | None:
        """None is known."""
        return None
