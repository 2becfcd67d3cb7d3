"""Arranging: nothing overlaps at any value, the important is largest, pins stay, the same again gives the same."""

from __future__ import annotations

import itertools
import time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.arrange import LADDER, Arranged, arrange
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.items import AlarmMark, Bar, FieldItem, Item, Label, size_of
from lesart.core.glass.faces.shapes import USUAL, Box
from lesart.core.glass.panels.panel import Panel
from lesart.core.glyphs.fonts import built_in
from tests.core.fit.fields import field_of
from tests.core.glass.test_character_panel import panel_of as characters
from tests.core.glass.test_pixel_panel import panel_of as pixels
from tests.core.glass.test_segment_panel import panel_of as segments

PANELS: dict[str, Panel] = {
    "128×64": pixels(width=128, height=64),
    "128×32": pixels(width=128, height=32),
    "84×48": pixels(width=84, height=48),
    "16×2": characters(),
    "20×4": characters(columns=20, rows=4),
    "4 digits": segments(),
}


def item(kind: str, row: int, column: int, importance: int, *, pinned: bool = False, width: int = 5) -> Item:
    """Of any kind."""
    if kind == "label":
        return Label("hive"[:width], row, column, importance=importance, pinned=pinned)
    if kind == "alarm":
        return AlarmMark("m", row, column, "!", importance=importance, pinned=pinned)
    if kind == "bar":
        return Bar("m", row, column, 8, 0.0, 100.0, field_of(width=8), importance=importance, pinned=pinned)
    if kind == "box":
        return Box(row=row, column=column, width=20, tall=1, filled=True, importance=importance, pinned=pinned)
    return FieldItem("m", row, column, field_of(width=width), frozenset(), 0, importance=importance, pinned=pinned)


@st.composite
def item_lists(draw: st.DrawFn) -> list[Item]:
    """Up to eight, anywhere."""
    kinds = st.sampled_from(["label", "field", "field", "alarm", "bar", "box"])
    return [
        item(
            draw(kinds),
            draw(st.integers(0, 50)),
            draw(st.integers(0, 100)),
            draw(st.integers(1, 9)),
            width=draw(st.integers(1, 8)),
        )
        for _ in range(draw(st.integers(0, 8)))
    ]


def boxes(found: Arranged, panel: Panel) -> dict[int, tuple[int, int, int, int]]:
    """Left, top, and behind the right and lower edge of each."""
    return {
        index: (each.column, each.row, each.column + size_of(each, panel)[0], each.row + size_of(each, panel)[1])
        for index, each in found.items.items()
    }


@settings(max_examples=150)
@given(items=item_lists(), name=st.sampled_from(sorted(PANELS)))
def test_nothing_overlaps_or_leaves_the_glass(items: list[Item], name: str) -> None:
    """By boxes that hold every value of a field; all that is not placed is said; again gives the same."""
    panel = PANELS[name]
    found = arrange(items, panel)
    assert sorted([*found.items, *found.dropped]) == list(range(len(items)))
    placed = boxes(found, panel)
    for left, top, right, foot in placed.values():
        assert 0 <= left < right <= panel.columns
        assert 0 <= top < foot <= panel.rows
    for one, other in itertools.combinations(placed.values(), 2):
        assert one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]
    assert arrange(items, panel) == found
    again = arrange([found.items.get(index, each) for index, each in enumerate(items)], panel)
    assert set(found.items) <= set(again.items) | set(again.dropped)


@given(items=item_lists(), name=st.sampled_from(["128×64", "128×32", "84×48"]))
def test_the_important_is_never_smaller(items: list[Item], name: str) -> None:
    """Unless its letters have no larger font, or it has no room to grow where it is."""
    panel = PANELS[name]
    found = arrange(items, panel)
    texts = [each for each in found.items.values() if not isinstance(each, Bar | Box)]
    for one, other in itertools.permutations(texts, 2):
        if one.importance > other.importance:
            assert built_in()[other.font].height <= built_in()[one.font].height or one.font == LADDER[0]


@given(items=item_lists(), row=st.integers(0, 50), column=st.integers(0, 90), value=st.floats(-999, 9999))
def test_pins_stay_and_are_kept_clear(items: list[Item], row: int, column: int, value: float) -> None:
    """Not a pixel of the others comes into a pinned box, whatever is shown."""
    panel = PANELS["128×64"]
    pin = item("field", row, column, 1, pinned=True)
    found = arrange([pin, *items], panel)
    assert found.items[0] == pin
    own = boxes(found, panel)[0]
    others = Face("f", "p", tuple(each for index, each in found.items.items() if index))
    frame = compose(others, panel, {"m": Reading(value, alarms=("a",))}).frame
    for y in range(own[1], min(own[3], panel.rows)):
        for x in range(own[0], min(own[2], panel.columns)):
            assert not frame.lit(x, y)  # type: ignore[union-attr]


def test_a_hive_by_hand() -> None:
    """The mass large in the middle, its name and the air above it at the edges, a bar over the whole width below."""
    items = [
        item("label", 0, 0, 3, width=4),
        item("field", 0, 90, 4, width=6),
        item("field", 20, 0, 9, width=6),
        item("bar", 50, 0, 2),
    ]
    panel = PANELS["128×64"]
    found = arrange(items, panel)
    name, air, mass, bar = (found.items[index] for index in range(4))
    assert isinstance(mass, FieldItem)
    assert mass.font == "numerals 21"
    assert name.column == 0
    assert air.column + size_of(air, panel)[0] == 128
    assert size_of(bar, panel)[0] == 128
    assert name.row <= air.row + size_of(air, panel)[1] < mass.row + size_of(mass, panel)[1] <= bar.row
    small = arrange(items, PANELS["16×2"])
    assert small.dropped in ((3,), ())
    assert {2, 1} <= set(small.items)
    digits = arrange(items, PANELS["4 digits"])
    assert digits.items == {} or set(digits.items) <= {0, 1, 2}
    one = arrange([item("field", 0, 0, 9, width=4), item("label", 1, 0, 1)], PANELS["4 digits"])
    assert (set(one.items), one.dropped) == ({0}, (1,))


@pytest.mark.parametrize(("importance", "high"), [(1, 10), (USUAL, 10), (USUAL + 1, 21)])
def test_a_name_stays_smaller_than_its_reading(importance: int, high: int) -> None:
    """Alone on a large panel a usual label stops at ten rows; one called important takes the largest font."""
    (label,) = arrange([item("label", 0, 0, importance)], PANELS["128×64"]).items.values()
    assert isinstance(label, Label)
    assert built_in()[label.font].ascent == high


def test_twelve_items_are_quick() -> None:
    """On 128×64, well within 200 ms."""
    items = [
        item(("label", "field")[place % 2], 6 * (place // 3), 40 * (place % 3), 1 + place % 9, width=3)
        for place in range(12)
    ]
    arrange(items, PANELS["128×64"])
    start = time.thread_time()
    found = arrange(items, PANELS["128×64"])
    assert time.thread_time() - start < 0.2
    assert len(found.items) == 12
