"""Lines that nobody types: whatever is asked, at every place, a sentence is all that comes of them."""

from __future__ import annotations

import importlib
import pkgutil
import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.state import LEAVES
from lesart.tui import deeds
from tests.warm import open_warm

MANY = 5000
"""More digits than Python makes a whole number of, and fewer letters than a line may have."""
LONG = ("9" * MANY, "9" * 30_000, "a" * 30_000, "()" * 15_000, "1 2;" * 7_500, "x=" * 15_000, "ab " * 10_000)
ASKING: dict[str, Callable[[Desk, str], object]] = {
    "add": lambda desk, typed: desk.add(typed),
    "find": deeds.find,
    "hand": lambda desk, typed: desk.take_hand(typed),
    "why": deeds.ask_why,
    "rename": deeds.rename,
    "copy": deeds.copy,
    "lit line": deeds.lit_line,
    "tried": lambda desk, typed: deeds.try_out(desk, lambda there: there.add(typed)),
}
PLACES = [(step, leaf) for step in (None, *Step) for leaf in LEAVES.get(step, ("",))]


def asked(desk: Desk, step: Step | None, leaf: str, name: str, typed: str) -> None:
    """At a leaf of a step; what it says is a sentence, not all that was typed."""
    desk.open_step(step)
    if leaf:
        desk.state = desk.state.turned_to(step, leaf)
    text = desk.state.history.text
    deeds.with_typed(desk, ASKING[name], typed)
    assert len(desk.state.message) < 800, (step, leaf, name)
    assert desk.state.history.text == text or len(typed) < MANY, (step, leaf, name)


@pytest.mark.parametrize(("step", "leaf"), PLACES)
@pytest.mark.long
def test_a_line_without_end(step: Step | None, leaf: str, yard: Path) -> None:
    desk = open_warm(yard)
    for typed in LONG:
        for name in ASKING:
            asked(desk, step, leaf, name, typed)
    desk.close()


@pytest.mark.parametrize(("step", "leaf"), PLACES)
@pytest.mark.long
def test_what_is_offered_with_numbers_without_end(step: Step | None, leaf: str, yard: Path) -> None:
    """Each offer, its digits exchanged for thousands of them."""
    desk = open_warm(yard)
    desk.open_step(step)
    if leaf:
        desk.state = desk.state.turned_to(step, leaf)
    desk.offer()
    offers = {f"{before}{each.text}" for before, list_ in desk.state.offers.items() for each in list_}
    offers |= {f"{each} 5" for each in offers} | {f"{each} 5, 7 = 3" for each in offers}
    for offer in sorted(offers):
        if re.search(r"\d", offer):
            asked(desk, step, leaf, "add", re.sub(r"\d+", "9" * MANY, offer))
            asked(desk, step, leaf, "add", re.sub(r"\d+", "9" * 40, offer, count=1))
            desk.state = desk.state.turned_to(step, leaf) if leaf else desk.state
    desk.close()


def phrases_in(given: object) -> Iterator[str]:
    """All texts in lists and tuples of tests, with a number in them."""
    if isinstance(given, str) and re.search(r"\d", given) and len(given) < 120:
        yield given
    elif isinstance(given, list | tuple | dict):
        for each in given:
            yield from phrases_in(each)


def phrases() -> list[str]:
    """What people say, as the tests of what each step takes have it."""
    found: set[str] = set()
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name.endswith("_aloud"):
            for each in vars(importlib.import_module(f"tests.desk.{module.name}")).values():
                found.update(phrases_in(each))
                for mark in getattr(each, "pytestmark", ()):
                    found.update(phrases_in(list(mark.args[1:])))
    return sorted(found)


@pytest.mark.parametrize("step", list(Step))
@pytest.mark.long
def test_what_is_said_with_numbers_without_end(step: Step, yard: Path) -> None:
    """Each phrase that some step takes, all its numbers exchanged for thousands of digits."""
    desk = open_warm(yard)
    said = phrases()
    assert len(said) > 300
    for phrase in said:
        for name in ("add", "why"):
            desk.open_step(step)
            deeds.with_typed(desk, ASKING[name], re.sub(r"\d+", "9" * MANY, phrase))
            assert len(desk.state.message) < 1600, phrase
        while desk.state.history.at:
            desk.undo()
    desk.close()


def test_a_number_without_end_for_a_look(desk: Desk) -> None:
    """One that ended the program: which look is seen was read as a whole number of any length."""
    desk.open_step(Step.GLASS)
    deeds.ask_why(desk, "")
    for digits in (MANY, 30_000):
        deeds.ask_why(desk, "9" * digits)
        assert desk.state.message.startswith('"99999')
        assert "is not one of these looks; type " in desk.state.message
        assert len(desk.state.message) < 200
