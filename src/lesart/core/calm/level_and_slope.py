"""A level and its slope over many samples at once, bit-identical wherever the input is cut.

As in ``poles``, samples are counted in rows. Here all rows are run side by side, each as if its first sample had been
the input for ever. How a row answers to a level and to a slope that are off by one at its start depends on its times
alone, and is computed along with it. The true state's difference is then carried from row to row and added to the
output.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.calm.stepping import intervals
from lesart.core.dataclass_later import dataclass

ROW = 64
ROWS_AT_ONCE = 1024
"""More rows do not fit the processor's cache, fewer cost more calls."""
FEW_ROWS = 6
"""Fewer rows are quicker one by one."""
PADDING = 8
"""Columns between the rows of an array, or their addresses would differ by powers of two and crowd one place of the
cache."""

State = tuple[float, float]
"""Level, and slope per second."""


@dataclass(frozen=True)
class Stand:
    """How far it has come. ``place``: samples of the row so far; ``true``: level and slope before the row.

    ``own``: those as if the row's first sample had always been; ``off``: what they were off at its start; ``answers``:
    what has become of one off in the level, and of one off in the slope.
    """

    latest_s: float
    true: State
    place: int = 0
    own: State = (0.0, 0.0)
    off: State = (0.0, 0.0)
    answers: tuple[State, State] = ((1.0, 0.0), (0.0, 1.0))


@dataclass(frozen=True)
class _Weights:
    """For each sample, shape (n,): seconds since the previous one, and the weights of a miss; 0 where time stands
    still."""

    dt: Floats
    level: Floats
    slope: Floats

    def __getitem__(self, where: slice) -> _Weights:
        return _Weights(self.dt[where], self.level[where], self.slope[where])


def _weights(dt: Floats, level: float, slope: float) -> _Weights:
    moves = dt > 0
    if moves.all():
        return _Weights(dt, np.broadcast_to(level, dt.shape), slope / dt)
    with np.errstate(divide="ignore"):
        return _Weights(dt, np.where(moves, level, 0.0), np.where(moves, slope / dt, 0.0))


def begin(t: float, x: float) -> Stand:
    """``x`` has always been."""
    return Stand(t, (x, 0.0))


def advance(level: float, slope: float, stand: Stand, t: Floats, x: Floats) -> tuple[Stand, Floats]:
    """The level after each of ``x``, shape (n,), all of them finite; ``level`` and ``slope`` weigh a miss."""
    dt, latest_s = intervals(stand.latest_s, t)
    weights = _weights(dt, level, slope)
    head = min(-stand.place % ROW, len(x))
    rows = (len(x) - head) // ROW
    if rows < FEW_ROWS:
        head, rows = len(x), 0
    y = np.empty(len(x))
    start, end, last = 0, head, head + rows * ROW
    stand = _one_by_one(stand, x[:head], weights[:head], y[:head])
    while end < last:
        start, end = end, min(end + ROWS_AT_ONCE * ROW, last)
        stand = _side_by_side(stand, x[start:end], weights[start:end], y[start:end])
    stand = _one_by_one(stand, x[end:], weights[end:], y[end:])
    return replace(stand, latest_s=latest_s), y


def _stepped(state: State, x: float, dt: float, level_weight: float, slope_weight: float) -> State:
    level = state[0] + state[1] * dt
    missed = x - level
    return level + level_weight * missed, state[1] + slope_weight * missed


def _carried(own: State, answers: tuple[State, State], off: State) -> State:
    """The true state, from the row's own and its offset at the start of the row."""
    (aa, ab), (ba, bb) = answers
    return own[0] + aa * off[0] + ba * off[1], own[1] + ab * off[0] + bb * off[1]


def _one_by_one(stand: Stand, x: Floats, weights: _Weights, y: Floats) -> Stand:
    true, place, own, off, answers = stand.true, stand.place, stand.own, stand.off, stand.answers
    of_level, of_slope = answers
    told = zip(x.tolist(), weights.dt.tolist(), weights.level.tolist(), weights.slope.tolist(), strict=True)
    for count, (sample, *each) in enumerate(told):
        if place == 0:
            own, off = (sample, 0.0), (true[0] - sample, true[1])
            of_level, of_slope = (1.0, 0.0), (0.0, 1.0)
        own = _stepped(own, sample, *each)
        of_level, of_slope = _stepped(of_level, 0.0, *each), _stepped(of_slope, 0.0, *each)
        y[count] = own[0] + of_level[0] * off[0] + of_slope[0] * off[1]
        place += 1
        if place == ROW:
            true, place = _carried(own, (of_level, of_slope), off), 0
    return Stand(stand.latest_s, true, place, own, off, (of_level, of_slope))


def _side_by_side(stand: Stand, x: Floats, weights: _Weights, y: Floats) -> Stand:
    """Whole rows; the outputs go into ``y``."""
    rows = len(x) // ROW
    samples, dt, by_slope = (_turned(each, rows) for each in (x, weights.dt, weights.slope))
    # A miss has the same weight in all samples but where time stands still.
    level: list[Floats | float] = [float(weights.level[0])] * ROW
    if weights.level.strides[0]:
        level = list(_turned(weights.level, rows))
    # Of own, of an answer to the level and of one to the slope.
    levels = np.empty((ROW, 3, rows + PADDING))[:, :, :rows]
    last, expected, slopes, missed, product = (np.zeros((3, rows)) for _ in range(5))
    last[0], last[1], slopes[2] = samples[0], 1.0, 1.0
    for place in range(ROW):
        np.multiply(slopes, dt[place], out=product)
        np.add(last, product, out=expected)
        np.negative(expected, out=missed)
        missed[0] += samples[place]
        np.multiply(missed, level[place], out=product)
        last = levels[place]
        np.add(expected, product, out=last)
        missed *= by_slope[place]
        slopes += missed
    true, off = _through_rows(stand.true, samples[0], last, slopes)
    outputs = levels[:, 0]
    for answer, each in zip((levels[:, 1], levels[:, 2]), off, strict=True):
        answer *= each
        outputs += answer
    np.copyto(y.reshape(rows, ROW), outputs.T)
    return Stand(stand.latest_s, true)


def _turned(x: Floats, rows: int) -> Floats:
    """The array with the samples at one place of all rows next to each other."""
    turned = np.empty((ROW, rows + PADDING))[:, :rows]
    np.copyto(turned, x.reshape(rows, ROW).T)
    return turned


def _through_rows(true: State, first: Floats, levels: Floats, slopes: Floats) -> tuple[State, tuple[Floats, Floats]]:
    """The true state after the last row, and each row's offset at its start."""
    level, slope = true
    offs_level, offs_slope = [], []
    numbers = (first, levels[0], slopes[0], levels[1], slopes[1], levels[2], slopes[2])
    for begun, own_a, own_b, aa, ab, ba, bb in zip(*(each.tolist() for each in numbers), strict=True):
        off = level - begun
        offs_level.append(off)
        offs_slope.append(slope)
        level, slope = own_a + aa * off + ba * slope, own_b + ab * off + bb * slope
    return (level, slope), (np.array(offs_level), np.array(offs_slope))
