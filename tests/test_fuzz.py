"""A little of ``make fuzz`` in every run: absurd input for each place that takes any, of which only a sentence may
come."""

from __future__ import annotations

import warnings
from pathlib import Path

import pytest
from tools.fuzz.__main__ import ALL, cases

SEED = 20_261_126
FEW = {
    "project values": 40,
    "project text broken": 30,
    "parquet": 3,
    "xlsx": 3,
    "aiff": 3,
    "wav": 15,
    "vcd": 25,
    "fonts": 25,
    "filters": 120,
}
"""Cases of places where one takes long; of the others there are more."""


@pytest.mark.parametrize("name", ALL)
def test_absurd_input_gives_a_sentence(name: str, tmp_path: Path) -> None:
    """The same cases in every run; other seeds are for ``make fuzz``."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        found = [each for each in cases(name, SEED, 60.0, FEW.get(name, 10), tmp_path) if each is not None]
    assert found == []
