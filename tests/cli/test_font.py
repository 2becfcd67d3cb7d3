"""``lesart font``: what there is, a text in it, and BDF that reads back to the pixel."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.glyphs.fonts import FONTS, built_in
from lesart.project.assets.bdf_read import parse_bdf
from lesart.project.assets.bdf_write import bdf_text
from tests.cli.spoken import refused, said


@pytest.mark.parametrize("name", FONTS)
def test_every_font_goes_out_as_bdf_and_comes_back(name: str) -> None:
    """Each letter by its number, with its pixels, its width, and how far the next one stands."""
    font = built_in()[name]
    back = parse_bdf(bdf_text(font), "f.bdf")
    assert (back.ascent, back.descent) == (font.ascent, font.descent)
    assert set(back.glyphs) == {ord(letter) for letter in font.glyphs}
    for letter, glyph in font.glyphs.items():
        found = back.glyphs[ord(letter)]
        assert (found.rows, found.width, found.advance) == (glyph.rows, glyph.width, font.advance(letter))
        assert (found.left, found.bottom, found.height) == (0, -font.descent, font.height)


def test_fonts_on_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Listed, shown and written."""
    assert "numerals 21" in said(capsys, "font")
    shown = said(capsys, "font", "text 5", "--text", "1", "-o", tmp_path / "five.bdf")
    assert shown.splitlines()[:5] == [" █", "██", " █", " █", "███"]
    assert (tmp_path / "five.bdf").read_text().startswith("STARTFONT 2.1")
    assert "it has tiny 4, text 5" in refused(capsys, "font", "copperplate")
    assert "it ends in .bdf" in refused(capsys, "font", "text 5", "-o", tmp_path / "x.ttf")
