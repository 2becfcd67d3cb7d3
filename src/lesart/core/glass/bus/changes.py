"""What firmware sends at start-up, and afterwards for every change: commands and data, nothing more."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import singledispatch

import numpy as np

from lesart.core.glass.bus.controller import BYTE_BEFORE, COMMAND_LINE, EXPANDER, FIRST, PIXEL_BITS, Controller
from lesart.core.glass.bus.controllers import PAPER
from lesart.core.glass.bus.sent_bytes import (
    ALL_LIT,
    BRIGHT,
    DECODED,
    EACH,
    LAST_DIGIT,
    LIGHT,
    dimmed_to,
    glyphs_sent,
    numbered_runs,
    sent_for,
)
from lesart.core.glass.bus.transmissions import (
    Transmission,
    before_cells,
    cells_of,
    column_set,
    command_said,
    in_window,
    ported,
    put_whole,
    renewing,
    said,
    transmissions_for,
)
from lesart.core.glass.panels.character_panel import SET_ADDRESS, CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel

LIT_BY = ("as stored", "upright", "shown upright", "light")
"""Commands that show a controller's memory as it is, where it has them."""
FOUR_LINES, LINES_OF_FOUR, TWO_ROWS, ON, ONWARDS, CLEARED = 0x2, 0x20, 0x08, 0x0C, 0x06, 0x01
EIGHT_LINES, RESET = 0x30, 0x3
WAKE = 0x11
"""The command that ends the sleep in which such a controller powers up."""
RESTS_BEHIND = (0x01, WAKE)
"""Commands, reset and wake, after which such a controller takes no other for 120 ms."""
RESET_PAPER = 0x12
"""The command behind which the controller of a paper-like panel is busy for a while."""
MODULES_BRIGHT = 1
"""Of 15 steps: a fully lit module draws a third of an ampere at the last one, and a tenth at this."""
RESETS = 3
"""How often a character panel is sent the eight-line command before the four-line one, whatever its state."""
ADDRESSING = 8
"""Bytes that cost as much as setting a new position: shorter gaps are written over."""


@singledispatch
def start_for(panel: Panel, controller: Controller) -> tuple[Transmission, ...]:
    """The start sequence: the person's own bytes where the panel has them, else the least that lights it."""
    return _plain_start(panel, controller)


def _plain_start(panel: Panel, controller: Controller) -> tuple[Transmission, ...]:
    own = panel.start
    if own and controller.told_by == COMMAND_LINE:
        return tuple(part for each in _by_command(controller, own) for part in command_said(controller, each))
    if own:
        return tuple(_commands(controller, own))
    there = [each for each in LIT_BY if any(command.does == each for command in controller.commands)]
    return tuple(each for does in there for each in _commands(controller, controller.code_of(does)))


@start_for.register
def _(panel: ColourPanel, controller: Controller) -> tuple[Transmission, ...]:
    """For a controller of windows: wake, bits per pixel, inversion where the glass needs it, display on.

    Source: the open standard of commands; it has to wait 120 ms after the first of them.
    """
    groups = panel.start_groups
    if len(groups) == 1:
        groups = tuple(_by_command(controller, panel.start))
    if not groups:
        there = {command.does for command in controller.commands}
        bits = {2: 0x55, 3: 0x66}[panel.pixel_bytes]
        turned = "inverted" if panel.inverts else "upright"
        groups = (
            *([bytes((WAKE,))] if controller.find(WAKE) is not None else []),
            *([controller.code_of(PIXEL_BITS, bits)] if PIXEL_BITS in there else []),
            *(controller.code_of(does) for does in ("as stored", turned, "light") if does in there),
        )
    return tuple(part for each in groups for part in command_said(controller, each))


@start_for.register
def _(panel: LampPanel, controller: Controller) -> tuple[Transmission, ...]:
    """None: lamps are ready when they have their supply."""
    return ()


def _by_command(controller: Controller, data: bytes) -> Iterator[bytes]:
    """A start sequence split into commands by their known lengths."""
    at = 0
    while at < len(data):
        found = controller.find(data[at])
        size = 1 + (found.more if found is not None else 0)
        yield data[at : at + size]
        at += size


def _paper_start(panel: PixelPanel) -> tuple[bytes, ...]:
    """Reset, number of rows, on by columns and then rows, a white border, its own thermometer.

    Source: data sheets of controllers of paper-like panels.
    """
    rows = (panel.height - 1).to_bytes(2, "little")
    return bytes((RESET_PAPER,)), b"\x01" + rows + b"\0", b"\x11\x03", b"\x3c\x05", b"\x18\x80"


@start_for.register
def _(panel: InkPanel, controller: Controller) -> tuple[Transmission, ...]:
    return _start_of_paper(panel, controller)


def _start_of_paper(panel: PixelPanel, controller: Controller) -> tuple[Transmission, ...]:
    if controller.name != PAPER.name or panel.start:
        return _plain_start(panel, controller)
    return tuple(part for each in _paper_start(panel) for part in command_said(controller, each))


@start_for.register
def _(panel: PixelPanel, controller: Controller) -> tuple[Transmission, ...]:
    """For chained modules each setting for all of them: no test, no decoding, all rows, brightness, on; what
    paper-like panels need."""
    if controller.name == PAPER.name:
        return _start_of_paper(panel, controller)
    if not panel.modules or panel.start:
        return _plain_start(panel, controller)
    settings = ((ALL_LIT, 0), (DECODED, 0), (LAST_DIGIT, EACH - 1), (BRIGHT, MODULES_BRIGHT), (LIGHT, 1))
    return tuple(Transmission(bytes(each) * panel.modules, True) for each in settings)


@start_for.register
def _(panel: CharacterPanel, controller: Controller) -> tuple[Transmission, ...]:
    """For a character panel: number of data lines by the data sheet's sequence, then display on, clear, own glyphs."""
    own = panel.start
    rows = TWO_ROWS if panel.rows > 1 else 0
    by_four = controller.told_by == EXPANDER or panel.hookup == "4 lines"
    told = own or bytes(((LINES_OF_FOUR if by_four else EIGHT_LINES) | rows, ON, ONWARDS, CLEARED))
    found: list[Transmission] = []
    if controller.told_by == EXPANDER:
        halves = (*[RESET] * RESETS, FOUR_LINES)
        found = [Transmission(ported(controller, [half], is_data=False), True) for half in halves]
    else:
        found = [Transmission(bytes((EIGHT_LINES,)), False)] * RESETS
        found += [Transmission(bytes((LINES_OF_FOUR,)), False)] if by_four else []
    found += _each(controller, told, is_data=False)
    for run in glyphs_sent(panel):
        found += _each(controller, run.data, is_data=not run.command)
    return tuple(found)


@start_for.register
def _(panel: SegmentPanel, controller: Controller) -> tuple[Transmission, ...]:
    if panel.start:
        size = 2 if panel.is_numbered else 1
        return tuple(Transmission(panel.start[at : at + size], False) for at in range(0, len(panel.start), size))
    if panel.is_numbered:
        # It powers up dark, in its lamp test, or with whatever it had before.
        settings = ((ALL_LIT, 0), (DECODED, 0), (LAST_DIGIT, panel.digits - 1), dimmed_to(panel), (LIGHT, 1))
        return tuple(Transmission(bytes(each), True) for each in settings)
    if controller.told_by == FIRST:
        does = {command.does for command in controller.commands}
        # A driver with an address powers up asleep and dark.
        first = ("awake", "light") if "awake" in does else ("goes on",)
        return tuple(Transmission(controller.code_of(each), False) for each in first if each in does)
    return ()


def _commands(controller: Controller, data: bytes) -> Iterator[Transmission]:
    if controller.told_by == BYTE_BEFORE:
        yield said(controller, data, is_data=False)
    else:
        yield Transmission(data, False)


def _each(controller: Controller, data: bytes, *, is_data: bool) -> list[Transmission]:
    """Commands byte by byte for an expander, else in one transmission."""
    if controller.told_by == EXPANDER:
        return [Transmission(ported(controller, (byte >> 4, byte & 15), is_data=is_data), True) for byte in data]
    return [Transmission(data, is_data)]


def changes_for(panel: Panel, controller: Controller, before: Memory | None, after: Memory) -> tuple[Transmission, ...]:
    """What brings the glass from one memory to another; all of it where nobody knows what stands there.

    Raises KeyError where the controller has no command to set a place by.
    """
    if before is None:
        return transmissions_for(panel, controller, after)
    found = tuple(_changes(panel, controller, before, after))
    return (*found, *renewing(controller)) if found else ()


@singledispatch
def _changes(panel: Panel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    if sent_for(panel, before) != sent_for(panel, after):
        yield from put_whole(panel, controller, after)


@_changes.register
def _(panel: SegmentPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    """For a chain all digits, since each shifts the others; for a driver those that changed, after their address."""
    was, now = panel.sent(panel.lit(before)), panel.sent(panel.lit(after))
    if was == now:
        return
    if panel.is_numbered:
        numbered = panel.numbered(panel.lit(after).masks)
        yield from (Transmission(bytes(each), True) for each, old in zip(numbered, was, strict=True) if each[1] != old)
        return
    if controller.told_by != FIRST:
        yield from put_whole(panel, controller, after)
        return
    for first, behind in runs(was, now, 1):
        yield Transmission(controller.code_of("address", first) + now[first:behind], False)


@_changes.register
def _(panel: CharacterPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    for row in range(panel.rows):
        was, now = bytes(before[row]), bytes(after[row])
        for first, behind in runs(was, now, 1):
            place = bytes((SET_ADDRESS | panel.address(row, first),))
            yield from _each(controller, place, is_data=False)
            yield from _each(controller, now[first:behind], is_data=True)


@_changes.register
def _(panel: PixelPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    """Run by run within a page where pages are set one by one; else the smallest window around the changes.

    For chained modules each number that changed, for all of them.
    """
    was, now = panel.sent(panel.lit(before)), panel.sent(panel.lit(after))
    if panel.modules:
        pairs = zip(numbered_runs(panel, was), numbered_runs(panel, now), strict=True)
        yield from (Transmission(new, True) for old, new in pairs if old != new)
        return
    columns, pages = cells_of(panel)
    does = {command.does for command in controller.commands}
    if not {"page", "columns from to"} & does:
        if was != now:
            yield from put_whole(panel, controller, after)
        return
    if "page" not in does:
        yield from _window(controller, was, now, columns, pages)
        return
    for page in range(pages):
        span = slice(page * columns, (page + 1) * columns)
        for first, behind in runs(was[span], now[span], ADDRESSING):
            place = controller.code_of("page", page) + column_set(controller, first)
            yield said(controller, place, is_data=False)
            yield said(controller, now[span][first:behind], is_data=True)


@_changes.register
def _(panel: ColourPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    """The smallest window around the changes."""
    was, now = (_pixels(panel, memory) for memory in (before, after))
    differ = (was != now).any(axis=-1)
    if not differ.any():
        return
    rows, columns = np.flatnonzero(differ.any(axis=1)), np.flatnonzero(differ.any(axis=0))
    box = int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1
    left, top, right, foot = box
    yield from in_window(panel, controller, box)
    yield said(controller, now[top:foot, left:right].tobytes(), is_data=True)


@_changes.register
def _(panel: InkPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    """Both memories: a change goes over all of the panel."""
    if panel.sent(panel.lit(before)) != panel.sent(panel.lit(after)):
        yield from put_whole(panel, controller, after)


@_changes.register
def _(panel: LampPanel, controller: Controller, before: Memory, after: Memory) -> Iterator[Transmission]:
    """All lamps: each takes the first bytes that reach it, so none can be passed over."""
    if (_pixels(panel, before) != _pixels(panel, after)).any():
        yield from put_whole(panel, controller, after)


def _pixels(panel: ColourPanel, memory: Memory) -> np.ndarray:
    """Bytes as sent, shape (height, width, bytes per pixel)."""
    sent = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8)
    return sent.reshape(panel.height, panel.width, panel.pixel_bytes)


def _window(controller: Controller, was: bytes, now: bytes, columns: int, pages: int) -> Iterator[Transmission]:
    box = window_of(was, now, columns, pages)
    if box is None:
        return
    left, top, right, foot = box
    yield from before_cells(controller, box)
    rows = (now[page * columns + left : page * columns + right] for page in range(top, foot))
    yield said(controller, b"".join(rows), is_data=True)


def runs(was: Sequence[int], now: Sequence[int], gap: int) -> Iterator[tuple[int, int]]:
    """First and one past the last index of each run that differs; gaps of up to ``gap`` equal ones are included."""
    places = [place for place, (one, other) in enumerate(zip(was, now, strict=True)) if one != other]
    first = last = None
    for place in places:
        if first is None or last is None:
            first = last = place
        elif place - last > gap:
            yield first, last + 1
            first = last = place
        else:
            last = place
    if first is not None and last is not None:
        yield first, last + 1


def window_of(was: bytes, now: bytes, columns: int, pages: int) -> tuple[int, int, int, int] | None:
    """The smallest window of cells with all differences: left, top, one past the right and bottom edge; None without
    any."""
    differ = [place for place, (one, other) in enumerate(zip(was, now, strict=True)) if one != other]
    if not differ:
        return None
    across = [place % columns for place in differ]
    return min(across), differ[0] // columns, max(across) + 1, differ[-1] // columns + 1
