"""Sensors by their curves: with an article, where the curve is none, and what is asked for where there is none."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import LesartError
from lesart.desk.entries.recipes.kinds.currents import by_current
from lesart.desk.entries.recipes.kinds.powers import by_power
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
        (
            "Rs/R0 = 0.0001 * ppm^0.001",
            "no gas sensor has such a curve; write it like ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k.",
        ),
        (
            "NTC 10k at 200 °C, 1k at 200.001 °C",
            "a thermistor is known by two different points, like 10k at 25 °C, 3k6 at 50 °C.",
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


FIGURES = st.one_of(
    st.decimals(0, 10**9, places=3).map(str), st.integers(0, 10**6).map(str), st.just("0"), st.just("9" * 400)
)
OF_FIGURES = (
    "force sensor {}k at {} g, {}k at {} g, 10k to ground",
    "NTC {}k at {} °C, {}k at {} °C",
    "photoresistor {}k at {} lx, {}k at {} lx",
    "flex sensor {}k at {}°, {}k at {}°",
    "gas sensor ppm = {} * (Rs/R0)^-{}, R0 = {}k, load {}k",
    "Rs/R0 = {} * ppm^-{}, R0 = {}k, load {}k",
    "ppm = 10^((log10(Rs/R0) - {}) / -{}), R0 = {}k, load {}k",
    "photodiode {} nA/lx, {}k, dark current {} nA, {} bits",
    "phototransistor {} mA at {} lx, {}k, {} V",
    "0-20 mA is {}-{} bar over {} ohm, {} V",
)


@pytest.mark.parametrize("line", OF_FIGURES)
@given(figures=st.tuples(FIGURES, FIGURES, FIGURES, FIGURES))
def test_whatever_a_curve_is_made_of_a_sentence_is_all_that_comes(line: str, figures: tuple[str, ...]) -> None:
    """Points that lie together, powers beyond all numbers, nothing at all: a phrase for a recipe, or a refusal."""
    said = line.format(*figures)
    for rule in (by_power, by_current):
        try:
            made = rule(said)
        except LesartError as error:
            assert str(error).endswith(".")
            continue
        assert "nan" not in made
        assert not re.search(r"\binf\b", made)
