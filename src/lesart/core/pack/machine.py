"""The processor that firmware is written for, and the scale in which it holds a reading."""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError


class PackError(LesartError):
    """A channel that cannot be carried into whole numbers as asked: the place, the value and what would do."""


@dataclass(frozen=True)
class Machine:
    """``word`` bits of what is kept; what is worked out on the way has twice as many.

    Without a ``multiplier`` products with constants are sums of shifts; without a ``divider`` quotients by constants
    are products with a reciprocal that is exact over the range.
    """

    word: int = 32
    multiplier: bool = True
    divider: bool = True

    @property
    def wide(self) -> int:
        """Bits of what is worked out on the way."""
        return 2 * self.word

    @property
    def largest(self) -> int:
        """The greatest whole number that can be kept."""
        return (1 << (self.word - 1)) - 1


MOST_FINER = 6
"""Bits finer than a last place: a 64th of it, far below what any sensor tells."""

WELL_FINE = 4
"""From so many bits on it does not matter where a range lies."""


@dataclass(frozen=True)
class Scale:
    """How a whole number stands for a value: value = ``zero`` + number × ``step``, both exact."""

    step: Fraction
    zero: Fraction = Fraction(0)

    def number(self, value: float) -> float:
        """The number, not rounded."""
        return (value - float(self.zero)) / float(self.step)

    def value(self, number: float) -> float:
        """What a number stands for."""
        return float(self.zero) + number * float(self.step)

    def exactly(self, value: float) -> Fraction:
        """The number as a fraction."""
        return (Fraction(value) - self.zero) / self.step


def scale_of(last_place: Fraction, lowest: float, highest: float, machine: Machine, place: str) -> tuple[Scale, int]:
    """The finest scale of a last place halved again and again that holds a range, and how often it was halved.

    Half the word is left free above the range: filters swing over it, and a field may be in another unit. Where a range
    lies far from zero it is told from its middle, if that gives finer steps. Raises PackError where not even whole last
    places fit.
    """
    zero = Fraction(0)
    places = _places(last_place, lowest, highest, zero)
    middle = round((Fraction(lowest) + Fraction(highest)) / 2 / last_place) * last_place
    if _finest(places, machine) < WELL_FINE and _finest(
        _places(last_place, lowest, highest, middle), machine
    ) > _finest(places, machine):
        zero, places = middle, _places(last_place, lowest, highest, middle)
    finer = _finest(places, machine)
    if finer >= 0:
        return Scale(last_place / (1 << finer), zero), finer
    needs = math.ceil(math.log2(float(places) * 2 + 2)) + 1
    word = next((each for each in (16, 32) if each >= needs), 0)
    would = f"a word of {word} bits would do" if word else "show fewer decimals"
    raise PackError(
        f"{place}: {lowest:g} to {highest:g} is {float(places):.0f} last places to either side, and a word of "
        f"{machine.word} bits holds {machine.largest // 2} with room to swing; {would}."
    )


def _places(last_place: Fraction, lowest: float, highest: float, zero: Fraction) -> Fraction:
    """The most last places that a range is from its zero."""
    return max(abs(Fraction(lowest) - zero), abs(Fraction(highest) - zero)) / last_place


def _finest(places: Fraction, machine: Machine) -> int:
    """How often a last place can be halved; −1 where it is too fine itself."""
    return next((finer for finer in range(MOST_FINER, -1, -1) if places * (2 << finer) <= machine.largest), -1)
