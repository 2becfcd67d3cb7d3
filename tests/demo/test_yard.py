"""The linden yard: the same every time, plain files, and as spoiled as it claims to be."""

from __future__ import annotations

import csv
from pathlib import Path

import numpy as np
import pytest

from lesart.demo import signals
from lesart.demo.yard import capture_text, project_text
from lesart.desk.project_folders import make_yard
from lesart.project.check import check_project
from lesart.project.folder.store import OWN_FOLDER
from lesart.study.bench import Bench
from tests.conftest import MASS


def test_the_same_every_time(yard_once: Path, tmp_path: Path) -> None:
    """A second yard has the same bytes."""
    make_yard(tmp_path / "again")
    first, second = (
        {
            path.relative_to(folder): path.read_bytes()
            for path in folder.rglob("*")
            if path.is_file() and OWN_FOLDER not in path.parts
        }
        for folder in (yard_once, tmp_path / "again")
    )
    assert len(first) == 14
    assert first == second


def test_two_hours_at_ten_hertz() -> None:
    """72 000 rows a tenth of a second apart; a few cells empty, two rows torn, a few counts absurd."""
    rows = list(csv.reader(capture_text().splitlines()))[1:]
    assert len(rows) == 72_000
    assert [float(row[0]) for row in rows[:3]] == [0.0, 0.1, 0.2]
    assert float(rows[-1][0]) == 7199.9
    assert sum(len(row) < 4 for row in rows) == 2
    whole = [row for row in rows if len(row) == 4]
    assert 10 <= sum(row[1] == "" for row in whole) <= 20
    ends = [int(row[1]) for row in whole if row[1] and int(row[1]) in (-(1 << 23), (1 << 23) - 1)]
    assert len(ends) == 9


def test_the_chain_finds_the_true_mass(yard_once: Path) -> None:
    """What was hidden in the capture, an error of gain and offset included, comes out at the field again."""
    project = check_project(project_text())
    calm = Bench(yard_once).run(project, project.channels[MASS]).calm
    t = np.arange(72_000) / 10
    true = signals.true_mass(_after_gusts(len(t)), t)
    still = calm.usable & (np.abs(t - 2460) > 300)
    # The filters are 9.5 samples late; the mass hardly changes in that time.
    error = calm.x[still] - true[still]
    assert abs(float(np.median(error))) < 0.02
    assert float(np.quantile(np.abs(error), 0.99)) < 0.6


def _after_gusts(length: int) -> np.random.Generator:
    """The generator as ``morning`` hands it to ``true_mass``: after the gusts, the wind's two draws come first
    there."""
    random = np.random.default_rng(signals.SEED)
    random.standard_normal(length // 400 + 3)
    return random


def test_references_were_weighed_on_this_scale() -> None:
    """Each indication is its true mass with the scale's error, to the noise of a weighing."""
    for true, indicated in signals.weighings():
        assert indicated == pytest.approx(true * 1.0062 + 0.214, abs=0.04)


def test_no_names_of_the_world() -> None:
    """Nothing but made-up words in the project file: its names are the yard's."""
    project = check_project(project_text())
    assert set(project.channels) == {
        "hive 2 mass",
        "lid air",
        "brood probe",
        "yard air",
        "yard humidity",
        "entrance",
        "hive 1 mass",
        "pressure",
        "wind from",
        "wind",
        "rain",
        "syrup below",
        "lid sound",
        "lid level",
        "battery",
        "stand x",
        "stand y",
        "stand lean",
        "dew point",
        "smoker",
    }
    assert set(project.panels) == {"stand", "door", "lid", "mast", "gate"}
