"""A new project from a capture, without asking what can be found out."""

from __future__ import annotations

import shutil
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, StorageError
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.quantity import counted, counted_of, format_quantity
from lesart.core.raw.codes import stand_ins
from lesart.core.raw.moments.column import TimeColumn
from lesart.core.raw.talks.talk import Talk
from lesart.core.raw.timing import timing_of
from lesart.core.units import parse_unit
from lesart.project.assumed import without_assumed
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.rows.csv_shape import CsvShape
from lesart.project.captures.rows.rows_shape import is_counter
from lesart.project.folder.made import is_free, made_beside
from lesart.project.folder.store import FILE, write_whole
from lesart.project.new.field_bus import new_from_bus
from lesart.project.new.format import bare_name
from lesart.project.new.register_values import without_halves
from lesart.project.new.source import FoundSource, found_source
from lesart.project.new.text import COUNTS, PLAIN, NewChannel, project_text
from lesart.project.new.trace import (
    FoundTrace,
    NewFromTrace,
    activity,
    found_in_trace,
    is_trace,
    lines_of,
    new_from_trace,
)
from lesart.project.tables.sources import check_source

CODE, PULSES = 0.7, ("pulse interval", "pulse width", "nothing")
"""Least certainty of a talk for rows of levels to be a trace, and talks that are not codes."""
COUNTED = 10_000
"""Rows of a column examined to see whether it only counts them."""


@dataclass(frozen=True)
class Made:
    """What was found in the file, and the folder that was made. ``shape`` is that of a file of numbers.

    ``said`` are sentences on what may be read otherwise; ``assumes_rate``: nothing is known of the times.
    """

    folder: Path
    format: str
    shape: CsvShape | None
    time: TimeColumn
    rows: int
    rate_hz: float
    bad_rows: int
    channels: tuple[str, ...]
    assumes_rate: bool = False
    said: tuple[str, ...] = ()
    talks: tuple[Talk, ...] = ()
    displays: tuple[KnownDisplay, ...] = ()
    panels: tuple[str, ...] = ()
    heard: tuple[str, ...] = ()
    """For a trace: its talks, in sentences."""


def make_project(
    capture: Path,
    folder: Path,
    decoder: str = "",
    line: Mapping[str, Any] | None = None,
    layout: str = "",
    signals: Sequence[str] = (),
) -> Made:
    """Copy the capture into a new folder and write its ``lesart.toml``, with what is decoded in a trace of edges.

    ``line`` is where a recording came from, as the project file has it; ``layout`` is that of raw binary numbers;
    ``signals`` are those that the decoder reads. Raises CaptureError, StorageError, or RequestError for an unknown
    decoder or layout.
    """
    found = found_source(capture, f"captures/{capture.name}", decoder, layout, signals)
    table = found.table
    if line is not None:
        table = {"capture": table["capture"], "line": line}
    if found.shape is not None and not found.shape.value_names:
        raise CaptureError(f"{capture}: it holds a time column only; a reading needs a column of its own.")
    source, problems = check_source("capture", without_assumed(table))
    if source is None:
        raise CaptureError(f"{capture}: {problems[0]}")
    if decoder == "" and line is None and (trace := _trace(capture, found)) is not None:
        return _made_of_trace(capture, folder, table, found, trace)
    if found.format == "hex" and (bus := new_from_bus(capture, table)) is not None:
        return _made_of_bus(capture, folder, found, bus)
    read = read_capture(capture, source)
    columns = without_halves(read.columns, table.get("registers", ()))
    usable = {name: block for name, block in columns.items() if block.usable.any()}
    kept = {name: block for name, block in usable.items() if not is_counter(name, block.x[:COUNTED].tolist())}
    usable = kept or usable
    if not usable:
        almost = "; ".join(found.shape.doubts[-1:] if found.shape is not None else ())
        raise CaptureError(f"{capture}: no column holds numbers{f'; {almost}' if almost else ''}.")
    timing = timing_of(max(usable.values(), key=len).t)
    channels = [_channel(name, block, found, read) for name, block in usable.items()]
    _write(capture, folder, project_text(capture.name, bare_name(capture), {"capture": table}, channels))
    return Made(
        folder=folder,
        format=found.format,
        shape=found.shape,
        time=found.time,
        rows=len(read.t) if found.whose else max(map(len, usable.values())),
        rate_hz=timing.rate_hz,
        bad_rows=read.bad_count,
        channels=tuple(each.name for each in channels),
        assumes_rate=found.has_assumed_rate,
        said=(*_of_whom(found, len(read.columns)), *found.said, *read.said, *_no_readings(channels)),
    )


def _trace(capture: Path, found: FoundSource) -> FoundTrace | None:
    """The talks of a trace of edges; None for any other file."""
    if found.format == "vcd":
        lines = lines_of(capture, found.table)
        return found_in_trace(lines) if any(map(len, lines.values())) else None
    if found.shape is None or found.has_assumed_rate or not set(found.shape.value_names) <= found.shape.whole:
        return None
    lines = lines_of(capture, found.table)
    if not is_trace(lines, len(lines) if found.whose else len(found.shape.value_names)):
        return None
    trace = found_in_trace(lines)
    # Logged switches are levels too; a code, or a display, makes it a trace.
    return trace if any(talk.sure > CODE and talk.kind not in PULSES for talk in trace.talks) else None


def _made_of_trace(
    capture: Path, folder: Path, table: Mapping[str, Any], found: FoundSource, trace: FoundTrace
) -> Made:
    """The project of a trace whose talks are recognised. Raises CaptureError where nothing in it can be read."""
    made = new_from_trace(capture, table, trace)
    if not made.channels and not made.panels:
        raise CaptureError(f"{capture}: nothing in its {counted(len(trace.lines), 'signal')} could be read as values.")
    sources, channels = dict(made.sources), list(made.channels)
    idle: tuple[str, ...] = ()
    if not channels:
        # A project has at least one channel: for a trace of displays the load of their bus.
        name, source = activity(without_assumed(table), trace)
        sources, channels = {"capture": source}, [_of_activity(capture, name, source)]
        # It is another device's activity: no loop of this project counts it.
        idle = ("count capture", f"convert {channels[0].name}")
    text = project_text(capture.name, bare_name(capture), sources, channels, made.panels, idle)
    _write(capture, folder, text)
    return replace(
        _made(folder, found, channels, made.bad, made.said),
        said=found.said,
        talks=trace.talks,
        displays=tuple(display for _, display in trace.displays),
        panels=tuple(panel.name for panel in made.panels),
    )


def _made_of_bus(capture: Path, folder: Path, found: FoundSource, bus: NewFromTrace) -> Made:
    """The project of a CAN bus."""
    _write(capture, folder, project_text(capture.name, bare_name(capture), dict(bus.sources), list(bus.channels)))
    return _made(folder, found, bus.channels, bus.bad, bus.said)


def _made(
    folder: Path, found: FoundSource, channels: Sequence[NewChannel], bad_rows: int, heard: tuple[str, ...]
) -> Made:
    """What several sources of a file gave; its rows are those of the longest channel."""
    longest = max(channels, key=lambda each: len(each.block)).block
    return Made(
        folder=folder,
        format=found.format,
        shape=found.shape,
        time=found.time,
        rows=len(longest),
        rate_hz=timing_of(longest.t).rate_hz,
        bad_rows=bad_rows,
        channels=tuple(each.name for each in channels),
        heard=heard,
    )


def _of_activity(capture: Path, line: str, table: Mapping[str, Any]) -> NewChannel:
    source, problems = check_source("capture", table)
    if source is None:
        raise CaptureError(f"{capture}: {problems[0]}")
    block = read_capture(capture, source).columns["count"]
    return NewChannel(_channel_name(f"{line} edges"), "capture", "count", COUNTS, True, block)


def _write(capture: Path, folder: Path, text: str) -> None:
    """Write the folder with the capture and the project. Raises StorageError where it exists."""
    if not is_free(folder):
        raise StorageError(f"{folder}: it already exists; name another folder.")
    with made_beside(folder) as making:
        (making / "captures").mkdir()
        shutil.copyfile(capture, making / "captures" / capture.name)
        write_whole(making / FILE, text)


def _channel(column: str, block: Block, found: FoundSource, read: Capture) -> NewChannel:
    """A new channel. Units come from a file's names or cells, or from the decoder; a bare number is a sound channel."""
    good = block.x[block.usable]
    is_whole = bool((good == good.round()).all())
    name = f"channel {column}" if column.isdecimal() else _channel_name(column)
    if found.units is not None:
        of = _of(column, found) if found.whose else column
        is_whole = of in found.whole if found.whole is not None and not found.whose else is_whole
        unit = found.units_of.get(column) or found.units.get(of) or (COUNTS if is_whole and len(good) else PLAIN)
    else:
        said = read.decoded.units.get(column) if read.decoded else None
        unit = parse_unit(said) if said else PLAIN
    return NewChannel(name, "capture", column, unit, is_whole, block, tuple(stand_ins(good, unit)))


def _no_readings(channels: Sequence[NewChannel]) -> tuple[str, ...]:
    """A sentence on each value taken as no reading."""
    said = []
    for each in channels:
        good = each.block.x[each.block.usable]
        for value, means in stand_ins(good, each.unit).items():
            times = counted_of(int((good == value).sum()), len(good), "sample")
            shown = format_quantity(value, each.unit, 9)
            said.append(f"{each.name} is {shown} in {times}, {means}; it is taken for no reading")
    return tuple(said)


def _of_whom(found: FoundSource, columns: int) -> tuple[str, ...]:
    if not found.whose:
        return ()
    were = "column was" if columns == 1 else "columns were"
    return (f'"{found.whose}" names the sensor of each row; {columns} {were} made',)


def _of(column: str, found: FoundSource) -> str:
    """The column of the file that a sensor's column came from."""
    names = found.shape.value_names if found.shape is not None else tuple(found.units or ())
    return next((name for name in names if column.endswith(f" {name}")), names[0] if len(names) == 1 else "")


def _channel_name(column: str) -> str:
    """A valid channel name: points separate keys in the file."""
    return column.replace(".", " ").replace('"', "")[:40].strip() or "reading"
