"""Error budgets against sums worked by hand and against draws; fineness against signals made for it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import block_of
from lesart.core.law.budget import Doubt, budget_of, simulated
from lesart.core.law.resolution import Averaged, averaging, effective_bits, honest_step, rounding_left, worth


def divider(shares: Sequence[float]) -> float:
    """12 V of 3.3 V ± 1 %, behind 47 kΩ ± 1 % over 10 kΩ ± 1 %, at code 2600 of 4096."""
    reference, upper, lower = 3.3 * (1 + 0.01 * shares[0]), 47e3 * (1 + 0.01 * shares[1]), 10e3 * (1 + 0.01 * shares[2])
    return 2600 / 4096 * reference * (upper + lower) / lower


DOUBTS = [Doubt("reference", "3.3 V ± 1 %"), Doubt("upper", "47 kΩ ± 1 %"), Doubt("lower", "10 kΩ ± 1 %")]


def test_a_divider_by_hand() -> None:
    """Reference: 1 % of all. Upper and lower each move the ratio by 47/57 of their percent."""
    reading = 2600 / 4096 * 3.3 * 5.7
    found = budget_of(divider, DOUBTS, one_count=0.0046, noise=0.002)
    assert found.reading == pytest.approx(reading)
    shares = {share.name: share.half_width for share in found.shares}
    assert shares["reference"] == pytest.approx(0.01 * reading)
    assert shares["upper"] == pytest.approx(0.01 * reading * 47 / 57)
    assert shares["lower"] == pytest.approx(-0.01 * reading * 47 / 57, rel=2e-4)
    assert shares["one raw count"] == pytest.approx(0.0023)
    assert shares["noise"] == pytest.approx(0.004)
    assert [share.name for share in found.shares][:1] == ["reference"]
    squares = (0.01 * reading) ** 2 * (1 + 2 * (47 / 57) ** 2) / 3 + 0.0046**2 / 12 + 0.002**2
    assert found.standard == pytest.approx(math.sqrt(squares), rel=1e-3)
    assert found.of("tolerance").worst == pytest.approx(0.01 * reading * (1 + 2 * 47 / 57), rel=1e-3)


def test_one_doubt_is_never_likelier_than_its_worst() -> None:
    """Twice the standard uncertainty of a single even spread would be more than its end."""
    alone = budget_of(lambda shares: 5.0 + 0.1 * shares[0], [Doubt("a", "")])
    assert alone.likely == alone.worst == pytest.approx(0.1)


@pytest.mark.parametrize("width", [0.0, 0.01, 0.05])
def test_noise_has_no_ends(width: float) -> None:
    """Nineteen of twenty draws lie within twice its standard deviation, alone and where it is most of all there is."""
    doubts = [Doubt("a", "")] if width else []

    def reading(shares: Sequence[float]) -> float:
        return 5.0 + width * sum(shares)

    found = budget_of(reading, doubts, 0.0, 0.03)
    by_chance = simulated(reading, doubts, 40_000, np.random.default_rng(3), 0.0, 0.03)
    assert found.likely == pytest.approx(by_chance.likely, rel=0.05)
    assert found.standard == pytest.approx(by_chance.standard, rel=0.02)
    if not width:
        assert found.likely == found.worst == pytest.approx(0.06)


@given(
    widths=st.lists(st.floats(0.001, 0.05), min_size=1, max_size=5),
    count=st.floats(0, 0.02),
    noise=st.floats(0, 0.01),
    bend=st.floats(-0.3, 0.3),
)
def test_the_budget_agrees_with_draws(widths: list[float], count: float, noise: float, bend: float) -> None:
    """Within a few percent, for a reading that bends a little and is drawn four thousand times."""

    def reading(shares: Sequence[float]) -> float:
        x = 1.0 + sum(width * share for width, share in zip(widths, shares, strict=True))
        return x + bend * x * x

    doubts = [Doubt(str(place), "") for place in range(len(widths))]
    found = budget_of(reading, doubts, count, noise)
    by_chance = simulated(reading, doubts, 4000, np.random.default_rng(7), count, noise)
    spread, half = by_chance.standard, by_chance.likely
    assert by_chance.lost == 0
    assert spread == pytest.approx(found.standard, rel=0.05)
    assert half <= found.worst * 1.05
    assert half == pytest.approx(found.likely, rel=0.2)


@pytest.mark.parametrize(
    ("span", "noise", "bits"),
    [(4096, 0.0, 12.0), (4096, 1 / math.sqrt(12), 12.0), (65536, 16 / math.sqrt(12), 12.0), (4096, 2.0, 9.2075)],
)
def test_effective_bits(span: float, noise: float, bits: float) -> None:
    """A noiseless converter has all of its bits; sixteen times the rounding takes four."""
    assert effective_bits(span, noise) == pytest.approx(bits, abs=1e-3)


def test_averaging_white_noise_buys_the_root_and_drift_ends_it() -> None:
    """÷2 for 4, ÷8 for 64; a drift that is larger than what is left is found to end it near where they cross."""
    random = np.random.default_rng(3)
    white = block_of(random.normal(0, 1, 1 << 16))
    found = {each.samples: each.spread for each in averaging(white)}
    for samples in (1, 4, 16, 64):
        assert found[samples] == pytest.approx(1 / math.sqrt(samples), rel=0.08)
    best = worth(averaging(white))
    assert best is not None
    assert best.samples >= 512
    walk = block_of(white.x + np.cumsum(random.normal(0, 0.02, len(white))))
    # The mean of n falls as 1/√n, the walk grows as 0.02·√(n/3): they meet at about 87 samples.
    alone, same, less = Averaged(1, 1.0), Averaged(2, 0.95), Averaged(2, 0.89)
    assert worth(()) is None
    assert worth((alone,)) == worth((alone, same)) == worth((alone, same, Averaged(4, 0.1))) == alone
    assert worth((alone, less)) == less
    best = worth(averaging(walk))
    assert best is not None
    assert 16 <= best.samples <= 128


def test_what_averaging_buys_is_seen_between_weights_that_are_put_on() -> None:
    """Ten loads in as many minutes: by squares one step of them is more than all noise, and nothing would be gained."""
    random = np.random.default_rng(8)
    loads = np.repeat(random.uniform(0, 20, 10), 600)
    found = {each.samples: each.spread for each in averaging(block_of(loads + random.normal(0, 0.001, 6000)))}
    for samples in (1, 4, 16):
        assert found[samples] == pytest.approx(0.001 / math.sqrt(samples), rel=0.2)


def test_the_finest_step() -> None:
    """A count where the noise is small, twice the noise where it is not; less where a mean finds what is between."""
    assert honest_step(0.1, 0.01) == 0.1
    assert honest_step(0.1, 0.2) == 0.4
    assert honest_step(0.1, 0.01, left_of_count=0.3) == pytest.approx(0.03)
    assert honest_step(0.1, 0.04, left_of_count=0.3) == pytest.approx(0.08)


@pytest.mark.parametrize("sigma", [0.02, 0.1, 0.3, 0.5, 0.6, 0.8, 1.5])
def test_what_a_mean_finds_between_two_counts(sigma: float) -> None:
    """Against a plain simulation of 200 000 samples at each of 21 values between two counts: wherever the signal rests,
    what is stated is no less than twice what the mean is off at worst, for its noise as it is measured there."""
    random = np.random.default_rng(17)
    rests = np.linspace(0.0, 1.0, 21)
    counts = np.rint(rests + random.normal(0.0, sigma, (200_000, 1)))
    off = 2.0 * float(np.abs(counts.mean(axis=0) - rests).max())
    stated = [rounding_left(float(noise)) for noise in counts.std(axis=0)]
    assert min(stated) >= off - 4.0 * (sigma + 0.5) / math.sqrt(200_000) * 2.0
    if sigma >= 0.8:
        assert max(stated) < 0.01


def test_of_a_count_nothing_is_left_but_by_noise() -> None:
    """All of it where noise can be that of one border; then less and less."""
    stated = [rounding_left(noise) for noise in (0.0, 0.2, 0.5, 0.52, 0.6, 0.7, 1.0)]
    assert stated[:3] == [1.0, 1.0, 1.0]
    assert all(more > less for more, less in pairwise(stated[2:]))
    # At 0.6 the least noise there can be is √0.11 counts: of the series its first term alone, 1 ÷ π · exp(−2π²·0.11).
    assert stated[4] == pytest.approx(2 / math.pi * math.exp(-2 * math.pi**2 * 0.11), rel=0.01)


def test_a_count_of_pulses_may_be_a_whole_one_off() -> None:
    """Against a plain simulation: a gate of 1 s opens at any moment over evenly spaced pulses of any rate. The worst is a
    pulse, and over all rates the spread is a pulse ÷ √6."""
    random = np.random.default_rng(3)
    rates, begins = random.uniform(3.0, 40.0, 20_000), random.uniform(0.0, 1.0, 20_000)
    counted = np.floor((begins + 1.0) * rates) - np.floor(begins * rates)
    errors = counted - rates
    found = budget_of(lambda _: 100.0, [], 1.0, is_pulse=True)
    assert found.worst == 1.0
    assert 0.9 < np.abs(errors).max() <= found.worst
    assert found.standard == pytest.approx(float(errors.std()), rel=0.02)
    by_chance = simulated(lambda _: 0.0, [], 20_000, random, 1.0, is_pulse=True)
    assert by_chance.standard == pytest.approx(found.standard, rel=0.02)
    rounded = budget_of(lambda _: 100.0, [], 1.0)
    assert (rounded.worst, rounded.standard) == (0.5, pytest.approx(1 / math.sqrt(12)))


@pytest.mark.parametrize(("lowest", "highest"), [(0.0, 20.0), (9.0, 20.0), (0.0, 11.0), (7.0, 12.9), (7.1, 13.0)])
def test_a_tolerance_that_leaves_the_range_on_one_side(lowest: float, highest: float) -> None:
    """The other side says how much it makes: 3 up or down from 10, wherever the range ends."""

    def reading(shares: Sequence[float]) -> float:
        value = 10.0 + 3.0 * shares[0]
        return value if lowest <= value <= highest else math.nan

    share = budget_of(reading, [Doubt("slope", "± 30 %")]).shares[0]
    assert share.half_width == pytest.approx(3.0)


def test_a_tolerance_that_leaves_the_range_on_both_sides_is_not_known() -> None:
    """No figure is made up for it, nor for all together; it comes first, and draws are not believed either."""

    def reading(shares: Sequence[float]) -> float:
        return 10.0 + shares[1] if abs(shares[0]) < 0.01 else math.nan

    found = budget_of(reading, [Doubt("beta", "± 200 %"), Doubt("fixed", "± 1 %")])
    assert [share.name for share in found.shares] == ["beta", "fixed"]
    assert math.isnan(found.shares[0].half_width)
    assert math.isnan(found.likely)
    by_chance = simulated(reading, [Doubt("beta", ""), Doubt("fixed", "")], 1000, np.random.default_rng(1))
    assert math.isnan(by_chance.standard)
    assert 980 <= by_chance.lost <= 1000
