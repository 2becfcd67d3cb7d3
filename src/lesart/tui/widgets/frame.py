"""A panel's frame in a terminal: segments as half blocks, character cells as half blocks or, where narrow, as dots."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from itertools import groupby

from rich.color import Color
from rich.color_triplet import ColorTriplet
from rich.style import Style

from lesart.core.glass.frame import CharacterFrame, SegmentFrame
from lesart.core.glyphs.segments import POINT, SEGMENTS
from lesart.desk.views import Glass

Line = list[tuple[str, Style]]
Paint = Callable[[int, int], str]
"""Colour of a pixel by x and y."""

_BRAILLE = ((0x01, 0x08), (0x02, 0x10), (0x04, 0x20), (0x40, 0x80))
UNLIT_SEGMENT = 0.17
UNLIT_DOT = 0.12


def blend(ground: str, lit: str, share: float) -> str:
    """A colour on the way from ground to lit."""
    first, second = Color.parse(ground).get_truecolor(), Color.parse(lit).get_truecolor()
    mixed = (round(a + (b - a) * share) for a, b in zip(first, second, strict=True))
    return ColorTriplet(*mixed).hex


@lru_cache(maxsize=64)
def frame_lines(glass: Glass, width: int, *, scale: int = 1) -> list[Line]:
    """The lines that show a frame within ``width`` columns: as large as ``scale`` asks and the width allows.

    Kept, because most pictures show the same panels again; nobody changes the lines.
    """
    if isinstance(glass.frame, SegmentFrame):
        while scale > 1 and _digits_width(len(glass.frame.masks), scale) > width:
            scale -= 1
        return _segment_lines(glass, glass.frame, scale)
    return _character_lines(glass, glass.frame, width)


def _pixels(paint: Paint, columns: int, rows: int) -> list[Line]:
    """Two rows of pixels a line: the upper half block in one colour on the other."""
    lines: list[Line] = []
    for y in range(0, rows, 2):
        pairs = [(paint(x, y), paint(x, y + 1)) for x in range(columns)]
        line: Line = []
        for (upper, lower), run in groupby(pairs):
            length = len(list(run))
            sign = " " if upper == lower else "▀"
            line.append((sign * length, Style(color=upper, bgcolor=lower)))
        lines.append(line)
    return lines


def _digits_width(digits: int, scale: int) -> int:
    return digits * 8 * scale + 2


def _segment_at(x: int, y: int, scale: int) -> str | None:
    """The segment, or ``.`` for the point, whose pixel this is in a digit of 5×11 units; None between them."""
    x, y = x // scale, y // scale
    if not 0 <= y <= 10:
        return None
    if x == 6 and y == 10:
        return "."
    if 1 <= x <= 3:
        return {0: "a", 5: "g", 10: "d"}.get(y)
    if x in (0, 4) and y not in (0, 5, 10):
        upper = y < 5
        return ("f" if upper else "e") if x == 0 else ("b" if upper else "c")
    return None


def _segment_lines(glass: Glass, frame: SegmentFrame, scale: int) -> list[Line]:
    dark = blend(glass.ground, glass.lit, UNLIT_SEGMENT)
    pitch, margin = 8 * scale, scale

    def paint(x: int, y: int) -> str:
        digit, across = divmod(x - 2 * margin, pitch)
        if not 0 <= digit < len(frame.masks):
            return glass.ground
        segment = _segment_at(across, y - margin, scale)
        if segment is None:
            return glass.ground
        bit = POINT if segment == "." else 1 << SEGMENTS.index(segment)
        return glass.lit if frame.masks[digit] & bit else dark

    return _pixels(paint, len(frame.masks) * pitch + 2 * margin, 11 * scale + 2 * margin + 1)


def _character_lines(glass: Glass, frame: CharacterFrame, width: int) -> list[Line]:
    columns, rows = len(frame.dots[0]), len(frame.dots)
    if columns * 6 + 3 <= width:
        return _character_pixels(glass, frame, columns, rows)
    return _character_dots(glass, frame, columns, rows)


def _character_pixels(glass: Glass, frame: CharacterFrame, columns: int, rows: int) -> list[Line]:
    """A pixel a dot, with the unlit dots of each cell to be seen against the gaps."""
    unlit = blend(glass.ground, glass.lit, UNLIT_DOT)

    def paint(x: int, y: int) -> str:
        column, across = divmod(x - 2, 6)
        row, down = divmod(y - 2, 9)
        if not (0 <= column < columns and 0 <= row < rows) or across == 5 or down == 8:
            return glass.ground
        return glass.lit if frame.dots[row][column][down] >> (4 - across) & 1 else unlit

    return _pixels(paint, columns * 6 + 3, rows * 9 + 3)


def _character_dots(glass: Glass, frame: CharacterFrame, columns: int, rows: int) -> list[Line]:
    """A braille dot a dot."""

    def lit(x: int, y: int) -> bool:
        column, across = divmod(x - 2, 6)
        row, down = divmod(y - 2, 9)
        if not (0 <= column < columns and 0 <= row < rows) or across == 5 or down == 8:
            return False
        return bool(frame.dots[row][column][down] >> (4 - across) & 1)

    ink = Style(color=glass.lit, bgcolor=glass.ground, bold=True)
    lines: list[Line] = []
    for top in range(0, rows * 9 + 3, 4):
        signs = []
        for left in range(0, columns * 6 + 4, 2):
            code = sum(
                _BRAILLE[down][across] for down in range(4) for across in range(2) if lit(left + across, top + down)
            )
            signs.append(chr(0x2800 + code))
        lines.append([("".join(signs), ink)])
    return lines
