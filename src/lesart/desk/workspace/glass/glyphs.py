"""Glass, the leaf of glyphs: a person's own letters, drawn large, or the fonts of a panel of pixels."""

from __future__ import annotations

from collections.abc import Mapping
from functools import singledispatch
from typing import Any

from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.dots import HEIGHT, WIDTH
from lesart.core.notes import Key
from lesart.desk.entries.glass.leaves import selected_glyph
from lesart.desk.workspace.context import Context, label, text, value
from lesart.desk.workspace.glass.pixels import font_glass, font_lines
from lesart.study.views import Glass, Line, Tone


@singledispatch
def glyphs_lines(panel: Panel, context: Context) -> list[Line]:
    """One glyph drawn large with its current dot, and all of them as in the file."""
    if not KINDS[panel.kind].has_glyphs:
        return [(label(f"{panel.says()} takes no custom glyphs."),)]
    own = (context.project.tables["panels"][panel.name].get("glyphs")) or {}
    if not own:
        said = label(f" adds one for a {_lacking(panel)}.")
        return [(label("No custom glyph yet; "), text("+", "ochre"), said)]
    place: Key = ("panels", panel.name, "glyphs")
    lines = _drawn(panel, own, selected_glyph(context.state), context.state.glass.dot)
    return [*lines, *((text(f"   {each}  "), value(context.project, (*place, each))) for each in own)]


@glyphs_lines.register
def _(panel: PixelPanel, context: Context) -> list[Line]:
    return font_lines(context, panel)


@singledispatch
def glyphs_glass(panel: Panel, context: Context) -> Glass | None:
    """The large drawing on this leaf; None for the panel as it is."""
    return None


@glyphs_glass.register
def _(panel: PixelPanel, context: Context) -> Glass | None:
    return font_glass(context, panel)


@singledispatch
def _lacking(panel: Panel) -> str:
    return "letter that the built-in set lacks"


@_lacking.register
def _(panel: SegmentPanel) -> str:
    return "shape by its segments"


@singledispatch
def _drawn(panel: Panel, own: Mapping[str, Any], letter: str, dot: int) -> list[Line]:
    """A glyph dot by dot."""
    rows = str(own[letter]).split("/")
    lines: list[Line] = []
    for y in range(HEIGHT):
        row = rows[y] if y < len(rows) else "." * WIDTH
        spans = [label("   ")]
        for x in range(WIDTH):
            here, lit = dot % (WIDTH * HEIGHT) == WIDTH * y + x, row[x : x + 1] == "#"
            tone: Tone = "rubric" if here else "verdigris" if lit else "faint"
            spans.append(text("▐█▌" if lit else " · ", tone, bold=here))
        lines.append(tuple(spans))
    return [*lines, (), *_slots(panel, list(own).index(letter), letter)]


def _slots(panel: Panel, code: int, letter: str) -> list[Line]:
    if panel.slots is None:
        return []
    used, room = panel.slots
    line: Line = (
        label(f"   {letter} is code "),
        text(f"0x{code:02X}", "lapis"),
        label(f", {used} of {room} slots used, bars included"),
    )
    return [line, ()]


@_drawn.register
def _(panel: SegmentPanel, own: Mapping[str, Any], letter: str, dot: int) -> list[Line]:
    segments = panel.alphabet.segments
    at = segments[dot % len(segments)]
    named = str(own[letter]).split() if len(segments) > 7 else list(str(own[letter]))
    spans = [
        text(f"{name} ", "rubric" if name == at else "verdigris" if name in named else "faint", bold=name in named)
        for name in segments
    ]
    return [(label(f"   {letter}   "), *spans), ()]
