"""The commands of a display's controller, as data: which byte does what to its memory.

A controller has a memory of cells, a position for the next byte of data, and a few settings. Its commands are described
by one row each, so that a person's own controller is a table and not a program.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import singledispatch
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import BEFORE, REGISTERS, SegmentPanel
from lesart.core.parameters import Parameter, shown

BYTE_BEFORE, LINE, COMMAND_LINE, EXPANDER, FIRST, NOTHING, CHOICE, NUMBER = TOLD_BY = (
    "a byte before",
    "a line",
    "a line, first byte",
    "an expander",
    "the first byte",
    "nothing",
    "bits that choose",
    "a number",
)
"""How commands differ from data.

``the first byte`` of each transmission is a command; with ``nothing``, all are data, and each transmission begins at
the first cell; ``a number`` from 1 on is that of a cell, and a byte follows. With ``a line, first byte`` the line marks
only the command itself: its further bytes come like data.
"""
PLACES = ("page", "column", "column low", "column high", "columns from to", "pages from to", "address", "clear", "home")
"""Commands that move the position of the next byte. An address is that of a cell, counted through."""
WAYS = ("order", "goes on", "goes back", "stays")
"""Commands for how the position moves after a byte."""
SHOWS = (
    "light",
    "dark",
    "all lit",
    "as stored",
    "inverted",
    "upright",
    "shown inverted",
    "shown upright",
    "start row",
    "shift",
    "awake",
    "asleep",
    "brightness",
)
"""Commands for how the memory is shown. ``shown`` also switches the display on."""
WRITE, WRITE_ON, PIXEL_BITS = CELLS_OF_BYTES = ("write", "write on", "pixel bits")
"""After the first two, data go into the memory, from the window's corner or from where the last ones ended; the third
sets the bits of a cell: 5 in its lowest three bits is two bytes, 6 is three."""
DOES = (*PLACES, *WAYS, *SHOWS, *CELLS_OF_BYTES, "glyph address", "passed over")
BY_COLUMNS, BY_ROWS, IN_PAGE = range(3)
"""Orders: on to the next column and page; down all pages first; within the page and round again."""

CONTROLLER = (
    Parameter("told_by", "told by", "choice", "what parts commands from data", BYTE_BEFORE, choices=TOLD_BY),
    Parameter(
        "columns",
        "columns",
        "integer",
        "cells of a page of its memory; 0: the same as the panel",
        0,
        lowest=0,
        highest=512,
    ),
    Parameter("pages", "pages", "integer", "of its memory; 0: as the panel's", 0, lowest=0, highest=512),
    Parameter(
        "order",
        "order",
        "integer",
        "at first: 0 on by columns, 1 by pages, 2 round within the page",
        0,
        lowest=0,
        highest=2,
    ),
    Parameter("data_bit", "data bit", "integer", "of the byte before: 1 where data follow", 6, lowest=0, highest=7),
    Parameter(
        "single_bit",
        "single bit",
        "integer",
        "of the byte before: 1 where one byte follows, and another of its kind",
        7,
        lowest=0,
        highest=7,
    ),
    Parameter("cell_bytes", "cell bytes", "integer", "that a cell has", 1, lowest=1, highest=3),
    Parameter("lines", "expander", "text", "what its bits are, from bit 0 on", "data write enable light 4 5 6 7"),
)
COMMAND = (
    Parameter("code", "code", "text", "the byte, its free bits 0: 0xB0", longest=6),
    Parameter("bits", "free bits", "text", "of it, that carry a value: 0x07; empty: none", "", longest=6),
    Parameter("does", "does", "choice", "what it is for", choices=DOES),
    Parameter("more", "bytes more", "integer", "that belong to it", 0, lowest=0, highest=8),
)


@dataclass(frozen=True)
class Command:
    """A byte that is ``code`` in all but its free ``bits``; ``more`` bytes follow it."""

    code: int
    does: str
    bits: int = 0
    more: int = 0

    def fits(self, byte: int) -> bool:
        """True where a byte is this command."""
        return byte & ~self.bits & 0xFF == self.code

    def value(self, byte: int, more: Sequence[int]) -> int:
        """Its value: in the bytes after it, the last one lowest, else in its free bits."""
        if more:
            return int.from_bytes(bytes(more), "big")
        shift = (self.bits & -self.bits).bit_length() - 1 if self.bits else 0
        return (byte & self.bits) >> shift


@dataclass(frozen=True)
class Controller:
    """``commands`` are searched in order: those with more free bits come after more exact ones."""

    name: str
    commands: tuple[Command, ...]
    told_by: str = BYTE_BEFORE
    columns: int = 0
    pages: int = 0
    order: int = BY_COLUMNS
    data_bit: int = 6
    single_bit: int = 7
    lines: tuple[str, ...] = ("data", "write", "enable", "light", "4", "5", "6", "7")
    cell_bytes: int = 1
    chosen_by: str = ""
    """Position of the digit select bits: ``behind`` or ``before`` the segments, and their active level."""

    def find(self, byte: int) -> Command | None:
        """The command of a byte; None where there is none."""
        return next((command for command in self.commands if command.fits(byte)), None)

    def code_of(self, does: str, value: int = 0) -> bytes:
        """The bytes of a command with a value.

        Raises KeyError where there is no such command, or none with that range.
        """
        command = next((each for each in self.commands if each.does == does), None)
        if command is None:
            raise KeyError(does)
        if command.more:
            return bytes([command.code]) + value.to_bytes(command.more, "big")
        shift = (command.bits & -command.bits).bit_length() - 1 if command.bits else 0
        if value > command.bits >> shift:
            raise KeyError(f"{does} {value}")
        return bytes([command.code | value << shift & command.bits])

    def span_of(self, does: str, first: int, last: int) -> bytes:
        """The command that sets the first and the last column, or page, of a window, half of its bytes each.

        Raises KeyError.
        """
        command = next((each for each in self.commands if each.does == does), None)
        if command is None:
            raise KeyError(does)
        half = command.more // 2
        return bytes([command.code]) + first.to_bytes(half, "big") + last.to_bytes(half, "big")


def build_controller(name: str, values: Mapping[str, Any], commands: Sequence[Mapping[str, Any]]) -> Controller:
    """A controller from values by parameter name. Raises ValueError with a clause."""
    lines = tuple(values["lines"].split())
    wanted = {"data", "enable", "4", "5", "6", "7"}
    if not wanted <= set(lines) or len(lines) > BITS:
        raise ValueError(
            f"expander = {shown(values['lines'])}; it names what up to eight bits are, and must have "
            '"data", "enable", "4", "5", "6" and "7"'
        )
    found = [
        Command(_byte(each["code"], "code"), each["does"], _byte(each["bits"] or "0", "free bits"), each["more"])
        for each in commands
    ]
    for command in found:
        if command.code & command.bits:
            raise ValueError(f"code 0x{command.code:02X} has bits that are free (0x{command.bits:02X}); leave them 0")
    # The more exact ones first, in whatever order they are written.
    found.sort(key=lambda command: command.bits.bit_count())
    return Controller(
        name=name,
        commands=tuple(found),
        told_by=values["told_by"],
        columns=values["columns"],
        pages=values["pages"],
        order=values["order"],
        data_bit=values["data_bit"],
        single_bit=values["single_bit"],
        cell_bytes=values["cell_bytes"],
        lines=lines,
    )


BITS = 8


def _byte(written: str, title: str) -> int:
    try:
        found = int(written, 0)
    except ValueError:
        found = -1
    if not 0 <= found <= 0xFF:
        raise ValueError(f'{title} = "{written}"; it is a byte from 0x00 to 0xFF, like "0xB0"')
    return found


def _set(name: str, *commands: tuple[int, str, int, int], **more: Any) -> Controller:
    found = sorted((Command(*each) for each in commands), key=lambda command: command.bits.bit_count())
    return Controller(name, tuple(found), **more)


PAGES = _set(
    "pages",
    (0x00, "column low", 0x0F, 0),
    (0x10, "column high", 0x0F, 0),
    (0x20, "order", 0, 1),
    (0x21, "columns from to", 0, 2),
    (0x22, "pages from to", 0, 2),
    (0x40, "start row", 0x3F, 0),
    (0xB0, "page", 0x0F, 0),
    (0xA4, "as stored", 0, 0),
    (0xA5, "all lit", 0, 0),
    (0xA6, "upright", 0, 0),
    (0xA7, "inverted", 0, 0),
    (0xAE, "dark", 0, 0),
    (0xAF, "light", 0, 0),
    (0x2E, "passed over", 0x01, 0),
    (0xA0, "passed over", 0x01, 0),
    (0xC0, "passed over", 0x08, 0),
    (0xE3, "passed over", 0, 0),
    *((code, "passed over", 0, 1) for code in (0x81, 0x8D, 0xA8, 0xD3, 0xD5, 0xD9, 0xDA, 0xDB)),
    pages=8,
    order=IN_PAGE,
)
"""Pages of eight rows, a column set in two halves, or windows of columns and pages, on a bus with a control byte."""
BANKS = _set(
    "banks",
    (0x80, "column", 0x7F, 0),
    (0x40, "page", 0x07, 0),
    (0x20, "passed over", 0x07, 0),
    (0x08, "dark", 0, 0),
    (0x09, "all lit", 0, 0),
    (0x0C, "shown upright", 0, 0),
    (0x0D, "shown inverted", 0, 0),
    (0x00, "passed over", 0, 0),
    told_by=LINE,
)
"""Banks of eight rows, columns by number, a data/command line."""
WINDOWS = _set(
    "windows",
    (0x2A, "columns from to", 0, 4),
    (0x2B, "pages from to", 0, 4),
    (0x2C, WRITE, 0, 0),
    (0x3C, WRITE_ON, 0, 0),
    (0x3A, PIXEL_BITS, 0, 1),
    (0x13, "as stored", 0, 0),
    (0x20, "upright", 0, 0),
    (0x21, "inverted", 0, 0),
    (0x28, "dark", 0, 0),
    (0x29, "light", 0, 0),
    *((code, "passed over", 0, 0) for code in (0x00, 0x01, 0x10, 0x11, 0x12, 0x34, 0x38, 0x39)),
    *((code, "passed over", 0, 1) for code in (0x26, 0x35, 0x36, 0x51, 0x53, 0x55)),
    told_by=COMMAND_LINE,
    cell_bytes=2,
)
"""For colour panels: a window, then its pixels row by row.

Source: the open standard of commands for displays, which leaves codes from 0xB0 on to each maker.
"""
LETTERS = _set(
    "letters",
    (0x01, "clear", 0, 0),
    (0x02, "home", 0x01, 0),
    (0x06, "goes on", 0, 0),
    (0x04, "goes back", 0, 0),
    (0x0C, "light", 0x03, 0),
    (0x08, "dark", 0x03, 0),
    (0x10, "shift", 0x0F, 0),
    (0x20, "passed over", 0x1F, 0),
    (0x40, "glyph address", 0x3F, 0),
    (0x80, "address", 0x7F, 0),
    told_by=EXPANDER,
    columns=128,
    pages=1,
)
"""For character panels, as they have been for decades: cells by address."""
DIGITS = _set(
    "digits",
    (0xC0, "address", 0x0F, 0),
    (0x88, "light", 0x07, 0),
    (0x80, "dark", 0x07, 0),
    (0x40, "goes on", 0x03, 0),
    (0x44, "stays", 0x03, 0),
    told_by=FIRST,
    columns=16,
    pages=1,
)
"""For digit drivers: an address, then one byte per digit."""
ADDRESSED_DIGITS = _set(
    "addressed digits",
    (0x00, "address", 0x0F, 0),
    (0x20, "asleep", 0, 0),
    (0x21, "awake", 0, 0),
    (0x80, "dark", 0x06, 0),
    (0x81, "light", 0x06, 0),
    (0xA0, "passed over", 0x03, 0),
    (0xE0, "brightness", 0x0F, 0),
    told_by=FIRST,
    columns=16,
    pages=1,
)
"""For drivers of digits and small matrices with a two-wire address: sixteen bytes, and one-byte commands."""
CHAIN = Controller("chain", (), NOTHING, 0, 1)
"""Registers one after another: nothing but data."""
CHOSEN = Controller("chosen digits", (), CHOICE, 0, 1, chosen_by="behind low")
CHOSEN_BEFORE = Controller("chosen digits, choice first", (), CHOICE, 0, 1, chosen_by="before low")
CHOSEN_HIGH = Controller("chosen digits, by high bits", (), CHOICE, 0, 1, chosen_by="behind high")
CHOSEN_BEFORE_HIGH = Controller("chosen digits, choice first, by high bits", (), CHOICE, 0, 1, chosen_by="before high")
"""Registers that hold the segments of one digit, and bits that select it."""
NUMBERS = Controller("numbered digits", (), NUMBER, 8, 1)
"""For drivers that take a digit's number and its segments, two bytes at a time; higher numbers are settings."""
NUMBERED_ROWS = Controller("numbered rows", (), NUMBER, 0, 8)
"""For chained modules whose drivers each take a number and the eight pixels of a row or a column."""
_CHOICES = (CHOSEN, CHOSEN_BEFORE, CHOSEN_HIGH, CHOSEN_BEFORE_HIGH)
_ALL = (PAGES, BANKS, WINDOWS, LETTERS, DIGITS, ADDRESSED_DIGITS, NUMBERS, NUMBERED_ROWS, CHAIN, *_CHOICES)
CONTROLLERS = {each.name: each for each in _ALL}
"""The default for each kind of panel."""


@singledispatch
def usual_controller(panel: Panel) -> str:
    """The default controller of a panel; empty where there is none."""
    return ""


@usual_controller.register
def _(panel: PixelPanel) -> str:
    return NUMBERED_ROWS.name if panel.modules else PAGES.name


@usual_controller.register
def _(panel: ColourPanel) -> str:
    return WINDOWS.name


@usual_controller.register
def _(panel: CharacterPanel) -> str:
    return LETTERS.name


@usual_controller.register
def _(panel: SegmentPanel) -> str:
    if panel.is_shifted:
        where, level = ("before" if panel.chosen == BEFORE else "behind"), ("low" if panel.chosen_low else "high")
        return next(each.name for each in _CHOICES if each.chosen_by == f"{where} {level}")
    if panel.is_numbered:
        return NUMBERS.name
    if panel.is_addressed:
        return ADDRESSED_DIGITS.name
    return CHAIN.name if panel.drive == REGISTERS else DIGITS.name
