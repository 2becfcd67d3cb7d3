"""What tests of the terminal look for on a screen, and how they type over a value."""

from __future__ import annotations

import re
import sys
from collections.abc import Callable
from pathlib import Path

from tools.terminal import Terminal

LESART = Path(sys.executable).with_name("lesart")


def reading(screen: str) -> str:
    """The chosen channel's reading in the margin; empty while none stands there."""
    found = re.search(r"▌hive 2 mass[ ⁰¹²³⁴⁵⁶⁷⁸⁹…]+(\S+ \S+)", screen)
    return found[1] if found else ""


def stand(terminal: Terminal) -> list[str]:
    """The lines of the four digits as they are lit, colours included."""
    lines = terminal.screen(colours=True).splitlines()
    first = next(index for index, line in enumerate(lines) if "digits, scanned" in line)
    return [line.rpartition("│")[2] for line in lines[first + 1 : first + 8]]


def says(words: str) -> Callable[[str], bool]:
    """Do these words stand on the screen, however its lines are broken?"""
    return lambda screen: words in " ".join(screen.split())


def edit_value(terminal: Terminal, downs: int, text: str) -> None:
    """Type over the value so many places below the first one."""
    terminal.keys("Tab", *("Down",) * downs, "Enter")
    terminal.until("rated output at capacity")
    terminal.typed(text)
    terminal.keys("Enter")
