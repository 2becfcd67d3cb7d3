"""How a small processor makes digits: by division and remainder, and by shift and add (BCD)."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass

BASE = 10
ADDED, CARRIES_FROM = 3, 5
DIVIDING_OPERATIONS = 3
"""Operations of a division without hardware, per bit of the word: shift, compare, subtract."""


@dataclass(frozen=True)
class Division:
    """``number`` = ``quotient`` × ``by`` + ``remainder``; the quotient is the digit."""

    number: int
    by: int
    quotient: int
    remainder: int


@dataclass(frozen=True)
class Shift:
    """One step of shift and add: the BCD digits after 3 was added to those of 5 and more, and after the shift."""

    bit: int
    added: tuple[int, ...]
    shifted: tuple[int, ...]


def divisions(number: int, digits: int) -> tuple[Division, ...]:
    """From the highest place to the tens; the last remainder is the last digit. ``number`` ≥ 0, below 10**digits."""
    found = []
    for place in range(digits - 1, 0, -1):
        by = BASE**place
        quotient, remainder = divmod(number, by)
        found.append(Division(number, by, quotient, remainder))
        number = remainder
    return tuple(found)


def shifts(number: int, digits: int, bits: int) -> tuple[Shift, ...]:
    """All steps for a word of ``bits``, digits from the highest on. ``number`` ≥ 0, below 2**bits and 10**digits."""
    held = [0] * digits
    found = []
    for place in range(bits - 1, -1, -1):
        bit = number >> place & 1
        added = [each + ADDED if each >= CARRIES_FROM else each for each in held]
        wide = sum(each << 4 * power for power, each in enumerate(reversed(added)))
        wide = (wide << 1 | bit) & ((1 << 4 * digits) - 1)
        held = [wide >> 4 * power & 0xF for power in range(digits - 1, -1, -1)]
        found.append(Shift(bit, tuple(added), tuple(held)))
    return tuple(found)


def bcd(number: int, digits: int) -> str:
    """Each digit as four bits: ``0000 0100 0010 0010``."""
    return " ".join(f"{int(digit):04b}" for digit in f"{number:0{digits}d}")


def word_bits(number: int) -> int:
    """The narrowest usual word that holds a number: 8, 16, 32 or 64 bits."""
    return next(bits for bits in (8, 16, 32, 64) if number < 1 << bits)


def division_operations(digits: int, bits: int, *, has_divider: bool) -> int:
    """Processor operations for all digits: each place divides once and gets the remainder by a product."""
    one = 1 if has_divider else DIVIDING_OPERATIONS * bits
    return (digits - 1) * (one + 2)


def shift_operations(digits: int, bits: int) -> int:
    """Processor operations: for each bit a shift, and for each digit a comparison and, half the time, an addition."""
    return bits * (1 + digits + (digits + 1) // 2)
