"""Whole-number expressions: their ranges hold, and arrays, Python and C agree on every one of them."""

from __future__ import annotations

import random
from pathlib import Path

import numpy as np
import pytest

from lesart.core.pack.machine import Machine
from lesart.core.pack.program import whole as w
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.in_c import HELPERS, function_text, stored_bytes, stored_type, table_text
from lesart.core.pack.program.in_python import HELPERS as PYTHON
from lesart.core.pack.program.in_python import class_text, loaded
from lesart.core.pack.program.in_python import table_text as python_table
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.proof import overflows
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, Keep, Kept, Let
from tests.core.pack.programs import built_and_run, expression

NAMES = {"a": (-128, 127), "b": (0, 65_535), "c": (-2_000_000, 2_000_000)}
TRIED = 25


def function_of(name: str, tree: w.Whole) -> Function:
    lets, rest = bound(tree)
    inputs = tuple(w.local(each, *ends) for each, ends in NAMES.items())
    return Function(name, "tried", "a tree", inputs, (w.local("x", tree.low, tree.high),), (*lets, Let("x", rest)))


@pytest.mark.long
def test_arrays_python_and_c_agree_and_ranges_hold(tmp_path: Path) -> None:
    """Of two hundred random trees, at values among which are all ends."""
    chance = random.Random(24)
    trees = [expression(chance, 4, NAMES) for _ in range(200)]
    values = {
        name: np.array([*ends, *(chance.randint(*ends) for _ in range(TRIED - 2))], np.int64)
        for name, ends in NAMES.items()
    }
    for each in values.values():
        chance.shuffle(each)  # type: ignore[arg-type]
    expected, functions, tables = [], [], {}
    for place, tree in enumerate(trees):
        for count, table in enumerate(dict.fromkeys(tree.tables)):
            object.__setattr__(table, "name", f"t{place}_{count}")
            tables[table.name] = table
        expected.append(np.broadcast_to(on_arrays(tree, values), TRIED))
        assert tree.low <= expected[-1].min()
        assert expected[-1].max() <= tree.high
        functions.append(function_of(f"f{place}", tree))
    text = "\n\n".join(
        [PYTHON, *map(python_table, tables.values()), class_text("tried", "t", [(f.name, f) for f in functions], ())]
    )
    model = loaded(text)["tried"]()
    for place in range(len(trees)):
        found = [getattr(model, f"f{place}")(*(int(values[name][i]) for name in NAMES))[1] for i in range(TRIED)]
        assert found == expected[place].tolist()
    said = _in_c(tmp_path, functions, list(tables.values()), values)
    assert said == [each.tolist() for each in expected]


def _in_c(
    folder: Path, functions: list[Function], tables: list[w.Table], values: dict[str, np.ndarray]
) -> list[list[int]]:
    rows = [", ".join("{" + ", ".join(f"{values[name][i]}" for name in NAMES) + "}" for i in range(TRIED))]
    calls = []
    for each in functions:
        kind = stored_type(each.outputs[0].low, each.outputs[0].high)
        calls.append(
            f"for (i = 0; i < {TRIED}; i++) {{ {kind} x; (void){each.name}(0, (int8_t)in[i][0], (uint16_t)in[i][1], "
            f'(int32_t)in[i][2], &x); printf("%lld ", (long long)x); }} printf("\\n");'
        )
    main = f"static const long in[{TRIED}][3] = {{{rows[0]}}};\nint main(void) {{ int i; {' '.join(calls)} return 0; }}"
    text = [
        "#include <stdio.h>\n#include <stdint.h>\ntypedef struct { int none; } S;",
        HELPERS,
        *map(table_text, tables),
    ]
    text += ["static " + function_text(each, "S").split("*/\n", 1)[1] for each in functions]
    out = built_and_run(folder, {"tried.c": "\n".join([*text, main])}, "-Wno-tautological-compare")
    return [[int(each) for each in line.split()] for line in out.splitlines()]


@pytest.mark.parametrize(("low", "high", "kind"), [
    (0, 255, "uint8_t"), (-1, 127, "int8_t"), (0, 256, "int16_t"), (0, 32_768, "uint16_t"), (-1, 32_768, "int32_t"),
    (0, 2**31 - 1, "int32_t"), (0, 2**32 - 2, "uint32_t"), (-(2**31) - 1, 0, "int64_t"),
])  # fmt: skip
def test_what_is_stored_has_the_least_type(low: int, high: int, kind: str) -> None:
    assert stored_type(low, high) == kind
    assert stored_bytes(low, high) * 8 == int("".join(filter(str.isdigit, kind)))


def test_a_sum_of_shifts_is_the_product() -> None:
    a = w.local("a", -500, 500)
    numbers = np.arange(-500, 501)
    for factor in (0, 1, -1, 3, 7, -96, 255, 4095, -54_321):
        product = w.times(a, factor, by_shifts=True)
        assert (product.low, product.high) == tuple(sorted((-500 * factor, 500 * factor)))
        assert np.array_equal(np.broadcast_to(on_arrays(product, {"a": numbers}), 1001), numbers * factor)
        assert not any(part.op == "*" and not _is_power(part) for part in product.walk())


def _is_power(part: w.Whole) -> bool:
    """A product with a power of two is a shift."""
    other = part.parts[1]
    return other.op == "constant" and other.low > 0 and other.low & (other.low - 1) == 0


@pytest.mark.parametrize("by", [1, 2, 3, 7, 10, 60, 641, 1000])
@pytest.mark.parametrize("high", [9, 255, 9999, 32_767])
def test_a_quotient_without_a_divider_is_exact(by: int, high: int) -> None:
    """For every number, not for most."""
    numbers = np.arange(high + 1)
    for word in (16, 32):
        found = divided(w.local("a", 0, high), by, Machine(word, divider=False))
        assert np.array_equal(np.broadcast_to(on_arrays(found, {"a": numbers}), high + 1), numbers // by)
    assert not any(part.op == "quotient" and by & (by - 1) for part in found.walk())


def test_what_could_overflow_is_told_with_the_word_that_would_do() -> None:
    a = w.local("x", -30_000, 30_000)
    wide = Function("f", "mass, Calm 1", "a square", (a,), (a,), (Let("x", w.down(a * a * 4, 17)),))
    found = list(overflows([wide], 16))
    assert (found[0].place, found[0].needs, found[0].has, found[0].word) == ("mass, Calm 1", 33, 32, 32)
    assert list(overflows([wide], 32)) == []
    kept = Kept("sum", 0, 100)
    grows = Function("g", "mass, Calm 2", "a sum", (a,), (), (Keep("sum", kept.value + 1),), (kept,))
    assert [(each.place, each.high) for each in overflows([grows], 32)] == [("mass, Calm 2, sum", 101)]
    assert str(found[0]).startswith("mass, Calm 1: a value from -")


def test_a_place_beyond_a_table_is_refused() -> None:
    with pytest.raises(ValueError, match="t has 3 entries, and 0 to 3"):
        w.at(w.Table("t", (1, 2, 3)), w.local("i", 0, 3))
    with pytest.raises(ValueError, match="zero"):
        w.quotient(w.local("a", 0, 9), w.local("b", -1, 1))
