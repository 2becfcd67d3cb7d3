"""Reading JSON: one object per line, or a document with rows in it."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

from lesart.core.errors import CaptureError
from lesart.core.raw.lines.printed import value_in
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit
from lesart.project.captures.capture import BadRow
from lesart.project.captures.named_cells.json_rows import VALUE, rows_in
from lesart.project.captures.named_cells.json_series import UNITS, VALUES
from lesart.project.captures.named_cells.json_text import said_in
from lesart.project.captures.table import Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import read_whole

DEEPEST = 20
MOST_OF_LIST = 64
"""Most numbers of a list that become columns, as the axes of a sensor do."""


def read_json_lines(path: Path) -> Table:
    """A table of every value of every object, inner ones as ``outer.inner``.

    Raises CaptureError where there is none.
    """
    text = decoded(read_whole(path))
    rows: list[dict[str, Any]] = []
    places: list[int] = []
    bad: list[BadRow] = []
    for number, line in enumerate(text.splitlines(), 1):
        line = line.strip().lstrip("\x1e")
        if line:
            row, why = _row(line)
            rows.append(row)
            places.append(number)
            if why:
                bad.append(BadRow(number, why))
    return _table(
        path, rows, places, "line", bad, 'no line is an object with a number in it, like {"t": 0.1, "mass": 42.5}'
    )


def read_json(path: Path) -> Table:
    """The table of one document. Raises CaptureError where there is none in it."""
    try:
        said = said_in(decoded(read_whole(path)))
    except (ValueError, RecursionError) as error:
        why = getattr(error, "msg", "") or "it is nested too deep"
        where = f" in line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise CaptureError(f"{path}: it is not JSON, or was cut off ({why}{where}).") from error
    rows = list(rows_in(_with_name(said.value), DEEPEST))
    flat: list[dict[str, Any]] = []
    bad: list[BadRow] = []
    for number, row in enumerate(rows, 1):
        into: dict[str, Any] = {}
        if not _flatten(row, "", into, DEEPEST):
            bad.append(BadRow(number, f"its objects are nested more than {DEEPEST} deep", noun="entry"))
        flat.append(into)
    if said.is_cut:
        bad.append(BadRow(len(rows) + 1, "the file is cut off here", noun="entry"))
    table = _table(path, flat, [], "entry", bad, "no list of objects with numbers is in it")
    beside = {name: unit for name, unit in _units_by_name(said.value, DEEPEST).items() if name in table.columns}
    return replace(table, units={**beside, **table.units}) if beside else table


def _units_by_name(found: Any, deeper: int) -> dict[str, Unit]:
    """Units from an object next to the values: ``{"units": {"temp": "°C"}, "data": …}``."""
    if not isinstance(found, Mapping) or not deeper:
        return {}
    units: dict[str, Unit] = {}
    for key, value in found.items():
        if isinstance(value, Mapping) and str(key).lower().endswith("units"):
            told = {str(name): unit_said(text) for name, text in value.items() if isinstance(text, str)}
            units |= {name: unit for name, unit in told.items() if unit is not None}
        else:
            units = {**_units_by_name(value, deeper - 1), **units}
    return units


def _with_name(found: Any) -> Any:
    """A list of nothing but numbers as a column without a name."""
    is_plain = isinstance(found, list) and all(each is None or isinstance(each, int | float) for each in found)
    return {VALUE: found} if is_plain else found


def _row(line: str) -> tuple[dict[str, Any], str]:
    try:
        found = value_in(line.rstrip(","))
    except (ValueError, RecursionError):
        return {}, "it is not JSON, or was cut off"
    if not isinstance(found, dict):
        return {}, "it is not an object of names and numbers"
    row: dict[str, Any] = {}
    if not _flatten(found, "", row, DEEPEST):
        return {}, f"its objects are nested more than {DEEPEST} deep"
    return row, ""


def _flatten(found: Mapping[str, Any], before: str, row: dict[str, Any], deeper: int) -> bool:
    """Flatten inner objects into ``row`` by ``outer.inner``, lists of numbers by ``name.1``.

    False where it is nested too deeply.
    """
    for key, value in found.items():
        if isinstance(value, Mapping):
            if not deeper or not _flatten(value, f"{before}{key}.", row, deeper - 1):
                return False
        elif isinstance(value, list):
            if 0 < len(value) <= MOST_OF_LIST and all(isinstance(each, int | float) for each in value):
                row |= {f"{before}{key}.{number}": each for number, each in enumerate(value, 1)}
        else:
            row[f"{before}{key}"] = value
    return True


def _table(
    path: Path, rows: list[dict[str, Any]], places: list[int], noun: str, bad: list[BadRow], nothing: str
) -> Table:
    names = list(dict.fromkeys(key for row in rows for key in row))
    columns: dict[str, list[Any]] = {name: [row.get(name) for row in rows] for name in names}
    if not any(isinstance(value, int | float | str) for cells in columns.values() for value in cells):
        raise CaptureError(f"{path}: {nothing}.")
    return Table(len(rows), columns, places, noun, tuple(bad), units=_units_beside(columns))


def _units_beside(columns: Mapping[str, list[Any]]) -> dict[str, Unit]:
    """Units next to their values, as in ``{"temp": {"value": 21.5, "unit": "°C"}}``, where always the same."""
    found = {}
    for name in columns:
        before, dot, last = name.rpartition(".")
        if last.lower() not in VALUES:
            continue
        beside = (columns.get(f"{before}{dot}{word}", ()) for word in UNITS)
        said = next((set(cells) - {None} for cells in beside if cells), set())
        text = said.pop() if len(said) == 1 else None
        unit = unit_said(text) if isinstance(text, str) else None
        if unit is not None:
            found[name] = unit
    return found
