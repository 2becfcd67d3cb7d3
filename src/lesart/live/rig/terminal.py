"""A pseudo-terminal that looks like a serial port: a link leads to it, and it can be unplugged."""

from __future__ import annotations

import contextlib
import os
import pty
import termios
import tty
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.live.rig.other_rate import as_heard

RATES = {value: int(name[1:]) for name, value in vars(termios).items() if name[:1] == "B" and name[1:].isdigit()}
SPEED_OUT = 5
"""Of a terminal's settings."""
ALIKE = 0.03
"""Relative error of a rate that still works: over the ten bits of a byte less than half a bit."""


class Terminal:
    """``link`` is where others open it.

    Reading and writing never wait. With ``baud`` it speaks at that rate, and a listener at another one gets wrong
    bytes; without, at any rate.
    """

    def __init__(self, link: Path, baud: int = 0) -> None:
        self.link = link
        self.baud = baud
        self.handle = -1
        self._other = -1

    @property
    def plugged(self) -> bool:
        """True while plugged in."""
        return self.handle >= 0

    def plug(self) -> None:
        """Make it. Raises StorageError where the link cannot be made."""
        self.handle, self._other = pty.openpty()
        tty.setraw(self._other)
        os.set_blocking(self.handle, False)
        try:
            self.link.parent.mkdir(parents=True, exist_ok=True)
            with contextlib.suppress(FileNotFoundError):
                self.link.unlink()
            self.link.symlink_to(os.ttyname(self._other))
        except OSError as error:
            self.pull()
            raise StorageError(f"{self.link}: it cannot be made ({error.strerror}).") from error
        # This end stays open without a listener, or writing would fail; unread data are discarded.

    def pull(self) -> None:
        """Unplug it."""
        for handle in (self.handle, self._other):
            if handle >= 0:
                os.close(handle)
        self.handle = self._other = -1
        with contextlib.suppress(OSError):
            self.link.unlink()

    def say(self, data: bytes) -> None:
        """Write as much as there is room for; a serial line does not wait for its reader either."""
        if self.plugged:
            with contextlib.suppress(BlockingIOError):
                os.write(self.handle, self._as_heard(data))

    def _as_heard(self, data: bytes) -> bytes:
        heard = RATES.get(termios.tcgetattr(self.handle)[SPEED_OUT], 0) if self.baud else 0
        if not heard or abs(heard / self.baud - 1) < ALIKE:
            return data
        return as_heard(data, self.baud, heard)

    def hear(self) -> bytes:
        """What came."""
        try:
            return os.read(self.handle, 4096) if self.plugged else b""
        except OSError:
            return b""
