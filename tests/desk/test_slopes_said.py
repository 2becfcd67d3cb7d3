"""What gives so many volts for each unit of what it measures, said in a line: slopes, ranges, thermocouples."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.test_recipes import opened


@pytest.mark.parametrize(
    ("line", "volts", "reading"),
    # IEC 60584-1, in mV: K 1.000 at 25 °C, 0.879 at 22 °C, 20.644 at 500 °C; J 1.019 at 20 °C, 10.779 at 200 °C;
    # T 0.992 at 25 °C, 4.279 at 100 °C; S 0.143 at 25 °C, 9.587 at 1000 °C.
    [
        ("a type K thermocouple with gain 100", 100 * (20.644 - 1.000) / 1000, 500),
        ("a K-type thermocouple, gain = 100, cold junction 22 °C", 100 * (20.644 - 0.879) / 1000, 500),
        ("a thermocouple of type J, gain 250, cold = 20 °C", 250 * (10.779 - 1.019) / 1000, 200),
        ("a thermocouple type T, gain 1000", 1000 * (4.279 - 0.992) / 1000, 100),
        ("a thermocouple, type = S, gain 500", 500 * (9.587 - 0.143) / 1000, 1000),
    ],
)
def test_a_thermocouple_reads_what_its_table_says(line: str, volts: float, reading: float, tmp_path: Path) -> None:
    """Behind an amplifier on 24 bits, and in millivolts as they come out of the junctions."""
    desk = opened(tmp_path, volts / 5 * 2**16)
    desk.add(f"{line}, 16 bits")
    assert not desk.state.message_is_fault, desk.state.message
    found = follow(desk.state.project, desk.state.chosen, volts / 5 * 2**16).steps
    assert found[3].value == pytest.approx(reading, abs=0.2)
    desk.close()
    rows = "".join(f"{second},{20 + second % 3 / 10}\n" for second in range(99))
    (tmp_path / "plain.csv").write_text(f"t,junction mV\n{rows}")
    make_project(tmp_path / "plain.csv", tmp_path / "plain")
    plain = open_desk(tmp_path / "plain")
    plain.open_step(Step.LAW)
    plain.add("a thermocouple of type K in mV, cold junction 25 °C")
    assert [each.kind.name for each in plain.state.chosen.laws] == ["thermocouple"], plain.state.message
    # 19.644 mV above what 25 °C give.
    found = follow(plain.state.project, plain.state.chosen, 19.644).steps
    assert found[1].value == pytest.approx(500, abs=0.2)
    plain.close()


def test_a_range_to_either_side_is_the_channel_s(tmp_path: Path) -> None:
    """It is not assumed; without it what the capture shows is."""
    desk = opened(tmp_path, 512)
    desk.add("a hall current sensor ±30 A, 66 mV/A")
    channel = desk.state.chosen
    assert (channel.lowest, channel.highest) == (-30, 30)
    assert not {("channels", "counts", "lowest"), ("channels", "counts", "highest")} & set(desk.state.project.assumed)
    desk.add("a hall current sensor ±30 kg, 66 mV/A")
    assert desk.state.message_is_fault
    assert "30 kg" in desk.state.message
    desk.close()


@pytest.mark.parametrize("slope", ["66 mV", "3 kg/A", "5 A/V"])
def test_a_slope_is_a_voltage_for_each_unit(slope: str, tmp_path: Path) -> None:
    desk = opened(tmp_path)
    before = desk.state.history.text
    desk.add(f"a sensor giving slope = {slope}")
    assert desk.state.message == (f"A sensor gives volts per unit of what it measures, like 100 mV/A, not {slope}.")
    assert desk.state.history.text == before
    desk.close()
