"""A capture: an immutable recording, its columns on one time axis, and every row that could not be believed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from lesart.core.block import Block, Floats
from lesart.core.errors import RequestError


@dataclass(frozen=True)
class BadRow:
    """A row of the file that gave no good sample: its line, counted from 1, and why."""

    line: int
    why: str


@dataclass(frozen=True, eq=False)
class Capture:
    """``columns`` by name in the order of the file; ``bad`` holds the first rows of ``bad_count``."""

    name: str
    t: Floats
    columns: Mapping[str, Block]
    bad: tuple[BadRow, ...]
    bad_count: int
    steps_back: int

    def column(self, name: str, asked_by: str) -> Block:
        """A column by name or by number from 1. Raises RequestError naming those there are."""
        if name in self.columns:
            return self.columns[name]
        if name.isdecimal() and 1 <= int(name) <= len(self.columns):
            return list(self.columns.values())[int(name) - 1]
        raise RequestError(
            f'{asked_by}.column = "{name}"; the columns of {self.name} are {", ".join(self.columns) or "none"}.'
        )
