"""Labels and fields next to each other in one edit, as a line of code prints them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.fit.inspect import width_that_shows
from lesart.core.glass.faces.items import Label, size_of
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT
from lesart.core.quantity import counted, listed
from lesart.core.wire.entry import free_name
from lesart.desk.entries.aloud.items import Place
from lesart.desk.entries.aloud.templates import Hole
from lesart.desk.entries.edit_result import Edited
from lesart.desk.in_front import face_in_front, panel_in_front
from lesart.desk.state import State
from lesart.project.text import Editor

Entry = dict[str, str | int | bool]
WIDEST = 40


def with_printed_line(
    editor: Editor,
    state: State,
    pieces: Sequence[str | Hole],
    place: Place | None,
    free_place: Callable[[int], tuple[int, int]],
) -> Edited:
    """The text with a printed line on the face in front, where stated or where there is room.

    Raises RequestError where there is none.
    """
    panel, face, text = panel_in_front(state), face_in_front(state), state.history.text
    if face is None:
        name = free_name(state.project.faces, panel.name)
        text = editor.with_table(text, ("faces", name), {"panel": panel.name})
    else:
        name = face.name
    entries, wide = _entries(state, panel, pieces)
    row, column = free_place(wide) if place is None else place.on(panel, wide)
    first = panel.counted_from
    if column + wide > panel.columns:
        free = counted(max(panel.columns - column, 0), "column")
        raise RequestError(
            f"{panel.says()} has {free} free in row {row + first}, and this takes {wide}; delete takes the selected "
            "item away, and + face NAME adds a page."
        )
    for entry in entries:
        at = {"row": row + first, "column": int(entry["column"]) + column + first}
        text = editor.with_entry(text, ("faces", name, "items"), {**entry, **at})
    told = listed([f"{entry['kind']} {entry.get('text') or entry['channel']}" for entry in entries])
    index = len(face.items) if face else 0
    return Edited(text, f"added: {told}, row {row + first}", ("faces", name, "items", index, "column"))


def _entries(state: State, panel: Panel, pieces: Sequence[str | Hole]) -> tuple[list[Entry], int]:
    """The entries with their columns, and the total width."""
    entries: list[Entry] = []
    at = 0
    for piece in pieces:
        if isinstance(piece, str):
            label, before = piece.strip(), len(piece) - len(piece.lstrip())
            if label:
                entries.append({"kind": "label", "text": label, "column": at + _columns(panel, before)})
            at += _columns(panel, len(piece)) if panel.grid is None else size_of(Label(piece, 0, 0), panel)[0] + 1
        else:
            entry = _field(state, panel, piece)
            entries.append({**entry, "column": at})
            at += _columns(panel, int(entry["width"]))
    return entries, at


def _field(state: State, panel: Panel, hole: Hole) -> Entry:
    """A field as wide as its range needs, or as printed where that is wider."""
    channel = state.project.channels[hole.channel]
    field = channel.field
    field = field if hole.decimals is None else replace(field, decimals=hole.decimals)
    field = replace(field, unit_text=hole.unit_text) if hole.unit_text else field
    needs = width_that_shows(field, channel.lowest, channel.highest, panel.joined, range(1, WIDEST + 1)) or field.width
    entry: Entry = {"kind": "field", "channel": hole.channel}
    entry["width"] = max(needs, (hole.width or 0) + len(field.unit_text))
    entry |= {} if hole.decimals is None else {"decimals": hole.decimals}
    return entry | ({"unit_text": hole.unit_text} if hole.unit_text else {})


def _columns(panel: Panel, cells: int) -> int:
    """Columns of a number of cells; on pixels in the default font."""
    if panel.grid is None or not cells:
        return cells
    return panel.grid.font(DEFAULT_FONT).field_width(cells) + 1
