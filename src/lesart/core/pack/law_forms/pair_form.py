"""A law that reads a second channel: a table over both, joined by lines in either direction."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lesart.core.block import UNUSABLE, Block, Bools, Floats, Mark
from lesart.core.chain import Link
from lesart.core.dataclass_later import dataclass
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

MOST_ENTRIES = 4096
GRID = 97, 41
"""Places of the raw number and of the other reading at which a candidate is measured."""
FINAL = 2049, 129
"""And at which the one that is taken is."""
Grid = tuple[Floats, Floats]


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
    form = _smallest(name, surface, first, last, scale, budget - 0.5, machine)
    if form is None:
        raise PackError(
            f"{place}: it reads {beside.title} as well, and no table over both of up to {MOST_ENTRIES} entries stays "
            "near enough to the desk; narrow the channel's range, or allow a larger share of the last place."
        )
    agreement = _agreement(surface, form, first, last, scale)
    function = _function(name, place, form, laws, beside, first, last, scale)
    output = function.outputs[0]
    return LawForm(function, form, first, last, (output.low, output.high), agreement)


def _ends(place: str, surface: _Surface) -> tuple[int, int]:
    laws, beside = surface.laws, surface.beside
    numbers = np.unique(np.rint(np.linspace(laws.low, laws.high, FINAL[0])))
    _, good = surface.over(numbers, np.unique(np.rint(np.linspace(beside.low, beside.high, GRID[1]))))
    found = np.flatnonzero(good.any(axis=0))
    if not len(found):
        raise PackError(f"{place}: no raw number gives a reading that counts, whatever {beside.title} reads.")
    step = numbers[1] - numbers[0] if len(numbers) > 1 else 0.0
    return max(int(numbers[found[0]] - step), laws.low), min(int(numbers[found[-1]] + step), laws.high)


def _smallest(
    name: str, surface: _Surface, first: int, last: int, scale: Scale, budget: float, machine: Machine
) -> Form | None:
    """Of the step of the other reading every power, with the longest step of the raw number that will do."""
    beside = surface.beside
    numbers = np.unique(np.rint(np.linspace(first, last, GRID[0])))
    others = np.unique(np.rint(np.linspace(beside.low, beside.high, GRID[1])))
    exact, good = surface.over(numbers, others)
    best: Form | None = None
    for other_power in range(_bits(beside.high - beside.low), -1, -1):
        columns = (beside.high - beside.low >> other_power) + 2
        for power in range(_bits(last - first), 0, -1):
            rows = (last - first >> power) + 2
            if rows * columns > (MOST_ENTRIES if best is None else best.entries - 1):
                break
            form = _form(name, surface, first, last, power, other_power, scale, machine)
            if form is not None and _off(form, numbers, others, exact, good, scale) <= budget:
                best = form
                break
    return best


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
    laws, beside = surface.laws, surface.beside
    rows, columns = (last - first >> power) + 2, (beside.high - beside.low >> other_power) + 2
    numbers = (first + (np.arange(rows) << power)).astype(np.float64)
    others = (beside.low + (np.arange(columns) << other_power)).astype(np.float64)
    readings, _ = surface.over(numbers, others)
    room = laws.highest - laws.lowest
    readings = _filled(np.clip(readings, laws.lowest - room / 2, laws.highest + room / 2))
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
    """What the law does not know takes the nearest reading of its column, so that tables have no holes."""
    for column in readings:
        known = np.flatnonzero(np.isfinite(column))
        if len(known) and len(known) < len(column):
            places = np.arange(len(column))
            column[:] = np.interp(places, known, column[known])
    known_rows = np.isfinite(readings).all(axis=1)
    if known_rows.any() and not known_rows.all():
        places = np.flatnonzero(known_rows)
        for row in np.flatnonzero(~known_rows):
            readings[row] = readings[places[np.abs(places - row).argmin()]]
    return readings


def _agreement(surface: _Surface, form: Form, first: int, last: int, scale: Scale) -> Agreement:
    beside = surface.beside
    numbers = np.unique(np.rint(np.linspace(first, last, FINAL[0])))
    others = np.unique(np.rint(np.linspace(beside.low, beside.high, FINAL[1])))
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
