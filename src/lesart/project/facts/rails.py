"""Facts of rails: which one feeds a part or is at a resistor's end, its voltage, and its tolerance."""

from __future__ import annotations

from collections.abc import Iterator

from lesart.core.quantity import plain_number
from lesart.core.wire.hookup import End, Hookup, rail_v, supply_of
from lesart.core.wire.role import is_rail
from lesart.project.model import Home

NOMINAL = 0.02
"""Assumed tolerance of a rail without a stated one: what regulators usually hold."""


def rail_home(hookup: Hookup, rail: End) -> Home | None:
    """The home of a rail's voltage: the part whose voltage is set, else its board.

    None for ground, and for a rail without a stated voltage.
    """
    volts, part = rail_v(hookup, rail), hookup.parts[rail.part]
    if not volts:
        return None
    within = float(part.values.get("rails_within") or 0.0)
    written = f"{plain_number(volts, 6)} V" + (f" ± {plain_number(within, 4)} %" if within else "")
    own = "voltage" if "voltage" in part.values else "rails_within"
    return Home(
        key=("parts", rail.part, own),
        written=written,
        says=str(rail),
        one_with=f"rail {rail}",
        within=within / 100 if within else NOMINAL,
    )


def resistor_ends(hookup: Hookup, resistor: str) -> tuple[End, End] | None:
    """The tap and the rail, or ground, that a resistor is between; None where it is elsewhere, or in several places."""
    found = []
    for join in hookup.joins:
        if join.through != resistor:
            continue
        rails = [end for end in join.ends if is_rail(hookup.pin(end).roles)]
        if len(rails) != 1:
            return None
        found.append((join.other(rails[0]), rails[0]))
    return found[0] if len(found) == 1 else None


def is_ground(hookup: Hookup, end: End) -> bool:
    """True for ground."""
    return "ground" in hookup.pin(end).roles


def sensors_at(hookup: Hookup, tap: End) -> Iterator[str]:
    """Resistive sensors with an end at a tap, or the one that the tap itself belongs to."""
    seen = [tap, *(join.other(tap) for join in hookup.joins_at(tap) if not join.through)]
    for end in seen:
        if "element" in hookup.pin(end).roles:
            yield end.part


def rail_of_sensor(hookup: Hookup, sensor: str, tap: End) -> End | None:
    """The rail at the other end of a resistive sensor; None where it has none."""
    for pin in hookup.parts[sensor].kind.pins:
        end = End(sensor, pin.name)
        if end == tap:
            continue
        for join in hookup.joins_at(end):
            far = join.other(end)
            if is_rail(hookup.pin(far).roles) and far != tap:
                return far
    return None


def feeding(hookup: Hookup, part: str) -> Home | None:
    """The rail that feeds a part."""
    found = supply_of(hookup, part) if part in hookup.parts else None
    return rail_home(hookup, found[1]) if found is not None else None


def reading_board(hookup: Hookup, part: str) -> str | None:
    """The board with the converter that reads a part's voltage, directly or through parts in between."""
    if part not in hookup.parts:
        return None
    for pin in hookup.parts[part].kind.pins:
        for join in hookup.joins_at(End(part, pin.name)):
            far = join.other(End(part, pin.name))
            if "analog in" in hookup.pin(far).roles:
                return far.part
    return None


def reference_home(hookup: Hookup, board: str) -> Home | None:
    """The home of a converter's reference: its own value, else the board's signal rail."""
    part = hookup.parts[board]
    own = float(part.values.get("reference") or 0.0)
    if own:
        return Home(("parts", board, "reference"), f"{plain_number(own, 6)} V", f"the reference of {board}")
    level = part.kind.logic_v
    pin = next((each for each in part.kind.pins if "supply out" in each.roles and each.gives_v == level), None)
    found = rail_home(hookup, End(board, pin.name)) if pin is not None else None
    if found is None:
        return None
    # Most boards use their rail as reference; for any other it is set.
    return Home(("parts", board, "reference"), found.written, found.says, found.one_with, found.within, certain=False)
