"""A panel on paper, lit by its frame."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.glass.frame import CharacterFrame, Frame, SegmentFrame
from lesart.core.glyphs.segments import POINT, SEGMENTS
from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

DIGIT_W, DIGIT_H, BAR = 10.0, 18.0, 2.2
PITCH = 15.0
SLANT = 0.09
"""Shift to the right per millimetre of height, as such digits lean."""
DOT, DOT_PITCH, CELL_GAP = 0.9, 1.0, 1.0


def draw_panel(frame: Frame, ground: str, lit: str, title: str) -> Figure:
    """Millimetres of the drawing are those of an ordinary panel of its kind."""
    if isinstance(frame, SegmentFrame):
        width, height = len(frame.masks) * PITCH + 6, DIGIT_H + 8
    else:
        rows, columns = len(frame.dots), len(frame.dots[0])
        width = columns * (5 * DOT_PITCH + CELL_GAP) + 5
        height = rows * (8 * DOT_PITCH + CELL_GAP) + 5
    figure = new_figure(width + 10, height + 16)
    axes = figure.add_axes((5 / (width + 10), 5 / (height + 16), width / (width + 10), height / (height + 16)))
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.axis("off")
    axes.set_title(title, loc="left", fontsize=8, color=INK["text"], parse_math=False)
    _rectangle(axes, 0, 0, width, height, ground, "ground")
    if isinstance(frame, SegmentFrame):
        _segments(axes, frame, ground, lit)
    else:
        _characters(axes, frame, ground, lit)
    return figure


def blended(ground: str, lit: str, share: float) -> str:
    """A colour on the way from ground to lit: of what is there but dark."""
    pairs = zip(bytes.fromhex(ground[1:]), bytes.fromhex(lit[1:]), strict=True)
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in pairs)


def _rectangle(axes: Axes, x: float, y: float, width: float, height: float, colour: str, gid: str) -> None:
    from matplotlib.patches import Rectangle

    axes.add_patch(Rectangle((x, y), width, height, facecolor=colour, edgecolor="none", gid=gid))


def segment_shapes() -> dict[str, list[tuple[float, float]]]:
    """Six corners of each segment in a digit's box, y downwards, before the slant."""
    half = BAR / 2
    middle = DIGIT_H / 2

    def lying(y: float) -> list[tuple[float, float]]:
        left, right = half * 1.2, DIGIT_W - half * 1.2
        return [
            (left, y), (left + half, y - half), (right - half, y - half), (right, y), (right - half, y + half),
            (left + half, y + half),
        ]  # fmt: skip

    def standing(x: float, top: float, bottom: float) -> list[tuple[float, float]]:
        return [
            (x, top), (x + half, top + half), (x + half, bottom - half), (x, bottom), (x - half, bottom - half),
            (x - half, top + half),
        ]  # fmt: skip

    gap = half * 0.2
    upper, lower = (half + gap, middle - gap), (middle + gap, DIGIT_H - half - gap)
    return {
        "a": lying(half), "g": lying(middle), "d": lying(DIGIT_H - half),
        "f": standing(half, *upper), "b": standing(DIGIT_W - half, *upper),
        "e": standing(half, *lower), "c": standing(DIGIT_W - half, *lower),
    }  # fmt: skip


def _segments(axes: Axes, frame: SegmentFrame, ground: str, lit: str) -> None:
    from matplotlib.patches import Circle, Polygon

    dark = blended(ground, lit, 0.17)
    shapes = segment_shapes()
    for digit, mask in enumerate(frame.masks):
        left, top = 4 + digit * PITCH, 4.0
        for bit, name in enumerate(SEGMENTS):
            corners = [(left + x + (DIGIT_H - y) * SLANT, top + y) for x, y in shapes[name]]
            on = bool(mask >> bit & 1)
            state = "lit" if on else "dark"
            axes.add_patch(
                Polygon(corners, facecolor=lit if on else dark, edgecolor="none", gid=f"{state}-{digit}-{name}")
            )
        on = bool(mask & POINT)
        centre = (left + DIGIT_W + 1.6, top + DIGIT_H - BAR / 2)
        state = "lit" if on else "dark"
        axes.add_patch(
            Circle(centre, BAR / 2, facecolor=lit if on else dark, edgecolor="none", gid=f"{state}-{digit}-point")
        )


def _characters(axes: Axes, frame: CharacterFrame, ground: str, lit: str) -> None:
    """Lit dots one by one; unlit ones as a patch behind each cell, or a file would hold thousands of them."""
    unlit = blended(ground, lit, 0.12)
    for row, cells in enumerate(frame.dots):
        for column, rows in enumerate(cells):
            left = 3 + column * (5 * DOT_PITCH + CELL_GAP)
            top = 3 + row * (8 * DOT_PITCH + CELL_GAP)
            _rectangle(axes, left - 0.05, top - 0.05, 5 * DOT_PITCH, 8 * DOT_PITCH, unlit, f"cell-{row}-{column}")
            for down, bits in enumerate(rows):
                for across in range(5):
                    if bits >> (4 - across) & 1:
                        gid = f"lit-{row}-{column}-{across}-{down}"
                        _rectangle(axes, left + across * DOT_PITCH, top + down * DOT_PITCH, DOT, DOT, lit, gid)
