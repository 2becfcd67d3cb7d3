"""The link to the desk: deeds go out, pictures come back and are drawn. The meaning of keys is decided elsewhere."""

from __future__ import annotations

import asyncio
import os
import signal
import sys
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from textual.events import Resize
from textual.filter import LineFilter
from textual.geometry import Region
from textual.message import Message

from lesart.study.views import Picture
from lesart.tui import deeds
from lesart.tui.framework import end_on_signals, for_few_colours, is_hung_up, without_colours
from lesart.tui.graphics.over import PicturedApp
from lesart.tui.graphics.terminal import Graphics
from lesart.tui.sheet import BLANK, Recent, Scene, Sheet
from lesart.tui.theme import DARK, LIGHT, theme_of

if TYPE_CHECKING:
    from lesart.desk.ahead import Ahead
    from lesart.desk.desk import Desk
    from lesart.desk.worker import News, Worker

FRAMES_PER_SECOND = 20
FIRST_PICTURE_S = 0.05
"""Time to write the first picture once the application is ready."""
GONE_S = 2.0
"""Longest time until the program ends without a terminal."""
MISTAKEN = 3
"""Exit code for a bug in Lesart; on a signal it is 128 plus the signal, as in a shell."""
Opener = Callable[[], "Desk"]


class LinkedApp(PicturedApp):
    """``opener`` opens the desk in the desk's thread; without one the welcome page is shown."""

    class Drawn(Message):
        """A picture, or trouble, from the desk's thread."""

        def __init__(self, what: News, done: int) -> None:
            self.what, self.done = what, done
            super().__init__()

    def __init__(
        self,
        opener: Opener | None,
        name: str = "",
        *,
        light: bool = False,
        recent: tuple[Recent, ...] = (),
        first: Ahead | None = None,
    ) -> None:
        super().__init__()
        self._scene = Scene(
            LIGHT if light else DARK,
            subject=name,
            begun=opener is not None,
            from_welcome=opener is None,
            recent=recent,
        )
        self._sheet = Sheet()
        self._opener = opener
        self._first = first
        self._worker: Worker | None = None
        self._sent = self._done = 0
        self._may_begin = threading.Event()
        self._remembers = False
        self._once_current: list[tuple[int, Callable[[], None]]] = []
        self._ticked = 0.0
        self._tick_waits = False
        self._leaving = False
        self.mistake = ""
        has_terminal = sys.stdin is not None and sys.stdin.isatty() and sys.stdin is sys.__stdin__
        self._terminal = sys.stdin.fileno() if has_terminal else None

    def get_default_screen(self) -> Sheet:
        """The sheet, which the command list may cover."""
        return self._sheet

    def on_mount(self) -> None:
        """Set colours, draw an empty picture, then start the desk."""
        for palette, name in ((DARK, "lesart-ink"), (LIGHT, "lesart-parchment")):
            self.register_theme(theme_of(palette, name))
        self.theme = "lesart-ink" if self._scene.palette is DARK else "lesart-parchment"
        self.set_interval(1 / FRAMES_PER_SECOND, self._tick)
        end_on_signals(self, self._end)

    def _end(self, number: int) -> None:
        """End on a signal: put unsaved work aside first, then restore the terminal."""
        self.let_go()
        self.exit(128 + number)
        if number == signal.SIGHUP:
            # The terminal is gone, and with it all that an orderly end could wait for: its thread that reads keys goes
            # round at the end of them. Work is put aside already; nothing is left that a second more would save.
            end = threading.Timer(GONE_S, os._exit, (128 + number,))
            end.daemon = True
            end.start()

    def let_go(self) -> None:
        """Put unsaved work aside and end the desk's thread."""
        self._may_begin.set()
        if self._first is not None:
            self._first.leave()
            self._first = None
        if self._worker is not None:
            self._worker.stop()

    def get_line_filters(self) -> Sequence[LineFilter]:
        """The framework's filters, with our monochrome one, and one for sixteen colours."""
        return for_few_colours(without_colours(super().get_line_filters()), self.console.color_system)

    def on_ready(self) -> None:
        """Start the desk only now, slightly delayed: its imports would hold up the first picture."""
        self.draw()
        self.ask_for_graphics()
        if self._first is not None:
            self._loop_hears(self._first)
        if self._opener is not None:
            self.set_timer(FIRST_PICTURE_S, self._begin)

    def _begin(self) -> None:
        if self._worker is None:
            self.open_with(self._opener)

    def open_with(self, opener: Opener | None) -> None:
        """Start the desk's thread; the first picture comes as a message, unless one was made ahead."""
        if opener is None:
            return
        from lesart.desk.worker import Worker

        self._worker = Worker(opener, self._deliver, self._may_begin)
        if self._first is None:
            self._may_begin.set()
        self._worker.start()
        self.draw(begun=True)

    def _loop_hears(self, first: Ahead) -> None:
        """Draw the picture made ahead when it is there; only then start the desk's thread, which would compete with
        it."""
        loop = asyncio.get_running_loop()

        def hear() -> None:
            if not first.hear():
                return
            loop.remove_reader(first.handle)
            # A person who sees a picture may press a key, which must be handled.
            self._begin()
            self._first, picture = None, first.take()
            if picture is not None and self._scene.picture is BLANK:
                self.draw(picture=picture)
            self.call_after_refresh(self._may_begin.set)

        loop.add_reader(first.handle, hear)

    def _deliver(self, what: News, done: int) -> None:
        """Deliver a picture, called in the desk's thread; posting messages is thread-safe."""
        self.post_message(self.Drawn(what, done))

    def on_resize(self, event: Resize) -> None:
        """Rearrange for the new size, perhaps with another cell size."""
        means = self._scene.means
        if means.graphics is not None:
            graphics = self.measured_again(means.graphics)
            self._scene = replace(self._scene, means=replace(means, graphics=graphics))
        self.call_after_refresh(self.draw)

    def on_linked_app_drawn(self, message: Drawn) -> None:
        """The only place where the desk's pictures reach the screen."""
        from lesart.desk.worker import Mistake, Progress

        if isinstance(message.what, Progress):
            self.draw(progress=message.what.sentence)
            return
        self._done = message.done
        if isinstance(message.what, Picture):
            self._tick_waits = False
            if not self._remembers and self._worker is not None:
                self._remembers = True
                self._sent = self._worker.do(deeds.remember_project)
            self.draw(picture=message.what, trouble=(), progress="")
            self.pictured()
        elif isinstance(message.what, Mistake):
            self.mistake = message.what.sentence
            self.exit(MISTAKEN)
            return
        else:
            self.draw(trouble=message.what.sentences, progress="")
        waiting, self._once_current = self._once_current, []
        for number, then in waiting:
            self._when_current(then, number)

    def can_draw(self, graphics: Graphics) -> None:
        """Panels and charts in true pixels from now on, unless another way is wanted."""
        self.draw(means=replace(self._scene.means, graphics=graphics))

    @property
    def covered(self) -> Sequence[Region]:
        """The input line, and its list of offers."""
        typed = self._sheet.typed
        return [each.region for each in (typed, typed.offers) if each is not None and each.display]

    def pictured(self) -> None:
        """Called with each new picture."""

    @property
    def takes_keys(self) -> bool:
        """True unless something is typed, or the list of commands is up."""
        return self.screen is self._sheet and not self._sheet.typed.busy

    def mistaken(self, error: BaseException) -> None:
        """Report in a sentence and a file, with the terminal restored."""
        from lesart.desk.report import temporary_report

        self.mistake = temporary_report(error)
        self.let_go()

    def _when_current(self, then: Callable[[], None], number: int | None = None) -> None:
        """Do something once the picture shows all earlier deeds: keys may come faster than pictures."""
        number = self._sent if number is None else number
        if self._done >= number:
            then()
        else:
            self._once_current.append((number, then))

    def draw(self, **changes: Any) -> None:
        """Draw the scene with some fields changed."""
        self._scene = replace(self._scene, **changes)
        if self._sheet.has_regions:
            self._sheet.draw(self._scene)

    @property
    def _picture(self) -> Picture:
        return self._scene.picture

    def _do(self, deed: Callable[[Desk], Any]) -> bool:
        """Send a deed to the desk, unless a value is being typed; True where it was sent."""
        if self._worker is None or self._scene.trouble or self._sheet.typed.busy:
            return False
        self._leaving = False
        self._sent = self._worker.do(deed)
        return True

    def _tick(self) -> None:
        if self._terminal is not None and is_hung_up(self._terminal):
            self._terminal = None
            self._end(signal.SIGHUP)
            return
        now = time.monotonic()
        elapsed, self._ticked = now - self._ticked, now
        if self._picture.is_playing and not self._tick_waits:
            # Wait only for a deed that was sent: while something is typed none is.
            self._tick_waits = self._do(lambda desk: desk.tick(min(elapsed, 0.5)))
