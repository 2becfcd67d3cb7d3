"""A reference: a known true value with an averaged indication."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

FEWEST = 8
"""With fewer samples drift cannot be told from chance."""
WAYS = ("", "up", "down")


@dataclass(frozen=True)
class Reference:
    """``true`` and ``indicated`` in the reading's unit, before any correction; ``count`` samples were averaged.

    ``tolerance`` is that of the known value itself, ``spread`` the standard deviation of the samples, ``drift`` their
    change from the first to the last, by a straight line; 0 where not stated. ``day`` is when it was taken, as a
    proleptic Gregorian day number. ``turn`` is a full turn of a circular reading, such as a direction; 0 elsewhere.
    """

    true: float
    indicated: float
    count: int = 1
    taken: str = ""
    used: bool = True
    tolerance: float = 0.0
    spread: float = 0.0
    drift: float = 0.0
    way: str = ""
    remark: str = ""
    day: int | None = None
    turn: float = 0.0

    @property
    def aim(self) -> float:
        """The target of a fit at ``indicated``: the true value, shifted by whole turns to be nearest.

        North is 0°, but 360° for an indication of 340°.
        """
        if not self.turn:
            return self.true
        return self.true + self.turn * round((self.indicated - self.true) / self.turn)

    @property
    def has_settled(self) -> bool:
        """True where the samples drifted by no more than their scatter, and than the uncertainty of their slope."""
        if not self.spread > 0 or self.count < FEWEST:
            return True
        by_chance = 3.0 * self.spread * math.sqrt(12.0 / self.count)
        return abs(self.drift) <= max(self.spread, by_chance)


PARAMETERS = (
    Parameter(
        "true", "true", "any quantity", "the known value, e.g. 10 kg; ± 5 g says how well it is known", toleranced=True
    ),
    Parameter("indicated", "indicated", "any quantity", "what Lesart showed before correction, e.g. 10.24 kg"),
    Parameter("count", "samples", "integer", "how many samples were averaged", 1, lowest=1),
    Parameter("taken", "taken", "text", "when, as a remark", ""),
    Parameter("used", "used", "flag", "false leaves it out of the fit without deleting it", True),
    Parameter("spread", "spread", "any quantity", "standard deviation of the samples", "0"),
    Parameter("drift", "drift", "any quantity", "from the first sample to the last; 0 where it had settled", "0"),
    Parameter("way", "way", "choice", "was the value reached from below or above", "", choices=WAYS),
    Parameter("date", "date", "text", "day on which it was taken, 2026-05-14", "", longest=10),
    Parameter("remark", "remark", "text", "of your own", "", longest=80),
)


def spread_and_drift(block: Block) -> tuple[float, float]:
    """Standard deviation of the good samples about a straight line, and how far that goes from the first to the last.

    About the line and not about the mean, because a drift is no scatter. Zeros for fewer than ``FEWEST``.
    """
    t, x = block.t[block.usable], block.x[block.usable]
    if len(x) < FEWEST or not t[-1] > t[0]:
        return 0.0, 0.0
    across = t - t.mean()
    steep = float(across @ (x - x.mean()) / (across @ across))
    left = x - x.mean() - steep * across
    return float(np.sqrt(left @ left / (len(x) - 2))), steep * float(t[-1] - t[0])
