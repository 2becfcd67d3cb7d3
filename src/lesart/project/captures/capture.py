"""A capture: an immutable recording, its columns on one time axis, and every bad row."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.quantity import whole_number
from lesart.core.raw.decode import Decoded
from lesart.core.raw.edges import Edges


@dataclass(frozen=True)
class BadRow:
    """A row of the file that gave no good sample: its line, counted from 1, and why.

    ``column`` is the one whose cell it was; None where the whole row was torn. ``noun`` is what ``line`` counts.
    """

    line: int
    why: str
    column: str | None = None
    noun: str = "line"


@dataclass(frozen=True, eq=False)
class Capture:
    """``columns`` by name in the order of the file; ``bad`` holds the first bad cells, ``bad_count`` all bad rows.

    A column without a single number is text, and does not make rows bad. ``lines`` are the edges of a trace,
    ``decoded`` is what was found in them.
    """

    name: str
    t: Floats
    columns: Mapping[str, Block]
    bad: tuple[BadRow, ...]
    bad_count: int
    steps_back: int
    lines: Mapping[str, Edges] = field(default_factory=dict)
    decoded: Decoded | None = None
    said: tuple[str, ...] = ()
    """Sentences on how it was read, where that is not literal."""
    clock_s: float = float("nan")
    """The time of day of its start, in seconds since midnight as written; NaN without one."""

    def begun(self, block: Block) -> Floats | None:
        """Start times of the frames of a column's samples; None for a column without frames."""
        frames = self.decoded.frames if self.decoded is not None else None
        if frames is None or len(frames) != len(block):
            return None
        return np.array([frame.t for frame in frames], np.float64)

    def bad_in(self, column: str) -> tuple[BadRow, ...]:
        """The bad rows for a column, named or numbered: its own, torn ones, and those without a time."""
        name = self._name_of(column)
        others = self.columns.keys() - {name}
        return tuple(row for row in self.bad if row.column not in others)

    def _name_of(self, column: str) -> str | None:
        if column in self.columns:
            return column
        place = whole_number(column)
        return list(self.columns)[place - 1] if place is not None and 1 <= place <= len(self.columns) else None

    def column(self, name: str, asked_by: str) -> Block:
        """A column by name or by number from 1. Raises RequestError with the existing ones."""
        found = self._name_of(name)
        if found is not None:
            return self.columns[found]
        raise RequestError(
            f'{asked_by}.column = "{name}"; the columns of {self.name} are {", ".join(self.columns) or "none"}.'
        )
