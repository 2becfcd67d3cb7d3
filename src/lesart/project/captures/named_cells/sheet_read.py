"""Reading spreadsheets (.xlsx, .ods and similar): the sheet with the most numbers, or the named one."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.project.captures.by_library import told_by_library
from lesart.project.captures.capture import BadRow
from lesart.project.captures.rows.rate_in_head import HeadRate, rate_in_head
from lesart.project.captures.rows.row import Row
from lesart.project.captures.rows.rows_shape import RowsShape, rows_shape
from lesart.project.captures.table import Table
from lesart.project.captures.times import text_of

LOOKED_AT = 400
_COMMA = re.compile(r"[-+−]?(?:\d{1,3}(?:\.\d{3})+|\d+),(\d+)(?:\s?[^\d.,]*)")
_POINT = re.compile(r"[-+−]?\d+\.\d+(?:\s?[^\d.,]*)")
"""A number with a comma or a point, with or without a unit."""


@dataclass(frozen=True)
class Sheet:
    """``sheets`` are all sheet names; ``shape`` is that of the first rows of this one."""

    name: str
    sheets: tuple[str, ...]
    shape: RowsShape
    table: Table
    head_rate: HeadRate | None = None
    """The sample rate stated above the rows, where no column is a time."""


def read_sheet(path: Path, sheet: str = "") -> Sheet:
    """A sheet with its header. Raises CaptureError where the file is not valid, or no row of it holds numbers."""
    told, _ = told_by_library(path, "sheet", "a spreadsheet", sheet)
    rows = [[text_of(cell) for cell in row] for row in _with_points(told["rows"])]
    width = max((_filled(row) for row in rows), default=0)
    filled = [Row(number, row[:width]) for number, row in enumerate(rows, 1) if any(cell.strip() for cell in row)]
    shape = rows_shape(filled[:LOOKED_AT], ".") if filled else None
    if shape is None:
        raise CaptureError(f"{path}: no row of its sheet {told['sheet'] or '(none)'} holds numbers.")
    body = [row for row in filled if row.number > shape.header]
    columns = {name: [row.cells[place] for row in body] for place, name in enumerate(shape.names)}
    bad: tuple[BadRow, ...] = ()
    table = Table(len(body), columns, [row.number for row in body], "row", bad, shape.units)
    above = [] if shape.time.column else [row.cells for row in filled if row.number <= shape.header]
    head_rate = rate_in_head([" ".join(filter(None, cells)) for cells in above], above)
    return Sheet(told["sheet"], tuple(told["sheets"]), shape, table, head_rate)


def _with_points(rows: list[list[Any]]) -> list[list[Any]]:
    """Numbers pasted as texts with a decimal comma, with a point instead: real numbers of the sheet have neither.

    Three places after a single comma may be thousands, and are kept.
    """
    texts = [cell.strip() for row in rows[:LOOKED_AT] for cell in row if isinstance(cell, str)]
    places = {len(found[1]) for cell in texts if (found := _COMMA.fullmatch(cell))}
    if places <= {3} or any(_POINT.fullmatch(cell) for cell in texts):
        return rows
    return [[_with_point(cell) if isinstance(cell, str) else cell for cell in row] for row in rows]


def _with_point(cell: str) -> str:
    return cell.replace(".", "").replace(",", ".") if _COMMA.fullmatch(cell.strip()) else cell


def _filled(row: list[str]) -> int:
    """Cells up to the last non-empty one."""
    return next((place for place in range(len(row), 0, -1) if row[place - 1].strip()), 0)
