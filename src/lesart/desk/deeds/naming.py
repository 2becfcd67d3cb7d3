"""Renaming or copying what is looked at: a channel, a panel, a face, a part, a variant."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.desk.deeds.variants import rename_variant
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.desk.in_front import VARIANTS, looked_at
from lesart.project import naming


def rename(desk: Desk, typed: str) -> None:
    """Rename what is looked at, and every mention of it."""
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
    """Copy what is looked at under another name."""
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
    """Take the edit in, and look at what has the new name."""
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
