"""Ways to update a controller from one frame to the next, as data from which a pack's C is written."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.written.c_colours import Coloured
from lesart.core.pack.written.c_inks import Inked
from lesart.core.pack.written.c_lamps import Strung


@dataclass(frozen=True)
class Cells:
    """A character controller: the command that addresses each cell, row by row of ``line`` cells; ``port`` is that of
    an expander, if any."""

    line: int
    places: bytes
    port: ExpanderPort | None = None
    gap = 1


@dataclass(frozen=True)
class ExpanderPort:
    """Bits of an expander's port: always set, set for data, enable, and each bit of a half byte from the lowest on."""

    always: int
    data: int
    enable: int
    bits: tuple[int, int, int, int]


@dataclass(frozen=True)
class Addressed:
    """A digit driver that takes an address and data: the address of each byte."""

    places: bytes
    gap = 1


@dataclass(frozen=True)
class Numbered:
    """A digit driver that takes a digit's number, from 1 on, and one byte."""


@dataclass(frozen=True)
class Chained:
    """All bytes are sent, since each shifts the others."""


@dataclass(frozen=True)
class Paged:
    """Pages of ``columns`` bytes: the commands that set each page, and each column.

    ``before`` are the control bytes of commands and data, if any.
    """

    columns: int
    pages: tuple[bytes, ...]
    places: tuple[bytes, ...]
    before: tuple[int, int] | None
    gap: int


@dataclass(frozen=True)
class Rowed:
    """Chained modules: ``size`` bytes go to all of them at once, for each number that changed."""

    size: int


@dataclass(frozen=True)
class Windowed:
    """A window is set by its columns and its pages."""

    columns: int
    to_columns: int
    to_pages: int
    before: tuple[int, int] | None


@dataclass(frozen=True)
class Renewed:
    """A window is set, the position in it, and behind its cells come the commands that make them show.

    Each command stands alone, and its bytes come like data; rows have two, the low one first. ``None``: no such
    command.
    """

    columns: int
    to_columns: int
    to_pages: int
    column_at: int | None
    page_at: int | None
    write: int | None
    renew: tuple[bytes, ...]


Way = Cells | Addressed | Numbered | Chained | Paged | Windowed | Renewed | Rowed | Coloured | Inked | Strung


@dataclass(frozen=True)
class Redraw:
    """``size`` is the number of bytes of a frame; ``digits`` are the positions of each digit's first byte, ``wide``
    bytes each, highest or lowest first; frames of faces before any reading are by their names in code."""

    way: Way
    size: int
    digits: tuple[int, ...]
    wide: int
    frames: Sequence[tuple[str, str, bytes]]
    low_first: bool = False
