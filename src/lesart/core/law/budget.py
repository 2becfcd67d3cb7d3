"""How sure a reading is: what each tolerance, the step of a count and the noise make of it, and all of them together.

Source: the usual budget of measurement uncertainty (JCGM 100): a tolerance is even between its ends, so its standard
uncertainty is its half width ÷ √3; independent ones add as squares; twice the root covers about 95 of 100 cases.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from lesart.core.notes import Key

Evaluate = Callable[[Sequence[float]], float]
"""The reading when each toleranced value is off by a share of its half width, −1 to 1, in the order of the doubts."""
COVERAGE = 2.0


@dataclass(frozen=True)
class Doubt:
    """A value that may be off. ``says`` it as written; ``key`` is where it stands in the project."""

    name: str
    says: str
    key: Key | None = None


@dataclass(frozen=True)
class Share:
    """What one doubt makes of the reading, in the reading's unit: signed, as the value goes up by its half width.

    Of ``noise`` the half width is that of an even spread of the same standard deviation, √3 of it.
    """

    name: str
    says: str
    half_width: float
    kind: Literal["tolerance", "count", "noise"] = "tolerance"
    key: Key | None = None

    @property
    def standard(self) -> float:
        """Standard uncertainty."""
        return abs(self.half_width) / math.sqrt(3.0)


@dataclass(frozen=True)
class Budget:
    """``shares``, the largest first. ``likely`` covers about 95 of 100 cases and is never more than ``worst``.

    ``reading`` is what they are about, all in its unit. NaN where the reading is.
    """

    reading: float
    shares: tuple[Share, ...]

    @property
    def standard(self) -> float:
        """Standard uncertainty of all together."""
        return math.sqrt(sum(share.standard**2 for share in self.shares))

    @property
    def worst(self) -> float:
        """All off at once, in the worst way; noise at its √3."""
        return sum(abs(share.half_width) for share in self.shares)

    @property
    def likely(self) -> float:
        """Half width that covers about 95 of 100 cases."""
        return min(COVERAGE * self.standard, self.worst)

    def of(self, kind: str) -> Budget:
        """The part of one kind."""
        return Budget(self.reading, tuple(share for share in self.shares if share.kind == kind))


def budget_of(evaluate: Evaluate, doubts: Sequence[Doubt], one_count: float = 0.0, noise: float = 0.0) -> Budget:
    """Each doubt alone, up and down by its half width; half a count and the noise beside them.

    ``one_count`` and the standard deviation ``noise`` are in the reading's unit.
    """
    nothing = [0.0] * len(doubts)
    shares = []
    for place, doubt in enumerate(doubts):
        ends = [evaluate([*nothing[:place], side, *nothing[place + 1 :]]) for side in (1.0, -1.0)]
        shares.append(Share(doubt.name, doubt.says, (ends[0] - ends[1]) / 2.0, "tolerance", doubt.key))
    if one_count:
        shares.append(Share("one raw count", "half of it", abs(one_count) / 2.0, "count"))
    if noise > 0:
        shares.append(Share("noise", "as measured", math.sqrt(3.0) * noise, "noise"))
    known = [share for share in shares if share.half_width]
    return Budget(evaluate(nothing), tuple(sorted(known, key=lambda share: -abs(share.half_width))))


def drawn(
    evaluate: Evaluate, doubts: Sequence[Doubt], times: int, random: np.random.Generator, one_count: float = 0.0,
    noise: float = 0.0,
) -> tuple[float, float]:  # fmt: skip
    """Standard deviation of the reading, and half width of the middle 95 of 100, when all is drawn ``times`` times.

    Nothing is taken as straight here, so it tells whether the budget, which is, may be trusted.
    """
    shares = random.uniform(-1.0, 1.0, (times, len(doubts)))
    found = np.array([evaluate(row) for row in shares.tolist()])
    found = found + random.uniform(-0.5, 0.5, times) * one_count + random.normal(0.0, 1.0, times) * noise
    good = found[np.isfinite(found)]
    if len(good) < 2:
        return float("nan"), float("nan")
    low, high = np.quantile(good, [0.025, 0.975])
    return float(good.std()), float(high - low) / 2.0
