"""Limits of a loop, and consumption of its parts."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class Limits:
    """Shares of time 0 to 1, seconds, milliamperes, milliampere-hours."""

    most_bus: float = 0.6
    most_lag_s: float = 1.0
    active_ma: float = 0.0
    idle_ma: float = 0.0
    shown_ma: float = 0.0
    capacity_mah: float = 0.0
    others_ma: float = 0.0
    usable: float = 1.0
