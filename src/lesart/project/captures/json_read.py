"""Reading JSON Lines: an object a line, its numbers by name. A line that is none is counted and named."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.captures.times import time_axis
from lesart.project.folder.files import read_whole

MOST_BAD = 1000
DEEPEST = 20
_SECONDS = {"s": 1.0, "ms": 1e-3, "µs": 1e-6}


def read_jsonl(path: Path, source: Source) -> Capture:
    """Every number of every object, inner ones as ``outer.inner``. Raises CaptureError where there is none."""
    text = read_whole(path).decode("utf-8", "replace")
    rows: list[dict[str, Any]] = []
    bad: list[BadRow] = []
    for number, line in enumerate(text.splitlines(), 1):
        if line.strip():
            row, why = _row(line)
            rows.append(row)
            if why:
                bad.append(BadRow(number, why))
    names = [name for name in dict.fromkeys(key for row in rows for key in row) if name != source.time]
    if not names:
        raise CaptureError(f'{path}: no line is an object with a number in it, like {{"t": 0.1, "mass": 42.5}}.')
    t, back = _times(path, rows, source)
    columns = {name: _column(t, [row.get(name) for row in rows]) for name in names}
    columns = {name: block for name, block in columns.items() if block.usable.any()}
    return Capture(path.name, t, columns, tuple(bad[:MOST_BAD]), len(bad), back)


def _row(line: str) -> tuple[dict[str, Any], str]:
    try:
        found = json.loads(line)
    except (ValueError, RecursionError):
        return {}, "it is not JSON, or was cut off"
    if not isinstance(found, dict):
        return {}, "it is not an object of names and numbers"
    row: dict[str, Any] = {}
    if not _flatten(found, "", row, DEEPEST):
        return {}, f"its objects are nested more than {DEEPEST} deep"
    return row, ""


def _flatten(found: dict[str, Any], before: str, row: dict[str, Any], deeper: int) -> bool:
    """Inner objects into ``row`` by ``outer.inner``. Was it no deeper than it may be?"""
    for key, value in found.items():
        if not isinstance(value, dict):
            row[f"{before}{key}"] = value
        elif not deeper or not _flatten(value, f"{before}{key}.", row, deeper - 1):
            return False
    return True


def _number(value: Any) -> float:
    """Numbers only: a text or true is none."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        return float("nan")
    try:
        return float(value)
    except OverflowError:
        return float("inf")


def _column(t: Floats, values: list[Any]) -> Block:
    x = np.array([_number(value) for value in values], np.float64)
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))
    return Block(t, x, np.where(np.isinf(x), np.uint8(Mark.RANGE), mark))


def _times(path: Path, rows: list[dict[str, Any]], source: Source) -> tuple[Floats, int]:
    """Seconds from the first line on; a line without a time has the latest so far, and so has one that runs back."""
    if not source.time:
        return np.arange(len(rows)) / source.rate_hz, 0
    if source.time_unit == "ISO 8601":
        found = np.array([_moment(row.get(source.time)) for row in rows], np.float64)
    else:
        found = np.array([_number(row.get(source.time)) for row in rows], np.float64) * _SECONDS[source.time_unit]
    axis = time_axis(found)
    if axis is None:
        raise CaptureError(f'{path}: no line has a time in {source.time_unit} under "{source.time}".')
    return axis


def _moment(written: Any) -> float:
    try:
        moment = datetime.fromisoformat(str(written))
    except ValueError:
        return float("nan")
    return (moment if moment.tzinfo is not None else moment.replace(tzinfo=UTC)).timestamp()
