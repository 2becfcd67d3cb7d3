"""Measured or fitted curves: a table of points, and a polynomial. Both are monotone."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import MOST, plain_number
from lesart.core.units import Unit

JOINED = ("linear", "monotone cubic")
OUTSIDE = ("mark", "clip", "extend")
HALVINGS = 80
"""More than the 53 bits of a float; a root is then as exact as it can be written."""
MOST_POINTS, MOST_POWERS = 400, 12


def root_by_halving(of: Callable[[Floats], Floats], wanted: Floats, low: Floats, high: Floats) -> Floats:
    """Inputs at which a function, monotone from ``low`` to ``high``, has the values ``wanted``; all of one shape."""
    rises = of(high) >= of(low)
    for _ in range(HALVINGS):
        middle = 0.5 * (low + high)
        beyond = (of(middle) > wanted) == rises
        low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
    return 0.5 * (low + high)


@dataclass(frozen=True)
class Table:
    """A curve through points, ``x`` strictly rising and ``y`` strictly rising or falling, shape (n,).

    Between them straight lines, or monotone cubics. Outside: marked, held at the end, or extended in a straight line.
    """

    x: tuple[float, ...]
    y: tuple[float, ...]
    is_cubic: bool
    outside: str
    unit_in: Unit
    unit_out: Unit

    @property
    def valid_in(self) -> tuple[float, float]:
        return (self.x[0], self.x[-1]) if self.outside == "mark" else (float("-inf"), float("inf"))

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    @cached_property
    def _points(self) -> tuple[Floats, Floats, Floats]:
        x, y = np.array(self.x), np.array(self.y)
        return x, y, _monotone_slopes(x, y) if self.is_cubic else np.zeros(len(x))

    def _piece(self, x: Floats) -> tuple[npt.NDArray[np.int64], Floats, Floats]:
        """For each value its interval, the width of that, and the position in it, 0 to 1 inside the table."""
        points = self._points[0]
        place: npt.NDArray[np.int64] = np.clip(np.searchsorted(points, x, side="right") - 1, 0, len(points) - 2)
        width: Floats = points[place + 1] - points[place]
        return place, width, (x - points[place]) / width

    def forward(self, x: Floats) -> Floats:
        if self.outside == "clip":
            x = np.clip(x, self.x[0], self.x[-1])
        _, y, m = self._points
        place, width, s = self._piece(x)
        rise = y[place + 1] - y[place]
        if not self.is_cubic:
            straight: Floats = y[place] + s * rise
            return straight
        inside = np.clip(s, 0.0, 1.0)
        a, b = m[place] * width, m[place + 1] * width
        curve: Floats = y[place] + inside * (a + inside * (3 * rise - 2 * a - b + inside * (a + b - 2 * rise)))
        # Beyond the ends, straight on.
        return curve + (s - inside) * np.where(s < 0, a, b)

    def inverse(self, y: Floats) -> Floats:
        ends = np.array([self.y[0], self.y[-1]])
        inside = np.clip(y, ends.min(), ends.max())
        low, high = np.full_like(inside, self.x[0]), np.full_like(inside, self.x[-1])
        x = root_by_halving(self.forward, inside, low, high)
        if self.outside != "extend":
            return np.where(y == inside, x, np.nan)  # no input gives such an output, held at its end or not
        steep = self.slope(np.where(y == inside, x, np.where((y > inside) == (ends[1] > ends[0]), high, low)))
        return x + (y - inside) / steep

    def slope(self, x: Floats) -> Floats:
        _, y, m = self._points
        place, width, s = self._piece(x)
        secant = (y[place + 1] - y[place]) / width
        steep = secant
        if self.is_cubic:
            s = np.clip(s, 0.0, 1.0)
            a, b = m[place], m[place + 1]
            steep = a + s * (2 * (3 * secant - 2 * a - b) + s * 3 * (a + b - 2 * secant))
        beyond = (x < self.x[0]) | (x > self.x[-1])
        return np.where(beyond & (self.outside == "clip"), 0.0, steep)


def _monotone_slopes(x: Floats, y: Floats) -> Floats:
    """Slopes at the points that keep each cubic between them monotone, shape (n,).

    At an inner point the weighted harmonic mean of the secants d beside it, (w₁ + w₂) ÷ (w₁ ÷ d₁ + w₂ ÷ d₂) with w₁ =
    2·h₂ + h₁ and w₂ = h₂ + 2·h₁ of the widths h; at the ends the secant there. A one-sided three-point formula at the
    ends would follow some curves more closely, but may end level, and then could not be extended.
    """
    width, secant = np.diff(x), np.diff(y) / np.diff(x)
    slopes = np.empty(len(x))
    slopes[0], slopes[-1] = secant[0], secant[-1]
    before, after = 2 * width[1:] + width[:-1], width[1:] + 2 * width[:-1]
    slopes[1:-1] = (before + after) / (before / secant[:-1] + after / secant[1:])
    return slopes


def _numbers(written: str, what: str) -> list[float]:
    try:
        found = [float(cell) for cell in written.replace("−", "-").split()]
    except ValueError as error:
        raise ValueError(f'{what} "{written.strip()[:30]}" is not a row of numbers') from error
    beyond = next((cell for cell, each in zip(written.split(), found, strict=True) if not abs(each) <= MOST), None)
    if beyond is not None:
        raise ValueError(f'{what} "{written.strip()[:30]}": {beyond} is not a number that can be computed with')
    return found


def _table(values: dict[str, Any]) -> Law:
    rows = [_numbers(row, "points") for row in values["points"].replace("\n", ";").split(";") if row.strip()]
    if not 2 <= len(rows) <= MOST_POINTS or any(len(row) != 2 for row in rows):
        raise ValueError(f'points must be 2 to {MOST_POINTS} pairs, like "0 0; 512 20.5; 1023 48"')
    rows.sort()
    x, y = (np.array(column) for column in zip(*rows, strict=True))
    if not (np.diff(x) > 0).all():
        place = int(np.flatnonzero(np.diff(x) <= 0)[0])
        raise ValueError(f"points must have each input once; {plain_number(x[place])} appears twice")
    steps = np.diff(y)
    if not ((steps > 0).all() or (steps < 0).all()):
        turns = int(np.flatnonzero(steps * steps[0] <= 0)[0])
        raise ValueError(
            f"points must rise or fall all the way; at {plain_number(x[turns])} they turn, so no reading has one input"
        )
    return Table(
        tuple(x.tolist()),
        tuple(y.tolist()),
        values["joined"] == JOINED[1],
        values["outside"],
        values["from"],
        values["to"],
    )


_UNITS = (
    Parameter("from", "from", "unit", "unit of the inputs", "1"),
    Parameter("to", "to", "unit", "unit of the outputs", "1"),
)


def _start_units(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    return {"from": unit_in.symbol, "to": unit_out.symbol}


TABLE = LawKind(
    name="table",
    title="table of points",
    formula="output = the curve through the points",
    source="linear interpolation; monotone cubic: piecewise cubic Hermite interpolation whose slopes are the weighted "
    "harmonic means of the secants beside each point, at the ends the secant itself",
    example="256, through 0 0 and 512 20 → 10",
    parameters=(
        Parameter("points", "points", "text", 'input and output in pairs, "0 0; 512 20.5; 1023 48"', longest=8000),
        *_UNITS,
        Parameter("joined", "joined", "choice", "how it goes between two points", JOINED[0], choices=JOINED),
        Parameter(
            "outside", "outside", "choice", "what is done beyond the first and last point", OUTSIDE[0], choices=OUTSIDE
        ),
    ),
    build=_table,
    start=lambda unit_in, unit_out: {"points": "0 0; 100 100", **_start_units(unit_in, unit_out)},
)


@dataclass(frozen=True)
class Polynomial:
    """output = c₀ + c₁·x + c₂·x² + …, between two inputs over which it is monotone. Source: Horner."""

    coefficients: tuple[float, ...]
    lowest: float
    highest: float
    unit_in: Unit
    unit_out: Unit

    @property
    def valid_in(self) -> tuple[float, float]:
        return self.lowest, self.highest

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return _horner(self.coefficients, x)

    def inverse(self, y: Floats) -> Floats:
        ends = _horner(self.coefficients, np.array([self.lowest, self.highest]))
        inside = np.clip(y, ends.min(), ends.max())
        low, high = np.full_like(inside, self.lowest), np.full_like(inside, self.highest)
        return np.where(y == inside, root_by_halving(self.forward, inside, low, high), np.nan)

    def slope(self, x: Floats) -> Floats:
        return _horner([power * each for power, each in enumerate(self.coefficients)][1:], x)


def _horner(coefficients: Any, x: Floats) -> Floats:
    total = np.zeros_like(x)
    for coefficient in coefficients[::-1]:
        total = total * x + coefficient
    return total


def _polynomial(values: dict[str, Any]) -> Law:
    coefficients = _numbers(values["coefficients"].replace(",", " ").replace(";", " "), "coefficients")
    if not 2 <= len(coefficients) <= MOST_POWERS + 1:
        raise ValueError(f"coefficients must be 2 to {MOST_POWERS + 1} numbers, that of the zeroth power first")
    low, high = values["lowest"], values["highest"]
    if not low < high:
        raise ValueError("lowest must be below highest")
    derivative = [power * each for power, each in enumerate(coefficients)][1:]
    roots = np.roots(derivative[::-1]) if any(derivative[1:]) else np.zeros(0)
    turns = [root.real for root in roots if abs(root.imag) < 1e-12 * (1 + abs(root)) and low < root.real < high]
    # Where the slope only touches zero it does not turn.
    turns = [at for at in turns if _sign(derivative, at, low, high)]
    if turns or not any(derivative):
        at = f" it turns at {plain_number(turns[0])}" if turns else " it is level"
        raise ValueError(
            f"from {plain_number(low)} to {plain_number(high)}{at}, so no reading has one input; lowest "
            "and highest bound it"
        )
    return Polynomial(tuple(coefficients), low, high, values["from"], values["to"])


def _sign(derivative: list[float], at: float, low: float, high: float) -> bool:
    """True where the slope changes its sign there."""
    step = 1e-6 * (high - low)
    before, after = _horner(derivative, np.array([at - step, at + step]))
    return bool(before * after < 0)


POLYNOMIAL = LawKind(
    name="polynomial",
    title="polynomial",
    formula="output = c₀ + c₁·x + c₂·x² + …",
    source="definition; evaluated by Horner's rule",
    example="2, with 1 0.5 0.25 → 3",
    parameters=(
        Parameter("coefficients", "coefficients", "text", 'that of the zeroth power first, "1 0.5 0.25"', longest=400),
        *_UNITS,
        Parameter("lowest", "lowest", "quantity", "input it holds from, a bare number in its unit", "0"),
        Parameter("highest", "highest", "quantity", "input it holds to", "1000"),
    ),
    build=_polynomial,
    start=lambda unit_in, unit_out: {"coefficients": "0 1", **_start_units(unit_in, unit_out)},
)
