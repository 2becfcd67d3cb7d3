"""Sensors that nothing reads: connected and in range, but without a signal to any board."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from lesart.core.notes import FAULT
from lesart.core.quantity import listed
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.faults.pins import rejoined
from lesart.core.wire.hookup import End, Hookup, Join, is_pull, works
from lesart.core.wire.part import Part, Pin
from lesart.core.wire.role import is_rail

TOLD = (
    "analog out",
    "digital out",
    "pulse out",
    "count out",
    "one wire",
    "two-wire data",
    "four-wire data out",
    "serial send",
    "line A",
    "bridge +",
    "contact",
    "element",
    "wiper",
)
"""Roles of pins through which a sensor gives its readings."""


def inspect_unread(hookup: Hookup) -> Iterator[Finding]:
    """One finding per sensor. One with an open or misplaced pin gets a note on that instead."""
    if not any(part.kind.group == "board" for part in hookup.parts.values()):
        return
    for part in hookup.parts.values():
        telling = _telling(part)
        if part.kind.group != "sensor" or not telling:
            continue
        joins = [join for pin in part.kind.pins for join in hookup.joins_at(End(part.name, pin.name))]
        is_open = any(not pin.optional and not hookup.joins_at(End(part.name, pin.name)) for pin in part.kind.pins)
        ends = [End(part.name, pin.name) for pin in telling]
        is_open = is_open or not any(hookup.joins_at(end) for end in ends)
        if is_open or not all(works(hookup, join) for join in joins) or _is_read(hookup, part):
            continue
        led = dict.fromkeys(str(join.other(end)) for end in ends for join in hookup.joins_at(end))
        goes = f"{listed(list(map(str, ends)))} {'goes' if len(ends) == 1 else 'go'} to {' and '.join(led)} only"
        yield found(
            "unread",
            FAULT,
            part.name,
            f"Nothing reads {part.name}: {goes}.",
            at=ends,
            remedy=f"lead {ends[0]} to a pin of the board that reads it",
            ways=partial(_ways_to_be_read, hookup, tuple(ends)),
        )


def _telling(part: Part) -> list[Pin]:
    """The pins that carry its signal; for a part with a tap only that, since its ends are fed."""
    taps = [pin for pin in part.kind.pins if "wiper" in pin.roles]
    return taps or [pin for pin in part.kind.pins if any(role in TOLD for role in pin.roles)]


def _is_read(hookup: Hookup, part: Part) -> bool:
    """True where a signal of it reaches a board, or a display that it sets, through whatever parts are between."""
    reached, ahead = {part.name}, [End(part.name, pin.name) for pin in _telling(part)]
    while ahead:
        end = ahead.pop()
        for join in hookup.joins_at(end):
            other = join.other(end)
            roles = hookup.pin(other).roles
            if is_rail(roles) or is_pull(hookup, join) or other.part in reached:
                continue
            if hookup.parts[other.part].kind.group in ("board", "display"):
                return True
            reached.add(other.part)
            pins = hookup.parts[other.part].kind.pins
            ahead += [End(other.part, pin.name) for pin in pins if "supply" not in pin.roles and not is_rail(pin.roles)]
    return False


def _ways_to_be_read(hookup: Hookup, ends: tuple[End, ...]) -> Iterator[Way]:
    """Remedies: one of its pins as a proposal would connect it; a supply's before the ground's, which may stay."""
    joins: list[tuple[End, Join]] = [(end, join) for end in ends for join in hookup.joins_at(end)]
    for end, join in sorted(joins, key=lambda each: "ground" in hookup.pin(each[1].other(each[0])).roles):
        yield from rejoined(hookup, join, end)
