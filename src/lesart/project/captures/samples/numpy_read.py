"""Reading arrays of numpy: ``.npy`` with one, ``.npz`` with several by name. No code in them is run."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.errors import CaptureError
from lesart.core.quantity import counted
from lesart.project.captures.table import Cells, Moments, Table
from lesart.project.folder.files import MOST_BYTES, library, read_whole

MOST_COLUMNS = 256
TIME = "time"
"""Name of a nameless array of times."""


def read_numpy(path: Path) -> Table:
    """Columns of the arrays, without those of an unusual length. Raises CaptureError."""
    data = read_whole(path)
    with library(str(path), "arrays"):
        _refuse_bombs(path, data)
        loaded = np.load(io.BytesIO(data), allow_pickle=False)
        arrays = {"": loaded} if isinstance(loaded, np.ndarray) else {name: loaded[name] for name in loaded.files}
    columns: dict[str, Cells] = {}
    rate_hz = 0.0
    for name, array in arrays.items():
        if array.ndim == 0 and name.lower() in ("fs", "rate", "sample_rate", "rate_hz", "samplerate", "sr", "fs_hz"):
            rate_hz = float(array) if np.isfinite(float(array)) and float(array) > 0 else 0.0
        columns |= _columns(path, name, array)
    lengths = [_length(cells) for cells in columns.values()]
    if not lengths or max(lengths) == 0:
        said = ", ".join(f"{name or 'array'} {array.dtype} {array.shape}" for name, array in arrays.items())
        raise CaptureError(f"{path}: no array of numbers with rows is in it; it has {said or 'none'}.")
    usual = max(set(lengths), key=lambda each: (lengths.count(each), each))
    kept = {name: cells for name, cells in columns.items() if _length(cells) == usual}
    return Table(usual, kept, rate_hz=rate_hz)


def _refuse_bombs(path: Path, data: bytes) -> None:
    """Refuse packed files that would exceed memory."""
    if data[:2] == b"PK":
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(entry.file_size for entry in packed.infolist()) > MOST_BYTES:
                raise CaptureError(f"{path}: unpacked it has more than 2 GB, which is all that is read.")


def _length(cells: Cells) -> int:
    return len(cells.seconds) if isinstance(cells, Moments) else len(cells)


def _columns(path: Path, name: str, array: np.ndarray[Any, Any]) -> dict[str, Cells]:
    """Columns named by record fields, by column number, or by the array."""
    if array.dtype.names:
        flat = array.reshape(-1)
        return {key: cells for field in array.dtype.names for key, cells in _columns(path, field, flat[field]).items()}
    if array.dtype.kind == "M":
        seconds = array.reshape(-1).astype("datetime64[ns]").astype(np.int64) * 1e-9
        return {name or TIME: Moments(np.where(np.isnat(array.reshape(-1)), np.nan, seconds))}
    if array.dtype.kind == "m":
        return {name or TIME: array.reshape(-1).astype("timedelta64[ns]").astype(np.float64) * 1e-9}
    if array.dtype.kind in "US":
        return {name or "column 1": [str(each) for each in array.reshape(-1).tolist()]}
    if array.dtype.kind not in "biuf" or array.ndim not in (1, 2):
        return {}
    if array.ndim == 1:
        return {name or "column 1": array.astype(np.float64)}
    # There are many rows and few columns, in whichever orientation.
    table = array if array.shape[0] >= array.shape[1] else array.T
    if table.shape[1] > MOST_COLUMNS:
        raise CaptureError(
            f"{path}: {name or 'its array'} has {counted(table.shape[1], 'column')}; at most {MOST_COLUMNS} are read."
        )
    called = f"{name} " if name else "column "
    return {f"{called}{place + 1}": table[:, place].astype(np.float64) for place in range(table.shape[1])}
