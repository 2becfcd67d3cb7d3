"""What a controller made of its bytes: the cells written, and the settings changed."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass

Cells = npt.NDArray[np.int64]
GLYPHS = 1 << 20
"""Rows of a person's own glyphs are cells from this number on, far above all others."""


@dataclass(frozen=True)
class Turn:
    """A change of a setting: ``light``, ``all lit``, ``inverted``, ``start row`` or ``shift``."""

    t_s: float
    what: str
    value: int


@dataclass(frozen=True, eq=False)
class Interpreted:
    """``t``, ``cell``, ``value`` and ``part``, shape (n,): each cell that was written, in order; ``part`` is the number
    of the transmission. ``columns`` by ``pages`` cells were there, dark or blank at first: ``fill``.

    ``unknown`` are bytes that are no command, with their moments; ``beside`` counts data that came where no cell is.
    """

    columns: int
    pages: int
    t: Floats
    cell: Cells
    value: Cells
    part: Cells
    turns: tuple[Turn, ...]
    fill: int = 0
    unknown: tuple[tuple[float, int], ...] = ()
    beside: int = 0

    def __len__(self) -> int:
        return len(self.t)

    def memory(self, count: int) -> Cells:
        """All cells after a number of writes, those of glyphs after them, shape (columns·pages + 64,)."""
        size = self.columns * self.pages
        cells = np.full(size + 64, self.fill, np.int64)
        cells[size:] = 0
        where = self.cell[:count]
        # Where a cell was written more than once, the last value counts.
        cells[np.where(where >= GLYPHS, where - GLYPHS + size, where)] = self.value[:count]
        return cells

    def setting(self, what: str, t_s: float, otherwise: int) -> int:
        """The value of a setting at a time."""
        return next((turn.value for turn in reversed(self.turns) if turn.what == what and turn.t_s <= t_s), otherwise)


SHOWN: dict[str, tuple[tuple[str, int], ...]] = {
    "light": (("light", 1),),
    "dark": (("light", 0),),
    "asleep": (("light", 0),),
    "all lit": (("all lit", 1),),
    "as stored": (("all lit", 0),),
    "inverted": (("inverted", 1),),
    "upright": (("inverted", 0),),
    "shown inverted": (("inverted", 1), ("light", 1), ("all lit", 0)),
    "shown upright": (("inverted", 0), ("light", 1), ("all lit", 0)),
}
"""Settings changed by each command."""
