"""A true value of a channel, as a person knows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.edges import Edges


@dataclass(frozen=True)
class Truth:
    """What a channel should read, within ``tolerance`` either way, where ``raw`` came: all in its units.

    ``data`` are the bytes of the frame that it came in; ``beside`` the other columns of its source at that moment;
    ``others`` what the channels that its laws read say then. ``said`` is how a person put it.
    """

    raw: float
    reading: float
    tolerance: float
    said: str = ""
    data: bytes = b""
    beside: Mapping[str, float] = field(default_factory=dict, compare=False)
    others: Mapping[str, float] = field(default_factory=dict, compare=False)
    lines: Mapping[str, Edges] = field(default_factory=dict, compare=False)
    """Edges of its source up to that time, covering the last few readings."""
