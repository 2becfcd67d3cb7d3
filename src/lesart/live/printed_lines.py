"""Lines of text that a device prints: over a serial port, a TCP connection, or a pipe."""

from __future__ import annotations

import socket
import stat
import sys
from collections.abc import Iterator
from contextlib import closing
from os.path import exists
from pathlib import Path

import serial

from lesart.core.errors import LineError
from lesart.live.byte_line import TCP
from lesart.live.port_trouble import PORT_ERRORS, in_words

LONGEST = 4096
"""Most bytes kept without a line end, so that hours of noise do not fill memory."""
ONCE = 1024


def is_live(where: str) -> bool:
    """True for a pipe, a connection or a device; False for a file."""
    if where == "-":
        return True
    if exists(where):
        return stat.S_ISCHR(Path(where).stat().st_mode)
    return TCP.fullmatch(where) is not None


def printed_lines(where: str, baud: int, patience_s: float) -> Iterator[str]:
    """Lines as they come, until the other end closes or is silent for ``patience_s``.

    ``where`` is ``-`` for standard input, HOST:PORT, or a serial port. Raises LineError where it cannot be opened.
    """
    if where == "-":
        yield from sys.stdin
        return
    found = TCP.fullmatch(where)
    if found is not None and not exists(where):
        yield from _of_socket(where, found["host"].strip("[]"), int(found["port"]), patience_s)
        return
    try:
        port = serial.Serial(where, baud, timeout=patience_s)
    except PORT_ERRORS as error:
        raise LineError(f"{where} cannot be opened ({in_words(error)}); name a port, like /dev/ttyUSB0") from error
    with closing(port):
        yield from _cut(_of_port(port, where))


def _of_port(port: serial.Serial, where: str) -> Iterator[bytes]:
    while True:
        try:
            data = port.read(1)
            data += port.read(min(port.in_waiting, ONCE)) if data else b""
        except PORT_ERRORS as error:
            raise LineError(f"{where} was lost ({in_words(error)})") from error
        if not data:
            return
        yield data


def _of_socket(where: str, host: str, port: int, patience_s: float) -> Iterator[str]:
    try:
        connection = socket.create_connection((host, port), patience_s)
    except OSError as error:
        raise LineError(f"{where} cannot be reached ({error}); is the other end listening?") from error
    with connection:
        yield from _cut(_received(connection))


def _received(connection: socket.socket) -> Iterator[bytes]:
    while True:
        try:
            data = connection.recv(ONCE)
        except OSError:  # silence for this long, or a closed connection: both are an end
            return
        if not data:
            return
        yield data


def _cut(pieces: Iterator[bytes]) -> Iterator[str]:
    """Bytes split into lines; the last one may be unfinished."""
    rest = b""
    for piece in pieces:
        *lines, rest = (rest + piece).split(b"\n")
        for line in lines:
            yield line.decode("utf-8", "replace")
        rest = rest[-LONGEST:]
    if rest:
        yield rest.decode("utf-8", "replace")
