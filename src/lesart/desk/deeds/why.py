"""Asking why a reading is wrong: taking in true values, and writing the change of an answer."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.errors import LesartError, RequestError
from lesart.core.parameters import shown
from lesart.core.quantity import counted, whole_number
from lesart.core.step import Step
from lesart.desk.entries.aloud.parts import part_meant
from lesart.desk.entries.aloud.whys import seen_otherwise, symptom_plainly, truth_plainly
from lesart.desk.entries.edit_result import Edited
from lesart.desk.hand import follow
from lesart.desk.state import State, WhyLook
from lesart.project.tables.variants import with_own

if TYPE_CHECKING:
    from lesart.desk.desk import Desk
    from lesart.project.model import Channel, Project
    from lesart.study.bench import Bench

LEAF = "why"


def ask_why(desk: Desk, typed: str) -> None:
    """Take in what the channel should read at the cursor, or by hand; an empty text forgets all of it."""
    from lesart.study.why.asked import asked_truth

    other = {Step.GLASS: pick_look, Step.WIRE: name_part, Step.PACE: name_symptom}.get(desk.state.step or Step.TRUE)
    if other is not None:
        other(desk, typed)
        return
    state, channel = desk.state, desk.state.chosen
    asked = state.why if state.why.is_of(channel) else WhyLook(channel.name, channel.variant)
    if not typed.strip():
        desk.turn(
            lambda state: _turned(state, WhyLook(channel.name, channel.variant)).says(
                "What it should read is forgotten."
            )
        )
        return
    try:
        now = reading_now(state.seen, desk.bench, channel, at_s=desk.shown.cursor_s, raw=state.hand)
        said = truth_plainly(typed, channel.unit, now)
        if said == typed and (how := seen_otherwise(typed, channel.unit)):
            raise RequestError(f'"{typed.strip()}": {how}.')
        truth = asked_truth(state.seen, desk.bench, channel, said, at_s=desk.shown.cursor_s, raw=state.hand)
    except LesartError as error:
        desk.say(str(error), fault=True)
        return
    truths = (*asked.truths, truth)
    more = "one more would narrow it down; " if len(truths) == 1 else ""
    taken = "" if said == typed else f", {said}"
    said = f"{counted(len(truths), 'truth')} about {channel.name}{taken}; {more}y with nothing typed starts over."
    desk.turn(lambda state: _turned(state, replace(asked, truths=truths)).says(said))


def reading_now(
    project: Project, bench: Bench, channel: Channel, *, at_s: float = math.inf, raw: float | None = None
) -> float | None:
    """The channel's reading before filters, at a time of its capture or for a raw value; None for none."""
    if raw is not None:
        found = follow(project, channel, raw).reading.value
    else:
        try:
            found = bench.run(project, channel).reading_at(Step.TRUE, at_s).value
        except LesartError:
            return None
    return found if math.isfinite(found) else None


def _turned(state: State, why: WhyLook) -> State:
    return replace(state, step=Step.TRUE, why=why).turned_to(Step.TRUE, LEAF)


def name_part(desk: Desk, typed: str) -> None:
    """Take in the silent part, or its channel; an empty text means that of the channel looked at."""
    try:
        part = part_meant(typed, desk.state.project) if typed.strip() else ""
    except RequestError as error:
        desk.say(str(error), fault=True)
        return
    desk.turn(lambda state: replace(state, why=replace(state.why, part=part)).turned_to(Step.WIRE, LEAF).says(""))


def name_symptom(desk: Desk, typed: str) -> None:
    """Take in the symptom of the loop."""
    from lesart.study.why.of_time import SYMPTOMS

    symptom = symptom_plainly(typed) if typed.strip() else ""
    if symptom and symptom not in SYMPTOMS:
        desk.say(f'"{typed}" is not a symptom; it is one of {", ".join(SYMPTOMS)}.', fault=True)
        return
    desk.turn(lambda state: replace(state, why=replace(state.why, symptom=symptom)).turned_to(Step.PACE, LEAF).says(""))


def write_time(desk: Desk) -> None:
    """Write the selected change, or the first that meets the figure."""
    from lesart.desk.picture import context_of
    from lesart.desk.workspace.pace.why import times_here

    context = context_of(desk)

    def find() -> Edited:
        found = times_here(context) if context.state.why.symptom else None
        if not found or isinstance(found, str):
            raise RequestError("Nothing is asked yet; y says what you see.")
        mends = [one.suspect for each in found for one in each.mends]
        selected = desk.state.selected_at(Step.PACE)
        chosen = next((each for each in mends if each.edits[0][0] == selected), mends[0] if mends else None)
        if chosen is None:
            raise RequestError("No change of this project does it alone.")
        text = desk.state.history.text
        for key, value in chosen.edits:
            text = desk.editor.with_value(text, key, value)
        return Edited(text, f"written: {chosen.says}")

    desk.change(find)


def pick_look(desk: Desk, typed: str) -> None:
    """Take in which look is seen on the panel in front; an empty text starts the questions again."""
    from lesart.desk.picture import context_of
    from lesart.desk.workspace.glass.why import asked_here, faces_now

    context = context_of(desk)
    if not context.glasses:
        desk.say("There is no panel yet; + on the leaf of panels makes one.", fault=True)
        return
    panel = context.project.panels[context.glasses[0].name]
    before = desk.state.why
    picks = before.picks if before.panel == panel.name else ()
    faces = before.faces if picks else tuple(faces_now(context, panel).items())
    is_there = desk.state.leaf_of(Step.GLASS) == LEAF
    if typed.strip() and is_there:
        question = asked_here(context, panel).question
        most = len(question.looks) if question is not None else 0
        least = 0 if question is not None and question.others else 1
        pick = whole_number(typed)
        if pick is None or not least <= pick <= most:
            would = f"a number from {least} to {most}" if most else "nothing: it is answered, and y begins again"
            desk.say(f"{shown(typed)} is not one of these looks; type {would}.", fault=True)
            return
        picks = (*picks, pick)
    else:
        picks, faces = (), tuple(faces_now(context, panel).items())
    look = replace(before, panel=panel.name, picks=picks, faces=faces)
    desk.turn(lambda state: replace(state, why=look).turned_to(Step.GLASS, LEAF).says(""))


def write_look(desk: Desk) -> None:
    """Write the change that makes the project match what is seen."""
    from lesart.desk.picture import context_of
    from lesart.desk.workspace.glass.why import asked_here

    context = context_of(desk)
    panel = context.project.panels[context.glasses[0].name] if context.glasses else None

    def find() -> Edited:
        found = None if panel is None else asked_here(context, panel)
        if found is None or found.question is not None or not found.left:
            raise RequestError("It is not answered yet; y says which look you see.")
        chosen = next((each for each in found.left if each.edits), None)
        if chosen is None:
            raise RequestError(f"The project has no place for it; {found.left[0].remedy}.")
        text = desk.state.history.text
        for key, value in chosen.edits:
            text = desk.editor.with_value(text, key, value)
        return Edited(text, f"written: {chosen.says}")

    desk.change(find)


def write_answer(desk: Desk) -> None:
    """Write the change of the selected answer, or of the first one that has any."""
    from lesart.desk.picture import context_of
    from lesart.desk.workspace.true.why import why_here

    found = why_here(context_of(desk))

    def find() -> Edited:
        if found is None or isinstance(found, str):
            raise RequestError("Nothing is asked yet; y says what it should read.")
        selected = desk.state.selected_at(Step.TRUE)
        written = [answer.explanation for answer in found.answers if answer.explanation.edits]
        chosen = next((each for each in written if selected in dict(each.edits)), written[0] if written else None)
        if chosen is None:
            raise RequestError("No answer is a change of this project; it is the firmware that has to be mended.")
        text = desk.state.history.text
        for key, value in chosen.edits:
            text = desk.editor.with_value(with_own(desk.editor, text, key), key, value)
        said = ", ".join(f"{each.what} {each.would}".rstrip() for each in chosen.suspects if each.edits)
        return Edited(text, f"written: {said}")

    desk.change(find)
