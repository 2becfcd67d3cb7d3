"""Levels: what one pin puts on a line, what the other tolerates and what it reads as high."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.wire.hookup import (
    BusLine,
    End,
    Hookup,
    Join,
    high_v,
    is_pull,
    logic_v,
    needed_high_v,
    tolerated_v,
    used_roles,
)
from lesart.core.wire.role import BUS_LINES, ROLES

SLACK_V = 1e-6
ANALOG = ("analog in", "analog out", "wiper", "element")


@dataclass(frozen=True)
class Level:
    """``volts`` arrive at ``listener``, which tolerates ``tolerated``; ``needed`` is None where it does not read a
    level."""

    join: Join
    driver: End
    listener: End
    volts: float
    tolerated: float | None
    needed: float | None

    @property
    def too_high(self) -> bool:
        """True for a level above what the listener tolerates."""
        return self.tolerated is not None and self.volts > self.tolerated + SLACK_V

    @property
    def too_low(self) -> bool:
        """True for a level below what the listener is sure to read as high."""
        return self.needed is not None and self.volts < self.needed - SLACK_V


def levels_of(hookup: Hookup) -> tuple[Level, ...]:
    """Levels of every signal join, in each driven direction; for bus lines see ``bus_levels``."""
    found = []
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if roles is None or roles[0] in BUS_LINES or is_pull(hookup, join):
            continue
        for (driver, listener), (drives, listens) in ((join.ends, roles), (join.ends[::-1], roles[::-1])):
            level = _level(hookup, join, (driver, drives), (listener, listens))
            if level is not None:
                found.append(level)
    return tuple(found)


def _level(hookup: Hookup, join: Join, driver: tuple[End, str], listener: tuple[End, str]) -> Level | None:
    if not (ROLES[driver[1]].drives and ROLES[listener[1]].listens) or not _faces(driver[1], listener[1]):
        return None
    volts = arriving_v(hookup, join, driver[0], listener[0])
    if volts is None:
        return None
    needed = None if listener[1] in ANALOG else needed_high_v(hookup, listener[0])
    return Level(join, driver[0], listener[0], volts, tolerated_v(hookup, listener[0]), needed)


def _faces(driver: str, listener: str) -> bool:
    """True where ``driver`` really drives: a board's pin that could does not when the other end is an output."""
    other_only_drives = ROLES[listener].drives and not ROLES[listener].listens
    return not other_only_drives and not (driver == "digital" and listener in ("digital out", "pulse out", "count out"))


def arriving_v(hookup: Hookup, join: Join, driver: End, listener: End) -> float | None:
    """The driver's high level after the part that the join runs through."""
    volts, between = high_v(hookup, driver), hookup.through(join)
    if volts is None or between is None:
        return volts
    if between.kind.name == "divider":
        upper, lower = between.value("upper"), between.value("lower")
        return volts * lower / (upper + lower)
    if between.kind.name == "level shifter":
        return logic_v(hookup, listener.part)
    return volts


def bus_levels(hookup: Hookup, line: BusLine) -> tuple[tuple[End, float | None, float | None], ...]:
    """For each pin on a line: what it tolerates and what it reads as high."""
    return tuple((end, tolerated_v(hookup, end), needed_high_v(hookup, end)) for end in line.ends)
