"""Bars of any width in steps finer than a cell, made of glyphs that the panel is given for it."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.dots import HEIGHT, WIDTH

FULL = "█"
PARTS = tuple(chr(0xE000 + step) for step in range(1, WIDTH))
"""Letters of no script, for cells that are lit from the left to one dot less than their width."""
BARS = "\ue010"
"""For both upright pairs of segments of a digit."""
SEGMENT_PARTS = {7: ("e f", "b c e f"), 14: ("e f", "b c e f"), 16: ("e f", "b c e f")}


def steps_a_cell(panel: Panel) -> int:
    """Steps in which a cell of a bar fills."""
    return WIDTH if isinstance(panel, CharacterPanel) else 2


def bar_cells(panel: Panel, share: float, width: int) -> tuple[Cell, ...]:
    """``width`` cells filled from the left to ``share``, 0 to 1, rounded to the nearest step."""
    steps = steps_a_cell(panel)
    full, part = divmod(round(min(max(share, 0.0), 1.0) * width * steps), steps)
    whole = FULL if isinstance(panel, CharacterPanel) else BARS
    cells = [whole] * full + ([PARTS[part - 1]] if part else [])
    return tuple(Cell(letter) for letter in (*cells, *" " * (width - len(cells))))


def with_bar_glyphs(panel: Panel) -> Panel:
    """The panel with the glyphs that bars are made of, behind a person's own."""
    if isinstance(panel, CharacterPanel):
        full = (1 << WIDTH) - 1
        dots = {letter: ((full << WIDTH - step) & full,) * HEIGHT for step, letter in enumerate(PARTS, 1)}
        if panel.set.code(FULL) is None:
            dots[FULL] = (full,) * HEIGHT
        return replace(panel, glyphs={**panel.glyphs, **dots})
    if not isinstance(panel, SegmentPanel):
        return panel
    first, both = SEGMENT_PARTS[len(panel.alphabet.segments)]
    masks = {PARTS[0]: panel.alphabet.mask(first), BARS: panel.alphabet.mask(both)}
    return replace(panel, glyphs={**panel.glyphs, **masks})


def slots_used(panel: Panel) -> int:
    """Glyphs that a panel of characters is given, a person's own and those of bars; it has room for eight."""
    return len(panel.glyphs) if isinstance(panel, CharacterPanel) else 0
