"""Notes on pins: left open, with two jobs, in a role they do not have, with grounds apart, printed in another order."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from functools import partial
from typing import Any

from lesart.core.notes import FAULT, REMARK, Mend
from lesart.core.quantity import listed
from lesart.core.wire.entry import JOINS, join_entry
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.hookup import End, Hookup, Join, groups, is_free, is_pull, rail_v, used_roles, works, works_at
from lesart.core.wire.pinout import where_else
from lesart.core.wire.proposal.power import amps_wanted, volts_wanted
from lesart.core.wire.proposal.propose import Plan, mends_for, propose
from lesart.core.wire.role import ROLES, is_rail, roles_meet

RAILS = ("supply out", "ground")


def inspect_pins(hookup: Hookup) -> Iterator[Finding]:
    """All notes on pins, in the order a person would look."""
    yield from _open(hookup)
    yield from _wrong_roles(hookup)
    yield from _two_jobs(hookup)
    yield from _grounds(hookup)
    yield from _orders(hookup)


def _open(hookup: Hookup) -> Iterator[Finding]:
    """One finding per part: eight open segments are one thing forgotten."""
    left: defaultdict[str, list[End]] = defaultdict(list)
    for end, pin in hookup.ends():
        if not pin.optional and not hookup.joins_at(end):
            left[end.part].append(end)
    for ends in left.values():
        yield replace(_open_ends(hookup, ends), pieces=partial(_open_in_pieces, hookup, tuple(ends)))


def _open_ends(hookup: Hookup, ends: Sequence[End], **more: Any) -> Finding:
    named = listed([end.pin if index else str(end) for index, end in enumerate(ends)])
    roles = ", ".join(dict.fromkeys(hookup.pin(end).roles[0] for end in ends))
    text = f"{named} ({roles}) {'is' if len(ends) == 1 else 'are'} open."
    usual = "join it; no free pin works with it" if len(ends) == 1 else "join them; no free pins work with them"
    if any("contrast" in hookup.pin(end).roles for end in ends):
        usual = "add a potentiometer and join its wiper there"
    return found(
        "open",
        FAULT,
        ends[0].part,
        text,
        figure=float(len(ends)),
        unit="pins",
        limit=0.0,
        at=ends,
        **{"remedy": usual, **more},
    )


def _open_in_pieces(hookup: Hookup, ends: tuple[End, ...]) -> tuple[Finding, ...]:
    """The open pins that a proposal places together, and those that it does not."""
    grown = propose(hookup)
    placed = [end for end in ends if grown.hookup.joins_at(end)]
    others = [end for end in ends if end not in placed]
    pieces = []
    if placed:
        ways = partial(_ways_to_join, hookup, grown, tuple(placed))
        usual = f"join {_it(placed)} as the data sheet of {placed[0].part} says"
        pieces.append(_open_ends(hookup, placed, ways=ways, remedy=usual))
    if others:
        supplies = [end for end in others if "supply" in hookup.pin(end).roles]
        if len(others) == len(supplies) == 1:
            pieces.append(_open_ends(hookup, others, remedy=_more_supply(hookup, supplies[0])))
        else:
            pieces.append(_open_ends(hookup, others))
    return tuple(pieces)


def _more_supply(hookup: Hookup, end: End) -> str:
    """Remedies where no rail is in range, or none has enough current left."""
    in_range = [
        rail for rail, pin in hookup.ends() if "supply out" in pin.roles and works_at(hookup, end, rail_v(hookup, rail))
    ]
    volts, amps = volts_wanted(hookup, end), amps_wanted(hookup.parts[end.part], hookup.pin(end))
    why = f"no rail that is in range has {amps} left" if in_range else "no rail is in that range"
    return f"add a supply of {volts} with {amps} to spare; {why}"


def _it(ends: Sequence[End]) -> str:
    return "it" if len(ends) == 1 else "them"


def _ways_to_join(hookup: Hookup, grown: Plan, ends: tuple[End, ...]) -> Iterator[Way]:
    """Remedies: the proposal for these pins only; else the whole proposal, as other parts may need it too."""
    names = {str(end) for end in ends}
    for mends in (mends_for(hookup, grown, ends), grown.mends):
        entries = [mend.value for mend in mends if mend.key == JOINS and isinstance(mend.value, Mapping)]
        own = [entry for entry in entries if entry["pin"] in names or entry["to"] in names]
        places = [str(entry["to"] if entry["pin"] in names else entry["pin"]) for entry in own]
        between = dict.fromkeys(str(entry["through"]) for entry in entries if "through" in entry)
        through = f", through {', '.join(between)}" if between else ""
        if mends == grown.mends:
            yield Way("join all that is open by role, as j in 1 Wire does", mends)
        elif own:
            yield Way(f"join {_it(ends)} to {', '.join(places)}{through}", mends)


def _wrong_roles(hookup: Hookup) -> Iterator[Finding]:
    for join in hookup.joins:
        if works(hookup, join):
            continue
        first, second = (hookup.pin(end).roles for end in join.ends)
        if "supply out" in (*first, *second) and "ground" in (*first, *second) and not join.through:
            yield found(
                "short",
                FAULT,
                join.pin.part,
                f"{join.pin} and {join.to} are joined: that is a short of {_volts(hookup, join)}.",
                remedy="remove the connection",
                at=join.ends,
            )
            continue
        more = [where_else(hookup.parts[one.part], one.pin, hookup.pin(join.other(one)).roles) for one in join.ends]
        does_not = f"{join.pin} ({', '.join(first)}) does not work with {join.to} ({', '.join(second)})"
        yield found(
            "roles",
            FAULT,
            join.pin.part,
            f"{'; '.join(filter(None, (does_not, *more)))}.",
            remedy="join it to a pin that works with it",
            at=join.ends,
            ways=partial(_other_places, hookup, join),
        )


def _volts(hookup: Hookup, join: Join) -> str:
    volts = next((volts for end in join.ends if (volts := rail_v(hookup, end))), None)
    return "a supply" if volts is None else f"{volts:g} V"


def _other_places(hookup: Hookup, join: Join) -> Iterator[Way]:
    """Remedies: as a proposal would connect it; at a free pin that would do; swapped with another part's pin."""
    for side in sorted(("pin", "to"), key=lambda side: _is_of_board(hookup, getattr(join, side))):
        yield from rejoined(hookup, join, getattr(join, side))
    key = (*JOINS, join.index, "to")
    roles = hookup.pin(join.pin).roles
    other = hookup.parts[join.to.part]
    pins = [End(other.name, pin.name) for pin in other.kind.pins if roles_meet(roles, pin.roles)]
    free = [end for end in pins if is_free(hookup, end) or _is_shared(hookup, end)]
    for end in sorted(free, key=lambda end: (is_rail(hookup.pin(end).roles), len(hookup.pin(end).roles))):
        yield Way(f"move {join.pin} to {end}", (Mend(key, str(end)),))
    for end in pins:
        for taker in hookup.joins_at(end):
            if taker.to == end and roles_meet(hookup.pin(taker.pin).roles, hookup.pin(join.to).roles):
                mends = (Mend((*JOINS, taker.index, "to"), str(join.to)), Mend(key, str(end)))
                yield Way(
                    f"swap them: move {taker.pin} to {join.to}, where it works too, and {join.pin} to {end}", mends
                )


def _is_of_board(hookup: Hookup, end: End) -> bool:
    return hookup.parts[end.part].kind.group == "board"


def rejoined(hookup: Hookup, join: Join, keep: End) -> Iterator[Way]:
    """A join moved at one end to where a proposal would connect that end, with everything needed there."""
    without = replace(hookup, joins=tuple(each for each in hookup.joins if each is not join))
    grown = propose(without)
    there = {each.index for each in without.joins}
    new = next((each for each in grown.hookup.joins if each.index not in there and keep in each.ends), None)
    if new is None or new.other(keep) == join.other(keep) or new.other(keep).part == keep.part:
        return  # back to where it was, or a part connected to itself
    side, place = "to" if join.pin == keep else "pin", str(new.other(keep))
    mends = [mend for mend in mends_for(without, grown, (keep,)) if mend != Mend(JOINS, join_entry(new))]
    parts = [mend for mend in mends if mend.key[0] == "parts"]
    others = [mend for mend in mends if mend.key[0] != "parts"]
    own = [Mend((*JOINS, join.index, side), place)]
    if new.through != join.through:
        own.append(Mend((*JOINS, join.index, "through"), new.through))
    between = [str(mend.key[1]) for mend in parts]
    remedy = f"move {keep} to {place}" + (f", with {' and '.join(between)}" if between else "")
    yield Way(remedy, (*parts, *own, *others))


def _is_shared(hookup: Hookup, end: End) -> bool:
    """True for a rail, or a bus line with nothing but bus lines on it."""
    if any(role in RAILS for role in hookup.pin(end).roles):
        return True
    joins = [join for join in hookup.joins_at(end) if not is_pull(hookup, join)]
    return bool(joins) and all(_shares(hookup, join, end) for join in joins)


def _shares(hookup: Hookup, join: Join, end: End) -> bool:
    roles = used_roles(hookup, join)
    if roles is None:
        return False
    return ROLES[roles[0 if join.pin == end else 1]].shares


def _two_jobs(hookup: Hookup) -> Iterator[Finding]:
    for end, _ in hookup.ends():
        joins = [join for join in hookup.joins_at(end) if not is_pull(hookup, join) and works(hookup, join)]
        if len(joins) < 2 or all(_shares(hookup, join, end) for join in joins):
            continue
        if not _is_of_board(hookup, end) and not _only_one_place(hookup, end, joins):
            continue
        others = [join.other(end) for join in joins]
        text = f"{end} has two jobs: {' and '.join(str(other) for other in others)}."
        yield found(
            "two jobs",
            FAULT,
            others[-1].part,
            text,
            remedy="give one of them another pin",
            at=others,
            ways=partial(_ways_apart, hookup, end, tuple(joins)),
        )


def _ways_apart(hookup: Hookup, end: End, joins: tuple[Join, ...]) -> Iterator[Way]:
    """Remedies: the last one connected goes elsewhere; else an earlier one."""
    for join in reversed(joins):
        other, side = join.other(end), "to" if join.to == end else "pin"
        yield from rejoined(hookup, join, other)
        for place in _free_places(hookup, other, end.part):
            yield Way(f"move {other} to {place}", (Mend((*JOINS, join.index, side), str(place)),))


def _only_one_place(hookup: Hookup, end: End, joins: list[Join]) -> bool:
    """True where a part's own pin has one place only: it may lead to a signal and a rail at once only through a
    resistor."""
    return not all(any(role in RAILS for role in hookup.pin(join.other(end)).roles) for join in joins)


def _free_places(hookup: Hookup, end: End, board: str) -> list[End]:
    roles = hookup.pin(end).roles
    free = [
        End(board, pin.name)
        for pin in hookup.parts[board].kind.pins
        if roles_meet(roles, pin.roles) and is_free(hookup, End(board, pin.name)) and not is_rail(pin.roles)
    ]
    return sorted(free, key=lambda each: len(hookup.pin(each).roles))


def _grounds(hookup: Hookup) -> Iterator[Finding]:
    """A finding where two parts that exchange signals have no common ground."""
    grounds = [
        join
        for join in hookup.joins
        if not join.through and all("ground" in hookup.pin(end).roles for end in join.ends)
    ]
    roots = groups(hookup, grounds)
    of_part: defaultdict[str, set[End]] = defaultdict(set)
    for end, root in roots.items():
        of_part[end.part].add(root)
    told: set[frozenset[str]] = set()
    for join in hookup.joins:
        first, second = join.ends
        pair = frozenset((first.part, second.part))
        if pair in told or len(pair) < 2 or any(role in RAILS for end in join.ends for role in hookup.pin(end).roles):
            continue
        one, other = (_ground_of(hookup, part, of_part) for part in (first.part, second.part))
        if one is None or other is None or of_part[first.part] & of_part[second.part]:
            continue
        told.add(pair)
        if first.part not in of_part and second.part not in of_part:
            continue  # Both are open, and another note says that.
        if {first.part, second.part} - set(of_part) and not _is_board(hookup, first.part, second.part, of_part):
            continue
        entry = join_entry(Join(one, other, colour="black"))
        way = Way(f"join {one} to {other}", (Mend(JOINS, entry),))
        yield found(
            "ground",
            FAULT,
            first.part,
            f"{first.part} and {second.part} have no common ground; {join.pin} has nothing to be measured against.",
            remedy=way.remedy,
            ways=partial(tuple, (way,)),
            at=(join.pin,),
        )


def _is_board(hookup: Hookup, first: str, second: str, of_part: dict[str, set[End]]) -> bool:
    """A board's ground is an optional pin; then only this note reports a missing common ground."""
    apart = first if first not in of_part else second
    return hookup.parts[apart].kind.group == "board"


def _ground_of(hookup: Hookup, part: str, joined: dict[str, set[End]]) -> End | None:
    names = [pin.name for pin in hookup.parts[part].kind.pins if pin.roles == ("ground",)]
    return End(part, names[0]) if names else None


def _orders(hookup: Hookup) -> Iterator[Finding]:
    """One remark for all, or there would be nothing else in the list of notes."""
    differing = [part for part in hookup.parts.values() if part.kind.orders]
    if differing:
        names = listed([part.name for part in differing])
        verb = "is" if len(differing) == 1 else "are"
        yield found(
            "order",
            REMARK,
            differing[0].name,
            f"{names} {verb} sold with more than one order of pins; the print on the module counts, not a picture.",
            figure=float(len(differing)),
            unit="parts",
            remedy="read the print on each before it gets power",
        )
