"""Reading sentences of the NMEA 0183 form: a dollar sign, a talker and a kind, fields with commas, a checksum.

Source: the form of the standard as it is spoken: ``$ttkkk,field,…*hh``, the sum all bytes between the signs by
exclusive or. The names of the fields are our own.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from pathlib import Path

from lesart.core.block import Floats
from lesart.core.errors import CaptureError
from lesart.core.raw.moments.read import seconds_of, unwrapped
from lesart.core.raw.moments.written import DAY_FIRST
from lesart.core.units import Unit, parse_unit
from lesart.project.captures.capture import BadRow
from lesart.project.captures.table import Cells, Moments, Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import first_bytes, read_whole

TIME = "universal time"
_SENTENCE = re.compile(r"[$!]([A-Z]{2}|P[A-Z]{0,3})([A-Z0-9]{3}),([^*]*)(?:\*([0-9A-Fa-f]{2}))?\s*$")
Take = Callable[[Sequence[str]], float]
_DAY_S = 86_400.0


def _plain(place: int) -> Take:
    def take(fields: Sequence[str]) -> float:
        return _number(fields[place]) if place < len(fields) else math.nan

    return take


def _angle(place: int) -> Take:
    """Degrees and minutes in one number, the half of the globe behind: ``4807.038,N``."""

    def take(fields: Sequence[str]) -> float:
        if place + 1 >= len(fields):
            return math.nan
        value = _number(fields[place])
        degrees = math.floor(value / 100) if math.isfinite(value) else math.nan
        size = degrees + (value - 100 * degrees) / 60
        return -size if fields[place + 1] in ("S", "W") else size

    return take


def _number(text: str) -> float:
    try:
        return float(text) if re.fullmatch(r"[+-]?\d+(?:\.\d*)?|[+-]?\.\d+", text.strip()) else math.nan
    except ValueError:
        return math.nan


KINDS: dict[str, dict[str, tuple[Take, str]]] = {
    "GGA": {
        "latitude": (_angle(1), "°"),
        "longitude": (_angle(3), "°"),
        "fix": (_plain(5), "1"),
        "satellites": (_plain(6), "1"),
        "spread": (_plain(7), "1"),
        "height": (_plain(8), "m"),
    },
    "RMC": {
        "latitude": (_angle(2), "°"),
        "longitude": (_angle(4), "°"),
        "speed over ground": (_plain(6), "kn"),
        "course": (_plain(7), "°"),
    },
    "GLL": {"latitude": (_angle(0), "°"), "longitude": (_angle(2), "°")},
    "VTG": {"course": (_plain(0), "°"), "speed over ground": (_plain(4), "kn")},
    "GNS": {
        "latitude": (_angle(1), "°"),
        "longitude": (_angle(3), "°"),
        "satellites": (_plain(6), "1"),
        "spread": (_plain(7), "1"),
        "height": (_plain(8), "m"),
    },
    "HDT": {"heading": (_plain(0), "°")},
    "HDM": {"magnetic heading": (_plain(0), "°")},
    "DBT": {"depth": (_plain(2), "m")},
    "DPT": {"depth": (_plain(0), "m")},
    "MTW": {"water temperature": (_plain(0), "°C")},
    "MWV": {"wind angle": (_plain(0), "°"), "wind speed": (_plain(2), "1")},
    "VHW": {"heading": (_plain(0), "°"), "speed through water": (_plain(4), "kn")},
}
"""What is where in the usual kinds. Of others every field that is a number is a column."""
CLOCKS = {"GGA": 0, "RMC": 0, "GLL": 4, "ZDA": 0, "GNS": 0, "GST": 0}
DATES = {"RMC": 8}


def looks_like_sentences(path: Path) -> bool:
    """Do most of its first lines have that form?"""
    lines = [line for line in decoded(first_bytes(path, 1 << 15)).splitlines()[:100] if line.strip()]
    found = sum(_SENTENCE.search(line) is not None for line in lines)
    return found >= 2 and found >= len(lines) / 2


def read_sentences(path: Path) -> Table:
    """A row each moment: what sentences with the same time say, and those without one that follow. Raises
    CaptureError."""
    bad: list[BadRow] = []
    rows: list[dict[str, float]] = []
    places: list[int] = []
    clocks: list[str] = []
    day, date = "", ""
    kept: dict[str, Unit] = {}
    for number, line in enumerate(decoded(read_whole(path)).splitlines(), 1):
        if not line.strip():
            continue
        match = _SENTENCE.search(line)
        if match is None:
            bad.append(BadRow(number, "it is no sentence with a kind and fields"))
            continue
        if match[4] and _sum(line[match.start() + 1 : match.start(4) - 1]) != int(match[4], 16):
            told = _sum(line[match.start() + 1 : match.start(4) - 1])
            bad.append(BadRow(number, f"its sum is {match[4].upper()} and should be {told:02X}"))
            continue
        kind, fields = match[2], [field.strip() for field in match[3].split(",")]
        date = fields[DATES[kind]] if kind in DATES and len(fields) > DATES[kind] else date
        clock = fields[CLOCKS[kind]] if kind in CLOCKS and len(fields) > CLOCKS[kind] else ""
        values = {name: take(fields) for name, (take, _) in KINDS.get(kind, {}).items()}
        kept |= {name: parse_unit(unit) for name, (_, unit) in KINDS.get(kind, {}).items()}
        if kind not in KINDS and kind not in ("GSV", "GSA", "TXT", "ZDA"):
            values = {
                f"{kind} {place}": value
                for place, text in enumerate(fields, 1)
                if math.isfinite(value := _number(text))
            }
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


def _sum(text: str) -> int:
    total = 0
    for letter in text.encode("latin-1", "replace"):
        total ^= letter
    return total


def _moments(clocks: Sequence[str], date: str) -> Floats:
    """``hhmmss.ss`` as seconds of the day, on over midnight; from the last date where one was said."""
    texts = [
        f"{clock[:2]}:{clock[2:4]}:{clock[4:]}" if re.fullmatch(r"\d{6}(?:\.\d*)?", clock) else "" for clock in clocks
    ]
    seconds = unwrapped(seconds_of([text.rstrip(".") for text in texts], "h:m:s"), _DAY_S)
    if re.fullmatch(r"\d{6}", date):
        day = seconds_of([f"{date[:2]}.{date[2:4]}.{date[4:]}"], DAY_FIRST)[0]
        return seconds + (day if math.isfinite(day) else 0.0)
    return seconds
