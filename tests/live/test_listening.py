"""Listening to the rig and to peers of another library: what comes is believed, what goes wrong is said and marked."""

from __future__ import annotations

import asyncio
import os
import pty
import socket
import termios
import threading
import tty
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from pymodbus.client import ModbusTcpClient
from pymodbus.framer import FramerType
from pymodbus.server import ModbusSerialServer, ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from lesart.core.block import Mark
from lesart.core.errors import RequestError
from lesart.core.raw.source import Source
from lesart.live.listening import Listening
from lesart.live.rig.rig import Rig
from lesart.live.rig.signals import weather
from lesart.project.captures.capture_read import read_capture
from tests.live.sources import source_of
from tests.live.waiting import wait_for

PRESSURE = {"name": "pressure", "table": "input", "address": 0, "type": "uint32"}
SOON = "0.2 s"
WIND = {"name": "wind", "table": "input", "address": 10, "type": "float32"}


@pytest.fixture
def rig(tmp_path: Path) -> Iterator[Rig]:
    rig = Rig(tmp_path / "rig", rate_hz=100.0)
    rig.start()
    yield rig
    rig.stop()


@pytest.fixture
def scale(rig: Rig, tmp_path: Path) -> Iterator[Listening]:
    listening = Listening(source_of({"kind": "text line", "port": "rig/scale"}), tmp_path)
    listening.record(tmp_path / "r.csv")
    listening.start()
    wait_for(lambda: listening.state.tally.rows > 10, "the scale was heard")
    yield listening
    listening.stop()


def mast(rig: Rig, tmp_path: Path, kind: str, **more: Any) -> Listening:
    """Asked with all the patience a busy machine needs; who wants to hear no reply asks with less (``SOON``)."""
    where = {"port": "rig/mast"} if kind == "Modbus RTU" else {"host": "127.0.0.1", "tcp_port": rig.port}
    table = {"kind": kind, **where, "unit": 7, "period": "0.05 s", "timeout": "10 s", "registers": [PRESSURE, WIND]}
    listening = Listening(source_of(table | more), tmp_path)
    listening.start()
    return listening


def marks_of(listening: Listening) -> set[int]:
    return {int(mark) for block in listening.view()[1].values() for mark in np.unique(block.mark)}


def test_the_scale_is_heard_and_what_is_recorded_is_what_was_heard(scale: Listening, tmp_path: Path) -> None:
    recorded = scale.stop()
    assert recorded is not None
    _, live = scale.view()
    capture = read_capture(tmp_path / "r.csv", Source("s", "r.csv", format="recording"))
    assert list(live) == list(capture.columns) == ["count", "lid_mv"]
    assert recorded.rows == len(live["count"])
    for name, block in live.items():
        assert block.t.tobytes() == capture.columns[name].t.tobytes()
        assert block.x.tobytes() == capture.columns[name].x.tobytes()
        assert block.mark.tobytes() == capture.columns[name].mark.tobytes()
    assert np.median(live["lid_mv"].x) == pytest.approx(843, abs=5)


def test_noise_is_said_and_marked_and_no_control_code_gets_through(rig: Rig, scale: Listening, tmp_path: Path) -> None:
    rig.fault("noise", 30.0)
    wait_for(lambda: scale.state.tally.bad.get("garbage", 0) > 5, "garbage came")
    scale.stop()
    assert all(event.says.isprintable() for event in scale.state.tally.last)
    assert all(letter.isprintable() or letter == "\n" for letter in (tmp_path / "r.csv").read_text())
    assert int(Mark.MISSING) in marks_of(scale)


def test_eight_channels_as_fast_as_they_can_be_said_and_none_is_lost(tmp_path: Path) -> None:
    """Ten thousand lines through a terminal that holds a few of them: each comes once, in order, and is recorded."""
    master, other = pty.openpty()
    tty.setraw(other)
    listening = Listening(source_of({"kind": "text line", "port": os.ttyname(other)}), tmp_path)
    listening.record(tmp_path / "r.csv")
    listening.start()
    wait_for(lambda: listening.state.trouble == "" and listening.clock() > 0.2, "the port was opened")
    for first in range(0, 10_000, 50):
        os.write(master, b"".join(b"%d,1.5,2,3,4,5,6,7.25\n" % place for place in range(first, first + 50)))
    wait_for(lambda: listening.state.tally.rows == 10_000, "all came")
    recorded = listening.stop()
    assert recorded is not None
    assert (recorded.rows, recorded.lost, listening.state.tally.bad) == (10_000, 0, {})
    first_column = read_capture(tmp_path / "r.csv", Source("s", "r.csv", format="recording")).columns["column 1"]
    assert first_column.x.tolist() == list(map(float, range(10_000)))
    assert (np.diff(first_column.t) > 0).all()
    for handle in (master, other):
        os.close(handle)


def test_a_line_that_is_pulled_out_is_said_marked_and_heard_again(rig: Rig, scale: Listening, tmp_path: Path) -> None:
    rig.fault("gone", 0.5)
    wait_for(lambda: scale.state.tally.bad.get("gone"), "it was noticed")
    before = scale.state.tally.rows
    wait_for(lambda: scale.state.tally.rows > before + 10, "it was heard again")
    scale.stop()
    text = (tmp_path / "r.csv").read_text()
    assert "gone: the port went away" in text
    assert ",missing,missing\n" in text


def test_silence_grows_old(rig: Rig, scale: Listening) -> None:
    rig.fault("silence", 30.0)
    wait_for(lambda: scale.state.age_s > 0.3, "its age grew")
    assert scale.state.trouble == ""


def test_a_port_that_is_not_there_says_so_and_is_opened_when_it_comes(tmp_path: Path) -> None:
    listening = Listening(source_of({"kind": "text line", "port": "rig/scale"}), tmp_path)
    listening.start()
    wait_for(lambda: "is not there" in listening.state.trouble, "the port was missed")
    assert "lesart rig" in listening.state.trouble
    rig = Rig(tmp_path / "rig")
    rig.start()
    wait_for(lambda: listening.state.tally.rows, "it was heard")
    listening.stop()
    rig.stop()


def test_what_a_killed_rig_left_is_not_listened_to(tmp_path: Path) -> None:
    """Its terminal may be somebody's shell by then, and what is typed there is nobody else's."""
    master, other = pty.openpty()
    (tmp_path / "rig").mkdir()
    (tmp_path / "rig" / ".running").touch()
    (tmp_path / "rig" / "scale").symlink_to(os.ttyname(other))
    listening = Listening(source_of({"kind": "text line", "port": "rig/scale"}), tmp_path)
    listening.start()
    os.write(master, b"1,2\n3,4\n")
    wait_for(lambda: "rig/scale is not there" in listening.state.trouble, "it was refused")
    rig = Rig(tmp_path / "rig")
    rig.start()
    wait_for(lambda: listening.state.tally.rows, "the new rig was heard")
    with pytest.raises(RequestError, match="a rig is already running there"):
        Rig(tmp_path / "rig").start()
    listening.stop()
    rig.stop()
    assert list(listening.view()[1]) == ["count", "lid_mv"]
    for handle in (master, other):
        os.close(handle)


def test_two_cannot_listen_to_one_port(scale: Listening, tmp_path: Path) -> None:
    other = Listening(source_of({"kind": "text line", "port": "rig/scale"}), tmp_path)
    other.start()
    wait_for(lambda: "used by another program" in other.state.trouble, "it was refused")
    other.stop()


@pytest.mark.parametrize("kind", ["Modbus RTU", "Modbus TCP"])
def test_the_mast_tells_its_registers(rig: Rig, tmp_path: Path, kind: str) -> None:
    listening = mast(rig, tmp_path, kind)
    wait_for(lambda: listening.state.tally.rows > 3, "it answered")
    listening.stop()
    columns = listening.view()[1]
    assert columns["pressure"].x[-1] == pytest.approx(weather(1.0).pressure_pa, abs=30)
    assert columns["wind"].x[-1] == pytest.approx(weather(1.0).wind_m_s, abs=3)
    assert listening.state.tally.bad == {}
    # Never more often than told; on a busy machine an answer comes late, and the next one in its time.
    t = columns["pressure"].t
    assert t[-1] - t[0] > 0.05 * (len(t) - 2)


@pytest.mark.parametrize(
    ("fault", "what", "mark"),
    [
        ("silence", "no reply", Mark.MISSING),
        ("checksum", "checksum", Mark.CHECKSUM),
        ("late", "no reply", Mark.MISSING),
    ],
)
def test_an_answer_that_does_not_come_or_comes_wrong_is_told_apart(
    rig: Rig, tmp_path: Path, fault: str, what: str, mark: Mark
) -> None:
    listening = mast(rig, tmp_path, "Modbus RTU", timeout=SOON)
    wait_for(lambda: listening.state.tally.rows > 1, "it answered")
    rig.fault(fault, 2.0)
    wait_for(lambda: listening.state.tally.bad.get(what), f"{what} was said")
    wait_for(lambda: int(mark) in marks_of(listening), "it was marked")
    rows = listening.state.tally.rows
    wait_for(lambda: listening.state.tally.rows > rows + 10, "it goes on")
    listening.stop()
    pressure = listening.view()[1]["pressure"]
    # What came late is no answer to what was asked next.
    assert all(abs(value - 101_180) < 300 for value in pressure.x[pressure.usable])


def test_an_address_that_is_not_there_and_a_unit_that_is_not_there(rig: Rig, tmp_path: Path) -> None:
    nowhere = mast(rig, tmp_path, "Modbus TCP", registers=[PRESSURE, {**WIND, "address": 900}])
    wait_for(lambda: nowhere.state.tally.bad.get("exception"), "the exception was said")
    nowhere.stop()
    assert "unit 7, input 900 to 901: exception 2: it has no such address" in nowhere.state.tally.last[-1].says
    assert nowhere.view()[1]["pressure"].usable.all()
    nobody = mast(rig, tmp_path, "Modbus RTU", unit=9, timeout=SOON)
    wait_for(lambda: nobody.state.tally.bad.get("no reply"), "nobody answered")
    nobody.stop()


def test_tcp_that_is_cut_is_opened_again(rig: Rig, tmp_path: Path) -> None:
    listening = mast(rig, tmp_path, "Modbus TCP")
    wait_for(lambda: listening.state.tally.rows > 1, "it answered")
    rig.fault("gone", 0.4)
    wait_for(lambda: listening.state.tally.bad.get("gone"), "it was noticed")
    rows = listening.state.tally.rows
    wait_for(lambda: listening.state.tally.rows > rows + 5, "it goes on")
    listening.stop()


def test_nothing_takes_a_connection(tmp_path: Path) -> None:
    with socket.create_server(("127.0.0.1", 0)) as server:
        free = server.getsockname()[1]
    line = {"kind": "Modbus TCP", "host": "127.0.0.1", "tcp_port": free, "registers": [PRESSURE]}
    listening = Listening(source_of(line), tmp_path)
    listening.start()
    wait_for(lambda: f"nothing takes a connection at 127.0.0.1:{free}" in listening.state.trouble, "it was said")
    listening.stop()


def test_this_computer_tells_what_it_does(tmp_path: Path) -> None:
    listening = Listening(source_of({"kind": "this computer", "period": "0.05 s"}), tmp_path)
    listening.start()
    wait_for(lambda: listening.state.tally.rows > 3, "rows came")
    listening.stop()
    columns = listening.view()[1]
    assert list(columns)[:3] == ["load", "memory", "disk"]
    assert all(0 <= value <= 100 for block in list(columns.values())[:3] for value in block.x)


def test_there_is_no_such_fault() -> None:
    with pytest.raises(RequestError, match='"fire" is not a fault of the rig; there are noise, silence'):
        Rig(Path("nowhere")).fault("fire")


# Peers of another library


def test_the_rig_answers_a_client_of_another_library(rig: Rig) -> None:
    client = ModbusTcpClient("127.0.0.1", port=rig.port, timeout=2)
    assert client.connect()
    assert client.read_holding_registers(0, count=3, device_id=7).registers == [7, 1000, 412]
    assert not client.write_register(1, 250, device_id=7).isError()
    assert not client.write_registers(1, [500, 600], device_id=7).isError()
    assert client.read_holding_registers(1, count=2, device_id=7).registers == [500, 600]
    assert client.read_coils(0, count=2, device_id=7).bits[:2] == [False, True]
    assert client.read_input_registers(77, count=1, device_id=7).exception_code == 2
    assert client.read_holding_registers(0, count=1, device_id=7).registers == [7]
    client.close()


@pytest.fixture
def loop() -> Iterator[asyncio.AbstractEventLoop]:
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever, daemon=True)
    thread.start()
    yield loop
    loop.call_soon_threadsafe(loop.stop)
    thread.join(timeout=5)
    loop.close()


def device() -> SimDevice:
    return SimDevice(3, [SimData(0, values=[1, 60_000, 65_535, 17], datatype=DataType.REGISTERS)])


REGISTERS = [
    {"name": "both", "table": "holding", "address": 0, "type": "uint32"},
    {"name": "below", "table": "holding", "address": 2, "type": "int16", "scale": "0.1"},
    {"name": "last", "table": "input", "address": 3},
]
EXPECTED = {"both": 65_536.0 + 60_000, "below": -0.1, "last": 17.0}


def assert_heard(listening: Listening) -> None:
    listening.start()
    wait_for(lambda: listening.state.tally.rows > 2, "it answered")
    listening.stop()
    assert {name: block.x[-1] for name, block in listening.view()[1].items()} == EXPECTED


def run(loop: asyncio.AbstractEventLoop, work: Any) -> Any:
    return asyncio.run_coroutine_threadsafe(work, loop).result(timeout=10)


def test_a_server_of_another_library_is_understood(loop: asyncio.AbstractEventLoop, tmp_path: Path) -> None:
    with socket.create_server(("127.0.0.1", 0)) as free:
        port = free.getsockname()[1]

    async def serve() -> ModbusTcpServer:
        server = ModbusTcpServer(device(), address=("127.0.0.1", port))
        await server.serve_forever(background=True)
        return server

    server = run(loop, serve())
    line = {
        "kind": "Modbus TCP",
        "host": "127.0.0.1",
        "tcp_port": port,
        "unit": 3,
        "period": "0.05 s",
        "registers": REGISTERS,
    }
    assert_heard(Listening(source_of(line), tmp_path))
    run(loop, server.shutdown())


def test_a_serial_peer_of_another_library_is_understood(loop: asyncio.AbstractEventLoop, tmp_path: Path) -> None:
    """Two pseudo-terminals with a thread between them are a cable."""
    ours, their = pty.openpty(), pty.openpty()
    for _, end in (ours, their):
        tty.setraw(end)
    ends = [(ours[0], their[0]), (their[0], ours[0])]
    for source, target in ends:
        threading.Thread(target=_carry, args=(source, target), daemon=True).start()

    async def serve() -> ModbusSerialServer:
        server = ModbusSerialServer(device(), framer=FramerType.RTU, port=os.ttyname(their[1]), baudrate=19_200)
        await server.serve_forever(background=True)
        return server

    server = run(loop, serve())
    line = {"kind": "Modbus RTU", "port": os.ttyname(ours[1]), "unit": 3, "period": "0.05 s", "registers": REGISTERS}
    assert_heard(Listening(source_of(line), tmp_path))
    run(loop, server.shutdown())
    for handle in (*ours, *their):
        os.close(handle)


def _carry(source: int, target: int) -> None:
    while True:
        try:
            data = os.read(source, 256)
            os.write(target, data)
        except OSError:
            return


@pytest.mark.parametrize(
    ("fails", "says"),
    [
        (
            termios.error(22, "Invalid argument"),
            "does not take what it is told; check its baud, parity and stop bits",
        ),
        (termios.error(5, "Input/output error"), "cannot be opened (Input/output error)"),
        (OSError(13, "Permission denied"), "may not be opened by you; your user needs the right to use serial ports"),
        (ValueError("Not a valid baudrate: 1"), "cannot be opened (Not a valid baudrate: 1)"),
    ],
)
def test_why_a_port_does_not_open(fails: Exception, says: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Pulled out as it was set up it fails with an error that is none of the system's; the thread ended with it."""

    def refuse(*_: object, **__: object) -> None:
        raise fails

    monkeypatch.setattr("lesart.live.text_ear.serial.Serial", refuse)
    listening = Listening(source_of({"kind": "text line", "port": "/dev/some"}), tmp_path)
    listening.start()
    wait_for(lambda: listening.state.trouble != "not opened yet", "it was said")
    assert listening.state.trouble == f"/dev/some {says}"
    listening.stop()


def test_a_mistake_while_a_line_is_opened_is_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A thread that died unseen would look like a silent line."""

    def fail(*_: object) -> None:
        raise RuntimeError("on the way")

    monkeypatch.setattr("lesart.live.text_ear.TextEar.open", fail)
    listening = Listening(source_of({"kind": "text line", "port": "/dev/some"}), tmp_path)
    listening.start()
    wait_for(lambda: listening.state.trouble != "not opened yet", "it was said")
    assert listening.state.trouble == "Lesart itself failed: RuntimeError: on the way"
    listening.stop()
