"""Totals in whole numbers: what the firmware comes to after thousands of samples, beside the desk and in C."""

from __future__ import annotations

import random
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core import calm, law
from lesart.core.block import UNUSABLE, Block, Mark
from lesart.core.chain import Chain, compile_chain
from lesart.core.law.stage import stage_of
from lesart.core.pack.as_chain import whole_chain
from lesart.core.pack.channel_form import ChannelForm, ChannelWanted, channel_form
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.written.vectors import Given, ends_of, vectors
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.through import through
from lesart.core.units import parse_unit
from tests.core.pack.programs import runs_in_c

TO_MM = ("linear", {"input": "0 ct", "output": "0 mm", "slope": "0.2 mm/ct"})
SHUNT = ("linear", {"input": "2048 ct", "output": "0 mA", "slope": "0.813 mA/ct"})
ROOT = ("power", {"input": "4095 ct", "output": "30 L/min", "exponent": "1.5"})
TOTALS: dict[str, tuple[str, list[tuple[str, dict[str, Any]]], tuple[float, float]]] = {
    "rain": ("mm", [TO_MM, ("sum", {"begin": "0 mm"})], (0, 3_000_000)),
    "rain of a minute": ("mm", [TO_MM, ("sum", {"begin": "5 mm", "every": "1 min", "first": "20 s"})], (0, 90_000)),
    "charge": ("Ah", [SHUNT, ("total over time", {"unit": "mA", "begin": "20 Ah"})], (0, 40)),
    "charge of 7 s": ("mAh", [SHUNT, ("total over time", {"unit": "A", "begin": "0 Ah", "every": "7 s"})], (-50, 50)),
    "litres": ("L", [ROOT, ("total over time", {"unit": "L/min", "begin": "0 L", "longest_gap": "9 s"})], (0, 900)),
    "counter": ("ct", [("counter rise", {"begin": "7 ct", "full": "4096"})], (0, 9_000_000)),
    "counter anew": ("ct", [("counter rise", {"begin": "0 ct", "full": "4096", "every": "30 s"})], (0, 900_000)),
    "wheel": ("ct", [("counter rise", {"begin": "0 ct", "full": "4096", "counts": "both ways"})], (-90_000, 90_000)),
    "switched on anew": ("ct", [("counter rise", {"begin": "0 ct"})], (0, 9_000_000)),
}


def chain_of(unit: str, laws: Sequence[tuple[str, dict[str, Any]]], *filters: Any) -> Chain:
    stages: list[tuple[Step, str, Any]] = []
    for place, (kind, written) in enumerate(laws):
        values, problems = read_table(law.KINDS[kind].parameters, written, "l")
        assert not problems, problems
        stages.append((Step.LAW, f"law[{place}]", stage_of(kind, law.KINDS[kind].build(values))))
    stages += [(Step.CALM, f"calm[{place}]", each) for place, each in enumerate(filters)]
    return compile_chain(parse_unit("ct"), stages, parse_unit(unit))


def form_of(name: str, word: int = 32, *filters: Any, in_code: str = "mass", **machine: bool) -> ChannelForm:
    """Of a total, with a last place of a hundredth, from a converter of 12 bits ten times a second."""
    unit, laws, (lowest, highest) = TOTALS[name]
    chain = chain_of(unit, laws, *filters)
    raw = Scale(Fraction(1))
    return channel_form(
        ChannelWanted(in_code, "c", chain, raw, 0, 4095, lowest, highest, (), (), 0.1, 0.25, Machine(word, **machine))
    )


def given(count: int, seed: int) -> tuple[Given, ...]:
    """Any raw numbers at uneven times, some bad, with gaps of seconds and of hours."""
    chance, now, out = random.Random(seed), 1000, []
    for _ in range(count):
        raw = chance.randrange(4096)
        mark = chance.choice((0, 0, 0, 0, 0, 0, int(Mark.MISSING), int(Mark.HELD)))
        out.append(Given(raw, mark, now))
        now += chance.choice((100, 100, 100, 90, 130, 0, 2500, 12_000))
    return tuple(out)


def desk_of(form: ChannelForm, inputs: Sequence[Given]) -> Block:
    t = np.array([each.now for each in inputs]) / 1000
    mark = np.array([each.mark for each in inputs], np.uint8)
    raw = np.array([each.raw for each in inputs], np.float64)
    return through(form.wanted.chain, Block(t, np.where(mark & np.uint8(UNUSABLE), np.nan, raw), mark))


@pytest.mark.parametrize("name", TOTALS)
def test_a_total_follows_the_desk(name: str) -> None:
    """Over 5000 samples within a quarter of a last place, and every mark the same."""
    form = form_of(name)
    inputs = given(5000, 3)
    desk = desk_of(form, inputs)
    made = [each.stages[-1] for each in vectors(form, inputs)]
    x = np.array([each.x for each in made]) * float(form.scale.step) + float(form.scale.zero)
    assert [each.mark for each in made] == desk.mark.tolist()
    assert np.ptp(desk.x[desk.usable]) > 20 * float(form.scale.step)
    assert np.abs(x - desk.x)[desk.usable].max() <= 0.25 * (1 << form.finer) * float(form.scale.step)


@pytest.mark.parametrize("name", ["rain", "charge", "counter", "wheel", "charge of 7 s"])
def test_on_a_screen_as_in_firmware_it_is_the_same(name: str) -> None:
    """The chain of whole numbers that the desk can compute in gives what the vectors say, filters behind it too."""
    form = form_of(name, 32, median_of(name))
    inputs = given(600, 8)
    chain = whole_chain(form)
    t = np.array([each.now for each in inputs]) / 1000
    mark = np.array([each.mark for each in inputs], np.uint8)
    raw = np.array([float(each.raw) for each in inputs])
    block = Block(t, np.where(mark & np.uint8(UNUSABLE), np.nan, raw), mark)
    made = [each.stages[-1] for each in vectors(form, inputs)]
    _, blocks = chain.run(chain.initial(), block)
    good = blocks[-1].usable
    x = np.array([each.x for each in made]) * float(form.scale.step) + float(form.scale.zero)
    assert blocks[-1].mark.tolist() == [each.mark for each in made]
    assert blocks[-1].x[good].tolist() == pytest.approx(x[good].tolist())
    assert chain.is_lasting(Step.LAW)
    # By hand a value stands for what it comes to alone, to a step of the whole numbers.
    assert chain.steady(2500.0)[-1].x[0] == pytest.approx(form.wanted.chain.steady(2500.0)[-1].x[0], abs=1.0)


def median_of(name: str) -> Any:
    """In the unit of the total."""
    unit = parse_unit(TOTALS[name][0])
    values, _ = read_table(calm.KINDS["median"].parameters, {"samples": 3}, "f")
    return calm.KINDS["median"].build(values, unit)


@pytest.mark.parametrize("word", [16, 32])
@pytest.mark.parametrize(
    "machine", [{}, pytest.param({"multiplier": False, "divider": False}, marks=pytest.mark.long, id="bare")]
)
def test_c_gives_the_same_bits(word: int, machine: dict[str, bool], tmp_path: Path) -> None:
    """Over bad samples, gaps, the ends of the raw range and of the clock; where a word is too narrow it is said."""
    tested = []
    for place, name in enumerate(TOTALS):
        try:
            form = form_of(name, word, in_code=f"mass{place}", **machine)
        except PackError as error:
            assert word == 16
            assert "word" in str(error)
            continue
        inputs = given(150, place)
        tested.append((form, vectors(form, (*inputs, *ends_of(form, 100, inputs[-1].now + 100)))))
    assert len(tested) == len(TOTALS) if word == 32 else tested
    assert runs_in_c(tmp_path, tested) == "equal\n"


def test_a_total_goes_on_beyond_its_range_and_stays_at_the_end_of_the_word() -> None:
    """The range says how far it came in a capture; it does not begin at the other end again, as what overflows does."""
    unit, laws, _ = TOTALS["rain"]
    wanted = ChannelWanted(
        "c", "c", chain_of(unit, laws), Scale(Fraction(1)), 0, 4095, 0.0, 100.0, (), (), 0.1, 0.25, Machine(32)
    )
    form = channel_form(wanted)
    made = [each.stages[-1] for each in vectors(form, [Given(1000, 0, 100 * place) for place in range(8)])]
    x = [each.x * float(form.scale.step) for each in made]
    assert x == [200.0, 400.0, 600.0, 800.0, 800.0, 800.0, 800.0, 800.0]
    assert [each.mark for each in made] == [0] * 4 + [int(Mark.RANGE)] * 4


REFUSED = [
    (
        "ct/s",
        [("change over time", {"unit": "ct"})],
        "c: its law change over time compares with what came a while ago, which is not carried into whole numbers; leave "
        "the channel out.",
    ),
    (
        "mm",
        [("sum", {"begin": "0 ct"}), TO_MM],
        "c: its law linear comes after its sum, which is carried into whole numbers only as the last; put it before, "
        "or leave the channel out.",
    ),
    (
        "ct",
        [("sum", {"begin": "0 ct", "every": "400 h"})],
        "c, sum: a clock of milliseconds counts up to 12 days; begin it again more often.",
    ),
]


@pytest.mark.parametrize(("unit", "laws", "why"), REFUSED)
def test_what_is_not_carried_is_said(unit: str, laws: list[tuple[str, dict[str, Any]]], why: str) -> None:
    """With what would do."""
    wanted = ChannelWanted(
        "c", "c", chain_of(unit, laws), Scale(Fraction(1)), 0, 4095, 0.0, 1000.0, (), (), 0.1, 0.25, Machine(32)
    )
    with pytest.raises(PackError) as refused:
        channel_form(wanted)
    assert str(refused.value) == why
