"""Hold: a bad sample is bridged by the last good one, for a limited time."""

from __future__ import annotations

import numpy as np

from lesart.core.block import UNUSABLE, Block, Mark
from lesart.core.calm.filter_stage import Passing
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

State = tuple[float, float] | None
"""Time and value of the last good sample."""


@dataclass(frozen=True)
class Hold(Passing):
    """A bad sample at most ``timeout_s`` after a good one carries its value, marked HELD; later ones stay bad."""

    timeout_s: float
    kind: str = "hold"
    memory_samples: int = 0

    def initial(self) -> State:
        """Nothing seen yet."""
        return None

    def run(self, state: State, block: Block) -> tuple[State, Block]:
        """The same times, gaps bridged."""
        usable = block.usable
        if usable.all():
            return ((float(block.t[-1]), float(block.x[-1])) if len(block) else state), block
        seen = np.where(usable, np.arange(len(block)), -1)
        last = np.maximum.accumulate(seen) if len(block) else seen
        t_before, x_before = state if state is not None else (-np.inf, np.nan)
        t_good = np.where(last >= 0, block.t[last], t_before) if len(block) else block.t
        x_good = np.where(last >= 0, block.x[last], x_before) if len(block) else block.x
        held = ~usable & (block.t - t_good <= self.timeout_s)
        if len(block):
            final = int(last[-1])
            state = (float(block.t[final]), float(block.x[final])) if final >= 0 else state
        if not held.any():
            return state, block
        mark = np.where(held, (block.mark & ~np.uint8(UNUSABLE)) | np.uint8(Mark.HELD), block.mark)
        return state, Block(block.t, np.where(held, x_good, block.x), mark)


HOLD = FilterKind(
    name="hold",
    computes=(
        "A good sample passes and is kept with its time. A bad one at most `timeout` after it becomes y = the "
        "one that is kept, its marks removed, marked held; a later one stays bad."
    ),
    title="hold the last good",
    says=lambda values: f"hold {values['timeout']:g} s",
    parameters=(
        Parameter(
            "timeout", "at most", "quantity", "how long a value may be held", "1 s", unit="s", lowest=0, above=True
        ),
    ),
    build=lambda values, unit: Hold(unit, values["timeout"]),
    cost=lambda values, interval_s: Cost(0.0, 1.0, 8, 2.0),
)
