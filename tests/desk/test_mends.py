"""A remedy that a key applies mends: over the yard, and over a small project with random values in it."""

from __future__ import annotations

import random
import re
from pathlib import Path

import pytest

from lesart.core.notes import FAULT, Note
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.project_file import project_to_open
from lesart.study.inspect import inspect_project
from tests.figures import unsaid
from tests.small import make_small

TIMES = (0.01, 0.1, 0.5, 0.9, 1.1, 2, 10, 100)


def is_judged_from_a_trace(note: Note) -> bool:
    """A trace was recorded before the edit and stays as it is: what it differs in from then on is told, and true."""
    return "in the trace" in note.text


def saying(note: Note) -> tuple[object, ...]:
    """Where it stands and what it says, whatever its figures and names."""
    plain = re.sub(r'"[^"]*"', "", note.text)
    plain = re.sub(r"[−-]?\d[\d .,]*", "#", plain)
    return note.step, note.channel, note.panel, note.part, note.place, re.sub(r"s\b", "", plain)


def wrong_remedies(desk: Desk) -> tuple[int, list[str]]:
    """How many keys were tried, and of which the note stays, nothing changes, or a new fault comes."""
    tried, wrong = 0, []
    text, notes = desk.state.history.text, desk.notes
    faults = {saying(note) for note in notes if note.mark == FAULT}
    for note in notes:
        if not note.mend or is_judged_from_a_trace(note):
            continue
        tried += 1
        after_text = desk.editor.mended(text, note.mend)
        after = inspect_project(project_to_open(after_text, desk.state.project), desk.bench)
        new = [
            each.text
            for each in after
            if each.mark == FAULT and saying(each) not in faults and not is_judged_from_a_trace(each)
        ]
        if after_text == text or saying(note) in map(saying, after) or new:
            wrong.append(f"{note.text} | {note.remedy} | {new}")
    return tried, wrong


def other_value(value: object, chance: random.Random) -> str | None:
    """A number so many times as large, with the unit it has; None for what is not a number."""
    found = re.match(r"([-−]?\d+\.?\d*)(.*)", str(value))
    if isinstance(value, bool) or found is None:
        return None
    number = float(found[1].replace("−", "-"))
    if isinstance(value, int):
        return str(max(round(number * chance.choice(TIMES)), 0))
    return f"{number * chance.choice(TIMES):.6g}{found[2]}"


def leaves(table: object, key: tuple[str | int, ...] = ()) -> list[tuple[tuple[str | int, ...], object]]:
    """Every value of a project and its key."""
    if isinstance(table, dict):
        return [leaf for name, value in table.items() for leaf in leaves(value, (*key, name))]
    if isinstance(table, list):
        return [leaf for place, value in enumerate(table) for leaf in leaves(value, (*key, place))]
    return [(key, table)]


def spoil(desk: Desk, chance: random.Random) -> None:
    """Up to three values, each so many times as large; one that is refused stays."""
    for _ in range(chance.randint(1, 3)):
        key, value = chance.choice(leaves(desk.state.project.tables))
        typed = other_value(value, chance)
        if typed is not None:
            desk.edit(key, typed)


def test_every_sentence_of_the_yard_says_its_figure(desk: Desk) -> None:
    """What a person reads is what the note holds, to the digits that are printed."""
    assert [said for note in desk.notes if (said := unsaid(note))] == []


def test_every_remedy_of_the_yard_mends(desk: Desk) -> None:
    """As it comes, where there are faults in it on purpose."""
    tried, wrong = wrong_remedies(desk)
    assert tried >= 9
    assert wrong == []


@pytest.mark.parametrize("seed", [0, *(pytest.param(seed, marks=pytest.mark.long) for seed in (1, 2))])
def test_every_remedy_of_a_spoiled_project_mends(tmp_path: Path, seed: int) -> None:
    """Whatever stands in it, within what is allowed."""
    chance, desk, count = random.Random(seed), open_desk(make_small(tmp_path)), 0
    for _ in range(25):
        before = desk.state.history.at
        spoil(desk, chance)
        tried, wrong = wrong_remedies(desk)
        count += tried
        assert wrong == []
        assert [said for note in desk.notes if (said := unsaid(note))] == []
        for _ in range(desk.state.history.at - before):
            desk.undo()
    assert count > 10
