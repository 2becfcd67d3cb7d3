"""Texts to seconds, in bulk: those written alike are read together, by the positions of their digits.

A dated time is in seconds since 1970; without a written zone it is taken as it stands, never in the zone of the machine
that reads it. A time of day is in seconds since midnight, and continues past midnight only in ``unwrapped``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools, Floats
from lesart.core.raw.moments.written import (
    CLOCK,
    DIGITS,
    HOURS_MINUTES,
    LASTS,
    MINUTES,
    TEXT_FORMS,
    Written,
    spoken_s,
    written,
)

UNIT_S = {"s": 1.0, "ms": 1e-3, "µs": 1e-6, "ns": 1e-9, "min": 60.0, "h": 3600.0, "d": 86_400.0}
"""Seconds per unit of a numeric time; ``d`` also serves the day numbers of spreadsheets."""
FORMS = (*UNIT_S, *TEXT_FORMS)
"""Forms of dates and times, as the project file names them."""
PERIOD_S = {CLOCK: 86_400.0, HOURS_MINUTES: 86_400.0, DIGITS: 86_400.0, MINUTES: 3600.0}
"""Seconds after which a time of day begins again."""
MOST_PATTERNS = 500
NO_YEAR = 2000
_MONTH_DAYS = np.array([0, 31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
Numbers = npt.NDArray[np.int64]


def seconds_of(cells: Sequence[str], form: str) -> Floats:
    """Seconds of each text, shape (n,); NaN where it does not have that form."""
    found = np.full(len(cells), np.nan)
    if not len(cells):
        return found
    texts = np.array([cell.strip() for cell in cells], dtype=np.str_)
    if texts.dtype.itemsize == 0:
        return found
    letters = texts.view(np.uint32).reshape(len(texts), -1)
    is_digit = (letters >= ord("0")) & (letters <= ord("9"))
    # Texts that differ in nothing but their digits are written alike.
    patterns = np.where(is_digit, ord("0"), letters).astype(np.uint32).view(texts.dtype).reshape(-1)
    kinds, first, belongs = np.unique(patterns, return_index=True, return_inverse=True)
    order = np.argsort(belongs, kind="stable")
    ends = np.searchsorted(belongs[order], np.arange(len(kinds) + 1))
    for number in range(min(len(kinds), MOST_PATTERNS)):
        text = str(texts[first[number]])
        which = order[ends[number] : ends[number + 1]]
        how = written(text, form)
        if how is not None:
            found[which] = _seconds(letters[which], how)
        elif form == LASTS:
            found[which] = [_lasting(str(each)) for each in texts[which].tolist()]
    return found


def _lasting(text: str) -> float:
    seconds = spoken_s(text)
    return math.nan if seconds is None else seconds


def _seconds(letters: npt.NDArray[np.uint32], how: Written) -> Floats:
    """Seconds of texts that are written alike, shape (n, length)."""
    parts = {part: _number(letters, span) for part, span in how.spans.items()}
    zero = np.zeros(len(letters), np.int64)
    hour, minute = parts.get("hour", zero), parts.get("minute", zero)
    second = parts.get("second", zero)
    good = (second <= 60) if "second" in parts and "hour" not in parts else (minute < 60) & (second <= 60)
    if how.half:
        good &= (hour >= 1) & (hour <= 12)
        hour = hour % 12 + (12 if how.half == "p" else 0)
    seconds = (hour * 3600 + minute * 60 + second).astype(np.float64)
    if "fraction" in parts:
        begin, end = how.spans["fraction"]
        seconds += parts["fraction"] / 10.0 ** (end - begin)
    if how.has_date:
        month = parts.get("month", zero + how.month)
        day, year = parts.get("day", zero + 1), parts.get("year", zero + NO_YEAR)
        if "year" in how.spans and how.spans["year"][1] - how.spans["year"][0] == 2:
            year = np.where(year < 69, year + 2000, year + 1900)
        good &= (month >= 1) & (month <= 12) & (day >= 1) & (hour <= 24)
        good &= day <= _MONTH_DAYS[np.clip(month, 1, 12)]
        seconds += 86_400.0 * _days(year, month, day)
    return np.where(good, seconds + how.plus_s, np.nan)


def _number(letters: npt.NDArray[np.uint32], span: tuple[int, int]) -> Numbers:
    digits = letters[:, span[0] : span[1]].astype(np.int64) - ord("0")
    value = np.zeros(len(letters), np.int64)
    for place in range(digits.shape[1]):
        value = value * 10 + digits[:, place]
    return value


def _days(year: Numbers, month: Numbers, day: Numbers) -> Numbers:
    """Days since 1 January 1970 in the Gregorian calendar, its years counted from March."""
    year = year - (month <= 2)
    era = year // 400
    of_era = year - era * 400
    of_year = (153 * ((month + 9) % 12) + 2) // 5 + day - 1
    days: Numbers = era * 146_097 + of_era * 365 + of_era // 4 - of_era // 100 + of_year - 719_468
    return days


def unwrapped(seconds: Floats, period_s: float) -> Floats:
    """Times of day that continue past midnight: a step back by more than half a period begins a new one."""
    known = np.flatnonzero(np.isfinite(seconds))
    if len(known) < 2:
        return seconds
    some = seconds[known]
    if some.max() >= period_s:
        return seconds  # it counts on by itself
    rounds = np.concatenate(([0], np.cumsum(np.diff(some) < -period_s / 2)))
    whole = seconds.copy()
    whole[known] = some + period_s * rounds
    return whole


def clock_set(seconds: Floats) -> tuple[Floats, tuple[tuple[int, int], ...]]:
    """Local times without summer time, and the rows at which the clock was set, by how many hours.

    Only where all but a few steps are alike and one goes back by an hour, or on by one in the night of a Sunday in
    spring: a pause of an hour at noon is one.
    """
    known = np.flatnonzero(np.isfinite(seconds))
    if len(known) < 8:
        return seconds, ()
    some = seconds[known]
    steps = np.diff(some)
    usual = float(np.median(steps))
    if not 0 < usual <= 1800 or np.mean(np.abs(steps - usual) <= 0.5 * usual) < 0.8:
        return seconds, ()
    back = np.abs(steps + 3600 - usual) <= 0.5 * usual
    on = (np.abs(steps - 3600 - usual) <= 0.5 * usual) & _is_spring_night(some[1:])
    if not back.any() and not on.any():
        return seconds, ()
    whole = seconds.copy()
    whole[known] = some + 3600.0 * np.concatenate(([0], np.cumsum(back.astype(int) - on.astype(int))))
    set_at = [(int(known[place + 1]), -1 if back[place] else 1) for place in np.flatnonzero(back | on)]
    return whole, tuple(set_at)


def _is_spring_night(seconds: Floats) -> Bools:
    """True before four in the morning of a Sunday in March, April, September or October."""
    days = np.floor(seconds / 86_400)
    month = (seconds.astype(np.int64).astype("datetime64[s]").astype("datetime64[M]").astype(int) % 12) + 1
    night: Bools = (seconds - days * 86_400 < 4 * 3600) & ((days + 4) % 7 == 0) & np.isin(month, (3, 4, 9, 10))
    return night
