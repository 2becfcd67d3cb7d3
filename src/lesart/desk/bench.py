"""The bench: captures read and chains run, each once, until what they depend on changes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

from lesart.core.block import Block, joined
from lesart.core.calm.evidence import noise_about_trend
from lesart.core.chain import Chain, Link
from lesart.core.envelope import Envelope, envelope_of
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.inspect import changes_per_minute
from lesart.core.notes import Note
from lesart.core.raw.early import with_early_marked
from lesart.core.raw.source import Source
from lesart.core.raw.timing import RawFacts, Timing, raw_facts, timing_of
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.inspect import inspect_hookup
from lesart.project.capture import Capture
from lesart.project.capture_read import read_capture
from lesart.project.model import Channel, Project

PIECE = 32_768
"""Samples run at once: larger arrays cost page faults, smaller ones calls."""
KEPT = 48
STEPS = ("raw", "law", "true", "calm")

Result = TypeVar("Result")


@dataclass(frozen=True, eq=False)
class Run:
    """A channel's capture after each step, by name of the step."""

    blocks: dict[str, Block]

    @property
    def calm(self) -> Block:
        """What goes to the field."""
        return self.blocks["calm"]

    def index_at(self, cursor_s: float) -> int:
        """The latest sample at or before the cursor; −1 before the first."""
        return int(np.searchsorted(self.calm.t, cursor_s, side="right")) - 1

    def reading_at(self, step: str, cursor_s: float) -> Reading:
        """Value, mark and age at the cursor."""
        index = self.index_at(cursor_s)
        if index < 0:
            return Reading(float("nan"), age_s=float("inf"))
        block = self.blocks[step]
        return Reading(float(block.x[index]), int(block.mark[index]), cursor_s - float(block.t[index]))


@dataclass
class Bench:
    """Results by what they were computed from; the longest unused go first. Used by one thread."""

    folder: Path
    kept: OrderedDict[Hashable, Any] = field(default_factory=OrderedDict)

    def _once(self, key: Hashable, compute: Callable[[], Result]) -> Result:
        if key in self.kept:
            self.kept.move_to_end(key)
            return self.kept[key]  # type: ignore[no-any-return]
        result = compute()
        self.kept[key] = result
        while len(self.kept) > KEPT:
            self.kept.popitem(last=False)
        return result

    def capture(self, source: Source) -> Capture:
        """The capture of a source. Raises CaptureError. Read again only when the source's reading changes: captures do
        not."""
        return self._once(("capture", source), lambda: read_capture(self.folder / source.capture, source))

    def raw(self, project: Project, channel: Channel) -> Block:
        """The channel's column. Raises CaptureError or RequestError."""
        source = project.sources[channel.source]
        block = self.capture(source).column(channel.column, f"channels.{channel.name}")
        if source.settle_s <= 0 and source.least_interval_s <= 0:
            return block
        early = source.settle_s, source.least_interval_s
        return self._once(("early", id(block.x), early), lambda: (block, with_early_marked(block, *early)))[1]

    def run(self, project: Project, channel: Channel) -> Run:
        """The whole capture through the chain. A change of a later step leaves the earlier ones as they are."""
        source = project.sources[channel.source]
        blocks = {"raw": self.raw(project, channel)}
        links: tuple[Link, ...] = ()
        for step in STEPS[1:]:
            own = tuple(link for link in channel.chain.links if link.step == step)
            links += own
            before = blocks[STEPS[STEPS.index(step) - 1]]
            key = ("run", source, channel.column, channel.unit_raw, links)
            blocks[step] = self._once(key, lambda own=own, before=before: _run(own, before)) if own else before  # type: ignore[misc]
        return Run(blocks)

    def envelope(self, block: Block) -> Envelope:
        """The pyramid of a block that the bench made."""
        return self._once(("envelope", id(block.x)), lambda: (block, envelope_of(block)))[1]

    def timing(self, block: Block) -> Timing:
        """Of a block that the bench made. The block is kept beside the result, so that its id stays its own."""
        return self._once(("timing", id(block.t)), lambda: (block, timing_of(block.t)))[1]

    def facts(self, block: Block) -> RawFacts:
        """Of a block that the bench made."""
        return self._once(("facts", id(block.x)), lambda: (block, raw_facts(block)))[1]

    def hookup_notes(self, hookup: Hookup) -> tuple[Note, ...]:
        """Notes on a hook-up; most edits leave it as it is."""
        return self._once(("hookup", id(hookup)), lambda: (hookup, inspect_hookup(hookup)))[1]

    def middle(self, block: Block) -> tuple[float, float]:
        """Ends of the middle 99 % of the usable samples; zeros without any."""
        return self._once(("middle", id(block.x)), lambda: (block, _middle(block)))[1]

    def noise(self, block: Block) -> float:
        """Noise about the trend, in the block's unit."""
        return self._once(("noise", id(block.x)), lambda: (block, noise_about_trend(block)))[1]

    def restless(self, field: Field, block: Block) -> float:
        """Changes of the last digit a minute."""
        key = ("restless", field.decimals, field.round, field.unit_shown, id(block.x))
        return self._once(key, lambda: (block, changes_per_minute(field, block)))[1]


def _middle(block: Block) -> tuple[float, float]:
    good = block.x[block.usable]
    if not len(good):
        return 0.0, 0.0
    low, high = np.quantile(good, [0.005, 0.995])
    return float(low), float(high)


def _run(links: tuple[Link, ...], block: Block) -> Block:
    unit = links[0].stage.unit_in
    chain = Chain(unit, unit, links)
    states: tuple[Any, ...] = chain.initial()
    pieces = []
    for piece in block.pieces(PIECE):
        states, after = chain.run(states, piece)
        pieces.append(after[-1])
    return joined(pieces) if pieces else block
