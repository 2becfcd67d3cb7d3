"""A face arranged by rules, or refitted to another panel: each a changed text, the original kept by a refit."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.glass.faces.arrange import arrange
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Bar, FieldItem, Item
from lesart.core.glass.faces.legibility import layout_of
from lesart.core.glass.faces.shapes import PictureItem, Shape
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import Key
from lesart.core.quantity import counted, listed, plain_number
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.typed_values import meant
from lesart.desk.state import State
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

TURN = "3 s"
"""How long each face of a panel is shown, where there are several."""
ALONE = ("panel", "lasts")
"""Rules that stay with a face; the others are taken over by a refit."""
Entry = dict[str, str | int | bool]


def arranged(editor: Editor, state: State, panel: Panel, face: Face | None, typed: str) -> Edited:
    """The text with the items of the present face placed by rules.

    Raises RequestError where there is nothing to place.
    """
    if typed:
        raise RequestError(f'"arrange {typed}" is too much; arrange alone places the items of the face in front.')
    if face is None or not face.items:
        raise RequestError("There is no item to arrange; + adds one.")
    found = arrange(face.items, panel)
    if found.dropped:
        names = ", ".join(face.items[index].named() for index in found.dropped)
        raise RequestError(f"There is no room for {names} on {panel.says()}; remove it, or pin less.")
    text = state.history.text
    for index, item in found.items.items():
        key: Key = ("faces", face.name, "items", index)
        for name, value in _place(item, panel).items():
            if _written(state, (*key, name)) != value:
                text = editor.with_value(text, (*key, name), value)
    placed = replace(face, items=tuple(found.items[index] for index in range(len(face.items))))
    return Edited(
        text, f"arranged: {counted(len(found.items), 'item')} of face {face.name}; {_compared(face, placed, panel)}"
    )


def _others(project: Project, face: Face) -> str:
    others = [name for name in project.panels if name != face.panel]
    return f"it can be refitted to {listed(others)}" if others else "+ on the leaf of panels adds another one"


def _compared(before: Face, after: Face, panel: Panel) -> str:
    """The result in words; x alternates between the two pictures."""
    old, new = layout_of(before, panel), layout_of(after, panel)
    said = f"glass used {100 * old.used:.0f} → {100 * new.used:.0f} %"
    if old.largest_mm is None or new.largest_mm is None or panel.grid is None:
        return said
    return f"{said}, largest text {plain_number(old.largest_mm, 2)} → {plain_number(new.largest_mm, 2)} mm"


def refitted(editor: Editor, state: State, face: Face | None, typed: str) -> Edited:
    """A new face on another panel with the items of the one in front, as far as there is room. Raises RequestError."""
    project = state.project
    if face is None or not face.items:
        raise RequestError("There is no face with items here that could be refitted.")
    if typed == face.panel:
        raise RequestError(f"Face {face.name} is on panel {typed} already; {_others(project, face)}.")
    if typed not in project.panels:
        hint = meant(typed, project.panels) or f"{_others(project, face)}."
        raise RequestError(f'"{typed}" is not a panel; {hint}')
    panel = project.panels[typed]
    found = arrange(face.items, panel)
    if not found.items:
        raise RequestError(f"Nothing of face {face.name} finds a place on {panel.says()}.")
    name = next(
        each
        for each in (f"{face.name} on {typed}", *(f"{face.name} on {typed} {n}" for n in range(2, 999)))
        if each not in project.faces
    )
    told = value_at(project.tables, ("faces", face.name)) or {}
    alike = {key: value for key, value in told.items() if isinstance(value, str | int | bool) and key not in ALONE}
    text = with_face_in_turn(editor, state, name, typed, alike)
    for index in sorted(found.items):
        old = value_at(project.tables, ("faces", face.name, "items", index)) or {}
        keep = {key: value for key, value in old.items() if isinstance(value, str | int | bool) and key != "font"}
        text = editor.with_entry(text, ("faces", name, "items"), {**keep, **_place(found.items[index], panel)})
    left = ", ".join(face.items[index].named() for index in found.dropped)
    said = f"; left out: {left}" if left else ""
    return Edited(text, f"refitted: face {name}, {len(found.items)} of {counted(len(face.items), 'item')}{said}")


def with_face_in_turn(editor: Editor, state: State, name: str, panel: str, alike: Entry | None = None) -> str:
    """The text with another, empty face on a panel, in turn with the present ones: after a face that stays no other one
    would ever be seen. For a refit, ``alike`` are the rules of the original, and empty faces are removed: the panel
    would be blank in their turn."""
    text, others = state.history.text, state.project.faces_on(panel)
    if alike is not None:
        for empty in (other for other in others if not other.items):
            text = editor.without(text, ("faces", empty.name))
        others = tuple(other for other in others if other.items)
    table: Entry = {"panel": panel, **(alike or {}), **({"lasts": TURN} if others else {})}
    text = editor.with_table(text, ("faces", name), table)
    for other in others:
        if not other.lasts_s:
            text = editor.with_value(text, ("faces", other.name, "lasts"), TURN)
    return text


def _place(item: Item, panel: Panel) -> Entry:
    """The keys of an item's place, as the file has them."""
    counted = panel.counted_from
    entry: Entry = {"row": item.row + counted, "column": item.column + counted}
    if isinstance(item, PictureItem):
        return entry
    if isinstance(item, Bar | Shape):
        return {**entry, "width": item.width, **({"tall": item.tall} if panel.grid is not None else {})}
    if isinstance(item, FieldItem):
        entry["width"] = item.field.width
    return {**entry, "font": item.font} if panel.grid is not None else entry


def _written(state: State, key: Key) -> object:
    return value_at(state.project.tables, key)
