"""Signals as data sheets and makers write them, each against a formula of a textbook."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from tests.desk.curve_lines import CURVE_LINES
from tests.desk.test_recipes import half_ohm, opened, platinum_c, thermistor_c

Formula = Callable[[float], float]


def volts(bits: int, reference_v: float) -> Formula:
    """Of a count."""
    return lambda n: n / 2**bits * reference_v


def beta_c(ohm: float, at_25: float, beta: float) -> float:
    """By the definition of beta."""
    return 1 / (1 / 298.15 + math.log(ohm / at_25) / beta) - 273.15


FIVE, THREE = volts(10, 5.0), volts(12, 3.3)
OF_VOLTS: dict[str, tuple[Formula, str]] = {
    "temp = (v - 0.5) * 100": (lambda v: (v - 0.5) * 100, "°C"),
    "float tempC = (voltage - 0.5) * 100;": (lambda v: (v - 0.5) * 100, "°C"),
    "T = (V - 0.5) * 100 °C": (lambda v: (v - 0.5) * 100, "°C"),
    "27.86 * volts ** -1.15 cm": (lambda v: 27.86 * v**-1.15, "cm"),
    "distance = 27.728 * V^-1.2045 cm": (lambda v: 27.728 * v**-1.2045, "cm"),
    "RH = (V/5 - 0.16)/0.0062": (lambda v: (v / 5 - 0.16) / 0.0062, "%"),
    "TDS = (133.42 V^3 - 255.86 V^2 + 857.39 V)*0.5 ppm": (
        lambda v: (133.42 * v**3 - 255.86 * v**2 + 857.39 * v) / 2,
        "ppm",
    ),
    "turbidity = -1120.4 V² + 5742.3 V - 4352.9": (lambda v: -1120.4 * v**2 + 5742.3 * v - 4352.9, "NTU"),
}
"""Formulas as data sheets print them; on counts they begin with the converter."""
LINES: dict[str, tuple[int, Formula, str]] = {
    # Halves of dividers: which half the sensor is follows from where the fixed resistor goes.
    "NTC 10k at 25 °C, B 3950, 10k to 5 V, 10 bit": (500, lambda n: thermistor_c(half_ohm(n, 10, 10e3), 3950), "°C"),
    "NTC 10k @ 25C beta 3950 with 10k to ground, 5 V, 10 bits": (
        500,
        lambda n: thermistor_c(10e3 * (1024 / n - 1), 3950),
        "°C",
    ),
    "NTC 10k to 3.3 V, 4k7 to ground, beta 3950, 10 bit": (
        500,
        lambda n: thermistor_c(4700 * (1024 / n - 1), 3950),
        "°C",
    ),
    "NTC R25 = 10k, B 3977, 8k2 to 3.3 V, 10 bits": (500, lambda n: beta_c(half_ohm(n, 10, 8200), 10e3, 3977), "°C"),
    "NTC 10k R25 B25/50 3435, series 15k, 3.3 V": (500, lambda n: beta_c(half_ohm(n, 10, 15e3), 10e3, 3435), "°C"),
    "pt1000 with 1k5 pull-up to 3.3V, adc 12 bits": (1900, lambda n: platinum_c(half_ohm(n, 12, 1500), 1000), "°C"),
    "LDR 10k at 10 lux gamma 0.7, 10k to 5 V, 10 bit": (
        500,
        lambda n: 10 * (half_ohm(n, 10, 10e3) / 10e3) ** (-1 / 0.7),
        "lx",
    ),
    # Bridges: the excitation is what the converter compares with.
    "load cell 5 kg 1 mV/V gain 64 24 bit": (500_000, lambda n: n / 2**23 / 64 / 1e-3 * 5, "kg"),
    "load cell 50 kg, 2 mV/V, 24 bits, excitation 4.3 V gain 64": (
        500_000,
        lambda n: n / 2**23 / 64 / 2e-3 * 50,
        "kg",
    ),
    # Ranges and points in volts, in either order, with the converter said last.
    "pressure sensor 0.5 V to 4.5 V for 0 to 1.2 MPa, 5 V, 10 bit": (500, lambda n: (FIVE(n) - 0.5) * 0.3, "MPa"),
    "0 bar at 0.5 V, 10 bar at 4.5 V": (500, lambda n: (FIVE(n) - 0.5) * 2.5, "bar"),
    "pressure sensor 0.5 V at 0 bar, 4.5 V at 10 bar": (500, lambda n: (FIVE(n) - 0.5) * 2.5, "bar"),
    "0.5 V at 0 bar, 2.5 V at 10 bar, 3.3 V, 12 bit": (2000, lambda n: (THREE(n) - 0.5) * 5, "bar"),
    "1 V = 20 %RH, 3 V = 80 %RH": (500, lambda n: 20 + (FIVE(n) - 1) * 30, "%"),
    "fuel sender 240 ohm empty 33 ohm full, 100 ohm to 5 V": (512, lambda n: (240 - 100 * n / (1024 - n)) / 2.07, "%"),
    "0-190 ohm is 0-100 %, 100 ohm to 5 V": (512, lambda n: 100 * n / (1024 - n) / 1.9, "%"),
    "oil pressure sender 10-184 ohm is 0-10 bar, 100 ohm pull-up": (
        512,
        lambda n: (100 * n / (1024 - n) - 10) / 17.4,
        "bar",
    ),
    "0-60 L is 240-33 ohm with 100 ohm to 3.3 V": (512, lambda n: (240 - 100 * n / (1024 - n)) / 207 * 60, "L"),
    "4-20 mA 0-200 litres 150 ohm": (500, lambda n: (FIVE(n) / 150 * 1000 - 4) / 16 * 200, "L"),
    "0.5-4.5 V is 0-1000 lux": (500, lambda n: (FIVE(n) - 0.5) * 250, "lx"),
    "0.5-4.5 V is 250-300 K": (500, lambda n: 250 + (FIVE(n) - 0.5) * 12.5, "K"),
    "microphone 50 mV/Pa": (500, lambda n: FIVE(n) / 0.05, "Pa"),
    "flow 7.5 Hz per L/min": (15, lambda n: n / 7.5, "L/min"),
    "water flow 450 pulses per litre": (15, lambda n: n / 7.5, "L/min"),
    "pH 0-14 = 0-5 V": (500, lambda n: FIVE(n) * 2.8, "pH"),
    "0-5 V is pH 0 to 14, 10 bit": (500, lambda n: FIVE(n) * 2.8, "pH"),
    "0-5 V = 0-10 bar on a 10-bit converter": (500, lambda n: FIVE(n) * 2, "bar"),
    "0-3 V 0-100 % 12 bit 3.3 V": (2000, lambda n: THREE(n) / 3 * 100, "%"),
    "distance 0.3-3 m = 0.5-4.5 V": (500, lambda n: 0.3 + (FIVE(n) - 0.5) * 0.675, "m"),
    "10 % to 90 % Vcc = 0 to 100 psi": (500, lambda n: (n / 1024 - 0.1) / 0.8 * 100, "psi"),
    "pressure sensor ratiometric 10 % to 90 % of the supply, 0 to 150 psi": (
        500,
        lambda n: (n / 1024 - 0.1) / 0.8 * 150,
        "psi",
    ),
    "ratiometric sensor 0.5 V to 4.5 V, 0 to 10 bar": (500, lambda n: (n / 1024 - 0.1) / 0.8 * 10, "bar"),
    "0-10 V through 15k and 10k for 0 to 100 % humidity, 10 bits 5 V": (
        500,
        lambda n: FIVE(n) * (15 + 10) / 10 * 10,
        "%",
    ),
    "0-10 V is 0-500 kg behind 15k/4k7, 3.3 V 12 bit": (2000, lambda n: THREE(n) * 19.7 / 4.7 * 50, "kg"),
    "loop 4..20 mA = 0..6 m water, 150 ohm, 12 bits of 3.3 V": (
        2000,
        lambda n: (THREE(n) / 150 - 0.004) / 0.016 * 6,
        "m",
    ),
    "battery 12 V 100k/22k 3.3 V 12 bit": (2000, lambda n: THREE(n) * 122 / 22, "V"),
    "battery 3 V 100k/100k 3.3 V 12 bit": (1800, lambda n: THREE(n) * 2, "V"),
    "battery through 100k / 27k, 10 bits, internal reference 1.1 V": (500, lambda n: n / 1024 * 1.1 * 127 / 27, "V"),
    "shunt 75 mV at 50 A, gain 20": (500, lambda n: FIVE(n) / 20 / 0.0015, "A"),
    "current shunt 50A/75mV gain 50, 3.3 V 12 bit": (2000, lambda n: THREE(n) / 50 / 0.0015, "A"),
    "throttle 0.5 to 4.5 V 0 to 100 percent": (500, lambda n: (FIVE(n) - 0.5) * 25, "%"),
    # Slopes and zeros.
    "10 mV/°C, 500 mV at 0 °C, 3.3 V, 12 bit": (900, lambda n: (THREE(n) - 0.5) / 0.01, "°C"),
    "temperature sensor 19.5 mV/K, 400 mV offset at 0 °C": (200, lambda n: (FIVE(n) - 0.4) / 0.0195, "°C"),
    "66 mV per A, zero at half the supply, 3.3 V 12 bit": (2000, lambda n: (THREE(n) - 1.65) / 0.066, "A"),
    "100 mV/A centred on 2.5 V": (500, lambda n: (FIVE(n) - 2.5) / 0.1, "A"),
    "current transformer 30 A to 1 V, 3.3 V, 12 bit": (2000, lambda n: (THREE(n) - 1.65) * 30, "A"),
    "CT 100 A : 50 mA with a 33 ohm burden, 3.3 V 12 bit": (2000, lambda n: (THREE(n) - 1.65) / 33 * 2000, "A"),
    "dust 0.5 V per 0.1 mg/m3, 0.9 V no dust": (500, lambda n: (FIVE(n) - 0.9) / 5, "mg/m^3"),
    "light sensor 10 mV/lux": (500, lambda n: FIVE(n) / 0.01, "lx"),
    "0.2 mV per W/m2": (500, lambda n: FIVE(n) / 0.0002, "W/m^2"),
    # Two buffer solutions: a line through both.
    "pH probe 7 at 2.5 V, 4 at 3.04 V, 5 V 10 bit": (500, lambda n: 7 + (FIVE(n) - 2.5) / 0.54 * -3, "pH"),
    "pH 4 at 3.04 V, 10 at 2.0 V": (500, lambda n: 4 + (FIVE(n) - 3.04) / -1.04 * 6, "pH"),
    # Shares and turns.
    "soil moisture: air 3.1 V = 0 %, water 1.4 V = 100 %": (500, lambda n: (3.1 - FIVE(n)) / 1.7 * 100, "%"),
    "soil moisture in air 620, in water 310": (500, lambda n: (620 - n) / 310 * 100, "%"),
    "soil moisture 0 % at 620, 100 % at 310": (500, lambda n: (620 - n) / 310 * 100, "%"),
    "battery 3.0 V empty 4.2 V full": (700, lambda n: (FIVE(n) - 3) / 1.2 * 100, "%"),
    "potentiometer in percent": (500, lambda n: n / 1024 * 100, "%"),
    "analog joystick centre 512, -100 to 100 %": (500, lambda n: n / 1024 * 200 - 100, "%"),
    "joystick -100 to 100 %, centre at 2048": (2000, lambda n: n / 4096 * 200 - 100, "%"),
    "joystick -100 to 100 %, centre at 2048, 12 bits": (500, lambda n: n / 4096 * 200 - 100, "%"),
    "wind vane, pot 0-1023 = 0-360 deg": (500, lambda n: n / 1024 * 360, "°"),
    # Lines and curves of points.
    "raw = 200 at 0 kg and 900 at 5 kg": (500, lambda n: (n - 200) / 140, "kg"),
    "two points: 512 → 25 °C, 600 → 30 °C": (500, lambda n: 25 + (n - 512) / 17.6, "°C"),
    "map(x, 200, 900, 0, 5) kg": (500, lambda n: (n - 200) / 140, "kg"),
    "from 200 to 900 counts is 0 to 5 kg": (500, lambda n: (n - 200) / 140, "kg"),
    "100 = 0 °C, 500 = 45 °C, 900 = 95 °C": (600, lambda n: 45 + (n - 500) / 8, "°C"),
    "table 100 0, 500 45, 900 95 °C": (600, lambda n: 45 + (n - 500) / 8, "°C"),
    **CURVE_LINES,
    **{line: (600, lambda n, f=formula: f(FIVE(n)), unit) for line, (formula, unit) in OF_VOLTS.items()},
    # Ends in counts, as people note them down.
    "0-4 cm is 0-700": (500, lambda n: n / 175, "cm"),
    "water level 0-700 counts = 0-4 cm": (500, lambda n: n / 175, "cm"),
    "tank 0-200 L, 400 = empty, 900 = full": (500, lambda n: (n - 400) / 2.5, "L"),
    "tank 400 empty 900 full 200 L": (500, lambda n: (n - 400) / 2.5, "L"),
    "weight 5 kg = 830 counts, zero 330": (500, lambda n: (n - 330) / 100, "kg"),
    "zero at 330, 5 kg at 830": (500, lambda n: (n - 330) / 100, "kg"),
    "330 is zero, 830 is 5 kg": (500, lambda n: (n - 330) / 100, "kg"),
    # Both ways, and a voltage at another reading than 0.
    "LVDT ±5 V = ±50 mm": (500, lambda n: FIVE(n) * 10, "mm"),
    "diode -2 mV/°C, 600 mV at 25 °C": (120, lambda n: 25 - (FIVE(n) - 0.6) / 0.002, "°C"),
    "thermocouple type K with amplifier 5 mV/°C, 1.25 V at 0 °C": (500, lambda n: (FIVE(n) - 1.25) / 0.005, "°C"),
    "100 A : 50 mA current transformer, 33 ohm burden, 5 V": (600, lambda n: (FIVE(n) - 2.5) / 0.0165, "A"),
    "wheel 65 mm diameter, 20 slots": (500, lambda n: n * 0.065 * math.pi / 20, "m/s"),
    # Light that comes back at an angle: through both points by a power.
    "infrared distance 2.5 V at 20 cm, 0.4 V at 150 cm": (
        400,
        lambda n: 20 * (FIVE(n) / 2.5) ** (math.log(7.5) / math.log(0.16)),
        "cm",
    ),
    "0.5 V = 0 °C, 1 V = 45 °C, 4.5 V = 94 °C": (600, lambda n: 45 + (FIVE(n) - 1) * 14, "°C"),
    # Equations of what is measured are solved for what is wanted; of a flow meter by a gate of 1 s.
    "Vout = Vs*(0.018*P+0.04) kPa": (600, lambda n: (FIVE(n) / 5 - 0.04) / 0.018, "kPa"),
    "VOUT = VS x (0.009 x P - 0.095) kPa": (600, lambda n: (FIVE(n) / 5 + 0.095) / 0.009, "kPa"),
    "pressure sensor: Vout = Vcc * (P * 0.0018 + 0.04) hPa": (600, lambda n: (FIVE(n) / 5 - 0.04) / 0.0018, "hPa"),
    "Vout = 0.1 * T + 0.5": (600, lambda n: (FIVE(n) - 0.5) / 0.1, "°C"),
    "Vout = 10 mV/°C * T + 500 mV": (600, lambda n: (FIVE(n) - 0.5) / 0.01, "°C"),
    "V = 0.185 * I + 2.5": (600, lambda n: (FIVE(n) - 2.5) / 0.185, "A"),
    "V = 0.1 * uvi": (600, lambda n: FIVE(n) / 0.1, "1"),
    "F = 8.1 * Q - 6": (75, lambda n: (n + 6) / 8.1, "L/min"),
    "flow sensor F = 98 * Q": (75, lambda n: n / 98, "L/min"),
    "f = 7.5 × Q": (75, lambda n: n / 7.5, "L/min"),
    "F=11*Q L/h": (75, lambda n: n / 11, "L/h"),
    "Q = F / 7.5": (75, lambda n: n / 7.5, "L/min"),
    "flow (L/min) = 2 * f + 1": (75, lambda n: 2 * n + 1, "L/min"),
    "counts = 16384 * g": (600, lambda n: n / 16384, "gn"),
    "pm2.5 density = 0.17 * V - 0.1 mg/m3": (600, lambda n: 0.17 * FIVE(n) - 0.1, "mg/m3"),
    # One point, through nothing at 0.
    "1 V = 10 kPa": (600, lambda n: FIVE(n) * 10, "kPa"),
    "100 mV = 1 A": (600, lambda n: FIVE(n) * 10, "A"),
    "EC probe 1 V = 1.413 mS/cm": (600, lambda n: FIVE(n) * 1.413, "mS/cm"),
    "oxygen sensor 10 mV = 20.9 %": (600, lambda n: FIVE(n) * 2090, "%"),
    "1023 = 100 kPa": (600, lambda n: n / 10.23, "kPa"),
    "UV sensor 0.1 V per UV index": (600, lambda n: FIVE(n) * 10, "1"),
    "duration / 58": (600, lambda n: n / 58, "cm"),
    "us / 148 inches": (600, lambda n: n / 148, "in"),
    "rotary encoder 20 steps": (7, lambda n: 18 * n, "°"),
    # Volts for each g are of an acceleration.
    "300 mV/g, zero 1.65 V": (600, lambda n: (FIVE(n) - 1.65) / 0.3, "gn"),
    "accelerometer 300 mV/g, 1.65 V at 0 g": (600, lambda n: (FIVE(n) - 1.65) / 0.3, "gn"),
    # A count of volts on a shunt is a current.
    "2.5 µV per LSB, 0.1 ohm shunt": (600, lambda n: n * 2.5e-6 / 0.1, "A"),
    "10 uV/LSB with a 2 mΩ shunt": (600, lambda n: n * 5e-3, "A"),
    "shunt 0.01 ohm, 2.5 uV per count": (600, lambda n: n * 2.5e-4, "A"),
    # A capital G is gauss of what is magnetic, and g of what is moved.
    "hall 1.4 mV/G, zero 2.5 V": (600, lambda n: (FIVE(n) - 2.5) / 0.0014, "Gs"),
    "magnetometer 1090 LSB/G": (436, lambda n: n / 1090, "Gs"),
    "accelerometer 16384 LSB/G": (4096, lambda n: n / 16384, "gn"),
    # A name of the reading that is a unit elsewhere, and the unit of the result at the end.
    "T = -45 + 175 * S / 65535": (30000, lambda n: -45 + 175 * n / 65535, "°C"),
    "P = (N - 1638) * 100 / 13107 psi": (6000, lambda n: (n - 1638) * 100 / 13107, "psi"),
    "weight (raw - 8388608)/420 g": (8500000, lambda n: (n - 8388608) / 420, "g"),
    "mass = raw / 420 g": (600, lambda n: n / 420, "g"),
    "temp = raw / 16 °F": (600, lambda n: n / 16, "°F"),
    "load = (x - 512) * 9.81 N": (600, lambda n: (n - 512) * 9.81, "N"),
    "bus voltage LSB = 4 mV": (600, lambda n: n * 4, "mV"),
    "current LSB 0.1 mA": (600, lambda n: n * 0.1, "mA"),
    # Volts for W/m², amplified or not, and hertz for anything.
    "solar 15 mV/(W/m2)": (600, lambda n: FIVE(n) / 0.015, "W/m^2"),
    "pyranometer 60 µV per W/m², gain 100": (600, lambda n: FIVE(n) / 0.006, "W/m^2"),
    "K type, 5 mV/°C amplifier, 1.25 V at 0": (600, lambda n: (FIVE(n) - 1.25) / 0.005, "°C"),
    "light sensor 2 Hz per W/m2": (75, lambda n: n / 2, "W/m2"),
    "anemometer 1 pulse per rev, 2.4 km/h per hz": (75, lambda n: n * 2.4, "km/h"),
    "rain gauge 0.2794 mm": (75, lambda n: n * 0.2794, "mm"),
    "encoder 600 pulses/rev, wheel 100 mm": (600, lambda n: n / 600 * math.pi * 0.1, "m/s"),
    # Values by the names that programs have for them.
    "3.7V lipo divider 2x100k": (600, lambda n: FIVE(n) * 2, "V"),
    "thermistor 10k 3950 pullup 10k": (500, lambda n: thermistor_c(half_ohm(n, 10, 10e3), 3950), "°C"),
    "ntc 10k b=3435 r=4k7 vcc=3.3v adc=4095": (2000, lambda n: beta_c(half_ohm(n, 12, 4700), 10e3, 3435), "°C"),
    # The same the other way round, and what is said twice.
    "ph sensor 2.5 V at pH 7, 3.0 V at pH 4": (600, lambda n: 7 - (FIVE(n) - 2.5) * 6, "pH"),
    "pH probe 59.16 mV/pH at pH 7, 2.5 V at pH 7, gain 1": (512, lambda n: 7 - (FIVE(n) - 2.5) / 0.05916, "pH"),
    "humidity sensor 0.826 V + 31.5 mV/%RH": (600, lambda n: (FIVE(n) - 0.826) / 0.0315, "%"),
    "10 mV/°C + 500 mV": (200, lambda n: (FIVE(n) - 0.5) / 0.01, "°C"),
    "soil moisture 0-100 % dry 900 wet 400": (600, lambda n: (900 - n) / 5, "%"),
    "moisture dry 900 wet 400, 0 to 100 %": (600, lambda n: (900 - n) / 5, "%"),
    "water level sensor 0 to 40 mm 0 - 700 counts": (500, lambda n: n * 4 / 70, "mm"),
    "string potentiometer 1 m 10k": (500, lambda n: n / 1024, "m"),
    "dissolved oxygen 40 mV at 100 % saturation": (5, lambda n: FIVE(n) / 0.0004, "%"),
    "thermistor 10k at 25, beta 3950": (500, lambda n: thermistor_c(half_ohm(n, 10, 10e3), 3950), "°C"),
    "amplifier 0-10 V = 0-200 °C, divider 10k/10k": (500, lambda n: FIVE(n) * 2 * 20, "°C"),
    "0 kPa at 200 mV, 50 kPa at 2500 mV and 100 kPa at 4700 mV": (600, lambda n: 50 + (FIVE(n) - 2.5) / 0.044, "kPa"),
}
"""Lines, counts that they are tried at, what such a count is, and in which unit."""
TAILS = (".", ";", " on A0", ", on pin A3", " to analog pin 2", " on GPIO34", " into ADC1", " on GP26")


@pytest.mark.parametrize("line", LINES)
def test_a_line_of_a_data_sheet_reads_right(line: str, tmp_path: Path) -> None:
    """At every tenth second of a capture, before the filters."""
    count, formula, unit = LINES[line]
    desk = opened(tmp_path, count)
    desk.add(line)
    reads_right(desk, formula, unit)
    desk.close()


@pytest.mark.parametrize(
    ("line", "unit", "first"),
    [
        ("F = 9/5 * C + 32", "°F", lambda n: 1.8 * n + 32),
        ("voltage = adc * 5 / 1023", "V", lambda n: n * 5 / 1023),
        ("V = 2 * x", "V", lambda n: 2 * n),
        ("p mbar = 0.1 * counts", "mbar", lambda n: 0.1 * n),
    ],
)
def test_an_equation_of_what_is_wanted_stays_as_it_is(line: str, unit: str, first: Formula, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.add(line)
    reads_right(desk, first, unit)
    desk.close()


@pytest.mark.parametrize("line", ["Vout = Vs*(0.018*P+0.04)", "V = 0.01 * pressure"])
def test_the_unit_of_what_is_wanted_is_asked_for(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    before = desk.state.history.text
    desk.add(line)
    name = "P" if "P" in line else "pressure"
    assert desk.state.message == f'"{line}": say the unit of {name} behind it, like {line} kPa.'
    assert desk.state.history.text == before
    desk.close()


def test_an_equation_of_volts_is_none_of_hertz(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.add("already in Hz")
    before = desk.state.history.text
    desk.add("Vout = 0.1 * T + 0.5")
    assert desk.state.message == (
        '"Vout = 0.1 * T + 0.5" says what volts are, and counts is in Hz; write it as what Hz means.'
    )
    assert desk.state.history.text == before
    desk.add("F = 8.1 * Q - 6")
    reads_right(desk, lambda hz: (hz + 6) / 8.1, "L/min")
    desk.close()


def test_the_supply_of_an_equation_is_told(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.add("Vout = Vs*(0.018*P+0.04) kPa")
    assert desk.state.message.endswith("; Vs is taken as 5 V")
    desk.close()


def test_a_shunt_takes_volts(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.add("0.1 °C per count, 0.1 ohm shunt")
    assert desk.state.message == '"0.1 ohm shunt" makes a current of a voltage, and a count is 0.1 °C.'
    desk.close()


@pytest.mark.parametrize("line", ["16384 LSB/G", "1.4 mV/G", "2 mG per count", "0.5 V/G, zero 1.65 V"])
def test_a_capital_g_alone_is_asked_about(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == f'"{line}": G can be gauss or the pull of the earth; write Gs or gn for it.'
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize("line", LINES)
def test_a_pin_or_a_stop_behind_it_changes_nothing_that_is_read(line: str, tmp_path: Path) -> None:
    count, formula, unit = LINES[line]
    desk = opened(tmp_path, count)
    desk.add(f"{line}{TAILS[len(line) % len(TAILS)]}")
    reads_right(desk, formula, unit)
    desk.close()


def reads_right(desk: Desk, formula: Formula, unit: str) -> None:
    """The last line was taken, and what it made of the raw values is what the formula makes of them."""
    assert not desk.state.message_is_fault, desk.state.message
    run = desk.bench.run(desk.state.project, desk.state.chosen)
    raw, read = run.blocks[Step.RAW].x, run.blocks[Step.TRUE].x
    assert str(desk.state.chosen.unit) == unit
    assert len(raw) > 100
    for place in range(0, len(raw), 100):
        assert read[place] == pytest.approx(formula(float(raw[place])), rel=1e-9, abs=1e-6)


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("1 V = 3 kg, 2 V = 2 m, 3 V = 1 kg", "one point is in m, another in kg."),
        ("100 m = 1 kg, 200 m = 2 kg, 300 m = 5 kg", "its points begin with m, and the laws end in ct."),
    ],
)
def test_points_that_do_not_fit(line: str, says: str, tmp_path: Path) -> None:
    """Nothing is changed, and the sentence names both units."""
    desk = opened(tmp_path, 500)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == f'"{line}": {says}'
    assert desk.state.history.text == before
    desk.close()


def test_a_formula_of_volts_is_none_of_other_counts(tmp_path: Path) -> None:
    """Where there is a law already nothing says what these counts are, and it is not replaced."""
    desk = opened(tmp_path, 512)
    desk.add("multiply by 2")
    before = desk.state.history.text
    desk.add("temp = (V - 0.5) * 100")
    said = "is of a voltage, volts, and counts ends in ct; begin with voltage, then type it again."
    assert desk.state.message == f'"temp = (V - 0.5) * 100" {said}'
    desk.add("T = (x - 0.5) * 100 furlong")
    assert '"furlong" is not a unit Lesart knows' in desk.state.message
    assert desk.state.history.text == before
    desk.close()


def test_a_middle_of_other_bits_than_stated_is_refused(tmp_path: Path) -> None:
    """512 is the middle of ten bits: with twelve one of both is wrong."""
    desk = opened(tmp_path, 500)
    desk.add("joystick -100 to 100 %, centre 512, 12 bits")
    assert desk.state.message.startswith('"centre" says nothing of a knob; it takes bits = 10, ')
    desk.close()


@pytest.mark.parametrize(
    ("line", "span"),
    [
        ("tank 0-200 L, 400 = empty, 900 = full", (0.0, 200.0)),
        ("tank 400 empty 900 full 200 L", (0.0, 200.0)),
        ("depth 4-0 m is 400-900", (0.0, 4.0)),
        ("0-700 = 0-4 cm", (0.0, 4.0)),
        ("depth −2 to 4 m is 400-900", (-2.0, 4.0)),
    ],
)
def test_the_ends_of_a_range_are_those_of_its_readings(line: str, span: tuple[float, float], tmp_path: Path) -> None:
    """A bar is empty and full there; the capture stands in between, and says nothing of them."""
    desk = opened(tmp_path, 500)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert (desk.state.chosen.lowest, desk.state.chosen.highest) == span
    desk.close()
