"""Laws as stages of a chain: they mark what a law cannot convert, and compute the rest."""

from __future__ import annotations

from typing import cast

import numpy as np

from lesart.core.block import UNUSABLE, Block, Floats, Mark, Marks, joined
from lesart.core.chain import Stage
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.record import Argument, Beside, Law, OverTimeLaw, WindowLaw
from lesart.core.parameters import ChannelName
from lesart.core.ranked import distinct
from lesart.core.units import Unit

USABLE_SHARE = 0.5
"""A window with a smaller usable share has no value."""
SAME_TIME = 1e-6
"""Of a hop: a sample this close before the end of a window belongs to the next, however its time was rounded."""


def stage_of(kind: str, law: Law | Beside | WindowLaw | OverTimeLaw) -> Stage:
    """The stage for a law as its kind builds it; with all other inputs constant it is a law of one input."""
    if isinstance(law, Beside):
        return BesideStage(kind, law) if law.channels else LawStage(kind, law.fixed(()))
    if hasattr(law, "of_window"):
        return WindowStage(kind, cast(WindowLaw, law))
    if hasattr(law, "advance"):
        return OverTimeStage(kind, cast(OverTimeLaw, law))
    return LawStage(kind, law)


@dataclass(frozen=True)
class LawStage:
    """A law as a stage of a chain: marks what the law cannot convert, computes the rest."""

    kind: str
    law: Law
    memory_samples: int = 0
    pointwise: None = None

    @property
    def unit_in(self) -> Unit:
        """Unit of the values that go in."""
        return self.law.unit_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the values that come out."""
        return self.law.unit_out

    def initial(self) -> None:
        """No state."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Values outside the valid range become NaN with RANGE; those at a converter's end keep a SATURATED value."""
        mark = block.mark
        ends = self.law.saturated_at
        low, high = (block.x.min(), block.x.max()) if len(block) else (np.nan, np.nan)
        valid = self.law.valid_in
        if valid[0] <= low and high <= valid[1] and (ends is None or (ends[0] < low and high < ends[1])):
            # Nearly always all of them lie inside; a NaN does not.
            with np.errstate(all="ignore"):
                return None, block.with_values(self.law.forward(block.x), mark)
        if ends is not None:
            full = block.usable & ((block.x <= ends[0]) | (block.x >= ends[1]))
            mark = np.where(full, mark | np.uint8(Mark.SATURATED), mark)
        x, mark = _within(self.law.valid_in, block, mark)
        with np.errstate(all="ignore"):
            return None, block.with_values(self.law.forward(x), mark)

    def slope(self, x: float) -> float:
        """Output per input at ``x``."""
        with np.errstate(all="ignore"):
            return float(self.law.slope(np.array([x]))[0])

    def inverse(self, y: float) -> float:
        """The input whose output is ``y``; infinite where it overflows, NaN where there is none."""
        with np.errstate(all="ignore"):
            return float(self.law.inverse(np.array([y]))[0])


def _within(valid: tuple[Floats | float, Floats | float], block: Block, mark: Marks) -> tuple[Floats, Marks]:
    """Values with NaN outside ``valid``, and the marks for those."""
    outside = block.usable & ~((block.x >= valid[0]) & (block.x <= valid[1]))
    if not outside.any():
        return block.x, mark
    return np.where(outside, np.nan, block.x), np.where(outside, mark | np.uint8(Mark.RANGE), mark)


@dataclass(frozen=True)
class BesideStage:
    """A law that reads channels besides its own. A chain finds their values for it."""

    kind: str
    beside: Beside
    memory_samples: int = 0

    @property
    def unit_in(self) -> Unit:
        """Unit of the values that go in."""
        return self.beside.law.unit_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the values that come out."""
        return self.beside.law.unit_out

    @property
    def reads(self) -> tuple[Argument, ...]:
        """The inputs that it takes from channels."""
        return self.beside.channels

    def fixed(self, values: tuple[float, ...]) -> LawStage:
        """The same with ``values``, in the order of ``reads`` and in their units, instead of the channels."""
        return LawStage(self.kind, self.beside.fixed(values))

    def run_beside(self, block: Block, values: tuple[Floats, ...]) -> Block:
        """``values`` in the order of ``reads``, each of the block's shape; where one is missing the sample is lost."""
        left = iter(values)
        others = [
            next(left) if isinstance(each.given, ChannelName) else np.array([each.given])
            for each in self.beside.arguments
        ]
        with np.errstate(all="ignore"):
            x, mark = _within(self.beside.law.valid(*others), block, block.mark)
            return block.with_values(self.beside.law.forward(x, *others), mark)

    def initial(self) -> None:
        """No state."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Without its channels every sample is missing."""
        nothing = tuple(np.full(len(block), np.nan) for _ in self.reads)
        return None, self.run_beside(block, nothing)

    def slope(self, x: float) -> float:
        """NaN: unknown without the channels. Fix them with ``fixed``."""
        return float("nan")

    def inverse(self, y: float) -> float:
        """NaN: unknown without the channels. Fix them with ``fixed``."""
        return float("nan")


@dataclass(frozen=True)
class Gathered:
    """Samples of unfinished windows, and the number of the next window, counted from ``first_s``."""

    first_s: float
    next: int
    waiting: Block


def _begun(at: Floats, length: float) -> Floats:
    """Numbers of the windows that hold a sample, rising; a gap in time makes no empty windows."""
    newest = distinct(np.floor(at))
    before = np.arange(np.ceil(length))
    return distinct((newest[:, None] - before[None, :]).ravel())


@dataclass(frozen=True)
class WindowStage:
    """A law of windows: it gives fewer samples than it takes, each at the end of its window.

    A window is given out once a sample at or after its end has come, so no future samples are used. It is computed from
    its samples in one piece, so that cutting the input changes no bit.
    """

    kind: str
    law: WindowLaw
    memory_samples: int = 0

    @property
    def unit_in(self) -> Unit:
        """Unit of the values that go in."""
        return self.law.unit_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the values that come out."""
        return self.law.unit_out

    def initial(self) -> Gathered | None:
        """The state before the first sample, which sets where windows begin."""
        return None

    def run(self, state: Gathered | None, block: Block) -> tuple[Gathered | None, Block]:
        """The windows that have ended."""
        if not len(block):
            return state, block
        if state is None:
            state = Gathered(float(block.t[0]), 0, block[:0])
        waiting = joined([state.waiting, block]) if len(state.waiting) else block
        hop, first = self.law.hop_s, state.first_s
        # In hops from the first sample; times that run backwards stay in the current window.
        at = np.maximum.accumulate((waiting.t - first) / hop + SAME_TIME)
        length = self.law.window_s / hop
        begun = _begun(at, length)
        begun = begun[begun >= state.next]
        stops = np.searchsorted(at, begun + length)
        over = stops < len(at)
        begun, stops = begun[over], stops[over]
        starts = np.searchsorted(at, begun)
        made = [self._of(waiting[int(start) : int(stop)]) for start, stop in zip(starts, stops, strict=True)]
        x = np.array([value for value, _ in made], np.float64)
        mark = np.array([flags for _, flags in made], np.uint8)
        done = int(begun[-1]) + 1 if len(begun) else state.next
        left = waiting[int(np.searchsorted(at, float(done))) :]
        return Gathered(first, done, left), Block(first + (begun * hop + self.law.window_s), x, mark)

    def _of(self, window: Block) -> tuple[float, int]:
        usable = window.usable
        if not len(window) or usable.mean() < USABLE_SHARE:
            return float("nan"), int(Mark.MISSING)
        x = np.ascontiguousarray(window.x[usable])
        span = float(window.t[-1] - window.t[0])
        with np.errstate(all="ignore"):
            value = self.law.of_window(x, span / (len(window) - 1) if len(window) > 1 else float("nan"))
        kept = int(np.bitwise_or.reduce(window.mark)) & ~int(UNUSABLE)
        return (value, kept) if np.isfinite(value) else (float("nan"), kept | int(Mark.MISSING))

    def at_rest(self, block: Block) -> Block:
        """The result for each value as a constant input."""
        with np.errstate(all="ignore"):
            return block.with_values(self.law.at_rest(block.x))

    def slope(self, x: float) -> float:
        """Slope of the settled output."""
        step = max(abs(x), 1.0) * 1e-6
        with np.errstate(all="ignore"):
            low, high = self.law.at_rest(np.array([x - step, x + step]))
            low, high = (value if np.isfinite(value) else np.nan for value in (low, high))
        return float(high - low) / (2 * step)

    def inverse(self, y: float) -> float:
        """The constant input whose output is ``y``."""
        return self.law.inverse(y)
