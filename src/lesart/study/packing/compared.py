"""A device's output on the vectors compared with the expected one: the first stage that differs."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import field

from lesart.core.block import UNUSABLE
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.written.vectors import Vector
from lesart.study.packing.made import Pack, PackedChannel

CELLS = 4


@dataclass(frozen=True)
class Compared:
    """``rows`` compared with the vectors, of ``wanted``; ``difference`` is the first one in a sentence, empty where
    there is none; ``unread`` is the number of other lines."""

    rows: int
    wanted: int
    difference: str
    unread: int
    laws: Mapping[str, tuple[tuple[int, int], ...]] = field(default_factory=dict)
    """For each channel whose law differs: raw numbers with the device's results, in steps, where both count."""

    @property
    def ok(self) -> bool:
        """True where all rows are there and equal."""
        return not self.difference and self.rows == self.wanted


def compared(pack: Pack, lines: Iterable[str], *, ends_early: bool = False) -> Compared:
    """Rows ``stage,vector,x,mark`` as the test program prints them, in any order and with anything between them.

    Of a device that prints for ever no more is read than tells: once every row was there, or one has differed.
    """
    expected = {key: value for channel in pack.channels for key, value in _rows(channel).items()}
    seen: set[tuple[str, int]] = set()
    laws = {channel.form.law.function.name: channel.form.wanted.title for channel in pack.channels}
    told: dict[str, list[tuple[int, int]]] = {}
    wrong: set[str] = set()
    unread, difference = 0, ""
    for line in lines:
        row = _row(line)
        if row is None or row[:2] not in expected:
            unread += bool(line.strip())
            continue
        stage, index, x, mark = row
        seen.add((stage, index))
        wanted_x, wanted_mark, place, given = expected[stage, index]
        if stage in laws and not (mark | wanted_mark) & UNUSABLE and not given.given.beside:
            told.setdefault(laws[stage], []).append((given.given.raw, x))
        if (x, mark) != (wanted_x, wanted_mark) and stage in laws:
            wrong.add(laws[stage])
        if (x, mark) != (wanted_x, wanted_mark) and not difference:
            difference = (
                f"{place}, vector {index} (raw {given.given.raw}, mark {given.given.mark}): the device gives {x}, "
                f"mark {mark}; it must be {wanted_x}, mark {wanted_mark}."
            )
        if len(seen) == len(expected) or (difference and ends_early):
            break
    found = {name: tuple(dict.fromkeys(rows)) for name, rows in told.items() if name in wrong}
    return Compared(len(seen), len(expected), difference, unread, found)


def _rows(channel: PackedChannel) -> dict[tuple[str, int], tuple[int, int, str, Vector]]:
    functions = (channel.form.law.function, *channel.form.calm)
    return {
        (function.name, index): (stage.x, stage.mark, function.place, vector)
        for index, vector in enumerate(channel.vectors)
        for function, stage in zip(functions, vector.stages, strict=False)
        if stage.passes
    }


def _row(line: str) -> tuple[str, int, int, int] | None:
    cells = [each.strip() for each in line.split(",")]
    if len(cells) != CELLS:
        return None
    try:
        return cells[0], int(cells[1]), int(cells[2]), int(cells[3])
    except ValueError:
        return None
