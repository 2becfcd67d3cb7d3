"""A channel in whole numbers: its laws, filters, alarms and fields as functions, and that none of them overflows."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction

from lesart.core.calm.alarm import Alarm
from lesart.core.calm.circular import CircularMean
from lesart.core.calm.low_pass import LowPass
from lesart.core.calm.tracking import Tracking
from lesart.core.chain import AROUND, OUTSIDE, Chain, Link, Thinning
from lesart.core.dataclass_later import dataclass
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.stage import WindowStage
from lesart.core.pack.calm_forms.alarm_form import alarm_form
from lesart.core.pack.calm_forms.kinds import filter_form
from lesart.core.pack.calm_forms.stage_form import Around
from lesart.core.pack.field_forms.field_form import field_form
from lesart.core.pack.field_forms.wanted import FieldWanted, last_place
from lesart.core.pack.law_forms.law_form import LawForm, Laws, law_form
from lesart.core.pack.law_forms.pair_form import pair_form
from lesart.core.pack.law_forms.pair_surface import Beside
from lesart.core.pack.machine import Machine, PackError, Scale, scale_of
from lesart.core.pack.program.in_c import stored_bytes
from lesart.core.pack.program.proof import operations, overflows
from lesart.core.pack.program.statements import Function, Kept
from lesart.core.step import Step

SWINGS = (LowPass, Tracking)
"""Filters whose output may go beyond what has come in."""


@dataclass(frozen=True)
class ChannelWanted:
    """``name`` is fit for code, ``title`` is the channel's own; raw numbers from ``low`` to ``high`` stand for raw
    values by ``raw``; readings from ``lowest`` to ``highest`` count. ``share`` of a field's last place is how far whole
    numbers may be off."""

    name: str
    title: str
    chain: Chain
    raw: Scale
    low: int
    high: int
    lowest: float
    highest: float
    alarms: tuple[Alarm, ...]
    fields: tuple[FieldWanted, ...]
    interval_s: float
    share: float
    machine: Machine
    beside: Beside | None = None
    """The channel that one of its laws reads as well."""
    described: tuple[str, ...] = ()
    """Its laws, correction and filters as equations, a sentence or more each."""
    definition: str = ""
    """The same for what is packed alike."""
    filter_words: tuple[str, ...] = ()
    """What each filter is in a few words: ``median 5``."""


@dataclass(frozen=True, eq=False)
class ChannelForm:
    """What is written of a channel: ``law``, then ``calm`` in turn, ``alarms`` and ``fields`` behind them."""

    wanted: ChannelWanted
    scale: Scale
    finer: int
    law: LawForm
    calm: tuple[Function, ...]
    alarms: tuple[Function, ...]
    fields: tuple[Function, ...]

    @property
    def laws(self) -> Laws:
        """What its law stands for."""
        wanted = self.wanted
        links = tuple(link for link in wanted.chain.links if _is_of_law(link))
        return Laws(links, wanted.raw, wanted.low, wanted.high, wanted.lowest, wanted.highest)

    @property
    def functions(self) -> tuple[Function, ...]:
        """All of them, in the order in which a sample goes through."""
        return (self.law.function, *self.calm, *self.alarms, *self.fields)

    @property
    def kept(self) -> tuple[Kept, ...]:
        """All that is kept from sample to sample."""
        return tuple(kept for each in self.functions for kept in each.kept if not kept.only_here)

    @property
    def memory_bytes(self) -> int:
        """Of what is kept, without what a compiler puts between."""
        return sum(stored_bytes(each.low, each.high) * max(each.length, 1) for each in self.kept)

    @property
    def table_bytes(self) -> int:
        """Of all tables of constants."""
        return sum(
            stored_bytes(table.low, table.high) * len(table.values) for each in self.functions for table in each.tables
        )

    @property
    def operations(self) -> int:
        """At most, of one sample through laws, filters and alarms."""
        return sum(operations(each.body) for each in (self.law.function, *self.calm, *self.alarms))


def channel_form(wanted: ChannelWanted) -> ChannelForm:
    """Raises PackError for what whole numbers of this word cannot do, with the place and what would."""
    links = wanted.chain.links
    law_links = tuple(link for link in links if _is_of_law(link))
    _carried(wanted, tuple(link.stage for link in law_links))
    finest = min((last_place(each.field) for each in wanted.fields if each.field.is_number), default=Fraction(1, 100))
    scale, finer = scale_of(finest, wanted.lowest, wanted.highest, wanted.machine, wanted.title)
    budget = wanted.share * (1 << finer)
    law = _law(wanted, law_links, scale, budget)
    stages = [link for link in links if not _is_of_law(link)]
    low, high = law.reading
    if any(isinstance(link.stage, SWINGS) for link in stages):
        low, high = low - (high - low), high + (high - low)
    for link in stages:
        if isinstance(link.stage, CircularMean):  # what comes out may be anywhere on the circle
            ends = (scale.exactly(link.stage.lowest), scale.exactly(link.stage.highest))
            low, high = min(low, round(ends[0])), max(high, round(ends[1]))
    calm, interval_s = [], wanted.interval_s
    for link, called in zip(stages, _called(wanted, stages), strict=True):
        around = Around(
            wanted.name,
            *called,
            scale,
            low,
            high,
            interval_s,
            budget,
            wanted.machine,
        )
        calm.append(filter_form(link.stage, around))
        if isinstance(link.stage, Thinning):
            interval_s *= link.stage.n
    alarms = tuple(
        alarm_form(
            alarm,
            Around(
                wanted.name,
                f"alarm{place}",
                f"{wanted.title}, alarm {alarm.name}",
                f"{alarm.side} {alarm.limit:g}",
                scale,
                low,
                high,
                interval_s,
                budget,
                wanted.machine,
            ),
        )
        for place, alarm in enumerate(wanted.alarms, 1)
    )
    fields = tuple(field_form(each, scale, low, high, budget, wanted.machine) for each in wanted.fields)
    form = ChannelForm(wanted, scale, finer, law, tuple(calm), alarms, fields)
    found = next(overflows(form.functions, wanted.machine.word), None)
    if found is not None:
        raise PackError(str(found))
    return form


def _is_of_law(link: Link) -> bool:
    """Does a table stand for it? What comes round jumps there, and comes behind the table."""
    return link.step is not Step.CALM and link.place != AROUND


def _called(wanted: ChannelWanted, stages: Sequence[Link]) -> Iterator[tuple[str, str, str]]:
    """In code, in the project, and in a few words: filters by their numbers there. What marks readings outside of the
    channel's range is not one of them."""
    filters = 0
    for link in stages:
        if link.place == OUTSIDE:
            yield OUTSIDE, f"{wanted.title}, outside its range", "marked"
            continue
        if link.place == AROUND:
            yield AROUND, f"{wanted.title}, where it comes round", "onto its circle"
            continue
        kind = link.stage.kind
        word = wanted.filter_words[filters] if wanted.filter_words else kind
        filters += 1
        yield f"calm{filters}_{kind.replace(' ', '_').replace('-', '_')}", f"{wanted.title}, Calm {filters}", word


def _law(wanted: ChannelWanted, links: tuple[Link, ...], scale: Scale, budget: float) -> LawForm:
    place = f"{wanted.title}, Law and True"
    laws = Laws(links, wanted.raw, wanted.low, wanted.high, wanted.lowest, wanted.highest)
    if wanted.beside is not None:
        return pair_form(wanted.name, place, laws, wanted.beside, scale, budget, wanted.machine)
    return law_form(wanted.name, place, laws, scale, budget, wanted.machine)


def _carried(wanted: ChannelWanted, stages: tuple[object, ...]) -> None:
    if len(wanted.chain.reads) > 1:
        raise PackError(
            f"{wanted.title}: its laws read {' and '.join(wanted.chain.reads)}, and a table is made over one other "
            "reading at most; give one of them as a constant, or leave the channel out."
        )
    window = next((each for each in stages if isinstance(each, WindowStage)), None)
    if window is not None:
        raise PackError(
            f"{wanted.title}: its law {window.kind} gathers windows of samples, which is not carried into whole "
            "numbers; leave the channel out."
        )
    going_on = next((each for each in stages if isinstance(each, OverTimeStage)), None)
    if going_on is not None:
        raise PackError(
            f"{wanted.title}: its law {going_on.kind} goes on from sample to sample, and a table of it cannot be made; "
            "leave the channel out."
        )
