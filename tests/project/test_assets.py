"""Fonts and pictures beside the project: read, kept until they change, and stood in for where they cannot be read."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from lesart.core.errors import CaptureError
from lesart.core.glass.dither import WAYS
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glyphs.fonts import built_in, text_rows
from lesart.core.parameters import read_table
from lesart.project.assets.bdf_read import BdfFont, BdfGlyph, parse_bdf
from lesart.project.assets.bdf_write import bdf_text
from lesart.project.assets.font_files import font_of_bdf, rasterised
from lesart.project.assets.named import Assets
from lesart.project.assets.shown_picture import PICTURE_FILE, shown_picture
from lesart.project.check import check_project
from lesart.project.text import Editor
from tests.conftest import project_text

TENTH = 100
"""Units of a tenth of an em."""


def outlines(path: Path) -> Path:
    """A TrueType font of our own: A is a block of 4×6 tenths of an em on the line, B one of 3×2 below it."""
    boxes = {".notdef": (0, 0, 5, 7), "A": (1, 0, 5, 6), "B": (0, -2, 3, 0), "space": (0, 0, 0, 0)}
    builder = FontBuilder(10 * TENTH, isTTF=True)
    builder.setupGlyphOrder(list(boxes))
    builder.setupCharacterMap({0x41: "A", 0x42: "B", 0x20: "space"})
    glyphs = {}
    for name, box in boxes.items():
        left, foot, right, top = (TENTH * side for side in box)
        pen = TTGlyphPen(None)
        if right > left:
            pen.moveTo((left, foot))
            for corner in ((left, top), (right, top), (right, foot)):
                pen.lineTo(corner)
            pen.closePath()
        glyphs[name] = pen.glyph()
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics({name: (6 * TENTH, box[0] * TENTH) for name, box in boxes.items()})
    builder.setupHorizontalHeader(ascent=8 * TENTH, descent=-2 * TENTH)
    builder.setupNameTable({"familyName": "blocks", "styleName": "Regular"})
    builder.setupOS2(sTypoAscender=8 * TENTH, sTypoDescender=-2 * TENTH, usWinAscent=8 * TENTH, usWinDescent=2 * TENTH)
    builder.setupPost()
    builder.save(path)
    return path


def lines(width: int, rows: tuple[int, ...]) -> list[str]:
    """As a person would draw it."""
    return ["".join("#" if row >> (width - 1 - x) & 1 else "." for x in range(width)) for row in rows]


def test_outlines_are_rasterised(tmp_path: Path) -> None:
    """At ten pixels an em a unit is a pixel: on the line, below it, letters that the font lacks left out."""
    font = rasterised(outlines(tmp_path / "blocks.ttf"), "blocks", 10, 0.5)
    assert (font.ascent, font.descent) == (8, 2)
    assert set(font.glyphs) == {"A", "B", " "}
    assert font.advance("A") == 6
    a, b = font.glyph("A"), font.glyph("B")
    assert lines(a.width, a.rows) == ["......"] * 2 + [".####."] * 6 + ["......"] * 2
    assert lines(b.width, b.rows) == ["......"] * 8 + ["###..."] * 2
    larger = rasterised(tmp_path / "blocks.ttf", "blocks", 20, 0.5)
    assert sum(row.bit_count() for row in larger.glyph("A").rows) == 4 * 24


@pytest.mark.parametrize("name", ["text 5", "text 10", "numerals 14"])
def test_our_fonts_survive_bdf(name: str) -> None:
    """Written, read and used again, a text has the same pixels."""
    font = built_in()[name]
    back = font_of_bdf(parse_bdf(bdf_text(font), "f.bdf"), "back", "f.bdf")
    for text in ("42.8", "-17 %", "0123456789"):
        width, rows = text_rows(font, text)
        again, read = text_rows(back, text)
        assert again - width == font.gap
        assert [row >> font.gap for row in read] == list(rows)


@given(
    width=st.integers(0, 12),
    height=st.integers(0, 12),
    left=st.integers(-4, 6),
    bottom=st.integers(-8, 8),
    advance=st.integers(0, 14),
    seed=st.integers(0, 9999),
)
def test_any_glyph_keeps_to_its_line(width: int, height: int, left: int, bottom: int, advance: int, seed: int) -> None:
    """Each dot where the font says, as far as it is within the line."""
    rows = tuple(int(row) for row in np.random.default_rng(seed).integers(0, 1 << width, height))
    font = font_of_bdf(
        BdfFont("f", 9, 3, {65: BdfGlyph(65, "A", width, height, left, bottom, advance, rows)}), "f", "f"
    )
    glyph = font.glyph("A")
    lit = {(x, y) for y, row in enumerate(glyph.rows) for x in range(glyph.width) if row >> (glyph.width - 1 - x) & 1}
    wanted = {
        (max(left, 0) + x, 9 - (bottom + height) + y)
        for y, row in enumerate(rows)
        for x in range(width)
        if row >> (width - 1 - x) & 1
    }
    assert lit == {(x, y) for x, y in wanted if 0 <= y < 12}


def values(**written: object) -> Mapping[str, Any]:
    """Of a picture's table."""
    found, problems = read_table(PICTURE_FILE, {"file": "p.png", **written}, "p")
    assert not problems
    return found


@pytest.fixture
def ramp(tmp_path: Path) -> Path:
    """40×20 pixels, dark at the left."""
    path = tmp_path / "p.png"
    Image.fromarray(np.tile(np.linspace(0, 255, 40).astype(np.uint8), (20, 1))).save(path)
    return path


@pytest.mark.parametrize(
    ("written", "size"),
    [
        ({}, (40, 20)),
        ({"width": 20}, (20, 10)),
        ({"height": 40}, (80, 40)),
        ({"width": 8, "height": 8}, (8, 8)),
        ({"cut": "10, 0, 10, 20"}, (10, 20)),
        ({"cut": "0,0,20,5", "width": 40}, (40, 10)),
    ],
)
def test_sizes_keep_proportions(ramp: Path, written: dict[str, object], size: tuple[int, int]) -> None:
    """Where one side is given the other follows; a part that is cut has its own."""
    frame = shown_picture(ramp, values(**written)).frames[0]
    assert (frame.width, frame.height) == size


def test_a_picture_is_lit_where_it_is_bright(ramp: Path) -> None:
    """By the threshold: right of the middle, left of it when inverted; every way has its figures."""
    shown = shown_picture(ramp, values(dither="threshold"))
    assert set(shown.frames[0].rows) == {(1 << 20) - 1}
    assert set(shown_picture(ramp, values(dither="threshold", invert=True)).frames[0].rows) == {((1 << 20) - 1) << 20}
    assert [each.way for each in shown.ways] == list(WAYS)
    proposed = shown_picture(ramp, values())
    assert proposed.way == min(proposed.ways, key=lambda each: each.tone_error).way


def picture_of(folder: Path, **written: object) -> Any:
    """A project with one picture and an item of it, and what it makes of them."""
    text = Editor().with_table(project_text(), ("pictures", "p"), {"file": "p.png", **written})  # type: ignore[dict-item]
    text = Editor().with_table(text, ("panels", "px"), {"kind": "pixels"})
    text = Editor().with_table(text, ("faces", "px"), {"panel": "px"})
    text = Editor().with_entry(text, ("faces", "px", "items"), {"kind": "picture", "picture": "p"})
    return check_project(text, assets=Assets(folder))


def test_what_cannot_be_read_is_stood_in_for(ramp: Path) -> None:
    """The project opens; a crossed box of the wanted size stands there, and the sentence why is kept."""
    good = picture_of(ramp.parent)
    assert ("pictures", "p") not in good.unread
    ramp.write_bytes(b"no picture")
    broken = picture_of(ramp.parent, width=12, height=9)
    assert "p.png is not a PNG" in broken.unread["pictures", "p"]
    item = broken.faces["px"].items[0]
    assert (item.width, item.tall) == (12, 9)
    ramp.unlink()
    assert "cannot be read" in picture_of(ramp.parent).unread["pictures", "p"]
    assert picture_of(ramp.parent, cut="1, 2").unread["pictures", "p"]


@pytest.mark.parametrize(
    ("cut", "says"), [("50, 0, 10, 10", "are not in a picture of 40×20"), ("a", "it must be x, y")]
)
def test_a_cut_that_is_none(ramp: Path, cut: str, says: str) -> None:
    """Said in a sentence."""
    assert says in picture_of(ramp.parent, cut=cut).unread["pictures", "p"]


def test_files_are_read_again_when_they_change(ramp: Path) -> None:
    """And only then: the same file and table give the same result."""
    assets = Assets(ramp.parent)
    first, _ = assets.check_picture("p", {"file": "p.png"})
    assert assets.check_picture("p", {"file": "p.png"})[0] is first
    assert assets.check_picture("p", {"file": "p.png", "level": "70 %"})[0] is not first
    Image.new("L", (8, 8), 255).save(ramp)
    os.utime(ramp, ns=(1, 1))
    again, _ = assets.check_picture("p", {"file": "p.png"})
    assert again is not None
    assert again.frames == (PixelFrame(8, 8, (255,) * 8),)


def test_a_font_that_is_none(tmp_path: Path) -> None:
    """Items in it are drawn in the usual one; a built-in name is refused; the sentence says what is wrong."""
    (tmp_path / "f.ttf").write_bytes(b"\0\1\0\0 nothing")
    font, problems = Assets(tmp_path).check_font("mine", {"file": "f.ttf"})
    assert (font, problems) == ("f.ttf: it cannot be read as a TrueType font (invalid stream operation).", [])
    assert "built in" in str(Assets(tmp_path).check_font("text 5", {"file": "f.ttf"})[1][0])
    with pytest.raises(CaptureError, match="no glyph with a code"):
        font_of_bdf(BdfFont("f", 7, 1, {}), "f", "f.bdf")
