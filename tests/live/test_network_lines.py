"""Lines over a network and the bus of a small computer: rows of what boards send, by open protocols."""

from __future__ import annotations

import ctypes
import fcntl
import os
import socket
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

from lesart.cli.main import main
from lesart.core.errors import LineError
from lesart.core.raw.messages.bus_registers import BusRegister
from lesart.core.raw.source import Source
from lesart.live.bus_ear import BusEar, KernelWires, NobodyAnswered, asked_bus, open_wires
from lesart.live.ears import ear_for
from lesart.live.listening import Listening
from lesart.live.network_ear import MqttEar, UdpEar, line_of, whole_lines
from lesart.live.rig.broker import Broker, fits, packet
from lesart.live.rig.bus_device import BusStandIn, air_registers
from lesart.project.tables.sources import check_source
from tests.live.waiting import wait_for


def source_of(line: dict[str, Any]) -> Source:
    source, problems = check_source("s", {"line": line})
    assert source is not None, problems
    return source


def free_udp_port() -> int:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


def heard(source: Source, folder: Path, say: Callable[[], None], rows: int) -> Listening:
    """Listen until so many rows came, saying something again and again."""
    listening = Listening(source, folder)
    listening.start()

    def enough() -> bool:
        say()
        return listening.state.tally.rows >= rows

    try:
        wait_for(enough, "so many rows")
    finally:
        listening.stop()
    return listening


def test_datagrams_are_lines(tmp_path: Path) -> None:
    """With a line end or without, JSON or plain; each is whole."""
    port = free_udp_port()
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as sender:
        listening = heard(
            source_of({"kind": "UDP text", "udp_port": port, "listen": "127.0.0.1"}),
            tmp_path,
            lambda: sender.sendto(b'{"mass": 42.5, "lid": 34}', ("127.0.0.1", port)) and None,
            3,
        )
    _, columns = listening.view()
    assert list(columns) == ["mass", "lid"]
    assert set(columns["mass"].x.tolist()) == {42.5}


def test_a_port_that_is_taken_is_said() -> None:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as taken:
        taken.bind(("127.0.0.1", 0))
        port = taken.getsockname()[1]
        line = source_of({"kind": "UDP text", "udp_port": port, "listen": "127.0.0.1"}).line
        assert line is not None
        with pytest.raises(LineError, match=rf"UDP port {port} cannot be listened at \(another program has it\)"):
            UdpEar(line, time.monotonic).open()


def test_an_address_of_another_computer_is_said() -> None:
    """One of those that the standard keeps for documents: nobody has it."""
    line = source_of({"kind": "UDP text", "udp_port": free_udp_port(), "listen": "192.0.2.7"}).line
    assert line is not None
    with pytest.raises(LineError, match=r"\(this computer is not 192\.0\.2\.7\)"):
        UdpEar(line, time.monotonic).open()


@pytest.fixture
def broker() -> Iterator[Broker]:
    found = Broker(0)
    found.start()
    yield found
    found.stop()


def mqtt(broker: Broker, topic: str) -> Source:
    return source_of({"kind": "MQTT", "host": "127.0.0.1", "tcp_port": broker.port, "topic": topic})


def test_what_the_rig_publishes_is_heard(tmp_path: Path, broker: Broker) -> None:
    listening = heard(mqtt(broker, "yard/+"), tmp_path, lambda: None, 3)
    assert list(listening.view()[1]) == ["mass", "lid"]


def test_bare_numbers_are_called_as_their_topics(tmp_path: Path, broker: Broker) -> None:
    """A board that publishes each quantity under a topic of its own, by another client."""
    import paho.mqtt.client as client_of
    from paho.mqtt.enums import CallbackAPIVersion

    board = client_of.Client(CallbackAPIVersion.VERSION2)
    board.connect("127.0.0.1", broker.port)
    board.loop_start()

    def say() -> None:
        board.publish("hut/air/temperature", "21.5", qos=1)
        board.publish("hut/air/humidity", b"60 %")

    try:
        listening = heard(mqtt(broker, "hut/#"), tmp_path, say, 3)
    finally:
        board.disconnect()
        board.loop_stop()
    _, columns = listening.view()
    assert set(columns) == {"temperature", "humidity"}
    good = columns["temperature"].x[columns["temperature"].usable]
    assert set(good.tolist()) == {21.5}


def test_a_topic_that_the_broker_keeps_is_said(broker: Broker) -> None:
    """It connects us all the same, and nothing would ever come."""
    line = mqtt(broker, "shut/#").line
    assert line is not None
    with pytest.raises(LineError, match=r"does not give shut/# to this user; name another topic or user"):
        MqttEar(line, time.monotonic).open()


def test_no_broker_is_said_and_a_broker_that_leaves_is_tried_again(tmp_path: Path) -> None:
    line = source_of({"kind": "MQTT", "host": "127.0.0.1", "tcp_port": free_udp_port()}).line
    assert line is not None
    with pytest.raises(LineError, match=r"no broker answers at 127\.0\.0\.1:\d+ \(.*\); is it running\?"):
        MqttEar(line, time.monotonic).open()
    first = Broker(0)
    first.start()
    listening = Listening(mqtt(first, "yard/#"), tmp_path)
    listening.start()
    try:
        wait_for(lambda: listening.state.tally.rows > 0, "a row")
        first.stop()
        wait_for(lambda: listening.state.trouble, "the end of the broker")
        again = Broker(first.port)
        again.start()
        rows = listening.state.tally.rows
        wait_for(lambda: listening.state.tally.rows > rows + 2, "a row from the new one")
        again.stop()
    finally:
        listening.stop()
    assert "gone" in listening.state.tally.bad


@pytest.mark.parametrize(
    ("wanted", "topic", "is_meant"),
    [
        ("#", "a/b", True),
        ("a/#", "a/b/c", True),
        ("a/+", "a/b", True),
        ("a/+", "a/b/c", False),
        ("a/b", "a/b", True),
        ("a/b", "a", False),
        ("+/c", "a/c", True),
    ],
)
def test_topics_as_the_standard_has_them(wanted: str, topic: str, is_meant: bool) -> None:
    assert fits(wanted, topic) is is_meant


def test_lengths_of_packets_as_the_standard_has_them() -> None:
    """MQTT 3.1.1, section 2.2.3: 127 takes a byte, 128 and 16383 two, 16384 three."""
    assert [
        packet(3, bytes(size))[1 : 1 + count] for size, count in ((127, 1), (128, 2), (16_383, 2), (16_384, 3))
    ] == [
        b"\x7f",
        b"\x80\x01",
        b"\xff\x7f",
        b"\x80\x80\x01",
    ]


def test_messages_become_lines() -> None:
    assert line_of("a/b/mass", b"42.5") == b"mass=42.5\n"
    assert line_of("mass", b" 42,5 kg ") == b"mass=42,5 kg\n"
    assert line_of("a/state", b'{"x": 1}') == b'{"x": 1}\n'
    assert whole_lines(b"1,2\r\n") == b"1,2\r\n"


# The bus of a small computer


@pytest.fixture
def bus(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    """A stand-in, by a path that is short enough for a socket."""
    monkeypatch.chdir(tmp_path)
    stand_in = BusStandIn(Path("bus"))
    stand_in.start()
    yield "bus"
    stand_in.stop()


def test_who_answers_on_the_bus(bus: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert [each.address for each in asked_bus(bus, Path()) if each.answered] == [0x40, 0x76]
    assert main(["survey", bus, "--expect", "0x76"]) == 0
    told = capsys.readouterr().out
    assert " 0x76  the expected one" in told
    assert "0x40 answered too, and no part is known there." in told
    assert main(["survey", bus, "--expect", "0x3C"]) == 1


def test_registers_are_read_with_sign_order_and_scale(bus: str, tmp_path: Path) -> None:
    registers = [
        {"name": "pressure", "register": "0xF7", "type": "uint24"},
        {"name": "air", "register": "0xFA", "type": "int16", "scale": "0.01"},
    ]
    source = source_of(
        {"kind": "two-wire bus", "bus": bus, "address": "0x76", "period": "20 ms", "registers": registers}
    )
    listening = heard(source, tmp_path, lambda: None, 3)
    _, columns = listening.view()
    want = air_registers(0.0)
    assert columns["pressure"].x[0] == int.from_bytes(want[0xF7], "big")
    assert columns["air"].x[0] == pytest.approx(11.4)


def test_a_device_that_is_not_there_gives_rows_without_values(bus: str, tmp_path: Path) -> None:
    line = {"kind": "two-wire bus", "bus": bus, "address": "0x23", "period": "20 ms", "registers": [{"name": "x"}]}
    listening = heard(source_of(line), tmp_path, lambda: None, 2)
    assert not listening.view()[1]["x"].usable.any()
    assert listening.state.tally.last[-1].says == "0x23 does not answer"


@pytest.mark.parametrize(
    ("type_", "order", "data", "value"),
    [
        ("uint8", "high first", b"\xff", 255),
        ("int8", "high first", b"\xff", -1),
        ("int16", "low first", b"\x18\xfc", -1000),
        ("uint24", "high first", b"\x01\x00\x02", 65538),
        ("int24", "high first", b"\xff\xff\xfe", -2),
        ("int32", "low first", b"\xfe\xff\xff\xff", -2),
    ],
)
def test_numbers_of_a_device(type_: str, order: str, data: bytes, value: int) -> None:
    register = BusRegister("x", 0, type_, order)
    assert (register.size, register.value(data)) == (len(data), value)
    assert BusRegister("x", 0, type_, order, 0.1).value(data) == value / 10
    # A step that is no part of a whole is multiplied by.
    assert BusRegister("x", 0, type_, order, 0.3, 2.0).value(data) == pytest.approx(value * 0.3 + 2.0)


def test_the_kernel_is_asked_for_both_messages_at_once(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """As its documentation has them: address, flags, length and a pointer each; no stop between."""
    device = tmp_path / "i2c-9"
    device.write_bytes(b"")
    told: list[tuple[int, int, int]] = []

    def kernel(_handle: int, request: int, asked: Any) -> int:
        assert request == 0x0707
        for place in range(asked.count):
            message = asked.messages[place]
            told.append((message.address, message.flags, message.length))
            if message.flags:
                ctypes.memmove(message.data, b"\x12\x34", message.length)
            else:
                assert ctypes.string_at(message.data, message.length) == b"\xf7"
        return asked.count

    monkeypatch.setattr(fcntl, "ioctl", kernel)
    wires = KernelWires(str(device))
    assert wires.transfer(0x76, b"\xf7", 2) == b"\x12\x34"
    assert told == [(0x76, 0, 1), (0x76, 1, 2)]

    def nobody(*_: Any) -> int:
        raise OSError(121, os.strerror(121))

    monkeypatch.setattr(fcntl, "ioctl", nobody)
    with pytest.raises(NobodyAnswered):
        wires.transfer(0x23, b"", 1)
    wires.close()


def test_a_bus_that_is_not_there_is_said() -> None:
    with pytest.raises(LineError, match="/dev/i2c-97 is not there; is the bus switched on?"):
        open_wires("/dev/i2c-97", Path())
    line = source_of(
        {"kind": "two-wire bus", "bus": "/dev/i2c-97", "address": "0x76", "registers": [{"name": "x"}]}
    ).line
    assert line is not None
    with pytest.raises(LineError, match="is not there"):
        BusEar(line, Path(), time.monotonic).open()
    assert isinstance(ear_for(line, Path(), time.monotonic, lambda: False), BusEar)


@pytest.mark.parametrize(
    ("line", "place", "says"),
    [
        ({"address": "0x99"}, "sources.s.line.address", "a number from 0x00 to 0x7F"),
        ({"registers": [{"name": "x", "register": "0x1FF"}]}, "sources.s.line.registers[0].register", "0x00 to 0xFF"),
    ],
)
def test_wrong_addresses_say_what_would_be_right(line: dict[str, Any], place: str, says: str) -> None:
    _, problems = check_source("s", {"line": {"kind": "two-wire bus", "bus": "b", "address": "0x76", **line}})
    assert [problem.place for problem in problems] == [place]
    assert says in problems[0].wanted


def test_a_line_with_units_becomes_channels_with_units(tmp_path: Path) -> None:
    from lesart.project.new.make import make_project

    port = free_udp_port()
    line = {"kind": "UDP text", "udp_port": port, "listen": "127.0.0.1"}
    listening = Listening(source_of(line), tmp_path)
    listening.record(tmp_path / "r.csv")
    listening.start()
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as sender:

        def enough() -> bool:
            sender.sendto("Temp: 23.5 °C, Hum: 56 %".encode(), ("127.0.0.1", port))
            return listening.state.tally.rows > 4

        wait_for(enough, "so many rows")
    listening.stop()
    made = make_project(tmp_path / "r.csv", tmp_path / "made", line=line)
    text = (made.folder / "lesart.toml").read_text(encoding="utf-8")
    assert made.channels == ("Temp", "Hum")
    assert 'raw_unit = "°C"' in text
    assert 'raw_unit = "%"' in text
    assert f"udp_port = {port}" in text
