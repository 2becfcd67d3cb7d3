"""Columns, captures and lines said aloud at + in 2 Raw."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from lesart.core.raw.lines.line import LINES
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from lesart.tui.keys import KEYS
from tests.desk.test_recipes import opened


@pytest.fixture
def raw(hut: Desk) -> Desk:
    hut.open_step(Step.RAW)
    return hut


def line_of(desk: Desk, name: str) -> dict[str, Any]:
    found: dict[str, Any] = tomllib.loads(desk.state.history.text)["sources"][name]["line"]
    return found


SERIAL = {"kind": "text line", "port": "/dev/ttyUSB0", "baud": 9600}
REGISTER = {"name": "register 10", "table": "holding", "address": 10}
METER = {"kind": "Modbus TCP", "host": "192.168.1.7", "unit": 3}
BUS = {"kind": "two-wire bus", "bus": "/dev/i2c-1", "address": "0x76"}


@pytest.mark.parametrize(
    ("typed", "name", "line"),
    [
        ("/dev/ttyUSB0 at 9600", "line", SERIAL),
        ("/dev/ttyUSB0, 9600 baud", "line", SERIAL),
        ("a serial line on /dev/ttyUSB0 at 9600 8N1", "line", SERIAL),
        ("9600 baud on /dev/ttyUSB0", "line", SERIAL),
        ("uart from /dev/ttyUSB0 @ 9600", "line", SERIAL),
        ("COM3", "line", {"kind": "text line", "port": "COM3"}),
        ("rig/scale", "scale", {"kind": "text line", "port": "rig/scale"}),
        ("mass = /dev/ttyUSB0 at 9600", "mass", SERIAL),
        ("mass < the serial port /dev/ttyUSB0 9600", "mass", SERIAL),
        ("udp port 5005", "udp", {"kind": "UDP text", "udp_port": 5005}),
        ("UDP 5005", "udp", {"kind": "UDP text", "udp_port": 5005}),
        ("mqtt 192.168.1.4 topic shed/air", "air", {"kind": "MQTT", "host": "192.168.1.4", "topic": "shed/air"}),
        ("an MQTT broker at 192.168.1.4:1884", "mqtt", {"kind": "MQTT", "host": "192.168.1.4", "tcp_port": 1884}),
        ("MQTT localhost shed/#", "mqtt", {"kind": "MQTT", "host": "localhost", "topic": "shed/#"}),
        ("modbus tcp 192.168.1.7 unit 3, holding register 10", "register 10", METER | {"registers": [REGISTER]}),
        ("a modbus meter at 192.168.1.7 slave 3 register 10", "register 10", METER | {"registers": [REGISTER]}),
        (
            "modbus rtu /dev/ttyUSB0 9600 unit 1 input register 4 as float32",
            "register 4",
            {"kind": "Modbus RTU", "port": "/dev/ttyUSB0", "baud": 9600, "unit": 1}
            | {"registers": [{"name": "register 4", "table": "input", "address": 4, "type": "float32"}]},
        ),
        # Numbers of five digits begin with the number of their table, and count from 1.
        (
            "modbus 192.168.1.7 unit 3 holding register 40011",
            "register 40011",
            METER | {"registers": [REGISTER | {"name": "register 40011"}]},
        ),
        (
            "modbus 192.168.1.7 unit 3 register 30001",
            "register 30001",
            METER | {"registers": [{"name": "register 30001", "table": "input", "address": 0}]},
        ),
        ("i2c at 0x76", "sensor", BUS | {"registers": [{"name": "sensor"}]}),
        (
            "an I2C sensor at 0x76 on rig/bus, register 0xFA, int16",
            "sensor",
            BUS | {"bus": "rig/bus", "registers": [{"name": "sensor", "register": "0xFA", "type": "int16"}]},
        ),
        ("this computer", "computer", {"kind": "this computer"}),
    ],
)
def test_a_line_in_plain_words(raw: Desk, typed: str, name: str, line: dict[str, Any]) -> None:
    """The line that the project file has then: for a register, the source and the line of its meter."""
    raw.add(typed)
    assert not raw.state.message_is_fault, raw.state.message
    assert line_of(raw, name) == line
    assert raw.state.project.channels[name].source == name
    # The next key may be o, which listens to the channel that is looked at.
    assert raw.state.channel == name


def test_every_kind_of_line_but_one_is_said_aloud() -> None:
    """Frames of bytes want to be told apart, which nobody says in a word."""
    test = next(each for each in test_a_line_in_plain_words.pytestmark if each.name == "parametrize")  # type: ignore[attr-defined]
    assert {line["kind"] for _, _, line in test.args[1]} == set(LINES) - {"serial frames"}


@pytest.fixture
def two(tmp_path: Path) -> Desk:
    """Two columns of numbers, one of which is read."""
    (tmp_path / "log.csv").write_text("t,mass,air\n" + "".join(f"{k},{k % 7},{20 + k / 10}\n" for k in range(40)))
    folder = make_project(tmp_path / "log.csv", tmp_path / "log").folder
    (folder / "captures/more.csv").write_text("t,depth\n" + "".join(f"{k},{k % 5}\n" for k in range(40)))
    desk = open_desk(folder)
    desk.open_step(Step.RAW)
    return desk


@pytest.mark.parametrize(
    ("typed", "name", "column", "unit"),
    [
        ("column 2", "air 2", "air", "1"),
        ("the second column in °C", "air 2", "air", "°C"),
        ("the last column", "air 2", "air", "1"),
        ("the first column, kg", "mass 2", "mass", "kg"),
        ("Mass", "mass 2", "mass", "ct"),
        ("captures/more.csv", "more", "depth", "1"),
        ("the file more.csv", "more", "depth", "1"),
        ("another capture more.csv", "more", "depth", "1"),
    ],
)
def test_a_column_or_a_capture_in_plain_words(two: Desk, typed: str, name: str, column: str, unit: str) -> None:
    """Under the name of the column, or the next one that is free; in what the channel is in that reads it already."""
    two.add(typed)
    assert not two.state.message_is_fault, two.state.message
    channel = two.state.project.channels[name]
    assert (channel.column, str(channel.unit_raw)) == (column, unit)
    two.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("rename to pressure", "R renames the channel"),
        ("skip first 10 rows", "what comes before it settles is marked: + settles in 10 s"),
        ("modbus holding register 40001", "say the device and the register, like modbus 192.168.1.7 unit 3, holding "),
        ("too old after 5 s", "for readings that are too old the field has a rule: + stale after 5 s in 6 Fit"),
        (
            "from 10 s to 60 s",
            "a capture is kept whole; [ and ] zoom, and lesart read --from --to writes a part",
        ),
        ("time column", "which column is the time, and how it is written, are values of the source; tab goes to them"),
        ("semicolon", "how cells are separated and decimals are written are values of the source; tab goes to them"),
        ("start recording", "r records the channel's line, or stops"),
        ("live", "o listens to the channel's line, or stops"),
        ("play", "space plays the capture, and stops it"),
        ("mqtt yard/air", "say the broker and the topic, like mqtt 192.168.1.5 topic yard/air"),
        (
            "http://10.0.0.1/data",
            "a network is heard by UDP, MQTT or Modbus, like udp port 5000 or mqtt 192.168.1.5 topic ",
        ),
        ("analog pin A0", "its pin is set in 1 Wire, like analog sensor on a1"),
    ],
)
def test_what_is_no_source_is_told_with_what_does_it(line: str, says: str, two: Desk) -> None:
    before = two.state.history.text
    two.add(line)
    assert two.state.message.startswith(f'"{line}": {says}')
    assert two.state.history.text == before
    two.close()


def test_the_keys_that_are_named_are_those_of_the_screen() -> None:
    """R, o, r and space, as the answers say."""
    says = {key.shown: key.says for key in KEYS}
    assert "rename" in says["R"]
    assert "listen" in says["o"]
    assert "record" in says["r"]
    assert "play" in says["space"]


@pytest.mark.parametrize(
    ("line", "rate_hz"),
    [
        ("sample rate 50 Hz", 50),
        ("10 Hz", 10),
        ("every 100 ms", 10),
        ("one every 4 s", 0.25),
        ("2 kHz", 2000),
        ("8 samples per second", 8),
    ],
)
def test_how_often_samples_come_is_said_where_no_column_does(line: str, rate_hz: float, tmp_path: Path) -> None:
    """And is assumed no longer."""
    (tmp_path / "log.csv").write_text("mass,air\n" + "".join(f"{k % 7},{20 + k % 5}\n" for k in range(40)))
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.open_step(Step.RAW)
    assert any("so 1 Hz is assumed" in note.text for note in desk.notes)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.project.sources["capture"].rate_hz == pytest.approx(rate_hz)
    assert not any("is assumed: rates" in note.text for note in desk.notes)
    desk.close()


def test_a_rate_is_said_again(tmp_path: Path) -> None:
    """Also where it is assumed no longer."""
    (tmp_path / "log.csv").write_text("mass\n" + "".join(f"{k % 7}\n" for k in range(40)))
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.open_step(Step.RAW)
    for line, rate_hz in (("10 Hz", 10), ("every 50 ms", 20), ("10 Hz", 10)):
        desk.add(line)
        assert desk.state.project.sources["capture"].rate_hz == pytest.approx(rate_hz), desk.state.message
    desk.close()


@pytest.mark.parametrize(
    ("line", "settle_s", "least_s"),
    [
        ("settles in 10 s", 10, 0),
        ("warm-up 5 min", 300, 0),
        ("settling time 500 ms", 0.5, 0),
        ("ignore the first 20 s after power-up", 20, 0),
        ("first 30 s invalid", 30, 0),
        ("minimum interval 2 s", 0, 2),
        ("not sooner than every 2 s", 0, 2),
    ],
)
def test_readings_that_come_too_early_are_said(line: str, settle_s: float, least_s: float, two: Desk) -> None:
    """A value of the source, whatever the channel is in; what comes before it is marked."""
    before = two.state.history.text
    two.add(line)
    assert not two.state.message_is_fault, two.state.message
    source = two.state.project.sources[two.state.chosen.source]
    assert (source.settle_s, source.least_interval_s) == (settle_s, least_s)
    two.undo()
    assert two.state.history.text == before
    two.close()


def test_a_rate_beside_a_time_is_refused(two: Desk) -> None:
    two.add("10 Hz")
    assert two.state.message == "Column t of capture says when each sample came; a rate is for captures without one."
    two.close()


@pytest.mark.parametrize("line", ["volts", "Volts", "use column volts", "the column volts"])
def test_a_column_goes_without_the_unit_behind_its_name(line: str, tmp_path: Path) -> None:
    """And is no signal of the channel that is chosen: volts are a voltage on a converter elsewhere."""
    rows = "".join(f"{k},{500 + k % 7},{1 + k / 100}\n" for k in range(40))
    (tmp_path / "log.csv").write_text(f"t,adc,volts [V]\n{rows}")
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.open_step(Step.RAW)
    desk.choose_channel("adc")
    desk.add(line)
    assert desk.state.message == "added: volts [V] 2, column volts [V]"
    desk.close()


def test_a_port_may_be_said_without_its_folder(two: Desk) -> None:
    two.add("ttyUSB0 9600")
    assert two.state.message == "added: line from /dev/ttyUSB0, 9600 baud; o listens to it"
    two.close()


def test_a_register_more_of_a_meter(raw: Desk) -> None:
    """Where one is asked already its other registers need no more than their number."""
    raw.add("modbus 192.168.1.7 unit 3, holding register 10")
    raw.choose_channel("register 10")
    raw.add("input register 12 float32 °C")
    assert not raw.state.message_is_fault, raw.state.message
    channel = raw.state.project.channels["register 12"]
    assert (channel.source, str(channel.unit_raw)) == ("register 10", "°C")
    assert line_of(raw, "register 10")["registers"][1] == {
        "name": "register 12",
        "table": "input",
        "address": 12,
        "type": "float32",
    }


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("a serial line at 9600 baud", "does not say which port; write it like /dev/ttyUSB0 at 9600, or COM3 at 9600."),
        ("modbus 192.168.1.7", "Modbus TCP at 192.168.1.7 does not say which register; write NAME < Modbus TCP"),
        ("column 9", '"column 9" is not there; bench.csv has 1 column: raw.'),
        ("the file away.csv", '"away.csv" is not in the project\'s folder; put it into captures first.'),
        (
            "modbus unit 3, holding register 10",
            "say the device and the register, like modbus 192.168.1.7 unit 3, holding ",
        ),
        ("mqtt topic shed/air", '"mqtt topic shed/air": say the broker and the topic, like mqtt 192.168.1.5'),
        ("udp port 99999", "UDP port = 99999"),
    ],
)
def test_what_is_missing_is_said(raw: Desk, typed: str, says: str) -> None:
    before = raw.state.history.text
    raw.add(typed)
    assert raw.state.message_is_fault
    assert says in raw.state.message
    assert raw.state.history.text == before


def test_what_is_not_recorded_yet_is_said_with_its_line(raw: Desk) -> None:
    """No place in the project file, and no file to put anywhere."""
    raw.add("mass = /dev/ttyUSB0 at 9600")
    (note,) = (each for each in raw.notes if each.channel == "mass" and each.is_fault)
    assert note.text == "mass: nothing is recorded of /dev/ttyUSB0, 9600 baud yet; o listens to it, r records."
    assert note.remedy == ""
    raw.undo()
    assert raw.state.channel == "room"


def test_a_signal_is_none_of_them(tmp_path: Path) -> None:
    """What a column's numbers are is said as before, the name of a column behind its article too."""
    desk = opened(tmp_path)
    desk.open_step(Step.RAW)
    desk.add("a 10k NTC with 4k7")
    assert not desk.state.message_is_fault, desk.state.message
    assert list(desk.state.project.channels) == ["counts"]
    assert str(desk.state.chosen.unit) == "°C"
    desk.close()


@pytest.mark.parametrize(
    ("line", "unit"),
    [
        ("time is in ms", "ms"),
        ("timestamps in milliseconds", "ms"),
        ("the time column is in minutes", "min"),
        ("times are in us", "µs"),
    ],
)
def test_the_unit_of_the_time_is_a_value_of_the_source(line: str, unit: str, tmp_path: Path) -> None:
    """It was taken for the unit of the channel."""
    desk = opened(tmp_path, 512)
    desk.open_step(Step.RAW)
    before = desk.state.chosen.unit_raw
    source = desk.state.chosen.source
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert tomllib.loads(desk.state.history.text)["sources"][source]["time_unit"] == unit
    assert desk.state.chosen.unit_raw == before
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("time is in kg", '"time is in kg": kg is no unit of time; say s, ms, µs, min or h.'),
        ("time in seconds", "capture: column time_s is a time in s already."),
        ("copy of it", '"copy of it": C copies the chosen channel.'),
        ("delete the channel", '"delete the channel": delete takes the chosen channel away.'),
    ],
)
def test_what_is_no_time_or_another_key_is_said(line: str, says: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.RAW)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == says
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize("line", ["column counts as level", "counts as level", "use column counts called level"])
def test_a_column_gets_a_channel_of_another_name(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.RAW)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert tomllib.loads(desk.state.history.text)["channels"]["level"]["column"] == "counts"
    desk.close()
