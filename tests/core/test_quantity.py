"""Numbers as makers write them."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import QuantityError
from lesart.core.quantity import (
    counted_of,
    format_quantity,
    parse_quantity,
    plain_number,
    rate_said,
    slope_unit_said,
    told_apart,
)
from lesart.core.units import parse_unit

OHM, VOLT, PLAIN = parse_unit("Ω"), parse_unit("V"), parse_unit("1")

WRITTEN = [
    ("4k7", "Ω", 4700.0),
    ("4k7", "kΩ", 4700.0),
    ("4k7 Ω", "Ω", 4700.0),
    ("10 kΩ", "Ω", 10000.0),
    ("10k", "Ω", 10000.0),
    ("4R7", "Ω", 4.7),
    ("2M2", "Ω", 2.2e6),
    ("100n", "F", 1e-7),
    ("3V3", "V", 3.3),
    ("3.3V", "V", 3.3),
    ("2.5 mV/K", "V/K", 0.0025),
    ("1e-3", "V", 0.001),
    ("400 kHz", "Hz", 400000.0),
    ("1/16", "1", 0.0625),
    ("2,5 V", "V", 2.5),
    (".5", "1", 0.5),
    ("-12", "V", -12.0),
    ("−12 V", "V", -12.0),
    ("+3", "1", 3.0),
    ("1_000", "1", 1000.0),
    ("5 V", "mV", 5.0),
    ("0,125", "1", 0.125),
    ("25 %", "1", 0.25),
    ("20 °C", "°C", 20.0),
    ("8 412 907 ct", "ct", 8412907.0),
    ("−12 000,5 V", "V", -12000.5),
    ("1/4 V", "V", 0.25),
    ("6.02e23", "1", 6.02e23),
]


@pytest.mark.parametrize(("text", "unit", "expected"), WRITTEN)
def test_read(text: str, unit: str, expected: float) -> None:
    """Each usual way of writing gives its number, in SI of what was written."""
    quantity = parse_quantity(text, parse_unit(unit))
    assert float(quantity.value * quantity.unit.scale) == pytest.approx(
        expected * float(parse_unit(unit).scale) if quantity.unit == parse_unit(unit) else expected, rel=1e-12
    )


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "abc",
        "1..2",
        "1 2",
        "12 34 V",
        "1234 567 V",
        "4k7k",
        "--1",
        "1/0",
        "0x1G",
        "5 volts",
        "∞",
        "nan",
        "1e9999",
        "9" * 61,
        "1,000",
    ],
)
def test_refused_with_an_example(text: str) -> None:
    """What is not a number is refused in a sentence; ``1,000`` is refused because it can be read in two ways."""
    with pytest.raises(QuantityError) as caught:
        parse_quantity(text, VOLT)
    assert len(str(caught.value)) > 15


def test_exact() -> None:
    """0.1 V is exactly a tenth, also after a change of unit."""
    assert parse_quantity("0.1", VOLT).value == Fraction(1, 10)
    assert parse_quantity("100 mV", VOLT).to(VOLT) == 0.1
    assert parse_quantity("1013.25 hPa", VOLT).to(parse_unit("Pa")) == 101325.0


def test_a_unit_can_be_asked_for() -> None:
    """In a file a bare number is a label without a unit; plain numbers need none."""
    with pytest.raises(QuantityError, match='"2.5 V"'):
        parse_quantity("5", VOLT, unit_needed=True)
    assert parse_quantity("5", PLAIN, unit_needed=True).value == 5


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0.0, "kg", "0 kg"),
        (-1.5, "V", "−1.5 V"),
        (20.0, "°", "20°"),
        (1e-9, "1", "1e-9"),
        (0.00025, "1", "0.00025"),
        (461708.0, "ct", "461 708 ct"),
        (1234567.0, "1", "1 234 567"),
        (1234567.5, "1", "1 234 570"),
        (-10000.0, "V", "−10 000 V"),
        (9999.5, "Pa", "9999.5 Pa"),
    ],
)
def test_shown(value: float, unit: str, text: str) -> None:
    """Six figures, a true minus, a space before the unit but not before a degree."""
    assert format_quantity(value, parse_unit(unit)) == text.replace("e-9", "e−9")


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_plain_number_reads_back(value: float) -> None:
    """Seventeen figures are the same float again."""
    text = plain_number(value, 17).replace("−", "-")
    assert float(text) == value


@pytest.mark.parametrize(
    ("value", "digits", "text"),
    [
        (1024.0, 3, "1024"),
        (99_999.0, 2, "99999"),
        (123_456.0, 3, "123000"),
        (123_456_789.0, 6, "123456789"),
        (-1024.0, 3, "−1024"),
        (1024.5, 3, "1020"),
        (1e15, 6, "1e15"),
        (0.0, 3, "0"),
    ],
)
def test_whole_numbers_are_written_in_full(value: float, digits: int, text: str) -> None:
    """A count of bytes is not rounded to three figures; a whole number beyond all counts is, where some are enough."""
    assert plain_number(value, digits) == text


@given(st.floats(1e-6, 1e6), st.floats(-1e-4, 1e-4))
def test_a_figure_and_its_limit_read_differently(limit: float, off: float) -> None:
    """As soon as they are not the same number within what a float of 15 figures tells; else they read the same."""
    figure = limit * (1.0 + off)
    shown, other = (text.replace("−", "-") for text in told_apart(figure, limit))
    if f"{figure:.14g}" != f"{limit:.14g}":
        assert shown != other
        assert (float(shown) > float(other)) is (figure > limit)
    if figure == limit:
        assert shown == other
    assert float(shown) == pytest.approx(figure, rel=5e-3)


@pytest.mark.parametrize(
    ("count", "total", "percent", "said"),
    [
        (1, 1, True, "the only sample"),
        (2, 2, True, "all 2 samples"),
        (72_000, 72_000, False, "all 72 000 samples"),
        (1, 3, True, "1 of 3 samples (33 %)"),
        (0, 1, False, "0 of 1 sample"),
        (12_345, 72_000, False, "12 345 of 72 000 samples"),
    ],
)
def test_a_count_of_all_there_are(count: int, total: int, percent: bool, said: str) -> None:
    assert counted_of(count, total, "sample", percent=percent) == said


@pytest.mark.parametrize(
    ("rate_hz", "said"),
    [
        (1000.0, "1000 Hz"),
        (10.3, "10.3 Hz"),
        (0.5, "0.5 Hz"),
        (0.2, "every 5 s"),
        (1 / 30, "every 30 s"),
        (1 / 90, "every 90 s"),
        (1 / 300, "every 5 min"),
        (1 / 5400, "every 90 min"),
        (1 / 7200, "every 2 h"),
        (1 / 172_800, "every 2 d"),
        (1 / 12.34, "every 12.34 s"),
        (0.0, "0 Hz"),
    ],
)
def test_what_comes_seldom_is_said_by_the_time_between(rate_hz: float, said: str) -> None:
    assert rate_said(rate_hz) == said


@pytest.mark.parametrize(
    ("above", "below", "said"),
    [
        ("mV", "K", "mV/K"),
        ("1", "V", "1/V"),
        ("", "V", "1/V"),
        ("kg", "1", "kg"),
        ("1", "1", ""),
        ("V", "V", "V/V"),
        ("1/min", "ct", "1/min per ct"),
        ("Pa", "m/s", "Pa per m/s"),
    ],
)
def test_the_unit_of_a_slope_is_said_so_that_it_reads_one_way(above: str, below: str, said: str) -> None:
    assert slope_unit_said(above, below) == said
