"""Facts for panels from the part of the same name: the drive of digits and their resistors, the clock of the bus, the
address."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from lesart.core.glass.panels.character_panel import EXPANDER
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.segment_panel import ADDRESSED, DIRECT, SCANNED
from lesart.core.glass.panels.transfer import TWO_WIRE
from lesart.core.notes import Key
from lesart.core.quantity import plain_number
from lesart.core.wire.entry import written
from lesart.core.wire.hookup import End, Hookup, Join, high_v
from lesart.core.wire.part import Part, shown_address
from lesart.project.facts.home import Found
from lesart.project.model import Home, Table


def homes_of_panels(tables: Table, hookup: Hookup) -> Found:
    """Homes for every panel with a part of the same name."""
    for name, table in tables.get("panels", {}).items():
        part = hookup.parts.get(name)
        if part is None or part.kind.group != "display":
            continue
        key: Key = ("panels", name)
        if table.get("kind") == "segments":
            yield from _of_digits(hookup, part, table, key)
        yield from _of_bus(hookup, part, table, key)


def _of_digits(hookup: Hookup, part: Part, table: Table, key: Key) -> Found:
    home: Key = ("parts", part.name, "kind")
    digits = [pin for pin in part.kind.pins if "digit" in pin.roles]
    segments = [pin for pin in part.kind.pins if "segment" in pin.roles]
    if not segments:
        return
    yield (*key, "digits"), Home(home, max(len(digits), 1), f"{part.name}, a part of {max(len(digits), 1)}")
    # Digits with common segment lines cannot all be held lit; behind registers or a driver they have their own.
    if table.get("drive", SCANNED) in (SCANNED, DIRECT):
        drive, how = (SCANNED, "share their segment lines") if digits else (DIRECT, "has lines of its own")
        yield (*key, "drive"), Home(home, drive, f"{part.name}, whose {'digits' if digits else 'digit'} {how}")
    is_lit_in_turn = bool(digits) and table.get("drive", SCANNED) == SCANNED
    if is_lit_in_turn or "scan" in table:
        yield from _of_scan(hookup, part, [pin.name for pin in segments], [pin.name for pin in digits], (*key, "scan"))


def _of_scan(hookup: Hookup, part: Part, segments: list[str], digits: list[str], key: Key) -> Found:
    """Homes for supply, forward voltage and resistors, by the joins."""
    if "forward" in part.values:
        home = Home(("parts", part.name, "forward"), f"{part.value('forward'):g} V", part.name, same=True)
        yield (*key, "forward"), home
    of_segments, of_digits = (list(_joins(hookup, part.name, names)) for names in (segments, digits))
    driver = next((join.other(End(part.name, name)) for name, join in of_segments), None)
    volts = high_v(hookup, driver) if driver is not None else None
    if volts and driver is not None:
        level = Home(("parts", driver.part, "kind"), f"{plain_number(volts, 6)} V", f"the pins of {driver.part}")
        yield (*key, "supply"), level
    for joins, name in ((of_segments, "resistor"), (of_digits, "line_resistor")):
        through = {join.through for _, join in joins if hookup.through_kind(join) == "resistor"}
        if len(through) == 1:
            resistor = through.pop()
            ohm = written(hookup.parts[resistor].value("resistance"), "Ω")
            yield (*key, name), Home(("parts", resistor, "resistance"), ohm, resistor, same=True)


def _joins(hookup: Hookup, part: str, names: list[str]) -> Iterator[tuple[str, Join]]:
    for name in names:
        for join in hookup.joins_at(End(part, name)):
            yield name, join


def _of_bus(hookup: Hookup, part: Part, table: Table, key: Key) -> Found:
    board = next(
        (
            far.part
            for pin in part.kind.pins
            if "two-wire data" in pin.roles
            for join in hookup.joins_at(End(part.name, pin.name))
            if (far := join.other(End(part.name, pin.name))) and "bus_clock" in hookup.parts[far.part].values
        ),
        None,
    )
    record = KINDS.get(str(table.get("kind")))
    names = {parameter.name: parameter.default for parameter in record.parameters} if record is not None else {}
    over = table.get("bus", names.get("bus")), table.get("hookup", names.get("hookup"))
    is_two_wire = TWO_WIRE in over or EXPANDER in over or table.get("drive") == ADDRESSED
    if board is not None and "clock" in names and is_two_wire:
        clock = written(hookup.parts[board].value("bus_clock"), "Hz")
        yield (*key, "clock"), Home(("parts", board, "bus_clock"), clock, f"the bus of {board}", same=True)
    trace = table.get("trace")
    if part.address is not None and isinstance(trace, Mapping) and is_two_wire:
        yield (*key, "trace", "address"), Home(("parts", part.name, "address"), shown_address(part.address), part.name)
