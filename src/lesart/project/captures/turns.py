"""Columns that take turns: each has cells in rows where the other has none.

A program that sends temperature and humidity in separate lines leaves every second cell of either empty. Nothing is
missing there: each column is read on its own rows, at its own rate. Where a sensor fails and an error code is in
another column, the two take turns too, but not evenly, and missing values stay reported.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from lesart.core.block import Block, Floats
from lesart.core.visible import visible
from lesart.project.captures.capture import Capture

MOST_FILLED = 0.75
"""Greatest share of rows filled by a column that takes turns."""
FEWEST = 5
TOGETHER = 0.02
"""Share of the rows of one in which the other may have a cell too, as where both are written at the start."""
EVEN, ABOUT = 0.9, 0.5
"""Share of the steps from cell to cell of a column that are near the usual one, and how near."""
MOST_COLUMNS = 64

Rows = npt.NDArray[np.bool_]


def in_turn(capture: Capture) -> Capture:
    """The capture with such columns on their own rows, and a sentence on it."""
    owned = own_rows(capture.t, {name: block.x for name, block in capture.columns.items()})
    if not owned:
        return capture
    columns = {name: _on(block, owned.get(name)) for name, block in capture.columns.items()}
    bad_rows = np.zeros(len(capture.t), bool)
    for name, block in capture.columns.items():
        if np.isfinite(block.x).any():
            bad_rows |= np.isnan(block.x) & owned.get(name, np.True_)
    names = " and ".join(f'"{visible(name)}"' for name in list(owned)[:2])
    more = f" and {len(owned) - 2} more" if len(owned) > 2 else ""
    said = f"{names}{more} are written in turn; each is read from its own rows"
    kept = tuple(row for row in capture.bad if not (row.column in owned and row.why == empty_cell(row.column)))
    return replace(capture, columns=columns, bad=kept, bad_count=int(bad_rows.sum()), said=(*capture.said, said))


def empty_cell(column: str) -> str:
    """The reason of a bad row for an empty cell."""
    return f"{column} is empty"


def _on(block: Block, rows: Rows | None) -> Block:
    return block if rows is None else Block(block.t[rows], block.x[rows], block.mark[rows])


def own_rows(t: Floats, columns: Mapping[str, Floats]) -> dict[str, Rows]:
    """The rows of each column that takes turns with another: all but the other's. Empty for none."""
    filled = {name: ~np.isnan(x) for name, x in columns.items()}
    sparse = {
        name: rows
        for name, rows in filled.items()
        if FEWEST <= rows.sum() <= MOST_FILLED * len(rows) and _is_even(t[rows])
    }
    if not 2 <= len(sparse) <= MOST_COLUMNS:
        return {}
    found: dict[str, Rows] = {}
    for name, own in sparse.items():
        others = [rows for other, rows in sparse.items() if other != name and _take_turns(own, rows)]
        if others:
            found[name] = own | ~np.logical_or.reduce(others)
    return found


def _take_turns(one: Rows, other: Rows) -> bool:
    return bool((one & other).sum() <= TOGETHER * min(one.sum(), other.sum()))


def _is_even(t: Floats) -> bool:
    """True where times have about equal steps."""
    steps = np.diff(t)
    usual = float(np.median(steps))
    return usual > 0 and float(np.mean(np.abs(steps - usual) <= ABOUT * usual)) >= EVEN
