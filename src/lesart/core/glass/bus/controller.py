"""The commands of a display's controller, as data: which byte does what to its memory.

A controller has a memory of cells, a position for the next byte of data, and a few settings. Its commands are described
by one row each, so that a person's own controller is a table and not a program.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from lesart.core.dataclass_later import dataclass
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
PLACES = (
    "page",
    "column",
    "column low",
    "column high",
    "columns from to",
    "pages from to",
    "column at",
    "page at",
    "address",
    "clear",
    "home",
)
"""Commands that move the position of the next byte. An address is that of a cell, counted through; with ``at`` the
position within a window is set, where that does not go to its corner by itself."""
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
WRITE, WRITE_ON, WRITE_SECOND, PIXEL_BITS = CELLS_OF_BYTES = ("write", "write on", "write second", "pixel bits")
"""After the first two, data go into the memory, from the window's corner or from where the last ones ended; after the
third into a second memory, which is that of a third ink where a panel has one; the fourth sets the bits of a cell: 5 in
its lowest three bits is two bytes, 6 is three."""
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
    Parameter("low_first", "low byte first", "flag", "of numbers in more than one byte", False),
    Parameter(
        "renew",
        "renews by",
        "text",
        "commands behind the cells that make them show, in hexadecimal: 22F7 20; empty: they show at once",
        "",
        longest=80,
    ),
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

    def value(self, byte: int, more: Sequence[int], order: Literal["little", "big"] = "big") -> int:
        """Its value: in the bytes after it, in the controller's ``order``, else in its free bits."""
        if more:
            return int.from_bytes(bytes(more), order)
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
    memories: int = 1
    """Two where the panel it drives has a third ink."""
    low_first: bool = False
    """Of numbers in more than one byte, those of windows and positions in them."""
    renew: tuple[bytes, ...] = ()
    """Commands behind the cells that make them show."""
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
            return bytes([command.code]) + value.to_bytes(command.more, self.bytes_order)
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
        return bytes([command.code]) + first.to_bytes(half, self.bytes_order) + last.to_bytes(half, self.bytes_order)

    @property
    def bytes_order(self) -> Literal["little", "big"]:
        """Of the bytes of a number."""
        return "little" if self.low_first else "big"

    def has(self, does: str) -> bool:
        """True where it has a command for this."""
        return any(command.does == does for command in self.commands)


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
        low_first=values["low_first"],
        renew=_groups(values["renew"]),
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


def _groups(written: str) -> tuple[bytes, ...]:
    """Commands in hexadecimal, apart by spaces. Raises ValueError with a clause."""
    try:
        return tuple(bytes.fromhex(each) for each in written.split())
    except ValueError:
        raise ValueError(
            f'renew = "{written}"; it is commands of two hexadecimal digits a byte, apart by spaces, like "22F7 20"'
        ) from None
