"""Faces: items composed into a frame, and what can be wrong with their places."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import Face, FieldItem, Item, Label, compose
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.frame import CharacterFrame, SegmentFrame
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glyphs.cell5x8 import CELLS_5X8
from lesart.core.glyphs.segments import ALPHABETS, POINT
from lesart.core.notes import DOUBT, FAULT
from tests.core.fit.fields import field_of

STAND = SegmentPanel("stand", 4, True, "red", None)
DOOR = CharacterPanel("door", 16, 2, "grey")

SEVEN = ALPHABETS["7"]


def shows(column: int = 0, row: int = 0, channel: str = "mass", **rules: object) -> FieldItem:
    """A field item."""
    return FieldItem(channel, row, column, field_of(**rules), frozenset(), 0)


def face(*items: Item, panel: str = "stand") -> Face:
    """A face of these items."""
    return Face("f", panel, items)


def test_segments_lit() -> None:
    """42.0 on four digits: dark, 4, 2 with its point, 0."""
    frame = compose(face(shows(width=4)), STAND, {"mass": Reading(42.0)}).frame
    assert frame == SegmentFrame((0, SEVEN.mask("bcfg"), SEVEN.mask("abdeg") | POINT, SEVEN.mask("abcdef")))


def test_characters_lit() -> None:
    """A label and a field with unit: codes, and the very dots of the glyphs."""
    placed = face(Label("in", 1, 2), shows(column=5, row=0, width=8, unit_text="°C"), panel="door")
    frame = compose(placed, DOOR, {"mass": Reading(34.84)}).frame
    assert isinstance(frame, CharacterFrame)
    assert bytes(frame.codes[0]) == b"       34.8\xdfC   "
    assert bytes(frame.codes[1]) == b"  in            "
    dots = [[frame.lit(5 * 7 + x, y) for x in range(5)] for y in range(8)]
    assert dots == [[bool(row >> (4 - x) & 1) for x in range(5)] for row in CELLS_5X8["3"]]


def test_silent_channel_is_stale() -> None:
    """A channel that has no reading shows the stale text, never an old number."""
    frame = compose(face(shows(width=4)), STAND, {}).frame
    assert frame == SegmentFrame((SEVEN.mask("d"),) * 4)


def test_panels_remember() -> None:
    """What is not overwritten stays: the tail of a longer text is still there."""
    before = compose(face(Label("hello", 0, 0), panel="door"), DOOR, {}).memory
    after = compose(face(Label("by", 0, 0), panel="door"), DOOR, {}, before)
    assert bytes(after.memory[0][:6]) == b"byllo "


def test_a_missing_letter_is_not_silence() -> None:
    """Where the panel lacks a letter a ? stands, and a note says which."""
    placed = face(Label("wé", 0, 0), panel="door")
    assert bytes(compose(placed, DOOR, {}).memory[0][:2]) == b"w?"
    (note,) = inspect_face(placed, DOOR)
    assert note.mark == DOUBT
    assert "é" in note.text


@pytest.mark.parametrize(
    ("items", "panel", "says"),
    [
        ((shows(width=4),), STAND, []),
        ((shows(width=5),), STAND, ["ends at row 0, column 4; the panel ends at row 0, column 3"]),
        ((shows(column=1, width=4),), STAND, ["column 4"]),
        ((Label("down", 2, 0),), DOOR, ["row 2"]),
        ((Label("abc", 0, 0), Label("xyz", 0, 2)), DOOR, ['label "xyz" covers the label "abc"']),
        ((Label("abc", 0, 0), Label("xyz", 1, 2)), DOOR, []),
        ((Label("1.5", 0, 0), Label("x", 0, 2)), DOOR, ["covers"]),  # the point takes a cell here
        ((Label("1.5", 0, 0), Label("8", 0, 2)), STAND, []),  # and none here
    ],
)
def test_places(items: tuple[Item, ...], panel: SegmentPanel | CharacterPanel, says: list[str]) -> None:
    """Leaving the panel and covering another are faults, with rows and columns; nothing else is."""
    notes = inspect_face(Face("f", panel.name, items), panel)
    assert len(notes) == len(says)
    for note, words in zip(notes, says, strict=True):
        assert note.mark == FAULT
        assert words in note.text


@given(st.floats(allow_nan=True), st.integers(0, 20), st.integers(0, 5), st.integers(1, 30))
def test_composing_never_leaves_the_panel(value: float, column: int, row: int, width: int) -> None:
    """Whatever is placed wherever, the frame has the panel's size."""
    composed = compose(face(shows(column, row, width=width), panel="door"), DOOR, {"mass": Reading(value)})
    assert [len(line) for line in composed.memory] == [40, 40]
