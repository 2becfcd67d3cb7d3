"""Lines as makers write them at their benches: each reads what it says, or nothing at all."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.desk.bench_lines import BENCH_LINES, At
from tests.desk.test_data_sheet_lines import reads_right
from tests.desk.test_recipes import opened


@pytest.mark.parametrize("line", BENCH_LINES)
def test_a_line_reads_what_it_says(line: str, tmp_path: Path) -> None:
    formula, unit = BENCH_LINES[line]
    desk = opened(tmp_path, 501)
    desk.add(line)
    reads_right(desk, lambda n: formula(At(n)), unit)
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("0-20 mA 0-100 %", '"0-20 mA 0-100 %": say what it is read over, like 0-20 mA is 0-10 bar over 250 ohm.'),
        (
            "AFR 0 V = 7.35, 5 V = 22.39",
            '"AFR 0 V = 7.35, 5 V = 22.39": the laws end in ct, and this begins with V; begin with voltage, then type it '
            "again.",
        ),
        (
            "wheel 2.1 m",
            '"wheel 2.1 m": across it or around it? wheel diameter 2.1 m is one, wheel circumference 2.1 m the other.',
        ),
        (
            "humidity sensor 10k at 25, 3.6k at 50",
            '"humidity sensor 10k at 25, 3.6k at 50": 25 of what? Say its unit, like 25 lx or 25 °C.',
        ),
        ("6.67 mG/LSB", '"6.67 mG/LSB": G can be gauss or the pull of the earth; write Gs or gn for it.'),
    ],
)
def test_what_a_line_leaves_open_is_asked_for(line: str, says: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 501)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == says
    assert desk.state.history.text == before
    desk.close()
