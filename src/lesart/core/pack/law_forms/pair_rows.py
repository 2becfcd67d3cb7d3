"""A table over two readings with rows where the law bends."""

from __future__ import annotations

import itertools

import numpy as np

from lesart.core.block import Bools, Floats
from lesart.core.pack.law_forms.curve_table import found_by_halving
from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.law_forms.pair_surface import MOST_ENTRIES, Measured, Surface
from lesart.core.pack.program.whole import Table, at, local, nearest, within

FEWEST_ROWS = 3
ROWS_SHARE = 0.6
"""Share of the error for the rows; the columns have the rest."""
SHARE_BITS, RECIPROCAL_BITS = 8, 14
"""Bits of the fraction between rows, and further bits of the reciprocal that it is computed with."""


def uneven(surface: Surface, grid: Measured, budget: float) -> Form | None:
    """The form with rows as far apart as lines allow, and columns at a power of two; None where that is not accurate
    enough."""
    allowed = budget * float(surface.scale.step) * ROWS_SHARE
    for power in surface.beside.powers:
        columns = surface.beside.columns(power)
        if columns * FEWEST_ROWS > MOST_ENTRIES:
            break
        knots = _knots(surface, grid.numbers, power, allowed)
        if len(knots) * columns > MOST_ENTRIES:
            break
        form = _form(surface, knots, power) if len(knots) >= FEWEST_ROWS else None
        if form is not None and grid.off(form, surface.scale) <= budget:
            return form
    return None


def _knots(surface: Surface, numbers: Floats, power: int, allowed: float) -> tuple[int, ...]:
    """Numbers between which lines are within the allowed error, wherever readings count, in every column."""
    readings = surface.readings(numbers, surface.columns(power))
    laws = surface.laws
    counts = (readings >= laws.lowest) & (readings <= laws.highest)
    places, at_place = [0], 0
    while at_place < len(numbers) - 1:
        reach, step = at_place + 1, 1
        # In doubling strides as long as they suffice, then in halving ones.
        while step:
            there = min(reach + step, len(numbers) - 1)
            if there > reach and _is_straight(numbers, readings, counts, at_place, there, allowed):
                reach, step = there, step * 2
            else:
                step //= 2
        at_place = reach
        places.append(at_place)
    return tuple(int(numbers[place]) for place in places)


def _is_straight(numbers: Floats, readings: Floats, counts: Bools, start: int, end: int, allowed: float) -> bool:
    part = slice(start, end + 1)
    share = (numbers[part] - numbers[start]) / (numbers[end] - numbers[start])
    chord = readings[:, [start]] + (readings[:, [end]] - readings[:, [start]]) * share
    off = np.abs(chord - readings[:, part])[counts[:, part]]
    return not len(off) or bool(off.max() <= allowed)


def _form(surface: Surface, knots: tuple[int, ...], power: int) -> Form | None:
    """The form, with the fraction between two rows as a product with a reciprocal, in 256ths."""
    name, beside, first = surface.name, surface.beside, knots[0]
    table = surface.table(
        np.array(knots, np.float64),
        power,
        f"a row for each of {name}_rows, columns every {1 << power} of {beside.title}",
    )
    if table is None:
        return None
    widths = [end - begin for begin, end in itertools.pairwise(knots)]
    rows = Table(f"{name}_rows", tuple(each - first for each in knots[:-1]), f"where each row stands, from raw {first}")
    finer = SHARE_BITS + RECIPROCAL_BITS
    parts = Table(
        f"{name}_share", tuple(round((1 << finer) / each) for each in widths), "a number's part of its stretch"
    )
    off = local("raw", first, knots[-1]) - first
    row = found_by_halving(rows, off)
    rest = within(off - at(rows, row), 0, max(widths), "its row begins at or before it")
    share = within(nearest(rest * at(parts, row), RECIPROCAL_BITS), 0, 1 << SHARE_BITS, "a share of a stretch")
    other = local("beside", beside.low, beside.high)
    says = "an uneven table over two readings", "i found by halving"
    return surface.joined(table, row, other, power, share, SHARE_BITS, says)
