"""Numbers in cells: what may be one, in whatever way people and programs write them."""

from __future__ import annotations

import math

import pytest

from lesart.core.raw.cells import CellReader, is_number, plain


@pytest.mark.parametrize(
    ("cell", "decimal", "is_one"),
    [
        ("12.5", ".", True),
        (" −12.5 ", ".", True),
        ("1e-3", ".", True),
        ("12,5", ".", False),
        ("12,5", ",", True),
        ("1,234", ".", True),
        ("−1,234,567.8", ".", True),
        ("1.234,5", ",", True),
        ("1'234", ".", True),
        ("1 234 567", ".", True),
        ("12,34,567", ".", False),
        ("0x1F", ".", True),
        ("1Fh", ".", True),
        ("1F", ".", False),
        ("12.5;13.5", ".", False),
        ("12.5 kg", ".", False),
        ("", ".", False),
        ("-", ".", False),
    ],
)
def test_what_may_be_a_number(cell: str, decimal: str, is_one: bool) -> None:
    assert is_number(cell, decimal) is is_one


@pytest.mark.parametrize(
    ("cell", "thousands", "value"),
    [
        ("−1,234,567.8", ",", -1234567.8),
        ("1'234", "'", 1234.0),
        ("1 234", "space", 1234.0),
        ("1,234", "none", None),
        ("12,34", ",", None),
        (".5", "none", 0.5),
    ],
)
def test_a_number_in_groups(cell: str, thousands: str, value: float | None) -> None:
    assert plain(cell, ".", thousands) == value


def test_a_column_keeps_the_unit_of_its_first_cell() -> None:
    cells = CellReader(".")
    assert cells.number("r", "999 Ω") == 999.0
    assert cells.number("r", "1.2 kΩ") == 1200.0
    assert cells.number("r", "0x10") == 16.0
    assert cells.number("r", "true") == 1.0
    assert cells.number("r", "-inf") == -math.inf
    assert math.isnan(cells.number("r", "5 kg"))
    assert math.isnan(cells.number("r", "what"))
