"""The table of a source as far as a file says by itself: its format by its ending, its times by their names."""

from __future__ import annotations

import json
from datetime import datetime
from pathlib import Path
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.raw.decode import KINDS
from lesart.project.captures.csv_shape import find_shape
from lesart.project.captures.recording import FIRST_LINE
from lesart.project.folder.files import open_file
from lesart.project.tables.sources import line_parameters

FORMATS = {
    ".csv": "csv",
    ".tsv": "csv",
    ".txt": "csv",
    ".jsonl": "json lines",
    ".ndjson": "json lines",
    ".wav": "wav",
    ".parquet": "parquet",
    ".vcd": "vcd",
    ".hex": "hex",
}
FIRST_FIELD = {"name": "value", "first_bit": 0, "bits": 16}
"""Where frames are, a value to start from."""
TIMES = {
    "t": "s",
    "t_s": "s",
    "s": "s",
    "time": "s",
    "time_s": "s",
    "seconds": "s",
    "ms": "ms",
    "t_ms": "ms",
    "time_ms": "ms",
    "millis": "ms",
    "us": "µs",
    "t_us": "µs",
    "time_us": "µs",
    "timestamp": "s",
    "at": "s",
}
"""Names that mean a time, and the unit that each most likely has."""
LOOKED_AT, HEAD_BYTES = 20, 1 << 20


def format_of(path: Path) -> str:
    """By the ending; a file of another ending is taken for a file of numbers, whose reader says if it is none."""
    return FORMATS.get(path.suffix.lower(), "csv")


def is_recording(path: Path) -> bool:
    """Did Lesart itself write it down? Raises CaptureError where it cannot be read."""
    with open_file(path) as file:
        return file.read(len(FIRST_LINE)) == FIRST_LINE.encode()


def source_table(path: Path, written: str, decoder: str = "") -> dict[str, Any]:
    """The table, ``capture`` as ``written``. Raises CaptureError where the file cannot be read, RequestError for a
    decoder that there is not."""
    format_ = format_of(path)
    if decoder and format_ != "vcd":
        raise RequestError(f'"{written}" is not a trace of edges, so nothing is decoded in it as {decoder}.')
    if format_ == "csv" and is_recording(path):
        return {"capture": written, "format": "recording"}
    if format_ == "csv":
        shape = find_shape(path)
        return {
            "capture": written,
            "delimiter": shape.delimiter,
            "decimal": shape.decimal,
            "header": shape.header,
            "time": shape.time,
            "time_unit": shape.time_unit,
        }
    table: dict[str, Any] = {"capture": written, "format": format_}
    if format_ == "json lines":
        return table | _json_time(path)
    if format_ == "vcd" and decoder:
        return table | _decoder(path, decoder)
    if format_ == "hex":
        table["fields"] = [FIRST_FIELD]
    return table


def _decoder(path: Path, decoder: str) -> dict[str, Any]:
    """The signals in the order of the file, unless they are named as what the decoder needs."""
    if decoder not in KINDS:
        raise RequestError(f'"{decoder}" is not a decoder; there are {", ".join(KINDS)}.')
    from lesart.project.captures.vcd_read import read_vcd

    kind, names = KINDS[decoder], list(read_vcd(path).lines)
    roles = [parameter.name for parameter in line_parameters(kind)]
    by_name = {role: role for role in roles if role in names}
    lines = by_name if len(by_name) >= kind.needed else dict(zip(roles[: kind.needed], names, strict=False))
    return {"decode": {"kind": decoder, **lines}, "fields": [] if kind.gives_values else [FIRST_FIELD]}


def _json_time(path: Path) -> dict[str, Any]:
    """A time column by its name in the first lines, its unit by what it holds."""
    with open_file(path) as file:
        head = file.read(HEAD_BYTES).decode("utf-8", "replace").splitlines()[:LOOKED_AT]
    for line in head:
        try:
            found = json.loads(line)
        except (ValueError, RecursionError):
            continue
        for name, value in found.items() if isinstance(found, dict) else ():
            unit = TIMES.get(name.lower())
            if unit is not None and _is_moment(value):
                return {"time": name, "time_unit": "ISO 8601"}
            if unit is not None and isinstance(value, int | float):
                # Seconds since 1970 have ten digits; what has thirteen are milliseconds.
                return {"time": name, "time_unit": "ms" if unit == "s" and value > 1e11 else unit}
    return {}


def _is_moment(value: object) -> bool:
    try:
        datetime.fromisoformat(str(value))
    except ValueError:
        return False
    return isinstance(value, str)
