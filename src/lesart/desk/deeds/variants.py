"""Deeds with variants: a new one from the one looked at, the next one, adopt, drop."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.check import read_tables
from lesart.project.model import VARYING
from lesart.project.tables.variants import FIRST, copied, free_name
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

LONGEST_NAME = 16


def next_variant(state: State) -> State:
    """Look at the next variant of the chosen channel; after the last comes the channel itself."""
    channel = state.project.channels[state.channel]
    names = ["", *(each.variant for each in channel.variants)]
    if len(names) == 1:
        return state.says(f"{channel.name} has no variant yet; V makes one.")
    at = names.index(state.variant) if state.variant in names else 0
    return looking_at(state, names[(at + 1) % len(names)])


VARIED = (Step.LAW, Step.TRUE, Step.CALM, Step.FIT)
"""Steps in which a variant may differ."""


def looking_at(state: State, variant: str, said: str = "") -> State:
    """Look at a variant of the chosen channel, or with an empty name at the channel itself."""
    selected = tuple(entry for entry in state.selected if entry[0] not in VARIED)
    looked = replace(state, variant=variant, selected=selected)
    return looked.says(said or f"{state.channel} {variant or FIRST}")


def new_variant(desk: Desk) -> None:
    """Add a variant like the one looked at, and look at it."""
    made: list[str] = []

    def find() -> Edited:
        text, name = _with_new(desk.editor, desk.state)
        made.append(name)
        return Edited(text, f"new variant {name} of {desk.state.channel}; v goes through them, a adopts")

    before = desk.state.history
    desk.change(find)
    if desk.state.history is not before:
        desk.turn(lambda state: looking_at(state, made[0], state.message))


def _with_new(editor: Editor, state: State) -> tuple[str, str]:
    text, channel = state.history.text, state.chosen
    tables = read_tables(text)
    table = value_at(tables, ("channels", channel.name))
    name = free_name(table)
    key: Key = ("channels", channel.name, "variants", name)
    text = editor.with_table(text, key, {})
    if channel.variant:
        own = value_at(tables, ("channels", channel.name, "variants", channel.variant)) or {}
        for section in VARYING:
            if section in own:
                text = copied(editor, text, own[section], (*key, section))
    return text, name


def adopt_variant(desk: Desk) -> None:
    """Make the variant looked at the channel; the old one is gone, except for undo."""

    def find() -> Edited:
        channel = desk.state.chosen
        if not channel.variant:
            raise RequestError(f"{channel.name} {FIRST} is the channel itself; v goes to a variant of it.")
        editor, text = desk.editor, desk.state.history.text
        own = value_at(read_tables(text), ("channels", channel.name, "variants", channel.variant)) or {}
        for section in VARYING:
            if section not in own:
                continue
            key: Key = ("channels", channel.name, section)
            if value_at(read_tables(text), key) is not None:
                text = _without_section(editor, text, key)
            text = copied(editor, text, own[section], key)
        text = editor.without(text, ("channels", channel.name, "variants", channel.variant))
        return Edited(text, f"adopted: {channel.name} {channel.variant}")

    desk.change(find)
    desk.turn(_to_itself)


def _without_section(editor: Editor, text: str, key: Key) -> str:
    """A text without a section: a list entry by entry from the last, a table in one go."""
    there = value_at(read_tables(text), key)
    if not isinstance(there, list):
        return editor.without(text, key)
    for index in reversed(range(len(there))):
        text = editor.without(text, (*key, index))
    return text


def drop_variant(desk: Desk) -> None:
    """Remove the variant looked at."""

    def find() -> Edited:
        channel = desk.state.chosen
        if not channel.variant:
            raise RequestError(
                f"{channel.name} {FIRST} is the channel itself and cannot be dropped; v goes to a variant."
            )
        key: Key = ("channels", channel.name, "variants", channel.variant)
        return Edited(desk.editor.without(desk.state.history.text, key), f"dropped: {channel.name} {channel.variant}")

    desk.change(find)
    desk.turn(_to_itself)


def rename_variant(desk: Desk, typed: str) -> None:
    """Rename the variant looked at."""
    name, old = typed.strip(), desk.state.variant

    def find() -> Edited:
        channel = desk.state.chosen
        if not channel.variant:
            raise RequestError(f"{channel.name} {FIRST} is the channel itself; v goes to a variant, which has a name.")
        taken = {each.variant for each in desk.state.project.channels[channel.name].variants} - {old}
        if not name or len(name) > LONGEST_NAME or name == FIRST or name in taken or not name.isprintable():
            wanted = f"it is 1 to {LONGEST_NAME} letters, and not the name of another"
            raise RequestError(f'"{typed}" cannot be a variant\'s name; {wanted}.')
        key: Key = ("channels", channel.name, "variants", old)
        return Edited(desk.editor.with_renamed(desk.state.history.text, key, name), f"{old} is called {name}")

    before = desk.state.history
    desk.change(find)
    if desk.state.history is not before:
        desk.turn(lambda state: looking_at(state, name, state.message))


def _to_itself(state: State) -> State:
    """Look at the channel where the variant looked at is gone; the message stays."""
    if not state.variant or state.chosen.variant:
        return state
    return looking_at(state, "").says(state.message, fault=state.message_is_fault)
