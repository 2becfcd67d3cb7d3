"""The desk's own thread: deeds go in, pictures come out. The interface's thread never waits for a result.

When deeds come faster than pictures, only the last picture is made.
"""

from __future__ import annotations

import queue
import threading
from collections.abc import Callable
from dataclasses import dataclass

from lesart.core.errors import LesartError
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of
from lesart.desk.views import Picture

Deed = Callable[[Desk], None]
LOOK_OUTSIDE_S = 1.0


@dataclass(frozen=True)
class Trouble:
    """The project cannot be opened; one sentence a line."""

    sentences: tuple[str, ...]


class Worker:
    """Opens the desk in a thread of its own; ``deliver`` is called there with each picture."""

    def __init__(self, open_desk: Callable[[], Desk], deliver: Callable[[Picture | Trouble], None]) -> None:
        self._open_desk = open_desk
        self._deliver = deliver
        self._deeds: queue.SimpleQueue[Deed | None] = queue.SimpleQueue()
        self._thread = threading.Thread(target=self._run, name="desk", daemon=True)

    def start(self) -> None:
        """Open the desk and send the first picture."""
        self._thread.start()

    def do(self, deed: Deed) -> None:
        """Do something at the desk, soon."""
        self._deeds.put(deed)

    def stop(self) -> None:
        """Finish what is waiting and end the thread."""
        self._deeds.put(None)
        self._thread.join(timeout=5)

    def _run(self) -> None:
        desk = self._opened()
        if desk is None:
            return
        self._deliver(picture_of(desk, wait_for_notes=False))
        desk.prepare_edits()
        while True:
            if self._deeds.empty():
                self._after(desk)
            try:
                deed = self._deeds.get(timeout=LOOK_OUTSIDE_S)
            except queue.Empty:
                if desk.look_outside():
                    self._deliver(picture_of(desk, wait_for_notes=False))
                continue
            while deed is not None:
                deed(desk)
                if self._deeds.empty():
                    break
                deed = self._deeds.get()
            if deed is None:
                desk.keep_work()
                return
            self._deliver(picture_of(desk, wait_for_notes=False))

    def _after(self, desk: Desk) -> None:
        """What need not be waited for: work put aside, notes inspected anew."""
        message = desk.state.message
        desk.keep_work()
        if not desk.notes_are_fresh or desk.state.message != message:
            self._deliver(picture_of(desk))

    def _opened(self) -> Desk | None:
        """The desk; while the project is broken its problems are shown, and mending the file opens it."""
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
                if self._deeds.get(timeout=LOOK_OUTSIDE_S) is None:
                    return None
            except queue.Empty:
                continue
