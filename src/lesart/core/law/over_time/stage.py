"""Laws over time as stages of a chain."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import OverTimeLaw
from lesart.core.units import Unit


@dataclass(frozen=True)
class Reached:
    """The latest time, and the state of the law."""

    latest_s: float
    law: Any = None


@dataclass(frozen=True)
class OverTimeStage:
    """A law over time. A bad sample stays bad, and the law continues from the good one before it to the one after."""

    kind: str
    law: OverTimeLaw
    memory_samples: int = 0
    lasting: None = None

    @property
    def unit_in(self) -> Unit:
        """Unit of the values that go in."""
        return self.law.unit_in

    @property
    def unit_out(self) -> Unit:
        """Unit of the values that come out."""
        return self.law.unit_out

    def initial(self) -> Reached:
        """Nothing has come."""
        return Reached(float("-inf"))

    def run(self, state: Reached, block: Block) -> tuple[Reached, Block]:
        """The law at each good sample; where it has no value yet the sample is missing."""
        if not len(block):
            return state, block
        # Times that run backwards stand still: nothing adds up meanwhile.
        t = np.maximum.accumulate(np.maximum(block.t, state.latest_s))
        latest, usable = float(t[-1]), block.usable
        if not usable.any():
            return Reached(latest, state.law), block
        with np.errstate(all="ignore"):
            if usable.all():
                known, x = self.law.advance(state.law, t, block.x)
            else:
                x = block.x.copy()
                known, x[usable] = self.law.advance(state.law, t[usable], block.x[usable])
        none = usable & np.isnan(x)
        mark = np.where(none, block.mark | np.uint8(Mark.MISSING), block.mark) if none.any() else block.mark
        return Reached(latest, known), block.with_values(x, mark)

    def at_rest(self, block: Block) -> Block:
        """The result for each value as if it were the only one."""
        with np.errstate(all="ignore"):
            return block.with_values(self.law.at_rest(block.x))

    def slope(self, x: float) -> float:
        """The same everywhere."""
        return self.law.slope

    def inverse(self, y: float) -> float:
        """The single value whose result is ``y``."""
        return self.law.inverse(y)


def adds_up(chain: Chain) -> bool:
    """True where its laws give a total."""
    return any(isinstance(link.stage, OverTimeStage) and link.stage.law.adds_up for link in chain.links)
