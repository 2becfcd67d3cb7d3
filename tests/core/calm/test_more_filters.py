"""Filters that step, and gates: against another library, plain loops, and what they state against what is measured."""

from __future__ import annotations

import math

import numpy as np
import pytest
import scipy
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import calm
from lesart.core.block import Block, Mark, block_of
from lesart.core.errors import UnitError
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit
from tests.core.chains import chain_of, filter_of, run_whole, signals

RATE_HZ = 10.0


def usable(block: Block) -> tuple[list[float], list[float]]:
    """Times and values of the good samples."""
    return block.t[block.usable].tolist(), block.x[block.usable].tolist()


@given(block=signals(80), weight=st.floats(0.01, 1.0))
def test_exponential_against_a_loop(block: Block, weight: float) -> None:
    """The next good sample counts so much; bad ones pass and change nothing."""
    out = run_whole(chain_of(filter_of("exponential", weight=repr(weight))), block)
    _, values = usable(block)
    y, wanted = None, []
    for x in values:
        y = x if y is None else (1 - weight) * y + weight * x
        wanted.append(y)
    np.testing.assert_allclose(out.x[block.usable], wanted, rtol=1e-9, atol=1e-6)


@given(gaps=st.lists(st.floats(0.01, 3.0), min_size=2, max_size=40), time=st.floats(0.1, 10))
def test_a_time_constant_counts_time_and_not_samples(gaps: list[float], time: float) -> None:
    """A step from 0 to 1 has come through by 1 − e^(−t ÷ τ), however unevenly it was looked at."""
    t = np.concatenate([[0.0], np.cumsum(gaps)])
    x = np.ones(len(t))
    x[0] = 0.0
    step = filter_of("time constant", time=f"{time!r} s", interval="0.1 s")
    out = run_whole(chain_of(step), Block(t, x, np.zeros(len(t), np.uint8)))
    np.testing.assert_allclose(out.x, 1 - np.exp(-t / time), atol=1e-9)


@pytest.mark.parametrize("order", [1, 2, 3, 4])
@pytest.mark.parametrize("cutoff", [0.05, 0.5, 2.0, 4.5])
def test_low_pass_against_another_library(order: int, cutoff: float) -> None:
    """The same Butterworth design and filter, begun at rest at its first sample."""
    x = np.random.default_rng(2).normal(3, 1, 500)
    ours = run_whole(chain_of(filter_of("low-pass", order=order, cutoff=f"{cutoff} Hz", rate="10 Hz")), block_of(x))
    sections = scipy.signal.butter(order, cutoff, fs=RATE_HZ, output="sos")
    theirs, _ = scipy.signal.sosfilt(sections, x, zi=scipy.signal.sosfilt_zi(sections) * x[0])
    np.testing.assert_allclose(ours.x, theirs, rtol=1e-9, atol=1e-9)


def test_tracking_follows_a_ramp_without_lag() -> None:
    """And a constant exactly; a step overshoots and comes back."""
    track = chain_of(filter_of("tracking", level="0.3", slope="0.05"))
    ramp = block_of(0.7 * np.arange(400.0))
    assert run_whole(track, ramp).x[200:] == pytest.approx(ramp.x[200:], abs=1e-9)
    step = run_whole(track, block_of(np.concatenate([np.zeros(5), np.ones(300)]))).x
    assert step.max() > 1.01
    assert step[-1] == pytest.approx(1.0, abs=1e-6)


STATED = [
    ("exponential", {"weight": "0.5"}),
    ("exponential", {"weight": "0.05"}),
    ("time constant", {"time": "1 s", "interval": "0.1 s"}),
    ("time constant", {"time": "0.2 s", "interval": "0.1 s"}),
    ("low-pass", {"order": 1, "cutoff": "1 Hz", "rate": "10 Hz"}),
    ("low-pass", {"order": 2, "cutoff": "0.5 Hz", "rate": "10 Hz"}),
    ("low-pass", {"order": 4, "cutoff": "2 Hz", "rate": "10 Hz"}),
    ("tracking", {"level": "0.2", "slope": "0.02"}),
    ("tracking", {"level": "0.5", "slope": "0.1"}),
]


@pytest.mark.parametrize(("kind", "written"), STATED)
def test_stated_noise_and_delay_are_measured(kind: str, written: dict[str, object]) -> None:
    """White noise comes out by the stated factor within 3 %, and a ramp lags by the stated delay."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "f")
    assert not problems
    cost = calm.KINDS[kind].cost(values, 1 / RATE_HZ)
    chain = chain_of(filter_of(kind, **written))
    noise = block_of(np.random.default_rng(5).standard_normal(200_000), RATE_HZ)
    assert float(run_whole(chain, noise).x[500:].std()) == pytest.approx(cost.noise_factor, rel=0.03)
    ramp = block_of(np.arange(3000.0), RATE_HZ)
    lag = ramp.x[2000:] - run_whole(chain, ramp).x[2000:]
    np.testing.assert_allclose(lag, cost.delay_samples, atol=1e-6)


@pytest.mark.parametrize(("kind", "written"), STATED)
def test_it_says_when_it_has_settled(kind: str, written: dict[str, object]) -> None:
    """Behind the samples marked settling, less than a tenth of a wrong first sample is left; before, more than none."""
    chain = chain_of(filter_of(kind, **written))
    out = run_whole(chain, block_of(np.concatenate([[1.0], np.zeros(2000)]), RATE_HZ))
    settling = int((out.mark & np.uint8(Mark.SETTLING)).astype(bool).sum())
    assert 1 <= settling < 1000
    assert np.abs(out.x[settling:]).max() < 0.1


@pytest.mark.parametrize("order", [1, 2, 3, 4])
@pytest.mark.parametrize("cutoff_hz", [0.05, 0.3, 2.0])
def test_a_low_pass_settles_when_a_step_stays_within_a_twentieth(order: int, cutoff_hz: float) -> None:
    """Against a step through the coefficients of a library: the first of half a period of the cut-off, at least four
    samples, that all are within 5 %, and the marks last until their end."""
    b, a = scipy.signal.butter(order, cutoff_hz, fs=RATE_HZ)
    away = np.abs(scipy.signal.lfilter(b, a, np.ones(5000)) - 1.0) >= 0.05
    stays = max(int(0.5 * RATE_HZ / cutoff_hz), 4)
    wanted = next(n for n in range(stays, 5000) if not away[n - stays : n].any())
    chain = chain_of(filter_of("low-pass", order=order, cutoff=f"{cutoff_hz} Hz", rate=f"{RATE_HZ} Hz"))
    out = run_whole(chain, block_of(np.zeros(2000), RATE_HZ))
    assert int((out.mark & np.uint8(Mark.SETTLING)).astype(bool).sum()) == wanted


def test_a_change_that_is_too_fast_is_marked_until_it_stays() -> None:
    """Ten a second is allowed: a spike is not, the samples beside it are, and a real step is believed the fourth
    time."""
    reject = chain_of(filter_of("reject rate", most="100 kg/s", after=3))
    x = [0.0, 5.0, 200.0, 6.0, 60.0, 60.0, 60.0, 61.0, 62.0]
    out = run_whole(reject, block_of(x, RATE_HZ))
    assert [int(mark) for mark in out.mark] == [0, 0, Mark.RATE, 0, Mark.RATE, Mark.RATE, Mark.RATE, 0, 0]
    assert np.isnan(out.x[[2, 4, 5, 6]]).all()


def test_a_deadband_moves_when_it_must() -> None:
    """Changes up to the width are not shown; the first larger one is, in full."""
    out = run_whole(chain_of(filter_of("deadband", width="500 g")), block_of([1.0, 1.4, 0.6, 1.5, 1.51, 1.2, 1.0]))
    assert out.x.tolist() == [1.0, 1.0, 1.0, 1.0, 1.51, 1.51, 1.0]


@given(block=signals(60), n=st.integers(2, 6), width=st.floats(1, 200))
def test_a_settling_gate_against_a_loop(block: Block, n: int, width: float) -> None:
    """Values pass as they are; each is marked unless the last n good ones lie so near together."""
    out = run_whole(chain_of(filter_of("settling gate", samples=n, width=f"{width!r} kg")), block)
    np.testing.assert_array_equal(out.x, block.x)
    _, values = usable(block)
    for place, index in enumerate(np.flatnonzero(block.usable).tolist()):
        last = values[max(place - n + 1, 0) : place + 1]
        stands = len(last) == n and max(last) - min(last) <= width
        assert bool(out.mark[index] & Mark.SETTLING) is not stands


def test_every_third() -> None:
    """The first, and each third behind it, with its own time and mark."""
    block = block_of([0.0, 1.0, 2.0, np.nan, 4.0, 5.0, 6.0])
    out = run_whole(chain_of(filter_of("decimate", n=3)), block)
    assert out.t.tolist() == [0.0, 3.0, 6.0]
    assert out.mark.tolist() == [0, Mark.MISSING, 0]
    assert float(chain_of(filter_of("decimate", n=3)).steady(7.0)[-1].x[0]) == 7.0


def test_marked_samples_are_lost_where_that_is_asked() -> None:
    """Held values do not count as measured ones."""
    block = Block(np.arange(3.0), np.ones(3), np.array([0, Mark.HELD, Mark.SETTLING], np.uint8))
    out = run_whole(chain_of(filter_of("reject mark", marks="held")), block)
    assert out.usable.tolist() == [True, False, True]


WRONG = [
    ("low-pass", {"cutoff": "6 Hz", "rate": "10 Hz"}, "below half the rate, 5 Hz"),
    ("tracking", {"level": "1", "slope": "2"}, "below 2, else it swings ever wider"),
    ("deadband", {"width": "1 s"}, 'must be a difference in kg, like "0.1 kg", not 1 s'),
    ("reject rate", {"most": "1 kg"}, "in kg per time, like 1 kg/s"),
]


@pytest.mark.parametrize(("kind", "written", "says"), WRONG)
def test_values_that_do_not_fit(kind: str, written: dict[str, object], says: str) -> None:
    """Each with what would be right."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "f")
    assert not problems
    with pytest.raises((ValueError, UnitError), match=says):
        calm.KINDS[kind].build(values, parse_unit("kg"))


def test_a_difference_of_temperatures_is_one() -> None:
    """A deadband of 0.5 °C is half a degree wide in whatever scale it is written."""
    values, _ = read_table(calm.KINDS["deadband"].parameters, {"width": "0.9 Δ°F"}, "f")
    stage = calm.KINDS["deadband"].build(values, parse_unit("°C"))
    assert stage.width == pytest.approx(0.5)  # type: ignore[attr-defined]
    assert math.isclose(stage.slope(1.0), 1.0)
