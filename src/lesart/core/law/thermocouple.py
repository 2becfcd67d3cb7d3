"""Thermocouples: millivolts to °C, both ways by the reference functions themselves and not by their approximations."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.law.thermocouple_tables import BELL, INVERTED_FROM, PIECES
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit

MILLIVOLT, CELSIUS = parse_unit("mV"), parse_unit("°C")
TYPES = tuple(PIECES)
GRID = 2048
"""Points of the first guess, near enough for Newton's method to converge."""
NEWTON_STEPS = 6


def range_c(kind: str) -> tuple[float, float]:
    """The temperature range in °C over which a type is monotone, so that a voltage means one temperature."""
    return INVERTED_FROM.get(kind, PIECES[kind][0][0]), PIECES[kind][-1][1]


def emf_mv(kind: str, celsius: Floats) -> Floats:
    """EMF in mV of a type at temperatures of any shape, the other junction at 0 °C; extrapolated beyond its range."""
    return _in_pieces(kind, celsius, 0)


def emf_slope(kind: str, celsius: Floats) -> Floats:
    """Slope of the EMF in mV/°C, of the shape of ``celsius``."""
    return _in_pieces(kind, celsius, 1)


def _in_pieces(kind: str, celsius: Floats, derivative: int) -> Floats:
    celsius = np.asarray(celsius, np.float64)
    pieces = PIECES[kind]
    found = _power_sum(kind, 0, celsius, derivative)
    for place in range(1, len(pieces)):
        above = celsius > pieces[place][0]
        if above.any():
            found = np.where(above, _power_sum(kind, place, celsius, derivative), found)
    return found


def _power_sum(kind: str, place: int, t: Floats, derivative: int) -> Floats:
    coefficients = np.array(PIECES[kind][place][2])
    if derivative:
        coefficients = coefficients[1:] * np.arange(1, len(coefficients))
    total = np.zeros_like(t)
    for coefficient in coefficients[::-1]:
        total = total * t + coefficient
    if kind == "K" and place == 1:
        size, width, middle = BELL
        bell = size * np.exp(width * (t - middle) ** 2)
        total = total + (2 * width * (t - middle) * bell if derivative else bell)
    return total


@lru_cache(maxsize=len(PIECES))
def _grid(kind: str) -> tuple[Floats, Floats]:
    """EMF and temperature of a first guess, both rising."""
    celsius = np.linspace(*range_c(kind), GRID)
    return emf_mv(kind, celsius), celsius


@dataclass(frozen=True)
class Thermocouple:
    """t such that E(t) = voltage + E(cold), by Newton's steps on the reference function E. Source: ITS-90, IEC 60584-1.

    Second input: the temperature of the cold junction in °C. The forward direction agrees with the reference function
    to 1e-9 °C over the whole range of the type.
    """

    kind: str
    unit_in: Unit = MILLIVOLT
    unit_out: Unit = CELSIUS

    def _cold_mv(self, cold_c: Floats) -> Floats:
        low, high = PIECES[self.kind][0][0], PIECES[self.kind][-1][1]
        return emf_mv(self.kind, np.where((cold_c >= low) & (cold_c <= high), cold_c, np.nan))

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        low, high = emf_mv(self.kind, np.array(range_c(self.kind)))
        cold = self._cold_mv(others[0])
        return low - cold, high - cold

    def forward(self, x: Floats, *others: Floats) -> Floats:
        wanted = x + self._cold_mv(others[0])
        t: Floats = np.interp(wanted, *_grid(self.kind))
        low, high = range_c(self.kind)
        for _ in range(NEWTON_STEPS):
            t = np.clip(t - (emf_mv(self.kind, t) - wanted) / emf_slope(self.kind, t), low, high)
        return t

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        return emf_mv(self.kind, y) - self._cold_mv(others[0])

    def slope(self, x: Floats, *others: Floats) -> Floats:
        return 1.0 / emf_slope(self.kind, self.forward(x, *others))


def _thermocouple(values: dict[str, Any]) -> Beside:
    kind, cold = values["type"], values["cold"]
    low, high = PIECES[kind][0][0], PIECES[kind][-1][1]
    if isinstance(cold, float) and not low <= cold <= high:
        raise ValueError(f"cold must be from {low:g} to {high:g} °C for type {kind}, not {cold:g} °C")
    return Beside(Thermocouple(kind), (Argument("cold", CELSIUS, cold),))


THERMOCOUPLE = LawKind(
    name="thermocouple",
    title="thermocouple",
    formula="t with E(t) = voltage + E(cold junction)",
    source="ITS-90 reference functions, IEC 60584-1",
    example="4.096 mV, type K, cold junction at 0 °C → 100 °C",
    parameters=(
        Parameter("type", "type", "choice", "of its two metals", "K", choices=TYPES),
        Parameter(
            "cold",
            "cold junction",
            "quantity",
            "temperature where its wires end, or the channel that reads it",
            "25 °C",
            unit="°C",
            lowest=-270,
            highest=1820,
            channel=True,
            longest=60,
        ),
    ),
    build=_thermocouple,
    start=lambda unit_in, unit_out: {},
)
