"""Which column of a table is its time, and in what form, by its contents first and its name second."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import listed, plain_number
from lesart.core.raw.cells import NO_VALUE, plain
from lesart.core.raw.moments.counted import counted_on, restarted
from lesart.core.raw.moments.decide import Form, form_of
from lesart.core.raw.moments.read import PERIOD_S, UNIT_S, seconds_of, unwrapped
from lesart.core.raw.moments.written import CLOCK, DIGITS, HOURS_MINUTES, ISO
from lesart.core.raw.spelled.unit_said import speaks_of, unit_in_name
from lesart.core.units import Unit
from lesart.core.visible import visible

NAMES = re.compile(
    r"(_?t|time.*|times?tamp.*|ts|date.?time.*|date.*|day|days|datum.*|zeit.*|uhrzeit.*|zeitpunkt|seconds?|secs?|sekunden?|"
    r"minutes?|hours?|millis.*|micros.*|nanos.*|ms|us|µs|ns|s|uptime.*|epoch.*|unix.*|utc.*|gmt|_?time|when|at|elapsed.*|"
    r"created(_at)?|recorded(_at)?|measured(_at)?|observed(_at)?|updated(_at)?|logged(_at)?|received(_at)?|local.?time.*|"
    r"date_?time.*|moment|clock|temps|heure|fecha|hora|tempo|data_?ora|index)(\b|_|$)",
    re.IGNORECASE,
)
_LASTING = re.compile(r"uptime|elapsed|runtime|millis|micros|seconds|secs?$|_s$|_ms$", re.IGNORECASE)
_INNER = re.compile(r".*[._ ](time|timestamp|ts|date|datetime|utc|epoch|at)$", re.IGNORECASE)
_LOOKS = re.compile(r"\d{1,4}[:/.\-]\d{1,2}[:/.\-]\d{1,4}|\d{1,2}:\d{2}")
_DAY, _DIGITS = re.compile(r"(?:19|20)\d{6}"), re.compile(r"\d{5,6}(?:\.\d+)?")
_SIX, _FOUR = re.compile(r"[0-3]\d[01]\d[0-3]\d"), re.compile(r"\d{4}")
EPOCHS = ((3e8, 5e9, "s"), (3e11, 5e12, "ms"), (3e14, 5e15, "µs"), (3e17, 9.3e18, "ns"))
"""Numbers that are seconds since 1970 from 1979 to 2128, and their unit when there are more digits."""
THESE_YEARS_S = (1.42e9, 2.05e9)
"""From 2015 to 2034: a rising count of pulses is seldom in this range."""
DAY_NUMBERS = (20_000.0, 80_000.0)
"""Days since the end of 1899, as spreadsheets count them: from 1954 to 2119."""
YEARS = (1500.0, 2200.0)
_OF_DAYS = re.compile(r"_?(?:dat|day|tag|fecha|jour|giorno)", re.IGNORECASE)
COUNTS = ("1", "ct")
"""Units of counts, which a time may have too: a timer counts."""
DAYS_OF_YEAR = ("doy", "yday", "day of year", "day_of_year", "dayofyear", "julian", "julian day", "jday")
OFTEN_LONG, MUCH_LONGER = 0.3, 20
"""Least share of such steps for them to be those of a sensor, and least ratio to those between sensors."""
LEAST_DOUBTED, CHOSEN_S = 10.0, (10.0, 12.0, 15.0, 20.0, 30.0)
"""Steps that people choose in seconds, besides whole minutes; shorter than the first they are hardly anything else."""


@dataclass(frozen=True)
class TimeColumn:
    """``column`` is empty where none is a time.

    ``unit`` is a unit or a form of ``moments``; ``clock`` the column with the time of day, where dates stand alone.

    ``doubt`` says what could be read otherwise; ``unread`` which column looks like a time and why it was not taken.
    """

    column: str = ""
    unit: str = "s"
    clock: str = ""
    doubt: str = ""
    unread: str = ""


def find_time(
    columns: Mapping[str, Sequence[str]],
    decimal: str = ".",
    *,
    named: bool = True,
    units: Mapping[str, Unit] | None = None,
) -> TimeColumn:
    """Of columns by name with their first cells as texts.

    ``named``: do the names say anything? ``units`` by name are those that are known; else what a name ends in.

    Where none goes on from row to row, one that does from the last row to the first: tables on a page often have the
    newest row on top.
    """
    found = _found(columns, decimal, named=named, units=units)
    if found.column:
        return found
    back_to_front = {name: cells[::-1] for name, cells in columns.items()}
    back = _found(back_to_front, decimal, named=named, units=units, is_sure=True)
    return back if back.column else found


def _found(
    columns: Mapping[str, Sequence[str]],
    decimal: str,
    *,
    named: bool,
    units: Mapping[str, Unit] | None,
    is_sure: bool = False,
) -> TimeColumn:
    """``is_sure``: only what is a time by its form, or by a name of more than one letter. Many other columns fall."""
    if len(columns) < 2:
        return TimeColumn()
    forms = {name: form for name, cells in columns.items() if (form := form_of(cells)) is not None}
    if found := _of_texts(columns, forms) or _of_digits(columns):
        return found
    numbers = {name: numbers for name, cells in columns.items() if (numbers := _numbers(cells, decimal)) is not None}
    named = named and not all(re.fullmatch(r"column \d+", name) for name in columns)
    unread = _in_parts(columns)
    if unread:
        return TimeColumn(unread=unread)
    if not any(named and says_time(name) for name in numbers):
        for name, values in numbers.items():
            if not (units or {}).get(name) and not speaks_of(name) and (unit := _since_1970(values)):
                doubt = f'"{visible(name)}" counts like seconds since 1970, and is taken for the time'
                is_said = not named or unit != "s" or name == next(iter(columns))
                return TimeColumn(name, unit, doubt="" if is_said else doubt)
    for name, values in numbers.items():
        said = unit_in_name(name) if units is None and named else (units or {}).get(name)
        if is_sure and (not named or len(name.strip()) < 2):
            continue
        unit, why = _of_numbers(name, values, said, is_first=name == next(iter(columns)), named=named)
        if unit:
            found = _in_thousandths(name, values) if unit == "s" and said is None else TimeColumn(name, unit)
            return found if named or found.doubt else replace(found, doubt=_may_be_measured(name, values, unit))
        unread = unread or why
    first = next(iter(columns))
    if not is_sure and first in numbers and _goes_evenly(first, numbers[first], (units or {}).get(first)):
        return TimeColumn(first, "s", doubt=f'"{visible(first)}" rises evenly and is taken for the time, in seconds')
    return TimeColumn(unread=unread or _unread(columns, numbers, named=named))


def _of_texts(columns: Mapping[str, Sequence[str]], forms: Mapping[str, Form]) -> TimeColumn | None:
    """A time column of dated texts first; a date without a time of day takes that of another column."""
    dated = [name for name, form in forms.items() if form.has_date]
    clocks = [name for name, form in forms.items() if form.has_clock and not form.has_date]
    whole = [name for name in dated if forms[name].has_clock]
    for name in _by_name(whole):
        if _goes_on(columns[name], forms[name].name) or len(whole) == 1:
            return TimeColumn(name, forms[name].name, doubt=forms[name].doubt)
    if whole:
        first = _by_name(whole)[0]
        return TimeColumn(first, forms[first].name, doubt=forms[first].doubt)
    if dated and clocks:
        # Text after a time of day, and how even the steps are, tell about the dates too.
        both = [" ".join(cells) for cells in zip(columns[dated[0]], columns[clocks[0]], strict=True) if all(cells)]
        form = form_of(both) or forms[dated[0]]
        return TimeColumn(dated[0], form.name, clocks[0], form.doubt)
    for name in (*_by_name(dated), *_by_name(clocks), *(each for each in forms if each not in (*dated, *clocks))):
        if _goes_on(columns[name], forms[name].name):
            doubt = forms[name].doubt or _may_be_minutes(name, columns[name], forms[name].name)
            return TimeColumn(name, forms[name].name, doubt=doubt)
    return None


def _of_digits(columns: Mapping[str, Sequence[str]]) -> TimeColumn | None:
    """Dates and times of day in digits alone, under names that say so: ``20260501``, ``93015``."""
    filled = {name: [text for cell in cells if (text := cell.strip())] for name, cells in columns.items()}
    days = [name for name in filled if says_time(name) and _are_in_digits(filled[name], _DAY, ISO)]
    others = [name for name in filled if says_time(name) and not _OF_DAYS.match(name)]
    clocks = [name for name in others if _are_in_digits(filled[name], _DIGITS, DIGITS)]
    clocks += [name for name in others if days and _are_in_digits(filled[name], _FOUR, HOURS_MINUTES)]
    for day in days:
        if clocks and len(set(filled[day])) < len(filled[day]):
            return TimeColumn(day, ISO, clocks[0])
        if _goes_on(columns[day], ISO):
            return TimeColumn(day, ISO)
    if not clocks or not _goes_on(columns[clocks[0]], DIGITS):
        return None
    clock = filled[clocks[0]]
    # Numbers with a constant step may be seconds or milliseconds as well as clock times, unless a date is beside them.
    in_time, in_digits = ({*np.diff(each).tolist()} for each in (seconds_of(clock, DIGITS), [*map(float, clock)]))
    is_dated = any(says_time(name) and name != clocks[0] and all(map(_SIX.fullmatch, filled[name])) for name in filled)
    return TimeColumn(clocks[0], DIGITS) if is_dated or len(in_digits) > len(in_time) else None


def _are_in_digits(texts: Sequence[str], digits: re.Pattern[str], form: str) -> bool:
    """True where all of them have this form and are valid."""
    if not texts or not all(map(digits.fullmatch, texts)):
        return False
    found = seconds_of(texts, form)
    return bool(np.isfinite(found).all()) and (form == ISO or float(found.max()) < PERIOD_S[form])


def _may_be_minutes(name: str, cells: Sequence[str], form: str) -> str:
    """The doubt on hours and minutes that begin at zero without a leading zero, or are said to be durations: they may
    be minutes and seconds."""
    told = [text for cell in cells if (text := cell.strip())]
    if form != CLOCK or any(text.count(":") != 1 or text[-1:].lower() == "m" for text in told):
        return ""
    if not (_LASTING.search(name) or told[0] == "0:00"):
        return ""
    return f'"{visible(told[-1])}" is read as hours and minutes; as minutes and seconds all would go 60 times as fast'


def _by_name(names: Sequence[str]) -> list[str]:
    """The columns, those named after time first."""
    return sorted(names, key=lambda name: not says_time(name))


def _goes_on(cells: Sequence[str], form: str) -> bool:
    """True where its times differ, and seldom run backwards. A column of one date throughout is not a clock."""
    found = seconds_of(cells, form)
    found = unwrapped(found, PERIOD_S[form]) if form in PERIOD_S else found
    steps = np.diff(found[np.isfinite(found)])
    return len(steps) == 0 or bool((steps > 0).any() and (steps >= 0).mean() >= 0.8)


def says_time(name: str) -> bool:
    """True where a name speaks of a time."""
    return bool(NAMES.match(name.strip()) or _INNER.match(name.strip()))


def _numbers(cells: Sequence[str], decimal: str) -> Floats | None:
    """The numbers of a column; None where more than half are not numbers, or exceed floats."""
    found = [value for cell in cells if (value := plain(cell, decimal)) is not None and math.isfinite(value)]
    filled = sum(cell.strip().lower() not in NO_VALUE for cell in cells)
    return np.array(found) if found and len(found) >= max(2, filled / 2) else None


def _of_numbers(name: str, values: Floats, unit: Unit | None, *, is_first: bool, named: bool) -> tuple[str, str]:
    """Its unit where it is the time, else empty, with the reason where it looks like one."""
    in_time = unit is not None and unit.symbol in UNIT_S
    if unit is not None and not in_time and unit.symbol not in COUNTS:
        return "", ""
    # A capital T is a temperature, unless it begins at zero.
    spoken = named and says_time(name) and (name != "T" or float(values[0]) == 0)
    epoch = next((unit for low, high, unit in EPOCHS if low <= float(values.min()) and float(values.max()) <= high), "")
    guessed = not named and is_first and not _counts(values)
    dated = is_first and bool(epoch) and bool((values == np.rint(values)).all())
    if not (spoken or (in_time and is_first) or guessed or dated):
        return "", ""
    going = restarted(counted_on(values)[0])[0] if spoken or in_time else values
    if not _rises(going, strictly=guessed):
        return "", f'"{visible(name)}" does not go on from row to row' if spoken and not in_time else ""
    if in_time and unit is not None:
        return unit.symbol, ""
    if epoch and (spoken or dated or epoch == "s"):
        return epoch, ""
    if spoken and _are_hours_and_minutes(name, values):
        return HOURS_MINUTES, ""
    lowered = name.lower()
    for begins, unit_name in (
        ("milli", "ms"),
        ("ms", "ms"),
        ("micro", "µs"),
        ("us", "µs"),
        ("µs", "µs"),
        ("nano", "ns"),
        ("ns", "ns"),
        ("minute", "min"),
        ("hour", "h"),
        ("day", "d"),
    ):
        if lowered.startswith(begins):
            if unit_name in ("min", "h", "d") and len(set(values.tolist())) < 0.8 * len(values):
                return "", f'"{visible(name)}" stands still for rows on end'
            return unit_name, ""
    if spoken and _are_day_numbers(name, values):
        return "d", ""
    if spoken and _are_years(values):
        return "", f'"{visible(name)}" counts years'
    if re.fullmatch(r"index", lowered):
        return "", ""
    return "s", ""


def _may_be_measured(name: str, values: Floats, unit: str) -> str:
    """Why a nameless column that rises and does not begin at zero is not a time: fractions may be of anything; else
    empty."""
    if unit != "s" or values[0] == 0 or (values == np.rint(values)).all() or float(values.min()) >= EPOCHS[0][0]:
        return ""
    return f'"{name}" rises throughout and is taken for the time, in seconds; nothing names it'


def _since_1970(values: Floats) -> str:
    """The unit of whole numbers that are times of these years since 1970, whatever and wherever their column; empty for
    others."""
    for power, unit in ((0, "s"), (3, "ms"), (6, "µs"), (9, "ns")):
        low, high = (each * 10.0**power for each in THESE_YEARS_S)
        if low <= float(values.min()) and float(values.max()) <= high and bool((values == np.rint(values)).all()):
            return unit if _rises(values, strictly=False) else ""
    return ""


def _in_thousandths(name: str, values: Floats) -> TimeColumn:
    """For whole numbers without any hint of a unit: milliseconds, as small processors count, where their steps are not
    ones that people choose in seconds. Either way it is a doubt, except for steps of a few seconds."""
    whole = counted_on(values)[0]
    steps = np.diff(whole)
    forward = steps[steps > 0]
    # Where several sensors report one after the other, most steps may be those between them.
    long = forward[forward >= LEAST_DOUBTED]
    step = float(np.median(forward)) if len(forward) else 0.0
    if len(long) >= OFTEN_LONG * len(forward) > 0 and float(np.median(long)) > MUCH_LONGER * step:
        step = float(np.median(long))
    if step < LEAST_DOUBTED or not (values == np.rint(values)).all() or float(values.max()) >= EPOCHS[0][0]:
        return TimeColumn(name, "s")
    chosen = step in CHOSEN_S or step % 60 == 0
    said, else_ = ("seconds", "milliseconds") if chosen else ("milliseconds", "seconds")
    doubt = f'"{visible(name)}" goes by {plain_number(step)}, taken for {said}; nothing says that it is not {else_}'
    return TimeColumn(name, "s" if chosen else "ms", doubt=doubt)


def _in_parts(columns: Mapping[str, Sequence[str]]) -> str:
    """Dates whose parts are in columns of their own."""
    lowered = {name.strip().lower(): name for name in columns}
    for wanted in (("year", "month", "day"), *(("year", day) for day in DAYS_OF_YEAR)):
        parts = [f'"{visible(lowered[each])}"' for each in wanted if each in lowered]
        if len(parts) == len(wanted):
            return f"{listed(parts)} are in separate columns, which are not read together; join them into one"
    return ""


def _counts(values: Floats) -> bool:
    """True where it only numbers the rows."""
    return bool(values[0] in (0, 1)) and bool((np.diff(values) == 1).all())


def _goes_evenly(name: str, values: Floats, unit: Unit | None) -> bool:
    """True where the first column rises by the same step throughout, and that is not a whole number."""
    steps = np.diff(values)
    if len(steps) < 8 or unit is not None or speaks_of(name) or not (steps > 0).all():
        return False
    step = float(np.median(steps))
    return float(np.ptp(steps)) < 0.01 * step and abs(step - round(step)) > 1e-9


def _rises(values: Floats, *, strictly: bool) -> bool:
    """True where most steps rise: a clock that once ran backwards is still the clock."""
    steps = np.diff(values)
    up = steps > 0 if strictly else steps >= 0
    return bool(len(steps)) and bool(up.mean() >= 0.9) and bool((steps > 0).any())


def _are_day_numbers(name: str, values: Floats) -> bool:
    """True for fractional days: steps that are round in seconds and not in days, or day by day under the name date."""
    if not DAY_NUMBERS[0] <= float(values[0]) <= float(values[-1]) <= DAY_NUMBERS[1] or _LASTING.search(name):
        return False
    steps = np.diff(values)
    step = float(np.median(steps[steps > 0]))
    if step >= 1:
        return bool(re.match(r"dat|day|tag|fecha", name.lower()))
    seconds = step * 86_400
    is_round_in_days = abs(round(step, 4) - step) < 1e-9
    return not is_round_in_days and abs(seconds - round(seconds)) < 0.02 * max(seconds, 0.5)


def _are_years(values: Floats) -> bool:
    whole = bool((values == np.rint(values)).all())
    return (
        whole and YEARS[0] <= float(values.min()) and float(values.max()) <= YEARS[1] and len(set(np.diff(values))) <= 2
    )


def _are_hours_and_minutes(name: str, values: Floats) -> bool:
    """True for ``840, 850, 900``: whole numbers whose last two digits are minutes, with at least one step over an
    hour."""
    if unit_in_name(name) is not None or not bool((values == np.rint(values)).all()) or values.max() > 2359:
        return False
    if len(values) < 4 or bool((values % 100 >= 60).any()) or _LASTING.search(name):
        return False
    minutes = (values // 100) * 60 + values % 100
    steps, plain_steps = np.diff(minutes), np.diff(values)
    return len({float(step) for step in steps if step > 0}) < len({float(step) for step in plain_steps if step > 0})


def _unread(columns: Mapping[str, Sequence[str]], numbers: Mapping[str, Floats], *, named: bool) -> str:
    """A column that looks like a time to a person, with one of its cells."""
    for name, cells in columns.items():
        cell = next((cell.strip() for cell in cells if cell.strip()), "")
        looks = name not in numbers and bool(_LOOKS.search(cell))
        if cell and (looks or (named and name not in numbers and says_time(name))):
            return f'"{visible(name)}" looks like a time, but "{visible(cell)[:40]}" is not in a form that Lesart knows'
    return ""
