"""What ``+``, ``delete``, ``K`` and ``J`` mean in the open step: a changed text, or an error that says why not."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from lesart.core.errors import LesartError
from lesart.core.quantity import clock
from lesart.core.step import Step
from lesart.desk.entries import calibrations, chain, glass, pace, raw, references, wire
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.proposed_filters import proposed
from lesart.desk.entries.table_points import points_from
from lesart.desk.state import State
from lesart.project.tables.variants import with_own
from lesart.project.text import Editor
from lesart.study.bench import Bench


def added(editor: Editor, state: State, bench: Bench, folder: Path, typed: str) -> Edited:
    """An entry more: a part or a connection, a channel, a law, a filter, a reference at the cursor."""
    text, project, channel = (
        _own(editor, state, "alarms" if typed.startswith("alarm ") else ""),
        state.project,
        state.chosen,
    )
    if state.step == Step.WIRE:
        return wire.add_entry(editor, text, project, state.leaf_of(Step.WIRE), typed)
    if state.step == Step.RAW:
        return _added_in_raw(editor, state, bench, folder, typed)
    if state.step == Step.LAW:
        values = None
        if "<" in typed:
            typed, _, what = (part.strip() for part in typed.partition("<"))
            values = points_from(what, typed, project, channel, bench, folder)
            typed = f"{typed} {values['to']}" if typed == "table" else typed
        return chain.add_law(editor, text, channel, typed, project.hookup.parts, values, _beside(state, bench))
    if state.step == Step.CALM and typed.startswith("alarm "):
        return chain.add_alarm(editor, text, channel, typed.removeprefix("alarm "))
    if state.step == Step.CALM and typed.startswith("noise "):
        return proposed(editor, text, state, bench, typed.removeprefix("noise "))
    if state.step == Step.CALM:
        interval_s = bench.timing(bench.run(project, channel).blocks[Step.TRUE]).interval_s
        return chain.add_filter(editor, text, channel, typed, interval_s)
    if state.step == Step.GLASS:
        return glass.add_entry(editor, state, typed, folder)
    if state.step == Step.PACE:
        if state.leaf_of(Step.PACE) == "trace":
            return pace.add_trace(editor, state, bench, typed)
        return pace.add_task(editor, state, bench, typed)
    if state.step == Step.TRUE and state.leaf_of(Step.TRUE) == calibrations.LEAF:
        return calibrations.put_away(editor, state, typed)
    chain.list_of(state.step, channel)
    if references.are_pairs(typed):
        return references.add_pairs(editor, text, channel, typed, folder, f"{date.today():%Y-%m-%d}")
    indicated = bench.run(project, channel).blocks[Step.LAW]
    moment = clock(state.cursor_s).partition(".")[0]
    return chain.add_reference(
        editor, text, channel, typed, indicated, state.cursor_s, moment, f"{date.today():%Y-%m-%d}"
    )


_SECTIONS: dict[Step | None, str] = {Step.LAW: "law", Step.TRUE: "true", Step.CALM: "calm"}


def _own(editor: Editor, state: State, section: str = "") -> str:
    """The text in which the section of the open step stands for itself, where a variant is looked at."""
    text, channel = state.history.text, state.chosen
    section = section or _SECTIONS.get(state.step, "")
    if not channel.variant or not section:
        return text
    return with_own(editor, text, channel.key(section))


def _beside(state: State, bench: Bench) -> dict[str, float]:
    """What the channels that the chosen one's laws read say at the cursor; nothing of one that cannot be read."""
    readings: dict[str, float] = {}
    for name in state.chosen.chain.reads:
        try:
            readings |= bench.readings_at(state.project, [name], state.cursor_s)
        except LesartError:
            continue
    return readings


def _added_in_raw(editor: Editor, state: State, bench: Bench, folder: Path, typed: str) -> Edited:
    """Another channel of the capture, another capture, or a line."""
    source = state.chosen.source
    try:
        capture = bench.capture(state.project.sources[source])
    except LesartError:
        capture = None
    return raw.add_entry(editor, state.history.text, state.project, folder, capture, source, typed)


def taken_away(editor: Editor, state: State) -> Edited:
    """Without the entry that the selected value belongs to."""
    project, selected = state.project, state.selected_at(state.step)
    text = _own(editor, state, "alarms" if selected is not None and "alarms" in selected else "")
    if state.step == Step.WIRE:
        return wire.take_entry(editor, text, project, selected)
    if state.step == Step.RAW:
        return raw.take_channel(editor, text, project, state.chosen)
    if state.step == Step.GLASS:
        return glass.take_entry(editor, state)
    if state.step == Step.PACE:
        return pace.take_task(editor, state)
    if state.step == Step.TRUE and (left := calibrations.without_kept(editor, state)) is not None:
        return left
    return chain.take_away(editor, text, state.chosen, state.step, selected, project.hookup.parts)


def tared(editor: Editor, state: State, bench: Bench) -> Edited:
    """What the chosen channel reads at the cursor becomes nothing."""
    corrected = bench.run(state.project, state.chosen).blocks[Step.TRUE]
    text = with_own(editor, state.history.text, state.chosen.key("true"))
    return chain.tare(editor, text, state.chosen, corrected, state.cursor_s)


def moved(editor: Editor, state: State, by: int) -> Edited:
    """The law or filter that the selected value belongs to, up or down among the others."""
    text, parts, selected = _own(editor, state), state.project.hookup.parts, state.selected_at(state.step)
    return chain.moved(editor, text, state.chosen, state.step, selected, by, parts)
