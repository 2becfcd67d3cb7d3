"""Reject by range: impossible readings are marked, not averaged in."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit


@dataclass(frozen=True)
class RejectRange(Passing):
    """Samples outside ``lowest`` … ``highest`` (both allowed, in the reading's unit) are marked RANGE."""

    lowest: float
    highest: float
    kind: str = "reject range"
    memory_samples: int = 0

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """The same values; those outside are marked and NaN."""
        outside = block.usable & ~((block.x >= self.lowest) & (block.x <= self.highest))
        if not outside.any():
            return None, block
        mark = np.where(outside, block.mark | np.uint8(Mark.RANGE), block.mark)
        return None, Block(block.t, np.where(outside, np.nan, block.x), mark)


def _build(values: dict[str, Any], unit: Unit) -> RejectRange:
    lowest, highest = values["lowest"].to(unit), values["highest"].to(unit)
    if not lowest < highest:
        raise ValueError(f"lowest must be below highest, not {values['lowest']} and {values['highest']}")
    return RejectRange(unit, lowest, highest)


REJECT_RANGE = FilterKind(
    name="reject range",
    computes=("y = x where lowest ≤ x ≤ highest; else y is lost and marked range. Nothing is kept."),
    title="reject by range",
    says=lambda values: "range",
    parameters=(
        Parameter("lowest", "lowest", "any quantity", "least value that is possible, e.g. -5 kg"),
        Parameter("highest", "highest", "any quantity", "greatest value that is possible, e.g. 120 kg"),
    ),
    build=_build,
    cost=lambda values, interval_s: Cost(0.0, 1.0, 0, 2.0),
)
