"""A panel as strips of true pixels, one per row of characters, so that unchanged ones need not be sent again."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from dataclasses import field
from functools import lru_cache

import numpy as np
from rich.style import Style

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import SegmentFrame
from lesart.draw.raster import Raster, digits_size_mm, resized
from lesart.study.lit.lattice import Lattice, lattice_of
from lesart.study.lit.true_pixels import digits_of, dots_of
from lesart.study.views import Glass
from lesart.tui.graphics.placed import cells_of, colour_of, placed
from lesart.tui.graphics.sixel import sixels
from lesart.tui.graphics.terminal import INCH_MM, SIXEL, Graphics
from lesart.tui.panels.room import Room

MOST_PITCH = 12
"""Most pixels per dot: a panel need not fill a large window."""
MOST_DIGIT = 10.0
"""Most pixels per millimetre of the drawing of digits."""
LITTLE_DIGITS = 7
"""Rows for digits where something else is more important."""
MOST_WIDE = 640
"""Most pixels across one image: some terminals silently draw none wider than a thousand."""
MOST_KEPT = 4096
FIRST_NUMBER = 0x010000


@dataclass(frozen=True)
class PixelRow:
    """``escape`` draws it at the cursor; ``letters`` are its placeholder text, in ``style``."""

    width: int
    escape: str
    letters: str
    style: Style


Parts = tuple[PixelRow, ...]
"""Parts of one row, side by side."""


@dataclass
class Numbers:
    """Numbers of images sent to a terminal, by content; the oldest one is reused."""

    of: OrderedDict[bytes, int] = field(default_factory=OrderedDict)

    def number(self, shown: bytes) -> int:
        """The number of a picture, the same for the same content."""
        if shown in self.of:
            self.of.move_to_end(shown)
        elif len(self.of) >= MOST_KEPT:
            self.of[shown] = self.of.popitem(last=False)[1]
        else:
            self.of[shown] = FIRST_NUMBER + len(self.of)
        return self.of[shown]


NUMBERS = Numbers()


def strips_of(glass: Glass, room: Room, graphics: Graphics, least_pitch: int) -> tuple[tuple[Parts, ...], str] | None:
    """The strips, and what is not visible; None where dots would be too small."""
    wide, high = room.width * graphics.cell_width, room.height * graphics.cell_height
    if isinstance(glass.frame, SegmentFrame):
        across, down = digits_size_mm(glass.frame)
        high = min(high, LITTLE_DIGITS * graphics.cell_height) if room.little else high
        per_mm = min(wide / across, high / down, MOST_DIGIT)
        return rows_of(digits_of(glass, per_mm), glass.ground, graphics), ""
    lattice, says = lattice_of(glass), ""
    pitch = min(wide // lattice.width, high // lattice.height, MOST_PITCH)
    if glass.close and lattice.focus is not None and pitch < MOST_PITCH:
        lattice, says = _close(lattice, wide, high, max(2 * pitch, 2 * least_pitch))
        pitch = min(wide // lattice.width, high // lattice.height, MOST_PITCH)
    if pitch < least_pitch and not (room.little and pitch >= 1):
        return None
    return rows_of(dots_of(glass, lattice, pitch), glass.ground, graphics), says


FINE = 8
"""Pixels per dot of the picture that is scaled down to life size."""


def in_life_size(glass: Glass, room: Room, graphics: Graphics) -> tuple[tuple[Parts, ...], str] | None:
    """Life size, by the screen's pixels per inch; smaller where there is no room, with a remark.

    None for a panel of unknown size.
    """
    if not glass.dot_mm:
        return None
    per_mm = graphics.pixels_per_inch / INCH_MM
    if isinstance(glass.frame, SegmentFrame):
        size_mm = tuple(glass.dot_mm * each for each in digits_size_mm(glass.frame))
        fine = digits_of(glass, FINE)
    else:
        lattice = lattice_of(glass)
        size_mm = glass.dot_mm * lattice.width, glass.dot_mm * lattice.height
        fine = dots_of(glass, lattice, FINE)
    wide, high = room.width * graphics.cell_width, room.height * graphics.cell_height
    share = min(wide / (size_mm[0] * per_mm), high / (size_mm[1] * per_mm), 1.0)
    width, height = (max(round(each * per_mm * share), 1) for each in size_mm)
    of_it = "" if share == 1.0 else f"{100 * share:.0f} % of "
    says = f"{of_it}life size, {size_mm[0]:.0f} × {size_mm[1]:.0f} mm, at {graphics.pixels_per_inch:g} pixels an inch"
    return rows_of(resized(fine, width, height), glass.ground, graphics), says


def _close(lattice: Lattice, wide: int, high: int, pitch: int) -> tuple[Lattice, str]:
    from lesart.tui.panels.window import around, said

    width, height = min(wide // pitch, lattice.width), min(high // pitch, lattice.height)
    box = around(lattice.focus or (0, 0, 0, 0), width, height, lattice)
    return lattice.part(box), said(box, lattice)


def rows_of(raster: Raster, ground: str, graphics: Graphics) -> tuple[Parts, ...]:
    """Rows padded to whole characters with the ground, each in parts that terminals accept."""
    cell_width, cell_height = graphics.cell_width, graphics.cell_height
    cells = -(-raster.width // cell_width)
    colours = list(raster.colours)
    if ground not in colours:
        colours.append(ground)
    filled = np.pad(
        raster.indices,
        ((0, -raster.height % cell_height), (0, cells * cell_width - raster.width)),
        constant_values=colours.index(ground),
    )
    most = max(MOST_WIDE // cell_width, 1)
    return tuple(
        tuple(
            _row(
                filled[top : top + cell_height, left * cell_width : (left + most) * cell_width].tobytes(),
                tuple(colours),
                min(most, cells - left),
                graphics,
                ground,
            )
            for left in range(0, cells, most)
        )
        for top in range(0, len(filled), cell_height)
    )


@lru_cache(maxsize=2048)
def _row(data: bytes, colours: tuple[str, ...], cells: int, graphics: Graphics, ground: str) -> PixelRow:
    indices = np.frombuffer(data, np.uint8).reshape(graphics.cell_height, -1)
    shown = hashlib.blake2b(data + "".join(colours).encode(), digest_size=8)
    if graphics.protocol == SIXEL:
        style = Style(bgcolor=ground, meta={"shows": shown.hexdigest()})
        return PixelRow(cells, sixels(indices, colours), " " * cells, style)
    number = NUMBERS.number(shown.digest())
    return PixelRow(
        cells, placed(indices, colours, number, cells), cells_of(cells), Style(color=colour_of(number), bgcolor=ground)
    )
