"""Legibility and layout: by hand, and by the rule that the eye needs so many minutes of arc."""

from __future__ import annotations

import math

import pytest

from lesart.core.glass.faces.face import Box, Face, Item, Label
from lesart.core.glass.faces.items import Bar
from lesart.core.glass.faces.legibility import inspect_legibility, layout_of, legibility, read_from_m
from lesart.core.notes import DOUBT, FAULT
from tests.core.fit.fields import field_of
from tests.core.glass.test_character_panel import panel_of as characters
from tests.core.glass.test_pixel_panel import mass
from tests.core.glass.test_pixel_panel import panel_of as pixels
from tests.core.glass.test_segment_panel import panel_of as segments


def face(*items: Item, seen_from_m: float = 0.0) -> Face:
    """Of these items."""
    return Face("f", "p", items, seen_from_m=seen_from_m)


def test_minutes_of_arc() -> None:
    """A digit of 14.2 mm covers 16 minutes from 3.05 m and 22 from 2.22 m: h = d · tan(angle)."""
    assert read_from_m(14.2, 16) == pytest.approx(3.05, abs=0.01)
    assert read_from_m(14.2, 22) == pytest.approx(2.22, abs=0.01)
    assert math.degrees(math.atan(0.0142 / read_from_m(14.2, 16))) * 60 == pytest.approx(16)


def test_the_smallest_text_is_the_limit() -> None:
    """By the pitch of pixels and the font, the height of letters or digits; bars and boxes are not read."""
    panel = pixels(width=128, height=64, pitch="0.2 mm")
    found = legibility(face(mass(0, 0, "numerals 21", width=5), Label("kg", 30, 100, font="text 5")), panel)
    assert found is not None
    assert (found.item.named(), found.height_mm) == ('label "kg"', pytest.approx(1.0))
    assert found.least_m == pytest.approx(read_from_m(1.0, 16))
    assert (
        legibility(
            face(Box(row=0, column=0, width=9, tall=9, filled=True), Bar("m", 0, 0, 9, 0.0, 1.0, field_of())), panel
        )
        is None
    )
    for other, height in ((characters(digit_height="8 mm"), 8.0), (segments(), 14.0)):
        found = legibility(face(Label("8", 0, 0)), other)
        assert found is not None
        assert found.height_mm == height


def test_a_note_where_people_stand_too_far_away() -> None:
    """A fault where it cannot be read at all, a doubt where it is an effort; none where nobody says from where."""
    panel = characters(digit_height="5 mm")
    for seen_from_m, mark in ((0.0, None), (0.7, None), (0.9, DOUBT), (2.0, FAULT)):
        notes = inspect_legibility(face(Label("hive", 0, 0), seen_from_m=seen_from_m), panel)
        assert [note.mark for note in notes] == ([] if mark is None else [mark])
    (note,) = inspect_legibility(face(Label("hive", 0, 0), seen_from_m=2.0), panel)
    assert "5 mm high, can be read from up to 1.1 m, comfortably up to 0.78 m; people stand 2 m away" in note.text
    assert note.remedy == "write it 13 mm high"
    # 0.9 m by the tangent of 22 minutes of arc: 5.76 mm.
    (note,) = inspect_legibility(face(Label("hive", 0, 0), seen_from_m=0.9), panel)
    assert note.remedy == "write it 5.8 mm high"


def test_how_the_glass_is_used() -> None:
    """Boxes by hand: what two share counts once, the nearest pair is the gap."""
    panel = pixels(width=100, height=50, pitch="1 mm")
    layout = layout_of(
        face(
            Box(row=0, column=0, width=50, tall=10, filled=True), Box(row=20, column=40, width=20, tall=10, filled=True)
        ),
        panel,
    )
    assert layout.used == pytest.approx((500 + 200) / 5000)
    assert layout.gap == 10
    assert layout.largest_mm is None
    overlapping = layout_of(
        face(
            Box(row=0, column=0, width=50, tall=10, filled=True), Box(row=5, column=0, width=50, tall=10, filled=True)
        ),
        panel,
    )
    assert (overlapping.used, overlapping.gap) == (pytest.approx(750 / 5000), 0)
    assert layout_of(face(Label("hive", 0, 0)), characters()).used == pytest.approx(4 / 32)
    assert layout_of(face(), characters()).gap is None
