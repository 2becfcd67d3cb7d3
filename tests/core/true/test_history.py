"""Calibrations held against each other: by hand, and for sensors that were made to move."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.true.correction import fit_correction
from lesart.core.true.history import Calibration, drift_between, inspect_drift
from lesart.core.true.reference import Reference
from lesart.core.units import parse_unit

KG = parse_unit("kg")
KEY = ("channels", "c", "true")


def calibration(
    name: str,
    gain: float,
    zero: float,
    day: int | None = None,
    trues: tuple[float, ...] = (0, 10, 40),
    kind: str = "line",
) -> Calibration:
    """Of a sensor that indicates gain × true + zero."""
    references = tuple(Reference(float(true), gain * true + zero, day=day) for true in trues)
    return Calibration(name, references, fit_correction(kind, references, KG))


@given(gains=st.tuples(st.floats(0.5, 2), st.floats(0.5, 2)), zeros=st.tuples(st.floats(-5, 5), st.floats(-5, 5)))
def test_a_sensor_that_was_made_to_move(gains: tuple[float, float], zeros: tuple[float, float]) -> None:
    """Its zero by what its indication at nothing grew, its gain by the share, most of all where both add up."""
    one, other = (calibration(name, gain, zero) for name, gain, zero in zip("ab", gains, zeros, strict=True))
    found = drift_between(one, other)
    assert found is not None
    assert found.zero == pytest.approx(zeros[1] - zeros[0], abs=1e-9)
    assert found.gain == pytest.approx(gains[1] / gains[0] - 1, abs=1e-9)
    changes = [(gains[1] - gains[0]) * true + zeros[1] - zeros[0] for true in np.linspace(0, 40, 65)]
    assert abs(found.most) == pytest.approx(max(map(abs, changes)), abs=1e-9)
    assert found.days is None


def test_by_hand() -> None:
    """From 1.00 × true to 1.01 × true + 0.1 kg in 73 days: 0.5 kg at 40 kg, a zero of half a kilogram a year."""
    found = drift_between(calibration("spring", 1.0, 0.0, 1000), calibration("now", 1.01, 0.1, 1073))
    assert found is not None
    assert found.zero == pytest.approx(0.1)
    assert found.gain == pytest.approx(0.01)
    assert (found.most, found.most_at) == (pytest.approx(0.5), 40.0)
    assert found.days == 73
    assert found.zero_a_year == pytest.approx(0.1 * 365.25 / 73)


def test_only_what_both_reach_is_compared() -> None:
    """Without a common range there is no largest change; a correction that is none has nothing to compare."""
    low, high = calibration("low", 1.0, 0.0, trues=(0, 1, 2)), calibration("high", 1.1, 0.0, trues=(5, 6, 7))
    found = drift_between(low, high)
    assert found is not None
    assert math.isnan(found.most)
    bent = calibration("bent", 1.0, 0.2, trues=(0, 1, 2, 4), kind="piecewise line")
    over = drift_between(low, bent)
    assert over is not None
    assert (over.most, over.most_at <= 2) == (pytest.approx(0.2), True)
    assert drift_between(low, Calibration("none", (), fit_correction("none", (), KG))) is None


def test_a_note_where_it_moved_by_more_than_may_be_left() -> None:
    """Against the one before, not the oldest; no limit, no date, no note."""
    now = calibration("adopted", 1.0, 0.3, 1200)
    old, before = calibration("old", 1.0, 2.0, 500), calibration("before", 1.0, 0.1, 1000)
    (note,) = inspect_drift("c", now, [old, before], 0.15, KEY)
    assert note.text == (
        "c: since before, 200 days before, its indication moved by 0.2 kg at 0 kg; 0.15 kg may be left."
    )
    assert note.figure == pytest.approx(0.2)
    assert not inspect_drift("c", now, [old, before], 0.25, KEY)
    assert not inspect_drift("c", now, [old, before], 0.0, KEY)
    assert not inspect_drift("c", now, [calibration("undated", 1.0, 9.0)], 0.1, KEY)
    assert not inspect_drift("c", calibration("adopted", 1.0, 0.3), [old], 0.1, KEY)
