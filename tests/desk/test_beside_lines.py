"""Lines in 3 Law that name another channel by what stands before its unit: ``volt`` of volt_V, ``temp`` of temp_c."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

COLUMNS = {
    "volt_V": 12.0,
    "current_mA": 500.0,
    "temp_c": 20.0,
    "inside_c": 24.0,
    "level_cm": 150.0,
    "x_g": 0.6,
    "y_g": 0.8,
}
LINES = [
    ("volt_V", "times current", 6.0, "W"),
    ("volt_V", "power = volt * current", 6.0, "W"),
    ("volt_V", "divided by current", 24.0, "Ω"),
    ("current_mA", "times volt", 6.0, "W"),
    # By Ohm's law, and no unit of the result.
    ("current_mA", "current * 12 V", 6.0, "W"),
    ("current_mA", "x * 250 ohm", 125.0, "V"),
    ("volt_V", "x / 24 ohm", 0.5, "A"),
    ("temp_c", "minus inside", -4.0, "Δ°C"),
    ("temp_c", "inside - temp", 4.0, "Δ°C"),
    ("temp_c", "mean of temp and inside", 22.0, "°C"),
    ("temp_c", "temp + 0.1 * (inside - temp)", 20.4, "°C"),
    ("x_g", "sqrt(x^2 + y^2)", 1.0, "1"),
    # x is an axis only among axes: it was one here, for another column is called so.
    ("volt_V", "x * 2", 24.0, "V"),
    ("level_cm", "200 - level", 50.0, "cm"),
]


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    head = ",".join(COLUMNS)
    rows = "\n".join(
        ",".join([str(k), *(str(value + 0.001 * (k % 2)) for value in COLUMNS.values())]) for k in range(60)
    )
    (tmp_path / "log.csv").write_text(f"t_s,{head}\n{rows}\n")
    made = open_desk(make_project(tmp_path / "log.csv", tmp_path / "made").folder)
    made.open_step(Step.LAW)
    return made


@pytest.mark.parametrize(("channel", "line", "value", "unit"), LINES, ids=[line for _, line, _, _ in LINES])
def test_another_channel_is_named_without_its_unit(
    channel: str, line: str, value: float, unit: str, desk: Desk
) -> None:
    desk.choose_channel(channel)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    read = desk.bench.run(desk.state.project, desk.state.chosen).blocks[Step.TRUE].x[0]
    assert (read, str(desk.state.chosen.unit)) == (pytest.approx(value, rel=5e-3), unit)


@pytest.mark.parametrize("line", ["level - 0.1 * temp", "level - 0.1 * pressure", "level + frequency"])
def test_a_quantity_is_the_reading_only_where_it_may_be_one(line: str, desk: Desk) -> None:
    """A temperature beside a level was the level once more: 150 − 0.1 × 150."""
    desk.choose_channel("level_cm")
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.history.text == before
