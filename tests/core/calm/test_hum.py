"""Hum: found at whatever frequency it looks like, not where another wave is, and by a mean that takes it."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.block import Block, block_of
from lesart.core.calm.hum import hum_in
from lesart.core.calm.inspect import inspect_hum
from lesart.core.notes import DOUBT, REMARK
from tests.core.chains import chain_of, filter_of, run_whole


def hummed(rate_hz: float, wave_hz: float, height: float = 0.5, noise: float = 0.05, seconds: float = 0.0) -> Block:
    """A slow signal with a wave of so many hertz and some noise, 4000 samples."""
    t = np.arange(4000) / rate_hz
    x = 20 + 2 * np.sin(2 * np.pi * t / (seconds or 1000 / rate_hz)) + height * np.sin(2 * np.pi * wave_hz * t + 0.7)
    return block_of(x + np.random.default_rng(3).normal(0, noise, len(t)), rate_hz)


@pytest.mark.parametrize("mains_hz", [50.0, 60.0])
@pytest.mark.parametrize("rate_hz", [11.3, 17.3, 28.7, 80.0, 93.0, 250.0, 1000.0])
def test_the_mains_is_found_where_it_looks_like(mains_hz: float, rate_hz: float) -> None:
    """By the nearest multiple of the rate, whatever the signal does beside it."""
    looks = abs(mains_hz - rate_hz * round(mains_hz / rate_hz))
    found = hum_in(hummed(rate_hz, mains_hz + 0.03))
    assert found is not None
    assert found.mains_hz == mains_hz
    assert found.seen_hz == pytest.approx(looks, abs=0.05 + rate_hz / 4000)
    assert found.share > 0.8
    # But for what the trend takes of a wave that is nearly as slow.
    assert found.height == pytest.approx(0.5, rel=0.25)
    # The mean that it names leaves so much of it, measured.
    bare = hummed(rate_hz, mains_hz, noise=0.0, seconds=1e9)
    out = run_whole(chain_of(filter_of("mean", samples=found.samples)), bare)
    assert float(np.ptp(out.x[100:])) == pytest.approx(2 * 0.5 * found.left, abs=0.03)


@pytest.mark.parametrize(
    "block",
    [
        hummed(93.0, 31.0),  # another wave
        hummed(93.0, 50.0, height=0.02),  # less than the noise
        hummed(10.0, 50.0),  # stands still as an error
        hummed(2.0, 50.1),  # nearly every wave would pass for it
        block_of(np.zeros(4000), 93.0),
        hummed(93.0, 50.0)[:100],
        Block(np.sort(np.random.default_rng(1).uniform(0, 40, 4000)), hummed(93.0, 50.0).x, np.zeros(4000, np.uint8)),
    ],
)
def test_what_is_no_hum(block: Block) -> None:
    assert hum_in(block) is None


def test_it_is_said_with_what_takes_it() -> None:
    (note,) = inspect_hum("c", hummed(93.0, 50.0), 93.0, 0.1)
    assert note.mark == DOUBT
    assert [each.mark for each in inspect_hum("c", hummed(93.0, 50.0), 93.0, 2.0)] == [REMARK]
    found = hum_in(hummed(93.0, 50.0))
    assert found is not None
    assert note.text == (
        f"c: {round(100 * found.share)} % of its noise is one wave of 43 Hz, as the mains of 50 Hz looks when it is read "
        "at 93 Hz."
    )
    assert note.remedy is not None
    assert note.remedy.startswith(f"a mean of {found.samples} leaves ")
    (itself,) = inspect_hum("c", hummed(1000.0, 50.0), 1000.0, 0.1)
    assert itself.text.endswith(" % of its noise is one wave of 50 Hz, as the mains gives.")
    quiet = run_whole(chain_of(filter_of("mean", samples=20)), hummed(1000.0, 50.0))
    assert inspect_hum("c", quiet, 1000.0, 0.1) == []
