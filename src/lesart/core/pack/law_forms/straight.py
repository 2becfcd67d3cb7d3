"""A straight line in integers: one product, one sum, one shift."""

from __future__ import annotations

from fractions import Fraction

from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.whole import Whole, down, times

MOST_SHIFT = 46
"""Most fractional bits of a factor: on a 32-bit word more gain nothing."""

WELL_WITHIN, LEAST_OFF = 0.125, 0.75
"""As a share of the budget, and in steps: an error so small that a wider product would gain nothing."""


def line_form(raw: Whole, gain: Fraction, offset: Fraction, budget: float, machine: Machine) -> Form | None:
    """(raw · m + b) >> s nearest to raw × ``gain`` + ``offset``, in steps; None where it would be off by more than
    ``budget``.

    The finest fitting factor is taken, in the narrowest product that stays well within the budget. Where a count has
    more bits than a word can multiply, its lowest ones are dropped first: rounding down by up to 2^k − 1 counts, half
    of which is added back in b.
    """
    if gain.denominator == offset.denominator == 1:
        exact = times(raw, gain.numerator, by_shifts=not machine.multiplier) + offset.numerator
        if max(part.bits for part in exact.walk()) <= machine.wide:
            says = "one whole product" if gain != 1 else "one sum" if offset else "as it comes"
            return Form(exact, says, f"x = raw · {gain} {'+' if offset >= 0 else '−'} {abs(offset)}")
    for wide in (each for each in (32, 64) if each < machine.wide):
        found = _best(raw, gain, offset, 0, machine, wide)
        if found is not None and found[0] <= max(budget * WELL_WITHIN, LEAST_OFF):
            return found[1]
    for dropped in range(max(raw.bits, 1)):
        found = _best(raw, gain, offset, dropped, machine, machine.wide)
        if found is not None and found[0] <= budget:
            return found[1]
    return None


def _best(
    raw: Whole, gain: Fraction, offset: Fraction, dropped: int, machine: Machine, wide: int
) -> tuple[float, Form] | None:
    short = down(raw, dropped)
    for shift in range(min(MOST_SHIFT, wide - 2), -1, -1):
        factor = round(gain * (1 << (shift + dropped)))
        lost = Fraction((1 << dropped) - 1, 2) * gain
        # A half, so that the floor of the shift rounds to the nearest.
        added = round((offset + lost + (Fraction(1, 2) if shift else 0)) * (1 << shift))
        value = times(short, factor, by_shifts=not machine.multiplier) + added
        if max(part.bits for part in value.walk()) > wide:
            continue
        slant = abs(Fraction(factor, 1 << (shift + dropped)) - gain)
        furthest = max(abs(raw.low), abs(raw.high))
        off = float(slant * furthest + abs(lost) + Fraction(1, 2) + Fraction(1, 1 << shift))
        drops = f"(raw >> {dropped})" if dropped else "raw"
        sign, size = ("+", added) if added >= 0 else ("−", -added)
        form = Form(
            down(value, shift),
            "one product, one sum, one shift",
            f"x = ({drops} · {factor} {sign} {size}) >> {shift}",
        )
        return off, form
    return None
