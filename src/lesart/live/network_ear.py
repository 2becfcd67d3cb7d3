"""Listening to text over a network: datagrams from boards, and messages published at a broker.

Each holds one or several lines; numbers are found in them as in lines of a serial port.
"""

from __future__ import annotations

import errno
import os
import queue
import re
import select
import socket
from typing import Any

from lesart.core.errors import LineError
from lesart.core.raw.lines.line import Line
from lesart.core.raw.lines.received import Received
from lesart.core.raw.lines.text_line import TextState, joined, take
from lesart.live.ear import Clock

WAIT_S = 0.1
PATIENCE_S = 5.0
"""Time-out for a broker that does not answer."""
LARGEST = 65_536
MOST_WAITING = 100_000
"""Most waiting messages of a broker; more are dropped, and that is reported."""
_BARE = re.compile(rb"\s*[+-]?[\d.,]+(?:[eE][+-]?\d+)?\s*[^\s=:{}\[\]]{0,8}\s*")
_REASONS = {
    1: "it speaks another version",
    2: "the name of this client is refused",
    3: "it is not ready",
    4: "user or password is wrong",
    5: "this user may not",
}
"""Why a broker refuses. Source: MQTT 3.1.1, section 3.2.2.3."""


def _state(line: Line) -> TextState:
    asked = tuple(name.strip() for name in line["names"].split(",") if name.strip())
    return TextState(asked=asked, decimal=line["decimal"])


def whole_lines(data: bytes) -> bytes:
    """A message as whole lines, even without a line end."""
    return data if data.endswith((b"\n", b"\r")) else data + b"\n"


class UdpEar:
    """Datagrams to a port of this computer."""

    def __init__(self, line: Line, clock: Clock) -> None:
        self._line, self._clock, self._state = line, clock, _state(line)
        self._socket: socket.socket | None = None

    def open(self) -> None:
        """Raises LineError."""
        host, port = self._line["listen"], self._line["udp_port"]
        family = socket.AF_INET6 if ":" in host else socket.AF_INET
        try:
            self._socket = socket.socket(family, socket.SOCK_DGRAM)
            self._socket.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 1 << 20)
            self._socket.bind((host, port))
        except OSError as error:
            self.close()
            known = {
                errno.EADDRINUSE: "another program has it",
                errno.EACCES: "below 1024 only the system may; take a higher one",
                errno.EADDRNOTAVAIL: f"this computer is not {host}",
            }
            why = known.get(error.errno or 0) or error.strerror or str(error)
            raise LineError(f"UDP port {port} cannot be listened at ({why})") from error
        # Each datagram is complete from its start.
        self._state = joined(self._state, self._clock() - 1.0)

    def hear(self) -> Received:
        """Raises LineError."""
        assert self._socket is not None
        try:
            ready, _, _ = select.select([self._socket], [], [], WAIT_S)
            data = b""
            while ready and len(data) < LARGEST:
                data += whole_lines(self._socket.recv(LARGEST))
                ready, _, _ = select.select([self._socket], [], [], 0)
        except OSError as error:
            raise LineError("the network went away") from error
        self._state, heard = take(self._state, data, self._clock())
        return heard

    def close(self) -> None:
        """Let the port go."""
        if self._socket is not None:
            self._socket.close()
            self._socket = None


class MqttEar:
    """Messages published under a topic. The protocol is a well-kept library's."""

    def __init__(self, line: Line, clock: Clock) -> None:
        self._line, self._clock, self._state = line, clock, _state(line)
        self._client: Any = None
        self._came: queue.Queue[tuple[str, bytes]] = queue.Queue(MOST_WAITING)
        self._gone: queue.SimpleQueue[str] = queue.SimpleQueue()

    def open(self) -> None:
        """Raises LineError."""
        import paho.mqtt.client as mqtt
        from paho.mqtt.enums import CallbackAPIVersion

        host, port = self._line["host"], self._line["tcp_port"]
        client = mqtt.Client(CallbackAPIVersion.VERSION2, protocol=mqtt.MQTTv311)
        if self._line["user"]:
            secret = os.environ.get(self._line["password_in"], "") if self._line["password_in"] else ""
            client.username_pw_set(self._line["user"], secret or None)
        answered: queue.SimpleQueue[int] = queue.SimpleQueue()
        client.on_connect = lambda _client, _data, _flags, reason, _properties: answered.put(int(reason.value))
        client.on_message = self._on_message
        client.on_disconnect = lambda *_: self._gone.put("the broker hung up")
        self._gone, self._came = queue.SimpleQueue(), queue.Queue(MOST_WAITING)
        try:
            client.connect(host, port, keepalive=20)
        except (OSError, ValueError) as error:
            why = getattr(error, "strerror", None) or str(error)
            raise LineError(f"no broker answers at {host}:{port} ({why}); is it running?") from error
        self._client = client
        client.loop_start()
        try:
            reason = answered.get(timeout=PATIENCE_S)
        except queue.Empty as error:
            self.close()
            raise LineError(f"what answers at {host}:{port} is no broker") from error
        if reason:
            self.close()
            # The library reports the reasons of both protocol versions as those of the newer one.
            said = {132: 1, 133: 2, 136: 3, 134: 4, 135: 5}.get(reason, reason)
            raise LineError(f"the broker at {host}:{port} refuses: {_REASONS.get(said, f'reason {reason}')}")
        self._subscribe(client)
        self._state = joined(self._state, self._clock() - 1.0)

    def _subscribe(self, client: Any) -> None:
        """Subscribe.

        A broker may accept a connection and still refuse a topic; nothing would ever come. Raises LineError.
        """
        topic, given = self._line["topic"], queue.SimpleQueue[bool]()
        client.on_subscribe = lambda _client, _data, _number, reasons, _: given.put(not reasons[0].is_failure)
        client.subscribe(topic, qos=0)
        where = f"{self._line['host']}:{self._line['tcp_port']}"
        try:
            is_given = given.get(timeout=PATIENCE_S)
        except queue.Empty as error:
            self.close()
            raise LineError(f"the broker at {where} does not answer when asked for {topic}") from error
        if not is_given:
            self.close()
            raise LineError(f"the broker at {where} does not give {topic} to this user; name another topic or user")

    def _on_message(self, _client: Any, _data: Any, message: Any) -> None:
        try:
            self._came.put_nowait((message.topic, message.payload))
        except queue.Full:
            self._gone.put(f"more than {MOST_WAITING} messages came at once")

    def hear(self) -> Received:
        """Raises LineError."""
        data = b""
        try:
            topic, payload = self._came.get(timeout=WAIT_S)
            data += line_of(topic, payload)
            while len(data) < LARGEST:
                topic, payload = self._came.get_nowait()
                data += line_of(topic, payload)
        except queue.Empty:
            pass
        if not data and not self._gone.empty():
            raise LineError(self._gone.get())
        self._state, heard = take(self._state, data, self._clock())
        return heard

    def close(self) -> None:
        """Leave the broker."""
        if self._client is not None:
            client, self._client = self._client, None
            client.on_disconnect = None
            client.disconnect()
            client.loop_stop()


def line_of(topic: str, payload: bytes) -> bytes:
    """A message as a line: a bare number is named after the last part of its topic; anything else names itself."""
    name = topic.rpartition("/")[2] or topic
    if _BARE.fullmatch(payload[:64]) and len(payload) <= 64:
        return name.encode() + b"=" + payload.strip() + b"\n"
    return whole_lines(payload)
