"""The unit that a field shows: only the field changes, nothing before it."""

from __future__ import annotations

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Mend
from lesart.core.units import next_shown
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.tables.variants import with_own
from lesart.project.text import Editor
from lesart.study.inspect import field_key, item_key


def in_next_unit(editor: Editor, state: State) -> Edited:
    """The field of the chosen channel on the panel in front, or the channel's own, in the next unit people use.

    The text after the number follows where it was the unit. Raises RequestError where there is no other unit.
    """
    project, channel = state.seen, state.chosen
    front = state.field_in_front
    field, own, where = channel.field, None, ""
    if front is not None:
        panel, face, item = front
        field, own, where = item.field, (face, item), f" on {panel}"
    several = sum(len(each.fields_of(channel.name)) for each in project.faces.values()) > 1
    unit = next_shown(field.unit_shown)
    if unit is None:
        raise RequestError(f"Lesart knows no unit other than {field.unit_shown} to show {channel.name} in.")

    def key_of(rule: str) -> Key:
        if own is None:
            return (*channel.key("fit"), rule)
        # With several fields, each may have a unit of its own: only this one is changed.
        return item_key(own[0], own[1], rule) if several else field_key(channel, *own, rule)

    mends = [Mend(key_of("unit"), unit.symbol)]
    behind = field.unit_text.strip()
    if behind and behind == field.unit_shown.symbol:
        mends.append(Mend(key_of("unit_text"), field.unit_text.replace(behind, unit.symbol)[:8]))
    shown = "a plain number" if unit.symbol == "1" else unit.symbol
    text = with_own(editor, state.history.text, channel.key("fit"))
    return Edited(editor.mended(text, mends), f"{channel.name}{where} is shown in {shown}")
