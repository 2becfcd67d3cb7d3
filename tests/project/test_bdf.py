"""BDF fonts: read as they are written, refused where they are broken, and taken over as a character set."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import CaptureError, LesartError, RequestError
from lesart.core.glyphs.dots import dots_of
from lesart.project.assets.bdf_read import BdfFont, BdfGlyph, parse_bdf, read_bdf
from lesart.project.tables.charsets import charset_table, check_charset


def written(glyphs: list[BdfGlyph], ascent: int = 7, descent: int = 1) -> str:
    """A font as the standard wants it: rows in whole bytes, the leftmost dot in the highest bit."""
    lines = [
        "STARTFONT 2.1",
        "FONT drawn-here",
        "SIZE 8 75 75",
        f"FONTBOUNDINGBOX 5 8 0 {-descent}",
        "STARTPROPERTIES 2",
        f"FONT_ASCENT {ascent}",
        f"FONT_DESCENT {descent}",
        "ENDPROPERTIES",
        f"CHARS {len(glyphs)}",
    ]
    for glyph in glyphs:
        size = -(-glyph.width // 8)
        rows = [f"{row << (8 * size - glyph.width):0{2 * size}X}" for row in glyph.rows] if size else []
        lines += [
            f"STARTCHAR {glyph.name}",
            f"ENCODING {glyph.code}",
            "SWIDTH 500 0",
            f"DWIDTH {glyph.advance} 0",
            f"BBX {glyph.width} {glyph.height} {glyph.left} {glyph.bottom}",
            "BITMAP",
            *rows,
            "ENDCHAR",
        ]
    return "\n".join([*lines, "ENDFONT", ""])


@st.composite
def glyphs(draw: st.DrawFn, code: int = 65) -> BdfGlyph:
    """Of any size up to 20 dots, anywhere beside the origin."""
    width, height = draw(st.integers(1, 20)), draw(st.integers(0, 20))
    rows = tuple(draw(st.integers(0, (1 << width) - 1)) for _ in range(height))
    return BdfGlyph(code, f"u{code}", width, height, draw(st.integers(-5, 5)), draw(st.integers(-9, 9)), 6, rows)


@given(st.lists(st.integers(0, 500), unique=True, max_size=6).flatmap(lambda codes: st.tuples(*map(glyphs, codes))))
def test_what_is_written_is_read(drawn: tuple[BdfGlyph, ...]) -> None:
    """Every dot, place and width of any font."""
    font = parse_bdf(written(list(drawn)), "f.bdf")
    assert font == BdfFont("drawn-here", 7, 1, {glyph.code: glyph for glyph in drawn})


T = BdfGlyph(0x54, "T", 3, 4, 1, 0, 6, (0b111, 0b010, 0b010, 0b010))
G = BdfGlyph(0x67, "g", 4, 6, 0, -1, 6, (0b0111, 0b1001, 0b0111, 0b0001, 0b0001, 0b0110))


def test_a_font_becomes_a_character_set() -> None:
    """Letters on the line of the cell, what hangs below it in the last row."""
    table = charset_table(parse_bdf(written([T, G]), "f.bdf"), "f.bdf")
    assert dots_of(table["0x54"]) == (0, 0, 0, 0b01110, 0b00100, 0b00100, 0b00100, 0)
    assert dots_of(table["0x67"]) == (0, 0, 0b01110, 0b10010, 0b01110, 0b00010, 0b00010, 0b01100)
    charset, problems = check_charset("mine", table)
    assert not problems
    assert charset is not None
    assert (charset.code("T"), charset.dots(0x67)[7]) == (0x54, 0b01100)
    assert charset.code("A") is None


@pytest.mark.parametrize(
    "glyph",
    [
        BdfGlyph(65, "wide", 6, 1, 0, 0, 6, (0b111111,)),
        BdfGlyph(65, "left", 5, 1, -1, 0, 6, (0b11111,)),
        BdfGlyph(65, "high", 1, 9, 0, 0, 6, (1,) * 9),
        BdfGlyph(65, "deep", 1, 1, 0, -2, 6, (1,)),
    ],
)
def test_what_does_not_fit_a_cell_is_refused(glyph: BdfGlyph) -> None:
    """With its size; one that is only drawn in a larger box is not."""
    with pytest.raises(RequestError, match=f"glyph 65, {glyph.name}.*a cell has 5×8"):
        charset_table(parse_bdf(written([glyph]), "f.bdf"), "f.bdf")
    roomy = BdfGlyph(65, "roomy", 8, 12, -1, 0, 6, (0,) * 5 + (0b01110000,) * 7)
    assert dots_of(charset_table(parse_bdf(written([roomy]), "f"), "f")["0x41"])[:3] == (0b11100,) * 3
    with pytest.raises(RequestError, match="no glyph of a code from 0x00 to 0xFF"):
        charset_table(parse_bdf(written([BdfGlyph(900, "far", 1, 1, 0, 0, 6, (1,))]), "f"), "f")


WRONG = [
    ("", "line 1"),
    ("PK\x03\x04", "line 1"),
    (written([T]).replace("ENDFONT", ""), "it was cut off"),
    (written([T]).replace("ENDCHAR\n", ""), "has no ENDCHAR"),
    (written([T]).replace("E0\n", "", 1), "hexadecimal"),
    (written([T]).replace("E0", "XY", 1), '"XY" is not hexadecimal'),
    (written([T]).replace("BBX 3 4", "BBX 3"), "4 whole"),
    (written([T]).replace("BBX 3 4", "BBX 1000000 1000000"), "256 to a side"),
    (written([T]).replace("ENCODING 84", "ENCODING x"), "ENCODING needs 1 whole numbers"),
]


@pytest.mark.parametrize(("text", "says"), WRONG)
def test_a_broken_font_says_where(text: str, says: str) -> None:
    """The line, and what belongs there."""
    with pytest.raises(CaptureError, match=re.escape(says)):
        parse_bdf(text, "f.bdf")


@given(st.data())
def test_a_font_cut_or_garbled_anywhere_never_breaks_the_program(data: st.DataObject) -> None:
    """A sentence, or a font."""
    text = written([T, G])
    at, until = sorted((data.draw(st.integers(0, len(text))), data.draw(st.integers(0, len(text)))))
    try:
        parse_bdf(text[:at] + data.draw(st.text(max_size=6)) + text[until:], "f.bdf")
    except LesartError as error:
        assert str(error).startswith("f.bdf")


def test_files(tmp_path: Path) -> None:
    """One that is not there, and one too large to be a font."""
    with pytest.raises(CaptureError, match="cannot be read"):
        read_bdf(tmp_path / "none.bdf")
    (tmp_path / "large.bdf").write_bytes(b"x" * (5 << 20))
    with pytest.raises(CaptureError, match="it has more than 4 MB, which is the most that is read of such a file"):
        read_bdf(tmp_path / "large.bdf")
    (tmp_path / "t.bdf").write_text(written([T]))
    assert read_bdf(tmp_path / "t.bdf").glyphs[0x54] == T


def test_a_set_by_hand_says_what_is_wrong() -> None:
    """Codes, drawings, and the name of one that is built in."""
    _, problems = check_charset("ASCII", {"0x100": "#####", "x": "#####", "0x41": "###"})
    assert [problem.place for problem in problems] == ["charsets.ASCII"] * 3 + ["charsets.ASCII.0x41"]
