"""Columns of volts, which no converter has counted: known by their decimals, and by where they lie."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.test_data_sheet_lines import OF_VOLTS, Formula, reads_right
from tests.desk.test_recipes import opened, platinum_c, thermistor_c

VOLTS: dict[str, tuple[Formula, str]] = {
    "0.5 V at 0 bar and 4.5 V at 10 bar": (lambda v: (v - 0.5) * 2.5, "bar"),
    "pressure sensor 0.5 V to 4.5 V for 0 to 1.2 MPa, 5 V, 10 bit": (lambda v: (v - 0.5) * 0.3, "MPa"),
    "battery 2.0 V empty 4.2 V full": (lambda v: (v - 2) / 2.2 * 100, "%"),
    "10 mV/°C, 500 mV at 0 °C": (lambda v: (v - 0.5) / 0.01, "°C"),
    "a voltage on a converter of 12 bits": (lambda v: v, "V"),
    "potentiometer, 5 V": (lambda v: v / 5 * 100, "%"),
    "potentiometer, 3.3 V": (lambda v: v / 3.3 * 100, "%"),
    "NTC 10k, 10k to 5 V": (lambda v: thermistor_c(10e3 * v / (5 - v), 3950), "°C"),
    "NTC 10k, 10k to 3.3 V": (lambda v: thermistor_c(10e3 * v / (3.3 - v), 3950), "°C"),
    "Pt1000 with 1k5 pull-up to 5 V": (lambda v: platinum_c(1500 * v / (5 - v), 1000), "°C"),
    "4-20 mA 0-10 bar, 165 ohm": (lambda v: (v / 165 - 0.004) / 0.016 * 10, "bar"),
    **OF_VOLTS,
    "0.5 V = 0 °C, 1 V = 45 °C, 4.5 V = 94 °C": (lambda v: 45 + (v - 1) * 14, "°C"),
}
"""Lines of the same kinds, and what volts mean by them."""


@pytest.fixture(scope="module")
def in_volts(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Desk]:
    """Numbers about 2.5 that nobody has given a unit."""
    folder = tmp_path_factory.mktemp("volts")
    rows = [f"{tenth / 10},{2.5 + 0.02 * math.sin(tenth / 200):.3f}" for tenth in range(1200)]
    (folder / "probe.csv").write_text("\n".join(("time_s,a0", *rows)) + "\n")
    make_project(folder / "probe.csv", folder / "probe")
    desk = open_desk(folder / "probe")
    desk.open_step(Step.LAW)
    yield desk
    desk.close()


@pytest.mark.parametrize("line", VOLTS)
def test_numbers_with_decimals_are_volts(line: str, in_volts: Desk) -> None:
    """A converter gives whole numbers: 2.46 of its counts would be 12 mV, and the reading far off."""
    in_volts.add(line)
    try:
        reads_right(in_volts, *VOLTS[line])
        assert str(in_volts.state.chosen.unit_raw) == "V"
    finally:
        in_volts.undo()


def test_it_is_said_that_they_are_taken_as_volts(in_volts: Desk) -> None:
    """With one of them, so that a person sees it at once."""
    in_volts.add("10 mV/°C, 500 mV at 0 °C")
    said = "; taken as volts, 2.5 V in the middle: counts have no decimals; 4 values are assumed, n goes through them"
    assert in_volts.state.message.endswith(said)
    own = {key[2] for key in in_volts.state.project.assumed if key[:2] == ("channels", "a0") and len(key) == 3}
    assert own == {"lowest", "highest", "raw_unit"}
    in_volts.undo()


@pytest.mark.parametrize(("middle", "raw_unit"), [(512.3, "ct"), (2.5, "V"), (5.05, "V"), (5.2, "ct")])
def test_the_mean_of_counts_is_no_voltage(middle: float, raw_unit: str, tmp_path: Path) -> None:
    """Beyond the reference, and the fiftieth that a supply may be off, it is a count that was averaged."""
    rows = [f"{tenth / 10},{middle + 0.01 * math.sin(tenth / 200):.3f}" for tenth in range(1200)]
    (tmp_path / "probe.csv").write_text("\n".join(("time_s,a0", *rows)) + "\n")
    make_project(tmp_path / "probe.csv", tmp_path / "probe")
    desk = open_desk(tmp_path / "probe")
    desk.open_step(Step.LAW)
    desk.add("a voltage on a converter, reference = 5 V")
    assert not desk.state.message_is_fault, desk.state.message
    assert str(desk.state.chosen.unit_raw) == raw_unit
    desk.close()


@pytest.mark.parametrize(
    ("middle", "line", "raw_unit"),
    [
        (700, "battery 3.0 V empty 4.2 V full", "ct"),
        (3700, "battery 3000 mV empty 4200 mV full", "mV"),
        (2200, "soil moisture dry 3100 mV wet 1400 mV", "mV"),
    ],
)
def test_whole_numbers_are_counts_unless_they_lie_where_the_volts_do(
    middle: int, line: str, raw_unit: str, tmp_path: Path
) -> None:
    """3700 of a cell from 3000 mV to 4200 mV are millivolts; 700 of one from 3.0 V to 4.2 V are counts."""
    desk = opened(tmp_path, middle)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert str(desk.state.chosen.unit_raw) == raw_unit
    desk.close()


def test_a_rail_that_is_said_is_the_supply_of_volts_too(in_volts: Desk) -> None:
    """Without a converter nothing else has it; one that nobody said is assumed."""
    in_volts.add("potentiometer, 5 V")
    assert ("channels", "a0", "law", 0, "supply") not in in_volts.state.project.assumed
    in_volts.undo()
    in_volts.add("potentiometer")
    assert ("channels", "a0", "law", 0, "supply") in in_volts.state.project.assumed
    in_volts.undo()
