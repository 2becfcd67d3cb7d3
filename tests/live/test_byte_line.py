"""Where a panel's bytes go: framed on a line of bytes, as they are on a bus, and what is wrong in a sentence."""

from __future__ import annotations

import os
import pty
import socket
import threading
import tty
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import LesartError
from lesart.live import byte_line
from lesart.live.byte_line import KernelBus, open_line
from lesart.live.slip import framed, frames


def test_the_standard_marks() -> None:
    """RFC 1055: END 192, ESC 219, an END in the data 219 220, an ESC in the data 219 221."""
    assert framed(bytes((1, 192, 2, 219, 3))) == bytes((192, 1, 219, 220, 2, 219, 221, 3, 192))


@given(st.lists(st.binary(min_size=1, max_size=40), max_size=8), st.integers(1, 7))
def test_frames_come_through(sent: list[bytes], size: int) -> None:
    """However the line is cut, the frames are those that were sent."""
    line = b"".join(map(framed, sent))
    found: list[bytes] = []
    waiting = b""
    for at in range(0, len(line), size):
        whole, waiting = frames(waiting, line[at : at + size])
        found += whole
    assert found == sent
    assert waiting == b""


SENT = ((0x78, bytes((0x00, 0xAF))), (0x78, bytes((0x40, 0xC0, 0xDB))), (1, b""))
WANTED = b"".join(framed(bytes((head,)) + data) for head, data in SENT)


def test_into_a_file(tmp_path: Path) -> None:
    """One that is there is not written over unasked."""
    path = tmp_path / "lid.slip"
    line = open_line(str(path), 115_200, 0x3C)
    for head, data in SENT:
        line.send(head, data)
    line.close()
    assert path.read_bytes() == WANTED
    with pytest.raises(LesartError, match=r"lid\.slip already exists; --force replaces it\."):
        open_line(str(path), 115_200, 0x3C)
    open_line(str(path), 115_200, 0x3C, replaces=True).close()
    assert path.read_bytes() == b""


def test_over_a_port() -> None:
    """A serial port, here a pseudo-terminal."""
    here, there = pty.openpty()
    tty.setraw(there)
    line = open_line(os.ttyname(there), 115_200, 0x3C)
    for head, data in SENT:
        line.send(head, data)
    read = b""
    while len(read) < len(WANTED):
        read += os.read(here, 100)
    line.close()
    os.close(here)
    os.close(there)
    assert read == WANTED


def test_over_tcp() -> None:
    """To who listens; who does not is said."""
    with socket.create_server(("127.0.0.1", 0)) as server:
        port = server.getsockname()[1]
        read: list[bytes] = []

        def listen() -> None:
            client, _ = server.accept()
            with client:
                while data := client.recv(100):
                    read.append(data)

        thread = threading.Thread(target=listen)
        thread.start()
        line = open_line(f"127.0.0.1:{port}", 115_200, None)
        for head, data in SENT:
            line.send(head, data)
        line.close()
        thread.join(5)
    assert b"".join(read) == WANTED
    with pytest.raises(LesartError, match=rf"127\.0\.0\.1:{port} cannot be reached \(Connection refused\)"):
        open_line(f"127.0.0.1:{port}", 115_200, None)


def test_on_the_kernels_bus(monkeypatch: pytest.MonkeyPatch) -> None:
    """The address is told once, as the kernel wants it; each transmission is one write, without head or frame."""
    asked: list[tuple[int, int]] = []
    written: list[bytes] = []
    monkeypatch.setattr(byte_line.os, "open", lambda path, flags: 77)
    monkeypatch.setattr(byte_line.os, "write", lambda handle, data: written.append(data))
    monkeypatch.setattr(byte_line.os, "close", lambda handle: None)
    monkeypatch.setattr("fcntl.ioctl", lambda handle, request, address: asked.append((request, address)))
    line = open_line("/dev/i2c-1", 115_200, 0x3C)
    assert isinstance(line, KernelBus)
    for head, data in SENT:
        line.send(head, data)
    line.close()
    assert asked == [(0x0703, 0x3C)]
    assert written == [data for _, data in SENT]


@pytest.mark.parametrize(
    ("to", "address", "said"),
    [
        ("/dev/i2c-99", 0x3C, "/dev/i2c-99 cannot be used for address 0x3C (No such file or directory)"),
        ("/dev/i2c-99", None, "--to /dev/i2c-99 is a two-wire bus; the panel is on another."),
        (
            "/dev/tty-none",
            0x3C,
            "/dev/tty-none cannot be opened (No such file or directory); name a port, like /dev/ttyUSB0",
        ),
        ("/none/there", 0x3C, "/none/there: it cannot be written (No such file or directory)."),
    ],
)
def test_what_cannot_be_opened(to: str, address: int | None, said: str) -> None:
    """The place, and what would do."""
    with pytest.raises(LesartError) as caught:
        open_line(to, 115_200, address)
    assert str(caught.value) == said
