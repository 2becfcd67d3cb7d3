"""Glass at the desk: panels, faces, items, glyphs and wiring made by keys; what stands on the glass after each."""

from __future__ import annotations

import tomllib
from typing import Any

import pytest

from lesart.core.glass.panels.frame import CharacterFrame, SegmentFrame
from lesart.core.step import Step
from lesart.desk.deeds.glass import align, lit_line, move, next_face, next_pattern
from lesart.desk.deeds.turning import turn_over
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, workspace_now
from tests.conftest import AIR, MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def tables(desk: Desk) -> dict[str, Any]:
    """The project as it stands."""
    return tomllib.loads(desk.state.history.text)


def added(desk: Desk, typed: str) -> None:
    """By +, and it worked."""
    desk.add(typed)
    assert not desk.state.message_is_fault, desk.state.message


@pytest.fixture
def shed(desk: Desk) -> Desk:
    """A new panel of 16×2 characters in front, with an empty face, Glass open on its items."""
    desk.open_step(Step.GLASS)
    desk.choose_leaf("panels there are")
    added(desk, "16x2 characters shed")
    assert (desk.state.panel, desk.state.leaf_of(Step.GLASS)) == ("shed", "items")
    return desk


def row_of(desk: Desk, row: int) -> bytes:
    """The codes of a row of the panel in front."""
    frame = context_of(desk).glasses[0].frame
    assert isinstance(frame, CharacterFrame)
    return bytes(frame.codes[row])


def test_a_panel_is_made_from_its_description(shed: Desk) -> None:
    """Under the name behind it; without one a free name; an unknown one names those there are; its faces go with it."""
    assert tables(shed)["panels"]["shed"] == {"kind": "characters", "columns": 16, "rows": 2}
    assert tables(shed)["faces"]["shed"] == {"panel": "shed"}
    shed.choose_leaf("panels there are")
    added(shed, "4 digits with colon")
    assert "panel 1" in tables(shed)["panels"]
    for wrong, says in (("100 by 64", "is not a panel Lesart knows"), ("8 digits shed", 'a panel "shed" already')):
        shed.choose_leaf("panels there are")
        shed.add(wrong)
        assert says in shed.state.message
    shed.choose_panel("shed")
    shed.choose_leaf("panel")
    shed.take_away()
    assert "shed" not in tables(shed)["panels"]
    assert "shed" not in tables(shed)["faces"]


def test_items_are_placed_moved_and_aligned(shed: Desk) -> None:
    """Each behind the last one; by a cell within the panel; left, middle and right in turn."""
    added(shed, "label hive")
    added(shed, "field lid air")
    assert row_of(shed, 0) == b"hive 35.3\xdfC     "
    for wanted in (b"hive  35.3\xdfC", b"hive   35.3\xdfC"):
        move(shed, "right")
        assert row_of(shed, 0).rstrip() == wanted
    move(shed, "up")
    assert row_of(shed, 0).rstrip() == b"hive   35.3\xdfC"
    move(shed, "down")
    assert row_of(shed, 0).rstrip() == b"hive"
    columns = []
    for _ in range(4):
        align(shed)
        columns.append(tables(shed)["faces"]["shed"]["items"][1]["column"])
    width = shed.state.project.faces["shed"].fields_of(AIR)[0].field.width
    assert columns[-3:] == [0, (16 - width) // 2, 16 - width]
    shed.take_away()
    assert [item["kind"] for item in tables(shed)["faces"]["shed"]["items"]] == ["label"]
    shed.add("needler lid air")
    assert "is not an item; write field, bar" in shed.state.message
    shed.add("field air")
    assert '"air" is not a channel' in shed.state.message


def test_where_people_count_from_one(shed: Desk) -> None:
    """The file says 1 where the glass begins; row 0 is none then, and a note counts as they do."""
    shed.edit(("panels", "shed", "counted_from"), "1")
    assert not shed.state.message_is_fault, shed.state.message
    added(shed, "label hive")
    item = tables(shed)["faces"]["shed"]["items"][0]
    assert (item["row"], item["column"]) == (1, 1)
    assert row_of(shed, 0).startswith(b"hive")
    shed.edit(("faces", "shed", "items", 0, "column"), "0")
    assert "counted from 1" in shed.state.message
    shed.edit(("faces", "shed", "items", 0, "column"), "15")
    (note,) = [note for note in shed.notes if note.panel == "shed" and note.is_fault]
    assert "ends at row 1, column 18; the panel ends at row 2, column 16" in note.text


def test_a_bar_is_made_of_glyphs_with_steps_finer_than_a_cell(shed: Desk) -> None:
    """As long as the reading is between its ends; the slots it takes are counted, and nine are too many."""
    added(shed, "bar hive 2 mass")
    shed.choose_channel(MASS)
    for mass, full, part in ((-2.0, 0, 0), (120.0, 16, 0), (59.0, 8, 0), (60.525, 8, 1), (62.05, 8, 1)):
        shed.take_hand(f"{mass} kg")
        codes = row_of(shed, 0)
        assert codes.count(0xFF) == full, mass
        assert len(codes.rstrip(b" ")) == full + part, mass
    shed.choose_leaf("glyphs")
    for letter in "abcdef":
        added(shed, letter)
    assert "10 of 8 slots" in words(shed)
    assert any("10 custom glyphs are used, the panel has room for 8" in note.text for note in shed.notes)


def test_a_glyph_is_drawn_dot_by_dot(shed: Desk) -> None:
    """Keys go to a dot and turn it; the glass shows it at once where the letter stands."""
    added(shed, "label h")
    shed.choose_leaf("glyphs")
    added(shed, "h")
    assert row_of(shed, 0)[0] == 0
    for way in ("", "right", "down"):
        if way:
            move(shed, way)
        turn_over(shed)
        assert not shed.state.message_is_fault, shed.state.message
    assert tables(shed)["panels"]["shed"]["glyphs"]["h"].startswith("##.../.#...")
    frame = context_of(shed).glasses[0].frame
    assert isinstance(frame, CharacterFrame)
    assert frame.dots[0][0][:3] == (0b11000, 0b01000, 0)
    turn_over(shed)
    assert tables(shed)["panels"]["shed"]["glyphs"]["h"].startswith("##.../.....")
    shed.add("too long")
    assert "is not one letter" in shed.state.message
    shed.take_away()
    assert "glyphs" not in tables(shed)["panels"]["shed"]


def test_a_shape_of_segments_is_drawn_by_name(desk: Desk) -> None:
    """The same keys go through segments."""
    desk.open_step(Step.GLASS)
    desk.choose_panel("stand")
    desk.choose_leaf("glyphs")
    added(desk, "k")
    for _ in range(2):
        turn_over(desk)
        move(desk, "right")
    assert tables(desk)["panels"]["stand"]["glyphs"]["k"] == "ab"


def test_faces_go_in_turn(shed: Desk) -> None:
    """Each for its time; the one worked on is shown large, whichever's turn it is."""
    added(shed, "label one")
    added(shed, "face second")
    assert shed.state.glass.face == "second"
    shed.turn(next_face)
    shed.turn(next_face)
    assert shed.state.glass.face == "second"
    added(shed, "label two")
    assert "3 s" in words(shed)
    shed.put_cursor(1.0)
    assert row_of(shed, 0).startswith(b"one")
    shed.put_cursor(4.0)
    assert row_of(shed, 0).startswith(b"two")
    large = workspace_now(shed).glass
    assert large is not None
    assert isinstance(large.frame, CharacterFrame)
    assert bytes(large.frame.codes[0]).startswith(b"two")
    shed.put_cursor(7.0)
    assert row_of(shed, 0).startswith(b"one")


def test_what_is_written_as_it_comes_leaves_a_tail(desk: Desk) -> None:
    """The tail of a longer number stands on the glass as on the bench; the note says so, and a key mends it."""
    desk.choose_channel(MASS)
    desk.open_step(Step.GLASS)
    desk.choose_panel("door")
    desk.choose_leaf("items")
    desk.edit(("faces", "both", "writes"), "over, as it comes")
    assert not desk.state.message_is_fault, desk.state.message
    calm = desk.bench.run(desk.state.project, desk.state.chosen).calm
    field = desk.state.project.faces["both"].fields_of(MASS)[0]
    desk.put_cursor(float(calm.t[2000]))
    shown = row_of(desk, 0)
    assert shown[field.column :].lstrip()[:2].isdigit(), "unpadded it begins where the field does"
    (note,) = [note for note in desk.notes if "as it comes" in note.text and note.channel == MASS]
    desk.go_to_note(desk.notes.index(note))
    desk.mend()
    assert desk.state.project.faces["both"].writes == "over, padded"
    assert "saved" in words(desk)


def test_a_wiring_map_is_found_by_saying_what_is_lit(desk: Desk) -> None:
    """Line by line; a segment twice is refused; behind the last one the map is written, and the glass stays as it
    was."""
    desk.open_step(Step.GLASS)
    desk.choose_panel("stand")
    desk.choose_leaf("wiring")
    before = context_of(desk).glasses[0].frame
    for name in ("g", "f", "a", "b"):
        lit_line(desk, name)
    assert "Bit 3 lights b; bit 4 is lit now" in desk.state.message
    lit_line(desk, "a")
    assert "Bit 2 lit a already" in desk.state.message
    lit_line(desk, "q")
    assert '"q" is not a segment' in desk.state.message
    for name in ("e", "d", "c", "."):
        lit_line(desk, name)
    assert tables(desk)["panels"]["stand"]["order"] == "g f a b e d c ."
    assert context_of(desk).glasses[0].frame == before
    panel = desk.state.project.panels["stand"]
    assert panel.wiring.bits(0b1100110) == 0b01001011  # type: ignore[attr-defined]


def test_test_patterns_go_on_step_by_step(desk: Desk) -> None:
    """On the panel, and as the bytes to send to a real one."""
    desk.open_step(Step.GLASS)
    desk.choose_panel("stand")
    desk.turn(next_pattern)
    assert "FF FF FF FF" in words(desk)
    desk.turn(next_pattern)
    desk.turn(next_pattern)
    assert desk.state.glass.pattern == "each segment in turn"
    desk.move_cursor(1)
    large = workspace_now(desk).glass
    assert large is not None
    assert large.frame == SegmentFrame((2, 2, 2, 2))
    assert "step 2 of 8" in words(desk)
    desk.choose_panel("door")
    assert "all on" in words(desk)
    assert "C0" in words(desk)


def test_a_font_becomes_the_character_set_of_a_panel(shed: Desk) -> None:
    """Taken into the project as drawings; the glass shows its letters, and what it lacks is noted."""
    folder = shed.folder / "fonts"
    folder.mkdir()
    font = "STARTFONT 2.1\nFONTBOUNDINGBOX 5 7 0 0\nCHARS 1\nSTARTCHAR h\nENCODING 104\nDWIDTH 6 0\nBBX 5 2 0 0\nBITMAP\nF8\n88\nENDCHAR\nENDFONT\n"
    (folder / "own.bdf").write_text(font)
    added(shed, "label hi")
    shed.choose_leaf("panel")
    added(shed, "my set < fonts/own.bdf")
    assert tables(shed)["charsets"]["my set"] == {"0x68": "...../...../...../...../...../#####/#...#/....."}
    frame = context_of(shed).glasses[0].frame
    assert isinstance(frame, CharacterFrame)
    assert frame.dots[0][0] == (0, 0, 0, 0, 0, 31, 17, 0)
    assert any("no shape for i" in note.text for note in shed.notes)
    for wrong, says in (
        ("again < fonts/none.bdf", "cannot be read"),
        ("my set < fonts/own.bdf", "already"),
        ("own.bdf", "it takes a character set, my set < fonts/mine.bdf."),
    ):
        shed.add(wrong)
        assert says in shed.state.message
    shed.select(("panels", "shed", "charset"))
    shed.nudge(1)
    assert shed.state.project.panels["shed"].charset == "Latin, katakana"  # type: ignore[attr-defined]
    shed.edit(("panels", "shed", "charset"), "runes")
    assert 'it must be one of "Latin, katakana"' in shed.state.message


def test_a_pixel_panel_from_nothing(desk: Desk) -> None:
    """Items below each other, moved by a pixel, in a font of their own; the other conventions' y beside them."""
    desk.open_step(Step.GLASS)
    desk.choose_leaf("panels there are")
    added(desk, "84x48 pixels hut")
    assert desk.state.panel == "hut"
    added(desk, "label hive")
    added(desk, "field lid air")
    added(desk, "box")
    items = tables(desk)["faces"]["hut"]["items"]
    assert [item["row"] for item in items] == [0, 9, 18]
    desk.select(("faces", "hut", "items", 1, "column"))
    move(desk, "right")
    move(desk, "down")
    assert (desk.state.project.faces["hut"].items[1].row, desk.state.project.faces["hut"].items[1].column) == (10, 1)
    assert "by the base line 16" in words(desk)
    desk.edit(("faces", "hut", "items", 1, "font"), "text 10")
    assert not desk.state.message_is_fault, desk.state.message
    assert any("covers the field of lid air" in note.text for note in desk.notes)
    for leaf in ("panel", "glyphs", "wiring", "test"):
        desk.choose_leaf(leaf)
        assert words(desk)
    desk.choose_leaf("wiring")
    assert "a frame with a lit corner begins with FF" in words(desk)
    desk.choose_leaf("glyphs")
    desk.add("x")
    assert "names no file; write mine < fonts/mine.bdf" in desk.state.message


def test_a_face_is_arranged_by_rules_and_undone(shed: Desk) -> None:
    """Nothing overlaps afterwards; pinned items stay; one undo takes it back."""
    for typed in ("label hive", "field hive 2 mass", "field lid air"):
        added(shed, typed)
    shed.edit(("faces", "shed", "items", 1, "column"), "2")
    before = shed.state.history.text
    assert any("covers" in note.text for note in shed.notes if note.panel == "shed")
    added(shed, "arrange")
    assert "arranged: 3 items" in shed.state.message
    assert not any("covers" in note.text for note in shed.notes if note.panel == "shed")
    shed.undo()
    assert shed.state.history.text == before
    shed.add("arrange twice")
    assert "is too much" in shed.state.message


def test_a_face_is_refitted_to_other_panels(desk: Desk) -> None:
    """The original stays; what finds no room is named; on four digits the most important field is left."""
    desk.open_step(Step.GLASS)
    desk.choose_panel("lid")
    desk.choose_leaf("items")
    desk.edit(("faces", "lid", "items", 3, "importance"), "9")
    original = tables(desk)["faces"]["lid"]
    for panel in ("door", "stand"):
        desk.choose_panel("lid")
        added(desk, f"refit {panel}")
        made = tables(desk)["faces"][f"lid on {panel}"]
        assert made["panel"] == panel
        assert any(item.get("channel") == MASS and item["kind"] == "field" for item in made["items"])
    assert "left out" in desk.state.message
    assert tables(desk)["faces"]["lid"] == original
    assert not [note for note in desk.notes if note.is_fault and note.panel == "door" and note.step == Step.GLASS]
    desk.choose_panel("lid")
    desk.add("refit lid")
    assert desk.state.message == "Face lid is on panel lid already; it can be refitted to stand, door, mast and gate."
    desk.add("refit nowhere")
    assert desk.state.message == '"nowhere" is not a panel; it can be refitted to stand, door, mast and gate.'


def test_a_refitted_face_keeps_its_rules_and_takes_the_place_of_an_empty_one(shed: Desk) -> None:
    """How often it is drawn, how it is written and from where it is seen; the empty face that a new panel came with is
    gone, so the panel is never blank in its turn. One with items stays, in turn."""
    added(shed, "label hive")
    told = {"redraw": "1 Hz", "writes": "over, as it comes", "seen_from": "2 m"}
    for key, value in told.items():
        shed.edit(("faces", "shed", key), value)
    added(shed, "96x16 pixels strip")
    assert tables(shed)["faces"]["strip"] == {"panel": "strip"}
    shed.choose_panel("shed")
    added(shed, "refit strip")
    faces = tables(shed)["faces"]
    assert "strip" not in faces
    made = {key: value for key, value in faces["shed on strip"].items() if key != "items"}
    assert made == {"panel": "strip", **told}
    shed.choose_panel("shed")
    added(shed, "refit strip")
    faces = tables(shed)["faces"]
    assert faces["shed on strip"]["lasts"] == faces["shed on strip 2"]["lasts"] == "3 s"
    assert {key: faces["shed on strip 2"][key] for key in told} == told


def test_what_is_added_stands_where_there_is_room(shed: Desk) -> None:
    """In the first row that has it; a panel is made from whichever leaf its description is typed on."""
    for typed in ("label hive two", "label swarm today", "label ok", "field hive 1 mass"):
        added(shed, typed)
    places = [(item["row"], item["column"]) for item in tables(shed)["faces"]["shed"]["items"]]
    assert places == [(0, 0), (1, 0), (0, 9), (0, 11)]
    assert not [note for note in shed.notes if "covers" in note.text and note.panel == "shed"]
    added(shed, "96x16 pixels strip")
    assert shed.state.panel == "strip"


@pytest.mark.parametrize("kind", ["field", "bar"])
def test_an_item_can_be_typed_as_its_list_says_it(shed: Desk, kind: str) -> None:
    """The list says "field of hive 2 mass"; both ways make the same."""
    desk, made = shed, []
    for typed in (f"{kind} {AIR}", f"{kind} of {AIR}"):
        desk.add(typed)
        assert not desk.state.message_is_fault, desk.state.message
        assert f"{kind} of {AIR}" in words(desk)
        made.append(desk.state.history.text)
        desk.undo()
    assert made[0] == made[1]
    desk.add(f"{kind} of nobody")
    assert desk.state.message.startswith('"nobody" is not a channel; the project has hive 2 mass,')
