"""Sentences of the NMEA 0183 form: a dollar sign, a talker and a kind, fields with commas, a checksum.

Source: the form of the standard as it is used: ``$ttkkk,field,…*hh``, the sum being the exclusive or of all bytes
between ``$`` and ``*``. The names of the fields are our own.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.units import Unit, parse_unit

SENTENCE = re.compile(r"[$!]([A-Z]{2}|P[A-Z]{0,3})([A-Z0-9]{3}),([^*]*)(?:\*([0-9A-Fa-f]{2}))?\s*$")
Take = Callable[[Sequence[str]], float]


def _plain(place: int) -> Take:
    def take(fields: Sequence[str]) -> float:
        return _number(fields[place]) if place < len(fields) else math.nan

    return take


def _angle(place: int) -> Take:
    """Degrees and minutes in one number, followed by the hemisphere: ``4807.038,N``."""

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
"""Fields of the usual kinds. In others every field that is a number becomes a column."""
CLOCKS = {"GGA": 0, "RMC": 0, "GLL": 4, "ZDA": 0, "GNS": 0, "GST": 0}
DATES = {"RMC": 8}
TOLD_TWICE = {
    "RMC": ("latitude", "longitude"),
    "GLL": ("latitude", "longitude"),
    "VTG": ("course", "speed over ground"),
}
"""Kinds whose values a receiver repeats in another kind at the same time."""
NO_READING = ("GSV", "GSA", "TXT", "ZDA")
"""Kinds whose numbers are neither position nor speed."""


@dataclass(frozen=True)
class Sentence:
    """``values`` by name, NaN where the field is empty, with their ``units``; ``clock`` and ``date`` as written, empty
    where the kind has none. ``wrong`` says what its checksum should be; empty where that is right, or there is none."""

    kind: str
    values: dict[str, float]
    units: dict[str, Unit]
    clock: str = ""
    date: str = ""
    wrong: str = ""


def sentence_in(line: str) -> Sentence | None:
    """The sentence at the end of a line; None where there is none."""
    match = SENTENCE.search(line)
    if match is None:
        return None
    told = sum_of(line[match.start() + 1 : match.start(4) - 1]) if match[4] else 0
    if match[4] and told != int(match[4], 16):
        return Sentence(match[2], {}, {}, wrong=f"its sum is {match[4].upper()} and should be {told:02X}")
    kind, fields = match[2], [field.strip() for field in match[3].split(",")]
    known = KINDS.get(kind, {})
    values = {name: take(fields) for name, (take, _) in known.items()}
    if kind not in KINDS and kind not in NO_READING:
        values = {
            f"{kind} {place}": value for place, text in enumerate(fields, 1) if math.isfinite(value := _number(text))
        }
    return Sentence(
        kind,
        values,
        {name: parse_unit(unit) for name, (_, unit) in known.items()},
        fields[CLOCKS[kind]] if kind in CLOCKS and len(fields) > CLOCKS[kind] else "",
        fields[DATES[kind]] if kind in DATES and len(fields) > DATES[kind] else "",
    )


def sum_of(text: str) -> int:
    """The exclusive or of all bytes."""
    total = 0
    for letter in text.encode("latin-1", "replace"):
        total ^= letter
    return total
