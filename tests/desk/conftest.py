"""A small project that many tests type into."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_job


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
