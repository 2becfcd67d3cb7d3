"""Updates of a panel's controller from one frame to the next, as firmware needs them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import singledispatch

import numpy as np

from lesart.core.glass.bus.changes import ADDRESSING
from lesart.core.glass.bus.controller import (
    BYTE_BEFORE,
    COMMAND_LINE,
    EXPANDER,
    FIRST,
    NOTHING,
    WRITE,
    Controller,
)
from lesart.core.glass.bus.transmissions import before_memories, cells_of, column_set
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import AS_EVER, PLAIN
from lesart.core.glass.faces.items import size_of
from lesart.core.glass.panels.character_panel import SET_ADDRESS, CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import BY_ROWS, LampPanel
from lesart.core.glass.panels.packing import pack
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_colours import COLOURS, OWN, rgb
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.pixels import turned
from lesart.core.glass.panels.segment_panel import BYTES_A_PLACE, SegmentPanel
from lesart.core.pack.written.c_colours import ColourBox, Coloured, Painted
from lesart.core.pack.written.c_inks import Inked
from lesart.core.pack.written.c_lamps import Strung
from lesart.core.pack.written.redraw_ways import (
    Addressed,
    Cells,
    Chained,
    ExpanderPort,
    Numbered,
    Paged,
    Redraw,
    Renewed,
    Rowed,
    Way,
    Windowed,
)

FAR = 2
"""Bytes after the command that sets a window's first and last column, or page."""


def redraw_of(panel: Panel, controller: Controller, faces: Sequence[tuple[str, Face]]) -> Redraw | None:
    """``faces`` each with its identifier. None where the controller has no commands that set a position."""
    try:
        way = _way(panel, controller)
    except KeyError:
        return None
    if way is None or (controller.renew and not isinstance(way, Renewed | Inked)):
        return None
    if isinstance(way, Painted) and isinstance(panel, ColourPanel):
        way = replace(
            way,
            boxes=[(f"{name}_boxes", f"colours of face {face.name}", boxes_of(panel, face)) for name, face in faces],
        )
    frames = [(name, face.name, frame_bytes(panel, compose(face, panel, {}).memory)) for name, face in faces]
    digits, wide = _digits(panel)
    size = len(frame_bytes(panel, panel.blank()))
    low_first = isinstance(panel, SegmentPanel) and panel.is_addressed
    return Redraw(way, size, digits, wide, frames, low_first)


def frame_bytes(panel: Panel, memory: Memory) -> bytes:
    """A memory as firmware keeps it: the codes of cells, or the sent bytes of digits and dots."""
    if isinstance(panel, CharacterPanel):
        return b"".join(bytes(row) for row in memory)
    if isinstance(panel, ColourPanel):
        return pack(turned(PixelFrame(panel.columns, panel.rows, memory[0]), -panel.turns), panel.packing)
    if isinstance(panel, PixelPanel):
        return panel.sent(panel.lit(memory))
    assert isinstance(panel, SegmentPanel)
    return panel.sent(panel.lit(memory))


def _digits(panel: Panel) -> tuple[tuple[int, ...], int]:
    """The position of each digit in the sent bytes."""
    if not isinstance(panel, SegmentPanel):
        return (), 0
    wide = panel.wiring.bytes_a_digit
    if panel.is_addressed:
        by_digit = dict(zip(panel.wiring.digits, panel.places, strict=True))
        return tuple(BYTES_A_PLACE * by_digit[digit] for digit in range(panel.digits)), wide
    return tuple(wide * panel.wiring.digits.index(place) for place in range(panel.digits)), wide


@singledispatch
def _way(panel: Panel, controller: Controller) -> Way | None:
    return None


@_way.register
def _(panel: CharacterPanel, controller: Controller) -> Way | None:
    line = len(panel.blank()[0])
    places = bytes(SET_ADDRESS | panel.address(row, column) for row in range(panel.rows) for column in range(line))
    if controller.told_by != EXPANDER:
        return Cells(line, places)
    bit = {name: 1 << place for place, name in enumerate(controller.lines)}
    port = ExpanderPort(bit.get("light", 0), bit["data"], bit["enable"], (bit["4"], bit["5"], bit["6"], bit["7"]))
    return Cells(line, places, port)


@_way.register
def _(panel: SegmentPanel, controller: Controller) -> Way | None:
    if panel.is_numbered:
        return Numbered()
    if controller.told_by != FIRST:
        return Chained()
    size = panel.sent_size
    found = [controller.code_of("address", place) for place in range(size)]
    return Addressed(b"".join(found)) if all(len(each) == 1 for each in found) else None


@_way.register
def _(panel: ColourPanel, controller: Controller) -> Way | None:
    does = {command.does: command for command in controller.commands}
    window = does["columns from to"], does["pages from to"]
    half = window[0].more // 2
    if window[1].more != window[0].more or half not in (1, 2):
        return None
    return Coloured(
        width=panel.width,
        height=panel.height,
        left=panel.offset,
        top=panel.row_offset,
        to_columns=window[0].code,
        to_pages=window[1].code,
        half=half,
        write=does[WRITE].code if WRITE in does else None,
        alone=controller.told_by == COMMAND_LINE,
        own=_sent_as(panel, panel.colour),
        ground=_sent_as(panel, panel.ground),
    )


@_way.register
def _(panel: InkPanel, controller: Controller) -> Way | None:
    """The commands around its two memories, as they are sent for any picture. None for one whose line marks all bytes
    of a command."""
    if controller.told_by != COMMAND_LINE:
        return None
    before, between = before_memories(controller, panel.row_bytes, panel.height)
    return Inked(
        width=panel.width,
        height=panel.height,
        own=_sent_as(panel, panel.colour),
        ground=_sent_as(panel, panel.ground),
        before=before,
        between=between,
        behind=controller.renew,
        second_low=panel.third_low,
    )


@_way.register
def _(panel: LampPanel, controller: Controller) -> Way | None:
    if controller.told_by != NOTHING:
        return None
    down, across = panel.begins.split()
    return Strung(
        width=panel.width,
        height=panel.height,
        own=_sent_as(panel, panel.colour),
        ground=_sent_as(panel, panel.ground),
        by_rows=panel.runs == BY_ROWS,
        to_and_fro=panel.to_and_fro,
        from_right=across == "right",
        from_bottom=down == "bottom",
    )


def _sent_as(panel: ColourPanel, colour: str) -> bytes:
    return panel.encoded(np.array(rgb(COLOURS[colour]), np.uint8)).tobytes()


def boxes_of(panel: ColourPanel, face: Face) -> list[ColourBox]:
    """Boxes of all items in order, where one of them has a colour or gets one in an alarm; else none."""
    found = []
    for item in face.items:
        width, height = size_of(item, panel)
        right, foot = min(item.column + width, panel.columns), min(item.row + height, panel.rows)
        box = turned_box((item.column, item.row, right, foot), panel.columns, panel.rows, panel.turns)
        own = panel.colour if item.hue.colour == OWN else item.hue.colour
        in_alarm = own if item.hue.alarm == AS_EVER else item.hue.alarm
        found.append(ColourBox(item.named(), *box, _sent_as(panel, own), _sent_as(panel, in_alarm)))
    return found if any(item.hue != PLAIN for item in face.items) else []


def turned_box(box: tuple[int, int, int, int], columns: int, rows: int, quarters: int) -> tuple[int, int, int, int]:
    """A visible box, turned clockwise, in the controller's coordinates: left, top, and one past the right and bottom
    edge."""
    left, top, right, foot = box
    for _ in range(quarters):
        left, top, right, foot = top, columns - right, foot, columns - left
        columns, rows = rows, columns
    return left, top, right, foot


def _renewed(columns: int, controller: Controller) -> Way | None:
    """The window of a paper-like panel. None for numbers of other sizes than such controllers have."""
    sizes = {"columns from to": 2, "pages from to": 4, "column at": 1, "page at": 2, WRITE: 0}
    does = {command.does: command for command in controller.commands}
    if not controller.low_first or any(does[each].more != size for each, size in sizes.items() if each in does):
        return None
    code = {each: does[each].code if each in does else None for each in ("column at", "page at", WRITE)}
    window = does["columns from to"].code, does["pages from to"].code
    return Renewed(columns, *window, code["column at"], code["page at"], code[WRITE], controller.renew)


@_way.register
def _(panel: PixelPanel, controller: Controller) -> Way | None:
    columns, pages = cells_of(panel)
    if panel.modules:
        return Rowed(2 * panel.modules)
    before = (0, 1 << controller.data_bit) if controller.told_by == BYTE_BEFORE else None
    does = {command.does: command for command in controller.commands}
    if "page" in does:
        to_pages = tuple(controller.code_of("page", page) for page in range(pages))
        to_columns = tuple(column_set(controller, column) for column in range(columns))
        return Paged(columns, to_pages, to_columns, before, ADDRESSING)
    window = does["columns from to"], does["pages from to"]
    if controller.told_by == COMMAND_LINE:
        return _renewed(columns, controller)
    if any(each.more != FAR for each in window):
        return None
    return Windowed(columns, window[0].code, window[1].code, before)
