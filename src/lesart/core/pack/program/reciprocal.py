"""Division by a constant, for processors with and without a divider."""

from __future__ import annotations

from lesart.core.pack.machine import Machine
from lesart.core.pack.program.whole import Whole, down, quotient, times, within


def divided(a: Whole, by: int, machine: Machine) -> Whole:
    """The floor of a ÷ ``by``, ``a`` never below 0 and ``by`` above 0.

    Without a divider it is a product with a reciprocal, rounded up to so many bits that it is exact for every ``a``:
    with m = ⌈2^s ÷ by⌉ that holds while (m·by − 2^s) × a < 2^s, as a·m ÷ 2^s is then above a ÷ by by less than
    1 ÷ by. Where the product would be too wide the compiler's own division is left.
    """
    if machine.divider or by & (by - 1) == 0:
        return quotient(a, by)
    for shift in range(machine.wide):
        factor = -((-1 << shift) // by)
        if (factor * by - (1 << shift)) * max(a.high, 1) < 1 << shift:
            product = times(a, factor, by_shifts=not machine.multiplier)
            if product.bits <= machine.wide:
                return within(down(product, shift), a.low // by, a.high // by, "the quotient itself")
            break
    return quotient(a, by)
