"""The schema of the project file as one table: the parameters of each of its tables.

Values edited in place, what ``+`` writes, and the page on the project file follow it; a test compares it with what
``check_project`` reads.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from lesart.core import calm, law
from lesart.core.calm.alarm import ALARM
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.glass.bus.controller import COMMAND, CONTROLLER
from lesart.core.glass.faces.face import FACE
from lesart.core.glass.faces.items import item_parameters
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.glass.panels.scan import PARAMETERS as SCAN
from lesart.core.notes import Key
from lesart.core.pace.task import SETTINGS, TASK
from lesart.core.pace.trace import trace_parameters
from lesart.core.pack.settings import OF_CHANNEL as CHANNEL_PACK
from lesart.core.pack.settings import SETTINGS as PACK
from lesart.core.parameters import Parameter
from lesart.core.raw.decode import KINDS as DECODERS
from lesart.core.raw.heard_registers import HEARD_REGISTER
from lesart.core.raw.lines.line import LINES
from lesart.core.raw.messages.frames import FIELD as FRAME_FIELD
from lesart.core.raw.source import DECODE, FORMAT, OF_FORMAT
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.check import NO, YES
from lesart.core.wire.hookup import JOIN
from lesart.core.wire.part import shown_address
from lesart.core.wire.sums import SUMS
from lesart.project.assets.font_files import FONT_FILE
from lesart.project.assets.shown_picture import PICTURE_FILE
from lesart.project.model import Project
from lesart.project.tables.channels import CHANNEL
from lesart.project.tables.corrections import TRUE
from lesart.project.tables.panels import LONGEST_GLYPH
from lesart.project.tables.sources import line_parameters
from lesart.project.tables.sums import SUM
from lesart.project.toml_values import value_at

Parameters = tuple[Parameter, ...]
NAME, INDEX = "*", "#"
"""Placeholders for any name, and for the index of an entry in a list."""


def parameters_at(project: Project, table: Key) -> Parameters:
    """The parameters of a table by its key; none where the project file has no such table."""
    of_channel = table
    if table[:1] == ("channels",) and table[2:3] == ("variants",):
        of_channel = (*table[:2], *table[4:])  # a variant has the same parameters as its channel
    rule = SCHEMA.get(_pattern_of(of_channel))
    if rule is None:
        return ()
    if isinstance(rule, tuple):
        return rule
    # What it does not state itself is that of its channel.
    return rule(project, of_channel if value_at(project.tables, table) is None else table)


def _pattern_of(table: Key) -> tuple[str, ...]:
    """The pattern in the schema that matches a key; the key itself where none does."""
    for pattern in SCHEMA:
        if len(pattern) == len(table) and all(_is_case(part, of) for part, of in zip(table, pattern, strict=True)):
            return pattern
    return ()


def _is_case(part: str | int, of: str) -> bool:
    if of == INDEX:
        return isinstance(part, int)
    return isinstance(part, str) and of in (NAME, part)


def _kind(project: Project, table: Key) -> str:
    return str(value_at(project.tables, (*table, "kind")))


def _register(project: Project, table: Key) -> Parameters:
    """The parameters of a line's registers."""
    kind = LINES.get(_kind(project, table[:-2]))
    return kind.register if kind is not None else ()


def _by_kind(kinds: Mapping[str, Any]) -> Callable[[Project, Key], Parameters]:
    """The parameters of the kind that a table names."""

    def found(project: Project, table: Key) -> Parameters:
        kind = kinds.get(_kind(project, table))
        return kind.parameters if kind is not None else ()

    return found


def _source(project: Project, table: Key) -> Parameters:
    written = value_at(project.tables, table) or {}
    format_ = str(written.get("format") or ("recording" if "line" in written else "csv"))
    return (FORMAT, *OF_FORMAT.get(format_, ()))


def _decoding(project: Project, table: Key) -> Parameters:
    kind = DECODERS.get(_kind(project, table))
    return (*line_parameters(kind), *kind.parameters, *DECODE) if kind is not None else DECODE


def _trace(project: Project, table: Key) -> Parameters:
    panel = project.panels.get(str(table[1]))
    return trace_parameters(panel) if panel is not None else ()


def _glyphs(project: Project, table: Key) -> Parameters:
    """A parameter for each existing letter; any other letter is allowed as well."""
    own = value_at(project.tables, table) or {}
    says = "rows of dots, or segments by name"
    return tuple(Parameter(each, f"glyph {each}", "text", says, longest=LONGEST_GLYPH) for each in own)


def _item(project: Project, table: Key) -> Parameters:
    kind = _kind(project, table)
    return (*(FIELD if kind == "field" else ()), *item_parameters(kind, project.tables.get("fonts", {})))


def _part(project: Project, table: Key) -> Parameters:
    part = project.hookup.parts.get(str(table[1]))
    if part is None:
        return ()
    own = project.tables.get("kinds", {})
    kind = Parameter("kind", "kind", "choice", "what it is", choices=tuple(dict.fromkeys((*own, *PARTS))))
    if not part.kind.addresses:
        return (kind, *part.kind.parameters)
    straps = tuple(shown_address(each) for each in part.kind.addresses)
    address = Parameter("address", "address", "choice", "set by its straps", straps[0], choices=straps)
    return (kind, address, *part.kind.parameters)


def _sum(project: Project, table: Key) -> Parameters:
    found = project.sums.get(str(table[1]))
    kinds = Parameter("kind", "kind", "choice", "which sum", choices=tuple(SUMS))
    return (kinds, *SUM, *found.kind.parameters) if found else ()


def _measured(project: Project, table: Key) -> Parameters:
    """A parameter for each check of the bring-up list."""
    return tuple(
        Parameter(
            check.key, check.key, "quantity", f"{check.does} Right: {check.expects}", optional=True, unit=check.unit
        )
        if check.unit
        else Parameter(check.key, check.key, "choice", check.does, optional=True, choices=(YES, NO))
        for check in project.checks
    )


def tables_in(tables: Mapping[str, Any]) -> Iterator[Key]:
    """The key of every table of a project file that the schema knows, sections of variants included."""
    for pattern in SCHEMA:
        yield from _cases(tables, (), pattern)
        if pattern[:2] == ("channels", NAME) and len(pattern) > 2:
            yield from _cases(tables, (), (*pattern[:2], "variants", NAME, *pattern[2:]))


def _cases(node: Any, key: Key, pattern: tuple[str, ...]) -> Iterator[Key]:
    if not pattern:
        if isinstance(node, Mapping):
            yield key
        return
    first, *rest = pattern
    places: list[str | int] = []
    if first == INDEX:
        places = list(range(len(node))) if isinstance(node, list) else []
    elif isinstance(node, Mapping):
        places = [name for name in node if first in (NAME, name)]
    for place in places:
        yield from _cases(node[place], (*key, place), tuple(rest))


SCHEMA: Mapping[tuple[str, ...], Parameters | Callable[[Project, Key], Parameters]] = {
    ("sources", NAME): _source,
    ("sources", NAME, "decode"): _decoding,
    ("sources", NAME, "line"): _by_kind(LINES),
    ("sources", NAME, "line", "registers", INDEX): _register,
    ("sources", NAME, "line", "fields", INDEX): FRAME_FIELD,
    ("sources", NAME, "fields", INDEX): FRAME_FIELD,
    ("sources", NAME, "registers", INDEX): HEARD_REGISTER,
    ("channels", NAME): CHANNEL,
    ("channels", NAME, "law", INDEX): _by_kind(law.KINDS),
    ("channels", NAME, "true"): TRUE,
    ("channels", NAME, "true", "references", INDEX): REFERENCE,
    ("channels", NAME, "calibrations", NAME): TRUE,
    ("channels", NAME, "calibrations", NAME, "references", INDEX): REFERENCE,
    ("channels", NAME, "calm", INDEX): _by_kind(calm.KINDS),
    ("channels", NAME, "alarms", INDEX): ALARM,
    ("channels", NAME, "fit"): FIELD,
    ("channels", NAME, "pack"): CHANNEL_PACK,
    ("panels", NAME): _by_kind(PANELS),
    ("panels", NAME, "scan"): SCAN,
    ("panels", NAME, "trace"): _trace,
    ("panels", NAME, "glyphs"): _glyphs,
    ("controllers", NAME): CONTROLLER,
    ("controllers", NAME, "commands", INDEX): COMMAND,
    ("faces", NAME): FACE,
    ("faces", NAME, "items", INDEX): _item,
    ("fonts", NAME): FONT_FILE,
    ("pictures", NAME): PICTURE_FILE,
    ("loop",): SETTINGS,
    ("pack",): PACK,
    ("loop", "tasks", NAME): TASK,
    ("parts", NAME): _part,
    ("sums", NAME): _sum,
    ("wire", "joins", INDEX): JOIN,
    ("wire", "measured"): _measured,
}
