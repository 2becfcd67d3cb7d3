"""The controllers that are known: the usual ones of each kind of panel, and which one a panel has by default."""

from __future__ import annotations

from functools import singledispatch
from typing import Any

from lesart.core.glass.bus.controller import (
    CHOICE,
    COMMAND_LINE,
    EXPANDER,
    FIRST,
    IN_PAGE,
    LINE,
    NOTHING,
    NUMBER,
    PIXEL_BITS,
    WRITE,
    WRITE_ON,
    WRITE_SECOND,
    Command,
    Controller,
)
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import BEFORE, REGISTERS, SegmentPanel


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
PAPER = _set(
    "paper",
    (0x44, "columns from to", 0, 2),
    (0x45, "pages from to", 0, 4),
    (0x4E, "column at", 0, 1),
    (0x4F, "page at", 0, 2),
    (0x24, WRITE, 0, 0),
    (0x26, WRITE_SECOND, 0, 0),
    (0x10, "asleep", 0, 1),
    *((code, "passed over", 0, 0) for code in (0x12, 0x20, 0x32, 0x37, 0x3F)),
    *((code, "passed over", 0, 1) for code in (0x03, 0x11, 0x18, 0x22, 0x2C, 0x3A, 0x3B, 0x3C)),
    *((code, "passed over", 0, 2) for code in (0x1A, 0x21)),
    *((code, "passed over", 0, 3) for code in (0x01, 0x04)),
    (0x0C, "passed over", 0, 4),
    told_by=COMMAND_LINE,
    low_first=True,
    renew=(b"\x22\xf7", b"\x20"),
)
"""For paper-like panels of up to 400 columns: a window in bytes and rows, the position in it, the pixels, and then the
change, whose kind and whose start are two commands. Its second memory is that of a third ink, or of the picture before.
Source: data sheets of such controllers."""
MOST_PAPER_COLUMNS = 400
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
"""Registers or lamps one after another: nothing but data."""
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
_ALL = (PAGES, BANKS, WINDOWS, PAPER, LETTERS, DIGITS, ADDRESSED_DIGITS, NUMBERS, NUMBERED_ROWS, CHAIN, *_CHOICES)
CONTROLLERS = {each.name: each for each in _ALL}
"""The default for each kind of panel."""


@singledispatch
def usual_controller(panel: Panel) -> str:
    """The default controller of a panel; empty where there is none."""
    return ""


@usual_controller.register
def _(panel: PixelPanel) -> str:
    if panel.is_paper:
        return _of_paper(panel)
    return NUMBERED_ROWS.name if panel.modules else PAGES.name


def _of_paper(panel: PixelPanel) -> str:
    return PAPER.name if panel.width <= MOST_PAPER_COLUMNS else ""


@usual_controller.register
def _(panel: ColourPanel) -> str:
    return WINDOWS.name


@usual_controller.register
def _(panel: InkPanel) -> str:
    return _of_paper(panel)


@usual_controller.register
def _(panel: LampPanel) -> str:
    return CHAIN.name


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
