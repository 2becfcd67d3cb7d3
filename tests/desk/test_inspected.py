"""Notes worked out part by part: broken off at any moment they go on, and are the same in the end."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest

from lesart.core.errors import NotWanted
from lesart.desk.desk import Desk
from lesart.desk.inspected import Inspected
from lesart.desk.opening import look_at
from lesart.project.check import check_project


def until_done(go_on: Callable[[], bool]) -> int:
    """How often it was broken off."""
    for turn in range(2000):
        try:
            if go_on():
                return turn
        except NotWanted:
            pass
    pytest.fail("it never came to an end")


def test_broken_off_within_a_part_they_come_to_an_end(yard: Path) -> None:
    """As while a capture is played: a deed comes every moment, and each time a few things more are worked out."""
    wanted = look_at(yard).notes
    desk, inspected = look_at(yard), Inspected()
    project = desk.state.project
    asked: list[bool] = []

    def once() -> bool:
        asked.append(True)
        return len(asked) < 8

    def go_on() -> bool:
        asked.clear()
        desk.bench.wanted = once
        try:
            return inspected.go_on(project, desk.bench, lambda: False)
        finally:
            desk.bench.wanted = None

    assert until_done(go_on) > 20
    assert inspected.are_of(project)
    assert inspected.last == wanted


def test_an_edit_begins_them_anew(desk: Desk) -> None:
    """Notes of the project before are those at hand, and none of them gets among the new ones."""
    inspected, bench, project = Inspected(), desk.bench, desk.state.project
    assert not inspected.go_on(project, bench, lambda: False)
    other = check_project(desk.state.history.text, project)
    assert other is not project
    assert inspected.go_on(other, bench, lambda: True)
    assert not inspected.are_of(project)
    assert inspected.last == desk.notes
