"""Levels of a proposal: parts between two voltages, and pull-ups for a bus that has none."""

from __future__ import annotations

from lesart.core.wire.hookup import End, Join, bus_lines, logic_v, tolerated_v, used_roles
from lesart.core.wire.levels import ANALOG, SLACK_V, bus_levels, levels_of
from lesart.core.wire.proposal.dividing import analog_divider
from lesart.core.wire.proposal.draft import DraftHookup

PULL_UP_OHM = 4_700.0
"""Usual on a 100 kHz bus; strong enough for 400 kHz with short wires."""


def between(grow: DraftHookup) -> None:
    """Put parts between two levels: a divider for a measured voltage, else a level shifter."""
    shifters: dict[str, str] = {}
    for level in levels_of(grow.hookup):
        if not (level.too_high or level.too_low) or level.join.through:
            continue
        roles = used_roles(grow.hookup, level.join) or ("", "")
        if any(role in ANALOG for role in roles):
            _divider(grow, level.join, level.volts, level.tolerated or level.volts, level.driver, level.listener)
        else:
            _shifted(grow, level.join, shifters)
    board = logic_v(grow.hookup, grow.board) if grow.board else None
    for line in bus_lines(grow.hookup):
        # A line that nothing pulls up yet will be pulled up to the level of the board.
        volts = line.volts or board or 0.0
        if any(
            (stands is not None and volts > stands + SLACK_V) or (needs is not None and 0 < volts < needs - SLACK_V)
            for _, stands, needs in bus_levels(grow.hookup, line)
        ):
            for end in line.ends:
                if end.part != grow.board and _differs(grow, end):
                    for join in grow.hookup.joins_at(end):
                        if not join.through:
                            _shifted(grow, join, shifters)


def _differs(grow: DraftHookup, end: End) -> bool:
    """True where a part on the bus has another level than the board: its pull-ups, its inputs, or both."""
    board = logic_v(grow.hookup, grow.board) if grow.board else None
    level = logic_v(grow.hookup, end.part)
    stands = tolerated_v(grow.hookup, end)
    return level is not None and board is not None and (abs(level - board) > 0.1 or (stands or board) < board)


def _shifted(grow: DraftHookup, join: Join, shifters: dict[str, str]) -> None:
    part = join.pin.part if join.pin.part != grow.board else join.to.part
    if part not in shifters:
        shifters[part] = grow.part(f"{part} levels", "level shifter")
    grow.lead_through(join, shifters[part])


def _divider(grow: DraftHookup, join: Join, volts: float, most_v: float, driver: End, listener: End) -> None:
    pin = grow.hookup.pin(listener)
    source = grow.hookup.pin(driver).source_ohm or 0.0
    pair = analog_divider(volts, most_v, source, pin.accepts_ohm or float("inf"))
    if pair is not None:
        part = join.pin.part if join.pin.part != grow.board else join.to.part
        name = grow.part(f"{part} divider", "divider", upper=(pair[0], "Ω"), lower=(pair[1], "Ω"))
        grow.lead_through(join, name)


def pull_ups(grow: DraftHookup) -> None:
    """Add a pair of pull-ups to the level of the board's signals, where the bus has none."""
    rail = grow.level_rail()
    name = ""
    for line in bus_lines(grow.hookup):
        end = next((each for each in line.ends if each.part == grow.board), None)
        if line.pull_ups or end is None or rail is None:
            continue
        name = name or grow.part("bus pull-ups", "resistor", resistance=(PULL_UP_OHM, "Ω"))
        grow.join(end, rail, name, "red")
