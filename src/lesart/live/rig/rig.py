"""The rig at work: one loop that lets every device speak and answer until it is stopped."""

from __future__ import annotations

import contextlib
import os
import queue
import random
import select
import socket
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from lesart.core.errors import RequestError, StorageError
from lesart.live.presence import hold
from lesart.live.rig.broker import Broker
from lesart.live.rig.bus_device import BusStandIn
from lesart.live.rig.faults import FAULTS, USUAL_S, Faults, noisy, spoiled
from lesart.live.rig.modbus_device import Bank, mast, rtu_answer, rtu_length, tcp_answer
from lesart.live.rig.signals import scale_line, smoke_frame
from lesart.live.rig.terminal import Terminal

SCALE_HZ = 10.0
SMOKE_HZ, SMOKE_BAUD = 4.0, 9600
TICK_S = 0.02
LATE_S = 1.0
SEED = 20_260_514
FRAME_GAP_S = 0.05
"""After this pause half a request is dropped, and a new one begins."""


@dataclass
class _Waiting:
    """Bytes of an incomplete request."""

    data: bytes = b""
    at: float = 0.0


@dataclass
class Rig:
    """Its devices under ``folder``: serial ports ``scale``, ``mast`` and ``smoke``; TCP on 127.0.0.1.

    ``with_bus``: and ``bus``, two wires with devices on them. With ``broker_port`` a broker, with ``udp_port`` what the
    scale says there.

    ``port`` 0 takes a free one; ``rate_hz`` is how often the scale speaks, ``frames_hz`` the smoke sensor. ``fault``
    may be called from another thread.
    """

    folder: Path
    port: int = 0
    rate_hz: float = SCALE_HZ
    frames_hz: float = SMOKE_HZ
    bank: Bank = field(default_factory=mast)
    says: Callable[[float, random.Random], bytes] = scale_line
    faults: Faults = field(default_factory=Faults)
    with_bus: bool = False
    broker_port: int | None = None
    udp_port: int | None = None

    def __post_init__(self) -> None:
        self._scale, self._mast = Terminal(self.folder / "scale"), Terminal(self.folder / "mast")
        self._smoke = Terminal(self.folder / "smoke", SMOKE_BAUD)
        self._ports = (self._scale, self._mast, self._smoke)
        self._dice = random.Random(SEED)
        self._server: socket.socket | None = None
        self._clients: dict[int, tuple[socket.socket, _Waiting]] = {}
        self._asked = _Waiting()
        self._late: list[tuple[float, int, bytes]] = []
        self._wanted: queue.SimpleQueue[tuple[str, float]] = queue.SimpleQueue()
        self._ended = threading.Event()
        self._thread: threading.Thread | None = None
        self._zero = time.monotonic()
        self._said = self._sent = 0
        self._lock: int | None = None
        self._bus = BusStandIn(self.folder / "bus") if self.with_bus else None
        self._broker = Broker(self.broker_port) if self.broker_port is not None else None
        self._datagrams = socket.socket(socket.AF_INET, socket.SOCK_DGRAM) if self.udp_port is not None else None

    # Beginning and ending

    def start(self) -> None:
        """Plug everything in and start. Raises StorageError or RequestError where that fails."""
        try:
            self._lock = hold(self.folder)
        except OSError as error:
            raise StorageError(f"{self.folder}: it cannot be made ({error.strerror}).") from error
        if self._lock is None:
            raise RequestError(f"{self.folder}: a rig is already running there; stop it, or name another folder.")
        self._plug()
        for other in (self._bus, self._broker):
            if other is not None:
                other.start()
        self._thread = threading.Thread(target=self._run, name="rig", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Pull everything out."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=5)
        for terminal in self._ports:
            terminal.pull()
        self._hang_up()
        for other in (self._bus, self._broker):
            if other is not None:
                other.stop()
        if self._datagrams is not None:
            self._datagrams.close()
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None

    def fault(self, name: str, lasts_s: float = USUAL_S) -> None:
        """Make a fault, soon. Raises RequestError for an unknown one."""
        if name not in FAULTS:
            raise RequestError(f'"{name}" is not a fault of the rig; there are {", ".join(FAULTS)}.')
        self._wanted.put((name, lasts_s))

    def _listen(self) -> None:
        try:
            self._server = socket.create_server(("127.0.0.1", self.port))
        except OSError as error:
            raise RequestError(f"--port {self.port} cannot be had ({error.strerror}); 0 takes a free one.") from error
        self.port = self._server.getsockname()[1]
        self._server.setblocking(False)

    def _hang_up(self) -> None:
        for client, _ in self._clients.values():
            client.close()
        self._clients.clear()
        if self._server is not None:
            self._server.close()
            self._server = None

    # The loop

    def _run(self) -> None:
        while not self._ended.is_set():
            now = time.monotonic() - self._zero
            with contextlib.suppress(queue.Empty):
                name, lasts_s = self._wanted.get_nowait()
                self.faults = self.faults.began(name, now, lasts_s)
            self._plug_or_pull(now)
            self._speak(now)
            self._send_frames(now)
            self._send_late(now)
            self._serve()

    def _plug_or_pull(self, now: float) -> None:
        gone = self.faults.on("gone", now)
        if gone and self._scale.plugged:
            for terminal in self._ports:
                terminal.pull()
            self._hang_up()
        elif not gone and not self._scale.plugged:
            self._plug()

    def _plug(self) -> None:
        for terminal in self._ports:
            terminal.plug()
        self._listen()

    def _speak(self, now: float) -> None:
        """Send all due lines of the scale."""
        due = int(now * self.rate_hz)
        if self.faults.on("silence", now) or not self._scale.plugged:
            self._said = due
        lines = [self.says(place / self.rate_hz, self._dice) for place in range(self._said + 1, due + 1)]
        self._said = max(due, self._said)
        data = b"".join(lines)
        if data and self._datagrams is not None:
            with contextlib.suppress(OSError):
                self._datagrams.sendto(data, ("127.0.0.1", self.udp_port))
        if data:
            self._scale.say(noisy(data, self._dice) if self.faults.on("noise", now) else data)

    def _send_frames(self, now: float) -> None:
        """Send all due frames of the smoke sensor."""
        due = int(now * self.frames_hz)
        if self.faults.on("silence", now) or not self._smoke.plugged:
            self._sent = due
        frames = [smoke_frame(place, place / self.frames_hz, self._dice) for place in range(self._sent + 1, due + 1)]
        self._sent = max(due, self._sent)
        if self.faults.on("checksum", now):
            frames = [spoiled(frame) for frame in frames]
        data = b"".join(frames)
        if data:
            self._smoke.say(noisy(data, self._dice) if self.faults.on("noise", now) else data)

    def _serve(self) -> None:
        """Wait a moment for requests and answer them."""
        server = self._server.fileno() if self._server is not None else -1
        mast = self._mast.handle if self._mast.plugged else -1
        handles = [handle for handle in (server, mast, *self._clients) if handle >= 0]
        ready, _, _ = select.select(handles, [], [], min(TICK_S, 0.5 / self.rate_hz))
        now = time.monotonic() - self._zero
        for handle in ready:
            if handle == server:
                self._accept()
            elif handle == mast:
                self._hear_mast(now)
            else:
                self._hear_client(handle, now)

    def _accept(self) -> None:
        assert self._server is not None
        with contextlib.suppress(BlockingIOError):
            client, _ = self._server.accept()
            self._clients[client.fileno()] = (client, _Waiting())

    def _hear_mast(self, now: float) -> None:
        asked = self._asked
        if now - asked.at > FRAME_GAP_S:
            asked.data = b""
        asked.data += self._mast.hear()
        asked.at = now
        length = rtu_length(asked.data)
        if length is None or len(asked.data) < length:
            return
        frame, asked.data = asked.data[:length], asked.data[length:]
        self._answer(-1, rtu_answer(self.bank, frame, now), now)

    def _hear_client(self, number: int, now: float) -> None:
        client, asked = self._clients[number]
        try:
            data = client.recv(4096)
        except OSError:
            data = b""
        if not data:
            client.close()
            del self._clients[number]
            return
        asked.data += data
        while len(asked.data) >= 8 and len(asked.data) >= (length := 6 + int.from_bytes(asked.data[4:6], "big")):
            frame, asked.data = asked.data[:length], asked.data[length:]
            self._answer(number, tcp_answer(self.bank, frame, now), now)

    def _answer(self, number: int, frame: bytes | None, now: float) -> None:
        """Send an answer as distorted by active faults."""
        if frame is None or self.faults.on("silence", now):
            return
        if self.faults.on("checksum", now) and number < 0:
            frame = spoiled(frame)
        if self.faults.on("noise", now):
            frame = noisy(frame, self._dice)
        if self.faults.on("late", now):
            self._late.append((now + LATE_S, number, frame))
            return
        self._send(number, frame)

    def _send_late(self, now: float) -> None:
        for entry in [entry for entry in self._late if entry[0] <= now]:
            self._late.remove(entry)
            self._send(entry[1], entry[2])

    def _send(self, number: int, frame: bytes) -> None:
        if number < 0:
            self._mast.say(frame)
        elif number in self._clients:
            with contextlib.suppress(OSError):
                self._clients[number][0].send(frame)


def ports_of(rig: Rig) -> dict[str, str]:
    """The ports of the rig by device, with their settings."""
    more = {}
    if rig.with_bus:
        more["bus"] = f"{rig.folder / 'bus'}: two wires, devices at 0x40 and 0x76"
    if rig.broker_port is not None and rig._broker is not None:
        more["broker"] = f"127.0.0.1:{rig._broker.port}: MQTT, publishes under yard/hive-3"
    if rig.udp_port is not None:
        more["scale over UDP"] = f"to 127.0.0.1:{rig.udp_port}"
    return {
        "scale": f"{rig.folder / 'scale'}: a text line, {rig.rate_hz:g} times a second",
        "mast": f"{rig.folder / 'mast'}: Modbus RTU, unit {rig.bank.unit}, any baud rate",
        "mast over TCP": f"127.0.0.1:{rig.port}: Modbus TCP, unit {rig.bank.unit}",
        "smoke": f"{rig.folder / 'smoke'}: frames of 11 bytes, {rig.frames_hz:g} times a second, {SMOKE_BAUD} baud",
        **more,
    }
