"""Glass, the leaf of the panel: its values, and what follows from them."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.notes import Key
from lesart.core.quantity import counted
from lesart.desk.workspace.context import Context, label, rows_of, text
from lesart.desk.workspace.glass.pixels import panel_figures
from lesart.study.views import Line


def panel_lines(context: Context, panel: Panel) -> list[Line]:
    """Its values in rows, its faces, and what follows."""
    place: Key = ("panels", panel.name)
    lines = rows_of(context.project, place, KINDS[panel.kind].parameters)
    faces = context.project.faces_on(panel.name)
    said = ", ".join(f"{face.name}{f' for {face.lasts_s:g} s' if face.lasts_s else ''}" for face in faces)
    return [*lines, (), (label("faces in turn   "), text(said or "none")), *_what_follows(panel)]


@singledispatch
def _what_follows(panel: Panel) -> list[Line]:
    return [(label("Pace judges how it is scanned; "), text("8", "ochre"), label(" goes there."))] if panel.scan else []


@_what_follows.register
def _(panel: CharacterPanel) -> list[Line]:
    addresses = "  ".join(f"0x{address:02X}" for address in panel.addresses)
    used, room = panel.slots
    lines: list[Line] = [
        (label("rows begin at   "), text(addresses), label(f"   a line holds {counted(panel.line, 'cell')}")),
        (label("own glyphs      "), text(f"{used} of {room} slots")),
    ]
    if panel.controller(panel.rows - 1):
        lines.append((label("rows 3 and 4 are held by a second controller, on an enable line of its own"),))
    return lines


@_what_follows.register
def _(panel: PixelPanel) -> list[Line]:
    more_columns, more_rows = panel.padded(panel.width, panel.height)
    across, down = panel.columns * panel.pitch_mm, panel.rows * panel.pitch_mm
    return [
        (
            label("a frame has   "),
            text(counted(panel.frame_size, "byte")),
            label(f", {counted(more_columns, 'column')} and {counted(more_rows, 'row')} more than the glass")
            if more_columns or more_rows
            else label(", none beside those of the glass"),
        ),
        (label("the glass is  "), text(f"{across:.1f} × {down:.1f} mm")),
        *panel_figures(panel),
    ]
