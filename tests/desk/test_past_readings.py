"""What was before a moment: the last sample of each step, and nothing where none came."""

from __future__ import annotations

import math

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import block_of
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of
from lesart.study.past_readings import past_of
from tests.conftest import MASS


@given(
    values=st.lists(st.one_of(st.floats(-9, 9), st.just(math.nan)), max_size=50),
    at=st.floats(-2, 60),
    span=st.floats(0.5, 50),
    steps=st.integers(1, 20),
)
def test_the_past_against_a_plain_loop(values: list[float], at: float, span: float, steps: int) -> None:
    """Step by step: the last sample that came in it, or nothing."""
    block = block_of(values, rate_hz=1.0)
    found = past_of(block, at, span, steps)
    edges = (at - span + span * np.arange(steps + 1) / steps).tolist()
    for step in range(steps):
        came = [x for t, x in zip(block.t.tolist(), values, strict=True) if edges[step] < t <= edges[step + 1]]
        wanted = came[-1] if came else math.nan
        assert found[step] == wanted or (math.isnan(found[step]) and math.isnan(wanted))


def test_a_trend_is_given_what_the_channel_read(desk: Desk) -> None:
    """Up to the cursor, in as many steps as it is wide."""
    desk.put_cursor(2000.0)
    past = context_of(desk).readings[MASS].past_of(1200.0, 128)
    calm = desk.bench.run(desk.state.project, desk.state.chosen).calm
    assert past[-1] == calm.x[int(np.searchsorted(calm.t, 2000.0, side="right")) - 1]
    assert all(30 < value < 60 for value in past if math.isfinite(value))
    desk.put_cursor(600.0)
    early = context_of(desk).readings[MASS].past_of(1200.0, 128)
    assert math.isnan(early[0]), "before the capture there is nothing"
