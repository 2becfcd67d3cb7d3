"""Items of a face as people say them, and where they are to stand."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from lesart.core.glass.faces.items import ITEMS
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.instead.items import ASKS, done_otherwise
from lesart.desk.entries.aloud.items import item_plainly
from lesart.desk.entries.aloud.readings import QUANTITIES, channel_called
from lesart.desk.opening import open_desk
from lesart.project.called import channel_called as called_by_name
from lesart.project.new.make import make_project

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
    ("show the temperature", {"kind": "field", "channel": "room"}),
    ("the temperature in °F", {"kind": "field", "channel": "room", "unit": "°F"}),
    ("show it at row 1", {"kind": "field", "channel": "room", "row": 1}),
    ("a bar of the temperature", {"kind": "bar", "channel": "room"}),
    ("room as a bar", {"kind": "bar", "channel": "room"}),
    ("show the reading as a bar graph", {"kind": "bar", "channel": "room"}),
    ("label served as a bar", {"kind": "label", "text": "served as a bar"}),
    ("a text saying hello", {"kind": "label", "text": "hello"}),
    ("a label that says Room", {"kind": "label", "text": "Room"}),
    ("the time", {"kind": "text", "shows": "time of day"}),
    ("clock", {"kind": "text", "shows": "time of day"}),
    ("show the date", {"kind": "text", "shows": "date"}),
    ("date and time", {"kind": "text", "shows": "date and time"}),
    ('"Hello there"', {"kind": "label", "text": "Hello there"}),
    ("label Temp at 1,3", {"kind": "label", "text": "Temp", "row": 1, "column": 3}),
    ("room top right", {"kind": "field", "row": 0, "column": 9}),
    ("Room", {"kind": "field", "channel": "room"}),
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


def test_a_channel_is_called_by_its_quantity() -> None:
    """The chosen one of it, else the only one; of two nobody knows which, and its own name goes first."""
    celsius, percent = parse_unit("°C"), parse_unit("%")
    units = {"in": celsius, "out": parse_unit("°F"), "hum": percent}
    assert channel_called("the temperature", units, "out") == "out"
    assert channel_called("temperature", units, "hum") == "temperature"
    assert channel_called("Temperature", {"in": celsius, "hum": percent}, "hum") == "in"
    assert channel_called("temperature", {"temperature": percent, "in": celsius}, "in") == "temperature"
    assert channel_called("it", units, "hum") == "hum"
    assert all(channel_called(word, {"x": parse_unit(unit)}, "") == "x" for word, unit in QUANTITIES.items())


NOT_ITEMS = {
    "copy the face": "C copies the chosen panel or face",
    "remove room": "delete removes the selected one",
    "centre room": "row and column",
    "rotate 180": '"turned" is a value of a pixel panel',
    "contrast 40 %": "contrast are values of the panel",
    "blink above 30": '"blinks at" is a value of a field',
    "next page": "+ face NAME adds one",
    "big digits": "its size is that of its font",
    "room with 1 decimal": "+ in 6 Fit takes them",
    "the max of room": "between lowest and highest",
    "flip": '"turned" and "mirrored" are values of a panel of pixels',
    "invert it": '"inverted" is a value of a panel',
    "rgb backlight": "its light or colour is a value of the panel",
    "move down": "shift and arrows move the selected item",
    "clear": "delete removes the selected item; tab goes to it",
    "scroll it": "what has no room goes on another face",
    "page 2": "+ face NAME adds one",
    "custom character": "draw your own letters on the leaf glyphs",
    "logo": "add the picture on the leaf pictures",
    "circle": "the only shape is a box, on pixels",
    "units small": "+ in 6 Fit, like no unit",
    "e-paper": "say how large it is, like 2.9 inch e-paper; Lesart knows 200×200 e-paper, 122×250 e-paper, ",
}


@pytest.mark.parametrize("line", NOT_ITEMS)
def test_what_is_no_item_is_told_how_it_is_done(line: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.message.startswith(f'"{line}" is not an item; ')
    assert NOT_ITEMS[line] in desk.state.message
    assert desk.state.history.text == before


def test_what_is_named_there_is_there() -> None:
    """Values by the titles that the screen gives them; each of the answers is given to something."""
    assert {done_otherwise(line) for line in NOT_ITEMS} == {says for _, says in ASKS}
    titles = {each.title for parameters in ITEMS.values() for each in parameters}
    assert {"row", "column", "font", "blinks at", "lowest", "highest"} <= titles
    of_panels = {each.title for kind in PANELS.values() for each in kind.parameters}
    assert {"turned", "mirrored", "inverted", "brightness", "backlight", "contrast", "keeps its picture"} <= of_panels


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


@pytest.mark.parametrize(
    "line", ["volts", "Volts", "show volts", "field volts", "the volts", "volts in mV", "volts at 1,8"]
)
def test_a_channel_goes_without_the_unit_behind_its_name(line: str, tmp_path: Path) -> None:
    """``lesart new`` calls it volts [V], as the column is called."""
    (tmp_path / "log.csv").write_text("t,volts [V],amps [A]\n" + "".join(f"{k},{1 + k / 100},2\n" for k in range(30)))
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.open_step(Step.GLASS)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    item = next(iter(tomllib.loads(desk.state.history.text)["faces"].values()))["items"][-1]
    assert (item["kind"], item["channel"]) == ("field", "volts [V]")
    desk.close()


def test_of_two_that_are_called_so_neither_is_meant() -> None:
    """Names are as they are written where only the unit tells them apart."""
    names = ["hut [°C]", "hut [%]", "Yard (m/s)", "rain / mm", "[V]"]
    assert called_by_name("hut", names) is None
    assert called_by_name("hut [%]", names) == "hut [%]"
    assert called_by_name("yard", names) == "Yard (m/s)"
    assert called_by_name("RAIN", names) == "rain / mm"
    assert called_by_name("", names) is None
    assert called_by_name("[V]", names) == "[V]"


@pytest.mark.parametrize(
    ("line", "kind"),
    [
        ("16x2", "16×2 characters"),
        ("20 x 4", "20×4 characters"),
        ("128x32", "128×32 pixels"),
        ("240x320", "240×320 colours"),
    ],
)
def test_a_size_alone_is_a_display(line: str, kind: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert kind in desk.state.message


def test_a_size_that_no_display_has_is_told_so(desk: Desk) -> None:
    desk.add("100x20")
    assert desk.state.message.startswith('"100x20" is not a display Lesart knows; ')
