"""What a file is: by its first bytes, then by what its text looks like; by its ending only where nothing else tells."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

from lesart.core.errors import CaptureError
from lesart.core.raw.printed import value_in
from lesart.project.captures.recording import FIRST_LINE
from lesart.project.captures.rows.csv_shape import CsvShape, find_shape
from lesart.project.captures.text import decoded
from lesart.project.folder.files import first_bytes

ENDINGS = {
    ".csv": "csv",
    ".tsv": "csv",
    ".tab": "csv",
    ".txt": "csv",
    ".dat": "csv",
    ".log": "text log",
    ".jsonl": "json lines",
    ".ndjson": "json lines",
    ".json": "json",
    ".wav": "wav",
    ".aif": "sound",
    ".aiff": "sound",
    ".aifc": "sound",
    ".flac": "sound",
    ".parquet": "parquet",
    ".xlsx": "spreadsheet",
    ".ods": "spreadsheet",
    ".npy": "arrays",
    ".npz": "arrays",
    ".nmea": "sentences",
    ".bin": "binary",
    ".raw": "binary",
    ".vcd": "vcd",
    ".hex": "hex",
}
"""Endings that are offered and taken; of others the text decides."""
_MAGIC = (
    (b"PAR1", "parquet"),
    (b"\x93NUMPY", "arrays"),
    (b"fLaC", "sound"),
    (b"\xd0\xcf\x11\xe0", "spreadsheet"),
)
_VCD = re.compile(r"\s*\$(date|version|timescale|scope|comment|var)\b")
_JSON = re.compile(
    r"[\ufeff\x1e\s]*(?:\{(?!\s*[-+.\d])|\[\s*(?:[{\[\"(]|-?\d[\d.eE+-]*\s*(?:,|\]\s*$)|$)|\(\s*-?\d[\d.eE+-]*\s*,)"
)
"""An object or a list; not a line of a log that begins with a time in brackets."""
_SURE = 0.8
"""Share of cells above which rows of numbers are rows of numbers, whatever else they look like."""
FEWEST_OF_ARRAY, LEAST_OF_ARRAYS = 8, 0.5
"""Numbers in an array of a source, and the share of the text that is arrays, from which on they were measured."""
FRAMES = ("$", "!", "#", "[", "{", "(", ":", "@")
"""Signs with which lines begin, so that whoever hears them knows where; ``<0.5`` is less than that."""
MUST = ("hex", "binary")
"""Nothing in such a file tells that it is one: the ending says it."""


def ending(path: Path) -> str:
    """In small letters, that of the file in it where it is packed."""
    return path.with_suffix("").suffix.lower() if path.suffix.lower() == ".gz" else path.suffix.lower()


def bare_name(path: Path) -> str:
    """The name of a file without its endings."""
    return path.with_suffix("").stem if path.suffix.lower() == ".gz" else path.stem


def format_of(path: Path) -> str:
    """Its format. Raises CaptureError where the file cannot be read, or is of a kind that no reader takes."""
    by_ending = ENDINGS.get(ending(path), "")
    head = first_bytes(path, 1 << 16)
    if by_ending in MUST or not head:
        return by_ending or "csv"
    if found := _by_bytes(path, head):
        return found
    if by_ending in ("parquet", "arrays", "spreadsheet", "wav", "sound", "vcd"):
        return by_ending
    text = decoded(head)
    if text.startswith(FIRST_LINE):
        return "recording"
    if _VCD.match(text):
        return "vcd"
    if _JSON.match(text):
        return _kind_of_json(text, by_ending, is_whole=len(head) < 1 << 16)
    if _holds_arrays(text):
        return "json"
    return _kind_of_text(path)


def _by_bytes(path: Path, head: bytes) -> str:
    if head[:4] == b"RIFF" and head[8:12] == b"WAVE":
        return "wav" if _is_plain_wav(head) else "sound"
    if head[:4] == b"FORM" and head[8:12] in (b"AIFF", b"AIFC"):
        return "sound"
    if head[:4] == b"PK\x03\x04":
        return _in_zip(path)
    return next((kind for begins, kind in _MAGIC if head.startswith(begins)), "")


def _is_plain_wav(head: bytes) -> bool:
    """Is its coding one of whole numbers or floating point, whose cut-off end is read as far as it goes?"""
    place = head.find(b"fmt ")
    return place < 0 or int.from_bytes(head[place + 8 : place + 10], "little") in (1, 3, 0xFFFE)


def _in_zip(path: Path) -> str:
    """A spreadsheet, arrays, or a folder that somebody has to unpack. Raises CaptureError."""
    try:
        with zipfile.ZipFile(path) as packed:
            names = packed.namelist()
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as error:
        raise CaptureError(f"{path}: it is packed (zip) and damaged; copy it again.") from error
    if names and all(name.endswith(".npy") for name in names):
        return "arrays"
    if "[Content_Types].xml" in names or "content.xml" in names:
        return "spreadsheet"
    listed = ", ".join(names[:3]) + (" …" if len(names) > 3 else "")
    raise CaptureError(
        f"{path}: it is a packed folder (zip) with {listed or 'nothing in it'}; unpack it, and use one file."
    )


def _holds_arrays(text: str) -> bool:
    """Of a program's source; a line of a log may say ``values=[512, 600]``, and says more of them in the next."""
    from lesart.project.captures.named_cells.source_arrays import arrays_in

    arrays = arrays_in(text)
    if arrays is None or arrays.share < LEAST_OF_ARRAYS:
        return False
    return max(map(len, arrays.by_name.values())) >= FEWEST_OF_ARRAY


def _kind_of_json(text: str, by_ending: str, *, is_whole: bool) -> str:
    """Is the first line an object, and the second one another?"""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    lines = lines if is_whole or len(lines) < 2 else lines[:-1]
    if len(lines) == 1 and by_ending != "json lines":
        return "json"
    good = 0
    for line in lines[:5]:
        try:
            good += isinstance(value_in(line.lstrip("\x1e")), dict)
        except (ValueError, RecursionError):
            continue
    return "json lines" if good >= max(1, min(len(lines), 5) / 2) else "json"


def _kind_of_text(path: Path) -> str:
    """Rows of numbers, sentences, or a log, of events too."""
    from lesart.project.captures.named_cells.log_events import looks_like_events
    from lesart.project.captures.named_cells.log_read import looks_like_log, looks_spoken
    from lesart.project.captures.named_cells.sentence_read import looks_like_sentences

    if looks_like_sentences(path):
        return "sentences"
    shape = shape_or_none(path)
    if (shape is None or not shape.time) and looks_like_events(path):
        return "text log"
    if shape is not None and _is_framed(path, shape):
        return "text log"
    if shape is not None and shape.share >= _SURE and not _is_named(path, shape):
        return "csv"
    if looks_like_log(path, named_only=shape is not None and bool(shape.time)):
        return "text log"
    return "text log" if shape is None and looks_spoken(path) else "csv"


def _is_named(path: Path, shape: CsvShape) -> bool:
    """Do its numbers have their names in each line, so evenly that it could be cut at the blanks too?"""
    from lesart.project.captures.named_cells.log_read import looks_like_log

    return shape.delimiter == "space" and not shape.header and looks_like_log(path, named_only=True)


def _is_framed(path: Path, shape: CsvShape) -> bool:
    """Has each line a sign before its first number, which is no part of it, as in ``$21.5,60*``?"""
    from lesart.project.captures.named_cells.log_read import looks_spoken

    begins = shape.nearly.get(next(iter(shape.names)), "")
    return begins[:1] in FRAMES and looks_spoken(path)


def shape_or_none(path: Path) -> CsvShape | None:
    """Its shape where it is a file of rows."""
    try:
        return find_shape(path)
    except CaptureError:
        return None
