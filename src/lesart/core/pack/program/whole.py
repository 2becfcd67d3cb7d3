"""Integer expressions, each with the least and the greatest value that it can have.

The range of an expression follows from those of its parts by interval arithmetic, so that one tree is computed on
arrays, printed as C or Python, and shown not to overflow.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.plain import plain

LONGEST_MS = 2**31 - 1
"""Greatest number of milliseconds from one time to a later one: longer spans count as this."""
TIMES = 2**32
"""A clock of milliseconds wraps here."""


@dataclass(frozen=True, eq=False)
class Table:
    """Integer constants of a firmware, by name."""

    name: str
    values: tuple[int, ...]
    says: str = ""

    def __post_init__(self) -> None:
        object.__setattr__(self, "says", plain(self.says))

    @property
    def low(self) -> int:
        return min(self.values)

    @property
    def high(self) -> int:
        return max(self.values)


@dataclass(frozen=True, eq=False)
class Whole:
    """``op`` of ``parts``; its value is from ``low`` to ``high``.

    Operations: ``constant``, ``local`` and ``kept`` (variables by name), ``+ - *``, ``down`` (floor of a division by a
    power of two), ``quotient`` (toward zero), ``least``, ``most``, ``at`` (of a table), ``item`` (of a kept array),
    ``< <= ==`` and ``and or not`` (0 or 1), ``|`` and ``&`` of marks, ``pick`` (one of two by a condition), ``since``
    (milliseconds from one moment to another, over the end of the clock), ``within`` (the first part, whose range is
    narrower than intervals can tell, with the reason as a text).
    """

    op: str
    parts: tuple[Any, ...]
    low: int
    high: int

    def __add__(self, other: Whole | int) -> Whole:
        b = whole(other)
        if b.op == "constant" and b.low == 0:
            return self
        if self.op == b.op == "constant":
            return whole(self.low + b.low)
        return Whole("+", (self, b), self.low + b.low, self.high + b.high)

    def __sub__(self, other: Whole | int) -> Whole:
        b = whole(other)
        if b.op == "constant" and b.low == 0:
            return self
        return Whole("-", (self, b), self.low - b.high, self.high - b.low)

    def __radd__(self, other: int) -> Whole:
        return self + other

    def __rsub__(self, other: int) -> Whole:
        return whole(other) - self

    def __mul__(self, other: Whole | int) -> Whole:
        b = whole(other)
        if b.op == "constant" and b.low == 1:
            return self
        ends = [x * y for x in (self.low, self.high) for y in (b.low, b.high)]
        return Whole("*", (self, b), min(ends), max(ends))

    def __lt__(self, other: Whole | int) -> Whole:
        b = whole(other)
        if self.high < b.low or self.low >= b.high:
            return whole(int(self.high < b.low))
        return Whole("<", (self, b), 0, 1)

    def __le__(self, other: Whole | int) -> Whole:
        b = whole(other)
        if self.high <= b.low or self.low > b.high:
            return whole(int(self.high <= b.low))
        return Whole("<=", (self, b), 0, 1)

    def __gt__(self, other: Whole | int) -> Whole:
        return whole(other) < self

    def __ge__(self, other: Whole | int) -> Whole:
        return whole(other) <= self

    @property
    def bits(self) -> int:
        """Bits of the least signed word that holds it."""
        return max(bits_of(self.low), bits_of(self.high))

    def walk(self) -> Iterator[Whole]:
        """The expression and all its parts, each once."""
        seen: set[int] = set()
        left = [self]
        while left:
            part = left.pop()
            if id(part) not in seen:
                seen.add(id(part))
                yield part
                left += [each for each in part.parts if isinstance(each, Whole)]

    @property
    def tables(self) -> Iterator[Table]:
        """The tables that it uses."""
        return (each.parts[0] for each in self.walk() if each.op == "at")


def bits_of(value: int) -> int:
    """Bits of the least signed word that holds a value: 8 for 127 and for −128."""
    return (value if value >= 0 else ~value).bit_length() + 1


def whole(value: Whole | int) -> Whole:
    """An expression; a plain number becomes a constant."""
    return value if isinstance(value, Whole) else Whole("constant", (int(value),), int(value), int(value))


def local(name: str, low: int, high: int) -> Whole:
    """A local variable."""
    return Whole("local", (name,), low, high)


def down(a: Whole, bits: int) -> Whole:
    """The floor of a ÷ 2**bits, as an arithmetic shift gives it."""
    return a if bits == 0 else Whole("down", (a, bits), a.low >> bits, a.high >> bits)


def nearest(a: Whole, bits: int) -> Whole:
    """a ÷ 2**bits, rounded to the nearest, a half up."""
    return a if bits == 0 else down(a + (1 << (bits - 1)), bits)


def toward_zero(a: int, b: int) -> int:
    """The quotient as C has it."""
    return a // b if (a >= 0) == (b > 0) else -(-a // b)


def quotient(a: Whole, b: Whole | int) -> Whole:
    """a ÷ b, cut toward zero; b is never 0. Raises ValueError where it could be."""
    b = whole(b)
    if b.low <= 0 <= b.high:
        raise ValueError("a division by what may be zero")
    ends = [toward_zero(x, y) for x in (a.low, a.high) for y in (b.low, b.high)]
    if a.low <= 0 <= a.high:
        ends.append(0)
    return Whole("quotient", (a, b), min(ends), max(ends))


def least(a: Whole | int, b: Whole | int) -> Whole:
    """The smaller of two."""
    a, b = whole(a), whole(b)
    return Whole("least", (a, b), min(a.low, b.low), min(a.high, b.high))


def most(a: Whole | int, b: Whole | int) -> Whole:
    """The greater of two."""
    a, b = whole(a), whole(b)
    return Whole("most", (a, b), max(a.low, b.low), max(a.high, b.high))


def clipped(a: Whole, low: int, high: int) -> Whole:
    """A value clipped to two ends; unchanged where it never exceeds them."""
    if a.low < low:
        a = most(a, low)
    return least(a, high) if a.high > high else a


def at(table: Table, index: Whole) -> Whole:
    """An entry of a table. Raises ValueError where the index can be outside."""
    if index.low < 0 or index.high >= len(table.values):
        raise ValueError(f"{table.name} has {len(table.values)} entries, and {index.low} to {index.high} is asked for")
    part = table.values[index.low : index.high + 1]
    return Whole("at", (table, index), min(part), max(part))


def pick(condition: Whole, yes: Whole | int, no: Whole | int) -> Whole:
    """One of two values by a condition."""
    yes, no = whole(yes), whole(no)
    if condition.op == "constant":
        return yes if condition.low else no
    return Whole("pick", (condition, yes, no), min(yes.low, no.low), max(yes.high, no.high))


def equal(a: Whole | int, b: Whole | int) -> Whole:
    """1 where they are the same."""
    a, b = whole(a), whole(b)
    if a.high < b.low or a.low > b.high:
        return whole(0)
    return whole(1) if a.low == a.high == b.low == b.high else Whole("==", (a, b), 0, 1)


def both(a: Whole, b: Whole) -> Whole:
    """1 where both are."""
    for one, other in ((a, b), (b, a)):
        if one.op == "constant":
            return other if one.low else one
    return Whole("and", (a, b), 0, 1)


def either(a: Whole, b: Whole) -> Whole:
    """1 where one of them is."""
    for one, other in ((a, b), (b, a)):
        if one.op == "constant":
            return one if one.low else other
    return Whole("or", (a, b), 0, 1)


def neither(a: Whole) -> Whole:
    """1 where it is 0."""
    return Whole("not", (a,), 0, 1)


def marked(mark: Whole, flags: int) -> Whole:
    """A mark with further flags."""
    return Whole("|", (mark, whole(flags)), 0, 255)


def flags_of(mark: Whole, flags: int) -> Whole:
    """Those of the flags that a mark has."""
    return Whole("&", (mark, whole(flags)), 0, flags)


def since(now: Whole, then: Whole) -> Whole:
    """Milliseconds from one time to a later one, at most ``LONGEST_MS``."""
    return Whole("since", (now, then), 0, LONGEST_MS)


def within(a: Whole, low: int, high: int, why: str) -> Whole:
    """A value in a narrower range than intervals can tell, for a reason that is stated in the pack."""
    if a.low >= low and a.high <= high:
        return a
    return Whole("within", (a, why), max(a.low, low), min(a.high, high))


def times(a: Whole, factor: int, *, by_shifts: bool) -> Whole:
    """A product with a constant; with ``by_shifts`` a sum of shifts, for processors without a multiplier.

    Runs of ones become one sum and one difference (canonical signed digits), the fewest there are.
    """
    if factor == 0:
        return whole(0)
    if not by_shifts:
        return a * factor
    total: Whole | None = None
    place, left = 0, factor
    while left:
        if left & 1:
            digit = 2 - (left & 3)
            left -= digit
            part = a * (1 << place)
            total = (
                (part if digit > 0 else whole(0) - part)
                if total is None
                else total + part
                if digit > 0
                else total - part
            )
        left >>= 1
        place += 1
    assert total is not None
    ends = (a.low * factor, a.high * factor)
    return within(total, min(ends), max(ends), "the sum of shifts is the product")
