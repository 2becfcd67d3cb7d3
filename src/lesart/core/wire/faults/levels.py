"""Notes on voltages: supplies out of range, levels too high or too low, sources a converter cannot read."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator
from functools import partial

from lesart.core.notes import DOUBT, FAULT, Mend
from lesart.core.quantity import listed, plain_number
from lesart.core.wire.catalogue.boards import DROPOUT_V
from lesart.core.wire.entry import JOINS, free_name, join_entry, written
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.hookup import (
    End,
    Hookup,
    Join,
    bus_lines,
    fed_through,
    high_v,
    is_pull,
    logic_v,
    rail_v,
    supply_join,
    takes_v,
    used_roles,
    works_at,
)
from lesart.core.wire.levels import ANALOG, Level, levels_of
from lesart.core.wire.preferred import around
from lesart.core.wire.proposal.dividing import analog_divider

REGULATED_V = (3.3, 5.0, 9.0, 12.0)
"""Voltages that regulators are sold for."""
REGULATOR_TAKES_V = (4.5, 15.0)


def inspect_levels(hookup: Hookup) -> Iterator[Finding]:
    """All notes on voltages."""
    yield from _loops(hookup)
    yield from _supplies(hookup)
    yield from _signals(hookup)
    yield from _pulled_signals(hookup)
    yield from _sources(hookup)
    yield from _halves(hookup)


def volts(value: float) -> str:
    """Volts as ``3.3 V``."""
    return f"{plain_number(value, 4)} V"


def _loops(hookup: Hookup) -> Iterator[Finding]:
    """Supplies that feed themselves: one finding per loop."""
    told: set[frozenset[End]] = set()
    for end, pin in hookup.ends():
        rails = fed_through(hookup, end) if "supply" in pin.roles else ()
        if len(rails) < 2 or rails[-1] not in rails[:-1] or hookup.pin(rails[-1]).fed_by == "":
            continue
        circle = frozenset(rails[rails.index(rails[-1]) :])
        if circle in told or not any(rail.part == end.part for rail in circle):
            continue
        told.add(circle)
        yield found(
            "loop",
            FAULT,
            end.part,
            f"{end} is fed by {rails[0]}, which comes from {end} itself: nothing gives either of them power.",
            remedy=f"feed {end} from another supply, of {_range(hookup, end)}",
            at=(end,),
            ways=partial(_other_rails, hookup, end),
        )


def _range(hookup: Hookup, end: End) -> str:
    low, high = takes_v(hookup, end)
    return f"{volts(low)} to {volts(high)}" if math.isfinite(high) else volts(low)


def _too_much_or_little(hookup: Hookup, end: End, given: float) -> str:
    """Why a supply voltage is out of range; for a converter what it would make of it."""
    (low, high), gives = takes_v(hookup, end), hookup.parts[end.part].values.get("voltage")
    pin = hookup.pin(end)
    if given > high:
        is_step_up = high < (pin.highest_v or math.inf)
        through = f"more than the {volts(high)} that it gives: a step-up lets it through"
        return through if is_step_up else f"more than it tolerates ({_range(hookup, end)})"
    if gives is not None and low > (pin.lowest_v or 0.0):
        return f"too little to give {volts(float(gives))}: that takes {volts(low)}"
    return f"less than it works at ({_range(hookup, end)})"


def _supplies(hookup: Hookup) -> Iterator[Finding]:
    for end, pin in hookup.ends():
        join = supply_join(hookup, end) if "supply" in pin.roles else None
        given = rail_v(hookup, join.other(end)) if join else None
        low, high = takes_v(hookup, end)
        if join is None or given is None or works_at(hookup, end, given):
            continue
        other = "put a regulator between" if given > high else "put a step-up between"
        yield found(
            "supply",
            FAULT,
            end.part,
            f"{end} gets {volts(given)} from {join.other(end)}, {_too_much_or_little(hookup, end, given)}.",
            figure=given,
            unit="V",
            limit=high if given > high else low,
            remedy=f"feed it from a supply of {_range(hookup, end)}, or {other}",
            at=(end,),
            ways=partial(_other_supplies, hookup, end, given > high),
        )


def _other_supplies(hookup: Hookup, end: End, is_too_high: bool) -> Iterator[Way]:
    yield from _other_rails(hookup, end)
    if is_too_high:
        yield from _regulated(hookup, end)


def _other_rails(hookup: Hookup, end: End) -> Iterator[Way]:
    """Another rail in range: of the same part first, and none that this supply itself feeds."""
    join = supply_join(hookup, end)
    if join is None:
        return
    near = join.other(end)
    rails = [
        rail
        for rail, other in hookup.ends()
        if "supply out" in other.roles and rail.part != end.part and works_at(hookup, end, rail_v(hookup, rail))
    ]
    key = (*JOINS, join.index, "to" if join.to == near else "pin")
    for rail in sorted(rails, key=lambda rail: rail.part != near.part):
        yield Way(f"join {end} to {rail}", (Mend(key, str(rail)),))


def _regulated(hookup: Hookup, end: End) -> Iterator[Way]:
    """A regulator in between: to the level of the part that its signals go to, where that is allowed."""
    join = supply_join(hookup, end)
    ground = next(
        (End(end.part, each.name) for each in hookup.parts[end.part].kind.pins if each.roles == ("ground",)), None
    )
    given = rail_v(hookup, join.other(end)) if join is not None else None
    if join is None or ground is None or given is None or not REGULATOR_TAKES_V[0] <= given <= REGULATOR_TAKES_V[1]:
        return
    level = next(
        (
            level
            for part in hookup.parts.values()
            if part.kind.group == "board" and (level := logic_v(hookup, part.name))
        ),
        None,
    )
    fit = [each for each in REGULATED_V if works_at(hookup, end, each) and each + DROPOUT_V <= given]
    name = free_name(hookup.parts, f"{end.part} regulator")
    rail, side = join.other(end), "to" if join.pin == end else "pin"
    for gives in sorted(fit, key=lambda each: each != level):
        yield Way(
            f"put a regulator of {volts(gives)} between",
            (
                Mend(("parts", name), {"kind": "regulator", "voltage": f"{gives:g} V"}),
                Mend((*JOINS, join.index, side), f"{name}.out"),
                Mend(JOINS, join_entry(Join(End(name, "in"), rail, colour="red"))),
                Mend(JOINS, join_entry(Join(End(name, "gnd"), ground, colour="black"))),
            ),
        )


def _signals(hookup: Hookup) -> Iterator[Finding]:
    """One note per pair of parts and kind of fault, or a display with eight data lines would get eight."""
    found: defaultdict[tuple[str, str, bool, str], list[Level]] = defaultdict(list)
    for level in levels_of(hookup):
        if level.too_high or level.too_low:
            kind = "analog" if _is_analog(hookup, level.join) else "digital"
            found[level.driver.part, level.listener.part, level.too_high, kind].append(level)
    for (_, listener, too_high, kind), levels in found.items():
        yield _level_note(hookup, levels, too_high, kind == "analog", listener)


def _is_analog(hookup: Hookup, join: Join) -> bool:
    return any(role in ANALOG for role in used_roles(hookup, join) or ())


def _level_note(hookup: Hookup, levels: list[Level], too_high: bool, analog: bool, listener: str) -> Finding:
    first = levels[0]
    names = listed([str(level.driver) for level in levels])
    limit = first.tolerated if too_high else first.needed
    assert limit is not None
    part = first.driver.part if hookup.parts[listener].kind.group == "board" else listener
    puts = "puts" if len(levels) == 1 else "put"
    what = "tolerates only" if too_high else "reads high only from"
    text = f"{names} {puts} {volts(first.volts)} on {first.listener}, which {what} {volts(limit)}."
    remedy = "bring it down before the converter" if analog else "put a level shifter between"
    return found(
        "level",
        FAULT,
        part,
        text,
        figure=first.volts,
        unit="V",
        limit=limit,
        remedy=remedy,
        at=[level.driver for level in levels],
        ways=partial(_ways_between, hookup, tuple(levels), analog, part),
    )


def _ways_between(hookup: Hookup, levels: tuple[Level, ...], analog: bool, part: str) -> Iterator[Way]:
    """Remedies: a divider before a converter, else a level shifter; a part already in between is changed, or
    replaced."""
    between = {level.join.through for level in levels if level.join.through}
    for name in sorted(between):
        if hookup.parts[name].kind.name == "divider":
            level = next(level for level in levels if level.join.through == name)
            pair = _divider(hookup, level)
            if pair is not None:
                upper, lower = (written(ohm, "Ω") for ohm in pair)
                yield Way(
                    f"make {name} {upper} and {lower}",
                    (Mend(("parts", name, "upper"), upper), Mend(("parts", name, "lower"), lower)),
                )
    where = f"instead of {' and '.join(sorted(between))}" if between else "between"
    if analog:
        yield from _with_divider(hookup, levels[0], where)
    else:
        name = free_name(hookup.parts, f"{part} levels")
        joins = sorted({level.join.index for level in levels})
        mends = (Mend((*JOINS, index, "through"), name) for index in joins)
        yield Way(f"put a level shifter {where}", (Mend(("parts", name), {"kind": "level shifter"}), *mends))


def _divider(hookup: Hookup, level: Level) -> tuple[float, float] | None:
    """A divider for the full voltage of the driver."""
    pin, driver, whole = hookup.pin(level.listener), hookup.pin(level.driver), high_v(hookup, level.driver)
    if level.tolerated is None or whole is None or whole <= level.tolerated:
        return None
    return analog_divider(whole, level.tolerated, driver.source_ohm or 0.0, pin.accepts_ohm or float("inf"))


def _with_divider(hookup: Hookup, level: Level, where: str) -> Iterator[Way]:
    pair = _divider(hookup, level)
    if pair is None:
        return
    name = free_name(hookup.parts, f"{level.driver.part} divider")
    upper, lower = (written(ohm, "Ω") for ohm in pair)
    yield Way(
        f"put a divider of {upper} and {lower} {where}",
        (
            Mend(("parts", name), {"kind": "divider", "upper": upper, "lower": lower}),
            Mend((*JOINS, level.join.index, "through"), name),
        ),
    )


def _pulled_signals(hookup: Hookup) -> Iterator[Finding]:
    """Findings where a resistor to a rail brings the rail's voltage to a pin. A bus is judged as a whole, elsewhere."""
    on_bus = {end for line in bus_lines(hookup) for end in line.ends}
    for join in hookup.joins:
        if not is_pull(hookup, join):
            continue
        rail = next(end for end in join.ends if any(role in ("supply out", "ground") for role in hookup.pin(end).roles))
        end, given = join.other(rail), rail_v(hookup, rail)
        pin = hookup.pin(end)
        if given is None or pin.tolerates_v is None or given <= pin.tolerates_v or end in on_bus:
            continue
        yield found(
            "pulled",
            FAULT,
            end.part,
            f"{join.through} pulls {end} up to {volts(given)}; it tolerates only {volts(pin.tolerates_v)}.",
            figure=given,
            unit="V",
            limit=pin.tolerates_v,
            remedy="lead it to a lower rail",
            at=(end,),
            ways=partial(_lower_rails, hookup, join, rail, pin.tolerates_v),
        )


def _lower_rails(hookup: Hookup, join: Join, rail: End, most_v: float) -> Iterator[Way]:
    rails = [
        (there, other)
        for other, each in hookup.ends()
        if "supply out" in each.roles and (there := rail_v(hookup, other)) and there <= most_v
    ]
    key = (*JOINS, join.index, "to" if join.to == rail else "pin")
    for _, other in sorted(rails, reverse=True):
        yield Way(f"lead {join.through} to {other}", (Mend(key, str(other)),))


def _sources(hookup: Hookup) -> Iterator[Finding]:
    """Findings on weak sources: a sampling converter charges a small capacitor, and they do not fill it in time."""
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if roles is None or "analog in" not in roles:
            continue
        listener = join.ends[roles.index("analog in")]
        accepts = hookup.pin(listener).accepts_ohm
        ohm = source_ohm(hookup, join, listener)
        if accepts is None or ohm is None or ohm <= accepts:
            continue
        yield found(
            "source",
            DOUBT,
            join.other(listener).part,
            f"{join.other(listener)} reaches {listener} through "
            f"{written(ohm, 'Ω')}; the converter reads rightly up to {written(accepts, 'Ω')}.",
            figure=ohm,
            unit="Ω",
            limit=accepts,
            remedy="use smaller resistors, or put 100 nF from the pin to ground and read slowly",
            at=(join.other(listener),),
        )


def source_ohm(hookup: Hookup, join: Join, listener: End) -> float | None:
    """Source resistance that a converter sees; None where unknown."""
    driver = join.other(listener)
    pin, part, between = hookup.pin(driver), hookup.parts[driver.part], hookup.through(join)
    ohm = pin.source_ohm
    if "element" in pin.roles:
        fixed = [hookup.through(each) for each in hookup.joins_at(listener) if is_pull(hookup, each)]
        own = part.value("resistance")
        ohm = 1 / (1 / own + sum(1 / each.value("resistance") for each in fixed if each)) if own else None
    if "wiper" in pin.roles:
        # The worst case is the tap in the middle.
        ohm = part.value("resistance") / 4
    if ohm is None or between is None:
        return ohm
    if between.kind.name == "divider":
        upper, lower = between.value("upper") + ohm, between.value("lower")
        return upper * lower / (upper + lower)
    return ohm + between.value("resistance")


def _halves(hookup: Hookup) -> Iterator[Finding]:
    """Findings on resistive sensors alone at a converter, which then only reads their rail."""
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if roles is None or set(roles) != {"analog in", "element"}:
            continue
        listener = join.ends[roles.index("analog in")]
        if any(is_pull(hookup, each) for each in hookup.joins_at(listener)):
            continue
        part = hookup.parts[join.other(listener).part]
        if any("wiper" in pin.roles for pin in part.kind.pins):
            continue
        yield _half_note(hookup, join, listener, part.value("resistance", 10_000.0))


def _half_note(hookup: Hookup, join: Join, listener: End, sensor_ohm: float) -> Finding:
    part, ohm = join.other(listener).part, written(around(sensor_ohm)[1], "Ω")
    return found(
        "half",
        FAULT,
        part,
        f"{join.other(listener)} is alone at {listener}; without a fixed resistor to a rail nothing changes there.",
        remedy=f"put {ohm} from {listener} to a rail",
        at=(join.other(listener),),
        ways=partial(_fixed_halves, hookup, part, listener, ohm),
    )


def _fixed_halves(hookup: Hookup, part: str, listener: End, ohm: str) -> Iterator[Way]:
    """Remedies: a fixed resistor from the converter pin to a rail of its board, the highest that its pins tolerate
    first."""
    level = hookup.parts[listener.part].kind.logic_v
    pins = [
        pin
        for pin in hookup.parts[listener.part].kind.pins
        if "supply out" in pin.roles and level is not None and (pin.gives_v or 0.0) <= level
    ]
    name = free_name(hookup.parts, f"{part} divider")
    for pin in sorted(pins, key=lambda pin: -(pin.gives_v or 0.0)):
        rail = End(listener.part, pin.name)
        yield Way(
            f"put {ohm} from {listener} to {rail}",
            (
                Mend(("parts", name), {"kind": "resistor", "resistance": ohm}),
                Mend(JOINS, join_entry(Join(listener, rail, name, "red"))),
            ),
        )
