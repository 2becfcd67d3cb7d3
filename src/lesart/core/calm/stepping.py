"""What filters that go from sample to sample share."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.dataclass_later import dataclass

SETTLED = 0.05
"""A filter has settled when less than this share of its first sample is left in it."""
MOST_SETTLING = 20_000


@dataclass(frozen=True)
class Stepping(Passing):
    """Good samples go through; bad ones pass with their mark and leave the state as it was.

    State: how many good samples have come, up to ``settling_samples``, and the filter's own; none at first.
    """

    @property
    def settling_samples(self) -> int:
        """Good samples until it has settled; up to then its output is marked SETTLING."""
        raise NotImplementedError

    @property
    def memory_samples(self) -> int:
        """After this many equal samples nothing before them matters."""
        return self.settling_samples

    def initial(self) -> tuple[int, Any]:
        """Nothing has come."""
        return 0, None

    def begin(self, t: float, x: float) -> Any:
        """The state after ``x`` has been the input for ever."""
        raise NotImplementedError

    def advance(self, state: Any, t: Floats, x: Floats) -> tuple[Any, Floats]:
        """The state and the outputs after more good samples, shape (n,), n ≥ 1."""
        raise NotImplementedError

    def run(self, state: tuple[int, Any], block: Block) -> tuple[tuple[int, Any], Block]:
        """The filtered block."""
        usable = block.usable
        whole = bool(usable.all())
        t, x = (block.t, block.x) if whole else (block.t[usable], block.x[usable])
        if not len(x):
            return state, block
        count, inner = state
        if inner is None:
            inner = self.begin(float(t[0]), float(x[0]))
        inner, out = self.advance(inner, t, x)
        settling = min(max(self.settling_samples - count, 0), len(out))
        mark = block.mark
        if settling:
            mark = mark.copy()
            mark[np.flatnonzero(usable)[:settling]] |= np.uint8(Mark.SETTLING)
        if not whole:
            filtered, out = out, block.x.copy()
            out[usable] = filtered
        return (min(count + len(x), self.settling_samples), inner), block.with_values(out, mark)


def settling_by(left_a_sample: float) -> int:
    """The number n of samples at which ``left_a_sample`` ^ n falls below ``SETTLED``."""
    if not 0 < left_a_sample < 1:
        return 0
    return min(math.ceil(math.log(SETTLED) / math.log(left_a_sample)), MOST_SETTLING)


def intervals(before_s: float, t: Floats) -> tuple[Floats, float]:
    """Seconds from the latest earlier sample to each one, 0 where time stands still or runs back; and the latest
    time."""
    dt = np.empty(len(t))
    dt[0] = t[0] - before_s
    np.subtract(t[1:], t[:-1], out=dt[1:])
    if dt.min() >= 0:
        return dt, float(t[-1])
    latest = np.maximum.accumulate(np.concatenate([[before_s], t]))
    return np.diff(latest), float(latest[-1])
