"""Noise beside signals that bend within few samples, against what was put in; and what is noise however it goes."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.block import block_of
from lesart.core.calm.effect import noise_about_trend
from lesart.core.calm.noise import noise_in
from lesart.core.calm.windowed import sliding_sum

COUNT = 6000
AT = np.arange(COUNT)
WHITE = np.random.default_rng(5).standard_normal(COUNT)
QUARTER_HZ, HOURLY_HZ = 1 / 900, 1 / 3600


@pytest.mark.parametrize(("rate_hz", "samples"), [(QUARTER_HZ, 96), (1 / 600, 144), (HOURLY_HZ, 24), (1 / 1800, 48)])
@pytest.mark.parametrize("noise", [0.01, 0.05, 0.1])
def test_a_day_is_no_noise_of_a_log(rate_hz: float, samples: int, noise: float) -> None:
    """Five degrees to either side. A trend of 51 samples leaves up to 5.5 of them, and says that it is noise."""
    x = 15.0 + 5.0 * np.sin(AT * 2 * np.pi / samples) + noise * WHITE
    assert noise_about_trend(block_of(x, rate_hz)) > 0.35
    assert 0.9 * noise < noise_in(block_of(x, rate_hz)) < 1.75 * noise


def test_a_pulse_is_no_noise_of_a_fast_signal() -> None:
    """Eighty samples a beat, with overtones, a hundred a second."""
    beat = sum(np.sin(AT * 2 * np.pi * n / 80 + n) / n**2 for n in (1, 2))
    assert noise_about_trend(block_of(beat + 0.01 * WHITE, 100.0)) > 0.4
    assert 0.009 < noise_in(block_of(beat + 0.01 * WHITE, 100.0)) < 0.018


@pytest.mark.parametrize("seldom", [True, False])
@pytest.mark.parametrize("samples", [1, 4, 10, 32])
def test_noise_that_was_averaged_is_noise_as_before(samples: int, seldom: bool) -> None:
    """Of itself it goes as smoothly as a signal does over as many samples: as much is found as about the trend."""
    x = sliding_sum(WHITE, samples) / samples
    block = block_of(x, QUARTER_HZ if seldom else 10.0)
    assert noise_in(block) == pytest.approx(noise_about_trend(block), rel=0.02)


@pytest.mark.parametrize("weight", [1.0, 0.1, 0.03])
def test_what_wanders_is_noise_as_before(weight: float) -> None:
    x = np.zeros(COUNT)
    for index in range(1, COUNT):
        x[index] = x[index - 1] + weight * (WHITE[index] - (x[index - 1] if weight < 1 else 0.0))
    assert noise_in(block_of(x, 10.0)) == pytest.approx(noise_about_trend(block_of(x, 10.0)), rel=0.02)


@pytest.mark.parametrize(("rate_hz", "mains_hz"), [(1000.0, 50.0), (2000.0, 50.0), (1000.0, 60.0), (9.7, 50.0)])
def test_hum_is_noise_however_smoothly_it_goes(rate_hz: float, mains_hz: float) -> None:
    """Its median distance × 1.4826 is 1.05 of its height; a mean over part of a period adds up to a quarter."""
    x = 100.0 + np.sin(AT / rate_hz * 2 * np.pi * mains_hz) + 0.01 * WHITE
    assert noise_in(block_of(x, rate_hz)) == pytest.approx(1.05, rel=0.3)


def test_a_load_that_swings_is_as_restless_as_it_swings() -> None:
    """Seven tenths of a second and a second, ten samples a second."""
    for samples in (7.3, 10.0):
        x = 20.0 + 0.4 * np.sin(AT * 2 * np.pi / samples) + 0.001 * WHITE
        assert noise_in(block_of(x, 10.0)) == pytest.approx(0.4 * 1.05, rel=0.3)


@pytest.mark.parametrize("rate_hz", [HOURLY_HZ, 10.0])
def test_steps_of_counts_are_noise_of_a_slow_ramp(rate_hz: float) -> None:
    """A count in twenty samples, which stands still for most of a short trend."""
    block = block_of(np.round(AT / 20.0), rate_hz)
    assert noise_about_trend(block) > 0.25
    assert noise_in(block) == pytest.approx(noise_about_trend(block), rel=0.02)


def test_few_samples_have_as_much_as_about_a_trend_and_none_has_none() -> None:
    short = block_of(WHITE[:30], HOURLY_HZ)
    assert noise_in(short) == pytest.approx(1.0, rel=0.35)
    assert noise_in(block_of(np.empty(0))) == 0.0
    assert noise_in(block_of([1.0, 2.0])) == 0.0
    assert noise_in(block_of(np.full(COUNT, 3.3))) == 0.0
