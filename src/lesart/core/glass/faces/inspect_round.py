"""What of a face lies beyond the edge of a round glass: of a square of pixels only a disc shows."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Item, size_of
from lesart.core.glass.faces.shapes import Box, Dial
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.notes import FAULT, Note
from lesart.core.quantity import counted
from lesart.core.step import Step


def inspect_round(face: Face, panel: ColourPanel) -> Iterator[Note]:
    """A note on each item of which something lies where there is no glass."""
    if not panel.disc:
        return
    for index, item in enumerate(face.items):
        beyond = pixels_beyond(item, panel)
        if beyond <= 0:
            continue
        yield Note(
            FAULT,
            Step.GLASS,
            item.reads[0] if item.reads else None,
            f"{face.panel}: the {item.named()} reaches {counted(beyond, 'pixel')} beyond the edge of the round glass.",
            figure=float(beyond),
            limit=0.0,
            remedy="move it towards the middle, or make it smaller",
            panel=face.panel,
            place=("faces", face.name, "items", index, "column"),
        )


def pixels_beyond(item: Item, panel: ColourPanel) -> int:
    """How far the furthest pixel of an item lies beyond the edge, rounded up; 0 where all of it is inside.

    Of a scale or a frame its ink counts, of all else the box that it may fill.
    """
    radius = min(panel.columns, panel.rows) / 2
    far = max((_from_middle(x, y, panel) for x, y in _edge_of(item, panel)), default=0.0)
    return max(math.ceil(far - radius - 1e-9), 0)


def _edge_of(item: Item, panel: ColourPanel) -> Iterator[tuple[int, int]]:
    """Pixels of which the furthest is that of the item."""
    width, height = size_of(item, panel)
    if isinstance(item, Dial) or (isinstance(item, Box) and not item.filled):
        for y, row in enumerate(item.rows({}, 0.0)):
            for x in {place for place in range(width) if row >> (width - 1 - place) & 1}:
                yield item.column + x, item.row + y
        return
    for x in (item.column, item.column + width - 1):
        for y in (item.row, item.row + height - 1):
            yield x, y


def _from_middle(x: int, y: int, panel: ColourPanel) -> float:
    """From the middle of the glass to that corner of a pixel which is furthest from it."""
    dx, dy = abs(x + 0.5 - panel.columns / 2) + 0.5, abs(y + 0.5 - panel.rows / 2) + 0.5
    return math.hypot(dx, dy)
