"""A chain's result for every code of a converter, looked up instead of computed again for each sample."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block, Floats, Marks
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass

MOST_CODES = 1 << 16
SAMPLES_A_CODE = 4
"""With fewer samples per code than this, a table costs more than it saves."""


@dataclass(frozen=True, eq=False)
class CodeTable:
    """``x`` and ``mark`` after a chain, by code minus ``lowest``; ``marked`` is set where any of them has a mark."""

    chain: Chain
    lowest: int
    x: Floats
    mark: Marks
    marked: bool

    def look_up(self, block: Block) -> Block:
        """The chain's result to the bit; a block with a mark or with anything but codes goes through the chain
        itself."""
        with np.errstate(invalid="ignore"):
            codes = block.x.astype(np.int64)
        # By their bits: a zero with a minus is no code, and may come out with one.
        if block.mark.any() or not np.array_equal(codes.astype(np.float64).view(np.int64), block.x.view(np.int64)):
            return self.chain.run(self.chain.initial(), block)[1][-1]
        if self.lowest:
            codes -= self.lowest
        # They lie within the table; to be told so saves the looking.
        x = np.take(self.x, codes, mode="clip")
        return Block(block.t, x, np.take(self.mark, codes, mode="clip") if self.marked else block.mark)


def table_of(chain: Chain, block: Block) -> CodeTable | None:
    """A table for the codes of a block; None for too many codes, for values that are not whole, or for an empty chain.

    Each link of the chain must be pointwise.
    """
    if not chain.links or len(block) < 2:
        return None
    least, most = block.x.min(), block.x.max()
    if np.isnan(least):
        least, most = np.fmin.reduce(block.x), np.fmax.reduce(block.x)
    # Of NaN nothing is true.
    if not (abs(least) < 2**52 and abs(most) < 2**52 and most - least < MOST_CODES):
        return None
    if least != np.floor(least) or len(block) < SAMPLES_A_CODE * (most - least + 1):
        return None
    # From zero where that is no more than a converter has: then nothing need be taken off the codes.
    lowest = 0 if least >= 0 and most < MOST_CODES else int(least)
    codes = np.arange(lowest, int(most) + 1)
    every = Block(codes.astype(np.float64), codes.astype(np.float64), np.zeros(len(codes), np.uint8))
    made = chain.run(chain.initial(), every)[1][-1]
    return CodeTable(chain, lowest, made.x, made.mark, bool(made.mark.any()))
