"""Air pressure: the altitude it corresponds to, and its value reduced to sea level.

Source of all: ISO 2533, the standard atmosphere, with geopotential heights.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.linear import Linear
from lesart.core.law.record import Argument, Beside, Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit

PASCAL, METRE = parse_unit("Pa"), parse_unit("m")
SEA_K, LAPSE_K_M = 288.15, 6.5e-3
GRAVITY_M_S2, GAS_J_KG_K = 9.80665, 287.05287
EXPONENT = LAPSE_K_M * GAS_J_KG_K / GRAVITY_M_S2
"""0.190263: temperature follows this power of pressure where it falls linearly with height."""
PAUSE_M, PAUSE_K = 11_000.0, SEA_K - LAPSE_K_M * 11_000.0
"""Height of the tropopause, above which the temperature is constant for nine kilometres."""
PAUSE_RATIO = (PAUSE_K / SEA_K) ** (1.0 / EXPONENT)
SCALE_M = GAS_J_KG_K * PAUSE_K / GRAVITY_M_S2
LOWEST_M, HIGHEST_M = -2_000.0, 20_000.0


@dataclass(frozen=True)
class Altitude:
    """Height in metres from the pressure in pascals, with the pressure at sea level as second input; from −2 to 20
    km."""

    unit_in: Unit = PASCAL
    unit_out: Unit = METRE

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        sea_pa = np.where(others[0] > 0, others[0], np.nan)
        return sea_pa * _ratio(HIGHEST_M), sea_pa * _ratio(LOWEST_M)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        ratio = x / others[0]
        below = SEA_K / LAPSE_K_M * (1.0 - ratio**EXPONENT)
        return np.where(ratio < PAUSE_RATIO, PAUSE_M - SCALE_M * np.log(ratio / PAUSE_RATIO), below)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        return others[0] * _ratio(y)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        ratio = x / others[0]
        below = -SEA_K / LAPSE_K_M * EXPONENT * ratio**EXPONENT / x
        return np.where(ratio < PAUSE_RATIO, -SCALE_M / x, below)


def _ratio(height_m: Floats | float) -> Floats:
    """Ratio of the pressure at a height to that at sea level."""
    low, high = np.minimum(height_m, PAUSE_M), np.maximum(height_m, PAUSE_M)
    ratio: Floats = (1.0 - LAPSE_K_M * low / SEA_K) ** (1.0 / EXPONENT) * np.exp((PAUSE_M - high) / SCALE_M)
    return ratio


def _altitude(values: dict[str, Any]) -> Beside:
    return Beside(Altitude(), (Argument("sea_level", PASCAL, values["sea_level"]),))


ALTITUDE = LawKind(
    name="altitude",
    title="pressure to altitude",
    formula="height = 44 331 m × (1 − (p ÷ p₀)^0.190263), up to 11 km",
    source="ISO 2533, standard atmosphere",
    example="89 874.6 Pa, 1013.25 hPa at sea level → 1000 m",
    parameters=(
        Parameter(
            "sea_level",
            "at sea level",
            "quantity",
            "pressure there now, or the channel that reads it",
            "1013.25 hPa",
            unit="Pa",
            lowest=80_000,
            highest=120_000,
            channel=True,
            longest=60,
        ),
    ),
    build=_altitude,
    start=lambda unit_in, unit_out: {},
)


def _reduced(values: dict[str, Any]) -> Law:
    """Pressure reduced to sea level: pressure at a fixed height is proportional to it."""
    return Linear(PASCAL, PASCAL, 0.0, 0.0, 1.0 / float(_ratio(values["height"])))


REDUCED = LawKind(
    name="sea-level pressure",
    title="pressure reduced to sea level",
    formula="p₀ = p ÷ (1 − height ÷ 44 331 m)^5.25588",
    source="ISO 2533, standard atmosphere",
    example="89 874.6 Pa at 1000 m → 101 325 Pa",
    parameters=(
        Parameter(
            "height",
            "height",
            "quantity",
            "of the sensor above the sea",
            "0 m",
            unit="m",
            lowest=LOWEST_M,
            highest=9_000,
        ),
    ),
    build=_reduced,
    start=lambda unit_in, unit_out: {},
)
