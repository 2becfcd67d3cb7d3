"""What the terminal can: asked once the screen stands, and its answers picked out of the keys.

Asked before the framework reads keys, an answer that comes late would be taken for keys, and a key that is pressed
early for an answer. So its own reader of keys is handed what is left when the answers are taken out.
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
"""Takes it pictures by number? How large are its letters? What is it? The last one nearly every terminal answers."""
ANSWER = re.compile(r"\x1b_G[^\x1b]*\x1b\\|\x1b\[6;\d+;\d+t|\x1b\[\?[\d;]*c")
BEGUN = re.compile(r"\x1b(?:_(?:G[^\x1b]*\x1b?)?|\[(?:6(?:;[\d;]*)?|\?[\d;]*)?)?$")
"""One that is cut off by the end of what was read."""
LARGEST_CELL = 200
PER_INCH, LEAST_PER_INCH, MOST_PER_INCH = "LESART_PIXELS_PER_INCH", 30.0, 1000.0
HAS_SIXELS = "4"


class Answered(Message):
    """Answers of the terminal, as they came."""

    def __init__(self, answer: str) -> None:
        self.answer = answer
        super().__init__()


class AnsweringParser(XTermParser):
    """The framework's reader of keys; what it would not understand is taken out before."""

    waiting = False
    """Is an answer still to come? Only then a half one is waited for: it could be the escape key."""

    def __init__(self, debug: bool = False) -> None:
        super().__init__(debug)
        self._held = ""

    def feed(self, data: str) -> Iterable[Message]:
        """Keys and mouse, and the answers apart."""
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
    """From now on, in every driver that is started."""
    driver.XTermParser = AnsweringParser  # type: ignore[attr-defined]


def may_be_asked(environment: dict[str, str] | os._Environ[str]) -> bool:
    """Not one between two terminals, which answers for itself; not one that would show the question."""
    plain = environment.get("TERM", "") in ("", "linux", "dumb")
    return not plain and not environment.get("TMUX") and not environment.get("STY")


class Asked:
    """Answers gathered until the last one is there."""

    def __init__(self) -> None:
        self.cell: tuple[int, int] | None = None
        self.takes_pictures = False

    def after(self, answer: str) -> Graphics | None:
        """What the terminal can, once that is known; None before, and where it can nothing."""
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
    """Of the screen, as a person says it; the usual figure where nobody does, or what is said is absurd."""
    try:
        said = float(environment.get(PER_INCH, ""))
    except ValueError:
        return USUAL_PER_INCH
    return said if LEAST_PER_INCH <= said <= MOST_PER_INCH else USUAL_PER_INCH


def cell_in_pixels() -> tuple[int, int] | None:
    """Width and height of a letter, as the system knows them of the terminal; None where it does not."""
    found: Any = array.array("H", [0, 0, 0, 0])
    try:
        fcntl.ioctl(sys.__stdout__ or sys.stdout, termios.TIOCGWINSZ, found)
    except (OSError, ValueError):
        return None
    rows, columns, width, height = found
    return (width // columns, height // rows) if rows and columns and width and height else None
