"""What Lesart does over the framework's head: what it does not promise is overridden or used here only.

Held by ``tests/tui/test_framework.py``, so that a new version of the framework cannot quietly undo one of them.
"""

from __future__ import annotations

import errno
import io
import os
import signal
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from functools import partial

from rich.segment import Segment
from textual.app import App
from textual.color import Color
from textual.filter import LineFilter, Monochrome

ENDING = (signal.SIGTERM, signal.SIGHUP)
"""Somebody wants the program to end, or the terminal is gone."""


class TerminalGone(Exception):
    """The window was closed: there is nothing to read keys from and nothing to write to."""


class Uncoloured(Monochrome):
    """Greys in place of colours, where a person wants none; the framework's own fails on a piece without a style."""

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """Pieces without a style have no colour to take away."""
        plain = [segment for segment in segments if segment.style is None]
        if not plain:
            return super().apply(segments, background)
        return [
            each if each.style is None else super(Uncoloured, self).apply([each], background)[0] for each in segments
        ]


def without_colours(filters: Sequence[LineFilter]) -> list[LineFilter]:
    """The filters with that one exchanged."""
    return [Uncoloured() if type(each) is Monochrome else each for each in filters]


def read_no_color() -> None:
    """``NO_COLOR`` that is empty is not set, as its convention says; the framework asks only whether it is there."""
    if os.environ.get("NO_COLOR") == "":
        del os.environ["NO_COLOR"]


def end_on_signals(app: App[int], end: Callable[[int], None]) -> None:
    """``end`` is called in the application's loop, so that it leaves as by its key: with the terminal as it was."""
    import asyncio

    loop = asyncio.get_running_loop()
    for number in ENDING:
        try:
            loop.add_signal_handler(number, end, number)
        except (RuntimeError, NotImplementedError, ValueError):
            return  # in a thread of its own, as under test, signals are somebody else's
    # Sent to sleep and woken again, the framework shows an empty screen until something changes.
    app.app_resume_signal.subscribe(app, lambda _: app.screen.refresh(repaint=True, layout=True), immediate=True)


class Screen(io.TextIOWrapper):
    """The way to the terminal. When that is gone, what is written goes nowhere.

    The framework writes in a thread of its own, fed by a queue of a few pictures. Where writing fails that thread ends,
    the queue stays full, and who puts the next picture into it waits for good: the program would outlive its window.
    """

    is_gone = False

    def write(self, text: str) -> int:
        """As many letters as were given."""
        self._while_there(partial(super().write, text))
        return len(text)

    def flush(self) -> None:
        """As far as there is somebody."""
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
    """The screen keeps the terminal to itself: what a library prints past Python, as a foreign backtrace, is dropped.

    The framework writes to standard error. It gets another way to the terminal, and standard error leads nowhere.
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
