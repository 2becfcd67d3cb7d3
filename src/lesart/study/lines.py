"""The live lines, and their data as captures that the bench reads like any other."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from os.path import exists
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT, FAULT, Note
from lesart.core.quantity import counted
from lesart.core.ranked import median
from lesart.core.raw.source import Source
from lesart.core.step import Step
from lesart.project.captures.capture import Capture
from lesart.project.model import Project

if TYPE_CHECKING:
    from lesart.live.listening import LineState, Listening
    from lesart.live.record_file import Recorded
    from lesart.live.rig.rig import Rig

LATE_INTERVALS = 10.0
LATE_S = 3.0
"""A line silent for this many of its intervals, and at least this long, is stale."""


@dataclass(frozen=True, eq=False)
class LiveView:
    """What a line had said at one moment. ``gone`` rows before these went.

    ``listening`` is over when the line was left; what it said stays to be looked at.
    """

    source: Source
    state: LineState
    gone: int
    capture: Capture
    listening: bool

    @property
    def is_late(self) -> bool:
        """True where it has been silent for longer than usual."""
        t = self.capture.t[-100:]
        usual = median(np.diff(t)) if len(t) > 2 else 0.0
        return self.listening and self.state.age_s > max(LATE_INTERVALS * usual, LATE_S)


class Lines:
    """By source name. Used by the desk's thread alone.

    ``with_rig``: the demo's devices are played by the rig, which starts with the first line that is listened to.
    """

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self.with_rig = False
        self._rig: Rig | None = None
        self._open: dict[str, Listening] = {}
        self._left: dict[str, LiveView] = {}

    @property
    def any(self) -> bool:
        """True where any line is listened to."""
        return bool(self._open)

    def listening(self, name: str) -> bool:
        """True where this line is listened to."""
        return name in self._open

    def recording(self, name: str) -> bool:
        """True where it is being recorded."""
        return name in self._open and self._open[name].state.recorded is not None

    def listen(self, source: Source) -> None:
        """Begin listening. Earlier unrecorded data are dropped. Raises StorageError where the rig cannot start."""
        # Without a live line nobody should wait for the import of port libraries.
        from lesart.live.listening import Listening

        self.with_rig_started()
        if source.name not in self._open:
            self._left.pop(source.name, None)
            self._open[source.name] = Listening(source, self._folder)
            self._open[source.name].start()

    def with_rig_started(self) -> None:
        """Start the rig where one is wanted and none runs. Raises StorageError."""
        from lesart.live.presence import is_abandoned

        place = self._folder / "rig"
        if self.with_rig and self._rig is None and (is_abandoned(place) or not exists(place / "scale")):
            from lesart.live.rig.rig import Rig  # pseudo-terminals, which not every system has

            rig = Rig(place)
            rig.start()
            self._rig = rig

    def leave(self, name: str) -> Recorded | None:
        """Stop listening; gives the state of a recording."""
        listening = self._open.pop(name)
        recorded = listening.stop()
        if recorded is None or not recorded.rows:
            self._left[name] = _view(listening, is_open=False)
        return recorded

    def record(self, source: Source, now: datetime) -> str:
        """Record into a new file; gives its name relative to the project's folder. Raises StorageError."""
        from lesart.live.listening import next_free

        self.listen(source)
        name = next_free(self._folder, source.name, now)
        self._open[source.name].record(self._folder / name)
        return name

    def stop_recording(self, name: str) -> Recorded | None:
        """End the recording and keep listening; gives its state."""
        return self._open[name].stop_recording()

    def look(self) -> dict[str, LiveView]:
        """The present views of all lines."""
        return {**self._left, **{name: _view(each, is_open=True) for name, each in self._open.items()}}

    def keep_to(self, project: Project) -> None:
        """Follow an edit: a removed line is left, a changed one is reopened."""
        for name, listening in list(self._open.items()):
            now = project.sources.get(name)
            if now is None or now.line != listening.source.line:
                self.leave(name)
                if now is not None and now.line is not None:
                    self.listen(now)
        for name in [name for name in self._left if name not in project.sources]:
            del self._left[name]

    def close(self) -> None:
        """Leave all lines, and end recordings."""
        for name in list(self._open):
            self.leave(name)
        if self._rig is not None:
            self._rig.stop()
            self._rig = None


def _view(listening: Listening, *, is_open: bool) -> LiveView:
    gone, columns = listening.view()
    t = next((block.t for block in columns.values()), np.zeros(0))
    capture = Capture(listening.source.name, t, columns, (), _bad(columns), 0)
    return LiveView(listening.source, listening.state, gone, capture, is_open)


def _bad(columns: Mapping[str, Block]) -> int:
    return int(np.any([block.mark != 0 for block in columns.values()], axis=0).sum()) if columns else 0


def live_notes(views: Mapping[str, LiveView], project: Project) -> tuple[Note, ...]:
    """Notes on what is, or was, wrong with a line since listening began, at the first channel that reads it."""
    notes: list[Note] = []
    for name, view in views.items():
        reader = next((channel.name for channel in project.channels.values() if channel.source == name), None)
        if reader is not None and view.listening:
            notes += _notes(view, reader)
    return tuple(notes)


def _notes(view: LiveView, channel: str) -> list[Note]:
    state, name = view.state, view.source.name
    notes = []
    if state.trouble:
        text = f"{name}: {state.trouble}. It is tried again."
        notes.append(Note(FAULT, Step.RAW, channel, text, remedy="check the plug and the port, or change the line"))
    elif view.is_late:
        text = f"{name}: nothing came for {state.age_s:.0f} s."
        notes.append(Note(FAULT, Step.RAW, channel, text, figure=state.age_s, unit="s", remedy="check the device"))
    recorded = state.recorded
    if recorded is not None and recorded.trouble:
        lost = f" {counted(recorded.lost, 'row')} lost so far." if recorded.lost else " Nothing is lost yet."
        notes.append(
            Note(
                FAULT,
                Step.RAW,
                channel,
                f"{name}: the recording cannot be written ({recorded.trouble})." + lost,
                remedy="make room on the disk",
            )
        )
    bad = sum(state.tally.bad.values())
    if bad:
        kinds = ", ".join(f"{count} {what}" for what, count in state.tally.bad.items())
        last = next((event.says for event in reversed(state.tally.last) if event.what != "chatter"), "")
        text = f"{name}: {kinds} since listening began. The last: {last}"
        notes.append(Note(DOUBT, Step.RAW, channel, text, figure=float(bad)))
    return notes
