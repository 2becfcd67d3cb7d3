"""What the rig's devices measure, as a function of time: the same every run, never constant."""

from __future__ import annotations

import math
import random
import struct

from lesart.core.dataclass_later import dataclass

COUNTS_PER_KG = 2.0 / 200.0 / (1000.0 * 5.0 / (128.0 * 5.0)) * (1 << 23)
"""As hive 2's: 2 mV/V at 200 kg, 24 bits, gain 128, reference and excitation from the same regulator."""
LIVELY = 0.03
"""Kilograms by which wind and bees shake the scale."""


@dataclass(frozen=True)
class Weather:
    """Pressure in pascals, wind direction in degrees, wind speed in metres per second, air temperature in °C."""

    pressure_pa: float
    wind_from_deg: float
    wind_m_s: float
    air_c: float


def weather(t: float) -> Weather:
    """At ``t`` seconds: an hour of a front passing, again and again."""
    front = math.sin(2 * math.pi * t / 3600)
    gust = math.sin(t / 7.3) + 0.6 * math.sin(t / 2.9 + 1) + 0.3 * math.sin(t / 1.1)
    return Weather(
        pressure_pa=101_180.0 - 260.0 * front + 4.0 * math.sin(t / 11),
        wind_from_deg=(235.0 + 55.0 * front + 12.0 * gust) % 360.0,
        wind_m_s=max(3.4 + 1.9 * front + 0.9 * gust, 0.0),
        air_c=14.2 - 2.1 * front + 0.05 * gust,
    )


SMOKE_BEGINS = bytes.fromhex("5A A5")


def smoke_frame(count: int, t: float, dice: random.Random) -> bytes:
    """The frame of the smoke sensor at ``t``: a frame counter, micrograms of smoke per cubic metre, high byte first,
    the °C in the shed as a four-byte float, low byte first, and their sum."""
    smoke = max(round(85 + 40 * math.sin(2 * math.pi * t / 600) + 3 * dice.gauss(0, 1)), 0)
    warm_c = 27.0 + 2.0 * math.sin(2 * math.pi * t / 900) + 0.04 * dice.gauss(0, 1)
    body = SMOKE_BEGINS + struct.pack(">BH", count & 0xFF, smoke) + struct.pack("<f", warm_c)
    return body + (sum(body) & 0xFFFF).to_bytes(2, "big")


def scale_line(t: float, dice: random.Random) -> bytes:
    """The line of the scale at ``t``: counts of its bridge, millivolts of the probe in the lid."""
    mass_kg = 38.4 + 0.4 * math.sin(2 * math.pi * t / 1800) + LIVELY * dice.gauss(0, 1)
    lid_mv = 843.0 + 4.0 * math.sin(2 * math.pi * t / 2400) + 1.2 * dice.gauss(0, 1)
    return f"count={round(mass_kg * COUNTS_PER_KG)} lid_mv={lid_mv:.1f}\r\n".encode()
