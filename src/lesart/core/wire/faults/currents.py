"""Notes on currents: lamps without a resistor, resistors too hot, pins that carry more than they can."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import partial

from lesart.core.notes import DOUBT, FAULT, Mend
from lesart.core.quantity import listed, plain_number
from lesart.core.wire.currents import LAMP_IN, Lamp, lamps_of, signal_loads
from lesart.core.wire.entry import JOINS, free_name, written
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.faults.proof import through
from lesart.core.wire.hookup import End, Hookup, Join, rail_v
from lesart.core.wire.preferred import around
from lesart.core.wire.sums.resistors import rating_w

MUCH = 1.25
"""A lamp that carries more than this many times the wanted current will not last."""
LITTLE = 0.3
"""A lamp that carries less than this share is hard to see by day."""
UNEVEN = 1.5
"""Segments of which one is this many times as bright as another look uneven."""
ALIKE = 0.01
"""Currents that differ by less are reported as equal."""


def inspect_currents(hookup: Hookup) -> Iterator[Finding]:
    """All notes on currents."""
    lamps = lamps_of(hookup)
    yield from _lamps(hookup, lamps)
    yield from _ratings(lamps)
    yield from _pins(hookup, lamps)
    yield from _boards(hookup, lamps)


def milliamps(amps: float) -> str:
    """``12.5 mA``, or amperes from 1 A on."""
    return f"{plain_number(amps * 1000, 3)} mA" if amps < 1 else f"{plain_number(amps, 3)} A"


def _lamps(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Finding]:
    """One finding per part: its eight segments have one fault, not eight."""
    of_part: defaultdict[str, list[Lamp]] = defaultdict(list)
    for lamp in lamps:
        of_part[lamp.end.part].append(lamp)
    for part, mine in of_part.items():
        bare = [lamp for lamp in mine if lamp.amps is None and lamp.left_v > 0]
        shared = [lamp for lamp in mine if lamp.amps is not None and lamp.amps > UNEVEN * lamp.least_a > 0]
        if bare:
            yield _bare(hookup, part, bare)
        elif shared:
            yield _uneven(hookup, part, shared)
        else:
            known = [(lamp, lamp.amps) for lamp in mine if lamp.amps is not None]
            much = [lamp for lamp, amps in known if amps > MUCH * lamp.wanted_a * (1 + 1e-9)]
            little = [lamp for lamp, amps in known if amps < LITTLE * lamp.wanted_a * (1 - 1e-9)]
            yield from (_too_much_or_little(hookup, wrong) for wrong in (much, little) if wrong)


def _named(hookup: Hookup, lamps: list[Lamp]) -> str:
    """``a.b``, ``a.b to g`` for a run of pins, else each: ``a.b, d and g``."""
    part, pins = lamps[0].end.part, list(dict.fromkeys(lamp.end.pin for lamp in lamps))
    order = [pin.name for pin in hookup.parts[part].kind.pins]
    places = [order.index(pin) for pin in pins]
    if len(pins) > 2 and places == list(range(places[0], places[0] + len(pins))):
        return f"{part}.{pins[0]} to {pins[-1]}"
    return f"{part}.{listed(pins)}"


def _bare(hookup: Hookup, part: str, lamps: list[Lamp]) -> Finding:
    first = lamps[0]
    way = "in their way" if len(lamps) > 1 else "in its way"
    return found(
        "bare",
        FAULT,
        part,
        f"{_named(hookup, lamps)}: no resistor {way} from {first.driver}; nothing limits the current.",
        remedy=f"put a resistor {way}",
        at=[lamp.end for lamp in lamps],
        ways=partial(_limited, hookup, tuple(lamps), ()),
    )


def _uneven(hookup: Hookup, part: str, lamps: list[Lamp]) -> Finding:
    first = max(lamps, key=lambda lamp: (lamp.amps or 0.0) / lamp.least_a)
    most, least = first.amps or 0.0, first.least_a
    return found(
        "uneven",
        DOUBT,
        part,
        f"{part}: the segments of a digit share one resistor. A segment lit alone carries "
        f"{milliamps(most)}, each of {first.beside} only {milliamps(least)}.",
        figure=most / least,
        unit="1",
        limit=UNEVEN,
        at=[lamp.end for lamp in lamps],
        remedy="put a resistor in each segment's line, and none in those of the digits",
        ways=partial(_limited, hookup, tuple(lamps), _lines(hookup, part)),
    )


def _lines(hookup: Hookup, part: str) -> tuple[Join, ...]:
    """Lines that the segments of a part share, and that lead through a resistor."""
    ends = [End(part, pin.name) for pin in hookup.parts[part].kind.pins if {"digit", "lamp −"} & set(pin.roles)]
    return tuple(join for end in ends for join in hookup.joins_at(end) if hookup.through_kind(join) == "resistor")


def _limited(hookup: Hookup, lamps: tuple[Lamp, ...], straight: tuple[Join, ...]) -> Iterator[Way]:
    """Remedies: a resistor for each lamp, with ``straight`` lines losing theirs; else with a transistor for these
    too."""
    legs = [_leg(hookup, lamp) for lamp in lamps]
    first = max(lamps, key=lambda lamp: lamp.left_v / lamp.wanted_a)
    if None in legs or first.left_v <= 0:
        return
    joins = [leg for leg in legs if leg is not None]
    name, part = free_name(hookup.parts, f"{first.end.part} resistor"), first.end.part
    each = " each" if len(lamps) > 1 else ""
    for wanted_a in (first.wanted_a, min(first.wanted_a, _pin_a(hookup, first) or first.wanted_a)):
        ohm = around(first.left_v / wanted_a)[1]
        remedy = f"put {written(ohm, 'Ω')}{each} in the way, for {milliamps(first.left_v / ohm)}"
        mends = (
            Mend(("parts", name), {"kind": "resistor", "resistance": written(ohm, "Ω")}),
            *through(joins, name),
            *through(straight, ""),
        )
        yield Way(remedy + (", and none in the lines of the digits" if straight else ""), mends)
        switch = free_name(hookup.parts, f"{part} transistor")
        sinks = [join for lamp in lamps[:1] for join in _sink_joins(hookup, lamp) if join not in joins]
        if sinks:
            yield Way(
                f"{remedy}, and let a transistor switch each common line",
                (*mends[: 1 + len(joins)], Mend(("parts", switch), {"kind": "transistor"}), *through(sinks, switch)),
            )


def _pin_a(hookup: Hookup, lamp: Lamp) -> float | None:
    """Current that the pin feeding a lamp can carry, with a little margin."""
    limit = hookup.pin(lamp.driver).current_a if rail_v(hookup, lamp.driver) is None else None
    return None if limit is None else 0.9 * limit


def _leg(hookup: Hookup, lamp: Lamp) -> Join | None:
    """The leg that a resistor can be put in: one without another part."""
    if not lamp.join.through:
        return lamp.join
    if "segment" in hookup.pin(lamp.end).roles:
        return None
    outs = [pin.name for pin in hookup.parts[lamp.end.part].kind.pins if "lamp −" in pin.roles]
    return next((join for name in outs for join in hookup.joins_at(End(lamp.end.part, name)) if not join.through), None)


def _too_much_or_little(hookup: Hookup, lamps: list[Lamp]) -> Finding:
    """A finding where all lamps of a part get too much, or all too little; it names the worst."""
    is_much = (lamps[0].amps or 0.0) > lamps[0].wanted_a
    worst = (max if is_much else min)(lamps, key=_share)
    part, amps, wanted, at = worst.end.part, worst.amps or 0.0, worst.wanted_a, [lamp.end for lamp in lamps]
    if worst.left_v <= 0:
        return found(
            "current",
            DOUBT,
            part,
            f"{_named(hookup, lamps)} {'stay' if len(lamps) > 1 else 'stays'} dark: "
            f"{worst.driver} gives no more than it drops.",
            figure=0.0,
            unit="A",
            limit=wanted,
            remedy="feed it with more",
            at=at,
            ways=partial(_from_higher, hookup, worst),
        )
    are_alike = all(abs(_share(lamp) / _share(worst) - 1) < ALIKE for lamp in lamps)
    far = "" if are_alike else "up to " if is_much else "as little as "
    each = " each" if len(lamps) > 1 and are_alike else ""
    word, verb = "more than" if is_much else "much less than", "carry" if len(lamps) > 1 else "carries"
    return found(
        "current",
        FAULT if is_much else DOUBT,
        part,
        f"{_named(hookup, lamps)} {verb} {far}{milliamps(amps)}{each}, {word} the {milliamps(wanted)} wanted.",
        figure=amps,
        unit="A",
        limit=wanted,
        remedy=f"choose the resistor for {milliamps(wanted)}",
        at=at,
        ways=partial(_other_resistors, hookup, (worst, *(lamp for lamp in lamps if lamp is not worst))),
    )


def _share(lamp: Lamp) -> float:
    """Current as a share of the wanted one."""
    return (lamp.amps or 0.0) / lamp.wanted_a


def _other_resistors(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Way]:
    """Remedies: another value for the resistor; where it serves others too, a separate one; a higher rail for a lamp
    that gets too little."""
    first = lamps[0]
    for resistor in first.resistors:
        needed = first.left_v / first.wanted_a - first.ohm - first.shared_ohm + resistor.value("resistance")
        if needed <= 0:
            continue
        ohm = written(around(needed)[1], "Ω")
        yield Way(f"make {resistor.name} {ohm}", (Mend(("parts", resistor.name, "resistance"), ohm),))
        joins = [join for lamp in lamps for join in hookup.joins_at(lamp.end) if join.through == resistor.name]
        name = free_name(hookup.parts, f"{first.end.part} resistor")
        yield Way(
            f"put {ohm} there instead of {resistor.name}",
            (Mend(("parts", name), {"kind": "resistor", "resistance": ohm}), *through(joins, name)),
        )
    if (first.amps or 0.0) < first.wanted_a:
        yield from _from_higher(hookup, first)


def _from_higher(hookup: Hookup, lamp: Lamp) -> Iterator[Way]:
    """A lamp at a rail goes to a higher one, with a resistor for that."""
    volts = rail_v(hookup, lamp.driver)
    if volts is None or not any(role in LAMP_IN for role in hookup.pin(lamp.end).roles):
        return
    rails = [
        (there, end)
        for end, pin in hookup.ends()
        if "supply out" in pin.roles and (there := rail_v(hookup, end) or 0.0) > volts
    ]
    forward = volts - lamp.left_v
    for there, rail in sorted(rails):
        name, side = free_name(hookup.parts, f"{lamp.end.part} resistor"), "to" if lamp.join.pin == lamp.end else "pin"
        needed = (there - forward) / lamp.wanted_a - lamp.ohm + sum(each.value("resistance") for each in lamp.resistors)
        move = Mend((*JOINS, lamp.join.index, side), str(rail))
        if needed <= 0:
            yield Way(f"feed {lamp.end} from {rail}", (move,))
            continue
        ohm = written(around(needed)[1], "Ω")
        yield Way(
            f"feed {lamp.end} from {rail}, through {ohm}",
            (Mend(("parts", name), {"kind": "resistor", "resistance": ohm}), move, *through((lamp.join,), name)),
        )


def _ratings(lamps: tuple[Lamp, ...]) -> Iterator[Finding]:
    told: set[str] = set()
    for lamp in lamps:
        for resistor in lamp.resistors:
            watts = (lamp.amps or 0.0) ** 2 * resistor.value("resistance") * lamp.duty
            rating = resistor.value("power")
            if watts <= rating or resistor.name in told:
                continue
            told.add(resistor.name)
            better = f"{plain_number(rating_w(watts))} W"
            way = Way(f"take one of {better}", (Mend(("parts", resistor.name, "power"), better),))
            yield found(
                "rating",
                FAULT,
                lamp.end.part,
                f"{resistor.name} turns {written(watts, 'W')} into heat; it is rated for {written(rating, 'W')}.",
                figure=watts,
                unit="W",
                limit=rating,
                remedy=way.remedy,
                at=(lamp.end,),
                ways=partial(tuple, (way,)),
            )


def _pins(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Finding]:
    """Currents through each signal pin: out of it into a lamp, or into it from a lamp's other leg or a digit."""
    carried: defaultdict[End, float] = defaultdict(float)
    for lamp in lamps:
        if hookup.through_kind(lamp.join) != "transistor":
            carried[lamp.driver] += lamp.amps or 0.0
        for join in _sink_joins(hookup, lamp):
            carried[join.to if lamp.end.part == join.pin.part else join.pin] += lamp.least_a
    for _, amps, driver in signal_loads(hookup):
        carried[driver] += amps
    told: set[str] = set()
    for end, amps in carried.items():
        limit = hookup.pin(end).current_a
        if rail_v(hookup, end) is not None or limit is None or amps <= limit * (1 + 1e-9):
            continue
        part = next((join.other(end).part for join in hookup.joins_at(end)), end.part)
        if part not in told:
            told.add(part)
            yield found(
                "pin",
                FAULT,
                part,
                f"{end} has to carry {milliamps(amps)} for {part}; it can carry {milliamps(limit)}.",
                figure=amps,
                unit="A",
                limit=limit,
                remedy="let it carry less",
                at=(end,),
                ways=partial(_ways_to_carry, hookup, end, part, limit / amps),
            )


def _sink_joins(hookup: Hookup, lamp: Lamp) -> Iterator[Join]:
    """Joins over which the lamp's current leaves into a signal pin, not through a transistor."""
    kind = hookup.parts[lamp.end.part].kind
    role = "digit" if "segment" in hookup.pin(lamp.end).roles else "lamp −"
    for pin in kind.pins:
        if role in pin.roles:
            for join in hookup.joins_at(End(lamp.end.part, pin.name)):
                end = join.other(End(lamp.end.part, pin.name))
                if hookup.through_kind(join) != "transistor" and "digital" in hookup.pin(end).roles:
                    yield join


def _ways_to_carry(hookup: Hookup, end: End, part: str, share: float) -> Iterator[Way]:
    """Remedies: a transistor instead; else larger resistors."""
    yield from _switched_lamp(hookup, end, part)
    joins = [join for join in hookup.joins_at(end) if not join.through]
    digits = [
        join
        for join in hookup.joins
        if not join.through and any(leg.part == part and _is_digit(hookup, leg) for leg in join.ends)
    ]
    switched = digits if any(_is_digit(hookup, join.other(end)) for join in joins) else joins
    if switched:
        name = free_name(hookup.parts, f"{part} transistor")
        yield Way(
            "let a transistor switch it", (Mend(("parts", name), {"kind": "transistor"}), *through(switched, name))
        )
    lamps = [lamp for lamp in lamps_of(hookup) if lamp.end.part == part]
    own = {each.name: each for lamp in lamps for each in lamp.resistors}
    # What is too much for the pin may be more than the lamp wants as well; both end with the larger resistor.
    left = min([share, *(lamp.wanted_a / lamp.amps for lamp in lamps if lamp.amps)])
    for name, resistor in own.items():
        ohm = written(around(resistor.value("resistance") / left)[1], "Ω")
        yield Way(f"make {name} {ohm}", (Mend(("parts", name, "resistance"), ohm),))


def _switched_lamp(hookup: Hookup, end: End, part: str) -> Iterator[Way]:
    """Remedy: connect a lamp fed from a pin to the rail of that level, and its other leg to the pin, through a
    transistor."""
    lamps = [lamp for lamp in lamps_of(hookup) if lamp.driver == end and lamp.end.part == part]
    level = hookup.parts[end.part].kind.logic_v
    rail = next(
        (
            pin.name
            for pin in hookup.parts[end.part].kind.pins
            if level and pin.gives_v == level and "supply out" in pin.roles
        ),
        None,
    )
    legs = [
        join
        for join in hookup.joins
        if any(each.part == part and "lamp −" in hookup.pin(each).roles for each in join.ends) and not join.through
    ]
    if len(lamps) != 1 or len(legs) != 1 or rail is None or "lamp +" not in hookup.pin(lamps[0].end).roles:
        return
    name, join, leg = free_name(hookup.parts, f"{part} transistor"), lamps[0].join, legs[0]
    own = "to" if leg.pin.part == part else "pin"
    yield Way(
        "let a transistor switch it",
        (
            Mend(("parts", name), {"kind": "transistor"}),
            Mend((*JOINS, join.index, "to" if join.to == end else "pin"), str(End(end.part, rail))),
            Mend((*JOINS, leg.index, own), str(end)),
            Mend((*JOINS, leg.index, "through"), name),
        ),
    )


def _is_digit(hookup: Hookup, end: End) -> bool:
    return "digit" in hookup.pin(end).roles


def _boards(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Finding]:
    for part in hookup.parts.values():
        total = sum(
            lamp.least_a * lamp.duty
            for lamp in lamps
            if lamp.driver.part == part.name and rail_v(hookup, lamp.driver) is None
        )
        if part.kind.total_a is not None and total > part.kind.total_a * (1 + 1e-9):
            yield found(
                "total",
                FAULT,
                part.name,
                f"The pins of {part.name} carry {milliamps(total)} together; they can carry "
                f"{milliamps(part.kind.total_a)}.",
                figure=total,
                unit="A",
                limit=part.kind.total_a,
                remedy="let transistors switch the lamps, or make their resistors larger",
            )
