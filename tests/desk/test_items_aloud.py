"""Items of a face as people say them, and where they are to stand."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from lesart.core.glass.faces.items import ITEMS
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.items import item_plainly
from lesart.desk.opening import open_desk

SAID: list[tuple[str, dict[str, Any]]] = [
    ("room", {"kind": "field", "channel": "room"}),
    ("show room", {"kind": "field", "channel": "room"}),
    ("room in °F", {"kind": "field", "channel": "room", "unit": "°F"}),
    ("a bar of room", {"kind": "bar", "channel": "room"}),
    ("a bar graph of room", {"kind": "bar", "channel": "room"}),
    ('label "Temp:"', {"kind": "label", "text": "Temp:"}),
    ("room on line 1", {"kind": "field", "row": 0, "column": 0}),
    ("room on the second line", {"kind": "field", "row": 1, "column": 0}),
    ("room at row 1, column 5", {"kind": "field", "row": 1, "column": 5}),
    ("put room at bottom right", {"kind": "field", "row": 1, "column": 9, "width": 7}),
    ("label Temp at top right", {"kind": "label", "text": "Temp", "row": 0, "column": 12}),
    ("label Temp on the last line", {"kind": "label", "text": "Temp", "row": 1, "column": 0}),
    ("label Temp, row 1 column 3", {"kind": "label", "text": "Temp", "row": 1, "column": 3}),
    ("label on line 2", {"kind": "label", "text": "on line 2"}),
]


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.GLASS)
    return hut


def last_item(desk: Desk) -> dict[str, Any]:
    found: dict[str, Any] = tomllib.loads(desk.state.history.text)["faces"]["door"]["items"][-1]
    return found


@pytest.mark.parametrize(("line", "wanted"), SAID, ids=[line for line, _ in SAID])
def test_an_item_stands_where_it_was_said(line: str, wanted: dict[str, Any], desk: Desk) -> None:
    """16 cells by 2; a field of the room has 7 cells."""
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert {key: last_item(desk).get(key) for key in wanted} == wanted


def test_the_message_says_where(desk: Desk) -> None:
    desk.add("label Temp at bottom right")
    assert desk.state.message == "added: label Temp, row 1, column 12"


@pytest.mark.parametrize("line", ["room on line 3", "label Temp at row 2", "room at row 0, column 16"])
def test_a_place_that_the_panel_has_not_is_refused(line: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == "16×2 characters has rows 0 to 1 and columns 0 to 15."
    assert desk.state.history.text == before


def test_a_channel_may_be_called_as_a_place_is(desk: Desk) -> None:
    panel = desk.state.project.panels["door"]
    assert item_plainly("pump on line 1", {"pump on line 1"}, panel) == ("field pump on line 1", None)
    assert item_plainly("bar pump on line 1", {"pump on line 1"}, panel) == ("bar pump on line 1", None)


def test_what_is_said_already_stays(desk: Desk) -> None:
    panel = desk.state.project.panels["door"]
    for word in ITEMS:
        line = "label Temp" if word == "label" else f"{word} room"
        assert item_plainly(line, {"room"}, panel) == (line, None)


def test_on_pixels_a_place_is_a_row_and_a_column(yard: Path) -> None:
    desk = open_desk(yard)
    desk.open_step(Step.GLASS)
    pixels = next(name for name, panel in desk.state.project.panels.items() if panel.grid is not None)
    desk.choose_panel(pixels)
    desk.add("label Temp at row 16, column 8")
    assert desk.state.message == "added: label Temp, row 16, column 8"
    desk.add("label Temp on line 2")
    assert "a place is a row and a column of pixels" in desk.state.message
    desk.close()
