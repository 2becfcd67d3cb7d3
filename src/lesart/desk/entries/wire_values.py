"""Values of the hook-up edited in place: the allowed values for each key of parts, connections, sums and measured
values."""

from __future__ import annotations

from lesart.core.glyphs.charsets import SETS
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.wire.entry import JOINS
from lesart.core.wire.proposal.places import WIRE_COLOURS, between_names, places_for
from lesart.project.model import Project
from lesart.project.toml_values import value_at


def options_at(project: Project, key: Key, parameter: Parameter) -> tuple[str, ...]:
    """The options that ← and → step through at names of parts, pins and colours; none elsewhere."""
    if parameter.kind == "part":
        parts = project.hookup.parts.values()
        if parameter.choices:
            return tuple(part.name for part in parts if part.kind.name in parameter.choices)
        return ("", *(part.name for part in parts if part.kind.pins))
    if key[:1] == ("panels",) and parameter.name == "charset":
        return (*SETS, *project.charsets)
    if key[:2] != JOINS or len(key) != 4:
        return ()
    join = next((each for each in project.hookup.joins if each.index == key[2]), None)
    if join is None:
        return ()
    if key[3] == "through":
        return ("", *between_names(project.hookup))
    if key[3] == "colour":
        return WIRE_COLOURS
    return tuple(str(end) for end in places_for(project.hookup, join, str(key[3])))


def end_typed(project: Project, key: Key, typed: str) -> str:
    """The typed end; a pin without its part is on the present part: ``p7`` for ``node.p7``."""
    present = str(value_at(project.tables, key) or "")
    if key[-1] not in ("pin", "to") or "." in typed or "." not in present:
        return typed
    return f"{present.rpartition('.')[0]}.{typed}"
