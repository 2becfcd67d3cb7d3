"""Filters over many samples: the same bits wherever the input is cut, and what plain loops make of it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator

import numpy as np
import pytest

from lesart.core.block import Block, block_of
from lesart.core.calm import low_pass
from lesart.core.through import PIECE, through
from tests.core.chains import FILTERS, chain_of, filter_of, run_in_pieces, run_whole, same_bits

COUNT = 2 * PIECE + 777

MORE = {
    "exponential, slow": (filter_of("exponential", weight="0.000001"),),
    "exponential, quick": (filter_of("exponential", weight="0.9999"),),
    "exponential, almost all": (filter_of("exponential", weight="0.9999999999"),),
    "exponential, all": (filter_of("exponential", weight="1"),),
    "time constant, shorter than samples": (filter_of("time constant", time="0.002 s", interval="0.1 s"),),
    "low-pass at a quarter": (filter_of("low-pass", order=1, cutoff="2.5 Hz", rate="10 Hz"),),
    "low-pass 2": (filter_of("low-pass", order=2, cutoff="0.001 Hz", rate="10 Hz"),),
    "low-pass 3 at a quarter": (filter_of("low-pass", order=3, cutoff="2.5 Hz", rate="10 Hz"),),
    "median 31": (filter_of("median", samples=31),),
    "mean 1000": (filter_of("mean", samples=1000),),
    "settling gate 100": (filter_of("settling gate", samples=100, width="9 kg"),),
    "deadband, restless": (filter_of("deadband", width="0.5 kg"),),
    "rate, restless": (filter_of("reject rate", most="20 kg/s", after=2),),
}
ALL = FILTERS | MORE


def long_signal() -> Block:
    """A slow wander with noise; runs that stand still, samples that are lost, gaps, and times that run back."""
    rng = np.random.default_rng(22)
    x = 20.25 + 0.01 * np.cumsum(rng.standard_normal(COUNT)) + rng.standard_normal(COUNT)
    x[1000:41_000] = 20.25
    x[rng.integers(0, COUNT, 60)] = 1e9
    x[rng.integers(0, COUNT, 40)] = np.nan
    x[90_000:90_300] = np.nan
    t = np.arange(COUNT) / 10.0 + rng.uniform(0, 0.02, COUNT)
    t[60_000:] += 5000.0
    t[70_000:70_010] -= 3.0
    t[80_000] = t[79_999]
    made = block_of(x)
    return Block(t, made.x, made.mark)


LONG = long_signal()


@pytest.mark.parametrize("name", ALL)
def test_cut_anywhere(name: str) -> None:
    """Samples that come one by one, by a few, or by tens of thousands: every bit of values and marks is the same."""
    chain = chain_of(*ALL[name])
    whole = run_whole(chain, LONG)
    singly = [*range(1, 150), *range(89_950, 90_400, 3), *range(59_990, 60_030)]
    odd = np.random.default_rng(3).integers(0, COUNT, 30).tolist()
    assert same_bits(run_in_pieces(chain, LONG, [*singly, *odd]), whole)
    assert same_bits(through(chain, LONG), whole)


@pytest.mark.parametrize("name", [name for name in ALL if not name.startswith(("mean", "all", "reject mark"))])
def test_what_stands_still_comes_out_as_it_is(name: str) -> None:
    """Not a bit of 20.3 changes, however many samples come and wherever they are cut. A mean divides a sum that floats
    round, and is left out."""
    chain = chain_of(*ALL[name])
    out = run_in_pieces(chain, block_of(np.full(COUNT, 20.3), 10.0), [5, 70_000])
    assert set(out.x.tolist()) == {20.3}


def exponential(weight: float) -> Callable[[Iterator[tuple[float, float]]], Iterator[float]]:
    """As it stands in textbooks."""

    def run(samples: Iterator[tuple[float, float]]) -> Iterator[float]:
        y = None
        for _, x in samples:
            y = x if y is None else y + weight * (x - y)
            yield y

    return run


def time_constant(time_s: float) -> Callable[[Iterator[tuple[float, float]]], Iterator[float]]:
    """With the time from sample to sample."""

    def run(samples: Iterator[tuple[float, float]]) -> Iterator[float]:
        y, before = None, -math.inf
        for t, x in samples:
            if y is None:
                y, before = x, t
            elif t > before:
                y += -math.expm1((before - t) / time_s) * (x - y)
                before = t
            yield y

    return run


def tracking(level_weight: float, slope_weight: float) -> Callable[[Iterator[tuple[float, float]]], Iterator[float]]:
    """Level and slope by the miss."""

    def run(samples: Iterator[tuple[float, float]]) -> Iterator[float]:
        level, slope, before = 0.0, 0.0, None
        for t, x in samples:
            if before is None:
                level, before = x, t
            elif t > before:
                dt = t - before
                level += slope * dt
                missed = x - level
                level += level_weight * missed
                slope += slope_weight * missed / dt
                before = t
            yield level

    return run


def sections(order: int, share: float) -> Callable[[Iterator[tuple[float, float]]], Iterator[float]]:
    """A cascade in the transposed form, from its coefficients."""

    def run(samples: Iterator[tuple[float, float]]) -> Iterator[float]:
        state: list[list[float]] | None = None
        for _, x in samples:
            if state is None:
                state = [[x - b0 * x, b2 * x - a2 * x] for b0, _, b2, _, a2 in low_pass._butterworth(order, share)]
            for memory, (b0, b1, b2, a1, a2) in zip(state, low_pass._butterworth(order, share), strict=True):
                y = b0 * x + memory[0]
                memory[0], memory[1] = b1 * x - a1 * y + memory[1], b2 * x - a2 * y
                x = y
            yield x

    return run


PLAIN = {
    "exponential": exponential(0.2),
    "exponential, slow": exponential(0.000001),
    "exponential, quick": exponential(0.9999),
    "time constant": time_constant(0.7),
    "time constant, shorter than samples": time_constant(0.002),
    "tracking": tracking(0.3, 0.05),
    "low-pass 1": sections(1, 0.1),
    "low-pass at a quarter": sections(1, 0.25),
    "low-pass 3 at a quarter": sections(3, 0.25),
    "low-pass 4": sections(4, 0.08),
}


@pytest.mark.parametrize("name", PLAIN)
def test_against_a_plain_loop(name: str) -> None:
    """Sample by sample as textbooks write it, to twelve digits of the greatest that came."""
    block = LONG[:12_000] if name.startswith("low") else LONG
    out = run_whole(chain_of(*ALL[name]), block)
    good = block.usable
    wanted = list(PLAIN[name](zip(block.t[good].tolist(), block.x[good].tolist(), strict=True)))
    np.testing.assert_allclose(out.x[good], wanted, rtol=1e-12, atol=1e-12 * np.abs(block.x[good]).max())


@pytest.mark.parametrize("n", [3, 5, 7, 31, 101])
def test_a_long_median_is_one_of_its_samples(n: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Found by heaps or by sorting each window anew, with zeros of both signs among the samples."""
    x = np.round(np.random.default_rng(n).standard_normal(3000), 1)
    out = run_whole(chain_of(filter_of("median", samples=n)), block_of(x)).x
    wanted = [sorted((x[end - n : end] + 0.0).tolist())[n // 2] for end in range(n, len(x) + 1)]
    assert out[n - 1 :].tobytes() == np.array(wanted).tobytes()
    monkeypatch.setitem(__import__("sys").modules, "bottleneck", None)
    assert run_whole(chain_of(filter_of("median", samples=n)), block_of(x)).x.tobytes() == out.tobytes()


def test_a_deadband_and_a_rate_against_loops() -> None:
    """Where they look at many samples at once they decide as if they had looked at each."""
    out = run_whole(chain_of(filter_of("deadband", width="0.5 kg")), LONG)
    good, shown, wanted = LONG.usable, None, []
    for x in LONG.x[good].tolist():
        shown = x if shown is None or abs(x - shown) > 0.5 else shown
        wanted.append(shown)
    assert out.x[good].tolist() == wanted
    believed = run_whole(chain_of(filter_of("reject rate", most="20 kg/s", after=2)), LONG)
    last, refused, kept = None, 0, []
    for t, x in zip(LONG.t[good].tolist(), LONG.x[good].tolist(), strict=True):
        too_fast = last is not None and refused < 2 and abs(x - last[1]) > 20.0 * max(t - last[0], 0.0)
        refused = refused + 1 if too_fast else 0
        last = last if too_fast else (t, x)
        kept.append(not too_fast)
    assert believed.usable[good].tolist() == kept


def test_lines_of_pieces_are_even() -> None:
    """Nothing of a capture is left out or given twice where it is run in pieces."""
    chain = chain_of(filter_of("mean", samples=3), filter_of("decimate", n=7))
    out = through(chain, LONG)
    assert len(out) == -(-COUNT // 7)
    assert [a for a, _ in itertools.pairwise(out.t[:5].tolist())] == LONG.t[: 7 * 4 : 7].tolist()
