"""A channel's reading as a function of its raw value, with one or two of its statements changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.chain import Neighbour, Stage, compile_chain
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.stage import WindowStage, stage_of
from lesart.core.raw.messages.frames import FieldSpec
from lesart.core.step import Step
from lesart.core.true.correction import Correction
from lesart.core.units import Unit
from lesart.project.model import Channel
from lesart.study.why.truth import Truth

Change = Callable[[Floats], Floats]
NEVER = (ValueError, ArithmeticError, KeyError, LesartError)
"""Errors of an impossible statement, which explains nothing."""


@dataclass(frozen=True, eq=False)
class ThreadModel:
    """``laws`` in order, then ``correction``; ``spec`` is where in its frame the raw value stands, ``column`` its name.

    ``raw_change`` and ``reading_change`` are slips that no statement of the project has a place for. Filters are left
    out: a truth is of a reading that stands.
    """

    unit_raw: Unit
    unit: Unit
    laws: tuple[Stage, ...]
    correction: Correction
    neighbours: Mapping[str, Neighbour]
    spec: FieldSpec | None = None
    column: str = ""
    acquire: Callable[[Truth], float] | None = None
    """Decodes the raw value again from the edges of a line."""
    raw_change: Change | None = None
    reading_change: Change | None = None

    def raw_of(self, truths: Sequence[Truth]) -> Floats:
        """The raw values as they would have been read; NaN where a frame has none."""
        if self.acquire is not None:
            found: list[float | None] = [self.acquire(each) for each in truths]
        elif self.spec is not None:
            found = [self.spec.read(each.data)[0] if each.data else each.raw for each in truths]
        elif self.column:
            found = [each.beside.get(self.column, float("nan")) for each in truths]
        else:
            found = [each.raw for each in truths]
        return np.array([float("nan") if each is None else each for each in found], np.float64)

    def at(self, truths: Sequence[Truth]) -> Floats:
        """The readings at true values. Raises one of NEVER where units do not match, or a law is impossible."""
        others = {name: np.array([each.others.get(name, float("nan")) for each in truths]) for name in self.neighbours}
        return self.read(self.raw_of(truths), others)

    def read(self, raw: Floats, others: Mapping[str, Floats]) -> Floats:
        """Readings of raw values, shape (n,); ``others`` are those of the channels that laws read, of the same
        shape."""
        x = raw if self.raw_change is None else self.raw_change(raw)
        stages = [(Step.LAW, f"law[{place}]", stage) for place, stage in enumerate(self.laws)]
        placed: list[tuple[Step, str, Stage]] = [*stages, (Step.TRUE, "true", self.correction)]
        chain = compile_chain(self.unit_raw, placed, self.unit, self.neighbours)
        t = np.arange(len(x), dtype=np.float64)
        marks = np.where(np.isnan(x), np.uint8(1), np.uint8(0))
        beside = {
            name: Block(t, others.get(name, np.full(len(x), np.nan)), np.zeros(len(x), np.uint8))
            for name in chain.reads
        }
        block = Block(t, x, marks)
        with np.errstate(all="ignore"):
            for link in chain.links:
                # A steady window is computed sample by sample, and so are totals.
                block = (
                    _at_rest(link.stage, link.scale, link.offset, block)
                    or link.run(link.stage.initial(), block, beside)[1]
                )
            return block.x if self.reading_change is None else self.reading_change(block.x)


def _at_rest(stage: Stage, scale: float, offset: float, block: Block) -> Block | None:
    if not isinstance(stage, WindowStage | OverTimeStage):
        return None
    return block.with_values(stage.law.at_rest(block.x * scale + offset))


def model_of(channel: Channel, neighbours: Mapping[str, Neighbour], spec: FieldSpec | None) -> ThreadModel:
    """The model as the project states it."""
    laws = tuple(stage_of(each.kind.name, each.kind.build(dict(each.values))) for each in channel.laws)
    return ThreadModel(channel.unit_raw, channel.unit, laws, channel.correction, neighbours, spec)


def with_law(model: ThreadModel, place: int, stage: Stage) -> ThreadModel:
    """The model with another law in place of one."""
    return replace(model, laws=(*model.laws[:place], stage, *model.laws[place + 1 :]))
