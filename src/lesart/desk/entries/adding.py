"""The meaning of ``+``, ``delete``, ``K`` and ``J`` in the open step: a changed text, or an error that says why not."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from contextlib import suppress

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.pack.settings import OF_CHANNEL, SETTINGS
from lesart.core.quantity import listed
from lesart.core.step import Step
from lesart.desk.entries import chain, fit, raw, wire
from lesart.desk.entries.aloud.elsewhere import taken_elsewhere
from lesart.desk.entries.aloud.frame_values import says_bytes
from lesart.desk.entries.aloud.no_reading import no_reading_said
from lesart.desk.entries.aloud.packing import pack_said
from lesart.desk.entries.aloud.reckoned.tabled import (
    BY_LEVELS,
    POSITIONS_HOW,
    is_of_volts,
)
from lesart.desk.entries.aloud.sources import (
    column_called,
    early_said,
    rate_said,
    says_column,
    source_plainly,
    time_unit_said,
)
from lesart.desk.entries.at_pin import with_pin_said, without_pin
from lesart.desk.entries.calm import add_filter
from lesart.desk.entries.edit_result import Edited, Here, own_text
from lesart.desk.entries.frame_values import has_frames
from lesart.desk.entries.glass import leaves as glass
from lesart.desk.entries.laws.added_law import add_law, instead_of_law
from lesart.desk.entries.laws.of_volts import law_said, table_of_volts
from lesart.desk.entries.pace.tasks import add_task, take_task
from lesart.desk.entries.pace.traces import add_trace
from lesart.desk.entries.recipes.made import with_signal
from lesart.desk.entries.recipes.phrases.briefly import BRIEFLY, BY_FIGURES, OHM, said_briefly
from lesart.desk.entries.recipes.phrases.counts_said import as_named, counted
from lesart.desk.entries.recipes.which import is_signal, names_no_law, nearly_a_signal, with_article
from lesart.desk.entries.said.around import without_around
from lesart.desk.entries.said.modifiers import without_each_turn
from lesart.desk.entries.said.patterns import NO_UNIT
from lesart.desk.entries.true import at_cursor, calibrations
from lesart.desk.entries.true.said import add_reference
from lesart.desk.hand import raw_from_text
from lesart.desk.state import State
from lesart.project.tables.variants import with_own
from lesart.project.text import Editor
from lesart.study.bench import Bench

SAYS_WHAT_IT_IS = (Step.RAW, Step.LAW)
"""Steps in which a recipe can be typed."""


@dataclass(frozen=True)
class StepEntries:
    """The functions for ``+`` and ``delete`` in a step. Both raise a LesartError that says why not."""

    add: Callable[[Here, str], Edited]
    remove: Callable[[Here], Edited]


def added(here: Here, typed: str) -> Edited:
    """The text with an entry added in the open step: a part or a connection, a channel, a law, a filter, a reference at
    the cursor; or the chosen channel described in a line."""
    try:
        return _with_pin(here, typed)
    except LesartError as error:
        for line in without_around(typed):
            with suppress(LesartError):  # what is wrong is told of the line as it was typed
                return _with_pin(here, line)
        bare = _without_pin(here, typed) or typed
        # A line with a sign is in written form, and has its own sentence on what is wrong with it.
        is_said = here.state.step in SAYS_WHAT_IT_IS and not re.search("[<=]", bare)
        if is_said and (instead := instead_of_law(here, bare)):
            raise RequestError(instead) from error
        raise


def _with_pin(here: Here, typed: str) -> Edited:
    """A line, and where it is none as it stands, the signal that it says on a pin."""
    try:
        made = _added(here, typed)
    except LesartError:
        if not (bare := _without_pin(here, typed)):
            raise
        made = with_pin_said(here.editor, _added(here, bare), here.state.project, here.state.channel, typed)
    _check_turns(here, typed, made)
    return made


def _without_pin(here: Here, typed: str) -> str:
    return without_pin(typed) if here.state.step in SAYS_WHAT_IT_IS else ""


def _check_turns(here: Here, typed: str, made: Edited) -> None:
    """Raises RequestError for a word such as "inverted" without which the line would do the same: it was passed over as
    if it were part of a name."""
    if re.search("[<=]", typed):
        return
    for word, without in without_each_turn(typed):
        try:
            same = _added(here, without).text == made.text
        except LesartError:
            continue  # it has its meaning here
        if same:
            said = f'"{word}" changes nothing in "{typed.strip()}"'
            raise RequestError(f"{said}; leave it out, or add it as an entry of its own.")


def _added(here: Here, typed: str) -> Edited:
    if here.state.step in SAYS_WHAT_IT_IS:
        typed = as_named(typed, here.state.chosen.name)
    if here.state.step is Step.RAW and (of_raw := _of_raw_values(here, typed)) is not None:
        return of_raw
    if here.state.step is Step.RAW and (of_source := _of_source(here, typed)) is not None:
        return of_source
    brief = _brief(here, typed)
    unit_raw = here.state.chosen.unit_raw
    if brief and unit_raw.symbol in NO_UNIT:
        return _signal(here, brief, typed)
    by_line = not unit_raw.same_dimension(OHM)  # of a resistance few things are a line
    # 0.5 V = 0 bar of a column of volts is a line and no more; a sensor that is named has its own curve.
    if brief and any(map(unit_raw.same_dimension, BRIEFLY)) and not (by_line and BY_FIGURES.match(typed)):
        try:
            return _signal(here, brief, typed)
        except RequestError:
            # Bare numbers are in the channel's own unit: 0.5 = 0 %, 4.5 = 100 %.
            made = law_said(here, typed) if here.state.step is Step.LAW else None
            if made is None:
                raise
            return made
    if here.state.step is Step.LAW and unit_raw.symbol in NO_UNIT and not here.state.chosen.laws and is_of_volts(typed):
        return table_of_volts(here, typed)
    if here.state.step is Step.LAW and not _says_counts(here, typed) and (made := law_said(here, typed)) is not None:
        return made
    if brief:
        return _signal(here, brief, typed)
    if here.state.step in SAYS_WHAT_IT_IS and is_signal(typed) and not says_column(typed):
        return _signal(here, typed, typed)
    if here.state.step is Step.RAW and (plain := _source_plainly(here, typed)) is not None:
        return _add_channel(here, plain)
    if here.state.step is Step.LAW and names_no_law(typed) and is_signal(with_article(typed)):
        return _signal(here, with_article(typed), typed)
    try:
        if here.state.step in SAYS_WHAT_IT_IS and (near := nearly_a_signal(typed)):
            raise RequestError(f'"{typed.strip()}" is not anything Lesart knows; {near}')
        return _entries_of(here).add(here, typed)
    except LesartError as error:
        if _may_be_signal(here, typed) and is_signal(with_article(typed)):
            return _signal(here, with_article(typed), typed)
        elsewhere = taken_elsewhere(here.state, typed)
        if elsewhere:
            raise RequestError(elsewhere) from error
        raise


def _signal(here: Here, phrase: str, typed: str) -> Edited:
    """The recipe of a phrase, its parts joined at the pin that was typed."""
    if BY_LEVELS.search(typed):
        raise RequestError(f'"{typed.strip()}": {POSITIONS_HOW}.')
    made = with_signal(here.editor, here.state, here.bench, phrase, told=typed)
    return with_pin_said(here.editor, made, here.state.project, here.state.channel, typed)


def _may_be_signal(here: Here, typed: str) -> bool:
    """True for a line that may describe a signal where nothing else took it: in 2 Raw neither a column nor a law; in 3
    Law one that the law of that name does not take, as a load cell of 5 kg on integers, which is a bridge."""
    if here.state.step is Step.RAW:
        return names_no_law(typed) and not says_column(typed) and not re.search("[=<]", typed)
    return here.state.step is Step.LAW and re.search(r"\d", typed) is not None and not names_no_law(typed)


def _says_counts(here: Here, typed: str) -> bool:
    """True where it says what a count is worth, and counts are read. A pulse in milliseconds is something else."""
    return here.state.chosen.unit_raw.symbol in NO_UNIT and bool(counted(typed))


def _brief(here: Here, typed: str) -> str:
    """The recipe line for a signal described by figures alone, where it has no laws yet."""
    channel = here.state.chosen
    if here.state.step not in SAYS_WHAT_IT_IS or channel.laws or says_column(typed):
        return ""
    return said_briefly(typed, channel.unit_raw)


def removed(here: Here) -> Edited:
    """The text without the entry of the selected value."""
    return _entries_of(here).remove(here)


def _entries_of(here: Here) -> StepEntries:
    """The entries of the open step. Raises RequestError where it has none."""
    entries = ENTRIES.get(here.state.step)
    if entries is None:
        several = [f"{step.number} {step.shown}" for step in ENTRIES if step is not None]
        said = f"{listed(several)} have entries"
        raise RequestError(f"Nothing can be added or removed here; {said}.")
    return entries


# Wire


def _add_to_hookup(here: Here, typed: str) -> Edited:
    return wire.add_entry(here.editor, here.text, here.state.project, here.state.leaf_of(Step.WIRE), typed)


def _remove_from_hookup(here: Here) -> Edited:
    return wire.take_entry(here.editor, here.text, here.state.project, here.state.selected_at(Step.WIRE))


# Raw


def _add_channel(here: Here, typed: str) -> Edited:
    """Add a channel of the capture, another capture, or a line."""
    state, source = here.state, here.state.chosen.source
    capture = here.capture
    return raw.add_entry(here.editor, state.history.text, state.project, here.folder, capture, source, typed)


def _of_raw_values(here: Here, typed: str) -> Edited | None:
    """Add raw values that mean no reading, or a value of frames; None where it is neither.

    A column of the capture takes precedence, whatever its channel is called: ``error = 3``.
    """
    channel, capture = here.state.chosen, here.capture
    is_column = capture is not None and typed.partition("=")[2].strip() in capture.columns
    if not is_column and (none := no_reading_said(typed)) is not None:
        return raw.say_no_reading(here.editor, here.text, channel, [raw_from_text(channel, each) for each in none])
    if says_bytes(typed) and has_frames(here.state.project.sources[channel.source], capture):
        return _add_channel(here, typed)
    return None


def _of_source(here: Here, typed: str) -> Edited | None:
    """Add a column by its name, set the sample rate, or say which readings come too early; None where it is none of
    these."""
    if here.capture is not None and column_called(typed, here.capture.columns) is not None:
        return _add_channel(here, _source_plainly(here, typed) or typed)
    if (early := early_said(typed)) is not None:
        return raw.say_early(here.editor, here.text, here.state.chosen.source, *early)
    if unit := time_unit_said(typed):
        return raw.say_time_unit(here.editor, here.text, here.state.project, here.state.chosen.source, unit)
    rate = rate_said(typed)
    return raw.say_rate(here.editor, here.text, here.state.project, here.state.chosen.source, rate) if rate else None


def _source_plainly(here: Here, typed: str) -> str | None:
    """A spoken column, capture or line in its written form."""
    return source_plainly(typed, here.state.project, here.state.chosen.source, here.capture, here.folder)


def _remove_channel(here: Here) -> Edited:
    return raw.take_channel(here.editor, here.text, here.state.project, here.state.chosen)


# Law


def _remove_from_chain(here: Here) -> Edited:
    """Remove a law, a reference, a filter or an alarm."""
    state, selected = here.state, here.state.selected_at(here.state.step)
    text = own_text(here.editor, state, "alarms" if selected is not None and "alarms" in selected else "")
    return chain.take_away(here.editor, text, state.chosen, state.step, selected, state.project.hookup)


# True


def _remove_reference(here: Here) -> Edited:
    kept = calibrations.without_kept(here.editor, here.state)
    return kept if kept is not None else _remove_from_chain(here)


# Fit


def _none_to_remove() -> Edited:
    raise RequestError("A field always has all its rules; enter changes one, x makes it this field's own.")


# Pace


def _add_task(here: Here, typed: str) -> Edited:
    """Add a task; on the leaf of traces a trace."""
    add = add_trace if here.state.leaf_of(Step.PACE) == "trace" else add_task
    return add(here.editor, here.state, here.bench, typed)


# Pack


def _none_of_pack() -> Edited:
    raise RequestError("A pack always has all its values; enter changes one.")


def _say_pack(here: Here, typed: str) -> Edited:
    """Set values of the processor, and how the chosen channel is computed."""
    said = pack_said(typed, here.state.chosen.field)
    keys = {name: here.state.chosen.key("pack") if name == "computed" else ("pack",) for name in said}
    text = here.text
    for name, value in said.items():
        text = here.editor.with_value(text, (*keys[name], name), value)
    titles = {each.name: each.title for each in (*SETTINGS, *OF_CHANNEL)}
    shown = {True: "yes", False: "no"}
    told = (f"{titles[name]} {shown[value] if isinstance(value, bool) else value}" for name, value in said.items())
    last = list(said)[-1]
    return Edited(text, f"pack: {', '.join(told)}", (*keys[last], last))


ENTRIES: Mapping[Step | None, StepEntries] = {
    Step.WIRE: StepEntries(_add_to_hookup, _remove_from_hookup),
    Step.RAW: StepEntries(_add_channel, _remove_channel),
    Step.LAW: StepEntries(add_law, _remove_from_chain),
    Step.TRUE: StepEntries(add_reference, _remove_reference),
    Step.CALM: StepEntries(add_filter, _remove_from_chain),
    Step.FIT: StepEntries(
        lambda here, typed: fit.add_rules(here.editor, here.state, typed), lambda here: _none_to_remove()
    ),
    Step.GLASS: StepEntries(
        lambda here, typed: glass.add_entry(here.editor, here.state, typed, here.folder),
        lambda here: glass.take_entry(here.editor, here.state),
    ),
    Step.PACE: StepEntries(_add_task, lambda here: take_task(here.editor, here.state)),
    Step.PACK: StepEntries(_say_pack, lambda here: _none_of_pack()),
}
"""Steps that have entries."""


def tared(editor: Editor, state: State, bench: Bench) -> Edited:
    """The text with the chosen channel's reading at the cursor tared to zero."""
    corrected = bench.run(state.project, state.chosen).blocks[Step.TRUE]
    text = with_own(editor, state.history.text, state.chosen.key("true"))
    return at_cursor.tared(editor, text, state.chosen, corrected, state.cursor_s)


def moved(editor: Editor, state: State, by: int) -> Edited:
    """The text with the law or filter of the selected value moved up or down."""
    text, hookup, selected = own_text(editor, state), state.project.hookup, state.selected_at(state.step)
    return chain.moved(editor, text, state.chosen, state.step, selected, by, hookup)
