"""Addresses, supplies and grounds of a proposal."""

from __future__ import annotations

import math
from dataclasses import replace

from lesart.core.notes import Mend
from lesart.core.quantity import plain_number
from lesart.core.wire.currents import loads_of, peak_a, rail_limit_a
from lesart.core.wire.hookup import End, Hookup, fed_through, is_free, logic_v, rail_v, takes_v, works_at
from lesart.core.wire.part import Part, Pin, shown_address
from lesart.core.wire.proposal.draft import DraftHookup


def addresses(grow: DraftHookup) -> None:
    """Give each part on the bus its own address, as far as straps allow."""
    taken: set[int] = set()
    for part in list(grow.hookup.parts.values()):
        if part.address is None:
            continue
        if part.address in taken:
            free = next((each for each in part.kind.addresses if each not in taken), None)
            if free is None:
                grow.unplaced.append(f"{part.name} finds no address that is free on the bus.")
            else:
                changed = replace(part, address=free)
                grow.hookup = replace(grow.hookup, parts={**grow.hookup.parts, part.name: changed})
                grow.mends.append(Mend(("parts", part.name, "address"), shown_address(free)))
                taken.add(free)
        taken.add(part.address)


def sources(grow: DraftHookup) -> None:
    """Feed a board from a source that suits it; without one it is fed by its plug."""
    for part in grow.hookup.parts.values():
        if part.kind.group not in ("board", "source"):
            continue
        for pin in part.kind.pins:
            end = End(part.name, pin.name)
            if "supply" in pin.roles and is_free(grow.hookup, end):
                rail = _rail_for(grow, end, [each for each in grow.rails() if _may_feed(grow, each, end)])
                if rail is not None:
                    grow.join(end, rail)
                elif not pin.optional:
                    grow.unplaced.append(f"{end} finds no supply from {volts_wanted(grow.hookup, end)}.")


def _may_feed(grow: DraftHookup, rail: End, supply: End) -> bool:
    """True where one may feed the other: a battery feeds a regulator or a board, a regulator feeds a board."""
    order = {"battery": 0, "supply": 0, "regulator": 1}
    above, below = (grow.hookup.parts[end.part] for end in (rail, supply))
    higher = order.get(above.kind.name, 0) < order.get(below.kind.name, 2)
    return above.kind.group == "source" and higher and not _comes_from(grow, rail, supply.part)


def _comes_from(grow: DraftHookup, rail: End, part: str) -> bool:
    """True where a rail belongs to that part, or is fed through it."""
    feeder = grow.hookup.pin(rail).fed_by
    behind = fed_through(grow.hookup, End(rail.part, feeder)) if feeder else ()
    return part in (rail.part, *(each.part for each in behind))


def supplies(grow: DraftHookup) -> None:
    """Connect supplies and grounds of everything else."""
    for end, pin in list(grow.hookup.ends()):
        group = grow.hookup.parts[end.part].kind.group
        if pin.optional or not is_free(grow.hookup, end):
            continue
        if "supply" in pin.roles and group not in ("board", "source"):
            rail = _rail_for(grow, end, grow.rails())
            if rail is None:
                wanted = amps_wanted(grow.hookup.parts[end.part], pin)
                volts = volts_wanted(grow.hookup, end)
                grow.unplaced.append(f"{end} finds no supply from {volts} with {wanted} to spare.")
            else:
                grow.join(end, rail)
        elif "ground" in pin.roles and "contact" not in pin.roles:
            to_ground(grow, end)
    _grounds_of_boards(grow)


def to_ground(grow: DraftHookup, end: End) -> None:
    ground = grow.ground()
    if ground is None or ground.part == end.part:
        return
    grow.join(end, ground, colour="black")


def _grounds_of_boards(grow: DraftHookup) -> None:
    """Connect the ground of a second board, too: parts joined by signals need a common ground."""
    for name, part in grow.hookup.parts.items():
        if part.kind.group == "board" and name != grow.board:
            for pin in part.kind.pins:
                if "ground" in pin.roles and is_free(grow.hookup, End(name, pin.name)):
                    to_ground(grow, End(name, pin.name))
                    break


def _rail_for(grow: DraftHookup, supply: End, rails: list[End]) -> End | None:
    """A rail in range, with enough current for the peak; at the level of the board's signals if there is a choice."""
    pin = grow.hookup.pin(supply)
    level = logic_v(grow.hookup, grow.board) if grow.board else None
    best = None
    for rail in rails:
        volts = rail_v(grow.hookup, rail)
        if not works_at(grow.hookup, supply, volts):
            continue
        if not has_room(grow, rail, peak_a(grow.hookup.parts[supply.part], pin)):
            continue
        rank = (volts != level, grow.hookup.parts[rail.part].kind.name == "battery")
        if best is None or rank < best[0]:
            best = (rank, rail)
    return best[1] if best else None


def has_room(grow: DraftHookup, rail: End, amps: float, seen: tuple[End, ...] = ()) -> bool:
    """True where the rail, and all that feed it, can still give that current.

    A rail that feeds itself gives nothing.
    """
    if rail in seen:
        return False
    limit = rail_limit_a(grow.hookup, rail)
    loads = {load.rail: load.all_peaks_a for load in loads_of(grow.hookup)}
    if limit is not None and loads.get(rail, 0.0) + amps > limit:
        return False
    part, feeder = grow.hookup.parts[rail.part], grow.hookup.pin(rail).fed_by
    if not feeder:
        return True
    supply = End(rail.part, feeder)
    source = next((join.other(supply) for join in grow.hookup.joins_at(supply)), None)
    if source is not None:
        return has_room(grow, source, amps, (*seen, rail))
    plug = part.values.get("plug")
    return plug is None or loads.get(supply, 0.0) + amps <= float(plug)


def volts_wanted(hookup: Hookup, supply: End) -> str:
    """The voltage range of a supply pin, in words."""
    low, high = takes_v(hookup, supply)
    return f"{plain_number(low)} to {plain_number(high)} V" if math.isfinite(high) else f"{plain_number(low)} V on"


def amps_wanted(part: Part, pin: Pin) -> str:
    """The greatest current of a supply pin, in words."""
    return f"{plain_number(peak_a(part, pin) * 1000, 3)} mA"
