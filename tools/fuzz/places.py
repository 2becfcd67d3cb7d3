"""The places that take input: each does something with what a die says, and may only say a sentence about it."""

from __future__ import annotations

import contextlib
import copy
import io
import random
from collections.abc import Callable, Iterator
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from tools.fuzz import absurd
from tools.fuzz.sentence import check_sentence, only_a_sentence

from lesart.cli.main import main
from lesart.core import calm, law
from lesart.core.block import block_of
from lesart.core.law.formula import parse_formula
from lesart.core.law.stage import stage_of
from lesart.core.parameters import read_table
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.demo.yard import project_text
from lesart.desk.entries import edits
from lesart.project.check import check_project, read_tables

Place = Callable[[random.Random, Path], None]


@lru_cache
def _yard() -> dict[str, Any]:
    return read_tables(project_text())


def _paths(tables: Any, here: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Of every value and table in it."""
    pairs = tables.items() if isinstance(tables, dict) else enumerate(tables) if isinstance(tables, list) else ()
    for key, value in pairs:
        yield (*here, key)
        yield from _paths(value, (*here, key))


@lru_cache
def _places() -> tuple[tuple[Any, ...], ...]:
    return tuple(_paths(_yard()))


def project_values(dice: random.Random, folder: Path) -> None:
    """One to three values of the yard's project replaced, dropped or added."""
    tables = copy.deepcopy(_yard())
    for _ in range(dice.choice((1, 1, 2, 3))):
        path = dice.choice(_places())
        at: Any = tables
        with contextlib.suppress(KeyError, IndexError, TypeError):  # gone with what was replaced before
            for key in path[:-1]:
                at = at[key]
            what = dice.random()
            if what < 0.1:
                del at[path[-1]]
            elif what < 0.2 and isinstance(at, dict):
                at[dice.choice(("kind", "x_own", "unit", "")) + dice.choice(("", "z"))] = absurd.value(dice)
            else:
                at[path[-1]] = absurd.value(dice)
    with only_a_sentence():
        check_project(absurd.whole(tables), _checked() if dice.random() < 0.8 else None)


def project_text_broken(dice: random.Random, folder: Path) -> None:
    """The text of the yard with characters dropped, doubled and exchanged; nested without end; numbers without end."""
    text = project_text()
    if dice.random() < 0.1:
        text += dice.choice(
            (
                "x = " + "[" * 3000,
                "x = " + "9" * 5000,
                "x = " + "{a=" * 2000,
                "y = 0x" + "f" * 5000,
                "\ufeff",
                "x = 1e" + "9" * 400,
                "[" * 500,
            )
        )
    letters = list(text)
    for _ in range(dice.choice((1, 5, 50))):
        at = dice.randrange(len(letters))
        letters[at] = dice.choice(("", letters[at] * 2, chr(dice.randrange(0xD7FF)), dice.choice('"[]{}=\n\\,.')))
    with only_a_sentence():
        check_project("".join(letters))


def quantities(dice: random.Random, folder: Path) -> None:
    """A number with a unit, as a person types it."""
    unit = parse_unit(dice.choice(("V", "kΩ", "°C", "Δ°C", "ct", "mV/V", "1", "%", "Hz")))
    with only_a_sentence():
        quantity = parse_quantity(absurd.text(dice), unit)
        str(quantity)
        quantity.to(unit)


def units(dice: random.Random, folder: Path) -> None:
    """A unit of any make."""
    parts = (
        "m",
        "kg",
        "s",
        "²",
        "⁻",
        "^",
        "-",
        "9",
        "/",
        "·",
        "*",
        "Δ",
        "°C",
        "µ",
        "μ",
        "%",
        " ",
        "k",
        "V",
        "1",
        "0",
        "𝛍",
    )
    with only_a_sentence():
        parse_unit("".join(dice.choice(parts) for _ in range(dice.randrange(1, 14))))


def formulas(dice: random.Random, folder: Path) -> None:
    """Arithmetic, and what would like to be more than that."""
    parts = (
        "x",
        "+",
        "-",
        "*",
        "/",
        "**",
        "(",
        ")",
        "1",
        "2.5",
        "e",
        "ln(",
        "sqrt(",
        "a",
        ",",
        "0",
        "1e400",
        ".",
        "9**9",
        "if",
        "lambda",
        "[",
        "]",
        "'",
        "\\",
        "=",
        "<",
        "max(",
        " ",
        "\n",
        "_",
        "@",
        "!",
        "é",
    )
    written = (
        dice.choice(absurd.TEXTS)
        if dice.random() < 0.1
        else "".join(dice.choice(parts) for _ in range(dice.randrange(1, 25)))
    )
    with only_a_sentence(ValueError):
        parse_formula(written, ("x", "a"))


def laws(dice: random.Random, folder: Path) -> None:
    """Every law with absurd values, there and back, alone and as a stage of a chain."""
    kind = dice.choice(list(law.KINDS.values()))
    table = {each.name: absurd.value(dice) if dice.random() < 0.4 else each.default for each in kind.parameters}
    values, problems = read_table(kind.parameters, {k: v for k, v in table.items() if v is not None}, "law")
    for each in problems:
        check_sentence(str(each))
    if problems or any(each.kind == "part" for each in kind.parameters):
        return
    built = None
    with only_a_sentence(ValueError):
        built = kind.build(values)
    if built is None:
        return
    stage = stage_of(kind.name, built)
    x = np.array([0.0, 1.0, -1.0, 1e308, -1e308, 5e-324, 1e60, 0.5, np.nan])
    _, block = stage.run(stage.initial(), block_of(x))
    lost = np.isnan(block.x) & block.usable
    assert not lost.any(), f"{kind.name}: NaN without a mark"
    with np.errstate(all="ignore"):
        for each in (1.0, -5.0, 1e60, 1e308):
            stage.slope(each)
            stage.inverse(each)


def filters(dice: random.Random, folder: Path) -> None:
    """Every filter with absurd values over absurd samples; what it costs."""
    kind = dice.choice(list(calm.KINDS.values()))
    unit = parse_unit(dice.choice(("V", "°C", "ct")))
    table = {each.name: absurd.value(dice) if dice.random() < 0.3 else each.default for each in kind.parameters}
    values, problems = read_table(kind.parameters, {k: v for k, v in table.items() if v is not None}, "calm")
    for each in problems:
        check_sentence(str(each))
    if problems:
        return
    stage = None
    with only_a_sentence(ValueError):
        stage = kind.build(values, unit)
    if stage is None:
        return
    _, block = stage.run(stage.initial(), block_of([0.0, 1.0, 1e308, -1e308, np.nan, 5e-324, 2.0, np.inf]))
    assert not (np.isnan(block.x) & block.usable).any(), f"{kind.name}: NaN without a mark"
    for interval in (1e-9, 0.1, 1e9):
        kind.cost(values, interval)
    kind.says(values)


def typed_values(dice: random.Random, folder: Path) -> None:
    """Anything typed over any value of the yard, and nudged."""
    project = _checked()
    key = dice.choice(_places())
    with only_a_sentence():
        edits.typed_value(project, key, absurd.text(dice))
    with only_a_sentence():
        edits.nudged(project, key, dice.choice((-1, 1)))


@lru_cache
def _checked() -> Any:
    return check_project(project_text())


def law_command(dice: random.Random, folder: Path) -> None:
    """``lesart law`` with absurd values, both ways."""
    kind = dice.choice(list(law.KINDS.values()))
    given = ["law", kind.name, *(absurd.text(dice) for _ in range(dice.choice((1, 1, 2))))]
    for parameter in kind.parameters:
        if dice.random() < 0.3:
            given += ["--set", f"{parameter.name}={absurd.text(dice)}"]
    given += ["--inverse"] * (dice.random() < 0.3) + ["--json"] * (dice.random() < 0.3)
    run_command(given)


def run_command(given: list[str]) -> str:
    """A command's own code is 0, 1 or 2, and what it prints is for a person. Raises AssertionError otherwise."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            code = main([each.replace("\0", "") for each in given])
        except SystemExit as ended:
            code = int(ended.code or 0)
    assert code in (0, 1, 2), f"{given}: {err.getvalue()}"
    assert "Traceback" not in err.getvalue(), err.getvalue()
    return out.getvalue()


PLACES: dict[str, Place] = {
    place.__name__.replace("_", " "): place
    for place in (
        project_values,
        project_text_broken,
        quantities,
        units,
        formulas,
        laws,
        filters,
        typed_values,
        law_command,
    )
}
