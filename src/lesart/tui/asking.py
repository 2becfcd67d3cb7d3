"""Questions on the message line or over a value, and keys pressed until they are answered."""

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
"""Pause in typing after which the desk previews the result."""


class AskingApp(LinkedApp):
    """The application with its single input line."""

    _resting: Timer | None = None
    _tried = False
    _kept: list[events.Key] | None = None

    def _ask(self, question: str, text: str, take: Take) -> None:
        """Ask on the message line; once answered the line is restored."""

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
        """Ask for the argument of a deed; where the deed refuses it, the line stays open with the text, and the reason
        above it. With ``tried`` the result is previewed before it is entered."""

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
        """Preview the line once typing pauses; not an empty one."""

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
        """Drop the preview."""
        if self._resting is not None:
            self._resting.stop()
            self._resting = None
        if self._tried and self._worker is not None:
            self._tried = False
            self._sent = self._worker.do(lambda desk: deeds.try_out(desk, None))

    def _answered(self, deed: Callable[[Desk], Any], again: Callable[[str], None]) -> None:
        """Do it, and hold keys until the desk has answered: then they are done, or dropped where the answer is a
        refusal and ``again`` asks again, since they were not meant as commands. Keys that edit the refused line are
        applied to it: a person who noticed the mistake while typing does not wait."""
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
        """Held keys go before those that came while their meaning was unknown."""
        if self._kept and isinstance(event, events.Key):
            self._kept.append(event)
        else:
            await super().on_event(event)

    async def _press_kept(self) -> None:
        while self._kept:
            key = self._kept[0]
            try:
                # A copy: its holder does not share it.
                await super().on_event(events.Key(key.key, key.character))
            finally:
                self._kept.pop(0)

    def _when_typing(self, ask: Callable[[], None]) -> None:
        """Collect what is typed, and ask once the picture is current, unless it was left in the meantime."""
        if self._worker is None or self._scene.trouble or self._sheet.typed.busy:
            return
        number = self._sheet.typed.collect()

        def then() -> None:
            if self._sheet.typed.busy:
                ask()
            # Where nothing was asked after all, keys are keys again: an invisible line would swallow them.
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
