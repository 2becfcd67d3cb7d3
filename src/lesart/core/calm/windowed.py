"""Median n and mean n of the last n good samples.

Bad samples pass with their mark and leave the window as it was. Until n good samples have come, the filter works on
those there are and marks its output SETTLING.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit

LONGEST = 4096


AT_ONCE = 8192
"""Windows computed at once: their data stays in the first-level cache or near it."""


def sliding_sum(x: Floats, n: int) -> Floats:
    """Sums of n neighbours, shape (len(x) − n + 1,), in about log2 n passes.

    Pairs, pairs of pairs, and so on: the order of additions depends on n alone, so a sum is bit-identical wherever its
    block was cut. A running sum (add the newest, drop the oldest) is not, and it drifts.
    """
    return in_parts(x, n, _sums)


def _sums(x: Floats, n: int) -> Floats:
    total: Floats | None = None
    taken, width, power = 0, 1, x
    length = len(x) - n + 1
    while taken < n:
        if n & width:
            part = power[taken : taken + length]
            total = part.copy() if total is None else total + part
            taken += width
        if taken < n:
            power = power[: len(power) - width] + power[width:]
            width *= 2
    assert total is not None
    return total


def sliding_median(x: Floats, n: int) -> Floats:
    """Medians of n neighbours, shape (len(x) − n + 1,). For n of 3 and 5 by a sorting network, else by two heaps."""
    if n in (3, 5):
        return in_parts(x, n, _median3 if n == 3 else _median5)
    try:
        from bottleneck import move_median
    except ImportError:
        # A median is one of its samples, so any way to find it gives the same bits.
        return np.asarray(np.median(np.lib.stride_tricks.sliding_window_view(x, n), axis=1))
    return np.asarray(move_median(x, n)[n - 1 :])


def _median3(x: Floats, n: int) -> Floats:
    low, high = np.minimum(x[:-2], x[1:-1]), np.maximum(x[:-2], x[1:-1])
    np.minimum(high, x[2:], out=high)
    return np.maximum(low, high, out=low)


def _median5(x: Floats, n: int) -> Floats:
    length = len(x) - 4
    # Pairs of neighbours are the first pair of one window and the second of another.
    low, high = np.minimum(x[:-2], x[1:-1]), np.maximum(x[:-2], x[1:-1])
    a = np.maximum(low[:length], low[2:])
    b = np.minimum(high[:length], high[2:])
    least, most = np.minimum(a, b, out=low[:length]), np.maximum(a, b, out=high[:length])
    np.minimum(most, x[4:], out=most)
    return np.maximum(least, most, out=a)


def sliding_range(x: Floats, n: int) -> Floats:
    """Maximum minus minimum of n neighbours, shape (len(x) − n + 1,)."""
    return in_parts(x, n, _ranges)


def _ranges(x: Floats, n: int) -> Floats:
    least, most, width = x, x, 1
    while 2 * width <= n:
        least = np.minimum(least[:-width], least[width:])
        most = np.maximum(most[:-width], most[width:])
        width *= 2
    # The rest is covered by two overlapping ones.
    over, length = n - width, len(x) - n + 1
    least = np.minimum(least[:length], least[over : over + length])
    return np.maximum(most[:length], most[over : over + length]) - least


def in_parts(x: Floats, n: int, worked_out: Callable[[Floats, int], Floats]) -> Floats:
    """The result for each window of ``n``, shape (len(x) − n + 1,), in batches; each depends on its own samples
    alone."""
    length = len(x) - n + 1
    if length <= AT_ONCE:
        return worked_out(x, n)
    out = np.empty(length)
    for start in range(0, length, AT_ONCE):
        out[start : start + AT_ONCE] = worked_out(x[start : start + AT_ONCE + n - 1], n)
    return out


@dataclass(frozen=True)
class Window(Passing):
    """State: the last n − 1 good values, oldest first, fewer at the start."""

    n: int

    @property
    def memory_samples(self) -> int:
        """The window without the newest sample."""
        return self.n - 1

    def initial(self) -> Floats:
        """No good value yet."""
        return np.empty(0)

    def run(self, state: Floats, block: Block) -> tuple[Floats, Block]:
        """The filtered block; the good samples are taken out, filtered as one dense run, and put back."""
        usable = block.usable
        whole = bool(usable.all())
        good = block.x if whole else block.x[usable]
        fresh = len(good)
        if fresh == 0:
            return state, block
        dense = np.empty(len(state) + fresh)
        dense[: len(state)] = state
        # A zero has one sign from here on, or which of two zeros is the smaller would depend on the processor.
        np.add(good, 0.0, out=dense[len(state) :])
        starting = min(max(self.n - 1 - len(state), 0), fresh)
        begun = [self._whole(dense[: len(state) + k + 1]) for k in range(starting)]
        x = self._sliding(dense) if fresh > starting else np.array(begun)
        if starting and fresh > starting:
            x = np.concatenate([begun, x])
        if not whole:
            filtered, x = x, block.x.copy()
            x[usable] = filtered
        mark = block.mark
        if starting:
            mark = mark.copy()
            mark[np.flatnonzero(usable)[:starting]] |= np.uint8(Mark.SETTLING)
        # A copy, or the state would keep the whole block alive.
        kept = dense[-(self.n - 1) :].copy() if self.n > 1 else np.empty(0)
        return kept, block.with_values(x, mark)

    def _sliding(self, x: Floats) -> Floats:
        raise NotImplementedError

    def _whole(self, x: Floats) -> float:
        raise NotImplementedError


@dataclass(frozen=True)
class Mean(Window):
    """Mean of the last n good samples."""

    kind: str = "mean"

    def _sliding(self, x: Floats) -> Floats:
        sums = sliding_sum(x, self.n)
        # The reciprocal of a power of two is exact, and multiplying is quicker than dividing.
        return (
            np.multiply(sums, 1 / self.n, out=sums) if self.n & (self.n - 1) == 0 else np.divide(sums, self.n, out=sums)
        )

    def _whole(self, x: Floats) -> float:
        return float(sliding_sum(x, len(x))[0]) / len(x)


@dataclass(frozen=True)
class Median(Window):
    """Median of the last n good samples; n is odd, so it is one of them."""

    kind: str = "median"

    def _sliding(self, x: Floats) -> Floats:
        return sliding_median(x, self.n)

    def _whole(self, x: Floats) -> float:
        # By hand and not by the library, which loads its masked arrays for it: 28 ms of a whole ``lesart hand``.
        order, middle = sorted(x.tolist()), len(x) // 2
        return float(order[middle]) if len(x) % 2 else float((order[middle - 1] + order[middle]) / 2)


def _median(values: dict[str, Any], unit: Unit) -> Median:
    if values["samples"] % 2 == 0:
        raise ValueError(f"a median needs an odd number of samples, not {values['samples']}")
    return Median(unit, values["samples"])


def _median_cost(values: dict[str, Any], interval_s: float) -> Cost:
    """Variance of a normal sample's median ≈ π σ² ÷ (2 (n + π/2 − 1)), right to 2 % from n = 3 on.

    The samples are kept twice, as they came and sorted; a new one replaces the oldest and moves to its place.
    """
    n = values["samples"]
    factor = 1.0 if n == 1 else math.sqrt(math.pi / (2 * (n + math.pi / 2 - 1)))
    return Cost((n - 1) / 2, factor, 8 * n, float(n))


MEDIAN = FilterKind(
    name="median",
    computes=(
        "y is the middle one of the last n good samples in order. While fewer have come it is the middle one "
        "of those, of an even count the mean of the middle two, and marked settling."
    ),
    title="median of the last n",
    says=lambda values: f"median {values['samples']}",
    parameters=(Parameter("samples", "samples", "integer", "how many; odd", 5, lowest=1, highest=LONGEST - 1),),
    build=_median,
    cost=_median_cost,
)

MEAN = FilterKind(
    name="mean",
    computes=(
        "y is the sum of the last n good samples ÷ n. While fewer have come it is their mean, and marked settling."
    ),
    averages=True,
    evenly_over="samples",
    title="mean of the last n",
    says=lambda values: f"mean {values['samples']}",
    parameters=(Parameter("samples", "samples", "integer", "how many", 16, lowest=1, highest=LONGEST),),
    build=lambda values, unit: Mean(unit, values["samples"]),
    cost=lambda values, interval_s: Cost(
        (values["samples"] - 1) / 2, 1 / math.sqrt(values["samples"]), 4 * values["samples"] + 8, 3.0
    ),
)
