"""Small projects that many tests type into."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_job
from lesart.project.new.make import make_project
from tests.desk.test_recipes import opened


@pytest.fixture(scope="session")
def hut_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The job of one thermistor and one display."""
    return make_job("hut", tmp_path_factory.mktemp("hut") / "hut")


@pytest.fixture
def hut(hut_folder: Path) -> Iterator[Desk]:
    """Open, and as it was made: what a test did before is undone, for what is not saved would be there again."""
    found = open_desk(hut_folder)
    yield found
    while found.state.history.at:
        found.undo()
    found.close()


@pytest.fixture
def unwired(tmp_path: Path) -> Iterator[Desk]:
    """A capture without any part, in 1 Wire."""
    (tmp_path / "bench.csv").write_text("time [s],adc\n" + "".join(f"{k},{500 + k % 7}\n" for k in range(50)))
    make_project(tmp_path / "bench.csv", tmp_path / "bench")
    made = open_desk(tmp_path / "bench")
    made.open_step(Step.WIRE)
    yield made
    made.close()


@pytest.fixture(scope="module")
def thermometer(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Desk]:
    """A thermistor's reading, in Glass. Each test leaves it as it was."""
    desk = opened(tmp_path_factory.mktemp("thermometer"))
    desk.add("a thermistor half on a 10-bit converter")
    desk.open_step(Step.GLASS)
    yield desk
    desk.close()
