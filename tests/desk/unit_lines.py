"""Lines for a reading that has its unit already, and what it is by each, worked out from scratch: by column and value."""

from __future__ import annotations

import math

KELVIN = 273.15


def by_beta(ohm: float, at_25: float, beta: float) -> float:
    """By the definition of beta."""
    return 1 / (1 / 298.15 + math.log(ohm / at_25) / beta) - KELVIN


def by_two(ohm: float, first: tuple[float, float], last: tuple[float, float]) -> float:
    """A thermistor through two points: 1 ÷ T is linear in the logarithm of its resistance."""
    (a, low), (b, high) = first, last
    share = math.log(ohm / a) / math.log(b / a)
    return 1 / (1 / (low + KELVIN) + share * (1 / (high + KELVIN) - 1 / (low + KELVIN))) - KELVIN


def by_power(x: float, first: tuple[float, float], last: tuple[float, float]) -> float:
    """A straight line on paper with two logarithmic axes."""
    (a, low), (b, high) = first, last
    return low * math.exp(math.log(high / low) * math.log(x / a) / math.log(b / a))


OF_HERTZ = {
    "2 pulses per revolution": (1500.0, "1/min"),
    "1 pulse per rev": (3000.0, "1/min"),
    "rpm, 4 magnets": (750.0, "1/min"),
    "hall sensor, 2 magnets, rpm": (1500.0, "1/min"),
    "tooth wheel 60 teeth": (50.0, "1/min"),
    "encoder 600 pulses/rev": (5.0, "1/min"),
    "7.5 Hz per L/min": (50 / 7.5, "L/min"),
    "F = 7.5 * Q": (50 / 7.5, "L/min"),
    "F = 7.5 Q - 4": (54 / 7.5, "L/min"),
    "450 pulses per litre": (50 / 450 * 60, "L/min"),
    "5880 pulses/L": (50 / 5880 * 60, "L/min"),
    "anemometer 2.4 km/h per Hz": (120.0, "km/h"),
    "0.75 m/s per Hz": (37.5, "m/s"),
    "60 Hz per km/h": (50 / 60, "km/h"),
    "wheel circumference 2.1 m": (105.0, "m/s"),
    "wheel diameter 700 mm": (50 * 0.7 * math.pi, "m/s"),
    "1000 imp/kWh": (50 * 3600.0 * 1000 / 1000, "W"),
    "rain gauge 0.2794 mm": (50 * 3600 * 0.2794, "mm/h"),
    "water meter 10 L per pulse": (50 * 60 * 10.0, "L/min"),
    "humidity 100 Hz at 0 %, 20 Hz at 100 %": (62.5, "%"),
    "0-100 Hz = 0-10 bar": (5.0, "bar"),
}
OF_OHMS = {
    "NTC 10k beta 3950": (by_beta(4700, 1e4, 3950), "°C"),
    "NTC 10k at 25 °C, 3k6 at 50 °C": (by_two(4700, (1e4, 25), (3600, 50)), "°C"),
    "thermistor 10k at 25, 3.6k at 50": (by_two(4700, (1e4, 25), (3600, 50)), "°C"),
    "photoresistor 10k at 10 lx, 1k at 100 lx": (by_power(4700, (1e4, 10), (1e3, 100)), "lx"),
    "force sensor 30k at 100 g, 3k at 1 kg": (by_power(4700, (3e4, 100), (3e3, 1000)), "g"),
    "pot 10k, 300°": (141.0, "°"),
    "potentiometer 10k is 270 degrees": (0.47 * 270, "°"),
    "0 ohm = 0 L, 10k = 50 L": (23.5, "L"),
    "R / 10000 * 100 %": (47.0, "%"),
}
OF_PLATINUM = {  # IEC 60751 has 138.5055 Ω at 100 °C
    "pt100": (100.0, "°C"),
    "Pt100, 3 wire": (100.0, "°C"),
    "RTD pt100 class B": (100.0, "°C"),
}
OF_VOLTS = {
    "MAP sensor 0.25 V at 20 kPa, 4.75 V at 300 kPa": (20 + 2.15 / 4.5 * 280, "kPa"),
    "accelerometer 0 g = 1.65 V, 330 mV/g": (0.75 / 0.33, "gn"),
    "0-20 mA is 0-10 bar over 250 ohm": (2.4 / 250 / 0.02 * 10, "bar"),
    "ir distance 30 cm at 1 V, 10 cm at 2.3 V": (by_power(2.4, (1, 30), (2.3, 10)), "cm"),
    "0.5 = 0 %, 4.5 = 100 %": (47.5, "%"),
    "dry 2.8, wet 1.2": (25.0, "%"),
    "(x - 0.5) / 0.01 °C": (190.0, "°C"),
    "x / 5 * 100 %": (48.0, "%"),
    "y = 0.5x - 1 °C": (0.2, "°C"),
    "slope 100 offset -20 °C": (220.0, "°C"),
    "slope 0.1 offset -20": (-19.76, "V"),
    "x * 2 + 1": (5.8, "V"),
    "T = (V - 0.5) * 100": (190.0, "°C"),
}
OF_MILLIVOLTS = {
    "(x - 500) / 10 °C": (190.0, "°C"),
    "T = (mV - 500) / 10": (190.0, "°C"),
    "I = (mV - 2500) / 185": (-100 / 185, "A"),
    "x / 100 A": (24.0, "A"),
    "x * 2": (4800.0, "mV"),
}
OF_MILLIAMPERES = {
    "(x - 4) / 16 * 100 %": (50.0, "%"),
    "(I - 4) * 6.25 %": (50.0, "%"),
    "bar = (mA - 4) / 1.6": (5.0, "bar"),
    "level_cm = (mA - 4) * 12.5": (100.0, "cm"),
    "4-20 mA is 0-10 bar": (5.0, "bar"),
}
OF_CENTIMETRES = {
    "200 - x": (50.0, "cm"),
    "subtract from 200": (50.0, "cm"),
    "tank height 200 cm": (50.0, "cm"),
    "tank 2 m high": (50.0, "cm"),
    "tank 2 m high, 500 L": (125.0, "L"),
    "empty 200, full 20": (50 / 1.8, "%"),
    "(200 - x) / 200 * 100 %": (25.0, "%"),
    "volume = (200 - x) * 12 L": (600.0, "L"),
    "x - 20 mm": (148.0, "cm"),
}
UNIT_LINES: dict[tuple[str, float], dict[str, tuple[float, str]]] = {
    ("rate_hz", 50.0): OF_HERTZ,
    ("r_ohm", 4700.0): OF_OHMS,
    ("rtd_ohm", 138.5055): OF_PLATINUM,
    ("sig_V", 2.4): OF_VOLTS,
    ("sig_mV", 2400.0): OF_MILLIVOLTS,
    ("loop_mA", 12.0): OF_MILLIAMPERES,
    ("dist_cm", 150.0): OF_CENTIMETRES,
}
SHOWN: dict[tuple[str, float], dict[str, str]] = {
    ("temp_c", 25.0): {
        "x * 1.8 + 32 °F": "°F",
        "x*9/5+32": "°F",
        "F = C * 1.8 + 32": "°F",
        "x + 273.15 K": "K",
    },
    ("temp_f", 77.0): {
        "(x - 32) / 1.8 °C": "°C",
        "(F-32)*5/9": "°C",
        "(x - 32) * 0.5556": "°C",
        "celsius = (x - 32) / 1.8": "°C",
    },
    ("p_hPa", 1000.0): {"x / 10 kPa": "kPa", "x * 0.75006 mmHg": "mmHg", "mmHg = hPa * 0.75006": "mmHg"},
    ("u_mV", 2400.0): {"x / 1000 V": "V", "volts = mV / 1000": "V"},
    ("dist_cm", 150.0): {"x * 10 mm": "mm", "x / 2.54 in": "in"},
}
"""Lines that say the same in another unit, which is a matter of the field."""
