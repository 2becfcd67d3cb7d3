"""Small hook-ups written as a person would say them: parts by kind, connections as ``a.x > b.y through r``."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.notes import Mend, Note
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.entry import JOINS
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import End, Hookup, Join
from lesart.core.wire.part import Part, PartKind, parse_address


def part(name: str, written: str | Mapping[str, Any], kinds: Mapping[str, PartKind] = KINDS) -> Part:
    """A part of a kind; values as the project file writes them."""
    table = {"kind": written} if isinstance(written, str) else dict(written)
    kind = kinds[table.pop("kind")]
    address = table.pop("address", None)
    said = {each: table.pop(each.name, each.default) for each in kind.parameters}
    values = {each.name: None if value is None and each.optional else each.read(value) for each, value in said.items()}
    assert not table, f"{name} has no {list(table)}"
    usual = kind.addresses[0] if kind.addresses else None
    return Part(name, kind, values, usual if address is None else parse_address(str(address)))


def end(written: str) -> End:
    name, _, pin = written.strip().rpartition(".")
    return End(name, pin)


def join(written: str, index: int) -> Join:
    ends, _, through = written.partition(" through ")
    first, _, second = ends.partition(">")
    return Join(end(first), end(second), through.strip(), "", index)


def hookup(parts: Mapping[str, Any], joins: str = "", kinds: Mapping[str, PartKind] = KINDS) -> Hookup:
    """Joins one a line, or with ``;`` between."""
    lines = [line for line in joins.replace(";", "\n").splitlines() if line.strip()]
    made = {name: part(name, written, kinds) for name, written in parts.items()}
    found = Hookup(made, tuple(join(line, index) for index, line in enumerate(lines)))
    for each in found.joins:
        for one in each.ends:
            assert one.part in made, f"there is no {one}"
            assert made[one.part].kind.pin(one.pin) is not None, f"there is no {one}"
        assert not each.through or each.through in made
    return found


def mended(before: Hookup, mends: tuple[Mend, ...]) -> Hookup:
    """The hook-up after the edits of a remedy, applied here in plain Python and not by the project's editor."""
    tables: dict[str, dict[str, Any]] = {}
    for name, each in before.parts.items():
        tables[name] = {"part": each}
    joins = list(before.joins)
    for mend in mends:
        if mend.key == JOINS:
            value = dict(mend.value)  # type: ignore[arg-type]
            joins.append(Join(end(value["pin"]), end(value["to"]), value.get("through", ""), "", len(joins)))
        elif mend.key[:2] == JOINS:
            old = joins[mend.key[2]]
            side = mend.key[3]
            new = mend.value if side == "through" else end(str(mend.value))
            joins[mend.key[2]] = Join(**{**old.__dict__, side: new})
        elif len(mend.key) == 2:
            tables[mend.key[1]] = {"part": part(mend.key[1], mend.value)}  # type: ignore[arg-type]
        else:
            old_part = tables[mend.key[1]]["part"]
            if mend.key[2] == "address":
                new_part = Part(old_part.name, old_part.kind, old_part.values, parse_address(str(mend.value)))
            else:
                parameter = next(each for each in old_part.kind.parameters if each.name == mend.key[2])
                new_part = Part(
                    old_part.name,
                    old_part.kind,
                    {**old_part.values, parameter.name: parameter.read(mend.value)},
                    old_part.address,
                )
            tables[mend.key[1]] = {"part": new_part}
    return Hookup({name: table["part"] for name, table in tables.items()}, tuple(joins))


def findings(found: Hookup) -> list[Note]:
    """Faults and doubts; what is only good to know left out."""
    return [note for note in inspect_hookup(found) if note.mark != "·"]
