"""Tasks of a loop for tests, with their times in nanoseconds."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.pace.task import LOOP, WORK, Task

US, MS, S = 1_000, 1_000_000, 1_000_000_000


def timed(name: str, period: int, takes: int, runs: str = LOOP, **more: object) -> Task:
    """One that always takes as long."""
    return replace(Task(name, WORK, period, takes, takes, runs), **more)  # type: ignore[arg-type]
