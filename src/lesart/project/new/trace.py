"""A project from an unknown trace: sources for what can be read, panels for displays."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.known_displays import known_displays
from lesart.core.quantity import counted, plain_number
from lesart.core.raw.decode import KINDS, DecoderKind
from lesart.core.raw.decode.lengths import BY_LENGTH
from lesart.core.raw.edges import Edges
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.talks.recognise import recognise
from lesart.core.raw.talks.talk import STILL, Talk, is_called
from lesart.core.units import parse_unit
from lesart.project.assumed import without_assumed
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import edges_in, read_capture
from lesart.project.new.devices import Way, ways_in
from lesart.project.new.register_values import registers_in, without_halves
from lesart.project.new.text import COUNTS, PLAIN, NewChannel, NewPanel
from lesart.project.tables.sources import check_source

MOST_CHANNELS = 24
FEWEST_ALIKE = 5
FEWEST_GATES = 20
"""Fewest gates in which a bus is counted over a trace."""
SHORT = {
    "two-wire bus": "bus",
    "four-wire serial": "wires",
    "serial bytes": "serial",
    "bits by length": "sensor",
    "one-wire bus": "one wire",
    "infrared by distance": "remote",
    "quadrature": "encoder",
    "pulse interval": "pulses",
    "pulse width": "pulses",
    "two-line driver": "driver",
}
CLOCKED_OUT = "converter"
"""Name of a source for a converter: four wires with words that are not whole bytes."""


@dataclass(frozen=True, eq=False)
class FoundTrace:
    """``lines`` by name; ``talks`` of them, the likeliest first; ``displays`` with the talk that each is on."""

    lines: Mapping[str, Edges]
    talks: tuple[Talk, ...]
    displays: tuple[tuple[Talk, KnownDisplay], ...]


def found_in_trace(lines: Mapping[str, Edges]) -> FoundTrace:
    """The talks of some lines, and the displays on them."""
    talks = recognise(lines)
    displays = [(talk, display) for talk in talks for display in known_displays(talk, lines)]
    return FoundTrace(lines, talks, tuple(displays))


def lines_of(path: Path, table: Mapping[str, Any]) -> Mapping[str, Edges]:
    """Signals of one bit in a trace, or columns of levels in rows of numbers. Raises CaptureError."""
    if table.get("format") == "vcd":
        from lesart.project.captures.traces.vcd_read import read_vcd

        return read_vcd(path).lines
    source, problems = check_source("capture", without_assumed(table))
    if source is None:
        raise CaptureError(f"{path}: {problems[0]}")
    return edges_in(read_capture(path, source))


def is_trace(lines: Mapping[str, Edges], columns: int) -> bool:
    """True where rows of numbers are a trace: nothing but levels, with enough lines, or edges at irregular times."""
    return bool(lines) and len(lines) == columns and sum(map(len, lines.values())) >= 4


@dataclass(frozen=True, eq=False)
class NewFromTrace:
    """Tables of sources by name, channels and panels; ``said`` has a sentence for each talk, with its use."""

    sources: Mapping[str, Mapping[str, Any]]
    channels: tuple[NewChannel, ...]
    panels: tuple[NewPanel, ...]
    said: tuple[str, ...]
    bad: int = 0


def new_from_trace(path: Path, capture: Mapping[str, Any], found: FoundTrace) -> NewFromTrace:
    """The content of a project from it. ``capture`` are the keys of a source for the file."""
    said = []
    for talk in found.talks:
        if talk.kind != STILL:
            said.append(sentence_of(talk))
            said += [display_sentence(display) for each, display in found.displays if each is talk]
    still = [talk.signals[0] for talk in found.talks if talk.kind == STILL]
    if still:
        said.append(f"{', '.join(still)}: {'never changes' if len(still) == 1 else 'never change'}")
    sources, channels, bad = _sources(path, capture, found)
    return NewFromTrace(sources, channels, _panels(str(capture["capture"]), found), tuple(said), bad)


def _sources(
    path: Path, capture: Mapping[str, Any], found: FoundTrace
) -> tuple[dict[str, Mapping[str, Any]], tuple[NewChannel, ...], int]:
    """Sources by name, their channels, and the number of bad readings.

    A repeated request, or a setting, only becomes a channel where nothing else does.
    """
    kept: dict[str, Made] = {}
    alike: list[Made] = []
    shown = {id(talk) for talk, _ in found.displays}
    for talk in (each for each in found.talks if each.kind in KINDS):
        for made in list(_channels(path, capture, talk, has_display=id(talk) in shown, taken=kept)):
            if _says_one_thing(made[2]):
                alike.append(made)
            else:
                kept[made[0]] = made
    if not kept:
        kept = {_numbered(made[0], place, alike): made for place, made in enumerate(alike)}
    channels: list[NewChannel] = []
    sources: dict[str, Mapping[str, Any]] = {}
    bad = 0
    for name, (_, table, read, blocks) in kept.items():
        if len(channels) < MOST_CHANNELS:
            sources[name] = table
            bad += read.bad_count
            channels += new_channels(name, read, blocks, channels)
    return sources, tuple(channels), bad


def _numbered(name: str, place: int, all_made: list[Made]) -> str:
    """A name with a number where it is already taken."""
    before = sum(each[0] == name for each in all_made[:place])
    return f"{name} {before + 1}" if before else name


def sentence_of(talk: Talk) -> str:
    """``clock scl, data sda: two-wire bus, 99 % sure: all 141 transfers …``."""
    told = ", ".join(f"{key} {value}" for key, value in talk.values if value != "")
    messages = f", {talk.messages}" if talk.messages != "none" else ""
    setting = f" ({told}{messages})" if told or messages else ""
    # The role of a line is new information, unless the line is already named so.
    lines = ", ".join(
        names if names == role or role == "line" else f"{role} {names}" for role, names in talk.lines if names
    )
    return f"{lines}: {talk.kind}{setting}, {round(100 * talk.sure)} % sure: {talk.why}"


def display_sentence(display: KnownDisplay) -> str:
    """A sentence on a display."""
    panel, where = display.panel, display.trace.get("address", "")
    size = {
        "pixels": lambda: f"{panel['width']}×{panel['height']} pixels",
        "colours": lambda: f"{panel['width']}×{panel['height']} colours",
        "inks": lambda: f"{panel['width']}×{panel['height']} pixels in black, white and {panel.get('third', 'red')}",
        "characters": lambda: f"{panel['columns']}×{panel['rows']} characters",
        "segments": lambda: f"{panel['digits']} digits",
        "lamps": lambda: counted(panel["width"] * panel.get("height", 1), "colour lamp"),
    }[panel["kind"]]()
    controller = f" by {display.trace['controller']}" if display.trace.get("controller") else ""
    at = f" at {where}" if where else ""
    return f"  a display of {size}{at}{controller}, {round(100 * display.sure)} % sure: {display.why}"


def _panels(capture: str, found: FoundTrace) -> tuple[NewPanel, ...]:
    """Panels, named by what they are."""
    panels: list[NewPanel] = []
    for _, display in found.displays:
        base = {
            "pixels": "pixels",
            "colours": "colours",
            "inks": "paper",
            "characters": "letters",
            "segments": "digits",
            "lamps": "lamps",
        }[display.panel["kind"]]
        names = [panel.name for panel in panels]
        name = base if base not in names else f"{base} {1 + sum(each.startswith(base) for each in names)}"
        panels.append(NewPanel(name, display.panel, {"capture": capture, **display.trace}))
    return tuple(panels)


def decoding_of(talk: Talk) -> dict[str, Any]:
    """The decoder's table as in the project file."""
    table: dict[str, Any] = {
        "kind": talk.kind,
        **{role: name for role, name in talk.lines if name},
        **dict(talk.values),
    }
    table |= {"check": talk.check} if talk.check != "none" else {}
    return table | ({"messages": talk.messages} if talk.messages != "none" else {})


Made = tuple[str, Mapping[str, Any], Capture, Mapping[str, Block]]
"""A source's name, its table, its capture, and its columns of numbers."""


def _channels(
    path: Path, capture: Mapping[str, Any], talk: Talk, *, has_display: bool, taken: Mapping[str, Any]
) -> Iterator[Made]:
    """Sources of a talk: one, or one per device that is read."""
    base = (
        CLOCKED_OUT
        if dict(talk.values).get("bits") and talk.kind == "four-wire serial"
        else SHORT.get(talk.kind, "capture")
    )
    for way in _ways(path, capture, talk, has_display=has_display):
        called = way.name or base
        number = 1 + sum(re_begins(each, called) for each in taken)
        called = called if number == 1 else f"{called} {number}"
        table: dict[str, Any] = {**capture, "decode": {**decoding_of(talk), **way.decode}}
        if way.fields:
            table["fields"] = [dict(each) for each in way.fields]
        read = read_source(path, table)
        registers = _registers(talk, read)
        if registers:
            table["registers"] = list(registers)
            read = read_source(path, table)
        usable = {column: block for column, block in read.columns.items() if block.usable.any()}
        blocks = without_halves(usable, registers)
        if blocks:
            yield called, table, read, blocks


def _registers(talk: Talk, read: Capture) -> tuple[dict[str, Any], ...]:
    is_bus = talk.messages.startswith("Modbus") and read.decoded is not None
    return registers_in(read.columns, read.decoded.from_frame) if is_bus and read.decoded else ()


def _says_one_thing(read: Capture) -> bool:
    """True where all of its frames are the same."""
    frames = [frame.data for frame in _frames(read) if not frame.mark]
    return len(frames) >= FEWEST_ALIKE and len(set(frames)) == 1


def _frames(read: Capture) -> tuple[ByteFrame, ...]:
    return (read.decoded.frames or ()) if read.decoded else ()


def re_begins(name: str, base: str) -> bool:
    """True for this name, with or without a number."""
    return name == base or (name.startswith(f"{base} ") and name[len(base) + 1 :].isdecimal())


def _ways(path: Path, capture: Mapping[str, Any], talk: Talk, *, has_display: bool) -> Iterator[Way]:
    """Sources: whole talks, or each device and register that is read."""
    if talk.kind == BY_LENGTH.name and has_display:
        return  # what its lamps are sent is shown, and measures nothing
    if KINDS[talk.kind].gives_values or talk.messages != "none" or talk.fields:
        yield Way("", {}, talk.fields)
        return
    read = read_source(path, {**capture, "decode": decoding_of(talk)})
    yield from ways_in(talk.kind, _frames(read), has_display=has_display)


def read_source(path: Path, table: Mapping[str, Any]) -> Capture:
    """The capture of a source by its table, what is assumed in it left out. Raises CaptureError."""
    source, problems = check_source("capture", without_assumed(table))
    if source is None:
        raise CaptureError(f"{path}: {problems[0]}")
    return read_capture(path, source)


def new_channels(
    source: str, read: Capture, blocks: Mapping[str, Block], others: list[NewChannel]
) -> Iterator[NewChannel]:
    """A channel per column, named after it, and after its source where the column's name says little."""
    for column, block in blocks.items():
        bare = column.replace(".", " ").replace('"', "")[:40].strip() or "reading"
        says_little = bare.startswith(("byte", "value", "column")) or bare in ("interval", "width", "position", "count")
        name = f"{source} {bare}" if says_little and len(blocks) > 1 else source if says_little else bare
        if any(other.name == name for other in others):
            name = f"{source} {bare}"
        said = read.decoded.units.get(column) if read.decoded else None
        good = block.x[block.usable]
        is_whole = bool((good == good.round()).all())
        unit = parse_unit(said) if said else COUNTS if is_whole else PLAIN
        yield NewChannel(name, source, column, unit, is_whole, block)


def lines_for(kind: DecoderKind, lines: Mapping[str, Edges]) -> tuple[dict[str, str], str]:
    """The signals that a decoder reads, by role, and how they were found: by behaviour, by name, or by order in the
    file."""
    talk = next((each for each in recognise(lines) if each.kind == kind.name), None)
    if talk is not None:
        return {role: name for role, name in talk.lines if role in kind.lines}, f"{round(100 * talk.sure)} % sure"
    named: dict[str, str] = {}
    for role in kind.lines:
        name = next((each for each in lines if each == role), None)
        name = name or next((each for each in lines if is_called(each, role) and each not in named.values()), None)
        if name is not None:
            named[role] = name
    if all(role in named for role in kind.lines[: kind.needed]):
        return named, "by their names"
    moving = [name for name in lines if len(lines[name])] or list(lines)
    return dict(zip(kind.lines[: kind.needed], moving, strict=False)), "as they are in the file"


def activity(capture: Mapping[str, Any], found: FoundTrace) -> tuple[str, dict[str, Any]]:
    """A source for a trace with nothing but displays: the activity of its bus, counted in gates."""
    talk = max((each for each in found.talks if each.kind != STILL), key=lambda each: each.weight)
    line = talk.line("clock") or max(talk.signals, key=lambda name: len(found.lines[name]))
    edges = found.lines[line]
    lasts = edges.end_s - edges.start_s
    gate = 10.0 ** math.floor(math.log10(max(lasts / FEWEST_GATES, 1e-6)))
    decode = {"kind": "gate count", "line": line, "gate": f"{plain_number(gate * 1e6, 6)} µs"}
    decode |= {"shortest": dict(talk.values)["shortest"]} if talk.shortest_s else {}
    return line, {**capture, "decode": decode}


def silent(kind: DecoderKind, roles: Mapping[str, str], lines: Mapping[str, Edges]) -> str:
    """Why a decoder can find nothing in its lines; empty where all of them change."""
    still = [name for role, name in roles.items() if name in lines and not len(lines[name])]
    if not still:
        return ""
    level = {0: "low", 1: "high"}.get(lines[still[0]].first, "unknown")
    return (
        f"{still[0]} never changes: it is {level} from the first moment to the last, so {kind.name} finds nothing in it"
    )
