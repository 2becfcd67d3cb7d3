"""What a filter did to a signal: how much noise is left, how far it lags."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.calm.windowed import sliding_median, sliding_sum
from lesart.core.ranked import median

MOST_COMPARED = 20_000
"""Samples in which a lag is looked for, from the middle of the capture."""
FEWEST = 16
"""With fewer samples nothing is called a spike."""
SPIKE = 8.0
"""A spike is this many times as far from the median about it as samples usually are."""
NO_CHANGE = 1e-6
"""Of a signal's power: where differences change less from lag to lag, no lag stands out."""
SPANS = 4
"""In a short capture a trend is shorter: three spans in a row have to fit into it."""
STEEP = 0.5
"""Where a mean is off the trend by more of the noise than this, while mostly it is not, there may be a step."""
ROUNDED = 1e-12
"""Noise below this share of the greatest value is float rounding, as in the average of a repeating signal."""


def noise_about_trend(block: Block, half_span: int = 25) -> float:
    """Robust standard deviation of the good samples about a centred mean of ± ``half_span`` samples.

    Spikes are left out of the mean: one in fifty that are far off would pull it away from all other samples.
    """
    good = block.x[block.usable]
    return noise_about(good, without_spikes(good), half_span)


def noise_about(good: Floats, calm: Floats, half_span: int) -> float:
    """1.4826 × the median distance of samples from a centred mean of ± ``half_span`` of those without spikes, ``calm``.

    About a trend and not between neighbours, because neighbours of a filtered signal share most of their window. A mean
    over W samples is off a curved trend by x″·(W² − 1) ÷ 24; the curvature is seen in the means before and after it,
    and corrected for. Near a step there is no such curvature: where most of a signal is straight, the rest is left out.
    0 when there are too few samples, and where it is no more than float rounding.
    """
    width = min(2 * half_span + 1, (len(good) // SPANS - 1) | 1)
    if width < 3:
        return 0.0
    means = sliding_sum(calm, width) / width
    curve = means[: -2 * width] - 2.0 * means[width:-width] + means[2 * width :]
    beside = curve * (width**2 - 1) / (24.0 * width**2)
    first = width + width // 2
    off = np.abs(good[first : first + len(beside)] - (means[width:-width] - beside))
    noise = 1.4826 * median(off)
    gentle = np.abs(beside) <= STEEP * noise
    if 2 * np.count_nonzero(gentle) > len(off):
        noise = 1.4826 * median(off[gentle])
    return noise if noise > ROUNDED * float(np.abs(good).max()) else 0.0


def lag_seen_s(before: Block, after: Block, most_s: float) -> float:
    """How far ``after`` lies behind ``before``: by how much it has to be moved to differ least.

    At most ``most_s``, NaN where nothing tells. Both are averaged over ``most_s`` twice: slow changes are late by a
    filter's delay, while some filters let faster ones through early. By least squares and not by the greatest product:
    a drift correlates with itself at every lag, and one that slows down correlates best where it is steepest, which is
    no lag at all. A parabola gives fractions of a sample, at even times.
    """
    good, filtered = before.usable, after.usable
    if good.sum() < FEWEST or filtered.sum() < FEWEST:
        return float("nan")
    interval = median(np.diff(before.t[good]))
    if not interval > 0:
        return float("nan")
    start, end = max(before.t[0], after.t[0]), min(before.t[-1], after.t[-1])
    count = min(int((end - start) / interval) + 1, MOST_COMPARED)
    most = min(int(most_s / interval) + 2, count // 8)
    if most < 1:
        return float("nan")
    start += 0.5 * max(end - start - count * interval, 0.0)
    t = start + interval * np.arange(count)
    a, b = (np.interp(t, each.t[each.usable], without_spikes(each.x[each.usable])) for each in (before, after))
    for _ in range(2):
        a, b = (sliding_sum(values, most) / most for values in (a, b))
    a, b = a - a.mean(), b - a.mean()
    # The same samples of ``before`` for each lag, so that only the lag makes a difference.
    with np.errstate(over="ignore"):
        left = np.array([np.mean((a[: len(a) - most] - b[lag : len(b) - most + lag]) ** 2) for lag in range(most + 1)])
        least = NO_CHANGE * float(np.mean(a * a))
    best = int(np.argmin(left))
    # Of readings whose squares no float holds nothing can be said.
    if not np.isfinite(left).all() or not left.max() - left.min() > least:
        return float("nan")
    shift = 0.0
    if 0 < best < most:
        below, middle, above = left[best - 1 : best + 2]
        bend = below - 2 * middle + above
        shift = float(0.5 * (below - above) / bend) if bend > 0 else 0.0
    return (best + shift) * interval


def without_spikes(good: Floats) -> Floats:
    """Each spike replaced by the median of the five about it, all else unchanged."""
    if len(good) < FEWEST:
        return good
    middle = sliding_median(good, 5)
    off = np.abs(good[2:-2] - middle)
    least = SPIKE * usual_off(off, good)
    return np.concatenate([good[:2], np.where(off > least, middle, good[2:-2]), good[-2:]]) if least > 0 else good


def usual_off(off: Floats, good: Floats) -> float:
    """The distance of samples from the median about them as a standard deviation; for a mostly constant signal its
    smallest step, 0 without one."""
    usual = 1.4826 * median(off)
    if usual > 0:
        return usual
    steps = off[off > ROUNDED * float(np.abs(good).max())]
    return float(steps.min()) if len(steps) else 0.0


def slow_reference(block: Block, half_span: int) -> tuple[Floats, Floats]:
    """Times and a zero-phase version of the good samples: medians of five, then centred means of ± ``half_span`` twice.

    Both of shape (good,), ``half_span`` in samples. It looks ahead, which no firmware can; causal filters are compared
    with it.
    """
    t, x = block.t[block.usable], block.x[block.usable]
    width = 2 * half_span + 1
    if len(x) < 4 * width + 8:
        return t[:0], x[:0]
    x, t = sliding_median(x, 5), t[2:-2]
    for _ in range(2):
        x, t = sliding_sum(x, width) / width, t[half_span : len(t) - half_span]
    return t, x


def worst_error(before: Block, after: Block, half_span: int) -> float:
    """Largest difference of ``after`` from the slow zero-phase reference of ``before``; NaN for a short capture."""
    t, x = slow_reference(before, half_span)
    good = after.usable & (after.mark == 0)
    if not len(t) or not good.any():
        return float("nan")
    inside = good & (after.t >= t[0]) & (after.t <= t[-1])
    if not inside.any():
        return float("nan")
    return float(np.abs(after.x[inside] - np.interp(after.t[inside], t, x)).max())
