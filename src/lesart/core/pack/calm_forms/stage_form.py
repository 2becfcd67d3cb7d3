"""The input of every filter's form, and shared parts."""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.block import UNUSABLE
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.statements import Function, Keep, Kept, Leave, Statement, When
from lesart.core.pack.program.whole import TIMES, Whole, flags_of, local

LONGEST_BRIDGED = 16
"""Greatest number of intervals between two good samples for filters by time; longer gaps count as this."""
BY_TIME_FROM_MS = 5
"""A clock of milliseconds cannot measure shorter intervals; samples then count as evenly spaced."""


@dataclass(frozen=True)
class Around:
    """Where a form stands: ``short`` begins its variables, ``channel`` its name, ``place`` is what it stands for.

    Readings lie from ``low`` to ``high`` of ``scale``; ``interval_s`` from sample to sample; ``budget`` how many steps
    it may add to the error.
    """

    channel: str
    short: str
    place: str
    says: str
    scale: Scale
    low: int
    high: int
    interval_s: float
    budget: float
    machine: Machine

    @property
    def name(self) -> str:
        """Name of its function and tables, among those of other channels."""
        return f"{self.channel}_{self.short}"

    @property
    def x(self) -> Whole:
        """The reading."""
        return local("x", self.low, self.high)

    @property
    def mark(self) -> Whole:
        """Its mark."""
        return local("mark", 0, 255)

    @property
    def now(self) -> Whole:
        """When it came, in milliseconds."""
        return local("now", 0, TIMES - 1)

    def kept(self, name: str, low: int, high: int, start: int = 0, length: int = 0) -> Kept:
        """A variable of its own."""
        return Kept(f"{self.short}_{name}", low, high, start, length)

    def moment(self, name: str) -> Kept:
        """A kept time."""
        return self.kept(name, 0, TIMES - 1)

    def function(self, body: tuple[Statement, ...], kept: tuple[Kept, ...] = ()) -> Function:
        """The form."""
        return Function(
            self.name, self.place, self.says, (self.x, self.mark, self.now), (self.x, self.mark), body, kept
        )

    def refused(self, why: str) -> PackError:
        """The error of a form that is not possible like this."""
        return PackError(f"{self.place}: {why}")

    def steps(self, width: float) -> Fraction:
        """A difference of readings in steps."""
        return Fraction(width) / self.scale.step


def unless_usable(mark: Whole) -> When:
    """The statement that leaves on a bad sample, which passes with its mark and changes nothing."""
    return When(flags_of(mark, int(UNUSABLE)), (Leave(),))


def not_below(value: Fraction) -> int:
    """The least integer that is not below."""
    return math.ceil(value)


def not_above(value: Fraction) -> int:
    """The greatest integer that is not above."""
    return math.floor(value)


def keep(kept: Kept, value: Whole) -> Keep:
    """Assign a kept variable."""
    return Keep(kept.name, value)
