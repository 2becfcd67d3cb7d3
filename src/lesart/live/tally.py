"""Statistics of a live line: rate, age, losses, and the last trouble."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import field, replace

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.lines.received import Event, Received

RATE_OVER_S = 2.0
GOOD = frozenset(("chatter", "units"))
"""Events of a healthy line."""
LAST_KEPT = 6


@dataclass(frozen=True)
class Tally:
    """``recent`` are numbers of rows with their times, for the rate; ``bad`` counts losses."""

    rows: int = 0
    last_t: float = -math.inf
    recent: tuple[tuple[float, int], ...] = ()
    bad: Mapping[str, int] = field(default_factory=dict)
    last: tuple[Event, ...] = ()

    def heard(self, heard: Received, now: float) -> Tally:
        """The tally with another batch."""
        rows, events = len(heard.t), heard.events
        tally = self
        if rows:
            recent = (*(entry for entry in self.recent if now - entry[0] <= 2 * RATE_OVER_S), (now, rows))
            tally = replace(tally, rows=self.rows + rows, last_t=heard.t[-1], recent=recent)
        if events:
            bad = dict(tally.bad)
            for event in events:
                if event.what not in GOOD:
                    bad[event.what] = bad.get(event.what, 0) + 1
            tally = replace(tally, bad=bad, last=(*tally.last, *events)[-LAST_KEPT:])
        return tally

    def rate_hz(self, now: float) -> float:
        """Rows per second over the last seconds."""
        since = now - RATE_OVER_S
        first = self.recent[0][0] if self.recent else now
        over = min(RATE_OVER_S, max(now - first, 0.1))
        return sum(count for t, count in self.recent if t > since) / over

    def age_s(self, now: float) -> float:
        """Seconds since the last row; infinite before the first."""
        return now - self.last_t
