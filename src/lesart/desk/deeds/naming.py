"""What is looked at, called otherwise or made a second time: a channel, a panel, a face, a part, a variant."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.step import Step
from lesart.desk.deeds.variants import rename_variant
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.glass import face_in_front, panel_in_front
from lesart.desk.state import State
from lesart.project import naming

VARIANTS = "variants"


def looked_at(state: State) -> tuple[str, str]:
    """The group and the name of what R and C are about. Raises RequestError where there is nothing."""
    if state.step is Step.WIRE:
        selected = state.selected_at(Step.WIRE)
        if selected is not None and selected[0] == "parts":
            return "parts", str(selected[1])
        raise RequestError("Select a part on the leaf parts of 1 Wire; tab goes to the values.")
    if state.step is Step.GLASS:
        face = face_in_front(state)
        if state.leaf_of(Step.GLASS) == "items" and face is not None:
            return "faces", face.name
        return "panels", panel_in_front(state).name
    return (VARIANTS, state.variant) if state.variant else ("channels", state.channel)


def rename(desk: Desk, typed: str) -> None:
    """Another name for what is looked at; all that mentions it follows."""
    try:
        group, old = looked_at(desk.state)
    except RequestError as error:
        desk.say(str(error), fault=True)
        return
    if group == VARIANTS:
        rename_variant(desk, typed)
        return
    before = desk.state.history

    def find() -> Edited:
        text = naming.renamed(desk.editor, before.text, desk.state.project, group, old, typed)
        return Edited(text, f"{naming.NOUNS[group]} {old} is called {typed.strip()}")

    _change(desk, find, group, typed.strip())


def copy(desk: Desk, typed: str) -> None:
    """What is looked at, a second time under another name."""
    try:
        group, old = looked_at(desk.state)
    except RequestError as error:
        desk.say(str(error), fault=True)
        return
    if group == VARIANTS:
        desk.say("V makes a new variant as the one looked at; C copies the channel itself, v goes to it.")
        return
    before = desk.state.history

    def find() -> Edited:
        text = naming.copied(desk.editor, before.text, desk.state.project, group, old, typed)
        return Edited(text, f"copied: {naming.NOUNS[group]} {old} as {typed.strip()}")

    _change(desk, find, group, typed.strip())


def _change(desk: Desk, find: Callable[[], Edited], group: str, name: str) -> None:
    """Take it, and look at what has the new name."""
    before = desk.state.history
    desk.change(find)
    if desk.state.history is before:
        return
    said = desk.state.message
    if group == "channels":
        desk.choose_channel(name)
    elif group == "panels":
        desk.choose_panel(name)
    elif group == "faces":
        desk.turn(lambda state: replace(state, glass=replace(state.glass, face=name)))
    else:
        desk.select(("parts", name, "kind"))
    desk.say(said)
