"""Notes on voltages: supplies out of range, levels too high or too low, sources a converter cannot read."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from lesart.core.notes import DOUBT, FAULT, Mend, Note
from lesart.core.quantity import plain_number
from lesart.core.wire.dividing import analog_divider
from lesart.core.wire.entry import JOINS, free_name, join_entry, written
from lesart.core.wire.hookup import End, Hookup, Join, bus_lines, is_pull, rail_v, supply_join, used_roles
from lesart.core.wire.inspect_pins import note
from lesart.core.wire.levels import ANALOG, Level, levels_of
from lesart.core.wire.part import Pin
from lesart.core.wire.preferred import around


def inspect_levels(hookup: Hookup) -> Iterator[Note]:
    """All of them."""
    yield from _supplies(hookup)
    yield from _signals(hookup)
    yield from _pulled_signals(hookup)
    yield from _sources(hookup)
    yield from _halves(hookup)


def volts(value: float) -> str:
    """``3.3 V``."""
    return f"{plain_number(value, 4)} V"


def _supplies(hookup: Hookup) -> Iterator[Note]:
    for end, pin in hookup.ends():
        join = supply_join(hookup, end) if "supply" in pin.roles else None
        given = rail_v(hookup, join.other(end)) if join else None
        low, high = pin.lowest_v or 0.0, pin.highest_v or float("inf")
        if join is None or given is None or low <= given <= high:
            continue
        rail, wrong = join.other(end), "more than it stands" if given > high else "less than it works at"
        limit = high if given > high else low
        better = _rail_in_range(hookup, pin, rail)
        key = (*JOINS, join.index, "to" if join.to == rail else "pin")
        yield note(
            FAULT, end.part, f"{end} gets {volts(given)} from {rail}, {wrong} ({volts(low)} to {volts(high)}).",
            figure=given, unit="V", limit=limit,
            remedy=f"join it to {better}" if better else f"feed it with {volts(low)} to {volts(high)}",
            mend=(Mend(key, str(better)),) if better else (), at=(end,),
        )  # fmt: skip


def _rail_in_range(hookup: Hookup, pin: Pin, near: End) -> End | None:
    """A rail of the same part first."""
    rails = [
        end for end, other in hookup.ends()
        if "supply out" in other.roles and (given := rail_v(hookup, end)) is not None
        and (pin.lowest_v or 0.0) <= given <= (pin.highest_v or float("inf"))
    ]  # fmt: skip
    return min(rails, key=lambda end: end.part != near.part, default=None)


def _signals(hookup: Hookup) -> Iterator[Note]:
    """One note for each pair of parts and kind of fault, or a display of eight data lines would make eight."""
    found: defaultdict[tuple[str, str, bool, str], list[Level]] = defaultdict(list)
    for level in levels_of(hookup):
        if level.too_high or level.too_low:
            kind = "analog" if _is_analog(hookup, level.join) else "digital"
            found[level.driver.part, level.listener.part, level.too_high, kind].append(level)
    for (_, listener, too_high, kind), levels in found.items():
        yield _level_note(hookup, levels, too_high, kind == "analog", listener)


def _is_analog(hookup: Hookup, join: Join) -> bool:
    return any(role in ANALOG for role in used_roles(hookup, join) or ())


def _level_note(hookup: Hookup, levels: list[Level], too_high: bool, analog: bool, listener: str) -> Note:
    first = levels[0]
    names = ", ".join(str(level.driver) for level in levels)
    limit = first.tolerated if too_high else first.needed
    assert limit is not None
    part = first.driver.part if hookup.parts[listener].kind.group == "board" else listener
    if too_high:
        said = f"{names} puts {volts(first.volts)} on {first.listener}, which stands {volts(limit)}."
    else:
        said = f"{names} puts {volts(first.volts)} on {first.listener}, which reads high from {volts(limit)}."
    mends: tuple[Mend, ...] = ()
    if any(level.join.through for level in levels):
        remedy = f"change {first.join.through}, or put a level shifter in its place"
    elif analog:
        remedy, mends = _with_divider(hookup, first)
    else:
        remedy, mends = _with_shifter(hookup, levels, part)
    ends = [level.driver for level in levels]
    return note(FAULT, part, said, figure=first.volts, unit="V", limit=limit, remedy=remedy, mend=mends, at=ends)


def _with_shifter(hookup: Hookup, levels: list[Level], part: str) -> tuple[str, tuple[Mend, ...]]:
    name = free_name(hookup.parts, f"{part} levels")
    joins = sorted({level.join.index for level in levels})
    return "put a level shifter between", (
        Mend(("parts", name), {"kind": "level shifter"}),
        *(Mend((*JOINS, index, "through"), name) for index in joins),
    )


def _with_divider(hookup: Hookup, level: Level) -> tuple[str, tuple[Mend, ...]]:
    pin, driver = hookup.pin(level.listener), hookup.pin(level.driver)
    assert level.tolerated is not None
    pair = analog_divider(level.volts, level.tolerated, driver.source_ohm or 0.0, pin.accepts_ohm or float("inf"))
    if pair is None:
        return "bring it down before the converter", ()
    name = free_name(hookup.parts, f"{level.driver.part} divider")
    upper, lower = (written(ohm, "Ω") for ohm in pair)
    return f"put a divider of {upper} and {lower} between", (
        Mend(("parts", name), {"kind": "divider", "upper": upper, "lower": lower}),
        Mend((*JOINS, level.join.index, "through"), name),
    )


def _pulled_signals(hookup: Hookup) -> Iterator[Note]:
    """A resistor to a rail brings the rail's voltage to the pin. A bus is judged as a whole, elsewhere."""
    on_bus = {end for line in bus_lines(hookup) for end in line.ends}
    for join in hookup.joins:
        if not is_pull(hookup, join):
            continue
        rail = next(end for end in join.ends if any(role in ("supply out", "ground") for role in hookup.pin(end).roles))
        end, given = join.other(rail), rail_v(hookup, rail)
        pin = hookup.pin(end)
        if given is None or pin.tolerates_v is None or given <= pin.tolerates_v or end in on_bus:
            continue
        rails = [
            (volts_there, other) for other, each in hookup.ends()
            if "supply out" in each.roles and (volts_there := rail_v(hookup, other)) and volts_there <= pin.tolerates_v
        ]  # fmt: skip
        better = max(rails)[1] if rails else None
        key = (*JOINS, join.index, "to" if join.to == rail else "pin")
        yield note(
            FAULT, end.part, f"{join.through} pulls {end} up to {volts(given)}; it stands {volts(pin.tolerates_v)}.",
            figure=given, unit="V", limit=pin.tolerates_v,
            remedy=f"lead it to {better}" if better else "lead it to a lower rail",
            mend=(Mend(key, str(better)),) if better else (), at=(end,),
        )  # fmt: skip


def _sources(hookup: Hookup) -> Iterator[Note]:
    """A sampling converter charges a small capacitor; a weak source does not fill it in time."""
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if roles is None or "analog in" not in roles:
            continue
        listener = join.ends[roles.index("analog in")]
        accepts = hookup.pin(listener).accepts_ohm
        ohm = source_ohm(hookup, join, listener)
        if accepts is None or ohm is None or ohm <= accepts:
            continue
        yield note(
            DOUBT, join.other(listener).part, f"{join.other(listener)} reaches {listener} through "
            f"{written(ohm, 'Ω')}; the converter reads rightly up to {written(accepts, 'Ω')}.",
            figure=ohm, unit="Ω", limit=accepts,
            remedy="take smaller resistors, or put 100 nF from the pin to ground and read slowly",
            at=(join.other(listener),),
        )  # fmt: skip


def source_ohm(hookup: Hookup, join: Join, listener: End) -> float | None:
    """Resistance that a converter sees; None where nothing tells it."""
    driver = join.other(listener)
    pin, part, between = hookup.pin(driver), hookup.parts[driver.part], hookup.through(join)
    ohm = pin.source_ohm
    if "element" in pin.roles:
        fixed = [hookup.through(each) for each in hookup.joins_at(listener) if is_pull(hookup, each)]
        own = part.value("resistance")
        ohm = 1 / (1 / own + sum(1 / each.value("resistance") for each in fixed if each)) if own else None
    if "wiper" in pin.roles:
        # At its worst the tap stands in the middle.
        ohm = part.value("resistance") / 4
    if ohm is None or between is None:
        return ohm
    if between.kind.name == "divider":
        upper, lower = between.value("upper") + ohm, between.value("lower")
        return upper * lower / (upper + lower)
    return ohm + between.value("resistance")


def _halves(hookup: Hookup) -> Iterator[Note]:
    """A resistive sensor alone at a converter reads only its own rail."""
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


def _half_note(hookup: Hookup, join: Join, listener: End, sensor_ohm: float) -> Note:
    part = join.other(listener).part
    ohm = written(around(sensor_ohm)[1], "Ω")
    level = hookup.parts[listener.part].kind.logic_v
    rails = [
        End(listener.part, pin.name) for pin in hookup.parts[listener.part].kind.pins
        if "supply out" in pin.roles and level is not None and (pin.gives_v or 0.0) <= level
    ]  # fmt: skip
    mends: tuple[Mend, ...] = ()
    if rails:
        name = free_name(hookup.parts, f"{part} divider")
        entry = join_entry(Join(listener, rails[-1], name, "red"))
        mends = (Mend(("parts", name), {"kind": "resistor", "resistance": ohm}), Mend(JOINS, entry))
    return note(
        FAULT, part, f"{join.other(listener)} stands alone at {listener}; without a fixed resistor to a rail it reads "
        "no change.", remedy=f"put {ohm} from {listener} to {rails[-1] if rails else 'a rail'}", mend=mends,
        at=(join.other(listener),),
    )  # fmt: skip
