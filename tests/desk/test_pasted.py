"""Lines of programs, and formulas with a named result, as they are pasted at + of 3 Law: what they reckon, and its
unit."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.reckoned.results import IN_ANY, IN_ONE
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

CODE, VOLT = "adc", "volts [V]"
CODES = [200 + 13 * place for place in range(50)]
VOLTS = [0.5 + 0.05 * place for place in range(50)]


@pytest.fixture
def bench(tmp_path: Path) -> Iterator[Desk]:
    """Whole numbers of a converter, and volts."""
    rows = [f"{k},{code},{volt:.2f}" for k, (code, volt) in enumerate(zip(CODES, VOLTS, strict=True))]
    (tmp_path / "bench.csv").write_text("\n".join([f"time [s],{CODE},{VOLT}", *rows]) + "\n")
    make_project(tmp_path / "bench.csv", tmp_path / "bench")
    desk = open_desk(tmp_path / "bench")
    desk.open_step(Step.LAW)
    yield desk
    desk.close()


LINES: list[tuple[str, str, str, Callable[[float], float]]] = [
    (CODE, "float voltage = adc * 5.0 / 1023.0;", "V", lambda code: code * 5 / 1023),
    (CODE, "const float v = sensorValue * (3.3f / 4095.0f);", "V", lambda code: code * 3.3 / 4095),
    (CODE, "float tempC = (readSensor(0) * 5.0 / 1023 - 0.5) * 100;", "°C", lambda code: (code * 5 / 1023 - 0.5) * 100),
    (CODE, "temp_f = adc_value / 10 * 1.8 + 32  # from the data sheet", "°F", lambda code: code / 10 * 1.8 + 32),
    (CODE, "kPa = (double)raw_value * 0.25 - 10; // absolute", "kPa", lambda code: code * 0.25 - 10),
    (CODE, "return adc * 0.5;", "ct", lambda code: code / 2),
    (CODE, "uint16_t mv = (adc * 5000L) >> 10;", "mV", lambda code: math.floor(code * 5000 / 1024)),
    (CODE, "y = 2 * a + abs(a - 500)", "ct", lambda code: 2 * code + abs(code - 500)),
    (CODE, "y = 2 * ex + exp(ex / 500)", "ct", lambda code: 2 * code + math.exp(code / 500)),
    (CODE, "adc & 0x3F", "ct", lambda code: code % 64),
    (CODE, "adc % 100", "ct", lambda code: code % 100),
    (CODE, "adc > 500 ? 1 : 0", "ct", lambda code: float(code > 500)),
    (CODE, "pow(adc, 2) * 0.5", "1", lambda code: code**2 / 2),
    (
        CODE,
        "double t = 1 / (1 / 298.15 + log(adc / 500.0) / 3950.0) - 273.15;",
        "°C",
        lambda code: 1 / (1 / 298.15 + math.log(code / 500) / 3950) - 273.15,
    ),
    (CODE, "lux = math.exp(adc / 200)", "lx", lambda code: math.exp(code / 200)),
    (CODE, "RH % = adc / 10.23", "%", lambda code: code / 10.23),
    (CODE, "humidity = adc / 10.23", "%", lambda code: code / 10.23),
    (CODE, "dust mg/m3 = 0.17 * adc / 1000 - 0.1", "mg/m3", lambda code: 0.17 * code / 1000 - 0.1),
    (CODE, "temp (°C) = adc / 10", "°C", lambda code: code / 10),
    (CODE, "weight = (adc - 120) / 42.5", "1", lambda code: (code - 120) / 42.5),
    (CODE, "grams = (adc - 120) / 42.5", "g", lambda code: (code - 120) / 42.5),
    (CODE, "rpm = 60000000 / adc", "rpm", lambda code: 60e6 / code),
    (CODE, "uv index = adc / 100", "1", lambda code: code / 100),
    (CODE, "y = mx + b, m = 0.5, b = 3", "ct", lambda code: 0.5 * code + 3),
    (VOLT, "temperature = (volts - 0.5) * 100", "°C", lambda volt: (volt - 0.5) * 100),
    (
        VOLT,
        "ntu = -1120.4 * volts^2 + 5742.3 * volts - 4353.8",
        "NTU",
        lambda volt: -1120.4 * volt**2 + 5742.3 * volt - 4353.8,
    ),
    (VOLT, "distance = 27.86 * volts^-1.15", "1", lambda volt: 27.86 * volt**-1.15),
    (VOLT, "distance cm = 27.86 * volts^-1.15", "cm", lambda volt: 27.86 * volt**-1.15),
    (VOLT, "27.86 * volts^-1.15", "1", lambda volt: 27.86 * volt**-1.15),
    (VOLT, "current = volts / 0.1", "A", lambda volt: volt / 0.1),
    (VOLT, "corrected = volts * 1.02", "V", lambda volt: volt * 1.02),
    (VOLT, "battery = volts * 4", "V", lambda volt: volt * 4),
    (VOLT, "salinity = volts * 10", "1", lambda volt: volt * 10),
    (VOLT, "co2 = volts * 1000", "ppm", lambda volt: volt * 1000),
    (VOLT, "uv = volts * 3", "1", lambda volt: volt * 3),
    (VOLT, "v2 = volts + 0.5", "V", lambda volt: volt + 0.5),
    (VOLT, "t2 = volts * 100", "°C", lambda volt: volt * 100),
    (CODE, "F = C * 1.8 + 32", "°F", lambda code: code * 1.8 + 32),
    (CODE, "C = (F - 32) / 1.8", "°C", lambda code: (code - 32) / 1.8),
    (CODE, "K = C + 273.15", "K", lambda code: code + 273.15),
    (CODE, "log10(x)", "1", math.log10),
    (VOLT, "20 * log10(x)", "1", lambda volt: 20 * math.log10(volt)),
    (VOLT, "3 - ln(x) / 2", "1", lambda volt: 3 - math.log(volt) / 2),
    (VOLT, "mV = volts * 1020", "V", lambda volt: volt * 1.02),
]


@pytest.mark.parametrize(("channel", "line", "unit", "wanted"), LINES, ids=[line for _, line, *_ in LINES])
def test_a_line_is_what_it_reckons(
    channel: str, line: str, unit: str, wanted: Callable[[float], float], bench: Desk
) -> None:
    """By the arithmetic that stands there; the field shows its unit or none, and its limits hold what came."""
    bench.choose_channel(channel)
    raw = bench.bench.run(bench.state.project, bench.state.chosen).blocks[Step.RAW].x
    bench.add(line)
    assert not bench.state.message_is_fault, bench.state.message
    chosen = bench.state.chosen
    assert str(chosen.unit) == unit
    read = bench.bench.run(bench.state.project, chosen).blocks[Step.LAW].x
    assert read == pytest.approx([wanted(float(value)) for value in raw], rel=1e-9, abs=1e-9)
    assert chosen.lowest <= read.min()
    assert read.max() <= chosen.highest
    assert chosen.field.unit_text in ("", unit, "V")


@pytest.mark.parametrize(
    ("line", "told"),
    [
        ("weight = (adc - 120) / 42.5", "; weight has no unit yet, g = … would give it one"),
        ("voltage = sensorValue * 5.0 / 1023", "; sensorValue is taken for the reading"),
        ("uv index = adc / 100", ""),
        ("kPa = adc * 0.1", ""),
    ],
)
def test_what_was_taken_for_what_is_told(line: str, told: str, bench: Desk) -> None:
    """A name that says no unit, and one that nothing here has."""
    bench.choose_channel(CODE)
    bench.add(line)
    assert bench.state.message == f"added: straight line{told}"


@pytest.mark.parametrize(
    "line",
    [
        "a stream of 7.5 Q",
        "foo + bar",
        "level = wet - dry",
        "out = pin",
        "x = 3",
        "adc = 5",
        "volts = ",
        "deadband 2 foo",
    ],
)
def test_what_reckons_nothing_with_the_reading_is_refused(line: str, bench: Desk) -> None:
    """One name may stand for the reading; two, or none that is reckoned with, may not."""
    bench.choose_channel(CODE)
    before = bench.state.history.text
    bench.add(line)
    assert bench.state.message_is_fault, bench.state.message
    assert bench.state.history.text == before


def test_units_of_names_are_units(bench: Desk) -> None:
    """What is proposed for a quantity is accepted as the name of a result."""
    bench.choose_channel(CODE)
    for unit in dict.fromkeys([*IN_ANY.values(), *(symbol for _, symbol in IN_ONE)]):
        before = bench.state.history.text
        bench.add(f"{unit} = adc * 2")
        assert str(bench.state.chosen.unit) == unit, bench.state.message
        bench.undo()
        assert bench.state.history.text == before


@pytest.mark.parametrize(
    ("line", "unit"), [("mV = volts * 1000", "mV"), ("kV = volts / 1000", "kV"), ("µV = x * 1e6", "µV")]
)
def test_another_unit_is_a_rule_of_the_field(line: str, unit: str, bench: Desk) -> None:
    """A law that changes nothing but how it is shown would be none."""
    bench.choose_channel(VOLT)
    before = bench.state.history.text
    bench.add(line)
    assert bench.state.message == (
        f'"{line}": in which unit a reading is shown is a rule of its field; U goes through them, and + in 6 Fit takes '
        f"in {unit}."
    )
    assert bench.state.history.text == before
