"""Noise behind filters against what was put in: still, under a signal, of a hum; and of filters behind each other."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.block import block_of
from lesart.core.calm.effect import noise_about_trend
from lesart.core.calm.noise import Noise, noise_of
from lesart.core.calm.noise_left import noise_factor, noise_left
from lesart.core.calm.record import FilterEntry
from lesart.core.calm.spiked import spikes
from lesart.core.chain import Chain
from lesart.core.parameters import read_table
from tests.core.chains import chain_of, filter_of, run_whole

SMOOTHING: list[list[dict[str, Any]]] = [
    [{"kind": "mean", "samples": 4}],
    [{"kind": "mean", "samples": 32}],
    [{"kind": "mean", "samples": 64}],
    [{"kind": "exponential", "weight": 0.2}],
    [{"kind": "exponential", "weight": 0.05}],
    [{"kind": "median", "samples": 9}],
    [{"kind": "median", "samples": 5}, {"kind": "mean", "samples": 32}],
    [{"kind": "mean", "samples": 16}, {"kind": "mean", "samples": 16}],
    [{"kind": "mean", "samples": 8}, {"kind": "decimate", "n": 2}],
]
COUNT = 6000


def of(entries: list[dict[str, Any]]) -> tuple[list[FilterEntry], Chain]:
    """As a channel has them, and as a chain."""
    filters = []
    for entry in entries:
        kind = calm.KINDS[entry["kind"]]
        filters.append(FilterEntry(kind, read_table(kind.parameters, entry, "", also=("kind",))[0], entry))
    return filters, chain_of(*(filter_of(**entry) for entry in entries))


def found(
    entries: list[dict[str, Any]], signal: np.ndarray, noise: np.ndarray, rate_hz: float = 1.0
) -> tuple[float, float]:
    """What is said to be left, and what is: what the same filters make of signal and noise less that of the signal."""
    filters, chain = of(entries)
    before = block_of(signal + noise, rate_hz)
    after = run_whole(chain, before)
    alone = run_whole(chain, block_of(signal, rate_hz))
    factor = noise_factor(filters, chain, 1.0 / rate_hz, float(signal.mean()), float(noise.std()))
    return noise_left(noise_of(before), after, factor), float((after.x - alone.x)[200:].std())


DAY = "a day's wave in a log of every quarter of an hour"
SIGNALS = {
    "still": np.full(COUNT, 20.0),
    "a rise that slows": 20.0 - 8.0 * np.exp(-np.arange(COUNT) / 600),
    "a wave of 400 samples": 20.0 + np.sin(np.arange(COUNT) * 2 * np.pi / 400),
    "a ramp": 0.01 * np.arange(COUNT),
    DAY: 20.0 + 6.0 * np.sin(np.arange(COUNT) * 2 * np.pi / 96),
}


@pytest.mark.parametrize("signal", SIGNALS)
@pytest.mark.parametrize("entries", SMOOTHING, ids=lambda some: " ".join(each["kind"] for each in some))
def test_of_white_noise_as_much_is_found_as_is_left(entries: list[dict[str, Any]], signal: str) -> None:
    """However slow what is left goes; a quarter is what 6000 samples leave open behind a mean of 64."""
    rate_hz = 1 / 900 if signal == DAY else 1.0
    told, left = found(entries, SIGNALS[signal], np.random.default_rng(26).normal(0, 0.25, COUNT), rate_hz)
    # A median leaves flat crests of a wave that turns within ten of its windows.
    within = 0.4 if signal == DAY and entries[0]["kind"] == "median" else 0.25
    assert told == pytest.approx(left, rel=within if signal == "still" or len(entries) == 1 else max(within, 0.3))


def test_on_average_it_is_off_by_little() -> None:
    """Two hundred captures of 1200 samples behind a mean of 32, of which a short trend alone finds half."""
    random = np.random.default_rng(5)
    pairs = [found([{"kind": "mean", "samples": 32}], np.zeros(1200), random.normal(0, 1, 1200)) for _ in range(200)]
    told, left = np.array(pairs).T
    assert float((told / left).mean()) == pytest.approx(1.0, abs=0.08)


def test_hum_that_a_mean_lets_through_is_no_white_noise() -> None:
    """A wave of 7.3 samples behind a mean of 2 is not less by a third: what is left is measured, not stated.

    A mean of 7 takes all of one of 7, whatever is left of white noise by it. A wave's median distance × 1.4826 is 1.05
    of its height, its deviation 0.71.
    """
    told, left = found([{"kind": "mean", "samples": 2}], np.zeros(COUNT), np.sin(np.arange(COUNT) * 2 * np.pi / 7.3))
    assert told == pytest.approx(left * 1.4826, rel=0.05)
    hum = np.sin(np.arange(COUNT) * 2 * np.pi / 7)
    assert found([{"kind": "mean", "samples": 7}], np.zeros(COUNT), hum)[0] < 0.01


def test_factors_of_filters_behind_each_other_do_not_multiply() -> None:
    """A mean of 16 behind another weighs by a triangle of 31: √(2 ÷ 3 ÷ 16), and not 1 ÷ 16."""
    filters, chain = of([{"kind": "mean", "samples": 16}] * 2)
    assert noise_factor(filters, chain, 0.1, 20.0, 0.3) == pytest.approx((2 / 3 / 16) ** 0.5, rel=0.05)
    assert noise_factor(filters, chain, 0.1, 20.0, 0.0) == pytest.approx(1 / 16)
    assert noise_factor([], chain, 0.1, 20.0, 1.0) == 1.0


def test_a_capture_too_short_to_see_it_has_what_is_stated() -> None:
    """A mean of 64 of a hundred samples; and where nothing came there is nothing."""
    x = np.random.default_rng(1).standard_normal(100)
    after = run_whole(chain_of(filter_of("mean", samples=64)), block_of(x))
    assert noise_left(Noise(1.0), after, 0.125) == pytest.approx(0.125)
    assert noise_left(Noise(0.0), block_of(np.zeros(100)), 0.125) == 0.0


@pytest.mark.parametrize("share", [0.001, 0.02, 0.05])
def test_noise_is_found_between_spikes(share: float) -> None:
    """One sample in a thousand to one in twenty at ten thousand times the noise: a lost echo says the longest there
    is."""
    random = np.random.default_rng(9)
    x = 0.7 + random.normal(0, 0.002, COUNT)
    x[random.random(COUNT) < share] = 6.5
    assert noise_about_trend(block_of(x)) == pytest.approx(0.002, rel=0.15)


def test_every_spike_is_counted_and_nothing_else() -> None:
    """Of noise, of what stands still, and of what a median of three leaves: of two beside each other both."""
    random = np.random.default_rng(9)
    places = np.arange(50, COUNT - 50, 60)
    noisy = random.normal(20, 0.1, COUNT)
    still = np.where(random.random(COUNT) < 0.1, 20.1, 20.0)
    counts = np.round(512 + random.normal(0, 0.3, COUNT))
    for quiet in (noisy, still, counts):
        assert spikes(block_of(quiet), noise_of(block_of(quiet)).sigma) == 0
        x = quiet.copy()
        x[places] += 40.0
        assert spikes(block_of(x), noise_of(block_of(x)).sigma) == len(places)
    twos = noisy.copy()
    twos[places] += 40.0
    twos[places + 1] += 40.0
    behind = run_whole(chain_of(filter_of("median", samples=3)), block_of(twos))
    assert spikes(behind, noise_about_trend(behind)) == 2 * len(places)


@pytest.mark.parametrize("samples", [96, 144])
@pytest.mark.parametrize("height", [2.0, 3.0, 10.0])
def test_spikes_are_counted_on_the_slopes_of_a_day(samples: int, height: float) -> None:
    """A third of a degree from sample to sample: the median of five about the sample beside a spike moves by as
    much."""
    x = 15.0 + 5.0 * np.sin(np.arange(COUNT) * 2 * np.pi / samples)
    x += np.random.default_rng(9).normal(0, 0.05, COUNT)
    block = block_of(x, 1 / 900)
    assert spikes(block, noise_of(block).sigma) <= 1
    places = np.arange(100, COUNT, 120)
    x[places] += height
    block = block_of(x, 1 / 900)
    assert abs(spikes(block, noise_of(block).sigma) - len(places)) <= 1


def test_gusts_that_a_median_and_a_mean_make_smooth_are_noise_all_the_same() -> None:
    """Wind on a scale, over half a second, beside white noise: what is left goes as smoothly as a signal of a
    second."""
    random = np.random.default_rng(5)
    count = 72_000
    gusts = np.interp(np.arange(count) / 6, np.arange(count // 6 + 2), random.standard_normal(count // 6 + 2))
    entries: list[dict[str, Any]] = [{"kind": "median", "samples": 5}, {"kind": "mean", "samples": 16}]
    told, left = found(entries, np.full(count, 42.0), 0.06 * gusts + 0.045 * random.standard_normal(count), 10.0)
    assert 0.7 * left < told < 1.1 * left
