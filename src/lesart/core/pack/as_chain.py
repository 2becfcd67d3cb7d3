"""A channel's integer form as a chain of the desk: what the firmware will read, on charts and on the glass."""

from __future__ import annotations

from copy import deepcopy
from dataclasses import replace
from fractions import Fraction
from typing import Any

import numpy as np

from lesart.core.block import UNUSABLE, Block, Floats
from lesart.core.chain import Chain, Link, Stage, Thinning, Wanted
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.machine import Scale
from lesart.core.pack.program.on_arrays import outputs_on_arrays
from lesart.core.pack.program.whole import TIMES
from lesart.core.pack.written.python_module import short_name
from lesart.core.pack.written.vectors import model_of
from lesart.core.step import Step
from lesart.core.units import Unit, conversion, parse_unit

KIND = "whole numbers"
PLAIN_UNIT = parse_unit("1")


def whole_chain(form: ChannelForm) -> Chain:
    """The integer chain.

    Laws and correction are one link, at Law; each filter is a link of its own. Other channels that it reads stay the
    same.
    """
    wanted, parts = form.wanted, form.parts
    others = tuple(
        # It is read in its channel's own unit there: the table over both has the conversion in it.
        replace(other, scale=1.0, offset=0.0)
        for link in parts.law
        for other in link.others
    )[:1]
    unit = wanted.chain.unit if parts.adding is None else parts.adding.unit_in
    laws = replace(wanted.chain, links=parts.law, unit=unit)
    made = [Link(Step.LAW, "law[0]", WholeLaw(form, laws), others=others)]
    model, functions = model_of(form), list(form.calm)
    if parts.adding is not None:
        total = short_name(form, functions.pop(0))
        stage = WholeTotal(
            parts.adding.stage,
            form.scale,
            model,
            total,
            finer=form.law_scale,
            added_in=unit,
            unit=wanted.chain.unit,
        )
        made.append(Link(Step.LAW, f"law[{len(parts.law)}]", stage))
    for link, function in zip(parts.stages, functions, strict=True):
        kind = ThinnedFilter if isinstance(link.stage, Thinning) else WholeFilter
        made.append(Link(Step.CALM, link.place, kind(link.stage, form.scale, model, short_name(form, function))))
    return replace(wanted.chain, links=tuple(made))


def _readings(scale: Scale, steps: Any, mark: Any) -> Floats:
    """Readings from integers; NaN where there is none to trust."""
    return np.where(mark & np.uint8(UNUSABLE), np.nan, float(scale.zero) + steps * float(scale.step))


def _steps(scale: Scale, x: Floats, low: int, high: int) -> Any:
    """Integers clipped to two ends; those from NaN are marked, with any value."""
    with np.errstate(invalid="ignore"):
        return np.clip(np.rint(np.nan_to_num(_number(scale, x))), low, high).astype(np.int64)


def _number(scale: Scale, x: Floats) -> Floats:
    """As ``Scale.number``, for an array."""
    return (x - float(scale.zero)) / float(scale.step)


@dataclass(frozen=True, eq=False)
class WholeLaw:
    """Laws and correction in integers. ``laws`` are those of the desk, for slope and inverse."""

    form: ChannelForm
    laws: Chain
    beside: float | None = None
    kind: str = KIND
    memory_samples: int = 0

    @property
    def unit_in(self) -> Unit:
        """Unit of the raw value."""
        return self.laws.unit_raw

    @property
    def unit_out(self) -> Unit:
        """Unit of the reading."""
        return self.laws.unit

    @property
    def reads(self) -> tuple[Wanted, ...]:
        """Channels that its link reads."""
        return ()

    def initial(self) -> None:
        """No state."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Run on raw values, each as its integer."""
        values = () if self.beside is None else (np.full(len(block), self.beside),)
        return None, self.run_beside(block, values)

    def run_beside(self, block: Block, values: tuple[Floats, ...]) -> Block:
        """Run with ``values`` of the channel that it reads, in that channel's unit."""
        wanted = self.form.wanted
        raw, mark = self.form.law.function.inputs[:2]
        given = {"raw": _steps(wanted.raw, block.x, raw.low, raw.high), "mark": block.mark.astype(np.int64)}
        given["mark"] = np.where(np.isnan(block.x), given["mark"] | 1, given["mark"])
        if wanted.beside is not None:
            beside = values[0] if values else np.full(len(block), np.nan)
            given["beside"] = _steps(wanted.beside.scale, beside, wanted.beside.low, wanted.beside.high)
            given["beside_mark"] = np.where(np.isnan(beside), 1, 0)
        made = outputs_on_arrays(self.form.law.function, given)
        marks = made[mark.parts[0]].astype(np.uint8)
        return Block(block.t, _readings(self.form.law_scale, made["x"], marks), marks)

    def fixed(self, values: tuple[float, ...]) -> Stage:
        """The same with a constant in place of the channel that it reads."""
        return replace(self, beside=values[0])

    def slope(self, x: float) -> float:
        """That of the desk."""
        return self.laws.slope(x)

    def inverse(self, y: float) -> float:
        """That of the desk."""
        return self.laws.raw_for(y)


@dataclass(frozen=True, eq=False)
class WholeFilter:
    """A filter in integers: ``method`` of ``model``, the initial state of a firmware; ``stage`` is the desk's."""

    stage: Stage
    scale: Scale
    model: Any
    method: str
    kind: str = KIND

    @property
    def scale_in(self) -> Scale:
        """Scale of its input."""
        return self.scale

    @property
    def unit_in(self) -> Unit:
        """Unit of the reading."""
        return self.stage.unit_in

    @property
    def unit_out(self) -> Unit:
        """The same unit."""
        return self.stage.unit_out

    @property
    def memory_samples(self) -> int:
        """As at the desk."""
        return self.stage.memory_samples

    def initial(self) -> Any:
        """A firmware just switched on."""
        return deepcopy(self.model)

    def run(self, state: Any, block: Block) -> tuple[Any, Block]:
        """Run sample by sample, as a firmware does."""
        after = deepcopy(state)
        stage = getattr(after, self.method)
        steps = np.rint(np.nan_to_num(_number(self.scale_in, block.x))).astype(np.int64).tolist()
        times = (np.rint(block.t * 1000.0).astype(np.int64) % TIMES).tolist()
        made = [stage(*each) for each in zip(steps, block.mark.tolist(), times, strict=True)]
        passes = np.array([each[0] for each in made], np.bool_)
        x = np.array([each[1] for each in made], np.float64)[passes]
        mark = np.array([each[2] for each in made], np.uint8)[passes]
        t = block.t if passes.all() else block.t[passes]
        return after, Block(t, _readings(self.scale, x, mark), mark)

    def slope(self, x: float) -> float:
        """That of the desk."""
        return self.stage.slope(x)

    def inverse(self, y: float) -> float:
        """That of the desk."""
        return self.stage.inverse(y)


class ThinnedFilter(WholeFilter):
    """A filter that lets one sample in every n through."""

    @property
    def n(self) -> int:
        """One sample in this many passes."""
        assert isinstance(self.stage, Thinning)
        return self.stage.n

    def at_rest(self, block: Block) -> Block:
        """The result of a run of equal samples."""
        return self.run(self.initial(), block)[1]


@dataclass(frozen=True, eq=False)
class WholeTotal(WholeFilter):
    """A total: its input is in finer steps, and in another unit than its output."""

    finer: Scale = Scale(Fraction(1))
    added_in: Unit = PLAIN_UNIT
    unit: Unit = PLAIN_UNIT
    lasting: None = None

    @property
    def scale_in(self) -> Scale:
        """That of the added quantity."""
        return self.finer

    @property
    def unit_in(self) -> Unit:
        """That of the added quantity."""
        return self.added_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the reading."""
        return self.unit

    def at_rest(self, block: Block) -> Block:
        """The result for a single value as at the desk, in steps of the reading."""
        link = Link(Step.LAW, "total", self.stage, *conversion(self.added_in, self.stage.unit_in))
        scale, offset = conversion(self.stage.unit_out, self.unit)
        x = link.settled(block).x * scale + offset
        return block.with_values(_readings(self.scale, np.rint(_number(self.scale, x)), block.mark))
