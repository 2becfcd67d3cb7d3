"""Raw values that stand for no reading: as they are written, and what becomes of samples that are one of them."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.block import Mark, block_of
from lesart.core.raw.codes import stand_ins
from lesart.core.raw.no_reading import no_reading_from, no_reading_text, with_none_marked
from lesart.core.units import parse_unit


@pytest.mark.parametrize(
    ("written", "values"),
    [
        ("", ()),
        ("  ", ()),
        ("-9999", (-9999.0,)),
        ("-127, 85", (-127.0, 85.0)),
        ("−127; 85", (-127.0, 85.0)),
        ("85, 85.0, 85", (85.0,)),
        ("6553.5", (6553.5,)),
    ],
)
def test_values_as_they_are_written(written: str, values: tuple[float, ...]) -> None:
    """A minus sign of type and semicolons are taken too; what is written for them is read as the same."""
    assert no_reading_from(written) == values
    assert no_reading_from(no_reading_text(values)) == values


@pytest.mark.parametrize("written", ["nan", "inf", "-127 °C", "85,", "1_000", "low", "1, 2, 3, 4, 5, 6, 7, 8, 9"])
def test_what_is_no_list_of_values(written: str) -> None:
    """Each is told what would be right."""
    with pytest.raises(ValueError, match="raw values as plain numbers with commas between, like -9999 or -127, 85"):
        no_reading_from(written)


def test_samples_that_stand_for_no_reading() -> None:
    """They are missing and have no number; all else, and what was marked before, stays as it was."""
    x = np.array([20.0, -127.0, 21.0, 85.0, 85.1, -127.0])
    block = block_of(x, 1.0)
    settling = block.with_values(block.x, np.array([64, 64, 0, 0, 0, 0], np.uint8))
    marked = with_none_marked(settling, (-127.0, 85.0))
    assert marked.mark.tolist() == [64, 64 | int(Mark.MISSING), 0, 1, 0, 1]
    assert np.array_equal(marked.x, [20, np.nan, 21, np.nan, 85.1, np.nan], equal_nan=True)
    assert np.array_equal(marked.t, block.t)
    assert np.array_equal(block.x, x)


def test_a_block_without_any_is_the_same_one() -> None:
    """What was computed from it is still found."""
    block = block_of(np.array([1.0, 2.0]), 1.0)
    assert with_none_marked(block, (3.0,)) is block


ROOM = 20 + 0.25 * (np.arange(60) % 9)


@pytest.mark.parametrize(
    ("unit", "value"),
    [
        ("1", -9999.0),
        ("1", 999.9),
        ("%", 999.0),
        ("%", 6553.5),
        ("°C", -127.0),
        ("°C", 85.0),
        ("°C", -3276.8),
        ("°C", 327.67),
        ("°F", 185.0),
        ("°F", -196.6),
        ("1", 85.0),
        ("V", -99.9),
        ("ct", -999.0),
        ("hPa", 4294967.295),
    ],
)
def test_what_is_usual_where_there_is_no_reading(unit: str, value: float) -> None:
    """One sample is enough where it is far from all others; near them it is a reading like they are."""
    x = ROOM.copy()
    x[17] = value
    assert list(stand_ins(x, parse_unit(unit))) == [value]
    assert stand_ins(x - 20 + value, parse_unit(unit)) == {}


@pytest.mark.parametrize(
    ("unit", "value"), [("%", 99.9), ("%", 99.0), ("ct", 65_535.0), ("ct", 0.0), ("V", 85.0), ("hPa", 1013.0)]
)
def test_what_may_be_a_reading(unit: str, value: float) -> None:
    """A full register of counts may be the end of a converter, and is told in a note; 99.9 % is a humidity."""
    x = ROOM.copy()
    x[17] = value
    assert stand_ins(x, parse_unit(unit)) == {}
