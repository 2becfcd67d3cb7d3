"""Reading files of sentences of the NMEA 0183 form: one row per time, with everything reported at it."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from pathlib import Path

from lesart.core.block import Floats
from lesart.core.errors import CaptureError
from lesart.core.raw.lines.sentences import SENTENCE, sentence_in
from lesart.core.raw.moments.read import seconds_of, unwrapped
from lesart.core.raw.moments.written import DAY_FIRST
from lesart.core.units import Unit
from lesart.project.captures.capture import BadRow
from lesart.project.captures.table import Cells, Moments, Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import first_bytes, read_whole

TIME = "universal time"
_DAY_S = 86_400.0


def looks_like_sentences(path: Path) -> bool:
    """True where most of its first lines have that form."""
    lines = [line for line in decoded(first_bytes(path, 1 << 15)).splitlines()[:100] if line.strip()]
    found = sum(SENTENCE.search(line) is not None for line in lines)
    return found >= 2 and found >= len(lines) / 2


def read_sentences(path: Path) -> Table:
    """A row per time, from sentences with that time and following ones without. Raises CaptureError."""
    bad: list[BadRow] = []
    rows: list[dict[str, float]] = []
    places: list[int] = []
    clocks: list[str] = []
    day, date = "", ""
    kept: dict[str, Unit] = {}
    for number, line in enumerate(decoded(read_whole(path)).splitlines(), 1):
        if not line.strip():
            continue
        sentence = sentence_in(line)
        if sentence is None or sentence.wrong:
            bad.append(BadRow(number, sentence.wrong if sentence else "it is not a sentence with a kind and fields"))
            continue
        date, clock, values = sentence.date or date, sentence.clock, sentence.values
        kept |= sentence.units
        if (
            not rows
            or (clock and clock != clocks[-1])
            or (not clock and not any(clocks) and values.keys() & rows[-1].keys())
        ):
            rows.append({})
            places.append(number)
            clocks.append(clock)
            day = date
        rows[-1] |= {name: value for name, value in values.items() if math.isfinite(value)}
    if not any(rows):
        raise CaptureError(f"{path}: no sentence of it holds a number, or every sum is wrong.")
    names = list(dict.fromkeys(name for row in rows for name in row))
    columns: dict[str, Cells] = {}
    if any(clocks):
        columns[TIME] = Moments(_moments(clocks, day))
    columns |= {name: [row.get(name) for row in rows] for name in names}
    return Table(
        len(rows), columns, places, "line", tuple(bad), {name: unit for name, unit in kept.items() if name in names}
    )


def _moments(clocks: Sequence[str], date: str) -> Floats:
    """``hhmmss.ss`` as seconds of the day, continuing past midnight; from the last date if there was one."""
    texts = [
        f"{clock[:2]}:{clock[2:4]}:{clock[4:]}" if re.fullmatch(r"\d{6}(?:\.\d*)?", clock) else "" for clock in clocks
    ]
    seconds = unwrapped(seconds_of([text.rstrip(".") for text in texts], "h:m:s"), _DAY_S)
    if re.fullmatch(r"\d{6}", date):
        day = seconds_of([f"{date[:2]}.{date[2:4]}.{date[4:]}"], DAY_FIRST)[0]
        return seconds + (day if math.isfinite(day) else 0.0)
    return seconds
