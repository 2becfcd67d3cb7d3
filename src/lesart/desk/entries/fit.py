"""``+`` in Fit: rules of the field in front, said in a line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import WIDEST
from lesart.core.fit.inspect import fits, width_that_shows
from lesart.core.glass.faces.items import FieldItem, size_of
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import Written
from lesart.desk.entries.aloud.instead.rules import done_otherwise
from lesart.desk.entries.aloud.rules import BEYOND, OUTSIDE, rules_said
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.laws.reach import with_own_room
from lesart.desk.state import State
from lesart.project.check import check_project
from lesart.project.model import Channel
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.inspect import field_key

HOW = "say rules, like 2 decimals, 6 wide, leading zeros, in °F"


def add_rules(editor: Editor, state: State, typed: str) -> Edited:
    """The text with typed rules, each set where it is at home: with the field or with the channel.

    Raises RequestError for anything else.
    """
    channel = state.chosen
    said = rules_said(typed, channel.unit)
    if said and said.get("unit_text") == f" {channel.unit}":  # a blank before whatever unit it is shown in
        shown = state.field_in_front[2].field if state.field_in_front is not None else channel.field
        said["unit_text"] = f" {shown.unit_shown}"
    if not said and (how := done_otherwise(typed)):
        raise RequestError(f'"{typed.strip()}" is not a rule of a field; {how}.')
    if not said:
        names = ", ".join(each.title for each in FIELD)
        raise RequestError(f'"{typed.strip()}" is not a rule of a field; {HOW}, or one by its name: {names}.')
    front, text = state.field_in_front, state.history.text
    wider = _wider(state, front, said) if front is not None else 0
    said = {**said, **({"width": wider} if wider else {})}
    # A channel on no panel yet has a field of its own, which the margin shows and the first item takes over.
    keys = {OUTSIDE: channel.key(OUTSIDE)} | {
        name: field_key(channel, front[1], front[2], name) if front is not None else (*channel.key("fit"), name)
        for name in said
        if name != OUTSIDE
    }
    for name, value in said.items():
        if name == "unit" and value == "" and value_at(state.project.tables, keys[name]) is None:
            continue  # in its own unit already
        text = editor.with_value(text, keys[name], value)
    text = _others_wider(editor, state, text, said)
    titles = {each.name: each.title for each in (*FIELD, BEYOND)}
    if text == state.history.text:
        now = ", ".join(f"{titles[name]} {_shown(name, value, channel)}" for name, value in said.items())
        raise RequestError(f"{channel.name}: {now}, as it is already.")
    if not channel.variant:
        project = check_project(text, state.project)
        text = with_own_room(editor, text, project, project.channels[channel.name])
    told = ", ".join(f"{titles[name]} {_shown(name, value, channel)}" for name, value in said.items())
    told += ", so that it fits" if wider else ""
    return Edited(text, f"{channel.name}: {told}", keys[next(iter(said))])


def _shown(name: str, value: Written, channel: Channel) -> str:
    if name == "unit" and value == "":
        return str(channel.unit)
    written = str(value)
    return "none" if not written else f'"{written}"' if written != written.strip() else written


def _others_wider(editor: Editor, state: State, text: str, said: Mapping[str, Written]) -> str:
    """The text with as many cells for the channel's fields elsewhere as the rules need that they share."""
    if state.field_in_front is None:
        return text
    in_front = state.field_in_front[2]
    for name in state.project.panels_showing(state.channel):
        for face, item in state.seen.fields_on(name, state.channel):
            shared = {rule: value for rule, value in said.items() if rule not in item.own_keys and rule != "width"}
            wider = 0 if item is in_front else _wider(state, (name, face.name, item), shared)
            if wider:
                text = editor.with_value(text, field_key(state.chosen, face.name, item, "width"), wider)
    return text


def _wider(state: State, front: tuple[str, str, FieldItem], said: Mapping[str, Written]) -> int:
    """Cells that the field needs with these decimals or this unit, where it has too few and there is room before the
    next item; 0 where nothing has to, or can, be done."""
    (name, face_name, item), channel = front, state.chosen
    panel = state.project.panels[name]
    longer: dict[str, Any] = {rule: said[rule] for rule in ("decimals", "unit_text") if rule in said}
    if not longer or "width" in said or "width" not in item.own_keys:
        return 0
    field = replace(item.field, **longer)
    if not field.is_number or fits(field, channel.lowest, channel.highest, panel.joined):
        return 0
    behind = [
        each.column
        for each in state.project.faces[face_name].items
        if each.column > item.column and each.row <= item.row < each.row + size_of(each, panel)[1]
    ]
    room = min([panel.columns, *behind]) - item.column
    # On pixels a cell is as wide as a letter.
    widths = [cells for cells in range(field.width + 1, WIDEST + 1) if _across(item, panel, cells) <= room]
    return width_that_shows(field, channel.lowest, channel.highest, panel.joined, widths)


def _across(item: FieldItem, panel: Panel, cells: int) -> int:
    """Columns that the field takes with so many cells."""
    return size_of(replace(item, field=replace(item.field, width=cells)), panel)[0]
