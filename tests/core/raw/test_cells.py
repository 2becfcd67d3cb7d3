"""Numbers in cells: what may be one, in whatever way people and programs write them."""

from __future__ import annotations

import math

import pytest

from lesart.core.raw.cells import CellReader, base_written, is_number, plain


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
        ("2.09D+01", ".", True),
        ("2,09d-1", ",", True),
        ("2D1", ".", False),
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


@pytest.mark.parametrize(
    ("cells", "base"),
    [
        ([f"{k:08b}" for k in range(20)], 2),
        ([f"{k:04X}" for k in range(20)], 16),
        ([f"{k:02x}" for k in range(200, 220)], 16),
        ([f"{k:04d}" for k in range(20)], 0),  # 0000 to 0019: as good as decimal
        (["1E05", "1E06", "2E03"] * 4, 0),  # numbers as well
        (["face", "beef", "dead", "cafe"] * 3, 0),  # words
        (["0110", "1001"] * 3, 0),  # six are too few to tell
        (["10000000"] * 20, 0),  # one value says nothing, and none begins with 0
        (["11001000", "1100100"] * 10, 0),  # of two lengths
        ([f"{k:03b}" for k in range(8)] * 2, 0),  # no word has three bits
        ([], 0),
        ([*(f"{k:04X}" for k in range(20)), "", "nan"], 16),
        ([*(f"{k:04X}" for k in range(20)), "07G4"], 0),
    ],
)
def test_the_base_that_numbers_are_written_in(cells: list[str], base: int) -> None:
    """All of one length, and none that may be decimal or a word."""
    assert base_written(cells) == base


def test_a_reader_reads_in_the_base_that_it_is_told() -> None:
    """A column alone; what is none of its digits is no number."""
    reader = CellReader(".", bases={"port": 2})
    assert reader.numbers("port", ["00000101", "11111111"]) == [5.0, 255.0]
    assert math.isnan(reader.number("port", "00000102"))
    assert reader.number("other", "101") == 101.0
