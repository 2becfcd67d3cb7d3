"""Drawings: terminal and paper are lit from the same frame, cell by cell."""

from __future__ import annotations

import random
import re
import xml.etree.ElementTree as ElementTree
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.frame import CharacterFrame, SegmentFrame
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.segments import ALPHABETS, SEGMENTS
from lesart.study.drawing import draw_subject
from lesart.study.glass import glass_of
from lesart.study.lit.digit_grid import name_at, pitch_of
from lesart.study.views import Chart, Glass, Series
from lesart.tui.panels.drawn import drawn as drawn_panel
from lesart.tui.panels.room import Means, Room, Way
from tests.lit import Dots, half_colours, in_halves, in_little, in_quarters

STAND = SegmentPanel("stand", 4, True, "red", None)
DOOR = CharacterPanel("door", 16, 2, "green light")
LIT_SEGMENT = re.compile(r'id="lit-(\d+)-(\w+)"')
LIT_DOT = re.compile(r'id="lit-(\d+)-(\d+)-(\d+)-(\d+)"')

# Half-block pixel of the terminal where each segment of a digit 5 × 11 pixels large has its middle.
MIDDLES = {"a": (2, 0), "b": (4, 2), "c": (4, 8), "d": (2, 10), "e": (0, 8), "f": (0, 2), "g": (2, 5), "point": (6, 10)}


def pixels(glass: Glass, width: int) -> list[list[str]]:
    """The terminal's half blocks as rows of colours."""
    return half_colours(drawn_panel(glass, Room(width, 200), Means(Way.HALVES)).lines)


def lit_in_all_blocks(glass: Glass) -> Dots:
    """What is lit in half blocks; in quarters and in miniature it is the same."""
    room = Room(400, 200)
    halves = in_halves(drawn_panel(glass, room, Means(Way.HALVES)).lines, glass)
    assert in_quarters(drawn_panel(glass, room, Means(Way.QUARTERS)).lines, glass) == halves
    assert in_little(drawn_panel(glass, room, Means(Way.LITTLE)).lines) == halves
    return halves


def svg_of(subject: Glass | Chart, folder: Path) -> str:
    """The drawing's text, which must be XML."""
    path = folder / "out.svg"
    path.write_bytes(draw_subject(subject, path.suffix, "yard · mass"))
    text = path.read_text()
    ElementTree.fromstring(text)
    return text


@pytest.mark.parametrize("masks", [(0, 0x66, 0xDB, 0x3F), (0xFF,) * 4, (0,) * 4, (1, 2, 4, 8), (16, 32, 64, 128)])
def test_segments_on_paper_and_in_the_terminal(masks: tuple[int, ...], tmp_path: Path) -> None:
    """The same segments are lit in both, and they are those of the masks."""
    glass = glass_of(STAND, SegmentFrame(masks))
    on_paper = {(int(digit), name) for digit, name in LIT_SEGMENT.findall(svg_of(glass, tmp_path))}
    drawn = pixels(glass, 60)
    in_terminal = {
        (digit, name)
        for digit in range(4)
        for name, (x, y) in MIDDLES.items()
        if drawn[1 + y][2 + 8 * digit + x] == glass.lit
    }
    names = [*SEGMENTS, "point"]
    wanted = {(digit, names[bit]) for digit, mask in enumerate(masks) for bit in range(8) if mask >> bit & 1}
    assert on_paper == wanted
    assert in_terminal == wanted


@pytest.mark.parametrize("alphabet", ["14", pytest.param("16", marks=pytest.mark.long)])
def test_many_segments_on_paper_and_in_the_terminal(alphabet: str, tmp_path: Path) -> None:
    """Every letter there is, four at a time, with a point and a colon: the same lamps are lit in both."""
    kind = ALPHABETS[alphabet]
    every = [*kind.shapes.values(), kind.point, kind.colon]
    panel = replace(STAND, segments=alphabet, colons=(1, 2, 3, 4))
    for start in range(0, len(every), 16):
        masks = tuple((every[start : start + 16] + [0] * 16)[:16])
        glass = glass_of(panel, SegmentFrame(masks, alphabet))
        on_paper = {(int(digit), name) for digit, name in LIT_SEGMENT.findall(svg_of(glass, tmp_path))}
        drawn = pixels(glass, 400)
        in_terminal = {
            (digit, {".": "point", ":": "colon"}.get(name, name))
            for digit in range(16)
            for y in range(11)
            for x in range(pitch_of(alphabet))
            if (name := name_at(alphabet, x, y)) and drawn[1 + y][2 + pitch_of(alphabet) * digit + x] == glass.lit
        }
        names = [*kind.segments, "point", "colon"]
        wanted = {
            (digit, names[bit]) for digit, mask in enumerate(masks) for bit in range(len(names)) if mask >> bit & 1
        }
        assert on_paper == wanted
        assert in_terminal == wanted


def test_sixteen_digits_look_the_same_in_all_blocks() -> None:
    """Half blocks, quarter blocks, in miniature: the same dots are lit."""
    panel = replace(STAND, digits=16)
    masks = tuple(panel.code(Cell(letter)) or 0 for letter in "0123456789AbCdEF")
    assert len(lit_in_all_blocks(glass_of(panel, SegmentFrame(masks)))) > 16 * 10


def test_pixels_on_paper_and_in_the_terminal(tmp_path: Path) -> None:
    """Runs of pixels on paper, pixels or dots in the terminal: the same ones are lit."""
    panel = PixelPanel("lid", 48, 16, "white")
    rows = tuple(random.Random(4).getrandbits(48) for _ in range(16))
    frame = panel.lit((rows,))
    glass = glass_of(panel, frame)
    wanted = {(x, y) for x in range(48) for y in range(16) if frame.lit(x, y)}
    text = svg_of(glass, tmp_path)
    rows = re.findall(r'id="lit-([\d-]+)"', text)
    named = {(x, y) for row in rows for y, *places in [[*map(int, row.split("-"))]] for x in places}
    assert named == wanted
    # Squares with gaps on all sides, read back from the path itself: no stripes.
    squares = re.findall(r"M ([\d.]+) ([\d.]+) \nL ([\d.]+) ([\d.]+) \nL ([\d.]+) ([\d.]+)", text)
    sizes = {(round(float(x1) - float(x0), 2), round(float(y2) - float(y0), 2)) for x0, y0, x1, _, _, y2 in squares[2:]}
    assert len(squares) >= len(wanted)
    assert all(abs(width - height) <= 0.02 for width, height in sizes), sizes
    assert {(x - 1, y - 1) for x, y in lit_in_all_blocks(glass)} == wanted


def frame_of(texts: list[str]) -> CharacterFrame:
    """The door's frame with these rows."""
    codes = tuple(tuple(DOOR.code(Cell(letter)) or 0x20 for letter in text[:16].ljust(40)) for text in texts)
    return DOOR.lit(codes)


@settings(max_examples=8)
@pytest.mark.long
@given(st.lists(st.text(st.characters(min_codepoint=32, max_codepoint=126), max_size=16), min_size=2, max_size=2))
def test_characters_on_paper_and_in_the_terminal(tmp_path_factory: pytest.TempPathFactory, texts: list[str]) -> None:
    """Every dot of any two lines, in all drawings: blocks, in miniature, SVG."""
    frame = frame_of(texts)
    glass = glass_of(DOOR, frame)
    wanted = {(x, y) for x in range(80) for y in range(16) if frame.lit(x, y)}
    found = LIT_DOT.findall(svg_of(glass, tmp_path_factory.mktemp("svg")))
    assert {(int(c) * 5 + int(x), int(r) * 8 + int(y)) for r, c, x, y in found} == wanted

    def cell(x: int, y: int) -> tuple[int, int]:
        return 2 + x // 5 * 6 + x % 5, 2 + y // 8 * 9 + y % 8

    assert lit_in_all_blocks(glass) == {cell(x, y) for x, y in wanted}


def test_a_chart_on_paper(tmp_path: Path) -> None:
    """Title, labels and legend as text, names from outside as they are, the same bytes each time; PDF too."""
    series = (
        Series("a $x$ <b>", [0.0, 1.0, 2.0], [1.0, 3.0, 2.0], "lapis"),
        Series("p", [1.0], [2.0], "ochre", "points"),
    )
    chart = Chart("raw", series, "time", "raw / ct", (0.0, 2.0), (0.0, 4.0), 1.0, (("missing", [0.5]),), time_axis=True)
    text = svg_of(chart, tmp_path)
    for words in ("yard · mass · raw", "raw / ct", "a $x$ &lt;b&gt;", "missing"):
        assert words in text
    assert svg_of(chart, tmp_path) == text
    assert draw_subject(chart, ".pdf", "t").startswith(b"%PDF-")
