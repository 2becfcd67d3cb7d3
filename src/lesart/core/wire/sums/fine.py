"""Sums for a fine reading: the fixed half of a thermistor divider, a converter's gain and reference, self-heating."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.errors import LesartError
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity, plain_number
from lesart.core.units import parse_unit
from lesart.core.wire.preferred import E12, E24, E96, decade_of
from lesart.core.wire.sums.record import Figure, SumKind, SumResult, quantity
from lesart.core.wire.sums.resistors import resistor

ZERO_K = 273.15
SERIES = {"E12": E12, "E24": E24, "E96": E96}
TEMPERATURES = 61
"""Points of the range at which the step is computed."""
ROOM = 0.95
"""Share of a converter's range that a signal may fill: references and gains are not exact."""

Floats = npt.NDArray[np.float64]


def step_k(ohm: float, sensor_ohm: Floats, beta_k: float, kelvin: Floats, counts: float) -> Floats:
    """Kelvin per count, for a thermistor to ground and ``ohm`` to the supply, which is also the converter's reference.

    Resistances and temperatures have one shape.
    share = R ÷ (R + ohm), dR/dT = −β·R ÷ T²; so dshare/dT = −β·R·ohm ÷ (T²·(R + ohm)²).
    """
    share_per_k = beta_k * sensor_ohm * ohm / (kelvin * kelvin * (sensor_ohm + ohm) ** 2)
    steps: Floats = 1.0 / (counts * share_per_k)
    return steps


def _thermistor_half(values: Mapping[str, Any]) -> SumResult:
    low, high = values["coldest"], values["hottest"]
    if low >= high:
        return SumResult((), warning="The coldest temperature must be below the hottest.")
    kelvin = np.linspace(low, high, TEMPERATURES) + ZERO_K
    beta, counts = values["beta"], float(2 ** values["bits"])
    sensor = values["resistance"] * np.exp(beta * (1.0 / kelvin - 1.0 / (values["at"] + ZERO_K)))
    tried = decade_of(float(sensor.min()) / 10.0, float(sensor.max()) * 10.0, SERIES[values["series"]])
    ohm = min(tried, key=lambda each: float(step_k(each, sensor, beta, kelvin, counts).max()))
    steps = step_k(ohm, sensor, beta, kelvin, counts)
    heat_w = values["supply"] ** 2 * sensor / (sensor + ohm) ** 2 * values["duty"]
    heats_k = float(heat_w.max()) / values["dissipation"]
    most = values["heats"]
    warning = ""
    if heats_k > most:
        warning = (
            f"The sensor heats itself by up to {plain_number(heats_k, 2)} K, and {plain_number(most, 2)} K "
            "is allowed. Feed it for "
            f"{plain_number(100 * values['duty'] * most / heats_k, 2)} % of the time only."
        )
    codes = counts * sensor / (sensor + ohm)
    return SumResult(
        (
            Figure("take", ohm, "Ω"),
            Figure("a count, at worst", float(steps.max()), "K"),
            Figure("a count, coldest", float(steps[0]), "K"),
            Figure("a count, hottest", float(steps[-1]), "K"),
            Figure("codes, coldest", float(codes[0]), "ct"),
            Figure("codes, hottest", float(codes[-1]), "ct"),
            Figure("heats itself by at most", heats_k, "K"),
        ),
        resistor(ohm, float((heat_w / sensor * ohm).max())),
        warning,
    )


THERMISTOR_HALF = SumKind(
    "thermistor half",
    "the resistor in series with a thermistor that makes its coarsest count finest",
    "a count = T²·(R + fixed)² ÷ (β·R·fixed·2^bits) kelvin; the preferred value with the least largest one",
    "Ohm's law and the definition of beta; preferred values IEC 60063",
    (
        quantity("resistance", "resistance", "of the thermistor at the temperature beside it", "10 kΩ", "Ω"),
        Parameter(
            "at", "at", "quantity", "temperature of that resistance", "25 °C", unit="°C", lowest=-200, highest=1000
        ),
        quantity("beta", "β", "of its data sheet", "3950 K", "K", 100, 20_000),
        Parameter("coldest", "coldest", "quantity", "of the range", "0 °C", unit="°C", lowest=-200, highest=1000),
        Parameter("hottest", "hottest", "quantity", "of the range", "50 °C", unit="°C", lowest=-200, highest=1000),
        Parameter(
            "bits", "bits", "integer", "of the converter, whose reference is the supply", 12, lowest=4, highest=24
        ),
        Parameter("series", "series", "choice", "of preferred values", "E24", choices=tuple(SERIES)),
        quantity("supply", "supply", "of the two", "3.3 V", "V"),
        quantity("dissipation", "dissipation", "heat that warms the sensor by a kelvin", "2 mW/K", "W/K"),
        quantity("duty", "duty", "share of the time that it is fed", "1", "1", highest=1),
        quantity("heats", "heats at most", "allowed, from its own current", "0.1 K", "K"),
    ),
    _thermistor_half,
)


def _listed(written: str, unit: str) -> list[float]:
    """Numbers with units, separated by commas. Raises ValueError where one is invalid, or not above 0."""
    found = []
    for each in written.replace(";", ",").split(","):
        try:
            value = parse_quantity(each, parse_unit(unit), unit_needed=True).to(parse_unit(unit))
        except LesartError as error:
            raise ValueError(str(error)) from error
        if value <= 0:
            raise ValueError(f'"{each.strip()}" is not above 0.')
        found.append(value)
    return found


def _gain(values: Mapping[str, Any]) -> SumResult:
    low, high = values["lowest"], values["highest"]
    try:
        gains, references = _listed(values["gains"], "1"), _listed(values["references"], "V")
    except ValueError as error:
        return SumResult((), warning=f"The list cannot be read: {error}")
    signed, codes = low < 0, float(2 ** values["bits"])
    size = max(abs(low), abs(high))
    if low >= high or size == 0:
        return SumResult((), warning="The least voltage must be below the greatest.")
    # The input range of a setting is its reference over its gain; the least that holds the signal is the finest.
    fit = [
        (reference / gain, gain, reference)
        for gain in gains
        for reference in references
        if size <= ROOM * reference / gain
    ]
    if not fit:
        said = (
            f"No gain and reference take {plain_number(size, 4)} V with {100 - 100 * ROOM:.0f} % of "
            "room; bring it down first."
        )
        return SumResult((Figure("signal, at most", size, "V"),), warning=said)
    span, gain, reference = min(fit, key=lambda each: (each[0], each[1]))
    count_v = span * (2.0 if signed else 1.0) / codes
    used = (high - low) / (span * (2.0 if signed else 1.0))
    return SumResult(
        (
            Figure("gain", gain, "1"),
            Figure("reference", reference, "V"),
            Figure("takes up to", span, "V"),
            Figure("one count", count_v, "V"),
            Figure("counts used", (high - low) / count_v, "ct"),
            Figure("used of all codes", used, "1"),
            Figure("bits in use", math.log2((high - low) / count_v), "1"),
        )
    )


GAIN = SumKind(
    "gain and reference",
    "which of a converter's gains and references reads a voltage finest",
    "count = reference ÷ (gain × 2^bits), twice that with a sign; the least reference ÷ gain that takes the signal",
    "transfer function of an ideal converter",
    (
        Parameter(
            "lowest",
            "least voltage",
            "quantity",
            "of the signal; below 0 takes a converter with a sign",
            "0 V",
            unit="V",
            lowest=-1000,
            highest=1000,
        ),
        Parameter(
            "highest", "greatest voltage", "quantity", "of the signal", "60 mV", unit="V", lowest=-1000, highest=1000
        ),
        Parameter("bits", "bits", "integer", "of the converter, its sign included", 12, lowest=4, highest=32),
        Parameter("gains", "gains", "text", "it can be set to", "1, 2, 4, 8, 16, 32, 64, 128", longest=80),
        Parameter("references", "references", "text", "it can be set to", "3.3 V, 2.5 V, 1.2 V", longest=80),
    ),
    _gain,
)


def _self_heating(values: Mapping[str, Any]) -> SumResult:
    sensor, fixed, supply = values["sensor"], values["fixed"], values["supply"]
    watts = supply**2 * sensor / (sensor + fixed) ** 2
    heats_k = watts * values["duty"] / values["dissipation"]
    most = values["heats"]
    duty = min(values["duty"] * most / heats_k, 1.0)
    supply_most = supply * math.sqrt(most / heats_k)
    warning = ""
    if heats_k > most:
        warning = (
            f"It reads {plain_number(heats_k, 2)} K too warm, and {plain_number(most, 2)} K is allowed: "
            f"feed it for {plain_number(100 * duty, 2)} % of the "
            f"time, or from {plain_number(supply_most, 3)} V."
        )
    return SumResult(
        (
            Figure("heat in the sensor", watts * values["duty"], "W"),
            Figure("reads too warm by", heats_k, "K"),
            Figure("duty that would do", duty, "1"),
            Figure("supply that would do", supply_most, "V"),
        ),
        warning=warning,
    )


SELF_HEATING = SumKind(
    "self-heating",
    "how far a thermistor or a platinum resistor warms itself by its current",
    "heat = supply² × sensor ÷ (sensor + fixed)² × duty; warmer by heat ÷ dissipation",
    "Ohm's law; definition of the dissipation constant",
    (
        quantity("sensor", "sensor", "its resistance where it matters", "10 kΩ", "Ω"),
        quantity("fixed", "fixed half", "the resistor beside it", "10 kΩ", "Ω"),
        quantity("supply", "supply", "of the two", "3.3 V", "V"),
        quantity("dissipation", "dissipation", "heat that warms it by a kelvin, in still air", "2 mW/K", "W/K"),
        quantity("duty", "duty", "share of the time that it is fed", "1", "1", highest=1),
        quantity("heats", "heats at most", "that may be", "0.1 K", "K"),
    ),
    _self_heating,
)
