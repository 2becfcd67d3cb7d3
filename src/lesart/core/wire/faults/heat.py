"""Notes on regulators that get too hot: heat is their voltage drop times the current through them."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from lesart.core.notes import DOUBT, FAULT, Mend
from lesart.core.quantity import plain_number
from lesart.core.wire.currents import Load, loads_of
from lesart.core.wire.entry import JOINS
from lesart.core.wire.faults.currents import milliamps
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.faults.levels import volts
from lesart.core.wire.hookup import End, Hookup, rail_v, supply_join, works_at


def inspect_heat(hookup: Hookup) -> Iterator[Finding]:
    """Notes on each correctly fed regulator: too hot at usual currents, or at the peak of the largest load.

    Heat = (what comes in − what goes out) × current; source: conservation of energy. How long a peak lasts is not
    known.
    """
    for load in loads_of(hookup):
        part = hookup.parts[load.rail.part]
        limit_w, dropped_v = part.values.get("heat"), _dropped_v(hookup, load)
        if limit_w is None or dropped_v is None:
            continue
        usual_w, worst_w = dropped_v * load.usual_a, dropped_v * load.one_peak_a
        if worst_w <= float(limit_w):
            continue
        is_usual = usual_w > float(limit_w)
        watts, amps = (usual_w, load.usual_a) if is_usual else (worst_w, load.one_peak_a)
        when = "" if is_usual or load.worst is None else f" while {load.worst.of} is at its peak"
        yield found(
            "heat",
            FAULT if is_usual else DOUBT,
            part.name,
            f"{part.name} drops {volts(dropped_v)} at {milliamps(amps)}{when}: {plain_number(watts, 2)} W of heat, and "
            f"it gets rid of {plain_number(float(limit_w), 3)} W; too hot, it switches itself off.",
            figure=watts,
            unit="W",
            limit=float(limit_w),
            remedy="feed it with less, give it a heat sink, or use a switching converter, which stays cool",
            at=(load.rail,),
            ways=partial(_lower_rails, hookup, load),
        )


def _input(hookup: Hookup, load: Load) -> End | None:
    feeder = hookup.pin(load.rail).fed_by
    return End(load.rail.part, feeder) if feeder else None


def _dropped_v(hookup: Hookup, load: Load) -> float | None:
    """The voltage drop of a regulator; None for other parts, or where it is not fed correctly."""
    supply = _input(hookup, load)
    join = supply_join(hookup, supply) if supply is not None else None
    if supply is None or join is None:
        return None
    given, gives = rail_v(hookup, join.other(supply)), rail_v(hookup, load.rail)
    return given - gives if given is not None and gives is not None and works_at(hookup, supply, given) else None


def _lower_rails(hookup: Hookup, load: Load) -> Iterator[Way]:
    """Rails of lower voltage that still suffice, the lowest first."""
    supply = _input(hookup, load)
    join = supply_join(hookup, supply) if supply is not None else None
    if supply is None or join is None:
        return
    now = rail_v(hookup, join.other(supply)) or 0.0
    rails = [
        (gives, str(end), end)
        for end, pin in hookup.ends()
        if "supply out" in pin.roles
        and end.part != supply.part
        and (gives := rail_v(hookup, end)) is not None
        and gives < now
        and works_at(hookup, supply, gives)
    ]
    for *_, end in sorted(rails):
        side = "to" if join.pin == supply else "pin"
        yield Way(f"feed {supply} from {end}", (Mend((*JOINS, join.index, side), str(end)),))
