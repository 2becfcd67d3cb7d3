"""Chains and signals for tests, and the one way they are split."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import numpy as np
from hypothesis import strategies as st

from lesart.core import calm
from lesart.core.block import Block, block_of, joined
from lesart.core.calm.circular import OntoCircle
from lesart.core.chain import Chain, Stage, compile_chain
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit

KG = parse_unit("kg")


def filter_of(kind: str, **written: object) -> Stage:
    """A filter as the project file would make it, in kilograms."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "f")
    assert not problems, problems
    return calm.KINDS[kind].build(values, KG)


def chain_of(*stages: Stage) -> Chain:
    """Filters alone."""
    return compile_chain(KG, [("calm", f"calm[{index}]", stage) for index, stage in enumerate(stages)], KG)


def run_whole(chain: Chain, block: Block) -> Block:
    """In one piece."""
    return chain.run(chain.initial(), block)[1][-1]


def run_in_pieces(chain: Chain, block: Block, cuts: Sequence[int]) -> Block:
    """Cut before each index of ``cuts``."""
    states, parts = chain.initial(), []
    edges = [0, *sorted(min(cut, len(block)) for cut in cuts), len(block)]
    for start, end in itertools.pairwise(edges):
        states, blocks = chain.run(states, block[start:end])
        parts.append(blocks[-1])
    return joined(parts)


def same_bits(first: Block, second: Block) -> bool:
    """Every bit of values and marks; NaN equals NaN."""
    return first.x.tobytes() == second.x.tobytes() and first.mark.tobytes() == second.mark.tobytes()


@st.composite
def signals(draw: st.DrawFn, longest: int = 120) -> Block:
    """Values with NaN, absurd ones and marks among them."""
    values = draw(
        st.lists(
            st.one_of(st.floats(-200, 200), st.just(np.nan), st.sampled_from([1e9, -1e9])), min_size=1, max_size=longest
        )
    )
    return block_of(values, rate_hz=10.0)


FILTERS: dict[str, tuple[Stage, ...]] = {
    "reject": (filter_of("reject range", lowest="-100 kg", highest="100 kg"),),
    "median 3": (filter_of("median", samples=3),),
    "median 5": (filter_of("median", samples=5),),
    "median 9": (filter_of("median", samples=9),),
    "mean 1": (filter_of("mean", samples=1),),
    "mean 7": (filter_of("mean", samples=7),),
    "mean 16": (filter_of("mean", samples=16),),
    "trimmed mean 10": (filter_of("trimmed mean", samples=10, dropped=2),),
    "trimmed mean 7": (filter_of("trimmed mean", samples=7, dropped=3),),
    "trimmed mean 4": (filter_of("trimmed mean", samples=4, dropped=0),),
    "trimmed mean 12": (filter_of("trimmed mean", samples=12, dropped=2),),
    "circular mean": (filter_of("circular mean", samples=6, lowest="-90.005 kg", highest="110.005 kg"),),
    "circular mean, wide": (filter_of("circular mean", samples=5, lowest="-170.005 kg", highest="190.006 kg"),),
    "onto circle": (OntoCircle(KG, -20.005, 160.0, -30.0),),
    "hold": (filter_of("hold", timeout="0.5 s"),),
    "reject rate": (filter_of("reject rate", most="300 kg/s", after=3),),
    "reject mark": (filter_of("mean", samples=4), filter_of("reject mark", marks="settling")),
    "exponential": (filter_of("exponential", weight="0.2"),),
    "time constant": (filter_of("time constant", time="0.7 s", interval="0.1 s"),),
    "low-pass 1": (filter_of("low-pass", order=1, cutoff="1 Hz", rate="10 Hz"),),
    "low-pass 4": (filter_of("low-pass", order=4, cutoff="0.8 Hz", rate="10 Hz"),),
    "tracking": (filter_of("tracking", level="0.3", slope="0.05"),),
    "deadband": (filter_of("deadband", width="30 kg"),),
    "settling gate": (filter_of("settling gate", samples=4, width="90 kg"),),
    "highest": (filter_of("highest so far"),),
    "lowest of a second": (filter_of("lowest so far", every="1 s", first="0.35 s"),),
    "highest of seven": (filter_of("highest so far", every="7 s"),),
    "decimate": (filter_of("decimate", n=3),),
    "all": (
        filter_of("reject range", lowest="-100 kg", highest="100 kg"),
        filter_of("median", samples=5),
        filter_of("mean", samples=6),
        filter_of("hold", timeout="0.3 s"),
    ),
}
