"""How cold or warm air feels, by its temperature, wind and humidity.

Sources: wind chill as weather services state it since 2001, apparent temperature without sun as they state it since
1994; wind is that at ten metres above the ground.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.air.humidity import CELSIUS, PERCENT
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit

KM_H, M_S = parse_unit("km/h"), parse_unit("m/s")
COLDEST_C, HOTTEST_C = -60.0, 60.0
CALM_KM_H = 5.0
"""Below it the formula is linear from the air's own temperature to its value here."""
STEPS = 40
"""Newton steps; from above, where the curve is steepest, each at least halves the error."""


@dataclass(frozen=True)
class WindChill:
    """Temperature in °C that skin feels, by ``x``, that of the air in °C, and the wind in km/h.

    13.12 + 0.6215·t − 11.37·v^0.16 + 0.3965·t·v^0.16 from 5 km/h on, below it t + (0.1345·t − 1.59)·v ÷ 5; never above
    the temperature of the air, which it meets beyond 10 °C.
    """

    unit_in: Unit = CELSIUS
    unit_out: Unit = CELSIUS

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        known = others[0] >= 0
        return np.where(known, COLDEST_C, np.nan), np.where(known, HOTTEST_C, np.nan)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        level, gain = _line(others[0])
        return np.minimum(x, level + gain * x)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        level, gain = _line(others[0])
        air = (y - level) / gain
        return np.where(y < air, air, y)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        level, gain = _line(others[0])
        return np.where(level + gain * x < x, gain, 1.0)


def _line(km_h: Floats) -> tuple[Floats, Floats]:
    """At a given wind it is linear in the temperature of the air: its value at 0 °C, and its slope."""
    power, share = np.maximum(km_h, CALM_KM_H) ** 0.16, np.minimum(km_h / CALM_KM_H, 1.0)
    is_calm = km_h < CALM_KM_H
    return (
        np.where(is_calm, -1.59 * share, 13.12 - 11.37 * power),
        np.where(is_calm, 1.0 + 0.1345 * share, 0.6215 + 0.3965 * power),
    )


@dataclass(frozen=True)
class Apparent:
    """Temperature in °C that a person in the shade feels, by ``x``, that of the air in °C, its humidity in percent and
    the wind in m/s.

    t + 0.33·e − 0.70·v − 4.00, with the vapour pressure e = humidity × 6.105 hPa × exp(17.27·t ÷ (237.7 + t)).
    """

    unit_in: Unit = CELSIUS
    unit_out: Unit = CELSIUS

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        percent, wind = others
        known = (percent >= 0) & (percent <= 100) & (wind >= 0)
        return np.where(known, COLDEST_C, np.nan), np.where(known, HOTTEST_C, np.nan)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        percent, wind = others
        return x + 0.33 * _vapour_hpa(x, percent) - 0.70 * wind - 4.0

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        """By Newton's method from above: the curve rises ever more steeply, so steps never overshoot."""
        x = np.minimum(y + 0.70 * others[1] + 4.0, HOTTEST_C + 40.0)
        for _ in range(STEPS):
            x = x - (self.forward(x, *others) - y) / self.slope(x, *others)
        return x

    def slope(self, x: Floats, *others: Floats) -> Floats:
        return 1.0 + 0.33 * _vapour_hpa(x, others[0]) * 17.27 * 237.7 / (237.7 + x) ** 2


def _vapour_hpa(celsius: Floats, percent: Floats) -> Floats:
    pressure: Floats = percent / 100.0 * 6.105 * np.exp(17.27 * celsius / (237.7 + celsius))
    return pressure


def _beside(name: str, says: str, usual: str, unit: str, highest: float) -> Parameter:
    return Parameter(
        name,
        name,
        "quantity",
        f"{says}, or the channel that reads it",
        usual,
        unit=unit,
        lowest=0,
        highest=highest,
        channel=True,
        longest=60,
    )


def _chill(values: dict[str, Any]) -> Beside:
    return Beside(WindChill(), (Argument("wind", KM_H, values["wind"]),))


def _apparent(values: dict[str, Any]) -> Beside:
    moist, blown = Argument("humidity", PERCENT, values["humidity"]), Argument("wind", M_S, values["wind"])
    return Beside(Apparent(), (moist, blown))


WIND_CHILL = LawKind(
    name="wind chill",
    title="temperature that skin feels in the wind",
    formula="felt = 13.12 + 0.6215·t − 11.37·v^0.16 + 0.3965·t·v^0.16, t in °C and v in km/h; never above t",
    source="weather services, 2001, for up to 10 °C; below 5 km/h felt = t + (0.1345·t − 1.59)·v ÷ 5",
    example="-10 °C, wind of 20 km/h → -17.9 °C",
    parameters=(_beside("wind", "ten metres above the ground", "10 km/h", "km/h", 400),),
    build=_chill,
    start=lambda unit_in, unit_out: {},
)
APPARENT = LawKind(
    name="apparent temperature",
    title="temperature that a person in the shade feels",
    formula="felt = t + 0.33·e − 0.70·v − 4.00, t in °C, v in m/s; e = humidity × 6.105 × exp(17.27·t ÷ (237.7 + t))",
    source="weather services, 1994: apparent temperature without sun, for a person who walks in the open",
    example="30 °C, humidity of 50 %, no wind → 33.0 °C",
    parameters=(
        _beside("humidity", "relative, of the air", "50 %", "%", 100),
        _beside("wind", "ten metres above the ground", "0 m/s", "m/s", 110),
    ),
    build=_apparent,
    start=lambda unit_in, unit_out: {},
)
