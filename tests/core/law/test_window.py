"""Windows of a waveform: levels and frequencies of signals that are known, and the same however the input is cut."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.block import Block, Mark, block_of, joined
from lesart.core.law.stage import WindowStage, stage_of
from lesart.core.parameters import read_table

RATE_HZ = 8000.0
KINDS = ("windowed RMS", "windowed peak", "windowed level", "strongest frequency")


def stage(kind: str, **written: object) -> WindowStage:
    """As the project file writes it, of a signal in volts."""
    unit = {"reference": "1 V"} if kind == "windowed level" else {"unit": "V"}
    values, problems = read_table(law.KINDS[kind].parameters, {**unit, **written}, "l")
    assert not problems, problems
    found = stage_of(kind, law.KINDS[kind].build(values))
    assert isinstance(found, WindowStage)
    return found


def sine(hz: float, seconds: float = 1.0, size: float = 1.0, steady: float = 0.0) -> Block:
    """A sine about a steady part."""
    t = np.arange(int(seconds * RATE_HZ)) / RATE_HZ
    return block_of(steady + size * np.sin(2 * np.pi * hz * t), RATE_HZ)


def whole(one: WindowStage, block: Block) -> Block:
    """In one piece."""
    return one.run(one.initial(), block)[1]


LEVELS = [
    ("windowed RMS", {}, 2.0 / np.sqrt(2), 1e-12),
    ("windowed peak", {}, 2.0, 1e-12),
    ("windowed level", {}, 20 * np.log10(np.sqrt(2)), 1e-12),  # 3.01 dB over a volt
    ("windowed level", {"reference": "2 V"}, -20 * np.log10(np.sqrt(2)), 1e-12),
    ("windowed RMS", {"steady_part": "counted"}, np.sqrt(2.0 + 1.65**2), 1e-12),
    ("windowed peak", {"steady_part": "counted"}, 3.65, 1e-12),
    ("strongest frequency", {}, 1000.0, 1e-6),
]


@pytest.mark.parametrize(("kind", "written", "value", "within"), LEVELS)
def test_a_sine_about_a_steady_part(kind: str, written: dict[str, object], value: float, within: float) -> None:
    """A kilohertz of 2 V about 1.65 V: whole periods in each window of 125 ms, so nothing is approximate."""
    found = whole(stage(kind, **written), sine(1000, size=2.0, steady=1.65))
    assert len(found) == 7  # the eighth window is over only when a sample behind it has come
    assert found.t.tolist() == [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875]
    assert found.x == pytest.approx(np.full(7, value), abs=within, rel=1e-9)


@given(hz=st.floats(60, 3900))
def test_any_frequency(hz: float) -> None:
    """Between the bins too: within a twentieth of a bin, which is 8 Hz wide here."""
    found = whole(stage("strongest frequency"), sine(hz, 0.3))
    assert found.x == pytest.approx(np.full(len(found), hz), abs=0.4)


def test_a_band_leaves_the_louder_out() -> None:
    """A hum of the mains is louder than what is looked for."""
    both = sine(50, size=5.0).with_values(sine(50, size=5.0).x + sine(230).x)
    one = stage("strongest frequency", window="500 ms", lowest="150 Hz", highest="600 Hz")
    assert whole(one, both).x == pytest.approx([230.0], abs=0.05)


@given(
    cuts=st.lists(st.integers(0, 2400), max_size=8),
    kind=st.sampled_from(KINDS),
    hop=st.sampled_from([0, 7, 31, 200]),
    lost=st.lists(st.integers(0, 2399), max_size=300),
    seed=st.integers(0, 9),
)
def test_cutting_changes_nothing(cuts: list[int], kind: str, hop: int, lost: list[int], seed: int) -> None:
    """Bit for bit, with samples missing, a gap in time, and times that run back."""
    noise = np.random.default_rng(seed).normal(size=2400)
    block = block_of(noise, RATE_HZ)
    mark = block.mark.copy()
    mark[lost] = Mark.MISSING
    t = block.t.copy()
    t[1500:] += 0.37
    t[700:705] -= 0.004
    block = Block(t, block.x, mark)
    one = stage(kind, window="31 ms", hop=f"{hop} ms")
    state, parts = one.initial(), []
    edges = [0, *sorted(cuts), len(block)]
    for start, end in pairwise(edges):
        state, part = one.run(state, block[start:end])
        parts.append(part)
    cut, uncut = joined(parts), whole(one, block)
    assert cut.t.tobytes() == uncut.t.tobytes()
    assert cut.x.tobytes() == uncut.x.tobytes()
    assert cut.mark.tobytes() == uncut.mark.tobytes()


def test_a_window_of_mostly_lost_samples_says_nothing() -> None:
    """More than half must be there; silence has no level in decibels and no frequency."""
    block = sine(1000)
    mark = np.zeros(len(block), np.uint8)
    mark[1000:1600] = Mark.CHECKSUM
    found = whole(stage("windowed RMS"), Block(block.t, block.x, mark))
    assert [bool(flag) for flag in found.mark] == [False, True, False, False, False, False, False]
    assert found.mark[1] == Mark.MISSING
    for kind in ("windowed level", "strongest frequency"):
        silent = whole(stage(kind), sine(1000, size=0.0))
        assert (silent.mark == Mark.MISSING).all()


def test_a_gap_of_a_year_is_no_year_of_windows() -> None:
    """Times are only as many as samples."""
    block = sine(100, 0.5)
    t = block.t.copy()
    t[2000:] += 3e7
    found = whole(stage("windowed RMS", window="10 ms"), Block(t, block.x, block.mark))
    assert len(found) < 60
    assert found.t[-1] > 3e7


@pytest.mark.parametrize("kind", ["windowed RMS", "windowed peak"])
@pytest.mark.parametrize("level", [0.0, 0.4, 2.5])
def test_a_level_goes_back_to_a_steady_signal_of_that_size(kind: str, level: float) -> None:
    """With the steady part counted only: without it every steady signal gives 0. No signal has a level below 0."""
    counted, moving = (stage(kind, **written).law for written in ({"steady_part": "counted"}, {}))
    assert counted.inverse(level) == level
    assert float(counted.at_rest(np.array([counted.inverse(level)]))[0]) == level
    assert np.isnan(counted.inverse(-0.1))
    assert np.isnan(moving.inverse(level))
