"""A new project from a capture, without asking what can be found out."""

from __future__ import annotations

import json
import math
import re
import shutil
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, StorageError
from lesart.core.fit.inspect import honest_decimals
from lesart.core.quantity import plain_number
from lesart.core.raw.moments.column import TimeColumn
from lesart.core.raw.timing import raw_facts, timing_of
from lesart.core.units import Unit, parse_unit
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.csv_shape import CsvShape
from lesart.project.captures.rows_shape import is_counter
from lesart.project.folder.made import is_free, made_beside
from lesart.project.folder.store import FILE, write_whole
from lesart.project.found_source import FoundSource, found_source, without_assumed
from lesart.project.tables.sources import check_source

COUNTS = parse_unit("ct")
PLAIN = parse_unit("1")
MOST_LIMIT = 1e50
COUNTED = 10_000
"""Rows of a column that are looked at to see whether it only counts them."""


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


def make_project(
    capture: Path, folder: Path, decoder: str = "", line: Mapping[str, Any] | None = None, layout: str = ""
) -> Made:
    """Copy the capture into a new folder and write its ``lesart.toml``, with what is decoded in a trace of edges.

    ``line`` is where a recording came from, as the project file has it; ``layout`` how bare numbers lie. Raises
    CaptureError, StorageError, or RequestError for a decoder or a layout that there is not.
    """
    found = found_source(capture, f"captures/{capture.name}", decoder, layout)
    table = found.table
    if line is not None:
        table = {"capture": table["capture"], "line": line}
    if found.shape is not None and not found.shape.value_names:
        raise CaptureError(f"{capture}: it holds a time column only; a reading needs a column of its own.")
    source, problems = check_source("capture", without_assumed(table))
    if source is None:
        raise CaptureError(f"{capture}: {problems[0]}")
    read = read_capture(capture, source)
    if not is_free(folder):
        raise StorageError(f"{folder}: it is there already; name another folder.")
    usable = {name: block for name, block in read.columns.items() if block.usable.any()}
    kept = {name: block for name, block in usable.items() if not is_counter(name, block.x[:COUNTED].tolist())}
    usable = kept or usable
    if not usable:
        raise CaptureError(f"{capture}: no column holds numbers.")
    timing = timing_of(max(usable.values(), key=len).t)
    columns = {name: _column(name, block, found, read) for name, block in usable.items()}
    text = project_text(capture, table, usable, columns)
    with made_beside(folder) as making:
        (making / "captures").mkdir()
        shutil.copyfile(capture, making / "captures" / capture.name)
        write_whole(making / FILE, text)
    names = tuple(each.name for each in columns.values())
    return Made(
        folder=folder,
        format=found.format,
        shape=found.shape,
        time=found.time,
        rows=max(map(len, usable.values())),
        rate_hz=timing.rate_hz,
        bad_rows=read.bad_count,
        channels=names,
        assumes_rate=found.has_assumed_rate,
        said=(*found.said, *read.said),
    )


@dataclass(frozen=True)
class _Column:
    """What a column becomes: the name of its channel, its unit, and whether it holds whole numbers only."""

    name: str
    unit: Unit
    is_whole: bool


def _column(column: str, block: Block, found: FoundSource, read: Capture) -> _Column:
    """A file says units in its names or cells, a decoder its own; a bare number is a channel of a sound."""
    good = block.x[block.usable]
    is_whole = bool((good == good.round()).all())
    name = f"channel {column}" if column.isdecimal() else _channel_name(column)
    if found.units is not None:
        is_whole = column in found.whole if found.whole is not None else is_whole
        return _Column(name, found.units.get(column) or (COUNTS if is_whole and len(good) else PLAIN), is_whole)
    said = read.decoded.units.get(column) if read.decoded else None
    return _Column(name, parse_unit(said) if said else PLAIN, is_whole)


def _channel_name(column: str) -> str:
    """A name that a channel can have: points part the keys of a file."""
    return column.replace(".", " ").replace('"', "")[:40].strip() or "reading"


def _value(value: object) -> str:
    return json.dumps(value, ensure_ascii=False)


def _source_lines(table: Mapping[str, Any]) -> list[str]:
    """The source's tables as TOML; what JSON writes of texts, numbers and truth is TOML too."""
    lines = ["[sources.capture]"]
    lines += [f"{key} = {_value(value)}" for key, value in table.items() if key not in ("decode", "fields", "line")]
    if "decode" in table:
        lines += [
            "",
            "[sources.capture.decode]",
            *(f"{key} = {_value(value)}" for key, value in table["decode"].items()),
        ]
    if "line" in table:
        lines += ["", "[sources.capture.line]", *(f"{key} = {_value(value)}" for key, value in table["line"].items())]
    for field in table.get("fields", ()):
        lines += ["", "[[sources.capture.fields]]", *(f"{key} = {_value(value)}" for key, value in field.items())]
    return lines


def project_text(
    capture: Path, table: Mapping[str, Any], columns: Mapping[str, Block], found: Mapping[str, _Column]
) -> str:
    """The project file: one channel a column, the first ones on a two-line display."""
    quoted = {each.name: _value(each.name) for each in found.values()}
    lines = [
        f"# Made by lesart new from {capture.name}. Everything here can be changed, by hand or on the screen.",
        "lesart = 1",
        f"name = {json.dumps(capture.stem, ensure_ascii=False)}",
        "",
        *_source_lines(table),
    ]
    for column, block in columns.items():
        lines += ["", *_channel_lines(column, found[column], block)]
    lines += ["", "[panels.glass]", 'kind = "characters"', "columns = 16", "rows = 2", "", *_face_lines(quoted), ""]
    return "\n".join(lines)


def _face_lines(quoted: dict[str, str]) -> list[str]:
    """One channel over both rows; of several the first two, a row each."""
    shown = list(quoted)[:2]
    room = 7 if len(shown) > 1 else 16
    lines = ["[faces.first]", 'panel = "glass"']
    for row, name in enumerate(shown):
        field = [f"row = {row}", "column = 8", "width = 8"] if len(shown) > 1 else ["row = 1", "width = 16"]
        lines += [
            "",
            "[[faces.first.items]]",
            'kind = "label"',
            f"text = {json.dumps(_label(name)[:room])}",
            f"row = {row}",
            "",
            "[[faces.first.items]]",
            'kind = "field"',
            f"channel = {quoted[name]}",
            *field,
        ]
    return lines


def _label(name: str) -> str:
    """The name without the unit behind it, in letters that every character panel has."""
    bare = re.split(r"\s*[\[(/]", name)[0] or name
    return "".join(letter for letter in bare if " " <= letter <= "~").strip()[:16] or "reading"


def _channel_lines(column: str, found: _Column, block: Block) -> list[str]:
    unit, quoted = found.unit, _value(found.name)
    facts = raw_facts(block)
    lowest, highest = round_limits(facts.least, facts.greatest)
    decimals = 0 if found.is_whole else min(honest_decimals(facts.noise) if facts.noise else 2, 4)
    unit_text = "" if unit in (PLAIN, COUNTS) else unit.symbol if unit.symbol.isascii() or "°" in unit.symbol else ""
    return [
        f"[channels.{quoted}]",
        'source = "capture"',
        f"column = {_value(column)}",
        f'raw_unit = "{unit}"',
        f'unit = "{unit}"',
        f'lowest = "{lowest}"' if unit == PLAIN else f'lowest = "{lowest} {unit}"',
        f'highest = "{highest}"' if unit == PLAIN else f'highest = "{highest} {unit}"',
        "",
        f"[channels.{quoted}.fit]",
        "width = 8",
        f"decimals = {decimals}",
        f"unit_text = {json.dumps(unit_text if len(unit_text) <= 4 else '', ensure_ascii=False)}",
    ]


def round_limits(least: float, greatest: float, room: float = 0.1) -> tuple[str, str]:
    """Limits with some room on either side, a part of the span, in two figures; none beyond what a quantity can be."""
    least, greatest = (min(max(end, -MOST_LIMIT), MOST_LIMIT) for end in (least, greatest))
    span = (greatest - least) or abs(greatest) or 1.0
    grain = 10.0 ** math.floor(math.log10(span) - 0.5)
    # A hair inwards first: a limit that is round already must not jump to the next one.
    low = math.floor((least - span * room) / grain + 1e-9) * grain
    high = math.ceil((greatest + span * room) / grain - 1e-9) * grain
    if least >= 0 > low:
        low = 0.0
    return plain_number(low, 9).replace("−", "-"), plain_number(high, 9).replace("−", "-")
