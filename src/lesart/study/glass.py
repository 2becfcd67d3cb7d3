"""Lit panels for the screen and for drawings: a frame with the panel's own colours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import singledispatch

from lesart.core.fit.cells import Cell
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import compose, face_at
from lesart.core.glass.faces.items import Item, size_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import Frame, PixelFrame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import BEHIND, PixelPanel
from lesart.core.glass.panels.pixel_panel import LIGHTS as PIXEL_LIGHTS
from lesart.core.glass.panels.pixels import mirrored
from lesart.core.glass.panels.segment_panel import BRIGHTEST, COLOURS, SegmentPanel
from lesart.core.quantity import plain_number
from lesart.draw.colours import blend
from lesart.project.model import Project
from lesart.study.views import Box, Glass

Memories = Mapping[str, Memory]
NOTHING: Memories = {}
DARK_GROUND = "#1a0b08"
PLAIN_LIT = "#e9f1ff"
"""Behind unlit segments: a smoked window, nearly black."""
RIGHT_CONTRAST = 50.0
UNLIT_LAMP, LAMP_DIM = "#17171a", 0.8
"""Between lamps, and what a dim one still seems of a bright one: nobody looks straight into those."""
UNLIT_SEGMENT, UNLIT_DOT = 0.17, 0.12
CAPITAL, DRAWN_MM = 7, 18.0
"""Dots of a capital, and the height of a digit in its drawing."""
DIM = 0.25
"""Remaining share of a display's colour with its backlight off, or its driver at the lowest step."""


@singledispatch
def glass_of(panel: Panel, frame: Frame, *, alarm: bool = False) -> Glass:
    """A frame as this panel shows it; ``alarm``: an alarm of a channel that it shows is on."""
    return Glass(panel.name, panel.says(), frame, DARK_GROUND, PLAIN_LIT, blend(DARK_GROUND, PLAIN_LIT, UNLIT_DOT))


@glass_of.register
def _(panel: SegmentPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    lit = blend(DARK_GROUND, COLOURS[panel.colour], DIM + (1 - DIM) * panel.brightness / BRIGHTEST)
    dark, dot_mm = blend(DARK_GROUND, lit, UNLIT_SEGMENT), panel.digit_mm / DRAWN_MM
    return Glass(panel.name, panel.says(), frame, DARK_GROUND, lit, dark, dot_mm=dot_mm)


@glass_of.register
def _(panel: CharacterPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    ground, ink, name = panel.light_behind(alarm=alarm)
    ground = blend("#000000", ground, DIM + (1 - DIM) * panel.backlight / 100)
    # Below the right contrast lit dots are pale; above it unlit ones turn dark too.
    lit = blend(ground, ink, min(panel.contrast / RIGHT_CONTRAST, 1.0))
    unlit = UNLIT_DOT + (1 - UNLIT_DOT) * max(panel.contrast - RIGHT_CONTRAST, 0.0) / RIGHT_CONTRAST
    shown = f"{name}, {plain_number(panel.backlight, 3)} %{', alarm' if alarm else ''}"
    return Glass(
        panel.name,
        panel.says(),
        frame,
        ground,
        lit,
        blend(ground, lit, unlit),
        light=shown,
        dot_mm=panel.digit_mm / CAPITAL,
    )


@glass_of.register
def _(panel: PixelPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    ground, lit = _light_of(panel, panel.light)
    shown = panel.light if panel.is_paper else f"{panel.light}, {plain_number(panel.backlight, 3)} %"
    stripe = (panel.stripe, *_light_of(panel, panel.stripe_light)) if panel.stripe else None
    return Glass(
        panel.name,
        panel.says(),
        panel.seen(frame) if isinstance(frame, PixelFrame) else frame,
        ground,
        lit,
        ground,
        stripe=stripe,
        round=panel.is_round,
        dot_mm=panel.pitch_mm,
        light=shown,
    )


@glass_of.register
def _(panel: ColourPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    """A frame in its own colours, all dimmed with its light."""
    share = DIM + (1 - DIM) * panel.backlight / 100
    ground, lit = (blend("#000000", f"#{bytes(each).hex()}", share) for each in shown_colours(panel))
    return Glass(
        panel.name,
        panel.says(),
        panel.seen(frame) if isinstance(frame, PixelFrame) else frame,
        ground,
        lit,
        ground,
        dot_mm=panel.pitch_mm,
        light=f"colours, {plain_number(panel.backlight, 3)} %",
        share=share,
    )


@glass_of.register
def _(panel: InkPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    """Inks on paper, which no light dims."""
    ground, lit = (f"#{bytes(each).hex()}" for each in shown_colours(panel))
    light = f"paper, {panel.third}"
    return Glass(panel.name, panel.says(), frame, ground, lit, ground, dot_mm=panel.pitch_mm, light=light)


@glass_of.register
def _(panel: LampPanel, frame: Frame, *, alarm: bool = False) -> Glass:
    """Lamps in their own colours: dimmed ones still look lit."""
    lit = f"#{bytes(panel.kept([panel.colour])[0]).hex()}"
    return Glass(
        panel.name,
        panel.says(),
        frame,
        UNLIT_LAMP,
        lit,
        UNLIT_LAMP,
        round=panel.is_round,
        dot_mm=panel.pitch_mm,
        light=f"{plain_number(panel.backlight, 3)} % bright",
        share=LAMP_DIM + (1 - LAMP_DIM) * panel.backlight / 100 if panel.backlight else 0.0,
    )


def shown_colours(panel: ColourPanel) -> tuple[list[int], list[int]]:
    """Its ground and its own colour, as its bits can represent them."""
    ground, lit = panel.kept([panel.ground, panel.colour]).tolist()
    return ground, lit


def _light_of(panel: PixelPanel, light: str) -> tuple[str, str]:
    """Colours behind its pixels and of lit ones, at the set brightness."""
    ground, lit = PIXEL_LIGHTS[light]
    share = DIM + (1 - DIM) * panel.backlight / 100
    if panel.is_self_lit:
        ground = BEHIND[panel.behind] if panel.see_through else ground
        return ground, blend(ground, lit, share)
    if panel.is_paper:
        return ground, lit
    # In front of a backlight pixels stay dark; the light gets dim.
    return blend("#000000", ground, share), blend("#000000", lit, share)


def from_behind(glass: Glass) -> Glass:
    """A see-through panel as seen from its other side."""
    if not isinstance(glass.frame, PixelFrame):
        return glass
    return replace(glass, frame=mirrored(glass.frame), says=f"{glass.says} from behind")


def focus_of(item: Item, panel: Panel) -> Box:
    """The box of an item, in pixels or cells."""
    width, height = size_of(item, panel)
    return item.column, item.row, width, height


@singledispatch
def as_seen(panel: Panel, cells: Sequence[Cell]) -> str:
    """Cells as letters that look like the panel: a missing letter is ``?``, a wrongly sent code the letter that has it,
    a mask that is not a letter ``▒``."""
    return "".join("?" if panel.code(cell) is None else cell.letter for cell in cells)


@as_seen.register
def _(panel: SegmentPanel, cells: Sequence[Cell]) -> str:
    letters = {mask: letter for letter, mask in (*panel.glyphs.items(), *panel.alphabet.shapes.items())}
    return "".join(_segments_seen(panel, cell, letters) for cell in cells)


@as_seen.register
def _(panel: PixelPanel, cells: Sequence[Cell]) -> str:
    return "".join("?" if (code := panel.code(cell)) is None else chr(code) for cell in cells)


@as_seen.register
def _(panel: CharacterPanel, cells: Sequence[Cell]) -> str:
    codes = (panel.code(cell) for cell in cells)
    return "".join("?" if code is None else panel.letter(code) for code in codes)


@singledispatch
def text_held(panel: Panel, memory: Memory) -> list[str] | None:
    """The text in a memory, row by row; None for a panel whose codes are not characters."""
    return None


@text_held.register
def _(panel: CharacterPanel, memory: Memory) -> list[str] | None:
    return ["".join(panel.letter(code) for code in row[: panel.columns]) for row in memory]


def _segments_seen(panel: SegmentPanel, cell: Cell, letters: Mapping[int, str]) -> str:
    code = panel.code(cell)
    if code is None:
        return "?"
    if cell.code is None:
        return str(cell)
    point = "." if code & panel.alphabet.point else ""
    return letters.get(code & (panel.alphabet.point - 1), "▒") + point


def all_glasses(
    project: Project,
    readings: Mapping[str, Reading],
    front: str,
    t_s: float = 0.0,
    memories: Memories = NOTHING,
    *,
    behind: bool = False,
    channel: str = "",
) -> tuple[Glass, ...]:
    """Every panel as it would look at a moment, the one brought forward first.

    ``memories`` are what panels remember by name, where a face is written over what stood there. ``behind``: those that
    are see-through are looked at from behind. Where there is no room for all, what shows ``channel`` is looked at.
    """
    names = sorted(project.panels, key=lambda name: name != front)
    glasses = []
    for name in names:
        panel, faces = project.panels[name], project.faces_on(name)
        if not faces:
            glasses.append(glass_of(panel, panel.lit(panel.blank())))
            continue
        face, since_s = face_at(faces, t_s)
        frame = compose(face, panel, readings, memories.get(name), since_s).frame
        alarm = any(readings[channel].alarms for channel in face.channels if channel in readings)
        shown = next((item for item in face.items if getattr(item, "channel", None) == channel), None)
        focus = focus_of(shown, panel) if shown is not None else None
        glasses.append(replace(glass_of(panel, frame, alarm=alarm), focus=focus))
    return tuple(
        from_behind(glass) if behind and project.panels[glass.name].see_through else glass for glass in glasses
    )
