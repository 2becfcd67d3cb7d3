"""Fixtures shared by all tests: the linden yard, written once and copied for each test that changes it."""

from __future__ import annotations

import gc
import itertools
import os
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from hypothesis import settings

from lesart.cli.main import COLLECT_AFTER
from lesart.core.raw.source import Source
from lesart.demo.yard import project_text
from lesart.desk.desk import Desk
from lesart.project.check import check_project
from lesart.project.model import Project
from tests.drawn_cases import split
from tests.warm import open_warm, yard_once_made

# The machine that runs the tests may be slow; how long an example takes is not what they are about.
settings.register_profile("lesart", deadline=None, max_examples=12, derandomize=True)
# Further ones, for make proof.
settings.register_profile("proof", deadline=None, max_examples=100)
# Other examples each time, and many: python -m pytest --hypothesis-profile=deep tests/core
settings.register_profile("deep", deadline=None, max_examples=1000)
settings.load_profile("lesart")

# Thousands of tests that were collected, and all that the yard has computed, are gone through at every search for what
# only holds itself: by Python's own habit a quarter of the whole time.
gc.set_threshold(*COLLECT_AFTER)

MASS = "hive 2 mass"
AIR = "lid air"


@pytest.hookimpl(optionalhook=True)
def pytest_xdist_auto_num_workers() -> int:
    """One more than there are processors: tests of screens and terminals wait for them a third of their time.

    Each more reads all tests for itself, ten seconds of them. All of them on two: 375 s with three, 421 s with four.
    """
    return 1 + (os.cpu_count() or 1)


def pytest_collection_finish() -> None:
    """What was collected stays to the end, and need not be looked at again."""
    gc.collect()
    gc.freeze()


@pytest.fixture(scope="session")
def memories(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """Folders that are not there yet, one for each test."""
    folder = tmp_path_factory.mktemp("state")
    return (folder / str(number) for number in itertools.count())


@pytest.fixture(autouse=True)
def nobody_s_computer(memories: Iterator[Path], monkeypatch: pytest.MonkeyPatch) -> None:
    """What a run remembers for the next one goes to a folder of the test, and no other test remembers it."""
    monkeypatch.setenv("XDG_STATE_HOME", str(next(memories)))


@pytest.fixture(scope="session")
def yard_once() -> Path:
    """The yard's files. Read only."""
    return yard_once_made()


@pytest.fixture
def yard(yard_once: Path, tmp_path: Path) -> Path:
    """A copy of the yard to change."""
    folder = tmp_path / "yard"
    shutil.copytree(yard_once, folder)
    return folder


@pytest.fixture
def desk(yard: Path) -> Desk:
    """The yard, open, with all computed that its notes want."""
    return open_warm(yard)


@pytest.fixture(scope="session")
def yard_project() -> Project:
    """The yard's project, checked."""
    return check_project(project_text())


@pytest.fixture
def csv_source() -> Callable[..., Source]:
    """A source with the usual answers, any of them changed."""

    def make(**changes: object) -> Source:
        usual = {
            "name": "s",
            "capture": "c.csv",
            "delimiter": ",",
            "decimal": ".",
            "header": 1,
            "time": "t",
            "time_unit": "s",
            "rate_hz": 1.0,
        }
        return Source(**{**usual, **changes})  # type: ignore[arg-type]

    return make


def killed(desk: Desk) -> None:
    """What a kill leaves of an open project: the operating system lets its lock go, and nothing else happens."""
    assert desk.filed.session is not None
    desk.filed.session.close()


def pytest_addoption(parser: pytest.Parser) -> None:
    """What a run is named after, where only some cases of each test are run."""
    parser.addoption("--drawn-by", default="", help="run some of the cases of a test with many, drawn by this text")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Tests that wait for a terminal or a screen come first: at the end one worker would wait for them alone."""
    if run := config.getoption("--drawn-by"):
        names = [item.nodeid for item in items]
        items[:], left_out = split(items, (name.partition("[")[0] for name in names), names, run)
        config.hook.pytest_deselected(items=left_out)
    items.sort(key=lambda item: not item.nodeid.startswith(("tests/terminal", "tests/live", "tests/tui")))
