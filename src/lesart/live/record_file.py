"""A recording being written: append-only, forced to the disk at least every second, patient with a full disk.

Nothing here waits: time is an argument, and the caller decides how often. A failed write is reported and retried; rows
in the meantime are kept as long as there is room, then counted and noted in the file.
"""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import StorageError
from lesart.core.raw.lines.received import Received
from lesart.project.captures.recording import ended_text, head_text, rows_text

SYNC_S = 1.0
"""Data older than this are on the disk."""
RETRY_S = 1.0
ROOM_BYTES = 32 << 20
"""Room for data waiting for a full disk; about five minutes of the fastest line."""
Write = Callable[[int, bytes], int]


@dataclass(frozen=True)
class Recorded:
    """``rows`` are in the file; ``lost`` are not and never will be; ``trouble`` is why writing fails now, or empty."""

    path: Path
    rows: int = 0
    lost: int = 0
    trouble: str = ""


class RecordFile:
    """One recording. ``add`` takes data, ``write`` puts them into the file."""

    def __init__(
        self,
        path: Path,
        title: str,
        started: datetime,
        *,
        write: Write = os.write,
        sync: Callable[[int], None] | None = None,
        room: int = ROOM_BYTES,
    ) -> None:
        """``sync`` forces a file to the disk, or sees to it that it is soon.

        Raises StorageError where there is such a file already or none can be made.
        """
        self.path, self._title, self._started = path, title, started
        self._write, self._sync, self._room = write, sync, room
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise StorageError(f"{path.parent}: it cannot be made ({error.strerror}).") from error
        try:
            self._handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_APPEND, 0o644)
        except FileExistsError as error:
            raise StorageError(f"{path}: it already exists; a recording never replaces another.") from error
        except OSError as error:
            raise StorageError(f"{path}: it cannot be made ({error.strerror}).") from error
        self._waiting: deque[tuple[bytes, int]] = deque()
        self._bytes = 0
        self._before: list[Received] = []
        self._begun = False
        self._rows = self._lost = self._gap = 0
        self._trouble = self._why = ""
        self._synced_at = self._tried_at = float("-inf")
        self._unsynced = False
        self._last_t = 0.0

    @property
    def state(self) -> Recorded:
        """The present state."""
        return Recorded(self.path, self._rows, self._lost, self._trouble)

    def add(self, heard: Received) -> None:
        """Take a batch. Events wait until the first row determines the columns of the header."""
        if not self._begun and not heard.columns:
            self._before.append(heard)
            return
        if not self._begun:
            self._begun = True
            self._queue(head_text(self._title, self._started, heard.columns), 0)
            for earlier in self._before:
                self._queue(rows_text(earlier), 0)
            self._before.clear()
        if self._bytes > self._room:
            self._lost += len(heard.t)
            self._gap += len(heard.t)
            self._why = self._trouble
            return
        if self._gap:
            first = heard.t[0] if heard.t else heard.events[0].t if heard.events else 0.0
            self._queue(f"# {first:.6f} lost: {self._gap} rows before this, {self._why}\n", 0)
            self._gap = 0
        self._queue(rows_text(heard), len(heard.t))
        self._last_t = heard.t[-1] if heard.t else self._last_t

    def _queue(self, text: str, rows: int) -> None:
        if text:
            data = text.encode()
            self._waiting.append((data, rows))
            self._bytes += len(data)

    def write(self, now: float, *, last: bool = False) -> None:
        """Write waiting data; force them to the disk once a second, or at the ``last``. Failure raises nothing here."""
        if self._trouble and now - self._tried_at < RETRY_S and not last:
            return
        self._tried_at = now
        try:
            while self._waiting:
                data, rows = self._waiting.popleft()
                written = 0
                try:
                    written = self._write(self._handle, data)
                finally:
                    # A write may be partial: the rest goes first the next time, so that no line is torn.
                    if written < len(data):
                        self._waiting.appendleft((data[written:], rows))
                    else:
                        self._rows += rows
                    self._bytes -= written
                    self._unsynced = self._unsynced or written > 0
            if self._unsynced and (last or now - self._synced_at >= SYNC_S):
                (self._sync if self._sync is not None and not last else os.fsync)(self._handle)
                self._synced_at, self._unsynced = now, False
            self._trouble = ""
        except OSError as error:
            self._trouble = error.strerror or str(error)

    def close(self, now: float) -> Recorded:
        """Write the rest and the ending. A recording without a row leaves no file."""
        if self._begun and not self._trouble:
            rows = self._rows + sum(rows for _, rows in self._waiting)
            self._queue(ended_text(self._last_t, rows), 0)
        self.write(now, last=True)
        if self._waiting:
            self._lost += sum(rows for _, rows in self._waiting)
        os.close(self._handle)
        if not self._begun:
            self.path.unlink(missing_ok=True)
        return self.state
