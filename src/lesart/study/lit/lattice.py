"""A panel as a lattice of dots, each with one of few colours: what every way to show it is drawn from.

Blocks and dots of a terminal, its graphics and pictures in files differ in how they draw a dot, never in which one is
lit.
Light to import: the first picture on the screen is drawn from it.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache
from typing import assert_never

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import CharacterFrame, ColourFrame, PixelFrame, SegmentFrame
from lesart.draw.colours import blend
from lesart.draw.few_colours import few_colours
from lesart.study.lit.digit_grid import HEIGHT, bits_of, name_at, pitch_of
from lesart.study.views import Box, Glass

GROUND, LIT, UNLIT = range(3)
"""Indices of the colours that every lattice has; marks and stripes have further ones."""
MARK, MARKED, CLASHING = "#d9583b", 0.35, 0.8
"""Share of rubric red for the selected item, and more where two items claim one cell."""
HARDLY = 60
"""Total difference of red, green and blue, of 765, at which two colours are hardly different."""
MOST_COLOURS = 40
"""Most distinct colours of a frame: a picture of true pixels has five shades of each, and 256 in all."""
CELL_ACROSS, CELL_DOWN, MARGIN = 6, 9, 2
"""Dots from cell to cell of a character panel, and around all of them."""


@dataclass(frozen=True)
class Lattice:
    """``rows`` from the top, a byte a dot: the place of its colour in ``colours``.

    ``lit`` says which colours are those of light. ``margin``: dots around the panel's own.
    """

    rows: tuple[bytes, ...]
    colours: tuple[str, ...]
    lit: frozenset[int]
    margin: int = 1
    focus: Box | None = None
    stripe: int = GROUND
    """Index of the ground of a stripe on top, whose light is the next colour."""

    @property
    def width(self) -> int:
        """Dots per row."""
        return len(self.rows[0]) if self.rows else 0

    @property
    def height(self) -> int:
        """Rows."""
        return len(self.rows)

    def is_lit(self, x: int, y: int) -> bool:
        """True where a dot is lit, by column and row, margins included."""
        return self.rows[y][x] in self.lit

    @property
    def gaps(self) -> tuple[int, ...]:
        """For each colour the one between its dots: the ground, or a mark within it."""
        behind = dict.fromkeys((*self.lit, UNLIT), GROUND)
        if self.stripe:
            behind[self.stripe + 1] = self.stripe
        return tuple(behind.get(place, place) for place in range(len(self.colours)))

    def part(self, box: Box) -> Lattice:
        """A part of the lattice."""
        x, y, width, height = box
        return replace(self, rows=tuple(row[x : x + width] for row in self.rows[y : y + height]), margin=0, focus=None)

    @property
    def plain(self) -> Lattice:
        """The lattice with dark dots as ground, where the two are hardly different: for ways that have only two colours
        per letter."""
        pairs = zip(bytes.fromhex(self.colours[UNLIT][1:]), bytes.fromhex(self.colours[GROUND][1:]), strict=True)
        if sum(abs(one - other) for one, other in pairs) > HARDLY:
            return self
        table = bytes(GROUND if value == UNLIT else value for value in range(256))
        return replace(self, rows=tuple(row.translate(table) for row in self.rows))

    def scaled(self, times: int) -> Lattice:
        """The lattice with each dot enlarged."""
        if times == 1:
            return self
        tables = [bytes([value]) * times for value in range(len(self.colours))]
        rows = (b"".join(map(tables.__getitem__, row)) for row in self.rows)
        return replace(self, rows=tuple(each for row in rows for each in (row,) * times))

    def shrunk(self, width: int) -> Lattice:
        """The lattice in at most this many columns, only light and ground; a dot is lit where any of those it replaces
        is, in their commonest colour."""
        if self.width <= width:
            return self
        height = max(self.height * width // self.width, 1)
        if len(self.lit) > 1 and not self.stripe:
            return replace(self, rows=tuple(self._in_colours(width, height)), margin=0, focus=None)
        is_lit = bytes(int(value in self.lit) for value in range(256))
        together = [0] * height
        for y, row in enumerate(self.rows):
            together[y * height // self.height] |= int.from_bytes(row.translate(is_lit), "big")
        # First column for each dot: column x goes to x · width // own width.
        firsts = [-(-at * self.width // width) for at in range(width + 1)]
        parts = [slice(*ends) for ends in itertools.pairwise(firsts)]
        rows = []
        for each in together:
            row = each.to_bytes(self.width, "big")
            # Most panels are nearly all dark: rows or parts without light are found at once.
            rows.append(bytes(1 in row[part] for part in parts) if each else bytes(width))
        return replace(self, rows=tuple(rows), lit=frozenset({LIT}), margin=0, focus=None)

    def _in_colours(self, width: int, height: int) -> Iterator[bytes]:
        together: list[list[bytes]] = [[] for _ in range(height)]
        dark = bytes(value if value in self.lit else GROUND for value in range(256))
        for y, row in enumerate(self.rows):
            if row.translate(dark).strip(b"\0"):
                together[y * height // self.height].append(row.translate(dark))
        firsts = [-(-at * self.width // width) for at in range(width + 1)]
        parts = [slice(*ends) for ends in itertools.pairwise(firsts)]
        for rows in together:
            if not rows:
                yield bytes(width)
                continue
            found = (b"".join(row[part] for row in rows).replace(b"\0", b"") for part in parts)
            yield bytes(max(set(each), key=each.count) if each else GROUND for each in found)


@lru_cache(maxsize=32)
def lattice_of(glass: Glass) -> Lattice:
    """The dots of a panel, gaps between cells and a margin among them.

    Kept, because most pictures show the same panels again.
    """
    match glass.frame:
        case ColourFrame():
            return _of_colours(glass, glass.frame)
        case PixelFrame():
            return _of_pixels(glass, glass.frame)
        case CharacterFrame():
            return _of_characters(glass, glass.frame)
        case SegmentFrame():
            return _of_segments(glass, glass.frame)
        case _:
            assert_never(glass.frame)


def _of_pixels(glass: Glass, frame: PixelFrame) -> Lattice:
    """One dot per pixel. Marked or struck parts have another ground."""
    width = frame.width
    edge = bytes(width + 2)
    bits = [b"\0" + format(row, f"0{width}b").encode().translate(_BITS) + b"\0" for row in frame.rows]
    rows = [edge, *bits, edge]
    colours, lit, stripe = [glass.ground, glass.lit, glass.unlit], {LIT}, GROUND
    if glass.stripe is not None:
        upper, ground, light = glass.stripe
        colours += [ground, light]
        stripe = UNLIT + 1
        lit.add(stripe + 1)
        table = bytes((stripe, stripe + 1)) + bytes(254)
        rows[: upper + 1] = [row.translate(table) for row in rows[: upper + 1]]
    return _marked(glass, rows, colours, lit, stripe)


def _marked(glass: Glass, rows: list[bytes], colours: list[str], lit: set[int], stripe: int) -> Lattice:
    """The lattice with struck and marked parts, and with its focus."""
    for left, top, right, foot in glass.struck:
        _tint(rows, colours, CLASHING, (left + 1, top + 1, right - left, foot - top), lit)
    for row, first, behind in glass.marked:
        _tint(rows, colours, MARKED, (first + 1, row + 1, behind - first, 1), lit)
    focus = glass.focus and (glass.focus[0] + 1, glass.focus[1] + 1, *glass.focus[2:])
    return Lattice(tuple(rows), tuple(colours), frozenset(lit), 1, focus, stripe)


def _of_colours(glass: Glass, frame: ColourFrame) -> Lattice:
    """One dot per pixel in its own colour; the nearest one for a picture with too many."""
    places, found = few_colours(frame, MOST_COLOURS)
    colours = [glass.ground, glass.lit, glass.unlit]
    table, lit = [], {LIT}
    for colour in found:
        shown = blend("#000000", colour, glass.share)
        if shown == glass.ground:
            table.append(GROUND)
            continue
        if shown not in (glass.lit, *colours[UNLIT + 1 :]):
            colours.append(shown)
        table.append(LIT if shown == glass.lit else colours.index(shown, UNLIT + 1))
        lit.add(table[-1])
    as_bytes = places.translate(bytes(table) + bytes(256 - len(table)))
    edge = bytes(frame.width + 2)
    rows = [b"\0" + as_bytes[at : at + frame.width] + b"\0" for at in range(0, len(as_bytes), frame.width)]
    return _marked(glass, [edge, *rows, edge], colours, lit, GROUND)


_BITS = bytes.maketrans(b"01", bytes((GROUND, LIT)))


def _tint(rows: list[bytes], colours: list[str], share: float, box: Box, lit: set[int]) -> None:
    """Give dark dots within a box a ground of rubric red."""
    x, y, width, height = box
    added: dict[int, int] = {}
    for at in range(max(y, 0), min(y + height, len(rows))):
        row = bytearray(rows[at])
        for place in range(max(x, 0), min(x + width, len(row))):
            value = row[place]
            if value in lit:
                continue
            if value not in added:
                colours.append(blend(colours[value], MARK, share))
                added[value] = len(colours) - 1
            row[place] = added[value]
        rows[at] = bytes(row)


def dark_at(glass: Glass, row: int, column: int) -> str:
    """The colour of dark dots, which stand out in the selected item."""
    if (row, column) in glass.clashing:
        return blend(glass.unlit, MARK, CLASHING)
    if any(row == at and first <= column < behind for at, first, behind in glass.marked):
        return blend(glass.unlit, MARK, MARKED)
    return glass.unlit


class _Colours:
    """Colours by index; new ones are appended."""

    def __init__(self, glass: Glass) -> None:
        self.all = [glass.ground, glass.lit, glass.unlit]

    def place(self, colour: str) -> int:
        """The index of a colour that is not lit."""
        if colour == self.all[GROUND]:
            return GROUND
        if colour not in self.all[UNLIT:]:
            self.all.append(colour)
        return self.all.index(colour, UNLIT)


def _of_characters(glass: Glass, frame: CharacterFrame) -> Lattice:
    """Five by eight dots per cell with a gap of one; dark dots are visible against the gaps."""
    columns, colours = len(frame.dots[0]), _Colours(glass)
    blank = bytes(columns * CELL_ACROSS - 1 + 2 * MARGIN)
    rows = [blank] * MARGIN
    for row, cells in enumerate(frame.dots):
        dark = [colours.place(dark_at(glass, row, column)) for column in range(columns)]
        tables = [bytes.maketrans(b"01", bytes((each, LIT))) for each in dark]
        for down in range(CELL_DOWN - 1):
            drawn = b"\0".join(
                format(cell[down], "05b").encode().translate(table) for cell, table in zip(cells, tables, strict=True)
            )
            rows.append(bytes(MARGIN) + drawn + bytes(MARGIN))
        rows.append(blank)
    rows.append(blank)
    focus = glass.focus and (
        glass.focus[0] * CELL_ACROSS + MARGIN,
        glass.focus[1] * CELL_DOWN + MARGIN,
        glass.focus[2] * CELL_ACROSS,
        glass.focus[3] * CELL_DOWN,
    )
    return Lattice(tuple(rows), tuple(colours.all), frozenset({LIT}), MARGIN, focus)


def _of_segments(glass: Glass, frame: SegmentFrame) -> Lattice:
    """Digits on the grid of their alphabet; a dark colon is invisible."""
    pitch, bits, colours = pitch_of(frame.alphabet), bits_of(frame.alphabet), _Colours(glass)
    dark = [colours.place(dark_at(glass, 0, digit)) for digit in range(len(frame.masks))]

    def dot(x: int, y: int) -> int:
        digit, across = divmod(x - MARGIN, pitch)
        name = name_at(frame.alphabet, across, y - 1) if 0 <= digit < len(frame.masks) else None
        bit = bits[name] if name else 0
        if not bit or (bit == bits[":"] and not frame.masks[digit] & bit):
            return GROUND
        return LIT if frame.masks[digit] & bit else dark[digit]

    width = len(frame.masks) * pitch + MARGIN
    rows = tuple(bytes(dot(x, y) for x in range(width)) for y in range(HEIGHT + 3))
    focus = glass.focus and (glass.focus[0] * pitch + MARGIN, 1, glass.focus[2] * pitch, HEIGHT)
    return Lattice(rows, tuple(colours.all), frozenset({LIT}), 1, focus)
