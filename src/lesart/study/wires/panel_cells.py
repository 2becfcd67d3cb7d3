"""The cells of a panel's controller as a trace fills them: how many there are, and what a memory puts in each."""

from __future__ import annotations

from functools import singledispatch

import numpy as np

from lesart.core.glass.bus.interpreter import BLANK, Cells, Interpreted
from lesart.core.glass.bus.sent_bytes import sent_for
from lesart.core.glass.bus.transmissions import cells_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_colours import values_of
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel

CELLS = "cells"


@singledispatch
def counted_in(panel: Panel) -> str:
    """The unit in which differences are counted."""
    return CELLS


@counted_in.register
def _(panel: PixelPanel) -> str:
    return "pixels"


@counted_in.register
def _(panel: LampPanel) -> str:
    return "lamps"


@counted_in.register
def _(panel: SegmentPanel) -> str:
    return "segments"


@singledispatch
def memory_shape(panel: Panel) -> tuple[int, int, int]:
    """Columns and pages of its memory, and the initial content of a cell."""
    return panel.columns, panel.rows, 0


@memory_shape.register
def _(panel: PixelPanel) -> tuple[int, int, int]:
    return (*cells_of(panel), 0)


@memory_shape.register
def _(panel: ColourPanel) -> tuple[int, int, int]:
    return panel.offset + panel.width, panel.row_offset + panel.height, 0


@memory_shape.register
def _(panel: InkPanel) -> tuple[int, int, int]:
    return (*cells_of(panel), 0)


@memory_shape.register
def _(panel: LampPanel) -> tuple[int, int, int]:
    return panel.count, 1, 0


@memory_shape.register
def _(panel: SegmentPanel) -> tuple[int, int, int]:
    # Where bits select the digit each has a page, else they are in sequence.
    size = panel.wiring.bytes_a_digit
    return (size, panel.digits, 0) if panel.is_shifted else (panel.sent_size, 1, 0)


@memory_shape.register
def _(panel: CharacterPanel) -> tuple[int, int, int]:
    return panel.line * panel.rows, 1, BLANK


@singledispatch
def put_cells(panel: Panel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    """Put a memory into the cells of a controller, at its addresses."""
    data = b"".join(each.data for each in sent_for(panel, memory) if not each.command)
    if isinstance(panel, SegmentPanel) and (panel.is_shifted or panel.is_numbered):
        data = panel.sent(panel.lit(memory))
    room = min(len(data), len(cells))
    cells[:room] = np.frombuffer(data[:room], np.uint8)


@put_cells.register
def _(panel: CharacterPanel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    for row in range(panel.rows):
        start = panel.address(row, 0)
        cells[start : start + panel.columns] = memory[row][: panel.columns]


@put_cells.register
def _(panel: PixelPanel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    sent = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8)
    # In chained modules the numbers are not cells.
    sent = sent[1::2] if panel.modules else sent
    wide, pages = cells_of(panel)
    for page in range(min(pages, obeyed.pages)):
        start = page * obeyed.columns
        cells[start : start + wide] = sent[page * wide : (page + 1) * wide]


@put_cells.register
def _(panel: ColourPanel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    """One pixel per cell, after the controller's memory before the glass."""
    sent = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8)
    values = values_of(sent.reshape(panel.height, panel.width, panel.pixel_bytes))
    held = cells.reshape(obeyed.pages, obeyed.columns)
    held[panel.row_offset : panel.row_offset + panel.height, panel.offset : panel.offset + panel.width] = values


@put_cells.register
def _(panel: InkPanel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    """Eight pixels of one memory per cell, those of the second behind all of the first."""
    sent = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8)
    cells[: len(sent)] = sent


@put_cells.register
def _(panel: LampPanel, memory: Memory, cells: Cells, obeyed: Interpreted) -> None:
    """One lamp per cell, as the line runs."""
    sent = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8)
    cells[: panel.count] = values_of(sent.reshape(panel.count, panel.pixel_bytes))
