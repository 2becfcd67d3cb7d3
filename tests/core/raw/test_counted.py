"""Counters that begin anew, restarts, and stamps that rows share: against times that are known."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.raw.moments.counted import COUNTERS, counted_on, restarted, spread


@given(
    bits=st.sampled_from(COUNTERS),
    begin=st.integers(0, 2**32 - 1),
    step=st.integers(1, 9000),
    rows=st.integers(8, 400),
    seed=st.integers(0, 99),
)
def test_a_counter_goes_on_over_its_end(bits: int, begin: int, step: int, rows: int, seed: int) -> None:
    """From anywhere, by steps that differ by up to a half, over its end as often as it comes."""
    steps = step + np.random.default_rng(seed).integers(0, step // 2 + 1, rows)
    true = begin + np.cumsum(steps)
    values = (true % 2**bits).astype(np.float64)
    found, said = counted_on(values)
    if not (np.diff(values) < 0).any():
        assert (said, found.tolist()) == (0, values.tolist())
        return
    assert said == bits or values.max() < 2 ** min(COUNTERS)
    assert (found - found[0]).tolist() == (true - true[0]).tolist()


@pytest.mark.parametrize(
    "values",
    [
        [0, 10, 20, 30, 40, 35, 50, 60, 70, 80],  # one wrong row
        [65_000, 65_100, 65_200, 65_300, 65_400, 65_500, 900, 1000, 1100, 1200],  # nine steps later: a restart as well
        [0.5, 1.5, 2.5, 3.5, 0.5, 1.5, 2.5, 3.5, 4.5, 5.5],
        list(range(20)),
    ],
)
def test_what_is_no_full_counter_stays(values: list[float]) -> None:
    found, bits = counted_on(np.array(values, np.float64))
    assert (found.tolist(), bits) == ([float(each) for each in values], 0)


def test_a_restart_goes_on_one_step_later() -> None:
    """However often; the first time of a run may differ by what it took to begin."""
    times = np.concatenate([0.4 + np.arange(50) / 4, 0.9 + np.arange(30) / 4, 0.1 + np.arange(20) / 4])
    found, rows = restarted(times)
    assert rows == (50, 80)
    assert found == pytest.approx(0.4 + np.arange(100) / 4)


def test_few_stamps_with_many_rows_each_are_spread() -> None:
    """As a clock of whole minutes that is read every five seconds, for a few minutes."""
    found = spread(60.0 * np.repeat(np.arange(4.0), [7, 12, 12, 5]))
    assert found.shared == 12
    assert np.diff(found.times) == pytest.approx(5.0)


@pytest.mark.parametrize(
    "times",
    [
        np.arange(100.0),
        np.where(np.arange(100) == 50, 3.0, np.arange(100.0)),  # one wrong row
        np.concatenate([1.9e9 + np.arange(50.0), 1.9e9 - 3600 + np.arange(50.0)]),  # a clock that was set back
        np.concatenate([np.arange(50.0), np.arange(5.0)]),
        np.concatenate([np.arange(50.0), [np.nan], np.arange(50.0)]),
    ],
)
def test_what_is_no_restart_stays(times: np.ndarray) -> None:
    assert restarted(times)[1] == ()


@pytest.mark.parametrize("rate_hz", [2.0, 3.3, 7.5, 10.0, 50.0, 99.7])
@pytest.mark.parametrize("unit_s", [1.0, 60.0])
def test_rows_that_share_a_stamp_are_spread(rate_hz: float, unit_s: float) -> None:
    """Each comes back to two steps of where it was, and the step itself to a thousandth."""
    true = 0.37 * unit_s + np.arange(2000) / rate_hz * unit_s
    found = spread(np.floor(true / unit_s) * unit_s)
    assert found.shared == pytest.approx(rate_hz, rel=0.05)
    assert np.abs(found.times - true).max() < 2 * unit_s / rate_hz
    assert np.median(np.diff(found.times)) == pytest.approx(unit_s / rate_hz, rel=1e-3)
    assert (np.diff(found.times) > 0).all()


def test_a_pause_between_shared_stamps_stays_a_pause() -> None:
    true = np.concatenate([np.arange(300) / 10, 100 + np.arange(300) / 10])
    found = spread(np.floor(true))
    assert np.abs(found.times - true).max() < 0.2
    assert float(np.diff(found.times).max()) == pytest.approx(70.1, abs=0.2)


def test_a_clock_that_is_uneven_is_spread_within_each_stamp() -> None:
    """One that goes fast for a minute and slow for the next agrees with no even step: no row leaves its stamp."""
    true = np.cumsum(np.repeat([0.092, 0.11], 600))
    stamps = np.floor(true)
    found = spread(stamps)
    assert found.shared == pytest.approx(10, abs=0.5)
    assert (found.times >= stamps).all()
    assert (found.times < stamps + 1).all()
    assert (np.diff(found.times) > 0).all()
    assert np.abs(found.times - true).max() < 0.5


@pytest.mark.parametrize(
    "times",
    [
        np.arange(100.0),
        np.repeat(np.arange(12.0), [1, 9, 1, 1, 4, 1, 2, 30, 1, 1, 6, 1]),  # what comes when something happens
        np.floor(np.arange(100) * 1.01),
        np.repeat(np.arange(4.0), 3),  # so few may be chance
        np.repeat(np.arange(4.0), [5, 4, 9, 5]),
    ],
)
def test_what_shares_no_stamps_stays(times: np.ndarray) -> None:
    assert spread(times).times.tolist() == times.tolist()


def test_what_never_goes_forward_is_no_counter() -> None:
    """Falling all the way, also where a counter's width added would make small steps of it."""
    falling = np.arange(255.0, 55.0, -1.0)
    values, bits = counted_on(falling)
    assert bits == 0
    assert values.tolist() == falling.tolist()
