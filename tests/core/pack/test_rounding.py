"""Fields in whole numbers round as the field does: in every mode, at every number, ties and signs among them."""

from __future__ import annotations

from decimal import Decimal

import numpy as np
import pytest

from lesart.core.fit.rounding import MODES
from lesart.core.pack.field_forms.rounding import rounded, rounded_by
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.whole import local

NUMBERS = np.arange(-700, 701)


def wanted(parts: int, mode: str) -> list[int]:
    """Of every number, divided and rounded once."""
    return [int((Decimal(each) / parts).quantize(Decimal(1), MODES[mode])) for each in NUMBERS.tolist()]


@pytest.mark.parametrize("mode", MODES)
@pytest.mark.parametrize("finer", range(6))
def test_bits_below_a_last_place(finer: int, mode: str) -> None:
    value = rounded(local("x", -700, 700), finer, mode)
    found = np.broadcast_to(on_arrays(value, {"x": NUMBERS}), NUMBERS.shape)
    assert found.tolist() == wanted(1 << finer, mode)
    assert found.min() - 1 <= value.low <= found.min()
    assert found.max() <= value.high <= found.max() + 1


@pytest.mark.parametrize("mode", MODES)
@pytest.mark.parametrize("parts", [1, 2, 3, 10, 16, 60, 100, 160])
@pytest.mark.parametrize("divides", [True, False])
def test_parts_of_a_last_place(parts: int, mode: str, divides: bool) -> None:
    """With a divider and by a reciprocal."""
    machine = Machine(32, divider=divides)
    value = rounded_by(local("x", -700, 700), parts, mode, machine)
    assert np.broadcast_to(on_arrays(value, {"x": NUMBERS}), NUMBERS.shape).tolist() == wanted(parts, mode)
