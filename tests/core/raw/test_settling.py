"""Readings that come too early are marked, by hand and for any times."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Block, Mark
from lesart.core.raw.settling import is_too_soon, with_early_marked


def block(t: list[float]) -> Block:
    return Block(np.array(t), np.arange(len(t), dtype=float), np.zeros(len(t), np.uint8))


def test_two_seconds_after_power_up_and_after_a_long_pause() -> None:
    """A reading a second; none from 5 to 60 s."""
    found = with_early_marked(block([0, 1, 2, 3, 4, 60, 61, 62, 63]), 2.0, 0.0)
    settling = [bool(mark & Mark.SETTLING) for mark in found.mark.tolist()]
    assert settling == [True, True, False, False, False, True, True, False, False]
    assert found.usable.all()


def test_sooner_than_the_sensor_allows() -> None:
    """Two seconds at least: the reading after one second is not believed, one after two is."""
    found = with_early_marked(block([0, 2, 3, 5, 5]), 0.0, 2.0)
    assert found.mark.tolist() == [0, 0, Mark.RATE, 0, Mark.RATE]
    tenths = with_early_marked(block((np.arange(50) / 10).tolist()), 0.0, 0.1)
    assert not tenths.mark.any()


def test_nothing_asked_nothing_marked() -> None:
    given_block = block([0, 1, 1, 2])
    assert with_early_marked(given_block, 0.0, 0.0) is given_block
    assert len(with_early_marked(block([]), 5.0, 5.0)) == 0


@given(st.lists(st.floats(0, 100), min_size=1, max_size=50), st.floats(0, 50), st.floats(0, 5))
def test_marks_are_only_added(gaps: list[float], settle: float, least: float) -> None:
    """Values and times stay; what is far from every start and slow enough is never marked."""
    before = block(np.cumsum(gaps).tolist())
    after = with_early_marked(before, settle, least)
    assert after.x.tolist() == before.x.tolist()
    slow = np.concatenate(([True], np.diff(before.t) >= least))
    assert not (after.mark[slow] & np.uint8(Mark.RATE)).any()
    # The rule once more, a sample at a time.
    steps = np.diff(before.t)
    usual = float(np.median(steps[steps > 0])) if (steps > 0).any() else np.inf
    start, settling = before.t[0], []
    for place, t in enumerate(before.t.tolist()):
        if place and steps[place - 1] > 10 * usual:
            start = t
        settling.append(t - start < settle)
    assert [bool(mark & Mark.SETTLING) for mark in after.mark.tolist()] == settling
    if settle > 0:
        assert after.mark[0] & Mark.SETTLING


@pytest.mark.parametrize("jitter_s", [0.0, 1.5e-6, 1e-3])
def test_frames_of_different_length_are_no_early_readings(jitter_s: float) -> None:
    """Asked every 2 s, and 2 s are needed: answers that last 3 to 5 ms, by their bits, mark nothing. By the ends of the
    frames about half would be too early."""
    random = np.random.default_rng(5)
    begun = 2.0 * np.arange(40) + random.uniform(0.0, jitter_s, 40)
    asked = block((begun + random.uniform(3e-3, 5e-3, 40)).tolist())
    assert not with_early_marked(asked, 0.0, 2.0, begun).mark.any()
    assert (np.diff(asked.t) < 2.0).sum() > 10


@pytest.mark.parametrize(
    ("interval_s", "marked"), [(0.8, True), (1.99, True), (1.997, True), (1.999, False), (2.0, False)]
)
def test_what_is_sooner_than_any_clock_is_off_is_marked(interval_s: float, marked: bool) -> None:
    """By more than a thousandth; the first reading never is."""
    found = with_early_marked(block((interval_s * np.arange(5)).tolist()), 0.0, 2.0)
    assert found.mark.tolist() == [0, *([int(Mark.RATE)] * 4 if marked else [0] * 4)]
    assert bool(is_too_soon(interval_s, 2.0)) is marked
