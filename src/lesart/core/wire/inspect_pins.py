"""Notes on pins: left open, with two jobs, in a role they do not have, with grounds apart, printed in another order."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from typing import Any

from lesart.core.notes import FAULT, REMARK, Mend, Note
from lesart.core.wire.entry import JOINS, join_entry
from lesart.core.wire.hookup import End, Hookup, Join, groups, is_free, is_pull, rail_v, used_roles
from lesart.core.wire.propose import mends_for
from lesart.core.wire.role import PULLED, PULLED_PART, ROLES, roles_meet

RAILS = ("supply out", "ground")


def inspect_pins(hookup: Hookup) -> Iterator[Note]:
    """All of them, in the order a person would look."""
    yield from _open(hookup)
    yield from _wrong_roles(hookup)
    yield from _two_jobs(hookup)
    yield from _grounds(hookup)
    yield from _orders(hookup)


def note(mark: str, part: str, text: str, *, at: Iterable[End] = (), **more: object) -> Note:
    """A note of this step on a part, and on the pins where it shows."""
    pins = tuple(str(end) for end in at)
    return Note(mark, "wire", None, text, part=part, pins=pins, **more)  # type: ignore[arg-type]


def _open(hookup: Hookup) -> Iterator[Note]:
    """One note a part: eight open segments are one thing forgotten."""
    left: defaultdict[str, list[End]] = defaultdict(list)
    for end, pin in hookup.ends():
        if not pin.optional and not hookup.joins_at(end):
            left[end.part].append(end)
    for part, ends in left.items():
        mends = mends_for(hookup, ends)
        placed = [mend.value for mend in mends if mend.key == JOINS and isinstance(mend.value, dict)]
        named = ", ".join(end.pin if index else str(end) for index, end in enumerate(ends))
        verb = "is" if len(ends) == 1 else "are"
        yield note(
            FAULT, part, f"{named} ({_roles_of(hookup, ends)}) {verb} open.", figure=float(len(ends)), unit="pins",
            limit=0.0, remedy=_how_to_join(hookup, ends, placed), mend=mends, at=ends,
        )  # fmt: skip


def _roles_of(hookup: Hookup, ends: list[End]) -> str:
    return ", ".join(dict.fromkeys(hookup.pin(end).roles[0] for end in ends))


def _how_to_join(hookup: Hookup, ends: list[End], placed: list[Any]) -> str:
    """Where the pins would go; one by one only while a sentence holds them."""
    if not placed:
        if any("contrast" in hookup.pin(end).roles for end in ends):
            return "add a potentiometer and join its wiper there"
        return "join it; no free pin works with it"
    names = {str(end) for end in ends}
    places = [str(entry["to"] if entry["pin"] in names else entry["pin"]) for entry in placed]
    between = dict.fromkeys(str(entry["through"]) for entry in placed if "through" in entry)
    through = f", through {', '.join(between)}" if between else ""
    return f"join {'it' if len(ends) == 1 else 'them'} to {', '.join(places)}{through}"


def works(hookup: Hookup, join: Join) -> bool:
    """Do the two pins work together, or does a resistor lead from one of them to a rail?"""
    if used_roles(hookup, join) is not None:
        return True
    return is_pull(hookup, join) and any(
        role in PULLED or role in PULLED_PART for end in join.ends for role in hookup.pin(end).roles
    )


def _wrong_roles(hookup: Hookup) -> Iterator[Note]:
    for join in hookup.joins:
        if works(hookup, join):
            continue
        first, second = (hookup.pin(end).roles for end in join.ends)
        if "supply out" in (*first, *second) and "ground" in (*first, *second) and not join.through:
            yield note(
                FAULT, join.pin.part, f"{join.pin} and {join.to} are joined: that is a short of "
                f"{_volts(hookup, join)}.", remedy="take the connection away", at=join.ends,
            )  # fmt: skip
            continue
        remedy, mends = _another_place(hookup, join)
        yield note(
            FAULT, join.pin.part, f"{join.pin} ({_named(first)}) does not work with {join.to} ({_named(second)}).",
            remedy=remedy, mend=mends, at=join.ends,
        )  # fmt: skip


def _volts(hookup: Hookup, join: Join) -> str:
    volts = next((volts for end in join.ends if (volts := rail_v(hookup, end))), None)
    return "a supply" if volts is None else f"{volts:g} V"


def _named(roles: tuple[str, ...]) -> str:
    return ", ".join(roles)


def _another_place(hookup: Hookup, join: Join) -> tuple[str, tuple[Mend, ...]]:
    """A free pin that would work; else one that is taken by something that could go elsewhere."""
    roles = hookup.pin(join.pin).roles
    board = join.to.part
    pins = [End(board, pin.name) for pin in hookup.parts[board].kind.pins if roles_meet(roles, pin.roles)]
    free = [end for end in pins if is_free(hookup, end) or _is_shared(hookup, end)]
    key = (*JOINS, join.index, "to")
    if free:
        scarce = min(free, key=lambda end: len(hookup.pin(end).roles))
        return f"move it to {scarce}", (Mend(key, str(scarce)),)
    for end in pins:
        for taker in hookup.joins_at(end):
            other = taker.other(end)
            swap = join.to
            if taker.to == end and roles_meet(hookup.pin(other).roles, hookup.pin(swap).roles):
                mends = (Mend((*JOINS, taker.index, "to"), str(swap)), Mend(key, str(end)))
                return f"change the two: {other} takes {end}, which would do, and works at {swap} as well", mends
    return "join it to a pin that works with it", ()


def _is_shared(hookup: Hookup, end: End) -> bool:
    """Is it a rail, or a bus line that only bus lines stand on?"""
    if any(role in RAILS for role in hookup.pin(end).roles):
        return True
    joins = [join for join in hookup.joins_at(end) if not is_pull(hookup, join)]
    return bool(joins) and all(_shares(hookup, join, end) for join in joins)


def _shares(hookup: Hookup, join: Join, end: End) -> bool:
    roles = used_roles(hookup, join)
    if roles is None:
        return False
    return ROLES[roles[0 if join.pin == end else 1]].shares


def _two_jobs(hookup: Hookup) -> Iterator[Note]:
    for end, _ in hookup.ends():
        joins = [join for join in hookup.joins_at(end) if not is_pull(hookup, join) and works(hookup, join)]
        if len(joins) < 2 or all(_shares(hookup, join, end) for join in joins):
            continue
        if hookup.parts[end.part].kind.group != "board" and not _only_one_place(hookup, end, joins):
            continue
        others = [join.other(end) for join in joins]
        last = joins[-1]
        place = _free_place(hookup, others[-1], end.part)
        remedy = f"move {others[-1]} to {place}" if place else "give one of them another pin"
        mends: tuple[Mend, ...] = ()
        if place is not None:
            mends = (Mend((*JOINS, last.index, "to" if last.to == end else "pin"), str(place)),)
        listed = " and ".join(str(other) for other in others)
        said = f"{end} has two jobs: {listed}."
        yield note(FAULT, others[-1].part, said, remedy=remedy, mend=mends, at=others)


def _only_one_place(hookup: Hookup, end: End, joins: list[Join]) -> bool:
    """A part's own pin may lead to a signal and a rail at once only through a resistor; else its ends are tied."""
    return not all(any(role in RAILS for role in hookup.pin(join.other(end)).roles) for join in joins)


def _free_place(hookup: Hookup, end: End, board: str) -> End | None:
    roles = hookup.pin(end).roles
    free = [
        End(board, pin.name)
        for pin in hookup.parts[board].kind.pins
        if roles_meet(roles, pin.roles) and is_free(hookup, End(board, pin.name))
    ]
    return min(free, key=lambda each: len(hookup.pin(each).roles), default=None)


def _grounds(hookup: Hookup) -> Iterator[Note]:
    """Two parts that exchange signals must have one zero."""
    grounds = [
        join for join in hookup.joins
        if not join.through and all("ground" in hookup.pin(end).roles for end in join.ends)
    ]  # fmt: skip
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
            continue  # Both are open, and that is said.
        if {first.part, second.part} - set(of_part) and not _is_board(hookup, first.part, second.part, of_part):
            continue
        entry = join_entry(Join(one, other, colour="black"))
        yield note(
            FAULT, first.part, f"{first.part} and {second.part} have no common ground; {join.pin} has nothing to be "
            "measured against.", remedy=f"join {one} to {other}", mend=(Mend(JOINS, entry),),
            at=(join.pin,),
        )  # fmt: skip


def _is_board(hookup: Hookup, first: str, second: str, of_part: dict[str, set[End]]) -> bool:
    """A board's ground may be left open as far as its pins go; then only this note says that it is apart."""
    apart = first if first not in of_part else second
    return hookup.parts[apart].kind.group == "board"


def _ground_of(hookup: Hookup, part: str, joined: dict[str, set[End]]) -> End | None:
    names = [pin.name for pin in hookup.parts[part].kind.pins if pin.roles == ("ground",)]
    return End(part, names[0]) if names else None


def _orders(hookup: Hookup) -> Iterator[Note]:
    """One remark for all, or the apparatus would hold nothing else."""
    differing = [part for part in hookup.parts.values() if part.kind.orders]
    if differing:
        names = ", ".join(part.name for part in differing)
        verb = "is" if len(differing) == 1 else "are"
        yield note(
            REMARK, differing[0].name,
            f"{names} {verb} sold with more than one order of pins; the print on the module counts, not a picture.",
            figure=float(len(differing)), unit="parts", remedy="read the print on each before it gets power",
        )  # fmt: skip
