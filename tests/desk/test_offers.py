"""All that is offered can be taken: every choice, in every place, makes a project that opens."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.offers import OFFERS, SAYS
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.shown.displays import displays
from lesart.desk.opening import open_desk
from lesart.desk.state import LEAVES
from lesart.study.views import Offer
from lesart.tui.widgets.offers import narrowed, token_of
from tests.small import UNITS, make_small

BY_LEAF = (Step.WIRE, Step.GLASS)
"""Steps whose leaves offer different things."""
SIGNAL_LINES = {recipe.begins for recipe in SIGNALS.values()}
"""What a channel may be: whether the capture has such values is another matter, and tried with the recipes."""
GROUP = {"": "", "=": "new = ", ">": "node.gnd > ", " through ": "node.a3 > node.gnd through ", "<": "new < "}
"""What stands before a choice behind each sign."""


def taken(desk: Desk, line: str) -> str:
    """Empty where the line is taken; then it is undone. Else why not."""
    state, before = desk.state, desk.state.history.text
    desk.add(line)
    if desk.state.message_is_fault:
        return f"{line}: {desk.state.message}"
    assert desk.state.history.text != before, line
    desk.undo()
    assert desk.state.history.text == before
    desk.state = state  # the panel that was in front
    return ""


@pytest.mark.long
@pytest.mark.parametrize("step", [step for step in OFFERS if step is not Step.LAW], ids=str)
def test_every_choice_of_the_yard_can_be_taken(step: Step, desk: Desk) -> None:
    """In every leaf that offers something."""
    desk.open_step(step)
    leaves = LEAVES[step] if step in BY_LEAF else LEAVES.get(step, ())[:1] or ("",)
    count = 0
    tried_before: set[str] = set()
    later = tuple(desk.state.project.channels)[5:]
    for leaf in leaves:
        if leaf:
            desk.choose_leaf(leaf)
        desk.offer()
        for sign, offers in desk.state.offers.items():
            if sign in (">", " through ", " as "):
                continue  # every pin is a pin; whether two work together is a note, what a trace holds its decoder says
            lines = {GROUP[sign] + offer.text for offer in offers if offer.is_whole}
            # What two leaves offer alike is tried once; displays and signals are tried with the recipes.
            tried = lines - tried_before - SIGNAL_LINES - set(displays())
            # Items of the later channels differ from those of the others in nothing but the name.
            tried = {line for line in tried if not line.endswith(later)}
            tried_before |= tried
            wrong = [why for line in sorted(tried) if (why := taken(desk, line))]
            assert wrong == []
            count += len(offers)
    assert count > 0


@pytest.mark.long
def test_every_law_that_is_offered_can_be_taken(tmp_path: Path) -> None:
    """In every unit there is; those without a part say which is wanted."""
    desk, seen = open_desk(make_small(tmp_path)), set()
    for unit in UNITS:
        desk.choose_channel(f"in {unit}")
        desk.open_step(Step.LAW)
        desk.offer()
        for offer in (each for each in desk.state.offers[""] if each.text not in SIGNAL_LINES):
            seen.add(offer.text)
            why = taken(desk, offer.text)
            assert bool(why) is (not offer.is_whole), why
    assert len(seen) > 25


def test_every_kind_of_item_is_described() -> None:
    """A new one has words of its own."""
    from lesart.core.glass.faces.items import ITEMS

    assert set(SAYS) == set(ITEMS)


MENU = {
    "": (Offer("name = ", "a part", False), Offer("node.a1"), Offer("node.gnd", "ground")),
    "=": (
        Offer("thermistor", "falls with temperature"),
        Offer("two-wire sensor"),
        Offer("contact", "a thermal switch"),
    ),
    ">": (Offer("node.a1"), Offer("node.a2")),
}


@pytest.mark.parametrize(
    ("typed", "before", "word", "first"),
    [
        ("", "", "", "name = "),
        ("no", "", "no", "node.a1"),
        ("ntc = ", "ntc = ", "", "thermistor"),
        ("ntc = th", "ntc = ", "th", "thermistor"),
        ("ntc = sens", "ntc = ", "sens", "two-wire sensor"),
        ("ntc = thermal", "ntc = ", "thermal", "contact"),
        ("ntc.1 > node.a2", "ntc.1 > ", "node.a2", "node.a2"),
        ("ntc = zzz", "ntc = ", "zzz", None),
    ],
)
def test_the_list_narrows(typed: str, before: str, word: str, first: str | None) -> None:
    """By the word that is being typed, behind the last sign: its beginning, its middle, then what it says."""
    assert token_of(MENU, typed)[:2] == (before, word)
    found = narrowed(MENU, typed)
    assert (found[0].text if found else None) == first
