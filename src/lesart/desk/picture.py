"""The picture: everything on the screen, made from state and bench in one go."""

from __future__ import annotations

import math
import textwrap
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime

from lesart.core.block import mark_word
from lesart.core.errors import LesartError
from lesart.core.fit.field import Reading
from lesart.core.fit.fill import fill
from lesart.core.fit.rounding import rounded
from lesart.core.glass.faces.face import compose, face_at
from lesart.core.glass.panels.panel import Memory
from lesart.core.notes import Key
from lesart.core.quantity import beside_unit, clock, counted, format_quantity, grouped, rate_said
from lesart.core.step import COMPUTED, Step
from lesart.desk.desk import Desk
from lesart.desk.entries.offered_values import offers_of_value
from lesart.desk.hand import follow, value_after
from lesart.desk.in_front import looked_at
from lesart.desk.note_rows import note_rows
from lesart.desk.state import State
from lesart.desk.thread import thread_of
from lesart.desk.workspace import workspace_of
from lesart.desk.workspace.context import Context, number
from lesart.project.model import Channel
from lesart.project.naming import NOUNS
from lesart.project.tables.variants import FIRST
from lesart.study.alarms import with_alarms
from lesart.study.bench import Bench
from lesart.study.glass import all_glasses
from lesart.study.past_readings import wanted_of, with_past
from lesart.study.redraws import memories
from lesart.study.run import Haste, Run
from lesart.study.texts import texts_at
from lesart.study.views import ChannelRow, Glass, Line, Picture, Span, Workspace, numeral

VARIANT_WIDTH = 20
"""Columns of the margin for a variant's description."""


def context_of(desk: Desk, *, wait_for_notes: bool = True, wait_for_others: bool = True) -> Context:
    """What workspaces and thread are built from; with the notes at hand when new ones need not be waited for.

    Where others need not be waited for, channels whose capture is not read yet stand empty.
    """
    state, bench = desk.shown, desk.bench
    found = _computed(desk, wait_for_others=wait_for_others)
    at = found.at
    if state.hand is not None:
        at[state.channel] = _in_hand(bench, state)
    _add_alarms_and_past(desk, state, found)
    live_now = datetime.now() if desk.live is not None else None
    texts = texts_at(state.seen.faces.values(), state.cursor_s, live_now)
    glasses = _glasses(bench, state, {name: steps[Step.CALM] for name, steps in at.items()} | texts)
    surveys = desk.surveys.by_source
    return Context(
        state=state,
        bench=bench,
        run=found.runs.get(state.channel),
        problem=found.problem,
        view=desk.view(),
        at=at,
        texts=texts,
        glasses=glasses,
        notes_of=(lambda: desk.notes) if wait_for_notes else (lambda: desk.last_notes),
        surveys=surveys,
        waiting=frozenset(found.waiting),
        packing=desk.packing,
        in_haste=not wait_for_notes and not desk.notes_are_fresh,
    )


@dataclass
class _Computed:
    """Readings at the cursor by channel and step, the computed runs, what is wrong with the chosen one, and channels
    whose capture is still being read."""

    at: dict[str, dict[Step, Reading]] = field(default_factory=dict)
    runs: dict[str, Run] = field(default_factory=dict)
    problem: str = ""
    waiting: set[str] = field(default_factory=set)


def _computed(desk: Desk, *, wait_for_others: bool) -> _Computed:
    """Compute every channel, the chosen one as its variant in front."""
    state, found = desk.shown, _Computed()
    nothing = Reading(math.nan, age_s=math.inf)
    for channel in (_looked_at(state, each) for each in state.project.channels.values()):
        can_wait = not wait_for_others and channel.name != state.channel
        if can_wait and not _is_at_hand(desk, channel):
            found.at[channel.name] = dict.fromkeys(COMPUTED, nothing)
            found.waiting.add(channel.name)
            continue
        try:
            run = desk.bench.run(state.project, channel)
        except LesartError as error:
            found.at[channel.name] = dict.fromkeys(COMPUTED, nothing)
            found.problem = str(error) if channel.name == state.channel else found.problem
            continue
        found.runs[channel.name] = run
        cursor_s = _cursor_of(desk, state, channel)
        found.at[channel.name] = {step: run.reading_at(step, cursor_s) for step in COMPUTED}
    return found


def _in_hand(bench: Bench, state: State) -> dict[Step, Reading]:
    """The value in hand at each step, with the alarms it trips."""
    assert state.hand is not None
    followed = follow(state.project, _standing(bench, state), state.hand).steps
    values = {step: value_after(followed, step) for step in COMPUTED}
    at = {step: Reading(value.value, value.mark_flags) for step, value in values.items()}
    beyond = tuple(alarm.name for alarm in state.chosen.alarms if alarm.is_beyond(values[Step.CALM].value))
    at[Step.CALM] = replace(at[Step.CALM], alarms=beyond)
    return at


def _add_alarms_and_past(desk: Desk, state: State, found: _Computed) -> None:
    """Add active alarms, and earlier readings for trends, to the readings for the glass."""
    at, wanted = found.at, wanted_of(state.seen.faces.values())
    for name, run in found.runs.items():
        channel = state.chosen if name == state.channel else state.project.channels[name]
        if channel.alarms and (state.hand is None or name != state.channel):
            cursor_s = _cursor_of(desk, state, channel)
            at[name][Step.CALM] = with_alarms(desk.bench, channel, run, at[name][Step.CALM], cursor_s)
        if name in wanted:
            cursor_s = _cursor_of(desk, state, _looked_at(state, state.project.channels[name]))
            at[name][Step.CALM] = with_past(at[name][Step.CALM], run, cursor_s, wanted[name])


def _glasses(bench: Bench, state: State, shown: Mapping[str, Reading]) -> tuple[Glass, ...]:
    """All panels as lit; one without a face shows what its trace has drawn."""
    kept = memories(state.seen, bench, state.chosen, state.cursor_s) if state.hand is None else {}
    glasses = all_glasses(
        state.seen,
        shown,
        state.panel,
        state.cursor_s,
        kept,
        behind=state.glass.from_behind,
        channel=state.channel,
    )
    if any(not state.seen.faces_on(name) for name in state.seen.traces):
        from lesart.study.wires.last_picture import with_traced  # not for the first picture of most projects

        glasses = with_traced(state.seen, bench, glasses, state.cursor_s)
    return glasses


def memory_at(desk: Desk, panel: str) -> Memory:
    """A panel's memory at the cursor, as written by its face. Raises CaptureError."""
    context = context_of(desk)
    state, project = context.state, context.project
    faces, on = project.faces_on(panel), project.panels[panel]
    if not faces:
        return on.blank()
    face, since_s = face_at(faces, state.cursor_s)
    kept = memories(project, desk.bench, state.chosen, state.cursor_s)
    return compose(face, on, context.readings, kept.get(panel), since_s).memory


def _looked_at(state: State, channel: Channel) -> Channel:
    """The project with the variant looked at in place of its channel, down to the glass."""
    return state.chosen if channel.name == state.channel else channel


def _standing(bench: Bench, state: State) -> Channel:
    """The chosen channel with the channels that it reads fixed; without values where they cannot be read."""
    try:
        return bench.standing(state.project, bench.as_computed(state.seen, state.chosen), state.cursor_s)
    except LesartError:
        return state.chosen


def _is_at_hand(desk: Desk, channel: Channel) -> bool:
    """Are its capture and those of the channels it reads read already?"""
    project = desk.state.project
    needed = (channel, *(project.channels[name] for name in channel.chain.reads))
    return all(desk.bench.has(project.sources[each.source]) for each in needed)


def _cursor_of(desk: Desk, state: State, channel: Channel) -> float:
    """The cursor of a channel: now for one whose line is followed, else the common cursor."""
    view = desk.bench.views.get(channel.source)
    if view is not None and view.listening and state.following:
        return view.state.now_s
    return desk.state.cursor_s if channel.name != state.channel else state.cursor_s


def look(
    desk: Desk, *, wait_for_notes: bool = True, wait_for_others: bool = True, wait_for_all: bool = True
) -> Picture:
    """The picture of this moment, with what lines say now; what it selects is selected from then on.

    Where all samples of a long capture need not be waited for, what is not looked at is left out, and the bench says
    so.
    """
    desk.hear()
    desk.bench.left_out = False
    desk.bench.haste = None if wait_for_all else Haste(desk.state.cursor_s, desk.view())
    try:
        picture = picture_of(desk, wait_for_notes=wait_for_notes, wait_for_others=wait_for_others)
    finally:
        desk.bench.haste = None
    desk.saw(tuple(edit.key for edit in picture.workspace.edits), picture.workspace.selected)
    return replace(picture, preview=desk.trial)


def workspace_now(desk: Desk) -> Workspace:
    """The workspace of the open step, without the rest of the picture. Changes nothing."""
    return _workspace(desk, context_of(desk))


def _workspace(desk: Desk, context: Context) -> Workspace:
    state = desk.shown
    shown = replace(_with_selection(workspace_of(state.step, context), state), offers=state.offers)
    return _with_choices(desk, shown)


def picture_of(desk: Desk, *, wait_for_notes: bool = True, wait_for_others: bool = True) -> Picture:
    """The present picture. Changes nothing."""
    context = context_of(desk, wait_for_notes=wait_for_notes, wait_for_others=wait_for_others)
    state, project = desk.shown, desk.state.project
    capture, playing, rate = _source_said(desk, context)
    hand = "" if state.hand is None else f"hand {format_quantity(state.hand, state.chosen.unit_raw, 9)}"
    return Picture(
        project=project.name,
        channel=state.channel,
        capture=capture,
        cursor=clock(state.cursor_s),
        playing=playing,
        rate=rate,
        unsaved=state.unsaved,
        hand=hand,
        thread=thread_of(context),
        channels=tuple(_channel_row(context, name) for name in project.channels),
        variants=_variants(context),
        workspace=_workspace(desk, context),
        glass=context.glasses,
        notes=tuple(note_rows(context)),
        notes_of=state.step.shown if state.notes_here and state.step is not None else "",
        message=state.message,
        message_is_fault=state.message_is_fault,
        faults=state.faults,
        asks=state.asks,
        is_playing=state.replay.playing,
        notes_are_fresh=desk.notes_are_fresh,
        variant=state.chosen.variant,
        looked_at=_named(state),
    )


def _source_said(desk: Desk, context: Context) -> tuple[str, str, str]:
    """The source in the title: capture, how it is played or followed, how long it is."""
    source, live = context.project.sources[context.channel.source], desk.live
    if live is not None:
        rows = counted(live.state.tally.rows, "row")
        rate = f"{number(live.state.rate_hz, 'Hz', 3)}  {rows}"
        how = "▶ live" if desk.state.following else "‖ held"
        how += "  ● recording" if live.state.recorded is not None else ""
        return source.line.says if source.line else "", how, rate
    rate, replay = "", desk.state.replay
    if context.run is not None:
        timing = desk.bench.timing(context.run.blocks[Step.RAW])
        assumed = " assumed" if context.project.assumes_rate(source.name) else ""
        rate = f"{rate_said(timing.rate_hz, 3)}{assumed}  {counted(timing.samples, 'sample')}"
    playing = f"▶ ×{replay.speed:g}" if replay.playing else f"‖ ×{replay.speed:g}"
    return source.capture.rpartition("/")[2] or "no capture", playing, rate


def _with_selection(workspace: Workspace, state: State) -> Workspace:
    """The workspace with its selection: the one remembered, or the first value there is."""
    keys = [edit.key for edit in workspace.edits]
    remembered = state.selected_at(state.step)
    return replace(workspace, selected=remembered if remembered in keys else (keys[0] if keys else None))


def _with_choices(desk: Desk, workspace: Workspace) -> Workspace:
    """The workspace with the choices of the selected value."""
    if workspace.selected is None:
        return workspace
    return replace(workspace, choices=offers_of_value(desk.state.project, desk.folder, workspace.selected))


def _values_in_sight(desk: Desk) -> tuple[Key, ...]:
    """Values of the picture on the screen; of a new one only where keys come faster than pictures."""
    if desk.has_moved_on:
        look(desk, wait_for_notes=False)
    return desk.values


def nudge_value(desk: Desk, direction: int) -> None:
    """Step the selected value; the first one, where keys come faster than pictures."""
    if desk.state.selected_at(desk.state.step) is None:
        _values_in_sight(desk)
    desk.nudge(direction)


def move_value(desk: Desk, by: int) -> None:
    """Select the next value of the open step, or an earlier one, in reading order."""
    keys, selected = _values_in_sight(desk), desk.state.selected_at(desk.state.step)
    if selected in keys:
        desk.select(keys[(keys.index(selected) + by) % len(keys)])


def _channel_row(context: Context, name: str) -> ChannelRow:
    channel = context.project.channels[name]
    reading = context.readings[name]
    marks = " ".join(numeral(index) for index, note in enumerate(context.notes, 1) if name in note.channels)
    if name in context.waiting:
        return ChannelRow(name, "…", marks, name == context.channel.name, "faint")
    if reading.age_s == math.inf:
        return ChannelRow(name, "no capture", marks, name == context.channel.name, "rubric")
    shown = fill(channel.field, reading)
    if shown.state == "value":
        return ChannelRow(name, shown_reading(channel, reading), marks, name == context.channel.name)
    word = mark_word(reading.mark) or shown.state
    return ChannelRow(name, word, marks, name == context.channel.name, "rubric")


def shown_reading(channel: Channel, reading: Reading) -> str:
    """A reading rounded like its field, with its unit; the name of its mark where it has no value."""
    if not math.isfinite(reading.value):
        return mark_word(reading.mark) or "no value"
    field = channel.field
    value = rounded(field.shown_value(reading.value), field.decimals, field.round)
    return beside_unit(grouped(f"{value:f}").replace("-", "−"), str(field.unit_shown))


def _variants(context: Context) -> tuple[Line, ...]:
    """Each variant of the channel: what it does, on as many lines as needed, and its reading at the cursor."""
    base = context.project.channels[context.state.channel]
    lines: list[Line] = []
    for each in (base, *base.variants):
        chosen = each.variant == context.channel.variant
        first, *more = textwrap.wrap(each.says, VARIANT_WIDTH)
        mark = Span("● " if chosen else "○ ", "verdigris" if chosen else "faint")
        lines += [
            (mark, Span(f"{each.variant or FIRST} ", "ochre"), Span(first)),
            *((Span(f"    {rest}"),) for rest in more),
        ]
        if base.variants:
            lines.append((Span(f"    {_reading_of(context, each)}", "ochre" if chosen else "faint"),))
    return tuple(lines)


def _reading_of(context: Context, channel: Channel) -> str:
    """A reading as its field would write it, with its unit."""
    try:
        reading = context.bench.run(context.project, channel).reading_at(Step.CALM, context.state.cursor_s)
    except LesartError:
        return "no capture"
    return shown_reading(channel, reading)


def _named(state: State) -> str:
    """``channel lid air``."""
    try:
        group, name = looked_at(state)
    except LesartError:
        return ""
    return f"{NOUNS.get(group, 'variant')} {name}"
