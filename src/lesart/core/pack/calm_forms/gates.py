"""Gates in integers: comparisons with limits rounded to the side on which nothing changes."""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.block import UNUSABLE, Mark
from lesart.core.calm.extremes import Extreme
from lesart.core.calm.gates import Deadband, Decimate, RejectMark, RejectRate, SettlingGate
from lesart.core.calm.hold import Hold
from lesart.core.calm.reject import RejectRange
from lesart.core.pack.calm_forms.stage_form import Around, keep, not_above, not_below, unless_usable
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, KeepAt, Leave, Let, Repeat, When
from lesart.core.pack.program.whole import (
    LONGEST_MS,
    bits_of,
    clipped,
    down,
    either,
    equal,
    flags_of,
    least,
    local,
    marked,
    most,
    neither,
    pick,
    since,
    whole,
    within,
)


def reject_range(stage: RejectRange, around: Around) -> Function:
    """Limits themselves are allowed: the lower one is rounded up to a step, the upper one down."""
    low = not_below(around.scale.exactly(stage.lowest))
    high = not_above(around.scale.exactly(stage.highest))
    outside = either(around.x < low, around.x > high)
    lost = (Let("x", whole(min(max(0, around.low), around.high))), Let("mark", marked(around.mark, int(Mark.RANGE))))
    return around.function((unless_usable(around.mark), When(outside, lost)))


def reject_mark(stage: RejectMark, around: Around) -> Function:
    """Samples with one of the marks count as missing."""
    gone = (Let("mark", marked(around.mark, int(Mark.MISSING))),)
    return around.function((When(flags_of(around.mark, stage.marks), gone),))


def reject_rate(stage: RejectRate, around: Around) -> Function:
    """The allowed change grows with the milliseconds since the last good sample, up to the whole range."""
    span = around.high - around.low
    a_ms = around.steps(stage.most_per_s) / 1000
    long_ms = min(math.ceil(span / a_ms), LONGEST_MS >> 1) if a_ms else LONGEST_MS >> 1
    room = around.machine.wide - 1 - bits_of(long_ms)
    shift = max(min(room - max(math.ceil(a_ms).bit_length(), 1), 24), 0)
    factor = math.floor(a_ms * (1 << shift))
    begun = around.kept("begun", 0, 1)
    last, after = around.kept("last", around.low, around.high), around.kept("lost", 0, stage.after)
    then = around.moment("then")
    age = least(since(around.now, then.value), long_ms)
    change = local("change", 0, span)
    most_now = down(age * factor, shift)
    apart = around.x - last.value
    fast = (
        Let("change", within(most(apart, whole(0) - apart), 0, span, "two readings of the range")),
        When(
            change > most_now,
            (
                When(
                    after.value < stage.after,
                    (
                        keep(after, least(after.value + 1, stage.after)),
                        Let("mark", marked(around.mark, int(Mark.RATE))),
                        Leave(),
                    ),
                ),
            ),
        ),
    )
    taken = (keep(last, around.x), keep(then, around.now), keep(after, whole(0)), keep(begun, whole(1)))
    return around.function((unless_usable(around.mark), When(begun.value, fast), *taken), (begun, last, after, then))


def deadband(stage: Deadband, around: Around) -> Function:
    """The output stays until a reading is further away than the width, rounded down to a step."""
    width = min(not_above(around.steps(stage.width)), around.high - around.low)
    shown, begun = around.kept("shown", around.low, around.high), around.kept("begun", 0, 1)
    apart = around.x - shown.value
    moves = either(neither(begun.value), either(apart > width, apart < -width))
    return around.function(
        (
            unless_usable(around.mark),
            When(moves, (keep(shown, around.x), keep(begun, whole(1)))),
            Let("x", shown.value),
        ),
        (shown, begun),
    )


def hold(stage: Hold, around: Around) -> Function:
    """A bad sample carries the last good one for a number of milliseconds, marked as held."""
    timeout = min(math.floor(Fraction(stage.timeout_s) * 1000), LONGEST_MS)
    last, then, begun = around.kept("last", around.low, around.high), around.moment("then"), around.kept("begun", 0, 1)
    bridged = (
        Let("x", last.value),
        Let("mark", marked(flags_of(around.mark, 255 & ~int(UNUSABLE)), int(Mark.HELD))),
    )
    bad = (When(begun.value, (When(since(around.now, then.value) <= timeout, bridged),)), Leave())
    return around.function(
        (
            When(flags_of(around.mark, int(UNUSABLE)), bad),
            keep(last, around.x),
            keep(then, around.now),
            keep(begun, whole(1)),
        ),
        (last, then, begun),
    )


def settling_gate(stage: SettlingGate, around: Around) -> Function:
    """Maximum minus minimum of the last good samples, searched each time."""
    n = stage.samples
    width = min(not_above(around.steps(stage.width)), around.high - around.low)
    ring = around.kept("ring", around.low, around.high, min(max(0, around.low), around.high), n)
    place, count = around.kept("place", 0, n - 1), around.kept("count", 0, n)
    low, high = local("low", around.low, around.high), local("high", around.low, around.high)
    index = local("i", 0, n - 1)
    return around.function(
        (
            unless_usable(around.mark),
            KeepAt(ring.name, place.value, around.x),
            keep(place, pick(equal(place.value, n - 1), 0, within(place.value + 1, 0, n - 1, "it is not the last"))),
            keep(count, least(count.value + 1, n)),
            Let("low", around.x),
            Let("high", around.x),
            Repeat(
                "i",
                count.value,
                (Let("low", least(low, ring.item(index))), Let("high", most(high, ring.item(index)))),
            ),
            When(either(count.value < n, high - low > width), (Let("mark", marked(around.mark, int(Mark.SETTLING))),)),
        ),
        (ring, place, count),
    )


def extreme(stage: Extreme, around: Around) -> Function:
    """The greatest or the least so far; ``spent`` are the milliseconds of the period that are over.

    A longer silence than the clock tells counts as the longest that it does, and moves the periods.
    """
    kept, begun = around.kept("kept", around.low, around.high), around.kept("begun", 0, 1)
    farther = around.x > kept.value if stage.which == "highest" else around.x < kept.value
    then, every_ms = around.moment("then"), round(stage.periods.every_s * 1000)
    take, shows = (keep(kept, around.x),), (Let("x", kept.value),)
    if not every_ms:
        anew = either(neither(begun.value), farther)
        return around.function(
            (unless_usable(around.mark), When(anew, (*take, keep(begun, whole(1)))), *shows), (kept, begun)
        )
    if every_ms > LONGEST_MS >> 1:
        days = (LONGEST_MS >> 1) // 86_400_000
        raise around.refused(f"a clock of milliseconds counts up to {days} days; begin it again more often.")
    start = every_ms - round((stage.periods.first_s or stage.periods.every_s) * 1000)
    spent, age = around.kept("spent", 0, every_ms, start), local("age", 0, every_ms + (LONGEST_MS >> 1))
    over = divided(most(age - 1, 0), every_ms, around.machine)
    goes_on = (
        Let("age", spent.value + least(since(around.now, then.value), LONGEST_MS >> 1)),
        When(
            age > every_ms,
            (*take, Let("age", within(age - over * every_ms, 0, every_ms, "whole periods are taken off"))),
            (When(farther, take),),
        ),
        keep(spent, within(age, 0, every_ms, "whole periods are taken off")),
    )
    body = (
        unless_usable(around.mark),
        When(begun.value, goes_on, (*take, keep(begun, whole(1)))),
        keep(then, around.now),
        *shows,
    )
    return around.function(body, (kept, begun, then, spent))


def decimate(stage: Decimate, around: Around) -> Function:
    """The first passes, and every n-th after it."""
    left = around.kept("left", 0, stage.n - 1)
    return around.function(
        (
            When(left.value > 0, (keep(left, clipped(left.value - 1, 0, stage.n - 1)), Leave(False))),
            keep(left, whole(stage.n - 1)),
        ),
        (left,),
    )
