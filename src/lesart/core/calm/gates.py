"""Gates on samples: rate limit, marks, deadband, settling, and decimation."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Block, Bools, Floats, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.windowed import sliding_range
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit

ROW, SHORT_ROW = 4096, 128
"""Samples that a deadband checks at once for a move, and how few it goes through one by one."""
MARKS = {"held": Mark.HELD, "settling": Mark.SETTLING, "held or settling": Mark.HELD | Mark.SETTLING}


@dataclass(frozen=True)
class RejectRate(Passing):
    """A sample that differs from the last good one by more than ``most_per_s`` times the time between them is marked
    RATE.

    After ``after`` of them in a row the next is accepted: something has really changed.
    """

    most_per_s: float
    after: int
    kind: str = "reject rate"
    memory_samples: int = 0

    def initial(self) -> tuple[float, float, int] | None:
        """No good sample yet."""
        return None

    def run(
        self, state: tuple[float, float, int] | None, block: Block
    ) -> tuple[tuple[float, float, int] | None, Block]:
        """The same values; those that change too fast are marked and NaN."""
        usable = block.usable
        t, x = block.t[usable], block.x[usable]
        if not len(x):
            return state, block
        if state is None:
            state = float(t[0]), float(x[0]), 0
        lost: list[int] = []
        next_one = 0
        # Where each is measured against the one before it, most are right at once; from the first that is too fast on
        # they go one by one, until one is believed again.
        for place in np.flatnonzero(self._too_fast(state, t, x)).tolist():
            if place < next_one:
                continue
            if place:
                state = float(t[place - 1]), float(x[place - 1]), 0
            for next_one in range(place, len(x)):
                at, value = float(t[next_one]), float(x[next_one])
                if state[2] >= self.after or abs(value - state[1]) <= self.most_per_s * max(at - state[0], 0.0):
                    state = at, value, 0
                    next_one += 1
                    break
                lost.append(next_one)
                state = state[0], state[1], state[2] + 1
            else:
                next_one = len(x)
        if next_one < len(x):
            state = float(t[-1]), float(x[-1]), 0
        lost = np.flatnonzero(usable)[lost].tolist()
        if not lost:
            return state, block
        marked, mark = block.x.copy(), block.mark.copy()
        marked[lost] = np.nan
        mark[lost] |= np.uint8(Mark.RATE)
        return state, Block(block.t, marked, mark)

    def _too_fast(self, state: tuple[float, float, int], t: Floats, x: Floats) -> Bools:
        """Each compared with the one before it, the first with the last good one."""
        steps, times = np.empty(len(x)), np.empty(len(x))
        np.subtract(x[1:], x[:-1], out=steps[1:])
        np.subtract(t[1:], t[:-1], out=times[1:])
        steps[0], times[0] = x[0] - state[1], t[0] - state[0]
        most = np.maximum(times, 0.0, out=times)
        most *= self.most_per_s
        return np.asarray(np.abs(steps, out=steps) > most)


@dataclass(frozen=True)
class RejectMark(Passing):
    """Samples with one of these marks count as missing from here on."""

    marks: int
    kind: str = "reject mark"
    memory_samples: int = 0

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """The same values; those with such a mark are missing."""
        lost = (block.mark & np.uint8(self.marks)) != 0
        if not lost.any():
            return None, block
        mark = np.where(lost, block.mark | np.uint8(Mark.MISSING), block.mark)
        return None, Block(block.t, np.where(lost, np.nan, block.x), mark)


@dataclass(frozen=True)
class Deadband(Passing):
    """The output stays until a good sample lies more than ``width`` from it, and goes there then."""

    width: float
    kind: str = "deadband"
    memory_samples: int = 0

    def initial(self) -> float | None:
        """Nothing shown yet."""
        return None

    def run(self, state: float | None, block: Block) -> tuple[float | None, Block]:
        """The block with the held value repeated."""
        usable = block.usable
        whole = bool(usable.all())
        good = block.x if whole else block.x[usable]
        if not len(good):
            return state, block
        out, state = self._moved(good, float(good[0]) if state is None else state)
        if not whole:
            moved, out = out, block.x.copy()
            out[usable] = moved
        return state, block.with_values(out)

    def _moved(self, x: Floats, shown: float) -> tuple[Floats, float]:
        """The output at each sample, and the value held after the last; runs within the band are not looked at one by
        one."""
        out = np.empty(len(x))
        for place in range(0, len(x), ROW):
            shown = self._row(x[place : place + ROW], out[place : place + ROW], shown)
        return out, shown

    def _row(self, x: Floats, out: Floats, shown: float) -> float:
        if float(x.max()) - shown <= self.width and shown - float(x.min()) <= self.width:
            out[:] = shown
        elif len(x) <= SHORT_ROW:
            out[:], shown = self._one_by_one(x.tolist(), shown)
        else:
            half = len(x) // 2
            shown = self._row(x[:half], out[:half], shown)
            shown = self._row(x[half:], out[half:], shown)
        return shown

    def _one_by_one(self, x: list[float], shown: float) -> tuple[list[float], float]:
        width, out = self.width, []
        for value in x:
            if abs(value - shown) > width:
                shown = value
            out.append(shown)
        return out, shown


@dataclass(frozen=True)
class SettlingGate(Passing):
    """Values pass unchanged, marked SETTLING unless the last ``samples`` good ones lie within ``width``."""

    samples: int
    width: float
    kind: str = "settling gate"

    @property
    def memory_samples(self) -> int:
        """The samples that have to agree, without the newest."""
        return self.samples - 1

    def initial(self) -> Floats:
        """None yet."""
        return np.empty(0)

    def run(self, state: Floats, block: Block) -> tuple[Floats, Block]:
        """The same values, marked while they move."""
        usable = block.usable
        last = np.concatenate([state, block.x[usable]])
        fresh = len(last) - len(state)
        if not fresh:
            return state, block
        early = min(max(self.memory_samples - len(state), 0), fresh)
        moving = np.ones(fresh, np.bool_)
        if fresh > early:
            moving[early:] = sliding_range(last, self.samples) > self.width
        if moving.any():
            mark = block.mark.copy()
            mark[usable] |= np.where(moving, np.uint8(Mark.SETTLING), np.uint8(0))
            block = Block(block.t, block.x, mark)
        return last[-self.memory_samples :].copy(), block


@dataclass(frozen=True)
class Decimate(Passing):
    """Every ``n``-th sample passes, good or bad, beginning with the very first; the others are dropped."""

    n: int
    kind: str = "decimate"
    memory_samples: int = 0

    def initial(self) -> int:
        """How many samples to drop before the next one passes."""
        return 0

    def run(self, state: int, block: Block) -> tuple[int, Block]:
        """Fewer samples."""
        left = (state - len(block)) % self.n if len(block) > state else state - len(block)
        return left, block[state :: self.n] if state < len(block) else block[:0]

    def at_rest(self, block: Block) -> Block:
        """A steady value stays."""
        return block


def _reject_rate(values: dict[str, Any], unit: Unit) -> RejectRate:
    most: Quantity = values["most"]
    per_second = tuple(a - b for a, b in zip(most.unit.dimension, unit.dimension, strict=True))
    second = tuple(-int(base == 2) for base in range(len(per_second)))
    if per_second != second:
        raise ValueError(f"most must be in {unit.step} per time, like 1 {unit.step}/s, not {most}")
    return RejectRate(unit, float(most.value * most.unit.scale / unit.scale), values["after"])


def _own(unit: Unit, number: str) -> str:
    return f"{number} {unit.step}".removesuffix(" 1")


REJECT_RATE = FilterKind(
    name="reject rate",
    computes=(
        "The first good sample passes and is kept with its time. Then y = x where |x − last| ≤ most · (t − "
        "last time), a time that runs back counting as none; else y is lost and marked rate. After `after` "
        "lost ones in a row the next passes whatever it is. What passes is kept in place of the last."
    ),
    title="reject by rate",
    says=lambda values: "rate",
    parameters=(
        Parameter(
            "most", "at most", "any quantity", "fastest change that is possible, e.g. 2 kg/s", lowest=0, above=True
        ),
        Parameter("after", "believed after", "integer", "this many in a row", 5, lowest=1, highest=100_000),
    ),
    build=_reject_rate,
    cost=lambda values, interval_s: Cost(0.0, 1.0, 12, 7.0),
    start=lambda unit, interval_s: {"most": f"1 {unit.step}/s" if unit.symbol != "1" else "1 1/s"},
)
REJECT_MARK = FilterKind(
    name="reject mark",
    computes=("y = x; a sample that has one of the marks is lost and marked missing as well. Nothing is kept."),
    title="reject by mark",
    says=lambda values: f"no {values['marks']}",
    parameters=(
        Parameter(
            "marks", "marks", "choice", "samples with this mark count as missing", "settling", choices=tuple(MARKS)
        ),
    ),
    build=lambda values, unit: RejectMark(unit, int(MARKS[values["marks"]])),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 0, 1.0),
)
DEADBAND = FilterKind(
    name="deadband",
    computes=("The first good sample is shown. Then where |x − shown| > width, shown = x; y = shown."),
    title="ignore small changes",
    says=lambda values: f"deadband {values['width']}",
    parameters=(
        Parameter("width", "width", "any quantity", "change below which the output stays, e.g. 0.05 kg", lowest=0),
    ),
    build=lambda values, unit: Deadband(unit, values["width"].difference_in(unit)),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 4, 3.0),
    start=lambda unit, interval_s: {"width": _own(unit, "0.1")},
)
SETTLING_GATE = FilterKind(
    name="settling gate",
    computes=(
        "y = x. It is marked settling unless the last n good samples are there and the greatest of them less "
        "the least is at most width."
    ),
    title="mark until it settles",
    says=lambda values: f"settled {values['samples']}",
    parameters=(
        Parameter("samples", "samples", "integer", "how many of the last ones must agree", 10, lowest=2, highest=1000),
        Parameter("width", "within", "any quantity", "how near to each other, e.g. 0.05 kg", lowest=0),
    ),
    build=lambda values, unit: SettlingGate(unit, values["samples"], values["width"].difference_in(unit)),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 4 * values["samples"], 2.0 * values["samples"]),
    start=lambda unit, interval_s: {"width": _own(unit, "0.1")},
)
DECIMATE = FilterKind(
    name="decimate",
    computes=("The first sample of all passes, good or not, and each n-th after it; the others are dropped."),
    thins="n",
    title="every n-th sample",
    says=lambda values: f"every {values['n']}.",
    parameters=(Parameter("n", "every", "integer", "every n-th sample passes", 10, lowest=1, highest=1_000_000),),
    build=lambda values, unit: Decimate(unit, values["n"]),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 4, 2.0),
)
