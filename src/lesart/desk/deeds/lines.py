"""Deeds with live lines: listen and leave, record and stop; for the chosen channel's source, or for all of them."""

from __future__ import annotations

from datetime import datetime

from lesart.core.errors import LesartError
from lesart.core.quantity import counted, grouped, listed
from lesart.core.raw.source import Source
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.live.record_file import Recorded
from lesart.project.text import Editor

HOW = "+ in 2 Raw makes one: name < text line PORT"


def toggle_listening(desk: Desk) -> None:
    """Listen to the chosen channel's line, or leave it; a file whose reading was stopped is read again."""
    if desk.bench.stopped.pop(desk.state.project.sources[desk.state.chosen.source], None):
        desk.forget_notes()
        desk.say("")
        return
    source = _source_with_line(desk)
    if source is None:
        return
    if desk.lines.listening(source.name):
        desk.say(_left(source, desk.lines.leave(source.name)))
    else:
        if not _begin(desk, [source]):
            return
        desk.say(f"Listening to {source.name}; o leaves it, r records, space holds.")
    desk.forget_notes()


def toggle_all(desk: Desk) -> None:
    """Listen to every line; leave all of them where all are listened to."""
    sources = [source for source in desk.state.project.sources.values() if source.line is not None]
    if not sources:
        desk.say(f"No source has a line to listen to; {HOW}.")
        return
    if all(desk.lines.listening(source.name) for source in sources):
        desk.lines.close()
        desk.say(f"Left {counted(len(sources), 'line')}.")
    else:
        if not _begin(desk, sources):
            return
        desk.say(f"Listening to {listed([source.name for source in sources])}; O leaves them.")
    desk.forget_notes()


def _begin(desk: Desk, sources: list[Source]) -> bool:
    """Listen to some lines; False, with a sentence, where that fails."""
    try:
        for source in sources:
            desk.lines.listen(source)
    except LesartError as error:
        desk.say(str(error), fault=True)
        return False
    desk.follow()
    return True


def toggle_survey(desk: Desk) -> None:
    """Ask who answers on the chosen channel's Modbus line, or on the first one; again to stop."""
    sources = [each for each in desk.state.project.sources.values() if each.line and each.line.kind.is_modbus]
    chosen = [each for each in sources if each.name == desk.state.chosen.source]
    if not sources:
        desk.say(
            "No source asks over Modbus, so no device can be asked; a trace of a two-wire bus is judged by itself."
        )
        return
    source = (chosen or sources)[0]
    under_way = desk.surveys.by_source.get(source.name)
    if under_way is not None and under_way.is_running:
        under_way.stop()
        desk.say(f"Stopped asking on {source.name}.")
    elif desk.lines.listening(source.name):
        desk.say(f"{source.name} is being listened to, and only one can ask at a time; o leaves it.", fault=True)
    else:
        desk.lines.with_rig_started()
        desk.surveys.begin(source)
        desk.open_step(Step.WIRE)
        desk.choose_leaf("bring-up")
        desk.say(f"Asking units 1 to 247 on {source.name}; u stops it.")


def toggle_recording(desk: Desk, now: datetime) -> None:
    """Record the chosen channel's line into a new capture, or end that."""
    source = _source_with_line(desk)
    if source is None:
        return
    if desk.lines.recording(source.name):
        recorded = desk.lines.stop_recording(source.name)
        desk.say(_said(source, recorded))
        return
    try:
        name = desk.lines.record(source, now)
    except LesartError as error:
        desk.say(str(error), fault=True)
        return
    desk.follow()
    text = Editor().with_value(desk.state.history.text, ("sources", source.name, "capture"), name)
    desk.change(lambda: Edited(text, f"recording {source.name} into {name}; r ends it"))


def _source_with_line(desk: Desk) -> Source | None:
    source = desk.state.project.sources[desk.state.chosen.source]
    if source.line is None:
        desk.say(f"{desk.state.channel} comes from a file, {source.capture}, and has no line to listen to; {HOW}.")
        return None
    return source


def _left(source: Source, recorded: Recorded | None) -> str:
    if recorded is None:
        return f"Left {source.name}. What came was not recorded; it can be looked at until you listen again."
    return f"Left {source.name}. {_said(source, recorded)}"


def _said(source: Source, recorded: Recorded | None) -> str:
    if recorded is None or not recorded.rows:
        return f"Nothing came from {source.name}, so no file was made; ctrl+z takes its name back."
    lost = f", {grouped(str(recorded.lost))} lost ({recorded.trouble})" if recorded.lost else ""
    rows = counted(recorded.rows, "row")
    return f"Recorded {rows}{lost} into {recorded.path.name}; ctrl+s keeps that in the project."
