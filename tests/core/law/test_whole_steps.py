"""Whole-number steps: what plain Python makes of them, to the last bit, and nothing where a value does not fit."""

from __future__ import annotations

import random
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core import law
from lesart.core.law.whole_steps import WholeSteps
from lesart.core.pack.written.vectors import Given, vectors
from lesart.core.parameters import read_table
from lesart.project.check import check_project
from lesart.study.bench import Bench
from lesart.study.packing.made import packed
from tests.core.pack.programs import runs_in_c

FINE = (
    "v = (x >> 3) - (t1 << 1); a = v * t2 >> 11; b = ((x >> 4) - t1) * ((x >> 4) - t1) >> 12; fine = a + (b * t3 >> 14)"
)
WARM = f"{FINE}; (fine * 5 + 128) >> 8"
DENSE = (
    "u = beside - 128000; v = u * u * p6; v = v + ((u * p5) << 17); w = ((u * u * p3) >> 8) + ((u * p2) << 12); "
    "w = (((1 << 47) + w) * p1) >> 33; q = 1048576 - x; q = ((q << 31) - v / 4096) * 3125 / max(w, 1); (q * p9) >> 25"
)
TRIM = "t1 = 27400, t2 = 26311, t3 = -1000"
PRESS = "p1 = 36411, p2 = -10500, p3 = 3024, p5 = 140, p6 = -7, p9 = 15500"


def law_of(**written: object) -> WholeSteps:
    values, problems = read_table(law.KINDS["whole-number steps"].parameters, {"step": "1 ct", **written}, "l")
    assert not problems, problems
    built: Any = law.KINDS["whole-number steps"].build(values)
    found = built.law
    assert isinstance(found, WholeSteps)
    return found


def by_hand(steps: str, constants: str, x: int, beside: int, bits: int) -> int | None:
    """Plain Python's whole numbers, which have no width; a division is cut toward zero."""
    space: dict[str, Any] = {"max": lambda a, b: Wide(max(a.value, Wide.of(b)), bits)}
    result: Any = None
    try:
        space |= {"x": Wide(x, bits), **({"beside": Wide(beside, bits)} if "beside" in steps else {})}
        for each in filter(None, constants.split(",")):
            name, _, value = each.partition("=")
            space[name.strip()] = Wide(int(value), bits)
        for each in steps.split(";"):
            name, sign, expression = each.partition("=")
            named = bool(sign) and name.strip().isidentifier()
            result = eval((expression if named else each).strip(), {"__builtins__": {}}, space)
            space[name.strip() if named else ""] = result
    except OverflowError:
        return None
    return int(result.value)


class Wide:
    """A whole number that says when it leaves its width."""

    def __init__(self, value: int, bits: int) -> None:
        self.value, self.bits = value, bits
        if not -(1 << bits - 1) <= value < 1 << bits - 1:
            raise OverflowError

    @staticmethod
    def of(other: Any) -> int:
        return other.value if isinstance(other, Wide) else int(other)

    def __add__(self, other: Any) -> Wide:
        return Wide(self.value + self.of(other), self.bits)

    def __radd__(self, other: Any) -> Wide:
        return Wide(self.of(other) + self.value, self.bits)

    def __sub__(self, other: Any) -> Wide:
        return Wide(self.value - self.of(other), self.bits)

    def __rsub__(self, other: Any) -> Wide:
        return Wide(self.of(other) - self.value, self.bits)

    def __mul__(self, other: Any) -> Wide:
        return Wide(self.value * self.of(other), self.bits)

    def __rshift__(self, other: Any) -> Wide:
        return Wide(self.value >> self.of(other), self.bits)

    def __lshift__(self, other: Any) -> Wide:
        return Wide(self.value * 2 ** self.of(other), self.bits)

    def __truediv__(self, other: Any) -> Wide:
        b = self.of(other)
        quotient = abs(self.value) // abs(b)
        return Wide(quotient if (self.value >= 0) == (b > 0) else -quotient, self.bits)


@pytest.mark.parametrize(("steps", "constants", "bits"), [
    (FINE, TRIM, 32), (WARM, TRIM, 32), (DENSE, PRESS, 64), (DENSE, PRESS, 32),
    ("(x - 5000) / 7", "", 16), ("v = x * x; v >> 3", "", 32), ("x * beside", "", 32),
])  # fmt: skip
def test_it_is_what_whole_numbers_make(steps: str, constants: str, bits: int) -> None:
    """At a thousand counts and the ends; what does not fit is lost there and only there."""
    found = law_of(steps=steps, constants=constants, bits=str(bits), highest=1_048_575)
    chance = random.Random(bits)
    xs = [0, 1, 524_288, 1_048_575, *(chance.randrange(1_048_576) for _ in range(1000))]
    others = [chance.randrange(60_000, 200_000) for _ in xs]
    result, fits = found.result(np.array(xs, np.float64), np.array(others, np.float64))
    expected = [by_hand(steps, constants, x, other, bits) for x, other in zip(xs, others, strict=True)]
    assert [int(a) if b else None for a, b in zip(result, fits, strict=True)] == expected
    assert (None in expected) == (bits < 64 and steps not in (FINE, WARM))
    assert any(each is not None for each in expected) == ((steps, bits) != (DENSE, 32))


@pytest.mark.parametrize(
    ("steps", "wanted"),
    [
        ("max(x - 500, 0)", lambda x: max(x - 500, 0)),
        ("min(x, 700)", lambda x: min(x, 700)),
        ("min(700, x)", lambda x: min(700, x)),
        ("abs(x - 600)", lambda x: abs(x - 600)),
        ("a = abs(x - 600); b = max(a, 50); min(b, 300) - abs(50 - a)",
         lambda x: min(max(abs(x - 600), 50), 300) - abs(50 - abs(x - 600))),
    ],
)  # fmt: skip
def test_the_greater_the_less_and_the_size(steps: str, wanted: Callable[[int], int]) -> None:
    """Of numbers on both sides of each border."""
    xs = np.arange(0, 1024)
    result, fits = law_of(steps=steps, bits="16", highest=1023).result(xs.astype(np.float64), np.zeros(len(xs)))
    assert fits.all()
    assert result.tolist() == [wanted(x) for x in xs.tolist()]


def test_a_size_that_has_no_room_is_lost() -> None:
    """Of the lowest number of 16 bits there is none."""
    result, fits = law_of(steps="abs(x - 32768)", bits="16", highest=65_535).result(np.array([0.0, 1.0]), np.zeros(2))
    assert (fits.tolist(), int(result[1])) == ([False, True], 32_767)


KINDS_OF_SIGN = "only + - * / >> and << are taken"
OF_A_STEP = "it must be a name, = and whole numbers; the last step may be these alone"


@pytest.mark.parametrize(("written", "said"), [
    ({"steps": "x +"}, 'step 1, at "x +": it breaks off or is wrong'),
    ({"steps": "a = x;; b = ; a"}, 'step 2, at "b =": it breaks off or is wrong'),
    ({"steps": "a = x\nb = (a\nb"}, 'step 2, at "b = (a": it breaks off or is wrong'),
    ({"steps": " ; "}, "steps: there is none; write one like (x * 5 + 128) >> 8"),
    ({"steps": "+" * 600 + "x"}, "steps: 1203 parts are too many; 600 are the most"),
    ({"steps": "3 * y"}, 'step 1, at "y": "y" is not known here; there are beside, x'),
    ({"steps": "a = x >> 2; a + (y * 2)"}, 'step 2, at "y * 2)": "y" is not known here; there are a, beside, x'),
    ({"steps": "x * 1.5"}, 'step 1, at "1.5": 1.5 is not a whole number'),
    ({"steps": "x >> 63"}, 'step 1, at "x >> 63": a shift is by a plain number from 0 to 62'),
    ({"steps": "x >> y"}, 'step 1, at "x >> y": a shift is by a plain number from 0 to 62'),
    ({"steps": "x << -1"}, 'step 1, at "x << -1": a shift is by a plain number from 0 to 62'),
    ({"steps": "x = 2"}, 'step 1, at "x = 2": "x" is given and cannot be worked out'),
    ({"steps": "t1 = x; t1", "constants": "t1 = 5"}, 'step 1, at "t1 = x": "t1" is given and cannot be worked out'),
    (
        {"steps": "__import__('os')"},
        "step 1, at \"__import__('os')\": only min and max of two values and abs of one are taken",
    ),
    ({"steps": "max(x, 1, 2)"}, 'step 1, at "max(x, 1, 2)": only min and max of two values and abs of one are taken'),
    ({"steps": "x ** 2"}, f'step 1, at "x ** 2": {KINDS_OF_SIGN}'),
    ({"steps": "v = x % 7; v"}, f'step 1, at "x % 7": {KINDS_OF_SIGN}'),
    ({"steps": "~x"}, 'step 1, at "~x": only + and - may come before a value'),
    ({"steps": "1 if 0 < x < 5 else 2"}, 'step 1, at "0 < x < 5 else 2": only two values are compared'),
    ({"steps": "[x]"}, 'step 1, at "[x]": these are not whole-number steps'),
    ({"steps": "v = x; import os"}, f'step 2, at "import os": {OF_A_STEP}'),
    ({"steps": "a = x; x + 1; a"}, f'step 2, at "x + 1": {OF_A_STEP}'),
    ({"steps": "a = b = x; a"}, f'step 1, at "a = b = x": {OF_A_STEP}'),
    ({"steps": "x", "lowest": 5, "highest": 5}, "lowest must be below highest"),
])  # fmt: skip
def test_what_is_no_step_is_told(written: dict[str, object], said: str) -> None:
    """Which step, what stands there, and what would be right; always on one line."""
    with pytest.raises(ValueError, match=r"^[^\n]+$") as caught:
        law_of(**written)
    assert str(caught.value) == said


@pytest.mark.parametrize("constants", ["t1 27", "= 5", "2t = 5", "x = 5", "beside = 5", "abs = 5", "t1 = 5, t 2 = 6"])
def test_a_constant_that_is_none_is_told(constants: str) -> None:
    with pytest.raises(ValueError, match="must be a name, = and a whole number"):
        law_of(steps="x", constants=constants)


def test_one_quantity_takes_the_fine_value_of_another_and_firmware_gives_the_same_bits(tmp_path: Path) -> None:
    """A project of three channels on two counts: fine, warmth of it, and density, packed and run in C against plain
    Python at every count that was recorded."""
    chance = random.Random(9)
    rows = [
        f"{place / 10},{519_000 + chance.randrange(-40_000, 40_000)},{400_000 + chance.randrange(-90_000, 90_000)}"
        for place in range(150)
    ]
    (tmp_path / "counts.csv").write_text("\n".join(("t,a,b", *rows)) + "\n")
    text = f"""lesart = 1
name = "die"
[sources.die]
capture = "counts.csv"
header = 1
time = "t"
[channels.fine]
source = "die"
column = "a"
raw_unit = "ct"
unit = "ct"
lowest = "60000 ct"
highest = "200000 ct"
[[channels.fine.law]]
kind = "whole-number steps"
steps = "{FINE}"
constants = "{TRIM}"
bits = "32"
step = "1 ct"
highest = 1048575
[channels.fine.fit]
decimals = 0
width = 8
[channels.density]
source = "die"
column = "b"
raw_unit = "ct"
unit = "Pa"
lowest = "0 Pa"
highest = "3000000 Pa"
[[channels.density.law]]
kind = "whole-number steps"
steps = "{DENSE}"
constants = "{PRESS}"
beside = "fine"
step = "0.01 Pa"
highest = 1048575
[channels.density.fit]
decimals = 2
width = 10
"""
    (tmp_path / "lesart.toml").write_text(text)
    project = check_project(text)
    pack = packed(project, Bench(tmp_path), project.pack)
    assert pack.left_out == {}
    fine, dense = (each.form for each in pack.channels)
    assert fine.law.form.says.startswith("the part's own whole numbers")
    assert fine.law.agreement.worst == 0.0
    assert dense.law.form.says.startswith("the part's own whole numbers")
    assert runs_in_c(tmp_path / "c", [(each.form, each.vectors) for each in pack.channels]) == "equal\n"
    step = float(fine.scale.step)
    tried = 0
    for vector in pack.channels[1].vectors[:100]:
        given, out = vector.given, vector.stages[0]
        expected = by_hand(DENSE, PRESS, given.raw, round(given.beside * step), 64)
        if expected is not None and not out.mark and not given.mark:
            tried += 1
            assert abs(dense.scale.value(out.x) - expected * 0.01) <= float(dense.scale.step) / 2 * 1.001
    assert tried > 60
    (one,) = vectors(fine, [Given(519_000, 0, 0)])
    assert fine.scale.value(one.stages[0].x) == by_hand(FINE, TRIM, 519_000, 0, 32)
