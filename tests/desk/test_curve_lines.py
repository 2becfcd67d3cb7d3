"""Sensors by their curves: with an article, where the curve is none, and what is asked for where there is none."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from tests.desk.curve_lines import CURVE_LINES
from tests.desk.test_data_sheet_lines import LINES, reads_right
from tests.desk.test_recipes import opened


@pytest.mark.parametrize(
    "line", [line for line in CURVE_LINES if line[0].isalpha() and not line.startswith(("ppm", "Rs"))]
)
def test_an_article_before_it_changes_nothing(line: str, tmp_path: Path) -> None:
    count, formula, unit = LINES[line]
    desk = opened(tmp_path, count)
    desk.add(f"{('a', 'an', 'the', 'it is a')[len(line) % 4]} {line}")
    reads_right(desk, formula, unit)
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (
            "gas sensor Rs/R0 = 5 * ppm^0",
            "no gas sensor has such a curve; write it like ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k.",
        ),
        (
            "ppm = 0 * (Rs/R0)^-2",
            "no gas sensor has such a curve; write it like ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k.",
        ),
        (
            "1 kg = 6k, 2 kg = 6k",
            "its curve is a power, which goes through two different points, both above 0; take them where it is used.",
        ),
        ("1 µA/°C over 10k", "say its current at 0 °C too, like 1 µA/°C, 273.2 µA at 0 °C; or in kelvin, like 1 µA/K."),
    ],
)
def test_a_curve_that_is_none_is_told(line: str, says: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == f'"{line}": {says}'
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize("line", ["fsr 10k", "flex sensor", "gas sensor", "photodiode", "strain gauge 350 ohm"])
def test_what_is_asked_for_instead_is_taken(line: str, tmp_path: Path) -> None:
    """The example in the sentence, typed as it stands there."""
    desk = opened(tmp_path, 512)
    desk.add(line)
    assert desk.state.message_is_fault
    examples = re.findall(r"like ((?:[^;.]|\.(?=\d))+)", desk.state.message)
    assert examples
    for example in examples:
        desk.add(example)
        assert not desk.state.message_is_fault, desk.state.message
        desk.undo()
    desk.close()
