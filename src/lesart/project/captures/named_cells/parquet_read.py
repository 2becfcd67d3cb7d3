"""Reading Parquet: columns of numbers, of times and of texts."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np

from lesart.core.errors import CaptureError
from lesart.core.units import parse_unit
from lesart.project.captures.by_library import told_by_library
from lesart.project.captures.library_child import MOMENTS, NUMBERS, TEXTS
from lesart.project.captures.table import Cells, Moments, Table


def read_parquet(path: Path) -> Table:
    """A table of every column that can be a number or a time.

    Raises CaptureError where the file is not valid, or has none.
    """
    told, data = told_by_library(path, "parquet", "Parquet")
    kinds, rows = told["kinds"], told["rows"]
    flat = [name for name, kind in kinds.items() if kind != TEXTS]
    try:
        numbers = np.frombuffer(data[: 8 * rows * len(flat)], np.float64).reshape(len(flat), rows)
        texts = json.loads(data[8 * rows * len(flat) :])
    except ValueError as error:
        raise CaptureError(f"{path}: it cannot be read as Parquet; its reader broke down over it.") from error
    if not rows or not kinds:
        raise CaptureError(f"{path}: no column holds numbers; it has {', '.join(told['columns']) or 'no column'}.")
    found = dict(zip(flat, numbers, strict=True))
    columns: dict[str, Cells] = {}
    for name, kind in kinds.items():
        columns[name] = texts[name] if kind == TEXTS else Moments(found[name]) if kind == MOMENTS else found[name]
    lasting = {name: parse_unit("s") for name in told["lasts"]}
    return Table(rows, columns, noun="row", units=lasting)


__all__ = ["MOMENTS", "NUMBERS", "read_parquet"]
