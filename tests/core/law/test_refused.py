"""Values of laws that do not fit together: each is refused, with what would be right."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.law.built import build

WRONG = [
    ("linear", {"input": "0 V", "output": "0 kg", "slope": "0 kg/V"}, "must not be 0"),
    ("linear", {"input": "0 V", "output": "0 kg", "slope": "3 kg/A"}, "kg per V or V per kg"),
    ("load cell", {"capacity": "5 V", "sensitivity": "2 mV/V"}, "mass or a force"),
    ("current loop", {"low": "0 m", "high": "10 kg"}, "of one kind, not 0 m and 10 kg"),
    ("current loop", {"low": "0 m", "high": "0 mm"}, "must differ"),
    ("thermistor", {"a": "0.001", "b": "0.0002", "c": "0.1"}, "check the powers of ten"),
    ("thermistor", {"a": "0.001", "b": "0.0002", "c": "0", "coldest": "50 °C", "hottest": "0 °C"}, "below hottest"),
    ("thermocouple", {"type": "T", "cold": "500 °C"}, "from -270 to 400 °C for type T, not 500 °C"),
    ("table", {"points": "0 0; 1 2; 2 1"}, "at 1 they turn"),
    ("table", {"points": "0 0; 1 2; 1 3"}, "1 appears twice"),
    ("table", {"points": "0 0; 1"}, "2 to 400 pairs"),
    ("table", {"points": "0 0; 1 x"}, 'points "1 x" is not a row of numbers'),
    ("polynomial", {"coefficients": "0 1 -0.5"}, "it turns at 1, so no reading"),
    ("polynomial", {"coefficients": "5"}, "2 to 13 numbers"),
    ("polynomial", {"coefficients": "5 0"}, "it is level"),
    ("thermistor by beta", {"coldest": "50 °C", "hottest": "0 °C"}, "below hottest"),
    ("thermistor by points", {"points": "10 kΩ @ 25 °C"}, "two or three measured pairs, not 1"),
    (
        "thermistor by points",
        {"points": "10 kΩ @ 25 °C; 12 kΩ @ 50 °C"},
        "goes from 1e[+]04 to 1.2e[+]04 Ω|goes from 10000",
    ),
    ("thermistor by points", {"points": "10 kΩ, 25 °C; 5 kΩ @ 50 °C"}, 'written like "10 kΩ @ 25 °C"'),
    ("power", {"input": "0 V", "output": "3 A"}, "must not be 0 V"),
    ("power", {"input": "2 V", "output": "0 A"}, "must not be 0 A"),
    ("table", {"points": "0 0; 1 1; 2 1; 3 2"}, "at 1 they turn"),
    ("logarithm", {"input": "1 V", "output": "0 °C", "per_decade": "3 kg"}, "per decade must be in Δ°C"),
    ("vector length", {"second": "3 V"}, "in m/s², as the axis itself, not 3 V"),
    ("trimmed compensation", {"coefficients": "1; 40000", "step": "1 Pa"}, "40000 does not fit 16 bits"),
    ("trimmed compensation", {"coefficients": "1; x", "step": "1 Pa"}, 'coefficients "x" is not a row of whole'),
    ("windowed RMS", {"hop": "1 ms"}, "a 64th of the window"),
]


@pytest.mark.parametrize(("kind", "written", "says"), WRONG)
def test_values_that_do_not_fit_together(kind: str, written: dict[str, object], says: str) -> None:
    """Each wrong set of constants is refused with what would be right."""
    with pytest.raises(ValueError, match=says):
        build(kind, **written)


@pytest.mark.parametrize(("count", "taken"), [(1, False), (2, True), (13, True), (14, False)])
def test_a_polynomial_has_two_to_thirteen_coefficients(count: int, taken: bool) -> None:
    """Up to the twelfth power; one is no polynomial, and more are noise."""
    written = {"coefficients": " ".join(["1"] * count), "lowest": "0", "highest": "1"}
    if taken:
        assert build("polynomial", **written).forward(np.array([1.0])) == pytest.approx(count)
        return
    with pytest.raises(ValueError, match="2 to 13 numbers"):
        build("polynomial", **written)


@pytest.mark.parametrize(
    "points",
    [
        # 1/T is not bent as a thermistor's: c comes out below zero in the first, b in the second.
        "32 kΩ @ 0 °C; 10 kΩ @ 20 °C; 3.6 kΩ @ 50 °C",
        "32.65 kΩ @ 0 °C; 31 kΩ @ 25 °C; 3.603 kΩ @ 50 °C",
    ],
)
def test_points_that_no_thermistor_has_are_refused(points: str) -> None:
    """The curve through them would turn back, and a resistance would mean two temperatures."""
    with pytest.raises(ValueError, match="no thermistor goes through"):
        build("thermistor by points", points=points)


@pytest.mark.parametrize(("exponent", "taken"), [(0, False), (-1, True), (1, True)])
def test_a_power_of_nothing_is_none(exponent: int, taken: bool) -> None:
    """Whatever comes would give one; the inverse of an input is a power like others."""
    written = {"input": "2 V", "output": "10 A", "exponent": exponent}
    if taken:
        assert build("power", **written).forward(np.array([4.0])) == pytest.approx(10 * 2.0**exponent)
        return
    with pytest.raises(ValueError, match="exponent must not be 0"):
        build("power", **written)
