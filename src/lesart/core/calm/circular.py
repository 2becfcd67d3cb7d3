"""Circular mean: for readings that wrap round, as a direction does, where 359° and 1° are neighbours.

Wrapping is found between neighbours in time: from one good sample to the next a reading goes the shorter way. The
window is unwrapped by that, and its mean is wrapped back into the circle. The road not taken is the direction of the
sum of unit vectors: it needs sines, which a small processor does not have, and for a spread of 90° it is degrees off
the mean.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.windowed import LONGEST, Window, sliding_sum
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit


def folded(x: Floats, lowest: float, turn: float) -> Floats:
    """The same angles at or above ``lowest`` and less than a turn above it; those already there keep their bits."""
    turns = np.floor((x - lowest) / turn)
    back = np.where(turns == 0.0, x, x - turns * turn)
    # Rounding may put it at the end itself, or before the beginning.
    return np.where((back >= lowest + turn) | (back < lowest), lowest, back)


@dataclass(frozen=True)
class CircularMean(Window):
    """Mean of the last n good samples on a circle that begins at ``lowest`` and comes back to it at ``highest``, both
    in the reading's unit. The output is at or above the one and below the other."""

    lowest: float
    highest: float
    kind: str = "circular mean"

    @property
    def turn(self) -> float:
        """Once around."""
        return self.highest - self.lowest

    def _sliding(self, x: Floats) -> Floats:
        return self._means(x, self.n)

    def _whole(self, x: Floats) -> float:
        return float(self._means(x, len(x))[0])

    def _means(self, x: Floats, n: int) -> Floats:
        on = self.on_circle(x)
        step = np.diff(on)
        half = 0.5 * self.turn
        # Whole turns since the first sample; only those between samples of one window count, so any start will do.
        turns = np.concatenate([[0.0], np.cumsum((step < -half).astype(float) - (step > half))])
        ahead = sliding_sum(turns, n) - n * turns[n - 1 :]
        # A turn for all of them is none: what is left of it keeps the sum small, and exact where nothing came round.
        total = sliding_sum(on, n) + self.turn * np.mod(ahead, n)
        return self.on_circle(total / n)

    def on_circle(self, x: Floats) -> Floats:
        """The same angles, at or above ``lowest`` and below ``highest``; those already there keep their bits."""
        return folded(x, self.lowest, self.turn)


@dataclass(frozen=True)
class OntoCircle(Passing):
    """Each reading brought to ``lowest`` ≤ x < ``lowest`` + ``turn``, where a correction or a law has led it out.

    What stands before it gives readings from ``begins`` on when they come from the circle's own beginning: so the way
    back leads to what could have come.
    """

    lowest: float
    turn: float
    begins: float
    kind: str = "onto circle"
    memory_samples: int = 0
    pointwise: None = None

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Same times and marks."""
        return None, block.with_values(folded(block.x, self.lowest, self.turn))

    def inverse(self, y: float) -> float:
        """The reading that gives ``y``."""
        return float(folded(np.array([y]), self.begins, self.turn)[0])


def circle_among(stages: Iterable[object]) -> CircularMean | None:
    """The first of the stages that wraps round; it has the ends of the circle, too."""
    return next((stage for stage in stages if isinstance(stage, CircularMean)), None)


def unrolled(block: Block, turn: float) -> Block:
    """The readings unwrapped, so that noise and trends can be found in them; the first stays as it is."""
    good = block.usable
    steps = np.diff(block.x[good])
    turns = np.cumsum((steps < -0.5 * turn).astype(float) - (steps > 0.5 * turn))
    if not turns.any():
        return block
    x = block.x.copy()
    x[np.flatnonzero(good)[1:]] += turn * turns
    return block.with_values(x, block.mark)


def _build(values: dict[str, Any], unit: Unit) -> CircularMean:
    lowest, highest = values["lowest"].to(unit), values["highest"].to(unit)
    if not lowest < highest:
        raise ValueError(f"lowest must be below highest, not {values['lowest']} and {values['highest']}")
    return CircularMean(unit, values["samples"], lowest, highest)


def _cost(values: dict[str, Any], interval_s: float) -> Cost:
    """For each sample but the newest a difference, two comparisons of it and a sum; four comparisons with the ends."""
    n = values["samples"]
    return Cost((n - 1) / 2, n**-0.5, 4 * n + 4, 4.0 * n + 1.0)


CIRCULAR_MEAN = FilterKind(
    name="circular mean",
    computes=(
        "Each good x is brought to lowest ≤ x < highest by whole turns of highest − lowest. From one to the next it "
        "goes the shorter way: where it comes down by more than half a turn it has gone over the seam upwards, where "
        "it goes up by more than that downwards. y is the mean of the last n, each with the turns that lie between it "
        "and the newest, brought onto the circle again. While fewer have come it is their mean, and marked settling."
    ),
    averages=True,
    evenly_over="samples",
    title="mean of what comes round, as a direction does",
    says=lambda values: f"circular mean {values['samples']}",
    parameters=(
        Parameter("samples", "samples", "integer", "how many", 8, lowest=1, highest=LONGEST),
        Parameter("lowest", "circle from", "any quantity", "where it begins, e.g. 0 °"),
        Parameter("highest", "circle to", "any quantity", "the same place once around, e.g. 360 °"),
    ),
    build=_build,
    cost=_cost,
)
