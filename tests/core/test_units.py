"""Units: parsed, compared by dimension, converted exactly."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import UnitError
from lesart.core.units import TEMPERATURE, UNITS, conversion, convert, parse_unit, product, ratio_symbol

CONVERSIONS = [
    (1.0, "kg", "g", 1000.0),
    (1013.25, "hPa", "Pa", 101325.0),
    (1.0, "bar", "hPa", 1000.0),
    (1.0, "atm", "hPa", 1013.25),
    (36.0, "km/h", "m/s", 10.0),
    (1.0, "min", "s", 60.0),
    (60.0, "turn/min", "turn/s", 1.0),
    (1.0, "mV/V", "%", 0.1),
    (1.0, "mV/V", "1", 0.001),
    (1.0, "in", "mm", 25.4),
    (1.0, "lb", "g", 453.59237),
    (20.0, "°C", "K", 293.15),
    (20.0, "°C", "°F", 68.0),
    (-40.0, "°F", "°C", -40.0),
    (0.0, "K", "°C", -273.15),
    (10.0, "Δ°C", "Δ°F", 18.0),
    (10.0, "Δ°C", "ΔK", 10.0),
    (10.0, "mV/°C", "V/K", 0.01),
    (1.0, "mAh", "C", None),
    (1.0, "Wh", "J", 3600.0),
    (9.0, "m/s^2", "m/s²", 9.0),
    (1.0, "N·m", "J", 1.0),
    (50.0, "/min", "Hz", 50 / 60),
    (1.0, "kohm", "Ω", 1000.0),
    (5.0, "uV", "µV", 5.0),
    (180.0, "°", "turn", 0.5),
    (1.0, "gal", "L", 3.785411784),
    (1.0, "gal/min", "m^3/h", 0.22712470704),
    (1.0, "ft^3/min", "m^3/h", 60 * 0.028316846592),
    (1.0, "hp", "W", 745.69987158227022),
    (1.0, "lbf", "N", 4.4482216152605),
    (1.0, "kgf", "N", 9.80665),
    (1.0, "kgf/cm^2", "kPa", 98.0665),
    (1.0, "in·lbf", "N·m", 0.1129848290276167),
    (1.0, "inH2O", "Pa", 249.08891),
    (1.0, "cmH2O/s", "Pa/s", 98.0665),
    (760.0, "Torr", "hPa", 1013.25),
    (1.0, "kcal", "J", 4184.0),
    (1.0, "BTU/h", "W", 0.29307107017222),
    (1.0, "Gs", "µT", 100.0),
    (1.0, "pCi/L", "Bq/m^3", 37.0),
    (1.0, "Sv/h", "µSv/h", 1e6),
    (1.0, "ppm", "ppb", 1000.0),
    (1000.0, "µε", "%", 0.1),
    (8.75, "m°/s", "°/s", 0.00875),
    (1.0, "mgn", "m/s^2", 0.00980665),
    (1.0, "mil", "µm", 25.4),
    (1.0, "yd", "m", 0.9144),
    (1.0, "MB", "kB", 1000.0),
    (1.0, "kVA", "VA", 1000.0),
]


@pytest.mark.parametrize(("value", "source", "target", "expected"), [row for row in CONVERSIONS if row[3] is not None])
def test_converted(value: float, source: str, target: str, expected: float) -> None:
    """Same dimension, other scale: the number that a table of units gives."""
    assert convert(value, parse_unit(source), parse_unit(target)) == pytest.approx(expected, rel=1e-12)


@pytest.mark.parametrize(
    ("source", "target"),
    [
        ("kg", "N"),
        ("V", "A"),
        ("°C", "Δ°C"),
        ("K", "ΔK"),
        ("ct", "1"),
        ("dB", "1"),
        ("hPa", "m"),
        ("s", "Hz"),
        ("ct", "%"),
    ],
)
def test_refused(source: str, target: str) -> None:
    """Another dimension is refused, and so is a temperature for a temperature difference; both units are named."""
    with pytest.raises(UnitError) as caught:
        conversion(parse_unit(source), parse_unit(target))
    assert source in str(caught.value)
    assert target in str(caught.value)


@pytest.mark.parametrize(
    "text",
    [
        "volt",
        "kkg",
        "mmin",
        "m/",
        "V/V/",
        "/",
        "*",
        "·",
        "m·",
        "*m",
        "m··s",
        "k",
        "C",
        "[bold]",
        "m^99",
        "x" * 50,
        "°",
        "m^",
    ],
)
def test_unknown_or_known(text: str) -> None:
    """What is no unit is refused with a hint, also one that breaks off behind its stroke; ``°`` alone is the angle."""
    if text == "°":
        assert parse_unit(text).symbol == text
        return
    with pytest.raises(UnitError, match=r"unit|power"):
        parse_unit(text)


def test_spelling_has_a_hint() -> None:
    """A unit that is nearly known names the one that was probably meant."""
    with pytest.raises(UnitError, match="did you mean Hz"):
        parse_unit("hz")


def test_both_letters_for_micro_and_ohm() -> None:
    """Unicode has two letters each for micro and ohm; both mean the same."""
    assert parse_unit("\u03bcA") == parse_unit("µA") == parse_unit("uA")
    assert parse_unit("\u2126") == parse_unit("Ω") == parse_unit("ohm")


def test_temperature_and_difference() -> None:
    """Only a temperature standing alone is absolute; inside a compound unit it is a difference."""
    assert parse_unit("°C").is_temperature
    assert not parse_unit("Δ°C").is_temperature
    assert parse_unit("°C").step == parse_unit("Δ°C")
    assert parse_unit("kg").step == parse_unit("kg")
    dimension, _ = product(parse_unit("mV"), parse_unit("K"), -1)
    assert parse_unit("mV/K").dimension == dimension
    assert parse_unit("°C·V/V").difference
    assert parse_unit("°C·V/V").dimension == TEMPERATURE


@given(st.sampled_from(sorted(UNITS)), st.sampled_from(sorted(UNITS)), st.floats(-1e6, 1e6))
def test_there_and_back(first: str, second: str, value: float) -> None:
    """Any convertible pair converts there and back within rounding."""
    a, b = parse_unit(first), parse_unit(second)
    if not a.same_dimension(b):
        return
    back = convert(convert(value, a, b), b, a)
    room = 1e-9 * max(abs(value), abs(float(a.offset_k / a.scale)), abs(float(b.offset_k / a.scale)), 1e-3)
    assert abs(back - value) <= room


@given(
    st.sampled_from(("mV", "m/s²", "°C", "mV/V", "ct", "1", "1/s", "kg·m^2/s²")),
    st.sampled_from(("kg", "°C", "m/s²", "1", "V", "1/s")),
)
def test_one_unit_for_each_of_another_is_written_so_that_it_is_read(above: str, below: str) -> None:
    """What comes back has the powers of the one less those of the other, and the ratio of their sizes."""
    one, other = parse_unit(above), parse_unit(below)
    read = parse_unit(ratio_symbol(one, other))
    assert read.dimension == tuple(a - b for a, b in zip(one.dimension, other.dimension, strict=True))
    assert read.scale == one.scale / other.scale
