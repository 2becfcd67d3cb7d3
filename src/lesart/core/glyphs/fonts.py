"""Fonts for pixel panels: our own drawings, proportional or fixed, and larger sizes made from smaller ones.

Text of 7 pixels is drawn as for character cells; that of 5 and of 4 has drawings of its own. Larger ones are these,
doubled or tripled with their corners cut, so that slopes stay slopes; or plainly, as programs enlarge small letters.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import field
from functools import cached_property, lru_cache

from lesart.core.dataclass_later import dataclass
from lesart.core.glyphs.charsets import GLYPHS
from lesart.core.glyphs.narrow7 import narrow_rows
from lesart.core.glyphs.text5 import TEXT_5
from lesart.core.glyphs.tiny4 import TINY_4

DIGITS = "0123456789"
UNIT_LETTERS = "ABCFGHJKLMNOPSTUVWabcdefghiklmnopqrstuvxyzµΩ°²³·¹Δ‰ε"
"""All letters that units are written with."""
NUMERALS = f"{DIGITS}+-.,:%/°=_ {UNIT_LETTERS}"
FIXED = " fixed"
UNKNOWN = "?"


@dataclass(frozen=True)
class Glyph:
    """``rows`` from the top of the font's line, the leftmost pixel the highest of ``width`` bits."""

    width: int
    rows: tuple[int, ...]


@dataclass(frozen=True, eq=False)
class Font:
    """``ascent`` rows are above the baseline, ``descent`` below it; glyphs have all of them.

    ``gap`` is the number of pixels between two letters; ``pitch`` is that of a fixed font, 0 for a proportional one.
    """

    name: str
    ascent: int
    descent: int
    gap: int
    glyphs: Mapping[str, Glyph] = field(repr=False)
    pitch: int = 0

    @property
    def height(self) -> int:
        """Rows per line."""
        return self.ascent + self.descent

    def glyph(self, letter: str) -> Glyph:
        """The glyph of a letter, or else the question mark, or else a blank."""
        return self.glyphs.get(letter) or self.glyphs.get(UNKNOWN) or Glyph(self.widest, (0,) * self.height)

    def advance(self, letter: str) -> int:
        """Pixels from a letter to the next one."""
        return self.pitch or self.glyph(letter).width + self.gap

    def measure(self, text: Iterable[str]) -> int:
        """Width of a text in pixels, without the gap after it."""
        letters = list(text)
        return sum(self.advance(letter) for letter in letters) - self.gap if letters else 0

    @cached_property
    def widest(self) -> int:
        """Width of the widest digit or sign: the room that a field needs per cell."""
        return max((self.glyphs[letter].width for letter in f"{DIGITS}-" if letter in self.glyphs), default=1)

    def field_width(self, cells: int) -> int:
        """Width of a number of cells, whatever digits they hold."""
        return cells * (self.pitch or self.widest + self.gap) - self.gap


def text_rows(font: Font, text: Iterable[str]) -> tuple[int, tuple[int, ...]]:
    """Width and rows of a text in one line."""
    letters = list(text)
    width = max(font.measure(letters), 0)
    rows = [0] * font.height
    left = 0
    for letter in letters:
        glyph = font.glyph(letter)
        inset = (font.pitch - font.gap - glyph.width) // 2 if font.pitch else 0
        shift = width - left - max(inset, 0) - glyph.width
        for y, row in enumerate(glyph.rows):
            rows[y] |= row << shift if shift >= 0 else row >> -shift
        left += font.advance(letter)
    return width, tuple(rows)


def _trimmed(rows: tuple[int, ...], width: int) -> Glyph:
    """A glyph without dark columns at either side; a blank keeps half of them."""
    union = 0
    for row in rows:
        union |= row
    if not union:
        return Glyph(max(width // 2, 1), rows)
    right = (union & -union).bit_length() - 1
    return Glyph(union.bit_length() - right, tuple(row >> right for row in rows))


def _of_cells(letters: Mapping[str, tuple[int, ...]]) -> dict[str, Glyph]:
    return {letter: _trimmed(rows, 5) for letter, rows in letters.items()}


def _enlarged(glyph: Glyph, times: int) -> Glyph:
    """Each pixel enlarged to a square, with inner corners filled where two lit pixels touch by their corners only."""
    width, height = glyph.width, len(glyph.rows)

    def lit(x: int, y: int) -> bool:
        return 0 <= x < width and 0 <= y < height and bool(glyph.rows[y] >> (width - 1 - x) & 1)

    rows = []
    for y in range(height * times):
        row = 0
        for x in range(width * times):
            cell_x, cell_y = x // times, y // times
            on = lit(cell_x, cell_y)
            if not on:
                # A corner of a dark pixel where two lit neighbours meet is lit: stairs become slopes.
                dx, dy = (x % times) * 2 - (times - 1), (y % times) * 2 - (times - 1)
                side, above = lit(cell_x + _sign(dx), cell_y), lit(cell_x, cell_y + _sign(dy))
                corner = abs(dx) == times - 1 and abs(dy) == times - 1
                on = corner and side and above and not lit(cell_x + _sign(dx), cell_y + _sign(dy))
            row = row << 1 | int(on)
        rows.append(row)
    return Glyph(width * times, tuple(rows))


def _squared(glyph: Glyph, times: int) -> Glyph:
    """Each pixel enlarged to a square and nothing else, as programs enlarge small letters."""
    spread = {"0": "0" * times, "1": "1" * times}
    rows = [int("".join(spread[bit] for bit in f"{row:0{glyph.width}b}"), 2) for row in glyph.rows]
    return Glyph(glyph.width * times, tuple(row for row in rows for _ in range(times)))


def _sign(number: int) -> int:
    return (number > 0) - (number < 0)


class _Made(Mapping[str, Glyph]):
    """Glyphs of a font, each enlarged when first used: most of them never are."""

    def __init__(self, small: Mapping[str, Glyph], make: Callable[[Glyph, int], Glyph], times: int) -> None:
        self.small, self.times, self._make = small, times, make
        self._made: dict[str, Glyph] = {}

    def __getitem__(self, letter: str) -> Glyph:
        if letter not in self._made:
            self._made[letter] = self._make(self.small[letter], self.times)
        return self._made[letter]

    def __iter__(self) -> Iterator[str]:
        return iter(self.small)

    def __len__(self) -> int:
        return len(self.small)

    def __contains__(self, letter: object) -> bool:
        return letter in self.small


def _larger(name: str, font: Font, times: int, letters: Iterable[str] | None = None) -> Font:
    wanted = font.glyphs if letters is None else {each: font.glyphs[each] for each in letters if each in font.glyphs}
    glyphs = _Made(wanted, _enlarged, times)
    return Font(name, font.ascent * times, font.descent * times, font.gap * times - (times > 2), glyphs)


_SIGNS = {
    "Δ": "..#../..#../.#.#./.#.#./#...#/#...#/#####",
    "‰": "##..#../##.#.../...#.../..#..../.#...../#.##.##/..##.##",
}


def _signs() -> dict[str, Glyph]:
    """Unit signs beyond those of character panels."""
    found = {}
    for letter, drawn in _SIGNS.items():
        rows = [row.replace("#", "1").replace(".", "0") for row in drawn.split("/")]
        found[letter] = Glyph(len(rows[0]), (*(int(row, 2) for row in rows), 0))
    return found


def _plainly(name: str, font: Font, times: int) -> Font:
    glyphs = _Made(font.glyphs, _squared, times)
    return Font(name, font.ascent * times, font.descent * times, font.gap * times, glyphs)


def fixed(font: Font) -> Font:
    """The font with every letter as wide as the widest of ASCII."""
    pitch = widest_of(font) + font.gap
    return Font(font.name + FIXED, font.ascent, font.descent, font.gap, font.glyphs, pitch)


def widest_of(font: Font) -> int:
    """Width of the widest ASCII letter in pixels; for an enlarged font without making it."""
    glyphs = font.glyphs
    small, times = (glyphs.small, glyphs.times) if isinstance(glyphs, _Made) else (glyphs, 1)
    return times * max(glyph.width for letter, glyph in small.items() if letter.isascii())


@lru_cache(maxsize=1)
def built_in() -> dict[str, Font]:
    """Lesart's own fonts, by name. Made when first used: most projects have no pixel panel."""
    five = Font("text 5", 5, 1, 1, {letter: Glyph(width, rows) for letter, (width, rows) in TEXT_5.items()})
    seven = Font("text 7", 7, 1, 1, {**_of_cells(GLYPHS), **_signs()})
    ten = _larger("text 10", five, 2)
    fourteen = _larger("numerals 14", seven, 2, NUMERALS)
    large = _larger("numerals 21", seven, 3, NUMERALS)
    text_14, text_21 = _larger("text 14", seven, 2), _larger("text 21", seven, 3)
    doubled, tripled = _plainly("text 7 doubled", seven, 2), _plainly("text 7 tripled", seven, 3)
    digits = {letter: Glyph(width, rows) for letter, (width, rows) in narrow_rows().items()}
    narrow = Font("narrow 7", 7, 1, 1, {**seven.glyphs, **digits})
    narrow_14 = _larger("narrow 14", narrow, 2, NUMERALS)
    tiny = Font("tiny 4", 4, 1, 1, {letter: Glyph(width, rows) for letter, (width, rows) in TINY_4.items()})
    plain = (tiny, five, seven, narrow, ten, text_14, text_21, doubled, tripled, fourteen, large, narrow_14)
    return {font.name: font for font in (*plain, *(fixed(font) for font in plain))}


FONT_NAMES = (
    "tiny 4",
    "text 5",
    "text 7",
    "narrow 7",
    "text 10",
    "text 14",
    "text 21",
    "text 7 doubled",
    "text 7 tripled",
    "numerals 14",
    "numerals 21",
    "narrow 14",
)
FONTS = (*FONT_NAMES, *(name + FIXED for name in FONT_NAMES))
