"""Middle, shares and distinct values are those of the array library, to the bit where it promises one."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.ranked import distinct, median, quantiles

NUMBERS = st.lists(st.floats(-1e9, 1e9), min_size=1, max_size=60)
SHARES = (0.0, 0.005, 0.25, 0.5, 0.9, 0.995, 1.0)


@given(NUMBERS)
def test_as_the_array_library_has_them(values: list[float]) -> None:
    """Whatever the count, and with equal ones among them."""
    x = np.array(values)
    assert median(x) == np.median(x)
    np.testing.assert_allclose(quantiles(x, SHARES), np.quantile(x, SHARES), rtol=1e-12, atol=1e-12)
    assert distinct(x).tolist() == np.unique(x).tolist()


def test_of_nothing_and_of_what_is_no_number() -> None:
    """There is no middle of it, and no warning either."""
    for x in (np.empty(0), np.array([1.0, np.nan, 3.0])):
        assert np.isnan(median(x))
        assert np.isnan(quantiles(x, (0.1, 0.9))).all()
    assert distinct(np.empty(0)).tolist() == []


@pytest.mark.parametrize("x", [np.array([[3, 1], [1, 2]]), np.array([2, 2], np.uint8)])
def test_distinct_of_any_array(x: np.ndarray) -> None:
    """Of more than one dimension, and of other kinds of numbers."""
    assert distinct(x).tolist() == np.unique(x).tolist()
