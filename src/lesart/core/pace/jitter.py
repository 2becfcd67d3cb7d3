"""How punctual each task of a played loop is: its rate, its jitter, and its waits."""

from __future__ import annotations

import itertools
import statistics

from lesart.core.dataclass_later import dataclass
from lesart.core.pace.play import Played
from lesart.core.pace.task import NS

MS = NS // 1000


@dataclass(frozen=True)
class Punctual:
    """``jitter_ms`` is the standard deviation of the time from start to start; waits are from due to start.

    ``share`` is its part of the time, 0 to 1, with the interrupts that came in between.
    """

    rate_hz: float
    jitter_ms: float
    mean_wait_ms: float
    worst_wait_ms: float
    share: float
    skipped: int


def punctual(played: Played, name: str) -> Punctual:
    """Punctuality of one task, by name."""
    runs = played.runs[name]
    between = [later.start_ns - earlier.start_ns for earlier, later in itertools.pairwise(runs)]
    waits = [ran.start_ns - ran.due_ns for ran in runs]
    spent = sum(ran.end_ns - ran.start_ns for ran in runs)
    return Punctual(
        NS * len(runs) / played.length_ns if played.length_ns else 0.0,
        statistics.pstdev(between) / MS if between else 0.0,
        statistics.fmean(waits) / MS if waits else 0.0,
        max(waits, default=0) / MS,
        spent / played.length_ns if played.length_ns else 0.0,
        played.skipped[name],
    )
