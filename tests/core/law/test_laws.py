"""Laws: values worked by hand, forward against inverse, slope against differences, and the records themselves."""

from __future__ import annotations

import itertools
import math
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.law.record import Law, LawKind
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.law.thermocouple import emf_mv, emf_slope, range_c
from lesart.core.law.thermocouple_tables import INVERTED_FROM, PIECES
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.part import Part

DIVIDER = Part("div", PARTS["divider"], {"upper": 15_000.0, "lower": 5_000.0})
FIXED = Part("fixed", PARTS["resistor"], {"resistance": 10_000.0})


def build(kind: str, part: Part | None = None, **written: object) -> Law:
    """A law from values as the file has them; a part of the hook-up as the project finds it."""
    if part is not None:
        written["part"] = part.name
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    if part is not None:
        values["part"] = part
    stage = stage_of(kind, law.KINDS[kind].build(values))
    assert isinstance(stage, LawStage)
    return stage.law


LAWS = {
    "bridge": build("bridge converter", reference="5 V", excitation="5 V", gain="128"),
    "bridge, top code": build(
        "bridge converter", reference="2.5 V", excitation="5 V", gain="64", bits=16, full_scale="2^(n-1) - 1"
    ),
    "load": build("load cell", capacity="200 kg", sensitivity="2 mV/V", zero="0.03 mV/V"),
    "line": build("linear", input="500 mV", output="0 °C", slope="10 mV/°C"),
    "falling line": build("linear", input="1 V", output="20 kg", slope="-4 kg/V"),
    "divider": build("divider", DIVIDER),
    "lower half": build("half of a divider", FIXED, supply="3.3 V"),
    "upper half": build("half of a divider", FIXED, supply="3.3 V", sensor="to supply"),
    "ratiometric": build("ratiometric", supply="5 V"),
    "shunt": build("shunt", Part("shunt", PARTS["resistor"], {"resistance": 0.1})),
    "converter": build("converter", reference="3.3 V"),
    "converter, top code": build("converter", reference="3.3 V", full_scale="2^n - 1"),
    "converter, signed": build("converter", bits=16, signed=True, reference="4.096 V", gain="2"),
    "loop": build("current loop", low="0 m", high="10 m"),
    "thermistor": build("thermistor", a="0.001129148", b="0.000234125", c="0.0000000876741"),
    "beta": build("thermistor by beta"),
    "platinum": build("platinum"),
    **{f"type {kind}": build("thermocouple", type=kind, cold="21.5 °C") for kind in "BEJKNRST"},
    "table": build("table", points="0 0; 512 20.5; 1023 48"),
    "table, falling cubic": build("table", points="0 10; 1 7; 2 6.5; 5 1", joined="monotone cubic"),
    "polynomial": build("polynomial", coefficients="1 0.5 0.25"),
    "ticks": build("timer ticks", clock="8 MHz", prescaler=64),
    "echo": build("echo"),
    "gate": build("gate rate", marks="2"),
    "interval": build("interval rate", marks="2"),
    "altitude": build("altitude"),
    "sea level": build("sea-level pressure", height="1000 m"),
    "power": build("power", input="2 V", output="10 lx"),
    "falling power": build("power", input="1 V", output="30 cm", exponent="-1.2"),
    "root": build("root", input="20 kPa", output="8 L/min"),
    "logarithm": build("logarithm", input="1 mV", output="20 dB", per_decade="20 dB"),
    "by two points": build("thermistor by points", points="10 kΩ @ 25 °C; 3.588 kΩ @ 50 °C"),
    "by three points": build("thermistor by points", points="32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"),
    "dew point": build("dew point", air="25 °C"),
    "water at 0 °C": build("absolute humidity", air="0 °C"),
    "water at 20 °C": build("absolute humidity", air="20 °C"),
    "water at 30 °C": build("absolute humidity", air="30 °C"),
    "deficit at 20 °C": build("vapour pressure deficit", air="20 °C"),
    "deficit at 30 °C": build("vapour pressure deficit", air="30 °C"),
    "chill at 10 km/h": build("wind chill", wind="10 km/h"),
    "chill at 30 km/h": build("wind chill", wind="30 km/h"),
    "chill at 50 km/h": build("wind chill", wind="50 km/h"),
    "chill at 2.5 km/h": build("wind chill", wind="2.5 km/h"),
    "chill without wind": build("wind chill", wind="0 m/s"),
    "felt in moist air": build("apparent temperature", humidity="100 %", wind="0 m/s"),
    "felt in dry wind": build("apparent temperature", humidity="0 %", wind="10 m/s"),
    "length": build("vector length", unit="m/s²", second="4 m/s²"),
    "from level": build("tilt", second="3 m/s²", third="4 m/s²"),
    "from plumb": build("tilt", second="3 m/s²", third="4 m/s²", of="from plumb"),
    "direction": build("direction", second="1 m/s²", turn="-180 to 180 °"),
    "compass": build("direction", second="-1 m/s²"),
    "current by formula": build("formula", formula="x / r", names="r = 10 Ω", **{"from": "V", "to": "A"}),
}

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


EMF = [
    # Tables of IEC 60584-1, printed to a thousandth of a millivolt, the cold junction at 0 °C.
    ("K", -270, -6.458),
    ("K", -200, -5.891),
    ("K", 100, 4.096),
    ("K", 500, 20.644),
    ("K", 1000, 41.276),
    ("K", 1372, 54.886),
    ("J", -210, -8.095),
    ("J", 100, 5.269),
    ("J", 760, 42.919),
    ("J", 1000, 57.953),
    ("J", 1200, 69.553),
    ("E", -270, -9.835),
    ("E", -100, -5.237),
    ("E", 100, 6.319),
    ("E", 500, 37.005),
    ("E", 1000, 76.373),
    ("T", -270, -6.258),
    ("T", -200, -5.603),
    ("T", 100, 4.279),
    ("T", 400, 20.872),
    ("N", -270, -4.345),
    ("N", -200, -3.990),
    ("N", 100, 2.774),
    ("N", 1000, 36.256),
    ("N", 1300, 47.513),
    ("R", -50, -0.226),
    ("R", 100, 0.647),
    ("R", 1000, 10.506),
    ("R", 1500, 17.451),
    ("R", 1768, 21.101),
    ("S", -50, -0.236),
    ("S", 100, 0.646),
    ("S", 1000, 9.587),
    ("S", 1500, 15.582),
    ("S", 1768, 18.693),
    ("B", 100, 0.033),
    ("B", 600, 1.792),
    ("B", 1000, 4.834),
    ("B", 1820, 13.820),
]


@pytest.mark.parametrize(("kind", "celsius", "mv"), EMF)
def test_thermocouples_against_their_tables(kind: str, celsius: float, mv: float) -> None:
    """Within half of the last printed digit and the rounding that made it."""
    assert float(emf_mv(kind, np.array([float(celsius)]))[0]) == pytest.approx(mv, abs=5.5e-4)
    if celsius > INVERTED_FROM.get(kind, -273):
        one = build("thermocouple", type=kind, cold="0 °C")
        slope = float(emf_slope(kind, np.array([float(celsius)]))[0])
        # A rounded voltage is as many degrees off as the slope makes of it: at −270 °C a microvolt is a degree.
        back = one.forward(np.clip(np.array([mv]), *one.valid_in))
        assert float(back[0]) == pytest.approx(celsius, abs=max(5.5e-4 / slope * 1.2, 0.05))


@pytest.mark.parametrize("kind", PIECES)
def test_pieces_of_a_reference_function_meet(kind: str) -> None:
    """A wrong digit in a coefficient would tear them apart where one ends and the next begins.

    Values meet; slopes nearly: the standard itself leaves a bend of 0.9 % in type N at 0 °C.
    """
    for (_, end, _), _ in itertools.pairwise(PIECES[kind]):
        below, above = np.array([end - 1e-9]), np.array([end + 1e-9])
        assert float(emf_mv(kind, above)[0]) == pytest.approx(float(emf_mv(kind, below)[0]), abs=1e-6)
        assert float(emf_slope(kind, above)[0]) == pytest.approx(float(emf_slope(kind, below)[0]), rel=1e-2)


@pytest.mark.parametrize("kind", PIECES)
def test_a_thermocouple_is_read_right_over_its_whole_range(kind: str) -> None:
    """To a millionth of a degree, with a cold junction that is not cold, at ten thousand temperatures."""
    one = LAWS[f"type {kind}"]
    celsius = np.linspace(*range_c(kind), 10_001)
    assert np.abs(one.forward(one.inverse(celsius)) - celsius).max() < 1e-6


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


@pytest.mark.parametrize("kind", law.KINDS.values(), ids=list(law.KINDS))
def test_records_are_complete(kind: LawKind) -> None:
    """Help, listing and docs are made from the record: formula, source, example and a help text for each parameter."""
    assert kind.title
    assert kind.source
    assert "→" in kind.example
    assert "=" in kind.formula
    assert all(parameter.help for parameter in kind.parameters)
    names = [parameter.name for parameter in kind.parameters]
    assert len(set(names)) == len(names)


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
    """Of a reading that nothing gives there is no raw value, or an infinite one; no warning goes to a person's screen."""
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
