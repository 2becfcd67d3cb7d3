"""Tables of any format with named columns: JSON, spreadsheets, Parquet, text logs, sentences, arrays.

Each reader makes a table of its file; finding the time, the numbers and the bad cells is the same for all, and done
here.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import field, replace
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.raw.cells import NO_VALUE, CellReader
from lesart.core.raw.moments.column import TimeColumn, find_time, says_time
from lesart.core.raw.moments.written import ISO
from lesart.core.raw.source import Source
from lesart.core.raw.spelled.unit_said import unit_among
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.captures.times import (
    TimeAxis,
    axis_of,
    below_said,
    evenly_spread,
    is_newest_first,
    moments_of,
    rows_below,
    text_of,
)
from lesart.project.captures.turns import in_turn
from lesart.project.captures.whose_rows import Names, order_of, parted

MOST_BAD = 1000
LOOKED_AT = 400
"""Rows examined to find out what a column is."""


@dataclass(frozen=True, eq=False)
class Moments:
    """Cells that are times already: ``seconds`` since 1970, or from some start; NaN where there is none."""

    seconds: Floats


Cells = Sequence[Any] | Floats | Moments
"""Numbers, times, or other values, None for an empty one."""


@dataclass(frozen=True, eq=False)
class Table:
    """``columns`` by name, all of ``rows`` cells.

    ``places`` are the lines or rows of the file, each a ``noun``; ``bad`` are those without any row, already reported.
    ``units`` by name, where the format has them.
    """

    rows: int
    columns: Mapping[str, Cells]
    places: Sequence[int] = ()
    noun: str = "row"
    bad: tuple[BadRow, ...] = ()
    units: Mapping[str, Unit] = field(default_factory=dict)
    rate_hz: float = 0.0
    """Samples per second, where the format has it; else 0."""

    def place(self, row: int) -> int:
        """The place of a row in its file, from 1."""
        return self.places[row] if self.places else row + 1


def table_time(table: Table) -> TimeColumn:
    """The time column; one that holds times before all others."""
    if table.rate_hz:
        return TimeColumn()
    moments = [name for name, cells in table.columns.items() if isinstance(cells, Moments)]
    if moments:
        return TimeColumn(min(moments, key=lambda name: not says_time(name)), ISO)
    columns = {name: sample(cells) for name, cells in table.columns.items()}
    return find_time(columns, units=table_units(table))


def sample(cells: Cells, *, moments: bool = False) -> list[str]:
    """The first cells as texts; none for a column of times, unless wanted."""
    if isinstance(cells, Moments):
        return [text_of(value) for value in cells.seconds[:LOOKED_AT].tolist()] if moments else []
    return [
        text_of(value) for value in (cells[:LOOKED_AT].tolist() if isinstance(cells, np.ndarray) else cells[:LOOKED_AT])
    ]


def table_units(table: Table) -> dict[str, Unit]:
    """Units by the format, else from the name, else after the first number."""
    found = dict(table.units)
    names = {name: name.rpartition(".")[2] for name in table.columns}
    for name, cells in table.columns.items():
        unit = found.get(name) or unit_among(names[name], names.values())
        if unit is None and not isinstance(cells, Moments | np.ndarray):
            reader = CellReader(".")
            reader.numbers(name, sample(cells)[:20])
            unit = reader.units.get(name)
        if unit is not None:
            found[name] = unit
    return found


def capture_of_table(path: Path, table: Table, source: Source) -> Capture:
    """The capture of a source from a table. Raises CaptureError where no column holds numbers."""
    reader = CellReader(source.decimal, source.thousands)
    names = Names()
    codes = np.zeros(0)
    below = rows_below(source, *_times_in(path, table, source, reader)) if source.time else 0
    if below:
        table = _in_order(table, np.arange(table.rows - below))
    newest_first = bool(source.time) and is_newest_first(source, *_times_in(path, table, source, reader))
    if newest_first:
        table = _in_order(table, np.arange(table.rows)[::-1])
    if source.whose:
        table, codes = _by_time(path, table, source, reader, names)
    keys = (source.time, source.clock, source.whose)
    values = {name: cells for name, cells in table.columns.items() if name not in keys}
    axis = _axis(path, table, source, reader, newest_first=newest_first)
    if below:
        axis = replace(axis, said=(*axis.said, below_said(below)))
    columns: dict[str, Block] = {}
    bad: dict[int, list[BadRow]] = {row.line: [row] for row in table.bad}
    told = {name: cells for name, cells in values.items() if not isinstance(cells, Moments)}
    read = {name: _numbers(name, cells, reader) for name, cells in told.items()}
    numbers = {name: x for name, x in read.items() if np.isfinite(x).any()}
    if source.time and not source.whose:
        axis = evenly_spread(axis, list(numbers.values()))
    for name, x in numbers.items():
        cells = told[name]
        columns[name] = _block(axis.t, x)
        for row in np.flatnonzero(np.isnan(x))[:MOST_BAD].tolist():
            why = _why(name, cells[row])
            if why:
                bad.setdefault(table.place(row), []).append(BadRow(table.place(row), why, name, noun=table.noun))
    if not columns:
        known = ", ".join(visible(name) for name in table.columns) or "none"
        raise CaptureError(f"{path}: no column holds numbers; its columns are {known[:200]}.")
    rows = [each for place in sorted(bad) for each in bad[place]]
    bad_rows = tuple(rows[:MOST_BAD])
    capture = Capture(
        path.name, axis.t, columns, bad_rows, len(bad), axis.steps_back, said=axis.said, clock_s=axis.clock_s
    )
    if not source.whose:
        return in_turn(capture)
    sensors = {table.place(row): text_of(value) for row, value in enumerate(_listed(table.columns[source.whose]))}
    return parted(capture, source.whose, codes, names, sensors)


def _by_time(path: Path, table: Table, source: Source, reader: CellReader, names: Names) -> tuple[Table, Floats]:
    """The table with its rows in the order of their times, where one sensor's come after the other's, and a code for
    the sensor of each row."""
    if source.whose not in table.columns:
        raise CaptureError(_no_column(path, table, source, "whose", source.whose))
    codes = names.codes(source.whose, map(text_of, _listed(table.columns[source.whose])))
    times = _times(path, table, source, "time", source.time, reader) if source.time else np.zeros(0)
    order = order_of(times, codes) if source.time else None
    if order is None:
        return table, codes
    return _in_order(table, order), codes[order]


def _in_order(table: Table, order: npt.NDArray[np.intp]) -> Table:
    columns = {name: _taken(cells, order) for name, cells in table.columns.items()}
    places = [table.place(row) for row in order.tolist()]
    return replace(table, rows=len(order), columns=columns, places=places)


def _listed(cells: Cells) -> list[Any]:
    return list(cells.seconds if isinstance(cells, Moments) else cells)


def _taken(cells: Cells, order: npt.NDArray[np.intp]) -> Cells:
    if isinstance(cells, Moments):
        return Moments(cells.seconds[order])
    return cells[order] if isinstance(cells, np.ndarray) else [cells[row] for row in order.tolist()]


def _no_column(path: Path, table: Table, source: Source, key: str, name: str) -> str:
    known = ", ".join(visible(each) for each in table.columns)
    return f'sources.{source.name}.{key} = "{name}"; the columns of {path.name} are {known}.'


def _numbers(name: str, cells: Sequence[Any] | Floats, reader: CellReader) -> Floats:
    if isinstance(cells, np.ndarray):
        return cells.astype(np.float64)
    reader.look(name, [cell for cell in cells if isinstance(cell, str)])
    return np.array([_number(name, value, reader) for value in cells], np.float64)


def _number(name: str, value: Any, reader: CellReader) -> float:
    if isinstance(value, str):
        return reader.number(name, value)
    if value is None:
        return math.nan
    try:
        return float(value)
    except OverflowError:
        return math.inf
    except (TypeError, ValueError):
        return math.nan


def _why(name: str, value: Any) -> str:
    """Why a cell is not a number; empty where it means a missing one."""
    text = text_of(value).strip()
    if not text or text.lower() in NO_VALUE:
        return ""
    return f'{name} is "{visible(text)[:30]}", not a number'


def _block(t: Floats, x: Floats) -> Block:
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))
    return Block(t, np.where(np.isfinite(x), x, np.nan), np.where(np.isinf(x), np.uint8(Mark.RANGE), mark))


def _axis(path: Path, table: Table, source: Source, reader: CellReader, *, newest_first: bool) -> TimeAxis:
    if not source.time:
        rate_hz = table.rate_hz or source.rate_hz
        return TimeAxis(np.arange(table.rows) / rate_hz, 0)
    times, clocks = _times_in(path, table, source, reader)
    found = axis_of(source, times, clocks, newest_first=newest_first)
    if found is None:
        raise CaptureError(f'{path}: nothing in "{visible(source.time)}" is a time, read as {source.time_unit}.')
    return found


def _times_in(path: Path, table: Table, source: Source, reader: CellReader) -> tuple[Floats, Floats | None]:
    """Times and clocks of the rows. Raises CaptureError for missing columns."""
    clocks = _times(path, table, source, "clock", source.clock, reader) if source.clock else None
    return _times(path, table, source, "time", source.time, reader), clocks


def _times(path: Path, table: Table, source: Source, key: str, name: str, reader: CellReader) -> Floats:
    if name not in table.columns:
        raise CaptureError(_no_column(path, table, source, key, name))
    cells = table.columns[name]
    if isinstance(cells, Moments):
        return cells.seconds
    if isinstance(cells, np.ndarray):
        return cells.astype(np.float64)
    return moments_of(source, name, [text_of(value) for value in cells], lambda cell: reader.number(name, cell))
