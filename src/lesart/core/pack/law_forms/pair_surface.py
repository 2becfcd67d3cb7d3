"""The desk's function of two readings, sampled on grids, and interpolation in a table over both."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Bools, Floats
from lesart.core.chain import Link
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.law_forms.law_form import Laws
from lesart.core.pack.machine import Machine, Scale
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.whole import Table, Whole, at, down, nearest, within

MOST_ENTRIES, FEW_ENTRIES = 4096, 256
"""The most entries of a table, and a number so small that uneven rows do not pay."""
COARSER = 11


@dataclass(frozen=True)
class Beside:
    """The other channel that a law reads: readings from ``low`` to ``high`` of ``scale``; ``in_code`` is its
    identifier."""

    title: str
    in_code: str
    scale: Scale
    low: int
    high: int

    @property
    def powers(self) -> range:
        """Exponents of the distance between columns, the widest first."""
        return range(widest(self.high - self.low), -1, -1)

    def columns(self, power: int) -> int:
        """Number of columns, one past the end included."""
        return (self.high - self.low >> power) + 2


@dataclass(frozen=True)
class Surface:
    """What the desk makes of a raw number while the other channel reads something, for a firmware's ``machine``.

    ``name`` is that of the channel in code, ``scale`` that of its readings.
    """

    name: str
    laws: Laws
    beside: Beside
    scale: Scale
    machine: Machine

    def at(self, numbers: Floats, other: int) -> Block:
        """Readings for one reading of the other channel."""
        value = self.beside.scale.value(other)
        links: tuple[Link, ...] = tuple(link.at({self.beside.title: value}) for link in self.laws.links)
        return replace(self.laws, links=links).at(numbers)

    def over(self, numbers: Floats, others: Floats) -> tuple[Floats, Bools]:
        """Readings and which of them count, shape (others, numbers)."""
        blocks = [self.at(numbers, int(each)) for each in others.tolist()]
        return np.array([each.x for each in blocks]), np.array([self.laws.good(each) for each in blocks])

    def columns(self, power: int) -> Floats:
        """Readings of the other channel at which a table has columns."""
        return (self.beside.low + (np.arange(self.beside.columns(power)) << power)).astype(np.float64)

    def readings(self, numbers: Floats, others: Floats) -> Floats:
        """The desk's readings where they are of use, without holes; shape (others, numbers)."""
        laws = self.laws
        room = laws.highest - laws.lowest
        found, _ = self.over(numbers, others)
        return _filled(np.clip(found, laws.lowest - room / 2, laws.highest + room / 2))

    def table(self, numbers: Floats, power: int, says: str) -> Table | None:
        """A table with rows of raw numbers and columns of the other channel; None where the desk has no values at all
        in a part."""
        readings = self.readings(numbers, self.columns(power))
        if not np.isfinite(readings).all():
            return None
        steps = np.rint((readings - float(self.scale.zero)) / float(self.scale.step)).T
        return Table(f"{self.name}_surface", tuple(int(each) for each in steps.ravel().tolist()), says)

    def joined(
        self, table: Table, row: Whole, other: Whole, power: int, share: Whole, share_bits: int, says: tuple[str, str]
    ) -> Form | None:
        """Bilinear interpolation: lines between columns in two rows, and a line between them; None where the machine is
        too narrow."""
        columns = self.beside.columns(power)
        column, rest = split(other - self.beside.low, power)
        index = row * columns + column
        low, high = min(table.values), max(table.values)

        def across(offset: int) -> Whole:
            here, there = at(table, index + offset), at(table, index + offset + 1)
            between = here + nearest((there - here) * rest, power)
            return within(between, low, high, "between two entries of the table")

        near, far = across(0), across(columns)
        value = within(near + nearest((far - near) * share, share_bits), low, high, "between two entries of the table")
        if any(part.bits > self.machine.wide for part in value.walk()) or value.bits > self.machine.word:
            return None
        kind, found_by = says
        equation = (
            f"x between T[i][j], T[i+1][j], T[i][j+1] and T[i+1][j+1]; {found_by}, j and q from {self.beside.title} by "
            f"2^{power}"
        )
        return Form(value, kind, equation, len(table.values))


@dataclass(frozen=True)
class Measured:
    """The desk's readings on a grid, and which of them count; shape (others, numbers)."""

    numbers: Floats
    others: Floats
    exact: Floats
    good: Bools

    @property
    def coarser(self) -> Measured:
        """The surface at fewer raw numbers, where most candidates fail already."""
        return Measured(self.numbers[::COARSER], self.others, self.exact[:, ::COARSER], self.good[:, ::COARSER])

    def off(self, form: Form, scale: Scale) -> float:
        """The worst error of a form in steps, where readings count."""
        raw, other = (each.astype(np.int64) for each in np.meshgrid(self.numbers, self.others))
        worked = on_arrays(form.value, {"raw": raw, "beside": other}) * float(scale.step) + float(scale.zero)
        apart = np.abs(worked - self.exact)[self.good]
        return float(apart.max()) / float(scale.step) if len(apart) else 0.0


def measured(surface: Surface, first: int, last: int, size: tuple[int, int]) -> Measured:
    """The surface sampled on a grid of at most that size."""
    numbers = np.unique(np.rint(np.linspace(first, last, size[0])))
    others = np.unique(np.rint(np.linspace(surface.beside.low, surface.beside.high, size[1])))
    return Measured(numbers, others, *surface.over(numbers, others))


def widest(span: int) -> int:
    """Exponent of the longest interval worth trying."""
    return max(span.bit_length() - 1, 1)


def split(off: Whole, power: int) -> tuple[Whole, Whole]:
    """Interval and remainder, for intervals of a power of two."""
    place = down(off, power)
    return place, within(off - place * (1 << power), 0, (1 << power) - 1, "the rest of a division")


def _filled(readings: Floats) -> Floats:
    """Unknown values extrapolated from known ones nearby, so that tables have no holes."""
    for column in readings:
        _gone_on(column)
    for row in readings.T:
        _gone_on(row)
    return readings


def _gone_on(values: Floats) -> None:
    """Gaps filled by lines, and the ends by the last two known values: an interval known in part is right as far as it
    is known."""
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
