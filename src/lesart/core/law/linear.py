"""A linear sensor: a point on the line and its slope, with units in and out."""

from __future__ import annotations

from typing import Any

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, conversion, product, ratio_symbol


@dataclass(frozen=True)
class Linear:
    """output = output_at + (input − input_at) × gain; every finite input is valid.

    ``gain`` is in output units per input unit. Source: equation of a straight line through a point.
    """

    unit_in: Unit
    unit_out: Unit
    input_at: float
    output_at: float
    gain: float

    @property
    def valid_in(self) -> tuple[float, float]:
        return float("-inf"), float("inf")

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return self.output_at + (x - self.input_at) * self.gain

    def inverse(self, y: Floats) -> Floats:
        return self.input_at + (y - self.output_at) / self.gain

    def slope(self, x: Floats) -> Floats:
        return 0.0 * x + self.gain


def _linear(values: dict[str, Any]) -> Law:
    """The slope may be written either way round, as data sheets do: 10 mV/°C or 0.1 °C/mV. Its unit tells which."""
    point_in: Quantity = values["input"]
    point_out: Quantity = values["output"]
    slope: Quantity = values["slope"]
    if slope.value == 0:
        raise ValueError(f"slope must not be 0 {slope.unit}")
    out_per_in = product(point_out.unit, point_in.unit, -1)
    in_per_out = product(point_in.unit, point_out.unit, -1)
    if slope.unit.dimension == out_per_in[0]:
        gain = slope.value * slope.unit.scale / out_per_in[1]
    elif slope.unit.dimension == in_per_out[0]:
        gain = 1 / (slope.value * slope.unit.scale / in_per_out[1])
    else:
        ways = f"{point_out.unit} per {point_in.unit} or {point_in.unit} per {point_out.unit}"
        raise ValueError(f"slope must be in {ways}, not {slope}")
    return Linear(point_in.unit, point_out.unit, float(point_in.value), float(point_out.value), float(gain))


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    """Start values: slope 1 through zero; between units of one quantity the exact conversion: 0 °C is 32 °F."""
    # Within one dimension it is a plain number: 1 V/mV would be a thousand.
    is_same = unit_in.same_dimension(unit_out)
    slope = "1" if is_same else f"1 {ratio_symbol(unit_in, unit_out)}"
    zero = f"{conversion(unit_in, unit_out)[1]:.9g}" if is_same else "0"
    return {
        "input": f"0 {unit_in}".removesuffix(" 1"),
        "output": f"{zero} {unit_out}".removesuffix(" 1"),
        "slope": slope,
    }


LINEAR = LawKind(
    name="linear",
    title="straight line",
    formula="output = output at the point + (input − input at the point) × slope",
    source="equation of a straight line through a point",
    example="750 mV, with 500 mV at 0 °C and 10 mV/°C → 25 °C",
    parameters=(
        Parameter("input", "point, input", "any quantity", "input at a known point, e.g. 500 mV"),
        Parameter("output", "point, output", "any quantity", "output at that point, e.g. 0 °C"),
        Parameter("slope", "slope", "any quantity", "either way round, e.g. 10 mV/°C or 0.1 °C/mV"),
    ),
    build=_linear,
    start=_start,
)
