"""Large files of numbers, one piece of bytes at a time: in one go where every cell is a number, else split and
examined.

The parser is a well-kept library's. It never decides what a doubtful cell means: a piece with anything unusual goes to
the same reader as a small file, which names the line.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

import numpy as np
import numpy.typing as npt

from lesart.core.errors import CaptureError
from lesart.core.raw.moments.read import UNIT_S, seconds_of
from lesart.core.raw.moments.written import CLOCK
from lesart.core.raw.source import Source
from lesart.project.captures.progress import tell
from lesart.project.captures.rows.csv_shape import DELIMITERS
from lesart.project.captures.text import coding_of, comment_signs, decoded, is_comment
from lesart.project.folder.files import first_bytes, is_packed, mapped

LARGE = 4 << 20
"""Bytes from which the library's start-up of a fifth of a second pays."""
PIECE = 24 << 20
"""Piece size, below the allocator's threshold for returning memory, so that pages are reused."""
FEW_ROWS = 2048
PACKED_BY = 4
"""Usual compression ratio of a packed file of numbers."""
SAMPLE = 4096
Table = Sequence[npt.NDArray[np.float64]]
"""Table of a piece: one array per column, all of one length."""
Slow = Callable[[list[tuple[int, str]]], Table]
"""Reads numbered lines one by one."""


def is_large(path: Path, source: Source) -> bool:
    """True for a large file that the library reads as we do. Raises CaptureError where it cannot be read."""
    sign = DELIMITERS[source.delimiter]
    usual = source.delimiter != "space" and source.decimal != sign and source.thousands == "none"
    try:
        size = path.stat().st_size
        if not usual or size < LARGE // PACKED_BY or (size < LARGE and not is_packed(path)):
            return False
        head = first_bytes(path, 1 << 16)
        return b"\n" in head and coding_of(head) in ("utf-8", "latin-1")
    except OSError as error:
        raise CaptureError(f"{path}: it cannot be read ({error.strerror}).") from error


def size_of(path: Path) -> int:
    """Its size in bytes, estimated where it is packed."""
    return path.stat().st_size * (PACKED_BY if is_packed(path) else 1)


def large_tables(path: Path, names: Sequence[str], source: Source, slow: Slow) -> Iterator[Table]:
    """Tables of the columns in the order of the file, which is memory-mapped: a piece is copied once, for parsing."""
    number = 1
    with mapped(path) as data:
        size, start = len(data), 0
        for _ in range(source.header):
            behind = data.find(b"\n", start) + 1
            number += bool(behind)
            start = behind or size
        while start < size:
            end = data.rfind(b"\n", start, min(start + PIECE, size)) + 1
            if not end:
                # A line longer than a piece is still one piece.
                end = data.find(b"\n", start) + 1 or size
            piece = data[start:end]
            if not piece.endswith(b"\n"):
                if source.format == "recording":
                    return
                piece += b"\n"
            rows = _lines_in(piece)
            yield from _tables(piece, rows, number, names, source, slow)
            number += rows
            start = end
            tell(path.name, start, size)


def _is_text(name: str, source: Source) -> bool:
    """True where a column holds times as texts."""
    return bool(name) and (name == source.clock or (name == source.time and source.time_unit not in UNIT_S))


def _lines_in(piece: bytes) -> int:
    """Number of lines, faster than searching each line end where lines are short."""
    return int(np.count_nonzero(np.frombuffer(piece, np.uint8) == ord("\n")))


def _tables(piece: bytes, rows: int, number: int, names: Sequence[str], source: Source, slow: Slow) -> Iterator[Table]:
    """Tables of a piece: in one go, else by halves, a few rows one by one."""
    tables = _at_once(piece, rows, names, source)
    if tables is not None:
        yield from tables
    elif rows > FEW_ROWS:
        middle = piece.rfind(b"\n", 0, len(piece) // 2) + 1 or piece.index(b"\n") + 1
        first, second = piece[:middle], piece[middle:]
        before = first.count(b"\n")
        yield from _tables(first, before, number, names, source, slow)
        if second:
            yield from _tables(second, rows - before, number + before, names, source, slow)
    else:
        lines = decoded(piece).replace("\r\n", "\n").split("\n")[:-1]
        signs = comment_signs(source.delimiter)
        numbered = [
            (place, line) for place, line in enumerate(lines, number) if line.strip() and not is_comment(line, signs)
        ]
        if numbered:
            yield slow(numbered)


def _at_once(piece: bytes, rows: int, names: Sequence[str], source: Source) -> list[Table] | None:
    """A piece in one go; None where a cell is not a plain finite number or a row has another width, as a comment or a
    blank line."""
    import polars  # a fifth of a second

    sign = DELIMITERS[source.delimiter]
    apart = sign.encode() + b" "
    if apart in piece[:SAMPLE]:
        piece = piece.replace(apart, apart[:-1])
    texts = {place for place, name in enumerate(names) if _is_text(name, source)}
    schema = {str(place): polars.String if place in texts else polars.Float64 for place in range(len(names))}
    try:
        frame = polars.read_csv(
            piece,
            has_header=False,
            separator=sign,
            quote_char=None,
            schema=schema,
            infer_schema=False,
            decimal_comma=source.decimal == ",",
        )
    except (polars.exceptions.PolarsError, polars.exceptions.PanicException):
        return None
    if frame.height != rows or any(frame.null_count().row(0)):
        return None
    if texts:
        table = [
            seconds_of(frame[str(place)].to_list(), CLOCK if names[place] == source.clock else source.time_unit)
            if place in texts
            else frame[str(place)].to_numpy()
            for place in range(len(names))
        ]
        return [table] if all(np.isfinite(column).all() for column in table) else None
    # Chunk by chunk, as the library's threads made them: joining would copy them again.
    chunks = zip(*(frame[str(place)].get_chunks() for place in range(len(names))), strict=True)
    tables: list[Table] = [[column.to_numpy() for column in chunk] for chunk in chunks]
    return tables if all(np.isfinite(column).all() for table in tables for column in table) else None
