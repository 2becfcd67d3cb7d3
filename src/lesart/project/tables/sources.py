"""The tables of a source: its capture, what is decoded in it, the fields of its frames."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.errors import Problem
from lesart.core.parameters import Parameter, read_table, shown
from lesart.core.raw.decode import KINDS, DecoderKind
from lesart.core.raw.heard_registers import HEARD_REGISTER, HeardRegister
from lesart.core.raw.lines.line import LINES, Line, LineKind, byte_of, register_from
from lesart.core.raw.messages.bus_registers import BusRegister
from lesart.core.raw.messages.checksums import check_from
from lesart.core.raw.messages.frames import FIELD, FLOATS, FieldSpec, field_from
from lesart.core.raw.messages.registers import RegisterSpec
from lesart.core.raw.source import (
    DECODE,
    FORMAT,
    OF_FORMAT,
    Decoding,
    Source,
    beginning_from,
)
from lesart.project.model import Table
from lesart.project.tables.kinds import kind_of

ALSO = {**dict.fromkeys(("vcd", "csv", "hex"), ("decode", "fields", "registers")), "recording": ("line",)}
LAST_ADDRESS = 0x7F
OF_EDGES = ("vcd", "csv")
"""Formats with edges; among rows of numbers those whose columns are levels."""
"""Tables of a source besides its own keys."""


def line_parameters(kind: DecoderKind) -> tuple[Parameter, ...]:
    """The signals that a decoder reads, each named in the table of the decoder."""
    return tuple(
        Parameter(name, name, "text", "signal of the capture", None if place < kind.needed else "", longest=120)
        for place, name in enumerate(kind.lines)
    )


def check_source(name: str, table: Table) -> tuple[Source | None, list[Problem]]:
    """The source, or every problem of its tables."""
    place = f"sources.{name}"
    format_ = table.get("format", "recording" if "line" in table else "csv")
    if not isinstance(format_, str) or format_ not in OF_FORMAT:
        return None, [Problem(f"{place}.format", shown(format_), FORMAT.wanted)]
    also = ("format", *ALSO.get(format_, ()))
    values, problems = read_table(OF_FORMAT[format_], table, place, also=also)
    decoding = _decoding(table.get("decode"), f"{place}.decode", format_, problems)
    fields = _fields(table.get("fields", []), f"{place}.fields", problems)
    registers = _heard(table.get("registers", []), f"{place}.registers", problems)
    line = _line(table["line"], f"{place}.line", problems) if format_ == "recording" and "line" in table else None
    if not problems and fields and not _has_frames(format_, decoding):
        wanted = "fields are parts of frames, and this source has none; give it a decoder of frames"
        problems.append(Problem(f"{place}.fields", "", wanted))
    if not problems and registers and (decoding is None or not decoding.messages.startswith("Modbus")):
        wanted = "registers come in messages of a field bus; set messages in its decode to Modbus RTU or Modbus ASCII"
        problems.append(Problem(f"{place}.registers", "", wanted))
    if problems:
        return None, problems
    renamed = {"rate": "rate_hz", "settle": "settle_s", "least_interval": "least_interval_s"}
    read = {renamed.get(key, key): value for key, value in values.items()}
    read |= {"format": format_, "decoding": decoding, "fields": fields, "registers": registers}
    return Source(name, **read, line=line), []


def _line(table: object, place: str, problems: list[Problem]) -> Line | None:
    """The line of a source."""
    if not isinstance(table, Mapping):
        problems.append(Problem(place, shown(table), "it must be a table with a kind"))
        return None
    kind, missing = kind_of(table, LINES, place)
    if kind is None:
        problems += missing
        return None
    also = ("kind", kind.entries) if kind.has_registers else ("kind",)
    values, found = read_table(kind.parameters, table, place, also=also)
    problems += found
    if not found and "address" in values:
        try:
            byte_of(values["address"], LAST_ADDRESS)
        except ValueError as error:
            problems.append(Problem(f"{place}.address", shown(values["address"]), str(error)))
    problems += _of_frames(values, place) if kind.entries == "fields" and not found else []
    registers = (
        _registers(kind, table.get(kind.entries, []), f"{place}.{kind.entries}", problems) if kind.has_registers else ()
    )
    length = values.get("length", 0) if kind.entries == "fields" else 0
    for index, each in enumerate(registers if length and not problems else ()):
        if isinstance(each, FieldSpec) and each.first_bit + each.bits > 8 * length:
            wanted = f"its {each.bits} bits end after those of the frame, which has {8 * length}"
            problems.append(Problem(f"{place}.{kind.entries}[{index}].first_bit", str(each.first_bit), wanted))
    return Line(kind, tuple(values.items()), registers)


def _of_frames(values: dict[str, Any], place: str) -> list[Problem]:
    """Problems in the frame shape of a line."""
    problems = []
    for name in ("begins", "asks"):
        try:
            beginning_from(values[name])
        except ValueError as error:
            problems.append(Problem(f"{place}.{name}", shown(values[name]), str(error)))
    try:
        check = check_from(values)
    except ValueError as error:
        return [*problems, Problem(place, "", str(error))]
    least = max(len(values["begins"].replace(" ", "")) // 2, values["unchecked"]) + check.length + 1
    if values["length"] and values["length"] < least:
        wanted = f"what it begins with, a value and its check take {least} bytes at least; 0: a rest ends it"
        problems.append(Problem(f"{place}.length", str(values["length"]), wanted))
    return problems


def _heard(entries: object, place: str, problems: list[Problem]) -> tuple[HeardRegister, ...]:
    """Registers in the messages of a bus."""
    found = []
    for index, values in _named_tables(entries, HEARD_REGISTER, place, problems):
        unit = values.pop("unit")
        found.append(HeardRegister(unit, RegisterSpec(**values)))
        problems += _beyond(found[-1].register, f"{place}[{index}]")
    return tuple(found)


def _beyond(spec: RegisterSpec, place: str) -> list[Problem]:
    """A problem where a value reaches beyond the last address."""
    if spec.address + spec.words <= 65_536:
        return []
    return [Problem(f"{place}.address", str(spec.address), f"its {spec.words} registers must end by 65535")]


def _registers(
    kind: LineKind, entries: object, place: str, problems: list[Problem]
) -> tuple[RegisterSpec | BusRegister | FieldSpec, ...]:
    """Registers that a line is asked for."""
    specs: list[RegisterSpec | BusRegister | FieldSpec] = []
    for index, values in _named_tables(entries, kind.register, place, problems):
        if "floating" in values:
            problems += _floating(values, f"{place}[{index}]")
        try:
            spec = register_from(values)
        except ValueError as error:
            problems.append(Problem(f"{place}[{index}].register", shown(values["register"]), str(error)))
            continue
        problems += _beyond(spec, f"{place}[{index}]") if isinstance(spec, RegisterSpec) else []
        specs.append(spec)
    return tuple(specs)


def _has_frames(format_: str, decoding: Decoding | None) -> bool:
    return format_ == "hex" or (decoding is not None and not decoding.kind.gives_values)


def _decoding(table: object, place: str, format_: str, problems: list[Problem]) -> Decoding | None:
    """The decoding: a decoder for edges; frames of a hex dump only have a check."""
    if table is None or format_ not in (*OF_EDGES, "hex"):
        return None
    if not isinstance(table, Mapping):
        problems.append(Problem(place, shown(table), "it must be a table with a kind"))
        return None
    kind: DecoderKind | None = None
    lines: tuple[Parameter, ...] = ()
    if format_ in OF_EDGES:
        kind, missing = kind_of(table, KINDS, place)
        if kind is None:
            problems += missing
            return None
        lines = line_parameters(kind)
    own = kind.parameters if kind else ()
    values, found = read_table((*lines, *own, *DECODE), table, place, also=("kind",))
    problems += found
    if found:
        return None
    try:
        check = check_from(values)
    except ValueError as error:
        problems.append(Problem(place, "", str(error)))
        return None
    try:
        begins = beginning_from(values["begins"])
    except ValueError as error:
        problems.append(Problem(f"{place}.begins", shown(values["begins"]), str(error)))
        return None
    if values.get("after") and "sent" in values and not values["sent"]:
        wanted = "answers are told apart by what is asked; name the signal of that as sent"
        problems.append(Problem(f"{place}.after", shown(values["after"]), wanted))
        return None
    named = tuple((each.name, values[each.name]) for each in lines if values[each.name])
    own_values = tuple((each.name, values[each.name]) for each in own)
    return Decoding(kind or FRAMES_ONLY, named, own_values, check, values["messages"], begins)


def _fields(entries: object, place: str, problems: list[Problem]) -> tuple[FieldSpec, ...]:
    found = []
    for index, values in _named_tables(entries, FIELD, place, problems):
        problems += _floating(values, f"{place}[{index}]")
        found.append(field_from(values))
    return tuple(found)


def _floating(values: dict[str, Any], place: str) -> list[Problem]:
    if not values["floating"] or values["bits"] in FLOATS:
        return []
    return [Problem(f"{place}.bits", str(values["bits"]), "a floating-point number has 32 or 64")]


def _named_tables(
    entries: object, parameters: tuple[Parameter, ...], place: str, problems: list[Problem]
) -> list[tuple[int, dict[str, Any]]]:
    """The values of each table of a list with its index; names must be unique."""
    if not isinstance(entries, list) or not all(isinstance(entry, Mapping) for entry in entries):
        problems.append(Problem(place, shown(entries), f"it must be a list of tables, [[{place}]]"))
        return []
    kept: list[tuple[int, dict[str, Any]]] = []
    for index, entry in enumerate(entries):
        values, found = read_table(parameters, entry, f"{place}[{index}]")
        if not found and any(other["name"] == values["name"] for _, other in kept):
            found = [Problem(f"{place}[{index}].name", shown(values["name"]), "another one here has this name")]
        problems += found
        kept += [] if found else [(index, values)]
    return kept


def _nothing(lines: Mapping[str, Any], values: Mapping[str, Any]) -> Any:
    raise AssertionError("frames of a file are not decoded from edges")


FRAMES_ONLY = DecoderKind(
    name="frames",
    title="frames of the file",
    says="as the file has them",
    lines=(),
    needed=0,
    parameters=(),
    decode=_nothing,
)
