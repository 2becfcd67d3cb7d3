"""Going to a value of the project: its channel, panel and face, its step and leaf, and the value selected there."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.notes import Key
from lesart.study.key_places import seen_at

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def go_to(desk: Desk, key: Key) -> None:
    """Open the place of a value, and select it."""
    step, leaf = seen_at(key)
    project = desk.state.project
    if key[0] == "channels":
        desk.choose_channel(str(key[1]))
        if key[2:3] == ("variants",):
            desk.state = replace(desk.state, variant=str(key[3]))
    elif key[0] in ("panels", "faces"):
        desk.choose_panel(str(key[1]) if key[0] == "panels" else project.faces[str(key[1])].panel)
        if key[0] == "faces":
            desk.state = replace(desk.state, glass=replace(desk.state.glass, face=str(key[1])))
    elif key[0] == "sources":
        reader = next((each.name for each in project.channels.values() if each.source == key[1]), "")
        if reader and desk.state.chosen.source != key[1]:
            desk.choose_channel(reader)
    desk.state = replace(desk.state, step=step)
    if leaf:
        desk.state = desk.state.turned_to(step, leaf)
    desk.state = desk.state.select(key)
