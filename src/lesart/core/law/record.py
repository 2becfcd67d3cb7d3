"""What every law is: a record that describes it, and an object that computes it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.parameters import Parameter
from lesart.core.units import Unit


class Law(Protocol):
    """A conversion with parameters filled in. All functions take and give float64 arrays of one shape.

    ``inverse(forward(x)) == x`` within 1e-12 of the valid range, over the valid range.
    """

    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    @property
    def valid_in(self) -> tuple[float, float]:
        """Inputs outside are marked RANGE, never guessed."""
        ...

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        """Inputs at or beyond these are marked SATURATED; None where nothing saturates."""
        ...

    def forward(self, x: Floats) -> Floats: ...
    def inverse(self, y: Floats) -> Floats: ...
    def slope(self, x: Floats) -> Floats: ...


@dataclass(frozen=True)
class LawKind:
    """The record of a law: help on the screen, listing on the command line and docs are made from it."""

    name: str
    title: str
    formula: str
    source: str
    example: str
    parameters: tuple[Parameter, ...]
    build: Callable[[dict[str, Any]], Law]
    """From values by parameter name. Raises ValueError with a clause where they do not fit together."""
    start: Callable[[Unit, Unit], dict[str, str]]
    """Values of a new law, for parameters without a default, by the unit that comes in and the one it shall lead to."""


@dataclass(frozen=True)
class LawStage:
    """A law as a stage of a chain: marks what the law cannot convert, computes the rest."""

    kind: str
    law: Law
    memory_samples: int = 0

    @property
    def unit_in(self) -> Unit:
        """Unit of the values that go in."""
        return self.law.unit_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the values that come out."""
        return self.law.unit_out

    def initial(self) -> None:
        """Laws keep nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Values outside the valid range become NaN with RANGE; those at a converter's end keep a SATURATED value."""
        low, high = self.law.valid_in
        mark = block.mark
        usable = block.usable
        ends = self.law.saturated_at
        if ends is not None:
            full = usable & ((block.x <= ends[0]) | (block.x >= ends[1]))
            mark = np.where(full, mark | np.uint8(Mark.SATURATED), mark)
        outside = usable & ~((block.x >= low) & (block.x <= high))
        if outside.any():
            mark = np.where(outside, mark | np.uint8(Mark.RANGE), mark)
        x = np.where(outside, np.nan, block.x) if outside.any() else block.x
        with np.errstate(all="ignore"):
            return None, block.with_values(self.law.forward(x), mark)

    def slope(self, x: float) -> float:
        """Output per input at ``x``."""
        return float(self.law.slope(np.array([x]))[0])

    def inverse(self, y: float) -> float:
        """The input whose output is ``y``."""
        return float(self.law.inverse(np.array([y]))[0])
