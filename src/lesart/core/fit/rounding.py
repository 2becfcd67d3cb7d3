"""Correct decimal rounding: of one number for a field, and of an array, both to the same digit always.

Scaling a float and rounding the product is wrong on about 4 % of values that end in 5, because the product is rounded
before it is rounded. Here the number itself, as the exact decimal that a float is, gets rounded once.
"""

from __future__ import annotations

from decimal import ROUND_DOWN, ROUND_HALF_EVEN, ROUND_HALF_UP, Context, Decimal

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats

MODES = {"half away": ROUND_HALF_UP, "half even": ROUND_HALF_EVEN, "down": ROUND_DOWN}
"""``half away``: a tie goes away from zero. ``half even``: to the even digit. ``down``: towards zero, digits cut."""

_EXACT = Context(prec=120)
LARGEST = 1e60


def rounded(value: float, decimals: int, mode: str) -> Decimal:
    """The correctly rounded decimal of a finite |value| below 1e60; zero carries no sign."""
    result = Decimal(value).quantize(Decimal(1).scaleb(-decimals), MODES[mode], _EXACT)
    return abs(result) if result.is_zero() else result


def rounded_steps(x: Floats, decimals: int, mode: str) -> npt.NDArray[np.int64]:
    """``rounded`` of each element as a count of last-place steps; for finite |x| × 10**decimals below 2**52.

    Fast where the scaled value is clearly between two ties, exact decimal arithmetic on the few that are not.
    """
    scaled = x * 10.0**decimals
    whole = np.floor(np.abs(scaled))
    part = np.abs(scaled) - whole
    threshold = 1.0 if mode == "down" else 0.5
    steps = np.where(part >= threshold, whole + 1, whole)
    result = (np.sign(scaled) * steps).astype(np.int64)
    # The product is off by at most one unit in the last place: only there can the fast way be wrong.
    doubt = 4 * np.spacing(np.abs(scaled))
    near = np.abs(part - 0.5) <= doubt if mode != "down" else (part <= doubt) | (part >= 1 - doubt)
    for index in np.flatnonzero(near):
        result[index] = int(rounded(float(x[index]), decimals, mode).scaleb(decimals))
    return result
