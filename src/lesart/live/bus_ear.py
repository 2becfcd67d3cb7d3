"""The two-wire bus of a small computer: registers of a device read again and again, and who answers.

Through the kernel's own interface (Linux, its documentation of i2c-dev), or a stand-in that speaks to a socket.
"""

from __future__ import annotations

import contextlib
import ctypes
import os
import socket
import stat
import struct
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Protocol

from lesart.core.errors import LineError
from lesart.core.raw.lines.line import Line, byte_of
from lesart.core.raw.lines.received import Event, Received
from lesart.core.raw.messages.bus_registers import BusRegister
from lesart.core.raw.messages.survey import Asked
from lesart.live.ear import Clock, port_path
from lesart.live.schedule import Due

TRANSFER = 0x0707
"""The request for several messages without a stop between them."""
READ_FLAG = 1
FIRST, LAST = 0x08, 0x77
"""First and last address; others are reserved by the standard of the bus."""
PATIENCE_S = 2.0


class TwoWires(Protocol):
    """A bus."""

    def transfer(self, address: int, sent: bytes, wanted: int) -> bytes:
        """Write some bytes, then read some, without a stop between. Raises NobodyAnswered or LineError."""
        ...

    def close(self) -> None:
        """Close the bus."""
        ...


class NobodyAnswered(Exception):
    """The address was not acknowledged, or a byte after it."""


class _Message(ctypes.Structure):
    """The kernel's ``struct i2c_msg``."""

    _fields_ = (
        ("address", ctypes.c_uint16),
        ("flags", ctypes.c_uint16),
        ("length", ctypes.c_uint16),
        ("data", ctypes.c_void_p),
    )


class _Messages(ctypes.Structure):
    """``struct i2c_rdwr_ioctl_data``."""

    _fields_ = (("messages", ctypes.POINTER(_Message)), ("count", ctypes.c_uint32))


class KernelWires:
    """The kernel's bus."""

    def __init__(self, path: str) -> None:
        try:
            self._handle = os.open(path, os.O_RDWR | os.O_CLOEXEC)
        except OSError as error:
            raise LineError(why_not(path, error)) from error
        self._path = path

    def transfer(self, address: int, sent: bytes, wanted: int) -> bytes:
        """One request for both messages."""
        import fcntl

        out, back = ctypes.create_string_buffer(sent, max(len(sent), 1)), ctypes.create_string_buffer(max(wanted, 1))
        told = []
        if sent:
            told.append(_Message(address, 0, len(sent), ctypes.addressof(out)))
        if wanted:
            told.append(_Message(address, READ_FLAG, wanted, ctypes.addressof(back)))
        messages = (_Message * len(told))(*told)
        asked = _Messages(ctypes.cast(messages, ctypes.POINTER(_Message)), len(told))
        try:
            fcntl.ioctl(self._handle, TRANSFER, asked)
        except OSError as error:
            if error.errno in (5, 6, 121, 110):
                raise NobodyAnswered from error
            raise LineError(f"{self._path}: the bus went away ({error.strerror})") from error
        return back.raw[:wanted]

    def close(self) -> None:
        """Close the bus."""
        with contextlib.suppress(OSError):
            os.close(self._handle)


class SocketWires:
    """A stand-in's bus: address, counts and bytes over a local socket; the answer is a byte 1 and the bytes read, or a
    byte 0 without acknowledge."""

    def __init__(self, path: str) -> None:
        self._socket = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._socket.settimeout(PATIENCE_S)
        try:
            self._socket.connect(path)
        except OSError as error:
            self._socket.close()
            raise LineError(why_not(path, error)) from error
        self._path = path

    def transfer(self, address: int, sent: bytes, wanted: int) -> bytes:
        """Send the request and wait for the answer."""
        try:
            self._socket.sendall(struct.pack("BBB", address, len(sent), wanted) + sent)
            if self._take(1) == b"\0":
                raise NobodyAnswered
            return self._take(wanted)
        except OSError as error:
            raise LineError(f"{self._path}: the bus went away") from error

    def _take(self, count: int) -> bytes:
        data = b""
        while len(data) < count:
            part = self._socket.recv(count - len(data))
            if not part:
                raise LineError(f"{self._path}: the bus went away")
            data += part
        return data

    def close(self) -> None:
        """Close the bus."""
        self._socket.close()


def open_wires(path: str, folder: Path) -> TwoWires:
    """A bus by its path. Raises LineError with what to do about it."""
    there = port_path(path, folder)
    try:
        is_socket = stat.S_ISSOCK(os.stat(there).st_mode)
    except OSError as error:
        raise LineError(why_not(path, error)) from error
    return SocketWires(there) if is_socket else KernelWires(there)


def why_not(path: str, error: OSError) -> str:
    """Why a bus does not open, and what would help."""
    if error.errno == 2:
        rig = "; the rig makes it: lesart rig" if path.startswith("rig/") else "; is the bus switched on?"
        return f"{path} is not there{rig}"
    if error.errno == 13:
        return f"{path} may not be opened by you; your user needs the right to use the bus"
    return f"{path} cannot be opened ({error.strerror or error})"


def asked_bus(path: str, folder: Path, addresses: Sequence[int] = range(FIRST, LAST + 1)) -> Iterator[Asked]:
    """Read a byte from each address, and whether it answered: reading changes nothing in most devices.

    Raises LineError where the bus cannot be opened.
    """
    wires = open_wires(path, folder)
    try:
        for address in addresses:
            try:
                wires.transfer(address, b"", 1)
            except NobodyAnswered:
                yield Asked(address)
            else:
                yield Asked(address, answered=1)
    finally:
        wires.close()


class BusEar:
    """Reads the registers of one device."""

    def __init__(self, line: Line, folder: Path, clock: Clock) -> None:
        self._line, self._folder, self._clock = line, folder, clock
        self._address = byte_of(line["address"], 0x7F)
        self._registers = [each for each in line.registers if isinstance(each, BusRegister)]
        self._columns = tuple(register.name for register in self._registers)
        self._due = Due(line["period"], clock)
        self._wires: TwoWires | None = None

    def open(self) -> None:
        """Raises LineError."""
        if not self._registers:
            raise LineError("no register is listed; add one under registers")
        self._wires = open_wires(self._line["bus"], self._folder)
        self._due.begin()

    def hear(self) -> Received:
        """One row when due; without values where the device does not answer. Raises LineError."""
        if self._due.wait() is None:
            return Received(self._columns)
        values, silent = [], False
        for register in self._registers:
            values.append(float("nan") if silent else self._value(register))
            silent = silent or values[-1] != values[-1]
        now = self._clock()
        events = (Event(now, "no reply", f"0x{self._address:02X} does not answer"),) if silent else ()
        return Received(self._columns, (round(now, 6),), (tuple(values),), (1,), events)

    def _value(self, register: BusRegister) -> float:
        assert self._wires is not None
        sent = b"" if register.register is None else bytes((register.register,))
        try:
            return register.value(self._wires.transfer(self._address, sent, register.size))
        except NobodyAnswered:
            return float("nan")

    def close(self) -> None:
        """Close the bus."""
        if self._wires is not None:
            self._wires.close()
            self._wires = None
