"""Power laws and logarithms through a known point."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit

EXPONENTS = -20.0, 20.0


@dataclass(frozen=True)
class Power:
    """output = output_at × (input ÷ input_at)^exponent, for inputs on the side of zero where ``input_at`` is.

    A positive exponent takes 0 too. Source: definition of a power.
    """

    unit_in: Unit
    unit_out: Unit
    input_at: float
    output_at: float
    exponent: float

    @property
    def valid_in(self) -> tuple[float, float]:
        least = 0.0 if self.exponent > 0 else float(np.nextafter(0.0, 1.0)) * np.sign(self.input_at)
        return (least, float("inf")) if self.input_at > 0 else (float("-inf"), least)

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return self.output_at * (x / self.input_at) ** self.exponent

    def inverse(self, y: Floats) -> Floats:
        # No light at all is an infinite resistance.
        with np.errstate(divide="ignore"):
            return np.asarray(self.input_at * (y / self.output_at) ** (1.0 / self.exponent), np.float64)

    def slope(self, x: Floats) -> Floats:
        ratio = x / self.input_at
        return self.output_at / self.input_at * self.exponent * ratio ** (self.exponent - 1.0)


@dataclass(frozen=True)
class Logarithm:
    """output = output_at + per_decade × log₁₀(input ÷ input_at), for inputs with the sign of ``input_at``.

    Source: definition of the logarithm.
    """

    unit_in: Unit
    unit_out: Unit
    input_at: float
    output_at: float
    per_decade: float

    @property
    def valid_in(self) -> tuple[float, float]:
        least = float(np.nextafter(0.0, np.sign(self.input_at)))
        return (least, float("inf")) if self.input_at > 0 else (float("-inf"), least)

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        return self.output_at + self.per_decade * np.log10(x / self.input_at)

    def inverse(self, y: Floats) -> Floats:
        inverse: Floats = self.input_at * np.power(10.0, (y - self.output_at) / self.per_decade)
        return inverse

    def slope(self, x: Floats) -> Floats:
        slope: Floats = self.per_decade / (np.log(10.0) * x)
        return slope


_INPUT = Parameter("input", "point, input", "any quantity", "input at a known point, e.g. 5 kPa")
_OUTPUT = Parameter("output", "point, output", "any quantity", "output at that point, e.g. 20 L/min")


def _power(values: dict[str, Any], exponent: float) -> Law:
    at: Quantity = values["input"]
    out: Quantity = values["output"]
    for name, each in (("point, input", at), ("point, output", out)):
        if each.value == 0:
            raise ValueError(f"{name} must not be 0 {each.unit}: every power is zero at zero")
    if exponent == 0:
        raise ValueError("exponent must not be 0: then every input gives the same output")
    return Power(at.unit, out.unit, float(at.value), float(out.value), exponent)


def _logarithm(values: dict[str, Any]) -> Law:
    at: Quantity = values["input"]
    out: Quantity = values["output"]
    per_decade: Quantity = values["per_decade"]
    if at.value == 0:
        raise ValueError(f"point, input must not be 0 {at.unit}: zero has no logarithm")
    if per_decade.value == 0:
        raise ValueError("per decade must not be 0: then every input gives the same output")
    step = out.unit.step
    if per_decade.unit.dimension != step.dimension:
        raise ValueError(f"per decade must be in {step}, as the output, not {per_decade}")
    gain = float(per_decade.value * per_decade.unit.scale / out.unit.scale)
    return Logarithm(at.unit, out.unit, float(at.value), float(out.value), gain)


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    return {"input": f"1 {unit_in}".removesuffix(" 1"), "output": f"1 {unit_out}".removesuffix(" 1")}


POWER = LawKind(
    name="power",
    title="power of the input",
    formula="output = output at the point × (input ÷ input at the point)^exponent",
    source="definition of a power",
    example="4 V, through 2 V at 10 lx, exponent 2 → 40 lx",
    parameters=(
        _INPUT,
        _OUTPUT,
        Parameter(
            "exponent",
            "exponent",
            "quantity",
            "whole, fractional or negative: 2, 1/2, -1.4",
            "2",
            lowest=EXPONENTS[0],
            highest=EXPONENTS[1],
        ),
    ),
    build=lambda values: _power(values, values["exponent"]),
    start=_start,
)
ROOT = LawKind(
    name="root",
    title="root of the input",
    formula="output = output at the point × (input ÷ input at the point)^(1 ÷ degree)",
    source="definition of a root; flow goes with the square root of a pressure difference",
    example="5 kPa, through 20 kPa at 8 L/min, degree 2 → 4 L/min",
    parameters=(
        _INPUT,
        _OUTPUT,
        Parameter("degree", "degree", "integer", "2 is the square root", 2, lowest=2, highest=9),
    ),
    build=lambda values: _power(values, 1.0 / values["degree"]),
    start=_start,
)
LOGARITHM = LawKind(
    name="logarithm",
    title="logarithm of the input",
    formula="output = output at the point + per decade × log₁₀(input ÷ input at the point)",
    source="definition of the logarithm",
    example="100 mV, through 1 mV at 20 dB, 20 dB a decade → 60 dB",
    parameters=(
        _INPUT,
        _OUTPUT,
        Parameter("per_decade", "per decade", "any quantity", "output more for ten times the input, e.g. 20 dB"),
    ),
    build=_logarithm,
    start=lambda unit_in, unit_out: {
        **_start(unit_in, unit_out),
        "per_decade": f"1 {unit_out.step}".removesuffix(" 1"),
    },
)
