"""Listening to one source: a thread with an ear, which reopens the line whenever it is lost.

Data go to a buffer that others read, to a tally, and to a recorder if there is one.
"""

from __future__ import annotations

import math
import sys
import threading
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from os.path import exists
from pathlib import Path

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LineError
from lesart.core.raw.lines.received import Event, Received
from lesart.core.raw.source import Source
from lesart.live.back_off import BackOff
from lesart.live.buffer import Buffer
from lesart.live.ear import Ear
from lesart.live.ears import ear_for
from lesart.live.record_file import Recorded
from lesart.live.recorder import Recorder
from lesart.live.tally import Tally

TURN_S = 0.001
"""Thread switch interval; the default of 5 ms would show in the times of rows."""


@dataclass(frozen=True)
class LineState:
    """At ``now_s`` seconds of listening. ``trouble`` is why nothing can come; empty while the line is open.

    ``rate_hz`` are rows a second of late; ``age_s`` is that of the last row, infinite before the first.
    """

    now_s: float
    trouble: str
    tally: Tally
    recorded: Recorded | None = None

    @property
    def rate_hz(self) -> float:
        """Recent rows per second."""
        return self.tally.rate_hz(self.now_s)

    @property
    def age_s(self) -> float:
        """Seconds since the last row."""
        return self.tally.age_s(self.now_s)


class Listening:
    """Begins with ``start`` and ends with ``stop``; the rest is thread-safe."""

    def __init__(self, source: Source, folder: Path, make_ear: Callable[..., Ear] = ear_for) -> None:
        assert source.line is not None
        self.source = source
        self._zero = time.monotonic()
        self.began = datetime.now(UTC).astimezone()
        self._ended = threading.Event()
        self._ear = make_ear(source.line, folder, self.clock, self._ended.is_set)
        self._buffer = Buffer()
        self._tally = Tally()
        self._trouble = "not opened yet"
        self._columns: tuple[str, ...] = ()
        self._last_t = -math.inf
        self._recorder: Recorder | None = None
        self._lock = threading.Lock()
        self._thread = threading.Thread(target=self._run, name=f"line {source.name}", daemon=True)

    def clock(self) -> float:
        """Seconds since it began."""
        return time.monotonic() - self._zero

    def start(self) -> None:
        """Start. The time of a row is when this thread runs, so thread switches are frequent from now on."""
        sys.setswitchinterval(min(sys.getswitchinterval(), TURN_S))
        self._thread.start()

    def stop(self) -> Recorded | None:
        """Stop, with any recording; gives its state."""
        self._ended.set()
        self._thread.join(timeout=10)
        return self.stop_recording()

    @property
    def state(self) -> LineState:
        """The present state."""
        recorder = self._recorder
        return LineState(self.clock(), self._trouble, self._tally, recorder.state if recorder else None)

    def view(self) -> tuple[int, dict[str, Block]]:
        """The columns so far, and a number that changes when older rows are dropped."""
        return self._buffer.view()

    def record(self, path: Path) -> None:
        """Record everything from now on into a new file. Raises StorageError where it cannot be made."""
        line = self.source.line
        assert line is not None
        recorder = Recorder(path, f"source {self.source.name}: {line.kind.name}, {line.says}", self.began)
        with self._lock:
            self._recorder = recorder

    def stop_recording(self) -> Recorded | None:
        """End the recording; gives its state, None without one."""
        with self._lock:
            recorder, self._recorder = self._recorder, None
        return recorder.close() if recorder else None

    def _run(self) -> None:
        back_off = BackOff()
        while not self._ended.is_set():
            try:
                self._ear.open()
            except LineError as error:
                self._trouble = str(error)
                self._ended.wait(back_off.wait_s)
                back_off = back_off.failed()
                continue
            except Exception as error:  # noqa: BLE001  (as below)
                self._gone(f"Lesart itself failed: {type(error).__name__}: {error}")
                self._ear.close()
                break
            back_off = BackOff()
            self._trouble = ""
            try:
                self._listen()
            except LineError as error:
                self._gone(str(error))
            except Exception as error:  # noqa: BLE001  (a thread that died unseen would look like a silent line)
                self._gone(f"Lesart itself failed: {type(error).__name__}: {error}")
                self._ended.set()
            finally:
                self._ear.close()

    def _listen(self) -> None:
        while not self._ended.is_set():
            self._take(self._ear.hear())

    def _gone(self, why: str) -> None:
        """A row without values when a line is lost: the last reading is no longer the present one."""
        self._trouble = why
        t = max(round(self.clock(), 6), self._last_t + 1e-6)
        rows = ((math.nan,) * len(self._columns),) if self._columns else ()
        times, marks = ((t,), (int(Mark.MISSING),)) if rows else ((), ())
        self._take(Received(self._columns, times, rows, marks, (Event(t, "gone", why),)))

    def _take(self, heard: Received) -> None:
        self._columns = heard.columns or self._columns
        if heard.t:
            self._last_t = heard.t[-1]
        if not heard.t and not heard.events:
            return
        self._buffer.append(heard)
        self._tally = self._tally.heard(heard, self.clock())
        with self._lock:
            if self._recorder is not None:
                self._recorder.put(heard)


def recording_name(source: str, at: datetime) -> str:
    """The file of a recording, relative to the project's folder: by source and time, so that none replaces another."""
    plain = "".join(letter if letter.isalnum() else "-" for letter in source.lower()).strip("-") or "source"
    return f"captures/{plain}-{at:%Y%m%d-%H%M%S}.csv"


def next_free(folder: Path, source: str, at: datetime) -> str:
    """A name that no file has yet."""
    while exists(folder / recording_name(source, at)):
        at += timedelta(seconds=1)
    return recording_name(source, at)
