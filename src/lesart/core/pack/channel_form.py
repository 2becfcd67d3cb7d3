"""A channel in integers: its laws, filters, alarms and fields as functions, and the proof that none overflows."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from fractions import Fraction

import numpy as np

from lesart.core.calm.alarm import Alarm
from lesart.core.calm.circular import CircularMean
from lesart.core.calm.low_pass import LowPass
from lesart.core.calm.tracking import Tracking
from lesart.core.chain import AROUND, OUTSIDE, Chain, Link, Thinning
from lesart.core.dataclass_later import dataclass
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
from lesart.core.pack.over_time_form import Adding, adding_of, finer_of, over_time_form
from lesart.core.pack.program.in_c import stored_bytes
from lesart.core.pack.program.proof import operations, overflows
from lesart.core.pack.program.statements import Function, Kept
from lesart.core.step import Step
from lesart.core.units import Unit

BEYOND = 8
"""Times the channel's range, up to which a total runs."""
SWINGS = (LowPass, Tracking)
"""Filters whose output may exceed their input."""


@dataclass(frozen=True)
class ChannelWanted:
    """``name`` is an identifier, ``title`` the channel's own name; raw numbers from ``low`` to ``high`` are raw values
    by the scale ``raw``; readings from ``lowest`` to ``highest`` count. Integers may be off by ``share`` of a field's
    last place."""

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
    """Another channel that one of its laws reads."""
    described: tuple[str, ...] = ()
    """Its laws, correction and filters as equations, a sentence or more each."""
    definition: str = ""
    """What it is packed from: equal for channels that are packed alike."""
    filter_words: tuple[str, ...] = ()
    """Each filter in a few words: ``median 5``."""


@dataclass(frozen=True)
class Parts:
    """Links of a chain that one table replaces; the total after them, if any; and the filters."""

    law: tuple[Link, ...]
    adding: Adding | None
    stages: tuple[Link, ...]


def parts_of(chain: Chain, title: str) -> Parts:
    """Split a chain into what a table replaces and the rest. Raises PackError for what is not possible in integers."""
    links = tuple(link for link in chain.links if _is_of_law(link))
    stages = tuple(link for link in chain.links if not _is_of_law(link))
    adding = adding_of(chain, links, title)
    return Parts(links if adding is None else adding.before, adding, stages)


@dataclass(frozen=True, eq=False)
class ChannelForm:
    """The functions of a channel: ``law``, then ``calm`` in order, then ``alarms`` and ``fields``.

    A total is the first of ``calm``.
    """

    wanted: ChannelWanted
    scale: Scale
    finer: int
    law: LawForm
    calm: tuple[Function, ...]
    alarms: tuple[Function, ...]
    fields: tuple[Function, ...]
    parts: Parts
    law_scale: Scale
    """Scale of the law's result: that of the reading, or finer where a total is made of it."""
    law_budget: float
    """Allowed error in those steps."""

    @property
    def laws(self) -> Laws:
        """What its law replaces, in words."""
        return _laws_of(self.wanted, self.parts)

    @property
    def law_unit(self) -> Unit:
        """Unit of the law's result."""
        return self.wanted.chain.unit if self.parts.adding is None else self.parts.adding.unit_in

    @property
    def allowed(self) -> float:
        """Allowed error of the law, in its unit."""
        return self.law_budget * float(self.law_scale.step)

    @property
    def worst_places(self) -> float:
        """The law's worst error in last places of the finest field; for a total, accumulated over the channel's whole
        range."""
        worst, place = self.law.agreement.worst, float(self.scale.step) * (1 << self.finer)
        if self.parts.adding is None:
            return worst / place
        largest = max(map(abs, self.law.reading)) * float(self.law_scale.step)
        return worst / (largest or 1.0) * max(abs(self.wanted.lowest), abs(self.wanted.highest)) / place

    @property
    def functions(self) -> tuple[Function, ...]:
        """All functions, in the order in which a sample goes through."""
        return (self.law.function, *self.calm, *self.alarms, *self.fields)

    @property
    def kept(self) -> tuple[Kept, ...]:
        """All variables kept from sample to sample."""
        return tuple(kept for each in self.functions for kept in each.kept if not kept.only_here)

    @property
    def memory_bytes(self) -> int:
        """Bytes of kept variables, without padding by the compiler."""
        return sum(stored_bytes(each.low, each.high) * max(each.length, 1) for each in self.kept)

    @property
    def table_bytes(self) -> int:
        """Bytes of all tables of constants."""
        return sum(
            stored_bytes(table.low, table.high) * len(table.values) for each in self.functions for table in each.tables
        )

    @property
    def operations(self) -> int:
        """Most operations of one sample through laws, filters and alarms."""
        return sum(operations(each.body) for each in (self.law.function, *self.calm, *self.alarms))


def channel_form(wanted: ChannelWanted) -> ChannelForm:
    """The integer form of a channel.

    Raises PackError for what this word size cannot do, with the place and what would.
    """
    parts = parts_of(wanted.chain, wanted.title)
    stages = parts.stages
    _carried(wanted, tuple(link.stage for link in parts.law))
    scale, finer = scale_of(last_of(wanted), wanted.lowest, wanted.highest, wanted.machine, wanted.title)
    budget = wanted.share * (1 << finer)
    law_scale, law_budget, law, total = _law(wanted, parts, scale, budget)
    low, high = law.reading if total is None else _ends_of(wanted, scale)
    if any(isinstance(link.stage, SWINGS) for link in stages):
        low, high = low - (high - low), high + (high - low)
    for link in stages:
        if isinstance(link.stage, CircularMean):  # the output may be anywhere on the circle
            ends = (scale.exactly(link.stage.lowest), scale.exactly(link.stage.highest))
            low, high = min(low, round(ends[0])), max(high, round(ends[1]))
    calm, interval_s = [] if total is None else [total], wanted.interval_s
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
    form = ChannelForm(wanted, scale, finer, law, tuple(calm), alarms, fields, parts, law_scale, law_budget)
    found = next(overflows(form.functions, wanted.machine.word), None)
    if found is not None:
        raise PackError(str(found))
    return form


def _is_of_law(link: Link) -> bool:
    """True where a table replaces it. A circular reading jumps at its seam, so wrapping comes after the table."""
    return link.step is not Step.CALM and link.place != AROUND


def _called(wanted: ChannelWanted, stages: Sequence[Link]) -> Iterator[tuple[str, str, str]]:
    """Names in code, in the project, and in a few words: filters by their numbers there.

    The range mark of the channel is not one of them.
    """
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


def _laws_of(wanted: ChannelWanted, parts: Parts) -> Laws:
    """The laws to convert. For a total any input counts; a reading counts within the channel's range."""
    ends = (wanted.lowest, wanted.highest) if parts.adding is None else (float("-inf"), float("inf"))
    return Laws(parts.law, wanted.raw, wanted.low, wanted.high, *ends)


def _law(
    wanted: ChannelWanted, parts: Parts, scale: Scale, budget: float
) -> tuple[Scale, float, LawForm, Function | None]:
    """The law with its scale and budget, and the total made from it, if any."""
    laws = _laws_of(wanted, parts)
    if parts.adding is not None:
        return _law_and_total(wanted, parts.adding, laws, scale)
    place = f"{wanted.title}, Law and True"
    if wanted.beside is not None:
        return scale, budget, pair_form(wanted.name, place, laws, wanted.beside, scale, budget, wanted.machine), None
    return scale, budget, law_form(wanted.name, place, laws, scale, budget, wanted.machine), None


def _law_and_total(
    wanted: ChannelWanted, adding: Adding, laws: Laws, scale: Scale
) -> tuple[Scale, float, LawForm, Function]:
    """A table in finer steps, off by no more than allowed for a total over the channel's whole range."""
    if wanted.beside is not None:
        raise PackError(
            f"{wanted.title}: what it adds up depends on {wanted.beside.title} as well, which is not carried into "
            "whole numbers; leave the channel out."
        )
    x = laws.at(laws.codes()).x
    largest = float(np.abs(x[np.isfinite(x)]).max(initial=0.0)) or 1.0
    finer = finer_of(adding, scale, largest, wanted.machine, wanted.interval_s, wanted.title)
    # A constant error as a share of the greatest input makes an error of that share of the channel's range.
    share = wanted.share * float(last_of(wanted)) / max(abs(wanted.lowest), abs(wanted.highest))
    budget = max(share * largest / float(finer.scale.step), 0.75)
    law = law_form(wanted.name, f"{wanted.title}, Law", laws, finer.scale, budget, wanted.machine)
    low, high = _ends_of(wanted, scale)
    place = f"{wanted.title}, {adding.stage.kind}"
    says = f"added up; what is left below a step, in parts of 1/{1 << finer.bits}, is kept"
    around = Around(wanted.name, "total", place, says, scale, low, high, wanted.interval_s, 0.0, wanted.machine)
    return finer.scale, budget, law, over_time_form(adding, finer, *law.reading, around)


def last_of(wanted: ChannelWanted) -> Fraction:
    """The last place of a channel's finest field."""
    return min((last_place(each.field) for each in wanted.fields if each.field.is_number), default=Fraction(1, 100))


def _ends_of(wanted: ChannelWanted, scale: Scale) -> tuple[int, int]:
    """Bounds of a total in steps: far beyond the channel's range, which only says how far it came, and within half of
    the word."""
    room = wanted.machine.largest >> 1
    ends = (each * (BEYOND if each * way > 0 else 1) for each, way in ((wanted.lowest, -1), (wanted.highest, 1)))
    low, high = (scale.exactly(each) for each in ends)
    return max(math.floor(low), -room), min(math.ceil(high), room)


def _carried(wanted: ChannelWanted, stages: tuple[object, ...]) -> None:
    if len(wanted.chain.reads) > 1:
        raise PackError(
            f"{wanted.title}: its laws read {' and '.join(wanted.chain.reads)}, and a table is made over one other "
            "reading at most; give one of them as a constant, or leave the channel out."
        )
    window = next((each for each in stages if isinstance(each, WindowStage)), None)
    if window is not None:
        raise PackError(
            f"{wanted.title}: its law {window.kind} gathers windows of samples, which is not carried into "
            "whole numbers; leave the channel out."
        )
