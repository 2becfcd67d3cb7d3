"""Correct decimal rounding: of one number for a field, and of an array, both always to the same digit.

Scaling a float and rounding the product is wrong on about 4 % of values that end in 5, because the product has already
been rounded. Here the number itself, as the exact decimal value of the float, is rounded once. The one mode that does
scale and truncate shows what integer code does.
"""

from __future__ import annotations

import math
from decimal import ROUND_DOWN, ROUND_FLOOR, ROUND_HALF_EVEN, ROUND_HALF_UP, Context, Decimal

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats

CUT = "cut by code"
MODES = {
    "half away": ROUND_HALF_UP,
    "half even": ROUND_HALF_EVEN,
    "down": ROUND_DOWN,
    "floor": ROUND_FLOOR,
    CUT: ROUND_DOWN,
}
"""``half away``: a tie goes away from zero.

``half even``: to the even digit. ``down``: towards zero, digits cut. ``floor``: to the lower number, as a shift of a
negative number does. ``cut by code``: scaled as a float and truncated, as a cast to an integer does; 4.35 with two
decimals becomes 4.34, but 0.3 with one stays 0.3, though as a float it is a little less.
"""

_EXACT = Context(prec=400)
LARGEST = 1e60
AT_ONCE = 8192
"""Numbers rounded at once: their data stays in the processor's cache."""


def rounded(value: float, decimals: int, mode: str, exponent: int = 0) -> Decimal:
    """value ÷ 10**exponent, rounded to ``decimals``; |value| below 1e60. Zero carries no sign."""
    if mode == CUT:
        scaled = (
            value * 10.0 ** (decimals - exponent) if decimals >= exponent else value / 10.0 ** (exponent - decimals)
        )
        result = Decimal(math.trunc(scaled)).scaleb(-decimals, _EXACT)
    else:
        exact = Decimal(value).scaleb(-exponent, _EXACT)
        result = exact.quantize(Decimal(1).scaleb(-decimals), MODES[mode], _EXACT)
    return abs(result) if result.is_zero() else result


def steps_of(value: float, step: int, mode: str) -> int:
    """A value in steps of an integer size, rounded once; |value| below 1e60."""
    if mode == CUT:
        return math.trunc(value / step)
    return int(_EXACT.divide(Decimal(value), Decimal(step)).quantize(Decimal(1), MODES[mode], _EXACT))


def rounded_steps(x: Floats, decimals: int, mode: str) -> npt.NDArray[np.int64]:
    """``rounded`` of each element as a count of last-place steps; for finite |x| × 10**decimals below 2**52.

    int64 of the shape of ``x``. Fast where the scaled value is clearly between two ties, by exact decimal arithmetic
    for the few others.
    """
    steps = np.empty(x.shape, np.int64)
    for start in range(0, len(x), AT_ONCE):
        _round_into(steps[start : start + AT_ONCE], x[start : start + AT_ONCE], decimals, mode)
    return steps


def _round_into(steps: npt.NDArray[np.int64], x: Floats, decimals: int, mode: str) -> None:
    scaled = x * 10.0**decimals
    if mode == CUT:
        steps[:] = np.trunc(scaled)
        return
    nearest = np.rint(scaled)
    is_cut = mode in ("down", "floor")
    steps[:] = np.trunc(scaled) if mode == "down" else np.floor(scaled) if is_cut else nearest
    # The product is off by at most one unit in the last place: only beside a tie, or where digits are cut beside a
    # whole number, can the fast way be wrong. The unit of the largest will do for all: few more are looked at.
    np.abs(np.subtract(scaled, nearest, out=nearest), out=nearest)
    doubt = 4 * np.spacing(max(float(scaled.max()), -float(scaled.min()))) if len(scaled) else 0.0
    near = nearest <= doubt if is_cut else nearest >= 0.5 - doubt
    for index in np.flatnonzero(near).tolist():
        steps[index] = int(rounded(float(x[index]), decimals, mode).scaleb(decimals))
