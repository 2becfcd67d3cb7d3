"""Editing the text of a project: edits, undo and redo, and unsaved work put aside in case of a kill."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from lesart.core.errors import LesartError, ProjectError
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.entries import edits
from lesart.desk.entries.edit_result import Edited
from lesart.desk.history import History
from lesart.desk.navigation import Navigation
from lesart.desk.project_file import Filed, project_to_open
from lesart.desk.state import LEAVES, State
from lesart.project.assumed import with_said
from lesart.project.check import check_project
from lesart.project.text import Editor
from lesart.study.bench import Bench
from lesart.study.lines import Lines
from lesart.study.views import Picture


class Editing(Navigation):
    """A project's folder and text; every edit goes through its history, and is only taken where the result is a
    project."""

    def __init__(self, folder: Path, state: State, bench: Bench, filed: Filed) -> None:
        super().__init__(state, bench)
        self.folder, self.filed = folder, filed
        self.lines = Lines(folder)
        self.editor = Editor()
        self._kept_aside = True
        self.work_is_safe = True
        """True where unsaved work would survive a kill."""
        self.trial: Picture | None = None
        """The state as it would be if the typed text were entered."""
        self.trial_editor = Editor()

    def edit(self, key: Key, text: str) -> None:
        """Take in what was typed at a value in place."""
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
        """Move the selected value one sensible step up or down."""
        key = self.state.selected_at(self.state.step)
        if key is None:
            self.state = self.state.says("No value is selected; tab goes to the values of this step.")
            return
        self.change(lambda: self._with(key, edits.nudged(self.state.project, key, direction)))

    def offer(self) -> None:
        """Show what can be added in the open step."""
        from lesart.desk.entries.edit_result import Here
        from lesart.desk.entries.offers import offers_at

        self.state = replace(self.state, offers=offers_at(Here(self.editor, self.state, self.bench, self.folder)))

    def add(self, typed: str) -> None:
        """Add an entry in the open step, at what is looked at."""
        from lesart.core.glass.panels.catalogue import named
        from lesart.desk.entries.adding import added
        from lesart.desk.entries.edit_result import Here
        from lesart.desk.entries.glass.leaves import with_count
        from lesart.desk.entries.recipes.shown.displays import display_in
        from lesart.desk.entries.typed_values import not_too_long

        if not typed.strip():
            return
        faces, channels = self.state.project.faces, self.state.project.channels
        at = (self.state.step, self.state.leaf_of(Step.GLASS))
        if at == (Step.GLASS, "test") and display_in(typed) is None and named(typed) is None:
            self.turn(lambda state: with_count(state, typed))
            return

        def find() -> Edited:
            return added(Here(self.editor, self.shown, self.bench, self.folder), not_too_long(typed))

        self.change(find)
        # What was just made is looked at.
        new = next((name for name in self.state.project.channels if name not in channels), None)
        if new is not None:
            self.state = self.state.following_channel(new)
        for name, face in self.state.project.faces.items():
            if name not in faces:
                leaf = LEAVES[Step.GLASS][0]
                self.state = replace(
                    self.state, panel=face.panel, glass=replace(self.state.glass, face=name)
                ).turned_to(Step.GLASS, leaf)

    def take_away(self) -> None:
        """Remove the entry of the selected value."""
        from lesart.desk.entries.adding import removed
        from lesart.desk.entries.edit_result import Here

        self.change(lambda: removed(Here(self.editor, self.state, self.bench, self.folder)))

    def move_entry(self, by: int) -> None:
        """Move the law or filter of the selected value up or down."""
        from lesart.desk.entries.adding import moved

        self.change(lambda: moved(self.editor, self.state, by))

    def tare(self) -> None:
        """Make the reading at the cursor zero."""
        from lesart.desk.entries.adding import tared

        self.change(lambda: tared(self.editor, self.shown, self.bench))

    def next_unit(self) -> None:
        """Show the field of the chosen channel in the next unit that people use."""
        from lesart.desk.shown_unit import in_next_unit

        self.change(lambda: in_next_unit(self.editor, self.state))

    def turn(self, deed: Callable[[State], State]) -> None:
        """Apply a change of view; a refusal is shown."""
        try:
            self.state = deed(self.state)
        except LesartError as error:
            self.state = self.state.says(str(error), fault=True)

    def change(self, find: Callable[[], Edited]) -> None:
        """Apply an edit, or show why there is none."""
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
        """Make a new text the present one. Raises ProjectError where it is not a project; then nothing has changed."""
        self.trial = None
        project = project_to_open(text, self.state.project)
        self.state = replace(self.state, project=project, history=self.state.history.done(text, deed)).says(deed)
        self._settle()

    def _settle(self) -> None:
        """Adjust the state after the project changed: what was chosen may be gone."""
        project = self.state.project
        if self.state.channel not in project.channels:
            self.state = replace(self.state, channel=next(iter(project.channels)), hand=None)
        if self.state.panel not in project.panels:
            self.state = replace(self.state, panel=next(iter(project.panels), ""))
        self._kept_aside = False
        self.lines.keep_to(project)

    def take_up(self, text: str, deed: str) -> None:
        """Take a text from an earlier run as an edit over the saved one, put aside at once. Raises ProjectError."""
        self._take(text, deed)
        self.keep_work()

    def keep_work(self) -> None:
        """Put unsaved work aside in case of a kill.

        Separate from edits, because forcing it to the disk takes longer than a picture may.
        """
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
        """Redo what was undone."""
        self._go(self.state.history.redone(), "Done again", "Nothing is left to redo.")

    def _go(self, found: tuple[History, str] | None, word: str, none: str) -> None:
        if found is None:
            self.state = self.state.says(none)
            return
        history, deed = found
        project = check_project(history.text, self.state.project)
        self.state = replace(self.state, history=history, project=project).says(f"{word}: {deed}.")
        self._settle()
