"""The chain: laws, correction and filters of a channel, joined with their units checked.

A chain is compiled once and then only steps: ``(states, block) -> (states, blocks)``. Cutting the input into blocks
anywhere gives bit-identical output, so that what is seen at the desk is what firmware can do.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

from lesart.core.block import Block, block_of
from lesart.core.errors import UnitError
from lesart.core.units import Unit, conversion


class Stage(Protocol):
    """One step of a chain, bound to its units. Implementations are frozen, hashable and keep no state."""

    @property
    def kind(self) -> str: ...
    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    @property
    def memory_samples(self) -> int:
        """How many earlier samples the output depends on."""
        ...

    def initial(self) -> Any: ...
    def run(self, state: Any, block: Block) -> tuple[Any, Block]: ...
    def slope(self, x: float) -> float: ...
    def inverse(self, y: float) -> float: ...


@dataclass(frozen=True)
class Link:
    """A stage at its place in the thread, with the conversion from the unit before it."""

    step: str
    place: str
    stage: Stage
    scale: float = 1.0
    offset: float = 0.0

    def run(self, state: Any, block: Block) -> tuple[Any, Block]:
        """Convert, then run the stage."""
        if self.scale != 1.0 or self.offset != 0.0:
            block = block.with_values(block.x * self.scale + self.offset)
        return self.stage.run(state, block)


@dataclass(frozen=True)
class Convert:
    """The last link where the laws end in another scale than the channel's unit: hPa to Pa, g to kg."""

    unit_in: Unit
    unit_out: Unit
    kind: str = "unit"
    memory_samples: int = 0

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Same times and marks, values in the other unit."""
        scale, offset = conversion(self.unit_in, self.unit_out)
        return None, block.with_values(block.x * scale + offset)

    def slope(self, x: float) -> float:
        """The same everywhere."""
        return conversion(self.unit_in, self.unit_out)[0]

    def inverse(self, y: float) -> float:
        """Back to the unit before."""
        scale, offset = conversion(self.unit_in, self.unit_out)
        return (y - offset) / scale


@dataclass(frozen=True)
class Chain:
    """``links`` in order; ``unit_raw`` goes in, ``unit`` comes out."""

    unit_raw: Unit
    unit: Unit
    links: tuple[Link, ...]

    def initial(self) -> tuple[Any, ...]:
        """The states before the first sample."""
        return tuple(link.stage.initial() for link in self.links)

    def run(self, states: Sequence[Any], block: Block) -> tuple[tuple[Any, ...], tuple[Block, ...]]:
        """New states, and the block after each link."""
        after, blocks = [], []
        for link, state in zip(self.links, states, strict=True):
            state, block = link.run(state, block)
            after.append(state)
            blocks.append(block)
        return tuple(after), tuple(blocks)

    def steady(self, raw: float) -> tuple[Block, ...]:
        """The block of one sample after each link, once every filter has seen nothing else than ``raw``."""
        length = 1 + sum(link.stage.memory_samples for link in self.links)
        _, blocks = self.run(self.initial(), block_of(np.full(length, raw)))
        return tuple(block[-1:] for block in blocks)

    def raw_for(self, reading: float) -> float:
        """The raw value whose steady reading this is, through the inverses. NaN where a law has none."""
        value = reading
        for link in reversed(self.links):
            value = (link.stage.inverse(value) - link.offset) / link.scale
        return value

    def slope(self, raw: float) -> float:
        """Change of the reading per unit of raw value at ``raw``, in ``unit`` per ``unit_raw``."""
        slope = 1.0
        value = raw
        for link in self.links:
            value = value * link.scale + link.offset
            slope *= link.scale * link.stage.slope(value)
            _, block = link.stage.run(link.stage.initial(), block_of([value]))
            value = float(block.x[0])
        return slope


def compile_chain(unit_raw: Unit, stages: Sequence[tuple[str, str, Stage]], unit: Unit) -> Chain:
    """Join ``(step, place, stage)`` in order, checking each unit against the one before.

    Same dimension, other scale: converted. Other dimension: UnitError naming both places. Stages after the laws are
    expected in ``unit`` already; a conversion is put behind the last law where it ends in another scale.
    """
    links: list[Link] = []
    current, before = unit_raw, "raw"
    laws = [entry for entry in stages if entry[0] == "law"]
    for step, place, stage in [*laws]:
        scale, offset = _gate(current, before, stage.unit_in, place)
        links.append(Link(step, place, stage, scale, offset))
        current, before = stage.unit_out, place
    _gate(current, before, unit, "the channel's unit")
    if current != unit:
        links.append(Link("law", "unit", Convert(current, unit)))
    for step, place, stage in stages[len(laws) :]:
        links.append(Link(step, place, stage))
    return Chain(unit_raw, unit, tuple(links))


def _gate(given: Unit, before: str, wanted: Unit, place: str) -> tuple[float, float]:
    """The conversion between two neighbours, or the refusal that names both."""
    try:
        return conversion(given, wanted)
    except UnitError as error:
        raise UnitError(f"{before} gives {given}, but {place} takes {wanted}; {error}") from error
