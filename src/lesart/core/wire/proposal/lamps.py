"""Lamps of a proposal: to a rail or a pin, each with the resistor for its current."""

from __future__ import annotations

from lesart.core.quantity import plain_number
from lesart.core.wire.currents import LAMP_A, lamps_of, signal_loads
from lesart.core.wire.hookup import End, is_free, rail_v
from lesart.core.wire.part import Part, Pin
from lesart.core.wire.preferred import around
from lesart.core.wire.proposal.draft import DraftHookup
from lesart.core.wire.proposal.power import has_room, to_ground
from lesart.core.wire.proposal.signals import matched

LEAST_LEFT_V, STEADY_V = 0.2, 1.0
"""Least voltage across a lamp's resistor, and that at which a lamp with a little more drop stays as bright."""
PIN_SHARE = 0.8
"""Share of a pin's allowed current that a proposal uses."""


def lamps(grow: DraftHookup) -> None:
    """Connect lamps to a rail or a pin, each with the resistor for its current; large digits through a transistor."""
    for part in list(grow.hookup.parts.values()):
        for pin in part.kind.pins:
            end = End(part.name, pin.name)
            if not pin.optional and is_free(grow.hookup, end):
                if "lamp −" in pin.roles:
                    to_ground(grow, end)
                elif "lamp +" in pin.roles:
                    _lamp_place(grow, end, pin, part)
    _resistors(grow)
    _transistors(grow)


def _lamp_place(grow: DraftHookup, end: End, pin: Pin, part: Part) -> None:
    pins = _matched_digital(grow, end)
    limit = grow.hookup.pin(pins[0]).current_a if pins else None
    is_backlight = any("supply" in each.roles for each in part.kind.pins)
    if pins and not is_backlight and limit is not None and part.value("current") <= PIN_SHARE * limit:
        grow.join(end, pins[0])
        return
    forward = pin.forward_v or part.value("forward")
    wanted = part.value("current") or pin.current_a or LAMP_A
    ohm = pin.series_ohm + part.value("backlight_resistor")
    rails = {
        rail: left for rail in grow.rails() if (left := (rail_v(grow.hookup, rail) or 0.0) - forward) > LEAST_LEFT_V
    }

    def suits(rail: End) -> tuple[bool, bool, float]:
        """True where enough voltage is left across a resistor that tolerances matter little, and built-in resistance
        passes enough current."""
        return ohm > 0 and rails[rail] / ohm < wanted, rails[rail] < STEADY_V, rails[rail]

    fed = [rail for rail in rails if has_room(grow, rail, wanted)]
    if fed:
        grow.join(end, min(fed, key=suits), colour="red")
    elif rails:
        grow.unplaced.append(f"{end} draws {plain_number(wanted * 1000, 3)} mA, and no rail has so much to spare.")
    else:
        grow.unplaced.append(f"{end} drops {plain_number(forward)} V, and no rail gives more.")


def _matched_digital(grow: DraftHookup, end: End) -> list[End]:
    return list(matched(grow, [end]).values())


def _resistors(grow: DraftHookup) -> None:
    """Add resistors of one value for all segments of a part, one each."""
    names: dict[tuple[str, float], str] = {}
    for lamp in lamps_of(grow.hookup):
        if lamp.resistors or lamp.shared_ohm or lamp.left_v <= 0 or lamp.join.through:
            continue
        needed = lamp.left_v / lamp.wanted_a - lamp.ohm
        if needed <= 0:
            continue
        _, ohm = around(needed)
        key = (lamp.end.part, ohm)
        if key not in names:
            names[key] = grow.part(f"{lamp.end.part} resistor", "resistor", resistance=(ohm, "Ω"))
        grow.lead_through(lamp.join, names[key])


def _transistors(grow: DraftHookup) -> None:
    """Add transistors: a digit's common carries all its segments, and a buzzer draws more than most pins give."""
    for part in list(grow.hookup.parts.values()):
        digits = [End(part.name, pin.name) for pin in part.kind.pins if "digit" in pin.roles]
        amps = sum(lamp.least_a for lamp in lamps_of(grow.hookup) if lamp.end.part == part.name)
        joins = [join for digit in digits for join in grow.hookup.joins_at(digit) if not join.through]
        limits = [grow.hookup.pin(join.to).current_a for join in joins]
        if joins and any(limit is not None and amps > limit for limit in limits):
            name = grow.part(f"{part.name} transistor", "transistor")
            for join in joins:
                grow.lead_through(join, name)
    for end, amps, driver in list(signal_loads(grow.hookup)):
        limit = grow.hookup.pin(driver).current_a
        if limit is not None and amps > PIN_SHARE * limit:
            join = next(each for each in grow.hookup.joins_at(end) if each.other(end) == driver)
            grow.lead_through(join, grow.part(f"{end.part} transistor", "transistor"))
