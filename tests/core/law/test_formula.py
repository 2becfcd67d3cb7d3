"""The formula: the same values as plain arithmetic, units checked, and each mistake at its character."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.law.formula_words import FormulaError
from lesart.core.law.record import Beside
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.parameters import read_table


def beside(formula: str, names: str = "", unit_in: str = "1", unit_out: str = "1", **written: object) -> Beside:
    """A formula as the project file writes it."""
    table = {"formula": formula, "names": names, "from": unit_in, "to": unit_out, **written}
    values, problems = read_table(law.KINDS["formula"].parameters, table, "l")
    assert not problems, problems
    built = law.KINDS["formula"].build(values)
    assert isinstance(built, Beside)
    return built


def value(formula: str, x: float, names: str = "", unit_in: str = "1", unit_out: str = "1", **written: object) -> float:
    """What it gives for one input."""
    stage = stage_of("formula", beside(formula, names, unit_in, unit_out, **written))
    assert isinstance(stage, LawStage)
    return float(stage.law.forward(np.array([x]))[0])


PLAIN = [
    ("2 * x + 1", lambda x: 2 * x + 1),
    ("x ** 3 - x / 4", lambda x: x**3 - x / 4),
    ("-x ** 2", lambda x: -(x**2)),
    ("1 if x > 2 else 0", lambda x: 1.0 if x > 2 else 0.0),
    ("x if 1 < x <= 3 and not x == 2 else -x", lambda x: x if 1 < x <= 3 and x != 2 else -x),
    ("max(x, 2, 1) - min(x, 3)", lambda x: max(x, 2, 1) - min(x, 3)),
    ("exp(x / 10) + ln(x) * log10(x) + log2(8)", lambda x: math.exp(x / 10) + math.log(x) * math.log10(x) + 3),
    ("sin(x) + cos(2 * x) - tan(x / 3)", lambda x: math.sin(x) + math.cos(2 * x) - math.tan(x / 3)),
    ("atan2(x, 2) + asin(x / 9) + hypot(x, 3)", lambda x: math.atan2(x, 2) + math.asin(x / 9) + math.hypot(x, 3)),
    ("sqrt(x) + abs(-x) + floor(x) + ceil(x)", lambda x: math.sqrt(x) + x + math.floor(x) + math.ceil(x)),
    ("2 · x ÷ 3 − pi", lambda x: 2 * x / 3 - math.pi),
]


@pytest.mark.parametrize(("formula", "oracle"), PLAIN, ids=[formula for formula, _ in PLAIN])
@given(x=st.floats(0.5, 8.5))
def test_plain_arithmetic(formula: str, oracle: object, x: float) -> None:
    """What plain Python gives."""
    assert value(formula, x) == pytest.approx(oracle(x), rel=1e-12, abs=1e-12)  # type: ignore[operator]


def test_halves_are_rounded_away_from_zero() -> None:
    """As people round, and not to the even neighbour."""
    assert [value("round(x)", x, lowest="-5") for x in (0.5, 1.5, -2.5)] == [1.0, 2.0, -3.0]


UNITS = [
    # 2 V over 4.7 kΩ, in milliamperes.
    ("x / r", 2.0, "r = 4.7 kΩ", "V", "mA", 2000 / 4700),
    # Power of 12 V over 8 Ω.
    ("x ** 2 / r", 12.0, "r = 8 Ω", "V", "W", 18.0),
    # A difference of two temperatures; 20 °C and 68 °F are the same one.
    ("x - t", 30.0, "t = 68 °F", "°C", "Δ°C", 10.0),
    ("x + d", 20.0, "d = 18 Δ°F", "°C", "°C", 30.0),
    # A difference taken from a temperature leaves one.
    ("x - d", 20.0, "d = 18 Δ°F", "°C", "°F", 50.0),
    ("x - d - t", 20.0, "d = 4 Δ°C; t = 10 °C", "°C", "Δ°C", 6.0),
    # Half a kilometre in two minutes.
    ("x / t", 0.5, "t = 2 min", "km", "m/s", 500 / 120),
    ("sqrt(2 * x / rho)", 100.0, "rho = 1.2 kg/m^3", "Pa", "m/s", math.sqrt(200 / 1.2)),
    # A degree of an angle is a number in radians.
    ("sin(x)", 30.0, "", "°", "1", 0.5),
    ("asin(x)", 0.5, "", "1", "°", 30.0),
    # The beta equation, in kelvins because temperatures there count from nothing.
    ("1 / (1 / t0 + ln(x / r0) / b)", 10.0, "t0 = 298.15 K; r0 = 10 kΩ; b = 3950 K", "kΩ", "K", 298.15),
]


@pytest.mark.parametrize(("formula", "x", "names", "unit_in", "unit_out", "wanted"), UNITS)
def test_units_are_carried(formula: str, x: float, names: str, unit_in: str, unit_out: str, wanted: float) -> None:
    """Values come in whatever unit they are written in, and the result in the one asked for."""
    assert value(formula, x, names, unit_in, unit_out) == pytest.approx(wanted, rel=1e-12)


def test_plain_numbers_are_those_of_their_units() -> None:
    """A data sheet's formula for degrees: the same text is refused where units are checked."""
    assert value("1.8 * x + 32", 100.0, unit_in="°C", unit_out="°F", units="plain numbers") == pytest.approx(212.0)
    with pytest.raises(FormulaError, match="a number of times a temperature means nothing"):
        beside("1.8 * x + 32", unit_in="°C", unit_out="°F")


WRONG = [
    ("x +", "", 4, "breaks off"),
    ("x + y", "", 5, '"y" is not a name here'),
    ("2 * (x + r)", "r = 3 Ω", 6, "cannot be added to"),
    ("x.real", "", 1, "not arithmetic"),
    ("x[0]", "", 1, "not arithmetic"),
    ("__import__('os')", "", 1, "not a function"),
    ("exec(x)", "", 1, "not a function"),
    ("(lambda: x)()", "", 1, "not arithmetic"),
    ("[x for x in (1, 2)]", "", 1, "not arithmetic"),
    ("x @ x", "", 1, "only [+] - [*] / and [*][*]"),
    ("x % 2", "", 1, "only [+] - [*] / and"),
    ("2 + ~x", "", 5, "come before"),
    ("x is 1", "", 1, "compare"),
    ("1 + 'a'", "", 5, "not a number"),
    ("1 + True", "", 5, "not a number"),
    ("sqrt(x, 2)", "", 1, "takes 1 value"),
    ("max(x)", "", 1, "takes 2 or more"),
    ("exp(r)", "r = 3 Ω", 1, "takes a number"),
    ("µ + λ", "µ = 2", 5, '"λ" is not a name'),
    ("x + 1" + "0" * 301, "", 5, "too large"),
    ("r ** x", "r = 3 Ω", 1, "written as a number"),
    ("x\x1b[31m", "", 2, "not part of a formula"),
]


@pytest.mark.parametrize(("formula", "names", "character", "says"), WRONG)
def test_a_mistake_is_shown_at_its_character(formula: str, names: str, character: int, says: str) -> None:
    """The place is counted in characters from 1, whatever the letters are."""
    with pytest.raises(FormulaError, match=says) as caught:
        beside(formula, names)
    assert f"character {character}," in str(caught.value)
    assert str(caught.value).isprintable()


@pytest.mark.parametrize("long", ["x+" * 5000 + "x", "(" * 200 + "x" + ")" * 200, "-" * 390 + "x", "9**" * 90 + "9"])
def test_a_formula_is_bounded(long: str) -> None:
    """Too long, too deep or too much is refused at once, and nothing is computed."""
    with pytest.raises((FormulaError, AssertionError)):
        beside(long)


def test_what_it_gives_must_be_what_it_says() -> None:
    """Both are named."""
    with pytest.raises(ValueError, match="gives W, and its result is to be in V"):
        beside("x * r", "r = 3 V", "A", "V")


@pytest.mark.parametrize(
    ("names", "says"),
    [
        ("3 = 4", "is not written like"),
        ("x = 4", "is taken"),
        ("a = 1; a = 2", "is taken"),
        ("sin = 1", "is taken"),
        ("t = yard air", "in which unit"),
        ("r = 4 Qm", "names, r"),
        ("; ".join(f"a{i} = 1" for i in range(9)), "8 are"),
    ],
)
def test_names_that_cannot_be(names: str, says: str) -> None:
    """Each entry of the list says what is wrong with it."""
    with pytest.raises(ValueError, match=says):
        beside("x", names)


@given(y=st.floats(0.0, 100.0))
def test_the_first_input_that_gives_it(y: float) -> None:
    """A parabola has two roots; the lower one is given, and none above its top."""
    one = stage_of("formula", beside("x * (20 - x)", lowest="0", highest="20"))
    assert isinstance(one, LawStage)
    found = float(one.law.inverse(np.array([y]))[0])
    assert found == pytest.approx(10 - math.sqrt(100 - y), abs=1e-6)
    assert math.isnan(float(one.law.inverse(np.array([101.0]))[0]))


@pytest.mark.parametrize(
    ("formula", "names", "unit_in", "unit_out", "says"),
    [
        ("d - x", "d = 5 ΔK", "K", "ΔK", "a temperature cannot be taken from a difference"),
        ("x + t", "t = 5 °C", "°C", "°C", "two temperatures have no sum; add a difference, written like 5 ΔK"),
        ("x ** 2 / c", "c = 1 K", "K", "K", "a temperature has no power; take a difference or a ratio"),
        ("x - m", "m = 3 kg", "K", "K", "kg cannot be taken from a temperature"),
    ],
)
def test_what_temperatures_cannot_do(formula: str, names: str, unit_in: str, unit_out: str, says: str) -> None:
    with pytest.raises(FormulaError, match=says):
        beside(formula, names, unit_in, unit_out)


def test_differences_of_temperatures_are_taken_from_each_other() -> None:
    assert value("x - d", 20.0, "d = 18 Δ°F", "Δ°C", "Δ°C") == pytest.approx(10.0)
