"""Notes on supplies: rails and plugs that are overloaded."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from lesart.core.notes import DOUBT, FAULT, Mend
from lesart.core.wire.currents import Drawn, Load, loads_of
from lesart.core.wire.entry import JOINS, join_entry
from lesart.core.wire.faults.currents import milliamps
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.hookup import End, Hookup, Join, rail_v, supply_join, works_at
from lesart.core.wire.preferred import around


def inspect_rails(hookup: Hookup) -> Iterator[Finding]:
    """All notes on supplies."""
    for load in loads_of(hookup):
        yield from _rail(hookup, load)
    yield from _unused(hookup)


def _unused(hookup: Hookup) -> Iterator[Finding]:
    """A finding on a battery, an adapter or a converter whose output goes nowhere, while something needs it."""
    takers = [end for end, pin in hookup.ends() if "supply" in pin.roles]
    for end, pin in hookup.ends():
        part = hookup.parts[end.part]
        is_free = "supply out" in pin.roles and part.kind.group == "source" and not hookup.joins_at(end)
        if not is_free or not any(taker.part != end.part for taker in takers):
            continue
        yield found(
            "unused",
            DOUBT,
            end.part,
            f"{end} is open: {end.part} feeds nothing.",
            at=(end,),
            remedy="join it to what it feeds, or leave the part out",
            ways=partial(_ways_to_feed, hookup, end),
        )


def _ways_to_feed(hookup: Hookup, rail: End) -> Iterator[Way]:
    """Remedies: parts that take such a supply and have none; boards first, which feed the others."""
    volts = rail_v(hookup, rail)
    free = [end for end, pin in hookup.ends() if "supply" in pin.roles and supply_join(hookup, end) is None]
    for end in sorted(free, key=lambda each: hookup.parts[each.part].kind.group != "board"):
        if works_at(hookup, end, volts) and end.part != rail.part:
            yield Way(f"feed {end} from it", (Mend(JOINS, join_entry(Join(rail, end))),))


def _rail(hookup: Hookup, load: Load) -> Iterator[Finding]:
    """A finding on a rail: too weak at usual currents, for one peak, or only if all peaks coincide."""
    limit, worst = load.limit_a, load.worst
    if limit is None or worst is None or load.all_peaks_a <= limit * (1 + 1e-9):
        return
    is_plug = "supply out" not in hookup.pin(load.rail).roles
    name = f"The plug of {load.rail.part}" if is_plug else str(load.rail)
    if load.usual_a > limit:
        verb = "draws" if len({each.of for each in load.drawn}) == 1 else "draw"
        text = f"{name} gives {milliamps(limit)}; {_listed(load)} {verb} {milliamps(load.usual_a)}."
        figure, mark, of = load.usual_a, FAULT, max(load.drawn, key=lambda each: each.usual_a).of
    elif load.one_peak_a > limit:
        text = (
            f"{name} gives {milliamps(limit)}, too little for {worst.of} at its peak of {milliamps(worst.peak_a)}: "
            f"{milliamps(load.one_peak_a)} in all."
        )
        figure, mark, of = load.one_peak_a, FAULT, worst.of
    else:
        text = f"{name} gives {milliamps(limit)}; if all peaks coincide, {milliamps(load.all_peaks_a)} is drawn."
        figure, mark, of = load.all_peaks_a, DOUBT, worst.of
    at = [end for join in hookup.joins_at(load.rail) if (end := join.other(load.rail)).part == of]
    yield found(
        f"rail {load.rail}",
        mark,
        of,
        text,
        figure=figure,
        unit="A",
        limit=limit,
        at=at or (load.rail,),
        remedy=f"use a supply of {_next_supply(figure)} or more",
        ways=partial(_other_rails, hookup, load, of),
    )


def _listed(load: Load) -> str:
    names = list(dict.fromkeys(each.of for each in sorted(load.drawn, key=_usual, reverse=True)))
    return " and ".join(names) if len(names) < 3 else f"{names[0]}, {names[1]} and others"


def _usual(each: Drawn) -> float:
    return each.usual_a


def _next_supply(amps: float) -> str:
    """The next supply size: half as much again, as a round figure."""
    return milliamps(around(amps * 1.5)[1])


def _other_rails(hookup: Hookup, load: Load, of: str) -> Iterator[Way]:
    """Rails that suit the largest load; whether they and what feeds them can carry it is proven later."""
    for join in hookup.joins_at(load.rail):
        taker = join.other(load.rail)
        if taker.part != of or "supply" not in hookup.pin(taker).roles:
            continue
        for end, other in hookup.ends():
            volts = rail_v(hookup, end) if "supply out" in other.roles and end.part != of else None
            if end != load.rail and works_at(hookup, taker, volts):
                side = "to" if join.to == load.rail else "pin"
                yield Way(f"feed {of} from {end}", (Mend((*JOINS, join.index, side), str(end)),))
