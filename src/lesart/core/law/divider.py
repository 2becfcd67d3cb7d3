"""Resistors of the hook-up: a voltage after a divider, a sensor as one half of a divider, a current through a shunt;
and a sensor that divides its supply itself.

Their values are those of a part of the hook-up, so that the divider on the desk and the one in the sum are one thing.
"""

from __future__ import annotations

from typing import Any

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.linear import Linear
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit
from lesart.core.usual import REFERENCES
from lesart.core.wire.part import Part

VOLT, OHM, AMPERE, PERCENT = parse_unit("V"), parse_unit("Ω"), parse_unit("A"), parse_unit("%")
TO_GROUND, TO_SUPPLY = "to ground", "to supply"


@dataclass(frozen=True)
class LowerHalf:
    """Resistance of a sensor between tap and ground, in Ω, from the tap's voltage: fixed × v ÷ (supply − v).

    Valid from 0 V to a millionth below the supply, where it grows without bound. Source: Ohm's law.
    """

    supply_v: float
    fixed_ohm: float
    unit_in: Unit = VOLT
    unit_out: Unit = OHM

    @property
    def valid_in(self) -> tuple[float, float]:
        return 0.0, self.supply_v * (1 - 1e-6)

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return self.fixed_ohm * x / (self.supply_v - x)

    def inverse(self, y: Floats) -> Floats:
        return self.supply_v * y / (y + self.fixed_ohm)

    def slope(self, x: Floats) -> Floats:
        return self.fixed_ohm * self.supply_v / (self.supply_v - x) ** 2


@dataclass(frozen=True)
class UpperHalf:
    """Resistance of a sensor between supply and tap, in Ω, from the tap's voltage: fixed × (supply ÷ v − 1).

    Valid from a millionth of the supply, below which it grows without bound, to the supply. Source: Ohm's law.
    """

    supply_v: float
    fixed_ohm: float
    unit_in: Unit = VOLT
    unit_out: Unit = OHM

    @property
    def valid_in(self) -> tuple[float, float]:
        return self.supply_v * 1e-6, self.supply_v

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return self.fixed_ohm * (self.supply_v / x - 1)

    def inverse(self, y: Floats) -> Floats:
        return self.supply_v * self.fixed_ohm / (y + self.fixed_ohm)

    def slope(self, x: Floats) -> Floats:
        return -self.fixed_ohm * self.supply_v / x**2


def _divider(values: dict[str, Any]) -> Law:
    part: Part = values["part"]
    upper, lower = part.value("upper"), part.value("lower")
    return Linear(VOLT, VOLT, 0.0, 0.0, (upper + lower) / lower)


def _half(values: dict[str, Any]) -> Law:
    part: Part = values["part"]
    kind = LowerHalf if values["sensor"] == TO_GROUND else UpperHalf
    return kind(values["supply"], part.value("resistance"))


def _ratiometric(values: dict[str, Any]) -> Law:
    return Linear(VOLT, PERCENT, 0.0, 0.0, 100.0 / values["supply"])


def _shunt(values: dict[str, Any]) -> Law:
    part: Part = values["part"]
    return Linear(VOLT, AMPERE, 0.0, 0.0, 1 / part.value("resistance"))


def _nothing(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    """No start values: the part is found in the hook-up, and the rest has usual values."""
    return {}


def _resistor(help_: str) -> Parameter:
    return Parameter("part", "resistor", "part", help_, choices=("resistor",), longest=60)


def _supply(help_: str) -> Parameter:
    return Parameter(
        "supply", "supply", "quantity", help_, "3.3 V", unit="V", lowest=0, above=True, highest=1000, usual=REFERENCES
    )


DIVIDER = LawKind(
    name="divider",
    title="voltage before a divider",
    formula="voltage = voltage at the tap × (upper + lower) ÷ lower",
    source="Ohm's law; an unloaded divider",
    example="1.2 V after 15 kΩ and 5 kΩ → 4.8 V",
    parameters=(Parameter("part", "divider", "part", "of the hook-up", choices=("divider",), longest=60),),
    build=_divider,
    start=_nothing,
)
HALF = LawKind(
    name="half of a divider",
    title="resistance of a sensor in series with a fixed resistor",
    formula="R = fixed × v ÷ (supply − v); to supply: R = fixed × (supply ÷ v − 1)",
    source="Ohm's law; an unloaded divider",
    example="1.65 V of 3.3 V in series with 10 kΩ → 10 kΩ",
    parameters=(
        _resistor("fixed resistor of the hook-up, the other half"),
        Parameter("sensor", "sensor", "choice", "where the sensor is", TO_GROUND, choices=(TO_GROUND, TO_SUPPLY)),
        _supply("of the divider"),
    ),
    build=_half,
    start=_nothing,
)
RATIOMETRIC = LawKind(
    name="ratiometric",
    title="share of its supply that a sensor gives",
    formula="share = voltage ÷ supply",
    source="definition; where the converter compares with the same supply, what that is does not matter",
    example="2.5 V of 5 V → 50 %",
    parameters=(_supply("of the sensor"),),
    build=_ratiometric,
    start=_nothing,
)
SHUNT = LawKind(
    name="shunt",
    title="current through a shunt",
    formula="current = voltage ÷ resistance",
    source="Ohm's law",
    example="50 mV across 0.1 Ω → 0.5 A",
    parameters=(_resistor("resistor of the hook-up that the current flows through"),),
    build=_shunt,
    start=_nothing,
)
