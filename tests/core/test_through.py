"""A whole capture through a chain: what is looked up or shared is the same to the bit as what is worked out."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core import law
from lesart.core.block import Block, Mark, block_of
from lesart.core.chain import Chain, compile_chain
from lesart.core.code_table import table_of
from lesart.core.law.stage import LawStage
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.through import through
from lesart.core.true.correction import Correction
from lesart.core.units import parse_unit
from tests.core.chains import KG, filter_of, run_whole, same_bits

COUNT = 300_000


def law_of(kind: str, **written: object) -> LawStage:
    """A law as the project file would make it."""
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    return LawStage(kind, law.KINDS[kind].build(values))


LAWS = (
    law_of("converter", bits=16, signed=True, reference="2.5 V"),
    law_of("linear", input="0 V", output="0 kg", slope="3 kg/V"),
)
LINE = Correction("line", 1.01, -0.2, None, KG)


def weighed(*filters: object) -> Chain:
    """Counts to kilograms, corrected, with filters behind."""
    stages = [(Step.LAW, f"law[{place}]", stage) for place, stage in enumerate(LAWS)]
    stages += [(Step.TRUE, "true", LINE), *((Step.CALM, "calm", each) for each in filters)]
    return compile_chain(parse_unit("ct"), stages, KG)


def counts(**spoiled: float) -> Block:
    """Codes of sixteen bits, some at the ends; then single samples by their place."""
    rng = np.random.default_rng(4)
    x = rng.integers(-3000, 3000, COUNT).astype(np.float64)
    x[:4] = -32768, 32767, 32766, 0
    for place, value in spoiled.items():
        x[int(place.removeprefix("at"))] = value
    return block_of(x, 10.0)


SPOILED = {
    "as it came": {},
    "a half": {"at200000": 0.5},
    "a zero with a minus": {"at70000": -0.0},
    "missing": {"at70000": np.nan},
    "absurd": {"at299999": 1e300},
    "endless": {"at5": np.inf},
    "too great for its bits": {"at70000": 32768.0},
}


@pytest.mark.parametrize("how", SPOILED)
@pytest.mark.parametrize(
    "filters", [(), (filter_of("mean", samples=4), filter_of("decimate", n=3))], ids=["laws", "all"]
)
def test_looked_up_or_worked_out(how: str, filters: tuple[object, ...]) -> None:
    """Every bit of times, values and marks, whatever is among the codes."""
    chain, block = weighed(*filters), counts(**SPOILED[how])
    out, wanted = through(chain, block), run_whole(chain, block)
    assert same_bits(out, wanted)
    assert out.t.tobytes() == wanted.t.tobytes()


def test_a_table_is_made_where_it_saves_work() -> None:
    """Codes of sixteen bits in a long capture have one; few samples, fractions and floats beyond have none."""
    chain = weighed()
    table = table_of(chain, counts())
    assert table is not None
    assert len(table.x) == 65_536
    assert table.marked
    assert table_of(chain, counts()[:100_000]) is None
    assert table_of(chain, counts(at5=1e300)) is None
    assert table_of(chain, block_of(np.full(COUNT, 0.5))) is None
    assert table_of(chain, block_of(np.full(COUNT, np.nan))) is None
    assert table_of(weighed(filter_of("mean", samples=2)), block_of([])) is None


def test_what_stays_is_shared() -> None:
    """Times always, values and marks where the chain leaves them: ten million samples are not held twice."""
    block = counts()
    looked_at = through(weighed(), block[4:])
    assert np.shares_memory(looked_at.t, block.t)
    assert np.shares_memory(looked_at.mark, block.mark)
    gate = compile_chain(KG, [(Step.CALM, "calm", filter_of("settling gate", samples=4, width="1 kg"))], KG)
    gated = through(gate, block)
    assert gated.x is block.x
    assert gated.mark[-1] == Mark.SETTLING


def test_nothing_comes_of_nothing() -> None:
    """An empty capture, and an empty chain."""
    assert len(through(weighed(), block_of([]))) == 0
    block = counts()
    assert through(compile_chain(KG, [], KG), block).x is block.x
