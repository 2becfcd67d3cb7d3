"""The desk itself: one state, one bench, and the deeds a key or a command can do. One thread uses it.

Deeds never raise for what a person typed or a file holds: they leave the state as it was and say a sentence.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from lesart.core.errors import LesartError, ProjectError
from lesart.core.notes import Key, Note, ordered
from lesart.core.quantity import counted, format_quantity
from lesart.desk.editing import Editing
from lesart.desk.entries import edits
from lesart.desk.hand import given_between, raw_from_text
from lesart.desk.inspected import Inspected
from lesart.desk.note_place import at_note, next_listed
from lesart.desk.packing import Packing
from lesart.desk.project_file import Filed
from lesart.desk.state import State
from lesart.desk.surveys import Surveys
from lesart.project.assumed import with_said
from lesart.project.check import check_project
from lesart.project.folder.session import Session
from lesart.project.folder.store import FILE
from lesart.study.bench import Bench
from lesart.study.lines import live_notes


class Desk(Editing):
    """Open a project with ``open_desk``. ``state`` is the present one; every deed replaces it."""

    def __init__(self, folder: Path, state: State, bench: Bench, session: Session | None = None) -> None:
        super().__init__(folder, state, bench, Filed(folder, state.saved, session))
        self.surveys = Surveys(folder)
        self.packing: Packing | None = None
        self._inspected = Inspected()
        self._speaking: set[str] = set()
        self.values: tuple[Key, ...] = ()
        """Values on the screen, in reading order."""
        self._seen: State | None = None

    # What is looked at

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes of the present project, inspected once per text, and those on the lines as they are now."""
        if not self.notes_are_fresh:
            self.inspect(lambda: True)
        return self.last_notes

    def inspect(self, wanted: Callable[[], bool]) -> bool:
        """Inspect the present project while that is ``wanted``; True once it is complete."""
        return self._inspected.go_on(self.state.project, self.bench, wanted)

    @property
    def notes_are_fresh(self) -> bool:
        """True where the notes at hand are those of the present project."""
        return self._inspected.are_of(self.state.project)

    @property
    def last_notes(self) -> tuple[Note, ...]:
        """The notes at hand, perhaps from before the last edit, so that the glass need not wait for new ones."""
        if not self.bench.views:
            return self._inspected.last
        return ordered((*self._inspected.last, *live_notes(self.bench.views, self.state.project)))

    @property
    def is_moving(self) -> bool:
        """True where something moves by itself, so that the picture must be made again."""
        packs = self.packing is not None and self.packing.is_running
        return self.lines.any or self.surveys.any_running or packs

    @property
    def has_moved_on(self) -> bool:
        """True where the state differs from that of the picture on the screen."""
        return self.state is not self._seen

    def saw(self, values: tuple[Key, ...], selected: Key | None) -> None:
        """Take in the values on the screen, and which one is selected."""
        if self.state.selected_at(self.state.step) != selected:
            self.select(selected)
        self.values, self._seen = values, self.state

    def close(self) -> None:
        """Put work aside, and stop everything that runs."""
        self.keep_work()
        self.surveys.close()
        self.lines.close()
        if self.filed.session is not None:
            self.filed.session.close()

    def forget_notes(self) -> None:
        """Drop the notes: what they were inspected from has changed."""
        self._inspected.forget()

    def hear(self) -> None:
        """Look at the lines as they are now."""
        spoke = self._speaking
        self.bench.hear(self.lines.look())
        self._speaking = {name for name, view in self.bench.views.items() if view.capture.columns}
        if spoke != self._speaking:
            self.forget_notes()

    # The hand

    def take_hand(self, text: str) -> None:
        """Drive the chosen channel with a typed raw value or reading; an empty text lets go."""
        if not text.strip():
            self.state = replace(self.state, hand=None).says("The hand is released.")
            return
        try:
            standing = self.bench.standing(self.state.project, self.state.chosen, self.shown.cursor_s)
            raw = raw_from_text(standing, text)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)
            return
        said = format_quantity(raw, self.state.chosen.unit_raw, 9) + given_between(standing, text)
        self.state = replace(self.state, hand=raw).says(f"By hand: {said}. h again lets go.")

    # Notes

    def next_note(self) -> None:
        """Go to the next note, and to its place."""
        if not self.notes:
            self.state = self.state.says("There are no notes.")
            return
        index = next_listed(self.state, self.notes)
        if index is None:
            step = self.state.step.shown if self.state.step is not None else "All"
            self.state = self.state.says(f"There are no notes on {step}; F lists those of all steps.")
            return
        self.go_to_note(index)

    def fold_remarks(self) -> None:
        """Fold remarks, or unfold them."""
        self.state = replace(self.state, remarks_unfolded=not self.state.remarks_unfolded, note=None)

    def filter_notes(self) -> None:
        """Show notes of the open step only, or all."""
        self.state = replace(self.state, notes_here=not self.state.notes_here, note=None)

    def go_to_note(self, index: int) -> None:
        """Choose a note and open its step, channel and panel."""
        if 0 <= index < len(self.notes):
            self.state = at_note(self.state, index, self.notes[index])

    def mend(self) -> None:
        """Apply the remedy of the chosen note."""
        if self.state.note is None or self.state.note >= len(self.notes):
            self.state = self.state.says("No note is chosen; n goes to the next one.")
            return
        note = self.notes[self.state.note]
        if not note.mend:
            said = f"somebody has to do it: {note.remedy}." if note.remedy else "there is nothing to mend."
            self.state = self.state.says(f"This note has no remedy that a key applies; {said}")
            return
        try:
            text = self.editor.mended(self.state.history.text, note.mend)
            if known := [mend.key for mend in note.mend if mend.key in self.state.project.assumed]:
                text = with_said(self.editor, text, known)
            tables = self.state.project.tables
            deed = ", ".join(edits.said_of(tables, mend) for mend in note.mend)
            self._take(text, f"mended: {deed}")
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)
        self.state = replace(self.state, note=None)

    # Files

    def save(self) -> None:
        """Write ``lesart.toml``. What someone else wrote there in the meantime is kept aside, not lost."""
        text = self.state.history.text
        try:
            said = self.filed.save(text)
            self.state = replace(self.state, saved=text).says(said)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)

    def ask_to_leave(self) -> None:
        """Say what happens to unsaved work on leaving now."""
        self._kept_aside = False
        self.keep_work()
        again = "and it is back next time" if self.work_is_safe else "and it is lost: it cannot be kept here"
        self.say(f"Not saved yet: ctrl+s saves. ctrl+q again leaves, {again}.", fault=not self.work_is_safe)

    def look_outside(self) -> bool:
        """Has someone else changed ``lesart.toml``, or opened the project too? True where something is to be shown.

        A changed text is taken in as an edit that can be undone; unsaved work that it displaces is also kept in a file.
        """
        others = self.filed.news_of_others()
        if others:
            self.say(others)
        changes = self.bench.look_outside() + self.state.project.assets.files.look()
        if changes.any:
            if changes.changed or changes.gone:
                # Fonts and pictures are made again where their files are others now; the rest of the project stays.
                project = check_project(self.state.history.text, self.state.project)
                self.state = replace(self.state, project=project)
            self.forget_notes()
            self.say(changes.sentence, fault=bool(changes.gone))
        try:
            there = self.filed.changed_outside()
        except LesartError as error:
            news = self.state.message != str(error)
            self.state = self.state.says(str(error), fault=True)
            return news
        if there is None:
            return bool(others) or changes.any
        self._take_from_outside(there)
        return True

    def _take_from_outside(self, there: str) -> None:
        mine = self.state.history.text if self.state.unsaved else None
        try:
            self._take(there, "change from outside")
        except ProjectError as error:
            count = len(error.problems)
            more = f" ({counted(count, 'problem')})" if count > 1 else ""
            said = f"{FILE} was changed outside and not taken in{more}: {error.problems[0].on_screen}"
            self.state = self.state.says(said, fault=True)
            return
        self.filed.take(there)
        whose = "it"
        if mine is not None:
            try:
                whose = f"yours, which is kept in {self.filed.displaced(mine)} too,"
            except LesartError:
                whose = "yours"
        said = f"{FILE} was changed outside and taken in; ctrl+z brings {whose} back."
        self.state = replace(self.state, saved=there).says(said)
