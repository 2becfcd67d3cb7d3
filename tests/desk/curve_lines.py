"""Lines for sensors by their curves: resistances that follow a power or a line, currents over a resistor, strain."""

from __future__ import annotations

import math
from collections.abc import Callable

Formula = Callable[[float], float]


def to_supply(count: float, fixed: float, bits: int = 10) -> float:
    """Ohm's law: a resistance to the supply above a fixed one to ground."""
    return fixed * (2**bits / count - 1)


def to_ground(count: float, fixed: float, bits: int = 10) -> float:
    """The same below a fixed one."""
    return fixed / (2**bits / count - 1)


def through(ohms: float, *points: tuple[float, float]) -> float:
    """The power through two points of a curve: a straight line on paper with two logarithmic axes."""
    (first, reads), (last, then) = points
    share = math.log(ohms / first) / math.log(last / first)
    return reads * (then / reads) ** share


def kelvin(ohms: float, points: tuple[tuple[float, float], tuple[float, float]]) -> float:
    """A thermistor: 1 ÷ T is linear in the logarithm of its resistance."""
    (first, low), (last, high) = points
    share = math.log(ohms / first) / math.log(last / first)
    return 1 / (1 / low + share * (1 / high - 1 / low))


def ampere(count: float, ohms: float) -> float:
    return count / 1024 * 5 / ohms


CURVE_LINES: dict[str, tuple[int, Formula, str]] = {
    "force sensor 10k pull-down, 30k at 100 g, 10k at 1 kg": (
        500,
        lambda n: through(to_supply(n, 10e3), (30e3, 100), (10e3, 1000)),
        "g",
    ),
    "force resistor 6k at 1 kg, 10k pulldown": (500, lambda n: 6e3 / to_supply(n, 10e3), "kg"),
    "fsr 30k at 1 N, 2k at 100 N, 10k to ground, 3.3 V, 12 bit": (
        2000,
        lambda n: through(to_supply(n, 10e3, 12), (30e3, 1), (2e3, 100)),
        "N",
    ),
    "1 kg = 6k, 100 g = 30k": (500, lambda n: through(to_supply(n, 10e3), (6e3, 1), (30e3, 0.1)), "kg"),
    "gas sensor ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k": (
        400,
        lambda n: 110 * (to_supply(n, 10e3) / 10e3) ** -2.5,
        "ppm",
    ),
    "ppm = 110 * pow(Rs/Ro, -2.5), Ro = 20k, RL = 4k7": (
        400,
        lambda n: 110 * (to_supply(n, 4700) / 20e3) ** -2.5,
        "ppm",
    ),
    "Rs/R0 = 5 * ppm^-0.4, R0 = 10k, 10k load": (
        400,
        lambda n: (to_supply(n, 10e3) / 10e3 / 5) ** (-1 / 0.4),
        "ppm",
    ),
    "ppm = 10^((log10(Rs/R0) - 0.7) / -0.4), R0 = 10k, load 20k": (
        400,
        lambda n: 10 ** ((math.log10(to_supply(n, 20e3) / 10e3) - 0.7) / -0.4),
        "ppm",
    ),
    "gas sensor 10k at 100 ppm, 3k at 1000 ppm, load 4k7": (
        400,
        lambda n: through(to_supply(n, 4700), (10e3, 100), (3e3, 1000)),
        "ppm",
    ),
    "photoresistor 50k at 10 lx, 2k at 1000 lx, 10k to ground": (
        400,
        lambda n: through(to_supply(n, 10e3), (50e3, 10), (2e3, 1000)),
        "lx",
    ),
    "flex sensor 25k flat 100k at 90 degrees, 10k pulldown": (
        200,
        lambda n: (to_supply(n, 10e3) - 25e3) / 75e3 * 90,
        "°",
    ),
    "25k = 0°, 100k = 90°, 47k to ground": (500, lambda n: (to_supply(n, 47e3) - 25e3) / 75e3 * 90, "°"),
    "stretch cord 1k at 10 cm, 2k at 20 cm, 1k pull-up": (500, lambda n: to_ground(n, 1e3) / 100, "cm"),
    "oil pressure sender 10 ohm at 0 bar, 180 ohm at 5 bar, 100 ohm to 5 V": (
        500,
        lambda n: (to_ground(n, 100) - 10) / 34,
        "bar",
    ),
    "thermistor 100k at 0 C, 10k at 50 C, 10k pull-up": (
        500,
        lambda n: kelvin(to_ground(n, 10e3), ((100e3, 273.15), (10e3, 323.15))) - 273.15,
        "°C",
    ),
    "NTC 10k at 25 °C, 3k6 at 50 °C, 10k to 3.3 V": (
        500,
        lambda n: kelvin(to_ground(n, 10e3), ((10e3, 298.15), (3600, 323.15))) - 273.15,
        "°C",
    ),
    # A current over a resistor.
    "photodiode 10 nA/lx 100k transimpedance": (500, lambda n: ampere(n, 100e3) / 10e-9, "lx"),
    "photodiode 0.1 µA per lux into 10 kohm": (500, lambda n: ampere(n, 10e3) / 0.1e-6, "lx"),
    "photodiode 20 nA per lux, dark current 2 nA, Rf = 1M": (500, lambda n: (ampere(n, 1e6) - 2e-9) / 20e-9, "lx"),
    "photodiode 0.5 A/W, 1 Mohm": (500, lambda n: ampere(n, 1e6) / 0.5 * 1e6, "µW"),
    "phototransistor 0.5 mA at 100 lx, 1k": (500, lambda n: ampere(n, 1e3) / 0.5e-3 * 100, "lx"),
    "ambient light sensor 1 uA/lx 10k load": (500, lambda n: ampere(n, 10e3) / 1e-6, "lx"),
    "1 µA/K over 10k": (500, lambda n: ampere(n, 10e3) / 1e-6, "K"),
    "temperature sensor 1 µA/°C, 273.2 µA at 0 °C, 10k": (500, lambda n: (ampere(n, 10e3) - 273.2e-6) / 1e-6, "°C"),
    "oxygen sensor 50 µA at 20.9 %, 10k": (500, lambda n: ampere(n, 10e3) / 50e-6 * 20.9, "%"),
    # A bridge of gauges: a quarter of the gauge factor for each arm that is one.
    "strain gauge 350 ohm GF 2 quarter bridge 3.3 V gain 128": (40_000, lambda n: n / 2**23 / 128 * 4 / 2 * 1e6, "µε"),
    "strain gauge gauge factor 2.1, 120 ohm, half bridge, 24 bit, gain 64": (
        40_000,
        lambda n: n / 2**23 / 64 * 2 / 2.1 * 1e6,
        "µε",
    ),
    "strain gauge, full bridge, GF = 2.05": (40_000, lambda n: n / 2**23 / 128 / 2.05 * 1e6, "µε"),
}
"""Lines, counts that they are tried at, what such a count is, and in which unit."""
