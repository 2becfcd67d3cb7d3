"""Times that a logger counted: a counter that wraps, a restart, stamps too coarse to tell rows apart."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass

Ints = npt.NDArray[np.int64]
COUNTERS = (16, 24, 32)
"""Bits of the counters that small processors have."""
LATE = 3.0
"""Of the usual step: where a counter wrapped, the next row came no later than this."""
FEWEST = 8
"""Fewest rows on either side of a restart; with fewer it may be one wrong time."""
ANEW = 0.5
"""A date that fell below this share of itself restarted; a clock that was set did not."""
NO_DATE = 1e8
"""In any unit: times that begin above this are not counted from a start."""
FEWEST_SURE, FEWEST_SHARING = 2, 4
"""From this many stamps in a file, and rows with each, equal numbers of rows are not chance."""
ALIKE = 0.8
"""Share of the seconds that have to hold about as many rows as the median one."""


@dataclass(frozen=True, eq=False)
class Spread:
    """Times, shape (n,), where ``shared`` rows had the same one before; 1 where nothing was spread."""

    times: Floats
    shared: float


def counted_on(values: Floats) -> tuple[Floats, int]:
    """Values of a counter as if it had not begun again, shape (n,), and its bits; 0 and the values where it did not.

    It did where all are whole and every step back is a usual step on when a full counter is added to it.
    """
    if len(values) < FEWEST or not np.isfinite(values).all():
        return values, 0
    steps = np.diff(values)
    back = steps < 0
    if not back.any() or values.min() < 0 or not np.all(values == np.rint(values)):
        return values, 0
    forward = steps[steps > 0]
    usual = float(np.median(forward)) if len(forward) else 0.0
    for bits in COUNTERS:
        whole = 2.0**bits
        if values.max() < whole and usual > 0 and np.all(steps[back] + whole <= LATE * usual):
            return values + whole * np.concatenate(([0.0], np.cumsum(back))), bits
    return values, 0


def restarted(values: Floats) -> tuple[Floats, tuple[int, ...]]:
    """Times as if the logger had not restarted, shape (n,), and the rows at which it did: each continues one usual step
    after the last row before it, because nothing says how long it was off."""
    if len(values) < 2 * FEWEST or not np.isfinite(values).all() or values.min() < 0:
        return values, ()
    steps = np.diff(values)
    forward = steps[steps > 0]
    usual = float(np.median(forward)) if len(forward) else 0.0
    # Back to its first value or before; or a date that fell as far, as to 1970.
    is_anew = values[1:] <= (values[0] + LATE * usual if values[0] < NO_DATE else ANEW * values[:-1])
    falls = np.flatnonzero((steps < 0) & is_anew) + 1
    edges = np.concatenate(([0], falls, [len(values)]))
    if not len(falls) or not len(forward) or np.diff(edges).min() < FEWEST or np.any(np.delete(steps, falls - 1) < 0):
        return values, ()
    if np.any(steps[falls] > LATE * usual):
        return values, ()  # one wrong time, after which it goes on as before
    lost = np.zeros(len(values))
    lost[falls] = values[falls - 1] + usual - values[falls]
    return values + np.cumsum(lost), tuple(falls.tolist())


def spread(times: Floats) -> Spread:
    """Rows that share a time, as where ten a second are stamped with whole seconds, evenly over it.

    Only where about as many share each: what comes when something happens is not spread.
    """
    as_it_is = Spread(times, 1.0)
    if len(times) < FEWEST or not np.isfinite(times).all() or np.any(np.diff(times) < 0):
        return as_it_is
    starts = np.concatenate(([0], np.flatnonzero(np.diff(times) > 0) + 1))
    shared = np.diff(np.append(starts, len(times)))
    inner = shared[1:-1]
    if len(inner) < FEWEST and not _are_surely_alike(inner):
        return as_it_is
    usual, unit = float(np.median(inner)), float(np.median(np.diff(times[starts])))
    is_usual = np.abs(inner - usual) <= max(1.0, 0.2 * usual)
    if usual < 2 or np.mean(is_usual) < ALIKE:
        return as_it_is
    mean = float(inner[is_usual].mean())
    even = times.copy()
    # Where stamps are skipped nothing is known of what is between: each run of stamps alone.
    for run in np.split(np.arange(len(starts)), np.flatnonzero(np.diff(times[starts]) > 1.5 * unit) + 1):
        first, end = int(starts[run[0]]), int(starts[run[-1]] + shared[run[-1]])
        even[first:end] = _evenly(times[starts[run]], starts[run] - first, end - first, unit, mean)
    return Spread(even, mean)


def _are_surely_alike(inner: Ints) -> bool:
    """True for few stamps with so many rows each that it is not chance: a clock in whole minutes, read every five
    seconds."""
    return len(inner) >= FEWEST_SURE and int(inner.min()) >= FEWEST_SHARING and int(np.ptp(inner)) <= 1


def _evenly(stamps: Floats, starts: Ints, rows: int, unit: float, mean: float) -> Floats:
    """Times of rows, the first with each stamp at ``starts``: in even steps throughout where these agree with all
    stamps to within two steps, else in even steps within each stamp."""
    step = float(stamps[-1] - stamps[1]) / int(starts[-1] - starts[1]) if len(stamps) > FEWEST else unit / mean
    late = stamps - starts * step
    if len(late) > 1 and np.ptp(late[1:]) <= 2.0 * step:
        # No row is earlier than its stamp.
        return np.asarray(np.arange(rows) * step + float(late[1:].max()), np.float64)
    shared = np.diff(np.append(starts, rows))
    place = np.arange(rows) - np.repeat(starts, shared)
    room = np.maximum(shared, mean)
    return np.asarray(np.repeat(stamps, shared) + unit * place / np.repeat(room, shared), np.float64)
