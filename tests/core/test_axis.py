"""Ticks: round, inside the limits, never too many, and told apart by their labels."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.axis import clock_labels, clock_ticks, round_labels, round_ticks


@pytest.mark.parametrize(
    ("low", "high", "most", "labels"),
    [
        (0.0, 1.0, 5, ["0.0", "0.2", "0.4", "0.6", "0.8", "1.0"]),
        (-3.0, 43.0, 5, ["0", "10", "20", "30", "40"]),
        (420_000.0, 470_000.0, 3, ["420 000", "440 000", "460 000"]),
        (-0.02, 0.02, 4, ["−0.02", "−0.01", "0.00", "0.01", "0.02"]),
        (1e6, 3e6, 2, ["1 000 000", "2 000 000", "3 000 000"]),
    ],
)
def test_round(low: float, high: float, most: int, labels: list[str]) -> None:
    """By hand."""
    assert round_labels(round_ticks(low, high, most)) == labels


@pytest.mark.parametrize(
    ("low", "high", "most", "labels"),
    [
        (0.0, 7200.0, 6, ["00:00", "00:20", "00:40", "01:00", "01:20", "01:40", "02:00"]),
        (3601.0, 3640.0, 4, ["01:00:10", "01:00:20", "01:00:30", "01:00:40"]),
        (60.0, 60.01, 5, ["01:00.000", "01:00.002", "01:00.004", "01:00.006", "01:00.008", "01:00.010"]),
        (0.0, 86400.0 * 30, 5, ["00:00", "168:00", "336:00", "504:00", "672:00"]),
    ],
)
def test_clock(low: float, high: float, most: int, labels: list[str]) -> None:
    """By hand, from milliseconds to weeks."""
    assert clock_labels(clock_ticks(low, high, most)) == labels


@given(low=st.floats(-1e9, 1e9), span=st.floats(1e-3, 1e12), most=st.integers(2, 12))
def test_inside_few_and_distinct(low: float, span: float, most: int) -> None:
    """No tick leaves the limits by more than a hair, no label stands twice."""
    for ticks, labels in (
        (round_ticks(low, low + span, most), round_labels),
        (clock_ticks(low, low + span, most), clock_labels),
    ):
        assert len(ticks) <= most + 1
        assert all(low - span * 1e-6 <= tick <= low + span * (1 + 1e-6) for tick in ticks)
        if low >= 0 or labels is round_labels:
            assert len(set(labels(ticks))) == len(ticks)
