"""A picture is made from the state and changes nothing; looking at it selects what it shows, and a key makes one."""

from __future__ import annotations

import pytest

from lesart.core.step import Step
from lesart.desk import picture
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, look, move_value, nudge_value, picture_of
from lesart.desk.state import LEAVES


@pytest.mark.long
def test_a_picture_changes_nothing(desk: Desk) -> None:
    """At every step and leaf: the state afterwards is the same object, and the picture the same twice."""
    for step in (None, *Step):
        for leaf in LEAVES.get(step, ("",)):
            desk.open_step(step)
            desk.choose_leaf(leaf)
            before = desk.state
            first, again = picture_of(desk), picture_of(desk)
            assert desk.state is before, (step, leaf)
            assert first.workspace == again.workspace, (step, leaf)


def test_looking_selects_what_the_picture_shows(desk: Desk) -> None:
    """The first value where none was selected; what was selected stays."""
    desk.open_step(Step.LAW)
    assert desk.state.selected_at(Step.LAW) is None
    seen = look(desk)
    assert desk.state.selected_at(Step.LAW) == seen.workspace.selected == seen.workspace.edits[0].key
    desk.select(seen.workspace.edits[2].key)
    assert look(desk).workspace.selected == seen.workspace.edits[2].key == desk.state.selected_at(Step.LAW)


@pytest.mark.parametrize("step", [Step.WIRE, Step.LAW, Step.CALM, Step.GLASS, Step.FIT])
def test_a_key_makes_one_picture(desk: Desk, monkeypatch: pytest.MonkeyPatch, step: Step) -> None:
    """↓ and → go by the values in sight: all that is worked out for them is the picture behind them."""
    desk.open_step(step)
    edits = look(desk).workspace.edits
    made = []
    monkeypatch.setattr(picture, "context_of", lambda *given, **named: made.append(step) or context_of(*given, **named))
    move_value(desk, 1)
    assert desk.state.selected_at(step) == edits[1].key
    assert made == []
    look(desk)
    assert made == [step]
    nudge_value(desk, 1)
    look(desk)
    assert made == [step, step]


def test_keys_faster_than_pictures_go_on_from_where_they_are(desk: Desk) -> None:
    """Twice ↓ without a picture between is two values on, and back is back."""
    desk.open_step(Step.LAW)
    edits = look(desk).workspace.edits
    move_value(desk, 1)
    move_value(desk, 1)
    assert desk.state.selected_at(Step.LAW) == edits[2].key
    move_value(desk, -2)
    assert desk.state.selected_at(Step.LAW) == edits[0].key
