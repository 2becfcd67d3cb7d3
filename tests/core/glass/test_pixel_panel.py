"""Pixel panels and fonts: text against a plain slow renderer, frames through their bytes, items in their boxes."""

from __future__ import annotations

from collections import defaultdict

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.fit.cells import Cell
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import BARE, Box, Face, FieldItem, Label, compose
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.items import Bar, Item, size_of
from lesart.core.glass.faces.shapes import Trend
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.packing import BYTES
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.pixel_panel import TURNS, PixelPanel, written_text
from lesart.core.glyphs.charsets import GLYPHS
from lesart.core.glyphs.fonts import DIGITS, FONT_NAMES, FONTS, Font, built_in, text_rows
from lesart.core.parameters import read_table
from lesart.core.units import UNITS
from tests.core.fit.fields import field_of

ALIKE: dict[str, list[set[str]]] = {"text 7": [{"-", "─"}, {"=", "═"}, {"·", "∙", "."}]}


def panel_of(**written: object) -> PixelPanel:
    """As the project file would make it."""
    values, problems = read_table(KINDS["pixels"].parameters, written, "p")
    assert not problems, problems
    panel = KINDS["pixels"].build("p", values, Given())
    assert isinstance(panel, PixelPanel)
    return panel


def lit_at(frame: PixelFrame) -> set[tuple[int, int]]:
    """All pixels that are lit."""
    return {(x, y) for x in range(frame.width) for y in range(frame.height) if frame.lit(x, y)}


def plainly(font: Font, text: str, x: int, y: int) -> set[tuple[int, int]]:
    """Pixel by pixel, letter by letter."""
    found = set()
    for letter in text:
        glyph = font.glyph(letter)
        inset = (font.pitch - font.gap - glyph.width) // 2 if font.pitch else 0
        for down, row in enumerate(glyph.rows):
            for across in range(glyph.width):
                if row >> (glyph.width - 1 - across) & 1:
                    found.add((x + inset + across, y + down))
        x += font.advance(letter)
    return found


def test_a_letter_that_a_font_lacks_is_noted() -> None:
    """Numerals have the letters of units and no others; the note names them, whatever other fonts have."""
    notes = inspect_face(face(Label("42 jw?", 0, 0, font="numerals 14")), panel_of(width=128, height=64))
    assert any("no shape for ? j w in" in note.text for note in notes)
    assert not inspect_face(face(Label("42 kg", 0, 0, font="numerals 14")), panel_of(width=128, height=64))
    assert not inspect_face(face(Label("42 kg", 0, 0)), panel_of(width=128, height=64))


def test_every_font_has_what_it_is_for() -> None:
    """Names as they are listed; each glyph within its box; digits of one width's place; no two letters alike."""
    assert set(built_in()) == set(FONTS)
    for name, font in built_in().items():
        assert set(DIGITS) <= set(font.glyphs)
        for glyph in font.glyphs.values():
            assert len(glyph.rows) == font.height
            assert all(0 <= row < 1 << glyph.width for row in glyph.rows)
        if name in FONT_NAMES and name.startswith(("text", "tiny")):
            assert {chr(code) for code in range(0x20, 0x7F)} <= set(font.glyphs)
            assert set("°µ²³Ω±→←↑↓") <= set(font.glyphs)
    heights = [built_in()[name].ascent for name in FONT_NAMES]
    assert heights == [4, 5, 7, 7, 10, 14, 21, 14, 21, 14, 21, 14]
    letters = {letter for unit in UNITS for letter in unit}
    for name in ("numerals 14", "numerals 21", "narrow 7", "narrow 14", "text 7 doubled"):
        assert letters <= set(built_in()[name].glyphs), name


def test_plainly_doubled_is_each_pixel_squared() -> None:
    """Two by two, three by three, no corner cut."""
    for name, times in (("text 7 doubled", 2), ("text 7 tripled", 3)):
        large, small = built_in()[name], built_in()["text 7"]
        for letter, glyph in small.glyphs.items():
            found = large.glyph(letter)
            assert found.width == times * glyph.width
            for y, row in enumerate(found.rows):
                for x in range(found.width):
                    lit = glyph.rows[y // times] >> (glyph.width - 1 - x // times) & 1
                    assert row >> (found.width - 1 - x) & 1 == lit


def test_narrow_digits_take_less() -> None:
    """Three pixels a digit: eight of them in the room of five and a half of the usual ones."""
    assert {built_in()["narrow 7"].glyph(digit).width for digit in DIGITS} == {3}
    assert built_in()["narrow 7"].measure("12345678") == 31
    assert built_in()["text 7"].field_width(8) == 47


@pytest.mark.parametrize("name", ["tiny 4", "text 5", "text 10", "numerals 14", "numerals 21"])
def test_no_two_letters_of_a_font_are_alike(name: str) -> None:
    """By their pixels and width."""
    shapes = defaultdict(list)
    for letter, glyph in built_in()[name].glyphs.items():
        shapes[glyph].append(letter)
    assert [letters for letters in shapes.values() if len(letters) > 1] == []


def test_the_font_of_seven_is_that_of_character_cells() -> None:
    """Dot for dot, without the dark columns beside a letter."""
    for letter, rows in GLYPHS.items():
        glyph = built_in()["text 7"].glyph(letter)
        shift = next((shift for shift in range(6) if tuple(row << shift for row in glyph.rows) == rows), None)
        assert shift is not None or not any(rows), letter


@settings(max_examples=60)
@given(
    name=st.sampled_from(FONTS),
    text=st.text("0123456789.-+ :%°", max_size=8),
    x=st.integers(-9, 60),
    y=st.integers(-9, 40),
)
def test_text_against_a_plain_renderer(name: str, text: str, x: int, y: int) -> None:
    """The very pixels, cut at the edges of the glass."""
    panel, font = panel_of(width=64, height=48), built_in()[name]
    memory = written_text(panel.blank(), panel.columns, font, x, y, [Cell(letter) for letter in text])
    wanted = {(px, py) for px, py in plainly(font, text, x, y) if 0 <= px < 64 and 0 <= py < 48}
    assert lit_at(panel.lit(memory)) == wanted
    width, rows = text_rows(font, text)
    assert width == max(font.measure(text), 0)
    assert all(row < 1 << max(width, 1) for row in rows)


@given(
    data=st.data(),
    turned=st.sampled_from(list(TURNS)),
    mirror=st.booleans(),
    size=st.sampled_from([(64, 48), (96, 16), (24, 40)]),
    bytes_=st.sampled_from(BYTES[:2]),
    offset=st.integers(0, 4),
)
def test_a_frame_survives_turning_and_packing(
    data: st.DataObject, turned: str, mirror: bool, size: tuple[int, int], bytes_: str, offset: int
) -> None:
    """What a person sees, sent to the controller and shown again, is what a person sees."""
    panel = panel_of(width=size[0], height=size[1], turned=turned, mirror=mirror, bytes=bytes_, offset=offset)
    wanted = size[::-1] if "quarter" in turned else size
    assert (panel.columns, panel.rows) == wanted
    rows = tuple(data.draw(st.integers(0, (1 << panel.columns) - 1)) for _ in range(panel.rows))
    frame = panel.lit((rows,))
    assert panel.shown(panel.sent(frame)) == frame


def test_turned_by_a_quarter_by_hand() -> None:
    """A pixel at the left on top, as a person sees it, is the controller's lowest left one of a panel turned right."""
    panel = panel_of(width=16, height=8, turned="a quarter", bytes=BYTES[1], low_first=False)
    frame = panel.lit(((1 << 7, *(0,) * 15),))
    assert panel.sent(frame) == b"\0\0" * 7 + b"\x80\0"


def face(*items: Item, **rules: object) -> Face:
    """On the panel of these tests."""
    return Face("f", "p", items, **rules)  # type: ignore[arg-type]


def mass(column: int = 0, row: int = 0, font: str = "text 7", **rules: object) -> FieldItem:
    """A field of the mass."""
    return FieldItem("mass", row, column, field_of(**rules), frozenset(), 0, font=font)


@given(
    value=st.floats(-200, 2000),
    before=st.floats(-200, 2000),
    font=st.sampled_from(FONTS),
    align=st.sampled_from(["left", "right", "centre"]),
)
def test_a_field_stays_in_its_box_and_leaves_nothing_behind(value: float, before: float, font: str, align: str) -> None:
    """Whatever it shows, and whatever stood there before."""
    panel = panel_of(width=256, height=64)
    placed = face(mass(20, 9, font, width=7, align=align))
    width, height = size_of(placed.items[0], panel)
    first = compose(placed, panel, {"mass": Reading(before)}).memory
    after = compose(placed, panel, {"mass": Reading(value)}, first)
    assert after.memory == compose(placed, panel, {"mass": Reading(value)}).memory
    for x, y in lit_at(panel.lit(after.memory)):
        assert 20 <= x < 20 + width
        assert 9 <= y < 9 + height


def test_written_as_it_comes_a_tail_stays() -> None:
    """On pixels as on cells."""
    panel = panel_of(width=128, height=16)
    placed = face(mass(width=7), writes=BARE)
    long = compose(placed, panel, {"mass": Reading(888.8)}).memory
    short = compose(placed, panel, {"mass": Reading(8.8)}, long)
    alone = compose(placed, panel, {"mass": Reading(8.8)}).memory
    assert lit_at(panel.lit(short.memory)) > lit_at(panel.lit(alone))


def test_bars_and_boxes() -> None:
    """Filled to the nearest pixel; struck through when the reading is bad; outlines leave their inside alone."""
    panel = panel_of(width=64, height=16)
    bar = Bar("mass", 2, 3, 50, 0.0, 100.0, field_of(width=6), tall=5)
    for value, filled in ((0.0, 0), (50.0, 25), (100.0, 50), (200.0, 50), (1.1, 1)):
        frame = panel.lit(compose(face(bar), panel, {"mass": Reading(value)}).memory)
        inner = sum(frame.lit(x, 4) for x in range(64)) - (frame.lit(52, 4) and filled < 50) - (filled == 0)
        assert inner == filled, value
    bad = panel.lit(compose(face(bar), panel, {"mass": Reading(float("nan"))}).memory)
    assert all(bad.lit(x, 4) for x in range(3, 53))
    assert not bad.lit(20, 3)
    framed = compose(face(Label("x", 3, 3), Box(row=0, column=0, width=64, tall=16, filled=False)), panel, {}).memory
    assert not panel.lit(framed).lit(3, 5), "the outline's box is cleared, so it is drawn before what it frames"
    assert panel.lit(framed).lit(63, 15)


@pytest.mark.parametrize("tall", [1, 2])
def test_a_bar_too_low_for_an_outline_is_as_long_as_its_reading(tall: int) -> None:
    """Outlined, one of a single row looked full whatever it showed; bad, every other pixel is lit."""
    panel = panel_of(width=64, height=16)
    bar = Bar("mass", 2, 3, 50, 0.0, 100.0, field_of(width=6), tall=tall)
    before = compose(face(bar), panel, {"mass": Reading(100.0)}).memory
    rows = range(2, 2 + tall)
    for value, filled in ((0.0, 0), (50.0, 25), (100.0, 50), (200.0, 50), (1.1, 1)):
        frame = panel.lit(compose(face(bar), panel, {"mass": Reading(value)}, before).memory)
        assert lit_at(frame) == {(x, y) for x in range(3, 3 + filled) for y in rows}, value
    bad = panel.lit(compose(face(bar), panel, {"mass": Reading(float("nan"))}, before).memory)
    assert lit_at(bad) == {(x, y) for x in range(3, 53, 2) for y in rows}


NOTES = [
    ((mass(width=7),), 128, []),
    ((mass(100, width=7),), 128, ["ends at row 7, column 140"]),
    ((Label("hive", 60, 0),), 128, ["ends at row 67"]),
    ((Label("hive", 0, 0), Label("swarm", 4, 0)), 128, ['label "swarm" covers the label "hive"']),
    ((Label("hive", 0, 0), Label("swarm", 8, 0)), 128, []),
    ((Box(row=0, column=0, width=128, tall=64, filled=False), Label("hive", 4, 4)), 128, []),
    ((Box(row=0, column=0, width=128, tall=64, filled=True), Label("hive", 4, 4)), 128, ["covers the box"]),
]


@pytest.mark.parametrize(("items", "width", "says"), NOTES)
def test_places_on_pixels(items: tuple[Item, ...], width: int, says: list[str]) -> None:
    """By boxes of pixels, of fields as wide as they may become."""
    notes = [note for note in inspect_face(face(*items), panel_of(width=width, height=64)) if note.is_fault]
    assert len(notes) == len(says), [note.text for note in notes]
    for note, words in zip(notes, says, strict=True):
        assert words in note.text


NAN = float("nan")
TRENDS = [
    # A column rises to its own height and leaves no gap to the one before.
    ((0.0, 1.0, 2.0), None, ["..#", ".#.", "#.."]),
    ((0.0, 2.0, 0.0), None, [".#.", ".##", "#.#"]),
    ((0.0, NAN, 2.0), None, ["..#", "...", "#.."]),
    ((1.0, 1.0, 1.0), (0.0, 2.0), ["...", "###", "..."]),
    ((-5.0, 1.0, 9.0), (0.0, 2.0), ["..#", ".#.", "#.."]),
    ((NAN, NAN, NAN), None, ["...", "...", "..."]),
]


@pytest.mark.parametrize(("past", "ends", "wanted"), TRENDS)
def test_a_trend_by_hand(past: tuple[float, ...], ends: tuple[float, float] | None, wanted: list[str]) -> None:
    """Three pixels a side; by its data or between fixed ends; gaps where nothing good came."""
    panel = panel_of(width=16, height=8)
    low, high = ends or (None, None)
    trend = Trend(channel="mass", row=2, column=4, width=3, tall=3, span_s=60.0, low=low, high=high)
    reading = Reading(1.0, past=((60.0, 3, past),))
    frame = panel.lit(compose(face(trend), panel, {"mass": reading}).memory)
    assert ["".join("#" if frame.lit(4 + x, 2 + y) else "." for x in range(3)) for y in range(3)] == wanted
    assert all(4 <= x < 7 and 2 <= y < 5 for x, y in lit_at(frame))
    assert not lit_at(panel.lit(compose(face(trend), panel, {"mass": Reading(1.0)}).memory)), "without a past nothing"


@given(past=st.lists(st.one_of(st.floats(-1e6, 1e6), st.just(NAN)), min_size=2, max_size=40), tall=st.integers(2, 30))
def test_a_trend_stays_in_its_box_and_has_no_holes(past: list[float], tall: int) -> None:
    """Every good column is lit where it says, and touches the one before it."""
    panel = panel_of(width=64, height=40)
    trend = Trend(channel="mass", row=5, column=9, width=len(past), tall=tall, span_s=1.0, low=None, high=None)
    reading = Reading(0.0, past=((1.0, len(past), tuple(past)),))
    frame = panel.lit(compose(face(trend), panel, {"mass": reading}).memory)
    columns = [{y for y in range(40) if frame.lit(9 + x, y)} for x in range(len(past))]
    heights = trend.heights({"mass": reading})
    for x, height in enumerate(heights):
        assert (height is None) == (not columns[x])
        if height is not None:
            assert 5 + tall - 1 - height in columns[x]
            before = heights[x - 1] if x else None
            if before is not None:
                assert any(abs(y - other) <= 1 for y in columns[x] for other in columns[x - 1])
    assert all(9 <= x < 9 + len(past) and 5 <= y < 5 + tall for x, y in lit_at(frame))


@pytest.mark.parametrize(
    ("row", "others", "to"),
    [
        (0, [], None),  # twelve rows high, it ends at row 11
        (4, [], None),
        (5, [], 4),
        (9, [], 4),
        (11, [], 16),
        (15, [], 16),
        (16, [], None),
        (11, [Label("b", 20, 0, font="text 10")], 4),
        (8, [Label("b", 0, 0, font="text 10")], 16),
    ],
)
def test_letters_across_the_edge_of_a_stripe_are_noted(row: int, others: list[Label], to: int | None) -> None:
    """They would be lit in two colours; the remedy is the nearest row on one side where nothing else stands."""
    panel = panel_of(stripe=16, light="blue", stripe_light="amber")
    face = Face("one", "p", (Label("a", row, 0, font="text 10"), *others))
    assert panel.font("text 10").height == 12
    found = [note for note in inspect_face(face, panel) if "stripe" in note.text]
    assert [note.mend[0].value for note in found] == ([] if to is None else [to])
    for note in found:
        assert (note.figure, note.limit) == (row + 11, 15)
        where = "up into" if to == 4 else "below"
        assert note.remedy == f"move it {where} the stripe, to row {to}"


def test_without_a_side_that_is_free_a_smaller_font_is_the_remedy() -> None:
    """Numerals taller than the stripe, on a panel that has no room below it."""
    panel = panel_of(height=32, stripe=16)
    face = Face("one", "p", (Label("8", 4, 0, font="numerals 21"),))
    (note,) = (note for note in inspect_face(face, panel) if "stripe" in note.text)
    assert (note.mend, note.remedy) == ((), "move it, or take a smaller font")


def test_a_panel_without_a_stripe_and_a_trend_across_one_have_no_such_note() -> None:
    label, trend = (
        Label("a", 11, 0, font="text 10"),
        Trend(channel="mass", row=10, column=0, width=30, tall=20, span_s=1.0, low=None, high=None),
    )
    for panel, item in ((panel_of(), label), (panel_of(stripe=16), trend), (panel_of(stripe=16, turned="half"), label)):
        assert not [note for note in inspect_face(Face("one", "p", (item,)), panel) if "stripe" in note.text]
