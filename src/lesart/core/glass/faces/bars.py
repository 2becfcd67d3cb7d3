"""Bars of any width in steps finer than a cell, made of custom glyphs."""

from __future__ import annotations

from dataclasses import replace
from functools import singledispatch

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.bar_letters import BARS, FULL, PARTS
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.dots import HEIGHT, WIDTH

ONE_UPRIGHT, BOTH_UPRIGHTS = "e f", "b c e f"


def bar_cells(panel: Panel, share: float, width: int) -> tuple[Cell, ...]:
    """``width`` cells filled from the left to ``share``, 0 to 1, rounded to the nearest step; blanks where the panel
    has no characters for bars."""
    letters = panel.bar_letters
    if not letters:
        return (Cell(" "),) * width
    full, part = divmod(round(min(max(share, 0.0), 1.0) * width * len(letters)), len(letters))
    cells = [letters[-1]] * full + ([letters[part - 1]] if part else [])
    return tuple(Cell(letter) for letter in (*cells, *" " * (width - len(cells))))


@singledispatch
def with_bar_glyphs(panel: Panel) -> Panel:
    """The panel with the glyphs for bars added after a person's own."""
    return panel


@with_bar_glyphs.register
def _(panel: CharacterPanel) -> Panel:
    full = (1 << WIDTH) - 1
    dots = {letter: ((full << WIDTH - step) & full,) * HEIGHT for step, letter in enumerate(PARTS, 1)}
    if panel.set.code(FULL) is None:
        dots[FULL] = (full,) * HEIGHT
    return replace(panel, glyphs={**panel.glyphs, **dots})


@with_bar_glyphs.register
def _(panel: SegmentPanel) -> Panel:
    masks = {PARTS[0]: panel.alphabet.mask(ONE_UPRIGHT), BARS: panel.alphabet.mask(BOTH_UPRIGHTS)}
    return replace(panel, glyphs={**panel.glyphs, **masks})
