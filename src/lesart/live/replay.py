"""Replay: a capture's cursor advancing with time. Time is an argument, so a test need not wait."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass

SPEEDS = (0.1, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 100.0, 300.0)


@dataclass(frozen=True)
class Replay:
    """``speed`` is seconds of the capture per second."""

    playing: bool = False
    speed: float = 1.0

    def toggled(self) -> Replay:
        """Toggle between playing and paused."""
        return replace(self, playing=not self.playing)

    def faster(self, by: int) -> Replay:
        """The next speed, or the previous one for a negative ``by``, within the limits."""
        index = min(max(SPEEDS.index(self.speed) + by, 0), len(SPEEDS) - 1)
        return replace(self, speed=SPEEDS[index])

    def advanced(self, cursor_s: float, elapsed_s: float, end_s: float) -> tuple[Replay, float]:
        """The cursor after ``elapsed_s``; playing stops at the end."""
        if not self.playing:
            return self, cursor_s
        cursor_s += elapsed_s * self.speed
        if cursor_s >= end_s:
            return replace(self, playing=False), end_s
        return self, cursor_s
