"""Periods after which a total begins again, and sums that do."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import format_quantity
from lesart.core.units import parse_unit

SAME_TIME = 1e-9
"""Of a period: a sample this close after its end is at its end, however times were rounded."""
HOUR_S = 3600.0


@dataclass(frozen=True)
class Periods:
    """``every_s`` of 0 is one endless period.

    The first ends ``first_s`` after the first sample; with 0 it is as long as the others. A period includes its end and
    not its beginning: a sample at midnight belongs to the day before.
    """

    every_s: float
    first_s: float

    def number(self, since_s: Floats) -> Floats:
        """Number of the period that a time is in, from 0; ``since_s`` in s from the first sample."""
        if not self.every_s:
            return np.zeros(len(since_s))
        return np.maximum(np.ceil((since_s - self._first) / self.every_s - SAME_TIME), 0.0)

    def begin_s(self, number: Floats) -> Floats:
        """Start times of periods, in s from the first sample; not for the first period."""
        return self._first + (number - 1.0) * self.every_s

    @property
    def says(self) -> str:
        """The periods in a few words."""
        return f"anew every {lasting(self.every_s)}" if self.every_s else "adds up"

    @property
    def _first(self) -> float:
        return self.first_s or self.every_s

    @property
    def alone_s(self) -> float:
        """How long a single value is taken to last: a whole period, or an hour where it is endless."""
        return self.every_s or HOUR_S


def lasting(seconds: float) -> str:
    """A duration as ``40 s``, ``10 min``, ``3 h``: in the largest unit that gives at least 1, in three figures."""
    unit = next((each for each in ("d", "h", "min") if seconds >= float(parse_unit(each).scale)), "s")
    if unit == "d" and seconds < 2 * 86_400:
        unit = "h"
    return format_quantity(seconds / float(parse_unit(unit).scale), parse_unit(unit), 3)


def running(start: float, x: Floats, anew: Bools, with_next: np.ufunc = np.add) -> Floats:
    """What adds up from ``start`` on, shape (n,), or becomes of it ``with_next``; at the places ``anew`` it begins with
    the sample itself.

    In the order of the samples, so that the same comes out to the bit wherever they are cut.
    """
    starts = np.flatnonzero(anew)
    if not len(starts):
        return np.asarray(with_next.accumulate(np.concatenate([[start], x]))[1:])
    made = np.empty(len(x))
    first = int(starts[0])
    made[:first] = with_next.accumulate(np.concatenate([[start], x[:first]]))[1:]
    ends = np.append(starts[1:], len(x))
    longest = int((ends - starts).max())
    if longest > len(starts):
        for begin, end in zip(starts.tolist(), ends.tolist(), strict=True):
            made[begin:end] = with_next.accumulate(x[begin:end])
        return made
    # Many short periods: the first sample of all of them, then the second, and so on.
    made[starts] = x[starts]
    for place in range(1, longest):
        at = starts[starts + place < ends] + place
        made[at] = with_next(made[at - 1], x[at])
    return made


ANEW = (
    Parameter(
        "every",
        "anew every",
        "quantity",
        "after which the total begins at 0 again, such as 24 h; 0: never",
        "0 s",
        unit="s",
        lowest=0,
        highest=366 * 86_400,
    ),
    Parameter(
        "first",
        "first time after",
        "quantity",
        "from the first sample until it first begins again, such as to midnight; 0: a whole period",
        "0 s",
        unit="s",
        lowest=0,
        highest=366 * 86_400,
    ),
)


def periods_of(values: dict[str, float]) -> Periods:
    """Periods from their values. Raises ValueError with a clause where these do not fit together."""
    every, first = values["every"], values["first"]
    if first and not every:
        raise ValueError('first says when a total begins again, which it never does; every = "24 h" lets it')
    if first > every:
        raise ValueError("first must not be longer than every")
    return Periods(every, first)
