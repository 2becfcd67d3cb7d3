"""Facts for bench sums and the loop from the hook-up: supplies, lamps, the battery and its load."""

from __future__ import annotations

from collections.abc import Iterator

from lesart.core.quantity import plain_number
from lesart.core.wire.currents import Load, loads_of
from lesart.core.wire.entry import written
from lesart.core.wire.hookup import End, Hookup, high_v, rail_v
from lesart.core.wire.part import Part
from lesart.core.wire.role import is_rail
from lesart.project.facts.home import Found
from lesart.project.facts.rails import is_ground, rail_home, rail_of_sensor, resistor_ends, sensors_at
from lesart.project.model import Home, Table

BATTERY = "battery"


def homes_of_bench(tables: Table, hookup: Hookup) -> Found:
    """Homes for values of sums and of the loop."""
    for name, table in tables.get("sums", {}).items():
        part, kind = str(table.get("part") or name), table.get("kind")
        found: Found = iter(())
        if kind == "lamp resistor":
            found = _of_lamp(hookup, part)
        elif kind in ("fixed half", "thermistor half"):
            found = _of_half(hookup, part, kind)
        elif kind == "battery hours":
            found = _of_battery(hookup, part)
        elif kind == "pull-ups":
            found = _of_bus(hookup, part)
        for (parameter,), home in found:
            yield ("sums", name, str(parameter)), home
    yield from _of_loop(hookup)


def _of_lamp(hookup: Hookup, resistor: str) -> Found:
    """Homes for the lamp, or the segments, in series with a resistor."""
    for join in hookup.joins:
        lamp = next((end for end in join.ends if _is_lamp(hookup, end)), None)
        if join.through != resistor or lamp is None:
            continue
        part, driver = hookup.parts[lamp.part], join.other(lamp)
        for name in ("forward", "current", "duty"):
            if name in part.values:
                unit = {"forward": "V", "current": "A", "duty": ""}[name]
                value = written(part.value(name), unit) if unit else f"{part.value(name):g}"
                yield (name,), Home(("parts", part.name, name), value, part.name, same=True)
        home = rail_home(hookup, driver) if is_rail(hookup.pin(driver).roles) else None
        volts = None if home is not None else high_v(hookup, driver)
        if home is not None:
            yield ("supply",), home
        elif volts:
            yield ("supply",), Home(("parts", driver.part, "kind"), f"{plain_number(volts, 6)} V", str(driver))
        return


def _is_lamp(hookup: Hookup, end: End) -> bool:
    return any(role in ("lamp +", "lamp −", "segment") for role in hookup.pin(end).roles)


def _of_half(hookup: Hookup, resistor: str, kind: str) -> Found:
    """Homes for the fixed half of a divider: its rail, and its sensor."""
    ends = resistor_ends(hookup, resistor) if resistor in hookup.parts else None
    if ends is None:
        return
    tap, end = ends
    sensors = list(sensors_at(hookup, tap))
    rail = end if not is_ground(hookup, end) else next(_rails(hookup, sensors, tap), end)
    home = rail_home(hookup, rail)
    if home is not None:
        yield ("supply",), home
    sensor = hookup.parts[sensors[0]] if sensors else None
    if kind == "thermistor half" and sensor is not None and sensor.kind.name == "thermistor":
        ohm = written(sensor.value("resistance"), "Ω")
        yield ("resistance",), Home(("parts", sensor.name, "resistance"), ohm, sensor.name, same=True)


def _rails(hookup: Hookup, sensors: list[str], tap: End) -> Iterator[End]:
    for sensor in sensors:
        rail = rail_of_sensor(hookup, sensor, tap)
        if rail is not None and not is_ground(hookup, rail):
            yield rail


def _of_battery(hookup: Hookup, name: str) -> Found:
    part = hookup.parts.get(name)
    if part is None or part.kind.name != BATTERY:
        return
    for own, value in _battery(part).items():
        yield (own,), Home(("parts", name, own), value, name, same=True)
    load = next((each for each in loads_of(hookup) if each.rail.part == name), None)
    if load is not None and load.usual_a > 0:
        # A measured value is better than a sum from data sheets, so it is not compared with that.
        yield ("awake",), Home(("parts", name, "capacity"), _current(load.usual_a), _adds_up(name), compared=False)


def _battery(part: Part) -> dict[str, str]:
    return {
        "capacity": f"{plain_number(part.value('capacity'), 9)} Ah",
        "usable": f"{plain_number(part.value('usable', 100.0), 6)} %",
        "voltage": f"{plain_number(part.value('voltage'), 6)} V",
    }


def _adds_up(name: str) -> str:
    return f"everything fed by {name}, added up in 1 Wire"


def _current(amps: float) -> str:
    return written(float(f"{amps:.3g}"), "A")


def _of_bus(hookup: Hookup, resistor: str) -> Found:
    """Homes for pull-ups of a bus: their rail, and the board's clock."""
    for join in hookup.joins:
        if join.through != resistor:
            continue
        for end in join.ends:
            home = rail_home(hookup, end) if is_rail(hookup.pin(end).roles) and rail_v(hookup, end) else None
            if home is not None:
                yield ("supply",), home
            board = hookup.parts[end.part]
            if "bus_clock" in board.values:
                clock = written(board.value("bus_clock"), "Hz")
                yield ("clock",), Home(("parts", end.part, "bus_clock"), clock, f"the bus of {end.part}", same=True)


def _of_loop(hookup: Hookup) -> Found:
    """Homes for the loop: the battery, where one feeds a board, and the currents of displays and other parts."""
    loads = [load for load in loads_of(hookup) if hookup.parts[load.rail.part].kind.name == BATTERY]
    if len(loads) != 1:
        return
    (load,) = loads
    part = hookup.parts[load.rail.part]
    battery = _battery(part)
    for own in ("capacity", "usable"):
        yield ("loop", own), Home(("parts", part.name, own), battery[own], part.name, same=True)
    for setting, groups in (("shown", ("display",)), ("others", ("sensor", "driver", "source", "between"))):
        amps = _drawn(hookup, load, groups)
        says = f"the parts connected to {part.name}"
        yield ("loop", setting), Home(("parts", part.name, "capacity"), _current(amps), says, compared=False)
    board = _drawn(hookup, load, ("board",))
    if board:
        for setting in ("active", "idle"):
            home = Home(("parts", part.name, "capacity"), _current(board), "the board's own current", compared=False)
            yield ("loop", setting), home


def _drawn(hookup: Hookup, load: Load, groups: tuple[str, ...]) -> float:
    return sum(each.usual_a for each in load.drawn if hookup.parts[each.of].kind.group in groups)
