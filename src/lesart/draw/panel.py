"""A panel on paper, lit by its frame."""

from __future__ import annotations

from typing import TYPE_CHECKING, assert_never

from lesart.core.glass.panels.frame import CharacterFrame, ColourFrame, Frame, PixelFrame, SegmentFrame
from lesart.core.glyphs.segments import ALPHABETS
from lesart.draw.few_colours import few_colours
from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

DIGIT_W, DIGIT_H, BAR = 10.0, 18.0, 2.2
PITCH = 15.0
SLANT = 0.09
"""Slant of digits: shift to the right per millimetre of height."""
DOT, DOT_PITCH, CELL_GAP = 0.9, 1.0, 1.0
MOST_COLOURS = 256
LIFE_EDGE_MM, LIFE_FOOT_MM, LIFE_LEAST_MM = 11.0, 8.0, 96.0
"""Margin around a panel at its own size, below it for the ruler, and the least width for its text."""


def draw_panel(
    frame: Frame,
    ground: str,
    lit: str,
    unlit: str,
    title: str,
    stripe: tuple[int, str, str] | None = None,
    *,
    is_round: bool = False,
) -> Figure:
    """A panel in the millimetres of an ordinary panel of its kind."""
    width, height = _size_mm(frame)
    figure = new_figure(width + 10, height + 16)
    axes = figure.add_axes((5 / (width + 10), 5 / (height + 16), width / (width + 10), height / (height + 16)))
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.axis("off")
    axes.set_title(title, loc="left", fontsize=8, color=INK["text"], parse_math=False)
    _rectangle(axes, 0, 0, width, height, ground, "ground")
    _lit(axes, frame, lit, unlit, stripe, is_round=is_round)
    return figure


def draw_life_size(
    frame: Frame,
    ground: str,
    lit: str,
    unlit: str,
    title: str,
    stripe: tuple[int, str, str] | None = None,
    *,
    is_round: bool = False,
    scale: float,
) -> Figure:
    """The same at its own size: ``scale`` real millimetres per millimetre of an ordinary panel.

    With a 10 mm bar for checking with a ruler, and cut-out lines for the whole of it.
    """
    width, height = (each * scale for each in _size_mm(frame))
    edge, below = LIFE_EDGE_MM, LIFE_FOOT_MM
    across, down = max(width + 2 * edge, LIFE_LEAST_MM), height + 2 * edge + below
    figure = new_figure(across, down)
    axes = figure.add_axes((edge / across, (edge + below) / down, width / across, height / down))
    axes.set_xlim(0, width / scale)
    axes.set_ylim(height / scale, 0)
    axes.axis("off")
    _rectangle(axes, 0, 0, width / scale, height / scale, ground, "ground")
    _lit(axes, frame, lit, unlit, stripe, is_round=is_round)
    page = figure.add_axes((0, 0, 1, 1))
    page.set_xlim(0, across)
    page.set_ylim(0, down)
    page.axis("off")
    page.patch.set_visible(False)
    _cut_out(page, edge, edge + below, width, height)
    page.text(edge, down - edge + 5.5, title, fontsize=8, color=INK["text"], parse_math=False)
    _ruler(page, edge, edge, f"10 mm; cut-out {width:.1f} × {height:.1f} mm; print at 100 %")
    return figure


def _cut_out(axes: Axes, x: float, y: float, width: float, height: float) -> None:
    """Corners of a cut-out, drawn outwards so that no line is on the glass."""
    for at_x, out_x in ((x, -1), (x + width, 1)):
        for at_y, out_y in ((y, -1), (y + height, 1)):
            axes.plot([at_x, at_x + 4 * out_x], [at_y, at_y], color=INK["rubric"], linewidth=0.4, gid="cut-out")
            axes.plot([at_x, at_x], [at_y, at_y + 4 * out_y], color=INK["rubric"], linewidth=0.4, gid="cut-out")


def _ruler(axes: Axes, x: float, y: float, words: str) -> None:
    """A ruler of ten millimetres, with long end strokes."""
    for millimetre in range(11):
        stroke = 2.5 if millimetre % 5 == 0 else 1.4
        axes.plot([x + millimetre] * 2, [y, y + stroke], color=INK["text"], linewidth=0.4, gid="ruler")
    axes.plot([x, x + 10], [y, y], color=INK["text"], linewidth=0.4, gid="ruler")
    axes.text(x + 12, y, words, fontsize=7, color=INK["faint"], parse_math=False)


def _lit(
    axes: Axes, frame: Frame, lit: str, unlit: str, stripe: tuple[int, str, str] | None, *, is_round: bool
) -> None:
    width = _size_mm(frame)[0]
    match frame:
        case SegmentFrame():
            _segments(axes, frame, lit, unlit)
        case ColourFrame():
            _coloured(axes, frame, is_round=is_round)
        case PixelFrame():
            if stripe is not None:
                _rectangle(axes, 0, 0, width, 2 + stripe[0] * DOT_PITCH, stripe[1], "stripe")
            _pixels(axes, frame, lit, stripe, is_round=is_round)
        case CharacterFrame():
            _characters(axes, frame, lit, unlit)
        case _:
            assert_never(frame)


def _size_mm(frame: Frame) -> tuple[float, float]:
    match frame:
        case SegmentFrame():
            return len(frame.masks) * PITCH + 6, DIGIT_H + 8
        case PixelFrame():
            return frame.width * DOT_PITCH + 4, frame.height * DOT_PITCH + 4
        case CharacterFrame():
            rows, columns = len(frame.dots), len(frame.dots[0])
            return columns * (5 * DOT_PITCH + CELL_GAP) + 5, rows * (8 * DOT_PITCH + CELL_GAP) + 5
        case _:
            assert_never(frame)


def _rectangle(axes: Axes, x: float, y: float, width: float, height: float, colour: str, gid: str) -> None:
    from matplotlib.patches import Rectangle

    axes.add_patch(Rectangle((x, y), width, height, facecolor=colour, edgecolor="none", gid=gid))


Corners = list[tuple[float, float]]


def segment_shapes(alphabet: str) -> dict[str, Corners]:
    """Corners of each segment in a digit's box, y downwards, before the slant."""
    half, middle, centre = BAR / 2, DIGIT_H / 2, DIGIT_W / 2
    gap = half * 0.2
    left, right = half * 1.2, DIGIT_W - half * 1.2
    upper, lower = (half + gap, middle - gap), (middle + gap, DIGIT_H - half - gap)
    shapes = {
        "f": _standing(half, *upper),
        "b": _standing(DIGIT_W - half, *upper),
        "e": _standing(half, *lower),
        "c": _standing(DIGIT_W - half, *lower),
    }
    for name, y in (("a", half), ("g", middle), ("d", DIGIT_H - half)):
        shapes[name] = _lying(left, right, y)
        shapes[f"{name}1"], shapes[f"{name}2"] = _lying(left, centre, y), _lying(centre, right, y)
    shapes |= {"j": _standing(centre, *upper), "m": _standing(centre, *lower)}
    inner, outer = centre - half - gap, half * 2 + gap
    for name, x, ends in (
        ("h", (outer, inner), (2 * half, middle - half)),
        ("n", (outer, inner), (-2 * half, half)),
        ("k", (DIGIT_W - outer, DIGIT_W - inner), (2 * half, middle - half)),
        ("l", (DIGIT_W - outer, DIGIT_W - inner), (-2 * half, half)),
    ):
        top = ends if ends[0] > 0 else (DIGIT_H + ends[0], middle + ends[1])
        shapes[name] = _leaning((x[0], top[0]), (x[1], top[1]))
    return {name: shapes[name] for name in ALPHABETS[alphabet].segments}


def _lying(left: float, right: float, y: float) -> Corners:
    half = BAR / 2
    return [
        (left, y),
        (left + half, y - half),
        (right - half, y - half),
        (right, y),
        (right - half, y + half),
        (left + half, y + half),
    ]


def _standing(x: float, top: float, bottom: float) -> Corners:
    half = BAR / 2
    return [
        (x, top),
        (x + half, top + half),
        (x + half, bottom - half),
        (x, bottom),
        (x - half, bottom - half),
        (x - half, top + half),
    ]


def _leaning(outer: tuple[float, float], inner: tuple[float, float]) -> Corners:
    """A bar between two points, cut vertically at both ends."""
    half = BAR / 2
    (x, y), (u, v) = outer, inner
    return [(x, y - half), (u, v - half), (u, v + half), (x, y + half)]


def _segments(axes: Axes, frame: SegmentFrame, lit: str, unlit: str) -> None:
    from matplotlib.patches import Circle, Polygon

    kind, shapes = ALPHABETS[frame.alphabet], segment_shapes(frame.alphabet)
    for digit, mask in enumerate(frame.masks):
        left, top = 4 + digit * PITCH, 4.0
        for bit, name in enumerate(kind.segments):
            corners = [(left + x + (DIGIT_H - y) * SLANT, top + y) for x, y in shapes[name]]
            on = bool(mask >> bit & 1)
            gid = f"{'lit' if on else 'dark'}-{digit}-{name}"
            axes.add_patch(Polygon(corners, facecolor=lit if on else unlit, edgecolor="none", gid=gid))
        on = bool(mask & kind.point)
        lamps = [("point", DIGIT_W + 1.6, DIGIT_H - BAR / 2, on)]
        if mask & kind.colon:
            lamps += [("colon", DIGIT_W + 2.4, y, True) for y in (DIGIT_H * 0.32, DIGIT_H * 0.68)]
        for name, x, y, is_lit in lamps:
            gid = f"{'lit' if is_lit else 'dark'}-{digit}-{name}"
            colour = lit if is_lit else unlit
            axes.add_patch(Circle((left + x, top + y), BAR / 2, facecolor=colour, edgecolor="none", gid=gid))


def _pixels(
    axes: Axes, frame: PixelFrame, lit: str, stripe: tuple[int, str, str] | None, *, is_round: bool = False
) -> None:
    """Each lit pixel as a square, or a disc, with gaps. A row is one path: single patches would be slow to open."""
    for y in range(frame.height):
        places = [x for x in range(frame.width) if frame.lit(x, y)]
        if places:
            colour = stripe[2] if stripe is not None and y < stripe[0] else lit
            _dots(axes, places, y, colour, is_round=is_round)


def _coloured(axes: Axes, frame: ColourFrame, *, is_round: bool) -> None:
    """Each lit pixel in its colour; those of one colour in a row are one path."""
    places, colours = few_colours(frame, MOST_COLOURS)
    for y in range(frame.height):
        row = places[y * frame.width : (y + 1) * frame.width]
        for place in sorted({place for x, place in enumerate(row) if frame.lit(x, y)}):
            lit = [x for x, each in enumerate(row) if each == place and frame.lit(x, y)]
            _dots(axes, lit, y, colours[place], is_round=is_round)


def _dots(axes: Axes, places: list[int], row: int, colour: str, *, is_round: bool) -> None:
    from matplotlib.patches import PathPatch
    from matplotlib.path import Path

    top, half = 2 + row * DOT_PITCH, DOT / 2
    if is_round:
        paths = [Path.circle((2 + x * DOT_PITCH + half, top + half), half) for x in places]
    else:
        corners = ((0.0, 0.0), (DOT, 0.0), (DOT, DOT), (0.0, DOT), (0.0, 0.0))
        paths = [Path([(2 + x * DOT_PITCH + dx, top + dy) for dx, dy in corners], closed=True) for x in places]
    gid = f"lit-{row}-" + "-".join(map(str, places))
    axes.add_patch(PathPatch(Path.make_compound_path(*paths), facecolor=colour, edgecolor="none", gid=gid))


def _characters(axes: Axes, frame: CharacterFrame, lit: str, unlit: str) -> None:
    """Lit dots one by one; unlit ones as a patch behind each cell, to avoid thousands of shapes."""
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
