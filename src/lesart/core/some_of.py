"""Some samples of a long block, for figures that are medians: noise, the middle of all, how restless a digit is.

A million of ten millions give the same to a thousandth, in a tenth of the time and without another copy of them all.
What is counted, and what is the least or greatest of all, is never taken from some.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lesart.core.block import Block, joined

MOST = 1 << 20
RUNS = 64


def runs_of(block: Block) -> Iterator[Block]:
    """The block where it is not long, else runs of neighbours, evenly spread from its start to its end."""
    if len(block) <= MOST:
        yield block
        return
    length = MOST // RUNS
    for start in np.linspace(0, len(block) - length, RUNS).astype(np.int64).tolist():
        yield block[start : start + length]


def some_of(block: Block) -> Block:
    """Those runs behind each other."""
    return block if len(block) <= MOST else joined(list(runs_of(block)))
