"""Dividers: two preferred resistors that bring a voltage just under what an input tolerates."""

from __future__ import annotations

from lesart.core.wire.preferred import E24, around, decade_of

LEAST_OHM, MOST_OHM = 1_000.0, 1_000_000.0


def analog_divider(
    volts: float, most_v: float, source_ohm: float, accepts_ohm: float, series: tuple[float, ...] = E24
) -> tuple[float, float] | None:
    """Upper and lower resistor in Ω: never above ``most_v``, as near to it as the series allows, with a source
    resistance that the converter reads correctly. Of equal pairs the larger, which draws less. None where there is no
    pair."""
    best: tuple[float, float, float] | None = None
    for upper in decade_of(LEAST_OHM, MOST_OHM, series):
        lower, _ = around(upper * most_v / (volts - most_v), series)
        out = volts * lower / (upper + lower)
        if (upper + source_ohm) * lower / (upper + source_ohm + lower) > accepts_ohm:
            continue
        if best is None or out > best[0] * (1 - 1e-9):
            best = (out, upper, lower)
    return None if best is None else (best[1], best[2])
