"""The transmissions by which firmware puts a memory on a display: commands and data, as they go over the bus."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import singledispatch

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.controller import BYTE_BEFORE, COMMAND_LINE, EXPANDER, FIRST, WRITE, WRITE_SECOND, Controller
from lesart.core.glass.bus.sent_bytes import sent_for
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.packing import BYTE, PAGES
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel


@dataclass(frozen=True)
class Transmission:
    """Bytes between a start and a stop, or while a display is selected.

    ``is_data`` is the level of a data/command line.
    """

    data: bytes
    is_data: bool


def transmissions_for(panel: Panel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    """The transmissions for a whole memory, and what makes it show.

    Raises KeyError where the controller has no command that sets a position.
    """
    return *put_whole(panel, controller, memory), *renewing(controller)


def put_whole(panel: Panel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    """The transmissions that put a whole memory there. Raises as ``transmissions_for``."""
    if controller.told_by == EXPANDER:
        return tuple(
            Transmission(ported(controller, (byte >> 4, byte & 15), is_data=not each.command), True)
            for each in sent_for(panel, memory)
            for byte in each.data
        )
    return _told(panel, controller, memory)


@singledispatch
def _told(panel: Panel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    return tuple(Transmission(each.data, not each.command) for each in sent_for(panel, memory))


@_told.register
def _(panel: PixelPanel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    if panel.modules:
        return tuple(Transmission(each.data, True) for each in sent_for(panel, memory))
    return tuple(_pages(panel, controller, panel.sent(panel.lit(memory))))


@_told.register
def _(panel: ColourPanel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    window = in_window(panel, controller, (0, 0, panel.width, panel.height))
    return (*window, Transmission(panel.sent(panel.lit(memory)), True))


@_told.register
def _(panel: InkPanel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    return tuple(both_memories(controller, panel.row_bytes, panel.height, panel.sent(panel.lit(memory))))


@_told.register
def _(panel: LampPanel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    return (Transmission(panel.sent(panel.lit(memory)), True),)


@_told.register
def _(panel: SegmentPanel, controller: Controller, memory: Memory) -> tuple[Transmission, ...]:
    if panel.is_shifted or panel.is_numbered:
        return tuple(Transmission(each.data, True) for each in sent_for(panel, memory))
    data = panel.sent(panel.lit(memory))
    if controller.told_by == FIRST and controller.has("brightness"):
        dims = controller.code_of("brightness", 2 * panel.brightness + 1)
        return Transmission(dims, False), Transmission(controller.code_of("address", 0) + data, False)
    if controller.told_by == FIRST:
        light = controller.code_of("light", panel.brightness)
        onwards = [Transmission(controller.code_of("goes on"), False)] if controller.has("goes on") else []
        return *onwards, Transmission(controller.code_of("address", 0) + data, False), Transmission(light, False)
    return (Transmission(data, True),)


def in_window(panel: ColourPanel, controller: Controller, box: tuple[int, int, int, int]) -> tuple[Transmission, ...]:
    """The commands before the pixels of a box: left, top, and one past its right and lower edge.

    The controller counts its own columns and rows. Raises KeyError where it has no windows.
    """
    left, top, right, foot = box
    spans = (
        controller.span_of("columns from to", panel.offset + left, panel.offset + right - 1),
        controller.span_of("pages from to", panel.row_offset + top, panel.row_offset + foot - 1),
    )
    found = [part for span in spans for part in command_said(controller, span)]
    if controller.has(WRITE):
        found += command_said(controller, controller.code_of(WRITE))
    return tuple(found)


def command_said(controller: Controller, data: bytes) -> tuple[Transmission, ...]:
    """One command with its bytes, which come as data where the line marks only the command itself."""
    if controller.told_by != COMMAND_LINE:
        return (said(controller, data, is_data=False),)
    more = (Transmission(data[1:], True),) if len(data) > 1 else ()
    return (Transmission(data[:1], False), *more)


def _pages(panel: PixelPanel, controller: Controller, data: bytes) -> Iterable[Transmission]:
    """Page by page where pages are set one by one; else everything in a window."""
    columns, pages = cells_of(panel)
    does = {command.does for command in controller.commands}
    if "page" in does:
        for page in range(pages):
            first = controller.code_of("page", page) + column_set(controller, 0)
            yield said(controller, first, is_data=False)
            yield from _pieces(panel, controller, data[page * columns : (page + 1) * columns])
        return
    yield from before_cells(controller, (0, 0, columns, pages))
    yield from _pieces(panel, controller, data)


def before_cells(controller: Controller, box: tuple[int, int, int, int]) -> Iterable[Transmission]:
    """The commands before the bytes of a box of cells: left, top, and one past its right and lower edge.

    Raises KeyError where it has no windows.
    """
    places = _placed(controller, box)
    if controller.told_by == COMMAND_LINE:
        yield from (part for each in places for part in command_said(controller, each))
    else:
        yield said(controller, b"".join(places), is_data=False)


def _placed(controller: Controller, box: tuple[int, int, int, int]) -> list[bytes]:
    left, top, right, foot = box
    return [
        controller.span_of("columns from to", left, right - 1),
        controller.span_of("pages from to", top, foot - 1),
        *(controller.code_of(does, at) for does, at in (("column at", left), ("page at", top)) if controller.has(does)),
        *([controller.code_of(WRITE)] if controller.has(WRITE) else []),
    ]


def both_memories(controller: Controller, row_bytes: int, rows: int, data: bytes) -> Iterable[Transmission]:
    """All bytes of the first memory, and then those of the second, each from its first cell on.

    Raises KeyError where it has no windows, or no second memory.
    """
    half = len(data) // 2
    parts = zip(before_memories(controller, row_bytes, rows), (data[:half], data[half:]), strict=True)
    for commands, cells in parts:
        yield from (part for each in commands for part in command_said(controller, each))
        yield said(controller, cells, is_data=True)


def before_memories(controller: Controller, row_bytes: int, rows: int) -> tuple[tuple[bytes, ...], tuple[bytes, ...]]:
    """The commands, each with its bytes, before all cells of the first and of the second memory.

    Raises KeyError where it has no windows, or no second memory.
    """
    first = _placed(controller, (0, 0, row_bytes, rows))
    again = [controller.code_of(does, 0) for does in ("column at", "page at") if controller.has(does)]
    return tuple(first), (*again, controller.code_of(WRITE_SECOND))


def renewing(controller: Controller) -> Iterable[Transmission]:
    """The commands that make cells show, where they do not at once."""
    yield from (part for each in controller.renew for part in command_said(controller, each))


def column_set(controller: Controller, column: int) -> bytes:
    """The commands that set a column, in one or in two halves. Raises KeyError where there are none."""
    if any(command.does == "column" for command in controller.commands):
        return controller.code_of("column", column)
    return controller.code_of("column low", column & 15) + controller.code_of("column high", column >> 4)


def _pieces(panel: PixelPanel, controller: Controller, data: bytes) -> Iterable[Transmission]:
    size = panel.bus.at_once or len(data)
    for first in range(0, len(data), size):
        yield said(controller, data[first : first + size], is_data=True)


def said(controller: Controller, data: bytes, *, is_data: bool) -> Transmission:
    """Bytes in one transmission, after the control byte where the controller wants one."""
    if controller.told_by == BYTE_BEFORE:
        return Transmission(bytes([is_data << controller.data_bit]) + data, is_data)
    return Transmission(data, is_data)


def ported(controller: Controller, halves: Sequence[int], *, is_data: bool) -> bytes:
    """Bytes of an expander's port: each half of a byte set, then enabled, then not, three each."""
    bit = {name: 1 << place for place, name in enumerate(controller.lines)}
    found = bytearray()
    for nibble in halves:
        port = sum(bit[name] for place, name in enumerate(("4", "5", "6", "7")) if nibble >> place & 1)
        port |= bit.get("light", 0) | (bit["data"] if is_data else 0)
        found += bytes((port, port | bit["enable"], port))
    return bytes(found)


def cells_of(panel: PixelPanel) -> tuple[int, int]:
    """Bytes per page, or per row where bytes are eight columns or pixels of a row; and the number of pages or rows, in
    both memories where there are two."""
    if isinstance(panel, InkPanel):
        return panel.row_bytes, 2 * panel.height
    if isinstance(panel, ColourPanel):
        return panel.width * panel.pixel_bytes, panel.height
    if panel.modules:
        return panel.modules, BYTE
    packing = panel.packing
    wide = panel.width + packing.offset + packing.beyond
    return (wide, -(-panel.height // 8)) if packing.bytes == PAGES else (-(-wide // 8), panel.height)
