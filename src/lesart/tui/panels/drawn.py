"""A panel in the available room, in the best way that fits; for a larger one a window, with the whole in miniature."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

from rich.style import Style

from lesart.core.dataclass_later import dataclass
from lesart.study.lit.lattice import Lattice, lattice_of
from lesart.study.views import Box, Glass
from lesart.tui.panels import blocks
from lesart.tui.panels.blocks import Line
from lesart.tui.panels.room import Means, Room, Way
from lesart.tui.panels.window import around, said

if TYPE_CHECKING:
    from lesart.tui.panels.strips import Parts

MAP_WIDTH = 26
"""Columns of the miniature, including a gap."""
LEAST_WINDOW = (24, 6)
"""Least columns and rows of a useful window."""
MOST_SHARE = 0.5
"""Share of a panel that a window should show."""
LEAST_PITCH = 2
"""Least terminal pixels per dot for readable letters."""


@dataclass(frozen=True)
class Drawn:
    """``lines`` within the room. ``says`` what is not visible; ``pixels`` are rows instead of the lines."""

    lines: tuple[Line, ...]
    way: Way
    says: str = ""
    pixels: tuple[Parts, ...] = ()

    @property
    def is_whole(self) -> bool:
        """True where every dot is visible."""
        return not self.says and self.way is not Way.LITTLE


@lru_cache(maxsize=64)
def drawn(glass: Glass, room: Room, means: Means) -> Drawn:
    """Draw a panel, cached, because most pictures show the same panels again; the lines must not be changed."""
    way = means.way
    if means.graphics is not None and way in (Way.PIXELS, Way.LIFE, Way.BEST):
        found = _as_pixels(glass, room, means)
        if found is not None:
            return found
    lattice = lattice_of(glass)
    if way is Way.LITTLE:
        return _in_little(lattice, room)
    whole = _whole(lattice, room, way) if not glass.close else None
    if whole is not None:
        return whole
    if room.little:
        return _in_little(lattice, room)
    return _window(glass, lattice, room, way) or _in_little(lattice, room)


def _as_pixels(glass: Glass, room: Room, means: Means) -> Drawn | None:
    from lesart.tui.panels.strips import in_life_size, strips_of

    assert means.graphics is not None
    if means.way is Way.LIFE:
        found = in_life_size(glass, room, means.graphics)
    else:
        found = strips_of(glass, room, means.graphics, LEAST_PITCH)
    if found is None:
        return None
    rows, says = found
    way = Way.LIFE if means.way is Way.LIFE else Way.PIXELS
    return Drawn(tuple([(part.letters, part.style) for part in row] for row in rows), way, says, rows)


def _whole(lattice: Lattice, room: Room, way: Way) -> Drawn | None:
    """The whole panel in blocks, as large as fits."""
    if way is not Way.QUARTERS:
        for scale in range(room.scale, 0, -1):
            if lattice.width * scale <= room.width and -(-lattice.height * scale // 2) <= room.height:
                return Drawn(tuple(blocks.halves(lattice.scaled(scale))), Way.HALVES)
        if way is Way.HALVES:
            return None
    if -(-lattice.width // 2) <= room.width and -(-lattice.height // 2) <= room.height:
        return Drawn(tuple(blocks.quarters(lattice.plain)), Way.QUARTERS)
    return None


def _in_little(lattice: Lattice, room: Room) -> Drawn:
    """The panel in miniature, as a hint of what it shows."""
    width = min(2 * room.width, max(8 * room.height * lattice.width // (2 * max(lattice.height, 1)), 8))
    return Drawn(tuple(blocks.dots(lattice.shrunk(width))), Way.LITTLE)


def _window(glass: Glass, lattice: Lattice, room: Room, way: Way) -> Drawn | None:
    """The part around the focus in solid blocks, and the whole in miniature beside or below it."""
    little = lattice.shrunk(2 * (MAP_WIDTH - 2))
    map_height = -(-little.height // 4)
    beside = (room.width - MAP_WIDTH, room.height - 1)
    below = (room.width, room.height - map_height - 1)
    ways = [Way.QUARTERS] if way is Way.QUARTERS else [Way.HALVES]
    if way is Way.BEST and not glass.close:
        ways.append(Way.QUARTERS)
    focus = lattice.focus or (0, 0, lattice.width, lattice.height)
    found: list[tuple[bool, bool, int, int, Way, Box, bool]] = []
    for each in ways:
        for is_beside, (columns, rows) in ((True, beside), (False, below)):
            if columns < LEAST_WINDOW[0] or rows < LEAST_WINDOW[1]:
                continue
            width = min(columns * (2 if each is Way.QUARTERS else 1), lattice.width)
            box = around(focus, width, min(2 * rows, lattice.height), lattice)
            fits = focus[2] <= box[2] and focus[3] <= box[3]
            seen, square = box[2] * box[3], int(each is Way.HALVES)
            is_most = seen >= MOST_SHARE * lattice.width * lattice.height
            found.append((fits, is_most, square if is_most else seen, seen, each, box, is_beside))
    if not found:
        return None
    # The focus first; then most of the panel, in square dots if they show enough, else as much as possible.
    *_, chosen, box, is_beside = max(found, key=lambda each: each[:4])
    part = lattice.part(box)
    lines = blocks.quarters(part.plain) if chosen is Way.QUARTERS else blocks.halves(part)
    whole = _map(little, box, lattice)
    if is_beside:
        gap = (" ", Style())
        lines = [[*line, gap, *(whole[y] if y < len(whole) else [])] for y, line in enumerate(lines)]
    else:
        lines = [*lines, [], *whole]
    return Drawn(tuple(lines), chosen, said(box, lattice))


def _map(little: Lattice, box: Box, lattice: Lattice) -> list[Line]:
    """The whole in miniature, with everything outside the window faint."""
    across, down = little.width / lattice.width, little.height / lattice.height
    left, top = box[0] * across, box[1] * down
    right, foot = (box[0] + box[2]) * across, (box[1] + box[3]) * down

    def is_outside(x: int, y: int) -> bool:
        return not (left <= 2 * x + 1 <= right and top <= 4 * y + 2 <= foot)

    return blocks.dots(little, is_outside)
