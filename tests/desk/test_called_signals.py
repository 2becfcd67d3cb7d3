"""Signals by what makers call them, at either end of a divider, from one value to another; and how they start."""

from __future__ import annotations

import math
import tomllib
from pathlib import Path

import pytest

from lesart.core.notes import REMARK, Key
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.phrases.called import CALLED
from lesart.desk.entries.recipes.which import with_article
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.project.new.limits import within_reach
from lesart.project.new.make import make_project
from lesart.project.toml_values import value_at
from tests.desk.test_recipes import READS, half_ohm, opened, platinum_c, thermistor_c


@pytest.mark.parametrize("name", sorted({line.partition(", ")[0] for line in CALLED.values()}))
def test_what_people_call_a_signal_means_its_recipe(name: str, tmp_path: Path) -> None:
    """Behind an article, and without one where nothing else can be meant: the same laws as by the recipe's own name."""
    desk = opened(tmp_path, READS[name][0])
    for called, line in CALLED.items():
        recipe, _, known = line.partition(", ")
        if recipe == name:
            own = law_of(desk, f"{SIGNALS[name].begins}, {known}" if known else SIGNALS[name].begins)
            assert law_of(desk, with_article(called)) == own, called
    desk.close()


def law_of(desk: Desk, line: str) -> str:
    """What a line makes of the channel, or why not: what a platinum resistor of 100 Ω would read at such a count is
    nowhere. Nothing is changed afterwards."""
    desk.add(line)
    if desk.state.message_is_fault:
        return desk.state.message
    law = str(tomllib.loads(desk.state.history.text)["channels"]["counts"]["law"])
    desk.undo()
    return law


@pytest.mark.parametrize(
    ("line", "raw", "reading", "unit"),
    [
        ("a hall current sensor 2.5 V zero, 66 mV/A", 512, 0.0, "A"),
        ("a sensor giving 66 mV/A, zero = 2.5 V, 12 bits", 3072, (3.75 - 2.5) / 0.066, "A"),
        ("a sensor giving 20 mV/kPa, zero = 0.2 V at 3.3 V", 512, (1.65 - 0.2) / 0.02, "kPa"),
        ("a sensor giving 10 mV/°C, zero = 500 mV", 205, (205 / 1024 * 5 - 0.5) / 0.01, "°C"),
        ("a current shunt 0.1 Ω with gain 50, 12 bits at 3.3 V", 2048, 1.65 / 50 / 0.1, "A"),
        ("a shunt 10 mΩ, gain = 100, zero = 2.5 V", 256, -1.25 / 100 / 0.01, "A"),
        ("a flow meter 450 pulses per litre", 15, 15 / 450 * 60, "L/min"),
        ("a water meter, 10 pulses per liter, gate = 10 s", 5, 5 / 10 / 10 * 60, "L/min"),
        ("a thermometer, 0.0625 °C per count", 400, 25.0, "°C"),
        ("a barometer 0,01 hPa/LSB", 101_325, 1013.25, "hPa"),
        ("0.5 % per bit", 90, 45.0, "%"),
        ("an accelerometer, 4096 counts per m/s^2", 2048, 0.5, "m/s^2"),
        ("an accelerometer, 16384 counts per g", 8192, 0.5, "gn"),
        ("an accelerometer, 0.061 mg/LSB", 2000, 0.122, "gn"),
        ("a tilt sensor, 0,5 mg per count", 2000, 1.0, "gn"),
        ("a scale, 0.5 g per count", 2000, 1000.0, "g"),
        ("a pH probe, 1.65 V at pH 7, gain = 3, on a 12 bit ADC at 3.3 V", 2048, 7.0, "pH"),
        ("a pH electrode, slope = -57 mV/pH, gain 4, 1.5 V at pH 7.0", 512, 7 - 1.0 / (4 * 0.057), "pH"),
        ("pH, gain = -3", 600, 7 + (600 / 1024 * 5 - 2.5) / (3 * 0.05916), "pH"),
        (
            "a thermistor 10k with 4k7, beta = 3435 on a 12-bit ADC at 3.3 V",
            2400,
            thermistor_c(half_ohm(2400, 12, 4700), 3435),
            "°C",
        ),
        ("a light sensor 10k pull-down", 512, 10 * (10 / 20) ** (-1 / 0.7), "lx"),
        ("a photoresistor with 10k to ground", 512, 10 * (10 / 20) ** (-1 / 0.7), "lx"),
        ("a photoresistor, 10k pull-up", 256, 10 * (10 * 256 / 768 / 20) ** (-1 / 0.7), "lx"),
        ("a photoresistor, pull-down 10k", 256, 10 * (10 * 768 / 256 / 20) ** (-1 / 0.7), "lx"),
        ("a thermistor 10k B3435 pull-up 4k7 10 bit 5V", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        (
            "an NTC thermistor 10k 3435 with a 4k7 pullup on a 12-bit ADC at 3.3V",
            2400,
            thermistor_c(half_ohm(2400, 12, 4700), 3435),
            "°C",
        ),
        ("an NTC 10k 3435 with 4k7 series resistor, 12 bits", 2400, thermistor_c(half_ohm(2400, 12, 4700), 3435), "°C"),
        ("a Pt100 converter", 8400, platinum_c(8400 / 2**15 * 430, 100), "°C"),
        ("Pt100, 430 ohm reference, 15 bits", 8400, platinum_c(8400 / 2**15 * 430, 100), "°C"),
        ("a Pt100, 430 ohm reference ± 0.1 %", 8400, platinum_c(8400 / 2**15 * 430, 100), "°C"),
        ("rtd amplifier pt100 rref 430", 8400, platinum_c(8400 / 2**15 * 430, 100), "°C"),
        ("a Pt1000 with a 4k3 reference resistor", 8400, platinum_c(8400 / 2**15 * 4300, 1000), "°C"),
        ("an RTD through a converter of 16 bits, reference 400R", 20_000, platinum_c(20_000 / 2**16 * 400, 100), "°C"),
        ("an RTD-to-digital converter, Rref = 430 Ω ± 0.1 %", 8400, platinum_c(8400 / 2**15 * 430, 100), "°C"),
        ("a Pt1000 half with reference 5 V", 540, platinum_c(half_ohm(540, 10, 1000), 1000), "°C"),
        ("a Pt1000 with a 2k2 resistor", 384, platinum_c(2200 * 384 / 640, 1000), "°C"),
        ("a soil moisture sensor, dry 3000 wet 1200", 2100, 50.0, "%"),
        ("a capacitive soil moisture sensor 800 dry, 300 wet", 425, 75.0, "%"),
        ("a water level 0 to 1023", 1023, 100.0, "%"),
        ("a tank level, 200 empty, 900 full", 375, 25.0, "%"),
        ("a pressure transducer 150 psi", 512, 75.0, "psi"),
        ("a MAP sensor 0.5-4.5 V 20-250 kPa", 512, 135.0, "kPa"),
        ("a 4-20 mA level sensor 0-5 m with 150 ohm", 512, (2.5 / 150 - 0.004) / 0.016 * 5, "m"),
        ("a 4..20 mA transmitter 0 to 16 bar on 220 Ω", 512, (2.5 / 220 - 0.004) / 0.016 * 16, "bar"),
        ("a PT100 with 4-20 mA -50 to 150 °C", 512, (2.5 / 165 - 0.004) / 0.016 * 200 - 50, "°C"),
        ("a 4-20 mA loop 10 bar", 512, (2.5 / 165 - 0.004) / 0.016 * 10, "bar"),
        ("a battery through 100k and 33k at 3.3 V 12 bit", 2048, 1.65 * 133 / 33, "V"),
        ("a battery with divider 100k/33k", 512, 2.5 * 133 / 33, "V"),
        ("a 12 V battery over a divider 30k 7.5k", 512, 2.5 * 5, "V"),
        ("a 12 V lead battery behind 30k and 10k", 512, 10.0, "V"),
        ("a solar panel through 47k and 10k", 512, 2.5 * 5.7, "V"),
        ("a rain gauge 0.2794 mm per tip", 10, 2.794, "mm"),
        ("an energy meter, 0.5 Wh per pulse", 10, 5.0, "Wh"),
        ("a flow sensor 7.5 Hz per L/min", 15, 2.0, "L/min"),
        ("a flow meter F = 7.5 Q", 15, 2.0, "L/min"),
        ("an analog temperature sensor 10 mV/°C, 500 mV at 0 °C", 205, (205 / 1024 * 5 - 0.5) / 0.01, "°C"),
        ("a temperature sensor 20 mV per degree, 400 mV at 0", 205, (205 / 1024 * 5 - 0.4) / 0.02, "°C"),
        ("a current sensor, 185 mV per ampere, 2.5 V at 0 A", 600, (600 / 1024 * 5 - 2.5) / 0.185, "A"),
        ("a barometer in Pa", 512, 512.0, "Pa"),
        ("the humidity in %", 51, 51.0, "%"),
        ("a weight in grams", 512, 512.0, "g"),
        ("a temperature in hundredths of a degree", 2155, 21.55, "°C"),
        ("a temperature in tenths of °C", 215, 21.5, "°C"),
        ("the temperature in °C x 100", 2155, 21.55, "°C"),
        ("an accelerometer ±2 g 16 bit", 16384, 1.0, "gn"),
        ("an accelerometer, 12 bits, ±4 g", 512, 1.0, "gn"),
        ("a 16 bit signed ADC ±4.096 V", 8000, 1.0, "V"),
        ("a gyroscope ±250 °/s, 16 bits", 16384, 125.0, "°/s"),
        ("a thermistor on A0 with a 4k7 resistor, beta 3435", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a Pt1000 on GPIO34, 12 bits, 3.3 V", 2100, platinum_c(half_ohm(2100, 12, 1000), 1000), "°C"),
        ("a humidity sensor 0-3 V, 0-100 %", 307, 307 / 1024 * 5 / 3 * 100, "%"),
        ("a CO2 sensor 0.4 to 2 V, 400 to 5000 ppm", 256, 400 + (1.25 - 0.4) / 1.6 * 4600, "ppm"),
        ("a temperature in 0.1 °C", 215, 21.5, "°C"),
        ("an anemometer, 2.4 km/h per Hz", 5, 12.0, "km/h"),
        ("a cup anemometer, 2.4 km/h per pulse per second, gate = 2 s", 5, 6.0, "km/h"),
        ("an anemometer, 1 Hz = 2.4 km/h", 5, 12.0, "km/h"),
        ("a wind speed sensor, 1 pulse per second is 0.667 m/s", 6, 4.002, "m/s"),
        ("a battery divided by 4", 512, 10.0, "V"),
        ("a 12 V battery, 1:4 divider, 12 bit ADC at 3.3 V", 2048, 6.6, "V"),
        ("a solar panel voltage 11:1", 512, 27.5, "V"),
        ("a battery with a ratio of 5.7", 512, 14.25, "V"),
        ("a potentiometer, 0 to 270 degrees, 12 bits", 2048, 135.0, "°"),
        ("a potentiometer from -135° to 135°", 256, -67.5, "°"),
        ("a linear potentiometer 100 mm, 12 bit adc", 1024, 25.0, "mm"),
        ("a 10k slide pot of 60 mm travel", 512, 30.0, "mm"),
        ("a hall sensor with 2 magnets", 5, 150.0, "1/min"),
        ("a fan tacho, 2 pulses per revolution", 40, 1200.0, "1/min"),
        ("a hall current sensor ±30 A, 66 mV/A", 600, (600 / 1024 * 5 - 2.5) / 0.066, "A"),
        ("a thermocouple amplifier 5 mV/°C, 1.25 V at 0 °C", 512, 250.0, "°C"),
        ("a thermocouple, 0.25 °C per count", 400, 100.0, "°C"),
        ("a gas meter, 0.01 m3 per pulse", 250, 2.5, "m^3"),
        ("an energy meter 1000 pulses per kWh", 250, 0.25, "kWh"),
        ("an encoder, 1 count is 0.05 mm", 250, 12.5, "mm"),
        ("a pressure in steps of 0.1 hPa", 10132, 1013.2, "hPa"),
        ("a magnetic encoder, 4096 counts per revolution", 1024, 0.25, "turn"),
        ("an encoder, 0.01 mm per step", 512, 5.12, "mm"),
        ("a stepper, 200 steps per turn", 50, 0.25, "turn"),
        ("a kitchen scale 5 kg 2 mV/V", 500_000, 500_000 / 2**23 / 128 * 1000 / 2 * 5, "kg"),
        ("a bicycle wheel with 2 magnets", 10, 300.0, "1/min"),
        ("an ADC 0-3.3 V, 12 bits", 1024, 0.825, "V"),
        ("an analog input 0 to 2.5 V", 512, 1.25, "V"),
        ("a shunt of 0.01 ohm amplified 100 times", 512, 2.5, "A"),
        ("an ultrasonic echo in µs", 5000, 0.5 * 5000e-6 * 331.3 * math.sqrt(1 + 20 / 273.15), "m"),
        ("an ultrasonic sensor", 5000, 0.5 * 5000e-6 * 331.3 * math.sqrt(1 + 20 / 273.15), "m"),
        ("a 3.3 V 12 bit ADC", 1024, 3.3 / 4, "V"),
        ("a voltage divider 10k 20k, 3.3 V", 512, 3.3 / 2 * 1.5, "V"),
        ("a 4-20mA loop 0-100 °C with 250 ohm", 615, (615 / 1024 * 5 / 250 - 0.004) / 0.016 * 100, "°C"),
        ("an NTC 10k, 3435, 4k7", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a thermistor 10000, 3435, 4700", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a load cell 5 kg, 2", 500_000, 500_000 / 2**23 / 128 * 1000 / 2 * 5, "kg"),
        ("a wheel 20", 500, 500 / 20 * 60, "1/min"),
        ("a 10k thermistor B=3435 with 4k7", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a 10k NTC B3435, fixed 4k7", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a thermistor 10k beta 3435 with 4k7", 600, thermistor_c(half_ohm(600, 10, 4700), 3435), "°C"),
        ("a speed sensor 20 slots", 500, 500 / 20 * 60, "1/min"),
        ("an angle of 12 bits", 1024, 90.0, "°"),
        ("a wind vane", 768, 270.0, "°"),
    ],
)
def test_what_is_said_is_what_is_read(line: str, raw: float, reading: float, unit: str, tmp_path: Path) -> None:
    """By the arithmetic of its data sheet; the capture stands there."""
    desk = opened(tmp_path, raw)
    desk.add(with_article(line))
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    assert str(channel.unit) == unit
    assert follow(desk.state.project, channel, raw).reading.value == pytest.approx(reading, rel=1e-9, abs=1e-9)
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        # 1/(1/298.15 + ln(R/100k)/3950) of its hottest and coldest, and 315 ÷ (1024 − 315) of 4.7 kΩ.
        ("a thermistor 100k with 4k7", "315 ct is 2088 Ω; thermistor by beta holds from "),
        ("a Pt100 with 1k", "315 ct is 444.3 Ω; platinum holds from 18.52 Ω to 390.5 Ω; nothing is changed."),
    ],
)
def test_where_no_reading_comes_the_law_is_named_that_ends_it(line: str, says: str, tmp_path: Path) -> None:
    """With what it is given and what it holds for."""
    desk = opened(tmp_path, 315)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message.startswith(f"counts: {says}")
    assert desk.state.message.endswith("; nothing is changed.")
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize(
    ("line", "zero", "full"),
    [
        ("moisture from 2800 to 1200", 2800, 1200),
        ("a soil moisture 2800 to 1200 ct", 2800, 1200),
        ("fill level, from = 800, to = 1000", 800, 1000),
        ("a share from 0 ct to 4095 ct", 0, 4095),
        ("a share from 1234567 to 9876543", 1_234_567, 9_876_543),
    ],
)
def test_a_share_goes_from_one_count_to_another(line: str, zero: float, full: float, tmp_path: Path) -> None:
    desk = opened(tmp_path, (zero + full) / 2)
    desk.add(with_article(line))
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    for raw, share in ((zero, 0.0), (full, 100.0)):
        assert follow(desk.state.project, channel, raw).reading.value == pytest.approx(share, abs=1e-6)
    assert (channel.lowest, channel.highest) == (0.0, 100.0)
    desk.close()


@pytest.mark.parametrize(
    "line",
    [
        "4-20 mA 0 to 10 bar",
        "a current loop, low = 0 bar, high = 10 bar",
        "4 to 20 mA loop 0 bar to 10 bar",
        "a current loop 4-20 mA, 0-10 bar",
        "a current loop of 4 mA to 20 mA and 0…10 bar",
    ],
)
def test_a_loop_goes_from_one_reading_to_another(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 400)
    desk.add(with_article(line))
    assert not desk.state.message_is_fault, desk.state.message
    assert str(desk.state.chosen.unit) == "bar"
    amperes = 400 / 1024 * 5 / 165
    reading = follow(desk.state.project, desk.state.chosen, 400.0).reading.value
    assert reading == pytest.approx((amperes - 0.004) / 0.016 * 10)
    desk.close()


@pytest.mark.parametrize(
    ("line", "at_half_a_volt", "at_four_and_a_half", "unit"),
    [
        ("a sensor in volts from 0.5 V to 4.5 V, 0 to 10 bar", 0.0, 10.0, "bar"),
        ("pressure sensor 0.5-4.5 V, 0-10 bar", 0.0, 10.0, "bar"),
        ("a pressure transmitter of -1 to 9 bar with 0.5 V to 4.5 V", -1.0, 9.0, "bar"),
        ("a transducer 500 mV to 4500 mV, from = 500 mV", 0.0, 0.0, ""),
        ("a transducer, 4500 mV to 500 mV and 0 mm to 40 mm", 40.0, 0.0, "mm"),
        ("a sensor in volts 0.5 V ± 20 mV to 4.5 V, 0 to 10 bar", 0.0, 0.0, "voltage at the high end ="),
        ("a sensor in volts 0 m to 3 kg", 0.0, 0.0, "Both ends of a range are of one kind, not m and kg."),
        (
            "a sensor in volts 1 V to 1 V",
            0.0,
            0.0,
            "A range goes from one voltage to another, and from one reading to another.",
        ),
    ],
)
def test_a_sensor_in_volts_goes_from_one_voltage_to_another(
    line: str, at_half_a_volt: float, at_four_and_a_half: float, unit: str, tmp_path: Path
) -> None:
    """Two ranges, told apart by their units; what was said of its range is not assumed."""
    desk = opened(tmp_path, 512)
    desk.add(with_article(line))
    if at_half_a_volt == at_four_and_a_half:
        assert desk.state.message_is_fault
        assert unit in desk.state.message
        desk.close()
        return
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    assert str(channel.unit) == unit
    for volts, wanted in ((0.5, at_half_a_volt), (4.5, at_four_and_a_half)):
        reading = follow(desk.state.project, channel, volts / 5 * 1024).reading.value
        assert reading == pytest.approx(wanted, abs=1e-9)
    assert {channel.lowest, channel.highest} == {at_half_a_volt, at_four_and_a_half}
    assumed = {key[-1] for key in desk.state.project.assumed if key[:2] == ("channels", "counts")}
    assert assumed & {"lowest", "highest", "input", "output", "slope"} == set()
    desk.close()


@pytest.mark.parametrize(
    ("line", "key", "value"),
    [
        ("a 10k NTC with 4k7 at 3.3 V", ("parts", "half", "resistance"), "4k7 Ω"),
        ("a 22 kΩ thermistor over 4k7", ("parts", "probe", "resistance"), "22 kΩ"),
        ("a 12-bit thermistor half", ("channels", "counts", "law", 0, "bits"), 12),
        ("a 4k7 potentiometer", ("parts", "knob", "resistance"), "4k7 Ω"),
        ("a light sensor of 20k with 4k7", ("parts", "half", "resistance"), "4k7 Ω"),
        ("a fan with 2 pulses per turn", ("channels", "counts", "law", 0, "marks"), "2"),
        ("a wheel with 20 slots, gate 250 ms", ("channels", "counts", "law", 0, "marks"), "20"),
        ("a tachometer with 4 magnets", ("channels", "counts", "law", 0, "marks"), "4"),
        ("a battery over a divider of 30k and 10k, 12 bits", ("parts", "divider", "upper"), "30k"),
        ("a voltage 10k", None, '"10k" says nothing of a voltage on a converter'),
        ("a 10k elephant", None, "is not anything Lesart knows; it may be thermistor half"),
    ],
)
def test_a_value_may_come_first_and_marks_have_names(
    line: str, key: Key | None, value: str | int, tmp_path: Path
) -> None:
    """As one says it aloud; a number of kilo-ohms is never taken for volts."""
    desk = opened(tmp_path, 400)
    desk.add(line)
    assert desk.state.message_is_fault is (key is None), desk.state.message
    if key is None:
        assert str(value) in desk.state.message
    else:
        assert value_at(desk.state.project.tables, key) == value
    desk.close()


def test_no_limit_lies_where_nothing_is_read(tmp_path: Path) -> None:
    """Platinum ends at −200 °C; room below what was seen would reach −290 °C."""
    path = tmp_path / "wide.csv"
    path.write_text("\n".join(("t,counts", *(f"{second},{260 + second % 400}" for second in range(800)))) + "\n")
    make_project(path, tmp_path / "wide")
    desk = open_desk(tmp_path / "wide")
    desk.add("a Pt1000 with 1k")
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.lowest == -200.0
    desk.close()


@pytest.mark.parametrize(
    ("limit", "inside", "from_", "to", "drawn_in"),
    [
        ("-290", -160.0, -200.0, 850.0, "-200"),
        ("290", 216.0, -200.0, 850.0, "290"),
        ("900", 700.0, -200.0, 850.0, "850"),
        ("60", 12.0, 0.0, 33.37, "33"),
        ("-4", 0.5, 0.49, 9.0, "0.5"),
        ("-4", 0.5, 1.0, 9.0, "-4"),
    ],
)
def test_a_limit_is_drawn_in_to_what_is_read(limit: str, inside: float, from_: float, to: float, drawn_in: str) -> None:
    """Never past a reading that there was, and not at all where that one is none."""
    assert within_reach(limit, inside, lambda reading: from_ <= reading <= to) == drawn_in


@pytest.mark.parametrize("side", ["to ground", "to supply"])
def test_a_half_at_either_end(side: str, tmp_path: Path) -> None:
    """At the other end what rises falls."""
    desk = opened(tmp_path, 300)
    desk.add(f"a thermistor {side} on a 10-bit converter")
    assert not desk.state.message_is_fault, desk.state.message
    fixed = half_ohm(300, 10, 10_000)
    ohm = fixed if side == "to ground" else 10_000 * 10_000 / fixed
    reading = follow(desk.state.project, desk.state.chosen, 300.0).reading.value
    assert reading == pytest.approx(thermistor_c(ohm, 3950))
    # The hook-up that is made has it there too, and says nothing against it.
    hookup = desk.state.project.hookup
    (own,) = (join for join in hookup.joins if "probe" in (join.pin.part, join.to.part) and join.to.pin != "a1")
    assert str(own.to) == ("board.gnd" if side == "to ground" else "board.5V")
    assert not [note for note in desk.notes if note.mark != REMARK and note.step is Step.WIRE]
    desk.close()


def test_what_is_read_every_few_minutes_starts_without_a_filter(tmp_path: Path) -> None:
    """Four readings of a battery are twenty minutes: no filter that is tried is in time, so none is taken."""
    rows = [f"{300 * place},{2540 - place // 3}" for place in range(1000)]
    (tmp_path / "cell.csv").write_text("\n".join(("time_s,adc", *rows)) + "\n")
    make_project(tmp_path / "cell.csv", tmp_path / "cell")
    desk = open_desk(tmp_path / "cell")
    try:
        desk.open_step(Step.LAW)
        desk.add("a voltage over a divider 100 kΩ 100 kΩ, bits = 12, reference = 3.3 V")
        channel = desk.state.chosen
        assert channel.filters == ()
        assert channel.field.unit_text == "V"
        assert not [note for note in desk.notes if note.step is Step.PACE and "filters" in note.text]
    finally:
        desk.close()


@pytest.mark.parametrize(
    ("typed", "is_one"),
    [
        ("10k 3950 thermistor", True),
        ("NTC 10k 3950 with 10k series resistor", True),
        ("battery through 100k and 33k", True),
        ("humidity in %", True),
        ("table 0 V 0 °C; 5 V 100 °C", True),
        ("linear input = 0 V, output = 0 °C, slope = 10 mV/°C", False),
        ("divider", False),
        ("echo", False),
    ],
)
def test_without_an_article_3_law_knows_what_is_no_law(typed: str, is_one: bool, tmp_path: Path) -> None:
    """Names of laws go first; in 2 Raw, where columns have names, the article stays."""
    desk = opened(tmp_path, 512)
    desk.add(typed)
    laws = [each.kind.name for each in desk.state.chosen.laws]
    assert (len(laws) > 1 or desk.state.chosen.unit.symbol == "%") == is_one, desk.state.message
    desk.close()


@pytest.mark.parametrize("name", SIGNALS)
def test_a_signal_has_its_article_within_a_sentence(name: str, tmp_path: Path) -> None:
    """``An angle takes no "colour"``, ``pulses of a flow take`` has none."""
    called = SIGNALS[name].called
    article = called.removesuffix(name.removesuffix(" of")).strip()
    assert article == (
        "" if name in ("already in", "pulses of a flow", "pulses giving") else "an" if name[0] in "aeiou" else "a"
    )
    desk = opened(tmp_path, READS[name][0])
    desk.add(f"{SIGNALS[name].begins}, colour = red")
    assert desk.state.message.startswith(f'{called[0].upper()}{called[1:]} takes no "colour"; it takes ')
    desk.close()
