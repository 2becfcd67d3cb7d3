"""The cost of drawing one item alone: the bytes of the frame that its box touches."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.glass.bus.sent_bytes import numbered_runs
from lesart.core.glass.faces.items import Item, size_of
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel


@singledispatch
def frame_bytes(panel: Panel) -> int:
    """Bytes of a frame; 0 for panels without pixels."""
    return 0


@frame_bytes.register
def _(panel: PixelPanel) -> int:
    return panel.frame_size


@singledispatch
def bytes_touched(panel: Panel, item: Item) -> int:
    """Counted on the controller's own bytes: with its packing, turned and mirrored as it is built in.

    A box that is not on the byte's edge touches more than it covers: on pages of eight rows, seven rows below an edge
    cost as much as sixteen on it. 0 of panels whose bytes are no pixels.
    """
    return 0


@bytes_touched.register
def _(panel: ColourPanel, item: Item) -> int:
    """All pixels of its box, whichever way it is turned; all there are where none can be passed over."""
    if panel.sends_all:
        return panel.frame_size
    width, height = size_of(item, panel)
    left, right = min(item.column, panel.columns), min(item.column + width, panel.columns)
    top, foot = min(item.row, panel.rows), min(item.row + height, panel.rows)
    return (right - left) * (foot - top) * panel.pixel_bytes


@bytes_touched.register
def _(panel: PixelPanel, item: Item) -> int:
    width, height = size_of(item, panel)
    left, right = min(item.column, panel.columns), min(item.column + width, panel.columns)
    row = ((1 << (right - left)) - 1) << (panel.columns - right)
    inside = range(item.row, item.row + height)
    full = PixelFrame(panel.columns, panel.rows, tuple(row if y in inside else 0 for y in range(panel.rows)))
    empty = PixelFrame(panel.columns, panel.rows, (0,) * panel.rows)
    lit, dark = panel.sent(full), panel.sent(empty)
    if panel.modules:
        # A number goes to all modules at once.
        pairs = zip(numbered_runs(panel, lit), numbered_runs(panel, dark), strict=True)
        return sum(len(one) for one, other in pairs if one != other)
    return sum(one != other for one, other in zip(lit, dark, strict=True))
