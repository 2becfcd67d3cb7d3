"""Notes on the two-wire bus: an address taken twice, pull-ups missing, too strong or too weak for its clock."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import partial

from lesart.core.notes import FAULT, Mend
from lesart.core.quantity import listed, plain_number
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
from lesart.core.wire.faults.finding import Finding, Way, found
from lesart.core.wire.faults.levels import volts
from lesart.core.wire.faults.proof import through
from lesart.core.wire.hookup import BusLine, End, Hookup, Join, bus_lines, groups, logic_v, used_roles
from lesart.core.wire.levels import SLACK_V, bus_levels
from lesart.core.wire.part import Part, shown_address
from lesart.core.wire.preferred import decade_of
from lesart.core.wire.proposal.levels import PULL_UP_OHM
from lesart.core.wire.role import BUS_LINES


def inspect_bus(hookup: Hookup) -> Iterator[Finding]:
    """All notes on the bus. Data and clock nearly always have the same faults; one note is for both."""
    yield from _addresses(hookup)
    told: set[tuple[str, frozenset[str]]] = set()
    for line in bus_lines(hookup):
        for look in (_no_pull_ups, _level, _too_strong, _slow):
            finding = look(hookup, line)
            key = (finding.rule if finding else "", frozenset(end.part for end in line.ends))
            if finding is not None and key not in told:
                told.add(key)
                yield finding


def _addresses(hookup: Hookup) -> Iterator[Finding]:
    """Addresses taken twice. A level shifter separates the levels of a bus, not its addresses."""
    joins = [
        join
        for join in hookup.joins
        if (roles := used_roles(hookup, join)) is not None and set(roles) <= {"two-wire data"}
    ]
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


def _taken_twice(part: Part, first: str, used: set[int | None]) -> Finding:
    name, address = part.name, part.address or 0
    return found(
        "address",
        FAULT,
        name,
        f"{name} and {first} both answer at {shown_address(address)}.",
        figure=float(address),
        remedy="put one of them on a bus of its own",
        at=[End(name, pin.name) for pin in part.kind.pins if "two-wire data" in pin.roles],
        ways=partial(_other_straps, part, frozenset(used)),
    )


def _other_straps(part: Part, used: frozenset[int | None]) -> Iterator[Way]:
    for shown in (shown_address(each) for each in part.kind.addresses if each not in used):
        yield Way(f"set the straps of {part.name} to {shown}", (Mend(("parts", part.name, "address"), shown),))


def _board_end(hookup: Hookup, line: BusLine) -> End:
    return next((end for end in line.ends if hookup.parts[end.part].kind.group == "board"), line.ends[0])


def _no_pull_ups(hookup: Hookup, line: BusLine) -> Finding | None:
    if line.pull_ups:
        return None
    end = _board_end(hookup, line)
    level = logic_v(hookup, end.part)
    if level is None:
        return None  # Without a supply there is nothing to pull up to, and another note says that.
    rail = _rail_at(hookup, end.part, level)
    others = listed(list(dict.fromkeys(each.part for each in line.ends if each != end)))
    return found(
        "no pull-ups",
        FAULT,
        end.part,
        f"No pull-ups on the bus of {end.part}: its lines never rise and {others} cannot answer.",
        at=line.ends,
        remedy=f"put {written(PULL_UP_OHM, 'Ω')} from each line to {rail or 'the supply'}",
        ways=partial(_pulled_up, hookup, end, rail),
    )


def _pulled_up(hookup: Hookup, end: End, rail: End | None) -> Iterator[Way]:
    """Missing pull-ups: one pair for all lines of that board's bus without any."""
    if rail is None:
        return
    name = free_name(hookup.parts, "bus pull-ups")
    bare = [
        _board_end(hookup, each)
        for each in bus_lines(hookup)
        if not each.pull_ups and _board_end(hookup, each).part == end.part
    ]
    entries = [{**join_entry_of(each, rail), "through": name} for each in bare]
    yield Way(
        f"put {written(PULL_UP_OHM, 'Ω')} from each line to {rail}",
        (
            Mend(("parts", name), {"kind": "resistor", "resistance": written(PULL_UP_OHM, "Ω")}),
            *(Mend(JOINS, entry) for entry in entries),
        ),
    )


def join_entry_of(end: End, rail: End) -> dict[str, str | int | bool]:
    """A pull-up as the project file has it."""
    return join_entry(Join(end, rail, colour="red"))


def _rail_at(hookup: Hookup, part: str, level_v: float) -> End | None:
    pins = [pin for pin in hookup.parts[part].kind.pins if "supply out" in pin.roles and pin.gives_v == level_v]
    return End(part, pins[0].name) if pins else None


def _level(hookup: Hookup, line: BusLine) -> Finding | None:
    """The level of a line: the strongest rail sets it, and every pin must tolerate it and read it as high."""
    if not line.pull_ups:
        return None
    highest = max(line.pull_ups, key=lambda pull: pull.volts)
    for end, tolerates, needs in bus_levels(hookup, line):
        if tolerates is not None and line.volts > tolerates + SLACK_V:
            text = f"{highest.of} pulls the bus up to {volts(line.volts)}, but {end} tolerates only {volts(tolerates)}."
            part, limit = highest.of, tolerates
        elif needs is not None and line.volts < needs - SLACK_V:
            text = f"The bus is pulled up to {volts(line.volts)}, but {end} reads high only from {volts(needs)}."
            part, limit = end.part, needs
        else:
            continue
        return found(
            "bus level",
            FAULT,
            part,
            text,
            figure=line.volts,
            unit="V",
            limit=limit,
            remedy="put a level shifter between the parts of different level",
            at=[each for each in line.ends if each.part == part] or [end],
            ways=partial(_ways_to_level, hookup, line),
        )
    return None


def _ways_to_level(hookup: Hookup, line: BusLine) -> Iterator[Way]:
    """Remedies: own pull-ups to the rail of the board's level; else a shifter for a part at another level, or for all
    such parts."""
    level = logic_v(hookup, _board_end(hookup, line).part)
    rail = None if level is None else _rail_at(hookup, _board_end(hookup, line).part, level)
    own = dict.fromkeys(pull.of for pull in line.pull_ups if hookup.parts[pull.of].kind.name == "resistor")
    if rail is not None and own:
        ends = [
            (join, "to" if "supply out" in hookup.pin(join.to).roles else "pin")
            for join in hookup.joins
            if join.through in own
        ]
        yield Way(
            f"lead {' and '.join(own)} to {rail}",
            tuple(Mend((*JOINS, join.index, side), str(rail)) for join, side in ends),
        )
    parts = [name for name in dict.fromkeys(end.part for end in line.ends) if hookup.parts[name].kind.group != "board"]
    others = [name for name in parts if (own_v := logic_v(hookup, name)) is not None and own_v != level]
    for names in (*([name] for name in (*others, *parts)), others if len(others) > 1 else []):
        mends = tuple(mend for name in names for mend in _shifted(hookup, name))
        if mends:
            yield Way(f"put a level shifter before {' and '.join(names)}", mends)


def _shifted(hookup: Hookup, part: str) -> tuple[Mend, ...]:
    """Both lines of a part through a level shifter."""
    joins = [
        join
        for join in hookup.joins
        if part in (join.pin.part, join.to.part)
        and not join.through
        and (roles := used_roles(hookup, join)) is not None
        and roles[0] in BUS_LINES
    ]
    if not joins:
        return ()
    name = free_name(hookup.parts, f"{part} levels")
    return Mend(("parts", name), {"kind": "level shifter"}), *through(joins, name)


def _too_strong(hookup: Hookup, line: BusLine) -> Finding | None:
    if not line.pull_ups or line.volts <= SINK_V:
        return None
    least = least_pull_up_ohm(line.volts)
    if line.ohm >= least:
        return None
    amps = (line.volts - SINK_V) / line.ohm
    names = " and ".join(dict.fromkeys(pull.of for pull in line.pull_ups))
    own = [pull for pull in line.pull_ups if hookup.parts[pull.of].kind.group == "between"]
    return found(
        "strong pull-ups",
        FAULT,
        own[0].of if own else line.pull_ups[-1].of,
        f"The pull-ups of {names} are too strong together: {written(line.ohm, 'Ω')} at {volts(line.volts)} ask for "
        f"{plain_number(amps * 1000, 3)} mA from an output; the bus allows {SINK_A * 1000:g} mA.",
        figure=line.ohm,
        unit="Ω",
        limit=least,
        remedy="take the pull-ups off one of the modules",
        at=line.ends,
        ways=partial(_weaker, hookup, line, least),
    )


def _weaker(hookup: Hookup, line: BusLine, least: float) -> Iterator[Way]:
    """Larger pull-ups, where one is a separate resistor."""
    most = most_pull_up_ohm(line_farad(hookup, line), bus_clock_hz(hookup, line))
    for pull in line.pull_ups:
        if hookup.parts[pull.of].kind.name != "resistor":
            continue
        others = sum(1 / each.ohm for each in line.pull_ups if each.of != pull.of)
        needed = 1 / (1 / least - others) if 1 / least > others else None
        choice = decade_of(needed, max(most, needed * 2)) if needed else []
        for ohm in sorted(choice, key=lambda ohm: abs(ohm - max(PULL_UP_OHM, choice[0])))[:2]:
            shown = written(ohm, "Ω")
            yield Way(f"make {pull.of} {shown}", (Mend(("parts", pull.of, "resistance"), shown),))


def _slow(hookup: Hookup, line: BusLine) -> Finding | None:
    if not line.pull_ups:
        return None
    farad, clock = line_farad(hookup, line), bus_clock_hz(hookup, line)
    takes, limit = rise_s(line.ohm, farad), rise_limit_s(clock)
    if takes <= limit:
        return None
    end = _board_end(hookup, line)
    return found(
        "slow bus",
        FAULT,
        end.part,
        f"The bus rises too slowly: {plain_number(takes * 1e9, 3)} ns with "
        f"{written(line.ohm, 'Ω')} and {plain_number(farad * 1e12, 3)} pF; {plain_number(limit * 1e9)} ns are allowed "
        f"at {plain_number(clock / 1e3)} kHz.",
        figure=takes,
        unit="s",
        limit=limit,
        remedy="shorten the wires of the bus",
        at=line.ends,
        ways=partial(_faster, hookup, line, farad, clock, end),
    )


def _faster(hookup: Hookup, line: BusLine, farad: float, clock: float, end: End) -> Iterator[Way]:
    """Stronger pull-ups where allowed; else a slower clock."""
    least, most = least_pull_up_ohm(line.volts), most_pull_up_ohm(farad, clock)
    for pull in line.pull_ups:
        if hookup.parts[pull.of].kind.name != "resistor":
            continue
        others = sum(1 / each.ohm for each in line.pull_ups if each is not pull)
        allowed = [ohm for ohm in decade_of(least, pull.ohm) if least <= 1 / (1 / ohm + others) <= most]
        if allowed:
            better = written(max(allowed), "Ω")
            yield Way(f"make {pull.of} {better}", (Mend(("parts", pull.of, "resistance"), better),))
    if "bus_clock" not in hookup.parts[end.part].values:
        return
    for slower in (400e3, 100e3):
        if slower < clock and rise_s(line.ohm, farad) <= rise_limit_s(slower):
            shown = f"{plain_number(slower / 1e3)} kHz"
            yield Way(f"set the bus clock to {shown}", (Mend(("parts", end.part, "bus_clock"), shown),))
