"""An edit with a long capture open: what is looked at comes first and is right, the rest behind it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.errors import NotWanted
from lesart.core.step import Step
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.study import bench as benches
from lesart.study import run as runs
from lesart.study.bench import Bench
from lesart.study.run import Haste
from tests.core.calm.test_registry import written_of

COUNT = 60_000
FROM_THE_START = {"deadband", "decimate", "reject rate"}
"""What they give hangs on all that came before; what is shown in haste of them is put right a moment later."""
LASTING = {"highest so far", "lowest so far"}
"""They are run from the beginning."""
PROJECT = """lesart = 1
name = "long"
[sources.s]
capture = "c.csv"
format = "csv"
header = 1
time = "t"
time_unit = "s"
[channels.mass]
source = "s"
column = "x"
raw_unit = "kg"
unit = "kg"
lowest = "-1000 kg"
highest = "1000 kg"
"""


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A capture that wanders."""
    place = tmp_path_factory.mktemp("long")
    x = 0.05 * np.cumsum(np.random.default_rng(2).standard_normal(COUNT))
    rows = "".join(f"{at / 10!r},{value!r}\n" for at, value in enumerate(x.tolist()))
    (place / "c.csv").write_text("t,x\n" + rows)
    return place


@pytest.fixture(autouse=True)
def soon_long(monkeypatch: pytest.MonkeyPatch) -> None:
    """So that a test need not have millions."""
    for module in (benches, runs):
        monkeypatch.setattr(module, "LONG", 1000)
        monkeypatch.setattr(module, "PIECE", 500)


def project_of(kind: str) -> Project:
    lines = "".join(f"{key} = {_toml(value)}\n" for key, value in written_of(kind).items())
    return check_project(f'{PROJECT}[[channels.mass.calm]]\nkind = "{kind}"\n{lines}')


def _toml(value: object) -> str:
    return str(value).lower() if isinstance(value, bool) else f'"{value}"' if isinstance(value, str) else str(value)


@pytest.mark.parametrize("kind", [kind for kind in calm.KINDS if kind not in FROM_THE_START])
@pytest.mark.parametrize("cursor_s", [0.0, 30.0, 5000.0, 5999.9])
def test_what_is_read_at_the_cursor_is_what_all_samples_give(kind: str, cursor_s: float, folder: Path) -> None:
    """Of every filter, at the start of a capture, within, and at its end; the bench says that something was left
    out."""
    project, bench = project_of(kind), Bench(folder)
    channel = project.channels["mass"]
    bench.haste = Haste(cursor_s, (0.0, 6000.0))
    hasty = bench.run(project, channel)
    assert bench.left_out
    assert len(hasty.blocks[Step.RAW]) == COUNT
    if kind in LASTING:
        assert hasty.calm.t[0] == 0.0
    else:
        assert len(hasty.calm) < COUNT / 2
    bench.haste = None
    whole = bench.run(project, channel)
    assert len(whole.calm) == COUNT
    first, then = (run.reading_at(Step.CALM, cursor_s) for run in (hasty, whole))
    assert first.value == pytest.approx(then.value, abs=1e-9, nan_ok=True)
    # Known by now, it is what is looked at in haste too.
    bench.haste, bench.left_out = Haste(cursor_s, (0.0, 6000.0)), False
    assert bench.run(project, channel) is whole
    assert not bench.left_out


def test_a_total_is_that_of_the_whole_capture_in_haste_too(folder: Path) -> None:
    """It has no later start; only what comes behind what is looked at is left for later."""
    law = '[[channels.mass.law]]\nkind = "sum"\nbegin = "0 kg"\n'
    project, bench = check_project(PROJECT + law), Bench(folder)
    bench.haste = Haste(3000.0, (0.0, 6000.0))
    hasty = bench.run(project, project.channels["mass"])
    assert bench.left_out
    bench.haste = None
    whole = bench.run(project, project.channels["mass"])
    assert len(hasty.calm) < len(whole.calm)
    assert hasty.calm.x.tobytes() == whole.calm.x[: len(hasty.calm)].tobytes()


LAW = '[[channels.mass.law]]\nkind = "linear"\nslope = "2 kg/kg"\ninput = "0 kg"\noutput = "1 kg"\n'


def _of_mean(samples: int) -> Project:
    return check_project(f'{PROJECT}{LAW}[[channels.mass.calm]]\nkind = "mean"\nsamples = {samples}\n')


def test_what_stands_before_an_edit_is_run_once_in_haste(folder: Path) -> None:
    """Readings before a filter stay the same block while the filter is edited, as do those of a second look."""
    bench = Bench(folder)
    bench.haste = Haste(3000.0, (0.0, 6000.0))
    first, again, edited = (
        bench.run(project, project.channels["mass"]) for project in (_of_mean(50), _of_mean(50), _of_mean(51))
    )
    assert again.calm is first.calm
    assert edited.blocks[Step.LAW] is first.blocks[Step.LAW]
    assert edited.calm is not first.calm
    assert not np.array_equal(edited.calm.x, first.calm.x)


def test_few_blocks_run_in_haste_are_kept(folder: Path) -> None:
    """A person who edits for an hour fills no memory."""
    bench = Bench(folder)
    bench.haste = Haste(3000.0, (2960.0, 3040.0))
    for samples in range(2, 60):
        project = _of_mean(samples)
        bench.run(project, project.channels["mass"])
        assert sum(map(len, bench.hasty.kept.values())) <= runs.MOST_HASTY * 1000


def test_a_view_that_is_not_too_wide_is_run_whole(folder: Path) -> None:
    """A chart of it has all of its samples."""
    project, bench = project_of("mean"), Bench(folder)
    bench.haste = Haste(100.0, (80.0, 120.0))
    run = bench.run(project, project.channels["mass"])
    assert run.calm.t[0] <= 80.0
    assert run.calm.t[-1] >= 120.0


def test_what_is_not_wanted_any_more_stops_and_is_done_when_it_is(folder: Path) -> None:
    """Between two parts; nothing half done is kept."""
    project, bench = project_of("mean"), Bench(folder)
    bench.raw(project, project.channels["mass"])
    asked = iter([True, True, False])
    bench.wanted = lambda: next(asked)
    with pytest.raises(NotWanted):
        bench.run(project, project.channels["mass"])
    bench.wanted = None
    assert len(bench.run(project, project.channels["mass"]).calm) == COUNT
