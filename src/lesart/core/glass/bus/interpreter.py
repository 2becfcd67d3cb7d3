"""What a controller makes of its bytes: each one put through its addressing, in order of time."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import field

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.controller import (
    BITS,
    BY_COLUMNS,
    BY_ROWS,
    BYTE_BEFORE,
    CHOICE,
    COMMAND_LINE,
    EXPANDER,
    FIRST,
    IN_PAGE,
    LINE,
    NOTHING,
    NUMBER,
    Command,
    Controller,
)
from lesart.core.glass.bus.interpreted import GLYPHS, SHOWN, Cells, Interpreted, Turn
from lesart.core.glass.bus.lamp_chain import obeyed_by_lamps
from lesart.core.glass.bus.sent_bytes import ALL_LIT, BRIGHT, DECODED, LAST_DIGIT, LIGHT
from lesart.core.glass.bus.windows import obeyed_in_windows
from lesart.core.glass.panels.segment_panel import NUMBERED_ORDER
from lesart.core.glass.panels.segment_wiring import SegmentWiring, read_order
from lesart.core.glyphs.segments import ALPHABETS
from lesart.core.ranked import distinct
from lesart.core.raw.bus_bytes import Half, Words, joined

BLANK = 0x20


@dataclass
class _Machine:
    """A controller at work."""

    controller: Controller
    columns: int
    pages: int
    fill: int
    page: int = 0
    column: int = 0
    window: list[int] = field(default_factory=list)
    order: int = BY_COLUMNS
    step: int = 1
    glyph: int | None = None
    rows: list[tuple[float, int, int, int]] = field(default_factory=list)
    turns: list[Turn] = field(default_factory=list)
    unknown: list[tuple[float, int]] = field(default_factory=list)
    beside: int = 0
    waiting: tuple[Command, int, list[int]] | None = None
    """A command whose further bytes have not all come."""

    def command(self, t: float, byte: int, part: int) -> None:
        """Handle a byte of a command."""
        if self.waiting is not None:
            command, first, more = self.waiting
            more.append(byte)
        else:
            found = self.controller.find(byte)
            if found is None:
                self.unknown.append((t, byte))
                return
            command, first, more = found, byte, []
        self.waiting = (command, first, more) if len(more) < command.more else None
        if self.waiting is None:
            self._do(t, command, command.value(first, more, self.controller.bytes_order), more, part)

    def data(self, t: float, byte: int, part: int) -> None:
        """Write a byte to the cell at the position, and move on."""
        self.waiting = None
        if self.glyph is not None:
            self.rows.append((t, GLYPHS + self.glyph, byte, part))
            self.glyph = (self.glyph + self.step) % 64
            return
        if 0 <= self.column < self.columns and 0 <= self.page < self.pages:
            self.rows.append((t, self.page * self.columns + self.column, byte, part))
        else:
            self.beside += 1
        self._go_on()

    def _go_on(self) -> None:
        left, right, top, bottom = self.window
        if self.order == BY_ROWS:
            self.page += 1
            if self.page > bottom:
                self.page = top
                self.column = left if self.column >= right else self.column + 1
            return
        self.column += self.step
        if self.order == IN_PAGE:
            self.column %= self.columns
        elif self.column > right:
            self.column = left
            self.page = top if self.page >= bottom else self.page + 1
        elif self.column < 0:
            self.column = right

    def _do(self, t: float, command: Command, value: int, more: list[int], part: int) -> None:
        does = command.does
        if does in ("page", "column", "column low", "column high", "address", "columns from to", "pages from to"):
            self._place(does, value, more)
        elif does in ("clear", "home"):
            self._from_the_start(t, part, clear=does == "clear")
        elif does == "glyph address":
            self.glyph = value
        elif does == "order":
            self.order = value & 3 if value & 3 <= IN_PAGE else self.order
        elif does in ("goes on", "goes back", "stays"):
            self.step = {"goes on": 1, "goes back": -1, "stays": 0}[does]
        elif does == "start row":
            self.turns.append(Turn(t, does, value))
        elif does == "shift":
            self._shift(t, value)
        else:
            self.turns += [Turn(t, what, to) for what, to in SHOWN.get(does, ())]

    def _place(self, does: str, value: int, more: list[int]) -> None:
        self.glyph = None
        if does == "page":
            self.page = value
        elif does == "column":
            self.column = value
        elif does == "column low":
            self.column = self.column & ~0x0F | value
        elif does == "column high":
            self.column = self.column & 0x0F | value << 4
        elif does == "address":
            self.page, self.column = divmod(value, self.columns)
        elif does == "columns from to":
            self.column, self.window[0], self.window[1] = more[0], more[0], more[1]
        else:
            self.page, self.window[2], self.window[3] = more[0], more[0], more[1]

    def _from_the_start(self, t: float, part: int, *, clear: bool) -> None:
        self.page = self.column = 0
        self.glyph = None
        if clear:
            self.step = 1
            self.rows += [(t, cell, self.fill, part) for cell in range(self.columns * self.pages)]
        self.turns.append(Turn(t, "shift", 0))

    def _shift(self, t: float, value: int) -> None:
        """The shift command. Bit 3: the display instead of the cursor; bit 2: to the right."""
        right = value >> 2 & 1
        if value >> 3:
            before = next((turn.value for turn in reversed(self.turns) if turn.what == "shift"), 0)
            self.turns.append(Turn(t, "shift", before + (-1 if right else 1)))
        else:
            self.column += 1 if right else -1


def interpret(controller: Controller, words: Words, columns: int, pages: int, *, fill: int = 0) -> Interpreted:
    """Interpret every byte in order.

    ``columns`` and ``pages`` are those of the panel, where the controller has none of its own; ``fill`` is the content
    of a cell at first, and after a clear.
    """
    if controller.columns:
        columns, pages = controller.columns, controller.pages or pages
    else:
        # A controller may have more pages than its panel; writing there is invisible, and not a mistake.
        pages = max(controller.pages, pages)
    if controller.told_by == NOTHING and controller.cell_bytes > 1:
        return obeyed_by_lamps(words, columns * pages, controller.cell_bytes)
    if controller.told_by == COMMAND_LINE or controller.cell_bytes > 1:
        return obeyed_in_windows(controller, words, columns, pages, fill)
    machine = _Machine(controller, columns, pages, fill, order=controller.order, window=[0, columns - 1, 0, pages - 1])
    if controller.told_by == CHOICE:
        _choose(machine, controller, words)
    elif controller.told_by == NUMBER and pages == 1:
        _count_off(machine, words)
    elif controller.told_by == NUMBER:
        _count_rows(machine, words)
    for t, byte, is_data, part, begins in _told(controller, words):
        if begins:
            machine.waiting = None
            if controller.told_by == NOTHING:
                machine.page = machine.column = 0
        (machine.data if is_data else machine.command)(t, byte, part)
    rows = machine.rows
    cells, values, parts = (np.array([row[place] for row in rows], np.int64) for place in (1, 2, 3))
    moments = np.array([row[0] for row in rows], np.float64)
    return Interpreted(
        columns=columns,
        pages=pages,
        t=moments,
        cell=cells,
        value=values,
        part=parts,
        turns=tuple(machine.turns),
        fill=fill,
        unknown=tuple(machine.unknown),
        beside=machine.beside,
    )


def _choose(machine: _Machine, controller: Controller, words: Words) -> None:
    """The segments of each transmission go to the digits that its bits select; other digits keep theirs, as persistence
    of vision does."""
    where, level = controller.chosen_by.split()
    size = -(-machine.pages // BITS)
    for part in distinct(words.part).tolist():
        mine = words.part == part
        data, t = words.value[mine].tolist(), float(words.t[mine][-1])
        choice, lit = (data[:size], data[size:]) if where == "before" else (data[-size:], data[:-size])
        chosen = int.from_bytes(bytes(choice), "big")
        chosen = chosen ^ ((1 << BITS * size) - 1) if level == "low" else chosen
        for place in range(machine.pages):
            if chosen >> place & 1:
                for at, byte in enumerate(lit[: machine.columns]):
                    machine.rows.append((t, place * machine.columns + at, byte, part))
                machine.beside += max(len(lit) - machine.columns, 0)


def _count_off(machine: _Machine, words: Words) -> None:
    """Two bytes at a time: the number of a digit and its segments, or of a setting and what it is set to.

    A digit that the driver works out itself gets a number of four bits, and its point in the highest one. Where the
    trace begins after the settings, bytes that are all such numbers were told to such a driver.
    """
    numbers, bytes_told = words.value[:-1], words.value[1:]
    is_pair = (np.diff(words.part) == 0) & (np.diff(words.part, prepend=-1)[:-1] != 0)
    t, part, numbers, values = words.t[1:][is_pair], words.part[1:][is_pair], numbers[is_pair], bytes_told[is_pair]
    to_digits = values[(numbers >= 1) & (numbers <= machine.columns)]
    decoded = 0 if (numbers == DECODED).any() or (to_digits & _CHIP_HIGH).any() else 0xFF
    told = zip(t.tolist(), part.tolist(), numbers.tolist(), values.tolist(), strict=True)
    for moment, of, number, value in told:
        if 1 <= number <= machine.columns:
            by_number = decoded >> number - 1 & 1
            lit = _WORKED_OUT[value & 0x0F] | value & 0x80 if by_number else value
            machine.rows.append((moment, number - 1, lit, of))
        elif number == DECODED:
            decoded = value
        elif number == LIGHT:
            machine.turns.append(Turn(moment, "light", value & 1))
        elif number not in (0, BRIGHT, LAST_DIGIT, ALL_LIT):
            machine.unknown.append((moment, number))


def _count_rows(machine: _Machine, words: Words) -> None:
    """Two bytes for each module of a chain, the first ones for the furthest: a number and its pixels, or a setting."""
    for part in distinct(words.part).tolist():
        mine = words.part == part
        data, t = words.value[mine].tolist(), float(words.t[mine][-1])
        for module, at in enumerate(range(0, len(data) - 1, 2)):
            number, value = data[at], data[at + 1]
            if 1 <= number <= machine.pages and module < machine.columns:
                machine.rows.append((t, (number - 1) * machine.columns + module, value, part))
            elif number == LIGHT and not module:
                machine.turns.append(Turn(t, "light", value & 1))
            elif number == ALL_LIT and not module:
                machine.turns.append(Turn(t, "all lit", value & 1))
            elif 1 <= number <= machine.pages:
                machine.beside += 1
            elif number not in (0, DECODED, BRIGHT, LAST_DIGIT, LIGHT, ALL_LIT):
                machine.unknown.append((t, number))


_CHIP_HIGH = 0x70
"""Bits that neither a four-bit number nor its point has."""
_ITS_ORDER = SegmentWiring("7", read_order(NUMBERED_ORDER, "7"), (0,))
_WORKED_OUT = tuple(_ITS_ORDER.bits(ALPHABETS["7"].shapes.get(letter, 0)) for letter in "0123456789-EHLP ")
"""Masks of such a driver for 0 to 9, a dash, E, H, L, P and blank, in its own bit order."""


def _told(controller: Controller, words: Words) -> Iterator[tuple[float, int, bool, int, bool]]:
    """Each byte with its time, whether it is data, its transmission, and whether it begins that."""
    if controller.told_by == EXPANDER:
        yield from _from_expander(controller, words)
        return
    if controller.told_by in (CHOICE, NUMBER):
        return
    last, place = -1, 0
    follows: bool | None = None
    data_bit, single_bit = 1 << controller.data_bit, 1 << controller.single_bit
    for t, byte, by_line, part in zip(
        words.t.tolist(), words.value.tolist(), words.is_data.tolist(), words.part.tolist(), strict=True
    ):
        begins, last = part != last, part
        place = 0 if begins else place + 1
        if controller.told_by == BYTE_BEFORE:
            if begins or follows is None:
                follows, only_one = bool(byte & data_bit), bool(byte & single_bit)
                # A new transmission begins with its control byte; a command may continue after it.
                continue
            yield t, byte, follows, part, False
            if only_one:
                follows = None
        elif controller.told_by == LINE:
            yield t, byte, by_line, part, False
        elif controller.told_by == FIRST:
            yield t, byte, place > 0, part, begins
        else:
            yield t, byte, True, part, begins


def _from_expander(controller: Controller, words: Words) -> Iterator[tuple[float, int, bool, int, bool]]:
    """Halves of a byte, taken at each falling edge of the enable line."""
    bit = {name: 1 << place for place, name in enumerate(controller.lines)}
    halves: list[Half] = []
    before = 0
    for t, byte, part in zip(words.t.tolist(), words.value.tolist(), words.part.tolist(), strict=True):
        falls = before & bit["enable"] and not byte & bit["enable"]
        if falls and not before & bit.get("write", 0):
            # The controller took the level that the lines had while enable was high.
            nibble = sum(bool(before & bit[name]) << place for place, name in enumerate(("4", "5", "6", "7")))
            halves.append((t, nibble, bool(before & bit["data"]), part))
        before = byte
    for t, byte, is_data, part in joined(halves):
        yield t, byte, is_data, part, False


__all__ = ["BLANK", "GLYPHS", "Cells", "Interpreted", "Turn", "interpret"]
