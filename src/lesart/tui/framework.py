"""Everything that relies on internals of the framework is overridden or used here only.

Guarded by ``tests/tui/test_framework.py``, so that a new version of the framework cannot quietly break it.
"""

from __future__ import annotations

import errno
import io
import os
import select
import signal
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from functools import lru_cache, partial
from typing import Any

from rich.color import ColorSystem
from rich.segment import Segment
from rich.style import Style
from textual.app import App
from textual.await_complete import AwaitComplete
from textual.color import Color
from textual.command import CommandPalette
from textual.filter import LineFilter, Monochrome

ENDING = (signal.SIGTERM, signal.SIGHUP)
"""Signals that end the program, or say that the terminal is gone."""


BRIGHT = 8
"""Offset from a colour to its bright version, of sixteen."""
APART = 0.2
"""Difference of brightness, of 1, from which two colours are meant to differ; dark elements of a panel are nearly its
ground."""


class TerminalGone(Exception):
    """The window was closed: there is no terminal to read from or write to."""


class Uncoloured(Monochrome):
    """Greys instead of colours, for a person who wants none; the framework's own filter fails on a segment without a
    style."""

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """Remove colours; segments without a style have none."""
        plain = [segment for segment in segments if segment.style is None]
        if not plain:
            return super().apply(segments, background)
        return [
            each if each.style is None else super(Uncoloured, self).apply([each], background)[0] for each in segments
        ]


@lru_cache(maxsize=512)
def told_apart(style: Style) -> Style:
    """A style that is readable in sixteen colours, too: two different colours can both become the same grey, and many
    terminals brighten bold letters, so that bold black on grey is grey on grey."""
    letters, ground = style.color, style.bgcolor
    if letters is None or ground is None or letters.is_default or ground.is_default:
        return style
    meant = [Color.from_rich_color(each).brightness for each in (letters, ground)]
    number, behind = (each.downgrade(ColorSystem.STANDARD).number for each in (letters, ground))
    if number is None or behind is None or abs(meant[0] - meant[1]) < APART:
        return style
    if number != behind:
        return style + Style(bold=False) if style.bold and number + BRIGHT == behind else style
    return style + Style(color="black" if meant[0] < meant[1] else "bright_white", bold=False)


class FewColours(LineFilter):
    """A filter for a terminal of sixteen colours."""

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """Make every segment readable."""
        return [
            each if each.style is None else Segment(each.text, told_apart(each.style), each.control)
            for each in segments
        ]


def for_few_colours(filters: Sequence[LineFilter], colours: str | None) -> list[LineFilter]:
    """The filters, with the one for sixteen colours where needed."""
    return [*filters, *([FewColours()] if colours == "standard" else [])]


def without_colours(filters: Sequence[LineFilter]) -> list[LineFilter]:
    """The filters with the monochrome one replaced."""
    return [Uncoloured() if type(each) is Monochrome else each for each in filters]


def read_no_color() -> None:
    """Treat an empty ``NO_COLOR`` as unset, as its convention says; the framework only checks that it exists."""
    if os.environ.get("NO_COLOR") == "":
        del os.environ["NO_COLOR"]


def end_on_signals(app: App[int], end: Callable[[int], None]) -> None:
    """Call ``end`` in the application's loop on a signal, so that it leaves as by its key, with the terminal
    restored."""
    import asyncio

    loop = asyncio.get_running_loop()
    for number in ENDING:
        try:
            loop.add_signal_handler(number, end, number)
        except (RuntimeError, NotImplementedError, ValueError):
            return  # in a thread of its own, as under test, signals are somebody else's
    # Sent to sleep and woken again, the framework shows an empty screen until something changes.
    app.app_resume_signal.subscribe(app, lambda _: app.screen.refresh(repaint=True, layout=True), immediate=True)


def is_hung_up(terminal: int) -> bool:
    """Was the window of a terminal closed? Who leads its session is told; that may be another program, which waits.

    The framework reads the end of its keys again and again then, as fast as the machine can.
    """
    watch = select.poll()
    watch.register(terminal, 0)
    return any(event & (select.POLLHUP | select.POLLERR) for _, event in watch.poll(0))


class KeysInTurn(App[int]):
    """An application that handles keys strictly in order, and reports its own bugs in a sentence."""

    @property
    def takes_keys(self) -> bool:
        """True where the application itself handles keys: not while something is typed or another screen is up."""
        return True

    def mistaken(self, error: BaseException) -> None:
        """Handle an unexpected exception."""
        raise NotImplementedError

    async def _check_bindings(self, key: str, priority: bool = False) -> bool:
        """What a key means is done before the next key is looked at.

        The framework would hand the key on to the screen, which acts on it a little later: of keys that come fast, the
        first ones after enter would then still go to the screen, and only the last into what is being typed.
        """
        if priority and self.takes_keys:
            return await super()._check_bindings(key, True) or await super()._check_bindings(key, False)
        return await super()._check_bindings(key, priority)

    def _fatal_error(self) -> None:
        """Replaces the framework's traceback, which is for us and not for a person."""
        self.mistaken(sys.exc_info()[1] or RuntimeError("an error without a trace"))
        self.panic("")


class CommandSheet(CommandPalette):
    """The framework's command palette, made safe for keys that come faster than it closes."""

    def dismiss(self, result: None = None) -> AwaitComplete:
        """Dismiss only once: enter pressed twice would close the sheet beneath as well."""
        return super().dismiss(result) if self in self.app.screen_stack else AwaitComplete()

    def _action_command_list(self, action: str) -> None:
        """Page up and down need the list to have been laid out."""
        # The framework looks up the highlighted line in a table that it only fills then.
        with suppress(KeyError):
            super()._action_command_list(action)

    def _refresh_command_list(self, *gathered: Any) -> None:
        """Ignore results that arrive after the list has closed."""
        if self in self.app.screen_stack:
            super()._refresh_command_list(*gathered)


class Screen(io.TextIOWrapper):
    """The output to the terminal, which is dropped once that is gone.

    The framework writes in a thread of its own, fed by a short queue. Where writing fails that thread ends, the queue
    stays full, and the next put blocks for ever: the program would outlive its window.
    """

    is_gone = False

    def write(self, text: str) -> int:
        """Write text; gives its length."""
        self._while_there(partial(super().write, text))
        return len(text)

    def flush(self) -> None:
        """Flush, if there is still a terminal."""
        self._while_there(super().flush)

    def _while_there(self, do: Callable[[], object]) -> None:
        if self.is_gone:
            return
        try:
            do()
        except OSError as error:
            if error.errno not in (errno.EIO, errno.EPIPE):
                raise
            self.is_gone = True
            os.kill(os.getpid(), signal.SIGHUP)  # as the terminal does, where it can


@contextmanager
def own_screen() -> Iterator[Screen]:
    """Keep the terminal for the screen: anything that a library prints bypassing Python, such as a foreign backtrace,
    is dropped.

    The framework writes to standard error. It gets another handle to the terminal, and standard error is discarded.
    """
    before = sys.__stderr__
    terminal = os.dup(2)
    nowhere = os.open(os.devnull, os.O_WRONLY)
    screen = Screen(os.fdopen(os.dup(terminal), "wb"), encoding="utf-8", errors="backslashreplace")
    try:
        os.dup2(nowhere, 2)
        sys.__stderr__ = screen  # type: ignore[misc]
        yield screen
    except OSError as error:
        if error.errno != errno.EIO:
            raise
        raise TerminalGone from error
    finally:
        sys.__stderr__ = before  # type: ignore[misc]
        os.dup2(terminal, 2)
        for handle in (terminal, nowhere):
            os.close(handle)
        with suppress(OSError):  # the terminal may be gone
            screen.close()
