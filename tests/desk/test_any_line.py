"""A walk by chance over lines that talk: listened to, recorded, disturbed and pulled out, while the project is edited.

After every step all that is shown is worked out; at the end what was recorded is read again.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from lesart.core.errors import LesartError
from lesart.core.step import Step
from lesart.desk.deeds.lines import toggle_all, toggle_listening, toggle_recording, toggle_survey
from lesart.desk.opening import open_desk
from lesart.desk.picture import look
from lesart.desk.state import LEAVES
from lesart.live.rig.faults import FAULTS
from lesart.live.rig.rig import Rig
from tests.cli.test_any_edit import add, change, take_away

pytestmark = [
    pytest.mark.filterwarnings("error::pytest.PytestUnhandledThreadExceptionWarning"),
    pytest.mark.filterwarnings("error::RuntimeWarning"),
]
STEPS = 30
NOW = datetime(2026, 5, 14, 8)


class Walk:
    """A desk over the yard, its rig, and the dice."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.folder, self.chance = folder, random.Random(seed)
        self.rig = self.plugged()
        self.desk = open_desk(folder)
        self.at = NOW
        self.done: list[str] = []

    def plugged(self) -> Rig:
        """All devices, talking quickly."""
        rig = Rig(self.folder / "rig", rate_hz=200.0, frames_hz=40.0)
        rig.start()
        return rig

    def replug(self) -> None:
        """Everything is pulled out for a moment."""
        self.rig.stop()
        look(self.desk)
        self.rig = self.plugged()

    def listened(self) -> None:
        """To the source of a channel by chance, no more or again."""
        self.desk.choose_channel(self.chance.choice(list(self.desk.state.project.channels)))
        self.desk.open_step(Step.RAW)
        self.chance.choice((toggle_listening, toggle_listening, toggle_all, toggle_survey))(self.desk)

    def recorded(self) -> None:
        """Begun or ended, each a second after the one before: names are by the clock."""
        self.at += timedelta(seconds=1)
        toggle_recording(self.desk, self.at)

    def moved(self) -> None:
        """About in time and on the screens."""
        chance, desk = self.chance, self.desk
        desk.open_step(chance.choice(list(Step)))
        if desk.state.step in LEAVES:
            desk.choose_leaf(chance.choice(LEAVES[desk.state.step]))
        for move in (
            lambda: desk.move_cursor(chance.choice((-50, -1, 1, 50))),
            lambda: desk.zoom(chance.choice((-1, 1))),
            lambda: desk.move_screen(chance.choice((-1, 1))),
            desk.toggle_play,
        ):
            if chance.random() < 0.4:
                move()

    def taken_back(self) -> None:
        """Or done again, or saved."""
        self.chance.choice((self.desk.undo, self.desk.undo, self.desk.redo, self.desk.save))()

    def step(self) -> None:
        """One of all that, and a look at what comes of it."""
        deeds: dict[str, Callable[[], None]] = {
            "listen": self.listened,
            "record": self.recorded,
            "fault": lambda: self.rig.fault(self.chance.choice(list(FAULTS)), 0.2),
            "replug": self.replug,
            "add": lambda: add(self.desk, self.chance),
            "change": lambda: change(self.desk, self.chance),
            "take away": lambda: take_away(self.desk, self.chance),
            "move": self.moved,
            "back": self.taken_back,
        }
        name = self.chance.choices(list(deeds), (6, 5, 4, 1, 4, 5, 1, 6, 4))[0]
        self.done.append(name)
        deeds[name]()
        look(self.desk)
        assert all(note.text for note in self.desk.notes)

    def close(self) -> None:
        """Everything stands still."""
        self.desk.lines.close()
        self.desk.close()
        self.rig.stop()


@pytest.mark.parametrize("seed", [0, *(pytest.param(seed, marks=pytest.mark.long) for seed in range(1, 30))])
def test_any_walk_over_lines_ends_in_a_picture(seed: int, yard: Path) -> None:
    """And in recordings that can be read again."""
    walk = Walk(yard, seed)
    try:
        for _ in range(STEPS):
            walk.step()
        walk.desk.save()
    except LesartError as error:
        pytest.fail(f"{walk.done}: {error}")
    finally:
        walk.close()
    again = open_desk(yard)
    look(again)
    for name in again.state.project.channels:
        again.choose_channel(name)
        look(again)
    assert all(note.text for note in again.notes)
    again.close()
