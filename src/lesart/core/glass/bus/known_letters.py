"""Recognises character panels from their bytes, with columns and rows as firmware places its lines."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from lesart.core.block import Bools
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.interpreter import BLANK, Cells, interpret
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words

STRANGE = 0.85
SHAPES = ((16, 1), (16, 2), (20, 2), (16, 4), (20, 4), (40, 2))
"""Columns and rows of character panels, the smallest first."""
SECOND_LINE = 0x40
"""Memory address of the second line, however much of it the panel shows."""

Run = tuple[int, int]
"""First and last cell of a run written in sequence, without trailing blanks."""


def letters_shown(controller: Controller, words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Character displays that the bytes may be meant for: their cells must hold readable text."""
    obeyed = interpret(controller, words, controller.columns, controller.pages, fill=BLANK)
    own = obeyed.cell < obeyed.columns * obeyed.pages
    cells, values = obeyed.cell[own], obeyed.value[own]
    # A clear writes blanks into all cells, which say nothing.
    real = values != BLANK
    if real.sum() < 3:
        return
    printable = float(
        np.mean((values[real] < 0x7F) & (values[real] > 0x20) | (values[real] < 8) | (values[real] == 0xDF))
    )
    letters = float(np.mean((values[real] > 0x20) & (values[real] < 0x7F)))
    strange = len(obeyed.unknown) + obeyed.beside
    _, place, times = np.unique(obeyed.t[own], return_inverse=True, return_counts=True)
    columns, rows = shape_of(set(cells[real].tolist()), _runs(cells, real, times[place] == 1))
    # Firmware never sends an unknown command; one such byte may be noise, several mean another order of lines.
    fits = printable * (0.5 + 0.5 * letters) * STRANGE ** min(strange, 40)
    panel = {"kind": "characters", "columns": columns, "rows": rows}
    cells_said = counted(int(real.sum()), "cell")
    why = f"{round(100 * letters)} % of {cells_said} written are letters, in {columns}×{rows} places"
    yield KnownDisplay(panel, dict(trace), min(0.99, fits), why)


def _runs(cells: Cells, real: Bools, alone: Bools) -> list[Run]:
    """Runs of cells in the order they were written.

    ``alone`` excludes cells written at the same time, as a clear does.
    """
    places = np.flatnonzero(alone)
    cells, real = cells[places], real[places]
    borders = np.flatnonzero((np.diff(cells) != 1) | (np.diff(places) != 1)) + 1
    found: list[Run] = []
    for run, is_letter in zip(np.split(cells, borders), np.split(real, borders), strict=True):
        if is_letter.any():
            found.append((int(run[0]), int(run[np.flatnonzero(is_letter)[-1]])))
    return found


def shape_of(lettered: set[int], runs: list[Run]) -> tuple[int, int]:
    """Columns and rows of the likeliest panel on which all these cells are seen: the one whose lines most runs keep to,
    then the one at whose lines most of them begin, then the smallest.

    A line of four begins where the one two above it ends in the controller's memory, so where a program puts its third
    line says how wide the panel is, however short its texts are.
    """
    best, score = (20, 4), (-1, -1)
    for columns, rows in SHAPES:
        starts = _starts(columns, rows)
        if not lettered <= {start + place for start in starts for place in range(columns)}:
            continue
        kept = sum(_keeps_to(run, starts, columns) for run in runs)
        begun = sum(first in starts for first, _ in runs)
        if (kept, begun) > score:
            best, score = (columns, rows), (kept, begun)
    return best


def _starts(columns: int, rows: int) -> tuple[int, ...]:
    return (0, SECOND_LINE, columns, SECOND_LINE + columns)[:rows]


def _keeps_to(run: Run, starts: tuple[int, ...], columns: int) -> bool:
    """True where a run ends in the line that it begins in. A memory sent as a whole begins and ends with lines."""
    first, last = run
    whole = first in starts and any(last == start + columns - 1 for start in starts)
    return whole or any(start <= first and last < start + columns for start in starts)
