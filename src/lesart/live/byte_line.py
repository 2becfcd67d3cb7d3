"""Destinations of bytes for a panel: a serial port, a TCP connection, a file, or the two-wire bus of a small
computer."""

from __future__ import annotations

import contextlib
import os
import re
import socket
import stat
from os.path import exists
from pathlib import Path
from typing import Protocol

import serial

from lesart.core.errors import LineError, RequestError, StorageError
from lesart.live.port_trouble import PORT_ERRORS, in_words
from lesart.live.slip import framed

KERNEL_BUS = re.compile(r"/dev/i2c-\d+")
SET_ADDRESS = 0x0703
"""The request that sets the address of the kernel's two-wire device (Linux, its documentation of i2c-dev)."""
TCP = re.compile(r"(?P<host>\[[0-9a-fA-F:]+\]|[\w.-]+):(?P<port>\d{1,5})")
PATIENCE_S = 3.0


class ByteLine(Protocol):
    """``head`` precedes each transmission: on two wires the address as sent, else 0 for commands and 1 for data."""

    def send(self, head: int, data: bytes) -> None:
        """One transmission. Raises LineError."""
        ...

    def close(self) -> None:
        """Let it go."""
        ...


class SerialLine:
    """Frames over a serial port."""

    def __init__(self, path: str, baud: int) -> None:
        try:
            self._port = serial.Serial(path, baud, write_timeout=PATIENCE_S)
        except PORT_ERRORS as error:
            raise LineError(f"{path} cannot be opened ({in_words(error)}); name a port, like /dev/ttyUSB0") from error
        self._path = path

    def send(self, head: int, data: bytes) -> None:
        """Send a transmission as one frame."""
        try:
            self._port.write(framed(bytes((head,)) + data))
        except PORT_ERRORS as error:
            raise LineError(f"{self._path} takes no more bytes ({in_words(error)})") from error

    def close(self) -> None:
        """Close the port."""
        with contextlib.suppress(OSError):
            self._port.close()


class TcpLine:
    """Frames over a connection."""

    def __init__(self, host: str, port: int) -> None:
        try:
            self._socket = socket.create_connection((host, port), PATIENCE_S)
        except OSError as error:
            raise LineError(
                f"{host}:{port} cannot be reached ({in_words(error)}); is the other end listening?"
            ) from error
        self._socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        self._name = f"{host}:{port}"

    def send(self, head: int, data: bytes) -> None:
        """Send a transmission as one frame."""
        try:
            self._socket.sendall(framed(bytes((head,)) + data))
        except OSError as error:
            raise LineError(f"{self._name} takes no more bytes ({in_words(error)})") from error

    def close(self) -> None:
        """Close the connection."""
        self._socket.close()


class FileLine:
    """Frames into a new file."""

    def __init__(self, path: Path, *, replaces: bool) -> None:
        try:
            self._file = path.open("wb" if replaces else "xb")
        except FileExistsError as error:
            raise RequestError(f"--to {path} already exists; --force replaces it.") from error
        except OSError as error:
            raise StorageError(f"{path}: it cannot be written ({in_words(error)}).") from error
        self._path = path

    def send(self, head: int, data: bytes) -> None:
        """Append a transmission."""
        try:
            self._file.write(framed(bytes((head,)) + data))
        except OSError as error:
            raise StorageError(f"{self._path}: it cannot be written ({in_words(error)}).") from error

    def close(self) -> None:
        """Close the file."""
        self._file.close()


class KernelBus:
    """The bus itself: each transmission one write to an address."""

    def __init__(self, path: str, address: int) -> None:
        import fcntl

        try:
            self._handle = os.open(path, os.O_RDWR)
            fcntl.ioctl(self._handle, SET_ADDRESS, address)
        except OSError as error:
            raise LineError(f"{path} cannot be used for address 0x{address:02X} ({in_words(error)})") from error
        self._name = f"0x{address:02X} on {path}"

    def send(self, head: int, data: bytes) -> None:
        """Send a transmission; the kernel adds the address itself."""
        try:
            os.write(self._handle, data)
        except OSError as error:
            raise LineError(
                f"{self._name} does not answer ({in_words(error)}); is it wired, and its address"
            ) from error

    def close(self) -> None:
        """Let it go."""
        with contextlib.suppress(OSError):
            os.close(self._handle)


def open_line(to: str, baud: int, address: int | None, *, replaces: bool = False) -> ByteLine:
    """By what the words look like. ``address`` is the panel's, None where it is on no two wires.

    Raises LineError, RequestError, StorageError.
    """
    if KERNEL_BUS.fullmatch(to):
        if address is None:
            raise RequestError(f"--to {to} is a two-wire bus; the panel is on another.")
        return KernelBus(to, address)
    tcp = TCP.fullmatch(to)
    if tcp and not exists(to):
        return TcpLine(tcp["host"].strip("[]"), int(tcp["port"]))
    path = Path(to)
    try:
        is_port = stat.S_ISCHR(path.stat().st_mode)
    except OSError:
        is_port = to.startswith("/dev/")
    return SerialLine(to, baud) if is_port else FileLine(path, replaces=replaces)
