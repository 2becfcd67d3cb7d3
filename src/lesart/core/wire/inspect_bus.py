"""Notes on the two-wire bus: an address taken twice, pull-ups missing, too strong or too weak for its clock."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from lesart.core.notes import FAULT, Mend, Note
from lesart.core.quantity import plain_number
from lesart.core.wire.bus import (
    SINK_A,
    SINK_V,
    bus_clock_hz,
    least_pull_up_ohm,
    line_farad,
    most_pull_up_ohm,
    rise_limit_s,
    rise_s,
)
from lesart.core.wire.entry import JOINS, free_name, join_entry, written
from lesart.core.wire.hookup import BusLine, End, Hookup, Join, PullUp, bus_lines, groups, logic_v, used_roles
from lesart.core.wire.inspect_levels import volts
from lesart.core.wire.inspect_pins import note
from lesart.core.wire.levels import SLACK_V, bus_levels
from lesart.core.wire.part import Part, shown_address
from lesart.core.wire.preferred import decade_of
from lesart.core.wire.propose_levels import PULL_UP_OHM
from lesart.core.wire.role import BUS_LINES


def inspect_bus(hookup: Hookup) -> Iterator[Note]:
    """All of them. Data and clock have the same faults nearly always; one note speaks for both."""
    yield from _addresses(hookup)
    told: set[tuple[str, frozenset[str]]] = set()
    for line in bus_lines(hookup):
        for found in (_no_pull_ups(hookup, line), _level(hookup, line), _too_strong(hookup, line), _slow(hookup, line)):
            if found is None:
                continue
            key = (found.text.partition(":")[0], frozenset(end.part for end in line.ends))
            if key not in told:
                told.add(key)
                yield found


def _addresses(hookup: Hookup) -> Iterator[Note]:
    """A level shifter parts the levels of a bus, not its addresses."""
    joins = [
        join for join in hookup.joins
        if (roles := used_roles(hookup, join)) is not None and set(roles) <= {"two-wire data"}
    ]  # fmt: skip
    buses: defaultdict[End, set[str]] = defaultdict(set)
    for end, root in groups(hookup, joins).items():
        buses[root].add(end.part)
    for members in buses.values():
        taken: dict[int, str] = {}
        for name in (name for name in hookup.parts if name in members):
            part = hookup.parts[name]
            if part.address is None:
                continue
            if part.address in taken:
                used = {hookup.parts[each].address for each in members}
                yield _taken_twice(part, taken[part.address], used)
            taken[part.address] = name


def _taken_twice(part: Part, first: str, used: set[int | None]) -> Note:
    name, address = part.name, part.address or 0
    free = next((each for each in part.kind.addresses if each not in used), None)
    said = f"{name} and {first} both answer at {shown_address(address)}."
    at = [End(name, pin.name) for pin in part.kind.pins if "two-wire data" in pin.roles]
    if free is None:
        return note(FAULT, name, said, figure=float(address), remedy="put one of them on a bus of its own", at=at)
    shown = shown_address(free)
    return note(
        FAULT, name, said, figure=float(address), remedy=f"set the straps of {name} to {shown}",
        mend=(Mend(("parts", name, "address"), shown),), at=at,
    )  # fmt: skip


def _board_end(hookup: Hookup, line: BusLine) -> End:
    return next((end for end in line.ends if hookup.parts[end.part].kind.group == "board"), line.ends[0])


def _no_pull_ups(hookup: Hookup, line: BusLine) -> Note | None:
    if line.pull_ups:
        return None
    end = _board_end(hookup, line)
    level = logic_v(hookup, end.part)
    if level is None:
        return None  # Without a supply there is nothing to pull up to, and that is said.
    rail = _rail_at(hookup, end.part, level)
    mends: tuple[Mend, ...] = ()
    if rail is not None:
        name = free_name(hookup.parts, "bus pull-ups")
        bare = [
            _board_end(hookup, each)
            for each in bus_lines(hookup)
            if not each.pull_ups and _board_end(hookup, each).part == end.part
        ]
        entries = [{**join_entry_of(each, rail), "through": name} for each in bare]
        mends = (
            Mend(("parts", name), {"kind": "resistor", "resistance": written(PULL_UP_OHM, "Ω")}),
            *(Mend(JOINS, entry) for entry in entries),
        )
    others = ", ".join(dict.fromkeys(each.part for each in line.ends if each != end))
    return note(
        FAULT, end.part, f"No pull-ups on the bus of {end.part}: its lines never rise and {others} cannot answer.",
        remedy=f"put {written(PULL_UP_OHM, 'Ω')} from each line to {rail or 'the supply'}", mend=mends,
        at=line.ends,
    )  # fmt: skip


def join_entry_of(end: End, rail: End) -> dict[str, str | int | bool]:
    """A pull-up as the project file has it."""
    return join_entry(Join(end, rail, colour="red"))


def _rail_at(hookup: Hookup, part: str, level_v: float) -> End | None:
    pins = [pin for pin in hookup.parts[part].kind.pins if "supply out" in pin.roles and pin.gives_v == level_v]
    return End(part, pins[0].name) if pins else None


def _level(hookup: Hookup, line: BusLine) -> Note | None:
    """The strongest rail sets the level; every pin on the line must stand it and read it as high."""
    if not line.pull_ups:
        return None
    highest = max(line.pull_ups, key=lambda pull: pull.volts)
    for end, stands, needs in bus_levels(hookup, line):
        if stands is not None and line.volts > stands + SLACK_V:
            text = f"{highest.of} pulls the bus up to {volts(line.volts)}: {end} stands {volts(stands)}."
            part, limit = highest.of, stands
        elif needs is not None and line.volts < needs - SLACK_V:
            text = f"The bus is pulled up to {volts(line.volts)}: {end} reads high from {volts(needs)}."
            part, limit = end.part, needs
        else:
            continue
        mends = _shifted(hookup, part) or _lower_rail(hookup, line, highest)
        return note(
            FAULT, part, text, figure=line.volts, unit="V", limit=limit,
            remedy="put a level shifter between" if len(mends) > 1 and mends[0].key[0] == "parts" else
            "lead the pull-ups to the rail of the board's level",
            mend=mends, at=[each for each in line.ends if each.part == part] or [end],
        )  # fmt: skip
    return None


def _shifted(hookup: Hookup, part: str) -> tuple[Mend, ...]:
    """Both lines of a part through a level shifter. A pull-up of its own is no part on the bus."""
    joins = [
        join for join in hookup.joins
        if part in (join.pin.part, join.to.part) and not join.through
        and (roles := used_roles(hookup, join)) is not None and roles[0] in BUS_LINES
    ]  # fmt: skip
    if not joins or hookup.parts[part].kind.group == "board":
        return ()
    name = free_name(hookup.parts, f"{part} levels")
    return (
        Mend(("parts", name), {"kind": "level shifter"}),
        *(Mend((*JOINS, join.index, "through"), name) for join in joins),
    )


def _lower_rail(hookup: Hookup, line: BusLine, pull: PullUp) -> tuple[Mend, ...]:
    """Pull-ups of their own go to the rail at the level of the board's signals."""
    level = logic_v(hookup, _board_end(hookup, line).part)
    rail = None if level is None else _rail_at(hookup, _board_end(hookup, line).part, level)
    if rail is None:
        return ()
    ends = [(join, "to" if "supply out" in hookup.pin(join.to).roles else "pin") for join in hookup.joins
            if join.through == pull.of]  # fmt: skip
    return tuple(Mend((*JOINS, join.index, side), str(rail)) for join, side in ends)


def _too_strong(hookup: Hookup, line: BusLine) -> Note | None:
    if not line.pull_ups or line.volts <= SINK_V:
        return None
    least = least_pull_up_ohm(line.volts)
    if line.ohm >= least:
        return None
    amps = (line.volts - SINK_V) / line.ohm
    names = " and ".join(dict.fromkeys(pull.of for pull in line.pull_ups))
    own = [pull for pull in line.pull_ups if hookup.parts[pull.of].kind.group == "between"]
    mends: tuple[Mend, ...] = ()
    remedy = "take the pull-ups off one of the modules"
    if own:
        others = sum(1 / pull.ohm for pull in line.pull_ups if pull.of != own[0].of)
        needed = 1 / (1 / least - others) if 1 / least > others else None
        most = most_pull_up_ohm(line_farad(hookup, line), bus_clock_hz(hookup, line))
        choice = decade_of(needed, max(most, needed * 2)) if needed else []
        if choice:
            better = written(min(choice, key=lambda ohm: abs(ohm - max(PULL_UP_OHM, choice[0]))), "Ω")
            remedy = f"make {own[0].of} {better}"
            mends = (Mend(("parts", own[0].of, "resistance"), better),)
    return note(
        FAULT, own[0].of if own else line.pull_ups[-1].of,
        f"The pull-ups of {names} are too strong together: {written(line.ohm, 'Ω')} at {volts(line.volts)} ask "
        f"{plain_number(amps * 1000, 3)} mA of an output; the bus allows {SINK_A * 1000:g} mA.",
        figure=line.ohm, unit="Ω", limit=least, remedy=remedy, mend=mends, at=line.ends,
    )  # fmt: skip


def _slow(hookup: Hookup, line: BusLine) -> Note | None:
    if not line.pull_ups:
        return None
    farad, clock = line_farad(hookup, line), bus_clock_hz(hookup, line)
    takes, limit = rise_s(line.ohm, farad), rise_limit_s(clock)
    if takes <= limit:
        return None
    end = _board_end(hookup, line)
    remedy, mends = _faster(hookup, line, farad, clock, end)
    return note(
        FAULT, end.part, f"The bus rises too slowly: {plain_number(takes * 1e9, 3)} ns with "
        f"{written(line.ohm, 'Ω')} and {plain_number(farad * 1e12, 3)} pF; {plain_number(limit * 1e9)} ns are allowed "
        f"at {plain_number(clock / 1e3)} kHz.", figure=takes, unit="s", limit=limit, remedy=remedy, mend=mends,
        at=line.ends,
    )  # fmt: skip


def _faster(hookup: Hookup, line: BusLine, farad: float, clock: float, end: End) -> tuple[str, tuple[Mend, ...]]:
    """Stronger pull-ups where they may be; else a slower clock."""
    least, most = least_pull_up_ohm(line.volts), most_pull_up_ohm(farad, clock)
    own = next((pull for pull in line.pull_ups if hookup.parts[pull.of].kind.group == "between"), None)
    if own is not None:
        others = sum(1 / pull.ohm for pull in line.pull_ups if pull is not own)
        allowed = [ohm for ohm in decade_of(least, own.ohm) if least <= 1 / (1 / ohm + others) <= most]
        if allowed:
            better = written(max(allowed), "Ω")
            return f"make {own.of} {better}", (Mend(("parts", own.of, "resistance"), better),)
    for slower in (400e3, 100e3):
        if slower < clock and rise_s(line.ohm, farad) <= rise_limit_s(slower):
            shown = f"{plain_number(slower / 1e3)} kHz"
            return f"set the bus clock to {shown}", (Mend(("parts", end.part, "bus_clock"), shown),)
    return "shorten the wires of the bus", ()
