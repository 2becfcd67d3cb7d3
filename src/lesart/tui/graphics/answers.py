"""Terminal capabilities: queried once the screen is up, with the answers filtered out of the keys.

Queried before the framework reads keys, a late answer would be taken for keys, and an early key for an answer. So the
framework's key parser gets what is left after the answers are removed.
"""

from __future__ import annotations

import array
import fcntl
import os
import re
import sys
import termios
from collections.abc import Iterable, Mapping
from typing import Any

import textual.drivers.linux_driver as driver
from textual._xterm_parser import XTermParser
from textual.message import Message

from lesart.tui.graphics.placed import ASKED
from lesart.tui.graphics.terminal import PLACED, SIXEL, USUAL_PER_INCH, Graphics

QUESTIONS = f"{ASKED}\x1b[16t\x1b[c"
"""Queries: images by number, cell size, and identity, which nearly every terminal answers."""
ANSWER = re.compile(r"\x1b_G[^\x1b]*\x1b\\|\x1b\[6;\d+;\d+t|\x1b\[\?[\d;]*c")
BEGUN = re.compile(r"\x1b(?:_(?:G[^\x1b]*\x1b?)?|\[(?:6(?:;[\d;]*)?|\?[\d;]*)?)?$")
"""An answer truncated at the end of the input."""
LARGEST_CELL = 200
PER_INCH, LEAST_PER_INCH, MOST_PER_INCH = "LESART_PIXELS_PER_INCH", 30.0, 1000.0
HAS_SIXELS = "4"


class Answered(Message):
    """Raw answers of the terminal."""

    def __init__(self, answer: str) -> None:
        self.answer = answer
        super().__init__()


class AnsweringParser(XTermParser):
    """The framework's key parser, with answers removed from its input."""

    waiting = False
    """True while an answer is expected. Only then a truncated one is waited for: it could be the escape key."""

    def __init__(self, debug: bool = False) -> None:
        super().__init__(debug)
        self._held = ""

    def feed(self, data: str) -> Iterable[Message]:
        """Split input into keys and mouse, and answers."""
        text, self._held = self._held + data, ""
        if not text:
            yield from super().feed(text)
            return
        for answer in ANSWER.findall(text):
            if answer.endswith("c"):
                AnsweringParser.waiting = False
            yield Answered(answer)
        text = ANSWER.sub("", text)
        cut = BEGUN.search(text) if AnsweringParser.waiting and data else None
        if cut is not None and cut.group() != "\x1b":
            self._held = cut.group()
            text = text[: cut.start()]
        if text:
            yield from super().feed(text)


def read_answers() -> None:
    """Install the parser in every driver started from now on."""
    driver.XTermParser = AnsweringParser  # type: ignore[attr-defined]


def may_be_asked(environment: dict[str, str] | os._Environ[str]) -> bool:
    """True where the terminal may be queried: not a multiplexer, which answers for itself, nor one that would show the
    query."""
    plain = environment.get("TERM", "") in ("", "linux", "dumb")
    return not plain and not environment.get("TMUX") and not environment.get("STY")


class Asked:
    """Answers collected until the last one has come."""

    def __init__(self) -> None:
        self.cell: tuple[int, int] | None = None
        self.takes_pictures = False

    def after(self, answer: str) -> Graphics | None:
        """The terminal's graphics, once known; None before, and where it has none."""
        if answer.startswith("\x1b_G"):
            self.takes_pictures = answer.removesuffix("\x1b\\").endswith(";OK")
            return None
        if answer.endswith("t"):
            high, wide = (int(part) for part in answer[4:-1].split(";"))
            self.cell = (wide, high)
            return None
        cell = cell_in_pixels() or self.cell
        if cell is None or not all(0 < each <= LARGEST_CELL for each in cell):
            return None
        if HAS_SIXELS in answer[3:-1].split(";")[1:]:
            return Graphics(SIXEL, *cell, per_inch(os.environ))
        return Graphics(PLACED, *cell, per_inch(os.environ)) if self.takes_pictures else None


def per_inch(environment: Mapping[str, str]) -> float:
    """Pixels per inch of the screen as stated; the default for none, or an absurd one."""
    try:
        said = float(environment.get(PER_INCH, ""))
    except ValueError:
        return USUAL_PER_INCH
    return said if LEAST_PER_INCH <= said <= MOST_PER_INCH else USUAL_PER_INCH


def cell_in_pixels() -> tuple[int, int] | None:
    """Width and height of a cell in pixels, as known by the system; None where unknown."""
    found: Any = array.array("H", [0, 0, 0, 0])
    try:
        fcntl.ioctl(sys.__stdout__ or sys.stdout, termios.TIOCGWINSZ, found)
    except (OSError, ValueError):
        return None
    rows, columns, width, height = found
    return (width // columns, height // rows) if rows and columns and width and height else None
