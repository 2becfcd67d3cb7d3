"""Weighted filters in integers: exponentials, low-pass sections, level and slope.

All of them move their state by a share of the difference, so that a steady reading passes exactly however the
coefficients are rounded. Their state has more bits than a reading, or small changes would be lost.
"""

from __future__ import annotations

import math

from lesart.core.block import Mark
from lesart.core.calm.exponential import Exponential
from lesart.core.calm.low_pass import LowPass, sections_of
from lesart.core.calm.time_constant import TimeConstant
from lesart.core.calm.tracking import Tracking
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.calm_forms.stage_form import (
    BY_TIME_FROM_MS,
    LONGEST_BRIDGED,
    Around,
    keep,
    unless_usable,
)
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, Kept, Let, Statement, When
from lesart.core.pack.program.whole import (
    Table,
    Whole,
    at,
    bits_of,
    clipped,
    least,
    local,
    marked,
    nearest,
    neither,
    since,
    whole,
    within,
)

MOST_FINER, MOST_WEIGHT_BITS = 20, 30


@dataclass(frozen=True)
class _Bits:
    """``finer``: bits kept below a step; ``weight``: bits of a coefficient."""

    finer: int
    weight: int


def _bits(around: Around, smallest: float, headroom: int, room: int) -> _Bits:
    """Enough bits that a weight of ``smallest`` stalls within half of the budget, and that the weight is right to a
    part in 64. ``headroom``: bits of the sum above a reading's; ``room``: those of the kept value."""
    span_bits = bits_of(around.high - around.low)
    least_finer = max(math.ceil(math.log2(1.0 / (smallest * max(around.budget, 0.5)))), 0)
    least_weight = max(math.ceil(-math.log2(smallest)), 0) + 6
    finer = min(least_finer + 1, MOST_FINER)
    # A coefficient takes all the room there is: after a jump over the whole range its last bit matters.
    weight = min(MOST_WEIGHT_BITS, around.machine.wide - 2 - headroom - span_bits - finer)
    while weight < least_weight and finer > least_finer:
        finer, weight = finer - 1, weight + 1
    if weight < least_weight or finer < least_finer or span_bits + finer + room > around.machine.wide:
        needs = span_bits + least_finer + least_weight + headroom + 2
        would = "a word of 32 bits would do" if needs <= 64 and around.machine.word < 32 else "take a larger weight"
        raise around.refused(
            f"a weight of {smallest:.3g} on {span_bits} bits takes products of {needs} bits, and there are "
            f"{around.machine.wide}; {would}."
        )
    return _Bits(finer, weight)


def _settling(around: Around, settling: int) -> tuple[tuple[Kept, ...], tuple[Statement, ...]]:
    """Count good samples until the output has settled."""
    if not settling:
        return (), ()
    count = around.kept("count", 0, settling)
    return (count,), (
        When(
            count.value < settling,
            (keep(count, least(count.value + 1, settling)), Let("mark", marked(around.mark, int(Mark.SETTLING)))),
        ),
    )


def exponential(stage: Exponential, around: Around) -> Function:
    """kept += weight × (reading − kept), rounded to the nearest."""
    bits = _bits(around, stage.weight, 0, 0)
    weight = max(round(stage.weight * (1 << bits.weight)), 1)
    return _one_pole(around, bits, whole(weight), stage.settling_samples)


def time_constant(stage: TimeConstant, around: Around) -> Function:
    """The same, with its weight by the time since the last good sample, looked up for whole intervals of the source."""
    interval_ms = around.interval_s * 1000
    first = -math.expm1(-around.interval_s / stage.time_s) if around.interval_s > 0 else 1.0
    bits = _bits(around, first, 0, 0)
    full = 1 << bits.weight
    if interval_ms < BY_TIME_FROM_MS:
        return _one_pole(around, bits, whole(max(round(first * full), 1)), stage.settling_samples)
    share = around.interval_s / stage.time_s
    table = Table(
        f"{around.name}_weights",
        tuple(round(-math.expm1(-count * share) * full) for count in range(LONGEST_BRIDGED + 1)),
        f"by intervals of {interval_ms:g} ms since the last good sample",
    )
    then = around.moment("then")
    weight = at(table, intervals_since(around, then, round(interval_ms)))
    made = _one_pole(around, bits, weight, stage.settling_samples, (keep(then, around.now),))
    return Function(made.name, made.place, made.says, made.inputs, made.outputs, made.body, (*made.kept, then))


def intervals_since(around: Around, then: Kept, interval_ms: int) -> Whole:
    """Whole intervals since a time, to the nearest, 0 where time stands still, at most ``LONGEST_BRIDGED``."""
    age = least(since(around.now, then.value), interval_ms * LONGEST_BRIDGED)
    return clipped(divided(age + interval_ms // 2, interval_ms, around.machine), 0, LONGEST_BRIDGED)


def _one_pole(
    around: Around, bits: _Bits, weight: Whole, settling: int, behind: tuple[Statement, ...] = ()
) -> Function:
    finer = bits.finer
    level = around.kept(
        "level", around.low << finer, around.high << finer, 0 if around.low <= 0 <= around.high else around.low << finer
    )
    begun = around.kept("begun", 0, 1)
    moved = level.value + nearest((around.x * (1 << finer) - level.value) * weight, bits.weight)
    why = "a share of the way from one reading to another"
    counts, settle = _settling(around, settling)
    body = (
        unless_usable(around.mark),
        When(neither(begun.value), (keep(level, around.x * (1 << finer)), keep(begun, whole(1)), *behind)),
        keep(level, within(moved, level.low, level.high, why)),
        *behind,
        Let("x", within(nearest(level.value, finer), around.low, around.high, why)),
        *settle,
    )
    return around.function(body, (level, begun, *counts))


def low_pass(stage: LowPass, around: Around) -> Function:
    """Two-pole sections: y += (a₂·(y − y₁) + b·(x + 2x₁ + x₂ − 4y)), and a one-pole section for an odd order."""
    sections = sections_of(stage)
    smallest = min(b0 for b0, *_ in sections)
    bits = _bits(around, min(smallest * 4, 1.0), 5, 2)
    finer, shift = bits.finer, bits.weight
    low, high = around.low << finer, around.high << finer
    start = 0 if low <= 0 <= high else low
    begun = around.kept("begun", 0, 1)
    kept: list[Kept] = [begun]
    body: list[Statement] = []
    given: Whole = local("wide", low, high)
    for index, (b0, _, b2, _, a2) in enumerate(sections):
        x1, y1 = around.kept(f"x1_{index}", low, high, start), around.kept(f"y1_{index}", low, high, start)
        kept += [x1, y1]
        b = max(round(b0 * (1 << shift)), 1)
        if b2:
            x2, y2 = around.kept(f"x2_{index}", low, high, start), around.kept(f"y2_{index}", low, high, start)
            kept += [x2, y2]
            missing = given + x1.value * 2 + x2.value - y1.value * 4
            moved = (y1.value - y2.value) * round(a2 * (1 << shift)) + missing * b
            older: tuple[Statement, ...] = (keep(x2, x1.value), keep(y2, y1.value))
        else:
            moved = (given + x1.value - y1.value * 2) * b
            older = ()
        out = local(f"out_{index}", low, high)
        body += [
            Let(f"out_{index}", clipped(y1.value + nearest(moved, shift), low, high)),
            *older,
            keep(x1, given),
            keep(y1, out),
        ]
        given = out
    counts, settle = _settling(around, stage.settling_samples)
    begins = local("wide", low, high)
    first = [keep(each, begins) for each in kept[1:]]
    whole_body = (
        unless_usable(around.mark),
        Let("wide", around.x * (1 << finer)),
        When(neither(begun.value), (*first, keep(begun, whole(1)))),
        *body,
        Let("x", within(nearest(given, finer), around.low, around.high, "clipped already")),
        *settle,
    )
    return around.function(whole_body, (*kept, *counts))


def tracking(stage: Tracking, around: Around) -> Function:
    """The level moves by its slope, then both by a share of the miss; slopes are in steps per interval."""
    interval_ms = max(round(around.interval_s * 1000), 1)
    bits = _bits(around, min(stage.slope_weight, stage.level_weight), 3 + LONGEST_BRIDGED.bit_length(), 2)
    finer, full = bits.finer, 1 << bits.weight
    low, high = around.low << finer, around.high << finer
    span = high - low
    start = 0 if low <= 0 <= high else low
    level, slope = around.kept("level", low, high, start), around.kept("slope", -span, span)
    begun, then = around.kept("begun", 0, 1), around.moment("then")
    by_time = around.interval_s * 1000 >= BY_TIME_FROM_MS
    steps = local("steps", 0, LONGEST_BRIDGED) if by_time else whole(1)
    table = Table(
        f"{around.name}_weights",
        tuple(round(stage.slope_weight / max(count, 1) * full) * (count > 0) for count in range(LONGEST_BRIDGED + 1)),
        f"of a miss for the slope, by intervals of {interval_ms} ms since the last good sample",
    )
    slope_weight = at(table, steps) if by_time else whole(round(stage.slope_weight * full))
    ahead, miss = local("ahead", low, high), local("miss", -span, span)
    level_weight = round(stage.level_weight * full)
    counts, settle = _settling(around, stage.settling_samples)
    wide = around.x * (1 << finer)
    moves: tuple[Statement, ...] = (
        Let("ahead", clipped(level.value + slope.value * steps, low, high)),
        Let("miss", wide - ahead),
        keep(level, clipped(ahead + nearest(miss * level_weight, bits.weight), low, high)),
        keep(slope, clipped(slope.value + nearest(miss * slope_weight, bits.weight), -span, span)),
    )
    if by_time:
        moves = (
            Let("steps", intervals_since(around, then, interval_ms)),
            When(steps > 0, (*moves, keep(then, around.now))),
        )
    begin = (keep(level, wide), keep(slope, whole(0)), keep(then, around.now), keep(begun, whole(1)))
    body = (
        unless_usable(around.mark),
        When(begun.value, moves, begin),
        Let("x", within(nearest(level.value, finer), around.low, around.high, "clipped already")),
        *settle,
    )
    return around.function(body, (level, slope, begun, then, *counts))
