"""Every line that is offered, and every one that some test here types, with words behind or before it that mean something
else or nothing: taken or refused, never as if they had not been said.

What is dropped in silence is the worst of mistakes: the answer looks as if all had been understood.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable
from functools import cache
from pathlib import Path

import pytest

from lesart.core.errors import LesartError
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.adding import added
from lesart.desk.entries.edit_result import Here
from lesart.desk.entries.offers import OFFERS, offers_at
from tests.desk.mast import mast

TAILS = (", wobbly 7", ", minus 3", ", 33 pF", " twice", ", inverted", " in mm", ", 47 ohm")
HEADS = ("inverted", "twice", "not")
PARTS = 12
"""So many cases for each step, with their share of the lines."""
LONGEST = 80
FIGURE = re.compile(r"\d+(?:\.\d+)?")
REMARKS = ("#", "//", ";")


@cache
def typed_in_tests() -> tuple[str, ...]:
    """All texts in the tests of this folder that a person may have typed."""
    found: set[str] = set()
    for module in sorted(Path(__file__).parent.glob("test_*.py")):
        for node in ast.walk(ast.parse(module.read_text())):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and 2 < len(node.value) < LONGEST:
                found.add(node.value)
    return tuple(sorted(each for each in found if each.isprintable() and each.strip() and not each.endswith(".")))


def opened_at(step: Step, folder: Path) -> Desk:
    desk = mast(folder)
    desk.open_step(Step.WIRE)
    desk.add("5 V board")
    if step in (Step.TRUE, Step.CALM, Step.FIT):
        desk.choose_channel("air")
    desk.open_step(step)
    return desk


def text_of(desk: Desk, line: str) -> str | None:
    """The project with the line; None where it is refused."""
    try:
        return added(Here(desk.editor, desk.state, desk.bench, desk.folder), line).text
    except LesartError:
        return None


def lost(desk: Desk, lines: Iterable[str]) -> list[str]:
    """Lines with tails, or a word before them, that have no effect on them."""
    found = []
    for line in lines:
        plain = None if "=" in line or line.startswith(REMARKS) else text_of(desk, line)
        if plain is not None:
            both = [*(f"{line}{tail}" for tail in TAILS), *(f"{head} {line}" for head in HEADS)]
            found += [each for each in both if text_of(desk, each) == plain]
    return found


@pytest.mark.parametrize("part", range(PARTS))
@pytest.mark.parametrize("step", OFFERS, ids=lambda step: step.shown)
def test_no_word_behind_an_offered_line_is_dropped(step: Step, part: int, tmp_path: Path) -> None:
    desk = opened_at(step, tmp_path)
    offers = offers_at(Here(desk.editor, desk.state, desk.bench, desk.folder))
    lines = [offer.text for group in offers.values() for offer in group if offer.is_whole]
    assert lines
    assert lost(desk, lines[part::PARTS]) == []
    desk.close()


def asked_of_nothing(desk: Desk, lines: Iterable[str]) -> None:
    """Each figure of a line as nothing, and as far too much: an answer or a sentence."""
    for line in lines:
        for found in FIGURE.finditer(line):
            for instead in ("0", "999999999999"):
                text_of(desk, f"{line[: found.start()]}{instead}{line[found.end() :]}")


@pytest.mark.parametrize("part", range(PARTS))
@pytest.mark.parametrize("step", OFFERS, ids=lambda step: step.shown)
def test_a_figure_of_nothing_or_far_too_much_has_an_answer(step: Step, part: int, tmp_path: Path) -> None:
    desk = opened_at(step, tmp_path)
    offers = offers_at(Here(desk.editor, desk.state, desk.bench, desk.folder))
    asked_of_nothing(desk, [offer.text for group in offers.values() for offer in group if offer.is_whole][part::PARTS])
    desk.close()


@pytest.mark.long
@pytest.mark.parametrize("part", range(PARTS))
@pytest.mark.parametrize("step", OFFERS, ids=lambda step: step.shown)
def test_a_typed_figure_of_nothing_or_far_too_much_has_an_answer(step: Step, part: int, tmp_path: Path) -> None:
    desk = opened_at(step, tmp_path)
    asked_of_nothing(desk, typed_in_tests()[part::PARTS])
    desk.close()


@pytest.mark.long
@pytest.mark.parametrize("part", range(PARTS))
@pytest.mark.parametrize("step", OFFERS, ids=lambda step: step.shown)
def test_no_word_behind_a_typed_line_is_dropped(step: Step, part: int, tmp_path: Path) -> None:
    desk = opened_at(step, tmp_path)
    assert lost(desk, typed_in_tests()[part::PARTS]) == []
    desk.close()
