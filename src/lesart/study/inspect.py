"""All notes of a project: every step inspected, in the order of the list of notes."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any

from lesart.core.block import Block
from lesart.core.calm.inspect import Filtered, inspect_alarm, inspect_filters, inspect_hum
from lesart.core.calm.record import total_cost
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.fit.field import Field
from lesart.core.fit.inspect import OneCount, fits, inspect_field, inspect_fineness, inspect_sure
from lesart.core.glass.faces.face import FieldItem
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.legibility import inspect_legibility
from lesart.core.glass.faces.moving import inspect_moving
from lesart.core.glass.panels.contrast import inspect_contrast
from lesart.core.glass.panels.inspect_panel import inspect_panel
from lesart.core.glass.panels.panel import Panel
from lesart.core.law.air.inspect import inspect_air
from lesart.core.law.inspect import Seen, inspect_laws
from lesart.core.law.outside import Ranged, inspect_range
from lesart.core.law.over_time.inspect import inspect_begun
from lesart.core.notes import FAULT, REMARK, Key, Note, ordered
from lesart.core.step import Step
from lesart.core.true.history import inspect_drift
from lesart.core.true.inspect import inspect_age, inspect_correction, inspect_references
from lesart.core.units import parse_unit
from lesart.core.wire.faults.inspect import find
from lesart.core.wire.faults.measured import inspect_measured
from lesart.core.wire.faults.sums import inspect_sums
from lesart.project.facts.compare import inspect_facts
from lesart.project.model import Channel, Project
from lesart.project.toml_values import value_at
from lesart.study.assumptions import inspect_assumed
from lesart.study.bench import Bench
from lesart.study.gathered import gathered
from lesart.study.intervals import filters_interval_s
from lesart.study.left_recordings import inspect_left_recordings
from lesart.study.loop_verdicts import paced
from lesart.study.raw_notes import raw_notes
from lesart.study.run import Run, filtered
from lesart.study.sureness import Sureness, noise_behind_filters, sureness_in_the_middle


def inspect_project(project: Project, bench: Bench, today: date | None = None) -> tuple[Note, ...]:
    """Notes on the hook-up, all channels and panels.

    A capture that cannot be read is a fault of its channels, not an exception.
    """
    return as_printed(project, [note for part in parts_of(project, bench, today) for note in part()])


def parts_of(project: Project, bench: Bench, today: date | None = None) -> list[Callable[[], Iterable[Note]]]:
    """The same part by part, so that other work can be done in between.

    An interrupted part can be begun again; its intermediate results stay on the bench.
    """
    parts: list[Callable[[], Iterable[Note]]] = [
        partial(_in_every_way, project, channel, bench, today) for channel in project.channels.values()
    ]
    for face in project.faces.values():
        panel = project.panels[face.panel]
        parts += [partial(look, face, panel) for look in (inspect_face, inspect_legibility, inspect_moving)]
    parts += [partial(inspect_left_recordings, project, bench), partial(_unread, project)]
    for panel in project.panels.values():
        parts += [partial(inspect_contrast, panel), partial(inspect_panel, panel)]
    return [
        *parts,
        lambda: paced(project, bench).notes,
        lambda: bench.hookup_notes(project.hookup),
        lambda: inspect_facts(project),
        lambda: inspect_assumed(project),
        lambda: inspect_sums(project.sums.values(), project.hookup, find),
        lambda: inspect_measured(project.checks, project.measured),
    ]


def _unread(project: Project) -> list[Note]:
    """Notes on fonts and pictures whose files cannot be read."""
    return [
        Note(
            FAULT,
            Step.GLASS,
            None,
            f"{'font' if key[0] == 'fonts' else 'picture'} {key[1]}: {said}",
            remedy="put the file there, or name another",
            place=(*key, "file"),
        )
        for key, said in project.unread.items()
    ]


def as_printed(project: Project, notes: Sequence[Note]) -> tuple[Note, ...]:
    """Notes in printed order, with equal ones gathered, and each remedy at its home."""
    return ordered(gathered([_at_home(project, note) for note in notes]))


def _at_home(project: Project, note: Note) -> Note:
    """A note whose remedy edits a value's home, where the value is taken from there."""
    if not any(mend.key in project.homes for mend in note.mend):
        return note
    mends = tuple(
        replace(mend, key=home.key)
        if mend.value is not None
        and (home := project.homes.get(mend.key)) is not None
        and home.same
        and value_at(project.tables, mend.key) is None
        else mend
        for mend in note.mend
    )
    return replace(note, mend=mends)


def _in_every_way(project: Project, channel: Channel, bench: Bench, today: date | None) -> list[Note]:
    """Notes on a channel and on its variants; those for several are given once."""
    found = _of_channel(project, channel, bench, today)
    for variant in channel.variants:
        for note in _of_channel(project.looking_at(variant), variant, bench, today):
            same = next((place for place, each in enumerate(found) if _say_the_same(each, note)), None)
            if same is not None:
                found[same] = replace(found[same], ways=(*found[same].ways, variant.variant))
                continue
            said = note.text.removeprefix(channel.name)
            named = f"{channel.name} {variant.variant}{said}" if said != note.text else note.text
            found.append(replace(note, text=named, ways=(variant.variant,)))
    return found


def _say_the_same(note: Note, other: Note) -> bool:
    return (note.mark, note.step, note.text, note.panel) == (other.mark, other.step, other.text, other.panel)


def _of_channel(project: Project, channel: Channel, bench: Bench, today: date | None) -> list[Note]:
    """Notes on one variant of a channel."""
    try:
        run = bench.run(project, channel)
    except LesartError as error:
        if channel.source in bench.views:
            # Why a line is not heard is a note on the line, as it is at that time.
            return []
        source = project.sources[channel.source]
        is_heard = source.line is not None and not source.capture
        remedy = "" if is_heard else "put the file there, or name another"
        return [Note(FAULT, Step.RAW, channel.name, str(error), remedy=remedy)]
    key = channel.key("true")
    notes = [*raw_notes(project, channel, run, bench), *_laws(project, channel, run, bench)]
    notes += _readings(channel, run, bench)
    notes += inspect_correction(channel.name, channel.correction, run.blocks[Step.LAW])
    notes += inspect_references(channel.name, channel.correction, channel.references, channel.residual_limit, key)
    notes += inspect_drift(channel.name, channel.adopted, channel.calibrations, channel.residual_limit, key)
    if today is not None:
        notes += inspect_age(channel.name, channel.references, channel.valid_d, today.toordinal(), key)
    return [*notes, *_filters(project, channel, run, bench), *_fields(project, channel, run, bench)]


def item_key(face: str, item: FieldItem, rule: str) -> Key:
    """The key of an item's own rule."""
    return ("faces", face, "items", item.index, rule)


def field_key(channel: Channel, face: str, item: FieldItem, rule: str) -> Key:
    """The key of a field's rule: at the item that has it, else at the channel or its variant."""
    if rule in item.own_keys:
        return item_key(face, item, rule)
    return (*channel.key("fit"), rule)


@dataclass(frozen=True)
class _Placed:
    """A field of a channel on a panel, and the keys of its rules."""

    face: str
    panel: Panel
    item: FieldItem
    channel: Channel

    def key(self, rule: str) -> Key:
        return field_key(self.channel, self.face, self.item, rule)

    def overflows(self, field: Field) -> bool:
        """True where some value of the channel's range would not fit such a field."""
        return not fits(field, self.channel.lowest, self.channel.highest, self.panel.joined)


def _fields(project: Project, channel: Channel, run: Run, bench: Bench) -> list[Note]:
    notes: list[Note] = []
    sure = sureness_in_the_middle(project, channel, bench)
    one = sure.one if sure else OneCount()
    placed = [
        _Placed(face.name, project.panels[face.panel], item, channel)
        for face in project.faces.values()
        for item in face.fields_of(channel.name)
    ]
    for each in placed:
        field, panel = each.item.field, each.panel.name
        found = inspect_field(
            channel.name,
            panel,
            field,
            each.key,
            lowest=channel.lowest,
            highest=channel.highest,
            one=one,
            per_minute=partial(_restless, bench, run.calm),
            joined=each.panel.joined,
        )
        found += _sure(channel, panel, field, each.key, sure)
        notes += [note if _harms_none(note, placed) else replace(note, mend=()) for note in found]
    if not project.panels_showing(channel.name):
        notes += inspect_fineness(channel.name, None, channel.field, partial(_own_rule, channel), one)
        if not any(channel.name in face.channels for face in project.faces.values()):
            said = f"{channel.name}: not shown on any panel."
            notes.append(Note(REMARK, Step.GLASS, channel.name, said, remedy="add a field to a face"))
    return notes


def _own_rule(channel: Channel, rule: str) -> Key:
    return (*channel.key("fit"), rule)


def _restless(bench: Bench, block: Block, field: Field) -> float:
    return bench.restless(field, block)


def _harms_none(note: Note, placed: Sequence[_Placed]) -> bool:
    """True where a mend harms no other field: a channel's rule is for all of its fields, and mending one may make
    another too narrow."""
    for each in placed:
        rules = dict(
            _as_field(str(mend.key[-1]), mend.value)
            for mend in note.mend
            if each.key(str(mend.key[-1])) == mend.key and mend.value is not None
        )
        if rules and each.overflows(replace(each.item.field, **rules)) and not each.overflows(each.item.field):
            return False
    return True


def _as_field(rule: str, value: Any) -> tuple[str, Any]:
    """The value of a rule in a field."""
    return ("unit_shown", parse_unit(value)) if rule == "unit" else (rule, value)


def _sure(channel: Channel, panel: str, field: Field, key: Callable[[str], Key], sure: Sureness | None) -> list[Note]:
    """A note where tolerances or references justify less than the last digit."""
    if sure is None or sure.off is None:
        return []
    by = "" if sure.is_corrected else sure.budget.of("tolerance").shares[0].name
    return inspect_sure(channel.name, panel, field, key, sure.off, by)


def _filters(project: Project, channel: Channel, run: Run, bench: Bench) -> list[Note]:
    """Notes on the filters, with their stated costs and rates."""
    before = run.blocks[Step.TRUE]

    def inspect() -> list[Note]:
        interval = filters_interval_s(project, bench, channel)
        lag = total_cost(channel.filters, interval).lag_s
        is_counts = channel.unit_raw.symbol == "ct"
        counts = bench.noise(run.blocks[Step.RAW]) if is_counts else 0.0
        filtered = Filtered(
            name=channel.name,
            key=channel.key("calm"),
            before=before,
            after=run.calm,
            interval_s=interval,
            lag_s=lag,
            most_lag_s=channel.most_lag_s,
            noise_counts=counts,
            is_counts=is_counts,
            unit=channel.unit,
            lowest=channel.lowest,
            highest=channel.highest,
        )
        behind = total_cost(channel.filters, interval).interval_s
        field = channel.field
        shown = 10.0**-field.decimals * float(field.unit_shown.scale / field.unit_in.scale)
        hum = inspect_hum(channel.name, run.calm, 1.0 / behind, shown) if behind > 0 else []
        return [*inspect_filters(filtered, channel.filters), *hum]

    alarms = [
        note
        for index, alarm in enumerate(channel.alarms)
        for note in bench.once_for(
            f"note on alarm {index}",
            channel,
            run.calm,
            partial(
                inspect_alarm,
                channel.name,
                (*channel.key("alarms"), index),
                alarm,
                run.calm,
                noise_behind_filters(project, channel, bench),
                channel.unit,
            ),
        )
    ]
    return [*bench.once_for("filters", channel, run.calm, inspect), *alarms]


def _laws(project: Project, channel: Channel, run: Run, bench: Bench) -> list[Note]:
    """Notes on the laws, with the channels they read fixed at the middle of the capture."""
    raw, key = run.blocks[Step.RAW], channel.key("law")

    def inspect() -> list[Note]:
        middle = float(raw.t[len(raw) // 2]) if len(raw) else 0.0
        chain = bench.standing(project, channel, middle).chain
        seen = Seen(channel.name, key, chain, raw, run.blocks[Step.LAW])
        found = inspect_laws(seen, channel.laws, channel.lowest, channel.highest)
        kinds = {name: [law.kind.name for law in each.laws] for name, each in project.channels.items()}
        found += inspect_air(channel.name, key, channel.laws, kinds)
        return [note for note in found if note.place is None or not _cancels(project, note.place)]

    begun = inspect_begun(channel.name, key, channel.chain, run.lost)
    return [*bench.once_for("laws", channel, run.blocks[Step.LAW], inspect), *begun]


def _cancels(project: Project, key: Key) -> bool:
    """True where a reference also feeds the divider before it: then its tolerance does not matter."""
    if key[-1] != "reference":
        return False
    home = project.homes.get(key)
    name = home.name if home is not None else ".".join(str(part) for part in key)
    return any(
        other != key and other[:-2] == key[:-2] and each.name == name and other[-1] == "supply"
        for other, each in project.homes.items()
    )


def _readings(channel: Channel, run: Run, bench: Bench) -> list[Note]:
    """Notes on impossible readings."""
    before = run.blocks[Step.TRUE]
    key: Key = ("channels", channel.name)
    seen = Ranged(
        name=channel.name,
        key=key,
        unit=channel.unit,
        lowest=channel.lowest,
        highest=channel.highest,
        before=before,
        calm=run.calm,
        filtered=lambda block: filtered(channel, block),
        named=f"{channel.name} {channel.column}",
        typed_unit=None if channel.laws else (*key, "raw_unit"),
        outside=channel.outside,
        goes_on=channel.chain.is_lasting(Step.LAW),
    )
    told = (seen.name, seen.unit, seen.lowest, seen.highest, seen.named, seen.typed_unit, seen.outside, seen.goes_on)
    what = ("range", *told)
    return bench.once_of(what, before, run.calm, compute=lambda: inspect_range(seen))
