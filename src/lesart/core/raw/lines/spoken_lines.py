"""Lines of text in serial bytes of a trace: their numbers by name, as a live line has them."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import field

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.lines.line_cells import LineCells, line_cells, readable
from lesart.core.raw.messages.frames import ByteFrame

ENDS = b"\r\n\0"
LONGEST = 4096
OFTEN = 10
"""A line with other names that comes at least once per this many usual ones counts; a rarer one may be damage."""


@dataclass(frozen=True, eq=False)
class SpokenLines:
    """``frames`` are the lines, each from its first character to its end; ``columns`` have a value from each line that
    has one; ``from_frame`` gives the index of each sample's line; ``units`` are those after the numbers."""

    frames: tuple[ByteFrame, ...]
    columns: dict[str, Block]
    from_frame: dict[str, tuple[int, ...]]
    units: dict[str, str] = field(default_factory=dict)


def spoken_lines(frames: Sequence[ByteFrame]) -> SpokenLines:
    """Values from lines shaped like most others, and from lines with other names that come again and again, as from a
    device that sends one quantity at a time; lines broken on the wire give none and are marked."""
    lines = _joined(frames)
    cells = [line_cells(text) if (text := readable(line.data)) else None for line in lines]
    usual = _usual([each for each in cells if each is not None])
    rows: dict[str, list[tuple[float, float, int]]] = {}
    units: dict[str, str] = {}
    for place, (line, found) in enumerate(zip(lines, cells, strict=True)):
        if found is None or _shape(found) not in usual:
            continue
        for name, value, unit in zip(_names(found), found.values, found.units, strict=True):
            if unit is not None:
                units[name] = unit.symbol
            good = not line.mark and math.isfinite(value)
            rows.setdefault(name, []).append((line.end, value if good else math.nan, place))
    columns = {name: _block(found) for name, found in rows.items()}
    places = {name: tuple(row[2] for row in found) for name, found in rows.items()}
    return SpokenLines(lines, columns, places, units)


def _joined(frames: Sequence[ByteFrame]) -> tuple[ByteFrame, ...]:
    """Bytes joined to lines: pauses between words do not end one."""
    lines: list[ByteFrame] = []
    letters = bytearray()
    start, mark, why = 0.0, 0, ""
    for frame in frames:
        step = (frame.end - frame.t) / max(len(frame.data), 1)
        for place, byte in enumerate(frame.data):
            end = frame.t + step * (place + 1)
            if byte in ENDS or len(letters) >= LONGEST:
                if letters:
                    lines.append(ByteFrame(start, end, bytes(letters), mark, why))
                letters, mark, why = bytearray(), 0, ""
                continue
            start = start if letters else frame.t + step * place
            letters.append(byte)
            mark, why = mark or frame.mark, why or frame.why
    if letters:
        lines.append(ByteFrame(start, frames[-1].end, bytes(letters), int(Mark.MISSING), "its end is not in the trace"))
    return tuple(lines)


def _shape(cells: LineCells) -> tuple[tuple[str, ...], int]:
    return cells.names, len(cells.values)


def _usual(cells: Sequence[LineCells]) -> set[tuple[tuple[str, ...], int]]:
    """Names and number of values of most lines with numbers, and other names that come at least a tenth as often,
    without names that an earlier shape has."""
    counts = Counter(_shape(each) for each in cells if any(map(math.isfinite, each.values)))
    if not counts:
        return set()
    (most, count), *others = counts.most_common()
    found, named = {most}, set(most[0])
    for shape, times in others:
        if named and shape[0] and times > 1 and OFTEN * times >= count and not named & set(shape[0]):
            found.add(shape)
            named |= set(shape[0])
    return found


def _names(cells: LineCells) -> tuple[str, ...]:
    return cells.names or tuple(f"column {number}" for number in range(1, len(cells.values) + 1))


def _block(rows: list[tuple[float, float, int]]) -> Block:
    t, x = (np.array([row[place] for row in rows], np.float64) for place in (0, 1))
    return Block(t, x, np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0)))
