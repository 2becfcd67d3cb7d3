"""Items drawn on a pixel panel, over its memory."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.hue import with_hue
from lesart.core.glass.faces.items import (
    LEAST_OUTLINED,
    AlarmMark,
    Bar,
    FieldItem,
    Item,
    TextItem,
    size_of,
    written_cells,
)
from lesart.core.glass.faces.shapes import Shape
from lesart.core.glass.panels.panel import Memory, PixelGrid
from lesart.core.glass.panels.pixel_panel import MOST_WIDTH, stamped, written_box, written_text

_WIDEST = 2 * MOST_WIDTH
_EVERY_OTHER = int("10" * MOST_WIDTH, 2)


def with_item(
    memory: Memory, panel: PixelGrid, item: Item, readings: Mapping[str, Reading], t_s: float, *, bare: bool
) -> Memory:
    """The memory with an item written, in its colour where the panel has such.

    ``bare``: without clearing the rest of its box.
    """
    written = _written(memory, panel, item, readings, t_s, bare=bare)
    if not panel.planes:
        return written
    width, height = size_of(item, panel)
    if bare and isinstance(item, FieldItem) and item.motion.is_still:
        # Pixels that it did not write keep their colour.
        width = panel.font(item.font).measure([cell.letter for cell in item.shown(panel, readings).whole])
    box = item.column, item.row, width, height
    return with_hue(written, panel.columns, box, item.hue.at(item.reads, readings))


def _written(
    memory: Memory, panel: PixelGrid, item: Item, readings: Mapping[str, Reading], t_s: float, *, bare: bool
) -> Memory:
    if isinstance(item, Shape):
        return stamped(memory, panel.columns, item.column, item.row, item.width, item.rows(readings, t_s))
    if isinstance(item, Bar):
        return _bar(memory, panel, item, readings)
    width, _ = size_of(item, panel)
    font = panel.font(item.font)
    if isinstance(item, FieldItem) and item.motion.is_still:
        cells = item.shown(panel, readings).whole
        taken = font.measure([cell.letter for cell in cells])
        if bare:
            return written_text(memory, panel.columns, font, item.column, item.row, cells)
        left = {"left": 0, "right": width - taken, "centre": (width - taken) // 2}[item.field.align]
        memory = written_text(memory, panel.columns, font, item.column, item.row, (), room=width)
        return written_text(memory, panel.columns, font, item.column + max(left, 0), item.row, cells)
    cells = written_cells(item, panel, readings, t_s)
    room = width if isinstance(item, AlarmMark | TextItem) or not item.motion.is_still else 0
    return written_text(memory, panel.columns, font, item.column, item.row, cells, room=room)


def _bar(memory: Memory, panel: PixelGrid, item: Bar, readings: Mapping[str, Reading]) -> Memory:
    """An outline filled from the left; struck through where the reading is bad or stale.

    Too low for an inside it has no outline, which would look full: its filled part alone, and every other pixel in
    place of the stroke.
    """
    share = item.share(readings)
    filled = 0 if share is None else round(share * item.width)
    if item.tall < LEAST_OUTLINED:
        full = (1 << item.width) - 1
        lit = full & _EVERY_OTHER >> (_WIDEST - item.width) if share is None else full - (full >> filled)
        return stamped(memory, panel.columns, item.column, item.row, item.width, (lit,) * item.tall)
    memory = written_box(memory, panel.columns, item.column, item.row, item.width, item.tall, filled=False)
    if share is None:
        return written_box(memory, panel.columns, item.column, item.row + item.tall // 2, item.width, 1, filled=True)
    if not filled:
        return memory
    return written_box(memory, panel.columns, item.column, item.row, filled, item.tall, filled=True)
