"""Glass: the panel brought forward, large; its items, what it is, its own glyphs, its wiring, test patterns."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from lesart.core.glass.bus.counting import HOW as COUNT_HOW
from lesart.core.glass.bus.patterns import pattern_at, patterns_of
from lesart.core.glass.faces.face import FACE, Face, compose
from lesart.core.glass.faces.inspect_face import clashing, clashing_pixels
from lesart.core.glass.faces.items import ITEMS, Bar, FieldItem, Item, Label, TextItem, size_of, width_of
from lesart.core.glass.faces.legibility import layout_of, legibility
from lesart.core.glass.faces.panel_memory import Redraws
from lesart.core.glass.faces.shapes import PictureItem, Shape
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.entries.glass.leaves import HOW, selected_item
from lesart.desk.in_front import face_in_front
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, label, number, rows_of, text, value
from lesart.desk.workspace.glass.glyphs import glyphs_glass, glyphs_lines
from lesart.desk.workspace.glass.panel import panel_lines
from lesart.desk.workspace.glass.patterns import test_lines
from lesart.desk.workspace.glass.pixels import (
    picture_glass,
    picture_lines,
    pixel_figures,
)
from lesart.desk.workspace.glass.why import why_lines
from lesart.desk.workspace.glass.wiring import wiring_glass, wiring_lines
from lesart.project.check import check_project
from lesart.project.toml_values import value_at
from lesart.study.glass import focus_of, glass_of
from lesart.study.redraws import redraws_before
from lesart.study.tokens import token_of
from lesart.study.views import Glass, Leaf, Line, Workspace

_ADDS = {
    "items": "an item, like field CHANNEL, or a display, like four scanned digits: ",
    "panel": "character set of a font, like my set < fonts/mine.bdf: ",
    "glyphs": "letter that the new glyph stands for: ",
    "pictures": "name and file, like moon < pictures/moon.png: ",
    "test": f"a count, like {COUNT_HOW}: ",
    "panels there are": "a display, like 16×2 characters on two wires, or a panel and its name: ",
}
_ADDS_FONT = "name and file of a font, like mine < fonts/mine.bdf: "
_HINTS = {
    "items": (("shift ← →", "moves"), ("ctrl ← →", "snaps"), ("Z", "closer"), ("x", "before")),
    "glyphs": (("shift ← →", "goes to a dot"), ("x", "lights it")),
    "fonts": (("f", "next font"), (", .", "further letters")),
    "wiring": (("i", "says what is lit"),),
    "why": (("y", "which look you see"),),
    "test": (("p", "next pattern"), (", .", "its steps"), ("space", "plays it"), ("+", "a count of one's own")),
}


def build(context: Context) -> Workspace:
    """Build the open leaf, for the panel in front."""
    leaf = context.state.leaf_of(Step.GLASS)
    leaves = tuple(Leaf(name, name == leaf) for name in LEAVES[Step.GLASS])
    if not context.glasses:
        lines = kinds_lines(context, None)
        return Workspace(Step.GLASS, "what is lit", lines=tuple(lines), leaves=leaves, adds=_ADDS["panels there are"])
    panel = context.project.panels[context.glasses[0].name]
    lines = _LEAVES[leaf](context, panel)
    marks = context.numerals(Step.GLASS, panel=panel.name)
    return Workspace(
        Step.GLASS,
        f"{panel.name}, {panel.says()} {marks}",
        glass=None if leaf == "why" else _large(context, panel, leaf),
        lines=tuple(lines),
        leaves=leaves,
        adds=_ADDS_FONT if leaf == "glyphs" and panel.grid is not None else _ADDS.get(leaf, _ADDS["items"]),
        hints=(("l", "turns"), *_HINTS.get("fonts" if leaf == "glyphs" and panel.grid is not None else leaf, ())),
    )


def _large(context: Context, panel: Panel, leaf: str) -> Glass | None:
    """The panel at the cursor; on their leaves a test pattern, or the one line that is lit to find the wiring."""
    if leaf == "test":
        names, look = patterns_of(panel), context.state.glass
        name = look.pattern if look.pattern in names else names[0]
        return glass_of(panel, panel.lit(pattern_at(panel, name, look.pattern_step, look.counting)))
    if leaf == "pictures":
        return picture_glass(panel, context) if panel.grid is not None else context.glasses[0]
    if leaf in ("wiring", "glyphs"):
        large = wiring_glass(panel, context) if leaf == "wiring" else glyphs_glass(panel, context)
        return large or context.glasses[0]
    if leaf == "items" and (before := _before(context, panel)) is not None:
        return before
    face = face_in_front(context.state)
    if leaf != "items" or face is None:
        return context.glasses[0]
    if len(context.project.faces_on(panel.name)) == 1:
        return _marked_on(context.glasses[0], context, face, panel)
    # The face that is worked on, not the one whose turn it is; moving texts are as at the cursor.
    face = context.project.faces[face.name]
    glass = glass_of(panel, compose(face, panel, context.readings, None, context.state.cursor_s).frame)
    return _marked_on(glass, context, face, panel)


def _before(context: Context, panel: Panel) -> Glass | None:
    """The face before the last edit, where that is asked for; None where it did not exist."""
    history, face = context.state.history, face_in_front(context.state)
    if context.state.glass.as_before != history.at or not history.at or face is None:
        return None
    project = context.state.project
    text = history.texts[history.at - 1]
    was = context.bench.once_known(("before", token_of(project), history.at), lambda: check_project(text, project))
    if face.name not in was.faces or panel.name not in was.panels:
        return None
    then, on = was.faces[face.name], was.panels[panel.name]
    return glass_of(on, compose(then, on, context.readings, None, context.state.cursor_s).frame)


def _marked_on(glass: Glass, context: Context, face: Face, panel: Panel) -> Glass:
    """The panel with the box of the selected item marked, and cells that two items claim or that the glass cuts off."""
    focus = focus_of(face.items[selected_item(context.state)[1]], panel) if face.items else None
    close = context.state.glass.close_up
    marked = replace(glass, marked=_marked(context, face, panel), focus=focus, close=close)
    if panel.grid is None:
        return replace(marked, clashing=clashing(face, panel))
    return replace(marked, struck=clashing_pixels(face, panel))


def _marked(context: Context, face: Face, panel: Panel) -> tuple[tuple[int, int, int], ...]:
    if not face.items:
        return ()
    item = face.items[selected_item(context.state)[1]]
    if panel.grid is not None:
        width, height = size_of(item, panel)
        return tuple((row, item.column, item.column + width) for row in (item.row - 1, item.row + height))
    return ((item.row, item.column, item.column + width_of(item, panel)),)


def items_lines(context: Context, panel: Panel) -> list[Line]:
    """One row for each item: what it is, where it stands and how wide it is; under the selected one how it moves."""
    face = face_in_front(context.state)
    if face is None:
        return [
            (
                label("No face is for this panel yet; "),
                text("+", "ochre"),
                label(" makes one with its first item."),
            )
        ]
    lines: list[Line] = [(label(f"face {face.name}"),)]
    worked_on = selected_item(context.state)[1] if face.items else 0
    for index, item in enumerate(face.items):
        key: Key = ("faces", face.name, "items", index)
        named = item.named()
        has_width = isinstance(item, FieldItem | Bar | Shape | TextItem) and not isinstance(item, PictureItem)
        width = value(context.project, (*key, "width")) if has_width else text(str(width_of(item, panel)))
        lines.append(
            (
                text(f"   {named[:29]:<30}"),
                label("row "),
                value(context.project, (*key, "row")),
                label("   column "),
                value(context.project, (*key, "column")),
                label("   width "),
                width,
            )
        )
        if index == worked_on:
            lines += _details(context, key, panel)
            lines += _conventions(panel, item)
    if not face.items:
        lines.append((label("   No item yet; "), text("+", "ochre"), label(f": {HOW}.")))
    found = _redraws(context, face)
    lines += [(), *_face_lines(context, face), *_writes(context, face, found), *_figures(context, face, panel)]
    return [*lines, *pixel_figures(panel, context, face, found)]


def _figures(context: Context, face: Face, panel: Panel) -> list[Line]:
    """Viewing distance, and use of the glass."""
    read, layout = legibility(face, panel), layout_of(face, panel)
    frame = context.glasses[0].frame
    lines: list[Line] = []
    if read is not None:
        lines.append(
            (
                label("readable up to "),
                text(f"{number(read.least_m, 'm', 2)}"),
                label(", comfortably up to "),
                text(number(read.comfort_m, "m", 2)),
                label(f", by the {read.item.named()[:22]}"),
            )
        )
    gap = "—" if layout.gap is None else str(layout.gap)
    lines.append(
        (
            label("glass used "),
            text(f"{100 * layout.used:.0f} %"),
            label("   nearest items apart by "),
            text(gap),
            label("   largest text "),
            text(number(layout.largest_mm, "mm", 2)),
            *((label("   lit "), text(f"{100 * frame.lit_share:.0f} %")) if isinstance(frame, PixelFrame) else ()),
        )
    )
    return lines


def _redraws(context: Context, face: Face) -> Redraws | None:
    """Drawing statistics around the middle of the capture; None while not counted, or impossible."""
    if context.run is None or not face.channels:
        return None
    block, run, own = context.run.calm, context.run, context.state.project.faces[face.name]
    middle_s = float(block.t[len(block) // 2]) if len(block) else 0.0

    def count() -> Redraws:
        return redraws_before(context.project, context.bench, context.channel, face, middle_s)

    # In the middle of the capture and not at the cursor: moving the cursor must not wait for three hundred frames.
    what = f"redraws {token_of(own)} {context.channel.variant}"
    return context.in_time(what, context.channel, run.calm, count)


def _writes(context: Context, face: Face, found: Redraws | None) -> list[Line]:
    """The cost of drawing, and the saving by drawing only changes."""
    if found is None or not found.always:
        return []
    unit = "bytes" if context.project.panels[face.panel].grid is not None else "cells"
    return [
        (
            label(f"{unit} written a minute "),
            text(number(found.always, "", 3)),
            label("   only what changed "),
            text(number(found.changed, "", 3)),
            label("   saved "),
            text(f"{number(100 * found.saved, '', 3)} %", "verdigris"),
        )
    ]


def _face_lines(context: Context, face: Face) -> list[Line]:
    return rows_of(context.project, ("faces", face.name), FACE[1:], in_line=4, column=19)


def _details(context: Context, key: Key, panel: Panel) -> list[Line]:
    """Parameters of an item besides its place, for this panel; values set for another one are shown too."""
    told = value_at(context.project.tables, key)
    without = {"row", "column", "width", "channel"}
    without |= {"font", "tall"} - set(told) if panel.grid is None else set()
    without |= {"colour", "alarm_colour"} - set(told) if panel.grid is None or not panel.grid.planes else set()
    seldom = [each for each in ITEMS[str(told["kind"])] if each.name not in without]
    return [(label("      "), *row) for row in rows_of(context.project, key, seldom, in_line=3, column=24)]


def _conventions(panel: Panel, item: Item) -> list[Line]:
    """The position of a text as drawing libraries give it: by its upper edge, its baseline or its lower edge."""
    if panel.grid is None or not isinstance(item, Label | FieldItem):
        return []
    font = panel.grid.font(item.font)
    _, height = size_of(item, panel)
    return [
        (
            label("      its y by the upper edge "),
            text(str(item.row)),
            label(", by the base line "),
            text(str(item.row + font.ascent - 1)),
            label(", by the lower edge "),
            text(str(item.row + height - 1)),
        )
    ]


def kinds_lines(context: Context, panel: Panel | None) -> list[Line]:
    """The panels of the catalogue."""
    lines: list[Line] = [
        (label("Panels by what they are; "), text("+", "ochre"), label(" adds one; type a name after it.")),
        (),
    ]
    return [*lines, *((text(f"   {name:<28}", "ochre"), label(_said(table))) for name, table in CATALOGUE.items())]


def _said(table: object) -> str:
    assert isinstance(table, dict)
    return ", ".join(
        f"{name} {each}" for name, each in table.items() if name in ("drive", "segments", "colons", "chain")
    )


_LEAVES: dict[str, Callable[[Context, Panel], list[Line]]] = {
    "items": items_lines,
    "panel": panel_lines,
    "glyphs": lambda context, panel: glyphs_lines(panel, context),
    "pictures": picture_lines,
    "wiring": lambda context, panel: wiring_lines(panel, context),
    "test": test_lines,
    "why": why_lines,
    "panels there are": kinds_lines,
}
