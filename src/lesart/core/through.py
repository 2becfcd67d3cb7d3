"""Run a whole capture through a chain: in pieces that fit the processor's cache, into one preallocated array."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Floats, Marks, joined
from lesart.core.chain import Chain
from lesart.core.code_table import table_of

PIECE = 65_536
"""Samples run at once: larger arrays fall out of the cache, smaller ones cost calls."""


def through(
    chain: Chain, block: Block, others: Mapping[str, Block] | None = None, between: Callable[[], None] | None = None
) -> Block:
    """The block after the last link. Arrays that the chain leaves unchanged, mostly times, are shared with ``block``.

    ``between`` is called between two pieces, and may raise.
    """
    gathered = _Gathered(block)
    for before, after in pieces_through(chain, block, others):
        gathered.add(before, after)
        if between is not None:
            between()
    return gathered.block


def pieces_through(
    chain: Chain, block: Block, others: Mapping[str, Block] | None = None
) -> Iterator[tuple[Block, Block]]:
    """Each piece before and after the chain, for callers that do not need all of them at once."""
    ahead, rest = _parted(chain)
    table = table_of(ahead, block)
    if table is None:
        rest = chain
    states = rest.initial()
    for piece in block.pieces(PIECE):
        looked_up = piece if table is None else table.look_up(piece)
        states, after = rest.run(states, looked_up, others)
        yield piece, after[-1] if after else looked_up


def _parted(chain: Chain) -> tuple[Chain, Chain]:
    """The leading links that are pointwise, and the rest."""
    count = next((place for place, link in enumerate(chain.links) if not link.pointwise), len(chain.links))
    return replace(chain, links=chain.links[:count]), replace(chain, links=chain.links[count:])


class _Gathered:
    """Collects the output pieces; an array is only made when the first piece differs from its input."""

    def __init__(self, block: Block) -> None:
        self._from = block
        self._done = 0
        self._x: Floats | None = None
        self._mark: Marks | None = None
        self._fewer: list[Block] | None = None

    def add(self, before: Block, after: Block) -> None:
        """The next piece, before and after."""
        if self._fewer is not None or after.t is not before.t:
            if self._fewer is None:
                self._fewer = [self.block[: self._done]] if self._done else []
            self._fewer.append(after)
            return
        start, end = self._done, self._done + len(before)
        if after.x is not before.x and self._x is None:
            self._x = np.empty(len(self._from))
            self._x[:start] = self._from.x[:start]
        if after.mark is not before.mark and self._mark is None:
            self._mark = np.empty(len(self._from), np.uint8)
            self._mark[:start] = self._from.mark[:start]
        if self._x is not None:
            self._x[start:end] = after.x
        if self._mark is not None:
            self._mark[start:end] = after.mark
        self._done = end

    @property
    def block(self) -> Block:
        """All of it."""
        if self._fewer is not None:
            return joined(self._fewer)
        x = self._from.x if self._x is None else self._x
        return Block(self._from.t, x, self._from.mark if self._mark is None else self._mark)
