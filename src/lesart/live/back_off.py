"""Back-off: the wait before a lost line is tried again, longer each time, up to a bound."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass

FIRST_S = 0.25
LONGEST_S = 8.0


@dataclass(frozen=True)
class BackOff:
    """``wait_s`` is the wait before the next try."""

    wait_s: float = FIRST_S

    def failed(self) -> BackOff:
        """The back-off after another failure."""
        return BackOff(min(2 * self.wait_s, LONGEST_S))
