"""Reads files that need a library, in a process of its own: a damaged file can crash it, past every exception.

``python -m lesart.project.captures.library_child KIND FILE [SHEET]`` writes a line of JSON with the layout, then the
numbers as float64, column by column, then the texts as JSON. Dates and times are seconds since 1970.
"""

from __future__ import annotations

import datetime
import json
import sys
from collections.abc import Callable
from typing import Any, BinaryIO

NUMBERS, MOMENTS, TEXTS = "numbers", "moments", "texts"
MOST_CELLS = 20_000_000
MOST_UNPACKED = 1_000_000_000
"""Most unpacked bytes of a spreadsheet."""


def read_parquet(path: str, out: BinaryIO, _: str) -> None:
    """Columns of numbers, of dates and times, of texts."""
    import polars

    frame = polars.read_parquet(path, glob=False)
    kinds = {}
    for name, of in frame.schema.items():
        if of.is_numeric() or of in (polars.Boolean, polars.Duration):
            kinds[name] = NUMBERS
        elif of in (polars.Date, polars.Datetime, polars.Time):
            kinds[name] = MOMENTS
        elif of in (polars.String, polars.Categorical, polars.Enum):
            kinds[name] = TEXTS
    lasts = [name for name, of in frame.schema.items() if of == polars.Duration]
    told = {"rows": frame.height, "columns": frame.columns, "kinds": kinds, "lasts": lasts}
    out.write(json.dumps(told).encode() + b"\n")
    for name, kind in kinds.items():
        series = frame[name]
        if kind == TEXTS:
            continue
        if series.dtype == polars.Time:
            series = series.cast(polars.Int64).cast(polars.Float64) * 1e-9
        elif kind == MOMENTS:
            series = series.cast(polars.Datetime("ns")).dt.timestamp("ns").cast(polars.Float64) * 1e-9
        elif series.dtype == polars.Duration:
            series = series.dt.total_nanoseconds().cast(polars.Float64) * 1e-9
        out.write(series.cast(polars.Float64).fill_null(float("nan")).to_numpy().tobytes())
    texts = {name: frame[name].cast(polars.String).to_list() for name, kind in kinds.items() if kind == TEXTS}
    out.write(json.dumps(texts).encode())


def read_sheet(path: str, out: BinaryIO, sheet: str) -> None:
    """Rows of cells: numbers, texts, booleans; dates and times in ISO 8601, and times of day as ``h:m:s``."""
    import zipfile

    from python_calamine import CalamineWorkbook, SheetVisibleEnum

    if zipfile.is_zipfile(path):
        with zipfile.ZipFile(path) as packed:
            size = sum(entry.file_size for entry in packed.infolist())
        if size > MOST_UNPACKED:
            raise ValueError(f"it is {size / 1e9:.3g} GB unpacked, more than {MOST_UNPACKED / 1e9:.3g} GB")
    book = CalamineWorkbook.from_path(path)
    names = book.sheet_names
    if sheet and sheet not in names:
        raise ValueError(f'it has no sheet "{sheet}"; its sheets are {", ".join(names)}')
    shown = [each.name for each in book.sheets_metadata if each.visible == SheetVisibleEnum.Visible] or names
    best: tuple[int, str, list[list[Any]]] = (-1, "", [])
    for name in [sheet] if sheet else shown:
        rows = book.get_sheet_by_name(name).to_python(skip_empty_area=False)
        if sum(map(len, rows)) > MOST_CELLS:
            raise ValueError(f"a sheet has more than {MOST_CELLS} cells")
        numbers = sum(isinstance(cell, float | int) and not isinstance(cell, bool) for row in rows for cell in row)
        if numbers > best[0]:
            best = (numbers, name, rows)
    told = {"sheet": best[1], "sheets": names, "rows": [[_told(cell) for cell in row] for row in best[2]]}
    out.write(json.dumps(told).encode() + b"\n")


def _told(cell: Any) -> Any:
    if isinstance(cell, datetime.datetime):
        return cell.isoformat(" ")
    if isinstance(cell, datetime.timedelta):
        seconds = cell.total_seconds()
        whole = int(seconds)
        part = f"{seconds - whole:.6f}"[1:].rstrip("0").rstrip(".")
        return f"{whole // 3600}:{whole // 60 % 60:02}:{whole % 60:02}{part}"
    if isinstance(cell, datetime.date | datetime.time):
        return cell.isoformat()
    return cell


def read_sound(path: str, out: BinaryIO, _: str) -> None:
    """Samples of every channel: 16-bit integers where they were so, else fractions of full scale."""
    import soundfile  # type: ignore[import-untyped]

    with soundfile.SoundFile(path) as file:
        is_float = file.subtype in ("FLOAT", "DOUBLE")
        if file.frames * file.channels > MOST_CELLS * 5:
            raise ValueError(f"it has {file.frames} samples; that is more than is read")
        wide = "24" in file.subtype or "32" in file.subtype
        table = file.read(dtype="float64" if is_float else "int32" if wide else "int16", always_2d=True)
        if not is_float:
            # The library left-justifies samples in its word; here they are as in the file.
            table = table >> {"PCM_24": 8, "PCM_S8": 8, "PCM_U8": 8}.get(file.subtype, 0)
        told = {"rows": len(table), "channels": table.shape[1], "rate_hz": file.samplerate, "coding": file.subtype}
    out.write(json.dumps(told).encode() + b"\n" + table.astype("float64").T.tobytes())


KINDS: dict[str, Callable[[str, BinaryIO, str], None]] = {
    "parquet": read_parquet,
    "sheet": read_sheet,
    "sound": read_sound,
}


def main(kind: str, path: str, out: BinaryIO, more: str = "") -> int:
    """Exit status: 0, or 1 with the reason in the line."""
    try:
        KINDS[kind](path, out, more)
    except BaseException as error:  # noqa: BLE001  (a panic of compiled code is no Exception)
        out.write(json.dumps({"trouble": " ".join(str(error).split())[:120]}).encode() + b"\n")
        return 1
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], sys.argv[2], sys.stdout.buffer, *sys.argv[3:4]))
