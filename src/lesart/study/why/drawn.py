"""A look drawn in letters, small enough for several side by side."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from lesart.core.block import Bools
from lesart.core.glass.panels.frame import CharacterFrame, ColourFrame, Frame, PixelFrame, SegmentFrame
from lesart.core.glass.panels.pixel_colours import COLOURS, rgb
from lesart.core.glass.panels.pixels import colours_of, pixels_of
from lesart.core.glyphs.charsets import SETS
from lesart.core.glyphs.segments import ALPHABETS, lit_names

QUADRANTS = " ▘▝▀▖▌▞▛▗▚▐▜▄▙▟█"
"""Letters by lit dots: upper left 1, upper right 2, lower left 4, lower right 8."""
WIDEST = 32
"""Width of a look in letters: two fit side by side."""
MOST_NAMED = 4
"""Most colours named of a look."""
SEVEN, STRANGE = "7", "▒"


def drawn(frame: Frame) -> list[str]:
    """The look as lines of equal width."""
    match frame:
        case SegmentFrame():
            return _seven(frame) if frame.alphabet == SEVEN else _named(frame)
        case CharacterFrame():
            return _letters(frame)
        case ColourFrame():
            rows, colours = _quadrants(pixels_of(frame)), _colours(frame)
            wide = max(len(rows[0]), len(colours))
            return [row.ljust(wide) for row in (*rows, colours)]
        case PixelFrame():
            return _quadrants(pixels_of(frame))


def _seven(frame: SegmentFrame) -> list[str]:
    """Digits in three lines, as a person would draw them on paper."""
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
    """Digits with more segments by the names of lit ones."""
    parts = [lit_names(mask, frame.alphabet) or "dark" for mask in frame.masks]
    assert frame.alphabet in ALPHABETS
    return [" | ".join(parts)]


def _colours(frame: ColourFrame) -> str:
    """The main colours, by their nearest names, as many as there is room for."""
    names, exact = list(COLOURS), np.array([rgb(each) for each in COLOURS.values()], np.int64)
    pixels = colours_of(frame).reshape(-1, 3)
    found, counts = np.unique(pixels, axis=0, return_counts=True)
    by_name: Counter[str] = Counter()
    for colour, count in zip(found.astype(np.int64), counts.tolist(), strict=True):
        by_name[names[int(((exact - colour) ** 2).sum(axis=1).argmin())]] += count
    said = [name for name, _ in by_name.most_common(MOST_NAMED)]
    while len(", ".join(said)) > WIDEST:
        said.pop()
    return ", ".join(said)


def _letters(frame: CharacterFrame) -> list[str]:
    """Rows between bars, each cell as the letter of its dots; a shade for no letter."""
    known = _letters_by_dots()
    return [f"│{''.join(known.get(cell, STRANGE) for cell in cells)}│" for cells in frame.dots]


@lru_cache(maxsize=1)
def _letters_by_dots() -> Mapping[tuple[int, ...], str]:
    """Letters of all sets by dots; of equal looks the plainest."""
    found: dict[tuple[int, ...], str] = {(31,) * 8: "█", (0,) * 8: " "}
    for each in SETS.values():
        for code, letter in sorted(each.letters.items(), key=lambda entry: not entry[1].isascii()):
            if letter.isprintable():
                found.setdefault(each.dots(code), letter)
    return found


def _quadrants(dots: Bools) -> list[str]:
    """Four dots per letter; a large picture in miniature, where one lit dot of several lights all of them."""
    by = max(-(-dots.shape[1] // (2 * WIDEST)), 1)
    by = 1 if by == 2 and dots.shape[1] <= 2 * WIDEST * 2 and dots.shape[0] <= 20 else by
    high, wide = (-(-size // (2 * by)) * 2 * by for size in dots.shape)
    padded = np.zeros((high, wide), np.bool_)
    padded[: dots.shape[0], : dots.shape[1]] = dots
    small = np.asarray(padded.reshape(high // by, by, wide // by, by).any(axis=(1, 3)))
    index = small[::2, ::2] * 1 + small[::2, 1::2] * 2 + small[1::2, ::2] * 4 + small[1::2, 1::2] * 8
    return ["".join(QUADRANTS[each] for each in row) for row in index.tolist()]
