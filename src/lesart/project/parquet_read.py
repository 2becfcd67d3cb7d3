"""Reading Parquet: columns of numbers, a column of times or a rate."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.capture import Capture

if TYPE_CHECKING:
    import polars

_SECONDS = {"s": 1.0, "ms": 1e-3, "µs": 1e-6}


def read_parquet(path: Path, source: Source) -> Capture:
    """Every column that holds numbers. Raises CaptureError where the file is none, or has none."""
    import polars  # a fifth of a second

    if not path.exists():
        raise CaptureError(f"{path}: it is not there.")
    try:
        frame = polars.read_parquet(path)
    except (polars.exceptions.PolarsError, OSError) as error:
        reason = " ".join(str(error).split())[:120].rstrip(".")
        raise CaptureError(f"{path}: it cannot be read as Parquet ({reason}).") from error
    numeric = [name for name, kind in frame.schema.items() if kind.is_numeric() and name != source.time]
    if not numeric or not frame.height:
        raise CaptureError(f"{path}: no column holds numbers; it has {', '.join(frame.columns) or 'no column'}.")
    t, back = _times(path, frame, source)
    columns = {name: _column(t, _floats(frame[name])) for name in numeric}
    return Capture(path.name, t, columns, (), 0, back)


def _floats(series: polars.Series) -> Floats:
    """As float64; what is not there is NaN."""
    import polars

    values: Floats = series.cast(polars.Float64).fill_null(float("nan")).to_numpy()
    return values


def _column(t: Floats, x: Floats) -> Block:
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))
    return Block(t, np.where(np.isfinite(x), x, np.nan), np.where(np.isinf(x), np.uint8(Mark.RANGE), mark))


def _times(path: Path, frame: polars.DataFrame, source: Source) -> tuple[Floats, int]:
    """Seconds from the first row; one without a time, or that runs back, has the latest so far."""
    import polars

    if not source.time:
        return np.arange(frame.height) / source.rate_hz, 0
    if source.time not in frame.columns:
        known = ", ".join(frame.columns)
        raise CaptureError(f'sources.{source.name}.time = "{source.time}"; the columns of {path.name} are {known}.')
    series = frame[source.time]
    if series.dtype.is_temporal():
        found = _floats(series.cast(polars.Datetime("ns")).dt.timestamp("ns")) * 1e-9
    elif series.dtype.is_numeric():
        found = _floats(series) * _SECONDS.get(source.time_unit, 1.0)
    else:
        raise CaptureError(f'{path}: the column "{source.time}" holds neither numbers nor moments.')
    known_there = np.isfinite(found)
    if not known_there.any():
        raise CaptureError(f'{path}: no cell of "{source.time}" is a time.')
    t = np.where(known_there, found - found[known_there][0], -np.inf)
    latest = np.maximum(np.maximum.accumulate(t), 0.0)
    return latest, int(np.count_nonzero(known_there & (t < latest)))
