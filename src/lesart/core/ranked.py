"""Middle and distinct values of an array.

The array library has both, and loads its masked arrays for them: 30 ms that the first reading would wait for.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats

MANY = 1 << 20
WHOLE = 1e-3
"""Of a step: a value this close to a whole number of steps is taken as that number."""
ORDER = 4
FLOATS = 1e-12
"""Of the greatest value: the rounding of a sum of a few of them."""
FEW = 10
"""How many times ``WHOLE`` a value may be off a step, many steps along."""
ROUNDED = 1e-9
"""A difference below this share of the greatest value is float rounding."""


def median(x: Floats) -> float:
    """The median, the mean of the middle two for an even count; NaN for no values, or with a NaN among them."""
    count = len(x)
    if not count:
        return float("nan")
    if np.isnan(x.max()):
        return float("nan")
    # By one place: asked for several, the array library is five times slower than where it sorts all.
    ordered = np.partition(x, count // 2)
    upper = ordered[count // 2]
    return float(upper if count % 2 else (ordered[: count // 2].max() + upper) / 2)


def grouped_median(x: Floats) -> float:
    """The median of magnitudes, shape (n,), each spread over the smallest step between them; 0 where most are zero.

    Source: the median of grouped values, textbooks of statistics.
    """
    largest = float(x.max())
    x = np.where(x > ROUNDED * largest, x, 0.0)
    if not median(x) > 0:
        return 0.0
    step = float(x[x > 0].min())
    steps = np.rint(x / step)
    if np.abs(x / step - steps).max() < WHOLE:
        # Tenths are alike but for what floats round: 20.3 − 20.2 is not 20.2 − 20.1.
        x = steps * step
    middle = median(x)
    below, alike = float(np.mean(x < middle)), float(np.mean(x == middle))
    return middle + step * ((0.5 - below) / alike - 0.5) if alike else middle


def noise_of_neighbours(x: Floats) -> float:
    """Robust standard deviation of white noise on a signal of any shape, from how neighbours differ; 0 of fewer than 2.

    1.4826 × the median of |fourth differences| ÷ √70; of lower order where there are few samples. A straight line has
    no second difference, and a wave of n samples leaves (2 sin(π ÷ n))⁴ of itself in the fourth: a thousandth at 36.
    Source: the k-th difference of white noise has C(2k, k) times its variance. Counts differ by whole steps, and so
    would their median: equal ones are taken as spread evenly over their step.
    """
    order = max(min(ORDER, (len(x) - 1) // 2), 1)
    if len(x) <= order:
        return 0.0
    counts, step = _in_steps(x)
    steps = np.abs(np.diff(counts, order))
    steps[steps <= FLOATS * float(np.abs(counts).max())] = 0.0
    return step * 1.4826 * grouped_median(steps) / math.sqrt(math.comb(2 * order, order))


def _in_steps(x: Floats) -> tuple[Floats, float]:
    """Values as whole steps from the first one, and the step; unchanged where there is no common step."""
    apart = np.abs(np.diff(x))
    apart = apart[apart > ROUNDED * float(apart.max())]
    if not len(apart):
        return x, 1.0
    step = float(apart.min())
    steps = (x - x[0]) / step
    counts = np.rint(steps)
    is_counted = bool(np.abs(steps - counts).max() < FEW * WHOLE)
    return (counts, step) if is_counted else (x, 1.0)


def distinct(x: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """The distinct values in rising order; x of shape (n,) without NaN."""
    if x.size > MANY and (few := _of_few(x)) is not None:
        return few
    ordered = np.sort(x, axis=None)
    new = np.ones(len(ordered), np.bool_)
    np.not_equal(ordered[1:], ordered[:-1], out=new[1:])
    return ordered[new]


def _of_few(x: npt.NDArray[Any]) -> npt.NDArray[Any] | None:
    """The distinct values of many whole numbers in a narrow range, found without sorting; None where they are not
    so."""
    low, high = x.min(), x.max()
    if not (abs(low) < 2**52 and abs(high) < 2**52 and high - low < MANY):
        return None
    codes = x.ravel().astype(np.int64)
    if not np.array_equal(codes, x.ravel()):
        return None
    return (np.flatnonzero(np.bincount(codes - int(low))) + int(low)).astype(x.dtype)


def quantiles(x: Floats, shares: tuple[float, ...]) -> tuple[float, ...]:
    """The quantiles at ``shares`` from 0 to 1, linear between neighbours; NaN for no values."""
    last = len(x) - 1
    if last < 0:
        return tuple(float("nan") for _ in shares)
    places = [share * last for share in shares]
    below = [min(math.floor(place), last) for place in places]
    ordered = np.sort(x)
    if np.isnan(ordered[-1]):
        return tuple(float("nan") for _ in shares)
    found = []
    for place, under in zip(places, below, strict=True):
        low, high, part = float(ordered[under]), float(ordered[min(under + 1, last)]), place - under
        # From the nearer of both, so that the ends are exact.
        found.append(low + (high - low) * part if part < 0.5 else high - (high - low) * (1 - part))
    return tuple(found)
