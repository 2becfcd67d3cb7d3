"""Bridges: converter count → mV/V, and mV/V → load."""

from __future__ import annotations

from typing import Any

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.usual import BITS, GAINS, REFERENCES, SENSITIVITIES

TOP_CODES = ("2^(n-1)", "2^(n-1) - 1")


@dataclass(frozen=True)
class BridgeConverter:
    """mV/V = count ÷ top × reference ÷ (gain × excitation) × 1000, for a signed converter of ``bits`` bits.

    ``top`` is the count that stands for +full scale: 2^(bits−1), or 2^(bits−1) − 1 where a data sheet says so.
    Source: ratiometric measurement of a Wheatstone bridge, any textbook of measurement.
    """

    bits: int
    top: int
    gain: float
    reference_v: float
    excitation_v: float

    @property
    def unit_in(self) -> Unit:
        return parse_unit("ct")

    @property
    def unit_out(self) -> Unit:
        return parse_unit("mV/V")

    @property
    def valid_in(self) -> tuple[float, float]:
        return self._ends

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return self._ends

    @property
    def _ends(self) -> tuple[float, float]:
        half = 1 << (self.bits - 1)
        return float(-half), float(half - 1)

    @property
    def _mv_per_v_per_count(self) -> float:
        return 1000.0 * self.reference_v / (self.gain * self.excitation_v) / self.top

    def forward(self, x: Floats) -> Floats:
        return x * self._mv_per_v_per_count

    def inverse(self, y: Floats) -> Floats:
        return y / self._mv_per_v_per_count

    def slope(self, x: Floats) -> Floats:
        return 0.0 * x + self._mv_per_v_per_count


def _bridge_converter(values: dict[str, Any]) -> Law:
    half = 1 << (values["bits"] - 1)
    top = half if values["full_scale"] == TOP_CODES[0] else half - 1
    return BridgeConverter(values["bits"], top, values["gain"], values["reference"], values["excitation"])


BRIDGE_CONVERTER = LawKind(
    name="bridge converter",
    title="signed converter on a bridge",
    formula="mV/V = count ÷ full scale × reference ÷ (gain × excitation)",
    source="ratiometric measurement of a Wheatstone bridge",
    example="4 194 304 ct, 24 bits, gain 128, reference = excitation → 3.90625 mV/V",
    parameters=(
        Parameter("bits", "bits", "integer", "width of the count, sign included", 24, lowest=8, highest=32, usual=BITS),
        Parameter(
            "full_scale",
            "full scale",
            "choice",
            "the count at the reference",
            TOP_CODES[0],
            choices=TOP_CODES,
        ),
        Parameter(
            "gain", "gain", "quantity", "amplification before the converter", "1", lowest=0, above=True, usual=GAINS
        ),
        Parameter(
            "reference",
            "reference",
            "quantity",
            "voltage of full scale at gain 1",
            "5 V",
            unit="V",
            lowest=0,
            above=True,
            usual=REFERENCES,
        ),
        Parameter(
            "excitation",
            "excitation",
            "quantity",
            "supply of the bridge",
            "5 V",
            unit="V",
            lowest=0,
            above=True,
            usual=REFERENCES,
        ),
    ),
    build=_bridge_converter,
    start=lambda unit_in, unit_out: {"gain": "128"},
)


@dataclass(frozen=True)
class LoadCell:
    """load = (signal − zero) ÷ sensitivity × capacity; valid up to ``overload`` × capacity either way.

    Source: the definition of a load cell's rated output, in mV per V of excitation at rated capacity.
    """

    capacity: float
    unit_out: Unit
    sensitivity_mv_per_v: float
    zero_mv_per_v: float
    overload: float

    @property
    def unit_in(self) -> Unit:
        return parse_unit("mV/V")

    @property
    def valid_in(self) -> tuple[float, float]:
        span = self.sensitivity_mv_per_v * self.overload
        return self.zero_mv_per_v - span, self.zero_mv_per_v + span

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return (x - self.zero_mv_per_v) * (self.capacity / self.sensitivity_mv_per_v)

    def inverse(self, y: Floats) -> Floats:
        return y / (self.capacity / self.sensitivity_mv_per_v) + self.zero_mv_per_v

    def slope(self, x: Floats) -> Floats:
        return 0.0 * x + self.capacity / self.sensitivity_mv_per_v


def _load_cell(values: dict[str, Any]) -> Law:
    capacity: Quantity = values["capacity"]
    if capacity.unit.dimension not in (parse_unit("kg").dimension, parse_unit("N").dimension):
        raise ValueError(f'capacity must be a mass or a force, like "200 kg", not {capacity}')
    return LoadCell(float(capacity.value), capacity.unit, values["sensitivity"], values["zero"], values["overload"])


LOAD_CELL = LawKind(
    name="load cell",
    title="load cell",
    formula="load = (signal − zero) ÷ sensitivity × capacity",
    source="definition of rated output",
    example="1 mV/V, 2 mV/V at 200 kg → 100 kg",
    parameters=(
        Parameter(
            "capacity",
            "capacity",
            "any quantity",
            "load at which the sensitivity is stated, e.g. 200 kg",
            lowest=0,
            above=True,
        ),
        Parameter(
            "sensitivity",
            "sensitivity",
            "quantity",
            "rated output at capacity",
            unit="mV/V",
            lowest=0,
            above=True,
            usual=SENSITIVITIES,
        ),
        Parameter("zero", "zero", "quantity", "output without load", "0 mV/V", unit="mV/V"),
        Parameter(
            "overload",
            "overload",
            "quantity",
            "part of capacity up to which readings count",
            "150 %",
            lowest=0,
            above=True,
            highest=10,
        ),
    ),
    build=_load_cell,
    start=lambda unit_in, unit_out: {"capacity": "100 kg", "sensitivity": "2 mV/V"},
)
