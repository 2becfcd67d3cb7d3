"""The circular mean against means of what was never brought onto a circle, and against the sum of unit vectors."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Mark, block_of
from lesart.core.calm import KINDS
from lesart.core.calm.circular import CircularMean, unrolled
from lesart.core.chain import Chain, Stage, compile_chain
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.units import parse_unit
from tests.core.chains import run_whole

DEGREE = parse_unit("°")


def circular(samples: int, lowest: str = "0 °", highest: str = "360 °") -> Stage:
    """As a project has it."""
    kind = KINDS["circular mean"]
    values, problems = read_table(kind.parameters, {"samples": samples, "lowest": lowest, "highest": highest}, "calm")
    assert not problems
    return kind.build(values, DEGREE)


def alone(stage: Stage) -> Chain:
    """Nothing but it."""
    return compile_chain(DEGREE, [(Step.CALM, "calm[0]", stage)], DEGREE)


def apart(first: np.ndarray, second: np.ndarray, turn: float) -> float:
    """The longest of the shorter ways between them."""
    way = np.abs(first - second) % turn
    return float(np.minimum(way, turn - way).max())


@pytest.mark.parametrize(
    ("readings", "mean"),
    [
        ([350, 10], 0),
        ([10, 350], 0),
        ([359, 1, 3], 1),
        ([3, 1, 359], 1),
        ([300, 340, 20, 60], 0),
        ([350, 350, 350, 350, 350, 350, 350, 70], 0),
        ([90, 100, 110], 100),
        ([370, 370], 10),
        ([-10, -10, -10], 350),
        ([360, 360], 0),
        ([100, 200, 300, 40, 140], 300),  # once around, and further on: 100 to 500 degrees
    ],
)
def test_directions_by_hand(readings: list[float], mean: float) -> None:
    out = run_whole(alone(circular(len(readings))), block_of([float(each) for each in readings]))
    assert out.x[-1] == pytest.approx(mean, abs=1e-12)
    assert [int(mark) & Mark.SETTLING != 0 for mark in out.mark] == [True] * (len(readings) - 1) + [False]


@given(
    st.lists(st.floats(-170, 170), min_size=1, max_size=80),
    st.integers(1, 24),
    st.sampled_from([(0.0, 360.0), (-180.0, 180.0), (100.0, 460.0)]),
)
def test_it_is_the_mean_of_what_never_came_round(steps: list[float], n: int, circle: tuple[float, float]) -> None:
    """A shaft that turns by less than half a turn from sample to sample, however often it comes round."""
    shaft = np.cumsum(steps)
    out = run_whole(alone(circular(n, *(f"{end} °" for end in circle))), block_of(shaft % 360.0))
    wanted = np.array([shaft[max(place - n + 1, 0) : place + 1].mean() for place in range(len(shaft))])
    assert apart(out.x, wanted, 360.0) < 1e-9
    assert (out.x >= circle[0]).all()
    assert (out.x < circle[1]).all()


@pytest.mark.parametrize("middle", [0.0, 1.0, 90.0, 180.0, 359.5])
def test_near_each_other_it_is_the_direction_of_their_sum(middle: float) -> None:
    """Directions within some degrees: as vectors they have the same one, to the third power of their spread."""
    directions = (middle + np.random.default_rng(4).normal(0, 3, 400)) % 360.0
    out = run_whole(alone(circular(16)), block_of(directions)).x[15:]
    radians = np.radians(np.lib.stride_tricks.sliding_window_view(directions, 16))
    sums = np.degrees(np.arctan2(np.sin(radians).sum(axis=1), np.cos(radians).sum(axis=1)))
    assert apart(out, sums, 360.0) < 0.02


@given(st.lists(st.floats(10, 350), min_size=1, max_size=60), st.integers(1, 16))
def test_where_nothing_comes_round_it_is_a_mean_to_the_bit(readings: list[float], n: int) -> None:
    """Neighbours within half a turn, and never over the seam."""
    calmed = [readings[0]]
    for each in readings[1:]:
        calmed.append(calmed[-1] + math.remainder(each - calmed[-1], 100.0))
    block = block_of([min(max(each, 0.0), 359.0) for each in calmed])
    mean = KINDS["mean"].build({"samples": n}, DEGREE)
    plain, ours = (run_whole(alone(stage), block) for stage in (mean, circular(n)))
    assert ours.x.tobytes() == plain.x.tobytes()
    assert ours.mark.tobytes() == plain.mark.tobytes()


def test_its_ends_are_in_order() -> None:
    with pytest.raises(ValueError, match="lowest must be below highest, not 360° and 0°"):
        circular(4, "360 °", "0 °")


def test_it_says_its_turn() -> None:
    stage = circular(4, "-180 °", "180 °")
    assert isinstance(stage, CircularMean)
    assert stage.turn == 360.0


def test_unrolled_it_never_came_round() -> None:
    """A shaft that turns on, with samples that are lost; what stays on one side is the same block."""
    shaft = np.cumsum(np.random.default_rng(6).uniform(-20, 60, 500))
    seen = shaft % 360.0
    seen[[40, 41, 300]] = np.nan
    block = block_of(seen)
    found = unrolled(block, 360.0)
    good = block.usable
    np.testing.assert_allclose(found.x[good] - found.x[0], (shaft - shaft[0])[good], atol=1e-9)
    assert np.isnan(found.x[~good]).all()
    still = block_of([10.0, 20.0, 30.0])
    assert unrolled(still, 360.0) is still
