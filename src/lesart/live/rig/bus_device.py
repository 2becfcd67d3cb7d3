"""A two-wire bus of the rig: a socket behind which two devices answer, as on a small computer's own bus.

Written independently of what reads it. At 0x76 an air sensor: 0xF7 pressure in pascals over three bytes, 0xFA
temperature in hundredths of a degree over two, 0xFD humidity in hundredths of a per cent over two, the higher byte
first. At 0x40 one that just answers: its voltage in millivolts.
"""

from __future__ import annotations

import contextlib
import selectors
import socket
import threading
import time
from pathlib import Path

from lesart.core.errors import RequestError

AIR, SUPPLY = 0x76, 0x40


def air_registers(t: float) -> dict[int, bytes]:
    """Registers of the air sensor on a warming morning."""
    temperature = 1140 + round(t)
    return {
        0xF7: (101_325 - round(t) % 400).to_bytes(3, "big"),
        0xFA: temperature.to_bytes(2, "big", signed=True),
        0xFD: (6200 - round(t) % 900).to_bytes(2, "big"),
    }


def answer(address: int, sent: bytes, wanted: int, t: float) -> bytes | None:
    """The answer of a device; None without acknowledge."""
    if address == SUPPLY:
        return (12_480 - round(t) % 60).to_bytes(2, "big")[:wanted].ljust(wanted, b"\xff")
    if address != AIR:
        return None
    if not sent:
        return b"\x60"[:wanted].ljust(wanted, b"\xff")
    registers = air_registers(t)
    start = sent[0]
    memory = {register + place: byte for register, data in registers.items() for place, byte in enumerate(data)}
    return bytes(memory.get(start + place, 0xFF) for place in range(wanted))


class BusStandIn:
    """Answers until it is stopped."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._ended = threading.Event()
        self._server: socket.socket | None = None
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        """Start answering. Raises RequestError where its socket cannot be made."""
        self.path.unlink(missing_ok=True)
        self._server = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        try:
            self._server.bind(str(self.path))
        except OSError as error:
            raise RequestError(f"{self.path}: it cannot be made ({error.strerror or error}).") from error
        self._server.listen()
        self._thread = threading.Thread(target=self._run, name="bus stand-in", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Close the connections, and remove the socket."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=5)
        if self._server is not None:
            self._server.close()
        self.path.unlink(missing_ok=True)

    def _run(self) -> None:
        assert self._server is not None
        zero = time.monotonic()
        with selectors.DefaultSelector() as ready:
            ready.register(self._server, selectors.EVENT_READ)
            waiting: dict[socket.socket, bytes] = {}
            while not self._ended.is_set():
                for key, _ in ready.select(0.1):
                    if key.fileobj is self._server:
                        client, _ = self._server.accept()
                        waiting[client] = b""
                        ready.register(client, selectors.EVENT_READ)
                        continue
                    client = key.fileobj  # type: ignore[assignment]
                    data = b""
                    with contextlib.suppress(OSError):
                        data = client.recv(4096)
                    if not data:
                        ready.unregister(client)
                        client.close()
                        del waiting[client]
                        continue
                    waiting[client] = self._served(client, waiting[client] + data, time.monotonic() - zero)
            for client in waiting:
                client.close()

    def _served(self, client: socket.socket, data: bytes, t: float) -> bytes:
        """Answer whole requests; gives the rest of the next one."""
        while len(data) >= 3 and len(data) >= 3 + data[1]:
            address, count, wanted = data[:3]
            back = answer(address, data[3 : 3 + count], wanted, t)
            data = data[3 + count :]
            with contextlib.suppress(OSError):
                client.sendall(b"\0" if back is None else b"\1" + back)
        return data
