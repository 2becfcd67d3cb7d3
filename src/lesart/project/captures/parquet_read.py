"""Reading Parquet: columns of numbers, a column of times or a rate."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.captures.capture import Capture
from lesart.project.captures.parquet_child import MOMENTS, NUMBERS
from lesart.project.captures.times import time_axis
from lesart.project.folder.files import open_file

_SECONDS = {"s": 1.0, "ms": 1e-3, "µs": 1e-6}


@dataclass(frozen=True, eq=False)
class _Table:
    """``columns`` are all names of the file, ``kinds`` and ``values`` those that hold numbers or moments."""

    rows: int
    columns: list[str]
    kinds: dict[str, str]
    values: dict[str, Floats]


def read_parquet(path: Path, source: Source) -> Capture:
    """Every column that holds numbers. Raises CaptureError where the file is none, or has none."""
    open_file(path).close()
    table = _table(path)
    numeric = [name for name, kind in table.kinds.items() if kind == NUMBERS and name != source.time]
    if not numeric or not table.rows:
        raise CaptureError(f"{path}: no column holds numbers; it has {', '.join(table.columns) or 'no column'}.")
    t, back = _times(path, table, source)
    columns = {name: _column(t, table.values[name]) for name in numeric}
    return Capture(path.name, t, columns, (), 0, back)


def _table(path: Path) -> _Table:
    """What the library makes of the file, in a process of its own. Raises CaptureError."""
    command = [sys.executable, "-P", "-m", "lesart.project.captures.parquet_child", str(path.absolute())]
    environment = {**os.environ, "RUST_BACKTRACE": "0"}
    done = subprocess.run(command, stdin=subprocess.DEVNULL, capture_output=True, check=False, env=environment)
    line, _, data = done.stdout.partition(b"\n")
    try:
        told: dict[str, Any] = json.loads(line)
        if "trouble" in told:
            raise CaptureError(f"{path}: it cannot be read as Parquet ({told['trouble'].rstrip('.')}).")
        flat = np.frombuffer(data, np.float64).reshape(len(told["kinds"]), told["rows"])
    except (ValueError, KeyError) as error:
        raise CaptureError(f"{path}: it cannot be read as Parquet; its reader broke down over it.") from error
    return _Table(told["rows"], told["columns"], told["kinds"], dict(zip(told["kinds"], flat, strict=True)))


def _column(t: Floats, x: Floats) -> Block:
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))
    return Block(t, np.where(np.isfinite(x), x, np.nan), np.where(np.isinf(x), np.uint8(Mark.RANGE), mark))


def _times(path: Path, table: _Table, source: Source) -> tuple[Floats, int]:
    """Seconds from the first row; one without a time, or that runs back, has the latest so far."""
    if not source.time:
        return np.arange(table.rows) / source.rate_hz, 0
    if source.time not in table.columns:
        known = ", ".join(table.columns)
        raise CaptureError(f'sources.{source.name}.time = "{source.time}"; the columns of {path.name} are {known}.')
    if source.time not in table.kinds:
        raise CaptureError(f'{path}: the column "{source.time}" holds neither numbers nor moments.')
    is_moments = table.kinds[source.time] == MOMENTS
    found = time_axis(table.values[source.time] * (1.0 if is_moments else _SECONDS.get(source.time_unit, 1.0)))
    if found is None:
        raise CaptureError(f'{path}: no cell of "{source.time}" is a time.')
    return found
