"""The board's own pins as people say them in 1 Wire: by its buses, by their numbers, by a part that is on them."""

from __future__ import annotations

import re
import tomllib
from typing import Any

import pytest

from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.step import Step
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.pinout import use_met_by
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.wired.pin_names import CALLED, own_pin
from lesart.desk.entries.recipes.shown.displays import ways_of
from lesart.project.facts.compare import PANELS_OF


@pytest.fixture
def desk(unwired: Desk) -> Desk:
    unwired.add("3.3 V board")
    return unwired


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


def wire_faults(desk: Desk) -> list[str]:
    return [note.text for note in desk.notes if note.step is Step.WIRE and "does not work with" in note.text]


@pytest.mark.parametrize(
    ("line", "board"),
    [
        ("sda 21 scl 22", {"signal_pins": "p1-p22", "two_wire_pins": "p21 p22"}),
        ("SCL = GPIO22, SDA = GPIO21", {"signal_pins": "p1-p22", "two_wire_pins": "p21 p22"}),
        ("i2c on 8 and 9", {"two_wire_pins": "p8 p9"}),
        ("the board's I2C pins are 8 9", {"two_wire_pins": "p8 p9"}),
        ("spi sck 18 mosi 23 miso 19", {"signal_pins": "p1-p23", "four_wire_pins": "p18 p23 p19"}),
        ("tx 1 rx 3", {"serial_pins": "p1 p3"}),
        ("analog pins a0-a5", {"analog_pins": "a0-a5"}),
        ("board has analog inputs A0 to A7", {"analog_pins": "A0-A7"}),
        ("pins D0-D13", {"signal_pins": "D0-D13"}),
        ("pins D0-D13 and A0-A5", {"signal_pins": "D0-D13", "analog_pins": "A0-A5"}),
        ("digital pins 0-13", {"signal_pins": "p0-p13"}),
        ("pwm pins 3 5 6 9 10 11", {"width_pins": "p3 p5 p6 p9-p11"}),
        ("interrupt pins 2, 3", {"edge_pins": "p2 p3"}),
        ("interrupt pins all", {"edge_pins": "all"}),
        ("bus clock 400 kHz", {"bus_clock": "400 kHz"}),
        ("bus wire is 3 m", {"bus_wire": "3 m"}),
        ("reference 2.5 V", {"reference": "2.5 V"}),
        ("converter bits 12", {"converter_bits": 12}),
    ],
)
def test_what_the_board_is_like_is_said(line: str, board: dict[str, Any], desk: Desk) -> None:
    """Exactly the values that were said, and each of them told."""
    before = desk.state.history.text
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert tables(desk)["parts"]["board"] == {"kind": "3.3 V board", **board}
    titles = {each.name: each.title for each in KINDS["3.3 V board"].parameters}
    assert set(desk.state.message.split("; ")) == {f"{titles[key]} of board: {value}" for key, value in board.items()}
    desk.undo()
    assert desk.state.history.text == before


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("spi mosi 23 sck 18", '"spi mosi 23 sck 18": say miso too, like sck 2 mosi 3 miso 4.'),
        ("sda 21 scl 21", '"sda 21 scl 21": each line has a pin of its own, like sda 2 scl 3.'),
        ("two-wire pins p1 p1", '"two-wire pins p1 p1": it names p1 twice.'),
        ("sda 21", '"sda 21": say scl too, like sda 2 scl 3.'),
        ("signal pins p9-p2", '"signal pins p9-p2": "p9-p2" must go from the lower number to the higher.'),
        (
            "pins all",
            '"pins all": "all" is not a pin; it must list pins as they are printed, like "D0-D13 A0".',
        ),
        (
            "two-wire pins p1",
            'two wire pins of part board = "p1"; it must name 2 pins, its data and clock, or be empty.',
        ),
    ],
)
def test_what_is_missing_is_said(line: str, says: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert (desk.state.message, desk.state.history.text) == (says, before)


def test_connections_follow_the_names_of_pins(desk: Desk) -> None:
    for line in ("button on p4", "thermistor 10k on a2", "pins D0-D13 and A0-A5"):
        desk.add(line)
        assert not desk.state.message_is_fault, desk.state.message
    assert [each["to"] for each in tables(desk)["wire"]["joins"]] == ["board.D4", "board.A2"]
    desk.add("led on D9 with 330 ohm")
    assert tables(desk)["wire"]["joins"][-1]["to"] == "board.D9"


@pytest.mark.parametrize(
    ("line", "board", "joins"),
    [
        ("pot on a0", {"kind": "5 V board", "analog_pins": "a0-a5"}, ["board.a0"]),
        ("led d0 220 ohm", {"kind": "5 V board", "signal_pins": "p0-p16"}, ["board.p0"]),
        ("button on gpio34", {"kind": "large 3.3 V board", "signal_pins": "p1-p34"}, ["board.p34"]),
        (
            "oled sda 21 scl 22",
            {"kind": "large 3.3 V board", "two_wire_pins": "p21 p22"},
            ["board.p21", "board.p22"],
        ),
        (
            "ultrasonic trig 9 echo 10",
            {"kind": "5 V board", "timing_pins": "p4-p7 p10"},
            ["board.p9", "board.p10"],
        ),
        (
            "display cs 7 dc 9 rst 8 mosi 11 sck 13",
            {"kind": "5 V board", "four_wire_pins": "p13 p11 p12"},
            ["board.p7", "board.p9", "board.p8", "board.p11", "board.p13"],
        ),
        ("SDA 21 SCL 22", {"kind": "large 3.3 V board", "two_wire_pins": "p21 p22"}, []),
    ],
)
def test_a_board_that_nobody_named_has_the_pins_that_are_said(
    line: str, board: dict[str, Any], joins: list[str], unwired: Desk
) -> None:
    """And they work with what is joined there: an assumed board has no fault of its own."""
    unwired.add(line)
    assert not unwired.state.message_is_fault, unwired.state.message
    now = tables(unwired)
    assert now["parts"]["board"] == {**board, "assumed": "kind"}
    assert unwired.state.message.endswith(f"board is assumed to be a {board['kind']}")
    assert [each["to"] for each in now.get("wire", {}).get("joins", [])] == joins
    assert wire_faults(unwired) == []


def test_a_pin_that_cannot_measure_keeps_its_note(desk: Desk) -> None:
    """Where a board measures is not taken from a line that may be the mistake itself."""
    desk.add("thermistor 10k on p3 with 10k to ground")
    assert "analog_pins" not in tables(desk)["parts"]["board"]
    assert wire_faults(desk) == [
        "thermistor.1 (element) does not work with board.p3 (digital, interrupt); the analog pins of board are a1-a4."
    ]


def test_a_bus_stays_where_something_is_on_it(desk: Desk) -> None:
    desk.add("oled sda p15 scl p16")
    desk.add("two-wire sensor sda 4 scl 5")
    assert "two_wire_pins" not in tables(desk)["parts"]["board"]
    assert len(wire_faults(desk)) == 2


@pytest.mark.parametrize(
    ("line", "joins"),
    [
        ("pull-up 4.7k on sda and scl", [("board.p15", "board.3V3"), ("board.p16", "board.3V3")]),
        ("4.7k pull-ups", [("board.p15", "board.3V3"), ("board.p16", "board.3V3")]),
        ("two 4k7 pull-up resistors on the bus", [("board.p15", "board.3V3"), ("board.p16", "board.3V3")]),
        ("10k pull-down on p4", [("board.p4", "board.gnd")]),
        ("10k pull-up on pins 4 and 5", [("board.p4", "board.3V3"), ("board.p5", "board.3V3")]),
    ],
)
def test_pull_ups_are_one_part_in_each_line(line: str, joins: list[tuple[str, str]], desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    now = tables(desk)
    assert set(now["parts"]) == {"board", "resistor"}
    assert [(each["pin"], each["to"]) for each in now["wire"]["joins"]] == joins
    assert {each["through"] for each in now["wire"]["joins"]} == {"resistor"}


def spoken(name: str) -> list[str]:
    """Pins that are joined to one of a board, by names that a person can say."""
    return [pin.name for pin in KINDS[name].pins if use_met_by(pin.roles) and re.fullmatch("[A-Za-z]+", pin.name)]


PARTS = sorted(name for name, kind in KINDS.items() if kind.group in ("sensor", "display") and len(spoken(name)) > 1)


@pytest.mark.parametrize("name", PARTS)
def test_every_pin_of_every_kind_is_joined_where_it_is_said(name: str, desk: Desk) -> None:
    """All that carry a signal, in one line, by their own names; none is left out."""
    pins = spoken(name)
    desk.add(f"{name} " + " ".join(f"{pin} p{at}" for at, pin in enumerate(pins, 2)))
    assert not desk.state.message_is_fault, desk.state.message
    now = tables(desk)
    (part,) = set(now["parts"]) - {"board"}
    assert now["parts"][part]["kind"] == name
    joined = {(each["pin"], each["to"]) for each in now["wire"]["joins"]}
    assert joined == {(f"{part}.{pin}", f"board.p{at}") for at, pin in enumerate(pins, 2)}


@pytest.mark.parametrize("word", CALLED)
def test_every_name_of_a_pin_is_one_of_some_kind(word: str) -> None:
    """And letter case tells A of an encoder from a of seven segments."""
    for wanted in CALLED[word]:
        assert any(wanted in [pin.name for pin in kind.pins] for kind in KINDS.values()), wanted
    assert any(own_pin(kind, word) in CALLED[word] for kind in KINDS.values())


def test_a_display_is_not_called_like_a_panel_that_is_another_kind(unwired: Desk) -> None:
    """A new project has 16×2 characters; pixels beside them are another thing, and 7 Glass finds their part."""
    unwired.add("oled sda 21 scl 22")
    assert {name for name in tables(unwired)["parts"] if name != "board"} == {"glass 2"}
    assert [each["pin"] for each in tables(unwired)["wire"]["joins"]] == ["glass 2.data", "glass 2.clock"]
    unwired.open_step(Step.GLASS)
    unwired.add("oled 128x64")
    assert tables(unwired)["panels"]["glass 2"]["kind"] == "pixels"
    assert len(tables(unwired)["parts"]) == 2
    assert not [note.text for note in unwired.notes if "in 1 Wire" in note.text]


def test_a_display_that_a_panel_is_not_is_told(unwired: Desk) -> None:
    unwired.add("lcd 16x2 sda 21 scl 22")
    assert "glass" in tables(unwired)["parts"]
    assert not [note.text for note in unwired.notes if "in 1 Wire" in note.text]
    unwired.undo()
    unwired.add("oled called glass")
    (note,) = [note for note in unwired.notes if note.step is Step.GLASS and note.is_fault]
    assert note.text == "glass: it is 16×2 characters here, but a two-wire pixel display in 1 Wire."


def test_which_panel_a_part_lights_is_what_displays_have() -> None:
    """All that can be said of a display, with its part."""
    lit: dict[str, set[str]] = {}
    for name, table in CATALOGUE.items():
        for driven in ways_of(name).values():
            lit.setdefault(driven.part, set()).add(str(table["kind"]))
    del lit[""]
    assert lit == {part: set(kinds) for part, kinds in PANELS_OF.items()}
