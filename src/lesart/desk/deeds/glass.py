"""Deeds in Glass: moving or aligning an item, toggling a dot, the next face or test pattern, naming a lit line."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import LesartError, RequestError
from lesart.core.glass.bus.patterns import patterns_of
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.segment_wiring import BYTE, OPEN, POINT
from lesart.core.step import Step
from lesart.desk.deeds.fit import next_field
from lesart.desk.desk import Desk
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.glass.glyph_drawing import dot_beside
from lesart.desk.entries.glass.item_places import aligned, moved_by, snapped, spread
from lesart.desk.entries.glass.leaves import dot_turned
from lesart.desk.in_front import panel_in_front
from lesart.desk.state import State
from lesart.desk.workspace.glass.pixels import fonts_of

WAYS = {"left": (-1, 0), "right": (1, 0), "up": (0, -1), "down": (0, 1)}


def move(desk: Desk, way: str, by: str = "") -> None:
    """Move the selected item by a cell or pixel, or ``by`` a letter's cell; on the leaf of glyphs move the dot."""
    right, down = WAYS[way]
    if desk.state.step != Step.GLASS:
        desk.say("Items are moved in 7 Glass.")
        return
    if desk.state.leaf_of(Step.GLASS) == "glyphs":
        desk.turn(lambda state: dot_looked_at(state, right, down))
        return
    desk.change(lambda: moved_by(desk.editor, desk.state, right, down, by_cell=by == "cell"))


def dot_looked_at(state: State, right: int, down: int) -> State:
    """Look at another dot of the glyph that is drawn. Raises RequestError without a panel."""
    return replace(
        state, glass=replace(state.glass, dot=dot_beside(panel_in_front(state), state.glass.dot, right, down))
    )


def turn_dot(desk: Desk) -> None:
    """Light the dot or segment looked at of the selected glyph, or darken it."""
    dot = desk.state.glass.dot
    desk.change(lambda: dot_turned(desk.editor, desk.state))
    desk.turn(lambda state: replace(state, glass=replace(state.glass, dot=dot)))


def before_or_after(state: State) -> State:
    """Toggle between the face before the last edit and after it: a change shows best where two pictures alternate."""
    history = state.history
    if not history.at:
        return state.says("Nothing has been changed yet, so there is no earlier state to look at.")
    if state.glass.as_before == history.at:
        return replace(state, glass=replace(state.glass, as_before=None)).says("As it is.")
    said = f"As it was before: {history.deeds[history.at - 1]}. x shows it as it is."
    return replace(state, glass=replace(state.glass, as_before=history.at)).says(said)


def align(desk: Desk) -> None:
    """Align the selected item left, centred, then right."""
    if desk.state.step != Step.GLASS:
        desk.say("Items are aligned in 7 Glass.")
        return
    desk.change(lambda: aligned(desk.editor, desk.state))


def snap(desk: Desk, way: str) -> None:
    """Move the selected item to the next line of alignment."""
    right, down = WAYS[way]
    if desk.state.step != Step.GLASS:
        desk.say("Items are moved in 7 Glass.")
        return
    desk.change(lambda: snapped(desk.editor, desk.state, right, down))


def space_evenly(desk: Desk) -> None:
    """Space the items beside the selected one equally, or all items one below the other."""
    if desk.state.step != Step.GLASS:
        desk.say("Items are spread in 7 Glass.")
        return
    desk.change(lambda: spread(desk.editor, desk.state))


def look_closely(state: State) -> State:
    """Look closely at the pixels around the selected item, or at the whole panel again."""
    return replace(state, step=Step.GLASS, glass=replace(state.glass, close_up=not state.glass.close_up)).turned_to(
        Step.GLASS, "items"
    )


def look_from_behind(state: State) -> State:
    """Look at see-through panels from their other side, or from the front again."""
    if not any(panel.see_through for panel in state.project.panels.values()):
        return state.says("No panel here is see-through; pixels can be, on the leaf panel.")
    return replace(state, glass=replace(state.glass, from_behind=not state.glass.from_behind))


def next_place(state: State) -> State:
    """Go on: in Fit to the next field of the channel, among fonts to the next one, elsewhere to the next face.

    Raises RequestError.
    """
    if state.step is Step.FIT:
        return next_field(state)
    on_fonts = state.step is Step.GLASS and state.leaf_of(Step.GLASS) == "glyphs"
    return next_font(state) if on_fonts and panel_in_front(state).grid is not None else next_face(state)


def next_font(state: State) -> State:
    """Look at the next font, on the dots of the panel in front. Raises RequestError without a panel."""
    names = fonts_of(panel_in_front(state))
    at = names.index(state.glass.font) if state.glass.font in names else -1
    name = names[(at + 1) % len(names)]
    return replace(state, glass=replace(state.glass, font=name, font_page=0)).says(f"font {name}")


def next_face(state: State) -> State:
    """Work on the next face of the panel in front. Raises RequestError without a panel."""
    names = [face.name for face in state.project.faces_on(panel_in_front(state).name)]
    if len(names) < 2:
        return state.says("This panel has one face; + and face NAME adds another.")
    following = names[(names.index(state.glass.face) + 1) % len(names)] if state.glass.face in names else names[1]
    return replace(state, glass=replace(state.glass, face=following)).says(f"face {following}")


def next_pattern(state: State) -> State:
    """Turn to the leaf of test patterns, and there to the next pattern. Raises RequestError without a panel."""
    names = patterns_of(panel_in_front(state))
    there = state.step is Step.GLASS and state.leaf_of(Step.GLASS) == "test"
    at = names.index(state.glass.pattern) if state.glass.pattern in names else -1
    name = names[(at + 1) % len(names)] if there or at < 0 else names[at]
    return replace(state, step=Step.GLASS, glass=replace(state.glass, pattern=name, pattern_step=0)).turned_to(
        Step.GLASS, "test"
    )


def lit_line(desk: Desk, typed: str) -> None:
    """Take in which segment the present line lights; after the last one the map is written."""
    try:
        panel, found = _with_line(desk, typed.strip())
    except LesartError as error:
        desk.say(str(error), fault=True)
        return
    if len(found) < panel.wiring.bytes_a_digit * BYTE:
        said = f"Bit {len(found) - 1} lights {found[-1]}; bit {len(found)} is lit now."
        desk.turn(lambda state: replace(state, glass=replace(state.glass, lines_found=found)).says(said))
        return
    desk.turn(lambda state: replace(state, glass=replace(state.glass, lines_found=())))
    desk.change(lambda: _mapped(desk, panel, found))


def _with_line(desk: Desk, name: str) -> tuple[SegmentPanel, tuple[str, ...]]:
    """The segments found so far, with one more. Raises RequestError."""
    panel = panel_in_front(desk.state)
    if not isinstance(panel, SegmentPanel):
        raise RequestError(f"{panel.name} has no segments whose lines could be found.")
    known = (*panel.alphabet.segments, POINT, OPEN)
    if name not in known:
        raise RequestError(f'"{name}" is not a segment; type one of {" ".join(known)}, or {OPEN} where none is lit.')
    if name != OPEN and name in desk.state.glass.lines_found:
        raise RequestError(f"Bit {desk.state.glass.lines_found.index(name)} lit {name} already; look again.")
    return panel, (*desk.state.glass.lines_found, name)


def _mapped(desk: Desk, panel: SegmentPanel, found: tuple[str, ...]) -> Edited:
    missing = [each for each in panel.alphabet.segments if each not in found]
    if missing:
        raise RequestError(f"No line lit {' '.join(missing)}; begin again, or look for a broken wire.")
    text = desk.editor.with_value(desk.state.history.text, ("panels", panel.name, "order"), " ".join(found))
    return Edited(text, f"{panel.name}: bits light {' '.join(found)}")
