"""Reading text logs: lines with or without a time, and with named or plain numbers among their words."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.raw.lines.line_cells import LineCells, line_cells, readable
from lesart.core.raw.lines.line_names import spoken_names
from lesart.core.raw.moments.counted import counted_on
from lesart.core.raw.moments.read import UNIT_S
from lesart.core.units import Unit
from lesart.project.captures.named_cells.log_events import events_in
from lesart.project.captures.table import Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import first_bytes, read_whole

TIME, TICKS, SECONDS = "time", "time_ms", "time_s"
"""Names of the column of times before the lines, and of the time since the start."""
FEWEST_TICKS, LEAST_TICK_MS, LEAST_BARE_MS = 8, 5.0, 20.0
"""Fewest lines, and least step from line to line, for an integer before them to be a time, in brackets or without."""
FEWEST = 0.3
FEWEST_ALIKE, ALIKE = 3, 0.8
"""Fewest lines, and least share of all, that are the same but for their numbers."""
LOOKED_AT = 400
_STAMP = re.compile(
    r"\s*+(?:[\[(<]\s*+)?("
    r"\d{4}[-/.]\d{1,2}[-/.]\d{1,2}[T ]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?\s*(?:Z|UTC|[+-]\d{2}:?\d{2})?"
    r"|\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4},? \d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?:\s*[AaPp][Mm])?"
    r"|(?:[A-Z][a-z]{2},?\s+)?[A-Z][a-z]{2}\s+\d{1,2} \d{2}:\d{2}:\d{2}(?:\s[A-Z]{3,4})?(?:\s(?:19|20)\d{2})?"
    r"|(?:[A-Z][a-z]{2},?\s+)?\d{1,2}[ /-][A-Z][a-z]{2}[ /-]\d{4}[ :]\d{2}:\d{2}:\d{2}(?:\s(?:[+-]\d{4}|[A-Z]{3,4}))?"
    r"|\d{1,2}:\d{2}:\d{2}(?:[.,]\d+)?(?:\s*[AaPp][Mm])?"
    r"|[Tt]?\+\d{1,5}:\d{2}(?::\d{2})?(?:\.\d+)?"
    r"|\d{9,19}(?:\.\d+)?(?=[\s:\]])"
    r"|\d{1,9}\.\d+(?=\s*[\])])"
    r")(?:\s*+(?:[\])>]|->|=>|[-:|,])){0,3}(?:\s++|(?<=\])(?=\[))"
)
_TICK = re.compile(r"\s*[A-Z] \((\d{1,15})\) [\w.-]+: ")
"""A level, milliseconds since the start in brackets, a tag: the way of small systems to log."""
_SINCE = re.compile(
    r"\s*+(?P<bracket>[\[(]\s?)?(?P<time>\d{1,12}(?:\.\d{1,9})?)\s?(?P<unit>ms|us|µs|s)"
    r"(?(bracket)\s?[\])](?:\s?(?::|\||->|=>))?|\s?(?::|\||->|=>))\s"
)
"""Milliseconds or seconds since the start with their unit, in brackets, or before a colon or an arrow."""
_BEFORE_LIST = re.compile(r"\s*+\d{1,12}(?:\.\d{1,9})?\s?:\s*+(?=[\[({])")
"""A number before a list: ``120: [0.01, -0.02, 0.98]``."""
_LAST = re.compile(r"(?<![=:])(?<![=:]\s)(?<=\s)(1\d{9}(?:\d{3}){0,3})\s*$")
"""A time after all values: seconds since 1970, or thousandths, millionths, billionths of them."""
_BRACKETED = re.compile(r"\s*+[\[(]\s*+(\d{1,12})\s*+[\])]")
_BARE = re.compile(r"\s*+(\d{1,12}(?:\.\d{1,9})?)(?:\s?ms\b)?\s*[\s:,;|]\s*(?:[^\W\d]|[\[({])")
"""A number before the first name: ``41250,temp:21.5`` and ``41.250 temp=21.5``."""
_LEVELS = r"(?:info|debug|warn(?:ing)?|error|trace|verbose|notice|fatal)"
_TAGGED = re.compile(
    r"\[[A-Z]{1,8}\]\s?\[[\w.-]{1,40}(?::\d{1,6})?\]:?\s+"
    rf"|(?:-\s)?[\w.-]{{1,40}} - {_LEVELS} - |{_LEVELS}\s+[\w.-]{{1,40}} - ",
    re.IGNORECASE,
)
"""A level and its origin, each in brackets or before a dash."""
_CALLED = re.compile(
    r"'(?P<name>[^'=]{1,40})':?\s[^\d'+-]{0,60}(?P<value>[-+]?\d+(?:\.\d+)?\s?(?:[^\s\d,;]{1,6}(?=[\s,;]|$))?)"
)
"""A quoted name before its message, ``'Hut': sending state 21.5 °C with 1 decimal``."""
_LEVEL = re.compile(rf"\s*(?:<\w>|\[?{_LEVELS}\]?)[:\s]+", re.IGNORECASE)


@dataclass(frozen=True)
class _Line:
    number: int
    stamp: str
    cells: LineCells
    text: str


def looks_like_log(path: Path, *, named_only: bool = False) -> bool:
    """True where enough of its first lines hold named numbers, or numbers after a time."""
    lines = decoded(first_bytes(path, 1 << 16)).splitlines()[:LOOKED_AT]
    told = [line for line in lines if line.strip()]
    found = list(_lines(told))
    named = [line for line in found if line.cells.names or (line.stamp and not named_only)]
    return len(named) >= 2 and len(named) >= (0.5 if named_only else FEWEST) * len(told)


def looks_spoken(path: Path) -> bool:
    """True where nearly all of its first lines have as many numbers with the same words and signs between them, as
    ``<21.5,60>`` and ``It is 21.5 degrees``."""
    lines = [line for line in decoded(first_bytes(path, 1 << 16)).splitlines()[:LOOKED_AT] if line.strip()]
    alike = Counter((len(line.cells.values), line.cells.words) for line in _lines(lines))
    return bool(alike) and max(alike.values()) >= max(FEWEST_ALIKE, ALIKE * len(lines))


def speaks_names(path: Path) -> bool:
    """True where they name their numbers by words, as ``temp 21.5 hum 60`` and ``Distance is 12 cm``."""
    lines = [line for line in decoded(first_bytes(path, 1 << 16)).splitlines()[:LOOKED_AT] if line.strip()]
    words = Counter(line.cells.words for line in _lines(lines) if not line.cells.names)
    return any(spoken_names(each) for each, count in words.items() if count >= max(FEWEST_ALIKE, ALIKE * len(lines)))


def read_log(path: Path) -> Table:
    """A row per line with numbers named like others; all other lines are skipped. Raises CaptureError."""
    written = decoded(read_whole(path)).splitlines()
    if (events := events_in(written)) is not None:
        return events
    kept = _with_spoken_names(_alike(list(_lines(written))))
    if not kept:
        raise CaptureError(f"{path}: no two lines hold the same numbers; a log is read by names, like T=21.5 H=60.")
    names = list(dict.fromkeys(name for line in kept for name in _names_of(line.cells)))
    rows = [dict(zip(_names_of(line.cells), line.cells.values, strict=True)) for line in kept]
    units = _units(kept)
    if (begins := _records(kept)) is not None:
        ends = [*begins[1:], len(rows)]
        rows = [{k: v for row in rows[a:b] for k, v in row.items()} for a, b in zip(begins, ends, strict=True)]
        kept = [kept[begin] for begin in begins]
    columns: dict[str, list[float | str | None]] = {}
    if any(line.stamp for line in kept):
        columns[TIME] = [line.stamp or None for line in kept]
    elif (ticks := _ticks(kept, _BRACKETED, LEAST_TICK_MS) or _ticks(kept, _BARE, LEAST_BARE_MS)) is not None:
        columns[SECONDS if any("." in tick for tick in ticks) else TICKS] = list(ticks)
    columns |= {name: [row.get(name) for row in rows] for name in names if name != TIME or TIME not in columns}
    return Table(len(kept), columns, [line.number for line in kept], "line", units=units)


def _records(lines: Sequence[_Line]) -> list[int] | None:
    """The first lines of multi-line records, each line with names of its own: ``Time: 12`` above ``Temp: 21.5``.

    None where each line is a record, or there is no order.
    """
    shapes = [line.cells.names for line in lines]
    distinct = set(shapes)
    if len(distinct) < 2 or any(line.stamp for line in lines) or () in distinct:
        return None
    if sum(map(len, distinct)) > len({name for names in distinct for name in names}):
        return None  # a name occurs in two kinds of lines
    begins = [place for place, names in enumerate(shapes) if names == shapes[0]]
    for begin, end in zip(begins, [*begins[1:], len(shapes)], strict=True):
        if len(set(shapes[begin:end])) < end - begin:
            return None
    return begins


def _ticks(lines: Sequence[_Line], before: re.Pattern[str], least_ms: float) -> list[str] | None:
    """Numbers before the lines that advance like milliseconds, or with a point like seconds; a line or sensor number
    advances by one or not at all."""
    found = [match[1] if (match := before.match(line.text)) else "" for line in lines]
    numbers = np.array([float(each) for each in found if each])
    if len(numbers) < max(FEWEST_TICKS, 0.9 * len(lines)):
        return None
    steps = np.diff(counted_on(numbers)[0])
    forward = steps[steps > 0]
    least = 0.0 if any("." in each for each in found) else least_ms
    is_time = len(forward) >= 0.9 * len(steps) and float(np.median(forward)) >= least
    return found if is_time else None


def _lines(lines: Sequence[str]) -> Iterator[_Line]:
    """Lines with numbers, without a time before them."""
    for number, written in enumerate(lines, 1):
        text = readable(written.encode("utf-8", "replace"))
        if text is None or not text.strip():
            continue
        stamp, rest = _stamped(text)
        called = _CALLED.match(rest)
        cells = line_cells(f"{called['name']}={called['value']}" if called else rest)
        if any(value == value for value in cells.values):
            yield _Line(number, stamp, cells, text)


def _stamped(text: str) -> tuple[str, str]:
    if match := _TICK.match(text):
        return f"{int(match[1]) / 1000:.3f}", text[match.end() :]
    if match := _STAMP.match(text):
        rest = text[match.end() :]
        rest = rest[tag.end() :] if (tag := _TAGGED.match(rest)) else rest
        return match[1].strip(), _LEVEL.sub("", rest, count=1) if _LEVEL.match(rest) else rest
    if match := _SINCE.match(text):
        seconds = float(match["time"]) * UNIT_S[match["unit"].replace("us", "µs")]
        return f"{seconds:.6f}", text[match.end() :]
    if match := _BEFORE_LIST.match(text):
        return "", text[match.end() :]
    if (match := _LAST.search(text)) and line_cells(text[: match.start()]).names:
        return match[1], text[: match.start()]
    return "", text


def _names_of(cells: LineCells) -> tuple[str, ...]:
    return cells.names or tuple(f"column {number}" for number in range(1, len(cells.values) + 1))


def _alike(lines: Sequence[_Line]) -> list[_Line]:
    """Lines whose names recur; where any has names, those without are words with a number in them."""
    named = [line for line in lines if line.cells.names]
    if len(named) >= len(lines) / 3:
        counts = Counter(line.cells.names for line in named)
        return [line for line in named if counts[line.cells.names] > 1]
    widths = Counter(len(line.cells.values) for line in lines if not line.cells.names)
    if not widths:
        return []
    usual = max(widths, key=lambda width: (widths[width], width))
    kept = [line for line in lines if not line.cells.names and len(line.cells.values) == usual]
    return kept if len(kept) > 1 else []


def _with_spoken_names(lines: list[_Line]) -> list[_Line]:
    """Lines without names that are nearly all of the same words, with the names that these words give."""
    words = Counter(line.cells.words for line in lines if not line.cells.names)
    usual, count = max(words.items(), key=lambda each: each[1], default=("", 0))
    names = spoken_names(usual)
    if not names or count < ALIKE * len(lines):
        return lines
    return [replace(line, cells=replace(line.cells, names=names)) for line in lines if line.cells.words == usual]


def _units(lines: Sequence[_Line]) -> dict[str, Unit]:
    """Units by the first one after a number of each name."""
    found: dict[str, Unit] = {}
    for line in lines:
        for name, unit in zip(_names_of(line.cells), line.cells.units, strict=True):
            if unit is not None:
                found.setdefault(name, unit)
    return found
