"""The arithmetic of the two-wire bus.

Limits of the bus standard: an output pulls low against at most 3 mA and 0.4 V; the rise time, 0.8473·R·C between 0.3
and 0.7 of the supply, is at most 1000 ns up to 100 kHz, 300 ns up to 400 kHz and 120 ns up to 1 MHz; at most 400 pF.
"""

from __future__ import annotations

import math

from lesart.core.wire.hookup import BusLine, Hookup

SINK_A = 0.003
SINK_V = 0.4
RISE = math.log(0.7 / 0.3)
"""Time constants from 0.3 to 0.7 of the supply: 0.8473."""
RISE_LIMITS_S = ((100e3, 1000e-9), (400e3, 300e-9), (1e6, 120e-9))
PIN_F = 10e-12
"""Capacitance of a pin, the most the standard allows."""
WIRE_F_PER_M = 100e-12
"""Capacitance of a metre of ordinary wire."""


def rise_limit_s(clock_hz: float) -> float:
    """Longest rise time that the standard allows at a bus clock."""
    return next((limit for most, limit in RISE_LIMITS_S if clock_hz <= most * (1 + 1e-9)), RISE_LIMITS_S[-1][1])


def rise_s(ohm: float, farad: float) -> float:
    """Rise time from 0.3 to 0.7 of the supply."""
    return RISE * ohm * farad


def least_pull_up_ohm(supply_v: float) -> float:
    """Below this an output cannot pull the line low enough."""
    return (supply_v - SINK_V) / SINK_A


def most_pull_up_ohm(farad: float, clock_hz: float) -> float:
    """Above this the line rises too slowly."""
    return rise_limit_s(clock_hz) / (RISE * farad)


def line_farad(hookup: Hookup, line: BusLine) -> float:
    """Capacitance of pins and wire."""
    wire_m = max((hookup.parts[end.part].value("bus_wire") for end in line.ends), default=0.0)
    return len(line.ends) * PIN_F + wire_m * WIRE_F_PER_M


def bus_clock_hz(hookup: Hookup, line: BusLine) -> float:
    """Bus clock of the board on the line; 100 kHz where there is none."""
    return max((hookup.parts[end.part].value("bus_clock") for end in line.ends), default=0.0) or 100e3
