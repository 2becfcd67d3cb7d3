"""Dew point of moist air by its relative humidity and temperature.

Source of all: the formula over water of the World Meteorological Organization, guide to instruments, annex 4.B; it
holds from −45 to 60 °C.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit

PERCENT, CELSIUS = parse_unit("%"), parse_unit("°C")
FACTOR, SHIFT_C = 17.62, 243.12
COLDEST_C, HOTTEST_C = -45.0, 60.0
DRIEST, WETTEST = 0.1, 100.0
"""In percent. Drier air has no dew point that the formula knows."""


@dataclass(frozen=True)
class DewPoint:
    """Temperature in °C at which air of ``x`` percent would be full; beside it the temperature of the air in °C.

    γ = ln(x ÷ 100) + 17.62·t ÷ (243.12 + t); the dew point is 243.12·γ ÷ (17.62 − γ).
    """

    unit_in: Unit = PERCENT
    unit_out: Unit = CELSIUS

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        known = (others[0] >= COLDEST_C) & (others[0] <= HOTTEST_C)
        return np.where(known, DRIEST, np.nan), np.where(known, WETTEST, np.nan)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        gamma = np.log(x / 100.0) + _full(others[0])
        return SHIFT_C * gamma / (FACTOR - gamma)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        return 100.0 * np.exp(_full(y) - _full(others[0]))

    def slope(self, x: Floats, *others: Floats) -> Floats:
        gamma = np.log(x / 100.0) + _full(others[0])
        return SHIFT_C * FACTOR / (FACTOR - gamma) ** 2 / x


def _full(celsius: Floats) -> Floats:
    """Logarithm of the pressure of full air at a temperature, against that at 0 °C."""
    return FACTOR * celsius / (SHIFT_C + celsius)


def _dew_point(values: dict[str, Any]) -> Beside:
    return Beside(DewPoint(), (Argument("air", CELSIUS, values["air"]),))


DEW_POINT = LawKind(
    name="dew point",
    title="relative humidity to dew point",
    formula="γ = ln(humidity) + 17.62·t ÷ (243.12 °C + t); dew point = 243.12 °C·γ ÷ (17.62 − γ)",
    source="World Meteorological Organization, guide to instruments, annex 4.B, over water, −45 to 60 °C",
    example="60 %, air at 25 °C → 16.69 °C",
    parameters=(
        Parameter(
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
        ),
    ),
    build=_dew_point,
    start=lambda unit_in, unit_out: {},
)
