"""The unit behind a number is the unit of the number."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lesart.core.errors import UnitError
from lesart.core.fit.field import PARAMETERS, Field, build_field
from lesart.core.fit.unit_said import inspect_unit_text, unit_of, wrong_unit_of_label
from lesart.core.notes import DOUBT, FAULT
from lesart.core.parameters import read_table
from lesart.core.units import UNITS, parse_unit

TEXT_KEY = ("channels", "c", "fit", "unit_text")


def field(unit: str, text: str) -> Field:
    values, problems = read_table(PARAMETERS, {"unit_text": text}, "")
    assert not problems
    return build_field(values, parse_unit(unit), parse_unit(unit))


@pytest.mark.parametrize("symbol", [name for name in UNITS if len(name) <= 8 and name != "1"])
def test_every_unit_may_stand_behind_itself(symbol: str) -> None:
    """With a blank before it, or without."""
    for text in (symbol, f" {symbol}"):
        assert inspect_unit_text("c", "c", field(symbol, text), TEXT_KEY, lambda other: True) == []


@pytest.mark.parametrize(
    ("unit", "text"),
    [("°C", "C"), ("°F", "F"), ("°C", "°"), ("°C", ""), ("1/min", "rpm"), ("%", "rH"), ("Pa", "T"), ("Δ°C", "°C")],
)
def test_what_people_write_for_a_unit(unit: str, text: str) -> None:
    """Where the panel has no better letter."""
    assert inspect_unit_text("c", "c", field(unit, text), TEXT_KEY, lambda other: True) == []


@pytest.mark.parametrize(("unit", "text"), [("Pa", "hPa"), ("hPa", "Pa"), ("°C", "F"), ("°F", "°C"), ("m", "cm")])
def test_another_unit_of_the_same_quantity(unit: str, text: str) -> None:
    """It is shown in what the text says."""
    (note,) = inspect_unit_text("c", "c", field(unit, text), TEXT_KEY, lambda other: True)
    assert note.mark == FAULT
    assert note.text == f'c: the number is in {unit}, and the text after it says "{text}".'
    assert note.remedy == f"show it in {parse_unit('°F') if text == 'F' else text}"
    (mend,) = note.mend
    assert mend.key == ("channels", "c", "fit", "unit")
    mended = replace(field(unit, text), unit_shown=parse_unit(str(mend.value)))
    assert inspect_unit_text("c", "c", mended, TEXT_KEY, lambda other: True) == []


def test_where_the_number_would_not_fit_the_text_is_changed() -> None:
    """101 325 Pa in five cells."""
    shown = field("hPa", "Pa")
    (note,) = inspect_unit_text("c", "c", shown, TEXT_KEY, lambda other: other.unit_shown.symbol == "hPa")
    assert [(mend.key, mend.value) for mend in note.mend] == [(TEXT_KEY, "hPa")]
    assert note.remedy == 'write "hPa" there'


def test_a_unit_behind_a_plain_number() -> None:
    (note,) = inspect_unit_text("c", "c", field("1", "kg"), TEXT_KEY, lambda other: True)
    assert note.text == 'c: the number is in no unit, and the text after it says "kg".'
    assert note.remedy == "remove the text"
    assert [(mend.key, mend.value) for mend in note.mend] == [(TEXT_KEY, "")]


@pytest.mark.parametrize(("text", "mark"), [("°C", FAULT), ("kg", FAULT), ("V", DOUBT)])
def test_a_unit_of_another_quantity(text: str, mark: str) -> None:
    """A single letter may be a name."""
    (note,) = inspect_unit_text("c", "c", field("hPa", text), TEXT_KEY, lambda other: True)
    assert note.mark == mark
    assert [(mend.key, mend.value) for mend in note.mend] == [(TEXT_KEY, "hPa")]


def test_a_text_that_is_no_unit() -> None:
    """Words and signs may be anything."""
    for text in ("lid", "!", "", "bees", "#"):
        assert unit_of(text) is None
        with pytest.raises(UnitError):
            parse_unit(text or "?")


def test_a_label_beside_a_number() -> None:
    """Wrong where no field is in its unit, and one is of its quantity and says none itself."""
    pressure, mass = ("p", field("Pa", "")), ("m", field("kg", ""))
    assert wrong_unit_of_label("hPa", [pressure, mass]) == pressure
    assert wrong_unit_of_label("hPa", [mass]) is None
    assert wrong_unit_of_label("hPa", [pressure, ("q", field("hPa", ""))]) is None
    assert wrong_unit_of_label("hPa", [("p", field("Pa", "Pa"))]) is None
    assert wrong_unit_of_label("hive", [pressure]) is None
