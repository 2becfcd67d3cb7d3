"""A command that runs until it is ended: by a signal, or by its arguments.

Not an event: a signal handler may run while the main thread holds the event's lock, and setting it would deadlock. A
simple queue is safe to put into from there.
"""

from __future__ import annotations

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from queue import Empty, SimpleQueue


class Ended:
    """Set once, from any thread or signal handler; waited for in one thread."""

    def __init__(self) -> None:
        self._told: SimpleQueue[None] = SimpleQueue()
        self._is_told = False

    def tell(self) -> None:
        """Say that it is over."""
        self._told.put(None)

    def wait(self, seconds: float | None = None) -> bool:
        """Wait until it is over, at most this many seconds, None for ever; True where it is over."""
        if not self._is_told:
            try:
                self._told.get(timeout=seconds)
                self._is_told = True
            except Empty:
                pass
        return self._is_told


@contextmanager
def ended_by_signals() -> Iterator[Ended]:
    """However the command is ended, ctrl+c included, its clean-up runs."""
    ended = Ended()
    before = {number: signal.signal(number, lambda *_: ended.tell()) for number in (signal.SIGTERM, signal.SIGINT)}
    try:
        yield ended
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)
