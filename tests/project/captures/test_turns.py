"""Columns written in turn: nothing that was said is lost, and what is missing stays missing."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Block, Mark
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.captures.turns import empty_cell, in_turn

Floats = npt.NDArray[np.float64]


def capture_of(columns: dict[str, Floats], t: Floats | None = None) -> Capture:
    rows = len(next(iter(columns.values())))
    times = np.arange(rows, dtype=np.float64) if t is None else t
    blocks = {
        name: Block(times, x, np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))) for name, x in columns.items()
    }
    bad = tuple(
        BadRow(row + 2, empty_cell(name), name) for name, x in columns.items() for row in np.flatnonzero(np.isnan(x))
    )
    torn = np.logical_or.reduce([np.isnan(x) for x in columns.values()])
    return Capture("log.csv", times, blocks, bad, int(torn.sum()), 0)


def every(number: int, of: int, rows: int = 60) -> Floats:
    """A value in every ``of``-th row, from the ``number``-th on."""
    place = np.arange(rows)
    return np.where(place % of == number, 20.0 + place, np.nan)


def test_two_in_turn_have_each_their_own_rows() -> None:
    """And nothing of either is missing or bad."""
    found = in_turn(capture_of({"temp": every(0, 2), "hum": every(1, 2)}))
    assert found.said == ('"temp" and "hum" are written in turn; each is read from its own rows',)
    assert (found.bad, found.bad_count) == ((), 0)
    for name, first in (("temp", 0.0), ("hum", 1.0)):
        block = found.columns[name]
        assert block.t.tolist() == [first + 2 * k for k in range(30)]
        assert block.usable.all()


def test_three_of_different_rates_and_one_that_is_always_there() -> None:
    """One is said in every row, which takes no turns; what nobody says in a row is missing of all that take them."""
    fast = every(0, 4)
    fast[20] = np.nan
    columns = {"fast": fast, "slow": every(1, 12), "other": every(2, 4), "always": every(0, 1)}
    found = in_turn(capture_of(columns))
    assert found.said == ('"fast" and "slow" and 1 more are written in turn; each is read from its own rows',)
    assert len(found.columns["always"]) == 60
    assert found.columns["slow"].t[found.columns["slow"].usable].tolist() == [1.0, 13.0, 25.0, 37.0, 49.0]
    assert 20.0 in found.columns["fast"].t[~found.columns["fast"].usable]


@pytest.mark.parametrize(
    ("columns", "why"),
    [
        ({"temp": every(0, 1), "hum": every(1, 2)}, "one of them is always there"),
        ({"temp": every(0, 2), "hum": every(0, 2)}, "they speak together, and half of both is missing"),
        ({"temp": every(0, 2)}, "there is no other"),
        ({"temp": every(0, 20), "hum": every(1, 20)}, "there are too few to tell"),
    ],
)
def test_where_nobody_takes_turns_all_stays(columns: dict[str, Floats], why: str) -> None:
    before = capture_of(columns)
    assert in_turn(before) is before, why


def test_a_code_of_a_fault_is_no_turn() -> None:
    """It stands where the sensor failed, at no even steps: what failed is missing."""
    fault = np.full(60, np.nan)
    fault[[3, 4, 9, 17, 18, 30, 41, 42, 43, 44, 50, 52, 53, 55, 58]] = 4.0
    before = capture_of({"temp": np.where(np.isnan(fault), 20.0, np.nan), "fault": fault})
    assert in_turn(before) is before


@given(st.lists(st.sampled_from("abcabab "), min_size=20, max_size=60))
def test_no_value_is_lost_or_moved(said: list[str]) -> None:
    """Whoever says something in which row: each value comes back at its time, and no other does."""
    columns = {
        name: np.array([row + 0.5 if each == name else np.nan for row, each in enumerate(said)]) for name in "abc"
    }
    found = in_turn(capture_of(columns))
    for name, x in columns.items():
        block = found.columns[name]
        assert block.x[block.usable].tolist() == x[~np.isnan(x)].tolist()
        assert block.t[block.usable].tolist() == np.flatnonzero(~np.isnan(x)).tolist()
        # A row in which nobody says anything is missing of all.
        assert {row for row, each in enumerate(said) if each == " "} <= set(block.t[~block.usable].astype(int).tolist())
