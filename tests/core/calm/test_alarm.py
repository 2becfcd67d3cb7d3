"""Alarms: worked by hand, against every cut, and their chatter counted."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Block, block_of
from lesart.core.calm.alarm import ALARM, Alarm, alarm_facts, build_alarm
from lesart.core.calm.inspect import inspect_alarm
from lesart.core.errors import UnitError
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit
from tests.core.chains import signals

KG = parse_unit("kg")


def on(alarm: Alarm, values: list[float], rate_hz: float = 1.0) -> list[bool]:
    """At each sample."""
    found: list[bool] = alarm.run(alarm.initial(), block_of(values, rate_hz))[1].tolist()
    return found


def test_a_limit_above_with_a_way_back() -> None:
    """On beyond 10, not at 10; off again at 8 and not before; a lost sample changes nothing."""
    alarm = Alarm("high", "above", 10.0, 2.0, 0.0)
    values = [9.0, 10.0, 10.1, 9.0, np.nan, 8.1, 8.0, 10.0]
    assert on(alarm, values) == [False, False, True, True, True, True, False, False]


def test_a_limit_below() -> None:
    """The same the other way round."""
    alarm = Alarm("low", "below", 5.0, 1.0, 0.0)
    assert on(alarm, [5.0, 4.9, 5.5, 6.0, 5.1, 4.0]) == [False, True, True, False, False, True]


def test_a_least_time_both_ways() -> None:
    """Two seconds beyond, and two back: shorter visits do not count."""
    alarm = Alarm("high", "above", 10.0, 0.0, 2.0)
    values = [11.0, 9.0, 11.0, 11.0, 11.0, 9.0, 11.0, 9.0, 9.0, 9.0]
    assert on(alarm, values) == [False, False, False, False, True, True, True, True, True, False]


@given(
    block=signals(60),
    cuts=st.lists(st.integers(0, 60), max_size=5),
    side=st.sampled_from(["above", "below"]),
    limit=st.floats(-100, 100),
    back=st.floats(0, 50),
    least=st.floats(0, 1),
)
def test_cutting_changes_nothing(
    block: Block, cuts: list[int], side: str, limit: float, back: float, least: float
) -> None:
    """Wherever."""
    alarm = Alarm("a", side, limit, back, least)
    _, whole = alarm.run(alarm.initial(), block)
    state, parts = alarm.initial(), []
    for start, end in pairwise([0, *sorted(min(cut, len(block)) for cut in cuts), len(block)]):
        state, part = alarm.run(state, block[start:end])
        parts.append(part)
    assert np.concatenate(parts).tolist() == whole.tolist()


def test_chatter_is_counted_and_mended_by_a_way_back() -> None:
    """Noise about the limit changes it again and again; a hysteresis of six times the noise ends that."""
    random = np.random.default_rng(6)
    block = block_of(10.0 + random.normal(0, 0.1, 3000), 10.0)
    restless = Alarm("high", "above", 10.0, 0.0, 0.0)
    facts = alarm_facts(restless, block)
    assert facts.went_on > 500
    assert facts.soon > 1000
    assert facts.on_s == pytest.approx(150, rel=0.1)
    (note,) = inspect_alarm("c", ("channels", "c", "alarms", 0), restless, block, 0.1, KG)
    assert (note.figure, note.mend[0].value) == (facts.soon, "0.6 kg")
    calm = Alarm("high", "above", 10.0, 0.6, 0.0)
    assert inspect_alarm("c", ("k",), calm, block, 0.1, KG) == []


def test_from_the_file() -> None:
    """Limit and hysteresis in any scale; a hysteresis of another kind is refused."""
    values, problems = read_table(ALARM, {"limit": "43 kg", "hysteresis": "200 g", "least": "1 min"}, "a")
    assert not problems
    assert build_alarm(values, KG) == Alarm("alarm", "above", 43.0, 0.2, 60.0)
    values, _ = read_table(ALARM, {"limit": "43 kg", "hysteresis": "2 s"}, "a")
    with pytest.raises(UnitError, match="must be a difference in kg, .* not 2 s"):
        build_alarm(values, KG)
