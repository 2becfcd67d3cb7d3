"""Going to where a fact is at home: that of the selected value, else the limit of the chosen note."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.notes import Key
from lesart.study.key_places import said_at, seen_at

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def go_home(desk: Desk) -> None:
    """Open the step where it stands, and select it."""
    key = _home(desk)
    if key is None:
        desk.say("This value is at home here; H goes to where a value is taken from, or to the limit of a note.")
        return
    step, leaf = seen_at(key)
    project = desk.state.project
    if key[0] == "channels":
        desk.choose_channel(str(key[1]))
    elif key[0] in ("panels", "faces"):
        desk.choose_panel(str(key[1]) if key[0] == "panels" else project.faces[str(key[1])].panel)
        if key[0] == "faces":
            desk.state = replace(desk.state, glass=replace(desk.state.glass, face=str(key[1])))
    elif key[0] == "sources":
        reader = next((each.name for each in project.channels.values() if each.source == key[1]), "")
        if desk.state.chosen.source != key[1]:
            desk.choose_channel(reader)
    desk.state = replace(desk.state, step=step)
    if leaf:
        desk.state = desk.state.turned_to(step, leaf)
    desk.state = desk.state.select(key)
    desk.say(said_at(project, key))


def _home(desk: Desk) -> Key | None:
    state = desk.state
    selected = state.selected_at(state.step)
    home = state.project.homes.get(selected) if selected is not None else None
    if home is not None:
        return home.key
    note = desk.notes[state.note] if state.note is not None and state.note < len(desk.notes) else None
    return note.limit_at if note is not None else None
