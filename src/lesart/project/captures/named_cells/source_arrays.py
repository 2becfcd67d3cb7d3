"""Arrays in source code, as people paste measurements: ``uint16_t wave[] = {512, 0x21F};``."""

from __future__ import annotations

import re
from typing import Any

from lesart.core.dataclass_later import dataclass

_COMMENT = re.compile(r"//[^\n]*|/\*.*?(?:\*/|$)|^\s*#[^\n]*", re.DOTALL | re.MULTILINE)
_BEGINS = re.compile(
    r"\b([A-Za-z_]\w{0,60})\s*((?:\[[^\]\n{}=]{0,40}\]\s*){0,3})(?:[A-Z]\w*\s*)?=\s*(?:[A-Za-z][\w.]{0,40}\()?([{\[])"
)
_PART = re.compile(
    r"([{\[])|([}\]])|([-+]?(?:0[xX][0-9a-fA-F]++|0[bB][01]++|(?:\d++(?:\.\d*+)?+|\.\d++)(?:[eE][-+]?\d++)?+))[fFlLuU]{0,3}"
)
DEEPEST = 8
Numbers = list[Any]


@dataclass(frozen=True)
class Arrays:
    """Lists of numbers, or of lists of them, by name; ``is_cut`` where the last one is truncated."""

    by_name: dict[str, Numbers]
    is_cut: bool
    share: float
    """Share of the text, without comments, that the arrays make up."""


def arrays_in(text: str) -> Arrays | None:
    """All arrays with numbers; None where there are none, as in a text that is not source code."""
    if text.lstrip("\ufeff \t\r\n")[:1] in ("{", "["):
        return None
    text = _COMMENT.sub(" ", text)
    found: dict[str, Numbers] = {}
    at, is_whole, within = 0, True, 0
    while is_whole and (begins := _BEGINS.search(text, at)):
        numbers, at, is_whole = _listed(text, begins.start(3))
        if numbers:
            found[begins[1]] = numbers
            within += at - begins.start()
    return Arrays(found, not is_whole, within / len(text.strip())) if found else None


def _listed(text: str, at: int) -> tuple[Numbers, int, bool]:
    """The content of the bracket at an index, the index after it, and whether it is closed."""
    opened: list[Numbers] = []
    for part in _PART.finditer(text, at):
        if part[1]:
            if len(opened) == DEEPEST:
                break
            inner: Numbers = []
            if opened:
                opened[-1].append(inner)
            opened.append(inner)
        elif part[2]:
            whole = opened.pop()
            if not opened:
                return whole, part.end(), True
        else:
            opened[-1].append(_number(part[3]))
    return opened[0] if opened else [], len(text), False


def _number(written: str) -> float | int:
    lowered = written.lower()
    if "x" in lowered:
        return int(lowered, 16)
    if lowered.lstrip("+-").startswith("0b"):
        return int(lowered, 2)
    return float(written) if set(".e") & set(lowered) else int(written)
