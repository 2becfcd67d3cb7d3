"""How a controller is brought from one frame to the next, as data: what the C of a pack is written from."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.written.c_colours import Coloured


@dataclass(frozen=True)
class Cells:
    """A controller of characters: the command that goes to each cell, row by row of ``line`` cells; ``port`` has the
    bytes for a half of zeros and what its bits add, data beside it, where an expander takes them."""

    line: int
    places: bytes
    port: ExpanderPort | None = None
    gap = 1


@dataclass(frozen=True)
class ExpanderPort:
    """Bytes of a port: always, for data besides, to enable, and for each bit of a half from the lowest on."""

    always: int
    data: int
    enable: int
    bits: tuple[int, int, int, int]


@dataclass(frozen=True)
class Addressed:
    """A driver of digits that takes an address and what follows it: the address of each byte."""

    places: bytes
    gap = 1


@dataclass(frozen=True)
class Numbered:
    """A driver of digits that takes a digit's number, from 1 on, and one byte."""


@dataclass(frozen=True)
class Chained:
    """All bytes, since each shifts the others."""


@dataclass(frozen=True)
class Paged:
    """Pages of ``columns`` bytes: the commands that go to each page, and to each column. ``before`` are the bytes that
    part commands from data, where there are such."""

    columns: int
    pages: tuple[bytes, ...]
    places: tuple[bytes, ...]
    before: tuple[int, int] | None
    gap: int


@dataclass(frozen=True)
class Rowed:
    """Chained modules: ``size`` bytes go to all of them at once, of whichever number changed."""

    size: int


@dataclass(frozen=True)
class Windowed:
    """A window is set by its columns and its pages."""

    columns: int
    to_columns: int
    to_pages: int
    before: tuple[int, int] | None


Way = Cells | Addressed | Numbered | Chained | Paged | Windowed | Rowed | Coloured


@dataclass(frozen=True)
class Redraw:
    """``size`` bytes of a frame; ``digits`` is where each digit's first byte stands, ``wide`` bytes each, the highest
    first unless the lowest is; frames of faces before any reading, by their names in code."""

    way: Way
    size: int
    digits: tuple[int, ...]
    wide: int
    frames: Sequence[tuple[str, str, bytes]]
    low_first: bool = False
