"""The desk's own thread: deeds go in, pictures come out. The interface's thread never waits for a result.

When deeds come faster than pictures, only the last picture is made.
"""

from __future__ import annotations

import gc
import itertools
import queue
import threading
import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, NotWanted
from lesart.core.visible import visible
from lesart.project.captures.progress import watch_with
from lesart.project.folder.store import OWN_FOLDER
from lesart.study.views import Picture

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

Deed = Callable[["Desk"], None]
LOOK_OUTSIDE_S = 1.0
PROGRESS_AFTER_S, PROGRESS_S = 0.3, 0.2
"""Delay before the first progress report, and interval between reports."""
LIVE_S = 0.25
"""Interval of pictures while a line is listened to; longer where they would take more than a third of the time."""
NOTES_S = 10.0
"""Interval at which live readings are inspected again."""
SETTLE_S = 0.06
"""Delay after a deed before notes are inspected again, unless another deed comes."""
SETTLE_LONG_S = 0.5
"""The same where all samples of a long capture wait to be run: a part of it may take as long as a picture."""
LONGEST_WAIT_S = 0.5
"""With deeds that never pause, as while playing, the longest delay: then a part is inspected after each."""


@dataclass(frozen=True)
class Trouble:
    """The project cannot be opened; one sentence a line."""

    sentences: tuple[str, ...]


@dataclass(frozen=True)
class Mistake:
    """A bug in Lesart: the sentence for the person. The work is kept, the report is in a file."""

    sentence: str


@dataclass(frozen=True)
class Progress:
    """Progress of a file being read."""

    sentence: str


News = Picture | Trouble | Mistake | Progress
REPORT = "report.txt"
LONGEST_AHEAD_S = 3.0
"""Longest wait for the picture made ahead."""


def _reported(desk: Desk, error: BaseException) -> str:
    """Put work aside, if still possible, and write the report."""
    from lesart.desk.report import write_report

    try:
        desk.close()
    except Exception as another:  # noqa: BLE001  (the first mistake is the one to tell of)
        error.add_note(f"and when closing: {another!r}")
    return write_report(desk.folder / OWN_FOLDER / REPORT, error, work_is_safe=desk.work_is_safe)


class Worker:
    """Opens the desk in a thread of its own.

    ``deliver`` is called there with each picture and the number of the last deed that it shows. It starts, and imports
    the desk, once it ``may_begin``; deeds wait meanwhile.
    """

    def __init__(
        self,
        open_desk: Callable[[], Desk],
        deliver: Callable[[News, int], None],
        may_begin: threading.Event | None = None,
    ) -> None:
        self._open_desk = open_desk
        self._may_begin = may_begin
        self._tell = deliver
        self._numbers = itertools.count(1)
        self._done = 0
        self._deeds: queue.SimpleQueue[tuple[int, Deed] | None] = queue.SimpleQueue()
        self._unwanted = threading.Event()
        self._reading, self._told_at = "", 0.0
        self._thread = threading.Thread(target=self._run, name="desk", daemon=True)

    def start(self) -> None:
        """Open the desk and send the first picture."""
        self._thread.start()

    def do(self, deed: Deed) -> int:
        """Queue a deed; gives its number."""
        number = next(self._numbers)
        self._deeds.put((number, deed))
        return number

    def stop_reading(self) -> None:
        """Cancel the reading of a file."""
        self._unwanted.set()

    def _watch(self, name: str, done: int, of: int, doing: str) -> bool:
        """Report how far a file is read; False stops it."""
        now = time.monotonic()
        if self._unwanted.is_set():
            self._unwanted.clear()
            return False
        if self._reading != name:
            self._reading, self._told_at = name, now + PROGRESS_AFTER_S - PROGRESS_S
        if now - self._told_at >= PROGRESS_S:
            self._told_at = now
            self._deliver(Progress(f"{doing} {visible(name)}: {100 * done // max(of, 1)} %. Escape stops it."))
        return True

    def stop(self) -> None:
        """Finish waiting deeds and end the thread."""
        self._deeds.put(None)
        self._thread.join(timeout=5)

    def _look(
        self, desk: Desk, *, wait_for_notes: bool = True, wait_for_others: bool = True, wait_for_all: bool = True
    ) -> Picture:
        from lesart.desk.picture import look

        return look(desk, wait_for_notes=wait_for_notes, wait_for_others=wait_for_others, wait_for_all=wait_for_all)

    def _deliver(self, what: News) -> None:
        self._tell(what, self._done)

    def _run(self) -> None:
        if self._may_begin is not None:
            self._may_begin.wait(LONGEST_AHEAD_S)
        watch_with(self._watch)
        desk: Desk | None = None
        # A thread that died silently would leave a screen that never answers. Some libraries raise non-Exceptions.
        try:
            desk = self._opened()
            if desk is not None:
                self._serve(desk)
        except BaseException as error:  # noqa: BLE001
            from lesart.desk.report import temporary_report

            self._deliver(Mistake(temporary_report(error) if desk is None else _reported(desk, error)))

    def _serve(self, desk: Desk) -> None:
        """Serve deeds until stopped."""
        # A person looks at the chosen channel first; other captures are read after its picture.
        self._deliver(self._look(desk, wait_for_notes=False, wait_for_others=False))
        self._deliver(self._look(desk, wait_for_notes=False))
        # Objects made so far stay: garbage collection need not go through them again.
        gc.freeze()
        waits_since: float | None = time.monotonic()
        looked = inspected = time.monotonic()
        next_live, moves = 0.0, False
        while True:
            # The screen comes first: background work would take time from the interface.
            moves, moved = desk.is_moving, moves
            idle_s = min(max(next_live - time.monotonic(), 0.0), LIVE_S) if moves else LOOK_OUTSIDE_S
            more, came = self._do_all(desk, self._settle_s(desk) if waits_since is not None else idle_s)
            if not more:
                desk.close()
                return
            now = time.monotonic()
            if came:
                waits_since = waits_since or now
            elif (moves or moved) and now >= next_live:
                next_live = now + self._live_picture(desk)
                if now - inspected >= NOTES_S:
                    inspected, waits_since = now, waits_since or now
                    desk.forget_notes()
            # A part of a long capture may take as long as a picture: it waits for idle time.
            is_late = waits_since is not None and now - waits_since > LONGEST_WAIT_S and not desk.bench.left_out
            if waits_since is not None and (not came or is_late):
                waits_since = None if self._after(desk) else waits_since
            if now - looked >= LOOK_OUTSIDE_S:
                looked = now
                if desk.look_outside():
                    self._deliver(self._look(desk, wait_for_notes=False))
                    waits_since = waits_since or now

    def _do_all(self, desk: Desk, timeout_s: float) -> tuple[bool, bool]:
        """Do all waiting deeds and deliver one picture. Gives whether to go on, and whether there were any."""
        try:
            waiting = self._deeds.get(timeout=timeout_s)
        except queue.Empty:
            return True, False
        while waiting is not None:
            self._done, deed = waiting
            deed(desk)
            self._unwanted.clear()
            if self._deeds.empty():
                self._deliver(self._look(desk, wait_for_notes=False, wait_for_all=False))
                return True, True
            waiting = self._deeds.get()
        return False, True

    def _live_picture(self, desk: Desk) -> float:
        """Deliver a picture of what lines say now; gives the wait until the next."""
        began = time.monotonic()
        self._deliver(self._look(desk, wait_for_notes=False))
        return max(LIVE_S, 3 * (time.monotonic() - began))

    def _after(self, desk: Desk) -> bool:
        """Background work: put work aside, inspect notes again. False where a deed interrupted it."""
        message, fresh = desk.state.message, desk.notes_are_fresh
        desk.keep_work()
        desk.bench.wanted, left_out = self._deeds.empty, desk.bench.left_out
        try:
            if left_out:
                self._deliver(self._look(desk, wait_for_notes=False))
                left_out = False
            if not fresh and not desk.inspect(self._deeds.empty):
                return False
            if not fresh or desk.state.message != message:
                self._deliver(self._look(desk))
        except NotWanted:
            # Results so far are kept, and what a picture left out is still missing.
            desk.bench.left_out = left_out
            return False
        finally:
            desk.bench.wanted = None
        return True

    @staticmethod
    def _settle_s(desk: Desk) -> float:
        """Idle time before background work is done."""
        return SETTLE_LONG_S if desk.bench.left_out else SETTLE_S

    def _opened(self) -> Desk | None:
        """Open the desk; while the project is broken its problems are shown, and it opens once the file is mended."""
        said: tuple[str, ...] = ()
        while True:
            try:
                return self._open_desk()
            except LesartError as error:
                sentences = tuple(str(error).splitlines())
                if sentences != said:
                    said = sentences
                    self._deliver(Trouble(sentences))
            try:
                waiting = self._deeds.get(timeout=LOOK_OUTSIDE_S)
                if waiting is None:
                    return None
                self._done = waiting[0]  # nothing can be done with a project that is not open
            except queue.Empty:
                continue
