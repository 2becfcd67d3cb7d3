"""Each link has its own interval: what is stated of lag and rates agrees with a ramp that went through the chain."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.intervals import lateness
from lesart.study.loop_verdicts import paced
from tests.benches import bench_of, notes_of

SOURCE = """
[sources.s]
capture = "bench.csv"
time = "t"
header = 1
[channels.y]
source = "s"
column = "y"
raw_unit = "V"
unit = "V"
lowest = "-1000 V"
highest = "1000 V"
"""
GLASS = """
[panels.lid]
kind = "pixels"
[faces.first]
panel = "lid"
[[faces.first.items]]
kind = "field"
channel = "y"
[loop]
most_lag = "2 s"
"""
THINNED = '[[channels.y.calm]]\nkind = "decimate"\nn = 10\n'
MEAN = '[[channels.y.calm]]\nkind = "mean"\nsamples = 16\n'
RMS = '[[channels.y.law]]\nkind = "windowed RMS"\nwindow = "125 ms"\nsteady_part = "counted"\n'
CHAINS = {
    "thinned, then averaged": (THINNED + MEAN, 10.0, 7.5),
    "averaged, then thinned": (MEAN + THINNED, 10.0, 0.75),
    "thinned twice": (THINNED + MEAN.replace("16", "4") + THINNED + MEAN.replace("16", "3"), 10.0, 1.5 + 10.0),
    "a low-pass behind": (
        THINNED + '[[channels.y.calm]]\nkind = "exponential"\nweight = "0.25"\n',
        10.0,
        3.0,
    ),
}
"""Filters, samples a second, and how many seconds a ramp comes behind: means by (n − 1)/2 of what comes to them, an
exponential by (1 − w)/w."""


def ramp(folder: Path, chain: str, rate_hz: float) -> tuple[Project, Bench, Channel]:
    t = np.arange(9000) / rate_hz
    project, bench = bench_of(folder, SOURCE + chain + GLASS, {"t": t, "y": t})
    return project, bench, project.channels["y"]


@pytest.mark.parametrize("name", CHAINS)
def test_the_lag_is_that_of_a_ramp(name: str, tmp_path: Path) -> None:
    """By definition, as measured, as Calm states it, and as Pace takes it to the glass."""
    chain, rate_hz, by_definition = CHAINS[name]
    project, bench, channel = ramp(tmp_path, chain, rate_hz)
    calm = bench.run(project, channel).calm
    assert calm.t[-1] - calm.x[-1] == pytest.approx(by_definition, abs=1e-6)
    assert lateness(project, bench, channel).lag_s == pytest.approx(by_definition, abs=1e-6)
    to_glass = next(each for each in paced(project, bench).verdicts if each.name == "y to lid")
    assert by_definition * 1000 < to_glass.figure < by_definition * 1000 + 250
    assert (to_glass.note is not None) is (by_definition > 2)


def test_windows_of_a_law_are_late_too(tmp_path: Path) -> None:
    """Of a signal that grows by 1 V/s, the RMS of 125 ms is that of its middle, and sixteen of them lag by 7.5."""
    project, bench, channel = ramp(tmp_path, RMS + MEAN, 2000.0)
    late = lateness(project, bench, channel)
    calm = bench.run(project, channel).calm
    assert late.cost.lag_s == pytest.approx(7.5 * 0.125)
    assert late.lag_s == pytest.approx(calm.t[-1] - calm.x[-1], abs=1e-3)
    assert late.waits_s == pytest.approx(0.125 - 0.0005)


@pytest.mark.parametrize(("rate", "is_right"), [("1 Hz", True), ("10 Hz", False)])
def test_a_filter_is_told_the_rate_of_what_comes_to_it(rate: str, is_right: bool, tmp_path: Path) -> None:
    """Behind every tenth of 10 Hz that is 1 Hz."""
    low = f'[[channels.y.calm]]\nkind = "low-pass"\norder = 1\ncutoff = "0.1 Hz"\nrate = "{rate}"\n'
    t = np.arange(4000) / 10.0
    said = [each for each in notes_of(tmp_path, SOURCE + THINNED + low, {"t": t, "y": t}) if each.step is Step.CALM]
    assert [each.limit for each in said] == ([] if is_right else [pytest.approx(1.0)])
    if said:
        (mend,) = said[0].mend
        assert mend.value == "1 Hz"


def test_an_allowed_lag_is_held_behind_a_filter_that_thins(tmp_path: Path) -> None:
    """7.5 s where 2 s are allowed."""
    t = np.arange(4000) / 10.0
    toml = SOURCE + 'most_lag = "2 s"\n' + THINNED + MEAN
    (note,) = [each for each in notes_of(tmp_path, toml, {"t": t, "y": t}) if each.step is Step.CALM]
    assert (note.figure, note.limit) == (pytest.approx(7.5), 2.0)
