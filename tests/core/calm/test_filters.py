"""Filters: against plain slow loops, and what they state against what is measured on white noise."""

from __future__ import annotations

import statistics
from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import calm
from lesart.core.block import Block, Mark, block_of
from lesart.core.calm.effect import noise_about_trend
from lesart.core.calm.windowed import sliding_median, sliding_sum
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit
from tests.core.chains import chain_of, filter_of, run_whole, signals


def slow_window(block: Block, n: int, what: Callable[[list[float]], float]) -> list[float]:
    """The last n good samples, one at a time."""
    good: list[float] = []
    out = []
    for x, usable in zip(block.x.tolist(), block.usable.tolist(), strict=True):
        if usable:
            good = [*good, x][-n:]
            out.append(what(good))
        else:
            out.append(x)
    return out


@pytest.mark.parametrize("n", [1, 3, 5, 7, 21])
@given(block=signals(80))
def test_median_against_a_loop(n: int, block: Block) -> None:
    """The sorting networks and the selection give what sorting gives, also while the window fills."""
    out = run_whole(chain_of(filter_of("median", samples=n)), block)
    expected = np.array(slow_window(block, n, statistics.median))
    np.testing.assert_array_equal(out.x, expected)


@pytest.mark.parametrize("n", [1, 2, 3, 8, 16, 29])
@given(block=signals(80))
def test_mean_against_a_loop(n: int, block: Block) -> None:
    """The doubling sums give the exact mean within rounding."""
    out = run_whole(chain_of(filter_of("mean", samples=n)), block)
    expected = np.array(slow_window(block, n, statistics.fmean))
    np.testing.assert_allclose(out.x, expected, rtol=1e-12, atol=1e-6)


@pytest.mark.parametrize(("n", "dropped"), [(3, 1), (5, 2), (10, 2), (10, 0), (9, 3), (32, 4)])
@given(block=signals(80))
def test_a_mean_without_extremes_against_a_loop(n: int, dropped: int, block: Block) -> None:
    """Also while the window fills, when as many go as leave one."""

    def middle(good: list[float]) -> float:
        left = sorted(good)
        for _ in range(dropped):
            if len(left) > 2:
                left = left[1:-1]
        return statistics.fmean(left)

    out = run_whole(chain_of(filter_of("trimmed mean", samples=n, dropped=dropped)), block)
    np.testing.assert_allclose(out.x, np.array(slow_window(block, n, middle)), rtol=1e-12, atol=1e-6)


def test_single_wrong_values_do_not_reach_a_mean_without_extremes() -> None:
    """Nor two on one side, nor one on either; of three on one side one does."""
    quiet = [10.0, 11.0] * 10
    trimmed = filter_of("trimmed mean", samples=8, dropped=2)
    for spikes, most in (({9: 1e6, 12: 1e6}, 11.0), ({9: 1e6, 11: -1e6}, 11.0), ({9: 1e6, 10: 1e6, 12: 1e6}, 1e6)):
        out = run_whole(chain_of(trimmed), block_of([spikes.get(place, each) for place, each in enumerate(quiet)]))
        assert out.x.max() <= most
        assert (out.x.max() > 11.0) == (most > 11.0)


def test_a_mean_of_nothing_is_refused() -> None:
    values, problems = read_table(calm.KINDS["trimmed mean"].parameters, {"samples": 6, "dropped": 3}, "f")
    assert not problems
    with pytest.raises(ValueError, match=r"^of 6 samples at most 2 can be dropped at each end, not 3$"):
        calm.KINDS["trimmed mean"].build(values, parse_unit("kg"))


def test_settling_until_the_window_is_full() -> None:
    """The first n − 1 samples are means of fewer, and say so."""
    out = run_whole(chain_of(filter_of("mean", samples=4)), block_of([4.0, 8.0, np.nan, 0.0, 4.0, 4.0]))
    assert [bool(mark & Mark.SETTLING) for mark in out.mark] == [True, True, False, True, False, False]
    np.testing.assert_array_equal(out.x, [4.0, 6.0, np.nan, 4.0, 4.0, 4.0])


def test_reject_allows_its_ends() -> None:
    """Both limits can be; what lies outside is marked RANGE and has no value."""
    reject = filter_of("reject range", lowest="0 g", highest="10 kg")
    out = run_whole(chain_of(reject), block_of([0.0, 10.0, 10.001, -0.001, 5.0]))
    assert [int(mark) for mark in out.mark] == [0, 0, Mark.RANGE, Mark.RANGE, 0]
    assert np.isnan(out.x[2:4]).all()


def test_hold_bridges_and_gives_up() -> None:
    """A gap within the time-out carries the last good value, marked HELD; a longer one stays bad."""
    hold = filter_of("hold", timeout="0.2 s")
    out = run_whole(chain_of(hold), block_of([np.nan, 7.0, np.nan, np.nan, np.nan, 9.0], rate_hz=10.0))
    np.testing.assert_array_equal(out.x, [np.nan, 7.0, 7.0, 7.0, np.nan, 9.0])
    assert [int(mark) for mark in out.mark] == [Mark.MISSING, 0, Mark.HELD, Mark.HELD, Mark.MISSING, 0]


def test_limits_the_wrong_way_round_are_refused() -> None:
    """And an even median, and a limit in another dimension."""
    for kind, written in (
        ("reject range", {"lowest": "9 kg", "highest": "1 kg"}),
        ("median", {"samples": 4}),
    ):
        values, _ = read_table(calm.KINDS[kind].parameters, written, "f")
        with pytest.raises(ValueError, match="must be below|odd"):
            calm.KINDS[kind].build(values, parse_unit("kg"))


@pytest.mark.parametrize(
    ("kind", "n"), [("mean", 4), ("mean", 16), ("mean", 100), ("median", 3), ("median", 5), ("median", 15)]
)
def test_stated_noise_and_delay_are_measured(kind: str, n: int) -> None:
    """On white noise the noise factor is as stated within 3 %, and a ramp lags by the stated delay."""
    values, _ = read_table(calm.KINDS[kind].parameters, {"samples": n}, "f")
    cost = calm.KINDS[kind].cost(values, 1.0)
    chain = chain_of(filter_of(kind, samples=n))
    noise = block_of(np.random.default_rng(5).standard_normal(300_000))
    assert float(run_whole(chain, noise).x[n:].std()) == pytest.approx(cost.noise_factor, rel=0.03)
    ramp = block_of(np.arange(1000.0))
    lag = ramp.x[n:] - run_whole(chain, ramp).x[n:]
    np.testing.assert_allclose(lag, cost.delay_samples, atol=1e-9)


@pytest.mark.parametrize("samples", [4, 16])
def test_stated_memory_is_what_a_window_holds(samples: int) -> None:
    """Four bytes a value, and for the mean a sum beside them."""
    values, _ = read_table(calm.KINDS["mean"].parameters, {"samples": samples}, "f")
    assert calm.KINDS["mean"].cost(values, 1.0).memory_bytes == 4 * samples + 8


@given(st.lists(st.floats(-1e3, 1e3), min_size=1, max_size=60), st.integers(1, 60))
def test_sliding_helpers(values: list[float], n: int) -> None:
    """Sums and medians of every window, against one window at a time."""
    n = min(n, len(values))
    x = np.array(values)
    windows = [values[start : start + n] for start in range(len(values) - n + 1)]
    np.testing.assert_allclose(sliding_sum(x, n), [sum(window) for window in windows], atol=1e-8)
    np.testing.assert_array_equal(sliding_median(x, n), [statistics.median(window) for window in windows])


def test_noise_is_found_under_drift_and_spikes() -> None:
    """A slow rise and a few absurd samples change the noise that is stated by less than a tenth."""
    random = np.random.default_rng(3)
    x = 0.05 * random.standard_normal(20_000) + np.linspace(0, 4, 20_000)
    x[::997] += 50
    assert noise_about_trend(block_of(x)) == pytest.approx(0.05, rel=0.1)
    assert noise_about_trend(block_of([1.0, 2.0])) == 0.0


@pytest.mark.parametrize("period", [400, 750, 3000])
@pytest.mark.parametrize("samples", [1, 4, 8])
def test_noise_is_found_under_a_bent_trend(period: int, samples: int) -> None:
    """A wave a hundred times as large, of so many samples a turn; averaged it is as much less as an average makes
    it."""
    random = np.random.default_rng(9)
    x = 3.0 * np.sin(2 * np.pi * np.arange(12_000) / period) + 0.03 * random.standard_normal(12_000)
    left = sliding_sum(x, samples) / samples
    assert noise_about_trend(block_of(left)) == pytest.approx(0.03 / samples**0.5, rel=0.12)


@pytest.mark.parametrize("size", [3.0, 30.0, 1000.0, 1e6])
def test_noise_is_found_between_steps(size: float) -> None:
    """A weight that is put on and taken off eight times in four thousand samples."""
    random = np.random.default_rng(4)
    x = np.repeat(random.uniform(0, size, 8), 500) + random.standard_normal(4000)
    assert noise_about_trend(block_of(x)) == pytest.approx(1.0, rel=0.08)


@pytest.mark.parametrize("count", [12, 16, 40, 100, 400])
def test_noise_of_few_samples_is_found_on_average(count: int) -> None:
    """Of many short captures, bent and straight; fewer than a dozen say nothing."""
    random = np.random.default_rng(count)
    bends = [0.0, 3.0 / count**2]
    for bend in bends:
        found = [
            noise_about_trend(block_of(random.standard_normal(count) + bend * np.arange(count) ** 2))
            for _ in range(300)
        ]
        assert np.mean(found) == pytest.approx(1.0, abs=0.12)
    assert noise_about_trend(block_of(random.standard_normal(11))) == 0.0


def test_what_floats_round_is_no_noise() -> None:
    """A mean over whole periods of what repeats leaves nothing but the last bits."""
    x = np.tile([20.1, 20.3, 20.7], 300)
    left = sliding_sum(x, 3) / 3
    assert np.ptp(left) > 0
    assert noise_about_trend(block_of(left)) == 0.0
    assert noise_about_trend(block_of(left + 1e-9 * np.tile([0.0, 1.0], 449))) > 0.0
