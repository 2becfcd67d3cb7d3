"""What people type in 3 Law for a signal, a law by another name, or what is no law, held against what comes of it."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.law import KINDS
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.instead import laws as no_laws
from lesart.desk.entries.chain import _with_signs
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

CODE, VOLT, AIR, MOIST, WIND, PULSES = "adc", "volts [V]", "air [°C]", "hum [%]", "wind [m/s]", "pulses"
CODES = [480 + place % 40 for place in range(100)]
VOLTS = [1.2 + 0.01 * (place % 20) for place in range(100)]


@pytest.fixture
def bench(tmp_path: Path) -> Iterator[Desk]:
    """Ten bits at 5 V, volts, a weather mast, and pulses of each second."""
    head = f"time [s],{CODE},{VOLT},{AIR},{MOIST},{WIND},{PULSES}"
    rows = [
        f"{k},{code},{volt:.3f},{10 + k % 5},{60 + k % 9},{3 + 0.1 * (k % 7):.1f},{4 + k % 3}"
        for k, (code, volt) in enumerate(zip(CODES, VOLTS, strict=True))
    ]
    (tmp_path / "bench.csv").write_text("\n".join([head, *rows]) + "\n")
    make_project(tmp_path / "bench.csv", tmp_path / "bench")
    desk = open_desk(tmp_path / "bench")
    desk.open_step(Step.LAW)
    yield desk
    desk.close()


def read(desk: Desk) -> np.ndarray[Any, Any]:
    """What the laws of the chosen channel make of the capture."""
    values: np.ndarray[Any, Any] = desk.bench.run(desk.state.project, desk.state.chosen).blocks[Step.LAW].x
    return values


def on_converter(code: float) -> float:
    return code / 1024 * 5


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
    ("line", "kind", "values"),
    [
        ("converter bits 12 reference 3.3 V", "converter", {"bits": 12, "reference": "3.3 V"}),
        ("converter with reference of 2.5 V and bits 16", "converter", {"bits": 16, "reference": "2.5 V"}),
    ],
)
def test_values_of_a_law_need_no_sign(line: str, kind: str, values: dict[str, Any], bench: Desk) -> None:
    bench.choose_channel(CODE)
    bench.add(line)
    (entry,) = tomllib.loads(bench.state.history.text)["channels"][CODE]["law"]
    assert entry["kind"] == kind
    assert {name: entry[name] for name in values} == values


@pytest.mark.parametrize("name", KINDS)
def test_every_value_of_every_law_needs_no_sign(name: str) -> None:
    """By its name or its title, in whatever letters."""
    for parameter in KINDS[name].parameters:
        for called in (parameter.name.replace("_", " "), parameter.title, parameter.title.upper()):
            said = _with_signs(KINDS[name], f" {called} of 5 V")
            assert re.fullmatch(r"(\w+) = 5 V", said), said
            assert said.partition(" =")[0] in [each.name for each in KINDS[name].parameters]


@pytest.mark.parametrize(
    ("most", "line", "bits", "reference"),
    [
        (1023, "volts", 10, "5 V"),
        (1024, "volts", 12, "3.3 V"),
        (2000, "ntc 10k", 12, "3.3 V"),
        (4095, "10mV/°C offset 500mV", 12, "3.3 V"),
        (4096, "divider 100k 27k", 14, "3.3 V"),
        (60_000, "potentiometer 270 degrees", 16, "3.3 V"),
        (3000, "0.5-4.5 V is 0-10 bar", 12, "5 V"),  # what it says goes beyond 3.3 V
        (3000, "66 mV/A, zero 2.5 V", 12, "3.3 V"),
        (3000, "5 V reference", 12, "5 V"),
        (3000, "16 bit", 16, "5 V"),
    ],
)
def test_no_converter_is_assumed_that_cannot_give_what_came(
    most: int, line: str, bits: int, reference: str, tmp_path: Path
) -> None:
    """And what is assumed of it is told to be."""
    (tmp_path / "log.csv").write_text("\n".join(["time [s],adc", *(f"{k},{most - k % 7}" for k in range(99))]) + "\n")
    make_project(tmp_path / "log.csv", tmp_path / "log")
    desk = open_desk(tmp_path / "log")
    desk.open_step(Step.LAW)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    converter = desk.state.chosen.laws[0]
    assert (converter.values["bits"], f"{converter.values['reference']:g} V") == (bits, reference)
    desk.close()


def test_too_few_bits_are_told_with_how_many_there_are(tmp_path: Path) -> None:
    (tmp_path / "log.csv").write_text("\n".join(["time [s],adc", *(f"{k},{2600 + k % 7}" for k in range(99))]) + "\n")
    make_project(tmp_path / "log.csv", tmp_path / "log")
    desk = open_desk(tmp_path / "log")
    desk.open_step(Step.LAW)
    desk.add("a thermistor on 10 bits")
    assert desk.state.message == (
        "adc: 2603 ct; converter holds from 0 ct to 1023 ct; a converter that gives 2606 has 12 bits at least; nothing "
        "is changed."
    )
    desk.close()


def test_the_message_says_it_as_it_was_said(bench: Desk) -> None:
    """And not with an article that nobody typed: a anemometer."""
    bench.choose_channel(PULSES)
    bench.add("anemometer")
    assert bench.state.message == "pulses: anemometer; 6 values are assumed, n goes through them"


WHOLE: list[tuple[str, Callable[[int], int]]] = [
    ("bit 3", lambda n: n >> 3 & 1),
    ("bit 0", lambda n: n & 1),
    ("bits 2 to 5", lambda n: n >> 2 & 15),
    ("bits 5-2", lambda n: n >> 2 & 15),
    ("modulo 360", lambda n: n % 360),
    ("% 7", lambda n: n % 7),
    ("wrap at 100", lambda n: n % 100),
    ("signed 9 bits", lambda n: n - 512 if n >= 256 else n),
    ("9 bit two's complement", lambda n: n - 512 if n >= 256 else n),
    ("int16", lambda n: n),
    ("two's complement", lambda n: n - 1024 if n >= 512 else n),  # the smallest word that holds 519 has ten bits
]


@pytest.mark.parametrize(("line", "wanted"), WHOLE, ids=[line for line, _ in WHOLE])
def test_bits_and_rests_of_whole_numbers(line: str, wanted: Callable[[int], int], bench: Desk) -> None:
    """Held against the processor's own arithmetic; counts stay counts."""
    bench.choose_channel(CODE)
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    assert read(bench).tolist() == [wanted(code) for code in CODES]
    assert bench.state.chosen.unit == parse_unit("ct")


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        ("square root", np.sqrt),
        ("sqrt", np.sqrt),
        ("cube", lambda x: x**3),
        ("log10", np.log10),
        ("natural log", np.log),
        ("binary logarithm", np.log2),
    ],
)
def test_roots_and_logarithms_of_bare_numbers(line: str, wanted: Callable[[Any], Any], bench: Desk) -> None:
    bench.choose_channel(CODE)
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    assert read(bench) == pytest.approx(wanted(np.array(CODES, float)))


CALLED = [
    (MOIST, "dewpoint", "dew point"),
    (MOIST, "VPD", "vapour pressure deficit"),
    (MOIST, "water content of the air", ""),
    (MOIST, "moisture in air", "absolute humidity"),
    (AIR, "windchill", "wind chill"),
    (AIR, "feels like", "apparent temperature"),
    (MOIST, "dew point from humidity", "dew point"),
    (MOIST, "dewpoint from temp and rh", "dew point"),
    (AIR, "heat index from temperature, humidity", "apparent temperature"),
    (AIR, "the heat index", "apparent temperature"),
    (CODE, "lookup table", "table"),
    (CODE, "calibration curve", "table"),
    (VOLT, "rms over 10 s", "windowed RMS"),
]


@pytest.mark.parametrize(("channel", "line", "kind"), [each for each in CALLED if each[2]])
def test_a_law_goes_by_other_names(channel: str, line: str, kind: str, bench: Desk) -> None:
    bench.choose_channel(channel)
    bench.add(line.partition(" over ")[0])
    assert not bench.state.message_is_fault, bench.state.message
    (law,) = tomllib.loads(bench.state.history.text)["channels"][channel]["law"]
    assert law["kind"] == kind
    assert {name for _, name in no_laws.ALSO if not name.startswith("formula")} <= set(KINDS)


def test_a_law_of_the_air_asks_what_bare_numbers_are(bench: Desk) -> None:
    """Where no channel is in what it takes."""
    bench.choose_channel(CODE)
    bench.add("altitude from pressure")
    assert bench.state.message == (
        f"altitude takes Pa, and nothing says what {CODE} is in; where its numbers are Pa, + already in Pa says so."
    )
    bench.add("already in Pa")
    bench.add("altitude from pressure, sea level 1020")
    (law,) = tomllib.loads(bench.state.history.text)["channels"][CODE]["law"]
    assert (law["kind"], law["sea_level"]) == ("altitude", "1020 hPa")
    bench.undo()
    bench.add("pressure at sea level from 230 m")
    (law,) = tomllib.loads(bench.state.history.text)["channels"][CODE]["law"]
    assert (law["kind"], law["height"]) == ("sea-level pressure", "230 m")


def test_a_law_that_takes_another_channel_names_it(bench: Desk) -> None:
    bench.choose_channel(AIR)
    bench.add("dew point")
    assert bench.state.message == (
        f"dew point takes %, and {AIR} ends in °C; {MOIST} is in %: choose it, and add the law there."
    )
    bench.choose_channel(MOIST)
    bench.add("wind chill")
    assert bench.state.message == (
        f"wind chill takes °C, and {MOIST} ends in %; {AIR} is in °C: choose it, and add the law there."
    )
    bench.add("altitude")
    assert bench.state.message_is_fault
    assert bench.state.message == "raw gives %, but law 1 takes Pa; % cannot be converted to Pa"


@pytest.mark.parametrize(
    ("channel", "line", "unit"),
    [
        (AIR, "°F", "°F"),
        (AIR, "in fahrenheit", "°F"),
        (AIR, "kelvin", "K"),
        (WIND, "km/h", "km/h"),
        (WIND, "mph", "mi/h"),
    ],
)
def test_another_unit_is_a_rule_of_the_field(channel: str, line: str, unit: str, bench: Desk) -> None:
    bench.choose_channel(channel)
    bench.add(line)
    assert bench.state.message == (
        f'"{line}": in which unit a reading is shown is a rule of its field; U goes through them, and + in 6 Fit takes in '
        f"{unit}."
    )


NO_LAWS = [
    (CODE, "scale to 0..100 %", "map 0..1023 to 0..100 %"),
    (CODE, "normalise", "map 0..1023 to 0..100 %"),
    (CODE, "limit to 0..100", "min(max(x, 0), 100)"),
    (CODE, "if above 100 then 100", "min(max(x, 0), 100)"),
    (CODE, "rain gauge", "0.2 mm per tip"),
    (CODE, "lsb 0.0625", "0.0625 °C per count"),
    (CODE, "battery level", "battery 100k/22k"),
    (CODE, "gas sensor", "voltage"),
    (CODE, "UV index", "voltage"),
    (CODE, "co2 ppm", "voltage"),
    (CODE, "sound level", "voltage"),
    (CODE, "reverse", "100 - x"),
    (CODE, "scale factor 420.5", "divide by 420"),
    (CODE, "scale factor 420.5", "tare 8388607"),
    (CODE, "current transformer", "current clamp 100 A 50 mA burden 33 ohm"),
    (VOLT, "dB", "dB = 20 * log10(x / 0.775)"),
]


@pytest.mark.parametrize(("channel", "line", "instead"), NO_LAWS, ids=[f"{line}, {each}" for _, line, each in NO_LAWS])
def test_what_is_no_law_is_told_with_what_does_it(channel: str, line: str, instead: str, bench: Desk) -> None:
    """And what is proposed is taken as it is printed."""
    bench.choose_channel(channel)
    before = bench.state.history.text
    bench.add(line)
    assert bench.state.message_is_fault
    assert bench.state.message.startswith(f'"{line}": ')
    assert instead in bench.state.message
    assert bench.state.history.text == before
    bench.add(instead)
    assert not bench.state.message_is_fault, bench.state.message


def proposed() -> Iterator[tuple[str, str]]:
    """Each unit for which counts need a signal, and each that is proposed for it."""
    for symbol, says in no_laws.OF_COUNTS:
        for each in re.split(r",?\s+or\s+|,\s+", says.removeprefix("as ")):
            yield symbol, each


@pytest.mark.parametrize(("symbol", "line"), list(proposed()))
def test_counts_become_a_quantity_by_what_is_proposed(symbol: str, line: str, bench: Desk) -> None:
    """Every signal that a refusal names gives what it was named for."""
    bench.choose_channel(PULSES if "Hz" in line or "rpm" in line or "flow" in line else CODE)
    bench.add(symbol)
    if bench.state.message_is_fault:  # a share and pH have a signal of their own
        assert bench.state.message.startswith(
            f'"{symbol}": nothing says yet how {symbol} comes of counts; say what gives '
        )
        assert line in bench.state.message
    else:
        assert symbol in ("%", "pH")
        bench.undo()
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    unit = bench.state.chosen.unit
    assert unit.same_dimension(parse_unit(symbol)) or unit.symbol == "1/min", unit


@pytest.mark.parametrize("line", ["temperature", "a temperature", "water temperature", "temp"])
def test_a_quantity_alone_asks_what_gives_it(line: str, bench: Desk) -> None:
    bench.choose_channel(CODE)
    bench.add(line)
    assert bench.state.message == (
        f'"{line}": nothing says yet how °C comes of counts; say what gives it, as ntc 10k, Pt1000, 10 mV/°C or 0.0625 °C '
        "per count."
    )


@pytest.mark.parametrize(
    "line", ["ntc 10k", "flow meter 450 pulses per litre", "battery divider 100k/22k", "66 mV/A", "rpm"]
)
def test_2_raw_takes_a_signal_without_an_article_too(line: str, bench: Desk) -> None:
    """Where no column is called so; it becomes what 3 Law makes of it."""
    bench.choose_channel(PULSES if "pulses" in line or line == "rpm" else CODE)
    bench.add(line)
    of_law = bench.state.history.text
    bench.undo()
    bench.open_step(Step.RAW)
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    assert bench.state.history.text == of_law


@pytest.mark.parametrize("line", ["scale by 3", "int16", "0.5 V = 0 bar, 4.5 V = 10 bar", "20 * log10(x / 0.775)"])
def test_2_raw_says_where_arithmetic_goes(line: str, bench: Desk) -> None:
    bench.choose_channel(VOLT if "V" in line or "log" in line else CODE)
    bench.open_step(Step.RAW)
    bench.add(line)
    assert bench.state.message == f'"{line}" is arithmetic; + in 3 Law takes it.'
