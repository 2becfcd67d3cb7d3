"""Rules of a field as people say them; and what is typed in a step that does not take it."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.glass.faces.items import FieldItem
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.rules import rules_said
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.test_recipes import opened

SAID: list[tuple[str, dict[str, Any]]] = [
    ("2 decimals", {"decimals": 2}),
    ("two decimal places", {"decimals": 2}),
    ("3 digits after the comma", {"decimals": 3}),
    ("left aligned in 9", {"align": "left", "width": 9}),
    ("min width 8", {"width": 8}),
    ("a minimum width of 9", {"width": 9}),
    ("at most 3 decimals", {"decimals": 3, "decimals_are": "as many as fit"}),
    ("1 decimal place, 6 wide", {"decimals": 1, "width": 6}),
    ("width 5", {"width": 5}),
    ("a width of 5", {"width": 5}),
    ("8 characters", {"width": 8}),
    ("left aligned", {"align": "left"}),
    ("centred", {"align": "centre"}),
    ("align left", {"align": "left"}),
    ("leading zeros", {"pad": "zero"}),
    ("zero-padded", {"pad": "zero"}),
    ("leading zeros, 3 digits", {"pad": "zero", "width": 3}),
    ("leading zeros 4 digits", {"pad": "zero", "width": 4}),
    ("4 digits with leading zeros", {"pad": "zero", "width": 4}),
    ("plus sign", {"sign": "always"}),
    ("no sign", {"sign": "never"}),
    ("hide the minus", {"sign": "never"}),
    ("per cent sign", {"unit_text": "%"}),
    ("show ERR when sensor fails", {"invalid": "ERR"}),
    ("in °F", {"unit": "°F", "unit_text": "°F"}),
    ("2 decimals in °F", {"decimals": 2, "unit": "°F", "unit_text": "°F"}),
    ("6 wide 2 decimals shown in °F", {"decimals": 2, "width": 6, "unit": "°F", "unit_text": "°F"}),
    ("2 decimals 6 wide", {"decimals": 2, "width": 6}),
    ("show in K", {"unit": "K", "unit_text": "K"}),
    ("in fahrenheit, 1 decimal", {"unit": "°F", "unit_text": "°F", "decimals": 1}),
    ("no unit", {"unit_text": ""}),
    ("with a space before the unit", {"unit_text": " °C"}),
    ("space between number and unit", {"unit_text": " °C"}),
    ("unit deg behind", {"unit_text": "deg", "unit_place": "behind"}),
    ("pad with zeros to 4 digits", {"pad": "zero", "width": 4}),
    ("centre it", {"align": "centre"}),
    ("at most 5 characters", {"width": 5}),
    ("show --- when there is no reading", {"stale": "---"}),
    ("blank if stale after 10 s", {"stale": " ", "stale_after": "10 s"}),
    ("comma instead of a point", {"point": "comma"}),
    ("max 5 characters", {"width": 5}),
    ("zero pad to 5", {"pad": "zero", "width": 5}),
    # As programs write it; the width of a format is that of the number alone, and a field's holds the unit too.
    ("5.2f", {"decimals": 2, "width": 5}),
    ("%6.1f °C", {"decimals": 1, "width": 9, "unit_text": " °C"}),
    ("%.1f%%", {"decimals": 1, "unit_text": "%"}),
    ("dtostrf(t, 6, 1, buf)", {"decimals": 1, "width": 6}),
    ("dtostrf(t, -6, 1, buf);", {"decimals": 1, "width": 6, "align": "left"}),
    ("temp.toFixed(1)", {"decimals": 1}),
    ("String(t, 1)", {"decimals": 1}),
    ("lcd.print(t, 1);", {"decimals": 1}),
    ("blank if older than 5 s", {"stale": " ", "stale_after": "5 s"}),
    ("last digit at most 10 changes a minute", {"restless": 10}),
    ("unit degC", {"unit_text": "degC"}),
    ("decimal comma", {"point": "comma"}),
    ("stale after 10 s", {"stale_after": "10 s"}),
    ("rounded half even", {"round": "half even"}),
    ("overflow *", {"overflow": "*"}),
    ("thousands separated by blanks", {"group": "blank"}),
    ("2 decimals and a plus sign", {"decimals": 2, "sign": "always"}),
    ("words low < 5; ok < 43; full", {"shows": "word", "words": "low < 5; ok < 43; full"}),
    ("low below 5 °C, ok below 43, else full", {"shows": "word", "words": "low < 5 °C; ok < 43; full"}),
    ("show COLD under 10, otherwise WARM", {"shows": "word", "words": "COLD < 10; WARM"}),
    ("words cold below 18 warm below 25 else hot", {"shows": "word", "words": "cold < 18; warm < 25; hot"}),
    (
        "cold below 18 °C warm below 25 °C else hot",
        {"shows": "word", "words": "cold < 18 °C; warm < 25 °C; hot"},
    ),
    ("low ok high at 10 and 30", {"shows": "word", "words": "low < 10; ok < 30; high"}),
    ("on above 20 else off", {"shows": "word", "words": "off < 20; on"}),
    ("yes over 2.5 °C, otherwise no", {"shows": "word", "words": "no < 2.5 °C; yes"}),
    ("suffix C", {"unit_text": "C"}),
    ("xx.x", {"decimals": 1, "width": 4}),
    ("°F", {"unit": "°F", "unit_text": "°F"}),
    ("fahrenheit", {"unit": "°F", "unit_text": "°F"}),
    ("always show the sign", {"sign": "always"}),
    ("thousands separator", {"group": "blank"}),
    ("thousands comma", {"group": "comma"}),
    ("unit in front", {"unit_place": "before"}),
    ("---- when stale", {"stale": "----"}),
    ("show -- on error", {"invalid": "--"}),
    ("show only two decimals", {"decimals": 2}),
    ("right align", {"align": "right"}),
    ("hide the unit", {"unit_text": ""}),
    ("show dashes when missing", {"stale": "--"}),
    ("show --- when no reading", {"stale": "---"}),
    ("blank if too old", {"stale": " "}),
    ("limit to 6 characters", {"width": 6}),
    ("fit in 6 digits", {"width": 6}),
    ("bankers rounding", {"round": "half even"}),
    ('"OL" on overload', {"overflow": "OL"}),
    ("wait while settling", {"settling": "wait"}),
    ("no more than 2 changes a second", {"restless": 120}),
    ("truncate", {"round": "down"}),
    ("truncate instead of rounding", {"round": "down"}),
    ("show +/- sign", {"sign": "always"}),
    ("always show the plus sign", {"sign": "always"}),
    ("comma as decimal point", {"point": "comma"}),
    ("display in fahrenheit", {"unit": "°F", "unit_text": "°F"}),
    ("convert to °F", {"unit": "°F", "unit_text": "°F"}),
    ("show °F", {"unit": "°F", "unit_text": "°F"}),
    ("overflow shows OL", {"overflow": "OL"}),
    ("missing shows --", {"stale": "--"}),
    ('"ON" above 21, "OFF" below', {"shows": "word", "words": "OFF < 21; ON"}),
    ("low below 5, ok up to 43, full above 43", {"shows": "word", "words": "low < 5; ok < 43; full"}),
    ("round to the nearest", {"round": "half away"}),
    ("round down", {"round": "down"}),
    ("degree sign", {"unit_text": "°"}),
    ("%6.2f", {"width": 6, "decimals": 2}),
    ("%+05.1f", {"width": 5, "decimals": 1, "pad": "zero", "sign": "always"}),
    ("{:.2f}", {"decimals": 2}),
    ("###.##", {"width": 6, "decimals": 2}),
    ("000.00", {"width": 6, "decimals": 2, "pad": "zero"}),
    ("##0.00 °F", {"width": 8, "decimals": 2, "unit": "°F", "unit_text": "°F"}),
    ("width 5 decimals 1", {"width": 5, "decimals": 1}),
    ("one decimal K", {"decimals": 1, "unit": "K", "unit_text": "K"}),
    ("±", {"sign": "always"}),
]
ELSEWHERE = {
    "moving average 16": ("a filter", (Step.CALM,)),
    "median 5": ("a filter", (Step.CALM,)),
    "alarm above 30 °C": ("an alarm", (Step.CALM,)),
    "too hot above 30 °C": ("an alarm", (Step.CALM,)),
    "/dev/ttyUSB0 at 9600": ("a line to listen to", (Step.RAW,)),
    "a 16x2 lcd with a backpack": ("a display", (Step.GLASS,)),
    "a bridge of 5 kg": ("what a signal is", (Step.RAW, Step.LAW)),
    "most lag 1 s": ("a value of the loop", (Step.PACE,)),
    "log every 5 s takes 40 ms": ("a task", (Step.PACE,)),
    "2 decimals": ("a rule of a field", (Step.FIT,)),
    "a level shifter": ("a part", (Step.WIRE,)),
    "board p5 to board 5V": ("a connection", (Step.WIRE,)),
    "thermistor by beta 3950 K": ("a law", (Step.LAW,)),
}


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.FIT)
    return hut


def rules_in(desk: Desk) -> dict[str, Any]:
    found: dict[str, Any] = tomllib.loads(desk.state.history.text)["channels"]["room"]["fit"]
    return found


@pytest.mark.parametrize(
    ("line", "wanted"), [each for each in SAID if each[1]], ids=[line for line, said in SAID if said]
)
def test_a_rule_is_what_was_said(line: str, wanted: dict[str, Any], desk: Desk) -> None:
    """And nothing else of the field changes."""
    before = rules_in(desk)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert rules_in(desk) == before | wanted


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("2 decimals, blah", '"2 decimals, blah" is not a rule of a field'),
        ("in kg", "°C cannot be converted to kg"),
        ("99 decimals", "from 0 to 9"),
        ("width 7", "room: width 7, as it is already."),
        ("in °C", "room: shown in °C, unit text °C, as it is already."),
        ("show °C", "room: shown in °C, unit text °C, as it is already."),
        ("shows word", "words must say which"),
        (
            "dry below 30, wet above 60",
            '"dry below 30, wet above 60" leaves out what lies between; name it too, like dry < 30; fine < 60; wet.',
        ),
        ("days hours minutes", "a reading in seconds is shown as h:mm:ss by shows elapsed"),
    ],
)
def test_what_is_no_rule_is_refused(line: str, says: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert says in desk.state.message
    assert desk.state.history.text == before


@pytest.mark.parametrize(("line", "time"), [("in minutes and seconds", "m:ss"), ("as hours and minutes", "h:mm")])
def test_a_time_is_shown_as_one(line: str, time: str, desk: Desk) -> None:
    """Of a reading in seconds; of degrees it is refused, and nothing changes."""
    assert rules_said(line, parse_unit("s")) == {"shows": "elapsed", "time": time}
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == "the field of room: only seconds, minutes or hours are shown as a time, not °C."
    assert desk.state.history.text == before


def test_every_rule_can_be_said_by_its_name() -> None:
    celsius = parse_unit("°C")
    for parameter in FIELD:
        value = (
            parameter.choices[-1] if parameter.choices else {"integer": "3", "quantity": "7 s"}.get(parameter.kind, "K")
        )
        said = rules_said(f"{parameter.title} {value}", celsius)
        assert said is not None, parameter.title
        assert f"{said[parameter.name]}" == value


@pytest.mark.parametrize("line", ELSEWHERE)
def test_what_another_step_takes_is_said_to_be_taken_there(line: str, desk: Desk) -> None:
    """In every step that does not take it; nothing is changed there, and no task bears its name."""
    what, steps = ELSEWHERE[line]
    where = " or ".join(f"{step.number} {step.shown}" for step in steps)
    before = desk.state.history.text
    for step in Step:
        if step in steps or (line == "a 16x2 lcd with a backpack" and step is Step.WIRE):
            continue  # a display is a part too
        desk.open_step(step)
        desk.add(line)
        assert desk.state.message == f'"{line}" is {what}; + in {where} takes it.', (step, desk.state.message)
        assert desk.state.history.text == before


@pytest.mark.parametrize("line", ELSEWHERE)
def test_what_a_step_takes_is_taken_there(line: str, desk: Desk) -> None:
    for step in ELSEWHERE[line][1]:
        desk.open_step(step)
        desk.add(line)
        assert "takes it" not in desk.state.message, (step, desk.state.message)


def test_what_nothing_takes_is_told_so_by_the_step(desk: Desk) -> None:
    for step in Step:
        desk.open_step(step)
        desk.add("oddly odd")
        assert desk.state.message_is_fault, step


def test_a_field_keeps_its_rules(desk: Desk) -> None:
    desk.take_away()
    assert desk.state.message_is_fault
    assert "A field always has all its rules" in desk.state.message


@pytest.fixture
def narrow(tmp_path: Path) -> Desk:
    """A thermistor that is shown in whole degrees in five cells, with free cells behind."""
    desk = opened(tmp_path)
    desk.add("a thermistor half on a 10-bit converter")
    desk.open_step(Step.FIT)
    desk.add("5 wide, 0 decimals")
    assert overflows(desk) == []
    return desk


def front_of(desk: Desk) -> FieldItem:
    front = desk.state.field_in_front
    assert front is not None
    return front[2]


def overflows(desk: Desk) -> list[str]:
    return [note.text for note in desk.notes if "does not fit" in note.text]


def test_decimals_that_need_a_cell_more_get_it(narrow: Desk) -> None:
    """In one edit, as far as there is room; what is given up is not taken back."""
    before = front_of(narrow).field
    narrow.add("1 decimal")
    after = front_of(narrow).field
    assert (after.decimals, after.width > before.width, overflows(narrow)) == (1, True, [])
    assert narrow.state.message == f"counts: decimals 1, width {after.width}, so that it fits"
    narrow.undo()
    assert front_of(narrow).field == before


def test_a_width_that_is_said_stays_as_it_is_said(narrow: Desk) -> None:
    narrow.add("5 wide, 1 decimal")
    assert (front_of(narrow).field.width, len(overflows(narrow))) == (5, 1)


def test_a_blank_before_the_unit_is_before_that_shown(narrow: Desk) -> None:
    """It needs a cell more, as a decimal does; of a field in °F it is before °F."""
    narrow.add("in °F")
    assert not narrow.state.message_is_fault, narrow.state.message
    width = front_of(narrow).field.width
    narrow.add("with a space before the unit")
    assert not narrow.state.message_is_fault, narrow.state.message
    assert front_of(narrow).field.unit_text == " °F"
    assert front_of(narrow).field.width >= width
    assert '"' in narrow.state.message


def test_no_field_grows_over_what_stands_behind_it(narrow: Desk) -> None:
    """A label in the next cell leaves no room: it overflows, and that is told."""
    item = front_of(narrow)
    narrow.open_step(Step.GLASS)
    narrow.add(f"label ! at row {item.row} column {item.column + item.field.width}")
    assert not narrow.state.message_is_fault, narrow.state.message
    narrow.open_step(Step.FIT)
    narrow.add("1 decimal")
    assert front_of(narrow).field.width == item.field.width
    assert len(overflows(narrow)) == 1


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("words cold warm hot", "words replace ranges, each up to its limit, like words low < 5; ok < 43; full"),
        ("on/off", "words replace ranges, each up to its limit, like words low < 5; ok < 43; full"),
        ("prefix T=", "a text before the number is an item of its own: + in 7 Glass takes it"),
        ("Temp:", "a text before the number is an item of its own: + in 7 Glass takes it"),
        ("hex", "a field shows decimal numbers"),
        ("scroll", "fields and faces do not scroll"),
        (
            "steps of 0.5",
            "a field rounds to decimals; steps of 0.5 are a law, like 0.5 * floor(x / 0.5 + 0.5) at + in 3 Law",
        ),
        ("round up", "round is half away, half even, down, floor or cut by code"),
        ("show low below 5 °C", "words replace ranges, each up to its limit, like words low < 5; ok < 43; full"),
        ("scientific", "a field has no exponent; prefix by range writes k, M, m or µ in front of the unit"),
        (
            "3 significant digits",
            "a field has decimals; how many are worth showing follows from the uncertainty",
        ),
        ("bold", "its size is that of its font, a value of items on pixel panels in 7 Glass"),
        ("less flicker", "its last digit is steadier with fewer decimals, or after a filter in 5 Calm"),
        ("hh:mm", "a reading in seconds is shown as h:mm:ss by shows elapsed"),
        ("never show -0.0", "what rounds to zero never has a minus"),
        ("clamp at 999", "a clamped reading hides what is wrong; what does not fit shows its overflow"),
        ("in binary", "a field shows decimal numbers; which bits mean what is set in 2 Raw"),
        ("bar graph", "+ in 7 Glass adds it beside the field, like bar or trend"),
    ],
)
def test_what_is_no_rule_is_told_with_what_does_it(line: str, says: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" is not a rule of a field; {says}')
    assert desk.state.history.text == before


def test_a_channel_that_no_panel_shows_has_a_field_of_its_own(tmp_path: Path) -> None:
    """Its rules stand with the channel, and the first item takes them."""
    (tmp_path / "log.csv").write_text("t,a,b,c,d\n" + "".join(f"{k},1.5,2.5,3.5,{4 + k / 8}\n" for k in range(30)))
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.choose_channel("d")
    assert not desk.state.project.panels_showing("d")
    desk.open_step(Step.FIT)
    desk.add("2 decimals, left")
    assert desk.state.message == "d: decimals 2, align left"
    fit = tomllib.loads(desk.state.history.text)["channels"]["d"]["fit"]
    assert (fit["decimals"], fit["align"]) == (2, "left")
    desk.open_step(Step.GLASS)
    desk.add("face more")
    desk.add("d")
    assert not desk.state.message_is_fault, desk.state.message
    name = desk.state.project.panels_showing("d")[0]
    field = desk.state.project.fields_on(name, "d")[0][1].field
    assert (field.decimals, field.align) == (2, "left")
    desk.close()


@pytest.mark.parametrize(
    "line", ["show ERR if out of range", "ERR when it is outside its range", "ERR while beyond the limits"]
)
def test_what_is_out_of_range_is_marked_and_has_its_text(line: str, tmp_path: Path) -> None:
    """Two values in one edit: the field's text, and that the channel marks such readings."""
    desk = opened(tmp_path)
    desk.add("a thermistor half on a 10-bit converter")
    before = desk.state.history.text
    desk.open_step(Step.FIT)
    desk.add(line)
    assert desk.state.message == "counts: invalid ERR, outside marked"
    channel = desk.state.chosen
    assert (channel.field.invalid, tomllib.loads(desk.state.history.text)["channels"]["counts"]["outside"]) == (
        "ERR",
        "marked",
    )
    desk.undo()
    assert desk.state.history.text == before
    desk.close()


def test_fields_that_share_a_rule_get_their_cells_too(tmp_path: Path) -> None:
    """On characters and on pixels, where a cell is as wide as a letter; each has as many as it needs."""
    desk = opened(tmp_path, 512)
    desk.add("force sensor 30k at 100 g, 6k at 1 kg, 10k to ground")
    desk.open_step(Step.GLASS)
    for display in ("16x2 lcd", "0.96 oled"):
        desk.add(display)
        assert not desk.state.message_is_fault, desk.state.message
    desk.open_step(Step.FIT)
    assert overflows(desk) == []
    desk.add("with a space before the unit")
    assert not desk.state.message_is_fault, desk.state.message
    assert overflows(desk) == []
    shown = [item.field for face in desk.state.project.faces.values() for item in face.fields_of(desk.state.channel)]
    assert len(shown) > 1
    assert {(field.unit_text, field.decimals) for field in shown} == {(" g", 0)}
    desk.close()
