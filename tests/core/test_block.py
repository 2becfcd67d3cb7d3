"""Blocks, marks and the pyramid charts are drawn from."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Block, Mark, block_of, joined, mark_word
from lesart.core.envelope import envelope_of


def test_marks_in_words() -> None:
    """Each flag has a word; several are joined; a good sample has none."""
    assert mark_word(0) is None
    assert mark_word(Mark.CHECKSUM) == "checksum"
    assert mark_word(Mark.MISSING | Mark.HELD) == "missing+held"


def test_nan_and_infinity_are_marked() -> None:
    """NaN is MISSING, infinity is RANGE, and neither is usable."""
    block = block_of([1.0, np.nan, np.inf])
    assert [int(mark) for mark in block.mark] == [0, Mark.MISSING, Mark.RANGE]
    assert block.usable.tolist() == [True, False, False]
    worse = block_of([1.0, 2.0]).with_values(np.array([np.inf, 2.0]))
    assert worse.mark.tolist() == [Mark.RANGE, 0]


@given(st.integers(1, 50), st.integers(1, 60))
def test_pieces_join_again(length: int, size: int) -> None:
    """Cut and joined is the same block."""
    block = block_of(np.arange(float(length)))
    again = joined(list(block.pieces(size)))
    assert again.x.tobytes() == block.x.tobytes()
    assert all(len(piece) <= size for piece in block.pieces(size))


@given(st.integers(1, 5000), st.integers(1, 200), st.integers(0, 10_000))
def test_no_spike_is_lost(length: int, columns: int, seed: int) -> None:
    """However far a chart is zoomed out, least and greatest of the capture are drawn, in at most two points a
    column."""
    random = np.random.default_rng(seed)
    x = random.standard_normal(length)
    x[random.integers(length)] = 40.0
    x[random.integers(length)] = -50.0
    block = block_of(x)
    t, drawn = envelope_of(block).between(0.0, float(length), columns)
    assert drawn.max() == x.max()
    assert drawn.min() == x.min()
    assert len(drawn) <= max(2 * columns, 2)
    assert (np.diff(t) >= 0).all()


def test_bad_samples_are_not_drawn() -> None:
    """A marked sample has no place on the line."""
    block = block_of([1.0, 2.0, 3.0])
    marked = Block(block.t, block.x, np.array([0, Mark.RANGE, 0], np.uint8))
    _, drawn = envelope_of(marked).between(0.0, 3.0, 10)
    assert drawn.tolist() == [1.0, 3.0]


@pytest.mark.parametrize("view", [(10.0, 20.0), (0.0, 3.0), (95.0, 200.0)])
def test_a_view_shows_its_part(view: tuple[float, float]) -> None:
    """Only what is in view, and the neighbours a line runs to."""
    t, drawn = envelope_of(block_of(np.arange(100.0))).between(*view, 50)
    assert drawn.min() >= view[0] - 2
    assert drawn.max() <= view[1] + 2
    np.testing.assert_array_equal(t, drawn)


@pytest.mark.parametrize(("length", "columns"), [(300, 100), (20_000, 100), (200_000, 7), (1_000_000, 400)])
def test_each_column_has_its_own_two_ends(length: int, columns: int) -> None:
    """However many samples stand in one, no two columns are drawn as one."""
    block = block_of(np.random.default_rng(3).standard_normal(length))
    assert len(envelope_of(block).between(0.0, float(length), columns)[1]) == 2 * columns
