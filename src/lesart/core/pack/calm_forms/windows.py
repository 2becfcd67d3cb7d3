"""Means of the last n good samples in integers."""

from __future__ import annotations

from lesart.core.block import Mark
from lesart.core.calm.circular import CircularMean, OntoCircle
from lesart.core.calm.windowed import Mean
from lesart.core.pack.calm_forms.stage_form import Around, keep, unless_usable
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, KeepAt, Let, Repeat, Statement, Stop, When
from lesart.core.pack.program.whole import (
    Whole,
    down,
    equal,
    least,
    local,
    marked,
    pick,
    quotient,
    times,
    whole,
    within,
)


def start_of(around: Around) -> int:
    """Initial value of a ring: 0, or the value nearest to it."""
    return min(max(0, around.low), around.high)


def mean(stage: Mean, around: Around) -> Function:
    """The mean by a running sum of a ring, rounded to the nearest step, a half up."""
    n, low, high = stage.n, around.low, around.high
    ring = around.kept("ring", low, high, start_of(around), n)
    # Relative to the least reading, so that nothing is negative and a quotient is a floor.
    total = around.kept("sum", 0, n * (high - low))
    place, count = around.kept("place", 0, n - 1), around.kept("count", 0, n)
    why = "the sum of what the ring holds"
    oldest = within(total.value - (ring.item(place.value) - low), 0, n * (high - low), why)
    settled = quotient_of(total.value, n, around)
    starting = quotient(total.value + down(count.value, 1), within(count.value, 1, n, "one has come"))
    body: tuple[Statement, ...] = (
        unless_usable(around.mark),
        When(equal(count.value, n), (keep(total, oldest),), (keep(count, least(count.value + 1, n)),)),
        keep(total, within(total.value + (around.x - low), 0, n * (high - low), why)),
        KeepAt(ring.name, place.value, around.x),
        keep(place, pick(equal(place.value, n - 1), 0, within(place.value + 1, 0, n - 1, "it is not the last"))),
        When(
            count.value < n,
            (
                Let("x", within(starting + low, low, high, "a mean lies between least and greatest")),
                Let("mark", marked(around.mark, int(Mark.SETTLING))),
            ),
            (Let("x", within(settled + low, low, high, "a mean lies between least and greatest")),),
        ),
    )
    return around.function(body, (ring, total, place, count))


def quotient_of(total: Whole, n: int, around: Around) -> Whole:
    """The sum ÷ n, rounded to the nearest."""
    if n & (n - 1) == 0:
        shift = n.bit_length() - 1
        return down(total + (n >> 1), shift)
    return divided(total + (n >> 1), n, around.machine)


def circular_mean(stage: CircularMean, around: Around) -> Function:
    """The desk's, with whole steps: from the newest sample back, each a turn further where the seam lies between.

    Turns are counted to as many as samples have come, for a turn for all of them is none. The circle lies within what
    is read here: see ``channel_form``.
    """
    n, low, span = stage.n, round(around.scale.exactly(stage.lowest)), round(around.steps(stage.turn))
    ring = around.kept("ring", 0, span - 1, 0, n)
    place, count = around.kept("place", 0, n - 1), around.kept("count", 0, n)
    spot, turns, index = local("spot", 0, n - 1), local("turns", 0, n - 1), local("i", 0, n - 1)
    newest, before = local("newest", 0, span - 1), local("before", 0, span - 1)
    total, all_around = local("total", 0, n * span - 1), _turns_of(count.value, span, around)
    item = local("item", 0, span - 1)
    last = within(count.value - 1, 0, n - 1, "one has come")
    further = within(item + _turns_of(turns, span, around), 0, n * span - 1, "fewer turns than samples")
    summed = total + further
    over = within(summed - all_around, 0, n * span - 1, "it is not less")
    body: tuple[Statement, ...] = (
        unless_usable(around.mark),
        Let("newest", _on_circle(around, low, span)),
        keep(count, least(count.value + 1, n)),
        KeepAt(ring.name, place.value, newest),
        Let("spot", place.value),
        Let("before", newest),
        Let("turns", whole(0)),
        Let("total", newest),
        Repeat(
            "i",
            whole(n - 1),
            (
                When(last <= index, (Stop(),)),
                Let("spot", pick(equal(spot, 0), n - 1, within(spot - 1, 0, n - 1, "it is not the first"))),
                Let("item", ring.item(spot)),
                When(
                    (before - item) * 2 > span,
                    (Let("turns", pick(equal(turns, last), 0, within(turns + 1, 0, n - 1, "it is not the last"))),),
                ),
                When(
                    (item - before) * 2 > span,
                    (Let("turns", pick(equal(turns, 0), last, within(turns - 1, 0, n - 1, "it is not the first"))),),
                ),
                Let("total", pick(all_around <= summed, over, within(summed, 0, n * span - 1, "it is less"))),
                Let("before", item),
            ),
        ),
        keep(place, pick(equal(place.value, n - 1), 0, within(place.value + 1, 0, n - 1, "it is not the last"))),
        When(count.value < n, (Let("mark", marked(around.mark, int(Mark.SETTLING))),)),
        Let("newest", _rounded(total, count.value, span, n)),
        Let("x", within(newest + low, around.low, around.high, "the circle lies in what is read")),
    )
    return around.function(body, (ring, place, count))


def onto_circle(stage: OntoCircle, around: Around) -> Function:
    """Wrap by whole turns, as far as laws and corrections lead out of the circle."""
    low, span = round(around.scale.exactly(stage.lowest)), round(around.steps(stage.turn))
    back = within(_on_circle(around, low, span) + low, around.low, around.high, "the circle lies in what is read")
    return around.function((unless_usable(around.mark), Let("x", back)))


def _turns_of(count: Whole, span: int, around: Around) -> Whole:
    """A number of turns in steps."""
    return times(count, span, by_shifts=not around.machine.multiplier)


def _on_circle(around: Around, low: int, span: int) -> Whole:
    """Distance of a reading from the beginning of the circle."""
    turns_up = max(0, -((around.low - low) // span))
    from_begin = around.x - low + turns_up * span
    if from_begin.high < span:
        return from_begin
    return within(from_begin - quotient(from_begin, span) * span, 0, span - 1, "less than a turn is left")


def _rounded(total: Whole, count: Whole, span: int, n: int) -> Whole:
    """The mean to the nearest step; a whole turn is 0."""
    nearest = quotient(total + down(count, 1), within(count, 1, n, "one has come"))
    return pick(span <= nearest, 0, within(nearest, 0, span - 1, "it is less"))
