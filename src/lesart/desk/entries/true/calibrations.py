"""A history of calibrations: the adopted one is put away under a name, and an earlier one is adopted again."""

from __future__ import annotations

from datetime import date
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.check import read_tables
from lesart.project.model import ADOPTED, Channel
from lesart.project.tables.variants import copied, with_own
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

LEAF = "calibrations"
PARTS = ("kind", "degree", "references")
"""Keys of a calibration; tare and limits belong to the channel and stay."""
LONGEST_NAME = 40


def put_away(editor: Editor, state: State, typed: str) -> Edited:
    """The text with the adopted references under a name, so that new ones can be taken. Raises RequestError."""
    channel, name = state.chosen, typed.strip()
    if not channel.references:
        raise RequestError(f"{channel.name} has no reference to put away; + on the leaf of references records one.")
    if not name or len(name) > LONGEST_NAME or not name.isprintable() or name == ADOPTED:
        raise RequestError(f'"{typed}" cannot be a name; it is 1 to {LONGEST_NAME} letters, like spring 2026.')
    if name in _kept(state.history.text, channel):
        raise RequestError(f'There is a calibration "{name}" already; give this one another name.')
    text = _with_adopted_away(editor, state.history.text, channel, name)
    return Edited(text, f"put away: {name}; + on the leaf of references records new ones")


def _kept(text: str, channel: Channel) -> dict[str, Any]:
    found = value_at(read_tables(text), ("channels", channel.name, "calibrations"))
    return found if isinstance(found, dict) else {}


def _with_adopted_away(editor: Editor, text: str, channel: Channel, name: str) -> str:
    key = channel.key("true")
    text = with_own(editor, text, key)
    adopted = value_at(read_tables(text), key) or {}
    kept = {part: adopted[part] for part in PARTS if part in adopted}
    text = copied(editor, text, kept, ("channels", channel.name, "calibrations", name))
    for index in reversed(range(len(adopted.get("references", ())))):
        text = editor.without(text, (*key, "references", index))
    return text


def adopted_again(editor: Editor, state: State, name: str) -> Edited:
    """The text with an earlier calibration adopted, and the present one kept under its day. Raises RequestError."""
    channel, text = state.chosen, state.history.text
    wanted = _kept(text, channel).get(name)
    if wanted is None:
        raise RequestError(f'There is no calibration "{name}" any more.')
    if channel.references:
        text = _with_adopted_away(editor, text, channel, _name_for(channel, text))
    else:
        text = with_own(editor, text, channel.key("true"))
    key = channel.key("true")
    for part in ("kind", "degree"):
        if part in wanted:
            text = editor.with_value(text, (*key, part), wanted[part])
    for entry in wanted.get("references", ()):
        text = editor.with_entry(text, (*key, "references"), entry)
    text = editor.without(text, ("channels", channel.name, "calibrations", name))
    return Edited(text, f"adopted: calibration {name}")


def _name_for(channel: Channel, text: str) -> str:
    """The day of the adopted one, or ``earlier``; with a number where that name is taken."""
    day = channel.adopted.day
    plain = date.fromordinal(day).isoformat() if day is not None else "earlier"
    kept = _kept(text, channel)
    return next(name for name in (plain, *(f"{plain} {number}" for number in range(2, 999))) if name not in kept)


def named_by(key: Key | None, channel: Channel) -> str | None:
    """The earlier calibration that the selected value belongs to; None for any other value."""
    if key is None or key[:3] != ("channels", channel.name, "calibrations"):
        return None
    return str(key[3])


def without_kept(editor: Editor, state: State) -> Edited | None:
    """The text without the selected calibration; None where none is."""
    name = named_by(state.selected_at(Step.TRUE), state.chosen)
    if name is None:
        return None
    key: Key = ("channels", state.chosen.name, "calibrations", name)
    return Edited(editor.without(state.history.text, key), f"removed: calibration {name}")
