"""A line with what recognisers ask about it: how often it changes, how long its levels last, where it rests; each
computed once."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from lesart.core.block import Floats
from lesart.core.raw.edges import HIGH, LOW, UNKNOWN, Edges

LOOKED_AT = 6000
"""Number of edges of a line that are enough to see what it is."""


class SeenLine:
    """A line of a trace. Its edges are those of the trace; facts about them are cached."""

    def __init__(self, name: str, edges: Edges, *, is_part: bool = False) -> None:
        """``is_part``: other edges of the line belong to another device."""
        self.name, self.edges, self.is_part = name, edges, is_part

    def __len__(self) -> int:
        return len(self.edges)

    @cached_property
    def head(self) -> Edges:
        """Its first edges, with known levels only up to the last of them."""
        if len(self.edges) <= LOOKED_AT:
            return self.edges
        end = float(self.edges.t[LOOKED_AT])
        return Edges(self.edges.t[:LOOKED_AT], self.edges.level[:LOOKED_AT], self.edges.first, self.edges.start_s, end)

    @cached_property
    def rests_at(self) -> int:
        """The level at which it is most of the time."""
        lasts = self.edges.lasts
        high = float(lasts[self.edges.level == HIGH].sum()) + (self._before if self.edges.first == HIGH else 0.0)
        low = float(lasts[self.edges.level == LOW].sum()) + (self._before if self.edges.first == LOW else 0.0)
        return HIGH if high >= low else LOW

    @property
    def _before(self) -> float:
        first = float(self.edges.t[0]) if len(self.edges) else self.edges.end_s
        return first - self.edges.start_s

    @cached_property
    def duty(self) -> float:
        """Share of the time at its active level."""
        lasts, whole = self.edges.lasts, self.edges.end_s - self.edges.start_s
        active = float(lasts[self.edges.level == 1 - self.rests_at].sum())
        active += self._before if self.edges.first == 1 - self.rests_at else 0.0
        return active / whole if whole > 0 else 0.0

    def lasting(self, level: int) -> Floats:
        """Durations of one level in seconds, whole ones only, among its first edges."""
        head = self.head
        places = np.flatnonzero(head.level[:-1] == level) if len(head) else np.zeros(0, np.int64)
        places = places[head.level[places + 1] != UNKNOWN]
        found: Floats = head.t[places + 1] - head.t[places]
        return found

    @cached_property
    def pulses(self) -> Floats:
        """Durations of each level in seconds, among its first edges, without the last."""
        return self.head.lasts[:-1] if len(self.head) > 1 else np.zeros(0)

    @cached_property
    def rises(self) -> Floats:
        """Times of its first rising edges, seconds."""
        found: Floats = self.head.t[(self.head.level == HIGH) & (_before(self.head) == LOW)]
        return found

    @cached_property
    def falls(self) -> Floats:
        """Times of its first falling edges, seconds."""
        found: Floats = self.head.t[(self.head.level == LOW) & (_before(self.head) == HIGH)]
        return found

    def until(self, end_s: float) -> Edges:
        """Its edges up to a time."""
        count = int(np.searchsorted(self.edges.t, end_s, side="right"))
        return Edges(self.edges.t[:count], self.edges.level[:count], self.edges.first, self.edges.start_s, end_s)


def _before(edges: Edges) -> np.ndarray:
    return np.concatenate(([edges.first], edges.level[:-1])) if len(edges) else edges.level
