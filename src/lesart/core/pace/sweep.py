"""One figure of a loop swept with everything else fixed: its effect on another figure, and where a limit is met."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.scan import Scan
from lesart.core.glass.panels.transfer import Bus
from lesart.core.pace.pulses import Counting


@dataclass(frozen=True)
class Sweep:
    """``x`` and ``y`` of a sweep; ``limit`` of y, None without one; ``crossing`` is the x at which it is met."""

    name: str
    x_label: str
    y_label: str
    x: tuple[float, ...]
    y: tuple[float, ...]
    now: float
    limit: float | None = None
    crossing: float | None = None


def geometric(low: float, high: float, count: int = 61) -> tuple[float, ...]:
    """A geometric series."""
    return tuple(low * (high / low) ** (place / (count - 1)) for place in range(count))


def _swept(
    name: str,
    x_label: str,
    y_label: str,
    x: tuple[float, ...],
    y: Callable[[float], float],
    now: float,
    limit: float | None,
) -> Sweep:
    values = tuple(y(each) for each in x)
    crossing = None
    if limit is not None:
        for low, high in itertools.pairwise(x):
            if (y(low) - limit) * (y(high) - limit) <= 0:
                crossing = _bisected(y, low, high, limit)
                break
    return Sweep(name=name, x_label=x_label, y_label=y_label, x=x, y=values, now=now, limit=limit, crossing=crossing)


def _bisected(y: Callable[[float], float], low: float, high: float, limit: float) -> float:
    """The x where y meets the limit between two points on either side of it."""
    below = y(low) < limit
    for _ in range(60):
        middle = (low + high) / 2
        if (y(middle) < limit) == below:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def sweep_digits(scan: Scan, digits: int) -> Sweep:
    """Refresh rate over the number of digits, with the same times for each."""
    slot_ms = scan.on_time_ms + scan.blanking_ms
    x = tuple(float(count) for count in range(1, 17))
    swept = _swept(
        "digits", "digits", "refresh, Hz", x, lambda count: 1000.0 / (count * slot_ms), digits, scan.wanted_hz
    )
    # Digits are whole: the last number that meets the limit.
    return replace(swept, crossing=None if swept.crossing is None else float(math.floor(swept.crossing + 1e-9)))


def sweep_on_time(scan: Scan, digits: int) -> Sweep:
    """Refresh rate over the on-time of a digit, from a tenth to ten times its value."""
    x = geometric(scan.on_time_ms / 10, scan.on_time_ms * 10)
    return _swept(
        "on-time",
        "on-time, ms",
        "refresh, Hz",
        x,
        lambda on: 1000.0 / (digits * (on + scan.blanking_ms)),
        scan.on_time_ms,
        scan.wanted_hz,
    )


def sweep_clock(bus: Bus, data: int, redraw_hz: float, most: float) -> Sweep:
    """Share of a bus taken by drawing over its clock, from 100 kHz to 1 MHz, or around its value."""
    low, high = min(100_000.0, bus.clock_hz / 2), max(1_000_000.0, bus.clock_hz * 2)

    def share(khz: float) -> float:
        return 100 * redraw_hz * replace(bus, clock_hz=khz * 1000).transfer_s(data)

    x = tuple(each / 1000 for each in geometric(low, high))
    return _swept("bus clock", "clock, kHz", "in use, %", x, share, bus.clock_hz / 1000, 100 * most)


def sweep_gate(counting: Counting, worth: float, unit: str, wanted: float | None) -> Sweep:
    """What one pulse is worth against the time of the gate, from 0.1 to 5 s, or around what it is.

    ``worth`` is that at the gate as it is, in the ``unit`` of ``wanted``: a last digit that is to be seen.
    """
    x = geometric(min(0.1, counting.gate_s / 2), max(5.0, counting.gate_s * 2))

    def of_one(gate_s: float) -> float:
        return worth * counting.gate_s / gate_s

    return _swept("gate", "gate, s", f"one pulse, {unit}", x, of_one, counting.gate_s, wanted)
