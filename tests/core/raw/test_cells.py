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
        ("24h", ".", True),
        ("FFh", ".", True),
        *((word, ".", False) for word in ("ch", "Ch", "Ah", "ah", "CH", "each", "ACH", "beach", "bh")),
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


@pytest.mark.parametrize(
    ("cells", "values", "unit"),
    [
        (["20h", "21h", "9h", "0h"], [20, 21, 9, 0], "h"),
        (["20h", "1.5h"], [20, 1.5], "h"),
        (["10h", "1Fh", "20h"], [0x10, 0x1F, 0x20], None),
        (["09h", "10h"], [0x09, 0x10], None),
        (["0ah", "fah", "10h"], [0x0A, 0xFA, 0x10], None),
        (["FFh", "10h"], [0xFF, 0x10], None),
        (["10H", "20H"], [0x10, 0x20], None),
        (["20h", "45min"], [20, 0.75], "h"),
    ],
)
def test_an_h_is_hours_or_hexadecimal_for_a_whole_column(
    cells: list[str], values: list[float], unit: str | None
) -> None:
    reader = CellReader(".")
    assert reader.numbers("c", cells) == pytest.approx(values)
    assert (str(reader.units["c"]) if "c" in reader.units else None) == unit


def test_what_a_column_is_in_holds_for_its_later_cells() -> None:
    """They come in batches: a digit beyond 9 among hours is no hour."""
    reader = CellReader(".")
    assert reader.numbers("run", ["20h", "21h"]) == [20.0, 21.0]
    assert math.isnan(reader.numbers("run", ["1Fh"])[0])
    assert reader.numbers("word", ["1Fh", "ch"]) == [31.0, 12.0]
    assert reader.numbers("word", ["20h"]) == [32.0]
