"""Mean of the last n good samples without the least and the greatest of them.

No limit says what an outlier is, so single wrong values are dropped whatever the reading is, and the others are
averaged.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.windowed import Window, in_parts
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit

LONGEST = 255
"""Samples: each window is sorted again, which is slow for long ones."""


def left_of(count: int, dropped: int) -> tuple[int, int]:
    """Bounds of the sorted samples that are averaged, the upper one exclusive; at least one is left."""
    first = min(dropped, (count - 1) // 2)
    return first, count - first


@dataclass(frozen=True)
class TrimmedMean(Window):
    """Mean of the last n good samples without ``dropped`` at either end."""

    dropped: int = 1
    kind: str = "trimmed mean"

    def _sliding(self, x: Floats) -> Floats:
        return in_parts(x, self.n, self._middles)

    def _middles(self, x: Floats, n: int) -> Floats:
        first, end = left_of(n, self.dropped)
        windows = np.sort(np.lib.stride_tricks.sliding_window_view(x, n), axis=1)
        # One after the other, so that a sum depends on its own window alone and not on where a block was cut.
        total = windows[:, first].copy()
        for place in range(first + 1, end):
            total += windows[:, place]
        return np.divide(total, end - first, out=total)

    def _whole(self, x: Floats) -> float:
        first, end = left_of(len(x), self.dropped)
        total = 0.0
        for value in sorted(x.tolist())[first:end]:
            total += value
        return total / (end - first)


def _trimmed(values: dict[str, Any], unit: Unit) -> TrimmedMean:
    if 2 * values["dropped"] >= values["samples"]:
        raise ValueError(
            f"of {values['samples']} samples at most {(values['samples'] - 1) // 2} can be dropped at each end, not "
            f"{values['dropped']}"
        )
    return TrimmedMean(unit, values["samples"], values["dropped"])


def _trimmed_cost(values: dict[str, Any], interval_s: float) -> Cost:
    """Variance of the mean of n normal samples without a share α at each end, for many samples (any textbook of robust
    statistics): σ²/n × (1 − 2α − 2 q φ(q) + 2 α q²) ÷ (1 − 2α)², q the quantile of 1 − α. From n = 3 on it is right to
    3 %.

    The samples are kept twice, as they came and sorted, as for a median; the middle ones are added up.
    """
    from statistics import NormalDist  # not needed before a cost is asked for

    n, dropped = values["samples"], values["dropped"]
    share = dropped / n
    variance = 1.0
    if share:
        q = NormalDist().inv_cdf(1 - share)
        variance = 1 - 2 * share - 2 * q * math.exp(-q * q / 2) / math.sqrt(2 * math.pi) + 2 * share * q * q
        variance /= (1 - 2 * share) ** 2
    return Cost((n - 1) / 2, math.sqrt(variance / n), 8 * n, float(2 * n - 2 * dropped))


TRIMMED_MEAN = FilterKind(
    name="trimmed mean",
    computes=(
        "Of the last n good samples in order the d least and the d greatest are left out; y is the sum of the others, "
        "from the least on, ÷ (n − 2 d). While only m have come, d is at most (m − 1) ÷ 2, cut to a whole number, and "
        "y is marked settling."
    ),
    averages=True,
    title="mean without the extremes",
    says=lambda values: f"trimmed mean {values['samples']}, {values['dropped']} off",
    parameters=(
        Parameter("samples", "samples", "integer", "how many", 10, lowest=3, highest=LONGEST),
        Parameter("dropped", "dropped", "integer", "of them, at each end", 2, lowest=0, highest=LONGEST // 2),
    ),
    build=_trimmed,
    cost=_trimmed_cost,
)
