"""Encoders in a trace: pairs of lines that change in turn, told from all that only looks like it."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.raw.edges import edges_of
from lesart.core.raw.talks.recognise import recognise
from tests.core.raw.traces import quadrature


def test_steps_that_no_encoder_makes_are_counted() -> None:
    """Both lines at once, twice in two hundred quarters; half of those way back."""
    lines = dict(quadrature([1] * 100 + [-1] * 100))
    a, b = lines["a"], lines["b"]
    both = a.t[20:22].tolist()
    moved = b.t.copy()
    for t in both:
        moved[int(np.argmin(np.abs(moved - t)))] = t
    (talk,) = recognise({"a": a, "b": edges_of(np.sort(moved), b.level.tolist(), b.first, b.start_s, b.end_s)})
    assert talk.kind == "quadrature"
    assert talk.why.endswith("2 impossible")


def test_lines_that_change_both_at_once_are_no_encoder() -> None:
    """Every fourth step is one that none makes; nor is a pair of which one is hardly ever high."""
    lines = dict(quadrature([1] * 200))
    a, b = lines["a"], lines["b"]
    moved = np.where(np.arange(len(b.t)) % 2 == 0, a.t[np.searchsorted(a.t, b.t).clip(max=len(a.t) - 1)], b.t)
    both = edges_of(np.sort(moved), b.level.tolist(), b.first, b.start_s, b.end_s)
    assert [talk.kind for talk in recognise({"a": a, "b": both}) if talk.kind == "quadrature"] == []


@pytest.mark.parametrize("lasts", [0.02, 0.98])
def test_a_line_that_is_hardly_ever_high_or_low_turns_nothing(lasts: float) -> None:
    """Pulses of a fiftieth of their period, a quarter of it apart."""
    starts = np.arange(200) * 4e-3
    lines = {
        name: edges_of(np.sort(np.concatenate((starts + off, starts + off + lasts * 4e-3))), [1, 0] * 200, 0, 0.0, 1.0)
        for name, off in (("a", 0.0), ("b", 1e-3))
    }
    assert [talk.kind for talk in recognise(lines) if talk.kind == "quadrature"] == []


def test_an_encoder_is_found_beside_other_lines() -> None:
    """Whichever pair is looked at first."""
    lines = dict(quadrature([1] * 120 + [-1] * 80))
    steady = edges_of(np.arange(400) * 0.55e-3, [1, 0] * 200, 0, 0.0, 1.0)
    lines = {"0": steady, "1": steady, **lines}
    (talk,) = [talk for talk in recognise(lines) if talk.kind == "quadrature"]
    assert dict(talk.lines) == {"a": "a", "b": "b"}
