"""One written date or time: the positions of its year, month, day, hour, minute and second, and its words.

Nothing here looks at more than one text. The caller says whether the first number is a day or a month.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass

ISO, DAY_FIRST, MONTH_FIRST, YEAR_FIRST = "ISO 8601", "day month year", "month day year", "year month day"
CLOCK, MINUTES, HOURS_MINUTES, LASTS = "h:m:s", "m:s", "hhmm", "duration"
DIGITS = "hhmmss"
DATES = (ISO, DAY_FIRST, MONTH_FIRST, YEAR_FIRST)
CLOCKS = (CLOCK, MINUTES, HOURS_MINUTES, DIGITS)
TEXT_FORMS = (*DATES, *CLOCKS, LASTS)
"""Forms of a date or time other than a number in some unit."""
PARTS = ("year", "month", "day", "hour", "minute", "second", "fraction")
LONGEST = 60
_MONTHS = {
    word: number
    for number, words in enumerate(
        (
            "jan january januar jän jänner janvier janv enero ene gennaio gen januari janeiro",
            "feb february februar février févr fév fevr febrero febbraio februari fevereiro fev",
            "mar march märz mär mrz mars marzo maart mrt março",
            "apr april avril avr abril abr aprile",
            "may mai mayo maggio mag mei maio",
            "jun june juni juin junio giugno giu junho",
            "jul july juli juillet juil julio luglio lug julho",
            "aug august août aoû aout agosto ago augustus",
            "sep sept september septembre septiembre settembre set setembro",
            "oct october oktober okt octobre octubre ottobre ott outubro out",
            "nov november novembre noviembre novembro",
            "dec december dezember dez décembre déc diciembre dic dicembre dezembro",
        ),
        1,
    )
    for word in words.split()
}
_SIGNS = str.maketrans("年月日時时分秒", "-- ::: ")
"""Letters that stand for the signs between parts, one for one, so that no position changes."""
_POINTS = re.compile(r"(?<=\d[ T])(\d{1,2})\.(\d{2})\.(\d{2})(?!\d)")
"""A time of day written with points, after a date."""
ZONES = {
    "utc": 0,
    "gmt": 0,
    "z": 0,
    "wet": 0,
    "west": 1,
    "bst": 1,
    "cet": 1,
    "mez": 1,
    "cest": 2,
    "mesz": 2,
    "eet": 2,
    "eest": 3,
    "est": -5,
    "edt": -4,
    "cst": -6,
    "cdt": -5,
    "mst": -7,
    "mdt": -6,
    "pst": -8,
    "pdt": -7,
}
"""Hours ahead of universal time, as these letters are mostly meant; numbers are exact, and better."""
_WEEKDAY = r"(?:[^\W\d_]{2,9}\.?,?\s+)?"
_TIME = (
    r"(?P<hour>\d{1,2}):(?P<minute>\d{2})(?::(?P<second>\d{2})(?:[.,:](?P<fraction>\d{1,9})\d*)?)?"
    r"(?:\s*(?P<half>[AaPp])\.?[Mm]\.?(?![^\W\d_]))?"
)
_ZONE = (
    r"(?:\s*(?P<zone>[Zz]|[+-]\d{2}(?::?\d{2}(?::\d{2})?)?|\(?[A-Za-z]{3,5}(?:[+-]\d{1,2}(?::?\d{2})?)?\)?)"
    r"(?:\[[\w/]+\])?)?"
)
_DAY = r"(?P<day>\d{1,2})(?:st|nd|rd|th)?"
_MONTH = r"(?P<month>\d{1,2}|[^\W\d_]{3,10}\.?)"
_YEAR = r"(?:\s*[./\-\s,]+\s*(?P<year>\d{4}|\d{2}(?!\d|:)))"
_DATED = {
    YEAR_FIRST: r"(?P<year>\d{4})\s*[./\-]\s*(?P<month>\d{1,2}|[^\W\d_]{3,9})\s*[./\-]\s*(?P<day>\d{1,2})\.?",
    DAY_FIRST: rf"{_DAY}\s*[./\-\s]\s*{_MONTH}{_YEAR}",
    MONTH_FIRST: rf"{_MONTH}\s*[./\-\s]\s*{_DAY}{_YEAR}",
}
_BEHIND = r"(?:\s*[Tt,;_\s:]\s*(?:at\s+)?" + _TIME + _ZONE + r")?"
_MOMENT = {form: re.compile(_WEEKDAY + dated + _BEHIND + r"\s*$") for form, dated in _DATED.items()}
_CLOCK_FIRST = {form: re.compile(_TIME + r"[\s,;]+" + dated + r"\s*$") for form, dated in _DATED.items()}
_NO_YEAR = re.compile(
    _WEEKDAY + r"(?P<month>[^\W\d_]{3,10}\.?)\s+(?P<day>\d{1,2})\s+" + _TIME + _ZONE + r"(?:\s+(?P<year>\d{4}))?\s*$"
)
_COMPACT = re.compile(
    r"(?P<year>[12]\d{3})(?P<month>[01]\d)(?P<day>[0-3]\d)(?:[Tt_\-\s]?(?P<hour>\d{2})(?P<minute>\d{2})(?P<second>\d{2})?"
    r"(?:[.,](?P<fraction>\d{1,9})\d*)?" + _ZONE + r")?\s*$"
)
_MONTHLY = re.compile(r"(?P<year>[12]\d{3})-(?P<month>[01]\d)$")
_SINCE = r"(?:[Tt]?\+|[Tt])?"
"""Prefix of elapsed time: ``T+00:05``, ``+5 s``."""
_CLOCK = re.compile(
    _SINCE + r"(?P<hour>\d{1,5}):(?P<minute>\d{2})(?::(?P<second>\d{2})(?:[.,:](?P<fraction>\d{1,9})\d*)?)?"
    r"(?:\s*(?P<half>[AaPp])\.?[Mm]\.?)?" + _ZONE + r"\s*$"
)
_MINUTES = re.compile(_SINCE + r"(?P<minute>\d{1,5}):(?P<second>\d{2})(?:[.,](?P<fraction>\d{1,9})\d*)?\s*$")
_HHMM = re.compile(r"(?P<hour>\d{0,2}?)(?P<minute>\d{1,2})$")
_HHMMSS = re.compile(
    r"(?:(?:(?P<hour>\d{1,2}(?=\d{4}))?(?P<minute>\d{1,2}(?=\d{2})))?(?P<second>\d{1,2}))(?:[.,](?P<fraction>\d{1,9})\d*)?$"
)
_LASTS = re.compile(
    r"(?:(?P<days>\d+)\s*(?:days?|d)[\s,]*)?(?:(?P<hour>\d{1,5}):(?P<minute>\d{2}):(?P<second>\d{2})"
    r"(?:[.,](?P<fraction>\d{1,9})\d*)?)?\s*$"
)
_SPOKEN = re.compile(
    r"(?:[Tt]?\+|P?T?)(?:(\d+(?:[.,]\d+)?)\s*(weeks?|days?|hours?|minutes?|mins?|seconds?|secs?|ns|us|µs|ms|w|d|h|m|s)[\sT,]*)+$",
    re.IGNORECASE,
)
_PIECE = re.compile(r"(\d+(?:[.,]\d+)?)\s*(ns|us|µs|ms|[wdhms])", re.IGNORECASE)
_LASTS_S = {
    "w": 604_800.0,
    "d": 86_400.0,
    "h": 3600.0,
    "m": 60.0,
    "s": 1.0,
    "ms": 1e-3,
    "us": 1e-6,
    "µs": 1e-6,
    "ns": 1e-9,
}


@dataclass(frozen=True)
class Written:
    """``spans`` are places of digits by part; ``said`` what stands there in words: a month, a year, hours of a zone.

    ``has_date``, ``has_clock``, ``has_zone`` say what is told at all. ``plus_s`` is added to what the digits say.
    """

    spans: Mapping[str, tuple[int, int]]
    month: int = 0
    plus_s: float = 0.0
    half: str = ""
    has_date: bool = False
    has_clock: bool = False
    has_zone: bool = False


def written(text: str, form: str) -> Written | None:
    """The parts of a text in a form; None where it does not have that form."""
    if not text or len(text) > LONGEST:
        return None
    text = text.translate(_SIGNS).rstrip()
    if ":" not in text:
        text = _POINTS.sub(r"\1:\2:\3", text)
    if form in CLOCKS:
        match = {CLOCK: _CLOCK, MINUTES: _MINUTES, HOURS_MINUTES: _HHMM, DIGITS: _HHMMSS}[form].match(text)
        return _from(match) if match else None
    if form == LASTS:
        match = _LASTS.match(text)
        return _from(match) if match and any(match.groups()) else None
    match = _match(text, form)
    return _from(match) if match else None


def _match(text: str, form: str) -> re.Match[str] | None:
    if form in (ISO, YEAR_FIRST):
        for pattern in (_MOMENT[YEAR_FIRST], _COMPACT, _CLOCK_FIRST[YEAR_FIRST], _MONTHLY):
            if found := pattern.match(text):
                return found
        return None
    found = _MOMENT[form].match(text) or _CLOCK_FIRST[form].match(text)
    if found is None and form == MONTH_FIRST:
        return _NO_YEAR.match(text)
    return found


def _from(match: re.Match[str]) -> Written | None:
    told = match.groupdict()
    spans = {part: match.span(part) for part in PARTS if told.get(part) and told[part].isdecimal()}
    month = 0
    if told.get("month") and "month" not in spans:
        month = _MONTHS.get(told["month"].rstrip(".").lower(), 0)
        if not month:
            return None
    plus_s = 86_400.0 * int(told["days"]) if told.get("days") else 0.0
    zone = told.get("zone")
    if zone:
        hours = _zone_hours(zone)
        if hours is None:
            return None
        plus_s -= 3600.0 * hours
    has_date = bool(told.get("day") or told.get("month"))
    return Written(
        spans, month, plus_s, (told.get("half") or "").lower(), has_date, bool(told.get("minute")), bool(zone)
    )


def _zone_hours(zone: str) -> float | None:
    """Hours ahead of universal time; None for letters that are not a zone."""
    match = re.fullmatch(r"\(?([A-Za-z]*)(?:([+-])(\d{1,2})(?::?(\d{2}))?(?::\d{2})?)?\)?", zone)
    if match is None or (match[1] and match[1].lower() not in ZONES):
        return None
    shift = (int(match[3]) + int(match[4] or 0) / 60) * (-1 if match[2] == "-" else 1) if match[3] else 0.0
    return ZONES.get(match[1].lower(), 0) + shift


def spoken_s(text: str) -> float | None:
    """Seconds of a duration in words or in ISO 8601: ``1h 2m``, ``PT1M30S``, ``100 ms``; None for anything else."""
    if not text or len(text) > LONGEST or not _SPOKEN.match(text):
        return None
    return sum(float(number.replace(",", ".")) * _LASTS_S[unit.lower()] for number, unit in _PIECE.findall(text))
