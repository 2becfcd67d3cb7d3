"""Shapes on 7, 14 and 16 segments: our own alphabets.

Segments are lettered as is usual: a on top, then clockwise b to f; g in the middle, in two halves, g1 and g2, where
there are 14 or more; h j k l m n go clockwise from the upper left diagonal inside. With 16, top and bottom have two
halves, a1 a2 and d1 d2. In a mask the first segment is bit 0; the point comes after the last segment, the colon after
that.

Only letters that can be told from each other and from digits are here. On seven segments that leaves out O, S and Z;
small letters are used where the capital would read as a digit (b for 8, d for 0, o for 0).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class Alphabet:
    """A kind of digit: ``segments`` in the order of the mask's bits, ``shapes`` as masks by letter."""

    name: str
    segments: tuple[str, ...]
    shapes: Mapping[str, int] = field(hash=False, compare=False)

    @property
    def point(self) -> int:
        """The mask of the decimal point."""
        return 1 << len(self.segments)

    @property
    def colon(self) -> int:
        """The mask of a colon after the digit."""
        return 1 << (len(self.segments) + 1)

    def mask(self, lit: str) -> int:
        """The mask of segments named, with blanks between where names have two letters. Raises ValueError."""
        names = list(lit.replace(" ", "")) if len(self.segments) == SEVEN else lit.split()
        unknown = [name for name in names if name not in self.segments]
        if unknown:
            raise ValueError(f'"{unknown[0]}" is not a segment of such a digit; it has {" ".join(self.segments)}')
        return sum(1 << self.segments.index(name) for name in dict.fromkeys(names))

    def names(self, mask: int) -> str:
        """Lit segments by name, a ``.`` and a ``:`` after them for point and colon."""
        named = [name for bit, name in enumerate(self.segments) if mask >> bit & 1]
        text = ("" if len(self.segments) == SEVEN else " ").join(named)
        return text + ("." if mask & self.point else "") + (":" if mask & self.colon else "")


SEVEN = 7
SEGMENTS = "abcdefg"
POINT = 0x80

_LIT_7 = {
    " ": "",
    "0": "abcdef",
    "1": "bc",
    "2": "abdeg",
    "3": "abcdg",
    "4": "bcfg",
    "5": "acdfg",
    "6": "acdefg",
    "7": "abc",
    "8": "abcdefg",
    "9": "abcdfg",
    "-": "g",
    "_": "d",
    "=": "dg",
    "°": "abfg",
    "A": "abcefg",
    "C": "adef",
    "E": "adefg",
    "F": "aefg",
    "H": "bcefg",
    "J": "bcde",
    "L": "def",
    "P": "abefg",
    "U": "bcdef",
    "b": "cdefg",
    "c": "deg",
    "d": "bcdeg",
    "h": "cefg",
    "n": "ceg",
    "o": "cdeg",
    "r": "eg",
    "t": "defg",
    "u": "cde",
    "y": "bcdfg",
}
_LIT_14 = {
    " ": "",
    "0": "a b c d e f k n",
    "1": "b c k",
    "2": "a b d e g1 g2",
    "3": "a b c d g2",
    "4": "b c f g1 g2",
    "5": "a c d f g1 g2",
    "6": "a c d e f g1 g2",
    "7": "a b c",
    "8": "a b c d e f g1 g2",
    "9": "a b c d f g1 g2",
    "-": "g1 g2",
    "+": "g1 g2 j m",
    "*": "g1 g2 h j k l m n",
    "/": "k n",
    "\\": "h l",
    "=": "d g1 g2",
    "_": "d",
    "<": "k l",
    ">": "h n",
    "'": "j",
    '"': "f j",
    "|": "j m",
    "°": "a b f g1 g2",
    "%": "c f k n",
    "?": "a b g2 m",
    "A": "a b c e f g1 g2",
    "B": "a b c d g2 j m",
    "C": "a d e f",
    "D": "a b c d j m",
    "E": "a d e f g1 g2",
    "F": "a e f g1",
    "G": "a c d e f g2",
    "H": "b c e f g1 g2",
    "I": "a d j m",
    "J": "b c d e",
    "K": "e f g1 k l",
    "L": "d e f",
    "M": "b c e f h k",
    "N": "b c e f h l",
    "O": "a b c d e f",
    "P": "a b e f g1 g2",
    "Q": "a b c d e f l",
    "R": "a b e f g1 g2 l",
    "S": "a c d g2 h",
    "T": "a j m",
    "U": "b c d e f",
    "V": "e f k n",
    "W": "b c e f l n",
    "X": "h k l n",
    "Y": "h k m",
    "Z": "a d k n",
    "a": "d e g1 m",
    "b": "d e f g1 l",
    "c": "d e g1 g2",
    "d": "b c d g2 n",
    "h": "c e f g1 g2",
    "i": "m",
    "k": "j k l m",
    "l": "e f",
    "m": "c e g1 g2 m",
    "n": "c e g1 g2",
    "o": "c d e g1 g2",
    "r": "e g1 g2",
    "t": "d e f g1",
    "u": "c d e",
    "v": "e n",
    "w": "c e l n",
    "y": "b c d f g2",
    "z": "d g1 n",
    "µ": "e f g1 j",
}
_HALVES = {"a": "a1 a2", "d": "d1 d2"}
_OWN_16 = {
    "°": "a2 b g2 j",
    "%": "a1 c d2 f g1 g2 j k m n",
    "t": "d1 e f g1",
    "a": "d1 e g1 m",
    "z": "d1 g1 n",
    "F": "a1 a2 e f g1",
    "I": "a1 a2 d1 d2 j m",
}


def _doubled(lit: str) -> str:
    """The mask on sixteen segments, where top and bottom have two halves."""
    return " ".join(_HALVES.get(name, name) for name in lit.split())


def _alphabet(name: str, segments: str, lit: Mapping[str, str]) -> Alphabet:
    empty = Alphabet(name, tuple(segments.split()), {})
    return Alphabet(name, empty.segments, {letter: empty.mask(names) for letter, names in lit.items()})


ALPHABETS: dict[str, Alphabet] = {
    "7": _alphabet("7", "a b c d e f g", _LIT_7),
    "14": _alphabet("14", "a b c d e f g1 g2 h j k l m n", _LIT_14),
    "16": _alphabet(
        "16",
        "a1 a2 b c d1 d2 e f g1 g2 h j k l m n",
        {letter: _OWN_16.get(letter, _doubled(lit)) for letter, lit in _LIT_14.items()},
    ),
}


def lit_names(mask: int, alphabet: str = "7") -> str:
    """Names of the lit segments, a ``.`` after them for the point."""
    return ALPHABETS[alphabet].names(mask)
