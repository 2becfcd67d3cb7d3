"""Responses of filters that are known on paper, and figures from data made to have them."""

from __future__ import annotations

import math
import warnings
from typing import Any

import numpy as np
import pytest

from lesart.core.block import Block, block_of
from lesart.core.calm.effect import lag_seen_s, noise_about_trend, slow_reference, worst_error
from lesart.core.calm.response import respond
from lesart.core.calm.spiked import spikes
from tests.core.chains import chain_of, filter_of, run_whole


def test_a_time_constant_on_paper() -> None:
    """Rise 2.197·τ, settled within 2 % after 3.912·τ, cut-off 1 ÷ (2π·τ), a ramp τ behind, a spike of dt ÷ τ."""
    chain = chain_of(filter_of("time constant", time="1 s", interval="0.01 s"))
    found = respond(chain, 0.01, 40.0, 1.0)
    assert found.step.rise_s == pytest.approx(2.197, abs=0.02)
    assert found.step.settles_s == pytest.approx(3.912, abs=0.02)
    assert found.step.overshoot == 0.0
    assert found.frequencies.cutoff_hz == pytest.approx(1 / (2 * math.pi), rel=0.03)
    assert found.ramp_lag_s == pytest.approx(0.995, abs=0.005)
    assert found.spike == pytest.approx(0.01, rel=0.01)


def test_a_mean_on_paper() -> None:
    """Sixteen at 10 Hz: a ramp 0.75 s behind, a step done after 1.5 s, gains |sin(16ω) ÷ (16·sin ω)|."""
    found = respond(chain_of(filter_of("mean", samples=16)), 0.1, 5.0, 2.0)
    assert found.ramp_lag_s == pytest.approx(0.75)
    assert found.step.settles_s == pytest.approx(1.5, abs=0.11)
    assert found.spike == pytest.approx(1 / 16)
    for hz, gain in zip(found.frequencies.hz.tolist(), found.frequencies.gain.tolist(), strict=True):
        half = math.pi * hz * 0.1
        assert gain == pytest.approx(abs(math.sin(16 * half) / (16 * math.sin(half))), abs=0.02)


def test_a_low_pass_on_paper() -> None:
    """Of second order: 4.3 % over, and the cut-off where it was asked."""
    found = respond(chain_of(filter_of("low-pass", order=2, cutoff="0.5 Hz", rate="50 Hz")), 0.02, 0.0, 1.0)
    assert found.step.overshoot == pytest.approx(0.0432, abs=0.002)
    assert found.frequencies.cutoff_hz == pytest.approx(0.5, rel=0.03)


def test_a_median_takes_a_spike_and_leaves_a_step() -> None:
    """What no transfer function says of it."""
    found = respond(chain_of(filter_of("median", samples=5)), 0.1, 20.0, 3.0)
    assert found.spike == 0.0
    assert found.step.rise_s == 0.0
    assert found.step.settles_s == pytest.approx(0.2)
    assert found.ramp_lag_s == pytest.approx(0.2)


def test_no_filter_at_all() -> None:
    """Everything passes."""
    found = respond(chain_of(), 0.1, 1.0, 1.0)
    assert (found.ramp_lag_s, found.spike, found.step.rise_s) == (pytest.approx(0, abs=1e-12), 1.0, 0.0)
    assert found.frequencies.gain == pytest.approx(np.ones(len(found.frequencies.gain)), abs=1e-6)
    assert math.isnan(found.frequencies.cutoff_hz)


def wandering(count: int = 6000) -> Block:
    """A walk with noise and three spikes, at 10 Hz."""
    random = np.random.default_rng(4)
    walk = np.convolve(np.cumsum(random.normal(0, 0.05, count)), np.ones(20) / 20, "same")
    x = walk + random.normal(0, 0.02, count)
    x[[1000, 2500, 4000]] += 8.0
    return block_of(x, 10.0)


@pytest.mark.parametrize(
    ("kind", "written", "lag_s"),
    [("mean", {"samples": 16}, 0.75), ("mean", {"samples": 5}, 0.2), ("exponential", {"weight": "0.1"}, 0.9)],
)
def test_lag_is_found_from_the_data(kind: str, written: dict[str, object], lag_s: float) -> None:
    """Within a sample or so of what the filter states; none where there is none."""
    before = wandering()
    after = run_whole(chain_of(filter_of("median", samples=3), filter_of(kind, **written)), before)
    assert lag_seen_s(before, after, 5.0) == pytest.approx(lag_s + 0.1, abs=0.25)
    assert lag_seen_s(before, before, 5.0) == pytest.approx(0.0, abs=0.02)
    assert math.isnan(lag_seen_s(before[:4], after[:4], 5.0))


@pytest.mark.parametrize("samples", [4, 8, 32])
@pytest.mark.parametrize("signal", ["a rise that slows down", "a ramp", "a wave", "steps", "nothing but noise"])
def test_lag_is_found_whatever_the_signal(signal: str, samples: int) -> None:
    """A mean of n is late by (n − 1) ÷ 2 samples, beside noise and spikes that a median would not let through."""
    t = np.arange(1200.0)
    signals = {
        "a rise that slows down": 8 * (1 - np.exp(-t / 200)),
        "a ramp": 0.01 * t,
        "a wave": np.sin(t / 32),
        "steps": 2.0 * (np.floor(t / 200) % 2),
        "nothing but noise": 0.0 * t,
    }
    x = signals[signal] + np.random.default_rng(samples).normal(0, 0.25, 1200)
    after = run_whole(chain_of(filter_of("mean", samples=samples)), block_of(x))
    x[110::151] += 30.0
    late = (samples - 1) / 2
    assert lag_seen_s(block_of(x), after, max(4 * late, 20.0)) == pytest.approx(late, rel=0.05)


def test_no_lag_is_found_of_what_no_float_holds_squared() -> None:
    """And nothing is written to the screen about it."""
    huge = block_of(1e300 * np.sin(np.arange(400) / 9), 10.0)
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        assert math.isnan(lag_seen_s(huge, huge, 2.0))


def test_spikes_are_counted() -> None:
    """Three were put in; a median of three takes them out."""
    before = wandering()
    after = run_whole(chain_of(filter_of("median", samples=3)), before)
    assert spikes(before, noise_about_trend(before)) == 3
    assert spikes(after, noise_about_trend(after)) == 0


@pytest.mark.parametrize("rate_hz", [10.0, 1 / 900])
@pytest.mark.parametrize("filters", [
    [filter_of("mean", samples=32)],
    [filter_of("mean", samples=8), filter_of("mean", samples=8)],
    [filter_of("median", samples=5), filter_of("mean", samples=16)],
], ids=len)  # fmt: skip
def test_an_averaged_signal_has_no_spikes(filters: list[Any], rate_hz: float) -> None:
    """Noise through a mean of 32 moves in small uneven steps, and none of them is a spike; through two filters it goes
    as smoothly as a signal."""
    after = run_whole(chain_of(*filters), block_of(np.random.default_rng(9).normal(20, 1, 20_000), rate_hz))
    assert spikes(after, float(after.x.std())) == 0


def test_the_worst_error_against_a_slow_reference() -> None:
    """A ramp that is followed 0.75 s late is wrong by that much of its slope; the reference itself is not late."""
    ramp = block_of(0.2 * np.arange(2000) / 10, 10.0)
    t, x = slow_reference(ramp, 25)
    assert x == pytest.approx(0.2 * t)
    after = run_whole(chain_of(filter_of("mean", samples=16)), ramp)
    assert worst_error(ramp, after, 25) == pytest.approx(0.15, abs=1e-6)
    assert worst_error(ramp, ramp, 25) == pytest.approx(0.0, abs=1e-9)
    assert math.isnan(worst_error(ramp[:20], ramp[:20], 25))


def test_the_slow_reference_leaves_little_of_what_is_quick() -> None:
    """A wave of 40 samples through a mean of 17 twice: the square of sin(17 φ) ÷ (17 sin φ) is left, φ = π ÷ 40; medians
    of five flatten its crests by less than a hundredth. What is left of a capture begins 2 + 2 · 8 samples later."""
    wave = block_of(np.sin(2 * np.pi * np.arange(4000) / 40), 10.0)
    t, x = slow_reference(wave, 8)
    phi = math.pi / 40
    assert x.max() == pytest.approx((math.sin(17 * phi) / (17 * math.sin(phi))) ** 2, rel=0.015)
    assert t[0] == pytest.approx(wave.t[18])
    assert t[-1] == pytest.approx(wave.t[-19])


@pytest.mark.parametrize("thinned", [1, 3, 10])
def test_a_mean_behind_a_filter_that_thins(thinned: int) -> None:
    """Its samples are longer: a ramp is late by 7.5 of those."""
    chain = chain_of(filter_of("decimate", n=thinned), filter_of("mean", samples=16))
    assert respond(chain, 0.1, 5.0, 2.0).ramp_lag_s == pytest.approx(0.75 * thinned)


def test_no_lag_is_found_behind_what_stands_still() -> None:
    """What does not move agrees with nothing; neither does too little of it."""
    moving = block_of(0.01 * np.sin(np.arange(400) / 9), 10.0)
    assert math.isnan(lag_seen_s(moving, block_of(np.full(400, 3.0), 10.0), 2.0))
    assert lag_seen_s(moving, moving, 2.0) == pytest.approx(0.0, abs=1e-6)
    assert math.isnan(lag_seen_s(moving[:15], moving[:15], 2.0))
