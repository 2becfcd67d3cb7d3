"""Reading JSON: an object a line, or one document with a list of objects, a list of rows, or lists by name."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import Any

from lesart.core.errors import CaptureError
from lesart.project.captures.capture import BadRow
from lesart.project.captures.table import Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import read_whole

DEEPEST = 20
MOST_OF_LIST = 64
"""Numbers of a list that become columns of their own, as the axes of a sensor do."""
KEY = "key"
"""What the names of objects become where each is a row: moments, as often as not."""


def read_json_lines(path: Path) -> Table:
    """Every value of every object, inner ones as ``outer.inner``. Raises CaptureError where there is none."""
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
        found = json.loads(decoded(read_whole(path)))
    except (ValueError, RecursionError) as error:
        said = getattr(error, "msg", "") or "it is nested too deep"
        where = f" in line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise CaptureError(f"{path}: it is not JSON, or was cut off ({said}{where}).") from error
    rows = list(_rows_in(found, DEEPEST))
    flat: list[dict[str, Any]] = []
    bad: list[BadRow] = []
    for number, row in enumerate(rows, 1):
        into: dict[str, Any] = {}
        if not _flatten(row, "", into, DEEPEST):
            bad.append(BadRow(number, f"its objects are nested more than {DEEPEST} deep", noun="entry"))
        flat.append(into)
    return _table(path, flat, [], "entry", bad, "no list of objects with numbers is in it")


def _rows_in(found: Any, deeper: int) -> Iterable[Mapping[str, Any]]:
    """The longest list of objects, of rows, or of numbers by name; objects by name are rows too."""
    if isinstance(found, list):
        if found and all(isinstance(each, Mapping) for each in found):
            return found
        if found and all(isinstance(each, list) for each in found):
            return _of_rows(found)
        inner = [list(_rows_in(each, deeper - 1)) for each in found] if deeper else []
        return max(inner, key=len, default=[])
    if not isinstance(found, Mapping):
        return []
    if (split := _split(found)) is not None:
        return split
    if (by_name := _by_name_and_place(found)) is not None:
        return by_name
    if columns := _columns(found):
        length = max(map(len, columns.values()))
        return [
            {name: cells[place] for name, cells in columns.items() if place < len(cells)} for place in range(length)
        ]
    inner = (
        [list(_rows_in(each, deeper - 1)) for each in found.values() if isinstance(each, list | Mapping)]
        if deeper
        else []
    )
    best = max(inner, key=len, default=[])
    values = [each for each in found.values() if isinstance(each, Mapping)]
    if len(values) > max(len(best), 1) and len(values) == len(found):
        return [{KEY: name, **each} for name, each in found.items()]
    return best or ([found] if any(isinstance(each, int | float) for each in found.values()) else [])


def _split(found: Mapping[str, Any]) -> list[Mapping[str, Any]] | None:
    """Names, places and rows in three lists, as table libraries write them; None for anything else."""
    names, rows, places = found.get("columns"), found.get("data"), found.get("index", [])
    if not isinstance(names, list) or not isinstance(rows, list) or not all(isinstance(row, list) for row in rows):
        return None
    places = places if isinstance(places, list) and len(places) == len(rows) else []
    told = [dict(zip(map(str, names), row, strict=False)) for row in rows]
    return [{KEY: place, **row} for place, row in zip(places, told, strict=True)] if places else list(told)


def _by_name_and_place(found: Mapping[str, Any]) -> list[Mapping[str, Any]] | None:
    """Columns of values by the place of their row, all with the same places; None for anything else."""
    columns = list(found.values())
    if not columns or not all(isinstance(each, Mapping) and each for each in columns):
        return None
    places = list(columns[0])
    plain = all(not isinstance(value, list | Mapping) for each in columns for value in each.values())
    if not plain or len(places) <= len(columns) or any(list(each) != places for each in columns):
        return None
    return [{KEY: place, **{name: cells[place] for name, cells in found.items()}} for place in places]


def _columns(found: Mapping[str, Any]) -> dict[str, list[Any]]:
    """Lists of plain values by name, of the length that most of them have."""
    lists = {
        name: cells
        for name, cells in found.items()
        if isinstance(cells, list) and cells and not any(isinstance(cell, list | Mapping) for cell in cells)
    }
    lengths = [len(cells) for cells in lists.values()]
    if not lengths:
        return {}
    usual = max(set(lengths), key=lambda each: (lengths.count(each), each))
    return {name: cells for name, cells in lists.items() if len(cells) == usual} if usual > 1 else {}


def _of_rows(found: Sequence[Sequence[Any]]) -> Iterable[Mapping[str, Any]]:
    """Rows of values; the first one may name them."""
    named = bool(found[0]) and all(isinstance(cell, str) for cell in found[0])
    width = max(map(len, found))
    names = list(map(str, found[0])) if named else [f"column {number}" for number in range(1, width + 1)]
    return [dict(zip(names, row, strict=False)) for row in found[named:]]


def _row(line: str) -> tuple[dict[str, Any], str]:
    try:
        found = json.loads(line.rstrip(","))
    except (ValueError, RecursionError):
        return {}, "it is not JSON, or was cut off"
    if not isinstance(found, dict):
        return {}, "it is not an object of names and numbers"
    row: dict[str, Any] = {}
    if not _flatten(found, "", row, DEEPEST):
        return {}, f"its objects are nested more than {DEEPEST} deep"
    return row, ""


def _flatten(found: Mapping[str, Any], before: str, row: dict[str, Any], deeper: int) -> bool:
    """Inner objects into ``row`` by ``outer.inner``, lists of numbers by ``name.1``. Was it no deeper than may be?"""
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
    return Table(len(rows), columns, places, noun, tuple(bad))
