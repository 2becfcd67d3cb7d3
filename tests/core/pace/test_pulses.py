"""Pulses missed, and what a gate cannot resolve, against counting by brute force."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.pace.pulses import Counting, missed


@settings(deadline=None)
@given(
    st.lists(st.tuples(st.integers(1, 30), st.integers(1, 30)), max_size=12),
    st.lists(st.tuples(st.integers(1, 20), st.integers(1, 20)), max_size=20),
)
def test_missed_is_what_no_free_moment_sees(work: list[tuple[int, int]], pulses: list[tuple[int, int]]) -> None:
    """Looked at moment by moment: a pulse is seen if the line is high in a moment in which nothing is done."""
    busy, at = [], 0
    for rest, takes in work:
        busy.append((at + rest, at + rest + takes))
        at += rest + takes
    rise, fall, at = [], [], 0
    for rest, width in pulses:
        rise.append(at + rest)
        fall.append(at + rest + width)
        at += rest + width
    found = missed(np.array(rise, np.int64), np.array(fall, np.int64), busy)
    for up, down, lost in zip(rise, fall, found, strict=True):
        seen = any(not any(start <= moment < end for start, end in busy) for moment in range(up, down))
        assert lost == (not seen)


def test_one_count_of_a_gate() -> None:
    """The reference fact: one count is 60 ÷ (marks × gate) turns a minute."""
    assert Counting(1.0, 2.0).step_per_min == pytest.approx(30.0)
    assert Counting(0.5, 20.0).step_per_min == pytest.approx(6.0)


@settings(deadline=None, max_examples=60)
@given(st.floats(0.1, 5.0), st.integers(1, 24), st.floats(1.0, 3000.0))
def test_errors_by_brute_force(gate_s: float, marks: int, turns: float) -> None:
    """The gate opened at ten thousand moments evenly over a period of the pulses, and counted."""
    counting = Counting(gate_s, marks)
    period_s = 60.0 / (turns * marks)
    opened = (np.arange(10_000) + 0.5) / 10_000 * period_s
    counted = np.floor((opened + gate_s) / period_s) - np.floor(opened / period_s)
    errors = np.abs(counted * counting.step_per_min - turns)
    mean, worst = counting.errors_per_min(turns)
    assert errors.mean() == pytest.approx(mean, abs=3e-4 * counting.step_per_min + 1e-9 * turns)
    # The worst comes in a share of the moments that may be too small for ten thousand of them.
    assert errors.max() <= worst + 1e-9 * turns
    q = gate_s / period_s % 1
    if 1e-3 < q < 1 - 1e-3:
        assert errors.max() == pytest.approx(worst, rel=1e-6)


def test_counting_and_timing_cross() -> None:
    """At the crossing the step of counting and the tick of timing weigh the same."""
    counting = Counting(0.5, 4.0, tick_s=4e-6)
    turns = counting.crossing_per_min
    assert counting.interval_error_per_min(turns) == pytest.approx(counting.step_per_min)
    assert counting.interval_error_per_min(turns / 2) < counting.step_per_min
    assert counting.interval_error_per_min(turns * 2) > counting.step_per_min


def test_an_interval_timed_a_tick_too_long() -> None:
    """600 a minute with 2 marks: an interval of 50 ms; a tick of 10 µs more reads 599.88."""
    read = 60.0 / (2 * (0.05 + 1e-5))
    assert Counting(1.0, 2.0, tick_s=1e-5).interval_error_per_min(600.0) == pytest.approx(600.0 - read, rel=1e-3)
    assert math.isclose(600.0 - read, 0.12, rel_tol=1e-3)
