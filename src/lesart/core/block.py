"""A block: a run of samples with times and marks. It is the unit of all processing."""

from __future__ import annotations

import math
from collections.abc import Iterator
from enum import IntFlag

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass

Floats = npt.NDArray[np.float64]
Marks = npt.NDArray[np.uint8]
Bools = npt.NDArray[np.bool_]


class Mark(IntFlag):
    """Why a sample is not good. Zero is good."""

    GOOD = 0
    MISSING = 1
    CHECKSUM = 2
    RANGE = 4
    RATE = 8
    SATURATED = 16
    HELD = 32
    SETTLING = 64


UNUSABLE = Mark.MISSING | Mark.CHECKSUM | Mark.RANGE | Mark.RATE | Mark.SATURATED
"""A sample with one of these has no number to trust.

A held or settling sample has one, and its mark says which it is.
"""

MARK_WORDS = {
    Mark.MISSING: "missing",
    Mark.CHECKSUM: "checksum",
    Mark.RANGE: "range",
    Mark.RATE: "rate",
    Mark.SATURATED: "saturated",
    Mark.HELD: "held",
    Mark.SETTLING: "settling",
}


def mark_word(mark: int) -> str | None:
    """The names of a sample's marks joined by ``+``; None for a good sample."""
    words = [word for flag, word in MARK_WORDS.items() if mark & flag]
    return "+".join(words) or None


@dataclass(frozen=True, eq=False)
class Block:
    """``t`` float64 seconds from the capture's start, ``x`` float64, ``mark`` uint8 flags; all shape (n,).

    Promise: ``x`` is NaN only where ``mark`` has an unusable flag. Arrays are shared, never written to.
    """

    t: Floats
    x: Floats
    mark: Marks

    def __post_init__(self) -> None:
        if not (self.t.shape == self.x.shape == self.mark.shape) or self.t.ndim != 1:
            raise ValueError(f"block arrays differ: t {self.t.shape}, x {self.x.shape}, mark {self.mark.shape}")

    def __len__(self) -> int:
        return len(self.t)

    def __getitem__(self, where: slice) -> Block:
        return Block(self.t[where], self.x[where], self.mark[where])

    @property
    def usable(self) -> Bools:
        """True where the sample has a number to trust."""
        good: Bools = np.equal(self.mark & np.uint8(UNUSABLE), 0)
        return good

    @property
    def is_good(self) -> bool:
        """True where no sample has a mark."""
        return not self.mark.any()

    def with_values(self, x: Floats, mark: Marks | None = None) -> Block:
        """The block with new values at the same times; a NaN or infinity among them is marked RANGE."""
        mark = self.mark if mark is None else mark
        # A sum is finite only where all are, or nearly always: the common case costs one pass.
        with np.errstate(over="ignore", invalid="ignore"):
            if math.isfinite(np.add.reduce(x)):
                return Block(self.t, x, mark)
        lost = ~np.isfinite(x) & ((mark & np.uint8(UNUSABLE)) == 0)
        if lost.any():
            mark = np.where(lost, mark | np.uint8(Mark.RANGE), mark)
        return Block(self.t, x, mark)

    def pieces(self, length: int) -> Iterator[Block]:
        """Consecutive parts of at most ``length`` samples."""
        for start in range(0, len(self), length):
            yield self[start : start + length]


def block_of(values: npt.ArrayLike, rate_hz: float = 1.0, mark: npt.ArrayLike | None = None) -> Block:
    """A block from plain values at a steady rate; NaN is marked MISSING and infinity RANGE."""
    x = np.asarray(values, dtype=np.float64)
    marks = np.zeros(x.shape, np.uint8) if mark is None else np.asarray(mark, dtype=np.uint8)
    marks = np.where(np.isnan(x), marks | np.uint8(Mark.MISSING), marks)
    marks = np.where(np.isinf(x), marks | np.uint8(Mark.RANGE), marks)
    return Block(np.arange(len(x)) / rate_hz, x, marks.astype(np.uint8))


def joined(blocks: list[Block]) -> Block:
    """One block from consecutive ones."""
    return Block(
        np.concatenate([block.t for block in blocks]),
        np.concatenate([block.x for block in blocks]),
        np.concatenate([block.mark for block in blocks]),
    )
