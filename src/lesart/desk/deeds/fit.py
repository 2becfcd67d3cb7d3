"""Deeds in Fit: the next field of the channel, and a rule for this field alone or for all fields of the channel."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.edits import parameter_at, written_at
from lesart.desk.state import State
from lesart.study.inspect import item_key


def next_field(state: State) -> State:
    """Look at another field of the channel on the panel in front. Raises RequestError where it has no other."""
    found = state.field_in_front
    fields = state.seen.fields_on(found[0], state.channel) if found is not None else ()
    if found is None or len(fields) < 2:
        raise RequestError(
            f"{state.channel} is in one field here; + field {state.channel} in 7 Glass adds another, which may be "
            "in a unit of its own."
        )
    there = replace(state, field_place=(state.field_place + 1) % len(fields))
    front = there.field_in_front
    assert front is not None
    item = front[2]
    return there.says(
        f"field {there.field_place + 1} of {len(fields)} on {found[0]}: row {item.row}, in {item.field.unit_shown}"
    )


def own_or_channels(desk: Desk) -> None:
    """Set the selected rule for this field alone, or take it from the channel again."""

    def find() -> Edited:
        state, front = desk.state, desk.state.field_in_front
        selected = state.selected_at(Step.FIT)
        if front is None or selected is None:
            raise RequestError(
                "Select a rule; tab goes to the values. x states it for this field alone, or takes the channel's again."
            )
        panel, face, item = front
        rule = str(selected[-1])
        key = item_key(face, item, rule)
        title = parameter_at(state.project, key).title
        if rule in item.own_keys:
            text = desk.editor.without_value(state.history.text, key)
            return Edited(text, f"{title} of {state.channel} on {panel} is the channel's again", selected)
        value = written_at(state.project, key, parameter_at(state.project, key))
        text = desk.editor.with_value(state.history.text, key, value)
        return Edited(text, f"{title} of {state.channel} on {panel} is its own now", key)

    desk.change(find)
    front = desk.state.field_in_front
    selected = desk.state.selected_at(Step.FIT)
    if front is not None and selected is not None and selected[0] == "faces" and selected[-1] not in front[2].own_keys:
        desk.select((*desk.state.chosen.key("fit"), selected[-1]))
