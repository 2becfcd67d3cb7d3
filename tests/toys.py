"""A law, a filter and a decoder that Lesart does not have, each as one module would bring it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.record import Decoded, DecoderKind
from lesart.core.raw.edges import HIGH, Edges
from lesart.core.units import Unit, parse_unit


@dataclass(frozen=True)
class Reciprocal:
    """A period as a rate: output = 1 / input."""

    unit_in: Unit
    unit_out: Unit
    valid_in: tuple[float, float] = (1e-9, 1e9)
    saturated_at: tuple[float, float] | None = None

    def forward(self, x: Floats) -> Floats:
        return 1.0 / x

    def inverse(self, y: Floats) -> Floats:
        return 1.0 / y

    def slope(self, x: Floats) -> Floats:
        return -1.0 / x**2


RECIPROCAL = LawKind(
    name="reciprocal",
    title="one over a time",
    formula="rate = 1 / time",
    source="definition of a frequency",
    example="0.5 s → 2 Hz",
    parameters=(),
    build=lambda values: Reciprocal(parse_unit("s"), parse_unit("Hz")),
    start=lambda unit_in, unit_out: {},
)


@dataclass(frozen=True)
class Limit(Passing):
    """Nothing above ``highest``."""

    highest: float
    kind: str = "limit"
    memory_samples: int = 0

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Cut at the top."""
        return None, block.with_values(np.minimum(block.x, self.highest))


LIMIT = FilterKind(
    name="limit",
    title="cut at the top",
    says=lambda values: f"limit {values['highest']:g}",
    parameters=(Parameter("highest", "highest", "integer", "nothing is let above it", 42, lowest=0, highest=99),),
    build=lambda values, unit: Limit(unit, float(values["highest"])),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 0, 1.0),
)


def _count(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    rises = lines["line"].t[lines["line"].level == HIGH]
    numbers = np.arange(1.0, len(rises) + 1)
    return Decoded({"edges": Block(rises, numbers, np.zeros(len(rises), np.uint8))}, {"edges": "ct"})


EDGE_COUNT = DecoderKind(
    "edge count", "edges counted", "the number of each rising edge", ("line",), 1, (), _count, gives_values=True
)
