"""Signals that are said by their figures alone in 3 Law, held against what anyone reckons for each raw value."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from tests.desk.mast import CODE, PULSES, VOLT, mast, read
from tests.desk.test_recipes import opened


@pytest.fixture
def bench(tmp_path: Path) -> Iterator[Desk]:
    desk = mast(tmp_path)
    yield desk
    desk.close()


def on_converter(code: float) -> float:
    return code / 1024 * 5


def signed(number: float, bits: int) -> float:
    """As two's complement has it."""
    return number - 2**bits if number >= 2 ** (bits - 1) else number


# What is said of a channel, its unit, and what anyone reckons for a raw value.
SIGNALS: list[tuple[str, str, str, Callable[[float], float]]] = [
    (CODE, "volts", "V", on_converter),
    (CODE, "to V", "V", on_converter),
    (CODE, "5 V reference", "V", on_converter),
    (CODE, "3.3 V", "V", lambda code: code / 1024 * 3.3),
    (CODE, "vref 3.3 V 12 bit", "V", lambda code: code / 4096 * 3.3),
    (CODE, "percent", "%", lambda code: 100 * code / 1023),
    (CODE, "0.5-4.5 V is 0-10 bar", "bar", lambda code: (on_converter(code) - 0.5) * 2.5),
    (CODE, "pressure 0.5-4.5 V 0-100 psi", "psi", lambda code: (on_converter(code) - 0.5) * 25),
    (CODE, "0-10 bar from 500 to 4500 mV", "bar", lambda code: (on_converter(code) - 0.5) * 2.5),
    (CODE, "humidity 0.8 V to 3.9 V is 0 to 100 %", "%", lambda code: (on_converter(code) - 0.8) / 3.1 * 100),
    (CODE, "0 V: 0 %, 5 V: 100 %", "%", lambda code: on_converter(code) * 20),
    (CODE, "0.5V @ 0 bar; 4.5V @ 10 bar", "bar", lambda code: (on_converter(code) - 0.5) * 2.5),
    (CODE, "0...5 V → 0...100 %", "%", lambda code: on_converter(code) * 20),
    (CODE, "12 bits", "V", lambda code: code / 4096 * 5),
    (CODE, "slope 2 offset -3", "ct", lambda code: 2 * code - 3),
    (CODE, "a = 0.5, b = 7", "ct", lambda code: 0.5 * code + 7),
    (CODE, "x² - 7", "ct", lambda code: code**2 - 7),
    (CODE, "66 mV/A", "A", lambda code: (on_converter(code) - 2.5) / 0.066),
    (CODE, "66 mV/A, zero 2.4 V", "A", lambda code: (on_converter(code) - 2.4) / 0.066),
    (CODE, "10 mV per degree", "°C", lambda code: (on_converter(code) - 0.5) / 0.01),
    (CODE, "10 mV/°C with 400 mV offset", "°C", lambda code: (on_converter(code) - 0.4) / 0.01),
    (CODE, "1.25 V at 0 °C, 5 mV per °C", "°C", lambda code: (on_converter(code) - 1.25) / 0.005),
    (CODE, "300 wet 800 dry", "%", lambda code: (800 - code) / 5),
    (CODE, "soil moisture dry 800, wet 300", "%", lambda code: (800 - code) / 5),
    (CODE, "tank is empty at 120 and full at 880", "%", lambda code: (code - 120) / 7.6),
    (CODE, "0 % at 120, 100 % at 880", "%", lambda code: (code - 120) / 7.6),
    (CODE, "divider 100k 22k", "V", lambda code: on_converter(code) * 122 / 22),
    (CODE, "shunt 0.1 ohm", "A", lambda code: on_converter(code) / 20 / 0.1),
    (CODE, "current over a 0.5 ohm shunt, gain = 10", "A", lambda code: on_converter(code) / 10 / 0.5),
    (CODE, "4-20 mA over 250 ohm is 0-10 bar", "bar", lambda code: (on_converter(code) / 0.25 - 4) / 16 * 10),
    (CODE, "load cell 2mV/V 5kg", "kg", lambda code: code / 2**23 / 128 * 1000 / 2 * 5),
    (CODE, "scale by 3", "ct", lambda code: 3 * code),
    (CODE, "scale 0.0122", "ct", lambda code: 0.0122 * code),
    (CODE, "10 bit 3.3V", "V", lambda code: code / 1024 * 3.3),
    (CODE, "12-bit adc at 3.3 V", "V", lambda code: code / 4096 * 3.3),
    (CODE, "sensor gives 0.5V at 0 psi and 4.5V at 100 psi", "psi", lambda code: (on_converter(code) - 0.5) * 25),
    (CODE, "wind speed 0.4-2V 0-32.4 m/s", "m/s", lambda code: (on_converter(code) - 0.4) / 1.6 * 32.4),
    (CODE, "0-1023 to 0-270 degrees", "°", lambda code: code / 1023 * 270),
    (CODE, "map 0 1023 0 100", "1", lambda code: code / 1023 * 100),
    (CODE, "times 3.3 / 4095", "ct", lambda code: code * 3.3 / 4095),
    (CODE, "minus 512 then times 0.1", "ct", lambda code: (code - 512) * 0.1),
    (CODE, "plus 8, divided by 4 and then minus 2", "ct", lambda code: (code + 8) / 4 - 2),
    (CODE, "amplifier with a gain of 11", "ct", lambda code: code / 11),
    (CODE, "pH 7 = 500 counts, pH 4 = 650 counts", "pH", lambda code: 7 - (code - 500) / 50),
    (CODE, "7.0 pH at 500 and 4.0 pH at 650", "pH", lambda code: 7 - (code - 500) / 50),
    (CODE, "battery 3.0-4.2V", "%", lambda code: (on_converter(code) - 3) / 1.2 * 100),
    (CODE, "level = 100 - reading", "1", lambda code: 100 - code),
    (CODE, "ultrasonic", "m", lambda code: code * 1e-6 * 331.3 * (293.15 / 273.15) ** 0.5 / 2),
    (CODE, "58 us per cm", "m", lambda code: code * 1e-6 * 331.3 * (293.15 / 273.15) ** 0.5 / 2),
    (CODE, "speed of sound 331.3", "m", lambda code: code * 1e-6 * 331.3 / 2),
    (CODE, "600 mm empty 200 mm full", "%", lambda code: (600 - code) / 4),
    (VOLT, "battery 1.0-1.5V", "%", lambda volt: (volt - 1) / 0.5 * 100),
    (VOLT, "minus 0.5 V then times 100", "V", lambda volt: (volt - 0.5) * 100),
    (VOLT, "2 V minus volts", "V", lambda volt: 2 - volt),
    (VOLT, "pH 7 = 1.25 V, pH 4 = 1.4 V", "pH", lambda volt: 7 - (volt - 1.25) / 0.05),
    (CODE, "shift right 4", "ct", lambda code: code // 16),
    (CODE, ">> 4", "ct", lambda code: code // 16),
    (CODE, "shift left 2", "ct", lambda code: 4 * code),
    (CODE, "lower 6 bits", "ct", lambda code: code % 64),
    (CODE, "mask 0x3F", "ct", lambda code: code % 64),
    (CODE, "12 bit left justified", "ct", lambda code: code // 16),
    (CODE, "12 bits left justified, 0.0625 °C per LSB", "°C", lambda code: code // 16 * 0.0625),
    (CODE, "bits 9..3 signed * 0.25 °C", "°C", lambda code: signed(code // 8 % 128, 7) * 0.25),
    (CODE, "bits 3 to 9 unsigned, 0.25 kPa per count", "kPa", lambda code: code // 8 % 128 * 0.25),
    (CODE, "top 8 bits of 10, 0.5 kPa", "kPa", lambda code: code // 4 * 0.5),
    (CODE, ">> 2, signed, times 0.1 V", "V", lambda code: signed(code // 4, 8) * 0.1),
    (CODE, "raw >> 4 signed 6 bits 0.5", "ct", lambda code: signed(code // 16, 6) * 0.5),
    (CODE, "low 6 bits, 0.1 kPa", "kPa", lambda code: code % 64 * 0.1),
    (CODE, "10 bit signed 0.01 °C", "°C", lambda code: signed(code, 10) * 0.01),
    (CODE, "in steps of 5", "ct", lambda code: 5 * ((2 * code + 5) // 10)),
    (VOLT, "round to 0.25", "V", lambda volt: 0.25 * float(np.floor(volt / 0.25 + 0.5))),
    (VOLT, "0.5 * floor(x / 0.5 + 0.5)", "V", lambda volt: 0.5 * float(np.floor(volt / 0.5 + 0.5))),
    (CODE, "invert 0..1023", "ct", lambda code: 1023 - code),
    (CODE, "reverse 100 to 900", "ct", lambda code: 1000 - code),
    (CODE, "stepper 200 steps per rev lead 8 mm", "mm", lambda code: code * 8 / 200),
    (CODE, "200 steps/rev, 8 mm lead, 1/16 microstepping", "mm", lambda code: code * 8 / 3200),
    (CODE, "encoder 2400 cpr wheel diameter 65 mm", "mm", lambda code: code * np.pi * 65 / 2400),
    (CODE, "transimpedance 100 kΩ, gain = 1", "A", lambda code: on_converter(code) / 1e5),
    (CODE, "swap bytes", "ct", lambda code: code % 256 * 256 + code // 256),
    (CODE, "Q8.8", "ct", lambda code: code / 256),
    (CODE, "8.8 fixed point", "ct", lambda code: code / 256),
    (CODE, "Q15", "ct", lambda code: code / 32768),
    (CODE, "0-100 %", "%", lambda code: 100 * code / 1023),
    (CODE, "-100 to 100 %", "%", lambda code: 200 * code / 1024 - 100),
    (CODE, "0..270 degrees", "°", lambda code: 270 * code / 1024),
    (CODE, "current sensor 66mV/A, 2.5V at zero", "A", lambda code: (on_converter(code) - 2.5) / 0.066),
    (PULSES, "7.5 Hz per L/min", "L/min", lambda count: count / 7.5),
    (PULSES, "F = 7.5 Q", "L/min", lambda count: count / 7.5),
    (PULSES, "rpm 2 pulses per rev", "1/min", lambda count: 30 * count),
    (PULSES, "encoder 600 ppr", "1/min", lambda count: count / 10),
    (PULSES, "60 teeth gear", "1/min", lambda count: count),
    (PULSES, "kWh meter 1000 imp", "kWh", lambda count: count / 1000),
    (PULSES, "wheel circumference 2.1 m", "m/s", lambda count: 2.1 * count),
    (VOLT, "66 mV/A, zero 1 V", "A", lambda volt: (volt - 1) / 0.066),
    (VOLT, "dry 2.8 V wet 1.2 V", "%", lambda volt: (2.8 - volt) / 1.6 * 100),
    (VOLT, "dB = 20 * log10(x / 0.775)", "dB", lambda volt: 20 * float(np.log10(volt / 0.775))),
    (PULSES, "rpm", "1/min", lambda count: 60 * count),
    (PULSES, "rpm from 2 pulses per turn", "1/min", lambda count: 30 * count),
    (PULSES, "turns per minute, 4 magnets", "1/min", lambda count: 15 * count),
    (CODE, "12 bit adc 3v3", "V", lambda code: code / 4096 * 3.3),
    (CODE, "3v3", "V", lambda code: code / 1024 * 3.3),
    (CODE, "lsb 0.125 mV", "mV", lambda code: code * 0.125),
    (CODE, "185 mV/A offset 2.5 V", "A", lambda code: (on_converter(code) - 2.5) / 0.185),
    (CODE, "hall 185 mV/A 2.5V zero", "A", lambda code: (on_converter(code) - 2.5) / 0.185),
    # 100 A in are 50 mA in 33 Ω; 2000 turns; half the reference where no current flows.
    (CODE, "current clamp 100A 50mA burden 33 ohm", "A", lambda code: (on_converter(code) - 2.5) / (0.05 * 33 / 100)),
    (CODE, "ct 2000:1 burden 62 ohm", "A", lambda code: (on_converter(code) - 2.5) / (62 / 2000)),
    (CODE, "current transformer 1:1000, 22 ohm", "A", lambda code: (on_converter(code) - 2.5) / (22 / 1000)),
    (CODE, "ct 30A/1V", "A", lambda code: (on_converter(code) - 2.5) * 30),
    (CODE, "ntc 100k beta 3950 pullup 4.7k", "°C", lambda code: beta_c(to_ground(code, 4700), 1e5, 3950)),
    (CODE, "b 3435 25C 10k", "°C", lambda code: beta_c(to_ground(code, 1e4), 1e4, 3435)),
    (CODE, "10k ntc B25/85 3977 with 4k7", "°C", lambda code: beta_c(to_ground(code, 4700), 1e4, 3977)),
    (CODE, "ldr 10k pulldown, 50k at 10 lux, gamma 0.7", "lx", lambda code: 10 * (to_supply(code) / 5e4) ** (-1 / 0.7)),
    (CODE, "ldr gamma 0.8 r10 50k", "lx", lambda code: 10 * (to_supply(code) / 5e4) ** (-1 / 0.8)),
    (CODE, "ldr 5k at 100 lux, gamma 0.6", "lx", lambda code: 100 * (to_supply(code) / 5e3) ** (-1 / 0.6)),
    (
        CODE,
        "4-20 mA via 165 ohm = -40..60 C",
        "°C",
        lambda code: -40 + (on_converter(code) / 165 - 0.004) / 0.016 * 100,
    ),
    (PULSES, "wheel diameter 65 mm 20 slots", "m/s", lambda count: np.pi * 0.065 / 20 * count),
    (PULSES, "flow 450 pulses per liter", "L/min", lambda count: count * 60 / 450),
    (PULSES, "tach 2 pulses per rev", "1/min", lambda count: 30 * count),
]


def to_ground(code: float, fixed: float) -> float:
    """A resistance between the tap and ground."""
    return fixed * code / (1024 - code)


def to_supply(code: float) -> float:
    """A resistance between the supply and the tap, over 10 kΩ."""
    return 1e4 * (1024 - code) / code


def beta_c(ohm: float, at_25: float, beta: float) -> float:
    return float(1 / (1 / 298.15 + np.log(ohm / at_25) / beta) - 273.15)


@pytest.mark.parametrize(("channel", "line", "unit", "wanted"), SIGNALS, ids=[line for _, line, *_ in SIGNALS])
def test_a_signal_is_what_its_figures_say(
    channel: str, line: str, unit: str, wanted: Callable[[float], float], bench: Desk
) -> None:
    bench.choose_channel(channel)
    raw = bench.bench.run(bench.state.project, bench.state.chosen).blocks[Step.RAW].x
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    assert bench.state.chosen.unit == parse_unit(unit)
    assert read(bench) == pytest.approx([wanted(float(value)) for value in raw], rel=1e-9)


@pytest.mark.parametrize(
    ("line", "metres"),
    [
        ("148 us per inch", 0.0254 / 148),
        ("0.0172 cm per us", 0.000172),
        ("ultrasonic 0.0343 cm/µs", 0.000343 / 2),
        ("0.034/2 cm per us", 0.00017),
        ("0.034 cm per us / 2", 0.00017),
    ],
)
def test_an_echo_is_as_far_as_sound_goes_in_half_of_its_time(line: str, metres: float, bench: Desk) -> None:
    """By the temperature of air at which it is that fast, to six figures."""
    bench.choose_channel(CODE)
    raw = bench.bench.run(bench.state.project, bench.state.chosen).blocks[Step.RAW].x
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    assert read(bench) == pytest.approx(metres * raw, rel=1e-6)


@pytest.mark.parametrize(
    ("line", "decimals"),
    [
        ("kPa = x * 0.05", 1),  # 25.6 kPa in three figures
        ("V = x * 0.001", 3),
        ("12 bits left justified, 0.0625 °C", 1),  # 2.00 °C would be three, but its steps are coarser than a hundredth
        ("mm = x * 2", 0),
    ],
)
def test_counts_that_become_a_quantity_have_decimals(line: str, decimals: int, tmp_path: Path) -> None:
    """Bare counts of about 512 have none; what they become shows three figures, as many as a count is worth at most."""
    desk = opened(tmp_path)
    assert desk.state.chosen.field.decimals == 0
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.field.decimals == decimals
    desk.undo()
    assert desk.state.chosen.field.decimals == 0
    desk.close()
