"""Reading raw binary numbers by a stated layout: type, columns, start and sample rate."""

from __future__ import annotations

import re
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.errors import CaptureError, QuantityError, RequestError
from lesart.core.quantity import counted, parse_quantity
from lesart.core.raw.source import NUMBER_TYPES, Source
from lesart.core.units import parse_unit
from lesart.project.captures.capture import BadRow
from lesart.project.captures.table import Table
from lesart.project.folder.files import read_whole

_WIDE = {"int24": ("i1", 3), "uint24": ("u1", 3)}


def read_binary(path: Path, source: Source) -> Table:
    """A column for each position in a row. Raises CaptureError where there is no whole row."""
    data = read_whole(path)[source.skip :]
    size = _size(source.numbers) * source.columns
    rows = len(data) // size
    if not rows:
        raise CaptureError(
            f"{path}: after {counted(source.skip, 'byte')} it has {len(data)}; a row of "
            f"{counted(source.columns, 'column')} as {source.numbers} needs {size}."
        )
    flat = _numbers(data[: rows * size], source.numbers, "<" if source.order == "low first" else ">")
    table = flat.reshape(rows, source.columns)
    left = len(data) - rows * size
    bad = (BadRow(rows + 1, f"{counted(left, 'byte')} are left over", noun="row"),) if left else ()
    names = ["value"] if source.columns == 1 else [f"column {place + 1}" for place in range(source.columns)]
    return Table(rows, {name: table[:, place] for place, name in enumerate(names)}, bad=bad, rate_hz=source.rate_hz)


def _size(numbers: str) -> int:
    return int(re.sub(r"\D", "", numbers)) // 8


def _numbers(data: bytes, numbers: str, order: str) -> np.ndarray[Any, np.dtype[np.float64]]:
    kind = {"i": "i", "u": "u", "f": "f"}[numbers[0]]
    size = _size(numbers)
    if size != 3:
        return np.frombuffer(data, f"{order}{kind}{size}").astype(np.float64)
    parts = np.frombuffer(data, np.uint8).reshape(-1, 3).astype(np.int32)
    parts = parts if order == "<" else parts[:, ::-1]
    value = parts[:, 0] | parts[:, 1] << 8 | parts[:, 2] << 16
    return np.where((kind == "i") & (value >= 1 << 23), value - (1 << 24), value).astype(np.float64)


def layout_of(written: str) -> Mapping[str, Any]:
    """The keys of a source for ``int16, 2 columns, 1 kHz, skip 44, high first``. Raises RequestError."""
    table: dict[str, Any] = {"format": "binary", "numbers": ""}
    for part in (each.strip() for each in written.split(",")):
        if part in NUMBER_TYPES:
            table["numbers"] = part
        elif match := re.fullmatch(r"(\d{1,3}) columns?", part):
            table["columns"] = int(match[1])
        elif match := re.fullmatch(r"skip (\d{1,9})(?: bytes?)?", part):
            table["skip"] = int(match[1])
        elif part in ("high first", "low first"):
            table["order"] = part
        else:
            try:
                rate = parse_quantity(part, parse_unit("Hz"))
                rate.to(parse_unit("Hz"))
            except (QuantityError, ValueError) as error:
                raise RequestError(_wrong(written, part)) from error
            table["rate"] = part
    if not table["numbers"]:
        raise RequestError(_wrong(written, ""))
    return table


def _wrong(written: str, part: str) -> str:
    said = f'"{part}" is not a part of it' if part else "the kind of its numbers is missing"
    return f'--layout "{written}": {said}; write it like "int16, 2 columns, 1 kHz, skip 44, high first".'
