"""The frames of a panel from the bytes of a trace."""

from __future__ import annotations

from dataclasses import replace
from functools import singledispatch

import numpy as np

from lesart.core.glass.bus.interpreter import Cells, Interpreted
from lesart.core.glass.bus.transmissions import cells_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import CharacterFrame, Frame, PixelFrame, SegmentFrame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.packing import PAGES
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.pixels import colour_frame, colours_of
from lesart.core.glass.panels.segment_panel import SegmentPanel

SLOTS, DOTS_DOWN = 8, 8


@singledispatch
def frame_shown(panel: Panel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    """The frame after a number of cell writes."""
    held = obeyed.memory(count)[: panel.columns * panel.rows].reshape(panel.rows, panel.columns).tolist()
    return panel.lit(tuple(map(tuple, held)) if obeyed.setting("light", t_s, 1) else panel.blank())


@frame_shown.register
def _(panel: CharacterPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    return _letters_shown(panel, obeyed, obeyed.memory(count), t_s)


@frame_shown.register
def _(panel: SegmentPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    data = bytes(obeyed.memory(count)[: panel.sent_size].astype(np.uint8))
    is_lit = obeyed.setting("light", t_s, 1)
    return panel.shown(data) if is_lit else SegmentFrame((0,) * panel.digits, panel.segments)


@frame_shown.register
def _(panel: PixelPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    held, is_lit = obeyed.memory(count), obeyed.setting("light", t_s, 1)
    wide, pages = cells_of(panel)
    cells = held[: obeyed.columns * obeyed.pages].reshape(obeyed.pages, obeyed.columns)[:pages, :wide]
    shown = cells.astype(np.uint8)
    start = obeyed.setting("start row", t_s, 0)
    if start and panel.packing.bytes == PAGES:
        shown = _from_row(shown, start, low_first=panel.packing.low_first)
    if obeyed.setting("inverted", t_s, 0):
        shown = ~shown
    if panel.modules:
        is_full = bool(obeyed.setting("all lit", t_s, 0))
        frame = panel.shown(
            with_numbers(np.full_like(shown, 0 if panel.packing.inverted else 0xFF) if is_full else shown)
        )
        return frame if is_lit or is_full else PixelFrame(frame.width, frame.height, (0,) * frame.height)
    if obeyed.setting("all lit", t_s, 0):
        shown = np.full_like(shown, 0x00 if panel.packing.inverted else 0xFF)
    frame = panel.shown(shown.tobytes())
    return frame if is_lit else PixelFrame(frame.width, frame.height, (0,) * frame.height)


@frame_shown.register
def _(panel: ColourPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    held = obeyed.memory(count)[: obeyed.columns * obeyed.pages].reshape(obeyed.pages, obeyed.columns)
    top, left = panel.row_offset, panel.offset
    frame = panel.of_values(held[top : top + panel.height, left : left + panel.width])
    if not obeyed.setting("light", t_s, 1):
        return panel.lit(panel.blank())
    if bool(obeyed.setting("inverted", t_s, int(panel.inverts))) != panel.inverts:
        return colour_frame(255 - colours_of(frame), panel.dark)
    return frame


@frame_shown.register
def _(panel: InkPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    return panel.shown(obeyed.memory(count)[: panel.frame_size].astype(np.uint8).tobytes())


@frame_shown.register
def _(panel: LampPanel, obeyed: Interpreted, count: int, t_s: float) -> Frame:
    return panel.of_values(obeyed.memory(count)[: panel.count])


def with_numbers(cells: np.ndarray) -> bytes:
    """Bytes of chained modules, shape (8, modules), each preceded by its number."""
    told = np.empty((*cells.shape, 2), np.uint8)
    told[:, :, 0] = np.arange(1, len(cells) + 1, dtype=np.uint8)[:, None]
    told[:, :, 1] = cells
    return told.tobytes()


def _from_row(data: np.ndarray, start: int, *, low_first: bool) -> np.ndarray:
    """Pages with their rows rotated up by ``start``."""
    order = "little" if low_first else "big"
    rows = np.unpackbits(data[:, None, :], axis=1, bitorder=order).reshape(-1, data.shape[1])  # type: ignore[call-overload]
    moved = np.roll(rows, -start, axis=0).reshape(data.shape[0], 8, data.shape[1])
    return np.packbits(moved, axis=1, bitorder=order)[:, 0, :]  # type: ignore[call-overload, no-any-return]


def _letters_shown(panel: CharacterPanel, obeyed: Interpreted, held: Cells, t_s: float) -> CharacterFrame:
    """The frame of codes at each row's addresses, with glyphs sent in the trace."""
    size = obeyed.columns * obeyed.pages
    if (obeyed.cell >= size).any():
        rows = held[size : size + SLOTS * DOTS_DOWN].reshape(SLOTS, DOTS_DOWN).tolist()
        panel = replace(panel, glyphs={chr(slot): tuple(dots) for slot, dots in enumerate(rows)})
    memory = []
    for row in range(panel.rows):
        start = panel.address(row, 0)
        memory.append(tuple(held[start : start + panel.line].tolist()))
    shift = obeyed.setting("shift", t_s, 0)
    frame = replace(panel, shift=(panel.shift + shift) % panel.line).lit(tuple(memory))
    if obeyed.setting("light", t_s, 1):
        return frame
    return replace(panel, shift=0).lit(panel.blank())
