"""Lines as typed: ``mass < text line PORT``, ``air < Modbus TCP HOST:PORT unit 7 input 3 int16``."""

from __future__ import annotations

import re
from typing import Any

from lesart.core.errors import Problem, RequestError
from lesart.core.quantity import whole_number
from lesart.core.raw.lines.line import LINES
from lesart.core.raw.messages.bus_registers import BUS_TYPES
from lesart.core.raw.messages.registers import TABLES, TYPES
from lesart.core.raw.source import Source
from lesart.desk.entries.edit_result import Edited
from lesart.project.tables.sources import check_source
from lesart.project.text import Editor

_REGISTER = re.compile(rf"({'|'.join(TABLES)})\s+(\d{{1,9}})(?:\s+({'|'.join(TYPES)}))?")
_BYTES = re.compile(r"bytes?\s+(\d{1,9})(?:\s+to\s+(\d{1,9}))?")
_FRAMES = re.compile(
    r"(\d{1,9})?(?:\s*begins((?:\s+[0-9a-fA-F]{2})+))?(?:\s*length\s+(\d{1,9}))?"
    rf"(?:\s*({_BYTES.pattern}))?"
)
_HOW = {
    "text line": "NAME < text line PORT [BAUD], like: mass < text line rig/scale 115200",
    "serial frames": "NAME < serial frames PORT [BAUD] [begins HEX] [length N] [bytes N to N], like: "
    "smoke < serial frames rig/smoke 9600 begins 5A A5 length 11 bytes 4 to 5",
    "Modbus RTU": "NAME < Modbus RTU PORT unit N TABLE ADDRESS [TYPE], like: air < Modbus RTU rig/mast unit 7 input 3",
    "Modbus TCP": "NAME < Modbus TCP HOST:PORT unit N TABLE ADDRESS [TYPE]",
    "UDP text": "NAME < UDP text PORT, like: mass < UDP text 5005",
    "MQTT": "NAME < MQTT HOST[:PORT] TOPIC, like: mass < MQTT 192.168.1.4 yard/hive-3",
    "two-wire bus": "NAME < two-wire bus BUS ADDRESS [REGISTER] [TYPE], like: "
    "air < two-wire bus /dev/i2c-1 0x76 0xFA int16",
    "this computer": "NAME < this computer",
}


def is_line(what: str) -> bool:
    """True where the text after ``<`` begins with a kind of line."""
    return any(what.lower().startswith(kind.lower()) for kind in LINES)


def add_line(editor: Editor, text: str, name: str, what: str) -> Edited:
    """The text with a source for the line, and a channel of its first column.

    Raises RequestError with what would be right.
    """
    kind = next(kind for kind in LINES if what.lower().startswith(kind.lower()))
    rest = what[len(kind) :].strip()
    table, registers = _table(kind, rest, name)
    source, problems = check_source(
        name, {"line": {"kind": kind, **table, **({LINES[kind].entries: registers} if registers else {})}}
    )
    if source is None:
        raise RequestError(_said(problems[0], name, kind))
    text = editor.with_table(text, ("sources", name, "line"), {"kind": kind, **table})
    for register in registers:
        text = editor.with_entry(text, ("sources", name, "line", LINES[kind].entries), register)
    column, unit, low, high = (
        ("load", "%", "0 %", "100 %")
        if kind == "this computer"
        else (registers[0]["name"] if registers else "1", "1", "0", "1000")
    )
    channel = {"source": name, "column": column, "raw_unit": unit, "unit": unit, "lowest": low, "highest": high}
    text = editor.with_table(text, ("channels", name), channel)
    return Edited(text, f"added: {name} from {_where(source)}; o listens to it", ("channels", name, "column"))


def _where(source: Source) -> str:
    return source.line.says if source.line is not None else source.name


def add_register(editor: Editor, text: str, source: Source, name: str, what: str) -> Edited | None:
    """The text with ``TABLE ADDRESS [TYPE] [UNIT]`` added to a source with registers; None for anything else."""
    line = source.line
    entries = line.kind.entries if line is not None and line.kind.has_registers else ""
    match = _REGISTER.match(what) if entries == "registers" else None
    if match is None:
        return None
    unit = what[match.end() :].strip() or "1"
    text = editor.with_entry(text, ("sources", source.name, "line", entries), _register(match, name))
    channel = {
        "source": source.name,
        "column": name,
        "raw_unit": unit,
        "unit": unit,
        "lowest": f"0 {unit}".removesuffix(" 1"),
        "highest": f"1000 {unit}".removesuffix(" 1"),
    }
    text = editor.with_table(text, ("channels", name), channel)
    return Edited(text, f"added: {name}, {match[0]}", ("channels", name, "column"))


def _register(match: re.Match[str], name: str) -> dict[str, Any]:
    register: dict[str, Any] = {"name": name, "table": match[1], "address": int(match[2])}
    return register | ({"type": match[3]} if match[3] else {})


def _table(kind: str, rest: str, name: str) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """The line's own keys, and its first register."""
    if kind == "this computer" and rest:
        raise RequestError(f'"{rest}" is too much; write {_HOW[kind]}.')
    if kind == "this computer":
        return {}, []
    place, _, more = rest.partition(" ")
    if not place:
        raise RequestError(f'"{name} < {kind}" lacks where it is; write {_HOW[kind]}.')
    if kind == "text line":
        if more and whole_number(more) is None:
            raise RequestError(f'"{more}" is not a baud rate; write {_HOW[kind]}.')
        return {"port": place, **({"baud": whole_number(more)} if more else {})}, []
    if kind in _OTHERS:
        return _OTHERS[kind](place, more.strip(), name)
    match = re.fullmatch(rf"(?:unit\s+(\d{{1,9}})\s+)?(?:(\d{{1,9}})\s+baud\s+)?({_REGISTER.pattern})", more.strip())
    if match is None:
        what = f'"{more.strip()}"' if more.strip() else f"{kind} at {place}"
        raise RequestError(f"{what} does not say which register; write {_HOW[kind]}.")
    told: dict[str, Any] = {"port": place}
    if kind == "Modbus TCP":
        told = _host(place)
    elif match[2]:
        told["baud"] = int(match[2])
    told |= {"unit": int(match[1])} if match[1] else {}
    found = _REGISTER.fullmatch(match[3])
    assert found is not None
    return told, [_register(found, name)]


def _host(place: str) -> dict[str, Any]:
    """``HOST`` or ``HOST:PORT``."""
    host, _, port = place.rpartition(":")
    number = whole_number(port) if host else None
    return {"host": place} if number is None else {"host": host, "tcp_port": number}


def _udp(place: str, more: str, name: str) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    if more or whole_number(place) is None:
        raise RequestError(f'"{f"{place} {more}".strip()}" is not a port; write {_HOW["UDP text"]}.')
    return {"udp_port": whole_number(place)}, []


def _mqtt(place: str, more: str, name: str) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    told = _host(place)
    return told | ({"topic": more} if more else {}), []


def _bus(place: str, more: str, name: str) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    match = re.fullmatch(rf"(0x[0-9a-fA-F]{{1,2}})(?:\s+(0x[0-9a-fA-F]{{1,2}}))?(?:\s+({'|'.join(BUS_TYPES)}))?", more)
    if match is None:
        raise RequestError(f'"{more}" does not say which device and register; write {_HOW["two-wire bus"]}.')
    register = {
        "name": name,
        **({"register": match[2]} if match[2] else {}),
        **({"type": match[3]} if match[3] else {}),
    }
    return {"bus": place, "address": match[1]}, [register]


def _frames(place: str, more: str, name: str) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    pattern = (
        rf"(\d{{1,9}})?(?:\s*begins((?:\s+[0-9a-fA-F]{{2}})+))?(?:\s*length\s+(\d{{1,9}}))?(?:\s*({_BYTES.pattern}))?"
    )
    match = re.fullmatch(pattern, more)
    if match is None:
        raise RequestError(f'"{more}" does not say where a frame ends; write {_HOW["serial frames"]}.')
    told: dict[str, Any] = {"port": place}
    told |= {"baud": int(match[1])} if match[1] else {}
    told |= {"begins": match[2].strip().upper()} if match[2] else {}
    told |= {"length": int(match[3])} if match[3] else {}
    found = _BYTES.fullmatch(match[4]) if match[4] else None
    begins = len((match[2] or "").split())
    return told, [_field(found, name) if found else {"name": name, "first_bit": 8 * begins, "bits": 16}]


def _field(match: re.Match[str], name: str) -> dict[str, Any]:
    """A field by bytes counted from 1."""
    first, last = int(match[1]), int(match[2] or match[1])
    if not 1 <= first <= last:
        raise RequestError(f'"{match[0]}" are not bytes of a frame; they are counted from 1, like bytes 5 to 6.')
    return {"name": name, "first_bit": 8 * (first - 1), "bits": 8 * (last - first + 1)}


_OTHERS = {"serial frames": _frames, "UDP text": _udp, "MQTT": _mqtt, "two-wire bus": _bus}


def _said(problem: Problem, name: str, kind: str) -> str:
    """The error with parameters named as on the screen."""
    place = problem.place.removeprefix(f"sources.{name}.line.")
    title = next((each.title for each in LINES[kind].parameters if each.name == place), place)
    return str(Problem(title, problem.value, problem.wanted))
