"""Letters without a shape: what is proposed in their place can be shown, on every panel and in every font."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.fit.cells import Cell
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.inspect_letters import inspect_letters
from lesart.core.glass.faces.items import AlarmMark, Label, size_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.charsets import SETS
from lesart.core.glyphs.fonts import FONTS, built_in
from tests.core.glass.test_motion import characters, segments
from tests.core.glass.test_pixel_panel import panel_of

LETTERS = "".join(sorted(set(map(chr, range(33, 127))) - set(".,:"))) + "°µΩéßЖ₂♥"
"""Without points and colons, which a panel of segments joins to the digit before."""
PANELS: list[Panel] = [
    *(segments(digits=8, segments=kind) for kind in ("7", "14", "16")),
    *(characters(charset=name) for name in SETS),
    panel_of(width=128, height=64),
]


def shows(panel: Panel, font: str, letter: str) -> bool:
    """Has it a shape there?"""
    return letter in panel.font(font).glyphs if isinstance(panel, PixelPanel) else panel.code(Cell(letter)) is not None


def faces() -> list[tuple[Panel, str]]:
    """Every panel, the one of pixels with every font."""
    pixels = PANELS[-1]
    return [*((panel, "") for panel in PANELS[:-1]), *((pixels, font) for font in FONTS)]


@pytest.mark.parametrize(("panel", "font"), faces())
@given(st.text(LETTERS, min_size=1, max_size=6))
def test_what_is_proposed_can_be_shown(panel: Panel, font: str, written: str) -> None:
    """Letters named for others are there; a font that is named has them all; what a key writes leaves no such note."""
    label = Label(written, 0, 0, font=font) if font else Label(written, 0, 0)
    face = Face("f", panel.name, (label,))
    notes = inspect_letters(face, panel, label, 0)
    missing = sorted({letter for letter in written if not shows(panel, label.font, letter)})
    assert bool(notes) is bool(missing)
    if not notes:
        return
    (note,) = notes
    assert f"has no shape for {' '.join(missing)} in the" in note.text
    assert note.remedy is not None
    for near, letter in re.findall(r"(?:write |, )(\S) for (\S)", note.remedy):
        assert near != letter
        assert letter in missing
        assert shows(panel, label.font, near)
    if named := re.search(r"use the font (.+), which", note.remedy):
        assert set(written) <= built_in()[named[1]].glyphs.keys()
    for mend in note.mend:
        mended = replace(label, **{str(mend.key[-1]): mend.value})
        assert not inspect_letters(replace(face, items=(mended,)), panel, mended, 0)


def test_a_font_that_has_them_is_named_and_taken_where_there_is_room() -> None:
    """Numerals of 14 pixels have the letters of units only, the text of 14 has all; at the edge no key takes it, as it
    would be cut."""
    panel = panel_of(width=128, height=64)
    for row, is_mended in ((0, True), (45, True), (60, False)):
        label = Label("22 jw", row, 0, font="numerals 14")
        (note,) = inspect_letters(Face("f", "p", (label,)), panel, label, 0)
        assert note.text.startswith("p: the font numerals 14 has no shape for j w in the ")
        assert note.remedy == "use the font text 14, which has them"
        assert bool(note.mend) is is_mended
    other = AlarmMark("mass", 0, size_of(Label("22 jw", 0, 0, font="text 14"), panel)[0] - 1, "!")
    label = Label("22 jw", 0, 0, font="numerals 14")
    (note,) = inspect_letters(Face("f", "p", (label, other)), panel, label, 0)
    assert not note.mend
    below = replace(other, row=40)
    (note,) = inspect_letters(Face("f", "p", (label, below)), panel, label, 0)
    assert note.mend
    lower = replace(label, row=40)
    (note,) = inspect_letters(Face("f", "p", (lower, other)), panel, lower, 0)
    assert note.mend


def test_of_seven_segments() -> None:
    panel = segments(digits=4)
    label = Label("SOS", 0, 0)
    (note,) = inspect_letters(Face("f", "p", (label,)), panel, label, 0)
    assert isinstance(panel, SegmentPanel)
    assert note.remedy == "write o for O, 5 for S"
    assert note.mend[0].value == "5o5"


def test_of_a_set_of_characters() -> None:
    """Where nothing is near, other letters or a glyph of one's own are proposed."""
    panel = characters()
    assert isinstance(panel, CharacterPanel)
    label = Label("Ж", 0, 0)
    (note,) = inspect_letters(Face("f", "p", (label,)), panel, label, 0)
    assert note.remedy == "use other letters, or draw one of the eight glyphs"
    assert not note.mend
