"""A reading in last places of its field, rounded once by the field's own mode."""

from __future__ import annotations

from fractions import Fraction

from lesart.core.pack.field_forms.wanted import FieldWanted
from lesart.core.pack.law_forms.straight import line_form
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.whole import Whole, both, down, equal, most, nearest, pick, within
from lesart.core.units import conversion

FINER = 4
"""Bits below a last place in a field whose unit differs from the reading's."""


def shown_steps(wanted: FieldWanted, x: Whole, scale: Scale, budget: float, machine: Machine) -> tuple[Whole, int]:
    """The reading in the field's last places, with a number of bits below them."""
    field = wanted.field
    factor, offset = conversion(field.unit_in, field.unit_shown)
    exact = Fraction(factor).limit_denominator(10**12) * 10**field.decimals
    gain, zero = scale.step * exact, scale.zero * exact + Fraction(offset).limit_denominator(10**9) * 10**field.decimals
    for finer in range(7):
        if gain * (1 << finer) == 1 and (zero * (1 << finer)).denominator == 1:
            return x + int(zero * (1 << finer)), finer
    form = line_form(x, gain * (1 << FINER), zero * (1 << FINER), 1.0 + budget * float(gain) * (1 << FINER), machine)
    if form is None:
        raise PackError(f"{wanted.place}: {field.unit_shown} is too fine for a word of {machine.word} bits.")
    return form.value, FINER


def rounded(value: Whole, finer: int, mode: str) -> Whole:
    """Last places of a number with some bits below them, rounded by the field's own mode."""
    if finer == 0:
        return value
    half = 1 << (finer - 1)
    if mode == "floor":
        return down(value, finer)
    if mode == "half even":
        up = down(value + half, finer)
        tie = equal(value - down(value, finer) * (1 << finer), half)
        odd = equal(up - down(up, 1) * 2, 1)
        return up - pick(both(tie, odd), 1, 0)
    minus, size = value < 0, _size_of(value)
    cut = down(size, finer) if mode in ("down", "cut by code") else nearest(size, finer)
    return _with_sign(cut, minus, value)


def rounded_by(value: Whole, parts: int, mode: str, machine: Machine) -> Whole:
    """A number in parts of a last place, rounded to whole ones by the field's own mode."""
    minus, size = value < 0, _size_of(value)
    if mode in ("down", "cut by code"):
        out = divided(size, parts, machine)
    elif mode == "floor":
        out = divided(size + pick(minus, parts - 1, 0), parts, machine)
    elif mode == "half even":
        cut = divided(size, parts, machine)
        rest = within(size - cut * parts, 0, parts - 1, "a remainder")
        odd = equal(cut - down(cut, 1) * 2, 1)
        up = pick(both(equal(rest * 2, parts), odd), 1, pick(rest * 2 > parts, 1, 0))
        out = cut + up
    else:
        out = divided(size + parts // 2, parts, machine)
    return _with_sign(out, minus, value)


def _size_of(value: Whole) -> Whole:
    return within(most(value, 0 - value), 0, max(abs(value.low), abs(value.high)), "a size is not below zero")


def _with_sign(size: Whole, minus: Whole, value: Whole) -> Whole:
    return within(pick(minus, 0 - size, size), -size.high if value.low < 0 else 0, size.high, "the sign is put back")
