"""A command that goes on until somebody ends it: by a signal, or by what it was told.

Not an event: a signal comes while the main thread may hold the lock of the event that it waits for, and setting it then
waits for itself. A simple queue is made to be put into from there.
"""

from __future__ import annotations

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from queue import Empty, SimpleQueue


class Ended:
    """Told once, from any thread or from a handler of signals; waited for in one thread."""

    def __init__(self) -> None:
        self._told: SimpleQueue[None] = SimpleQueue()
        self._is_told = False

    def tell(self) -> None:
        """It is over."""
        self._told.put(None)

    def wait(self, seconds: float | None = None) -> bool:
        """Is it over, so many seconds from now at the latest? None of them is until it is."""
        if not self._is_told:
            try:
                self._told.get(timeout=seconds)
                self._is_told = True
            except Empty:
                pass
        return self._is_told


@contextmanager
def ended_by_signals() -> Iterator[Ended]:
    """However it is ended, what is after it is done; ctrl+c is one of the ways."""
    ended = Ended()
    before = {number: signal.signal(number, lambda *_: ended.tell()) for number in (signal.SIGTERM, signal.SIGINT)}
    try:
        yield ended
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)
