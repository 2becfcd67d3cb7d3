"""A run: a channel's capture after each step, whole or only the part in view."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from dataclasses import field

import numpy as np

from lesart.core.block import Block
from lesart.core.chain import Chain, Link
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Reading
from lesart.core.step import COMPUTED, Step
from lesart.core.through import PIECE, through
from lesart.project.model import Channel
from lesart.study.tokens import token_of

LONG = 1 << 20
"""From this many samples an edit does not wait for all of them."""
MOST_HASTY = 8
"""Times so many samples of blocks run in haste are kept: of one channel there are four, of an edit one more."""


@dataclass(frozen=True, eq=False)
class Run:
    """A channel's capture after each step, by name of the step."""

    blocks: dict[Step, Block]
    lost: int = 0
    """Samples of a line dropped before its laws began with the present ones."""

    @property
    def calm(self) -> Block:
        """The readings for the field."""
        return self.blocks[Step.CALM]

    def index_at(self, cursor_s: float) -> int:
        """The latest sample at or before the cursor; −1 before the first."""
        return int(np.searchsorted(self.calm.t, cursor_s, side="right")) - 1

    def reading_at(self, step: Step, cursor_s: float) -> Reading:
        """Value, mark and age at the cursor. Steps that gather windows have fewer samples than those before."""
        block = self.blocks[step]
        index = int(np.searchsorted(block.t, cursor_s, side="right")) - 1
        if index < 0:
            return Reading(float("nan"), age_s=float("inf"))
        return Reading(float(block.x[index]), int(block.mark[index]), cursor_s - float(block.t[index]))


@dataclass
class HastyBlocks:
    """Blocks that were run in haste lately, by what they were made of.

    A picture asks for each several times, and an edit changes only those behind it. The longest unused go, once there
    are more than a few times ``LONG`` samples.
    """

    kept: OrderedDict[Hashable, Block] = field(default_factory=OrderedDict)

    def once(self, key: Hashable, compute: Callable[[], Block]) -> Block:
        """The block known by a key, or a new one."""
        if key in self.kept:
            self.kept.move_to_end(key)
        else:
            self.kept[key] = compute()
            while len(self.kept) > 1 and sum(map(len, self.kept.values())) > MOST_HASTY * LONG:
                self.kept.popitem(last=False)
        return self.kept[key]


@dataclass(frozen=True)
class Haste:
    """What of a long capture is looked at: an edit is on the glass at once by that alone, and the rest follows.

    ``view`` are the seconds of charts; where they hold too many samples, only those about the cursor are run.
    """

    cursor_s: float
    view: tuple[float, float]

    def run(self, channel: Channel, raw: Block, known: HastyBlocks) -> Run:
        """The laws over what is looked at, the filters begun so long before that nothing of their start is left.

        What adds up begins with the capture: it has no later start.
        """
        at = int(np.searchsorted(raw.t, self.cursor_s, side="right"))
        first, last = (int(place) for place in np.searchsorted(raw.t, self.view))
        if last - first > LONG:
            first, last = at - PIECE, at + 1
        # A twentieth of a filter's start is left after its memory, and to this power less than a float's precision.
        lead = 13 * channel.chain.memory_samples + 1
        # In powers of two: a filter that is edited seldom begins elsewhere, and what is before it stays the same.
        lead = 1 << (lead - 1).bit_length()
        begin = 0 if channel.chain.is_lasting() else max(min(first, at) - lead, 0)
        end = max(last, at) + 1
        key: tuple[Hashable, ...] = (token_of(raw), begin, end)
        block = known.once(key, lambda: raw[begin:end])
        blocks = {Step.RAW: raw}
        for step in COMPUTED[1:]:
            own = tuple(link for link in channel.chain.links if link.step == step)
            if own:
                key = (*key, own)
                block = known.once(key, lambda own=own, block=block: run_links(own, block, {}))  # type: ignore[misc]
            blocks[step] = block
        return Run(blocks)


def filtered(channel: Channel, block: Block) -> Block:
    """Readings through the filters of a channel."""
    links = tuple(link for link in channel.chain.links if link.step is Step.CALM)
    return run_links(links, block, {}) if links else block


def run_links(
    links: tuple[Link, ...], block: Block, others: Mapping[str, Block], between: Callable[[], None] | None = None
) -> Block:
    """A block through some links of a chain; ``others`` are the blocks of other channels, by name."""
    unit = links[0].stage.unit_in
    return through(Chain(unit, unit, links), block, others, between)
