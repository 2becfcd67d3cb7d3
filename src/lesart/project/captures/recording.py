"""A recording as text: rows of numbers that any program reads, appended as they come, with comments on what happened.

Four lines of head, then a row a line: seconds since the moment in the head, then a value a column. A value that was
not to be believed is the word of its mark, as ``missing`` or ``checksum``. What happened beside the values stands in
comments, with its time.
"""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterable
from datetime import datetime

from lesart.core.block import mark_word
from lesart.core.raw.received import Received
from lesart.core.visible import visible

FIRST_LINE = "# lesart recording 1"
HEADER_LINES = 4
TIME = "t"
ENDED = "ended"


def head_text(title: str, started: datetime, columns: Iterable[str]) -> str:
    """The first four lines. ``started`` is the moment of second 0, with its zone."""
    names = io.StringIO()
    csv.writer(names, lineterminator="\n").writerow([TIME, *map(_one_line, columns)])
    return f"{FIRST_LINE}\n# {_one_line(title)}\n# t is seconds since {started.isoformat()}\n{names.getvalue()}"


def ended_text(t: float, rows: int) -> str:
    """The last line of one that ended as it was meant to; one that was killed, or whose disk was full, has none."""
    return f"# {t:.6f} {ENDED}: {rows} rows\n"


def rows_text(heard: Received) -> str:
    """Its rows and events in the order of their times; numbers such that reading gives the same ones."""
    rows = [
        f"{t:.6f},{','.join(map(repr, values))}\n" if not any(map(math.isnan, values)) else _marked_row(t, values, mark)
        for t, values, mark in zip(heard.t, heard.values, heard.marks, strict=True)
    ]
    # Counts are whole numbers, and look like it.
    if not heard.events:
        return "".join(rows).replace(".0,", ",").replace(".0\n", "\n")
    said = [(event.t, f"# {event.t:.6f} {event.what}: {_one_line(event.says)}\n") for event in heard.events]
    timed = [*said, *zip(heard.t, rows, strict=True)]
    return "".join(
        text if text[0] == "#" else text.replace(".0,", ",").replace(".0\n", "\n")
        for _, text in sorted(timed, key=lambda entry: entry[0])
    )


def _marked_row(t: float, values: tuple[float, ...], mark: int) -> str:
    word = mark_word(mark) or "missing"
    return f"{t:.6f},{','.join(word if math.isnan(value) else repr(value) for value in values)}\n"


def _one_line(text: str) -> str:
    """Nothing that is said ends a line of the file."""
    return visible(text)
