"""A new project from a capture, without asking what can be found out."""

from __future__ import annotations

import json
import math
import re
import shutil
from dataclasses import dataclass
from pathlib import Path

from lesart.core.block import Block
from lesart.core.errors import CaptureError, StorageError
from lesart.core.fit.inspect import honest_decimals
from lesart.core.quantity import plain_number
from lesart.core.raw.source import Source
from lesart.core.raw.timing import raw_facts, timing_of
from lesart.core.units import Unit, parse_unit
from lesart.project.check import FILE
from lesart.project.csv_read import read_csv
from lesart.project.csv_shape import CsvShape, find_shape
from lesart.project.store import write_whole

COUNTS = parse_unit("ct")
PLAIN = parse_unit("1")


@dataclass(frozen=True)
class Made:
    """What was found in the file, and the folder that was made."""

    folder: Path
    shape: CsvShape
    rows: int
    rate_hz: float
    bad_rows: int
    channels: tuple[str, ...]


def make_project(capture: Path, folder: Path) -> Made:
    """Copy the capture into a new folder and write its ``lesart.toml``. Raises CaptureError or StorageError."""
    shape = find_shape(capture)
    if not shape.value_names:
        raise CaptureError(f"{capture}: it holds a time column only; a reading needs a column of its own.")
    source = Source(
        "capture", f"captures/{capture.name}", shape.delimiter, shape.decimal, shape.header, shape.time,
        shape.time_unit, 1.0,
    )  # fmt: skip
    read = read_csv(capture, source)
    if folder.exists():
        raise StorageError(f"{folder}: it is there already; name another folder.")
    timing = timing_of(read.t)
    usable = {name: block for name, block in read.columns.items() if block.usable.any()}
    if not usable:
        raise CaptureError(f"{capture}: no column holds numbers.")
    text = project_text(capture, shape, usable)
    try:
        (folder / "captures").mkdir(parents=True)
        shutil.copyfile(capture, folder / "captures" / capture.name)
    except OSError as error:
        raise StorageError(f"{folder}: it cannot be made ({error.strerror}).") from error
    write_whole(folder / FILE, text)
    return Made(folder, shape, len(read.t), timing.rate_hz, read.bad_count, tuple(usable))


def project_text(capture: Path, shape: CsvShape, columns: dict[str, Block]) -> str:
    """The project file: one channel a column, the first ones on a two-line display."""
    quoted = {name: json.dumps(name, ensure_ascii=False) for name in columns}
    lines = [
        f"# Made by lesart new from {capture.name}. Everything here can be changed, by hand or on the screen.",
        "lesart = 1",
        f"name = {json.dumps(capture.stem, ensure_ascii=False)}",
        "",
        "[sources.capture]",
        f"capture = {json.dumps('captures/' + capture.name, ensure_ascii=False)}",
        f'delimiter = "{shape.delimiter}"',
        f'decimal = "{shape.decimal}"',
        f"header = {shape.header}",
        f"time = {json.dumps(shape.time, ensure_ascii=False)}",
    ]
    lines.append(f'time_unit = "{shape.time_unit}"' if shape.time else 'rate = "1 Hz"  # the file does not say')
    for name, block in columns.items():
        lines += ["", *_channel_lines(name, quoted[name], block, shape)]
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
            "", "[[faces.first.items]]", 'kind = "label"', f"text = {json.dumps(_label(name)[:room])}", f"row = {row}",
            "", "[[faces.first.items]]", 'kind = "field"', f"channel = {quoted[name]}", *field,
        ]  # fmt: skip
    return lines


def _label(name: str) -> str:
    """The name without the unit behind it, in letters that every character panel has."""
    bare = re.split(r"\s*[\[(/]", name)[0] or name
    return "".join(letter for letter in bare if " " <= letter <= "~").strip()[:16] or "reading"


def _unit_of(name: str, shape: CsvShape) -> Unit:
    return shape.units.get(name) or (COUNTS if name in shape.whole else PLAIN)


def _channel_lines(name: str, quoted: str, block: Block, shape: CsvShape) -> list[str]:
    unit = _unit_of(name, shape)
    facts = raw_facts(block)
    lowest, highest = round_limits(facts.least, facts.greatest)
    decimals = 0 if name in shape.whole else min(honest_decimals(facts.noise) if facts.noise else 2, 4)
    unit_text = "" if unit in (PLAIN, COUNTS) else unit.symbol if unit.symbol.isascii() or "°" in unit.symbol else ""
    return [
        f"[channels.{quoted}]",
        'source = "capture"',
        f"column = {quoted}",
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
    """Limits with some room on either side, a part of the span, in two figures."""
    span = (greatest - least) or abs(greatest) or 1.0
    grain = 10.0 ** math.floor(math.log10(span) - 0.5)
    # A hair inwards first: a limit that is round already must not jump to the next one.
    low = math.floor((least - span * room) / grain + 1e-9) * grain
    high = math.ceil((greatest + span * room) / grain - 1e-9) * grain
    if least >= 0 > low:
        low = 0.0
    return plain_number(low, 9).replace("−", "-"), plain_number(high, 9).replace("−", "-")
