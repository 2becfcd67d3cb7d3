"""A panel's frame in a terminal: segments as half blocks, character cells as half blocks or, where narrow, as dots."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from itertools import groupby
from typing import assert_never

from rich.style import Style

from lesart.core.glass.panels.frame import CharacterFrame, PixelFrame, SegmentFrame
from lesart.study.colours import blend
from lesart.study.views import Glass
from lesart.tui.widgets.digit import HEIGHT, bits_of, name_at, pitch_of

Line = list[tuple[str, Style]]
Paint = Callable[[int, int], str]
"""Colour of a pixel by x and y."""
Tint = Callable[[int, int], tuple[str, str]]
MARK, MARKED, CLASHING = "#d9583b", 0.35, 0.8
"""Of the item that is worked on a share of rubric red; more of it where two items want one cell."""

_BRAILLE = ((0x01, 0x08), (0x02, 0x10), (0x04, 0x20), (0x40, 0x80))


@lru_cache(maxsize=64)
def frame_lines(glass: Glass, width: int, *, scale: int = 1) -> list[Line]:
    """The lines that show a frame within ``width`` columns: as large as ``scale`` asks and the width allows.

    Kept, because most pictures show the same panels again; nobody changes the lines.
    """
    match glass.frame:
        case SegmentFrame():
            return _segment_lines(glass, glass.frame, width, scale)
        case PixelFrame():
            return _pixel_lines(glass, glass.frame, width, scale)
        case CharacterFrame():
            return _character_lines(glass, glass.frame, width)
        case _:
            assert_never(glass.frame)


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


def _digits_width(frame: SegmentFrame, scale: int) -> int:
    return len(frame.masks) * pitch_of(frame.alphabet) * scale + 2 * scale


def _segment_lines(glass: Glass, frame: SegmentFrame, width: int, scale: int) -> list[Line]:
    while scale > 1 and _digits_width(frame, scale) > width:
        scale -= 1
    pitch, margin, count = pitch_of(frame.alphabet) * scale, scale, len(frame.masks)
    bits = bits_of(frame.alphabet)

    def bit_at(x: int, y: int) -> tuple[int, int]:
        """Digit and mask of the lamp at a pixel; 0 where there is none."""
        digit, across = divmod(x - 2 * margin, pitch)
        name = name_at(frame.alphabet, across // scale, (y - margin) // scale) if 0 <= digit < count else None
        return digit, bits[name] if name else 0

    def paint(x: int, y: int) -> str:
        digit, bit = bit_at(x, y)
        if not bit or (bit == bits[":"] and not frame.masks[digit] & bit):
            return glass.ground
        return glass.lit if frame.masks[digit] & bit else dark_at(glass, 0, digit)

    columns, rows = count * pitch + 2 * margin, HEIGHT * scale + 2 * margin + 1
    if columns <= width:
        return _pixels(paint, columns, rows)
    return _dots(glass, lambda x, y: paint(x, y) == glass.lit, columns, rows)


def _pixel_lines(glass: Glass, frame: PixelFrame, width: int, scale: int) -> list[Line]:
    """A pixel of the panel as one of the terminal's, or as a dot where it is wider than the room, or fewer of them."""
    while scale > 1 and (frame.width + 2) * scale > width:
        scale -= 1
    if frame.width + 2 <= width:
        columns, rows = (frame.width + 2) * scale, (frame.height + 2) * scale

        def paint(x: int, y: int) -> str:
            across, down = x // scale - 1, y // scale - 1
            if frame.lit(across, down):
                return _light_at(glass, down)[1]
            return pixel_ground(glass, down, across)

        return _pixels(paint, columns, rows + rows % 2)
    shrunk = shrunk_to(frame, max(2 * width - 6, 8))
    factor = frame.width / shrunk.width
    tint = _tints(glass, factor) if glass.marked or glass.struck or glass.stripe else None
    return _dots(glass, lambda x, y: shrunk.lit(x - 2, y - 2), shrunk.width + 4, shrunk.height + 4, tint)


def _light_at(glass: Glass, row: int) -> tuple[str, str]:
    """Ground and light of a row of pixels."""
    if glass.stripe is not None and row < glass.stripe[0]:
        return glass.stripe[1], glass.stripe[2]
    return glass.ground, glass.lit


def _tints(glass: Glass, factor: float) -> Tint:
    """Ink of a sign of dots, by its upper left dot: of its stripe, and on what is marked or struck."""

    def tint(left: int, top: int) -> tuple[str, str]:
        x, y, behind, foot = (round((edge - 2) * factor) for edge in (left, top, left + 2, top + 4))
        ground, lit = _light_at(glass, y)
        if any(x < right and one < behind and y < end and first < foot for one, first, right, end in glass.struck):
            return blend(ground, MARK, CLASHING), lit
        marked = any(y <= row < foot and first < behind and x < last for row, first, last in glass.marked)
        return (blend(ground, MARK, MARKED) if marked else ground), lit

    return tint


def pixel_ground(glass: Glass, row: int, column: int) -> str:
    """Behind the pixels; above and below the item that is worked on a line of rubric red, and where two items clash."""
    ground = _light_at(glass, row)[0]
    if any(left <= column < right and top <= row < foot for left, top, right, foot in glass.struck):
        return blend(ground, MARK, CLASHING)
    if any(row == at and first <= column < behind for at, first, behind in glass.marked):
        return blend(ground, MARK, MARKED)
    return ground


def shrunk_to(frame: PixelFrame, width: int) -> PixelFrame:
    """The frame in fewer pixels, each lit where one of those it stands for is; itself where there is room."""
    if frame.width <= width:
        return frame
    height = max(frame.height * width // frame.width, 1)
    rows = [0] * height
    for y in range(frame.height):
        row = 0
        for x in range(frame.width):
            if frame.lit(x, y):
                row |= 1 << (width - 1 - x * width // frame.width)
        rows[y * height // frame.height] |= row
    return PixelFrame(width, height, tuple(rows))


def dark_at(glass: Glass, row: int, column: int) -> str:
    """The colour of what is there but dark: of the item that is worked on it stands out."""
    if (row, column) in glass.clashing:
        return blend(glass.unlit, MARK, CLASHING)
    if any(row == at and first <= column < behind for at, first, behind in glass.marked):
        return blend(glass.unlit, MARK, MARKED)
    return glass.unlit


def _character_lines(glass: Glass, frame: CharacterFrame, width: int) -> list[Line]:
    columns, rows = len(frame.dots[0]), len(frame.dots)
    if columns * 6 + 3 <= width:
        return _character_pixels(glass, frame, columns, rows)
    return _character_dots(glass, frame, columns, rows)


def _character_pixels(glass: Glass, frame: CharacterFrame, columns: int, rows: int) -> list[Line]:
    """A pixel a dot, with the unlit dots of each cell to be seen against the gaps."""

    def paint(x: int, y: int) -> str:
        column, across = divmod(x - 2, 6)
        row, down = divmod(y - 2, 9)
        if not (0 <= column < columns and 0 <= row < rows) or across == 5 or down == 8:
            return glass.ground
        return glass.lit if frame.dots[row][column][down] >> (4 - across) & 1 else dark_at(glass, row, column)

    return _pixels(paint, columns * 6 + 3, rows * 9 + 3)


def _character_dots(glass: Glass, frame: CharacterFrame, columns: int, rows: int) -> list[Line]:
    """A braille dot a dot."""

    def lit(x: int, y: int) -> bool:
        column, across = divmod(x - 2, 6)
        row, down = divmod(y - 2, 9)
        if not (0 <= column < columns and 0 <= row < rows) or across == 5 or down == 8:
            return False
        return bool(frame.dots[row][column][down] >> (4 - across) & 1)

    return _dots(glass, lit, columns * 6 + 3, rows * 9 + 3)


def _dots(
    glass: Glass, lit: Callable[[int, int], bool], columns: int, rows: int, tint: Tint | None = None
) -> list[Line]:
    """Eight dots a sign, lit or not: for what is too wide for a pixel each. ``tint``: ground and light of a sign."""
    ink = Style(color=glass.lit, bgcolor=glass.ground, bold=True)
    lines: list[Line] = []
    for top in range(0, rows, 4):
        signs = []
        for left in range(0, columns + 1, 2):
            code = sum(
                _BRAILLE[down][across] for down in range(4) for across in range(2) if lit(left + across, top + down)
            )
            signs.append(chr(0x2800 + code))
        if tint is None:
            lines.append([("".join(signs), ink)])
            continue
        inks = [tint(2 * place, top) for place in range(len(signs))]
        line: Line = []
        for (ground, light), run in groupby(zip(inks, signs, strict=True), key=lambda each: each[0]):
            line.append(("".join(sign for _, sign in run), Style(color=light, bgcolor=ground, bold=True)))
        lines.append(line)
    return lines
