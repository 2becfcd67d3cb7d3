"""Moisture in air, by its relative humidity and temperature: dew point, absolute humidity, and vapour pressure deficit.

Source of all: the formula over water of the World Meteorological Organization, guide to instruments, annex 4.B; it
holds from −45 to 60 °C.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Argument, Beside, BesideLaw, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit

PERCENT, CELSIUS, HECTOPASCAL = parse_unit("%"), parse_unit("°C"), parse_unit("hPa")
GRAMS = parse_unit("g/m^3")
FACTOR, SHIFT_C, AT_ZERO_HPA = 17.62, 243.12, 6.112
KELVIN, VAPOUR_GK_J = 273.15, 1000.0 / 461.52
"""Factor of absolute humidity: 1 ÷ the gas constant of water vapour, in g·K/J."""
COLDEST_C, HOTTEST_C = -45.0, 60.0
DRIEST, WETTEST = 0.1, 100.0
"""In percent. The formula has no dew point for drier air."""


@dataclass(frozen=True)
class DewPoint:
    """Temperature in °C at which air of ``x`` percent would be saturated; second input: the temperature of the air in
    °C.

    γ = ln(x ÷ 100) + 17.62·t ÷ (243.12 + t); the dew point is 243.12·γ ÷ (17.62 − γ).
    """

    unit_in: Unit = PERCENT
    unit_out: Unit = CELSIUS

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return _between(DRIEST, others[0])

    def forward(self, x: Floats, *others: Floats) -> Floats:
        gamma = np.log(x / 100.0) + _full(others[0])
        return SHIFT_C * gamma / (FACTOR - gamma)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        return 100.0 * np.exp(_full(y) - _full(others[0]))

    def slope(self, x: Floats, *others: Floats) -> Floats:
        gamma = np.log(x / 100.0) + _full(others[0])
        return SHIFT_C * FACTOR / (FACTOR - gamma) ** 2 / x


def _full(celsius: Floats) -> Floats:
    """Logarithm of the saturation pressure at a temperature relative to that at 0 °C."""
    return FACTOR * celsius / (SHIFT_C + celsius)


def _between(driest: float, celsius: Floats) -> tuple[Floats, Floats]:
    """From the driest air to saturated air, where the formula covers the temperature."""
    known = (celsius >= COLDEST_C) & (celsius <= HOTTEST_C)
    return np.where(known, driest, np.nan), np.where(known, WETTEST, np.nan)


@dataclass(frozen=True)
class OfFull:
    """A quantity linear in relative humidity: ``dry`` for air without water, and the rest added in proportion.

    Second input: the temperature of the air in °C.
    """

    unit_out: Unit
    at_full: Callable[[Floats], Floats]
    falls: bool = False
    unit_in: Unit = PERCENT

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return _between(0.0, others[0])

    def forward(self, x: Floats, *others: Floats) -> Floats:
        return (100.0 - x if self.falls else x) / 100.0 * self.at_full(others[0])

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        share = 100.0 * y / self.at_full(others[0])
        return 100.0 - share if self.falls else share

    def slope(self, x: Floats, *others: Floats) -> Floats:
        each = self.at_full(others[0]) / 100.0
        return (-each if self.falls else each) + 0.0 * x


def full_hpa(celsius: Floats) -> Floats:
    """Saturation vapour pressure in hPa."""
    pressure: Floats = AT_ZERO_HPA * np.exp(_full(celsius))
    return pressure


def _grams(celsius: Floats) -> Floats:
    return 100.0 * full_hpa(celsius) * VAPOUR_GK_J / (celsius + KELVIN)


AIR = Parameter(
    "air",
    "air",
    "quantity",
    "temperature of the air, or the channel that reads it",
    "20 °C",
    unit="°C",
    lowest=COLDEST_C,
    highest=HOTTEST_C,
    channel=True,
    longest=60,
)


def _beside_air(law: BesideLaw) -> Callable[[dict[str, Any]], Beside]:
    return lambda values: Beside(law, (Argument("air", CELSIUS, values["air"]),))


DEW_POINT = LawKind(
    name="dew point",
    title="relative humidity to dew point",
    formula="γ = ln(humidity) + 17.62·t ÷ (243.12 °C + t); dew point = 243.12 °C·γ ÷ (17.62 − γ)",
    source="World Meteorological Organization, guide to instruments, annex 4.B, over water, −45 to 60 °C",
    example="60 %, air at 25 °C → 16.69 °C",
    parameters=(AIR,),
    build=_beside_air(DewPoint()),
    start=lambda unit_in, unit_out: {},
)
ABSOLUTE = LawKind(
    name="absolute humidity",
    title="relative humidity to water in a cubic metre",
    formula="e = humidity × 6.112 hPa × exp(17.62·t ÷ (243.12 °C + t)); water = e ÷ (461.52 J/(kg·K) × (t + 273.15 K))",
    source="World Meteorological Organization, guide to instruments, annex 4.B; vapour as an ideal gas",
    example="50 %, air at 20 °C → 8.62 g/m^3",
    parameters=(AIR,),
    build=_beside_air(OfFull(GRAMS, _grams)),
    start=lambda unit_in, unit_out: {},
)
DEFICIT = LawKind(
    name="vapour pressure deficit",
    title="relative humidity to what the air would still take up",
    formula="deficit = (1 − humidity) × 6.112 hPa × exp(17.62·t ÷ (243.12 °C + t))",
    source="World Meteorological Organization, guide to instruments, annex 4.B",
    example="60 %, air at 25 °C → 12.64 hPa",
    parameters=(AIR,),
    build=_beside_air(OfFull(HECTOPASCAL, full_hpa, falls=True)),
    start=lambda unit_in, unit_out: {},
)
