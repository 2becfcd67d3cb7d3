"""Questions that keys ask, on the message line or over a value, and what happens with the answers."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from lesart.core.step import Step
from lesart.tui import deeds
from lesart.tui.walking import WalkingApp

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

WHY: dict[Step | None, str] = {
    Step.WIRE: "why, the part that says nothing: ",
    Step.GLASS: "why, the look that you see; nothing begins again: ",
    Step.PACE: "why, it flickers, lags, missed or freezes: ",
}
"""Questions that do not concern a reading."""


class QuestioningApp(WalkingApp):
    """The application with its questions: the hand, why, a value, an entry, a name, a file."""

    def action_hand(self) -> None:
        """Take the hand, or let go."""
        self._when_typing(self._ask_hand)

    def _ask_hand(self) -> None:
        if self._picture.hand:
            self.action_leave()
            self._do(lambda desk: desk.take_hand(""))
        else:
            question = "hand, a raw value or a reading: "
            self._ask_desk(question, "", lambda desk, text: desk.take_hand(text))

    def action_why(self) -> None:
        """Ask what the channel should read."""
        self._when_typing(self._ask_why)

    def _ask_why(self) -> None:
        step = self._picture.workspace.step
        self._ask_desk(WHY.get(step, "why, it should read: "), "", deeds.ask_why)

    def action_export(self) -> None:
        """Ask where to, then draw in another thread."""
        self._when_typing(self._ask_export)

    def _ask_export(self) -> None:
        from lesart.desk.sheets.export import default_path

        self._ask("export to .svg or .pdf: ", default_path(self._picture), self._export)

    def _export(self, text: str, *, replaces: bool = False) -> None:
        from lesart.desk.sheets.export import export_view

        worker = self._worker
        assert worker is not None

        def done(said: str, fault: bool) -> None:
            worker.do(lambda desk: desk.say(said, fault=fault))

        if self._do(lambda desk: export_view(desk, text, done, replaces=replaces)):
            self._when_current(self._ask_to_replace)

    def _ask_to_replace(self) -> None:
        """Ask whether to replace a file that an export found."""
        path = self._picture.asks
        if not path or self._sheet.typed.busy:
            return

        def take(answer: str) -> None:
            if answer.strip().lower() in ("y", "yes"):
                self._export(path, replaces=True)
            else:
                self._do(lambda desk: desk.say(f"{path} is left as it was."))

        self._ask(f"{path} already exists; y replaces it: ", "", take)

    def action_edit(self) -> None:
        """Type over the selected value, in its place."""
        self._when_typing(self._ask_value)

    def _ask_value(self) -> None:
        edit = self._picture.workspace.selected_edit
        if edit is None:
            self.action_leave()
        else:
            self._edit_in_place(edit)

    def action_add(self) -> None:
        """Ask which law or filter, or for the true value at the cursor."""
        self._do(lambda desk: desk.offer())
        self._when_typing(self._ask_what_to_add)

    def _ask_what_to_add(self) -> None:
        question = self._picture.workspace.adds
        if question:
            offers = self._picture.workspace.offers
            self._ask_desk(question, "", lambda desk, text: desk.add(text), offers=offers, tried=True)
        else:
            self.action_leave()
            self._do(lambda desk: desk.add("?"))

    def action_rename(self) -> None:
        """Ask for the other name of what is looked at."""
        self._when_typing(lambda: self._ask_name("new name for", deeds.rename))

    def action_copy(self) -> None:
        """Ask for the name of the copy."""
        self._when_typing(lambda: self._ask_name("name of the copy of", deeds.copy))

    def _ask_name(self, words: str, deed: Callable[[Desk, str], None]) -> None:
        what = self._picture.looked_at
        if not what:
            self.action_leave()
            self._do(lambda desk: deed(desk, ""))
            return
        self._ask_desk(f"{words} {what}: ", "", deed)

    def action_lit_line(self) -> None:
        """Ask which segment is lit."""

        def ask() -> None:
            self._ask("segment that is lit now: ", "", lambda name: self._do(lambda desk: deeds.lit_line(desk, name)))

        self._when_typing(ask)

    def action_leave(self) -> None:
        """Leave a value unchanged, or a page."""
        if self._sheet.typed.busy:
            self._untry()
            self._sheet.typed.leave()
            self.draw()
        elif self._scene.progress and self._worker is not None:
            self._worker.stop_reading()
        elif self._scene.trouble and self._scene.from_welcome and self._worker is not None:
            # What was named on the welcome page cannot be opened: go back to it.
            self._worker.stop()
            self._worker = None
            self.draw(begun=False, trouble=(), page="work")
        elif self._scene.page == "work" and self._scene.walk is not None:
            self.leave_walk()
        else:
            self.draw(page="work")
