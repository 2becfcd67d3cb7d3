"""The hook-up: parts and the connections between their pins, and what follows from them for levels.

Nothing is judged here; the modules ``inspect_…`` do that. All functions are pure; ends that do not exist cannot come
here, because reading the project refuses them.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field
from functools import cached_property

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.wire.part import Part, Pin
from lesart.core.wire.role import BUS_LINES, PULLED, PULLED_PART, ROLES

ROUNDED = 1e-9
"""Of a voltage: smaller differences are float rounding."""
CLAMP_V = 0.3
"""What an input tolerates above its supply before its protection conducts; the usual absolute maximum."""
HIGH_SHARE = 0.7
"""Share of the supply that an input is sure to read as high; the usual figure, and that of the bus standard."""

JOIN = (
    Parameter("pin", "pin", "text", "pin of a part, written part.pin", longest=90, names="pins"),
    Parameter("to", "to", "text", "pin of a board, a rail or another part, written part.pin", longest=90, names="pins"),
    Parameter(
        "through",
        "through",
        "text",
        "part that it runs through: a resistor, a divider, a level shifter",
        "",
        longest=60,
        names="parts",
    ),
    Parameter("colour", "colour", "text", "of the wire", "", longest=16),
)
"""A connection in the project file, one line of ``wire.joins``."""


@dataclass(frozen=True, order=True)
class End:
    """One end of a connection."""

    part: str
    pin: str

    def __str__(self) -> str:
        return f"{self.part}.{self.pin}"


@dataclass(frozen=True)
class Join:
    """A connection. ``index`` is its position in the project file; ``through`` names a part in between, or is empty."""

    pin: End
    to: End
    through: str = ""
    colour: str = ""
    index: int = -1

    @property
    def ends(self) -> tuple[End, End]:
        """Both ends."""
        return self.pin, self.to

    def other(self, end: End) -> End:
        """The end that is not this one."""
        return self.to if end == self.pin else self.pin


@dataclass(frozen=True)
class Hookup:
    """All parts by name, and all joins in the order of the file."""

    parts: Mapping[str, Part] = field(default_factory=dict)
    joins: tuple[Join, ...] = ()

    @cached_property
    def _at(self) -> Mapping[End, tuple[Join, ...]]:
        found: defaultdict[End, list[Join]] = defaultdict(list)
        for join in self.joins:
            for end in set(join.ends):
                found[end].append(join)
        return {end: tuple(joins) for end, joins in found.items()}

    def joins_at(self, end: End) -> tuple[Join, ...]:
        """All joins of a pin."""
        return self._at.get(end, ())

    def pin(self, end: End) -> Pin:
        """The record of a pin."""
        pin = self.parts[end.part].kind.pin(end.pin)
        assert pin is not None, f"{end} was not checked when the project was read"
        return pin

    @cached_property
    def _ends(self) -> tuple[tuple[End, Pin], ...]:
        return tuple((End(part.name, pin.name), pin) for part in self.parts.values() for pin in part.kind.pins)

    def ends(self) -> Iterator[tuple[End, Pin]]:
        """Every pin of every part."""
        return iter(self._ends)

    def through(self, join: Join) -> Part | None:
        """The part a join runs through."""
        return self.parts[join.through] if join.through else None

    def through_kind(self, join: Join) -> str:
        """The kind of the part a join runs through; empty where it runs straight."""
        return self.parts[join.through].kind.name if join.through else ""


def used_roles(hookup: Hookup, join: Join) -> tuple[str, str] | None:
    """The roles in which the two pins of a join meet, that of ``pin`` first; None where they do not."""
    first, second = (hookup.pin(end).roles for end in join.ends)
    for one in first:
        for other in second:
            if other in ROLES[one].meets or one in ROLES[other].meets:
                return one, other
    return None


def signal_ends(hookup: Hookup, part: str) -> tuple[End, ...]:
    """Pins of boards that a part's signals are joined to, rails excluded."""
    found = [
        far
        for pin in hookup.parts[part].kind.pins
        for join in hookup.joins_at(End(part, pin.name))
        if hookup.parts[(far := join.other(End(part, pin.name))).part].kind.group == "board"
        and not {"supply", "supply out", "ground"} & set(hookup.pin(far).roles)
    ]
    return tuple(dict.fromkeys(found))


def is_pull(hookup: Hookup, join: Join) -> bool:
    """True where a resistor leads from a signal to a rail: a pull-up, or the fixed half of a divider."""
    if hookup.through_kind(join) != "resistor":
        return False
    rails = ["supply out" in hookup.pin(end).roles or "ground" in hookup.pin(end).roles for end in join.ends]
    lamps = any(role.startswith("lamp") for end in join.ends for role in hookup.pin(end).roles)
    return sum(rails) == 1 and not lamps


def works(hookup: Hookup, join: Join) -> bool:
    """True where the two pins work together, or a resistor leads from one of them to a rail."""
    if used_roles(hookup, join) is not None:
        return True
    return is_pull(hookup, join) and any(
        role in PULLED or role in PULLED_PART for end in join.ends for role in hookup.pin(end).roles
    )


def is_free(hookup: Hookup, end: End) -> bool:
    """True for a pin without a job; a resistor to a rail does not count as one."""
    return all(is_pull(hookup, join) for join in hookup.joins_at(end))


def rail_v(hookup: Hookup, end: End) -> float | None:
    """Voltage of a supply: as its kind states, or as the part was set."""
    pin, part = hookup.pin(end), hookup.parts[end.part]
    if "supply out" not in pin.roles:
        return 0.0 if "ground" in pin.roles else None
    if pin.gives_v is not None:
        return pin.gives_v
    voltage = part.values.get("voltage")
    return None if voltage is None else float(voltage)


def takes_v(hookup: Hookup, end: End) -> tuple[float, float]:
    """The least and the most that a supply pin works at, 0 and infinite where it is not stated.

    A regulator needs what it gives and its dropout above that; a step-up lets through what is more than it gives.
    """
    pin, part = hookup.pin(end), hookup.parts[end.part]
    low, high = pin.lowest_v or 0.0, pin.highest_v or math.inf
    gives = part.values.get("voltage")
    if gives is not None and "dropout" in part.values:
        low = max(low, float(gives) + part.value("dropout"))
    if gives is not None and "efficiency" in part.values:
        high = min(high, float(gives))
    return low, high


def works_at(hookup: Hookup, end: End, volts: float | None) -> bool:
    """True where a supply pin works at that voltage."""
    low, high = takes_v(hookup, end)
    return volts is not None and low <= volts * (1 + ROUNDED) and volts <= high * (1 + ROUNDED)


def supply_join(hookup: Hookup, end: End) -> Join | None:
    """The join that feeds a supply pin."""
    return next((join for join in hookup.joins_at(end) if "supply out" in hookup.pin(join.other(end)).roles), None)


def fed_through(hookup: Hookup, supply: End) -> tuple[End, ...]:
    """The rails that a supply pin is fed through, nearest first: its own, the one feeding that, and so on.

    Where they form a loop, the repeated one is last, and is there twice.
    """
    rails: list[End] = []
    at: End | None = supply
    while at is not None:
        join = supply_join(hookup, at)
        if join is None:
            break
        rail = join.other(at)
        rails.append(rail)
        feeder = hookup.pin(rail).fed_by
        at = End(rail.part, feeder) if feeder and rail not in rails[:-1] else None
    return tuple(rails)


def supply_of(hookup: Hookup, part: str) -> tuple[float, End] | None:
    """Voltage and rail of a part's supply; None while it is missing or wrong: consequences of a wrong supply are not
    judged, or one mistake would make many notes."""
    for pin in hookup.parts[part].kind.pins:
        if "supply" in pin.roles:
            join = supply_join(hookup, End(part, pin.name))
            if join is not None:
                rail = join.other(End(part, pin.name))
                volts = rail_v(hookup, rail)
                if volts is not None and works_at(hookup, End(part, pin.name), volts):
                    return volts, rail
    return None


def logic_v(hookup: Hookup, part: str) -> float | None:
    """Level of a part's signals: as its kind states, else its supply."""
    level = hookup.parts[part].kind.logic_v
    if level is not None:
        return level
    supply = supply_of(hookup, part)
    return None if supply is None else supply[0]


def high_v(hookup: Hookup, end: End) -> float | None:
    """The highest voltage that an output puts on its line."""
    gives, level = hookup.pin(end).gives_v, logic_v(hookup, end.part)
    if gives is None or level is None:
        return level if gives is None else gives
    # No output gives more than it is fed with.
    return min(gives, max(level, supply_or(hookup, end.part, level)))


def supply_or(hookup: Hookup, part: str, fallback: float) -> float:
    """A part's supply in V, or the fallback while it has none."""
    supply = supply_of(hookup, part)
    return fallback if supply is None else supply[0]


def tolerated_v(hookup: Hookup, end: End) -> float | None:
    """The highest voltage that an input tolerates."""
    stands = hookup.pin(end).tolerates_v
    if stands is not None:
        return stands
    level = logic_v(hookup, end.part)
    return None if level is None else level + CLAMP_V


def needed_high_v(hookup: Hookup, end: End) -> float | None:
    """The least voltage that an input is sure to read as high."""
    needs = hookup.pin(end).needs_high_v
    if needs is not None:
        return needs
    level = logic_v(hookup, end.part)
    return None if level is None else HIGH_SHARE * level


def groups(hookup: Hookup, joins: Iterable[Join]) -> dict[End, End]:
    """For each end, a representative of all ends that joins tie together."""
    parent: dict[End, End] = {}

    def root(end: End) -> End:
        while parent.setdefault(end, end) != end:
            end = parent[end]
        return end

    for join in joins:
        parent[root(join.pin)] = root(join.to)
    return {end: root(end) for end in parent}


@dataclass(frozen=True)
class PullUp:
    """A resistor from a bus line to a supply; ``of`` is the part it belongs to."""

    ohm: float
    volts: float
    of: str


@dataclass(frozen=True)
class BusLine:
    """One line of a bus: all pins on it, what pulls it up, and the bus clock of its board."""

    role: str
    ends: tuple[End, ...]
    pull_ups: tuple[PullUp, ...]

    @property
    def ohm(self) -> float:
        """All pull-ups in parallel; infinite without any."""
        return 1 / total if (total := sum(1 / pull.ohm for pull in self.pull_ups)) else float("inf")

    @property
    def volts(self) -> float:
        """The level when nobody pulls it low: that of the strongest rail."""
        return max((pull.volts for pull in self.pull_ups), default=0.0)


def bus_lines(hookup: Hookup) -> tuple[BusLine, ...]:
    """Every line of a two-wire bus with at least two pins on it; a level shifter ends a line."""
    lines = []
    for role in BUS_LINES:
        joins = [
            join
            for join in hookup.joins
            if hookup.through_kind(join) in ("", "resistor")
            and not is_pull(hookup, join)
            and all(role in hookup.pin(end).roles for end in join.ends)
        ]
        members: defaultdict[End, list[End]] = defaultdict(list)
        for end, root in groups(hookup, joins).items():
            members[root].append(end)
        for ends in members.values():
            lines.append(BusLine(role, tuple(sorted(ends)), tuple(_pull_ups(hookup, ends))))
    return tuple(lines)


def _pull_ups(hookup: Hookup, ends: Iterable[End]) -> Iterator[PullUp]:
    for end in ends:
        built_in = hookup.pin(end).pull_up_ohm
        level = logic_v(hookup, end.part) if hookup.parts[end.part].kind.logic_v else supply_or(hookup, end.part, 0.0)
        if built_in is not None and level:
            yield PullUp(built_in, level, end.part)
        for join in hookup.joins_at(end):
            part = hookup.through(join)
            if part is not None and part.kind.name == "level shifter":
                # Such modules pull both of their sides up, each to its own level.
                side = logic_v(hookup, end.part)
                if side:
                    yield PullUp(part.value("pull_up"), side, part.name)
                continue
            volts = rail_v(hookup, join.other(end)) if is_pull(hookup, join) else None
            if part is not None and volts:
                yield PullUp(part.value("resistance"), volts, part.name)
