"""Texts that are no reading: in a place of fixed width, running where they are longer."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.inspect_letters import inspect_letters
from lesart.core.glass.faces.item_parameters import ADDRESS, DATE, DATE_AND_TIME, HOST, TEXTS, TIME_OF_DAY
from lesart.core.glass.faces.items import TextItem, size_of, texts_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from lesart.project.check import check_project
from lesart.study import texts
from lesart.study.glass import text_held
from lesart.study.texts import texts_at
from tests.desk.test_glass import added, tables

DOOR = CharacterPanel("door", 16, 2, "grey")


def on_door(item: TextItem, text: str = "", t_s: float = 0.0) -> str:
    """What stands in the first row."""
    readings = {item.key: Reading(0.0, text=text)} if text else {}
    memory = compose(Face("f", "door", (item,)), DOOR, readings, None, t_s).memory
    held = text_held(DOOR, memory)
    assert held is not None
    return held[0]


def test_a_text_in_its_cells() -> None:
    """Its example where nobody gives one; blanks behind a shorter one; nothing beside its cells."""
    item = TextItem("192.0.2.17", 0, 2, width=12, source=ADDRESS)
    assert on_door(item) == "  192.0.2.17    "
    assert on_door(item, "10.0.0.1") == "  10.0.0.1      "
    assert on_door(item, "255.255.255.255")[:2] == "  "
    assert size_of(item, DOOR) == (12, 1)


def test_a_longer_one_runs() -> None:
    """By hand: a window of 4 over 6 letters with 4 blanks before and behind them, a cell each 0.4 s."""
    item = TextItem("abcdef", 0, 0, width=4)
    steps = [on_door(item, "", 0.4 * step + 0.01)[:4] for step in range(11)]
    assert steps == ["    ", "   a", "  ab", " abc", "abcd", "bcde", "cdef", "def ", "ef  ", "f   ", "    "]
    assert on_door(item, "abcd", 3.0)[:5] == "abcd "


@pytest.mark.parametrize("panel", [PixelPanel("lid", 128, 64, "white"), SegmentPanel("s", 8, True, "red", None)])
def test_on_other_panels(panel: PixelPanel | SegmentPanel) -> None:
    """Nothing is lit beside its box, whatever the moment."""
    item = TextItem("HELLO BEES AND ALL", 0, 0, width=6)
    width, height = size_of(item, panel)
    for step in range(30):
        frame = compose(Face("f", "p", (item,)), panel, {}, None, 0.4 * step).frame
        if isinstance(panel, PixelPanel):
            lit = [(x, y) for y in range(64) for x in range(128) if frame.lit(x, y)]  # type: ignore[union-attr]
            assert all(y < height and x < width + 6 for x, y in lit)
        else:
            assert not any(frame.masks[6:])  # type: ignore[union-attr]


def dated(source: str, begins: str = "2026-05-14 23:59:58") -> TextItem:
    """An item that counts on."""
    return TextItem("text", 0, 0, source=source, begins=begins)


def test_what_is_given(monkeypatch: pytest.MonkeyPatch) -> None:
    """Date and time from the moment at which captures begin, over midnight; name and address of this computer."""
    monkeypatch.setattr(texts.socket, "gethostname", lambda: "hut")
    items = (dated(DATE_AND_TIME), dated(DATE), dated(TIME_OF_DAY), dated(DATE, ""), TextItem("x", 0, 0, source=HOST))
    texts._host_name.cache_clear()
    found = texts_at([Face("f", "door", items)], 3.5, None)
    assert [found[item.key].text if item.key in found else None for item in items] == [
        "2026-05-15 00:00:01",
        "2026-05-15",
        "00:00:01",
        None,
        "hut",
    ]
    now = texts_at([Face("f", "door", items[:1])], 3.5, datetime(2026, 1, 2, 3, 4, 5))
    assert now[items[0].key].text == "2026-01-02 03:04:05"
    assert items[3].example == "2026-05-14"


@pytest.mark.parametrize("source", TEXTS)
def test_its_letters_are_looked_at(source: str) -> None:
    """A font that lacks what a text of its kind may have is noted, with one that has it."""
    item = TextItem("text", 0, 0, font="numerals 14", source=source)
    panel = PixelPanel("lid", 128, 64, "white")
    assert texts_of(item)
    strange = TextItem("hut w", 0, 0, font="numerals 14", source=source)
    (note,) = inspect_letters(Face("f", "lid", (strange,)), panel, strange, 0)
    assert note.remedy == "use the font text 14, which has it"


def test_added_by_a_key(desk: Desk, yard: Path) -> None:
    """+ text and its kind; a moment that is none is told with its place."""
    desk.open_step(Step.GLASS)
    desk.choose_panel("door")
    added(desk, "face where")
    desk.choose_face("where")
    added(desk, "text date and time")
    (entry,) = tables(desk)["faces"]["where"]["items"]
    assert (entry["kind"], entry["shows"]) == ("text", "date and time")
    desk.edit(("faces", "where", "items", 0, "begins"), "2026-05-14 06:00:00")
    desk.put_cursor(61.0)
    glass = workspace_now(desk).glass
    assert glass is not None
    panel = desk.state.project.panels["door"]
    wanted = compose(
        desk.state.project.faces["where"],
        panel,
        texts_at(desk.state.project.faces.values(), desk.state.cursor_s, None),
        None,
        desk.state.cursor_s,
    ).frame
    assert glass.frame == wanted
    desk.edit(("faces", "where", "items", 0, "begins"), "yesterday")
    assert 'it must be a date and a time of day, like "2026-05-14 06:00:00"' in desk.state.message
    assert check_project(desk.state.history.text).faces["where"].items
