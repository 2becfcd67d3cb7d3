"""Chains: units checked when compiled, causal, the same bits wherever the input is cut."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.block import UNUSABLE, Block, Mark, block_of
from lesart.core.chain import compile_chain
from lesart.core.errors import UnitError
from lesart.core.law.stage import LawStage
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.true.correction import Correction
from lesart.core.units import parse_unit
from tests.core.chains import FILTERS, chain_of, filter_of, run_in_pieces, run_whole, same_bits, signals


def law_of(kind: str, **written: object) -> LawStage:
    """A law as the project file would make it."""
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    return LawStage(kind, law.KINDS[kind].build(values))


BRIDGE = law_of("bridge converter", reference="5 V", excitation="5 V", gain="128")
CELL = law_of("load cell", capacity="200 kg", sensitivity="2 mV/V")
LINE = law_of("linear", input="500 mV", output="0 °C", slope="10 mV/°C")


@pytest.mark.parametrize("name", FILTERS)
@given(block=signals(), cuts=st.lists(st.integers(0, 120), max_size=6))
def test_cut_anywhere(name: str, block: Block, cuts: list[int]) -> None:
    """Cutting the input into blocks anywhere gives bit-identical output."""
    chain = chain_of(*FILTERS[name])
    assert same_bits(run_whole(chain, block), run_in_pieces(chain, block, cuts))


@pytest.mark.parametrize("name", FILTERS)
@given(block=signals(), after=st.integers(0, 119))
def test_causal(name: str, block: Block, after: int) -> None:
    """What comes later changes nothing that came out before."""
    chain = chain_of(*FILTERS[name])
    other = Block(
        block.t,
        np.where(np.arange(len(block)) > after, 7.0, block.x),
        np.where(np.arange(len(block)) > after, 0, block.mark).astype(np.uint8),
    )
    both = run_whole(chain, block), run_whole(chain, other)
    # By time and not by count: a filter may give out fewer samples than came.
    heads = [out[: int(np.searchsorted(out.t, block.t[min(after, len(block) - 1)], side="right"))] for out in both]
    assert same_bits(*heads)


@pytest.mark.parametrize("name", FILTERS)
@given(block=signals())
def test_no_nan_without_a_mark(name: str, block: Block) -> None:
    """Data never raises, and a NaN always carries a mark that says why."""
    out = run_whole(chain_of(*FILTERS[name]), block)
    assert not np.isnan(out.x[out.usable]).any()
    assert (out.mark[np.isnan(out.x)] & int(UNUSABLE)).all()


def test_scale_is_converted() -> None:
    """Grams into a law of kilograms: same dimension, other scale, converted without a word."""
    stage = law_of("linear", input="0 kg", output="0 V", slope="1 V/kg")
    chain = compile_chain(parse_unit("g"), [(Step.LAW, "law[0]", stage)], parse_unit("mV"))
    assert float(chain.steady(2500.0)[-1].x[0]) == pytest.approx(2500.0)
    assert chain.slope(2500.0) == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("raw", "stages", "unit", "names"),
    [
        ("V", [BRIDGE], "mV/V", ("raw gives V", "law 1 takes ct")),
        ("ct", [BRIDGE, LINE], "°C", ("law 1 gives mV/V", "law 2 takes mV")),
        ("ct", [BRIDGE, CELL], "N", ("law 2 gives kg", "N")),
        ("mV", [LINE], "Δ°C", ("law 1 gives °C", "Δ°C", "temperature difference")),
        ("ct", [], "kg", ("raw gives ct", "kg")),
    ],
)
def test_other_dimension_is_refused(raw: str, stages: list[LawStage], unit: str, names: tuple[str, ...]) -> None:
    """The refusal names both steps: pascals labelled as something else do not pass."""
    entries = [(Step.LAW, f"law[{index}]", stage) for index, stage in enumerate(stages)]
    with pytest.raises(UnitError) as caught:
        compile_chain(parse_unit(raw), entries, parse_unit(unit))
    for name in names:
        assert name in str(caught.value)


@given(count=st.integers(-1_200_000, 1_200_000))
def test_from_count_to_kilograms_and_back(count: int) -> None:
    """The inverse of the whole chain gives the count again."""
    correction = Correction("line", 0.9944, -0.22, (0.0, 40.0), parse_unit("kg"))
    chain = compile_chain(
        parse_unit("ct"),
        [(Step.LAW, "law[0]", BRIDGE), (Step.LAW, "law[1]", CELL), (Step.TRUE, "true", correction)],
        parse_unit("kg"),
    )
    reading = float(chain.steady(float(count))[-1].x[0])
    assert chain.raw_for(reading) == pytest.approx(count, abs=1e-6)
    # 24 bits, gain 128: 5/128/5*1000/2**23 mV/V a count, times 100 kg per mV/V, times the gain of the correction.
    assert chain.slope(float(count)) == pytest.approx(1000 / 128 / 2**23 * 100 * 0.9944, rel=1e-12)


def test_laws_mark_and_do_not_raise() -> None:
    """A converter's end is SATURATED, a load far beyond the cell is RANGE; the samples stay in their places."""
    chain = compile_chain(
        parse_unit("ct"), [(Step.LAW, "law[0]", BRIDGE), (Step.LAW, "law[1]", CELL)], parse_unit("kg")
    )
    block = block_of([0.0, 2**23 - 1, -(2**23), 4_000_000, 1e12, np.nan, np.inf, 461_708])
    out = run_whole(chain, block)
    assert len(out) == 8
    saturated, out_of_range = int(Mark.SATURATED), int(Mark.RANGE)
    assert [bool(mark & saturated) for mark in out.mark] == [False, True, True, False, True, False, False, False]
    assert [bool(mark & out_of_range) for mark in out.mark] == [False, False, False, True, True, False, True, False]
    assert out.mark[5] == Mark.MISSING
    assert out.x[7] == pytest.approx(461_708 / 2**23 * 1000 / 128 * 100, rel=1e-12)


def test_a_block_says_when_its_arrays_differ() -> None:
    """Arrays of one length, or it is a mistake of ours."""
    with pytest.raises(ValueError, match="differ"):
        Block(np.zeros(2), np.zeros(3), np.zeros(2, np.uint8))


@pytest.mark.parametrize(("n", "memory"), [(3, 11), (4, 15)])
def test_behind_a_stage_that_thins_out_each_sample_is_several(n: int, memory: int) -> None:
    """Of a mean of 4 behind every third sample: three kept ones before the last lie nine samples back, and the last kept
    one up to two. One sample farther back changes nothing, and the farthest one does."""
    chain = chain_of(filter_of("decimate", n=n), filter_of("mean", samples=4))
    assert chain.memory_samples == memory
    reach = []
    for length in range(40, 40 + n):  # every phase
        plain = run_whole(chain, block_of(np.zeros(length))).x
        for place in range(length):
            x = np.zeros(length)
            x[place] = 1.0
            if run_whole(chain, block_of(x)).x[len(plain) - 1] != 0.0:
                reach.append(length - 1 - place)
    assert max(reach) == memory
