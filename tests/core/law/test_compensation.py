"""Trimmed compensation against Python's own unbounded whole numbers."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.law.compensation import Compensation
from lesart.core.law.record import Beside
from lesart.core.parameters import read_table


def build(**written: object) -> Compensation:
    """As the project file writes it."""
    values, problems = read_table(law.KINDS["trimmed compensation"].parameters, {"step": "1 Pa", **written}, "l")
    assert not problems, problems
    built = law.KINDS["trimmed compensation"].build(values)
    assert isinstance(built, Beside)
    assert isinstance(built.law, Compensation)
    return built.law


class _Wide(Exception):
    """A value that does not fit."""


def _kept(value: int, bits: int) -> int:
    if not -(2 ** (bits - 1)) <= value < 2 ** (bits - 1):
        raise _Wide
    return value


def _shifted(value: int, shift: int, rounds: str) -> int:
    if rounds == "down":
        return value // 2**shift
    return (abs(value) // 2**shift) * (-1 if value < 0 else 1)


def oracle(rows: list[list[int]], u: int, v: int, shift: int, beside: int, bits: int, rounds: str) -> int | None:
    """The scheme of the docstring, a step at a time; None where something does not fit."""
    try:
        each = []
        for row in rows:
            total = row[-1]
            for coefficient in row[-2::-1]:
                total = _kept(_shifted(_kept(total * v, bits), beside, rounds) + coefficient, bits)
            each.append(total)
        total = each[-1]
        for coefficient in each[-2::-1]:
            total = _kept(_shifted(_kept(total * u, bits), shift, rounds) + coefficient, bits)
    except _Wide:
        return None
    return total


ROWS = st.lists(st.lists(st.integers(-32_768, 32_767), min_size=1, max_size=4), min_size=2, max_size=5)


@given(
    rows=ROWS,
    counts=st.lists(st.integers(0, 65_535), min_size=1, max_size=8),
    v=st.integers(-2000, 2000),
    shift=st.integers(0, 16),
    beside=st.integers(0, 12),
    bits=st.sampled_from([16, 32]),
    rounds=st.sampled_from(["down", "to zero"]),
    subtract=st.integers(-500, 500),
)
def test_every_bit(
    rows: list[list[int]], counts: list[int], v: int, shift: int, beside: int, bits: int, rounds: str, subtract: int
) -> None:
    """Result and overflow are those of whole numbers without a bound, cut to the width."""
    one = build(
        coefficients="; ".join(" ".join(map(str, row)) for row in rows),
        shift=shift,
        shift_beside=beside,
        bits=str(bits),
        rounds=rounds,
        subtract=subtract,
    )
    found = one.forward(np.array(counts, float), np.array([float(v)]))
    for count, value in zip(counts, found.tolist(), strict=True):
        wanted = oracle(rows, count - subtract, v, shift, beside, bits, rounds)
        assert (wanted is None and np.isnan(value)) or value == wanted


def test_a_thermometer() -> None:
    """−4000 + (count · 6553 >> 10) hundredths of a degree: at 1000 ct 6553000/1024 is 6399.4, so 6399, so 23.99 °C."""
    one = build(coefficients="-4000; 6553", shift=10, step="0.01 °C")
    assert float(one.forward(np.array([1000.0]), np.zeros(1))[0]) == pytest.approx(23.99, abs=1e-12)
    assert float(one.exact(np.array([1000.0]), np.zeros(1))[0]) == pytest.approx((6_553_000 / 1024 - 4000) / 100)
    count = one.inverse(np.array([23.99]), np.zeros(1))
    assert float(one.forward(count, np.zeros(1))[0]) == pytest.approx(23.99, abs=0.064)


def test_shifts_of_negative_products() -> None:
    """−1 shifted is −1; −1 divided is 0. That half step is a usual difference between a desk and a firmware."""
    written = {"coefficients": "0; -1", "shift": 4}
    assert build(**written).forward(np.array([3.0]), np.zeros(1)).tolist() == [-1.0]
    assert build(**written, rounds="to zero").forward(np.array([3.0]), np.zeros(1)).tolist() == [0.0]


def test_a_law_that_falls_is_turned_back_too() -> None:
    """Its greatest count gives its least reading."""
    one = build(coefficients="0; -3", shift=2)
    counts = np.array([0.0, 40.0, 400.0, 4000.0])
    readings = one.forward(counts, np.zeros(1))
    assert readings.tolist() == [0.0, -30.0, -300.0, -3000.0]
    assert one.forward(one.inverse(readings, np.zeros(1)), np.zeros(1)) == pytest.approx(readings, abs=1.0)
