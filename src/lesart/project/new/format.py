"""The format of a file: by its first bytes, then by its text; by its extension only where nothing else tells."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

from lesart.core.errors import CaptureError
from lesart.core.raw.lines.printed import value_in
from lesart.project.captures.recording import FIRST_LINE
from lesart.project.captures.rows.csv_shape import CsvShape, find_shape
from lesart.project.captures.text import decoded
from lesart.project.captures.traces.can_read import is_can
from lesart.project.captures.traces.hex_read import SAMPLE_LETTERS
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
"""Extensions that are offered and accepted; for others the text decides."""
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
"""Share of numeric cells above which a file is rows of numbers, whatever else it looks like."""
FEWEST_OF_ARRAY, LEAST_OF_ARRAYS = 8, 0.5
"""Fewest numbers of an array in source code, and least share of arrays in the text, to be measurements."""
FRAMES = ("$", "!", "#", "[", "{", "(", ":", "@")
"""Signs that mark the beginning of lines; but ``<0.5`` means less than that."""
MUST = ("hex", "binary")
"""Formats that only the extension tells."""


def ending(path: Path) -> str:
    """The extension in lower case; for a packed file that of its content."""
    return path.with_suffix("").suffix.lower() if path.suffix.lower() == ".gz" else path.suffix.lower()


def bare_name(path: Path) -> str:
    """The name of a file without its extensions."""
    return path.with_suffix("").stem if path.suffix.lower() == ".gz" else path.stem


def format_of(path: Path) -> str:
    """Its format. Raises CaptureError where the file cannot be read, or no reader accepts its kind."""
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
    if is_can(text[:SAMPLE_LETTERS]):
        return "hex"
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
    """True for integer or floating-point coding, which can be read even if truncated."""
    place = head.find(b"fmt ")
    return place < 0 or int.from_bytes(head[place + 8 : place + 10], "little") in (1, 3, 0xFFFE)


def _in_zip(path: Path) -> str:
    """The format in a zip: a spreadsheet, arrays, or a folder to unpack first. Raises CaptureError."""
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
    """True for arrays in source code; a log line may say ``values=[512, 600]`` too, but more lines like it follow."""
    from lesart.project.captures.named_cells.source_arrays import arrays_in

    arrays = arrays_in(text)
    if arrays is None or arrays.share < LEAST_OF_ARRAYS:
        return False
    return max(map(len, arrays.by_name.values())) >= FEWEST_OF_ARRAY


def _kind_of_json(text: str, by_ending: str, *, is_whole: bool) -> str:
    """The kind of JSON: lines, where the first two lines are objects, or one document."""
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
    """The kind of a text: rows of numbers, sentences, or a log, perhaps of events."""
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
    if shape is not None:
        return "text log" if _is_worded(path, shape) else "csv"
    return "text log" if looks_spoken(path) else "csv"


def _is_named(path: Path, shape: CsvShape) -> bool:
    """True where each line names its numbers, so regularly that it could also be split at blanks."""
    from lesart.project.captures.named_cells.log_read import looks_like_log

    return shape.delimiter == "space" and not shape.header and looks_like_log(path, named_only=True)


def _is_worded(path: Path, shape: CsvShape) -> bool:
    """True where the words between the numbers of each line name them, which could also be split at blanks."""
    from lesart.project.captures.named_cells.log_read import speaks_names

    return shape.delimiter == "space" and not shape.header and speaks_names(path)


def _is_framed(path: Path, shape: CsvShape) -> bool:
    """True where each line has a sign before its first number that is not part of it, as in ``$21.5,60*``."""
    from lesart.project.captures.named_cells.log_read import looks_spoken

    begins = shape.nearly.get(next(iter(shape.names)), "")
    is_list = any(sign in cell for cell in shape.nearly.values() for sign in "[]()")
    return (begins[:1] in FRAMES or is_list) and looks_spoken(path)


def shape_or_none(path: Path) -> CsvShape | None:
    """Its shape if it is a file of rows, else None."""
    try:
        return find_shape(path)
    except CaptureError:
        return None
