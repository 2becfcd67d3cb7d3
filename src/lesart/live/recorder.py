"""Recording alongside listening: a writer thread, so that a slow disk never delays a line."""

from __future__ import annotations

import os
import queue
import threading
import time
from datetime import datetime
from pathlib import Path

from lesart.core.raw.lines.received import Received
from lesart.live.record_file import Recorded, RecordFile

AT_LEAST_EVERY_S = 0.25


class _Syncing:
    """Forces a file to the disk in a thread of its own: on a busy disk that takes long, and meanwhile rows must reach
    the operating system, which keeps them if only this program is killed."""

    def __init__(self) -> None:
        self._asked: queue.SimpleQueue[int | None] = queue.SimpleQueue()
        self._trouble: OSError | None = None
        self._thread = threading.Thread(target=self._run, name="sync", daemon=True)
        self._thread.start()

    def ask(self, handle: int) -> None:
        """Request a sync. Raises the OSError of the previous one."""
        trouble, self._trouble = self._trouble, None
        if trouble is not None:
            raise trouble
        self._asked.put(handle)

    def stop(self) -> None:
        """Stop once requested syncs are done."""
        self._asked.put(None)
        self._thread.join()

    def _run(self) -> None:
        while (handle := self._asked.get()) is not None:
            try:
                os.fsync(handle)
            except OSError as error:
                self._trouble = error


class Recorder:
    """Starts at once; ``put`` never waits."""

    def __init__(self, path: Path, title: str, started: datetime) -> None:
        """Raises StorageError where the file cannot be made."""
        self._syncing = _Syncing()
        self._file = RecordFile(path, title, started, sync=self._syncing.ask)
        self._queue: queue.SimpleQueue[Received | None] = queue.SimpleQueue()
        self._state = self._file.state
        self._thread = threading.Thread(target=self._run, name="recorder", daemon=True)
        self._thread.start()

    @property
    def state(self) -> Recorded:
        """The present state."""
        return self._state

    def put(self, heard: Received) -> None:
        """Queue a batch."""
        self._queue.put(heard)

    def close(self) -> Recorded:
        """Write everything and end; gives the state."""
        self._queue.put(None)
        self._thread.join()
        return self._state

    def _run(self) -> None:
        more = True
        while more:
            more = self._take(AT_LEAST_EVERY_S)
            self._file.write(time.monotonic())
            self._state = self._file.state
        self._syncing.stop()
        self._state = self._file.close(time.monotonic())

    def _take(self, timeout_s: float) -> bool:
        """Take what comes within a moment; False at the end."""
        until = time.monotonic() + timeout_s
        while (left := until - time.monotonic()) > 0:
            try:
                heard = self._queue.get(timeout=left)
            except queue.Empty:
                return True
            if heard is None:
                return False
            self._file.add(heard)
        return True
