"""Ticks of an axis, on the screen and on paper: round numbers, and round times as hours, minutes and seconds."""

from __future__ import annotations

import math
from collections.abc import Sequence

from lesart.core.quantity import grouped

_CLOCK_STEPS_S = (
    0.001,
    0.002,
    0.005,
    0.01,
    0.02,
    0.05,
    0.1,
    0.2,
    0.5,
    1,
    2,
    5,
    10,
    20,
    30,
    60,
    120,
    300,
    600,
    1200,
    1800,
    3600,
    7200,
    14400,
    43200,
    86400,
)
_WEEK_S = 604_800


def round_ticks(low: float, high: float, most: int) -> list[float]:
    """Multiples of 1, 2 or 5 times a power of ten from ``low`` to ``high``, at most ``most`` + 1 of them."""
    power = 10.0 ** math.floor(math.log10((high - low) / most))
    return _multiples(low, high, next(power * each for each in (1, 2, 5, 10) if (high - low) / (power * each) <= most))


def decade_ticks(low: float, high: float, most: int) -> list[float]:
    """Ticks of a logarithmic axis: whole powers of ten, and 2 and 5 times them where there is room."""
    for parts in ((1, 2, 5), (1, 3), (1,)):
        every = [power + math.log10(part) for power in range(math.floor(low), math.ceil(high) + 1) for part in parts]
        inside = [tick for tick in every if low - 1e-9 <= tick <= high + 1e-9]
        if len(inside) <= most:
            return inside
    return inside


def decade_labels(ticks: Sequence[float]) -> list[str]:
    """Labels for a logarithmic axis: the numbers, not their logarithms."""
    return [f"{10.0**tick:.3g}" for tick in ticks]


def clock_ticks(low_s: float, high_s: float, most: int) -> list[float]:
    """Ticks at round times; whole weeks where days would be too close together."""
    fitting = (step for step in _CLOCK_STEPS_S if (high_s - low_s) / step <= most)
    weeks = _WEEK_S * math.ceil((high_s - low_s) / most / _WEEK_S)
    return _multiples(low_s, high_s, next(fitting, weeks))


def _multiples(low: float, high: float, step: float) -> list[float]:
    # A hair wider, so that a limit which is itself a multiple keeps its tick however it was rounded.
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    return [step * index for index in range(first, last + 1)]


def round_labels(ticks: Sequence[float]) -> list[str]:
    """Labels with as many decimals as the step has, thousands grouped, a true minus sign."""
    step = ticks[1] - ticks[0] if len(ticks) > 1 else 1.0
    decimals = min(max(-math.floor(math.log10(step) + 1e-9), 0), 12)
    return [grouped(f"{tick + 0.0:.{decimals}f}").replace("-", "−") for tick in ticks]


def clock_labels(ticks: Sequence[float]) -> list[str]:
    """``01:20``, ``01:20:05`` or ``20:05.250``, as the ticks need."""
    step = ticks[1] - ticks[0] if len(ticks) > 1 else 60.0
    return [_clock(tick, step) for tick in ticks]


def _clock(seconds: float, step: float) -> str:
    hours, rest = divmod(round(seconds, 3), 3600)
    minutes, rest = divmod(rest, 60)
    if step >= 60:
        return f"{int(hours):02d}:{int(minutes):02d}"
    if step >= 1:
        return f"{int(hours):02d}:{int(minutes):02d}:{int(rest):02d}"
    return f"{int(hours * 60 + minutes):02d}:{rest:06.3f}"
