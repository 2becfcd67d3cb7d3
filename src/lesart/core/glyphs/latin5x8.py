"""Accented letters for 5×8 cells: our own drawings of letter and accent combined.

Small letters leave the two top rows free; accented capitals are drawn lower, in five rows.
"""

from __future__ import annotations

import unicodedata

from lesart.core.glyphs.cell5x8 import CELLS_5X8
from lesart.core.glyphs.dots import HEIGHT, dots_of

_MARKS = {
    "\N{COMBINING GRAVE ACCENT}": ".#.../..#..",
    "\N{COMBINING ACUTE ACCENT}": "...#./..#..",
    "\N{COMBINING CIRCUMFLEX ACCENT}": "..#../.#.#.",
    "\N{COMBINING TILDE}": ".#..#/#.##.",
    "\N{COMBINING DIAERESIS}": ".#.#./.....",
    "\N{COMBINING RING ABOVE}": "..#../..#..",
}
_LOW = {
    "A": "...../...../.###./#...#/#####/#...#/#...#",
    "C": "...../...../.####/#..../#..../#..../.####",
    "E": "...../...../#####/#..../###../#..../#####",
    "I": "...../...../.###./..#../..#../..#../.###.",
    "N": "...../...../#...#/##..#/#.#.#/#..##/#...#",
    "O": "...../...../#####/#...#/#...#/#...#/#####",  # square, so that it is not the small letter
    "U": "...../...../#...#/#...#/#...#/#...#/.###.",
    "Y": "...../...../#...#/.#.#./..#../..#../..#..",
    "i": "...../...../.##../..#../..#../..#../.###.",
}
_CEDILLA = {
    "Ç": ".###./#...#/#..../#..../#...#/.###./..#../.##..",
    "ç": "...../...../.###./#..../#...#/.###./..#../.##..",
}
ACCENTED = "ÀÁÂÃÄÅÈÉÊËÌÍÎÏÑÒÓÔÕÖÙÚÛÜÝàáâãäåèéêëìíîïñòóôõöùúûüýÿ"


def _marked(letter: str) -> tuple[int, ...]:
    base, mark = tuple(unicodedata.normalize("NFD", letter))
    body = dots_of(_LOW[base]) if base in _LOW else CELLS_5X8[base]
    over = dots_of(_MARKS[mark])
    return tuple(over[row] | body[row] for row in range(HEIGHT))


LATIN: dict[str, tuple[int, ...]] = {letter: _marked(letter) for letter in ACCENTED} | {
    letter: dots_of(drawn) for letter, drawn in _CEDILLA.items()
}
