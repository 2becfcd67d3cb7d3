"""What a raw count changes in a reading, held against the next counts themselves."""

from __future__ import annotations

import math
from collections.abc import Callable

import pytest

from lesart.core.chain import Chain, compile_chain
from lesart.core.law import KINDS
from lesart.core.law.stage import stage_of
from lesart.core.one_count import one_count
from lesart.core.step import Step
from lesart.core.units import parse_unit


def chain_of(formula: str, lowest: str = "-1e9 ct", highest: str = "1e9 ct") -> Chain:
    kind = KINDS["formula"]
    told = {
        "formula": formula,
        "units": "plain numbers",
        "from": "ct",
        "to": "°C",
        "lowest": lowest,
        "highest": highest,
    }
    values = {each.name: each.read(told.get(each.name, each.default)) for each in kind.parameters}
    return compile_chain(
        parse_unit("ct"), ((Step.LAW, "law[0]", stage_of("formula", kind.build(values))),), parse_unit("°C")
    )


@pytest.mark.parametrize(
    ("formula", "wanted"),
    [
        ("0.25 * x", lambda raw: 0.25),
        ("floor(x / 16) * 0.0625", lambda raw: 0.0625),
        ("floor(x / 262144) * 0.25", lambda raw: 0.25),
        # A register of 10 bits above 3 that belong to something else.
        ("(floor(x / 8) - 128 * floor(x / 1024)) * 0.25", lambda raw: 0.25),
        ("x - 64 * floor(x / 64)", lambda raw: 1.0),
        ("0.001 * x ** 2", lambda raw: 0.002 * raw),
        ("0.5 * floor(x / 0.5 + 0.5)", lambda raw: 1.0),
        ("5 * floor(x / 5 + 0.5)", lambda raw: 5.0),
        # Held at an end: no count changes anything there.
        ("min(x, 300)", lambda raw: 1.0 if raw < 300 else 0.0),
    ],
)
@pytest.mark.parametrize("raw", [40.0, 100.0, 128.0, 257.0, 608.0, 1023.0, 70_000.0])
def test_it_is_what_the_next_counts_change(formula: str, wanted: Callable[[float], float], raw: float) -> None:
    """On a step and at its edge, where the slope is nothing, or without bounds."""
    assert one_count(chain_of(formula), raw) == pytest.approx(wanted(raw), rel=1e-3)


def test_codes_that_come_in_steps() -> None:
    """Sixteen counts on is the next code that comes."""
    assert one_count(chain_of("floor(x / 16) * 0.0625"), 608.0, 16.0) == pytest.approx(0.0625)
    assert one_count(chain_of("0.25 * x"), 608.0, 16.0) == pytest.approx(4.0)


def test_at_the_end_of_a_law_the_other_side_counts() -> None:
    chain = chain_of("floor(x / 4)", "0 ct", "1023 ct")
    assert one_count(chain, 1022.0) == 0.0 or one_count(chain, 1022.0) == 1.0
    assert math.isfinite(one_count(chain, 1023.0))
