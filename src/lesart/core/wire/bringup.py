"""The bring-up list: what to check, in which order, with a meter and with Lesart, and what a wrong value means.

Made from the hook-up alone, so that it fits this project. First without power, then the rails, then each part, then
signals: later checks mean nothing while an earlier one fails.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from lesart.core.wire.check import Check
from lesart.core.wire.currents import lamps_of, loads_of
from lesart.core.wire.hookup import End, Hookup, Join, bus_lines, is_pull, rail_v, supply_of, takes_v, used_roles
from lesart.core.wire.levels import arriving_v
from lesart.core.wire.part import Part, shown_address
from lesart.core.wire.role import is_rail

SUPPLY_SHARE = 0.05
"""Allowed deviation of a rail; usual for supplies and regulators."""
HIGH_SHARE = 0.9
"""A line that nobody pulls low is at least at this share of its rail."""


def bring_up(hookup: Hookup) -> tuple[Check, ...]:
    """All checks of a hook-up, in the order they are done."""
    steps: tuple[Callable[[Hookup], Iterator[Check]], ...] = (
        _prints,
        _shorts,
        _grounds,
        _rails,
        _supplies,
        _drawn,
        _idle_buses,
        _answers,
        _levels,
        _analog,
        _contrast,
        _halves,
        _lamps,
        _readings,
    )
    return tuple(check for step in steps for check in step(hookup))


def _used_rails(hookup: Hookup) -> list[tuple[End, float]]:
    """Rails in use, with their voltages; those fed by no other come first."""
    found = [
        (end, volts)
        for end, pin in hookup.ends()
        if "supply out" in pin.roles and hookup.joins_at(end) and (volts := rail_v(hookup, end))
    ]
    return sorted(found, key=lambda rail: bool(hookup.pin(rail[0]).fed_by))


def _prints(hookup: Hookup) -> Iterator[Check]:
    for part in hookup.parts.values():
        if part.kind.orders:
            joined = [pin.name for pin in part.kind.pins if hookup.joins_at(End(part.name, pin.name))]
            if joined:
                yield Check(
                    f"{part.name} print",
                    f"Before power: the print on {part.name} says what the wires assume ({', '.join(joined)}).",
                    means_low="The order of its pins differs from the picture: join it by "
                    "the print, or supply and ground may be swapped.",
                    part=part.name,
                )


def _shorts(hookup: Hookup) -> Iterator[Check]:
    for end, _ in _used_rails(hookup):
        yield Check(
            f"{end} short",
            f"Without power: resistance from {end} to ground.",
            "Ω",
            100.0,
            float("inf"),
            "A short, or a part the wrong way round: take parts off one by one until it rises.",
            part=end.part,
        )


def _grounds(hookup: Hookup) -> Iterator[Check]:
    grounds = [end for end, pin in hookup.ends() if "ground" in pin.roles and hookup.joins_at(end)]
    if len(grounds) > 1:
        yield Check(
            key="ground",
            does="Without power: resistance between the ground of the board and that of every part, the worst.",
            unit="Ω",
            lowest=0.0,
            highest=2.0,
            means_low="",
            means_high="A ground wire is missing or loose; signals have nothing to be measured against.",
        )


def _rails(hookup: Hookup) -> Iterator[Check]:
    for end, volts in _used_rails(hookup):
        yield Check(
            key=f"{end} volts",
            does=f"Power on, nothing but the board: voltage at {end}.",
            unit="V",
            lowest=volts * (1 - SUPPLY_SHARE),
            highest=volts * (1 + SUPPLY_SHARE),
            means_low="Overloaded, or fed too little: feel what gets warm. Nothing at all is a short, or no supply.",
            means_high="The wrong rail, or a failed regulator: disconnect all parts before they are harmed.",
            part=end.part,
        )


def _supplies(hookup: Hookup) -> Iterator[Check]:
    for end, pin in hookup.ends():
        fed = supply_of(hookup, end.part)
        if "supply" not in pin.roles or fed is None or not hookup.joins_at(end):
            continue
        volts = fed[0]
        yield Check(
            key=f"{end} volts",
            does=f"Voltage between {end} and the ground of {end.part}, at the part itself.",
            unit="V",
            lowest=max(volts * (1 - SUPPLY_SHARE), takes_v(hookup, end)[0]),
            highest=volts * (1 + SUPPLY_SHARE),
            means_low="A broken connection, or a long thin wire. Below zero: supply and ground are swapped.",
            means_high="It is joined to another rail than planned.",
            part=end.part,
        )


def _drawn(hookup: Hookup) -> Iterator[Check]:
    """Check of the current drawn, at the outermost supplies only: it includes all the rest."""
    for load in loads_of(hookup):
        alone = all(drawn.of == load.rail.part for drawn in load.drawn)
        if hookup.pin(load.rail).fed_by or load.usual_a <= 0 or alone:
            continue
        most = max(1.3 * load.all_peaks_a, 1.5 * load.usual_a)
        where = (
            f"from {load.rail}" if "supply out" in hookup.pin(load.rail).roles else f"into the plug of {load.rail.part}"
        )
        yield Check(
            key=f"{load.rail} current",
            does=f"Current {where}, everything joined.",
            unit="mA",
            lowest=300 * load.usual_a,
            highest=1000 * most,
            means_low="A part is not fed, or the board sleeps.",
            means_high="Something takes too much: the part that gets warm is wrong or wrongly joined.",
            part=load.rail.part,
        )


def _idle_buses(hookup: Hookup) -> Iterator[Check]:
    for line in bus_lines(hookup):
        if line.pull_ups:
            end = next((each for each in line.ends if hookup.parts[each.part].kind.group == "board"), line.ends[0])
            yield Check(
                key=f"{end} idle",
                does=f"Idle: voltage of the {line.role} line at {end}.",
                unit="V",
                lowest=HIGH_SHARE * line.volts,
                highest=1.1 * line.volts,
                means_low="Held low: data and clock swapped, a part without supply on the bus, or no pull-up.",
                means_high="Pulled up to a higher rail than the board tolerates.",
                part=end.part,
            )


def _answers(hookup: Hookup) -> Iterator[Check]:
    """Address checks: behind a level shifter it is still the same bus."""
    found = [part for part in hookup.parts.values() if part.address is not None and _on_bus(hookup, part.name)]
    if found:
        listed = ", ".join(f"{shown_address(part.address or 0)} {part.name}" for part in found)
        yield Check(
            "bus answers",
            f"Ask every address of the bus; only these answer: {listed}.",
            means_low="No device answers: wiring, or the bus is off. Every address answers: the data line is held low. "
            "Another address: straps set differently.",
        )


def _on_bus(hookup: Hookup, part: str) -> bool:
    return any(
        (roles := used_roles(hookup, join)) is not None
        and "two-wire data" in roles
        and part in (join.pin.part, join.to.part)
        for join in hookup.joins
    )


def _levels(hookup: Hookup) -> Iterator[Check]:
    """Level checks: where something is between two levels, the far side is measured before it is connected."""
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if hookup.through_kind(join) not in ("divider", "level shifter") or roles is None:
            continue
        board_first = hookup.parts[join.pin.part].kind.group == "board"
        listener, driver = (join.pin, join.to) if board_first else (join.to, join.pin)
        volts = arriving_v(hookup, join, driver, listener)
        if volts:
            yield Check(
                key=f"{driver} level",
                does=f"Highest voltage after {join.through}, where it goes to {listener}.",
                unit="V",
                lowest=0.0,
                highest=volts * 1.05,
                means_low="",
                means_high=f"{join.through} is joined the wrong way round or not at all; {listener} would be harmed.",
                part=driver.part,
            )


def _analog(hookup: Hookup) -> Iterator[Check]:
    for join in hookup.joins:
        roles = used_roles(hookup, join)
        if roles is None or "analog in" not in roles or "element" in roles:
            continue
        end = join.ends[roles.index("analog in")]
        most = hookup.pin(end).tolerates_v
        if most is not None:
            yield Check(
                key=f"{end} volts",
                does=f"Voltage at {end}, from {join.other(end)}.",
                unit="V",
                lowest=0.0,
                highest=most,
                means_low="Below ground: the sensor is joined the wrong way round.",
                means_high="More than the converter may get: a divider is missing.",
                part=end.part,
            )


def _contrast(hookup: Hookup) -> Iterator[Check]:
    """Contrast check: 3.8 to 4.8 V at a supply of 5 V, scaled with the supply, because some displays take 3.3 V."""
    for end, pin in hookup.ends():
        fed = supply_of(hookup, end.part)
        if "contrast" in pin.roles and hookup.joins_at(end) and fed is not None:
            yield Check(
                key=f"{end} volts",
                does=f"Voltage at {end}, turned until empty cells just vanish.",
                unit="V",
                lowest=0.04 * fed[0],
                highest=0.24 * fed[0],
                means_low="Every cell is a dark square: turn towards the supply.",
                means_high="Nothing is to be seen: turn towards ground.",
                part=end.part,
            )


def _halves(hookup: Hookup) -> Iterator[Check]:
    for join in hookup.joins:
        if not is_pull(hookup, join):
            continue
        rail = next(end for end in join.ends if rail_v(hookup, end) is not None)
        end, volts, fixed = join.other(rail), rail_v(hookup, rail) or 0.0, hookup.through(join)
        sensor = _element_at(hookup, end)
        if sensor is None or fixed is None or volts <= 0:
            continue
        part = hookup.parts[sensor.other(end).part]
        ohm, other = part.value("resistance"), fixed.value("resistance")
        usual = volts * ohm / (ohm + other)
        yield Check(
            key=f"{end} half",
            does=f"Voltage at {end} with {part.name} at room temperature, or in the middle of its range.",
            unit="V",
            lowest=0.6 * usual,
            highest=usual + 0.4 * (volts - usual),
            means_low=f"{part.name} is shorted, or {fixed.name} is missing or far too large.",
            means_high=f"{part.name} is open or not joined to ground, or {fixed.name} is far too small.",
            part=part.name,
        )


def _element_at(hookup: Hookup, end: End) -> Join | None:
    return next((join for join in hookup.joins_at(end) if "element" in hookup.pin(join.other(end)).roles), None)


def _lamps(hookup: Hookup) -> Iterator[Check]:
    """Lamp checks by the voltage across the resistor, because nobody cuts a wire to measure a current."""
    told: set[str] = set()
    for lamp in lamps_of(hookup):
        if lamp.resistors and lamp.left_v > 0 and lamp.end.part not in told:
            told.add(lamp.end.part)
            name, volts = lamp.resistors[0].name, lamp.left_v * lamp.resistors[0].value("resistance") / lamp.ohm
            yield Check(
                key=f"{lamp.end} lit",
                does=f"{lamp.end} lit all the time: voltage across {name}.",
                unit="V",
                lowest=0.7 * volts,
                highest=1.3 * volts,
                means_low="The lamp is the wrong way round, or the pin is weaker than thought.",
                means_high=f"{name} is smaller than planned, or the lamp drops less: too much current.",
                part=lamp.end.part,
            )


def _readings(hookup: Hookup) -> Iterator[Check]:
    """Checks of what Lesart itself shows, last."""
    for part in hookup.parts.values():
        partners = [
            hookup.parts[join.other(end).part]
            for end, _ in hookup.ends()
            if end.part == part.name
            for join in hookup.joins_at(end)
        ]
        if (
            part.kind.group == "sensor"
            and any(each.kind.group == "board" for each in partners)
            and _reads(hookup, part)
        ):
            yield Check(
                f"{part.name} moves",
                f"Warm, press or shade {part.name}: in 2 Raw its trace moves the right way.",
                means_low="A trace that stands still: another pin or another column. The wrong way: two wires of the "
                "sensor are swapped.",
                part=part.name,
            )
        if part.kind.group == "display" and partners:
            yield Check(
                f"{part.name} shows",
                f"{part.name} shows what the glass at the right shows.",
                means_low="Dark: supply, contrast or backlight. Only squares: it was not set up. Wrong places: two "
                "lines are swapped.",
                part=part.name,
            )


def _reads(hookup: Hookup, part: Part) -> bool:
    """True where one of its signals reaches a board. A potentiometer that only sets a contrast does not."""
    ends = [End(part.name, pin.name) for pin in part.kind.pins if not is_rail(pin.roles) and "supply" not in pin.roles]
    return any(
        hookup.parts[join.other(end).part].kind.group == "board" and not is_rail(hookup.pin(join.other(end)).roles)
        for end in ends
        for join in hookup.joins_at(end)
    )
