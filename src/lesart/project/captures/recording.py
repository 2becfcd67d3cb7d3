"""A recording as text: rows of numbers that any program reads, appended as they come, with comments on events.

Four header lines, then one row per line: seconds since the time in the header, then one value per column. A bad value
is written as the word of its mark, such as ``missing`` or ``checksum``. Events are in comments, with their time.
"""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterable
from datetime import datetime

from lesart.core.block import mark_word
from lesart.core.raw.lines.received import Received
from lesart.core.visible import visible

FIRST_LINE = "# lesart recording 1"
HEADER_LINES = 4
TIME = "t"
ENDED = "ended"


def head_text(title: str, started: datetime, columns: Iterable[str]) -> str:
    """The first four lines. ``started`` is the time of second 0, with its zone."""
    names = io.StringIO()
    csv.writer(names, lineterminator="\n").writerow([TIME, *map(_one_line, columns)])
    return f"{FIRST_LINE}\n# {_one_line(title)}\n# t is seconds since {started.isoformat()}\n{names.getvalue()}"


def ended_text(t: float, rows: int) -> str:
    """The last line of a recording that ended properly; one that was killed, or whose disk was full, has none."""
    return f"# {t:.6f} {ENDED}: {rows} rows\n"


def rows_text(heard: Received) -> str:
    """Rows and events in order of time, with numbers that read back the same."""
    rows = [
        f"{t:.6f},{','.join(map(repr, values))}\n" if not any(map(math.isnan, values)) else _marked_row(t, values, mark)
        for t, values, mark in zip(heard.t, heard.values, heard.marks, strict=True)
    ]
    # Counts are integers, and written like it.
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
    """A text on one line, so that it cannot end a line of the file."""
    return visible(text)
