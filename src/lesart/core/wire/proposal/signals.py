"""Signals of a proposal: bus lines to the bus, everything else to a pin of its own.

Pins are assigned by a maximum matching, so that a versatile pin is not taken from the one part that needs it: if there
is any way to place all parts, it is found.
"""

from __future__ import annotations

from lesart.core.wire.hookup import End, Join, is_free, is_pull
from lesart.core.wire.preferred import around
from lesart.core.wire.proposal.draft import DraftHookup
from lesart.core.wire.role import ROLES, roles_meet

BRIDGE = ("E+", "E−", "A+", "A−")
BRIDGE_COLOURS = ("red", "black", "green", "white")
"""Wire colours of most load cells."""
MOST_APART = 10.0
"""Halves of a divider that differ by a larger factor leave little of the range."""


def fixed_ends(grow: DraftHookup) -> None:
    """Connect ends of resistive parts and switches that simply go to a rail."""
    level_rail = grow.level_rail()
    ground = grow.ground()
    for part in list(grow.hookup.parts.values()):
        ends = [pin for pin in part.kind.pins if "element" in pin.roles]
        has_wiper = any("wiper" in pin.roles for pin in part.kind.pins)
        second = [pin for pin in part.kind.pins if pin.roles == ("contact", "ground")]
        for pin in (*ends[1:], *second):
            if ground is not None and is_free(grow.hookup, End(part.name, pin.name)):
                grow.join(End(part.name, pin.name), ground, colour="black")
        if has_wiper and level_rail is not None and is_free(grow.hookup, End(part.name, ends[0].name)):
            grow.join(End(part.name, ends[0].name), level_rail, colour="red")


def bridges(grow: DraftHookup) -> None:
    """Connect each bridge, all four wires, to an amplifier of its own."""
    whole = [part for part in grow.hookup.parts.values() if all(part.kind.pin(name) for name in BRIDGE)]
    free = [part for part in whole if all(is_free(grow.hookup, End(part.name, name)) for name in BRIDGE)]
    amplifiers = [part for part in free if len(part.kind.pins) > len(BRIDGE)]
    for cell in (part for part in free if len(part.kind.pins) == len(BRIDGE)):
        if not amplifiers:
            return
        amplifier = amplifiers.pop(0)
        for name, colour in zip(BRIDGE, BRIDGE_COLOURS, strict=True):
            grow.join(End(cell.name, name), End(amplifier.name, name), colour=colour)


def signals(grow: DraftHookup) -> None:
    """Connect bus lines to the bus, everything else to a pin of its own."""
    wanting = []
    for end, pin in grow.hookup.ends():
        part = grow.hookup.parts[end.part]
        ready = pin.optional or not is_free(grow.hookup, end) or part.kind.group == "board"
        rails = any(role in ("supply", "supply out", "ground", "lamp +", "lamp −") for role in pin.roles)
        if not ready and not rails:
            wanting.append(end)
    shared = [end for end in wanting if any(ROLES[role].shares for role in grow.hookup.pin(end).roles)]
    for end in shared:
        to = _shared_place(grow, end)
        if to is None:
            grow.unplaced.append(_no_place(grow, end))
        elif is_free(grow.hookup, end):
            grow.join(end, to)
    own = [end for end in wanting if end not in shared and is_free(grow.hookup, end)]
    for end, to in matched(grow, own).items():
        if not (is_free(grow.hookup, end) and is_free(grow.hookup, to)):
            continue  # Two open pins of parts were meant for each other.
        join = grow.join(end, to)
        if "element" in grow.hookup.pin(end).roles:
            _fixed_half(grow, join)
    for end in own:
        if is_free(grow.hookup, end):
            grow.unplaced.append(_no_place(grow, end))


def _no_place(grow: DraftHookup, end: End) -> str:
    roles = ", ".join(grow.hookup.pin(end).roles)
    return f"{end} ({roles}) finds no free pin that works with it."


def _shared_place(grow: DraftHookup, end: End) -> End | None:
    """The shared place of a bus line: the board's; between parts, the other's line of the same name."""
    roles = grow.hookup.pin(end).roles
    places = [
        (other.part != grow.board, other)
        for other, pin in grow.hookup.ends()
        if other.part != end.part
        and any(ROLES[role].shares and roles_meet((role,), roles) for role in pin.roles)
        and (grow.hookup.parts[other.part].kind.group != "board" or other.part == grow.board)
        and _stays_shared(grow, other, roles)
    ]
    return min(places)[1] if places else None


def _stays_shared(grow: DraftHookup, end: End, roles: tuple[str, ...]) -> bool:
    """True where that pin has no other job, and the two are not already tied together."""
    return all(
        any(ROLES[role].shares for role in grow.hookup.pin(join.other(end)).roles)
        for join in grow.hookup.joins_at(end)
        if not is_pull(grow.hookup, join)
    )


def matched(grow: DraftHookup, wanting: list[End]) -> dict[End, End]:
    """A maximum matching of open pins with free ones, found by augmenting paths.

    The most demanding pins are tried first, so that versatile pins are taken last.
    """
    free = [
        (end, pin)
        for end, pin in grow.hookup.ends()
        if is_free(grow.hookup, end) and not any(role in ("supply out", "ground") for role in pin.roles)
    ]
    places: dict[End, list[End]] = {}
    for end in wanting:
        roles = grow.hookup.pin(end).roles
        fits = [
            (other.part != grow.board, len(pin.roles), index, other)
            for index, (other, pin) in enumerate(free)
            if other.part != end.part
            and roles_meet(roles, pin.roles)
            and (grow.hookup.parts[other.part].kind.group != "board" or other.part == grow.board)
        ]
        places[end] = [fit[-1] for fit in sorted(fits)]
    taken: dict[End, End] = {}

    def place(end: End, seen: set[End]) -> bool:
        for other in places[end]:
            if other in seen:
                continue
            seen.add(other)
            if other not in taken or place(taken[other], seen):
                taken[other] = end
                return True
        return False

    for end in sorted(wanting, key=lambda each: len(places[each])):
        place(end, set())
    found = {end: other for other, end in taken.items()}
    return {end: found[end] for end in wanting if end in found}


def _fixed_half(grow: DraftHookup, join: Join) -> None:
    """Give a resistive sensor a fixed resistor to the rail, about as large as itself: a spare one, else a new one."""
    rail, part = grow.level_rail(), grow.hookup.parts[join.pin.part]
    if rail is not None:
        _, ohm = around(part.value("resistance", 10_000.0))
        ready = _ready_half(grow, ohm)
        name = ready or grow.part(f"{part.name} divider", "resistor", resistance=(ohm, "Ω"))
        grow.join(join.to, rail, name, "red")


def _ready_half(grow: DraftHookup, ohm: float) -> str:
    """A spare resistor without a connection that can be half of a divider with this resistance."""
    used = {join.through for join in grow.hookup.joins}
    ready = (
        name
        for name, part in grow.hookup.parts.items()
        if part.kind.name == "resistor"
        and name not in used
        and ohm / MOST_APART <= part.value("resistance") <= ohm * MOST_APART
    )
    return next(ready, "")
