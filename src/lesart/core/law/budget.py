"""The error budget of a reading: the share of each tolerance, of a raw count and of noise, and all of them together.

Source: the usual budget of measurement uncertainty (JCGM 100): a tolerance is a uniform distribution, so its standard
uncertainty is its half width ÷ √3; independent ones add as squares; twice the root covers about 95 of 100 cases.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Literal

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key
from lesart.core.ranked import quantiles

Evaluate = Callable[[Sequence[float]], float]
"""The reading when each toleranced value is off by a share of its half width, −1 to 1, in the order of the doubts."""
COVERAGE = 2.0
CANCELLED, OF_A_COUNT = 1e-9, 1e-6
"""Of the reading, and of one count: below these a value used in several places has cancelled out, but for rounding."""


@dataclass(frozen=True)
class Doubt:
    """A value that may be off. ``says`` is the value as written, ``key`` its place in the project."""

    name: str
    says: str
    key: Key | None = None
    together: bool = False
    """True for a value in several places at once, which move together."""


@dataclass(frozen=True)
class Share:
    """What one doubt contributes to the reading, in its unit: signed, for the value going up by its half width.

    ``noise`` is unbounded: its half width is twice the standard deviation, which covers about 95 of 100. ``pulse`` is a
    count of events in a gate that opens at any moment: it may be a whole count off either way, with a triangular
    distribution. A half width of NaN marks a value that leaves the range of the laws either way.
    """

    name: str
    says: str
    half_width: float
    kind: Literal["tolerance", "count", "pulse", "noise"] = "tolerance"
    key: Key | None = None
    cancels: bool = False
    """True for a value in several places whose contributions cancel."""

    @property
    def standard(self) -> float:
        """Standard uncertainty: half width ÷ √3 for a uniform distribution, ÷ √6 for a triangular one, ÷ 2 for
        noise."""
        return abs(self.half_width) / {"pulse": math.sqrt(6.0), "noise": COVERAGE}.get(self.kind, math.sqrt(3.0))


@dataclass(frozen=True)
class Budget:
    """``shares``, the largest first. ``likely`` covers about 95 of 100 cases and is never more than ``worst``.

    ``reading`` is what they are about, all in its unit. NaN where the reading is NaN.
    """

    reading: float
    shares: tuple[Share, ...]

    @property
    def standard(self) -> float:
        """Standard uncertainty of all together."""
        return math.sqrt(sum(share.standard**2 for share in self.shares))

    @property
    def worst(self) -> float:
        """The worst case: all off at once, in the worst direction; noise at twice its standard deviation."""
        return sum(abs(share.half_width) for share in self.shares)

    @property
    def likely(self) -> float:
        """Half width that covers about 95 of 100 cases."""
        return min(COVERAGE * self.standard, self.worst)

    def of(self, kind: str) -> Budget:
        """The share of one kind."""
        return Budget(self.reading, tuple(share for share in self.shares if share.kind == kind))


def budget_of(
    evaluate: Evaluate, doubts: Sequence[Doubt], one_count: float = 0.0, noise: float = 0.0, *, is_pulse: bool = False
) -> Budget:
    """The budget: each doubt alone, up and down by its half width, plus half a count and the noise.

    ``one_count`` and the standard deviation ``noise`` are in the reading's unit. ``is_pulse``: counts are events in a
    gate. Where one direction leaves the range of the laws, the other one gives the share.
    """
    nothing = [0.0] * len(doubts)
    reading = evaluate(nothing)
    shares = []
    for place, doubt in enumerate(doubts):
        up, down = (evaluate([*nothing[:place], side, *nothing[place + 1 :]]) for side in (1.0, -1.0))
        width = _half_width(reading, up, down)
        cancels = doubt.together and abs(width) <= max(CANCELLED * abs(reading), OF_A_COUNT * abs(one_count))
        shares.append(Share(doubt.name, doubt.says, 0.0 if cancels else width, "tolerance", doubt.key, cancels))
    if one_count and is_pulse:
        shares.append(Share("one pulse", "more or fewer in a gate", abs(one_count), "pulse"))
    elif one_count:
        shares.append(Share("one raw count", "half of it", abs(one_count) / 2.0, "count"))
    if noise > 0:
        shares.append(Share("noise", "as measured", COVERAGE * noise, "noise"))
    known = [share for share in shares if share.half_width or share.cancels]
    # An unknown share sorts as the largest.
    return Budget(reading, tuple(sorted(known, key=lambda share: -_size(share))))


def _half_width(reading: float, up: float, down: float) -> float:
    if math.isfinite(up) and math.isfinite(down):
        return (up - down) / 2.0
    return up - reading if math.isfinite(up) else reading - down


def _size(share: Share) -> float:
    return abs(share.half_width) if math.isfinite(share.half_width) else math.inf


@dataclass(frozen=True)
class Simulated:
    """Standard deviation, and half width of the middle 95 of 100, of a number of draws, of which ``lost`` left the
    range of the laws. NaN where more than a few did: the rest then say nothing."""

    standard: float
    likely: float
    lost: int


MOST_LOST = 0.01
"""The largest share of draws that may be lost."""


def simulated(
    evaluate: Evaluate,
    doubts: Sequence[Doubt],
    times: int,
    random: np.random.Generator,
    one_count: float = 0.0,
    noise: float = 0.0,
    *,
    is_pulse: bool = False,
) -> Simulated:
    """The reading with all doubts drawn at random ``times`` times.

    Nothing is linearised here, so it tells whether the budget, which is linear, may be trusted.
    """
    shares = random.uniform(-1.0, 1.0, (times, len(doubts)))
    found = np.array([evaluate(row) for row in shares.tolist()])
    steps = random.triangular(-1.0, 0.0, 1.0, times) if is_pulse else random.uniform(-0.5, 0.5, times)
    found = found + steps * one_count + random.normal(0.0, 1.0, times) * noise
    good = found[np.isfinite(found)]
    lost = times - len(good)
    if lost > MOST_LOST * times or len(good) < 2:
        return Simulated(math.nan, math.nan, lost)
    low, high = quantiles(good, (0.025, 0.975))
    return Simulated(float(good.std()), float(high - low) / 2.0, lost)
