"""Listening to a device that sends frames of bytes over a serial port, by itself or on request."""

from __future__ import annotations

import contextlib
import time
from pathlib import Path

import serial

from lesart.core.errors import LineError
from lesart.core.raw.lines.frame_line import FrameState, opened, shape_of, take
from lesart.core.raw.lines.line import LINES, Line
from lesart.core.raw.lines.received import Received
from lesart.core.raw.messages.frames import FieldSpec
from lesart.live.ear import Clock
from lesart.live.port_trouble import PORT_ERRORS
from lesart.live.schedule import Due
from lesart.live.text_ear import WAIT_S, open_port


class FramesEar:
    """A port, and the bytes of the present frame."""

    def __init__(self, line: Line, folder: Path, clock: Clock) -> None:
        self._line, self._folder, self._clock = line, folder, clock
        self._port: serial.SerialBase | None = None
        bits = 10 + (line["parity"] != "none") + (line["stop_bits"] - 1)
        fields = tuple(each for each in line.registers if isinstance(each, FieldSpec))
        self._asks = bytes.fromhex(line["asks"])
        self._due = Due(line["period"], clock)
        self._state = FrameState(shape_of(line), fields, bits / line["baud"])

    def open(self) -> None:
        """Raises LineError."""
        if not self._state.fields:
            raise LineError("no field is listed; add one under fields")
        self._port = open_port(self._line, self._folder, WAIT_S)
        self._state = opened(self._state, self._clock())
        self._due.begin()

    def hear(self) -> Received:
        """The data within a moment, requested where the device does not send by itself. Raises LineError."""
        assert self._port is not None
        try:
            if self._asks and self._due.is_now():
                self._port.write(self._asks)
            data = self._port.read(1)
            waiting = self._port.in_waiting if data else 0
            data += self._port.read(waiting) if waiting else b""
        except (*PORT_ERRORS, TypeError) as error:
            # Pyserial raises either of them when a port is removed during a read.
            raise LineError("the port went away") from error
        self._state, heard = take(self._state, data, self._clock())
        return heard

    def close(self) -> None:
        """Close the port; half a frame is dropped."""
        if self._port is not None:
            with contextlib.suppress(OSError):
                self._port.close()
            self._port = None


def pieces_heard(port: str, baud: int, lasts_s: float, rest_s: float = 0.05) -> list[bytes]:
    """All bytes from a port for a while, split at pauses. Raises LineError."""
    line = Line(LINES["serial frames"], (("port", port), ("baud", baud), ("parity", "none"), ("stop_bits", 1)))
    end_s = time.monotonic() + lasts_s
    pieces: list[bytes] = []
    with contextlib.closing(open_port(line, Path(), rest_s)) as opened_port:
        piece = b""
        while time.monotonic() < end_s:
            data = opened_port.read(1)
            if not data and piece:
                pieces.append(piece)
                piece = b""
            piece += data + (opened_port.read(opened_port.in_waiting) if data else b"")
    return [*pieces, piece] if piece else pieces
