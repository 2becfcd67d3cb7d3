"""Laws in whole numbers: every law there is, against the desk's own over every code of its converter."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import numpy as np
import pytest

from lesart.core import law
from lesart.core.block import UNUSABLE, Block, block_of
from lesart.core.chain import Link
from lesart.core.law.record import Beside as BesideLaw
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.pack.law_forms.law_form import LawForm, Laws, law_form
from lesart.core.pack.law_forms.pair_form import pair_form
from lesart.core.pack.law_forms.pair_surface import Beside
from lesart.core.pack.machine import Machine, PackError, Scale, scale_of
from lesart.core.pack.program.in_python import HELPERS, class_text, loaded, table_text
from lesart.core.step import Step
from tests.core.law.test_registry import OF_ONE_SAMPLE, of_kind

CODES = 4096


def laws_of(kind: str) -> Laws:
    """A law over 4096 raw numbers of the middle of its range, and of its readings the middle nine tenths."""
    found: Any = stage_of(kind, law_of(kind))
    low, high = found.law.valid_in
    low, high = max(low, -1000.0), min(high, 1000.0)
    if kind in ("platinum", "timer ticks", "trimmed compensation", "whole-number steps", "altitude"):
        low, high = {"platinum": (50.0, 250.0), "timer ticks": (0.0, 4095.0), "altitude": (50_000.0, 102_000.0)}.get(
            kind, (0.0, 4095.0)
        )
    step = Fraction((high - low) / (CODES - 1)).limit_denominator(10**7)
    scale = Scale(step, Fraction(low).limit_denominator(10**6))
    x = found.run(None, block_of(low + np.arange(CODES) * float(step)))[1]
    readings = np.sort(x.x[x.usable])
    ends = readings[len(readings) // 20], readings[-len(readings) // 20]
    return Laws((Link(Step.LAW, "law[0]", found),), scale, 0, CODES - 1, float(ends[0]), float(ends[1]))


def law_of(kind: str) -> Any:
    """What a printed example builds, what it reads beside standing still."""
    return of_kind(kind)


def places(laws: Laws) -> Fraction:
    """About a thousand last places over its range, a power of ten."""
    return Fraction(10) ** int(np.floor(np.log10((laws.highest - laws.lowest) / 300)))


def model(form: LawForm) -> Any:
    text = [
        HELPERS,
        *(table_text(each) for each in form.function.tables),
        class_text("tried", "t", [("law", form.function)], ()),
    ]
    return loaded("\n\n".join(text))["tried"]()


@pytest.mark.parametrize("word", [pytest.param(16, marks=pytest.mark.long), 32])
@pytest.mark.parametrize("kind", OF_ONE_SAMPLE)
def test_a_law_is_as_near_as_was_asked_for(kind: str, word: int) -> None:
    """Looked up code by code in the text that is written, not in what was measured while it was made."""
    laws = laws_of(kind)
    if not laws.lowest < laws.highest:
        pytest.skip("a printed example that stands still")
    machine = Machine(word, divider=word == 32)
    scale, finer = scale_of(places(laws), laws.lowest, laws.highest, machine, kind)
    budget = 0.25 * (1 << finer)
    if budget < 1:
        pytest.skip("too fine for the word, which scale_of is asked about elsewhere")
    form = law_form("tried", kind, laws, scale, budget, machine)
    run = model(form).law
    numbers = np.arange(CODES, dtype=np.float64)
    desk = laws.at(numbers)
    off, good = 0.0, 0
    for code in range(CODES):
        _, x, mark = run(code, 0)
        counts = not desk.mark[code] & UNUSABLE and laws.lowest <= desk.x[code] <= laws.highest
        if counts and not mark & UNUSABLE:
            off, good = max(off, abs(scale.value(x) - desk.x[code])), good + 1
        if form.agreement.otherwise == 0:
            assert counts == (not mark & UNUSABLE)
    assert good > CODES / 2
    assert off <= budget * float(scale.step) * (1 + 1e-9)
    assert off == pytest.approx(form.agreement.worst, rel=1e-9)
    assert form.agreement.every


def test_a_straight_law_is_no_table_and_a_curve_is() -> None:
    for kind, entries in (("converter", 0), ("linear", 0), ("thermistor by beta", 10)):
        laws = laws_of(kind)
        scale, finer = scale_of(places(laws), laws.lowest, laws.highest, Machine(32), kind)
        form = law_form("tried", kind, laws, scale, 0.25 * (1 << finer), Machine(32))
        assert form.form.entries >= entries
        assert (form.form.entries == 0) == (entries == 0)


def test_half_as_much_error_takes_more_entries() -> None:
    """And never fewer than any other table that would do."""
    laws = laws_of("thermistor by beta")
    scale, finer = scale_of(places(laws), laws.lowest, laws.highest, Machine(32), "tried")
    sizes = [
        law_form("tried", "tried", laws, scale, share * (1 << finer), Machine(32)).form.table_bytes
        for share in (0.8, 0.4, 0.2, 0.1, 0.05)
    ]
    assert sizes == sorted(sizes)
    assert sizes[0] < sizes[-1] / 2


def test_a_full_converter_is_marked_and_not_read() -> None:
    laws = laws_of("bridge converter")
    top = 8_388_607
    laws = Laws(laws.links, Scale(Fraction(1)), -top - 1, top, -20.0, 20.0)
    form = law_form("tried", "tried", laws, Scale(Fraction(1, 10**6)), 16.0, Machine(32))
    assert form.agreement.codes == 1 << 24
    assert form.agreement.every
    run = model(form).law
    assert [run(code, 0)[2] for code in (top, -top - 1, top - 1, -top)] == [16, 16, 0, 0]
    assert run(0, 2) == (1, 0, 2)


def beside_law(kind: str) -> BesideLaw:
    values = {
        "echo": {"path": "2", "air": "air"},
        "thermocouple": {"type": "K", "cold": "air"},
    }[kind]
    from lesart.core.parameters import read_table

    read, problems = read_table(law.KINDS[kind].parameters, {k: v for k, v in values.items() if k != "path"}, "l")
    assert not problems
    built = law.KINDS[kind].build(read)
    assert isinstance(built, BesideLaw)
    return built


@pytest.mark.parametrize(("kind", "step", "zero", "ends"), [
    ("echo", Fraction(1, 10**6), Fraction(0), (0.1, 1.0)), ("thermocouple", Fraction(1, 10**5), Fraction(0), (-10.0, 300.0)),
])  # fmt: skip
@pytest.mark.parametrize("word", [16, pytest.param(32, marks=pytest.mark.long)])
def test_a_law_of_two_readings_is_near_over_both(
    kind: str, step: Fraction, zero: Fraction, ends: tuple[float, float], word: int
) -> None:
    """Held against the law itself at a thousand pairs that were not looked at when the table was made."""
    from lesart.core.chain import Other

    stage: Any = stage_of(kind, beside_law(kind))
    link = Link(Step.LAW, "law[0]", stage, others=(Other("air", 1.0, 0.0, 60.0),))
    laws = Laws((link,), Scale(step, zero), 0, 30_000, *ends)
    beside = Beside("air", "air", Scale(Fraction(1, 64)), -20 * 64, 50 * 64)
    machine = Machine(word)
    scale, finer = scale_of(Fraction(1, 100) if kind == "echo" else Fraction(1), *ends, machine, kind)
    form = pair_form("tried", kind, laws, beside, scale, 0.25 * (1 << finer), machine)
    run, chance = model(form).law, np.random.default_rng(3)
    tried = 0
    for raw, air in zip(
        chance.integers(0, 30_001, 1000).tolist(), chance.integers(-1280, 3201, 1000).tolist(), strict=True
    ):
        _, x, mark = run(raw, 0, air, 0)
        fixed: LawStage = stage.fixed((beside.scale.value(air),))
        desk = fixed.run(None, Block(np.zeros(1), np.array([laws.raw.value(raw)]), np.zeros(1, np.uint8)))[1]
        if desk.usable[0] and ends[0] <= desk.x[0] <= ends[1] and not mark:
            tried += 1
            assert abs(scale.value(x) - desk.x[0]) <= 0.25 * float(scale.step) * (1 << finer) * 1.02
    assert tried > 150
    assert run(15_000, 0, 0, 1)[2] == 1


def test_what_cannot_be_says_what_would_do() -> None:
    with pytest.raises(PackError, match=r"mass: 0 to 18 is 9000 last places .* holds 63 .* a word of 16 bits would do"):
        scale_of(Fraction(1, 500), 0.0, 18.0, Machine(8), "mass")
    laws = laws_of("platinum")
    with pytest.raises(PackError, match="no raw number from 0 to 4095 gives a reading from 5000 to 6000"):
        law_form(
            "t", "probe", Laws(laws.links, laws.raw, 0, 4095, 5000.0, 6000.0), Scale(Fraction(1, 10)), 4.0, Machine()
        )
