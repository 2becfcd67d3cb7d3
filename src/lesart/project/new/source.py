"""The table of a source as far as a file tells: its format, its times, its columns and their units."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import field
from pathlib import Path
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, RequestError
from lesart.core.quantity import plain_number
from lesart.core.raw.decode import KINDS
from lesart.core.raw.lines.spoken import messages_in
from lesart.core.raw.messages.modbus import Messages
from lesart.core.raw.moments.column import TimeColumn
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.assumed import ASSUMED, joined
from lesart.project.captures.rows.csv_shape import CsvShape, find_shape
from lesart.project.captures.rows.rate_in_head import HeadRate
from lesart.project.captures.text import sample_text
from lesart.project.captures.whose_rows import units_said, whose_column
from lesart.project.new.devices import equal_frames
from lesart.project.new.format import ENDINGS, format_of
from lesart.project.new.register_values import registers_in
from lesart.project.tables.sources import check_source

FORMATS = ENDINGS
FIRST_FIELD = {"name": "value", "first_bit": 0, "bits": 16, ASSUMED: "first_bit, bits"}
"""A field to start from, where there are frames."""
FEWEST_FRAMES = 8
"""Fewest distinct frames to tell where they begin to differ."""
ASSUMED_RATE = "1 Hz"


@dataclass(frozen=True)
class FoundSource:
    """``table`` as in the project file; ``units`` and ``whole`` columns by name where known; ``said`` are sentences on
    what may be read differently, or was not found."""

    table: dict[str, Any]
    format: str
    time: TimeColumn = TimeColumn()
    units: Mapping[str, Unit] | None = None
    whole: frozenset[str] | None = None
    shape: CsvShape | None = None
    said: tuple[str, ...] = ()
    units_of: Mapping[str, Unit] = field(default_factory=dict)
    """By the sensor that rows are of, where a column of the file says them."""

    @property
    def whose(self) -> str:
        """The column with the sensor of each row; empty where there is none."""
        return str(self.table.get("whose", ""))

    @property
    def has_assumed_rate(self) -> bool:
        """True where the times are unknown, so that a rate is assumed."""
        return "rate" in str(self.table.get(ASSUMED, "")).split(", ")


def source_table(path: Path, written: str, decoder: str = "") -> dict[str, Any]:
    """The table, with ``capture`` as ``written``.

    Raises CaptureError where the file cannot be read, RequestError for an unknown decoder.
    """
    return found_source(path, written, decoder).table


def found_source(
    path: Path, written: str, decoder: str = "", layout: str = "", signals: Sequence[str] = ()
) -> FoundSource:
    """Everything that a file tells.

    Raises CaptureError where it cannot be read, RequestError for an unknown decoder or an invalid layout.
    """
    if layout:
        from lesart.project.captures.samples.binary_read import layout_of

        table = {"capture": written, **layout_of(layout)}
        said = () if "rate" in table else _assume(table, TimeColumn())
        return FoundSource(table, "binary", said=said)
    format_ = format_of(path)
    if decoder and format_ not in ("vcd", "csv"):
        raise RequestError(f'"{written}" is not a trace of edges, so nothing is decoded in it as {decoder}.')
    if format_ == "recording":
        shape = find_shape(path)
        table = {"capture": written, "format": "recording"}
        units = shape.units | _units_heard(path, shape.names)
        return FoundSource(table, format_, shape.found_time, units, shape.whole, shape)
    if format_ == "csv":
        return _of_rows(path, written, decoder, signals)
    table = {"capture": written, "format": format_}
    if format_ == "vcd" and decoder:
        return FoundSource(table | _decoder(path, decoder, table, signals), format_)
    if format_ == "hex":
        table |= _of_frames(path)
    if format_ == "binary":
        raise CaptureError(
            f"{path}: it holds bare numbers, and nothing in it says which; say how they lie: "
            '--layout "int16, 2 columns, 1 kHz".'
        )
    if format_ in ("vcd", "hex", "wav"):
        return FoundSource(table, format_)
    return _of_table(path, table, format_)


def _of_frames(path: Path) -> dict[str, Any]:
    """For frames: registers of a field bus, or numbers of lines of text; else fields to start from."""
    from lesart.project.captures.capture_read import MESSAGES
    from lesart.project.captures.traces.hex_read import read_hex

    frames = read_hex(path)
    messages = messages_in(frames)
    if messages != "none":
        decode = {"decode": {"messages": messages, "check": "none"}}
        read = MESSAGES[messages](frames)
        registers = registers_in(read.columns, read.from_frame) if isinstance(read, Messages) else ()
        return {**decode, "registers": list(registers)} if registers else decode
    return _of_equal_frames([frame.data for frame in frames if not frame.mark])


def _of_equal_frames(frames: Sequence[bytes]) -> dict[str, Any]:
    """For frames of one length: words from where they begin to differ, and the check at their end."""
    lengths = {len(frame) for frame in frames}
    if len(lengths) != 1 or len(set(frames)) < FEWEST_FRAMES:
        return {"fields": [FIRST_FIELD]}
    way = equal_frames(frames)
    found: dict[str, Any] = {"decode": dict(way.decode)} if way.decode else {}
    return {**found, "fields": [dict(each) for each in way.fields]}


def _of_rows(path: Path, written: str, decoder: str, signals: Sequence[str]) -> FoundSource:
    shape = find_shape(path)
    table: dict[str, Any] = {
        "capture": written,
        "delimiter": shape.delimiter,
        "decimal": shape.decimal,
        "header": shape.header,
    }
    if shape.thousands != "none":
        table["thousands"] = shape.thousands
    if shape.names_line:
        table["names_line"] = shape.names_line
    if shape.groups_line:
        table["groups_line"] = shape.groups_line
    said = (*_put_time(table, shape.found_time, shape.head_rate), *shape.doubts)
    if any("thousands" in doubt for doubt in shape.doubts):
        _assumed(table, "decimal")
    if shape.whose:
        table["whose"] = shape.whose
    if shape.units_in:
        table["units_in"] = shape.units_in
    if decoder:
        table |= _decoder(path, decoder, table, signals)
    return FoundSource(table, "csv", shape.found_time, shape.units, shape.whole, shape, said, shape.units_of)


def _of_table(path: Path, table: dict[str, Any], format_: str) -> FoundSource:
    """For formats with named columns."""
    from lesart.project.captures.capture_read import read_table_of
    from lesart.project.captures.table import sample, table_time, table_units

    if format_ == "spreadsheet":
        from lesart.project.captures.named_cells.sheet_read import read_sheet

        sheet = read_sheet(path)
        shape = sheet.shape
        if len(sheet.sheets) > 1:
            table["sheet"] = sheet.name
        if shape.whose:
            table["whose"] = shape.whose
        doubts = tuple(
            filter(None, (shape.time.doubt, shape.turned, _mixed(shape.units_in if shape.units_vary else "")))
        )
        said = (*_put_time(table, shape.time, sheet.head_rate), *doubts, *shape.left_out)
        return FoundSource(table, format_, shape.time, shape.units, shape.whole, None, said, shape.units_of)
    source, problems = check_source("capture", table)
    if source is None:
        raise CaptureError(f"{path}: {problems[0]}")
    read = read_table_of(path, source)
    time = table_time(read)
    if read.rate_hz:
        if format_ != "sound":
            table["rate"] = f"{plain_number(read.rate_hz, 12)} Hz"
        return FoundSource(table, format_, units=None if format_ == "sound" else table_units(read))
    said = (*_put_time(table, time), *((time.doubt,) if time.doubt else ()))
    cells = {name: told for name, cells in read.columns.items() if (told := sample(cells, moments=True))}
    if whose := whose_column(cells, time):
        table["whose"] = whose
    units_of = units_said(cells, whose) if whose else {}
    return FoundSource(table, format_, time, table_units(read), said=said, units_of=units_of)


def _mixed(units_in: str) -> str:
    """A sentence on columns with several units, for formats that do not convert them."""
    return (
        f'"{visible(units_in)}" gives different units in different rows, and the numbers are read as they are'
        if units_in
        else ""
    )


def _units_heard(path: Path, names: Sequence[str]) -> dict[str, Unit]:
    """Units after the numbers of the recorded line."""
    found: dict[str, Unit] = {}
    for line in sample_text(path).splitlines():
        match = re.match(r"# \d+\.\d+ units: (.+)$", line)
        for told in match[1].split("; ") if match else ():
            name, _, symbol = told.rpartition(" ")
            unit = unit_said(symbol)
            if name in names and unit is not None:
                found.setdefault(name, unit)
    return found


def _put_time(table: dict[str, Any], time: TimeColumn, head_rate: HeadRate | None = None) -> tuple[str, ...]:
    """Set the keys of the time; without one, the stated rate, else an assumed one, with a sentence."""
    if not time.column and head_rate is not None:
        table["rate"] = f"{plain_number(head_rate.rate_hz, 9)} Hz"
        return (head_rate.says,)
    if not time.column:
        return _assume(table, time)
    table["time"] = time.column
    table["time_unit"] = time.unit
    if time.clock:
        table["clock"] = time.clock
    if time.doubt:
        _assumed(table, "time_unit")
    return ()


def _assumed(table: dict[str, Any], key: str) -> None:
    """Mark a value as assumed until a person confirms it."""
    table[ASSUMED] = joined(filter(None, (table.get(ASSUMED, ""), key)))


def _assume(table: dict[str, Any], time: TimeColumn) -> tuple[str, ...]:
    table["rate"] = ASSUMED_RATE
    _assumed(table, "rate")
    return (time.unread,) if time.unread else ()


def _decoder(path: Path, decoder: str, table: Mapping[str, Any], signals: Sequence[str]) -> dict[str, Any]:
    """A decoder with its signals: by their behaviour, else by their names, else in the order of the file."""
    if decoder not in KINDS:
        raise RequestError(f'"{decoder}" is not a decoder; there are {", ".join(KINDS)}.')
    from lesart.project.new.trace import decoding_of, found_in_trace, lines_for, lines_of

    kind, lines = KINDS[decoder], lines_of(path, table)
    talk = next((each for each in found_in_trace(lines).talks if each.kind == decoder), None)
    if talk is not None and (not signals or set(signals) <= set(talk.signals)):
        needs = not kind.gives_values and talk.messages == "none"
        return {"decode": decoding_of(talk), "fields": [FIRST_FIELD] if needs else []}
    roles = dict(zip(kind.lines, signals, strict=False)) if signals else lines_for(kind, lines)[0]
    return {"decode": {"kind": decoder, **roles}, "fields": [] if kind.gives_values else [FIRST_FIELD]}
