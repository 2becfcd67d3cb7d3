"""Reading a file of numbers. A bad row is counted, marked and named by its line; it is never dropped silently."""

from __future__ import annotations

import csv
import math
from collections.abc import Iterator, Sequence
from dataclasses import field, replace
from operator import itemgetter
from pathlib import Path

import numpy as np
import numpy.typing as npt

from lesart.core.block import MARK_WORDS, Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.quantity import counted, whole_number
from lesart.core.raw.cells import CellReader, base_written
from lesart.core.raw.moments.read import UNIT_S
from lesart.core.raw.source import Source
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.captures.progress import tell
from lesart.project.captures.rows.csv_large import Table, is_large, large_tables, size_of
from lesart.project.captures.rows.csv_shape import DELIMITERS, comment_cells, split_row
from lesart.project.captures.rows.first_table import first_table
from lesart.project.captures.rows.head_rows import column_names, grouped
from lesart.project.captures.rows.own_units import in_one_unit
from lesart.project.captures.text import comment_signs, is_comment, lines_of, sample_text, text_lines, without_sign
from lesart.project.captures.times import (
    FURTHEST_S,
    TimeAxis,
    axis_of,
    below_said,
    evenly_spread,
    is_newest_first,
    moments_of,
    rows_below,
)
from lesart.project.captures.turns import empty_cell, in_turn
from lesart.project.captures.whose_rows import Names, order_of, parted

ROWS_AT_ONCE = 2048
"""Rows read in one go where all are good; few enough that a bad one does not slow many."""
MORE = 2
"""Factor for more rows, since those of a large file may be shorter further on."""
LOOKED_AT = 200
"""Lines in which the first row is looked for."""
FEW_ROWS = 64
"""Rows that are read cell by cell where one of them is bad."""
BAD_KEPT = 1000
_FIRST = itemgetter(0)
_NAN_BITS = int(np.array(np.nan).view(np.uint64))
_MARKED = {
    word: float(np.array(_NAN_BITS | int(mark), np.uint64).view(np.float64)) for mark, word in MARK_WORDS.items()
}
"""NaNs with a mark in their payload, which IEEE 754 leaves free: so a table of floats alone tells what a cell held."""


@dataclass
class _Tally:
    """Bad cells and torn rows so far; for each column only the first ones are kept in detail.

    ``reader`` knows the first units of columns, ``unit`` that of the first row where a column states units, ``names``
    the sensors of rows, ``of_line`` those of bad rows.
    """

    reader: CellReader
    names: Names = field(default_factory=Names)
    unit: Unit | None = None
    of_line: dict[int, str] = field(default_factory=dict)
    bad: dict[str | None, list[BadRow]] = field(default_factory=dict)
    said: tuple[str, ...] = ()
    """Sentences on what was left out."""

    def add(self, line: int, why: str, column: str | None) -> None:
        kept = self.bad.setdefault(column, [])
        if len(kept) < BAD_KEPT:
            kept.append(BadRow(line, why, column))

    def forget_last(self, count: int) -> None:
        """Drop what was recorded for the last bad lines."""
        lines = sorted({row.line for rows in self.bad.values() for row in rows})[-count:]
        for column, rows in self.bad.items():
            self.bad[column] = [row for row in rows if row.line not in lines]

    def rows(self, columns: set[str]) -> tuple[BadRow, ...]:
        """Bad rows of the given columns and torn ones, in the order of the file."""
        found = [row for column, rows in self.bad.items() if column is None or column in columns for row in rows]
        return tuple(sorted(found, key=lambda row: (row.line, row.column or "")))


def read_csv(path: Path, source: Source) -> Capture:
    """The capture of a source. Raises CaptureError where there is no row of numbers in it."""
    head = sample_text(path)
    try:
        tally = _Tally(CellReader(source.decimal, source.thousands, _bases(head, source)))
        if is_large(path, source) and not (source.whose or source.units_in or tally.reader.bases):
            names, source, filled = _large(path, head, source, tally)
        else:
            lines = text_lines(path, whole_only=source.format == "recording")
            names = _names(lines, source)
            source = _with_time_named(source, names)
            lines, tally.said = first_table(lines, names, source)
            filled = _Filled(len(names), len(lines))
            for batch in _batches(lines, source):
                filled.add(list(_numbers(batch, names, source, tally)))
                tell(path.name, batch.numbers[len(batch.lines) - 1], len(lines))
    except csv.Error as error:
        raise CaptureError(f"{path}: it cannot be read as rows of cells ({error}).") from error
    if not filled.rows:
        raise CaptureError(
            f"{path}: no row follows {counted(source.header, 'header line')}; set sources.{source.name}.header."
        )
    table = filled.table[:, : filled.rows]
    below = rows_below(source, *_times_in(table, names, source)) if source.time in names else 0
    if below:
        table = table[:, :-below]
        tally.forget_last(below)
    # One check of all cells: most files are intact, and then nothing else needs checking.
    is_whole = bool(np.isfinite(table).all())
    if not is_whole and not np.isfinite(table).any():
        raise CaptureError(
            f'{path}: no cell is a number with "{source.delimiter}" between cells and "{source.decimal}" as decimal '
            f"sign; set sources.{source.name}.delimiter and .decimal."
        )
    back_to_front = is_newest_first(source, *_times_in(table, names, source)) if source.time in names else False
    if back_to_front:
        table = np.ascontiguousarray(table[:, ::-1])
    if source.whose:
        table = _by_time(path, table, names, source)
    axis = _time_axis(path, table, names, source, newest_first=back_to_front)
    axis = replace(axis, said=(*axis.said, *tally.said, *((below_said(below),) if below else ())))
    keys = (source.time, source.clock, source.whose)
    values = {name: number for number, name in enumerate(names) if name not in keys}
    if source.time and not source.whose and source.format != "recording":
        axis = evenly_spread(axis, [table[number] for number in values.values()])
    t, back = axis.t, axis.steps_back
    if is_whole:
        marks = np.zeros(len(t), np.uint8)
        whole = {name: Block(t, table[number], marks) for name, number in values.items()}
        capture = Capture(path.name, t, whole, (), 0, back, said=axis.said, clock_s=axis.clock_s)
        return _parted(capture, table, names, source, tally)
    columns = {name: _column(t, table[number]) for name, number in values.items()}
    numeric = np.asarray(np.isfinite(table).any(axis=1))
    bad_rows = np.isnan(table[numeric]).any(axis=0)
    known = {name for name, numbers in zip(names, numeric, strict=True) if numbers}
    count = int(np.count_nonzero(bad_rows))
    capture = Capture(path.name, t, columns, tally.rows(known), count, back, said=axis.said, clock_s=axis.clock_s)
    return _parted(capture, table, names, source, tally)


def _times_in(table: npt.NDArray[np.float64], names: Sequence[str], source: Source) -> tuple[Floats, Floats | None]:
    """Times and clocks of the rows, from existing columns."""
    clocks = table[names.index(source.clock)] if source.clock in names else None
    return table[names.index(source.time)], clocks


def _by_time(path: Path, table: npt.NDArray[np.float64], names: Sequence[str], source: Source) -> Floats:
    """The table with its rows in the order of their times, where one sensor's come after the other's."""
    if source.whose not in names:
        raise CaptureError(
            f'sources.{source.name}.whose = "{source.whose}"; the columns of {path.name} are {", ".join(names)}.'
        )
    if source.time not in names:
        return table
    order = order_of(table[names.index(source.time)], table[names.index(source.whose)])
    return table if order is None else table[:, order]


def _parted(
    capture: Capture, table: npt.NDArray[np.float64], names: Sequence[str], source: Source, tally: _Tally
) -> Capture:
    """A column per sensor, where a column names them; or columns that take turns on their own rows."""
    if not source.whose:
        return capture if source.format == "recording" else in_turn(capture)
    return parted(capture, source.whose, table[names.index(source.whose)], tally.names, tally.of_line)


class _Filled:
    """A table of shape (columns, rows) filled part by part, each cell copied once.

    ``guess`` is its number of rows; too many cost nothing, since untouched memory is not used.
    """

    def __init__(self, columns: int, guess: int) -> None:
        self.table = np.empty((columns, max(guess, 1)))
        self.rows = 0

    def add(self, part: Table) -> None:
        """Append rows."""
        count = len(part[0])
        if self.rows + count > self.table.shape[1]:
            larger = np.empty((self.table.shape[0], 2 * (self.rows + count)))
            larger[:, : self.rows] = self.table[:, : self.rows]
            self.table = larger
        for place, column in enumerate(part):
            self.table[place, self.rows : self.rows + count] = column
        self.rows += count


def _large(path: Path, head: str, source: Source, tally: _Tally) -> tuple[tuple[str, ...], Source, _Filled]:
    """Names, the source with its time column named, and the tables of a large file."""
    names = _names(lines_of(head), source)
    source = _with_time_named(source, names)

    def slow(batch: list[tuple[int, str]]) -> Table:
        told = _Batch([number for number, _ in batch], [line for _, line in batch])
        return list(_one_by_one(told, names, source, tally))

    lines = lines_of(head)
    guess = MORE * size_of(path) * len(lines) // max(len(head), 1)
    filled = _Filled(len(names), guess)
    for part in large_tables(path, names, source, slow):
        filled.add(part)
    return names, source, filled


def _bases(head: str, source: Source) -> dict[str, int]:
    """Bases by column, for those written in another base without a prefix."""
    lines = lines_of(head)
    names = _names(lines, source)
    cells_of = _cells(lines[source.header : source.header + LOOKED_AT], DELIMITERS[source.delimiter])
    rows = [row for row in cells_of if len(row) == len(names)]
    found = {name: base_written(cells) for name, cells in zip(names, zip(*rows, strict=False), strict=False)}
    return {name: base for name, base in found.items() if base and name not in (source.time, source.clock)}


def _names(lines: list[str], source: Source) -> tuple[str, ...]:
    """Names in the header's last line, or in the stated one, for as many cells as the first row has."""
    sign = DELIMITERS[source.delimiter]
    signs = comment_signs(source.delimiter)
    below = [
        each
        for each in lines[source.header : source.header + LOOKED_AT]
        if each.strip() and not is_comment(each, signs)
    ]
    first = next(iter(_cells(below[:1], sign)), [])
    number = source.names_line or source.header
    line = lines[number - 1] if 0 < number <= len(lines) else ""
    if is_comment(line, signs):
        said = comment_cells(without_sign(line), source.delimiter) if source.names_line else []
        return column_names(said, len(first), body=[split_row(each, sign) for each in below])
    names = next(iter(_cells([line], sign)), [])
    if 0 < source.groups_line <= len(lines):
        names = grouped(names, next(iter(_cells([lines[source.groups_line - 1]], sign)), []))
    return column_names(names, len(first) or len(names), body=[split_row(each, sign) for each in below])


def _with_time_named(source: Source, names: tuple[str, ...]) -> Source:
    """The source with a time column given by number, from 1, replaced by its name."""
    place = whole_number(source.time)
    if source.time in names or place is None or not 1 <= place <= len(names):
        return source
    return replace(source, time=names[place - 1])


def _cells(lines: list[str], sign: str) -> Iterator[list[str]]:
    if sign == " ":
        return (split_row(line, sign) for line in lines if line.strip())
    return csv.reader(lines, delimiter=sign, skipinitialspace=any(f'{sign} "' in line for line in lines[:1]))


@dataclass(frozen=True)
class _Batch:
    """Lines of the file with their numbers, without blank ones and comments."""

    numbers: Sequence[int]
    lines: list[str]

    def __getitem__(self, where: slice) -> _Batch:
        return _Batch(self.numbers[where], self.lines[where])


def _batches(lines: list[str], source: Source) -> Iterator[_Batch]:
    """Batches of non-empty lines."""
    signs = comment_signs(source.delimiter)
    for start in range(source.header, len(lines), ROWS_AT_ONCE):
        batch = _Batch(range(start + 1, start + 1 + ROWS_AT_ONCE), lines[start : start + ROWS_AT_ONCE])
        kept = batch if _is_dense(batch.lines, signs) else without_blanks(batch, signs)
        if kept.lines:
            yield kept


def _is_dense(lines: list[str], signs: tuple[str, ...]) -> bool:
    """True where no line begins with a blank or a comment sign. Nearly always, and then none is examined singly."""
    firsts = {sign[0] for sign in signs}
    return "" not in lines and not any(first in firsts or first.isspace() for first in set(map(_FIRST, lines)))


def without_blanks(batch: _Batch, signs: tuple[str, ...]) -> _Batch:
    """The batch without blank lines and comments."""
    told = zip(batch.numbers, batch.lines, strict=False)
    kept = [(number, line) for number, line in told if line.strip() and not is_comment(line, signs)]
    return _Batch([number for number, _ in kept], [line for _, line in kept])


def _numbers(batch: _Batch, names: tuple[str, ...], source: Source, tally: _Tally) -> npt.NDArray[np.float64]:
    """Numbers of shape (columns, rows); NaN where a cell is not a number, which is tallied."""
    is_plain = not tally.reader.bases and _may_be_good(source)
    table = _all_good(batch.lines, len(names), source) if is_plain else None
    if table is not None:
        return table
    count = len(batch.lines)
    if count <= FEW_ROWS or not is_plain:
        return _one_by_one(batch, names, source, tally)
    # A bad cell only slows the rows around it.
    halves = (batch[: count // 2], batch[count // 2 :])
    return np.concatenate([_numbers(half, names, source, tally) for half in halves], axis=1)


def _may_be_good(source: Source) -> bool:
    """True where a number of this source can be read in one way only."""
    return (
        source.decimal != ","
        and source.time_unit in UNIT_S
        and source.thousands == "none"
        and not (source.clock or source.whose or source.units_in)
    )


def _all_good(lines: list[str], width: int, source: Source) -> npt.NDArray[np.float64] | None:
    """The batch in one go, four times faster; None where any cell is not a number, or might be read differently."""
    sign = None if source.delimiter == "space" else DELIMITERS[source.delimiter]
    try:
        table = np.loadtxt(lines, delimiter=sign, comments=None, ndmin=2).T
    except ValueError:
        return None
    return table if table.shape == (width, len(lines)) and np.isfinite(table).all() else None


def _one_by_one(batch: _Batch, names: tuple[str, ...], source: Source, tally: _Tally) -> npt.NDArray[np.float64]:
    """The batch cell by cell, every bad one tallied."""
    width = len(names)
    rows = list(_cells_of_each(batch.lines, DELIMITERS[source.delimiter]))
    whole = [row if len(row) == width else None for row in rows]
    ragged = np.array([kept is None for kept in whole])
    for index in np.flatnonzero(ragged).tolist():
        tally.add(batch.numbers[index], f"{counted(len(rows[index]), 'cell')} where {width} belong", None)
    empty = [""] * width
    table = np.empty((width, len(rows)))
    for column, name in enumerate(names):
        cells = [(kept or empty)[column] for kept in whole]
        if name in (source.time, source.clock):
            # A torn row still has its time.
            cells = [row[column] if column < len(row) else "" for row in rows]
            table[column] = moments_of(source, name, cells, lambda cell: tally.reader.number(source.time, cell))
        elif name == source.whose:
            table[column] = tally.names.codes(name, cells)
        else:
            table[column] = _floats(name, cells, tally.reader)
        for index in np.flatnonzero(np.isnan(table[column]) & ~ragged).tolist():
            tally.add(batch.numbers[index], _why(name, cells[index]), name)
    if source.units_in in names[1:]:
        place = names.index(source.units_in)
        told = [(row or empty)[place] for row in whole]
        table[place - 1], tally.unit = in_one_unit(table[place - 1], told, tally.unit)
    if source.whose:
        whose = names.index(source.whose) if source.whose in names else 0
        torn = np.flatnonzero(np.isnan(table).any(axis=0)).tolist()
        tally.of_line.update((batch.numbers[row], (whole[row] or empty)[whose]) for row in torn)
    return table


def _cells_of_each(lines: list[str], sign: str) -> Iterator[list[str]]:
    """The cells of each line; a quote that would span lines ends with its line, so that line numbers stay right."""
    rows = list(_cells(lines, sign))
    if len(rows) == len(lines):
        return iter(rows)
    return (next(iter(_cells([line], sign)), []) for line in lines)


def _why(name: str, cell: str) -> str:
    if not cell.strip():
        return empty_cell(name)
    if cell.strip() in _MARKED:
        return f"{name} is marked {cell.strip()}"
    text = visible(cell)[:30]
    return f'{name} is "{text}", not a number'


def _floats(name: str, cells: list[str], reader: CellReader) -> Floats:
    """Floats all at once; one by one only where that fails."""
    try:
        if name in reader.bases or any("_" in cell for cell in cells):
            raise ValueError  # Python reads 1_000 as a thousand, and nobody else does
        if reader.decimal == "," and reader.thousands == "none":
            return np.array(list(map(float, [cell.replace(",", ".") for cell in cells])))
        if reader.thousands == "none":
            return np.array(list(map(float, cells)))
    except ValueError:
        pass
    return np.array(
        [
            _MARKED.get(cell.strip(), math.nan) if math.isnan(value) else value
            for cell, value in zip(cells, reader.numbers(name, cells), strict=True)
        ]
    )


def _time_axis(
    path: Path, table: npt.NDArray[np.float64], names: tuple[str, ...], source: Source, *, newest_first: bool
) -> TimeAxis:
    """Seconds from the first row, and how many rows came with a time before an earlier one.

    The axis never runs back: such a row, and one without a time, gets the latest time so far.
    """
    rows = table.shape[1]
    if not source.time:
        return TimeAxis(np.arange(rows) / source.rate_hz, 0)
    for key, name in (("time", source.time), ("clock", source.clock)):
        if name and name not in names:
            raise CaptureError(
                f'sources.{source.name}.{key} = "{name}"; the columns of {path.name} are {", ".join(names)}.'
            )
    t, clocks = _times_in(table, names, source)
    rises = bool(rows and np.isfinite(t[0]) and (t[1:] >= t[:-1]).all() and t[-1] - t[0] <= FURTHEST_S)
    if rises and source.time_unit == "s" and not newest_first:
        # As nearly every clock runs; a time that is none would fail this too.
        # A recording's seconds count from the moment in its head, as they did when they came.
        if source.format != "recording" and t[0]:
            t -= t[0]
        return TimeAxis(t, 0)
    start = 0.0 if source.format == "recording" else None
    found = axis_of(source, t, clocks, start, newest_first=newest_first)
    if found is None:
        raise CaptureError(f'{path}: no cell of the time column "{source.time}" is a time, read as {source.time_unit}.')
    return found


def _column(t: Floats, x: Floats) -> Block:
    carried = (x.view(np.uint64) & 0xFF).astype(np.uint8)
    mark = np.where(np.isnan(x), np.where(carried == 0, np.uint8(Mark.MISSING), carried), np.uint8(0))
    mark[np.isinf(x)] |= np.uint8(Mark.RANGE)
    return Block(t, np.where(np.isfinite(x), x, np.nan), mark)
