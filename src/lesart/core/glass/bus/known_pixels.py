"""Recognises pixel panels from their bytes, and their size."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from lesart.core.glass.bus.controller import BYTE_BEFORE, LINE, Controller
from lesart.core.glass.bus.controllers import BANKS, PAGES
from lesart.core.glass.bus.interpreter import interpret
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words

WIDEST, MOST_PAGES = 160, 16
"""Size of the memory kept while the controller's own is unknown."""
USUAL_WIDTHS = (48, 64, 72, 84, 96, 102, 128, 132, 160)


def pixels(
    controller: Controller, words: Words, trace: Mapping[str, Any], bus: str, sure: float
) -> Iterator[KnownDisplay]:
    """Pixel displays that the bytes may be meant for, interpreted with more columns than any controller has."""
    obeyed = interpret(controller, words, WIDEST, MOST_PAGES)
    written = len(obeyed)
    commands = max(_commands(controller, words), 1)
    if written < 16:
        return
    unknown = len(obeyed.unknown) / commands
    places = obeyed.cell
    columns, pages = places % obeyed.columns, places // obeyed.columns
    low, high = _common(columns)
    rows = _height(controller, words, int(pages.max()) + 1)
    if rows == 48 and high >= 127:
        # All columns of the controller are written, but only the middle ones with content: a small panel shows those.
        lit = columns[obeyed.value != 0]
        low, high = (32, 95) if len(lit) and lit.min() >= 32 and lit.max() <= 95 else (low, high)
    width, offset, beyond = _width(low, high, int(columns.max()))
    if controller is BANKS or controller.name == BANKS.name:
        width, rows = (84, 48) if high < 84 and rows <= 48 else (width, rows)
    told = {"controller": controller.name} if controller.name != PAGES.name else {}
    panel: dict[str, Any] = {"kind": "pixels", "width": width, "height": rows}
    panel |= {"offset": offset} if offset else {}
    panel |= {"beyond": beyond} if beyond else {}
    panel |= {"bus": bus} if bus != "two-wire" else {}
    fits = sure * (1.0 - min(1.0, 3 * unknown)) * (1.0 - obeyed.beside / max(written + obeyed.beside, 1))
    why = (
        f"{written} bytes go into cells of {width}×{rows} pixels, and {len(obeyed.unknown)} of "
        f"{counted(commands, 'command byte')} are not commands of it"
    )
    yield KnownDisplay(panel, {**trace, **told}, min(0.99, fits), why)


def _commands(controller: Controller, words: Words) -> int:
    """Rough number of bytes that are commands."""
    if controller.told_by == LINE:
        return int((~words.is_data).sum())
    if controller.told_by == BYTE_BEFORE:
        first = np.unique(words.part, return_index=True)[1]
        sizes = np.diff(np.append(first, len(words)))
        follows = words.value[first] & 0x40
        return int(sizes[follows == 0].sum())
    return len(words)


def _common(columns: np.ndarray) -> tuple[int, int]:
    """The first and the last column that are written about as often as the others."""
    counts = np.bincount(columns, minlength=WIDEST)
    often = np.flatnonzero(counts >= max(1, counts.max() // 20))
    return int(often[0]), int(often[-1])


def _width(low: int, high: int, last: int) -> tuple[int, int, int]:
    """Width, and the columns left and right of the glass.

    A few columns on either side belong to the controller alone.
    """
    span = high - low + 1
    for width in USUAL_WIDTHS:
        if low > 0 and span == width:
            return width, low, low if low <= 4 or low == 32 else 0
    if low == 0 and span == 132:
        return 128, 2, 2
    return next((width for width in USUAL_WIDTHS if width >= high + 1), -(-(high + 1) // 8) * 8), 0, 0


def _height(controller: Controller, words: Words, pages: int) -> int:
    """Height by the command that sets the driven rows, else by the pages written."""
    if controller.name == PAGES.name:
        commands = _command_bytes(controller, words)
        for place, byte in enumerate(commands[:-1]):
            if byte == 0xA8 and 15 <= commands[place + 1] <= 63:
                return int(commands[place + 1]) + 1
    return next((rows for rows in (8, 16, 32, 48, 64) if rows >= 8 * pages), 8 * pages)


def _command_bytes(controller: Controller, words: Words) -> list[int]:
    if controller.told_by == LINE:
        return [int(each) for each in words.value[~words.is_data][:400]]
    found: list[int] = []
    for part in range(min(int(words.part[-1]) + 1, 400)):
        data = words.value[words.part == part].tolist()
        if data and not data[0] & 0x40:
            found += data[1:]
    return found
