"""``+`` in Fit: rules of the field in front, said in a line."""

from __future__ import annotations

from lesart.core.errors import RequestError
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.desk.entries.aloud.rules import rules_said
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.text import Editor
from lesart.study.inspect import field_key

HOW = "say rules, as 2 decimals, 6 wide, leading zeros, in °F"


def add_rules(editor: Editor, state: State, typed: str) -> Edited:
    """Where each of them stands, with the field or with the channel. Raises RequestError for what is no rule, and
    where no panel shows the channel."""
    channel = state.chosen
    said = rules_said(typed, channel.unit)
    if not said:
        names = ", ".join(each.title for each in FIELD)
        raise RequestError(f'"{typed.strip()}" is no rule of a field; {HOW}, or one by its name: {names}.')
    front = state.field_in_front
    if front is None:
        raise RequestError("No panel shows this channel yet; 7 Glass adds a field of it to a face by +.")
    text = state.history.text
    keys = {name: field_key(channel, front[1], front[2], name) for name in said}
    for name, value in said.items():
        text = editor.with_value(text, keys[name], value)
    titles = {each.name: each.title for each in FIELD}
    if text == state.history.text:
        raise RequestError(f"{channel.name}: {titles[next(iter(said))]} is so already.")
    told = ", ".join(f"{titles[name]} {value if value != '' else 'none'}" for name, value in said.items())
    return Edited(text, f"{channel.name}: {told}", next(iter(keys.values())))
