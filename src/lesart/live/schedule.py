"""When the next reading of a polled source is due."""

from __future__ import annotations

import math
import time

from lesart.live.ear import Clock

WAIT_S = 0.1
"""Longest single wait, so that a waiting thread can be stopped."""


class Due:
    """Readings every ``period_s``; those missed, by a slow answer or a sleeping computer, stay missed."""

    def __init__(self, period_s: float, clock: Clock) -> None:
        self._period_s, self._clock = period_s, clock
        self._next = 0.0

    def begin(self, *, after_s: float = 0.0) -> None:
        """From now on."""
        self._next = self._clock() + after_s

    def wait(self) -> float | None:
        """Wait for a moment at most: the present time in seconds when a reading is due; else None."""
        left = self._next - self._clock()
        if left > WAIT_S:
            time.sleep(WAIT_S)
            return None
        if left > 0:
            time.sleep(left)
        return self._now()

    def is_now(self) -> bool:
        """True where one is due, which advances to the next."""
        if self._clock() < self._next:
            return False
        self._now()
        return True

    def _now(self) -> float:
        now = self._clock()
        # The next one at its regular time: at once it would come too soon for the sensor.
        self._next += self._period_s * (1 + math.floor((now - self._next) / self._period_s))
        return now
