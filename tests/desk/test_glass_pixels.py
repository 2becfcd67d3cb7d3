"""Pixel panels at the desk: items snapped and spread, shapes, pictures and fonts of one's own, a close look."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.glass.faces.items import size_of
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glyphs.fonts import FONTS, built_in
from lesart.core.step import Step
from lesart.desk.deeds.glass import look_closely, look_from_behind, move, next_place, snap, space_evenly
from lesart.desk.deeds.turning import turn_over
from lesart.desk.desk import Desk
from lesart.desk.entries.glass.item_places import _equal
from lesart.desk.picture import context_of, workspace_now
from lesart.desk.workspace.glass.pixels import specimen
from lesart.project.assets.bdf_write import bdf_text
from tests.desk.test_glass import added, tables, words


@pytest.fixture
def hut(desk: Desk) -> Desk:
    """A new panel of 84×48 pixels in front, with an empty face, Glass open on its items."""
    desk.open_step(Step.GLASS)
    desk.choose_leaf("panels there are")
    added(desk, "84x48 pixels hut")
    return desk


def places(desk: Desk, face: str = "hut") -> list[tuple[int, int]]:
    """Row and column of each item."""
    return [(item.row, item.column) for item in desk.state.project.faces[face].items]


def test_an_item_snaps_to_what_is_there(hut: Desk) -> None:
    """From edge to middle to edge, to the lines of another item and beside it; no further than that."""
    for typed in ("label AB", "label CDEF"):
        added(hut, typed)
    hut.edit(("faces", "hut", "items", 0, "column"), "20")
    hut.select(("faces", "hut", "items", 1, "column"))
    # AB is 11 pixels wide from 20 on, CDEF 23: stops beside, under its edges and its middle, and those of the panel.
    stops = []
    for _ in range(9):
        snap(hut, "right")
        if hut.state.message_is_fault:
            break
        stops.append(places(hut)[1][1])
    assert stops == sorted(stops)
    width = hut.state.project.faces["hut"].items[1]
    room = 84 - size_of(width, hut.state.project.panels["hut"])[0]
    assert {20, room // 2, room} <= set(stops)
    assert "nothing further that way" in hut.state.message
    for _ in range(9):
        snap(hut, "left")
    assert places(hut)[1][1] == 0
    snap(hut, "up")
    assert places(hut)[1][0] == 0


def test_before_and_after_change_places(hut: Desk) -> None:
    """x shows the face as it was before the last edit, and again as it is; another edit is shown as it is."""
    turn_over(hut)
    first = workspace_now(hut).glass
    added(hut, "label AB")
    after = workspace_now(hut).glass
    assert first is not None
    assert after is not None
    turn_over(hut)
    assert "As it was before: added" in hut.state.message
    before = workspace_now(hut).glass
    assert before is not None
    assert isinstance(before.frame, PixelFrame)
    assert before.frame.lit_count == 0
    turn_over(hut)
    again = workspace_now(hut).glass
    assert again is not None
    assert again.frame == after.frame
    turn_over(hut)
    hut.edit(("faces", "hut", "items", 0, "row"), "8")
    moved = workspace_now(hut).glass
    assert moved is not None
    assert moved.frame != after.frame
    assert isinstance(moved.frame, PixelFrame)
    assert moved.frame.lit_count > 0


def test_by_a_letter_and_at_equal_distances(hut: Desk) -> None:
    """A letter of its font; three rows at equal distances between the first and the last, which stay."""
    for typed in ("label A", "label B", "label C"):
        added(hut, typed)
    hut.select(("faces", "hut", "items", 1, "column"))
    move(hut, "right", "cell")
    assert places(hut)[1] == (9, 6), "five pixels and one between them"
    hut.edit(("faces", "hut", "items", 2, "row"), "40")
    space_evenly(hut)
    rows = [row for row, _ in places(hut)]
    assert rows[0] == 0
    assert rows[2] == 40
    assert rows[1] == 20
    for place in (1, 2):
        hut.edit(("faces", "hut", "items", place, "row"), "0")
        hut.edit(("faces", "hut", "items", place, "column"), ("", "10", "60")[place])
    space_evenly(hut)
    assert [column for _, column in places(hut)] == [0, 30, 60]
    hut.edit(("faces", "hut", "items", 2, "column"), "0")
    before = places(hut)
    space_evenly(hut)
    assert places(hut) == before
    assert hut.state.message_is_fault


@pytest.mark.long
def test_shapes_are_added_by_name(hut: Desk) -> None:
    """Of one channel, of two, of a picture; each says what it cannot be made of."""
    for typed in ("dial wind", "trend wind", "spectrum lid sound", "bubble stand x / stand y / wind", "picture leaf"):
        added(hut, typed)
        words(hut)
    kinds = [item["kind"] for item in tables(hut)["faces"]["hut"]["items"]]
    assert kinds == ["dial", "trend", "spectrum", "bubble", "picture"]
    for wrong, says in (
        ("bubble wind", "moved by two channels"),
        ("bubble wind / gale", '"gale" is not a channel'),
        ("picture moon", '"moon" is not a picture; the project has leaf'),
        ("dial gale", "is not a channel"),
    ):
        hut.add(wrong)
        assert says in hut.state.message
    hut.choose_panel("door")
    hut.add("dial wind")
    assert "A dial is made of pixels; 16×2 characters has none." in hut.state.message


def test_a_picture_and_a_font_of_ones_own(hut: Desk, yard: Path) -> None:
    """Brought in by name and file; ways to dither beside each other; the font is one of those an item can have."""
    hut.choose_leaf("pictures")
    assert "▌ diffused" in words(hut)
    added(hut, "small < pictures/leaf.png")
    hut.edit(("pictures", "small", "width"), "8")
    assert "8×8, 1 frame, 8 bytes" in words(hut)
    glass = workspace_now(hut).glass
    assert glass is not None
    assert isinstance(glass.frame, PixelFrame)
    assert (glass.frame.width, glass.frame.height) == (3 * 8 + 2 * 4, 8)
    hut.edit(("pictures", "small", "dither"), "ordered")
    assert "▌ ordered" in words(hut)
    (yard / "fonts").mkdir()
    (yard / "fonts/own.bdf").write_text(bdf_text(built_in()["text 10"]))
    hut.choose_leaf("glyphs")
    added(hut, "own < fonts/own.bdf")
    assert "own   " in words(hut)
    hut.choose_leaf("items")
    added(hut, "label hive")
    hut.edit(("faces", "hut", "items", 0, "font"), "own")
    assert not hut.state.message_is_fault, hut.state.message
    assert size_of(hut.state.project.faces["hut"].items[0], hut.state.project.panels["hut"])[1] == 12
    hut.nudge(1)
    hut.edit(("faces", "hut", "items", 0, "font"), "runes")
    assert '"own"' in hut.state.message
    hut.choose_leaf("pictures")
    hut.select(("pictures", "small", "file"))
    hut.take_away()
    assert set(tables(hut)["pictures"]) == {"leaf"}
    hut.edit(("pictures", "leaf", "file"), "pictures/none.png")
    assert any("none.png: it cannot be read (No such file or directory)" in note.text for note in hut.notes)


def test_a_stripe_the_other_side_and_a_close_look(hut: Desk) -> None:
    """Its rows have a light of their own; from behind it is mirrored; a close look is at its item."""
    added(hut, "label L")
    hut.turn(look_from_behind)
    assert "No panel here is see-through" in hut.state.message
    for name, value in (("see_through", "yes"), ("light", "blue"), ("stripe", "16")):
        hut.edit(("panels", "hut", name), value)
    front = context_of(hut).glasses[0]
    assert front.stripe is not None
    assert front.stripe[0] == 16
    assert front.stripe[2] != front.lit
    hut.turn(look_from_behind)
    behind = context_of(hut).glasses[0]
    assert isinstance(front.frame, PixelFrame)
    assert isinstance(behind.frame, PixelFrame)
    assert all(behind.frame.lit(83 - x, y) == front.frame.lit(x, y) for x in range(84) for y in range(48))
    hut.turn(look_from_behind)
    hut.turn(look_closely)
    large = workspace_now(hut).glass
    assert large is not None
    assert large.close
    assert large.focus is not None
    assert large.focus[:2] == (0, 0)
    hut.edit(("panels", "hut", "light"), "grey")
    hut.edit(("panels", "hut", "backlight"), "30 %")
    hut.edit(("panels", "hut", "low_lights"), "yes")
    hut.choose_leaf("panel")
    assert "line high 70 %" in words(hut)


def test_a_specimen_of_every_font(hut: Desk) -> None:
    """f goes through all of them; on the panel's own dots every letter is shown once, page after page."""
    hut.choose_leaf("glyphs")
    panel = hut.state.project.panels["hut"]
    for name in FONTS:
        hut.turn(next_place)
        assert hut.state.message == f"font {name}"
        font = built_in()[name]
        assert f"{len(font.glyphs)} letters" in words(hut)
        large = workspace_now(hut).glass
        assert large is not None
        assert isinstance(large.frame, PixelFrame)
        assert (large.frame.width, large.frame.height) == (panel.columns, panel.rows)
        pages = specimen(font, sorted(font.glyphs), panel.columns, panel.rows)
        wanted = sum(row.bit_count() for glyph in font.glyphs.values() for row in glyph.rows)
        if font.height < panel.rows and not font.pitch:  # in a fixed one what is wider than ASCII laps over
            assert sum(page.lit_count for page in pages) == wanted
    hut.turn(next_place)
    assert hut.state.message == f"font {FONTS[0]}"
    # A capital of 7 pixels of 0.36 mm is 2.5 mm; 16 minutes of arc of it are 0.54 m.
    hut.turn(lambda state: replace(state, glass=replace(state.glass, font="text 7")))
    assert "capital is 2.5 mm high, read up to 0.54 m" in words(hut)


def test_equal_distances_keep_what_is_pinned() -> None:
    """By hand: five items of ten pixels from 0 to 100, the third one pinned at 30: the second stands in the middle of
    0 and 30, the fourth in the middle of 30 and 100."""
    spans = {0: (0, 10), 1: (11, 10), 2: (30, 10), 3: (45, 10), 4: (100, 10)}
    assert _equal(spans, frozenset({2})) == {0: 0, 1: 15, 2: 30, 3: 65, 4: 100}
    assert _equal(spans, frozenset()) == {0: 0, 1: 25, 2: 50, 3: 75, 4: 100}
    assert _equal({**spans, 2: (12, 10)}, frozenset({2})) is None
