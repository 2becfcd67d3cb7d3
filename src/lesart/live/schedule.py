"""When the next reading of a source that is asked is due."""

from __future__ import annotations

import math
import time

from lesart.live.ear import Clock

WAIT_S = 0.1
"""At most so long at once, so that whoever waits can be stopped."""


class Due:
    """Every ``period_s``; readings that were missed, because an answer took longer or a computer slept, stay missed."""

    def __init__(self, period_s: float, clock: Clock) -> None:
        self._period_s, self._clock = period_s, clock
        self._next = 0.0

    def begin(self, *, after_s: float = 0.0) -> None:
        """From now on."""
        self._next = self._clock() + after_s

    def wait(self) -> float | None:
        """A moment at most: the time now, in seconds, when a reading is due; None while it is not."""
        left = self._next - self._clock()
        if left > WAIT_S:
            time.sleep(WAIT_S)
            return None
        if left > 0:
            time.sleep(left)
        return self._now()

    def is_now(self) -> bool:
        """Is one due? Then the next is in its turn."""
        if self._clock() < self._next:
            return False
        self._now()
        return True

    def _now(self) -> float:
        now = self._clock()
        # The next one in its turn: at once it would come sooner after this one than the sensor was to be asked.
        self._next += self._period_s * (1 + math.floor((now - self._next) / self._period_s))
        return now
