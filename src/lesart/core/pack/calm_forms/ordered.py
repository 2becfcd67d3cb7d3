"""Filters that keep the last n good samples sorted: the median, and the trimmed mean."""

from __future__ import annotations

from lesart.core.block import Mark
from lesart.core.calm.trimmed import TrimmedMean, left_of
from lesart.core.calm.windowed import Median
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.calm_forms.stage_form import Around, keep, unless_usable
from lesart.core.pack.calm_forms.windows import quotient_of, start_of
from lesart.core.pack.program.statements import Function, KeepAt, Kept, Let, Repeat, Statement, Stop, When
from lesart.core.pack.program.whole import (
    clipped,
    down,
    equal,
    least,
    local,
    marked,
    neither,
    pick,
    quotient,
    whole,
    within,
)


@dataclass(frozen=True)
class Order:
    """``ring`` as they came, ``order`` sorted; ``count`` of them have come. ``body`` inserts the newest."""

    ring: Kept
    order: Kept
    place: Kept
    count: Kept
    body: tuple[Statement, ...]

    @property
    def kept(self) -> tuple[Kept, ...]:
        """All of its kept variables."""
        return self.ring, self.order, self.place, self.count


def _in_order(n: int, around: Around) -> Order:
    """The samples are kept twice, as they came and sorted: the oldest is removed, the newest inserted."""
    low, high, start = around.low, around.high, start_of(around)
    ring, order = around.kept("ring", low, high, start, n), around.kept("order", low, high, start, n)
    place, count = around.kept("place", 0, n - 1), around.kept("count", 0, n)
    index, spot = local("i", 0, n - 1), local("spot", 0, n - 1)
    one_less = within(spot - 1, 0, max(n - 1, 0), "it is not the first")
    found, old = local("found", 0, 1), local("old", low, high)
    out: tuple[Statement, ...] = (
        Let("found", whole(0)),
        Let("old", ring.item(place.value)),
        Repeat(
            "i",
            whole(n - 1),
            (
                When(equal(order.item(index), old), (Let("found", whole(1)),)),
                When(
                    found,
                    (
                        KeepAt(
                            order.name, index, order.item(within(index + 1, 0, n - 1, "the loop ends before the last"))
                        ),
                    ),
                ),
            ),
        ),
    )
    put_in: tuple[Statement, ...] = (
        Let("spot", within(count.value - 1, 0, n - 1, "one has come")),
        Repeat(
            "i",
            whole(n),
            (
                When(equal(spot, 0), (Stop(),)),
                When(order.item(one_less) <= around.x, (Stop(),)),
                KeepAt(order.name, spot, order.item(one_less)),
                Let("spot", one_less),
            ),
        ),
        KeepAt(order.name, spot, around.x),
    )
    body: tuple[Statement, ...] = (
        unless_usable(around.mark),
        When(equal(count.value, n), out if n > 1 else (), (keep(count, least(count.value + 1, n)),)),
        KeepAt(ring.name, place.value, around.x),
        keep(place, pick(equal(place.value, n - 1), 0, within(place.value + 1, 0, n - 1, "it is not the last"))),
        *put_in,
        When(count.value < n, (Let("mark", marked(around.mark, int(Mark.SETTLING))),)),
    )
    return Order(ring, order, place, count, body)


def median(stage: Median, around: Around) -> Function:
    """The middle sample; for an even number, as at the start, the mean of the middle two."""
    n, low, high = stage.n, around.low, around.high
    kept = _in_order(n, around)
    order, count = kept.order, kept.count
    middle = within(down(count.value, 1), 0, n - 1, "half of n")
    below = within(middle - 1, 0, n - 1, "two have come")
    even = neither(equal(count.value, down(count.value, 1) * 2 + 1))
    two = within(down(order.item(below) + order.item(middle), 1), low, high, "between two readings")
    last = When(even, (Let("x", two),), (Let("x", order.item(clipped(middle, 0, n - 1))),))
    return around.function((*kept.body, last), kept.kept)


def trimmed_mean(stage: TrimmedMean, around: Around) -> Function:
    """The sum of the samples between the extremes, divided by their number; rounded to the nearest, a half up."""
    n, low, high = stage.n, around.low, around.high
    kept = _in_order(n, around)
    order, count = kept.order, kept.count
    first, end = left_of(n, stage.dropped)
    many = max(end - first, 2)  # with few samples two may be averaged where later one is
    most = many * (high - low)
    index, begins, ends = local("i", 0, n - 1), local("first", 0, first), local("ends", 1, n)
    total, why = local("total", 0, most), "no more are added than are averaged"
    half = down(within(count.value - 1, 0, n - 1, "one has come"), 1)
    added = within(total + (order.item(index) - low), 0, most, why)
    counted = within(ends - begins, 1, many, "one is left, and no more than of a whole window")
    settled = quotient_of(total, end - first, around)
    starting = quotient(total + down(counted, 1), counted)
    between = "a mean lies between least and greatest"
    body: tuple[Statement, ...] = (
        *kept.body,
        Let("first", within(least(half, first), 0, first, "no more than are dropped")),
        Let("ends", within(count.value - begins, 1, n, "one is left")),
        Let("total", whole(0)),
        Repeat(
            "i",
            whole(n),
            (When(ends <= index, (Stop(),)), When(begins <= index, (Let("total", added),))),
        ),
        When(
            count.value < n,
            (Let("x", within(starting + low, low, high, between)),),
            (Let("x", within(settled + low, low, high, between)),),
        ),
    )
    return around.function(body, kept.kept)
