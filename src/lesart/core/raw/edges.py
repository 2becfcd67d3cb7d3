"""Edges of one line of a logic trace: times and new levels."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats, Marks
from lesart.core.dataclass_later import dataclass

LOW, HIGH, UNKNOWN = 0, 1, 2
"""Levels. UNKNOWN is a line that nobody drives, or whose level the trace does not know."""


@dataclass(frozen=True, eq=False)
class Edges:
    """``t`` float64 seconds, rising; ``level`` uint8, the level from each edge on; both shape (n,).

    ``first`` is the level before the first edge; the trace lasts from ``start_s`` to ``end_s``. Neighbouring edges
    never lead to the same level.
    """

    t: Floats
    level: Marks
    first: int = UNKNOWN
    start_s: float = 0.0
    end_s: float = 0.0

    def __len__(self) -> int:
        return len(self.t)

    @property
    def lasts(self) -> Floats:
        """Seconds that the level after each edge lasts; the last one to the end of the trace."""
        return np.diff(self.t, append=max(self.end_s, float(self.t[-1]) if len(self.t) else 0.0))

    def level_at(self, moments: Floats) -> Marks:
        """The level at each time, including an edge at that time."""
        place = np.searchsorted(self.t, moments, side="right") - 1
        found = self.level[np.maximum(place, 0)] if len(self.level) else np.full(np.shape(moments), self.first)
        return np.where(place >= 0, found, self.first).astype(np.uint8)

    def between(self, start_s: float, end_s: float) -> Edges:
        """A part of the trace, with the level that the line has there before its first edge."""
        first, last = (int(place) for place in np.searchsorted(self.t, (start_s, end_s)))
        before = int(self.level[first - 1]) if first else self.first
        return Edges(self.t[first:last], self.level[first:last], before, start_s, end_s)

    def inverted(self) -> Edges:
        """The edges with high and low exchanged."""
        swapped = np.array([HIGH, LOW, UNKNOWN], np.uint8)
        return Edges(self.t, swapped[self.level], int(swapped[self.first]), self.start_s, self.end_s)


def edges_of(
    t: npt.ArrayLike, level: npt.ArrayLike, first: int = UNKNOWN, start_s: float = 0.0, end_s: float | None = None
) -> Edges:
    """Edges from the changes of a trace, without those to the level that the line already has."""
    times, levels = np.asarray(t, np.float64), np.asarray(level, np.uint8)
    if len(times) > 1 and (times[1:] == times[:-1]).any():
        # Of changes at the same time the last one counts: a level of no duration was never there.
        last = np.append(times[1:] != times[:-1], True)
        times, levels = times[last], levels[last]
    before = np.concatenate(([first], levels[:-1])) if len(levels) else levels
    real = levels != before
    end = (float(times[-1]) if len(times) else start_s) if end_s is None else end_s
    return Edges(times[real], levels[real], first, start_s, end)


def without_glitches(edges: Edges, shortest_s: float, *, from_first: bool = False) -> tuple[Edges, int]:
    """Edges without pulses shorter than ``shortest_s``, and how many edges went.

    A level counts once it has stood so long; it counts from its edge, so that widths keep their length. What bounces is
    low or high from the edge after which it stood, or ``from_first`` from the first edge of its bouncing, as firmware
    has it that acts at once and then looks away. The last level of a trace has no end to be short by.
    """
    if shortest_s <= 0 or not len(edges):
        return edges, 0
    stands = edges.lasts >= shortest_s
    stands[-1] = True
    kept = np.flatnonzero(stands)
    before = np.concatenate(([edges.first], edges.level[kept][:-1]))
    is_change = edges.level[kept] != before
    begins = np.concatenate(([0], kept[:-1] + 1))[is_change]
    kept = kept[is_change]
    cleaned = Edges(edges.t[begins if from_first else kept], edges.level[kept], edges.first, edges.start_s, edges.end_s)
    return cleaned, len(edges) - len(cleaned)
