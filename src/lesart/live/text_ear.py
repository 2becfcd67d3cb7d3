"""Listening to a serial line that just talks."""

from __future__ import annotations

import contextlib
import errno
import time
from dataclasses import replace
from os.path import islink
from pathlib import Path

import serial

from lesart.core.errors import LineError
from lesart.core.raw.lines.line import Line
from lesart.core.raw.lines.received import Received
from lesart.core.raw.lines.text_line import TextState, joined, take
from lesart.live.ear import Clock, port_path
from lesart.live.port_trouble import PORT_ERRORS, in_words, number_of
from lesart.live.presence import is_abandoned

WAIT_S = 0.1
MANY_BYTES = 32
REST_S = 0.005
"""A short pause where many bytes come, to collect more of them: each wake-up costs more than the bytes."""
PARITY = {"none": serial.PARITY_NONE, "even": serial.PARITY_EVEN, "odd": serial.PARITY_ODD}


class TextEar:
    """A port, and the present line."""

    def __init__(self, line: Line, folder: Path, clock: Clock) -> None:
        self._line, self._folder, self._clock = line, folder, clock
        self._port: serial.SerialBase | None = None
        bits = 10 + (line["parity"] != "none") + (line["stop_bits"] - 1)
        asked = tuple(name.strip() for name in line["names"].split(",") if name.strip())
        self._state = TextState(asked=asked, decimal=line["decimal"], byte_s=bits / line["baud"])

    def open(self) -> None:
        """Raises LineError."""
        self._port = open_port(self._line, self._folder, WAIT_S)
        self._state = joined(self._state, self._clock())

    def hear(self) -> Received:
        """Raises LineError."""
        assert self._port is not None
        try:
            data = self._port.read(1)
            waiting = self._port.in_waiting if data else 0
            data += self._port.read(waiting) if waiting else b""
        except (*PORT_ERRORS, TypeError) as error:
            # Pyserial raises either of them when a port is removed during a read.
            raise LineError("the port went away") from error
        self._state, heard = take(self._state, data, self._clock())
        if len(data) >= MANY_BYTES:
            time.sleep(REST_S)
        return heard

    def close(self) -> None:
        """Close the port; half a row is dropped."""
        self._state = replace(self._state, rest=b"", partial=())
        if self._port is not None:
            with contextlib.suppress(OSError):
                self._port.close()
            self._port = None


def open_port(line: Line, folder: Path, timeout_s: float) -> serial.SerialBase:
    """A serial port. Raises LineError with what to do about it."""
    port = port_path(line["port"], folder)
    if islink(port) and is_abandoned(Path(port).parent):
        raise LineError(why_not(line["port"], FileNotFoundError(2, "no such file")))
    try:
        return serial.Serial(
            port,
            line["baud"],
            parity=PARITY[line["parity"]],
            stopbits=line["stop_bits"],
            timeout=timeout_s,
            exclusive=True,
        )
    except PORT_ERRORS as error:
        raise LineError(why_not(line["port"], error)) from error


def why_not(port: str, error: Exception) -> str:
    """Why a port does not open, and what would help."""
    number, said = number_of(error), str(error).lower()
    if number == 2 or "no such file" in said:
        rig = "; the rig makes it: lesart rig" if port.startswith("rig/") else "; is it plugged in?"
        return f"{port} is not there{rig}"
    if number == 13 or "permission" in said:
        return f"{port} may not be opened by you; your user needs the right to use serial ports"
    if number in (11, 16) or "lock" in said or "busy" in said:
        return f"{port} is used by another program; close that first"
    if number == errno.EINVAL:
        return f"{port} does not take what it is told; check its baud, parity and stop bits"
    return f"{port} cannot be opened ({in_words(error)})"
