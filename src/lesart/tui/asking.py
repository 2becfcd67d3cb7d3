"""Questions asked on the message line or over a value, and what is pressed until they are answered."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from textual import events
from textual.timer import Timer

from lesart.study.views import Edit, Offers
from lesart.tui import deeds
from lesart.tui.linked import LinkedApp
from lesart.tui.widgets.typed import Take, mending

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


TRIED_AFTER_S = 0.25
"""So long nothing is typed before the desk shows what would come of it."""


class AskingApp(LinkedApp):
    """The application with its one line in which something is typed."""

    _resting: Timer | None = None
    _tried = False
    _kept: list[events.Key] | None = None

    def _ask(self, question: str, text: str, take: Take) -> None:
        """Ask on the message line; when it is answered the line is as it was."""

        def taken(typed: str) -> None:
            self.draw()
            take(typed)

        self._sheet.ask(self._scene.palette, question, text, taken)

    def _ask_desk(
        self,
        question: str,
        text: str,
        deed: Callable[[Desk, str], Any],
        trouble: str = "",
        offers: Offers | None = None,
        tried: bool = False,
    ) -> None:
        """Ask for what a deed takes; where it refuses that, the line stays open with it, and why above. What can be
        ``tried`` is shown before it is entered."""

        def taken(typed: str) -> None:
            self._untry()
            self.draw()
            self._answered(
                lambda desk: deeds.with_typed(desk, deed, typed),
                lambda why: self._ask_desk(question, typed, deed, why, offers, tried),
            )

        tries = self._trying(deed) if tried else None
        self._sheet.ask(self._scene.palette, question, text, taken, trouble, offers, tries)

    def _trying(self, deed: Callable[[Desk, str], Any]) -> Take:
        """Show what would come of the line once it rests; nothing of an empty one."""

        def later(typed: str) -> None:
            if self._resting is not None:
                self._resting.stop()
            self._resting = self.set_timer(TRIED_AFTER_S, lambda: self._try(deed, typed))

        return later

    def _try(self, deed: Callable[[Desk, str], Any], typed: str) -> None:
        self._resting = None
        if self._worker is not None and self._sheet.typed.tries is not None:
            would = (lambda desk: deeds.with_typed(desk, deed, typed)) if typed.strip() else None
            self._sent = self._worker.do(lambda desk: deeds.try_out(desk, would))
            self._tried = True

    def _untry(self) -> None:
        """What was tried is not wanted any more."""
        if self._resting is not None:
            self._resting.stop()
            self._resting = None
        if self._tried and self._worker is not None:
            self._tried = False
            self._sent = self._worker.do(lambda desk: deeds.try_out(desk, None))

    def _answered(self, deed: Callable[[Desk], Any], again: Callable[[str], None]) -> None:
        """Do it, and keep what is pressed until the desk has answered: it is done then, or was not meant as commands
        where the answer is a refusal and ``again`` asks again. What mends the line is done there: who saw while typing
        that it will not do does not wait to be told."""
        before = self._picture.faults
        if not self._do(deed):
            return
        self._sheet.typed.hold()

        def then() -> None:
            if not self._sheet.typed.busy:
                return
            held = self._sheet.typed.let_go()
            self.draw()
            if self._picture.faults > before:
                again(self._picture.message)
                self._sheet.typed.retype(mending(held))
                return
            if held:
                self._kept = held
                self.call_next(self._press_kept)

        self._when_current(then)

    async def on_event(self, event: events.Event) -> None:
        """Keys that were kept go before those that came while it was not known what they mean."""
        if self._kept and isinstance(event, events.Key):
            self._kept.append(event)
        else:
            await super().on_event(event)

    async def _press_kept(self) -> None:
        while self._kept:
            key = self._kept[0]
            try:
                # A copy: whoever kept it said that nobody else should see it.
                await super().on_event(events.Key(key.key, key.character))
            finally:
                self._kept.pop(0)

    def _when_typing(self, ask: Callable[[], None]) -> None:
        """Collect what is typed, and ask once the picture is current; not if it was left in the meantime."""
        if self._worker is None or self._scene.trouble or self._sheet.typed.busy:
            return
        number = self._sheet.typed.collect()

        def then() -> None:
            if self._sheet.typed.busy:
                ask()
            # Where nothing was asked after all, keys are keys again: a line that nobody sees would swallow them.
            if self._sheet.typed.is_collecting(number):
                self._sheet.typed.leave()

        self._when_current(then)

    def _edit_in_place(self, edit: Edit) -> None:
        if not self._scene.values_focused:
            self.draw(values_focused=True)

        workspace = self._picture.workspace
        offers = {"": workspace.choices} if workspace.choices and workspace.selected == edit.key else None

        def would(desk: Desk, typed: str) -> None:
            desk.edit(edit.key, typed)

        def take(text: str) -> None:
            self._untry()
            self.draw()
            self._answered(
                lambda desk: would(desk, text),
                lambda why: self._ask_desk(f"{edit.label}: ", text, would, why, offers, tried=True),
            )

        self._sheet.ask_in_place(self._scene.palette, edit, take, offers, self._trying(would))
