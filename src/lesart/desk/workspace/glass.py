"""Glass: the panel brought forward, large, and the items on it."""

from __future__ import annotations

from lesart.core.glass import panel as panels
from lesart.core.glass.face import FieldItem, Label, width_of
from lesart.core.notes import Key
from lesart.desk.views import Line, Span, Workspace
from lesart.desk.workspace.context import Context, label, rows_of, text, value
from lesart.project.text import value_at


def build(context: Context) -> Workspace:
    """One row for each item: where it stands and how wide it is."""
    if not context.glasses:
        lines: tuple[Line, ...] = (
            (text("The project has no panel yet."),),
            (label("Add one in lesart.toml under [panels], of kind segments or characters."),),
        )
        return Workspace(7, "Glass", "what is lit", lines=lines)
    front = context.glasses[0]
    panel = context.project.panels[front.name]
    place: Key = ("panels", panel.name)
    rows: list[Line] = [*rows_of(context.project, place, panels.PARAMETERS[panel.kind]), ()]
    for face in context.project.faces_on(panel.name)[:1]:
        rows.append((label(f"face {face.name}"),))
        for index, item in enumerate(face.items):
            key: Key = ("faces", face.name, "items", index)
            named = f'label "{item.text}"' if isinstance(item, Label) else f"field {item.channel}"
            rows.append(
                (
                    text(f"   {named:<28}"),
                    label("row "), value(context.project, (*key, "row")),
                    label("   column "), value(context.project, (*key, "column")),
                    label("   width "),
                    value(context.project, (*key, "width")) if isinstance(item, FieldItem)
                    else Span(str(width_of(item, panel)), "text"),
                )
            )  # fmt: skip
            if isinstance(item, Label) and value_at(context.project.tables, (*key, "text")) is not None:
                rows[-1] = (*rows[-1], label("   text "), value(context.project, (*key, "text")))
    if not context.project.faces_on(panel.name):
        rows.append((label("No face is for this panel; add one in lesart.toml under [faces]."),))
    marks = context.numerals("glass", panel=panel.name)
    return Workspace(7, "Glass", f"{panel.name}, {panel.says()} {marks}", glass=front, lines=tuple(rows))
