"""Texts that move, bars, faces in turn, patterns and the bytes that are sent: by hand, and against plain models."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import Reading
from lesart.core.glass.bus.patterns import pattern, patterns_of, steps_of
from lesart.core.glass.bus.sent_bytes import bytes_on_bus, glyphs_sent, sent_for
from lesart.core.glass.faces.bars import bar_cells, with_bar_glyphs
from lesart.core.glass.faces.face import BARE, CLEARED, PADDED, Face, FieldItem, Label, compose, face_at
from lesart.core.glass.faces.inspect_face import clashing, inspect_face
from lesart.core.glass.faces.items import AlarmMark
from lesart.core.glass.faces.motion import MOVES, Motion, moved
from lesart.core.glass.faces.panel_memory import redraws, remembered
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.notes import DOUBT, FAULT, REMARK
from tests.core.fit.fields import field_of
from tests.core.glass.test_character_panel import panel_of as characters
from tests.core.glass.test_segment_panel import panel_of as segments

DOOR = characters()
STAND = segments()
GATE = segments(digits=1)


def text(cells: tuple[Cell, ...]) -> str:
    """The cells as letters."""
    return "".join(map(str, cells))


def cells(words: str) -> tuple[Cell, ...]:
    """Letters as cells, points with the digit before them."""
    return split_cells(words, joined=".")


def test_one_digit_shows_a_number_digit_by_digit() -> None:
    """Each for its step, dark in the gap between, so that 11 is two flashes; then a pause; three times and no more."""
    motion = Motion("digits in turn", step_s=0.5, gap_s=0.25, pause_s=1.0, times=3)
    shown = [text(moved(cells("4.11"), motion, tick * 0.25)) for tick in range(13)]
    assert shown == ["4.", "4.", " ", "1", "1", " ", "1", "1", " ", " ", " ", " ", " "]
    assert motion.round_s(3) == pytest.approx(3 * 0.75 + 1.0)
    assert text(moved(cells("4.11"), motion, 3.25)) == "4."
    assert text(moved(cells("4.11"), motion, 3 * 3.25)) == " "


def test_a_text_runs_through_its_window() -> None:
    """From beyond one edge to beyond the other; to the right it comes in with its end first."""
    left = Motion("runs left", window=4, step_s=1.0, pause_s=1.0)
    assert [text(moved(cells("AbC"), left, float(t))) for t in range(9)] == [
        "    ",
        "   A",
        "  Ab",
        " AbC",
        "AbC ",
        "bC  ",
        "C   ",
        "    ",
        "    ",
    ]
    right = replace(left, moves="runs right")
    assert [text(moved(cells("AbC"), right, float(t))) for t in range(8)] == [
        "    ",
        "C   ",
        "bC  ",
        "AbC ",
        " AbC",
        "  Ab",
        "   A",
        "    ",
    ]


def test_what_blinks_is_dark_half_of_the_time() -> None:
    """Lit first."""
    motion = Motion(blink_hz=2.0)
    assert [text(moved(cells("8"), motion, tick / 8)) for tick in range(5)] == ["8", "8", " ", " ", "8"]


@given(
    moves=st.sampled_from(MOVES),
    window=st.integers(0, 8),
    t=st.floats(0, 1e5),
    words=st.text("0123456789", max_size=9),
    times=st.integers(0, 3),
    blink=st.sampled_from([0.0, 1.0]),
)
def test_a_moving_text_always_has_its_width(
    moves: str, window: int, t: float, words: str, times: int, blink: float
) -> None:
    """At any moment."""
    motion = Motion(moves, window, times=times, blink_hz=blink)
    assert len(moved(cells(words), motion, t)) == motion.width(len(cells(words)))


@given(share=st.floats(-0.5, 1.5), width=st.integers(1, 20))
def test_bars_against_counting_dots(share: float, width: int) -> None:
    """Columns of dots that are lit are the nearest whole number of them."""
    panel = with_bar_glyphs(DOOR)
    assert isinstance(panel, CharacterPanel)
    lit = [panel.dots(panel.code(cell) or 0) for cell in bar_cells(panel, share, width)]
    columns = sum(bin(rows[0]).count("1") for rows in lit)
    wanted = min(max(share, 0.0), 1.0) * width * 5
    assert abs(columns - wanted) <= 0.5
    assert all(len(set(rows)) == 1 for rows in lit), "every row of a bar is as long as the others"
    digits = bar_cells(with_bar_glyphs(STAND), share, 4)
    assert len(digits) == 4


def test_faces_in_turn() -> None:
    """The first that stays keeps the panel."""
    one, two, three = (Face(name, "p", (), lasts) for name, lasts in (("a", 2.0), ("b", 3.0), ("c", 0.0)))
    assert [face_at((one, two), t)[0].name for t in (0.0, 1.9, 2.0, 4.9, 5.0, 7.0)] == ["a", "a", "b", "b", "a", "b"]
    assert face_at((one, two), 8.5) == (two, 1.5)
    assert [face_at((one, three, two), t)[0].name for t in (0.0, 2.0, 99.0)] == ["a", "c", "c"]


READINGS = st.lists(st.floats(-99.0, 999.0), min_size=1, max_size=30)


@given(values=READINGS, writes=st.sampled_from([PADDED, BARE, CLEARED]), align=st.sampled_from(["left", "right"]))
def test_panels_remember_as_a_plain_model_does(values: list[float], writes: str, align: str) -> None:
    """A list of letters, written into at a place: cleared first, padded, or with whatever the number's text is."""
    field = field_of(width=6, align=align)
    face = Face("f", "door", (FieldItem("m", 0, 2, field, frozenset(), 0),), writes=writes)
    model = [" "] * 40
    for value in values:
        number = f"{compose(face, DOOR, {'m': Reading(value)}).shown[0].text}"  # type: ignore[union-attr]
        if writes == CLEARED:
            model = [" "] * 40
        for place, letter in enumerate(number.strip() if writes == BARE else number, 2):
            model[place] = letter
    memory = remembered(face, DOOR, [{"m": Reading(value)} for value in values])
    assert bytes(memory[0]).decode() == "".join(model)


def test_a_stale_tail_by_hand() -> None:
    """100.0 and then 9.5, as they come: 9.5 and what is left of the longer one; padded nothing is left."""
    face = Face("f", "door", (FieldItem("m", 0, 0, field_of(width=6), frozenset(), 0),), writes=BARE)
    readings = [{"m": Reading(value)} for value in (100.0, 9.5)]
    assert bytes(remembered(face, DOOR, readings)[0]).startswith(b"9.5.0 ")
    assert bytes(remembered(replace(face, writes=PADDED), DOOR, readings)[0]).startswith(b"   9.5 ")


def test_what_drawing_only_changes_saves() -> None:
    """Six cells each time, against the one digit that moved: 5 ÷ 6 are saved."""
    face = Face("f", "door", (FieldItem("m", 0, 0, field_of(width=6), frozenset(), 0),))
    found = redraws(face, DOOR, [{"m": Reading(1.0 + 0.1 * place)} for place in range(7)], 6.0)
    assert found.always == pytest.approx(7 * 6 * 10)
    assert found.changed == pytest.approx(6 * 10)


def test_an_alarm_mark_stands_while_it_is_on() -> None:
    """Blank before and after, whatever the reading."""
    face = Face("f", "door", (AlarmMark("m", 0, 0, "!!"), Label("x", 0, 4)))
    for alarms, wanted in (((), b"    x"), (("high",), b"!!  x")):
        memory = compose(face, DOOR, {"m": Reading(1.0, alarms=alarms)}).memory
        assert bytes(memory[0][:5]) == wanted


@pytest.mark.parametrize(
    "panel", [STAND, GATE, segments(digits=8, segments="16"), DOOR, characters(columns=40, rows=4)]
)
def test_patterns_fill_the_panel(panel: SegmentPanel | CharacterPanel) -> None:
    """Every step of every pattern has the panel's size; all on lights most, all off nothing, in turn each lamp once."""
    for name in patterns_of(panel):
        for step in range(min(steps_of(panel, name), 40)):
            memory = pattern(panel, name, step)
            assert [len(row) for row in memory] == [panel.line] * panel.rows
    if isinstance(panel, SegmentPanel):
        lamps = len(panel.alphabet.segments) + 1
        every = [pattern(panel, "running light", step)[0] for step in range(steps_of(panel, "running light"))]
        assert len(set(every)) == panel.digits * lamps
        assert all(sum(bin(mask).count("1") for mask in masks) == 1 for masks in every)
        assert panel.lit(pattern(panel, "all off", 0)).masks == (0,) * panel.digits
        assert all(mask == (1 << lamps) - 1 for mask in panel.lit(pattern(panel, "all on", 0)).masks)
    else:
        shown = [
            code
            for step in range(steps_of(panel, "every code"))
            for row in pattern(panel, "every code", step)
            for code in row[: panel.columns]
        ]
        assert set(range(256)) <= set(shown)
        assert pattern(panel, "counting", 42)[0][: panel.columns] == tuple(f"{42:>{panel.columns}}".encode())


def test_bytes_by_hand() -> None:
    """Each row behind its address; four lines take a byte in two, an expander three bytes for each of those."""
    memory = compose(Face("f", "door", (Label("Hi", 1, 0),)), DOOR, {}).memory
    first, _, second, cells_of = sent_for(DOOR, memory)
    assert (first.data, first.command) == (b"\x80", True)
    assert (second.data, second.command) == (b"\xc0", True)
    assert cells_of.data == b"Hi" + b" " * 14
    sent = sent_for(DOOR, memory)
    assert bytes_on_bus(characters(hookup="8 lines"), sent) == 34
    assert bytes_on_bus(characters(hookup="4 lines"), sent) == 68
    assert bytes_on_bus(characters(hookup="two-wire expander"), sent) == 204
    (start, rows) = glyphs_sent(characters({"h": "#####"}))
    assert (start.data, rows.data) == (b"\x40", b"\x1f" + b"\x00" * 7)


def test_a_driver_is_told_its_brightness_and_where_to_begin() -> None:
    """By the commands that its data sheet has; none where none is named."""
    panel = segments(drive="two-line driver", brightness=5, dimmed_by="0x88", begins_by="0xC0")
    dimmed, begins, digits = sent_for(panel, panel.blank())
    assert (dimmed.data, begins.data, digits.data) == (b"\x8d", b"\xc0", b"\x00" * 4)
    assert (dimmed.command, begins.command, digits.command) == (True, True, False)
    assert len(sent_for(segments(), segments().blank())) == 1
    with pytest.raises(ValueError, match='dimmed by = "x"; it is a byte'):
        segments(dimmed_by="x")


def test_a_second_controller_has_a_line_of_its_own() -> None:
    """Forty by four: its lower rows begin anew at 0x00, and it is said whose they are."""
    panel = characters(columns=40, rows=4)
    whats = [(each.what, each.data) for each in sent_for(panel, panel.blank()) if each.command]
    assert whats == [
        ("row 0", b"\x80"),
        ("row 1", b"\xc0"),
        ("row 2, second enable", b"\x80"),
        ("row 3, second enable", b"\xc0"),
    ]
    assert all("enable" not in each.what for each in sent_for(DOOR, DOOR.blank()))


NOTES = [
    ((Label("swarm", 0, 5),), {}, DOOR, (REMARK, "5 cells at its left and 6 at its right")),
    ((Label("hive", 0, 6),), {}, DOOR, None),
    ((Label("stop", 0, 0, Motion(blink_hz=9.0)),), {}, DOOR, (DOUBT, "blinks at 9 Hz, which cannot be read")),
    ((Label("stop", 0, 0, Motion(blink_hz=0.1)),), {}, DOOR, (DOUBT, "taken for a loose wire")),
    (
        (FieldItem("m", 0, 0, field_of(width=6), frozenset(), 0),),
        {"writes": BARE},
        DOOR,
        (FAULT, "leaves the end of the old one on the glass"),
    ),
    ((FieldItem("m", 0, 0, field_of(width=6, pad="zero"), frozenset(), 0),), {"writes": BARE}, DOOR, None),
    # 34 bytes of 6 strobes over the bus at 100 kHz take 22.1 ms, each time: (34 · (7 · 9 + 2)) ÷ 100 kHz.
    (
        (Label("x", 0, 0),),
        {"writes": CLEARED, "redraw_hz": 20.0},
        DOOR,
        (DOUBT, "empty or half written 44 % of the time"),
    ),
    ((Label("kilo", 0, 0),), {}, STAND, (DOUBT, "no shape for i k l in")),
    ((Label("SOS", 0, 0),), {}, STAND, (DOUBT, "write o for O, 5 for S")),
    (
        (FieldItem("m", 0, 0, field_of("s", "s", width=4, shows="clock", time="hh:mm"), frozenset(), 0),),
        {},
        segments(colons="1"),
        (FAULT, "puts its colon after digit 2; the panel has one after 1"),
    ),
    (
        (FieldItem("m", 0, 0, field_of("s", "s", width=4, shows="clock", time="hh:mm"), frozenset(), 0),),
        {},
        segments(colons="2"),
        None,
    ),
]


@pytest.mark.parametrize(("items", "rules", "panel", "expected"), NOTES)
def test_notes_on_faces(
    items: tuple[Label | FieldItem, ...],
    rules: dict[str, object],
    panel: SegmentPanel | CharacterPanel,
    expected: tuple[str, str] | None,
) -> None:
    """Exactly what is true of it, with its number."""
    notes = inspect_face(Face("f", panel.name, items, **rules), panel)  # type: ignore[arg-type]
    assert len(notes) == (0 if expected is None else 1), [note.text for note in notes]
    if expected is not None:
        assert notes[0].mark == expected[0]
        assert expected[1] in f"{notes[0].text} {notes[0].remedy}"


def test_what_is_cleared_is_dark_for_a_share_of_the_time() -> None:
    """22.1 ms, twenty times a second, as above."""
    (note,) = inspect_face(Face("f", DOOR.name, (Label("x", 0, 0),), writes=CLEARED, redraw_hz=20.0), DOOR)
    assert note.figure == pytest.approx(100 * 20 * (34 * (7 * 9 + 2)) / 100e3)


def test_cells_that_clash_are_known() -> None:
    """Those of two items, and the last one before an item is cut off; none on a good face."""
    overlapping = Face("f", "door", (Label("hive", 0, 0), Label("swarm", 0, 2), Label("long label", 1, 10)))
    assert clashing(overlapping, DOOR) == ((0, 2), (0, 3), (1, 15))
    assert clashing(Face("f", "door", (Label("hive", 0, 0), Label("swarm", 0, 4))), DOOR) == ()


def test_registers_without_a_latch() -> None:
    """What is sent runs through all digits; a note says how many bits."""
    panel = segments(digits=8, drive="shift registers", latch=False)
    (note,) = inspect_face(Face("f", "p", ()), panel)
    assert "all 64 bits run through" in note.text
    assert inspect_face(Face("f", "p", ()), segments(digits=8, drive="shift registers")) == []
