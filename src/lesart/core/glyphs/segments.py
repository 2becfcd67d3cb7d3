"""Shapes on seven segments.

Segments are lettered as the trade does: a on top, then clockwise b to f, g in the middle; the point is bit 7. In a mask
segment a is bit 0. Only letters that can be told from each other and from digits are here, so O, S and Z are not; the
small letters stand where the capital would be read as a digit (b for 8, d for 0, o for 0).
"""

SEGMENTS = "abcdefg"
POINT = 0x80


def mask_of(lit: str) -> int:
    """The bit mask of segments named by their letters."""
    return sum(1 << SEGMENTS.index(segment) for segment in lit)


def lit_names(mask: int) -> str:
    """Letters of the lit segments, a ``.`` behind them for the point."""
    names = "".join(name for bit, name in enumerate(SEGMENTS) if mask >> bit & 1)
    return names + ("." if mask & POINT else "")


_LIT = {
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
SHAPES_7: dict[str, int] = {letter: mask_of(lit) for letter, lit in _LIT.items()}
