"""A look drawn in letters, small enough for several beside each other."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Bools
from lesart.core.glass.panels.frame import CharacterFrame, Frame, PixelFrame, SegmentFrame
from lesart.core.glass.panels.pixels import pixels_of
from lesart.core.glyphs.segments import ALPHABETS, lit_names

QUADRANTS = " ▘▝▀▖▌▞▛▗▚▐▜▄▙▟█"
"""By the dots that are lit: upper left 1, upper right 2, lower left 4, lower right 8."""
WIDEST = 32
"""Letters of a look: two stand beside each other."""
SEVEN = "7"


def drawn(frame: Frame) -> list[str]:
    """Lines of one width."""
    match frame:
        case SegmentFrame():
            return _seven(frame) if frame.alphabet == SEVEN else _named(frame)
        case CharacterFrame():
            return _quadrants(_dots_of(frame))
        case PixelFrame():
            return _quadrants(pixels_of(frame))


def _seven(frame: SegmentFrame) -> list[str]:
    """Three lines a digit, as a person would draw it on paper."""
    names = "abcdefg"
    lines = ["", "", ""]
    for mask in frame.masks:
        lit = {name for bit, name in enumerate(names) if mask >> bit & 1}
        point = mask >> len(names) & 1
        marks = dict(zip(names, "_||_||_", strict=True))
        at = {name: marks[name] if name in lit else " " for name in names}
        lines[0] += f" {at['a']}   "
        lines[1] += f"{at['f']}{at['g']}{at['b']}  "
        lines[2] += f"{at['e']}{at['d']}{at['c']}{'.' if point else ' '} "
    return lines


def _named(frame: SegmentFrame) -> list[str]:
    """Digits with more segments by the names of those that are lit."""
    parts = [lit_names(mask, frame.alphabet) or "dark" for mask in frame.masks]
    assert frame.alphabet in ALPHABETS
    return [" | ".join(parts)]


def _dots_of(frame: CharacterFrame) -> Bools:
    """All dots of all cells, a gap of one between cells."""
    rows, columns = len(frame.dots), len(frame.dots[0])
    dots = np.zeros((rows * 9, columns * 6), np.bool_)
    for row, cells in enumerate(frame.dots):
        for column, cell in enumerate(cells):
            for down, bits in enumerate(cell):
                for across in range(5):
                    dots[row * 9 + down, column * 6 + across] = bits >> 4 - across & 1
    return dots


def _quadrants(dots: Bools) -> list[str]:
    """Four dots a letter; a large picture in little, where one lit dot of several lights all of them."""
    by = max(-(-dots.shape[1] // (2 * WIDEST)), 1)
    by = 1 if by == 2 and dots.shape[1] <= 2 * WIDEST * 2 and dots.shape[0] <= 20 else by
    high, wide = (-(-size // (2 * by)) * 2 * by for size in dots.shape)
    padded = np.zeros((high, wide), np.bool_)
    padded[: dots.shape[0], : dots.shape[1]] = dots
    small = np.asarray(padded.reshape(high // by, by, wide // by, by).any(axis=(1, 3)))
    index = small[::2, ::2] * 1 + small[::2, 1::2] * 2 + small[1::2, ::2] * 4 + small[1::2, 1::2] * 8
    return ["".join(QUADRANTS[each] for each in row) for row in index.tolist()]
