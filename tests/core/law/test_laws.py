"""Laws: values worked by hand and printed in tables, forward against inverse, slope against differences."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.law.stage import LawStage
from lesart.core.units import parse_unit
from tests.core.law.built import LAWS, build

HOLDS = [
    ("converter", 0, 4095),
    ("converter, top code", 0, 4095),
    ("converter, signed", -32_768, 32_767),
    ("bridge", -8_388_608, 8_388_607),
    ("bridge, top code", -32_768, 32_767),
    ("ticks", 0, 65_535),
    ("table", 0, 1023),
    ("table, falling cubic", 0, 5),
    ("echo", 0, 1),
    ("dew point", 0.1, 100),
    ("platinum", 18.52, 390.48),  # IEC 60751: −200 °C and 850 °C
    ("type K", -6.458 - 0.859, 54.886 - 0.859),  # −270 °C and 1372 °C above a junction at 21.5 °C
    ("type T", -6.258 - 0.850, 20.872 - 0.850),  # −270 °C and 400 °C
]
"""Least and greatest input: codes by their bits, the ends of a standard's tables."""

BY_HAND = [
    ("deficit at 20 °C", 100.0, 0.0),  # full air takes up nothing
    ("chill without wind", -10.0, -10.0),
    ("chill at 2.5 km/h", -10.0, -10.0 + (-1.345 - 1.59) / 2),
    ("chill at 50 km/h", 30.0, 30.0),  # never warmer than the air: the formula would say 33
    ("felt in moist air", 0.0, 0.33 * 6.105 - 4.0),  # e at 0 °C is 6.105 hPa
    ("felt in dry wind", 25.0, 25.0 - 7.0 - 4.0),
    ("bridge", 4_194_304, 3.90625),  # half scale: 1000/128/2
    ("bridge", 1, 1000 / 128 / 8388608),
    ("bridge", -8_388_608, -7.8125),
    ("bridge, top code", 32_767, 7.8125),  # full scale by the other convention: 1000 × 2.5/(64 × 5)
    ("load", 1.03, 100.0),
    ("load", 0.03, 0.0),
    ("line", 750.0, 25.0),
    ("line", 500.0, 0.0),
    ("line", 300.0, -20.0),
    ("falling line", 2.5, 14.0),
    ("divider", 1.2, 4.8),
    ("lower half", 1.65, 10_000.0),
    ("lower half", 0.3, 1_000.0),  # 10 kΩ × 0.3 ÷ 3.0
    ("lower half", 0.0, 0.0),
    ("upper half", 1.65, 10_000.0),
    ("upper half", 3.0, 1_000.0),  # 10 kΩ × (3.3 ÷ 3.0 − 1)
    ("upper half", 3.3, 0.0),
    ("shunt", 0.05, 0.5),
    ("converter", 2048, 1.65),
    ("converter, top code", 4095, 3.3),
    ("converter, signed", -16_384, -1.024),
    ("loop", 4e-3, 0.0),
    ("loop", 12e-3, 5.0),
    ("loop", 3.6e-3, -0.25),
    ("ticks", 12_500, 0.1),
    ("gate", 5, 150.0),  # 60 ÷ (2 × 1 s) turns a minute for each
    ("gate", 1, 30.0),
    ("interval", 0.02, 1500.0),
    ("beta", 10_000.0, 25.0),
    ("table", 256, 10.25),
    ("table", 512, 20.5),
    ("table", 767.5, 34.25),
    ("table, falling cubic", 1, 7.0),
    ("table, falling cubic", 5, 1.0),
    ("polynomial", 2, 3.0),
    ("power", 4, 40.0),  # twice the input, four times the output
    ("power", 0, 0.0),
    ("falling power", 2, 30 / 2**1.2),
    ("root", 5, 4.0),  # a quarter of the pressure, half of the flow
    ("logarithm", 100, 60.0),
    ("logarithm", 0.1, 0.0),
    ("by two points", 10_000.0, 25.0),
    ("by two points", 3_588.0, 50.0),
    ("by three points", 32_650.0, 0.0),
    ("by three points", 10_000.0, 25.0),
    ("by three points", 3_603.0, 50.0),
    ("length", 3.0, 5.0),
    ("from level", 5.0, 45.0),  # as much as the two others together: √(3² + 4²)
    ("from level", 0.0, 0.0),
    ("from level", -5.0, -45.0),
    ("from plumb", 5.0, 45.0),
    ("from plumb", -5.0, 135.0),
    ("direction", 1.0, 45.0),
    ("direction", -1.0, -45.0),
    ("compass", -1.0, 225.0),
    ("compass", 1.0, 135.0),
    ("current by formula", 2.0, 0.2),
]

PUBLISHED = [
    # IEC 60751, table of the 100 Ω resistor, printed to a thousandth of an ohm.
    ("platinum", 18.520, -200.0, 1.5e-3),
    ("platinum", 80.306, -50.0, 1.5e-3),
    ("platinum", 100.0, 0.0, 1e-9),
    ("platinum", 138.5055, 100.0, 2e-4),
    ("platinum", 390.481, 850.0, 2e-3),
    # ISO 2533, printed to a tenth of a pascal.
    ("altitude", 89_874.6, 1000.0, 0.02),
    ("altitude", 54_019.9, 5000.0, 0.02),
    ("altitude", 22_632.1, 11_000.0, 0.1),
    ("sea level", 89_874.6, 101_325.0, 0.2),
    # Dew points of 25 °C, as tables of the weather service print them: 60 %, 30 % and 90 %.
    ("dew point", 60.0, 16.7, 0.05),
    ("dew point", 30.0, 6.2, 0.1),
    ("dew point", 90.0, 23.2, 0.1),
    # Grams of water in a cubic metre of full air, and pressure of its vapour, as tables of physics print them.
    ("water at 0 °C", 100.0, 4.85, 0.02),
    ("water at 20 °C", 100.0, 17.3, 0.07),
    ("water at 30 °C", 100.0, 30.4, 0.15),
    ("deficit at 20 °C", 0.0, 23.39, 0.08),
    ("deficit at 30 °C", 0.0, 42.46, 0.2),
    # Charts of wind chill, which are printed in whole degrees.
    ("chill at 10 km/h", -10.0, -15.0, 0.5),
    ("chill at 30 km/h", -10.0, -20.0, 0.5),
    ("chill at 30 km/h", 0.0, -6.0, 0.5),
    ("chill at 50 km/h", -20.0, -35.0, 0.5),
    ("chill at 50 km/h", -40.0, -63.0, 0.5),
    # Sound at 20 °C is 343.2 m/s: ten milliseconds there and back.
    ("echo", 0.01, 1.716, 5e-4),
    # Coefficients that data sheets give with a 10 kΩ thermistor: 25 °C, and 3603 Ω at 50 °C.
    ("thermistor", 10_000.0, 25.0, 5e-3),
    ("thermistor", 3603.0, 50.0, 0.05),
]


@pytest.mark.parametrize(("name", "x", "y", "within"), PUBLISHED)
def test_published_points(name: str, x: float, y: float, within: float) -> None:
    """Points that are printed in standards and tables, and not worked out from what the law is made of."""
    assert float(LAWS[name].forward(np.array([x]))[0]) == pytest.approx(y, abs=within)


POINTS = st.lists(st.tuples(st.floats(0.01, 50), st.floats(0.01, 50)), min_size=1, max_size=20)


@given(steps=POINTS, falls=st.booleans())
def test_a_cubic_table_keeps_the_order_of_its_points(steps: list[tuple[float, float]], falls: bool) -> None:
    """It goes through them and never turns between, however uneven they are."""
    x = np.cumsum([0.0, *(step for step, _ in steps)])
    y = np.cumsum([0.0, *(rise for _, rise in steps)]) * (-1 if falls else 1)
    points = "; ".join(f"{a!r} {b!r}" for a, b in zip(x.tolist(), y.tolist(), strict=True))
    one = build("table", points=points, joined="monotone cubic")
    assert one.forward(x) == pytest.approx(y, rel=1e-12, abs=1e-12)
    many = one.forward(np.linspace(x[0], x[-1], 500))
    assert (np.diff(many) * (-1 if falls else 1) >= -1e-9).all()


@pytest.mark.parametrize(("outside", "below", "above"), [("clip", 0.0, 20.0), ("extend", -10.0, 30.0)])
@pytest.mark.parametrize("joined", ["linear", "monotone cubic"])
def test_beyond_a_table(outside: str, below: float, above: float, joined: str) -> None:
    """Held at the end, or carried on as straight as it ends; else it is marked, which the range says."""
    one = build("table", points="0 0; 5 10; 10 20", outside=outside, joined=joined)
    assert one.forward(np.array([-5.0, 15.0])) == pytest.approx([below, above])
    assert build("table", points="0 0; 5 10; 10 20", joined=joined).valid_in == (0.0, 10.0)
    if outside == "extend":
        assert one.inverse(np.array([-10.0, 30.0])) == pytest.approx([-5.0, 15.0])


@given(celsius=st.floats(-40, 125))
def test_a_thermistor_against_its_equation_solved_by_halving(celsius: float) -> None:
    """The cubic formula agrees with a search that knows the equation only."""
    a, b, c = 0.001129148, 0.000234125, 0.0000000876741
    low, high = 0.0, 30.0
    for _ in range(200):
        middle = (low + high) / 2
        kelvin = 1 / (a + b * middle + c * middle**3)
        low, high = (middle, high) if kelvin > celsius + 273.15 else (low, middle)
    assert float(LAWS["thermistor"].inverse(np.array([celsius]))[0]) == pytest.approx(np.exp(low), rel=1e-9)


def test_the_ends_of_a_converter_and_of_a_loop() -> None:
    """An unsigned converter's zero may be true; its top never is. Fault currents mean nothing."""
    assert LAWS["converter"].saturated_at == (float("-inf"), 4095.0)
    assert LAWS["converter, signed"].saturated_at == (-32_768.0, 32_767.0)
    assert LAWS["loop"].valid_in == (3.6e-3, 21e-3)


@pytest.mark.parametrize(("name", "x", "y"), BY_HAND)
def test_by_hand(name: str, x: float, y: float) -> None:
    """Cases anyone can work out on paper."""
    assert float(LAWS[name].forward(np.array([x]))[0]) == pytest.approx(y, rel=1e-12, abs=1e-12)


@pytest.mark.parametrize("name", LAWS)
@given(where=st.floats(0, 1))
def test_inverse_and_slope(name: str, where: float) -> None:
    """inverse(forward(x)) is x over the valid range, and the slope is what neighbouring values differ by."""
    one = LAWS[name]
    low, high = (edge if np.isfinite(edge) else np.sign(edge) * 1e4 for edge in one.valid_in)
    if name in ("length", "logarithm", "falling power"):
        # A length does not tell the sign; beside zero the others have no end.
        low = 1.0
    if name in ("from level", "from plumb", "direction", "compass"):
        # Beyond a right angle or nearly at it, what comes back is a rounding of infinity.
        low, high = -100.0, 100.0
    x = np.array([low + where * (high - low)])
    assert one.inverse(one.forward(x)) == pytest.approx(x, rel=1e-11, abs=1e-9 * (high - low))
    # Beside a pole the difference would see the bend and not the slope.
    x = np.array([low + (0.01 + 0.98 * where) * (high - low)])
    step = (high - low) * 1e-6
    measured = (one.forward(x + step) - one.forward(x - step)) / (2 * step)
    assert one.slope(x) == pytest.approx(measured, rel=1e-6)


@given(count=st.integers(-(2**23), 2**23 - 1), gain=st.sampled_from([1, 32, 64, 128]))
def test_bridge_against_exact_fractions(count: int, gain: int) -> None:
    """The fast conversion agrees with exact fractions to the last bits."""
    one = build("bridge converter", reference="4.3 V", excitation="5 V", gain=str(gain))
    exact = 1000 * Fraction(count, 2**23) * Fraction(43, 10) / gain / 5
    assert float(one.forward(np.array([float(count)]))[0]) == pytest.approx(float(exact), rel=1e-14)


@pytest.mark.parametrize("slope", ["10 mV/°C", "0.1 °C/mV", "0.01 V/K", "100 K/V"])
def test_a_slope_may_stand_either_way_round(slope: str) -> None:
    """Data sheets write both; the unit tells which is meant."""
    one = build("linear", input="500 mV", output="0 °C", slope=slope)
    assert float(one.forward(np.array([750.0]))[0]) == pytest.approx(25.0)


def test_heights_are_known_from_two_kilometres_below_the_sea_to_twenty_above() -> None:
    """ISO 2533: 1277.74 hPa at −2 km, 54.749 hPa at 20 km; beyond these nothing is said."""
    low_pa, high_pa = build("altitude", sea_level="1013.25 hPa").valid_in
    assert low_pa == pytest.approx(5474.9, rel=1e-4)
    assert high_pa == pytest.approx(127_774.0, rel=1e-4)


@pytest.mark.parametrize("joined", ["linear", "monotone cubic"])
@pytest.mark.parametrize(("outside", "before", "behind"), [("clip", 0.0, 0.0), ("extend", 2.0, 4.0)])
def test_the_slope_beyond_a_table(joined: str, outside: str, before: float, behind: float) -> None:
    """Held at its ends it is flat there; carried on it goes on as steep as its last piece."""
    table = build("table", points="0 0; 1 2; 2 4; 3 8; 4 12", joined=joined, outside=outside)
    assert table.slope(np.array([-0.5, 4.5])).tolist() == pytest.approx([before, behind], rel=0.05)
    assert table.slope(np.array([0.5, 3.5])).tolist() == pytest.approx([2.0, 4.0], rel=0.05)


@pytest.mark.filterwarnings("error")
@pytest.mark.parametrize("name", LAWS)
@pytest.mark.parametrize("absurd", [0.0, -1e9, 1e9, 1e300, -1e300, math.inf, math.nan])
def test_what_no_number_holds_is_said_to_nobody(name: str, absurd: float) -> None:
    """Of a reading that nothing gives there is no raw value, or an infinite one; no warning goes to a person's
    screen."""
    stage = LawStage(name, LAWS[name])
    for found in (stage.inverse(absurd), stage.slope(absurd)):
        assert isinstance(found, float)


@pytest.mark.parametrize(
    ("unit_in", "unit_out", "at", "gives"),
    [("°C", "°F", 100.0, 212.0), ("°F", "°C", 212.0, 100.0), ("°C", "K", 0.0, 273.15), ("bar", "kPa", 1.0, 100.0)],
)
def test_a_new_line_between_units_of_one_quantity_says_the_same(
    unit_in: str, unit_out: str, at: float, gives: float
) -> None:
    """0 °C began as 0 °F."""
    written = law.KINDS["linear"].start(parse_unit(unit_in), parse_unit(unit_out))
    line = build("linear", **written)
    assert float(line.forward(np.array([at]))[0]) == pytest.approx(gives)


def test_a_power_holds_on_the_side_of_its_point() -> None:
    """Squares through −2 V: four times as much at −4 V, and nothing above 0."""
    law = build("power", input="-2 V", output="10 lx", exponent="2")
    assert law.forward(np.array([-4.0, -2.0, 0.0])).tolist() == [40.0, 10.0, 0.0]
    assert law.valid_in == (-math.inf, 0.0)


@pytest.mark.parametrize(("name", "least", "greatest"), HOLDS)
def test_a_law_holds_as_far_as_its_input_can_be(name: str, least: float, greatest: float) -> None:
    assert LAWS[name].valid_in == (pytest.approx(least, abs=1e-3), pytest.approx(greatest, abs=1e-2))
