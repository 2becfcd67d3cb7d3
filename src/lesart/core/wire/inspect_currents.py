"""Notes on currents: lamps without a resistor, resistors too hot, pins and rails that give more than they can."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import replace

from lesart.core.notes import DOUBT, FAULT, Mend, Note
from lesart.core.quantity import plain_number
from lesart.core.wire.currents import Drawn, Lamp, Load, lamps_of, loads_of
from lesart.core.wire.entry import JOINS, free_name, written
from lesart.core.wire.hookup import End, Hookup, Join, rail_v
from lesart.core.wire.inspect_pins import note
from lesart.core.wire.preferred import around
from lesart.core.wire.sums.resistors import rating_w

MUCH = 1.25
"""A lamp that carries more than this many times what is wanted will not last."""
LITTLE = 0.3
"""One that carries less is hard to see by day."""


def inspect_currents(hookup: Hookup) -> Iterator[Note]:
    """All of them."""
    lamps = lamps_of(hookup)
    yield from _lamps(hookup, lamps)
    yield from _ratings(lamps)
    yield from _pins(hookup, lamps)
    yield from _boards(hookup, lamps)
    for load in loads_of(hookup):
        found = _rail(hookup, load)
        if found is not None:
            yield found


def milliamps(amps: float) -> str:
    """``12.5 mA``, or amperes from one on."""
    return f"{plain_number(amps * 1000, 3)} mA" if amps < 1 else f"{plain_number(amps, 3)} A"


def _lamps(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Note]:
    """One note a part: its eight segments have one fault, not eight."""
    bare: defaultdict[str, list[Lamp]] = defaultdict(list)
    for lamp in lamps:
        if lamp.ohm == 0 and lamp.left_v > 0:
            bare[lamp.end.part].append(lamp)
    for part, found in bare.items():
        yield _bare_note(hookup, part, found)
    told: set[str] = set(bare)
    for lamp in lamps:
        if lamp.amps is None or lamp.wanted_a <= 0 or lamp.end.part in told:
            continue
        if lamp.amps > MUCH * lamp.wanted_a or lamp.amps < LITTLE * lamp.wanted_a:
            told.add(lamp.end.part)
            yield _current_note(lamp)


def _bare_note(hookup: Hookup, part: str, lamps: list[Lamp]) -> Note:
    first = lamps[0]
    _, ohm = around(first.left_v / first.wanted_a) if first.wanted_a > 0 else (0.0, 0.0)
    names = str(first.end) if len(lamps) == 1 else f"{part}.{lamps[0].end.pin} to {lamps[-1].end.pin}"
    mends: tuple[Mend, ...] = ()
    if ohm:
        name = free_name(hookup.parts, f"{part} resistor")
        mends = (
            Mend(("parts", name), {"kind": "resistor", "resistance": written(ohm, "Ω")}),
            *(Mend((*JOINS, _leg(hookup, lamp).index, "through"), name) for lamp in lamps),
        )
    each = " each" if len(lamps) > 1 else ""
    return note(
        FAULT, part, f"{names}: no resistor in its way from {first.driver}; nothing limits the current.",
        remedy=f"put {written(ohm, 'Ω')}{each} in its way, for {milliamps(first.left_v / ohm)}" if ohm else
        "put a resistor in its way", mend=mends, at=[lamp.end for lamp in lamps],
    )  # fmt: skip


def _leg(hookup: Hookup, lamp: Lamp) -> Join:
    """The leg that a resistor can stand in: one through a transistor is taken."""
    if not lamp.join.through:
        return lamp.join
    outs = [pin.name for pin in hookup.parts[lamp.end.part].kind.pins if "lamp −" in pin.roles]
    legs = [join for name in outs for join in hookup.joins_at(End(lamp.end.part, name)) if not join.through]
    return legs[0] if legs else lamp.join


def _current_note(lamp: Lamp) -> Note:
    assert lamp.amps is not None
    much = lamp.amps > lamp.wanted_a
    mends: tuple[Mend, ...] = ()
    remedy = f"choose its resistor for {milliamps(lamp.wanted_a)}"
    if lamp.left_v <= 0:
        remedy = "feed it with more"
        text = f"{lamp.end} stays dark: {lamp.driver} gives less than it drops."
        return note(
            DOUBT, lamp.end.part, text, figure=0.0, unit="A", limit=lamp.wanted_a, remedy=remedy, at=(lamp.end,)
        )
    if lamp.resistors:
        others = lamp.ohm - lamp.resistors[0].value("resistance")
        needed = lamp.left_v / lamp.wanted_a - others
        if needed > 0:
            ohm = written(around(needed)[1], "Ω")
            remedy = f"make {lamp.resistors[0].name} {ohm}"
            mends = (Mend(("parts", lamp.resistors[0].name, "resistance"), ohm),)
    word = "more than" if much else "much less than"
    return note(
        FAULT if much else DOUBT, lamp.end.part,
        f"{lamp.end} carries {milliamps(lamp.amps)}, {word} the {milliamps(lamp.wanted_a)} wanted.",
        figure=lamp.amps, unit="A", limit=lamp.wanted_a, remedy=remedy, mend=mends, at=(lamp.end,),
    )  # fmt: skip


def _ratings(lamps: tuple[Lamp, ...]) -> Iterator[Note]:
    told: set[str] = set()
    for lamp in lamps:
        for resistor in lamp.resistors:
            watts = (lamp.amps or 0.0) ** 2 * resistor.value("resistance") * lamp.duty
            rating = resistor.value("power")
            if watts <= rating or resistor.name in told:
                continue
            told.add(resistor.name)
            better = rating_w(watts)
            yield note(
                FAULT, lamp.end.part, f"{resistor.name} turns {written(watts, 'W')} into heat; it is rated for "
                f"{written(rating, 'W')}.", figure=watts, unit="W", limit=rating,
                remedy=f"take one of {plain_number(better)} W",
                mend=(Mend(("parts", resistor.name, "power"), f"{plain_number(better)} W"),), at=(lamp.end,),
            )  # fmt: skip


def _pins(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Note]:
    """What flows through each signal pin: out of it into a lamp, or into it from a lamp's other leg or a digit."""
    carried: defaultdict[End, float] = defaultdict(float)
    for lamp in lamps:
        amps = lamp.amps or 0.0
        if hookup.through_kind(lamp.join) != "transistor":
            carried[lamp.driver] += amps
        for leg in _sinks(hookup, lamp):
            carried[leg] += amps
    told: set[str] = set()
    for end, amps in carried.items():
        limit = hookup.pin(end).current_a
        if rail_v(hookup, end) is not None or limit is None or amps <= limit:
            continue
        joins = [join for join in hookup.joins_at(end) if not join.through]
        part = next((join.other(end).part for join in hookup.joins_at(end)), end.part)
        if part in told:
            continue
        told.add(part)
        yield _pin_note(hookup, end, part, amps, limit, joins)


def _sinks(hookup: Hookup, lamp: Lamp) -> Iterator[End]:
    """Signal pins that the lamp's current leaves through."""
    kind = hookup.parts[lamp.end.part].kind
    role = "digit" if "segment" in hookup.pin(lamp.end).roles else "lamp −"
    for pin in kind.pins:
        if role in pin.roles:
            for join in hookup.joins_at(End(lamp.end.part, pin.name)):
                end = join.other(End(lamp.end.part, pin.name))
                if hookup.through_kind(join) != "transistor" and "digital" in hookup.pin(end).roles:
                    yield end


def _pin_note(hookup: Hookup, end: End, part: str, amps: float, limit: float, joins: list[Join]) -> Note:
    mends: tuple[Mend, ...] = ()
    same = [
        join for join in hookup.joins
        if not join.through and any(leg.part == part and _is_digit(hookup, leg) for leg in join.ends)
    ]  # fmt: skip
    switched = same if any(_is_digit(hookup, join.other(end)) for join in joins) else joins
    single = _switched_lamp(hookup, end, part)
    if single:
        mends = single
    elif switched:
        name = free_name(hookup.parts, f"{part} transistor")
        mends = (
            Mend(("parts", name), {"kind": "transistor"}),
            *(Mend((*JOINS, join.index, "through"), name) for join in switched),
        )
    return note(
        FAULT, part, f"{end} has to carry {milliamps(amps)} for {part}; it can carry {milliamps(limit)}.",
        figure=amps, unit="A", limit=limit, remedy="let a transistor switch it" if mends else "let it carry less",
        mend=mends, at=(end,),
    )  # fmt: skip


def _switched_lamp(hookup: Hookup, end: End, part: str) -> tuple[Mend, ...]:
    """A lamp fed from a pin goes to the rail of that level, and its other leg to the pin, through a transistor."""
    lamps = [lamp for lamp in lamps_of(hookup) if lamp.driver == end and lamp.end.part == part]
    level = hookup.parts[end.part].kind.logic_v
    rail = next((pin.name for pin in hookup.parts[end.part].kind.pins if level and pin.gives_v == level
                 and "supply out" in pin.roles), None)  # fmt: skip
    legs = [
        join for join in hookup.joins
        if any(each.part == part and "lamp −" in hookup.pin(each).roles for each in join.ends) and not join.through
    ]  # fmt: skip
    if len(lamps) != 1 or len(legs) != 1 or rail is None or "lamp +" not in hookup.pin(lamps[0].end).roles:
        return ()
    name, join, leg = free_name(hookup.parts, f"{part} transistor"), lamps[0].join, legs[0]
    own = "to" if leg.pin.part == part else "pin"
    return (
        Mend(("parts", name), {"kind": "transistor"}),
        Mend((*JOINS, join.index, "to" if join.to == end else "pin"), str(End(end.part, rail))),
        Mend((*JOINS, leg.index, own), str(end)),
        Mend((*JOINS, leg.index, "through"), name),
    )


def _is_digit(hookup: Hookup, end: End) -> bool:
    return "digit" in hookup.pin(end).roles


def _boards(hookup: Hookup, lamps: tuple[Lamp, ...]) -> Iterator[Note]:
    for part in hookup.parts.values():
        total = sum(
            (lamp.amps or 0.0) * lamp.duty
            for lamp in lamps
            if lamp.driver.part == part.name and rail_v(hookup, lamp.driver) is None
        )
        if part.kind.total_a is not None and total > part.kind.total_a:
            yield note(
                FAULT, part.name, f"The pins of {part.name} carry {milliamps(total)} together; it stands "
                f"{milliamps(part.kind.total_a)}.", figure=total, unit="A", limit=part.kind.total_a,
                remedy="let transistors switch the lamps, or make their resistors larger",
            )  # fmt: skip


def _rail(hookup: Hookup, load: Load) -> Note | None:
    """Too weak as usual, too weak for one peak, or too weak only if all peaks meet."""
    limit, worst = load.limit_a, load.worst
    if limit is None or worst is None or load.all_peaks_a <= limit:
        return None
    is_plug = "supply out" not in hookup.pin(load.rail).roles
    name = f"The plug of {load.rail.part}" if is_plug else str(load.rail)
    if load.usual_a > limit:
        text = f"{name} gives {milliamps(limit)}; {_listed(load)} draw {milliamps(load.usual_a)}."
        figure, mark, of = load.usual_a, FAULT, max(load.drawn, key=lambda each: each.usual_a).of
    elif load.one_peak_a > limit:
        text = (
            f"{name} gives {milliamps(limit)}, too little for {worst.of} at its peak of {milliamps(worst.peak_a)}: "
            f"{milliamps(load.one_peak_a)} in all."
        )
        figure, mark, of = load.one_peak_a, FAULT, worst.of
    else:
        text = f"{name} gives {milliamps(limit)}; if all peaks meet, {milliamps(load.all_peaks_a)} are drawn."
        figure, mark, of = load.all_peaks_a, DOUBT, worst.of
    mends = _other_rail(hookup, load, of)
    remedy = f"feed {of} from {mends[0].value}" if mends else f"take a supply of {_next_supply(figure)} or more"
    at = [end for join in hookup.joins_at(load.rail) if (end := join.other(load.rail)).part == of]
    return note(mark, of, text, figure=figure, unit="A", limit=limit, remedy=remedy, mend=mends, at=at)


def _listed(load: Load) -> str:
    names = [each.of for each in sorted(load.drawn, key=_usual, reverse=True)]
    return " and ".join(dict.fromkeys(names[:2])) if len(names) < 3 else f"{names[0]}, {names[1]} and others"


def _usual(each: Drawn) -> float:
    return each.usual_a


def _next_supply(amps: float) -> str:
    """Half as much again, in a round figure."""
    return milliamps(around(amps * 1.5)[1])


def _other_rail(hookup: Hookup, load: Load, of: str) -> tuple[Mend, ...]:
    """A rail that suits the part that draws too much, and that could give it, with all that feeds it."""
    for join in hookup.joins_at(load.rail):
        taker = join.other(load.rail)
        pin = hookup.pin(taker)
        if taker.part != of or "supply" not in pin.roles:
            continue
        for end, other in hookup.ends():
            volts = rail_v(hookup, end) if "supply out" in other.roles and end.part != of else None
            if volts is None or not (pin.lowest_v or 0) <= volts <= (pin.highest_v or float("inf")):
                continue
            side = "to" if join.to == load.rail else "pin"
            moved = replace(join, to=end) if side == "to" else replace(join, pin=end)
            if _all_suffice(_with(hookup, moved), (load.rail, end)):
                return (Mend((*JOINS, join.index, side), str(end)),)
    return ()


def _with(hookup: Hookup, join: Join) -> Hookup:
    """The hook-up with a join changed."""
    return replace(hookup, joins=tuple(join if each.index == join.index else each for each in hookup.joins))


def _all_suffice(hookup: Hookup, rails: tuple[End, ...]) -> bool:
    """Would these rails, and every plug and source behind them, suffice even if all peaks meet?"""
    return all(
        load.limit_a is None or load.all_peaks_a <= load.limit_a
        for load in loads_of(hookup)
        if load.rail in rails or hookup.parts[load.rail.part].kind.group in ("board", "source")
    )
