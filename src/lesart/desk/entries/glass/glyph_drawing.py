"""A person's own glyph, drawn dot by dot or segment by segment, as its panel has them."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.dots import HEIGHT, WIDTH

EMPTY = "/".join(["." * WIDTH] * (HEIGHT - 1))
"""An empty glyph. The lowest row is left for a cursor, as in built-in letters."""


@singledispatch
def empty_glyph(panel: Panel) -> str:
    """A new glyph, as the project file has it."""
    return EMPTY


@empty_glyph.register
def _(panel: SegmentPanel) -> str:
    return ""


@singledispatch
def dot_beside(panel: Panel, dot: int, right: int, down: int) -> int:
    """The number of the dot at a distance, wrapping at the edges."""
    y, x = divmod(dot % (WIDTH * HEIGHT), WIDTH)
    return (y + down) % HEIGHT * WIDTH + (x + right) % WIDTH


@dot_beside.register
def _(panel: SegmentPanel, dot: int, right: int, down: int) -> int:
    return (dot + right + down) % len(panel.alphabet.segments)


@singledispatch
def glyph_turned(panel: Panel, written: str, dot: int) -> tuple[str, str]:
    """The drawing with one dot toggled, and which one that is, in words."""
    rows = [list(row.ljust(WIDTH, ".")) for row in (written.split("/") + [""] * HEIGHT)[:HEIGHT]]
    y, x = divmod(dot % (WIDTH * HEIGHT), WIDTH)
    rows[y][x] = "." if rows[y][x] == "#" else "#"
    return "/".join("".join(row) for row in rows), f"dot {x + 1} of row {y + 1}"


@glyph_turned.register
def _(panel: SegmentPanel, written: str, dot: int) -> tuple[str, str]:
    segments = panel.alphabet.segments
    name = segments[dot % len(segments)]
    return panel.alphabet.names(panel.alphabet.mask(written) ^ panel.alphabet.mask(name)), name
