"""The time axis of a capture, the same for every format: seconds from its start, never running backwards.

An invalid time, or one further away than any recording lasts, becomes the latest time so far.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted, counted_of, listed, plain_number
from lesart.core.raw.moments.counted import counted_on, restarted, spread
from lesart.core.raw.moments.read import PERIOD_S, UNIT_S, clock_set, seconds_of, unwrapped
from lesart.core.raw.moments.written import CLOCK, DATES, DIGITS, HOURS_MINUTES
from lesart.core.raw.source import Source

MOST_SAID = 3
"""Most rows that are named one by one."""
TWICE = 0.9
"""Of the rows that share a time with the one above: from this share of equal rows they are duplicates."""
NEWEST_FIRST = "the newest row comes first, so the rows are read from the last to the first"
MOST_BELOW, LEAST_ABOVE = 20, 4
"""Most rows below a table, and how many times as many it must have."""
BACK, FEWEST_STEPS = 0.9, 3
"""Share of steps that go backwards where the newest row is first, and the fewest steps."""
DAY_S = 86_400.0
FURTHEST_S = 1e12
"""Thirty thousand years from the first time of a file. A clock that says more is broken, or the cell is not a time."""


def time_axis(found: Floats, start: float | None = None) -> tuple[Floats, int] | None:
    """Seconds from ``start``, or from the first time there is, and how many rows came with a time before one above.

    ``found`` are times in seconds, shape (n,), NaN where there is none. None where there is no time at all.
    """
    known = np.isfinite(found)
    if not known.any():
        return None
    with np.errstate(all="ignore"):
        since = found - (found[known][0] if start is None else start)
        known &= np.abs(since) <= FURTHEST_S
    t = np.where(known, since, -np.inf)
    latest = np.maximum(np.maximum.accumulate(t), 0.0)
    return latest, int(np.count_nonzero(known & (t < latest)))


@dataclass(frozen=True, eq=False)
class TimeAxis:
    """``t`` seconds from the start, shape (n,); ``steps_back`` rows have a time before an earlier one; ``said`` are
    sentences on how times were read. ``clock_s`` is the time of day of the start; NaN where none is written."""

    t: Floats
    steps_back: int
    said: tuple[str, ...] = ()
    clock_s: float = math.nan


def rows_below(source: Source, times: Floats, clocks: Floats | None = None) -> int:
    """Number of rows below the last one with a time: sums, means, signatures. They are not samples."""
    if source.format == "recording" or not len(times) or np.isfinite(times[-1] if clocks is None else clocks[-1]):
        return 0
    known = np.flatnonzero(np.isfinite(times if clocks is None else times + clocks))
    if not len(known):
        return 0
    below = len(times) - 1 - int(known[-1])
    return below if below <= MOST_BELOW and LEAST_ABOVE * below <= len(known) else 0


def below_said(rows: int) -> str:
    """A sentence that they are left out."""
    one = rows == 1
    return (
        f"{counted(rows, 'row')} after the last time {'has' if one else 'have'} none, like a mean or a sum; "
        f"{'it is' if one else 'they are'} left out"
    )


def is_newest_first(source: Source, times: Floats, clocks: Floats | None = None) -> bool:
    """True where times run backwards from row to row, as in tables on web pages.

    ``times`` and ``clocks`` as for ``axis_of``.
    """
    if source.format == "recording":
        return False
    whole = times if clocks is None else times + clocks
    period_s = PERIOD_S.get(source.time_unit)
    if period_s is None and len(whole) and whole[-1] > whole[0]:
        return False  # as nearly every file ends later than it begins
    known = whole[np.isfinite(whole)]
    if len(known) <= FEWEST_STEPS:
        return False
    steps = np.diff(known)
    if period_s is not None:
        # Backwards past midnight: a step of a little less than a day is one back.
        steps = (steps + period_s / 2) % period_s - period_s / 2
    moved = int(np.count_nonzero(steps))
    return moved >= FEWEST_STEPS and int(np.count_nonzero(steps < 0)) >= BACK * moved


def axis_of(
    source: Source,
    times: Floats,
    clocks: Floats | None = None,
    start: float | None = None,
    *,
    newest_first: bool = False,
) -> TimeAxis | None:
    """The axis of the numbers in a time column, which are in the source's unit, or of the seconds of its moments.

    ``clocks`` are seconds since midnight, where the time column holds dates. None where there is no time at all.
    ``newest_first``: rows of the file that are given from its last to its first.
    """
    found = _axis_of(source, times, clocks, start, len(times) if newest_first else None)
    if found is None or not newest_first:
        return found
    return replace(found, said=(NEWEST_FIRST, *found.said))


def _axis_of(
    source: Source, times: Floats, clocks: Floats | None, start: float | None, from_end: int | None
) -> TimeAxis | None:
    said: tuple[str, ...] = ()
    form = source.time_unit
    known = np.isfinite(times)
    if not known.any():
        return None
    if form in UNIT_S and start is None:
        times, said = _counted_on(times, known, from_end)
    if form in UNIT_S:
        scale = UNIT_S[form]
        if scale != 1.0:
            # The first time is subtracted before dividing, so that 100 ms is exactly 0.1 s.
            times = times - (times[known][0] if start is None else 0.0)
            times = times / round(1 / scale) if scale < 1 else times * scale
    elif form in PERIOD_S:
        times = unwrapped(times, PERIOD_S[form])
    if form in DATES:
        times, changes = clock_set(times if clocks is None else times + clocks)
        said = tuple(_clock_said(_row_of(row, from_end), hours) for row, hours in changes)
    found = time_axis(times, start)
    # Seconds since 1970 have a time of day too, but in an unknown zone.
    is_written = start is None and (form in DATES or PERIOD_S.get(form) == DAY_S)
    clock_s = float(times[np.isfinite(times)][0] % DAY_S) if found is not None and is_written else math.nan
    return None if found is None else TimeAxis(found[0], found[1], said, clock_s)


def _row_of(place: int, from_end: int | None) -> int:
    """Number of a row in the file, from 1; ``from_end`` is the number of rows of a file read from its end."""
    return place + 1 if from_end is None else from_end - place


def _counted_on(times: Floats, known: Bools, from_end: int | None) -> tuple[Floats, tuple[str, ...]]:
    """Times of a counter continued past a wrap, or a restart of the logger."""
    some = times if known.all() else times[known]
    if (some[1:] >= some[:-1]).all():
        return times, ()  # as nearly every clock runs
    whole = times.copy()
    counted, bits = counted_on(some)
    whole[known], starts = restarted(counted)
    said = (
        [f"the time is a counter of {bits} bits, which begins again at 0 when it is full; the times go on"]
        if bits
        else []
    )
    if starts:
        rows = [_row_of(place, from_end) for place in np.flatnonzero(known)[list(starts)].tolist()]
        at = f"{len(rows)} rows"
        if len(rows) <= MOST_SAID:
            at = f"{'row' if len(rows) == 1 else 'rows'} {listed([str(row) for row in rows])}"
        said.append(
            f"at {at} the time begins again, as when a logger is switched on; nothing says how long it was off, "
            "so the times go on one step later"
        )
    return whole, tuple(said)


def evenly_spread(axis: TimeAxis, columns: Sequence[Floats]) -> TimeAxis:
    """With rows that share a time spread over it, and a sentence that says so; as it is where they are one row twice.

    ``columns`` are the values of all rows, each of shape (n,).
    """
    again = np.flatnonzero(np.diff(axis.t) == 0)
    if not len(again):
        return axis
    alike = [(values[again] == values[again + 1]) | np.isnan(values[again]) for values in columns]
    twice = int(np.count_nonzero(np.logical_and.reduce(alike))) if alike else 0
    if twice > TWICE * len(again):
        said = f"{counted_of(twice, len(axis.t), 'row')} repeat the row above, its time too"
        return replace(axis, said=(*axis.said, said)) if twice > TWICE * len(axis.t) / 2 else axis
    found = spread(axis.t)
    if found.shared == 1.0:
        return axis
    said = f"{plain_number(found.shared, 3)} rows share each time; they are taken as spread evenly over it"
    return replace(axis, t=found.times, said=(*axis.said, said))


def _clock_said(row: int, hours: int) -> str:
    way = "back" if hours < 0 else "on"
    return f"at row {row} the clock was set {way} by an hour, as in summer time; the times go on as if it had not been"


def moments_of(source: Source, name: str, cells: Sequence[str], number: Callable[[str], float]) -> Floats:
    """The content of a time column, shape (n,): numbers in the source's unit, or seconds of dates and times; NaN for
    none."""
    if name == source.clock:
        return _clocks_of(cells)
    if source.time_unit in UNIT_S:
        return np.array([number(cell) for cell in cells], np.float64)
    return seconds_of(cells, source.time_unit)


def _clocks_of(cells: Sequence[str]) -> Floats:
    """Seconds since midnight from texts with colons or digits alone: 0930, 93015."""
    found = seconds_of(cells, CLOCK)
    if np.isfinite(found).any():
        return found
    return seconds_of(cells, HOURS_MINUTES if all(len(cell.strip()) == 4 for cell in cells) else DIGITS)


def text_of(value: Any) -> str:
    """A value of a table as the text of a cell: empty for None, integers without a point."""
    if value is None or (isinstance(value, float) and math.isnan(value)):
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e16:
        return str(int(value))
    return str(value)
