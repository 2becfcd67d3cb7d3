"""A stand-in for an MQTT broker, and a board that publishes at it: enough of the protocol for a client to listen.

Written independently of the client used. It binds to this computer only. Source: MQTT 3.1.1, sections 2 and 3; what is
published goes to everybody whose topic fits, at most once.
"""

from __future__ import annotations

import contextlib
import selectors
import socket
import struct
import threading
import time
from collections.abc import Iterator

from lesart.core.errors import RequestError

CONNECT, CONNACK, PUBLISH, PUBACK, SUBSCRIBE, SUBACK, PINGREQ, PINGRESP, DISCONNECT = 1, 2, 3, 4, 8, 9, 12, 13, 14
MOST = 1 << 20
EVERY_S = 0.2
SHUT, REFUSED = "shut/", 0x80
"""Topics that are refused here, and a broker's answer: section 3.9.3."""


class Client:
    """A connected client, and its incomplete packet."""

    def __init__(self, connection: socket.socket) -> None:
        self.connection, self.data = connection, b""
        self.topics: list[str] = []

    def packets(self) -> Iterator[tuple[int, int, bytes]]:
        """Kind, flags and body of each whole packet."""
        while (found := _packet(self.data)) is not None:
            kind, flags, body, size = found
            self.data = self.data[size:]
            yield kind, flags, body

    def send(self, data: bytes) -> None:
        """Send bytes; a lost client is noticed when reading."""
        with contextlib.suppress(OSError):
            self.connection.sendall(data)


def _packet(data: bytes) -> tuple[int, int, bytes, int] | None:
    """The first whole packet, and its size; None where it is incomplete. Raises ValueError for an invalid one."""
    length, shift, place = 0, 0, 1
    while True:
        if place >= len(data):
            return None
        byte = data[place]
        length |= (byte & 0x7F) << shift
        shift, place = shift + 7, place + 1
        if not byte & 0x80:
            break
        if shift > 21:
            raise ValueError("a length of more than four bytes")
    if length > MOST:
        raise ValueError("a packet of more than a megabyte")
    if len(data) < place + length:
        return None
    return data[0] >> 4, data[0] & 0x0F, data[place : place + length], place + length


def packet(kind: int, body: bytes, flags: int = 0) -> bytes:
    """A packet with its length."""
    length, size = len(body), b""
    while True:
        length, low = length >> 7, length & 0x7F
        size += bytes((low | (0x80 if length else 0),))
        if not length:
            return bytes((kind << 4 | flags,)) + size + body


def published(topic: str, payload: bytes) -> bytes:
    """A published message, at most once."""
    name = topic.encode()
    return packet(PUBLISH, struct.pack(">H", len(name)) + name + payload)


def fits(wanted: str, topic: str) -> bool:
    """True where a topic matches: ``+`` is one level, ``#`` the rest."""
    parts, told = wanted.split("/"), topic.split("/")
    for place, part in enumerate(parts):
        if part == "#":
            return True
        if place >= len(told) or part not in ("+", told[place]):
            return False
    return len(parts) == len(told)


class Broker:
    """Serves until it is stopped; ``port`` 0 takes a free one. ``speaks``: the yard's board publishes on its own."""

    def __init__(self, port: int = 0, *, speaks: bool = True) -> None:
        self.port, self._speaks = port, speaks
        self._ended = threading.Event()
        self._server: socket.socket | None = None
        self._thread: threading.Thread | None = None
        self._clients: dict[socket.socket, Client] = {}

    def start(self) -> None:
        """Start serving. Raises RequestError where the port is not available."""
        try:
            self._server = socket.create_server(("127.0.0.1", self.port))
        except OSError as error:
            raise RequestError(f"port {self.port} cannot be had ({error.strerror}); 0 takes a free one.") from error
        self.port = self._server.getsockname()[1]
        self._thread = threading.Thread(target=self._run, name="broker", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Close all connections."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=5)

    def _run(self) -> None:
        assert self._server is not None
        zero, said = time.monotonic(), 0
        with selectors.DefaultSelector() as ready:
            ready.register(self._server, selectors.EVENT_READ)
            while not self._ended.is_set():
                for key, _ in ready.select(EVERY_S / 4):
                    self._serve(key.fileobj, ready)  # type: ignore[arg-type]
                due = int((time.monotonic() - zero) / EVERY_S)
                if self._speaks and due > said:
                    said = due
                    self._tell("yard/hive-3", f'{{"mass": {38 + due % 50 / 10:.1f}, "lid": 34.5}}'.encode())
        for client in self._clients.values():
            client.connection.close()
        self._server.close()

    def _serve(self, where: socket.socket, ready: selectors.BaseSelector) -> None:
        if where is self._server:
            connection, _ = self._server.accept()
            self._clients[connection] = Client(connection)
            ready.register(connection, selectors.EVENT_READ)
            return
        client = self._clients[where]
        data = b""
        with contextlib.suppress(OSError):
            data = where.recv(65_536)
        client.data += data
        try:
            alive = bool(data) and all(self._answer(client, *each) for each in client.packets())
        except (ValueError, IndexError, struct.error, UnicodeDecodeError):
            alive = False
        if not alive:
            ready.unregister(where)
            where.close()
            del self._clients[where]

    def _answer(self, client: Client, kind: int, flags: int, body: bytes) -> bool:
        """Answer a packet; False where the client leaves."""
        if kind == CONNECT:
            client.send(packet(CONNACK, b"\0\0"))
        elif kind == SUBSCRIBE:
            number, topics, place = body[:2], [], 2
            while place < len(body):
                length = struct.unpack_from(">H", body, place)[0]
                topics.append(body[place + 2 : place + 2 + length].decode())
                place += 3 + length
            client.topics += [topic for topic in topics if not topic.startswith(SHUT)]
            answers = bytes(REFUSED if topic.startswith(SHUT) else 0 for topic in topics)
            client.send(packet(SUBACK, number + answers))
        elif kind == PUBLISH:
            length = struct.unpack_from(">H", body)[0]
            topic, rest = body[2 : 2 + length].decode(), body[2 + length :]
            if flags >> 1 & 3:
                client.send(packet(PUBACK, rest[:2]))
                rest = rest[2:]
            self._tell(topic, rest)
        elif kind == PINGREQ:
            client.send(packet(PINGRESP, b""))
        return kind != DISCONNECT

    def _tell(self, topic: str, payload: bytes) -> None:
        for client in list(self._clients.values()):
            if any(fits(wanted, topic) for wanted in client.topics):
                client.send(published(topic, payload))
