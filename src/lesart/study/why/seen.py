"""What a person sees on a panel, as typed: segments by name, or the letters of each row."""

from __future__ import annotations

from collections.abc import Sequence
from functools import singledispatch

from lesart.core.errors import RequestError
from lesart.core.fit.cells import split_cells
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.frame import CharacterFrame, SegmentFrame
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.segments import ALPHABETS
from lesart.core.quantity import counted
from lesart.study.why.glass_suspect import GlassSuspect

BETWEEN = "|"


@singledispatch
def seen_by(panel: Panel, memory: Memory, text: str, suspects: Sequence[GlassSuspect]) -> tuple[GlassSuspect, ...]:
    """The suspects that look as stated. Raises RequestError where that is impossible for such a panel."""
    raise RequestError(f"{panel.name}: what is seen on {panel.says()} cannot be typed; pick one of the looks.")


@seen_by.register
def _(panel: SegmentPanel, memory: Memory, text: str, suspects: Sequence[GlassSuspect]) -> tuple[GlassSuspect, ...]:
    """``bc | abged | … `` digit by digit; nothing between two bars is dark."""
    alphabet = ALPHABETS[panel.segments]
    parts = [part.strip() for part in text.split(BETWEEN)]
    if len(parts) != panel.digits:
        raise RequestError(
            f'{panel.name}: "{text}" has {counted(len(parts), "digit")}; write the lit segments of all {panel.digits}, '
            f'as "bc | abged", with a bar between digits.'
        )
    wanted = []
    for part in parts:
        lit = part.replace(".", "").replace(" ", "")
        try:
            mask = alphabet.mask(lit)
        except (KeyError, ValueError) as error:
            known = " ".join(alphabet.segments)
            raise RequestError(
                f'{panel.name}: "{part}" names a segment that does not exist; there are {known}, and .'
            ) from error
        wanted.append(mask | (alphabet.point if "." in part else 0))
    return tuple(each for each in suspects if _masks(each, memory) == tuple(wanted))


def _masks(suspect: GlassSuspect, memory: Memory) -> tuple[int, ...]:
    frame = suspect.look(memory)
    return frame.masks if isinstance(frame, SegmentFrame) else ()


@seen_by.register
def _(panel: CharacterPanel, memory: Memory, text: str, suspects: Sequence[GlassSuspect]) -> tuple[GlassSuspect, ...]:
    """The rows, with a bar between them; blanks at their ends need not be written."""
    rows = text.split(BETWEEN)
    if len(rows) > panel.rows:
        raise RequestError(f'{panel.name}: "{text}" has {counted(len(rows), "row")}, and there are {panel.rows}.')
    dots = []
    for row in (*rows, *[""] * (panel.rows - len(rows))):
        cells = split_cells(row.ljust(panel.columns)[: panel.columns], joined=panel.joined)
        codes = [panel.code(each) for each in cells]
        if None in codes:
            letter = cells[codes.index(None)].letter
            raise RequestError(f'{panel.name}: its character set has no "{letter}", so it cannot be seen there.')
        dots.append(tuple(panel.dots(code) for code in codes if code is not None))
    wanted = tuple(dots)
    return tuple(
        each for each in suspects if isinstance(frame := each.look(memory), CharacterFrame) and frame.dots == wanted
    )
