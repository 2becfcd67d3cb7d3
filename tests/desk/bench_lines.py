"""Lines as makers write them at their benches, and what a count is by each, worked out from scratch."""

from __future__ import annotations

import math
from collections.abc import Callable

from lesart.core.dataclass_later import dataclass


def beta_c(ohm: float, at_25: float, beta: float) -> float:
    """By the definition of beta."""
    return 1 / (1 / 298.15 + math.log(ohm / at_25) / beta) - 273.15


@dataclass(frozen=True)
class At:
    """A count, and what it is of 5 V in 1024 steps or of 3.3 V in 4096."""

    n: float

    @property
    def v(self) -> float:
        return self.n / 1024 * 5

    @property
    def v33(self) -> float:
        return self.n / 4096 * 3.3

    def to_ground(self, fixed: float, steps: int = 1024) -> float:
        """The resistance of a sensor to ground below a fixed one."""
        return fixed * (self.n / steps) / (1 - self.n / steps)

    def to_supply(self, fixed: float, steps: int = 1024) -> float:
        """The resistance of a sensor to the supply above a fixed one."""
        return fixed * (steps / self.n - 1)


BENCH_LINES: dict[str, tuple[Callable[[At], float], str]] = {
    "10k NTC beta 3435 with 4k7 to ground": (lambda a: beta_c(a.to_supply(4700), 1e4, 3435), "°C"),
    "NTC 47k B=4090, 47k pullup": (lambda a: beta_c(a.to_ground(47e3), 47e3, 4090), "°C"),
    "100k thermistor 3950 4.7k pull-up": (lambda a: beta_c(a.to_ground(4700), 1e5, 3950), "°C"),
    "thermistor 10k (B 3380) in series with 22k": (lambda a: beta_c(a.to_ground(22e3), 1e4, 3380), "°C"),
    "pressure 0-10 bar 0.5-4.5 V": (lambda a: (a.v - 0.5) / 4 * 10, "bar"),
    "pressure transducer 0.5V to 4.5V 0 to 150 psi": (lambda a: (a.v - 0.5) / 4 * 150, "psi"),
    "-1 to 5 bar, 0.5 to 4.5 V": (lambda a: -1 + (a.v - 0.5) / 4 * 6, "bar"),
    "vacuum sensor 0.5-4.5 V is -100 to 0 kPa": (lambda a: -100 + (a.v - 0.5) / 4 * 100, "kPa"),
    "humidity 0.8 V at 0 %, 3.9 V at 100 %": (lambda a: (a.v - 0.8) / 3.1 * 100, "%"),
    "4-20 mA 0-100 cm, 150 ohm": (lambda a: ((a.v / 150) - 0.004) / 0.016 * 100, "cm"),
    "4-20 mA into 165 ohm, -50 to 150 °C": (lambda a: -50 + ((a.v / 165) - 0.004) / 0.016 * 200, "°C"),
    "0-10 V is 0-100 % through 10k/10k": (lambda a: a.v * 2 / 10 * 100, "%"),
    "hall sensor 20 mV/A, zero 2.5 V": (lambda a: (a.v - 2.5) / 0.02, "A"),
    "current sensor 66 mV/A, 0 A at 2.5 V": (lambda a: (a.v - 2.5) / 0.066, "A"),
    "shunt 10 mohm gain 50": (lambda a: a.v / 50 / 0.01, "A"),
    "shunt 50 A 75 mV gain 20": (lambda a: a.v / 20 / (0.075 / 50), "A"),
    "0.1 ohm shunt, amplifier gain 10": (lambda a: a.v / 10 / 0.1, "A"),
    "voltage divider 91k 10k": (lambda a: a.v * 101 / 10, "V"),
    "battery 12 V 47k/10k": (lambda a: a.v * 5.7, "V"),
    "divide by 11": (lambda a: a.n / 11, "ct"),
    "voltage divider ratio 11": (lambda a: a.v * 11, "V"),
    "10 mV/°C, 750 mV at 25 °C": (lambda a: 25 + (a.v - 0.75) / 0.01, "°C"),
    "19.5 mV/°C, 400 mV at 0 °C": (lambda a: (a.v - 0.4) / 0.0195, "°C"),
    "-13.6 mV/°C, 2.1 V at 0 °C": (lambda a: (a.v - 2.1) / -0.0136, "°C"),
    "10 mV/°F": (lambda a: a.v / 0.01, "°F"),
    "10 mV/K": (lambda a: a.v / 0.01, "K"),
    "lux = V * 200": (lambda a: a.v * 200, "lx"),
    "anemometer 0.4 V = 0 m/s, 2 V = 32.4 m/s": (lambda a: (a.v - 0.4) / 1.6 * 32.4, "m/s"),
    "wind 0.4-2 V is 0-32.4 m/s": (lambda a: (a.v - 0.4) / 1.6 * 32.4, "m/s"),
    "pH 4 = 3.0 V, pH 7 = 2.5 V": (lambda a: 7 - (a.v - 2.5) * 6, "pH"),
    "EC 2.3 V = 1413 µS/cm": (lambda a: a.v / 2.3 * 1413, "µS/cm"),
    "soil 0 % = 880, 100 % = 400": (lambda a: (880 - a.n) / 4.8, "%"),
    "dry = 880 wet = 400": (lambda a: (880 - a.n) / 4.8, "%"),
    "water level 200 = empty, 900 = full": (lambda a: (a.n - 200) / 7, "%"),
    "0 to 1023 is 0 to 360 degrees": (lambda a: a.n / 1023 * 360, "°"),
    "potentiometer 0 to 270°": (lambda a: a.n / 1024 * 270, "°"),
    "adc * 3.3 / 4095 V": (lambda a: a.n * 3.3 / 4095, "V"),
    "(adc - 102) * 100 / 818": (lambda a: (a.n - 102) * 100 / 818, "ct"),
    "mV = adc * 4.88": (lambda a: a.n * 4.88, "mV"),
    "temp = raw / 100": (lambda a: a.n / 100, "°C"),
    "1/16 °C per LSB": (lambda a: a.n / 16, "°C"),
    "0.0625 °C/LSB": (lambda a: a.n / 16, "°C"),
    "3.9 mg/LSB": (lambda a: a.n * 3.9e-3, "gn"),
    "16384 LSB/g": (lambda a: a.n / 16384, "gn"),
    "0.061 mg per LSB": (lambda a: a.n * 0.061e-3, "gn"),
    "8.75 mdps/LSB": (lambda a: a.n * 8.75, "m°/s"),
    "1 Pa per count": (lambda a: a.n, "Pa"),
    "0.01 % per count": (lambda a: a.n * 0.01, "%"),
    "450 pulses/L flow": (lambda a: a.n / 450 * 60, "L/min"),
    "1000 imp/kWh": (lambda a: a.n / 1000, "kWh"),
    "800 pulses per kWh": (lambda a: a.n / 800, "kWh"),
    "rpm from 2 pulses per rev": (lambda a: a.n * 30, "1/min"),
    "weight 420 counts per gram": (lambda a: a.n / 420, "g"),
    "tare 100, 420 counts per gram": (lambda a: (a.n - 100) / 420, "g"),
    "load cell 10 kg 2 mV/V 24 bit gain 128": (lambda a: a.n / 2**23 / 128 / 2e-3 * 10, "kg"),
    "type K amplifier 5 mV/°C, 1.25 V at 0 °C": (lambda a: (a.v - 1.25) / 0.005, "°C"),
    "CO2 0.4-2 V is 0-5000 ppm": (lambda a: (a.v - 0.4) / 1.6 * 5000, "ppm"),
    "voc 0 - 5 V = 0 - 10 mg/m3": (lambda a: a.v / 5 * 10, "mg/m3"),
    "LDR 10k at 10 lx gamma 0.6, 10k to ground": (lambda a: 10 * (a.to_supply(1e4) / 1e4) ** (-1 / 0.6), "lx"),
    "sound 50 mV/dB, 0 V at 0 dB": (lambda a: a.v / 0.05, "dB"),
    "3.3 V 12 bit": (lambda a: a.v33, "V"),
    "12 bit, 2.5 V": (lambda a: a.n / 4096 * 2.5, "V"),
    "noise meter 0.6-2.6 V = 30-130 dB": (lambda a: 30 + (a.v - 0.6) / 2 * 100, "dB"),
    "battery 3.7 V 100k/100k": (lambda a: a.v * 2, "V"),
    "battery 100k/100k 3.3 V": (lambda a: a.n / 1024 * 3.3 * 2, "V"),
    "12 V battery 100k/33k, 3.3 V ADC": (lambda a: a.n / 1024 * 3.3 * 133 / 33, "V"),
    "solar panel 6 V, 100k 100k": (lambda a: a.v * 2, "V"),
    "battery voltage 0-15 V, 20k 10k": (lambda a: a.v * 3, "V"),
    "NTC 10k B3950 3.3 V 12 bit 10k to ground": (lambda a: beta_c(a.to_supply(1e4, 4096), 1e4, 3950), "°C"),
    "NTC 10k B3950, 10k to VCC, 3.3V, 12-bit": (lambda a: beta_c(a.to_ground(1e4, 4096), 1e4, 3950), "°C"),
    "ntc 10k at 25 °C 3950 K pull-up 10k": (lambda a: beta_c(a.to_ground(1e4), 1e4, 3950), "°C"),
    "NTC 5k at 25°C B=3470 2k pull-up": (lambda a: beta_c(a.to_ground(2e3), 5e3, 3470), "°C"),
    "thermistor with 10k pull-down, beta 3950": (lambda a: beta_c(a.to_supply(1e4), 1e4, 3950), "°C"),
    "LDR with 10k to ground, 20k at 10 lx, gamma 0.7": (lambda a: 10 * (a.to_supply(1e4) / 2e4) ** (-1 / 0.7), "lx"),
    "pressure sensor 0-5 V is 0-100 kPa, 10k/10k divider": (lambda a: a.v * 2 / 5 * 100, "kPa"),
    "0.2-4.7 V = 20-250 kPa": (lambda a: 20 + (a.v - 0.2) / 4.5 * 230, "kPa"),
    "MAP sensor 0.25 V at 20 kPa, 4.75 V at 300 kPa": (lambda a: 20 + (a.v - 0.25) / 4.5 * 280, "kPa"),
    "flow 1-5 V 0-100 L/min": (lambda a: (a.v - 1) / 4 * 100, "L/min"),
    "load 0 V = 0 kg, 5 V = 100 kg": (lambda a: a.v * 20, "kg"),
    "torque ±10 V = ±50 N·m": (lambda a: a.v * 5, "N·m"),
    "±5 g, 2.5 V zero, 400 mV/g": (lambda a: (a.v - 2.5) / 0.4, "gn"),
    "accelerometer 0 g = 1.65 V, 330 mV/g": (lambda a: (a.v - 1.65) / 0.33, "gn"),
    "gyro 2 mV/(°/s), 1.35 V zero": (lambda a: (a.v - 1.35) / 0.002, "°/s"),
    "ct clamp 100 A : 50 mA, 33 ohm": (lambda a: (a.v - 2.5) / (0.05 / 100 * 33), "A"),
    "0-20 mA is 0-10 bar over 250 ohm": (lambda a: a.v / 250 / 0.02 * 10, "bar"),
    "potentiometer -90° to 90°": (lambda a: a.n / 1024 * 180 - 90, "°"),
    "knob 0 to 11": (lambda a: a.n / 1024 * 11, "1"),
    "fader 0 to 127": (lambda a: a.n / 1024 * 127, "1"),
    "wind direction 0 to 5 V is 0 to 360°": (lambda a: a.v / 5 * 360, "°"),
    "angle 10 bits": (lambda a: a.n / 1024 * 360, "°"),
    "slide potentiometer 100 mm": (lambda a: a.n / 1024 * 100, "mm"),
    "raw 100 to 900 is 0 to 100 %": (lambda a: (a.n - 100) / 8, "%"),
    "100..900 -> 0..100 %": (lambda a: (a.n - 100) / 8, "%"),
    "100 = 0 %, 900 = 100 %": (lambda a: (a.n - 100) / 8, "%"),
    "0 % = 100, 100 % = 900": (lambda a: (a.n - 100) / 8, "%"),
    "900 dry, 300 wet": (lambda a: (900 - a.n) / 6, "%"),
    "wet 300 dry 900": (lambda a: (900 - a.n) / 6, "%"),
    "x*2+3": (lambda a: a.n * 2 + 3, "ct"),
    "y = 0.5x - 20 °C": (lambda a: a.n * 0.5 - 20, "°C"),
    "subtract 20 then times 0.1": (lambda a: (a.n - 20) * 0.1, "ct"),
    "slope 0.1 offset -20": (lambda a: a.n * 0.1 - 20, "ct"),
    "T(°C) = 0.1 * x - 20": (lambda a: a.n * 0.1 - 20, "°C"),
    "temp_f = x * 0.18 + 32": (lambda a: a.n * 0.18 + 32, "°F"),
    "(x - 100) / 420 g": (lambda a: (a.n - 100) / 420, "g"),
    "100 counts = 0 g, 520 counts = 1 g": (lambda a: (a.n - 100) / 420, "g"),
    "1 kg = 900, 0 kg = 100": (lambda a: (a.n - 100) / 800, "kg"),
    "500 g at 900, zero at 100": (lambda a: (a.n - 100) / 1.6, "g"),
    "10 mV per ppm, 0.5 V at 0 ppm": (lambda a: (a.v - 0.5) / 0.01, "ppm"),
    "1 V per 100 lx": (lambda a: a.v * 100, "lx"),
    "100 lx per V": (lambda a: a.v * 100, "lx"),
    "20 °C per V, 0 °C at 0.5 V": (lambda a: (a.v - 0.5) * 20, "°C"),
    "2 V/bar": (lambda a: a.v / 2, "bar"),
    "0.5 V per bar, 0.5 V at 0 bar": (lambda a: (a.v - 0.5) / 0.5, "bar"),
    "sensitivity 40 mV/kPa offset 0.2 V": (lambda a: (a.v - 0.2) / 0.04, "kPa"),
    "5 V = 150 psi, 0.5 V = 0 psi": (lambda a: (a.v - 0.5) / 4.5 * 150, "psi"),
    "rpm = pulses * 60 / 4": (lambda a: a.n * 15, "rpm"),
    "1 Hz = 2.4 km/h": (lambda a: a.n * 2.4, "km/h"),
    "4 pulses per revolution": (lambda a: a.n * 15, "1/min"),
    "each pulse is 1 Wh": (lambda a: a.n, "Wh"),
    "every count is 0.25 mm": (lambda a: a.n * 0.25, "mm"),
    "percent of 1023": (lambda a: a.n / 1023 * 100, "%"),
    "x / 1023 * 100 %": (lambda a: a.n / 1023 * 100, "%"),
}
