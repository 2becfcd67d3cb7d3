"""A law that reads a second channel: a table over both, interpolated linearly in either direction."""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from lesart.core.block import UNUSABLE, Floats, Mark
from lesart.core.pack.law_forms.exact import exact_form
from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.law_forms.law_form import Agreement, LawForm, Laws
from lesart.core.pack.law_forms.pair_rows import uneven
from lesart.core.pack.law_forms.pair_surface import (
    FEW_ENTRIES,
    MOST_ENTRIES,
    Beside,
    Measured,
    Surface,
    measured,
    split,
    widest,
)
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.statements import Function, Leave, Let, Statement, When
from lesart.core.pack.program.whole import either, flags_of, local, marked, nearest, whole

GRID = 1025, 41
"""Points of the raw number at which an uneven table may have a row, and of the other reading at which a candidate is
measured."""
FINAL = 2049, 129
"""Points at which the chosen one is measured."""


def pair_form(
    name: str, place: str, laws: Laws, beside: Beside, scale: Scale, budget: float, machine: Machine
) -> LawForm:
    """The table with the fewest entries that is off by at most ``budget`` steps where both readings count.

    Raises PackError where none of up to 4096 entries is.
    """
    surface = Surface(name, laws, beside, scale, machine)
    first, last = _ends(place, surface)
    form = _exact(surface, first, last, budget)
    # An integer law rounds what it reads to counts: a half goes either way, so it is sampled at counts.
    each = beside.scale.step.denominator if form is not None else 1
    form = form or _smallest(surface, first, last, budget - 0.5)
    if form is None:
        raise PackError(
            f"{place}: it reads {beside.title} as well, and no table over both of up to {MOST_ENTRIES} entries stays "
            "near enough to the desk; narrow the channel's range, or allow a larger share of the last place."
        )
    agreement = _agreement(surface, form, first, last, each)
    if agreement.worst > budget * float(scale.step) * (1 + 1e-9):
        allowed = budget * float(scale.step)
        raise PackError(
            f"{place}: at raw {agreement.worst_at} the table over it and {beside.title} is {agreement.worst:.3g} off, "
            f"and {allowed:.3g} is allowed; narrow the channel's range."
        )
    function = _function(place, surface, form, first, last)
    output = function.outputs[0]
    return LawForm(function, form, first, last, (output.low, output.high), agreement)


def _exact(surface: Surface, first: int, last: int, budget: float) -> Form | None:
    """An integer law, where both readings are counts: the other one is rounded to them."""
    laws, beside = surface.laws, surface.beside
    finer = (1 / beside.scale.step).numerator
    counts = beside.scale.zero == 0 and finer & (finer - 1) == 0 and beside.scale.step == Fraction(1, finer)
    if laws.raw.step != 1 or laws.raw.zero != 0 or not counts:
        return None
    other = nearest(local("beside", beside.low, beside.high), finer.bit_length() - 1)
    return exact_form(laws.links, local("raw", first, last), other, surface.scale, budget, surface.machine)


def _ends(place: str, surface: Surface) -> tuple[int, int]:
    laws, beside = surface.laws, surface.beside
    numbers = np.unique(np.rint(np.linspace(laws.low, laws.high, FINAL[0])))
    others = np.unique(np.rint(np.linspace(beside.low, beside.high, GRID[1])))
    _, good = surface.over(numbers, others)
    found = np.flatnonzero(good.any(axis=0))
    if not len(found):
        raise PackError(f"{place}: no raw number gives a reading that counts, whatever {beside.title} reads.")
    before, after = max(found[0] - 1, 0), min(found[-1] + 1, len(numbers) - 1)
    first = _where(surface, others, numbers[before], numbers[found[0]])[0]
    return first, _where(surface, others, numbers[found[-1]], numbers[after])[-1]


def _where(surface: Surface, others: Floats, low: float, high: float) -> tuple[int, int]:
    """The first and the last number that count with any of the other readings."""
    numbers = np.arange(low, high + 1)
    good = surface.over(numbers, others)[1].any(axis=0)
    return int(numbers[good][0]), int(numbers[good][-1])


def _smallest(surface: Surface, first: int, last: int, budget: float) -> Form | None:
    """The even or uneven table, whichever has fewer entries."""
    grid = measured(surface, first, last, GRID)
    even = _even(surface, first, last, grid, budget)
    if even is not None and even.entries <= FEW_ENTRIES:
        return even
    found = (even, uneven(surface, grid, budget))
    return min((each for each in found if each is not None), key=lambda form: form.entries, default=None)


def _even(surface: Surface, first: int, last: int, grid: Measured, budget: float) -> Form | None:
    """Even tables: every power of two as step of the other reading, with the longest step of the raw number that
    suffices."""
    best: Form | None = None
    coarse = grid.coarser
    for other_power in surface.beside.powers:
        columns = surface.beside.columns(other_power)
        for power in range(widest(last - first), 0, -1):
            rows = (last - first >> power) + 2
            if rows * columns > (MOST_ENTRIES if best is None else best.entries - 1):
                break
            form = _form(surface, first, last, power, other_power)
            if form is None or coarse.off(form, surface.scale) > budget:
                continue
            if grid.off(form, surface.scale) <= budget:
                best = form
                break
    return best


def _form(surface: Surface, first: int, last: int, power: int, other_power: int) -> Form | None:
    """The form with rows and columns at powers of two."""
    beside = surface.beside
    numbers = (first + (np.arange((last - first >> power) + 2) << power)).astype(np.float64)
    table = surface.table(
        numbers,
        other_power,
        f"rows every {1 << power} of raw from {first}, columns every {1 << other_power} of {beside.title}",
    )
    if table is None:
        return None
    row, rest = split(local("raw", first, last) - first, power)
    says = "a table over two readings", f"i and r from raw − {first} by 2^{power}"
    return surface.joined(table, row, local("beside", beside.low, beside.high), other_power, rest, power, says)


def _agreement(surface: Surface, form: Form, first: int, last: int, each: int) -> Agreement:
    """The agreement at readings of the other channel that are multiples of ``each`` steps."""
    beside, scale = surface.beside, surface.scale
    numbers = np.unique(np.rint(np.linspace(first, last, FINAL[0])))
    low, high = -(-beside.low // each), beside.high // each
    others = np.unique(np.rint(np.linspace(low, high, FINAL[1]))) * each
    worst, worst_at = 0.0, first
    for other in others.tolist():
        block = surface.at(numbers, int(other))
        good = surface.laws.good(block)
        if not good.any():
            continue
        raw = numbers[good].astype(np.int64)
        worked = on_arrays(form.value, {"raw": raw, "beside": np.full(len(raw), int(other), np.int64)})
        apart = np.abs(worked * float(scale.step) + float(scale.zero) - block.x[good])
        if apart.max() > worst:
            worst, worst_at = float(apart.max()), int(raw[int(apart.argmax())])
    return Agreement(len(numbers) * len(others), False, worst, worst_at, 0)


def _function(place: str, surface: Surface, form: Form, first: int, last: int) -> Function:
    laws, beside, scale = surface.laws, surface.beside, surface.scale
    raw = local("raw", min(laws.low, first), max(laws.high, last))
    mark, other_mark = local("mark", 0, 255), local("beside_mark", 0, 255)
    given = local("beside", beside.low, beside.high)
    lets, value = bound(form.value)
    ends = [round(scale.number(each)) for each in (laws.lowest, laws.highest)]
    low, high = max(ends[0], value.low), min(ends[1], value.high)
    x = local("x", value.low, value.high)
    zero = whole(min(max(0, value.low), value.high))
    body: tuple[Statement, ...] = (
        Let("x", zero),
        When(flags_of(mark, int(UNUSABLE)), (Leave(),)),
        When(flags_of(other_mark, int(UNUSABLE)), (Let("mark", marked(mark, int(Mark.MISSING))), Leave())),
        When(either(raw < first, raw > last), (Let("mark", marked(mark, int(Mark.RANGE))), Leave())),
        *lets,
        Let("x", value),
        When(either(x < low, x > high), (Let("x", zero), Let("mark", marked(mark, int(Mark.RANGE))))),
    )
    says = f"{form.says}; {form.equation}"
    return Function(f"{surface.name}_law", place, says, (raw, mark, given, other_mark), (x, mark), body)
