"""The chain: laws, correction and filters of a channel, joined with their units checked.

A chain is compiled once and then only steps: ``(states, block) -> (states, blocks)``. Cutting the input into blocks
anywhere gives bit-identical output, so that what is seen at the desk is what firmware can do.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any, Protocol, TypeGuard, runtime_checkable

import numpy as np

from lesart.core.block import Block, Floats, block_of
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError
from lesart.core.latest import latest
from lesart.core.step import Step
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


class Wanted(Protocol):
    """What a stage needs from another channel: the one named ``given``, its values in ``unit``; ``name`` is the
    parameter."""

    @property
    def name(self) -> str: ...
    @property
    def unit(self) -> Unit: ...
    @property
    def given(self) -> Any: ...


@runtime_checkable
class Reading(Stage, Protocol):
    """A stage that reads other channels besides its own input."""

    @property
    def reads(self) -> tuple[Wanted, ...]: ...
    def run_beside(self, block: Block, values: tuple[Floats, ...]) -> Block: ...
    def fixed(self, values: tuple[float, ...]) -> Stage: ...


@runtime_checkable
class Pointwise(Stage, Protocol):
    """A stage that treats each sample alone, whatever its time: equal values give equal outputs."""

    @property
    def pointwise(self) -> None: ...


@runtime_checkable
class Gathering(Stage, Protocol):
    """A stage that gives fewer samples than it takes."""

    def at_rest(self, block: Block) -> Block: ...


@runtime_checkable
class Thinning(Gathering, Protocol):
    """A stage that lets one sample in every n through."""

    @property
    def n(self) -> int: ...


@runtime_checkable
class Lasting(Stage, Protocol):
    """A stage whose output depends on everything that came before, however long ago."""

    @property
    def lasting(self) -> None: ...


# Asked of every link for every reading; isinstance of a protocol gathers its members each time, 0.1 ms on Python 3.11.


def _is_pointwise(stage: Stage) -> TypeGuard[Pointwise]:
    return hasattr(stage, "pointwise")


def _gathers(stage: Stage) -> TypeGuard[Gathering]:
    return hasattr(stage, "at_rest")


@dataclass(frozen=True)
class Other:
    """Another channel: value × scale + offset goes into the stage. A value older than ``stale_s`` is marked HELD."""

    channel: str
    scale: float
    offset: float
    stale_s: float


OUTSIDE = "outside"
"""Place of the link, not in the project, that marks readings outside the channel's range, before the filters."""


AROUND = "around"
"""Place of another: after the correction it wraps a circular reading back into its circle."""


@dataclass(frozen=True)
class Link:
    """A stage at its place in the thread, with the conversion from the unit before it, and the channels it reads."""

    step: Step
    place: str
    stage: Stage
    scale: float = 1.0
    offset: float = 0.0
    others: tuple[Other, ...] = ()

    def run(self, state: Any, block: Block, others: Mapping[str, Block] | None = None) -> tuple[Any, Block]:
        """Convert, then run the stage. ``others`` are blocks of the channels it reads, up to the block's end."""
        block = self._converted(block)
        if not self.others or not isinstance(self.stage, Reading):
            return self.stage.run(state, block)
        values, mark = [], block.mark
        for other in self.others:
            read, marks = latest((others or {})[other.channel], block.t, other.stale_s)
            values.append(read * other.scale + other.offset)
            mark = mark | marks
        return state, self.stage.run_beside(block.with_values(block.x, mark), tuple(values))

    @property
    def pointwise(self) -> bool:
        """True where the output depends on the sample's value and mark alone."""
        return not self.others and _is_pointwise(self.stage)

    def settled(self, block: Block) -> Block:
        """The settled output for each value: the stage run on a constant block, long enough for its memory."""
        if _gathers(self.stage):
            return self.stage.at_rest(self._converted(block))
        return self.run(self.stage.initial(), block)[1]

    def _converted(self, block: Block) -> Block:
        if self.scale == 1.0 and self.offset == 0.0:
            return block
        return block.with_values(block.x * self.scale + self.offset)

    def at(self, readings: Mapping[str, float]) -> Link:
        """The stage with fixed readings in place of its channels, each in that channel's unit; a missing one is NaN."""
        if not self.others or not isinstance(self.stage, Reading):
            return self
        values = [readings.get(each.channel, float("nan")) * each.scale + each.offset for each in self.others]
        return replace(self, stage=self.stage.fixed(tuple(values)), others=())


@dataclass(frozen=True)
class Convert:
    """The last link, where the laws end in another scale than the channel's unit: hPa to Pa, g to kg."""

    unit_in: Unit
    unit_out: Unit
    kind: str = "unit"
    memory_samples: int = 0
    pointwise: None = None

    def initial(self) -> None:
        """No state."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """The same times and marks, values in the other unit."""
        scale, offset = conversion(self.unit_in, self.unit_out)
        return None, block.with_values(block.x * scale + offset)

    def slope(self, x: float) -> float:
        """The same everywhere."""
        return conversion(self.unit_in, self.unit_out)[0]

    def inverse(self, y: float) -> float:
        """The value in the unit before."""
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

    @property
    def reads(self) -> tuple[str, ...]:
        """Channels that its laws read besides their own input, each once."""
        return tuple(dict.fromkeys(other.channel for link in self.links for other in link.others))

    def at(self, readings: Mapping[str, float]) -> Chain:
        """The chain with other channels fixed at these readings, each in its own unit: it then needs no other
        channel."""
        return replace(self, links=tuple(link.at(readings) for link in self.links)) if self.reads else self

    def is_lasting(self, step: Step | None = None) -> bool:
        """True where the output depends on everything before, so that no part of a capture can stand for the whole.

        Only the links of ``step`` count, where one is given.
        """
        return any(isinstance(link.stage, Lasting) for link in self.links if step in (None, link.step))

    def run(
        self, states: Sequence[Any], block: Block, others: Mapping[str, Block] | None = None
    ) -> tuple[tuple[Any, ...], tuple[Block, ...]]:
        """New states, and the block after each link.

        ``others``: the blocks of the channels it reads, up to this block's end.

        Raises KeyError where one of them is missing.
        """
        after, blocks = [], []
        for link, state in zip(self.links, states, strict=True):
            state, block = link.run(state, block, others)
            after.append(state)
            blocks.append(block)
        return tuple(after), tuple(blocks)

    def steady(self, raw: float) -> tuple[Block, ...]:
        """A block of one sample after each link, once every filter has seen nothing but ``raw``.

        A chain that reads other channels must be fixed by ``at`` first.
        """
        length = 1 + sum(link.stage.memory_samples for link in self.links)
        block, blocks = block_of(np.full(length, raw)), []
        for link in self.links:
            block = link.settled(block)
            blocks.append(block[-1:])
        return tuple(blocks)

    @property
    def memory_samples(self) -> int:
        """How many earlier raw samples its output depends on; after a thinning stage each sample counts as several."""
        memory, each = 0, 1
        for link in self.links:
            memory += each * link.stage.memory_samples
            if isinstance(link.stage, Thinning):
                each *= link.stage.n
                memory += each - 1
        return memory

    def raw_for(self, reading: float) -> float:
        """The raw value whose steady reading is this, by the inverses of all links. NaN where a law has none."""
        value = reading
        for link in reversed(self.links):
            value = (link.stage.inverse(value) - link.offset) / link.scale
        return value

    def raw_behind(self, place: int, value: float) -> float:
        """The raw value that the link at ``place`` turns into this one, in its unit. NaN where a law has no inverse."""
        return replace(self, links=self.links[: place + 1]).raw_for(value)

    def slope(self, raw: float) -> float:
        """Change of the reading per unit of raw value at ``raw``, in ``unit`` per ``unit_raw``."""
        slope = 1.0
        value = raw
        for link in self.links:
            value = value * link.scale + link.offset
            slope *= link.scale * link.stage.slope(value)
            value = float(replace(link, scale=1.0, offset=0.0).settled(block_of([value])).x[0])
        return slope


@dataclass(frozen=True)
class Neighbour:
    """What a chain must know about another channel to read it: its unit, and the age at which it is stale."""

    unit: Unit
    stale_s: float = float("inf")


def compile_chain(
    unit_raw: Unit,
    stages: Sequence[tuple[Step, str, Stage]],
    unit: Unit,
    neighbours: Mapping[str, Neighbour] | None = None,
) -> Chain:
    """Join ``(step, place, stage)`` in order, checking each unit against the one before.

    Same dimension, other scale: converted. Other dimension: UnitError naming both places. Stages after the laws are
    expected in ``unit`` already; a conversion is put after the last law where it ends in another scale. Channels that a
    law reads are looked up in ``neighbours`` and go through the same gate.
    """
    links: list[Link] = []
    current, before = unit_raw, "raw"
    laws = [entry for entry in stages if entry[0] is Step.LAW]
    for step, place, stage in [*laws]:
        scale, offset = _gate(current, before, stage.unit_in, place)
        others = tuple(_other(each, place, neighbours or {}) for each in getattr(stage, "reads", ()))
        links.append(Link(step, place, stage, scale, offset, others))
        current, before = stage.unit_out, place
    _gate(current, before, unit, "the channel's unit")
    if current != unit:
        links.append(Link(Step.LAW, "unit", Convert(current, unit)))
    for step, place, stage in stages[len(laws) :]:
        links.append(Link(step, place, stage))
    return Chain(unit_raw, unit, tuple(links))


def _other(wanted: Wanted, place: str, neighbours: Mapping[str, Neighbour]) -> Other:
    """A channel that a law reads. Raises UnitError where no channel has that name, or it measures something else."""
    name = str(wanted.given)
    if name not in neighbours:
        known = ", ".join(neighbours) or "none"
        raise UnitError(
            f'{_counted(place)}, {wanted.name}: "{name}" is neither a number with its unit, '
            f'like "2.5 {wanted.unit}", nor '
            f"another channel; there are {known}"
        )
    scale, offset = _gate(neighbours[name].unit, f'channel "{name}"', wanted.unit, f"{place}.{wanted.name}")
    return Other(name, scale, offset, neighbours[name].stale_s)


def _gate(given: Unit, before: str, wanted: Unit, place: str) -> tuple[float, float]:
    """The conversion between two neighbours, or the refusal that names both."""
    try:
        return conversion(given, wanted)
    except UnitError as error:
        said = f"{_counted(before)} gives {given}, but {_counted(place)} takes {wanted}"
        raise UnitError(f"{said}; {error}") from error


_PLACE = re.compile(r"(\w+)\[(\d+)\](\.?)")


def _counted(place: str) -> str:
    """The place counted from 1, as people do: ``law 3`` for ``law[2]``."""
    return _PLACE.sub(lambda found: f"{found[1]} {int(found[2]) + 1}{', ' if found[3] else ''}", place)
