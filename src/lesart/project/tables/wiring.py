"""The tables of the hook-up: own kinds of parts, parts, and the connections between them."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import get_close_matches
from typing import Any

from lesart.core.errors import Problem
from lesart.core.parameters import OWN_KEY, read_table, shown
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.hookup import JOIN, End, Hookup, Join
from lesart.core.wire.part import KIND_TABLE, PIN_TABLE, Part, PartKind, Pin, parse_address, pin_from, shown_address
from lesart.core.wire.pinout import has_pinout, laid_out
from lesart.core.wire.role import ROLES
from lesart.project.model import Table
from lesart.project.tables.kinds import kind_of


def check_wiring(tables: Table, problems: list[Problem]) -> Hookup:
    """The hook-up of a project's tables; every problem in them is added to ``problems``."""
    kinds = {**KINDS, **_named(tables, "kinds", problems, _kind)}
    parts: dict[str, Part] = _named(tables, "parts", problems, lambda name, table: _part(name, table, kinds))
    return Hookup(parts, _joins(tables, parts, problems))


def kinds_of(tables: Table) -> dict[str, PartKind]:
    """The catalogue preceded by the project's own kinds, from checked tables."""
    own = _named(tables, "kinds", [], _kind)
    return {**own, **{name: kind for name, kind in KINDS.items() if name not in own}}


def _named(tables: Table, group: str, problems: list[Problem], check: Any) -> dict[str, Any]:
    """Check every table of a group; the good ones are returned by name."""
    found = tables.get(group, {})
    if not isinstance(found, Mapping) or not all(isinstance(table, Mapping) for table in found.values()):
        problems.append(Problem(group, shown(found), f'it must hold tables with names, like [{group}."my own"]'))
        return {}
    good = {}
    for name, table in found.items():
        result, wrong = check(name, table)
        problems += wrong
        if not wrong:
            good[name] = result
    return good


def _kind(name: str, table: Table) -> tuple[PartKind | None, list[Problem]]:
    place = f"kinds.{name}"
    values, problems = read_table(KIND_TABLE, table, place, also=("addresses", "orders", "pins"))
    pins = [
        pin
        for index, entry in enumerate(_list(table, "pins", place, problems))
        if (pin := _pin(entry, f"{place}.pins[{index}]", problems)) is not None
    ]
    names = [pin.name for pin in pins]
    for twice in sorted({each for each in names if names.count(each) > 1}):
        problems.append(Problem(f"{place}.pins", shown(twice), "two pins have this name; give each its own"))
    addresses = _addresses(table.get("addresses", []), f"{place}.addresses", problems)
    orders = _orders(table.get("orders", []), f"{place}.orders", names, problems)
    if problems:
        return None, problems
    kind = PartKind(
        name=name,
        says=values["says"],
        group=values["group"],
        pins=tuple(pins),
        parameters=(),
        logic_v=values["logic"],
        addresses=addresses,
        orders=orders,
        total_a=values["total"],
    )
    return kind, []


def _list(table: Table, key: str, place: str, problems: list[Problem]) -> list[Table]:
    found = table.get(key, [])
    if isinstance(found, list) and found and all(isinstance(entry, Mapping) for entry in found):
        return found
    wanted = 'it must be a list of tables, like [{ name = "out", role = "analog out" }]'
    problems.append(Problem(f"{place}.{key}", shown(found) if key in table else "", wanted))
    return []


def _pin(entry: Table, place: str, problems: list[Problem]) -> Pin | None:
    values, found = read_table(PIN_TABLE, entry, place, also=("role",))
    written = entry.get("role")
    roles = (written,) if isinstance(written, str) else tuple(written) if isinstance(written, list) else ()
    unknown = [role for role in roles if role not in ROLES]
    if unknown or not roles:
        near = get_close_matches(str(unknown[0]), ROLES, 1) if unknown else []
        hint = f"did you mean {near[0]}?" if near else f"it must be one or more of {', '.join(ROLES)}"
        found.append(Problem(f"{place}.role", shown(unknown[0] if unknown else written or ""), hint))
    if "." in str(values.get("name", "")):
        found.append(Problem(f"{place}.name", shown(values["name"]), "a pin's name holds no point"))
    problems += found
    return None if found else pin_from(values, roles)


def _addresses(written: object, place: str, problems: list[Problem]) -> tuple[int, ...]:
    if not isinstance(written, list):
        problems.append(Problem(place, shown(written), 'it must be a list of bus addresses, like ["0x3C", "0x3D"]'))
        return ()
    found = []
    for index, each in enumerate(written):
        try:
            found.append(parse_address(str(each)))
        except ValueError as error:
            problems.append(Problem(f"{place}[{index}]", shown(each), str(error)))
    return tuple(found)


def _orders(written: object, place: str, names: list[str], problems: list[Problem]) -> tuple[tuple[str, ...], ...]:
    if isinstance(written, list) and all(isinstance(each, list) and sorted(each) == sorted(names) for each in written):
        return tuple(tuple(each) for each in written)
    problems.append(Problem(place, shown(written), "it must be a list of lists, each with all pins in another order"))
    return ()


def _part(name: str, table: Table, kinds: Mapping[str, PartKind]) -> tuple[Part | None, list[Problem]]:
    place = f"parts.{name}"
    kind, missing = kind_of(table, kinds, place)
    if kind is None:
        return None, missing
    also = ("kind", "address") if kind.addresses else ("kind",)
    values, problems = read_table(kind.parameters, table, place, also=also)
    address = None
    if kind.addresses:
        address = kind.addresses[0]
        if "address" in table:
            address = _address(table["address"], f"{place}.address", kind, problems)
    if has_pinout(kind) and not problems:
        kind, wrong = laid_out(kind, values)
        problems += [Problem(f"{place}.{key}", shown(values[key]), clause) for key, clause in wrong.items()]
    return (None, problems) if problems else (Part(name, kind, values, address), [])


def _address(written: object, place: str, kind: PartKind, problems: list[Problem]) -> int:
    listed = ", ".join(shown_address(each) for each in kind.addresses)
    try:
        address = parse_address(str(written))
    except ValueError as error:
        problems.append(Problem(place, shown(written), f"{error}; straps of this kind set {listed}"))
        return kind.addresses[0]
    if address not in kind.addresses:
        problems.append(Problem(place, shown(written), f"straps of this kind set {listed}"))
    return address


def _joins(tables: Table, parts: Mapping[str, Part], problems: list[Problem]) -> tuple[Join, ...]:
    wire = tables.get("wire", {})
    if not isinstance(wire, Mapping):
        problems.append(Problem("wire", shown(wire), "it must be a table with joins"))
        return ()
    for key in wire:
        if key not in ("joins", "measured") and not key.startswith(OWN_KEY):
            wanted = "this key is not known here; it may be joins or measured"
            problems.append(Problem(f"wire.{key}", shown(wire[key]), wanted))
    entries = wire.get("joins", [])
    if not isinstance(entries, list) or not all(isinstance(entry, Mapping) for entry in entries):
        wanted = 'it must be a list of tables, like [{ pin = "lid.data", to = "node.p4" }]'
        problems.append(Problem("wire.joins", shown(entries), wanted))
        return ()
    named = tables.get("parts", {})
    joins = []
    for index, entry in enumerate(entries):
        join = _join(entry, index, parts, named if isinstance(named, Mapping) else {}, problems)
        if join is not None:
            joins.append(join)
    return tuple(joins)


def _join(entry: Table, index: int, parts: Mapping[str, Part], named: Table, problems: list[Problem]) -> Join | None:
    """A join. ``named`` are all parts of the file: one with a problem of its own is not reported again."""
    place = f"wire.joins[{index}]"
    values, found = read_table(JOIN, entry, place)
    ends = []
    for side in ("pin", "to"):
        if side in values:
            try:
                ends.append(end_from(values[side], parts))
            except ValueError as error:
                if values[side].rpartition(".")[0] not in named or values[side].rpartition(".")[0] in parts:
                    found.append(Problem(f"{place}.{side}", shown(values[side]), str(error)))
    if len(ends) == 2 and ends[0] == ends[1]:
        found.append(Problem(f"{place}.to", shown(values["to"]), "a pin cannot be joined to itself"))
    through = values.get("through", "")
    if through and (through not in named or (through in parts and parts[through].kind.group != "between")):
        between = [name for name, part in parts.items() if part.kind.group == "between"]
        known = ", ".join(between) or "none; add a resistor, a divider or a level shifter under [parts]"
        found.append(Problem(f"{place}.through", shown(through), f"the project's parts between are {known}"))
    problems += found
    if found or len(ends) < 2 or (through and through not in parts):
        return None
    return Join(ends[0], ends[1], through, values["colour"], index)


def end_from(written: str, parts: Mapping[str, Part]) -> End:
    """The end that ``part.pin`` names. Raises ValueError with a clause."""
    name, _, pin = written.rpartition(".")
    part = parts.get(name)
    if part is None:
        near = get_close_matches(name, parts, 1)
        known = f"did you mean {near[0]}?" if near else f"the project's parts are {', '.join(parts) or 'none'}"
        raise ValueError(f"it must be written part.pin; {known}")
    if part.kind.pin(pin) is None:
        pins = ", ".join(each.name for each in part.kind.pins)
        raise ValueError(f"{name} has the pins {pins}" if pins else f"{name} has no pins; name it under through")
    return End(name, pin)
