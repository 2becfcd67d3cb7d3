"""Currents: what each rail has to supply, usually and at worst, and what lamps and their pins carry."""

from __future__ import annotations

from collections.abc import Iterator

from lesart.core.dataclass_later import dataclass
from lesart.core.wire.hookup import End, Hookup, Join, logic_v, rail_v, supply_join, supply_of
from lesart.core.wire.part import Part, Pin

LAMP_IN = ("lamp +", "segment")
LAMP_A = 0.01
"""Current of a lamp where none is stated; usual for a small one."""


@dataclass(frozen=True)
class Drawn:
    """One load on a rail, in A: what it usually draws, and at worst."""

    of: str
    usual_a: float
    peak_a: float


@dataclass(frozen=True)
class Load:
    """A rail and everything that draws from it. ``limit_a`` is None where its capacity is not stated."""

    rail: End
    limit_a: float | None
    drawn: tuple[Drawn, ...]

    @property
    def usual_a(self) -> float:
        """All loads at their usual current."""
        return sum(each.usual_a for each in self.drawn)

    @property
    def worst(self) -> Drawn | None:
        """The load whose peak adds most."""
        return max(self.drawn, key=lambda each: each.peak_a - each.usual_a, default=None)

    @property
    def one_peak_a(self) -> float:
        """All at their usual current, but the worst load at its peak."""
        return self.usual_a + (self.worst.peak_a - self.worst.usual_a if self.worst else 0.0)

    @property
    def all_peaks_a(self) -> float:
        """Everything at its peak at once."""
        return sum(each.peak_a for each in self.drawn)


@dataclass(frozen=True)
class Lamp:
    """A lamp, a segment or a backlight that is joined at both ends, or on whose line a level is known.

    ``ohm`` is all resistance in its own way, built in and added. ``shared_ohm`` is after it and ``beside - 1`` others:
    a resistor in a digit's line. ``left_v`` is what is left over these resistances.
    """

    end: End
    join: Join
    wanted_a: float
    duty: float
    left_v: float
    ohm: float
    resistors: tuple[Part, ...]
    driver: End
    switched: bool
    shared_ohm: float = 0.0
    beside: int = 1

    @property
    def amps(self) -> float | None:
        """Current while it alone of those sharing its resistor is lit; None where nothing limits it."""
        ohm = self.ohm + self.shared_ohm
        return max(self.left_v, 0.0) / ohm if ohm > 0 else None

    @property
    def least_a(self) -> float:
        """Its current while all that share its resistor are lit; 0 where it is not known."""
        ohm = self.ohm + self.beside * self.shared_ohm
        return max(self.left_v, 0.0) / ohm if ohm > 0 else 0.0


def rail_limit_a(hookup: Hookup, rail: End) -> float | None:
    """The current that a supply can give."""
    pin, part = hookup.pin(rail), hookup.parts[rail.part]
    if pin.current_a is not None:
        return pin.current_a
    current = part.values.get("current")
    return None if current is None else float(current)


def loads_of(hookup: Hookup) -> tuple[Load, ...]:
    """Every rail that something draws from, and the plug of a board that nothing else feeds."""
    found, lamps = [], lamps_of(hookup)
    for end, pin in hookup.ends():
        if "supply out" in pin.roles:
            drawn = tuple(_drawn_at(hookup, end, lamps))
            if drawn:
                found.append(Load(end, rail_limit_a(hookup, end), drawn))
        elif "supply" in pin.roles and "plug" in hookup.parts[end.part].values and supply_join(hookup, end) is None:
            drawn = tuple(_through_supply(hookup, end, lamps))
            found.append(Load(end, hookup.parts[end.part].value("plug"), drawn))
    return tuple(found)


def _drawn_at(
    hookup: Hookup, rail: End, lamps: tuple[Lamp, ...], above: frozenset[End] = frozenset()
) -> Iterator[Drawn]:
    """Loads on a rail. ``above`` are the rails it is fed from: one that feeds itself gives nothing."""
    if rail in above:
        return
    for join in hookup.joins_at(rail):
        taker = join.other(rail)
        if "supply" in hookup.pin(taker).roles:
            yield from _through_supply(hookup, taker, lamps, above | {rail})
    for lamp in lamps:
        if lamp.driver == rail and lamp.amps is not None:
            yield Drawn(lamp.end.part, lamp.least_a * lamp.duty, lamp.least_a)


def _through_supply(
    hookup: Hookup, supply: End, lamps: tuple[Lamp, ...], above: frozenset[End] = frozenset()
) -> Iterator[Drawn]:
    """Current into a supply pin: the part's own, and that of all it feeds."""
    pin, part = hookup.pin(supply), hookup.parts[supply.part]
    own = (pin.current_a or _said_a(part, "draws")) + _bridge_a(hookup, part)
    yield Drawn(part.name, own, max(peak_a(part, pin), own))
    for other in part.kind.pins:
        if other.fed_by == pin.name:
            out = End(part.name, other.name)
            times = _times_at_input(hookup, supply, out)
            for each in _drawn_at(hookup, out, lamps, above):
                yield Drawn(each.of, each.usual_a * times, each.peak_a * times)
    if part.kind.group == "board":
        yield from _signal_loads(hookup, part)
        for lamp in lamps:
            if lamp.driver.part == part.name and lamp.amps is not None and not _is_rail(hookup, lamp.driver):
                yield Drawn(lamp.end.part, lamp.least_a * lamp.duty, lamp.least_a)


def peak_a(part: Part, pin: Pin) -> float:
    """What a supply pin draws at worst: that of its kind, or what its part says."""
    return pin.peak_a or _said_a(part, "at_worst") or pin.current_a or 0.0


def _said_a(part: Part, name: str) -> float:
    """A current among the values of a part; 0 where it has none."""
    return float(part.values.get(name) or 0.0)


def _times_at_input(hookup: Hookup, supply: End, out: End) -> float:
    """Amperes in per ampere out: by power for a converter, with its losses; 1 for a regulator, which passes the same
    current. Source: power in × efficiency = power out."""
    efficiency = hookup.parts[out.part].value("efficiency") / 100
    join = supply_join(hookup, supply)
    into = rail_v(hookup, join.other(supply)) if join is not None else None
    gives = rail_v(hookup, out)
    return gives / (into * efficiency) if efficiency and into and gives else 1.0


def _signal_loads(hookup: Hookup, board: Part) -> Iterator[Drawn]:
    """Currents that a board's pins give to buzzers and the like, from its own supply."""
    for end, amps, driver in signal_loads(hookup):
        if driver.part == board.name:
            yield Drawn(end.part, amps, amps)


def signal_loads(hookup: Hookup) -> Iterator[tuple[End, float, End]]:
    """Each input that draws current from the pin that drives it, that current in A, and the pin; one behind a
    transistor draws none from the pin."""
    for end, pin in hookup.ends():
        if pin.load_a:
            for join in hookup.joins_at(end):
                if hookup.through_kind(join) != "transistor" and "digital" in hookup.pin(join.other(end)).roles:
                    yield end, pin.load_a, join.other(end)


def _is_rail(hookup: Hookup, end: End) -> bool:
    return "supply out" in hookup.pin(end).roles


def _bridge_a(hookup: Hookup, amplifier: Part) -> float:
    """Current that an amplifier gives to its bridge, from its own supply."""
    end = End(amplifier.name, "E+")
    if amplifier.kind.pin("E+") is None or amplifier.kind.pin("supply") is None:
        return 0.0
    volts = supply_of(hookup, amplifier.name)
    bridges = [hookup.parts[join.other(end).part] for join in hookup.joins_at(end)]
    return sum(volts[0] / bridge.value("resistance") for bridge in bridges if volts and bridge.values.get("resistance"))


def lamps_of(hookup: Hookup) -> tuple[Lamp, ...]:
    """Everything that lights and whose driving level is known."""
    found = []
    for end, pin in hookup.ends():
        if any(role in LAMP_IN for role in pin.roles):
            for join in hookup.joins_at(end):
                lamp = _lamp(hookup, end, join)
                if lamp is not None:
                    found.append(lamp)
    return tuple(found)


def _lamp(hookup: Hookup, end: End, join: Join) -> Lamp | None:
    part, driver = hookup.parts[end.part], join.other(end)
    forward = hookup.pin(end).forward_v or part.values.get("forward")
    volts = rail_v(hookup, driver) if _is_rail(hookup, driver) else logic_v(hookup, driver.part)
    if forward is None or volts is None:
        return None
    legs = [join, *_other_legs(hookup, end)]
    resistors = tuple(
        between for leg in legs if (between := hookup.through(leg)) is not None and between.kind.name == "resistor"
    )
    built_in = hookup.pin(end).series_ohm + part.value("backlight_resistor")
    ohm = built_in + sum(each.value("resistance") for each in resistors)
    switched = any(hookup.through_kind(leg) == "transistor" for leg in legs)
    wanted = part.value("current") or hookup.pin(end).current_a or LAMP_A
    return Lamp(
        end,
        join,
        wanted,
        part.value("duty", 1.0),
        volts - float(forward),
        ohm,
        resistors,
        driver,
        switched,
        *_shared(hookup, end),
    )


def _shared(hookup: Hookup, end: End) -> tuple[float, int]:
    """The resistance in the line that a segment shares with others of its part, and how many share it; the least of all
    lines. None where a line has no resistor."""
    kind = hookup.parts[end.part].kind
    if "segment" not in hookup.pin(end).roles:
        return 0.0, 1
    lines = [
        join
        for pin in kind.pins
        if {"digit", "lamp −"} & set(pin.roles)
        for join in hookup.joins_at(End(end.part, pin.name))
    ]
    if not lines or any(hookup.through_kind(join) != "resistor" for join in lines):
        return 0.0, 1
    segments = [pin for pin in kind.pins if "segment" in pin.roles and hookup.joins_at(End(end.part, pin.name))]
    return min(hookup.parts[join.through].value("resistance") for join in lines), len(segments)


def _other_legs(hookup: Hookup, end: End) -> list[Join]:
    """The joins of the lamp's other leg; its resistor may be there as well. Digits have one leg for many segments."""
    if "lamp +" not in hookup.pin(end).roles:
        return []
    out = [pin.name for pin in hookup.parts[end.part].kind.pins if "lamp −" in pin.roles]
    return [join for name in out for join in hookup.joins_at(End(end.part, name))]
