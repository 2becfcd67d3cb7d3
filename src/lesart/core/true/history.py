"""A history of calibrations, and the sensor's drift from one to the next."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT, Key, Note
from lesart.core.quantity import beside_unit, counted, plain_number
from lesart.core.step import Step
from lesart.core.true.correction import Correction
from lesart.core.true.reference import Reference

STEPS = 65
"""Points at which two calibrations are compared."""
DAYS_A_YEAR = 365.25


@dataclass(frozen=True)
class Calibration:
    """Named references with the fit through them; the adopted one, or an earlier one."""

    name: str
    references: tuple[Reference, ...]
    correction: Correction

    @property
    def day(self) -> int | None:
        """Day of its newest reference used, counted like those of references; None without a date."""
        days = [each.day for each in self.references if each.used and each.day is not None]
        return max(days) if days else None


@dataclass(frozen=True)
class Drift:
    """How the sensor moved between two calibrations, in the reading's unit.

    ``zero`` is how much more it indicates where nothing is there, ``gain`` by how much its slope grew, as a share.
    ``most`` is the largest change of an indication over what both calibrations reach, at the true value ``most_at``;
    NaN where they share no range. ``days`` lie between them; None where one has no date.
    """

    zero: float
    gain: float
    most: float
    most_at: float
    days: int | None

    @property
    def zero_a_year(self) -> float | None:
        """Drift of the zero per year at the same pace; None where the days in between are unknown or 0."""
        return None if not self.days else self.zero * DAYS_A_YEAR / self.days


def drift_between(earlier: Calibration, later: Calibration) -> Drift | None:
    """Drift between two calibrations; None where one of them corrects nothing.

    Zero and gain are those of each fit's straight line: indicated = (true − offset) ÷ gain. A tare is not drift of the
    sensor and is left out.
    """
    one, other = earlier.correction, later.correction
    if one.covered is None or other.covered is None:
        return None
    zero = -other.offset / other.gain + one.offset / one.gain
    most, most_at = _most(one, other)
    days = None if earlier.day is None or later.day is None else later.day - earlier.day
    return Drift(zero, one.gain / other.gain - 1.0, most, most_at, days)


def _most(one: Correction, other: Correction) -> tuple[float, float]:
    """The largest change of an indication, and the true value at which it occurs."""
    low = max(one.known[0], other.known[0])
    high = min(one.known[1], other.known[1])
    if low > high:
        return math.nan, math.nan
    places = np.linspace(low, high, STEPS if high > low else 1).tolist()
    changes = [_indicated(other, true) - _indicated(one, true) for true in places]
    worst = max(range(len(places)), key=lambda place: abs(changes[place]))
    # To a millionth of the range: the ends of a fit are never quite at the references they came from.
    digits = math.ceil(6 - math.log10(high - low)) if high > low else 9
    return changes[worst], round(places[worst], digits)


def _indicated(correction: Correction, true: float) -> float:
    return correction.inverse(true - correction.tare)


def inspect_drift(
    channel: str, adopted: Calibration, earlier: Sequence[Calibration], limit: float, key: Key
) -> list[Note]:
    """A note where the sensor moved by more than ``limit``, in the reading's unit, since the calibration before.

    0 is no limit. ``key`` is where the adopted one stands in the project.
    """
    dated = [each for each in earlier if each.day is not None and each.day < (adopted.day or -1)]
    before = max(dated, key=lambda each: each.day or 0, default=None)
    found = drift_between(before, adopted) if before else None
    if not limit or found is None or before is None or not abs(found.most) > limit:
        return []
    unit = str(adopted.correction.unit_in)
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: since {before.name}, {counted(found.days or 0, 'day')} before, its indication moved by "
            f"{beside_unit(plain_number(found.most, 3), unit)} at {beside_unit(plain_number(found.most_at, 4), unit)}; "
            f"{beside_unit(plain_number(limit, 2), unit)} may be left.",
            figure=abs(found.most),
            unit=unit,
            limit=limit,
            remedy="calibrate more often, or find what moved",
            place=key,
            limit_at=(*key, "residual"),
        )
    ]
