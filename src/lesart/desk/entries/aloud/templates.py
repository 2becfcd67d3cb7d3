"""A line of a face as programs write it: ``Temp: {temp:.1f} C`` or ``Temp: %5.1f C`` is a label and a field."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection

from lesart.core.dataclass_later import dataclass

_HOLE = re.compile(
    r"\{(?P<name>[^{}:]*)(?::[^{}\d.]*(?P<width>\d{1,2})?(?:\.(?P<places>\d))?[a-zA-Z]?)?\}"
    r"|%[-+ 0]*(?P<wide>\d{1,2})?(?:\.(?P<part>\d))?l?[fdiug](?![A-Za-z])"
)
MOST = 8
"""Most fields of one line."""
LONGEST_UNIT = 8


@dataclass(frozen=True)
class Hole:
    """A placeholder: its channel, decimals and cells if stated, and the unit."""

    channel: str
    decimals: int | None = None
    width: int | None = None
    unit_text: str = ""


def template_said(
    typed: str, channels: Collection[str], chosen: str, called: Callable[[str], str]
) -> list[str | Hole] | None:
    """Texts and placeholders in order; None without a placeholder, or with one of an unknown channel."""
    holes = list(_HOLE.finditer(typed))
    if not holes or len(holes) > MOST or typed.lower().startswith(("label ", "text ")):
        return None
    pieces: list[str | Hole] = []
    end = 0
    for found in holes:
        name = (found["name"] or "").strip()
        channel = called(name) if name else chosen
        if channel not in channels:
            return None
        pieces += [typed[end : found.start()]] if typed[end : found.start()] else []
        places, width = found["places"] or found["part"], found["width"] or found["wide"]
        pieces.append(Hole(channel, int(places) if places else None, int(width) if width else None))
        end = found.end()
    rest = typed[end:].rstrip()
    last = pieces[-1]
    if rest and isinstance(last, Hole) and len(rest) <= LONGEST_UNIT:
        # What comes after a number is its unit: it goes where the number goes.
        pieces[-1] = Hole(last.channel, last.decimals, last.width, rest)
    elif rest:
        pieces.append(rest)
    return pieces
