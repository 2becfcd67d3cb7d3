"""A count becomes a voltage, and a loop current the quantity it transmits."""

from __future__ import annotations

from typing import Any

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.linear import Linear
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.usual import BITS, GAINS, REFERENCES

COUNT, VOLT, AMPERE = parse_unit("ct"), parse_unit("V"), parse_unit("A")
FULL_SCALES = ("2^n", "2^n - 1")
LOOP_LOW_A, LOOP_HIGH_A = 4e-3, 20e-3
LOOP_FAULTS_A = 3.6e-3, 21e-3
"""At and beyond these a transmitter signals a fault. Source: NAMUR NE 43."""


@dataclass(frozen=True)
class Converter:
    """volts = count ÷ steps × reference ÷ gain. ``steps``: counts that stand for the reference.

    Unsigned codes run from 0 to 2^bits − 1, signed ones from −2^(bits−1) to 2^(bits−1) − 1; codes at the ends are
    saturated. Source: transfer function of an ideal converter, in either of the two conventions that data sheets use.
    """

    lowest: int
    highest: int
    steps: int
    reference_v: float
    gain: float
    unit_in: Unit = COUNT
    unit_out: Unit = VOLT

    @property
    def valid_in(self) -> tuple[float, float]:
        return float(self.lowest), float(self.highest)

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        # An unsigned converter cannot tell what is below zero from zero, and yet zero is a usual reading.
        return (float(self.lowest) if self.lowest < 0 else float("-inf")), float(self.highest)

    @property
    def _volts_per_count(self) -> float:
        return self.reference_v / self.gain / self.steps

    def forward(self, x: Floats) -> Floats:
        return x * self._volts_per_count

    def inverse(self, y: Floats) -> Floats:
        return y / self._volts_per_count

    def slope(self, x: Floats) -> Floats:
        return 0.0 * x + self._volts_per_count


def _converter(values: dict[str, Any]) -> Law:
    bits = values["bits"] - values["signed"]
    steps = (1 << bits) - (values["full_scale"] == FULL_SCALES[1])
    lowest = -(1 << bits) if values["signed"] else 0
    return Converter(lowest, (1 << bits) - 1, steps, values["reference"], values["gain"])


CONVERTER = LawKind(
    name="converter",
    title="converter count to volts",
    formula="volts = count ÷ full scale × reference ÷ gain",
    source="transfer function of an ideal converter",
    example="2048 ct, 12 bits, 3.3 V, full scale 2^n → 1.65 V",
    parameters=(
        Parameter(
            "bits", "bits", "integer", "width of the count, a sign included", 12, lowest=4, highest=32, usual=BITS
        ),
        Parameter("signed", "signed", "flag", "does the count go below zero", False),
        Parameter(
            "full_scale",
            "full scale",
            "choice",
            "the count at the reference",
            FULL_SCALES[0],
            choices=FULL_SCALES,
        ),
        Parameter(
            "reference",
            "reference",
            "quantity",
            "voltage of full scale at gain 1",
            unit="V",
            lowest=0,
            above=True,
            usual=REFERENCES,
        ),
        Parameter(
            "gain", "gain", "quantity", "amplification before the converter", "1", lowest=0, above=True, usual=GAINS
        ),
    ),
    build=_converter,
    start=lambda unit_in, unit_out: {"reference": "3.3 V"},
)


@dataclass(frozen=True)
class Loop(Linear):
    """A straight line between 4 and 20 mA, valid between the fault currents."""

    @property
    def valid_in(self) -> tuple[float, float]:
        return LOOP_FAULTS_A


def _loop(values: dict[str, Any]) -> Law:
    low: Quantity = values["low"]
    high: Quantity = values["high"]
    if low.unit.dimension != high.unit.dimension or low.unit.difference != high.unit.difference:
        raise ValueError(f"low and high must be of one kind, not {low} and {high}")
    top = float(high.to(low.unit))
    if top == float(low.value):
        raise ValueError("low and high must differ")
    gain = (top - float(low.value)) / (LOOP_HIGH_A - LOOP_LOW_A)
    return Loop(AMPERE, low.unit, LOOP_LOW_A, float(low.value), gain)


LOOP = LawKind(
    name="current loop",
    title="current loop, 4 to 20 mA",
    formula="value = low + (current − 4 mA) ÷ 16 mA × (high − low)",
    source="IEC 60381-1; currents that say a fault by NAMUR NE 43",
    example="12 mA, 0 to 10 bar → 5 bar",
    parameters=(
        Parameter("low", "at 4 mA", "any quantity", "the reading at 4 mA, e.g. 0 bar"),
        Parameter("high", "at 20 mA", "any quantity", "the reading at 20 mA, e.g. 10 bar"),
    ),
    build=_loop,
    start=lambda unit_in, unit_out: {
        "low": f"0 {unit_out}".removesuffix(" 1"),
        "high": f"100 {unit_out}".removesuffix(" 1"),
    },
)
