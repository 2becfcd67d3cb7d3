"""How long a picture takes to change on panels that move pigment: the whole with flashes, or quickly what differs.

Source: data sheets of such panels, which state both times and how many quick changes may follow a whole one.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import plain_number

USUAL_QUICK_ONES = 10
PARAMETERS = (
    Parameter(
        "change",
        "a change takes",
        "quantity",
        "once it is sent, until the panel takes the next picture, as paper-like ones do; 0: no time",
        "0 s",
        unit="s",
        lowest=0,
        highest=60,
    ),
    Parameter(
        "quick_change",
        "a quick one",
        "quantity",
        "which changes what differs and does not flash; 0: it has none",
        "0 s",
        unit="s",
        lowest=0,
        highest=60,
    ),
    Parameter(
        "quick_ones",
        "quick ones",
        "integer",
        "between two whole changes; 0: never a whole one",
        USUAL_QUICK_ONES,
        lowest=0,
        highest=10_000,
    ),
)


@dataclass(frozen=True)
class SlowChange:
    """``whole_s`` is 0 where a picture shows as soon as it is sent, ``quick_s`` where only whole changes are made.
    ``quick_ones`` come between two whole ones; 0 where a whole one never comes."""

    whole_s: float = 0.0
    quick_s: float = 0.0
    quick_ones: int = USUAL_QUICK_ONES

    @property
    def usual_s(self) -> float:
        """What most changes take."""
        return self.quick_s or self.whole_s

    @property
    def leaves_traces(self) -> bool:
        """True where nothing ever clears what quick changes leave behind."""
        return self.quick_s > 0 and not self.quick_ones


def build_slow_change(values: Mapping[str, Any]) -> SlowChange:
    """From values by parameter name. Raises ValueError with a clause for a quick change that is not the quicker one."""
    whole_s, quick_s = values["change"], values["quick_change"]
    if quick_s and quick_s >= whole_s:
        raise ValueError(
            f"quick_change = {plain_number(quick_s)} s; it must take less than a whole change, "
            f"which takes {plain_number(whole_s)} s"
        )
    return SlowChange(whole_s, quick_s, values["quick_ones"])
