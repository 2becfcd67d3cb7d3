"""Alarms: an upper or lower limit, with a hysteresis and a least time against chatter."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Block, Bools
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit

ABOVE, BELOW = "above", "below"
SOON_S = 10.0
"""A change this soon after the previous one is chatter."""

ALARM = (
    Parameter("name", "name", "text", "as a face will show it", "alarm", longest=20),
    Parameter("side", "side", "choice", "of the limit on which it is on", ABOVE, choices=(ABOVE, BELOW)),
    Parameter("limit", "limit", "any quantity", "beyond which it comes on, e.g. 43 kg"),
    Parameter(
        "hysteresis",
        "hysteresis",
        "any quantity",
        "how far back the reading must come before it clears",
        "0",
        lowest=0,
    ),
    Parameter(
        "least",
        "least time",
        "quantity",
        "that the reading must be beyond, and back, before it changes",
        "0 s",
        unit="s",
        lowest=0,
        highest=86_400,
    ),
)

State = tuple[bool, float | None]
"""Whether it is on, and since when the reading has been where it would change."""


@dataclass(frozen=True)
class Alarm:
    """``limit`` and ``hysteresis`` in the reading's unit.

    On once the reading has been beyond the limit for ``least_s``, off once it has been back by the hysteresis for as
    long. A bad sample changes nothing.
    """

    name: str
    side: str
    limit: float
    hysteresis: float
    least_s: float

    def is_beyond(self, value: float) -> bool:
        """True where a reading that stays there would trip it in the end."""
        return value > self.limit if self.side == ABOVE else value < self.limit

    def initial(self) -> State:
        """Off."""
        return False, None

    def run(self, state: State, block: Block) -> tuple[State, Bools]:
        """On or off at each sample, shape (n,). Causal, and the same wherever the block is cut."""
        is_on, since = state
        sign = 1.0 if self.side == ABOVE else -1.0
        edge, back = sign * self.limit, sign * self.limit - self.hysteresis
        out = []
        for t, x, good in zip(block.t.tolist(), block.x.tolist(), block.usable.tolist(), strict=True):
            if good:
                would_change = sign * x <= back if is_on else sign * x > edge
                since = (t if since is None else since) if would_change else None
                if since is not None and t - since >= self.least_s:
                    is_on, since = not is_on, None
            out.append(is_on)
        return (is_on, since), np.array(out, bool)


@dataclass(frozen=True)
class AlarmFacts:
    """What an alarm did over a capture: ``went_on`` times, ``on_s`` in all, ``soon`` changes shortly after another."""

    on: Bools
    changes_s: tuple[float, ...]
    went_on: int
    on_s: float
    soon: int


def alarm_facts(alarm: Alarm, block: Block) -> AlarmFacts:
    """What an alarm does over a whole block."""
    _, on = alarm.run(alarm.initial(), block)
    before = np.concatenate([[False], on[:-1]]) if len(on) else on
    places = np.flatnonzero(on != before)
    changes = block.t[places]
    steps = np.diff(block.t, append=block.t[-1:]) if len(block) else block.t
    return AlarmFacts(
        on,
        tuple(changes.tolist()),
        int((on & ~before).sum()),
        float(np.clip(steps, 0, None)[on].sum()),
        int((np.diff(changes) < SOON_S).sum()),
    )


def build_alarm(values: dict[str, Any], unit: Unit) -> Alarm:
    """An alarm from values by parameter name. Raises UnitError."""
    limit: Quantity = values["limit"]
    back: Quantity = values["hysteresis"]
    return Alarm(values["name"], values["side"], limit.to(unit), back.difference_in(unit), values["least"])
