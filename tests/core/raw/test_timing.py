"""The times of a capture: rate, jitter, gaps, repeats and steps back."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from lesart.core.block import Floats, block_of
from lesart.core.raw.timing import raw_facts, timing_of


@pytest.mark.parametrize(
    ("t", "rate", "gaps", "longest", "back", "repeats"),
    [
        ([], 0.0, 0, 0.0, 0, 0),
        ([1.0], 0.0, 0, 0.0, 0, 0),
        ([0.0, 0.5], 2.0, 0, 0.0, 0, 0),
        ([0.0, 0.1, 0.2, 0.3], 10.0, 0, 0.0, 0, 0),
        ([0.0, 1.0, 2.0, 3.5, 4.5], 1.0, 0, 0.0, 0, 0),
        ([0.0, 1.0, 2.0, 3.515625, 4.5], 1.0, 1, 1.515625, 0, 0),
        ([0.0, 1.0, 2.0, 5.0, 6.0], 1.0, 1, 3.0, 0, 0),
        ([0.0, 1.0, 1.0, 2.0, 3.0], 1.0, 0, 0.0, 0, 1),
        ([0.0, 1.0, 0.5, 1.5, 2.5], 1.0, 0, 0.0, 1, 0),
        ([2.0, 2.0, 2.0], 0.0, 0, 0.0, 0, 2),
    ],
)
def test_times(t: list[float], rate: float, gaps: int, longest: float, back: int, repeats: int) -> None:
    """A missed sample is a gap, a stuck clock a repeat, a clock set back a step back."""
    timing = timing_of(np.array(t))
    assert (timing.rate_hz, timing.gaps, timing.longest_gap_s) == (pytest.approx(rate), gaps, pytest.approx(longest))
    assert (timing.steps_back, timing.repeats, timing.samples) == (back, repeats, len(t))
    assert timing.duration_s == (t[-1] - t[0] if t else 0.0)


def test_jitter_is_the_usual_distance_from_the_interval() -> None:
    """Intervals of 0.9 and 1.1 s about 1.0 jitter by 0.1 s."""
    t = np.cumsum([0.0, 0.9, 1.1, 1.0, 0.9, 1.1, 1.0, 0.9, 1.1])
    assert timing_of(t).jitter_s == pytest.approx(0.1)


def test_facts() -> None:
    """Marks are counted by their word, noise is robust, and an empty block has none."""
    random = np.random.default_rng(1)
    facts = raw_facts(block_of([*(3 * random.standard_normal(5000)), np.nan, np.nan, 1e9]))
    assert facts.marked == {"missing": 2}
    assert facts.noise == pytest.approx(3, rel=0.05)
    assert facts.greatest == 1e9
    assert raw_facts(block_of([np.nan])).noise == 0.0
    # Of 0, 1, 0, 1 the fourth differences are 8: 1.4826 for the median of a normal error, 8 ÷ √70 for them.
    assert raw_facts(block_of([0.0, 1.0] * 20)).noise == pytest.approx(1.4826 * 8 / 70**0.5, abs=1e-5)
    # Two alone are 1 apart, over √2.
    assert raw_facts(block_of([3.0, 4.0])).noise == pytest.approx(1.04836, abs=1e-5)


@pytest.mark.parametrize("signal", [
    lambda k: 8.0 * k, lambda k: 0.1 * k, lambda k: 500 - 0.07 * k + 1e-4 * k * k, lambda k: 8000 * np.sin(k / 6),
    lambda k: 50 * np.exp(-k / 30), lambda k: 1e6 + 3.0 * k,
])  # fmt: skip
@pytest.mark.parametrize("noise", [0.0, 11.0])
def test_what_a_signal_does_is_no_noise(signal: Callable[[Floats], Floats], noise: float) -> None:
    """A ramp, a bend, a wave of 38 samples, something that cools: four thousand readings, and forty, and five."""
    k = np.arange(4000.0)
    came = [raw_facts(block_of(signal(k) + noise * np.random.default_rng(2).standard_normal(4000))).noise]
    came.append(raw_facts(block_of(signal(k[:5]))).noise)
    # A wave leaves a thousandth of itself, and of five readings its bend.
    assert came[0] == pytest.approx(noise, rel=0.06, abs=1.1 if signal(k).std() > 5000 else 1e-3)
    if abs(np.diff(signal(k[:5]), 2)).max() < 1e-9:
        assert came[1] == 0.0


@pytest.mark.parametrize("counts", [0.7, 1.0, 1.5, 2.0, 3.3, 20.0])
@pytest.mark.parametrize("step", [1, 16])
def test_noise_of_whole_counts_goes_by_no_steps(counts: float, step: int) -> None:
    """With what rounding adds, a twelfth of a count squared; where most counts are alike there is none to be seen."""
    x = step * np.rint(500 + counts * np.random.default_rng(7).standard_normal(20_000))
    assert raw_facts(block_of(x)).noise == pytest.approx(step * (counts**2 + 1 / 12) ** 0.5, rel=0.08)
    still = np.where(np.arange(1000) % 10, 500.0, 501.0)
    assert raw_facts(block_of(still)).noise == 0.0


@pytest.mark.parametrize("step", [0.1, 0.01, 0.0625, 1e-7, 3.3 / 4096])
def test_readings_in_tenths_are_as_noisy_as_their_tenths(step: float) -> None:
    """20.3 − 20.2 differs from 20.2 − 20.1 by what floats round, and by nothing else."""
    counts = np.rint(200 + np.random.default_rng(3).normal(0, 1.4, 4000))
    written = np.array([float(f"{count * step:.9g}") for count in counts])
    assert raw_facts(block_of(written)).noise == pytest.approx(step * raw_facts(block_of(counts)).noise, rel=1e-3)
