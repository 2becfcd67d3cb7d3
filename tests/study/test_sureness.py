"""How fine a reading is behind its filters: what is stated is held against a signal that rests between two counts."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.core.calm import KINDS
from lesart.study.run import Run
from lesart.study.sureness import Sureness, sureness_in_the_middle
from tests.benches import bench_of

CHANNEL = """
[sources.s]
capture = "bench.csv"
time = "t"
header = 1
[channels.y]
source = "s"
column = "y"
raw_unit = "ct"
unit = "kg"
lowest = "-1000 kg"
highest = "1000 kg"
[[channels.y.law]]
kind = "linear"
input = "0 ct"
output = "0 kg"
slope = "0.1 kg/ct"
"""
RESTS = 100.37
"""Counts."""
ONE_COUNT = 0.1
"""In kg."""
TOLD = {
    "reject range": 'lowest = "0 kg"\nhighest = "20 kg"',
    "circular mean": 'lowest = "0 kg"\nhighest = "20 kg"',
    "reject rate": 'most = "100 kg/s"',
    "deadband": 'width = "0.1 kg"',
    "settling gate": 'width = "2 kg"',
}
"""What a kind cannot be without."""


def found(folder: Path, noise: float, *filters: str) -> tuple[Sureness, Run]:
    """Of 4000 counts at 50 Hz behind such filters."""
    random = np.random.default_rng(29)
    counts = np.rint(RESTS + noise * random.standard_normal(4000))
    calm = "".join(f"[[channels.y.calm]]\n{lines}\n" for lines in filters)
    project, bench = bench_of(folder, CHANNEL + calm, {"t": np.arange(4000) / 50, "y": counts})
    channel = project.channels["y"]
    sure = sureness_in_the_middle(project, channel, bench)
    assert sure is not None
    assert sure.one.size == pytest.approx(ONE_COUNT)
    return sure, bench.run(project, channel)


@pytest.mark.parametrize("name", KINDS)
def test_more_than_counts_is_made_out_where_it_is(name: str, tmp_path: Path) -> None:
    """Of every kind of filter, as it starts: where finer steps than counts are stated, its mean is right to one of them;
    where they are not, it either gives whole counts or leaves more noise than one."""
    sure, run = found(tmp_path, 1.5, f'kind = "{name}"\n{TOLD.get(name, "")}')
    calm = run.calm
    settled = calm.x[calm.usable & (calm.mark & Mark.SETTLING == 0)]
    if sure.one.is_averaged:
        assert abs(settled.mean() - ONE_COUNT * RESTS) < sure.one.made_out
    else:
        counts = settled / ONE_COUNT
        assert sure.rest > ONE_COUNT / 2 or np.abs(counts - np.rint(counts)).max() < 1e-6


@pytest.mark.parametrize(
    ("noise", "filters", "is_averaged"),
    [
        (1.5, ['kind = "mean"\nsamples = 32'], True),
        (1.5, ['kind = "median"\nsamples = 31'], False),
        (1.5, ['kind = "median"\nsamples = 3', 'kind = "mean"\nsamples = 32'], True),
        (0.1, ['kind = "mean"\nsamples = 32'], False),
        (1.5, ['kind = "mean"\nsamples = 2'], False),
        (1.5, [], False),
    ],
)
def test_averaging_needs_noise_and_samples(noise: float, filters: list[str], is_averaged: bool, tmp_path: Path) -> None:
    """A median gives counts again, and a mean of a quiet converter finds nothing between two."""
    assert found(tmp_path, noise, *filters)[0].one.is_averaged is is_averaged


def test_what_is_made_out_is_twice_what_is_left_of_the_noise(tmp_path: Path) -> None:
    """By hand: 1.5 counts, with 1 ÷ 12 of rounding 1.53, of which a mean of 64 leaves an eighth."""
    sure, _ = found(tmp_path, 1.5, 'kind = "mean"\nsamples = 64')
    assert sure.one.made_out == pytest.approx(2 * ONE_COUNT * 1.53 / 8, rel=0.15)
