"""The processor that firmware is written for, and the scale of its readings."""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError


class PackError(LesartError):
    """A channel that has no integer form as asked: the place, the value and what would do."""


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
        """Bits of intermediate values."""
        return 2 * self.word

    @property
    def largest(self) -> int:
        """The greatest integer that can be kept."""
        return (1 << (self.word - 1)) - 1


MOST_FINER = 6
"""Most bits below a last place: a 64th of it, far below what any sensor resolves."""

WELL_FINE = 4
"""From this many bits the position of a range does not matter."""


@dataclass(frozen=True)
class Scale:
    """The scale of an integer: value = ``zero`` + number × ``step``, both exact."""

    step: Fraction
    zero: Fraction = Fraction(0)

    def number(self, value: float) -> float:
        """The number, not rounded."""
        return (value - float(self.zero)) / float(self.step)

    def value(self, number: float) -> float:
        """The value of a number."""
        return float(self.zero) + number * float(self.step)

    def exactly(self, value: float) -> Fraction:
        """The number as a fraction."""
        return (Fraction(value) - self.zero) / self.step


def scale_of(last_place: Fraction, lowest: float, highest: float, machine: Machine, place: str) -> tuple[Scale, int]:
    """The finest scale that holds a range, by repeatedly halving a last place, and the number of halvings.

    Half the word is left free above the range: filters overshoot, and a field may be in another unit. A range far from
    zero is taken relative to its middle, if that gives finer steps. Raises PackError where not even whole last places
    fit.
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
    """The greatest distance of a range from its zero, in last places."""
    return max(abs(Fraction(lowest) - zero), abs(Fraction(highest) - zero)) / last_place


def _finest(places: Fraction, machine: Machine) -> int:
    """How often a last place can be halved; −1 where it is too fine itself."""
    return next((finer for finer in range(MOST_FINER, -1, -1) if places * (2 << finer) <= machine.largest), -1)
