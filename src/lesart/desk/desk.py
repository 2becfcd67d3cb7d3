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
from lesart.core.step import Step
from lesart.desk.entries import edits
from lesart.desk.entries.edit_result import Edited
from lesart.desk.hand import raw_from_text
from lesart.desk.history import History
from lesart.desk.inspected import Inspected
from lesart.desk.navigation import Navigation
from lesart.desk.note_place import at_note, next_listed
from lesart.desk.packing import Packing
from lesart.desk.project_file import Filed, project_to_open
from lesart.desk.state import LEAVES, State
from lesart.desk.surveys import Surveys
from lesart.project.assumed import with_said
from lesart.project.check import check_project
from lesart.project.folder.session import Session
from lesart.project.folder.store import FILE
from lesart.project.text import Editor
from lesart.study.bench import Bench
from lesart.study.lines import Lines, live_notes
from lesart.study.views import Picture


class Desk(Navigation):
    """Open a project with ``open_desk``. ``state`` is the present one; every deed replaces it."""

    def __init__(self, folder: Path, state: State, bench: Bench, session: Session | None = None) -> None:
        super().__init__(state, bench)
        self.folder = folder
        self.lines = Lines(folder)
        self.surveys = Surveys(folder)
        self.packing: Packing | None = None
        self.filed = Filed(folder, state.saved, session)
        self._inspected = Inspected()
        self.editor = Editor()
        self._speaking: set[str] = set()
        self._kept_aside = True
        self.work_is_safe = True
        """Would unsaved work outlive a kill?"""
        self.values: tuple[Key, ...] = ()
        """Of the picture that a person sees, in reading order."""
        self._seen: State | None = None
        self.trial: Picture | None = None
        """As it would be, were what is typed entered."""
        self.trial_editor = Editor()

    # What is looked at

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes of the present project, inspected once for each text, and those on the lines as they are now."""
        if not self.notes_are_fresh:
            self.inspect(lambda: True)
        return self.last_notes

    def inspect(self, wanted: Callable[[], bool]) -> bool:
        """Inspect the present project while that is ``wanted``; is it inspected whole?"""
        return self._inspected.go_on(self.state.project, self.bench, wanted)

    @property
    def notes_are_fresh(self) -> bool:
        """Are the notes at hand those of the present project?"""
        return self._inspected.are_of(self.state.project)

    @property
    def last_notes(self) -> tuple[Note, ...]:
        """The notes at hand, perhaps of the project before the last edit: the glass need not wait for new ones."""
        if not self.bench.views:
            return self._inspected.last
        return ordered((*self._inspected.last, *live_notes(self.bench.views, self.state.project)))

    @property
    def is_moving(self) -> bool:
        """Does something happen by itself, so that the picture must be made anew?"""
        packs = self.packing is not None and self.packing.is_running
        return self.lines.any or self.surveys.any_running or packs

    @property
    def has_moved_on(self) -> bool:
        """Is the state another one than that of the picture that a person sees?"""
        return self.state is not self._seen

    def saw(self, values: tuple[Key, ...], selected: Key | None) -> None:
        """A person sees these values now, with one of them selected."""
        if self.state.selected_at(self.state.step) != selected:
            self.select(selected)
        self.values, self._seen = values, self.state

    def close(self) -> None:
        """Put work aside, and let go of everything that moves."""
        self.keep_work()
        self.surveys.close()
        self.lines.close()
        if self.filed.session is not None:
            self.filed.session.close()

    def forget_notes(self) -> None:
        """What they were inspected from has moved on."""
        self._inspected.forget()

    def prepare_edits(self) -> None:
        """Do now what the first edit would have to wait for."""
        self.editor.prepare(self.state.history.text)

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
            self.state = replace(self.state, hand=None).says("The hand is let go.")
            return
        try:
            standing = self.bench.standing(self.state.project, self.state.chosen, self.shown.cursor_s)
            raw = raw_from_text(standing, text)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)
            return
        said = format_quantity(raw, self.state.chosen.unit_raw, 9)
        self.state = replace(self.state, hand=raw).says(f"By hand: {said}. h again lets go.")

    # Edits

    def edit(self, key: Key, text: str) -> None:
        """What was typed at a value in place."""
        from lesart.desk.entries.typed_values import not_too_long
        from lesart.desk.worthwhile_decimals import typed_or_honest
        from lesart.project.tables.variants import with_own

        def find() -> Edited:
            not_too_long(text)
            home = self.state.project.homes.get(key)
            if home is not None and not text.strip():
                left = self.editor.without_value(with_own(self.editor, self.state.history.text, key), key)
                return Edited(left, f"{edits.label_of(self.state.project.tables, key)} taken from {home.says}")
            typed = typed_or_honest(self.state, self.bench, key, text)
            return self._with(key, edits.typed_value(self.state.project, key, typed))

        self.change(find)

    def nudge(self, direction: int) -> None:
        """The selected value one sensible step up or down."""
        key = self.state.selected_at(self.state.step)
        if key is None:
            self.state = self.state.says("No value is selected; tab goes to the values of this step.")
            return
        self.change(lambda: self._with(key, edits.nudged(self.state.project, key, direction)))

    def offer(self) -> None:
        """See what can be added in the open step."""
        from lesart.desk.entries.adding import Here
        from lesart.desk.entries.offers import offers_at

        self.state = replace(self.state, offers=offers_at(Here(self.editor, self.state, self.bench, self.folder)))

    def add(self, typed: str) -> None:
        """An entry more in the open step, at what is looked at."""
        from lesart.core.glass.panels.catalogue import named
        from lesart.desk.entries.adding import Here, added
        from lesart.desk.entries.glass import with_count
        from lesart.desk.entries.recipes.displays import display_in
        from lesart.desk.entries.typed_values import not_too_long

        if not typed.strip():
            return
        faces = self.state.project.faces
        at = (self.state.step, self.state.leaf_of(Step.GLASS))
        if at == (Step.GLASS, "test") and display_in(typed) is None and named(typed) is None:
            self.turn(lambda state: with_count(state, typed))
            return

        def find() -> Edited:
            not_too_long(typed)
            return added(Here(self.editor, self.shown, self.bench, self.folder), typed)

        self.change(find)
        for name, face in self.state.project.faces.items():
            if name not in faces:  # what was just made is looked at
                leaf = LEAVES[Step.GLASS][0]
                self.state = replace(
                    self.state, panel=face.panel, glass=replace(self.state.glass, face=name)
                ).turned_to(Step.GLASS, leaf)

    def take_away(self) -> None:
        """Without the entry that the selected value belongs to."""
        from lesart.desk.entries.adding import Here, removed

        self.change(lambda: removed(Here(self.editor, self.state, self.bench, self.folder)))

    def move_entry(self, by: int) -> None:
        """The law or filter that the selected value belongs to, up or down among the others."""
        from lesart.desk.entries.adding import moved

        self.change(lambda: moved(self.editor, self.state, by))

    def tare(self) -> None:
        """What is read at the cursor becomes nothing."""
        from lesart.desk.entries.adding import tared

        self.change(lambda: tared(self.editor, self.shown, self.bench))

    def next_unit(self) -> None:
        """Show the field of the chosen channel in the next unit that people use."""
        from lesart.desk.shown_unit import in_next_unit

        self.change(lambda: in_next_unit(self.editor, self.state))

    def turn(self, deed: Callable[[State], State]) -> None:
        """Look at something else, or in another way; what cannot be is said."""
        try:
            self.state = deed(self.state)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)

    def change(self, find: Callable[[], Edited]) -> None:
        """Take an edit in as it is found, or say why there is none."""
        try:
            changed = find()
            if changed.text == self.state.history.text:
                self.state = self.state.says("")
                return
            self._take(changed.text, changed.deed)
            if changed.select is not None:
                self.state = self.state.seeing(changed.select)
        except ProjectError as error:
            self.state = self.state.says(error.problems[0].on_screen, fault=True)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)

    def _with(self, key: Key, value: str | int | bool) -> Edited:
        from lesart.desk.entries.drives import with_drive
        from lesart.project.tables.variants import with_own

        text = with_own(self.editor, self.state.history.text, key)
        text = self.editor.with_value(text, key, value)
        text, also = with_drive(self.editor, text, self.state.project.tables, key, value)
        if key in self.state.project.assumed:
            text = with_said(self.editor, text, (key,))
        return Edited(text, f"{edits.label_of(self.state.project.tables, key)} = {value}{also}")

    def _take(self, text: str, deed: str) -> None:
        """A new text as the present one. Raises ProjectError when it is not a project; then nothing has changed."""
        self.trial = None
        project = project_to_open(text, self.state.project)
        self.state = replace(self.state, project=project, history=self.state.history.done(text, deed)).says(deed)
        self._settle()

    def _settle(self) -> None:
        """After the project changed: what was chosen may be gone."""
        project = self.state.project
        if self.state.channel not in project.channels:
            self.state = replace(self.state, channel=next(iter(project.channels)), hand=None)
        if self.state.panel not in project.panels:
            self.state = replace(self.state, panel=next(iter(project.panels), ""))
        self._kept_aside = False
        self.lines.keep_to(project)

    def take_up(self, text: str, deed: str) -> None:
        """A text from an earlier run as an edit over the saved one, put aside at once. Raises ProjectError."""
        self._take(text, deed)
        self.keep_work()

    def keep_work(self) -> None:
        """Put unsaved work aside for the case of a kill. Forcing it to the disk takes longer than a picture may."""
        if self._kept_aside:
            return
        self._kept_aside = True
        try:
            self.filed.put_aside(self.state.history.text, self.state.saved)
            self.work_is_safe = True
        except LesartError as error:
            self.work_is_safe = False
            self.state = self.state.says(f"{error} If Lesart were killed now, unsaved work would be lost.", fault=True)

    def undo(self) -> None:
        """Take the last edit back."""
        self._go(self.state.history.undone(), "Undone", "Nothing is left to undo.")

    def redo(self) -> None:
        """Do again what was undone."""
        self._go(self.state.history.redone(), "Done again", "Nothing is left to do again.")

    def _go(self, found: tuple[History, str] | None, word: str, none: str) -> None:
        if found is None:
            self.state = self.state.says(none)
            return
        history, deed = found
        project = check_project(history.text, self.state.project)
        self.state = replace(self.state, history=history, project=project).says(f"{word}: {deed}.")
        self._settle()

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
        """Or unfold them."""
        self.state = replace(self.state, remarks_unfolded=not self.state.remarks_unfolded, note=None)

    def filter_notes(self) -> None:
        """Those of the open step only, or all."""
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
            said = f"a person has to do it: {note.remedy}." if note.remedy else "there is nothing to mend."
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
        """Say what becomes of unsaved work when one leaves now."""
        self._kept_aside = False
        self.keep_work()
        again = "and it is back next time" if self.work_is_safe else "and it is lost: it cannot be kept here"
        self.say(f"Not saved yet: ctrl+s saves. ctrl+q again leaves, {again}.", fault=not self.work_is_safe)

    def look_outside(self) -> bool:
        """Has someone else changed ``lesart.toml``, or opened the project too? True where something is to be shown.

        A changed text is taken in as an edit that can be undone; unsaved work that it displaces is kept beyond that.
        """
        others = self.filed.news_of_others()
        if others:
            self.say(others)
        changes = self.bench.look_outside() + self.state.project.assets.files.look()
        if changes.any:
            if changes.changed or changes.gone:
                # Fonts and pictures are made anew where their files are others now; the rest of the project stays.
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
