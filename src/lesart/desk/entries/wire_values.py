"""Values of the hook-up edited in place: what each key of parts, connections, sums and measured values may hold."""

from __future__ import annotations

from lesart.core.glyphs.charsets import SETS
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.check import NO, YES
from lesart.core.wire.entry import JOINS
from lesart.core.wire.hookup import JOIN
from lesart.core.wire.part import shown_address
from lesart.core.wire.proposal.places import WIRE_COLOURS, between_names, places_for
from lesart.core.wire.sums import SUMS
from lesart.project.model import Project
from lesart.project.tables.sums import SUM
from lesart.project.text import value_at


def parameters_of(project: Project, key: Key) -> tuple[Parameter, ...]:
    """The records of the parameters beside ``key``; none where nothing can be changed."""
    match key:
        case ("wire", "joins", int(), _):
            return JOIN
        case ("wire", "measured", str(name)):
            return _measured(project, name)
        case ("parts", str(name), _):
            return _of_part(project, name)
        case ("sums", str(name), _):
            found = project.sums.get(name)
            kinds = Parameter("kind", "kind", "choice", "which sum", choices=tuple(SUMS))
            return (kinds, *SUM, *found.kind.parameters) if found else ()
    return ()


def _of_part(project: Project, name: str) -> tuple[Parameter, ...]:
    part = project.hookup.parts.get(name)
    if part is None:
        return ()
    own = project.tables.get("kinds", {})
    kind = Parameter("kind", "kind", "choice", "what it is", choices=tuple(dict.fromkeys((*own, *KINDS))))
    if not part.kind.addresses:
        return (kind, *part.kind.parameters)
    straps = tuple(shown_address(each) for each in part.kind.addresses)
    return (
        kind,
        Parameter("address", "address", "choice", "set by its straps", straps[0], choices=straps),
        *part.kind.parameters,
    )


def _measured(project: Project, name: str) -> tuple[Parameter, ...]:
    check = next((each for each in project.checks if each.key == name), None)
    if check is None:
        return ()
    if not check.unit:
        return (Parameter(name, name, "choice", check.does, optional=True, choices=(YES, NO)),)
    return (Parameter(name, name, "quantity", f"{check.does} Right: {check.expects}", optional=True, unit=check.unit),)


def options_at(project: Project, key: Key, parameter: Parameter) -> tuple[str, ...]:
    """What ← and → step through at names of parts, pins and colours; nothing elsewhere."""
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
    """A pin without its part is meant on the part that stands there now: ``p7`` for ``node.p7``."""
    present = str(value_at(project.tables, key) or "")
    if key[-1] not in ("pin", "to") or "." in typed or "." not in present:
        return typed
    return f"{present.rpartition('.')[0]}.{typed}"
