"""A curve as a table: even steps joined by lines or parabolas, or uneven ones joined by lines, whichever is smallest.

Even steps are a power of two, so that the position in the table is a shift and a mask. Every candidate is measured as
it will be computed, rounding included.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lesart.core.block import Floats
from lesart.core.pack.law_forms.form import Curve, Form
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.whole import Table, Whole, at, clipped, down, nearest, pick, within

MOST_ENTRIES = 4096
LOOKED_AT = 1 << 16
"""Most codes at which a candidate is measured. The final one is measured at all codes."""


def table_form(name: str, raw: Whole, curve: Curve, budget: float, machine: Machine) -> Form | None:
    """The form with the fewest bytes of tables that is off by no more than ``budget`` steps; None where none is.

    ``curve`` must be finite over the range of ``raw``.
    """
    codes = looked_at(raw.low, raw.high)
    exact = curve(codes)
    found = [
        form
        for form in (
            *_even(name, raw, curve, machine, codes, exact, budget),
            _uneven(name, raw, curve, machine, budget),
        )
        if form is not None and _off(form, codes, exact) <= budget and _fits(form, machine)
    ]
    return min(found, key=lambda form: (form.table_bytes, len(list(form.value.walk()))), default=None)


def looked_at(low: int, high: int) -> Floats:
    """Integers from one end to the other, both included."""
    if high - low < LOOKED_AT:
        return np.arange(low, high + 1, dtype=np.float64)
    return np.unique(np.rint(np.linspace(low, high, LOOKED_AT)))


def _off(form: Form, codes: Floats, exact: Floats) -> float:
    worked = on_arrays(form.value, {"raw": codes.astype(np.int64)})
    return float(np.abs(worked - exact).max())


def _fits(form: Form, machine: Machine) -> bool:
    return all(part.bits <= machine.wide for part in form.value.walk()) and form.value.bits <= machine.word


def _even(
    name: str, raw: Whole, curve: Curve, machine: Machine, codes: Floats, exact: Floats, budget: float
) -> Iterator[Form | None]:
    """For each way to join entries the longest step that suffices."""
    for make in (_staircase, _lines, _parabolas):
        for power in range(max((raw.high - raw.low).bit_length() - 1, 1), -1, -1):
            if (raw.high - raw.low >> power) + 4 > MOST_ENTRIES:
                break
            form = make(name, raw, curve, power, machine)
            if form is not None and _fits(form, machine) and _off(form, codes, exact) <= budget:
                yield form
                break


def _nodes(raw: Whole, curve: Curve, power: int, before: int, behind: int) -> Floats:
    """The curve at every 2^power codes, with some entries more at either end, continued by its last parabola."""
    count = (raw.high - raw.low >> power) + 1
    places = raw.low + (np.arange(-before, count + behind) << power).astype(np.float64)
    inside = (places >= raw.low) & (places <= raw.high)
    values = np.empty(len(places))
    values[inside] = curve(places[inside])
    if not inside.all():
        # Beyond the ends nothing is known: the curve continues like its last interval.
        near = np.unique(np.rint(np.linspace(max(raw.low, raw.high - (2 << power)), raw.high, 3)))
        first = np.unique(np.rint(np.linspace(raw.low, min(raw.high, raw.low + (2 << power)), 3)))
        for known, where in ((near, places > raw.high), (first, places < raw.low)):
            if where.any():
                fit = np.polynomial.Polynomial.fit(known, curve(known), len(known) - 1)
                values[where] = fit(places[where])
    return values


def _staircase(name: str, raw: Whole, curve: Curve, power: int, machine: Machine) -> Form | None:
    """No interpolation: the entry of the number's interval, taken at its middle."""
    count = (raw.high - raw.low >> power) + 1
    middles = np.minimum(raw.low + (np.arange(count) << power) + (1 << power) // 2, raw.high)
    table = Table(f"{name}_curve", _rounded(curve(middles.astype(np.float64))), f"every {1 << power} of raw")
    value = at(table, down(raw - raw.low, power))
    return Form(value, "a table without joining", f"x = T[(raw − {raw.low}) >> {power}]", count)


def _lines(name: str, raw: Whole, curve: Curve, power: int, machine: Machine) -> Form | None:
    if power == 0:
        return None
    values = _nodes(raw, curve, power, 0, 1)
    table = Table(f"{name}_curve", _rounded(_balanced(raw, curve, power, values)), f"every {1 << power} of raw")
    place = down(raw - raw.low, power)
    rest = within(raw - raw.low - place * (1 << power), 0, (1 << power) - 1, "the rest of a division")
    here, there = at(table, place), at(table, place + 1)
    value = here + nearest((there - here) * rest, power)
    value = within(value, min(table.values), max(table.values), "between two entries of the table")
    equation = f"x = T[i] + ((T[i+1] − T[i]) · r >> {power}), i and r from raw − {raw.low} by 2^{power}"
    return Form(value, "a table joined by lines", equation, len(table.values))


def _balanced(raw: Whole, curve: Curve, power: int, values: Floats) -> Floats:
    """Entries shifted so that lines err equally to both sides: half the error of the chord."""
    middles = raw.low + (np.arange(len(values) - 1) << power) + (1 << power) // 2
    inside = middles <= raw.high
    bows = np.zeros(len(values) - 1)
    bows[inside] = curve(middles[inside].astype(np.float64)) - 0.5 * (values[:-1] + values[1:])[inside]
    around = np.concatenate([bows[:1], 0.5 * (bows[:-1] + bows[1:]), bows[-1:]])
    return values + 0.5 * around


def _parabolas(name: str, raw: Whole, curve: Curve, power: int, machine: Machine) -> Form | None:
    """From the four entries around: the line between the middle two, less a share of the mean second difference
    (Bessel)."""
    if power < 2:
        return None
    values = _rounded(_nodes(raw, curve, power, 1, 2))
    table = Table(f"{name}_curve", values, f"every {1 << power} of raw, from one before the first")
    place = down(raw - raw.low, power)
    rest = within(raw - raw.low - place * (1 << power), 0, (1 << power) - 1, "the rest of a division")
    before, here, there, behind = (at(table, place + index) for index in range(4))
    line = nearest((there - here) * rest, power)
    bend = clipped_difference(before, here, there, behind, values)
    # r · (2^k − r) is at most a quarter of 2^2k; as many of its bits are kept as fit the width.
    hump = within(rest * ((1 << power) - rest), 0, 1 << (2 * power - 2), "a product of two parts of a whole")
    room = machine.wide - 1 - bend.bits
    cut = max(2 * power - 1 - room, 0)
    drop = nearest(bend * down(hump, cut), 2 * power + 2 - cut)
    low, high = min(values), max(values)
    value = within(here + line - drop, low - (high - low), high + (high - low), "near two entries of the table")
    equation = (
        f"x = T[i] + (T[i+1] − T[i])·r/D − (T[i+2] − T[i+1] − T[i] + T[i−1])/4 · r·(D − r)/D², D = 2^{power}, "
        f"i and r from raw − {raw.low}"
    )
    return Form(clipped(value, value.low, value.high), "a table joined by parabolas", equation, len(values))


def clipped_difference(before: Whole, here: Whole, there: Whole, behind: Whole, values: tuple[int, ...]) -> Whole:
    """The sum of the two second differences, with the range of this table's own and not of any four entries."""
    array = np.array(values, np.int64)
    own = array[3:] - array[2:-1] - array[1:-2] + array[:-3]
    low, high = (int(own.min()), int(own.max())) if len(own) else (0, 0)
    return within((behind - there) - (here - before), low, high, "the table's own second differences")


def _uneven(name: str, raw: Whole, curve: Curve, machine: Machine, budget: float) -> Form | None:
    """The fewest lines: each is as long as possible. Found by bisection, each interval measured as it is computed."""
    codes = looked_at(raw.low, raw.high)
    exact = curve(codes)
    shift = max(min(machine.word - 2, 20), 0)
    knots: list[tuple[int, int, int]] = []
    start = 0
    while start < len(codes):
        if len(knots) >= MOST_ENTRIES // 4:
            return None
        stretch = _longest(codes, exact, start, budget, machine, shift)
        if stretch is None:
            return None
        end, base, slope = stretch
        knots.append((int(codes[start]), base, slope))
        start = end
    if len(knots) < 2:
        return None
    return _searched(name, raw, knots, shift, machine)


def _longest(
    codes: Floats, exact: Floats, start: int, budget: float, machine: Machine, shift: int
) -> tuple[int, int, int] | None:
    """The end of the longest line from ``start`` on, its first value and its slope."""
    best: tuple[int, int, int] | None = None
    low, high = start + 1, len(codes)
    reach = 1
    while low <= high:
        # First in doubling steps, then by bisection.
        end = min(start + reach, high) if best is None or best[0] == start + reach // 2 else (low + high + 1) // 2
        end = max(min(end, high), low)
        line = _line(codes[start:end], exact[start:end], budget, machine, shift)
        if line is not None:
            best, low, reach = (end, *line), end + 1, reach * 2
        else:
            high = end - 1
    return best


def _line(x: Floats, y: Floats, budget: float, machine: Machine, shift: int) -> tuple[int, int] | None:
    """First value and slope × 2^shift of a line that is nowhere off by more than ``budget``."""
    span = float(x[-1] - x[0])
    slope = round((y[-1] - y[0]) / span * (1 << shift)) if span else 0
    if abs(slope) > machine.largest or abs(slope) * span >= 2.0 ** (machine.wide - 1):
        return None
    straight = np.floor(((x - x[0]) * slope + (1 << shift >> 1)) / (1 << shift))
    off = y - straight
    base = int(np.rint(0.5 * (off.max() + off.min())))
    if abs(base) > machine.largest or np.abs(off - base).max() > budget:
        return None
    return base, slope


def _searched(name: str, raw: Whole, knots: list[tuple[int, int, int]], shift: int, machine: Machine) -> Form:
    """The line of a number by binary search: as many comparisons as the number of lines has bits."""
    xs, bases, slopes = (tuple(each[place] for each in knots) for place in range(3))
    starts = Table(f"{name}_from", tuple(x - raw.low for x in xs), f"where each line begins, from raw {raw.low}")
    firsts = Table(f"{name}_first", bases, "what it begins with")
    slants = Table(f"{name}_slope", slopes, f"its slope, times 2^{shift}")
    off = raw - raw.low
    place = found_by_halving(starts, off)
    ends = [*starts.values[1:], raw.high - raw.low + 1]
    longest = max(end - begin for begin, end in zip(starts.values, ends, strict=True)) - 1
    rest = within(off - at(starts, place), 0, longest, "the line that was found begins at or before it")
    value = at(firsts, place) + nearest(at(slants, place) * rest, shift)
    reached = [
        base + ((slope * reach + (1 << shift >> 1)) >> shift)
        for (_, base, slope), begin, end in zip(knots, starts.values, ends, strict=True)
        for reach in (0, end - begin - 1)
    ]
    value = within(value, min(reached), max(reached), "each line between its ends")
    equation = f"x = first[i] + (slope[i] · (raw − {raw.low} − from[i]) >> {shift}), i found by halving"
    return Form(value, "lines of different lengths", equation, len(knots))


def found_by_halving(starts: Table, off: Whole) -> Whole:
    """The last index of a rising table whose entry is not above a number; the first entry never is.

    A binary search: as many comparisons as the number of entries has bits.
    """
    last = len(starts.values) - 1
    place: Whole = Whole("constant", (0,), 0, 0)
    step = 1 << max(last.bit_length() - 1, 0)
    while step:
        further = clipped(place + step, 0, last)
        place = pick(at(starts, further) <= off, further, place)
        step >>= 1
    return place


def _rounded(values: Floats) -> tuple[int, ...]:
    return tuple(int(each) for each in np.rint(values).tolist())
