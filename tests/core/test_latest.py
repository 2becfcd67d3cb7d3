"""What stands beside a sample, and laws that read it: other channels, each at or before the moment."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.block import UNUSABLE, Block, Mark, block_of, joined
from lesart.core.chain import Chain, Neighbour, compile_chain
from lesart.core.errors import UnitError
from lesart.core.latest import latest
from lesart.core.law.stage import stage_of
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.units import parse_unit

CELSIUS = parse_unit("°C")


def naive(other: Block, t: float, stale_s: float) -> tuple[float, int]:
    """The same by looking at every sample."""
    before = [place for place in range(len(other)) if other.t[place] <= t]
    good = [place for place in before if not other.mark[place] & UNUSABLE]
    if not good:
        return float("nan"), Mark.MISSING
    held = good[-1] != before[-1] or t - other.t[good[-1]] > stale_s
    return float(other.x[good[-1]]), Mark.HELD if held else Mark.GOOD


@given(
    times=st.lists(st.floats(0, 50), min_size=1, max_size=30),
    bad=st.sets(st.integers(0, 29)),
    at=st.lists(st.floats(-5, 60), max_size=20),
    stale=st.sampled_from([1.0, 10.0, float("inf")]),
)
def test_latest(times: list[float], bad: set[int], at: list[float], stale: float) -> None:
    """Against every sample looked at."""
    t = np.sort(np.array(times))
    mark = np.array([Mark.CHECKSUM if place in bad else 0 for place in range(len(t))], np.uint8)
    other = Block(t, np.arange(len(t), dtype=float), mark)
    x, added = latest(other, np.array(at), stale)
    wanted = [naive(other, when, stale) for when in at]
    assert np.array_equal(x, [value for value, _ in wanted], equal_nan=True)
    assert added.tolist() == [flag for _, flag in wanted]


def echo_chain(air: str = "yard air", unit: str = "°C", stale_s: float = float("inf")) -> Chain:
    """Time of an echo to millimetres, the speed of sound by a channel."""
    values, problems = read_table(law.KINDS["echo"].parameters, {"air": air}, "l")
    assert not problems, problems
    stage = stage_of("echo", law.KINDS["echo"].build(values))
    neighbours = {"yard air": Neighbour(parse_unit(unit), stale_s)}
    return compile_chain(parse_unit("s"), [(Step.LAW, "law[0]", stage)], parse_unit("mm"), neighbours)


def sound(celsius: float) -> float:
    """Of the textbook, in m/s."""
    return float(331.3 * np.sqrt((celsius + 273.15) / 273.15))


def test_sound_by_the_temperature_of_its_moment() -> None:
    """Ten milliseconds there and back, in air that is 20 °C at first and −5 °C from the third second on."""
    air = Block(np.array([0.0, 3.0]), np.array([20.0, -5.0]), np.zeros(2, np.uint8))
    chain = echo_chain()
    assert chain.reads == ("yard air",)
    _, blocks = chain.run(chain.initial(), block_of([0.01] * 5), {"yard air": air})
    assert blocks[-1].x == pytest.approx([5 * sound(20)] * 3 + [5 * sound(-5)] * 2)


def test_a_channel_in_another_unit_is_converted() -> None:
    """68 °F are 20 °C; kelvins too."""
    for unit, value in (("°F", 68.0), ("K", 293.15)):
        chain = echo_chain(unit=unit)
        _, blocks = chain.run(chain.initial(), block_of([0.01]), {"yard air": block_of([value])})
        assert float(blocks[-1].x[0]) == pytest.approx(5 * sound(20))
        assert float(chain.at({"yard air": value}).steady(0.01)[-1].x[0]) == pytest.approx(5 * sound(20))
        assert chain.at({"yard air": value}).raw_for(5 * sound(20)) == pytest.approx(0.01)


def test_a_channel_of_another_kind_is_refused_naming_both() -> None:
    """Humidity is not a temperature."""
    with pytest.raises(UnitError, match=r'channel "yard air" gives %, but law 1, air takes °C'):
        echo_chain(unit="%")
    with pytest.raises(UnitError, match='"yard aer" is neither a number with its unit, .* there are yard air'):
        echo_chain(air="yard aer")


def test_marks_of_what_is_read() -> None:
    """Before its first sample nothing is known; while it is silent or lost the last value is held, and says so."""
    air = Block(np.array([1.0, 2.0]), np.array([20.0, np.nan]), np.array([0, Mark.CHECKSUM], np.uint8))
    chain = echo_chain(stale_s=100)
    _, blocks = chain.run(chain.initial(), block_of([0.01] * 4), {"yard air": air})
    assert blocks[-1].mark.tolist() == [Mark.MISSING, 0, Mark.HELD, Mark.HELD]
    chain = echo_chain(stale_s=1.5)
    _, blocks = chain.run(chain.initial(), block_of([0.01] * 4), {"yard air": air[:1]})
    assert blocks[-1].mark.tolist() == [Mark.MISSING, 0, 0, Mark.HELD]


@given(cuts=st.lists(st.integers(0, 200), max_size=6), seed=st.integers(0, 5))
def test_cutting_changes_nothing(cuts: list[int], seed: int) -> None:
    """Bit for bit."""
    rng = np.random.default_rng(seed)
    air = Block(np.sort(rng.uniform(0, 200, 40)), rng.normal(15, 8, 40), rng.integers(0, 2, 40).astype(np.uint8))
    block = block_of(rng.uniform(0.001, 0.02, 200))
    chain = echo_chain()
    whole = chain.run(chain.initial(), block, {"yard air": air})[1][-1]
    states, parts = chain.initial(), []
    edges = [0, *sorted(cuts), len(block)]
    for start, end in pairwise(edges):
        states, blocks = chain.run(states, block[start:end], {"yard air": air})
        parts.append(blocks[-1])
    assert joined(parts).x.tobytes() == whole.x.tobytes()
    assert joined(parts).mark.tobytes() == whole.mark.tobytes()


def test_a_cold_junction_that_warms_up() -> None:
    """A couple at 100 °C says less as its cold end warms, and the reading stays: 4.096 mV less what type K gives
    there."""
    values, _ = read_table(law.KINDS["thermocouple"].parameters, {"cold": "clamp"}, "l")
    stage = stage_of("thermocouple", law.KINDS["thermocouple"].build(values))
    chain = compile_chain(parse_unit("mV"), [(Step.LAW, "law[0]", stage)], CELSIUS, {"clamp": Neighbour(CELSIUS)})
    # Table of IEC 60584-1, type K: 0, 0.798, 1.203 mV at 0, 20, 30 °C.
    clamp = block_of([0.0, 20.0, 30.0])
    _, blocks = chain.run(chain.initial(), block_of([4.096, 4.096 - 0.798, 4.096 - 1.203]), {"clamp": clamp})
    assert blocks[-1].x == pytest.approx([100.0] * 3, abs=0.02)
