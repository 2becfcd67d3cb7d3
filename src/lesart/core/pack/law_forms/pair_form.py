"""A law that reads a second channel: a table over both, joined by lines in either direction."""

from __future__ import annotations

import itertools
from dataclasses import replace
from fractions import Fraction

import numpy as np

from lesart.core.block import UNUSABLE, Block, Bools, Floats, Mark
from lesart.core.chain import Link
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.law_forms.curve_table import found_by_halving
from lesart.core.pack.law_forms.exact import exact_form
from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.law_forms.law_form import Agreement, LawForm, Laws
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.statements import Function, Leave, Let, Statement, When
from lesart.core.pack.program.whole import (
    Table,
    Whole,
    at,
    down,
    either,
    flags_of,
    local,
    marked,
    nearest,
    whole,
    within,
)

MOST_ENTRIES, FEW_ENTRIES = 4096, 256
"""A table of no more than few is not worth the longer way to its rows."""
GRID = 1025, 41
"""Places of the raw number, at which an uneven table may have a row, and of the other reading, at which a candidate is
measured."""
COARSER = 11
FINAL = 2049, 129
"""And at which the one that is taken is."""
ROWS_SHARE = 0.6
"""Of the error: what the rows may take, the columns have the rest."""
SHARE_BITS, RECIPROCAL_BITS = 8, 14
"""Bits of a share of the way from row to row, and of the reciprocal that it is worked out with below that."""


@dataclass(frozen=True)
class Beside:
    """The channel that a law reads: its readings from ``low`` to ``high`` of ``scale``; ``in_code`` is its name."""

    title: str
    in_code: str
    scale: Scale
    low: int
    high: int


@dataclass(frozen=True)
class _Surface:
    """What the desk makes of a raw number while the other channel reads something."""

    laws: Laws
    beside: Beside

    def at(self, numbers: Floats, other: int) -> Block:
        """For one reading of the other."""
        value = self.beside.scale.value(other)
        links: tuple[Link, ...] = tuple(link.at({self.beside.title: value}) for link in self.laws.links)
        return replace(self.laws, links=links).at(numbers)

    def over(self, numbers: Floats, others: Floats) -> tuple[Floats, Bools]:
        """Readings and which of them count, shape (others, numbers)."""
        blocks = [self.at(numbers, int(each)) for each in others.tolist()]
        return np.array([each.x for each in blocks]), np.array([self.laws.good(each) for each in blocks])


def pair_form(
    name: str, place: str, laws: Laws, beside: Beside, scale: Scale, budget: float, machine: Machine
) -> LawForm:
    """The table with the fewest entries that is off by at most ``budget`` steps where both readings count.

    Raises PackError where none of up to 4096 entries is.
    """
    surface = _Surface(laws, beside)
    first, last = _ends(place, surface)
    form = _exact(surface, first, last, scale, budget, machine)
    # A law of whole numbers rounds what it reads to counts: a half goes either way, so it is asked at counts.
    each = beside.scale.step.denominator if form is not None else 1
    form = form or _smallest(name, surface, first, last, scale, budget - 0.5, machine)
    if form is None:
        raise PackError(
            f"{place}: it reads {beside.title} as well, and no table over both of up to {MOST_ENTRIES} entries stays "
            "near enough to the desk; narrow the channel's range, or allow a larger share of the last place."
        )
    agreement = _agreement(surface, form, first, last, scale, each)
    if agreement.worst > budget * float(scale.step) * (1 + 1e-9):
        allowed = budget * float(scale.step)
        raise PackError(
            f"{place}: at raw {agreement.worst_at} the table over it and {beside.title} is {agreement.worst:.3g} off, "
            f"and {allowed:.3g} is allowed; narrow the channel's range."
        )
    function = _function(name, place, form, laws, beside, first, last, scale)
    output = function.outputs[0]
    return LawForm(function, form, first, last, (output.low, output.high), agreement)


def _exact(surface: _Surface, first: int, last: int, scale: Scale, budget: float, machine: Machine) -> Form | None:
    """A law of whole numbers, where both readings are counts: the other one is rounded to them."""
    laws, beside = surface.laws, surface.beside
    finer = (1 / beside.scale.step).numerator
    counts = beside.scale.zero == 0 and finer & (finer - 1) == 0 and beside.scale.step == Fraction(1, finer)
    if laws.raw.step != 1 or laws.raw.zero != 0 or not counts:
        return None
    other = nearest(local("beside", beside.low, beside.high), finer.bit_length() - 1)
    return exact_form(laws.links, local("raw", first, last), other, scale, budget, machine)


def _ends(place: str, surface: _Surface) -> tuple[int, int]:
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


def _where(surface: _Surface, others: Floats, low: float, high: float) -> tuple[int, int]:
    """The first and the last number of some that count with any of the other readings."""
    numbers = np.arange(low, high + 1)
    good = surface.over(numbers, others)[1].any(axis=0)
    return int(numbers[good][0]), int(numbers[good][-1])


def _smallest(
    name: str, surface: _Surface, first: int, last: int, scale: Scale, budget: float, machine: Machine
) -> Form | None:
    """Even or uneven, whichever has fewer entries."""
    beside = surface.beside
    numbers = np.unique(np.rint(np.linspace(first, last, GRID[0])))
    others = np.unique(np.rint(np.linspace(beside.low, beside.high, GRID[1])))
    exact, good = surface.over(numbers, others)
    even = _even(name, surface, first, last, scale, budget, machine, (numbers, others, exact, good))
    if even is not None and even.entries <= FEW_ENTRIES:
        return even
    uneven = _uneven(name, surface, numbers, others, scale, budget, machine, exact, good)
    return min((each for each in (even, uneven) if each is not None), key=lambda form: form.entries, default=None)


def _even(
    name: str,
    surface: _Surface,
    first: int,
    last: int,
    scale: Scale,
    budget: float,
    machine: Machine,
    measured: tuple[Floats, Floats, Floats, Bools],
) -> Form | None:
    """Of the step of the other reading every power, with the longest step of the raw number that will do."""
    beside, best = surface.beside, None
    numbers, others, exact, good = measured
    # Most candidates fail at few places already.
    coarse = numbers[::COARSER], others, exact[:, ::COARSER], good[:, ::COARSER]
    for other_power in range(_bits(beside.high - beside.low), -1, -1):
        columns = (beside.high - beside.low >> other_power) + 2
        for power in range(_bits(last - first), 0, -1):
            rows = (last - first >> power) + 2
            if rows * columns > (MOST_ENTRIES if best is None else best.entries - 1):
                break
            form = _form(name, surface, first, last, power, other_power, scale, machine)
            if form is None or _off(form, *coarse, scale) > budget:
                continue
            if _off(form, *measured, scale) <= budget:
                best = form
                break
    return best


def _uneven(
    name: str,
    surface: _Surface,
    numbers: Floats,
    others: Floats,
    scale: Scale,
    budget: float,
    machine: Machine,
    exact: Floats,
    good: Bools,
) -> Form | None:
    """Rows where the law bends: each as far from the one before as lines allow; columns by a power of two."""
    beside = surface.beside
    for other_power in range(_bits(beside.high - beside.low), -1, -1):
        columns = (beside.high - beside.low >> other_power) + 2
        if columns * 3 > MOST_ENTRIES:
            break
        knots = _knots(surface, numbers, other_power, columns, budget * float(scale.step) * ROWS_SHARE)
        if len(knots) * columns > MOST_ENTRIES:
            break
        form = _uneven_form(name, surface, knots, other_power, columns, scale, machine)
        if form is not None and _off(form, numbers, others, exact, good, scale) <= budget:
            return form
    return None


def _columns(surface: _Surface, other_power: int, columns: int) -> Floats:
    return (surface.beside.low + (np.arange(columns) << other_power)).astype(np.float64)


def _readings(surface: _Surface, numbers: Floats, others: Floats) -> Floats:
    """What the desk makes of them, as far as it can be of use; shape (others, numbers)."""
    laws = surface.laws
    room = laws.highest - laws.lowest
    readings, _ = surface.over(numbers, others)
    return _filled(np.clip(readings, laws.lowest - room / 2, laws.highest + room / 2))


def _knots(surface: _Surface, numbers: Floats, other_power: int, columns: int, allowed: float) -> tuple[int, ...]:
    """Numbers between which lines are off by no more than is allowed, wherever readings count, in every column."""
    others = _columns(surface, other_power, columns)
    readings = _readings(surface, numbers, others)
    laws = surface.laws
    counts = (readings >= laws.lowest) & (readings <= laws.highest)
    places, at_place = [0], 0
    while at_place < len(numbers) - 1:
        reach, step = at_place + 1, 1
        # In strides that double as long as they will do, then in ones that halve.
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


def _uneven_form(
    name: str,
    surface: _Surface,
    knots: tuple[int, ...],
    other_power: int,
    columns: int,
    scale: Scale,
    machine: Machine,
) -> Form | None:
    """The share of the way between two rows is a product with a reciprocal, in 256ths."""
    beside, first = surface.beside, knots[0]
    readings = _readings(surface, np.array(knots, np.float64), _columns(surface, other_power, columns))
    if len(knots) < 3 or not np.isfinite(readings).all():
        return None
    steps = np.rint((readings - float(scale.zero)) / float(scale.step)).T
    table = Table(
        f"{name}_surface",
        tuple(int(each) for each in steps.ravel().tolist()),
        f"a row for each of {name}_rows, columns every {1 << other_power} of {beside.title}",
    )
    widths = [end - begin for begin, end in itertools.pairwise(knots)]
    rows = Table(f"{name}_rows", tuple(each - first for each in knots[:-1]), f"where each row stands, from raw {first}")
    finer = SHARE_BITS + RECIPROCAL_BITS
    parts = Table(
        f"{name}_share", tuple(round((1 << finer) / each) for each in widths), "what a number is of its stretch"
    )
    raw, other = local("raw", first, knots[-1]), local("beside", beside.low, beside.high)
    off = raw - first
    row = found_by_halving(rows, off)
    rest = within(off - at(rows, row), 0, max(widths), "its row begins at or before it")
    share = within(nearest(rest * at(parts, row), RECIPROCAL_BITS), 0, 1 << SHARE_BITS, "a share of a stretch")
    column, other_rest = _split(other - beside.low, other_power)
    index = row * columns + column
    low, high = min(table.values), max(table.values)

    def across(offset: int) -> Whole:
        here, there = at(table, index + offset), at(table, index + offset + 1)
        joined = here + nearest((there - here) * other_rest, other_power)
        return within(joined, low, high, "between two entries of the table")

    near, far = across(0), across(columns)
    value = within(near + nearest((far - near) * share, SHARE_BITS), low, high, "between two entries of the table")
    if any(part.bits > machine.wide for part in value.walk()) or value.bits > machine.word:
        return None
    equation = (
        f"x between T[i][j], T[i+1][j], T[i][j+1] and T[i+1][j+1]; i found by halving, j and q from {beside.title} by "
        f"2^{other_power}"
    )
    return Form(value, "an uneven table over two readings", equation, len(table.values))


def _bits(span: int) -> int:
    return max(span.bit_length() - 1, 1)


def _off(form: Form, numbers: Floats, others: Floats, exact: Floats, good: Bools, scale: Scale) -> float:
    raw, other = (each.astype(np.int64) for each in np.meshgrid(numbers, others))
    worked = on_arrays(form.value, {"raw": raw, "beside": other}) * float(scale.step) + float(scale.zero)
    apart = np.abs(worked - exact)[good]
    return float(apart.max()) / float(scale.step) if len(apart) else 0.0


def _form(
    name: str, surface: _Surface, first: int, last: int, power: int, other_power: int, scale: Scale, machine: Machine
) -> Form | None:
    beside = surface.beside
    rows, columns = (last - first >> power) + 2, (beside.high - beside.low >> other_power) + 2
    numbers = (first + (np.arange(rows) << power)).astype(np.float64)
    readings = _readings(surface, numbers, _columns(surface, other_power, columns))
    if not np.isfinite(readings).all():
        return None
    steps = np.rint((readings - float(scale.zero)) / float(scale.step)).T
    table = Table(
        f"{name}_surface",
        tuple(int(each) for each in steps.ravel().tolist()),
        f"rows every {1 << power} of raw from {first}, columns every {1 << other_power} of {beside.title}",
    )
    raw, other = local("raw", first, last), local("beside", beside.low, beside.high)
    row, rest = _split(raw - first, power)
    column, other_rest = _split(other - beside.low, other_power)
    index = row * columns + column
    low, high = min(table.values), max(table.values)

    def across(offset: int) -> Whole:
        here, there = at(table, index + offset), at(table, index + offset + 1)
        joined = here + nearest((there - here) * other_rest, other_power)
        return within(joined, low, high, "between two entries of the table")

    near, far = across(0), across(columns)
    value = within(near + nearest((far - near) * rest, power), low, high, "between two entries of the table")
    if any(part.bits > machine.wide for part in value.walk()) or value.bits > machine.word:
        return None
    equation = (
        f"x between T[i][j], T[i+1][j], T[i][j+1] and T[i+1][j+1]; i and r from raw − {first} by 2^{power}, "
        f"j and q from {beside.title} by 2^{other_power}"
    )
    return Form(value, "a table over two readings", equation, len(table.values))


def _split(off: Whole, power: int) -> tuple[Whole, Whole]:
    place = down(off, power)
    return place, within(off - place * (1 << power), 0, (1 << power) - 1, "the rest of a division")


def _filled(readings: Floats) -> Floats:
    """What the law does not know goes on from what it knows nearby, so that tables have no holes."""
    for column in readings:
        _gone_on(column)
    for row in readings.T:
        _gone_on(row)
    return readings


def _gone_on(values: Floats) -> None:
    """Gaps as lines, and beyond the ends as the last two that are known went: a stretch that is known in part is right
    as far as it is."""
    known = np.flatnonzero(np.isfinite(values))
    if not len(known) or len(known) == len(values):
        return
    places = np.arange(len(values))
    filled = np.interp(places, known, values[known])
    for end, inner in ((known[0], known[1:2]), (known[-1], known[-2:-1])):
        outside = places < end if end == known[0] else places > end
        slant = (values[end] - values[inner[0]]) / (end - inner[0]) if len(inner) else 0.0
        filled[outside] = values[end] + slant * (places[outside] - end)
    values[:] = filled


def _agreement(surface: _Surface, form: Form, first: int, last: int, scale: Scale, each: int) -> Agreement:
    """At readings of the other that are whole multiples of ``each`` steps."""
    beside = surface.beside
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


def _function(
    name: str, place: str, form: Form, laws: Laws, beside: Beside, first: int, last: int, scale: Scale
) -> Function:
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
    return Function(f"{name}_law", place, says, (raw, mark, given, other_mark), (x, mark), body)
