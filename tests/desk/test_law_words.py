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
from tests.desk.mast import AIR, CODE, CODES, MOIST, PULSES, VOLT, WIND, mast, read


@pytest.fixture
def bench(tmp_path: Path) -> Iterator[Desk]:
    desk = mast(tmp_path)
    yield desk
    desk.close()


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
    (CODE, "gas sensor", "0.4 V = 0 ppm, 2 V = 500 ppm, 3 V = 1000 ppm"),
    (CODE, "UV index", "0.4 V = 0 ppm, 2 V = 500 ppm, 3 V = 1000 ppm"),
    (CODE, "co2 ppm", "0.4 V = 0 ppm, 2 V = 500 ppm, 3 V = 1000 ppm"),
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
        for each in re.split(r",?\s+or\s+|,\s+", says.removeprefix("like ")):
            yield symbol, each


@pytest.mark.parametrize(("symbol", "line"), list(proposed()))
def test_counts_become_a_quantity_by_what_is_proposed(symbol: str, line: str, bench: Desk) -> None:
    """Every signal that a refusal names gives what it was named for."""
    bench.choose_channel(PULSES if "Hz" in line or "rpm" in line or "flow" in line else CODE)
    bench.add(symbol)
    if bench.state.message_is_fault:  # a share and pH have a signal of their own
        assert bench.state.message.startswith(
            f'"{symbol}": how counts become {symbol} is not stated yet; say what gives '
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
        f'"{line}": how counts become °C is not stated yet; say what gives it, like ntc 10k, Pt1000, 10 mV/°C or 0.0625 °C '
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
