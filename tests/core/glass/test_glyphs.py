"""Glyphs: no two letters share a shape, and each shape is drawn as it should be."""

from __future__ import annotations

import unicodedata
from collections import defaultdict
from collections.abc import Mapping

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.box5x8 import LINES
from lesart.core.glyphs.cell5x8 import CELLS_5X8, ORDER
from lesart.core.glyphs.charsets import GLYPHS, SETS
from lesart.core.glyphs.dots import dots_of, drawn_of
from lesart.core.glyphs.fonts import Glyph, _enlarged, built_in
from lesart.core.glyphs.narrow7 import narrow_rows
from lesart.core.glyphs.segments import ALPHABETS, POINT, SEGMENTS, lit_names

DIGITS_7 = {
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
}

SEVEN = ALPHABETS["7"]


def twins(shapes: Mapping[str, object]) -> list[list[str]]:
    """Letters that look the same."""
    found: dict[object, list[str]] = defaultdict(list)
    for letter, shape in shapes.items():
        found[shape].append(letter)
    return [letters for letters in found.values() if len(letters) > 1]


SAME_SHAPE = [["-", "─"], ["=", "═"]]
"""A line of a table is the same row of dots as a minus; no reading has both."""


@pytest.mark.parametrize("shapes", [CELLS_5X8, *(alphabet.shapes for alphabet in ALPHABETS.values())])
def test_no_two_letters_share_a_shape(shapes: dict[str, object]) -> None:
    """What cannot be told apart is left out."""
    assert twins(shapes) == []


def test_no_two_glyphs_share_their_dots_unless_listed() -> None:
    """Of all letters that any character set has."""
    assert sorted(map(sorted, twins(GLYPHS))) == SAME_SHAPE
    assert all(len(rows) == 8 and all(0 <= row < 32 for row in rows) for rows in GLYPHS.values())


def test_every_printable_letter_is_drawn() -> None:
    """ASCII from blank to tilde, and the degree sign; each within five dots and eight rows."""
    assert set(ORDER) == {chr(code) for code in range(0x20, 0x7F)} | {"°"}
    assert len(ORDER) == len(CELLS_5X8)
    assert all(len(rows) == 8 and all(0 <= row < 32 for row in rows) for rows in CELLS_5X8.values())
    assert [letter for letter, rows in CELLS_5X8.items() if not any(rows)] == [" "]


def test_letters_stand_on_one_line() -> None:
    """Capitals and digits fill rows 0 to 6 and leave the row below free."""
    for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789":
        rows = CELLS_5X8[letter]
        assert rows[0], letter
        assert rows[6], letter
        assert rows[7] == 0, letter


@pytest.mark.parametrize(("digit", "lit"), DIGITS_7.items())
def test_digits_on_seven_segments(digit: str, lit: str) -> None:
    """As the trade draws them, 6 with its top and 9 with its foot."""
    assert SEVEN.shapes[digit] == SEVEN.mask(lit)
    assert lit_names(SEVEN.shapes[digit]) == lit
    assert lit_names(SEVEN.shapes[digit] | POINT) == lit + "."


def test_masks_go_there_and_back() -> None:
    """Any mask is its own letters."""
    for mask in range(128):
        assert SEVEN.mask(lit_names(mask)) == mask
    assert [SEVEN.mask(one) for one in SEGMENTS] == [1, 2, 4, 8, 16, 32, 64]


@pytest.mark.parametrize("name", SETS)
def test_what_is_encoded_is_decoded(name: str) -> None:
    """For every letter of every set: its code shows it, and no lower code does."""
    charset = SETS[name]
    for letter, code in charset.codes.items():
        assert charset.letters[code] == letter
        assert charset.code(letter) == code
        assert charset.dots(code) == GLYPHS[letter]
        assert code == min(each for each, shown in charset.letters.items() if shown == letter)
    assert all(0x10 <= code <= 0xFF for code in charset.letters)


CODES = [
    ("Latin, katakana", "°", 0xDF),
    ("Latin, katakana", "ｱ", 0xB1),
    ("Latin, katakana", "ア", 0xB1),
    ("Latin, katakana", "ﾝ", 0xDD),
    ("Latin, katakana", "µ", 0xE4),
    ("Latin, katakana", "Ω", 0xF4),
    ("Latin, katakana", "→", 0x7E),
    ("Latin, katakana", "\\", None),
    ("Latin, katakana", "é", None),
    ("western European", "é", 0xE9),
    ("western European", "°", 0xB0),
    ("western European", "²", 0xB2),
    ("western European", "Ω", None),
    ("code page 437", "é", 0x82),
    ("code page 437", "°", 0xF8),
    ("code page 437", "█", 0xDB),
    ("code page 437", "└", 0xC0),
    ("code page 437", "Ω", 0xEA),
    ("ASCII", "°", None),
    ("ASCII", "~", 0x7E),
    ("ASCII", "−", 0x2D),
]


@pytest.mark.parametrize(("name", "letter", "code"), CODES)
def test_codes_by_the_standards(name: str, letter: str, code: int | None) -> None:
    """JIS X 0201, ISO 8859-1 and the table of page 437; the degree sign is nowhere at its own number but in one."""
    assert SETS[name].code(letter) == code


def test_the_nearest_letter_stands_in() -> None:
    """Without its mark, or one that is read so; nothing where nothing is near."""
    assert SETS["ASCII"].substitute("é") == "e"
    assert SETS["ASCII"].substitute("°") == "o"
    assert SETS["ASCII"].substitute("千") is None
    assert {letter for letter in "2.5 °C ° µ" if SETS["ASCII"].code(letter) is None} == {"°", "µ"}


@pytest.mark.parametrize("alphabet", ["14", "16"])
def test_digits_on_many_segments(alphabet: str) -> None:
    """The outline is that of seven segments; only 0 and 1 have strokes more."""
    outline = {"a": ("a", "a1", "a2"), "d": ("d", "d1", "d2"), "g": ("g1", "g2")}
    kind = ALPHABETS[alphabet]
    for digit, lit in DIGITS_7.items():
        names = set(kind.names(kind.shapes[digit]).split())
        wanted = {each for name in lit for each in outline.get(name, (name,))} & set(kind.segments)
        if digit == "3":
            names.add("g1")  # the left half of the middle is left out, or it would look like 8 from afar
        assert names - set("hjklmn") == wanted, digit
        assert (names & set("hjklmn") != set()) == (digit in "01")


@pytest.mark.parametrize("alphabet", ALPHABETS)
def test_segments_by_name_and_back(alphabet: str) -> None:
    """Each alone, all, and none; a name that is none is refused."""
    kind = ALPHABETS[alphabet]
    for mask in (0, (1 << len(kind.segments)) - 1, *(1 << bit for bit in range(len(kind.segments)))):
        assert kind.mask(kind.names(mask)) == mask
    with pytest.raises(ValueError, match='"x" is not a segment'):
        kind.mask("b x")


def test_lines_meet_at_the_edges_of_their_cells() -> None:
    """A line that goes right meets the one that comes from the left, double to double."""
    for letter, rows in LINES.items():
        name = unicodedata.name(letter)
        if "BOX" not in name or "SINGLE" in name:
            continue
        goes_right = any(word in name for word in ("RIGHT", "HORIZONTAL"))
        edge = [row & 1 for row in rows]
        pair = LINES["═"] if "DOUBLE" in name else LINES["─"]
        assert edge == [(row & 1) * goes_right for row in pair], letter


def test_a_drawing_is_read_and_written() -> None:
    """Rows of dots; rows not written are dark; anything else is refused."""
    assert dots_of("#...#/.###.") == (17, 14, 0, 0, 0, 0, 0, 0)
    assert dots_of(drawn_of((1, 2, 3, 4, 5, 6, 7, 31))) == (1, 2, 3, 4, 5, 6, 7, 31)
    for wrong in ("###", "#####/....", "xxxxx", "/".join(["....."] * 9)):
        with pytest.raises(ValueError, match="eight rows of five dots"):
            dots_of(wrong)


def test_points_only_where_there_are_points() -> None:
    """A panel without points has no code for a digit with one."""
    with_points = SegmentPanel("a", 4, True, "red", None)
    without = SegmentPanel("b", 4, False, "red", None)
    assert with_points.code(Cell("4", True)) == SEVEN.mask("bcfg") | POINT
    assert without.code(Cell("4", True)) is None
    assert without.code(Cell("4")) == SEVEN.mask("bcfg")
    assert with_points.code(Cell("K")) is None


def test_narrow_letters_are_seven_rows_high_and_told_apart() -> None:
    """The lowest of eight rows is left empty, no row is wider than its letter, and no two letters look the same."""
    rows = narrow_rows()
    assert set("0123456789-+ ") <= set(rows)
    for letter, (width, shape) in rows.items():
        assert len(shape) == 8, letter
        assert shape[7] == 0, letter
        assert all(row < 1 << width for row in shape), letter
    assert twins(rows) == []


def test_stairs_become_slopes() -> None:
    """By hand: two dots that touch by a corner are joined there, and a square stays one."""
    assert _enlarged(Glyph(2, (0b10, 0b01)), 2) == Glyph(4, (0b1100, 0b1110, 0b0111, 0b0011))
    assert _enlarged(Glyph(2, (0b11, 0b10)), 2) == Glyph(4, (0b1111, 0b1111, 0b1100, 0b1100))
    assert _enlarged(Glyph(1, (1, 0)), 3) == Glyph(3, (0b111, 0b111, 0b111, 0, 0, 0))


def test_a_larger_letter_in_a_mirror_is_that_of_the_letter_in_a_mirror() -> None:
    """Left and right, above and below, of every letter of a font that is made larger."""
    small = built_in()["text 7"].glyphs
    for letter in "0123456789ABCDEFGHKLMNRSTXYZabdefgkmrstz%&@":
        for times in (2, 3):
            glyph, large = small[letter], _enlarged(small[letter], times)
            assert _enlarged(_turned(glyph), times) == _turned(large), letter
            assert _enlarged(Glyph(glyph.width, glyph.rows[::-1]), times) == Glyph(large.width, large.rows[::-1]), (
                letter
            )


def _turned(glyph: Glyph) -> Glyph:
    return Glyph(glyph.width, tuple(int(f"{row:0{glyph.width}b}"[::-1], 2) for row in glyph.rows))


@pytest.mark.parametrize("name", built_in())
def test_a_font_is_as_high_as_its_name_says(name: str) -> None:
    """``text 21``: digits of 21 rows from the highest lit one to the lowest; doubled is twice as high."""
    words = name.split()
    high = next(int(word) for word in words if word.isdigit())
    high *= {"doubled": 2, "tripled": 3}.get(
        next((word for word in words if word.endswith("ed") and word != "fixed"), ""), 1
    )
    lit = {place for digit in "0123456789" for place, row in enumerate(built_in()[name].glyphs[digit].rows) if row}
    assert max(lit) - min(lit) + 1 == high
