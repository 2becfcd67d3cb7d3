"""Trimmed compensation: a polynomial with a part's own integer coefficients, computed in integer arithmetic.

Row by row, Horner's rule in integers of a given width::

    each cₖ = (…(c[k][m] · v >> shift beside) + c[k][m−1]) · v >> shift beside) + … + c[k][0]
    result  = (…(cₙ · u >> shift) + cₙ₋₁) · u >> shift) + … + c₀

``u`` is the count minus ``subtract``, ``v`` another channel's count minus its own, as where a pressure is corrected by
the temperature of its die. No floats are used, so this is what the small processor computes, to the last bit.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import ChannelName, Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, parse_unit

COUNT = parse_unit("ct")
Whole = npt.NDArray[np.int64]
MOST_ROWS, MOST_IN_ROW = 8, 6
WIDTHS = ("16", "32", "64")
DOWN, TO_ZERO = "down", "to zero"
"""An arithmetic shift rounds down; a division, as most languages have it, to zero."""


@dataclass(frozen=True)
class Compensation:
    """``step`` × the integer result, in ``unit_out``; NaN where a sum or product exceeds ``bits`` bits.

    Inputs are rounded to whole counts first. Inverse by bisection over whole counts, where the result rises or falls.
    """

    rows: tuple[tuple[int, ...], ...]
    shift: int
    shift_beside: int
    subtract: int
    subtract_beside: int
    bits: int
    rounds: str
    step: float
    unit_out: Unit
    lowest: int
    highest: int
    unit_in: Unit = COUNT

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return float(self.lowest), float(self.highest)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        result, fits = self.steps(x, *others)
        return np.where(fits, result * self.step, np.nan)

    def steps(self, x: Floats, *others: Floats) -> tuple[Whole, npt.NDArray[np.bool_]]:
        """The integer result, and where nothing overflowed on the way."""
        u, v = _whole(x) - self.subtract, _whole(others[0]) - self.subtract_beside
        fits = np.isfinite(x) & np.isfinite(others[0])
        total: Whole = np.zeros_like(u)
        for place, row in enumerate(self.rows[::-1]):
            coefficient, good = self._horner(row, v)
            if place:
                total, near = self._product(total, u)
                total = self._shifted(total, self.shift) + coefficient
                fits = fits & near & self._fits(total)
            else:
                total = total + coefficient
            fits = fits & good
        return total, fits

    def exact(self, x: Floats, *others: Floats) -> Floats:
        """The same polynomial without rounding, to show what the shifts cost."""
        u, v = np.rint(x) - self.subtract, np.rint(others[0]) - self.subtract_beside
        total = np.zeros_like(u)
        for row in self.rows[::-1]:
            coefficient = np.zeros_like(v)
            for each in row[::-1]:
                coefficient = coefficient * v / 2.0**self.shift_beside + each
            total = total * u / 2.0**self.shift + coefficient
        return total * self.step

    def _horner(self, row: tuple[int, ...], v: Whole) -> tuple[Whole, npt.NDArray[np.bool_]]:
        total: Whole = np.full_like(v, row[-1])
        fits = np.ones(v.shape, bool)
        for each in row[-2::-1]:
            total, near = self._product(total, v)
            total = self._shifted(total, self.shift_beside) + each
            fits = fits & near & self._fits(total)
        return total, fits

    def _product(self, a: Whole, b: Whole) -> tuple[Whole, npt.NDArray[np.bool_]]:
        """The product, and where it fits the width; for 64 bits approximately, by its size as a float."""
        product = a * b
        size = np.abs(a.astype(np.float64) * b.astype(np.float64))
        return product, size < 2.0 ** (self.bits - 1) if self.bits == 64 else (size < 2.0**62) & self._fits(product)

    def _fits(self, value: Whole) -> npt.NDArray[np.bool_]:
        if self.bits == 64:
            return np.ones(value.shape, bool)
        top = 1 << (self.bits - 1)
        return (value >= -top) & (value < top)

    def _shifted(self, value: Whole, shift: int) -> Whole:
        if self.rounds == DOWN or not shift:
            return value >> shift
        toward_zero: Whole = np.sign(value) * (np.abs(value) >> shift)
        return toward_zero

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        low, high = np.full(np.shape(y), float(self.lowest)), np.full(np.shape(y), float(self.highest))
        ends = self.exact(low, *others), self.exact(high, *others)
        rises = ends[1] >= ends[0]
        between = (y >= np.minimum(*ends)) & (y <= np.maximum(*ends))
        while (high - low > 1).any():
            middle = np.floor(0.5 * (low + high))
            beyond = (self.exact(middle, *others) > y) == rises
            low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
        nearer = np.abs(self.forward(high, *others) - y) < np.abs(self.forward(low, *others) - y)
        return np.where(between, np.where(nearer, high, low), np.nan)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        """Slope of the polynomial itself: that of the integer form is a staircase."""
        return 0.5 * (self.exact(np.rint(x) + 1, *others) - self.exact(np.rint(x) - 1, *others))


def _whole(x: Floats) -> Whole:
    return np.rint(np.where(np.isfinite(x), np.clip(x, -(2.0**53), 2.0**53), 0.0)).astype(np.int64)


def _rows(written: str, bits: int) -> tuple[tuple[int, ...], ...]:
    rows = []
    for row in (each for each in written.split(";") if each.strip()):
        try:
            rows.append(tuple(int(cell) for cell in row.replace("−", "-").replace(",", " ").split()))
        except ValueError as error:
            raise ValueError(f'coefficients "{row.strip()[:30]}" is not a row of whole numbers') from error
    if not 2 <= len(rows) <= MOST_ROWS or any(not 1 <= len(row) <= MOST_IN_ROW for row in rows):
        raise ValueError(
            f'coefficients must be 2 to {MOST_ROWS} rows of 1 to {MOST_IN_ROW} whole numbers, "-520; 91 -3; 4"'
        )
    top = 1 << (bits - 1)
    wide = next((each for row in rows for each in row if not -top <= each < top), None)
    if wide is not None:
        raise ValueError(f"coefficient {wide} does not fit {bits} bits, which hold {-top} to {top - 1}")
    return tuple(rows)


def _compensation(values: dict[str, Any]) -> Beside:
    step: Quantity = values["step"]
    if step.value == 0:
        raise ValueError("step must not be 0")
    if not values["lowest"] < values["highest"]:
        raise ValueError("lowest must be below highest")
    rows = _rows(values["coefficients"], values["coefficient_bits"])
    given = values["beside"]
    if not isinstance(given, ChannelName):
        if given.unit.symbol not in ("1", "ct"):
            raise ValueError(f"beside must be a count or a channel of counts, not {given}")
        given = float(given.value)
    law = Compensation(
        rows=rows,
        shift=values["shift"],
        shift_beside=values["shift_beside"],
        subtract=values["subtract"],
        subtract_beside=values["subtract_beside"],
        bits=int(values["bits"]),
        rounds=values["rounds"],
        step=float(step.value),
        unit_out=step.unit,
        lowest=values["lowest"],
        highest=values["highest"],
    )
    return Beside(law, (Argument("beside", COUNT, given),))


def _count(name: str, title: str, help_: str, default: int) -> Parameter:
    return Parameter(name, title, "integer", help_, default, lowest=-(2**31), highest=2**31 - 1)


COMPENSATION = LawKind(
    name="trimmed compensation",
    title="a part's own coefficients in whole numbers",
    formula="result = (…(cₙ·u >> shift) + cₙ₋₁)·u >> shift) + … + c₀, each cₖ the same of v; reading = result × step",
    source="Horner's rule in integer arithmetic of a given width",
    example="1000 ct, coefficients -4000; 6553, shift 10, step 0.01 °C → 23.99 °C",
    parameters=(
        Parameter(
            "coefficients",
            "coefficients",
            "text",
            'of u, that of the zeroth power first, separated by ;; in each, those of v: "-4000; 6553 12; -3"',
            longest=400,
        ),
        Parameter(
            "coefficient_bits",
            "coefficient bits",
            "integer",
            "width of a coefficient, its sign included",
            16,
            lowest=4,
            highest=32,
        ),
        Parameter("shift", "shift", "integer", "bits taken off each product with u", 0, lowest=0, highest=32),
        _count("subtract", "subtract", "taken off the count first", 0),
        Parameter(
            "beside",
            "beside",
            "any quantity",
            "the channel of the second count; 0: there is none",
            "0",
            channel=True,
            longest=60,
        ),
        Parameter(
            "shift_beside", "shift beside", "integer", "bits taken off each product with v", 0, lowest=0, highest=32
        ),
        _count("subtract_beside", "subtract beside", "taken off the second count first", 0),
        Parameter("bits", "bits", "choice", "width that products and sums must fit", "32", choices=WIDTHS),
        Parameter(
            "rounds", "rounds", "choice", "a shift rounds down, a division to zero", DOWN, choices=(DOWN, TO_ZERO)
        ),
        Parameter("step", "step", "any quantity", "what one step of the result is, e.g. 0.01 °C"),
        _count("lowest", "lowest", "count it holds from", 0),
        _count("highest", "highest", "count it holds to", 65_535),
    ),
    build=_compensation,
    start=lambda unit_in, unit_out: {"coefficients": "0; 1", "step": f"1 {unit_out}".removesuffix(" 1")},
)
