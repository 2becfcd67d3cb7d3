"""What can be wrong with totals: bridged gaps, a rate summed like amounts, a running counter summed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.chain import Chain, Link
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.periods import lasting
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.over_time.totals import OverTime, Rise, Sum
from lesart.core.law.record import OverTimeLaw
from lesart.core.notes import DOUBT, FAULT, REMARK, Key, Mend, Note
from lesart.core.quantity import counted, format_quantity, plain_number
from lesart.core.raw.codes import full_at, is_counter
from lesart.core.raw.timing import GAP_INTERVALS, timing_of
from lesart.core.step import Step
from lesart.core.units import Unit

WORTH = 0.05
"""Above this share of a total from bridged gaps it is a doubt, not a remark."""
LOOKED_AT = 20_000
"""Samples that are enough to recognise a running counter."""
RATES = ("A", "W", "Hz", "rpm", "kn")
PER_TIME = ("s", "min", "h", "d")


@dataclass(frozen=True)
class Added:
    """A channel with a law over time: ``law`` after the links ``before``, at ``key`` in the project."""

    name: str
    key: Key
    law: OverTimeLaw
    link: Link
    before: Sequence[Link]
    is_last: bool
    raw: Block
    quantity: Block
    unit: Unit


def inspect_over_time(name: str, key: Key, chain: Chain, raw: Block, quantity: Block) -> list[Note]:
    """Notes on a channel's laws over time; its laws begin at ``key``, and ``quantity`` is the block after all of
    them."""
    laws = [link for link in chain.links if link.step is Step.LAW and link.place.startswith("law[")]
    notes: list[Note] = []
    for place, link in enumerate(laws):
        if isinstance(link.stage, OverTimeStage):
            before, is_last = laws[:place], place == len(laws) - 1
            added = Added(name, (*key, place), link.stage.law, link, before, is_last, raw, quantity, chain.unit)
            notes += [
                note
                for look in (_anew_too_soon, _gaps, _rate_summed, _counter_summed, _not_full)
                for note in look(added)
            ]
    return notes


def inspect_begun(name: str, key: Key, chain: Chain, lost: int) -> list[Note]:
    """A note on totals of a live line that begin after ``lost`` samples were dropped, as after an edit."""
    laws = [link for link in chain.links if link.step is Step.LAW and link.place.startswith("law[")]
    return [
        Note(
            DOUBT,
            Step.LAW,
            name,
            f"{name}: its total begins with the samples that are still kept; {counted(lost, 'sample')} before them "
            f"{'is' if lost == 1 else 'are'} gone.",
            figure=float(lost),
            limit=0.0,
            remedy="begin takes what it had come to by then",
            place=(*key, place, "begin"),
        )
        for place, link in enumerate(laws)
        if lost and isinstance(link.stage, OverTimeStage) and isinstance(link.stage.law, OverTime | Sum | Rise)
    ]


def _usual_s(seen: Added) -> float:
    return timing_of(seen.raw.t[seen.raw.usable]).interval_s


def _anew_too_soon(seen: Added) -> Iterator[Note]:
    """A note on periods shorter than the time between samples: nothing adds up within one."""
    law, usual = seen.law, _usual_s(seen)
    if not isinstance(law, OverTime | Sum | Rise) or not 0 < law.periods.every_s < usual:
        return
    every = law.periods.every_s
    yield Note(
        DOUBT,
        Step.LAW,
        seen.name,
        f"{seen.name}: its total begins again every {lasting(every)}, and from sample to sample it is "
        f"{lasting(usual)}: none adds up to more than one sample.",
        figure=every,
        unit="s",
        limit=usual,
        remedy="begin it again less often, or never with 0 s",
        place=(*seen.key, "every"),
    )


def _gaps(seen: Added) -> Iterator[Note]:
    """A note on what a total over time assumed, or left out, where no samples came."""
    law = seen.law
    if not isinstance(law, OverTime):
        return
    t = seen.raw.t[seen.raw.usable]
    timing, took = timing_of(t), np.diff(t)
    longest, key = law.longest_gap_s, (*seen.key, "longest_gap")
    if longest and timing.interval_s > longest:
        yield Note(
            FAULT,
            Step.LAW,
            seen.name,
            f"{seen.name}: from sample to sample it is {lasting(timing.interval_s)}, longer than the longest gap of "
            f"{lasting(longest)} that its total counts over: next to nothing adds up.",
            figure=longest,
            unit="s",
            limit=timing.interval_s,
            remedy="bridge any gap with 0 s",
            mend=(Mend(key, "0 s"),),
            place=key,
        )
        return
    left = took[took > longest] if longest else np.empty(0)
    if len(left):
        yield Note(
            REMARK,
            Step.LAW,
            seen.name,
            f"{seen.name}: {counted(len(left), 'gap')} of more than {lasting(longest)}, {lasting(float(left.sum()))} "
            f"in all, {'is' if len(left) == 1 else 'are'} left out of its total.",
            figure=float(left.sum()),
            unit="s",
            limit=longest,
            place=key,
        )
    yield from _bridged(seen, GAP_INTERVALS * timing.interval_s, longest or np.inf, key)


def _bridged(seen: Added, from_s: float, to_s: float, key: Key) -> Iterator[Note]:
    """How much of the total comes from straight lines over gaps."""
    good = seen.quantity.usable
    if not seen.is_last or good.sum() < 3 or not from_s > 0:
        return
    took, rose = np.diff(seen.quantity.t[good]), np.abs(_rises(seen))
    bridged = (took > from_s) & (took <= to_s)
    whole, over = float(rose.sum()), float(rose[bridged].sum())
    if not bridged.any() or not over > 0:
        return
    share, count = over / whole, int(bridged.sum())
    longest = lasting(float(took[bridged].max()))
    one = count == 1
    yield Note(
        DOUBT if share > WORTH else REMARK,
        Step.LAW,
        seen.name,
        f"{seen.name}: {counted(count, 'gap')}, {'' if one else 'the longest '}of {longest}, "
        f"{'is' if one else 'are'} bridged by {'a straight line' if one else 'straight lines'}: of what adds up, "
        f"{format_quantity(over, seen.unit, 3)} or {plain_number(100 * share, 2)} % {'comes' if one else 'come'} "
        "of that.",
        figure=100 * share,
        unit="%",
        limit=100 * WORTH,
        remedy="a longest gap leaves out what nobody measured",
        place=key,
    )


def _rises(seen: Added) -> Floats:
    """The rise of the total from good sample to good sample; where it began again, its value since then."""
    x = seen.quantity.x[seen.quantity.usable]
    rose = np.diff(x)
    if isinstance(seen.law, OverTime) and seen.law.periods.every_s:
        since = seen.quantity.t[seen.quantity.usable] - seen.raw.t[seen.raw.usable][0]
        rose = np.where(np.diff(seen.law.periods.number(since)) > 0, x[1:], rose)
    return rose


def is_rate(unit: Unit) -> bool:
    """True for a quantity per time, whose samples have no meaningful sum."""
    per = unit.symbol.rpartition("/")[2] if "/" in unit.symbol else ""
    return unit.root in RATES or per in PER_TIME


def _rate_summed(seen: Added) -> Iterator[Note]:
    law = seen.law
    if not isinstance(law, Sum) or not is_rate(law.unit_in):
        return
    yield Note(
        DOUBT,
        Step.LAW,
        seen.name,
        f"{seen.name}: its sum adds {law.unit_in} once a sample, however long it is from one to the next.",
        remedy=f"total over time instead of sum makes an amount of {law.unit_in}",
        place=(*seen.key, "begin"),
    )


def _not_full(seen: Added) -> Iterator[Note]:
    """A note on a counter that wraps round, but whose law takes it for one that was restarted."""
    law = seen.law
    if not isinstance(law, Rise) or law.full or law.counts != "up":
        return
    x = _into(seen)
    end = full_at(x) if is_counter(x) else 0.0
    if not end:
        return
    falls = np.flatnonzero(np.diff(x) < 0)
    last, first = (format_quantity(float(x[falls[0] + more]), law.unit_in, 9) for more in (0, 1))
    lost, restarts = float(np.sum(end - x[falls])), "a restart" if len(falls) == 1 else "restarts"
    key = (*seen.key, "full")
    yield Note(
        DOUBT,
        Step.LAW,
        seen.name,
        f"{seen.name}: its counter goes from {last} to {first}, as one does that is full at {plain_number(end, 12)}; "
        f"taken for {restarts}, {format_quantity(lost, law.unit_in, 3)} {'is' if lost == 1 else 'are'} lost.",
        figure=lost,
        unit=law.unit_in.symbol,
        limit=0.0,
        remedy=f"full at {plain_number(end, 12)} counts on through it",
        mend=(Mend(key, f"{end:.0f}"),),
        place=key,
    )


def _into(seen: Added) -> Floats:
    """The good input values of its law among the first samples."""
    block = seen.raw[:LOOKED_AT]
    for link in seen.before:
        block = link.run(link.stage.initial(), block)[1]
    return block.x[block.usable] * seen.link.scale + seen.link.offset


def _counter_summed(seen: Added) -> Iterator[Note]:
    """A note on a running counter summed: everything counts many times over."""
    law = seen.law
    if not isinstance(law, Sum):
        return
    x = _into(seen)
    if not is_counter(x):
        return
    falls = int((np.diff(x) < 0).sum())
    but = f", but for {counted(falls, 'fall')}," if falls else ""
    yield Note(
        DOUBT,
        Step.LAW,
        seen.name,
        f"{seen.name}: what its sum adds up rises all along{but} as a running counter does: all that it has ever "
        "counted is added again with each sample.",
        figure=float(x[-1]),
        unit=law.unit_in.symbol,
        remedy="counter rise instead of sum adds what it rises by",
        place=(*seen.key, "begin"),
    )
