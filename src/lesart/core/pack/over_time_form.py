"""Totals in integers: inputs in finer steps are added up, and the remainder below a step is kept for the next.

A 32-bit float stops rising at 2²⁴ times its input; these lose nothing however long they run.
"""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.block import Mark
from lesart.core.chain import Chain, Link
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.over_time.totals import SECOND, OverTime, Rise, Sum
from lesart.core.pack.calm_forms.stage_form import Around, keep, unless_usable
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, Kept, Let, Statement, When
from lesart.core.pack.program.whole import (
    LONGEST_MS,
    Whole,
    both,
    clipped,
    down,
    either,
    least,
    local,
    marked,
    most,
    pick,
    quotient,
    since,
    whole,
    within,
)
from lesart.core.step import Step
from lesart.core.units import Unit, product

PLAIN_KINDS = ("unit", "none")
"""Links after a total that change nothing but its unit."""
WAITS = 16
"""Fewest intervals that the clock has to cover."""


@dataclass(frozen=True)
class Adding:
    """A total among the links of a chain: those ``before`` it make what is added, in ``unit_in``.

    ``amount`` is that of one ``unit_in``, over a second where it is a rate, in the channel's unit; exact.
    """

    stage: OverTimeStage
    law: OverTime | Sum | Rise
    before: tuple[Link, ...]
    unit_in: Unit
    amount: Fraction
    begin: float

    @property
    def is_rate(self) -> bool:
        """True where it depends on durations."""
        return isinstance(self.law, OverTime)


def adding_of(chain: Chain, links: tuple[Link, ...], title: str) -> Adding | None:
    """The total among the links of laws and correction; None where there is none.

    Raises PackError for another law over time, and for what comes after a total.
    """
    places = [place for place, link in enumerate(links) if isinstance(link.stage, OverTimeStage)]
    if not places:
        return None
    before, link, behind = links[: places[0]], links[places[0]], links[places[0] + 1 :]
    stage = link.stage
    assert isinstance(stage, OverTimeStage)
    law = stage.law
    if not isinstance(law, OverTime | Sum | Rise):
        raise PackError(
            f"{title}: its law {stage.kind} compares with what came a while ago, which is not carried into whole "
            "numbers; leave the channel out."
        )
    others = [each for each in behind if each.stage.kind not in PLAIN_KINDS]
    if others:
        what = f"its law {others[0].stage.kind}" if others[0].step is Step.LAW else "its correction"
        raise PackError(
            f"{title}: {what} comes after its {stage.kind}, which is carried into whole numbers only as the last; "
            "put it before, or leave the channel out."
        )
    unit_in = before[-1].stage.unit_out if before else chain.unit_raw
    scale = product(unit_in, SECOND)[1] if isinstance(law, OverTime) else unit_in.scale
    begin = law.begin * float(law.unit_out.scale / chain.unit.scale)
    return Adding(stage, law, before, unit_in, scale / chain.unit.scale, begin)


@dataclass(frozen=True)
class Finer:
    """``scale`` of the input; 2**``bits`` of its steps, over half a millisecond for a rate, are a step of the total.

    ``longest_ms`` is the longest time between two samples that products have room for.
    """

    scale: Scale
    bits: int
    longest_ms: int


def finer_of(adding: Adding, scale: Scale, largest: float, machine: Machine, interval_s: float, title: str) -> Finer:
    """The finest input scale that fits a quarter of a word, up to ``largest`` in its unit. Raises PackError."""
    # A step of the total, in the unit of the input.
    one = scale.step / adding.amount * (2000 if adding.is_rate else 1)
    room = machine.largest >> 2
    bits = next(
        (bits for bits in range(machine.word - 3, -1, -1) if Fraction(largest) * (1 << bits) / one <= room), None
    )
    if bits is None:
        raise PackError(
            f"{title}: what is added comes to {float(Fraction(largest) / one):.3g} steps of its total at once, and a "
            f"word of {machine.word} bits has room for {room}; show fewer decimals, or use a wider word."
        )
    longest_ms = LONGEST_MS >> 1
    if adding.is_rate:
        longest_ms = min(longest_ms, (1 << (machine.wide - 2)) // (4 * room))
        if longest_ms < WAITS * 1000 * interval_s:
            raise PackError(
                f"{title}: a word of {machine.word} bits adds up over {longest_ms / 1000:g} s at most, and samples "
                f"come every {interval_s:g} s; a word of 32 bits would do."
            )
    return Finer(Scale(one / (1 << bits)), bits, longest_ms)


def over_time_form(adding: Adding, finer: Finer, low: int, high: int, around: Around) -> Function:
    """The total as a stage: takes what is added, from ``low`` to ``high``, and gives the total in steps of ``around``.

    Beyond the ends of ``around`` it stays there, marked. A silence longer than the clock tells counts as the
    longest that it does.
    """
    kept = _variables(adding, finer, low, high, around)
    body: list[Statement] = [unless_usable(around.mark)]

    def let(name: str, value: Whole) -> Whole:
        body.append(Let(name, value))
        return local(name, value.low, value.high)

    x = local("x", min(low, around.low), max(high, around.high))
    added = let("added", within(x, low, high, "as the law gives it"))
    took = whole(0)
    if kept.is_timed:
        passed = least(since(around.now, kept.then.value), finer.longest_ms)
        took = let("took", pick(kept.begun.value, passed, 0))
        body.append(keep(kept.then, around.now))
    anew, age = whole(0), took
    if kept.every_ms:
        spent = let("spent", kept.spent.value + took)
        anew = let("anew", spent > kept.every_ms)
        over = divided(most(spent - 1, 0), kept.every_ms, around.machine) * kept.every_ms
        age = let("age", within(pick(anew, spent - over, spent), 0, kept.every_ms, "whole periods are taken off"))
        body.append(keep(kept.spent, age))
    amount = _amount(adding.law, kept, added, took, anew, least(age, took))
    rest = let("rest", pick(anew, 0, kept.rest.value) + amount)
    steps = let("steps", down(rest, finer.bits))
    reached = let("reached", pick(anew, kept.zero, kept.total.value) + steps)
    left = within(rest - steps * (1 << finer.bits), 0, (1 << finer.bits) - 1, "what is left below a step")
    beyond = either(reached < around.low, reached > around.high)
    body += [
        keep(kept.rest, left),
        keep(kept.total, clipped(reached, around.low, around.high)),
        *([keep(kept.before, added)] if kept.is_compared else []),
        *([keep(kept.begun, whole(1))] if kept.begun in kept.all else []),
        When(beyond, (Let("mark", marked(around.mark, int(Mark.RANGE))),)),
        Let("x", kept.total.value),
    ]
    given = (x, around.mark, around.now)
    return Function(around.name, around.place, around.says, given, given[:2], tuple(body), kept.all)


@dataclass(frozen=True)
class _Variables:
    """Variables kept from sample to sample; ``zero`` is a total of 0, in steps."""

    begun: Kept
    then: Kept
    before: Kept
    total: Kept
    rest: Kept
    spent: Kept
    every_ms: int
    zero: int
    full: int
    is_rate: bool
    is_compared: bool

    @property
    def is_timed(self) -> bool:
        """True where it depends on the times of samples."""
        return self.is_rate or self.every_ms > 0

    @property
    def all(self) -> tuple[Kept, ...]:
        """The variables that it needs."""
        kept = [self.total, self.rest]
        kept += [self.begun] if self.is_timed or self.is_compared else []
        kept += [self.before] if self.is_compared else []
        kept += [self.then] if self.is_timed else []
        return (*kept, self.spent) if self.every_ms else tuple(kept)


def _variables(adding: Adding, finer: Finer, low: int, high: int, around: Around) -> _Variables:
    periods = adding.law.periods
    every_ms = round(periods.every_s * 1000)
    if every_ms > LONGEST_MS >> 1:
        days = (LONGEST_MS >> 1) // 86_400_000
        raise around.refused(f"a clock of milliseconds counts up to {days} days; begin it again more often.")
    begins = every_ms - round((periods.first_s or periods.every_s) * 1000)
    start, zero = (
        min(max(round(around.scale.number(value)), around.low), around.high) for value in (adding.begin, 0.0)
    )
    return _Variables(
        begun=around.kept("begun", 0, 1),
        then=around.moment("then"),
        before=around.kept("before", low, high, min(max(0, low), high)),
        total=around.kept("total", around.low, around.high, start),
        rest=around.kept("rest", 0, (1 << finer.bits) - 1),
        spent=around.kept("spent", 0, every_ms, begins),
        every_ms=every_ms,
        zero=zero,
        full=_full(adding, finer, around),
        is_rate=adding.is_rate,
        is_compared=not isinstance(adding.law, Sum),
    )


def _full(adding: Adding, finer: Finer, around: Around) -> int:
    """Where a counter wraps, in steps of the input. Raises PackError where that is not whole."""
    if not isinstance(adding.law, Rise):
        return 0
    full = Fraction(adding.law.full) * adding.law.unit_in.scale / adding.unit_in.scale / finer.scale.step
    if full.denominator != 1:
        raise around.refused("where its counter is full is not a whole number of steps; leave the channel out.")
    return int(full)


def _amount(law: OverTime | Sum | Rise, kept: _Variables, added: Whole, took: Whole, anew: Whole, own: Whole) -> Whole:
    """What a sample adds, in steps of the input; for a rate times half a millisecond.

    ``own`` is the part of the time since the last sample that is in a period begun since.
    """
    if isinstance(law, Sum):
        return added
    before = pick(kept.begun.value, kept.before.value, added)
    rose = added - before
    if isinstance(law, Rise):
        return _risen(law, kept.full, added, rose)
    span = max(abs(rose.low), abs(rose.high))
    part = within(quotient(rose * own, most(took, 1)), -span, span, "a part of the step between two samples")
    amount = pick(anew, (added * 2 - part) * own, (before + added) * took)
    if law.longest_gap_s:
        amount = pick(took > math.floor(law.longest_gap_s * 1000), 0, amount)
    return amount


def _risen(law: Rise, full: int, added: Whole, rose: Whole) -> Whole:
    """Rise from one count to the next, across a wrap or a restart."""
    if law.counts == "both ways":
        if not full:
            return rose
        half = full // 2
        return pick(rose > half, rose - full, pick(rose < -half, rose + full, rose))
    round_it = rose + full
    is_full = both(round_it >= 0, round_it * 2 < full)
    return pick(rose >= 0, rose, pick(is_full, round_it, added))
