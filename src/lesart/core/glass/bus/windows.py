"""What a controller makes of windows and their pixels, many thousand bytes at a time.

A colour picture has a hundred times as many bytes as two lines of text: the bytes of a window are taken all at once
here, while everything else goes command by command.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import field
from itertools import pairwise
from typing import Literal

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.controller import (
    COMMAND_LINE,
    PIXEL_BITS,
    WRITE,
    WRITE_ON,
    WRITE_SECOND,
    Command,
    Controller,
)
from lesart.core.glass.bus.interpreted import SHOWN, Cells, Interpreted, Turn
from lesart.core.glass.panels.pixel_colours import values_of
from lesart.core.raw.bus_bytes import Words

BYTES_OF_BITS = {3: 2, 5: 2, 6: 3, 7: 3}
"""Bytes per pixel by the command's value; anything but two or three bytes counts as two."""


@dataclass
class _Window:
    """The window that pixels go into."""

    columns: int
    pages: int
    """Of each of its memories."""
    memories: int = 1
    memory: int = 0
    """Which of them pixels go into."""
    left: int = 0
    right: int = 0
    top: int = 0
    foot: int = 0
    at: int = 0
    """Cells written since its corner."""
    size: int = 2
    order: Literal["little", "big"] = "big"
    """Of the bytes of a number."""
    is_placed: bool = False
    """True where commands set the position, and a write begins there and not at the corner."""
    rest: bytes = b""
    """Bytes of an incomplete pixel."""
    writes: bool = False
    waiting: tuple[Command, int] | None = None
    """A command waiting for its bytes, and how many."""
    t: list[Floats] = field(default_factory=list)
    cell: list[Cells] = field(default_factory=list)
    value: list[Cells] = field(default_factory=list)
    part: list[Cells] = field(default_factory=list)
    turns: list[Turn] = field(default_factory=list)
    unknown: list[tuple[float, int]] = field(default_factory=list)
    beside: int = 0

    @property
    def wide(self) -> int:
        """Cells of one of its rows."""
        return max(self.right - self.left + 1, 1)


def obeyed_in_windows(controller: Controller, words: Words, columns: int, pages: int, fill: int = 0) -> Interpreted:
    """Interpret every byte in order, for a controller with several bytes per cell, or with data after a write
    command."""
    order = controller.bytes_order
    placed = controller.has("column at") or controller.has("page at")
    high = pages // controller.memories
    window = _Window(
        columns,
        high,
        controller.memories,
        right=columns - 1,
        foot=high - 1,
        size=controller.cell_bytes,
        order=order,
        is_placed=placed,
    )
    # Where no command begins a write, all data are pixels.
    window.writes = not any(command.does == WRITE for command in controller.commands)
    for first, behind, is_data in runs_of(words):
        taken = first
        if not is_data:
            while taken < behind:
                taken = _command(window, controller, words, taken, behind)
            continue
        if window.waiting is not None:
            command, more = window.waiting
            taken = min(first + more, behind)
            found = words.value[first:taken].tolist()
            window.waiting = None
            if len(found) == more:
                _do(window, float(words.t[taken - 1]), command, found)
        if taken < behind and window.writes:
            _pixels(window, words, taken, behind)
    return Interpreted(
        columns=columns,
        pages=pages,
        t=_joined(window.t, np.float64),
        cell=_joined(window.cell, np.int64),
        value=_joined(window.value, np.int64),
        part=_joined(window.part, np.int64),
        turns=tuple(window.turns),
        fill=fill,
        unknown=tuple(window.unknown),
        beside=window.beside,
    )


def _joined(parts: list[npt.NDArray[np.generic]] | list[Floats] | list[Cells], kind: type) -> np.ndarray:
    return np.concatenate(parts) if parts else np.empty(0, kind)


def runs_of(words: Words) -> Iterator[tuple[int, int, bool]]:
    """First and one past the last of each run of commands or of data."""
    if not len(words):
        return
    edges = np.flatnonzero(np.diff(words.is_data.astype(np.int8))) + 1
    ends = [0, *edges.tolist(), len(words)]
    for first, behind in pairwise(ends):
        yield first, behind, bool(words.is_data[first])


def _command(window: _Window, controller: Controller, words: Words, at: int, behind: int) -> int:
    """Handle one command; gives the index of the next one."""
    byte, t = int(words.value[at]), float(words.t[at])
    found = controller.find(byte)
    window.waiting, window.rest = None, b""
    begins = any(command.does == WRITE for command in controller.commands)
    window.writes = not begins
    if found is None:
        window.unknown.append((t, byte))
        return at + 1
    if not found.more:
        _do(window, t, found, [])
        return at + 1
    if controller.told_by == COMMAND_LINE:
        window.waiting = (found, found.more)
        return at + 1
    more = words.value[at + 1 : min(at + 1 + found.more, behind)].tolist()
    if len(more) == found.more:
        _do(window, t, found, more)
    return at + 1 + found.more


def _do(window: _Window, t: float, command: Command, more: list[int]) -> None:
    does, half = command.does, len(more) // 2
    if does == "columns from to":
        window.left, window.right = (int.from_bytes(each, window.order) for each in (more[:half], more[half:]))
        window.at = 0
    elif does == "pages from to":
        window.top, window.foot = (int.from_bytes(each, window.order) for each in (more[:half], more[half:]))
        window.at = 0
    elif does == "column at":
        window.at += int.from_bytes(more, window.order) - window.left - window.at % window.wide
    elif does == "page at":
        row = int.from_bytes(more, window.order) - window.top
        window.at = row * window.wide + window.at % window.wide
    elif does in (WRITE, WRITE_ON, WRITE_SECOND):
        window.memory = int(does == WRITE_SECOND)
        window.writes = window.memory < window.memories
        window.at = 0 if does != WRITE_ON and not window.is_placed else window.at
    elif does == PIXEL_BITS:
        window.size = BYTES_OF_BITS.get(more[0] & 7, 2)
    else:
        window.turns += [Turn(t, what, to) for what, to in SHOWN.get(does, ())]


def _pixels(window: _Window, words: Words, first: int, behind: int) -> None:
    """Write pixels row by row within the window, and again from its corner."""
    data = window.rest + words.value[first:behind].tobytes()
    count = len(data) // window.size
    window.rest = data[count * window.size :]
    if not count:
        return
    values = values_of(np.frombuffer(data[: count * window.size], np.uint8).reshape(count, window.size))
    # The time of a pixel is that of its last byte.
    last = behind - 1 - len(window.rest) - window.size * np.arange(count - 1, -1, -1)
    wide, high = window.wide, max(window.foot - window.top + 1, 1)
    place = (window.at + np.arange(count)) % (wide * high)
    window.at = int((window.at + count) % (wide * high))
    column, page = window.left + place % wide, window.top + place // wide
    there = (column < window.columns) & (page < window.pages)
    window.beside += int((~there).sum())
    window.t.append(words.t[last][there])
    window.cell.append(((page + window.memory * window.pages) * window.columns + column)[there])
    window.value.append(values[there])
    window.part.append(words.part[last][there].astype(np.int64))
