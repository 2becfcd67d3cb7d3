"""Rounding: the correctly rounded decimal of the value, in the mode named, always."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.fit.rounding import MODES, rounded, rounded_steps


def exact(value: float, decimals: int, mode: str) -> int:
    """Last-place steps by exact fractions: the slow oracle."""
    if mode == "cut by code":
        return int(Fraction(value * 10.0**decimals))
    if mode == "floor":
        return math.floor(Fraction(value) * 10**decimals)
    scaled = abs(Fraction(value)) * 10**decimals
    whole = scaled.numerator // scaled.denominator
    part = scaled - whole
    up = part > Fraction(1, 2) or (part == Fraction(1, 2) and (mode == "half away" or whole % 2 == 1))
    steps = whole + (mode != "down" and up)
    return -steps if value < 0 else steps


@pytest.mark.parametrize(
    ("value", "decimals", "mode", "text"),
    [
        (2.5, 0, "half away", "3"),
        (2.5, 0, "half even", "2"),
        (2.5, 0, "down", "2"),
        (3.5, 0, "half even", "4"),
        (-2.5, 0, "half away", "-3"),
        (-2.5, 0, "half even", "-2"),
        (-2.9, 0, "down", "-2"),
        (0.125, 2, "half away", "0.13"),
        (0.125, 2, "half even", "0.12"),
        (2.675, 2, "half away", "2.67"),  # the float is a little below 2.675
        (1.005, 2, "half away", "1.00"),
        (-0.04, 1, "half away", "0.0"),
        (1e22, 0, "down", "10000000000000000000000"),
        (99.95, 1, "half away", "100.0"),
        (9.999, 2, "down", "9.99"),
        (-0.01, 1, "floor", "-0.1"),
        (2.9, 0, "floor", "2"),
        (-2.1, 0, "floor", "-3"),
        (4.35, 2, "cut by code", "4.34"),  # 4.35 × 100 is 434.99999999999994 as a float
        (0.3, 1, "cut by code", "0.3"),
        (0.3, 1, "down", "0.2"),  # the float is a little below 0.3
        (-2.9, 0, "cut by code", "-2"),
    ],
)
def test_by_hand(value: float, decimals: int, mode: str, text: str) -> None:
    """Ties by mode, floats by what they really are, and no minus on nothing."""
    assert f"{rounded(value, decimals, mode):f}" == text


@pytest.mark.parametrize("mode", sorted(MODES))
@given(value=st.floats(-1e6, 1e6), decimals=st.integers(0, 6))
def test_one_number_against_fractions(mode: str, value: float, decimals: int) -> None:
    """Any float, any decimals."""
    assert int(rounded(value, decimals, mode).scaleb(decimals)) == exact(value, decimals, mode)


@pytest.mark.parametrize("mode", sorted(MODES))
@pytest.mark.parametrize("decimals", [0, 1, 2, 4])
def test_an_array_rounds_as_its_numbers_do(mode: str, decimals: int) -> None:
    """On the very values where scaling and rounding goes wrong: numbers whose last decimal is a 5, and their
    neighbours."""
    ties = np.array([(2 * k + 1) / (2 * 10**decimals) for k in range(-3000, 3000)])
    values = np.concatenate([ties, np.nextafter(ties, np.inf), np.nextafter(ties, -np.inf), np.arange(-50, 50) / 10])
    expected = [exact(value, decimals, mode) for value in values.tolist()]
    assert rounded_steps(values, decimals, mode).tolist() == expected
    if mode == "half away" and decimals == 2:
        naive = np.sign(values) * np.floor(np.abs(values) * 10.0**decimals + 0.5)
        assert (naive != np.array(expected)).any(), "the trap is not in these values, so they prove nothing"
