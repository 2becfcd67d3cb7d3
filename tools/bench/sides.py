"""Two or more ways to do one thing, timed in turns, so that a machine that slows down slows them all."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

ROUNDS = 5


@dataclass(frozen=True)
class Row:
    """A line of the table. Times in seconds; ``floor`` cannot be beaten, ``peer`` is what one would write instead.

    ``target`` is the most that ours may be of the floor; 0 for none. ``said`` takes the place of a time.
    """

    name: str
    ours_s: float
    floor: tuple[str, float] | None = None
    peers: Mapping[str, float] = field(default_factory=dict)
    target: float = 0.0
    remark: str = ""

    @property
    def ratio(self) -> float | None:
        """Ours by the floor."""
        return self.ours_s / self.floor[1] if self.floor is not None and self.floor[1] > 0 else None


def took_s(do: Callable[[], object]) -> float:
    """Once."""
    started = time.perf_counter()
    do()
    return time.perf_counter() - started


def in_turns(ways: Mapping[str, Callable[[], object]], rounds: int = ROUNDS) -> dict[str, float]:
    """The median of each."""
    times: dict[str, list[float]] = {name: [] for name in ways}
    for _ in range(rounds):
        for name, do in ways.items():
            times[name].append(took_s(do))
    return {name: statistics.median(each) for name, each in times.items()}


def row(
    name: str,
    ours: Callable[[], object],
    floor: tuple[str, Callable[[], object]] | None = None,
    peers: Mapping[str, Callable[[], object]] | None = None,
    *,
    target: float = 0.0,
    rounds: int = ROUNDS,
    remark: str = "",
) -> Row:
    """All sides of one line, in turns."""
    ways = {
        "ours": ours,
        **({"floor": floor[1]} if floor else {}),
        **{f"peer {k}": v for k, v in (peers or {}).items()},
    }
    found = in_turns(ways, rounds)
    return Row(
        name,
        found["ours"],
        (floor[0], found["floor"]) if floor else None,
        {each: found[f"peer {each}"] for each in peers or {}},
        target,
        remark,
    )
