"""A part's own compensation in the expressions of firmware is the law itself, count by count."""

from __future__ import annotations

import random

import numpy as np
import pytest

from lesart.core.law.compensation import DOWN, TO_ZERO, Compensation
from lesart.core.pack.law_forms.exact import _of_rows
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.whole import local
from lesart.core.units import parse_unit


@pytest.mark.parametrize("rounds", [DOWN, TO_ZERO])
@pytest.mark.parametrize("terms", [(1,), (2, 1), (3, 2, 1), (4, 4, 4), (1, 5)])
def test_rows_of_every_length(terms: tuple[int, ...], rounds: str) -> None:
    """Of coefficients by chance, below and above zero, at counts on both sides of what is subtracted."""
    chance = random.Random(f"{terms} {rounds}")
    rows = tuple(tuple(chance.randint(-4000, 4000) for _ in range(count)) for count in terms)
    law = Compensation(rows, 7, 5, 500, 300, 64, rounds, 0.01, parse_unit("Pa"), 0, 1023)
    raw = np.array([0, 499, 500, 501, 1023, *(chance.randint(0, 1023) for _ in range(200))])
    other = np.array([0, 299, 300, 301, 700, *(chance.randint(0, 700) for _ in range(200))])
    wanted, fits = law.steps(raw.astype(np.float64), other.astype(np.float64))
    assert fits.all()
    value = _of_rows(law, local("raw", 0, 1023), local("other", 0, 700))
    found = np.broadcast_to(on_arrays(value, {"raw": raw, "other": other}), raw.shape)
    assert found.tolist() == wanted.tolist()
