"""A one-pole filter whose weights depend on time, over many samples at once, bit-identical wherever the input is cut.

As in ``poles``, samples are counted in rows, and within a row each is scaled to the row's start: here by e^(time since
then ÷ time constant). Where that exceeds what floats hold, after a long gap, the rest of the row goes sample by sample;
what was before the gap has no weight there.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cached_property

import numpy as np

from lesart.core.block import Floats
from lesart.core.calm.stepping import intervals
from lesart.core.dataclass_later import dataclass

GROUP = 32_768
"""Samples that are taken relative to the first of them, so that a constant input stays the same to the bit."""
ROWS = 64, 16, 4, 1
"""Samples in a row: the most over which the expected times stay within half of ``LONGEST``."""
LONGEST = 500.0
"""Time constants from the start of a row: e to that power times any reading is still a finite float."""


@dataclass(frozen=True)
class ByTime:
    """y += (1 − e^(−dt ÷ time)) × (x − y). ``interval_s`` is the expected time between samples."""

    time_s: float
    interval_s: float

    @cached_property
    def row(self) -> int:
        """Samples in a row."""
        most = LONGEST / 2 * self.time_s / self.interval_s
        return next((each for each in ROWS if each <= most), ROWS[-1])


@dataclass(frozen=True)
class Stand:
    """State of the filter. ``latest_s``: the latest time; ``begun_s``: the latest before the row.

    ``place``: samples of the group so far; ``first``: the first of them, which all but times are relative to;
    ``state``: the output before the row; ``scaled``: samples of the row so far, with ``total`` of them and the state;
    ``at``: how many have come in the row, including those beyond its scale; ``output``: after the last of them.
    """

    latest_s: float
    first: float
    begun_s: float
    state: float = 0.0
    place: int = 0
    scaled: tuple[float, ...] = ()
    total: float = 0.0
    at: int = 0
    output: float = 0.0


def begin(t: float, x: float) -> Stand:
    """The state after ``x`` has been the input for ever."""
    return Stand(t, x, t)


def advance(by_time: ByTime, stand: Stand, t: Floats, x: Floats) -> tuple[Stand, Floats]:
    """The output for each of ``x``, shape (n,), all of them finite."""
    dt, latest_s = intervals(stand.latest_s, t)
    if dt.min() <= 0:
        t = np.maximum.accumulate(np.maximum(t, stand.latest_s))
    weights = -np.expm1(dt / -by_time.time_s)
    y, done, row = np.empty(len(x)), 0, by_time.row
    while done < len(x):
        if stand.place == 0:
            first = float(x[done])
            stand = replace(stand, first=first, state=stand.state + (stand.first - first))
        left = min(len(x) - done, GROUP - stand.place)
        count = left // row * row if stand.at == 0 else 0
        if count:
            end = done + count
            stand, count = _in_rows(by_time, stand, t[done:end], x[done:end], weights[done:end], y[done:end])
        if not count:
            count = min(left, row - stand.at)
            end = done + count
            stand, y[done:end] = _one_by_one(by_time, stand, t[done:end], x[done:end], weights[done:end])
        done += count
        if stand.place == GROUP:
            stand = replace(stand, place=0)
    return replace(stand, latest_s=latest_s), y


def _in_rows(by_time: ByTime, stand: Stand, t: Floats, x: Floats, weights: Floats, y: Floats) -> tuple[Stand, int]:
    """Whole rows up to the first that exceeds its scale, and how many samples they have."""
    row = by_time.row
    begun = np.concatenate([[stand.begun_s], t[row - 1 : -1 : row]])
    ages = (t.reshape(-1, row) - begun[:, None]) / by_time.time_s
    within = ages[:, -1] <= LONGEST
    rows = len(within) if within.all() else int(np.argmin(within))
    if not rows:
        return stand, 0
    count = rows * row
    ages, x, y = ages[:rows], x[:count], y[:count]
    scaled = (x - stand.first) * weights[:count]
    lines = scaled.reshape(rows, row)
    lines *= np.exp(ages)
    down = np.exp(-ages)
    own, states = stand.state, []
    for total, over in zip(np.add.reduce(lines, axis=1).tolist(), down[:, -1].tolist(), strict=True):
        states.append(own)
        own = over * (own + total)
    lines[:, 0] += states
    np.add.accumulate(lines, axis=1, out=y.reshape(rows, row))
    y *= down.ravel()
    y += stand.first
    return Stand(stand.latest_s, stand.first, float(t[count - 1]), own, stand.place + count), count


def _one_by_one(by_time: ByTime, stand: Stand, t: Floats, x: Floats, weights: Floats) -> tuple[Stand, list[float]]:
    """Part of a row, by the same sums in the same order."""
    ages = (t - stand.begun_s) / by_time.time_s
    up, down = np.exp(np.minimum(ages, LONGEST)), np.exp(-ages)
    output = stand.output if stand.at else stand.state
    total, scaled, out = stand.total, list(stand.scaled), []
    offs = (x - stand.first).tolist()
    for off, weight, age, grown, left in zip(
        offs, weights.tolist(), ages.tolist(), up.tolist(), down.tolist(), strict=True
    ):
        if age > LONGEST:
            output = output + weight * (off - output)
        else:
            part = off * weight * grown
            total = total + part if scaled else stand.state + part
            scaled.append(part)
            output = total * left
        out.append(output + stand.first)
    at, place = stand.at + len(out), stand.place + len(out)
    if at < by_time.row:
        return replace(stand, place=place, scaled=tuple(scaled), total=total, at=at, output=output), out
    if len(scaled) == at:
        output = float(down[-1]) * (stand.state + float(np.add.reduce(np.array(scaled))))
    return Stand(stand.latest_s, stand.first, float(t[-1]), output, place), out
