"""Going to the home of a fact: that of the selected value, else the limit of the chosen note."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.notes import Key
from lesart.desk.deeds.going import go_to
from lesart.study.key_places import said_at

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def go_home(desk: Desk) -> None:
    """Open its step, and select it."""
    key = _home(desk)
    if key is None:
        desk.say("This value is at home here; H goes to where a value is taken from, or to the limit of a note.")
        return
    go_to(desk, key)
    desk.say(said_at(desk.state.project, key))


def _home(desk: Desk) -> Key | None:
    state = desk.state
    selected = state.selected_at(state.step)
    home = state.project.homes.get(selected) if selected is not None else None
    if home is not None:
        return home.key
    note = desk.notes[state.note] if state.note is not None and state.note < len(desk.notes) else None
    return note.limit_at if note is not None else None
