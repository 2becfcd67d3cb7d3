"""A wrong glass: whichever one thing is otherwise, the questions end at it, or at what no pattern tells from it."""

from __future__ import annotations

import time
from pathlib import Path

import pytest

from lesart.core.errors import RequestError
from lesart.core.glass.faces.face import compose
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.notes import Key
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.study.why.drawn import drawn
from lesart.study.why.of_glass import GlassSuspect, glass_suspects
from lesart.study.why.seen import seen_by
from lesart.study.why.twenty import MOST, Looked, asked_so_far, looks_of, shown_memories
from tests.small import small_project

MORE = """
[panels.four]
kind = "characters"
columns = 20
rows = 4
hookup = "4 lines"

[panels.eight]
kind = "characters"
hookup = "8 lines"

[panels.driver]
kind = "segments"
digits = 6
drive = "two-line driver"

[panels.letters]
kind = "segments"
digits = 4
segments = "14"
drive = "shift registers"

[panels.rows]
kind = "pixels"
width = 128
height = 32
bytes = "rows of eight columns"

[panels.hues]
kind = "colours"
width = 64
height = 48
offset = 2

[panels.mat]
kind = "lamps"
width = 16
height = 8
colour = "orange"

[faces.mat]
panel = "mat"

[[faces.mat.items]]
kind = "label"
text = "air"
font = "tiny 4"

[panels.paper]
kind = "inks"
width = 104
height = 212

[faces.paper]
panel = "paper"

[[faces.paper.items]]
kind = "label"
text = "lid air"
row = 9
column = 5

[[faces.paper.items]]
kind = "box"
row = 90
column = 20
width = 30
tall = 7
filled = true
colour = "red"

[faces.hues]
panel = "hues"

[[faces.hues.items]]
kind = "label"
text = "lid air"
row = 9
column = 5
colour = "orange"
"""
OWN = ("four", "eight", "driver", "letters", "rows", "hues", "mat", "paper")


@pytest.fixture(scope="module")
def yard(yard_once: Path) -> Project:
    return check_project(read_text(yard_once / FILE))


@pytest.fixture(scope="module")
def more() -> Project:
    return check_project(small_project() + MORE)


def faces_of(project: Project, panel: Panel) -> dict[str, Memory]:
    return {face.name: compose(face, panel, {}).memory for face in project.faces_on(panel.name)}


def look_of(each: GlassSuspect, memory: Memory) -> object:
    try:
        return each.look(memory)
    except ValueError:
        return None


def ends_at(panel: Panel, faces: dict[str, Memory], truth: GlassSuspect) -> tuple[list[str], int]:
    """What is left when a person picks what he sees each time, and how many questions that took."""
    picks: list[int] = []
    while True:
        began = time.thread_time()
        asked = asked_so_far(panel, faces, picks)
        assert time.thread_time() - began < 3.0  # a twentieth of a second where nothing else runs
        question = asked.question
        if question is None:
            return [each.says for each in asked.left], len(picks)
        seen = look_of(truth, question.memory)
        picks.append(next((at for at, look in enumerate(question.looks, 1) if look.frame == seen), 0))


@pytest.mark.parametrize(
    "name",
    [
        "stand",
        "door",
        "lid",
        "hues",
        "mat",
        "paper",
        *(pytest.param(name, marks=pytest.mark.long) for name in ("four", "driver", "letters")),
    ],
)
def test_the_questions_end_at_what_is_wrong(name: str, yard: Project, more: Project) -> None:
    """And what else is left looks the same whatever is shown; few questions do."""
    project = more if name in OWN else yard
    panel = project.panels[name]
    faces = faces_of(project, panel)
    memories = shown_memories(panel, faces)
    suspects = [each for each in glass_suspects(panel) if look_of(each, next(iter(memories.values()))) is not None]
    assert len(suspects) > (10 if name == "paper" else 15)
    taken = []
    # All of them take a while: some tell enough of each kind, and the likeliest are among them.
    for truth in suspects[:3] + suspects[3 :: max(len(suspects) // 4, 1)]:
        left, questions = ends_at(panel, faces, truth)
        assert truth.says in left
        by_name = {each.says: each for each in suspects}
        for memory in memories.values():
            assert len({look_of(by_name[each], memory) for each in left if each in by_name}) == 1
        taken.append(questions)
    assert max(taken) <= 9
    assert sum(taken) / len(taken) <= 4.5


@pytest.mark.parametrize("name", ["stand", "door", "lid", "hues", "mat", "paper"])
def test_what_mends_it_can_be_written(name: str, yard: Project, more: Project, yard_once: Path) -> None:
    """Every change of a suspect is a project that opens; every suspect without one says what to do."""
    text = small_project() + MORE if name in OWN else read_text(yard_once / FILE)
    panel = (more if name in OWN else yard).panels[name]
    tried: set[tuple[Key, ...]] = set()
    for each in glass_suspects(panel)[1:]:
        assert each.edits or each.remedy, each.says
        keys = tuple(key for key, _ in each.edits)
        if keys in tried:
            continue
        tried.add(keys)
        changed = text
        for key, value in each.edits:
            changed = Editor().with_value(changed, key, value)
        check_project(changed)


@pytest.mark.parametrize("name", ["lid", "mast"])
def test_a_set_up_that_is_written_shows_what_was_picked(name: str, yard: Project, yard_once: Path) -> None:
    """Where the project has a place for what the firmware tells the panel, it then looks as the bench does."""
    text, panel = read_text(yard_once / FILE), yard.panels[name]
    memory = shown_memories(panel, {})["frame and corner"]
    told = [
        each for each in glass_suspects(panel) if each.edits and each.edits[0][0][-1] in ("rows_told", "order_told")
    ]
    assert len(told) >= 2
    for each in told:
        ((key, value),) = each.edits
        other = check_project(Editor().with_value(text, key, value)).panels[name]
        assert other.seen(other.lit(memory)) == each.look(memory)


def test_what_colours_are_told_is_seen_where_it_is_written(more: Project) -> None:
    """Each lie that the project has a place for looks as its suspect does; told of itself rightly again, as it
    should."""
    panel, text = more.panels["hues"], small_project() + MORE
    memory = compose(more.faces["hues"], panel, {}).memory
    written = [
        each
        for each in glass_suspects(panel)
        if each.edits and each.edits[0][0][-1] in ("columns_off", "rows_off", "swapped", "bottom_up", "right_left")
    ]
    assert len(written) >= 30
    for each in written:
        changed = text
        for key, value in each.edits:
            changed = Editor().with_value(changed, key, value)
        other = check_project(changed).panels["hues"]
        assert other.seen(other.lit(memory)) == each.look(memory), each.says
    turned = check_project(Editor().with_value(text, ("panels", "hues", "inverts"), True)).panels["hues"]
    assert turned.seen(turned.lit(memory)) == panel.lit(memory)


def test_what_is_seen_can_be_typed(yard: Project) -> None:
    """Segments by name, rows of letters; both leave what looks so."""
    stand, door = yard.panels["stand"], yard.panels["door"]
    ones = ((stand.code_of("1"),) * 4,) if hasattr(stand, "code_of") else ((0b0000110,) * 4,)
    left = seen_by(stand, ones, "bc | bc | bc | bc", glass_suspects(stand))
    assert left[0].says == "it is as it should be"
    turned = seen_by(stand, ones, "ad | ad | ad | ad", glass_suspects(stand))
    assert turned == ()
    memory = (tuple(b"41".ljust(40)), tuple(b"".ljust(40)))
    assert "it is as it should be" in {each.says for each in seen_by(door, memory, "41", glass_suspects(door))}
    empty = seen_by(door, (tuple(b"ab".ljust(40)), tuple(b"cd".ljust(40))), "ab", glass_suspects(door))
    assert "it was set up for one row, so every second one is empty" in {each.says for each in empty}


@pytest.mark.parametrize(("name", "typed", "said"), [
    ("stand", "bc", "has 1 digit; write the lit segments of all 4"), ("stand", "bx | a | b | c", "names a segment"),
    ("door", "a | b | c", "has 3 rows, and there are 2"), ("lid", "all", "cannot be typed; pick one"),
])  # fmt: skip
def test_what_cannot_be_seen_is_a_sentence(name: str, typed: str, said: str, yard: Project) -> None:
    panel = yard.panels[name]
    with pytest.raises(RequestError, match=said):
        seen_by(panel, panel.blank(), typed, glass_suspects(panel))


@pytest.mark.parametrize("name", ["stand", "door", "lid", "letters", "hues"])
def test_looks_are_drawn_small_and_tell_apart(name: str, yard: Project, more: Project) -> None:
    """Of one width, two beside each other on a terminal, and no two looks of a question drawn the same."""
    panel = (more if name in OWN else yard).panels[name]
    for memory in shown_memories(panel, {}).values():
        looks = looks_of("x", memory, glass_suspects(panel), Looked())[:MOST]
        pictures = [drawn(look.frame) for look in looks]
        for picture in pictures:
            assert len({len(line) for line in picture}) == 1
            assert name == "letters" or len(picture[0]) <= 50
        if name == "stand":
            assert len({tuple(each) for each in pictures}) == len(pictures)
