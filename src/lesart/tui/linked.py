"""The link to the desk: deeds go out, pictures come back and are drawn. What a key means is not decided here."""

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
"""The first picture is written out in this time once the application is ready."""
GONE_S = 2.0
"""Without a terminal the program ends after so long at most."""
MISTAKEN = 3
"""Exit code where Lesart itself went wrong; by a signal it is 128 and the signal, as a shell has it."""
Opener = Callable[[], "Desk"]


class LinkedApp(PicturedApp):
    """``opener`` opens the desk in the desk's thread; without one the welcome is shown."""

    class Drawn(Message):
        """A picture, or the trouble that stands in its way, from the desk's thread."""

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
        """The sheet; the command list may lie over it."""
        return self._sheet

    def on_mount(self) -> None:
        """Colours, an empty picture, then the desk."""
        for palette, name in ((DARK, "lesart-ink"), (LIGHT, "lesart-parchment")):
            self.register_theme(theme_of(palette, name))
        self.theme = "lesart-ink" if self._scene.palette is DARK else "lesart-parchment"
        self.set_interval(1 / FRAMES_PER_SECOND, self._tick)
        end_on_signals(self, self._end)

    def _end(self, number: int) -> None:
        """Told to end by a signal: unsaved work is put aside first, then the terminal is given back as it was."""
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
        """Those of the framework, with one that works where no colours are wanted, and one for sixteen of them."""
        return for_few_colours(without_colours(super().get_line_filters()), self.console.color_system)

    def on_ready(self) -> None:
        """The desk only now, and a breath later: its imports would hold up the first picture."""
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
        """Draw what is made ahead when it is there; the desk's thread, which would take the time of it, begins then."""
        loop = asyncio.get_running_loop()

        def hear() -> None:
            if not first.hear():
                return
            loop.remove_reader(first.handle)
            # Whoever sees a picture may press a key: there is somebody to take it.
            self._begin()
            self._first, picture = None, first.take()
            if picture is not None and self._scene.picture is BLANK:
                self.draw(picture=picture)
            self.call_after_refresh(self._may_begin.set)

        loop.add_reader(first.handle, hear)

    def _deliver(self, what: News, done: int) -> None:
        """Called in the desk's thread; messages may be posted from there."""
        self.post_message(self.Drawn(what, done))

    def on_resize(self, event: Resize) -> None:
        """Other room, other arrangement; perhaps larger letters."""
        means = self._scene.means
        if means.graphics is not None:
            graphics = self.measured_again(means.graphics)
            self._scene = replace(self._scene, means=replace(means, graphics=graphics))
        self.call_after_refresh(self.draw)

    def on_linked_app_drawn(self, message: Drawn) -> None:
        """The one place where what the desk made reaches the screen."""
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
        """Where something is typed, and the list of what can be."""
        typed = self._sheet.typed
        return [each.region for each in (typed, typed.offers) if each is not None and each.display]

    def pictured(self) -> None:
        """Called with each new picture."""

    @property
    def takes_keys(self) -> bool:
        """Not while something is typed, or the list of commands is up."""
        return self.screen is self._sheet and not self._sheet.typed.busy

    def mistaken(self, error: BaseException) -> None:
        """A sentence and a file, and the terminal as it was."""
        from lesart.desk.report import temporary_report

        self.mistake = temporary_report(error)
        self.let_go()

    def _when_current(self, then: Callable[[], None], number: int | None = None) -> None:
        """Do it once the picture shows all that was sent to the desk before: keys may come faster than pictures."""
        number = self._sent if number is None else number
        if self._done >= number:
            then()
        else:
            self._once_current.append((number, then))

    def draw(self, **changes: Any) -> None:
        """Draw the scene, changed in some fields."""
        self._scene = replace(self._scene, **changes)
        if self._sheet.has_regions:
            self._sheet.draw(self._scene)

    @property
    def _picture(self) -> Picture:
        return self._scene.picture

    def _do(self, deed: Callable[[Desk], Any]) -> bool:
        """Send a deed to the desk, unless a value is being typed. Was it sent?"""
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
            # Only one that was sent is waited for: while something is typed none is.
            self._tick_waits = self._do(lambda desk: desk.tick(min(elapsed, 0.5)))
