"""Numbers with their unit in the next cell, row by row, as auto-ranging meters write them."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit, conversion


def in_one_unit(x: Floats, said: Sequence[str], first: Unit | None) -> tuple[Floats, Unit | None]:
    """Numbers, shape (n,), in the unit of the first row of the file, which is ``first`` or that of the first one here.

    NaN where a row has no unit, or one of another quantity.
    """
    ways: dict[str, tuple[float, float]] = {}
    for text in dict.fromkeys(said):
        unit = unit_said(text)
        first = first or unit
        is_alike = unit is not None and first is not None and unit.same_dimension(first)
        ways[text] = conversion(unit, first) if is_alike and unit is not None and first is not None else (math.nan, 0.0)
    scale, offset = np.array([ways[text] for text in said], np.float64).reshape(-1, 2).T
    return x * scale + offset, first
