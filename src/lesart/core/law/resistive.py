"""Resistors that sense temperature: thermistors by three coefficients or by beta, platinum by its standard."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, UnitError
from lesart.core.law.record import Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity, plain_number
from lesart.core.units import Unit, parse_unit
from lesart.core.usual import BETAS, RESISTANCES

OHM, CELSIUS = parse_unit("Ω"), parse_unit("°C")
ZERO_K = 273.15
PLATINUM_A, PLATINUM_B, PLATINUM_C = 3.9083e-3, -5.775e-7, -4.183e-12
"""Per °C, °C² and °C⁴; the last below zero only. Source: IEC 60751."""
BETAS_K = 100.0, 20_000.0
"""All thermistors lie between these."""
NEWTON_STEPS = 8
"""Each doubles the number of correct digits; starting 2 % off, three would do."""


@dataclass(frozen=True)
class Thermistor:
    """1/T = a + b·ln R + c·(ln R)³, T in kelvin, R in ohms; the reading is in °C.

    Valid between the resistances of ``coldest_c`` and ``hottest_c``, over which 1/T must rise with R: a thermistor with
    a negative coefficient. Source: Steinhart and Hart's equation, with its textbook inverse by the cubic formula.
    """

    a: float
    b: float
    c: float
    coldest_c: float
    hottest_c: float
    unit_in: Unit = OHM
    unit_out: Unit = CELSIUS

    @property
    def valid_in(self) -> tuple[float, float]:
        ends = self.inverse(np.array([self.hottest_c, self.coldest_c]))
        return float(ends[0]), float(ends[1])

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        logarithm = np.log(x)
        return 1.0 / (self.a + logarithm * (self.b + self.c * logarithm * logarithm)) - ZERO_K

    def inverse(self, y: Floats) -> Floats:
        per_kelvin = 1.0 / (y + ZERO_K)
        if self.c == 0.0:
            return np.exp((per_kelvin - self.a) / self.b)
        # c·z³ + b·z + (a − 1/T) = 0 has one real root where b and c have one sign.
        third, half = self.b / (3.0 * self.c), (self.a - per_kelvin) / (2.0 * self.c)
        root = np.sqrt(half * half + third**3)
        # The larger of the two cube roots, and the other from their product: no digits cancel.
        larger = np.cbrt(np.where(half > 0, -half - root, -half + root))
        return np.exp(larger - third / larger)

    def slope(self, x: Floats) -> Floats:
        logarithm = np.log(x)
        kelvin = 1.0 / (self.a + logarithm * (self.b + self.c * logarithm * logarithm))
        return -kelvin * kelvin * (self.b + 3.0 * self.c * logarithm * logarithm) / x


_RANGE = (
    Parameter(
        "coldest",
        "coldest",
        "quantity",
        "temperature that the coefficients hold from",
        "-40 °C",
        unit="°C",
        lowest=-200,
        highest=1000,
    ),
    Parameter(
        "hottest",
        "hottest",
        "quantity",
        "temperature that they hold to",
        "125 °C",
        unit="°C",
        lowest=-200,
        highest=1000,
    ),
)


def _thermistor(values: dict[str, Any]) -> Law:
    law = Thermistor(values["a"], values["b"], values["c"], values["coldest"], values["hottest"])
    if not values["coldest"] < values["hottest"]:
        raise ValueError("coldest must be below hottest")
    if law.b <= 0 or law.c < 0:
        raise ValueError("b must be above 0 and c not below: else the temperature does not fall as resistance rises")
    low, high = law.valid_in
    per_kelvin = 1.0 / (values["coldest"] + ZERO_K) - 1.0 / (values["hottest"] + ZERO_K)
    usual = 1e-3 < low < high < 1e12 and BETAS_K[0] < np.log(high / low) / per_kelvin < BETAS_K[1]
    if not usual:
        raise ValueError(
            f"from {plain_number(values['coldest'])} to {plain_number(values['hottest'])} °C these "
            f"coefficients give {plain_number(high, 3)} to {plain_number(low, 3)} "
            "Ω, which is not a thermistor; check the powers of ten"
        )
    return law


THERMISTOR = LawKind(
    name="thermistor",
    title="thermistor by three coefficients",
    formula="1/T = a + b·ln R + c·(ln R)³",
    source="Steinhart and Hart, 1968, in any textbook of measurement",
    example="10 000 Ω, a 0.001129148, b 0.000234125, c 0.0000000876741 → 25 °C",
    parameters=(
        Parameter("a", "a", "quantity", "first coefficient, per kelvin, of R in ohms", lowest=-1, highest=1),
        Parameter("b", "b", "quantity", "coefficient of ln R", lowest=0, above=True, highest=1),
        Parameter("c", "c", "quantity", "coefficient of its cube", lowest=0, highest=1),
        *_RANGE,
    ),
    build=_thermistor,
    start=lambda unit_in, unit_out: {"a": "0.001129148", "b": "0.000234125", "c": "0.0000000876741"},
)


def _beta(values: dict[str, Any]) -> Law:
    """The beta form is that of three coefficients with the third zero: 1/T = 1/T₂₅ + ln(R/R₂₅)/β."""
    if not values["coldest"] < values["hottest"]:
        raise ValueError("coldest must be below hottest")
    b = 1.0 / values["beta"]
    a = 1.0 / (values["at"] + ZERO_K) - float(np.log(values["resistance"])) * b
    return Thermistor(a, b, 0.0, values["coldest"], values["hottest"])


BETA = LawKind(
    name="thermistor by beta",
    title="thermistor by beta",
    formula="1/T = 1/T₀ + ln(R ÷ R₀) ÷ β",
    source="definition of the beta value",
    example="3 588 Ω, 10 kΩ at 25 °C, β 3950 K → 50 °C",
    parameters=(
        Parameter(
            "beta",
            "β",
            "quantity",
            "of the data sheet",
            "3950 K",
            unit="K",
            lowest=BETAS_K[0],
            highest=BETAS_K[1],
            usual=BETAS,
        ),
        Parameter(
            "resistance",
            "resistance",
            "quantity",
            "at the temperature beside it",
            "10 kΩ",
            unit="Ω",
            lowest=0,
            above=True,
            usual=RESISTANCES,
        ),
        Parameter(
            "at", "at", "quantity", "temperature of that resistance", "25 °C", unit="°C", lowest=-200, highest=1000
        ),
        *_RANGE,
    ),
    build=_beta,
    start=lambda unit_in, unit_out: {},
)


PAIRS = 2, 3


def _pairs(written: str) -> list[tuple[float, float]]:
    """Resistance in Ω and temperature in °C of each pair, the coldest first. Raises ValueError."""
    found = []
    for pair in (each for each in written.split(";") if each.strip()):
        resistance, at, celsius = pair.partition("@")
        try:
            if not at:
                raise QuantityError(f'"{pair.strip()}" has no @')
            ohm = parse_quantity(resistance, OHM, unit_needed=True).to(OHM)
            found.append((ohm, parse_quantity(celsius, CELSIUS, unit_needed=True).to(CELSIUS)))
        except (QuantityError, UnitError) as error:
            raise ValueError(f'points: {str(error).rstrip(".")}; a pair is written like "10 kΩ @ 25 °C"') from error
    found.sort(key=lambda pair: pair[1])
    if not PAIRS[0] <= len(found) <= PAIRS[1]:
        raise ValueError(f"points must be two or three measured pairs, not {len(found)}")
    for (before_ohm, before_c), (after_ohm, after_c) in pairwise(found):
        if not (before_ohm > after_ohm > 0 and before_c < after_c):
            raise ValueError(
                f"points: from {plain_number(before_c)} to {plain_number(after_c)} °C the resistance "
                "must fall, and here goes from "
                f"{plain_number(before_ohm)} to {plain_number(after_ohm)} Ω"
            )
    return found


def coefficients_of(written: str) -> tuple[float, float, float]:
    """a, b and c through two or three measured pairs, ``32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C``; two leave c at zero.

    By divided differences of 1/T over ln R, exact at the points. Raises ValueError.
    """
    pairs = _pairs(written)
    logarithm = [float(np.log(ohm)) for ohm, _ in pairs]
    per_kelvin = [1.0 / (celsius + ZERO_K) for _, celsius in pairs]
    steep = (per_kelvin[1] - per_kelvin[0]) / (logarithm[1] - logarithm[0])
    c = 0.0
    if len(pairs) == PAIRS[1]:
        further = (per_kelvin[2] - per_kelvin[0]) / (logarithm[2] - logarithm[0])
        c = (further - steep) / (logarithm[2] - logarithm[1]) / sum(logarithm)
        steep -= c * (logarithm[0] ** 2 + logarithm[0] * logarithm[1] + logarithm[1] ** 2)
    a = per_kelvin[0] - logarithm[0] * (steep + c * logarithm[0] ** 2)
    return a, steep, c


def _by_points(values: dict[str, Any]) -> Law:
    a, b, c = coefficients_of(values["points"])
    if c < 0 or b <= 0:
        raise ValueError("points: no thermistor goes through these three; measure again, or give the outer two")
    return _thermistor({**values, "a": a, "b": b, "c": c})


def _said_of_points(values: dict[str, Any]) -> str:
    """The coefficients from the points, in a few words."""
    a, b, c = coefficients_of(values["points"])
    if c == 0:
        return f"β {1 / b:.1f} K"
    return f"a {a:.9g}   b {b:.9g}   c {c:.9g}"


BY_POINTS = LawKind(
    name="thermistor by points",
    title="thermistor by two or three measured pairs",
    formula="through two: beta; through three: 1/T = a + b·ln R + c·(ln R)³",
    source="Steinhart and Hart, 1968; the coefficients by divided differences",
    example="10 000 Ω, through 32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C → 25 °C",
    parameters=(
        Parameter(
            "points", "points", "text", 'measured, "32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"', longest=160
        ),
        *_RANGE,
    ),
    build=_by_points,
    start=lambda unit_in, unit_out: {"points": "32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"},
    derived=_said_of_points,
)


@dataclass(frozen=True)
class Platinum:
    """R = R₀·(1 + A·t + B·t²), below 0 °C with C·(t − 100)·t³ more; t in °C from −200 to 850. Source: IEC 60751."""

    zero_ohm: float
    unit_in: Unit = OHM
    unit_out: Unit = CELSIUS

    @property
    def valid_in(self) -> tuple[float, float]:
        ends = self.inverse(np.array([-200.0, 850.0]))
        return float(ends[0]), float(ends[1])

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    def forward(self, x: Floats) -> Floats:
        ratio = x / self.zero_ohm
        # Above zero exactly, by the quadratic formula; below, by Newton's steps from there.
        t = (-PLATINUM_A + np.sqrt(PLATINUM_A**2 - 4 * PLATINUM_B * (1.0 - ratio))) / (2 * PLATINUM_B)
        cold = ratio < 1.0
        if np.any(cold):
            t = np.array(t, np.float64)
            t[cold] = self._below_zero(t[cold], ratio[cold])
        return t

    @staticmethod
    def _below_zero(t: Floats, ratio: Floats) -> Floats:
        for _ in range(NEWTON_STEPS):
            t = t - (_platinum_ratio(t) - ratio) / _platinum_slope(t)
        return t

    def inverse(self, y: Floats) -> Floats:
        return self.zero_ohm * _platinum_ratio(y)

    def slope(self, x: Floats) -> Floats:
        return 1.0 / (self.zero_ohm * _platinum_slope(self.forward(x)))


def _platinum_ratio(t: Floats) -> Floats:
    below = np.where(t < 0, PLATINUM_C * (t - 100.0) * t * t * t, 0.0)
    return 1.0 + t * (PLATINUM_A + PLATINUM_B * t) + below


def _platinum_slope(t: Floats) -> Floats:
    below = np.where(t < 0, PLATINUM_C * t * t * (4.0 * t - 300.0), 0.0)
    return PLATINUM_A + 2.0 * PLATINUM_B * t + below


PLATINUM = LawKind(
    name="platinum",
    title="platinum resistor",
    formula="R = R₀·(1 + A·t + B·t² + C·(t − 100)·t³), C below zero only",
    source="IEC 60751",
    example="138.5055 Ω, 100 Ω at 0 °C → 100 °C",
    parameters=(
        Parameter(
            "resistance",
            "at 0 °C",
            "quantity",
            "resistance at 0 °C",
            "100 Ω",
            unit="Ω",
            lowest=0,
            above=True,
            usual=("100 Ω", "500 Ω", "1 kΩ"),
        ),
    ),
    build=lambda values: Platinum(values["resistance"]),
    start=lambda unit_in, unit_out: {},
)
