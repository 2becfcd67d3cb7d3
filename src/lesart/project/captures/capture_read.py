"""Reading a capture of any format, decoding included: columns of values, whatever they come from."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from lesart.core.block import Block
from lesart.core.errors import CaptureError
from lesart.core.raw.decode import Decoded
from lesart.core.raw.edges import UNKNOWN, Edges, edges_of
from lesart.core.raw.heard_registers import heard
from lesart.core.raw.lines.spoken_lines import SpokenLines, spoken_lines
from lesart.core.raw.messages.frames import ByteFrame, beginning, checked, values_of
from lesart.core.raw.messages.modbus import OF_ASCII, Messages, ascii_frames, read_messages
from lesart.core.raw.source import Source
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.captures.recording import HEADER_LINES, TIME
from lesart.project.captures.rows.csv_read import read_csv

if TYPE_CHECKING:
    from lesart.project.captures.table import Table
    from lesart.project.captures.traces.vcd_read import Trace

MOST_BAD = 1000
MESSAGES: dict[str, Callable[[Sequence[ByteFrame]], Messages | SpokenLines]] = {
    "Modbus RTU": read_messages,
    "Modbus ASCII": lambda frames: read_messages(ascii_frames(frames), OF_ASCII),
    "text lines": spoken_lines,
}
"""Functions that make columns of message frames."""


def read_capture(path: Path, source: Source) -> Capture:
    """The capture of a source. Raises CaptureError where there is nothing in it to read."""
    # A format's reader is imported with its first file.
    match source.format:
        case "csv" if source.decoding is not None:
            return _of_levels(path, read_csv(path, source), source)
        case "csv":
            return read_csv(path, source)
        case "recording":
            return read_csv(path, _of_recording(source))
        case "wav":
            from lesart.project.captures.samples.wav_read import read_wav

            return read_wav(path)
        case "hex":
            from lesart.project.captures.traces.hex_read import read_hex

            return _of_frames(path.name, Decoded(frames=read_hex(path)), source)
        case "vcd":
            from lesart.project.captures.traces.vcd_read import read_vcd

            return _of_trace(path, read_vcd(path), source)
    from lesart.project.captures.table import capture_of_table

    return capture_of_table(path, read_table_of(path, source), source)


def read_table_of(path: Path, source: Source) -> Table:
    """The table in a file of a format with named columns, or with a stated layout. Raises CaptureError."""
    match source.format:
        case "json lines":
            from lesart.project.captures.named_cells.json_read import read_json_lines

            return read_json_lines(path)
        case "json":
            from lesart.project.captures.named_cells.json_read import read_json

            return read_json(path)
        case "parquet":
            from lesart.project.captures.named_cells.parquet_read import read_parquet

            return read_parquet(path)
        case "spreadsheet":
            from lesart.project.captures.named_cells.sheet_read import read_sheet

            return read_sheet(path, source.sheet).table
        case "text log":
            from lesart.project.captures.named_cells.log_read import read_log

            return read_log(path)
        case "sentences":
            from lesart.project.captures.named_cells.sentence_read import read_sentences

            return read_sentences(path)
        case "arrays":
            from lesart.project.captures.samples.numpy_read import read_numpy

            return read_numpy(path)
        case "sound":
            from lesart.project.captures.samples.sound_read import read_sound

            return read_sound(path)
    from lesart.project.captures.samples.binary_read import read_binary

    return read_binary(path, source)


def _of_levels(path: Path, capture: Capture, source: Source) -> Capture:
    """The capture decoded from columns of levels."""
    from lesart.project.captures.traces.vcd_read import Trace

    return _of_trace(path, Trace(edges_in(capture), {}), source)


def edges_in(capture: Capture) -> dict[str, Edges]:
    """Columns of nothing but 0 and 1 as lines of a trace; an empty cell is unknown."""
    found = {}
    for name, block in capture.columns.items():
        good = block.x[block.usable]
        if len(good) and bool(np.isin(good, (0.0, 1.0)).all()):
            level = np.where(block.usable, block.x, UNKNOWN).astype(np.uint8)
            start, end = float(capture.t[0]), float(capture.t[-1])
            # A line without an initial value is unknown until its first change.
            known = int(block.t[0] <= start)
            first = int(level[0]) if known else UNKNOWN
            found[name] = edges_of(block.t[known:], level[known:], first, start, end)
    return found


def _of_recording(source: Source) -> Source:
    """The source as for Lesart's own recordings. Raises CaptureError where there is none yet."""
    if not source.capture:
        if source.line is None:
            raise CaptureError(f'sources.{source.name}.capture = ""; name one.')
        raise CaptureError(f"{source.name}: nothing is recorded of {source.line.says} yet; o listens to it, r records.")
    return replace(source, header=HEADER_LINES, time=TIME)


def _of_trace(path: Path, trace: Trace, source: Source) -> Capture:
    """The capture of a trace. Without a decoder every signal is a column of levels."""
    if source.decoding is None:
        columns = {**{name: _levels(line) for name, line in trace.lines.items()}, **trace.values}
        return replace(_capture(path.name, columns), lines=trace.lines, steps_back=trace.steps_back)
    lines = {role: _line(path, trace, name, source, role) for role, name in source.decoding.lines}
    decoded = source.decoding.kind.decode(lines, dict(source.decoding.values))
    capture = _of_frames(path.name, decoded, source)
    named = {name: trace.lines[name] for _, name in source.decoding.lines}
    return replace(capture, lines=named, steps_back=trace.steps_back)


def _line(path: Path, trace: Trace, name: str, source: Source, role: str) -> Edges:
    if name not in trace.lines:
        known = ", ".join(trace.lines) or "none of one bit"
        raise CaptureError(f'sources.{source.name}.decode.{role} = "{name}"; the signals of {path.name} are {known}.')
    return trace.lines[name]


def _levels(line: Edges) -> Block:
    """A column of the level from each edge on; unknown ones are missing."""
    first = [] if line.first == UNKNOWN else [line.start_s]
    t = np.concatenate((first, line.t))
    level = np.concatenate(([line.first] * len(first), line.level)).astype(np.float64)
    unknown = level == UNKNOWN
    return Block(t, np.where(unknown, np.nan, level), unknown.astype(np.uint8))


def _of_frames(name: str, decoded: Decoded, source: Source) -> Capture:
    """A decoder's own columns, and one per field of its frames."""
    columns: dict[str, Block] = dict(decoded.columns)
    bad: list[BadRow] = []
    if decoded.frames is not None:
        frames = decoded.frames
        if source.decoding:
            frames = checked(beginning(frames, source.decoding.begins), source.decoding.check)
        if source.decoding and source.decoding.messages != "none":
            messages = MESSAGES[source.decoding.messages](frames)
            frames = messages.frames
            columns |= messages.columns
            units = messages.units if isinstance(messages, SpokenLines) else decoded.units
            decoded = replace(decoded, from_frame=messages.from_frame, units=units)
            if isinstance(messages, Messages):
                columns, decoded = _with_registers(columns, decoded, messages, source)
        decoded = replace(decoded, frames=frames)
        bad = [_bad(number, frame, frame.why) for number, frame in enumerate(frames, 1) if frame.mark]
        for spec in source.fields:
            columns[spec.name], wrong = values_of(frames, spec)
            bad += [_bad(place + 1, frames[place], f"{spec.name}: {why}", spec.name) for place, why in wrong.items()]
    bad.sort(key=lambda row: row.line)
    count = len({row.line for row in bad})
    return replace(_capture(name, columns), decoded=decoded, bad=tuple(bad[:MOST_BAD]), bad_count=count)


def _with_registers(
    columns: dict[str, Block], decoded: Decoded, messages: Messages, source: Source
) -> tuple[dict[str, Block], Decoded]:
    """The capture with a column for each value that spans several registers."""
    found = {each.register.name: value for each in source.registers if (value := heard(messages, each)) is not None}
    places = {name: frames for name, (_, frames) in found.items()}
    blocks = {name: block for name, (block, _) in found.items()}
    return columns | blocks, replace(decoded, from_frame={**decoded.from_frame, **places})


def _bad(number: int, frame: ByteFrame, why: str, column: str | None = None) -> BadRow:
    return BadRow(number, f"{why}, at {frame.t:.6f} s", column, noun="frame")


def _capture(name: str, columns: Mapping[str, Block]) -> Capture:
    """A capture whose columns have their own times; its time axis is that of the first."""
    t = next((block.t for block in columns.values()), np.zeros(0))
    return Capture(name, t, columns, (), 0, 0)
