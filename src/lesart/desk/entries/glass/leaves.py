"""Entries of Glass added, taken away and moved: panels and faces, items, glyphs; each a changed text."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import partial
from pathlib import Path

from lesart.core.errors import RequestError, UnitError
from lesart.core.glass.bus.counting import read_counting
from lesart.core.glass.bus.patterns import COUNTED
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.item_parameters import TEXTS
from lesart.core.glass.faces.items import ITEMS, ONLY_PIXELS, size_of, width_of
from lesart.core.glass.panels.catalogue import CATALOGUE, LAMPS, named, of_size
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT
from lesart.core.glyphs.charsets import SETS
from lesart.core.glyphs.fonts import FONTS
from lesart.core.notes import Key
from lesart.core.quantity import counted, plain_number
from lesart.core.step import Step
from lesart.core.units import conversion, parse_unit
from lesart.desk.entries.aloud.instead.items import done_otherwise
from lesart.desk.entries.aloud.items import item_plainly, placed
from lesart.desk.entries.aloud.readings import channel_called
from lesart.desk.entries.aloud.templates import template_said
from lesart.desk.entries.arranging import TURN, arranged, refitted, with_face_in_turn
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.glass.glyph_drawing import empty_glyph, glyph_turned
from lesart.desk.entries.glass.printed_line import with_printed_line
from lesart.desk.entries.recipes.shown.displays import display_in, with_display
from lesart.desk.entries.recipes.shown.displays_aloud import IS_DISPLAY, SIZE, driven_otherwise
from lesart.desk.entries.recipes.shown.displays_told import address_said, check_all_understood, described, told_aloud
from lesart.desk.entries.typed_values import meant
from lesart.desk.in_front import face_in_front, panel_in_front
from lesart.desk.state import State
from lesart.project.assets.bdf_read import read_bdf
from lesart.project.check import check_project
from lesart.project.naming import free_name
from lesart.project.tables.charsets import charset_table
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

HOW = (
    "write field, bar, trend, dial, spectrum or alarm and a CHANNEL, bubble A / B, picture NAME, label TEXT, "
    "text KIND, box, face NAME, arrange, or refit PANEL"
)
PANEL_HOW = f"write one of {', '.join(CATALOGUE)}, and a name after it"
LEAST_BAR, LEAST_TEXT, MOST_TEXT = 4, 8, 20
WORDS = (*ITEMS, "face", "arrange", "refit")


def add_entry(editor: Editor, state: State, typed: str, folder: Path) -> Edited:
    """Add what ``+`` means on the open leaf."""
    leaf = state.leaf_of(Step.GLASS)
    said, typed = typed, described(typed)
    if (display := display_in(typed)) is not None:
        if said != typed or display[0] == LAMPS:  # in the catalogue's words, the rest is its name
            check_all_understood(said.removesuffix(display[2]), display[0], display[1].part)
        return with_display(editor, state, typed, partial(told_aloud, said), address_said(said))
    if leaf == "panels there are" or named(typed) is not None:
        return _add_panel(editor, state, typed)
    if leaf == "pictures":
        return _add_file(editor, state, "pictures", typed, "moon < pictures/moon.png")
    if leaf == "glyphs" and panel_in_front(state).grid is not None:
        return _add_file(editor, state, "fonts", typed, "mine < fonts/mine.bdf")
    if leaf == "glyphs":
        return _add_glyph(editor, state, typed)
    if leaf == "panel":
        return _add_set(editor, state, typed, folder)
    return _add_item(editor, state, typed)


def with_count(state: State, typed: str) -> State:
    """The state with a counter to test the panel in front with; the project is unchanged. Raises RequestError."""
    counting = read_counting(typed, panel_in_front(state))
    look = replace(state.glass, pattern=COUNTED, pattern_step=0, pattern_s=0.0, counting=counting)
    said = (
        f"Counts {counting.first} to {counting.last} every {plain_number(1e3 * counting.every_s, 4)} ms; space plays."
    )
    return replace(state, glass=look).says(said)


def _add_panel(editor: Editor, state: State, typed: str) -> Edited:
    found = named(typed)
    if found is None:
        hint = meant(re.sub(r"(\d)x(\d)", r"\1×\2", typed), CATALOGUE) or f"{PANEL_HOW}."
        raise RequestError(f'"{typed.strip()}" is not a panel Lesart knows; {hint}')
    kind, name = found
    name = free_name(state.project, "panels", name or _wired(state, kind) or _free("panel", state.project.panels))
    size = SIZE.search(typed.lower())
    own = of_size(kind, int(size[1]), int(size[2])) if size else {}
    text = editor.with_table(state.history.text, ("panels", name), {**CATALOGUE[kind], **own})
    face = name if name not in state.project.faces else _free("face", state.project.faces)
    text = editor.with_table(text, ("faces", face), {"panel": name})
    added = check_project(text, state.project).panels[name].says() if own else kind
    return Edited(text, f"added: {name}, {added}, with an empty face")


def _wired(state: State, kind: str) -> str:
    """A display of the hook-up that has no panel yet and may be of this kind: the panel takes facts from it."""
    role = "segment" if CATALOGUE[kind]["kind"] == "segments" else ""
    word = {"characters": "character", "pixels": "pixel"}.get(str(CATALOGUE[kind]["kind"]), "")
    for name, part in state.project.hookup.parts.items():
        fits = any(role in pin.roles for pin in part.kind.pins) if role else word and word in part.kind.name
        if part.kind.group == "display" and fits and name not in state.project.panels:
            return name
    return ""


def _add_set(editor: Editor, state: State, typed: str, folder: Path) -> Edited:
    """``NAME < fonts/mine.bdf``: the glyphs of a font as a character set of the project, used by the panel in front."""
    panel = panel_in_front(state)
    name, less, file = (part.strip() for part in typed.partition("<"))
    takes_set = any(parameter.name == "charset" for parameter in PANELS[panel.kind].parameters)
    if not takes_set or not less or not name or not file:
        takes = "it takes a character set, my set < fonts/mine.bdf" if takes_set else "this panel takes nothing there"
        raise RequestError(
            f'"{typed.strip()}" cannot be added on the leaf panel; {takes}. Fields, labels and other items are added '
            "on the leaf items; l and L turn the leaves."
        )
    if name in SETS:
        raise RequestError(f'There is a character set "{name}" already; give this one another name.')
    free_name(state.project, "charsets", name)
    table = charset_table(read_bdf(folder / file), file)
    text = editor.with_table(state.history.text, ("charsets", name), table)
    text = editor.with_value(text, ("panels", panel.name, "charset"), name)
    return Edited(text, f"added: {name}, {counted(len(table), 'glyph')} of {file}; {panel.name} has it now")


def _add_file(editor: Editor, state: State, kind: str, typed: str, example: str) -> Edited:
    """``NAME < FILE``: a picture or font of the project; how it is read is set in its rows."""
    name, less, file = (part.strip() for part in typed.partition("<"))
    if not less or not name or not file:
        raise RequestError(f'"{typed.strip()}" names no file; write {example}.')
    if kind == "fonts" and name in FONTS:
        raise RequestError(f'There is a font "{name}" already; give this one another name.')
    free_name(state.project, kind, name)
    text = editor.with_table(state.history.text, (kind, name), {"file": file})
    return Edited(text, f"added: {kind[:-1]} {name} from {file}", (kind, name, "file"))


def _free(word: str, taken: object) -> str:
    return next(name for name in (f"{word} {number}" for number in range(1, 9999)) if name not in taken)  # type: ignore[operator]


def _add_glyph(editor: Editor, state: State, typed: str) -> Edited:
    panel, letter = panel_in_front(state), typed.strip() or typed
    if len(letter) != 1 or not letter.isprintable():
        raise RequestError(f'"{typed}" is not one letter; a glyph stands for one, like ° or ♥.')
    key: Key = ("panels", panel.name, "glyphs", letter)
    if value_at(state.project.tables, key) is not None:
        raise RequestError(f'There is a glyph "{letter}" already.')
    if not PANELS[panel.kind].has_glyphs:
        raise RequestError(f"{panel.says()} takes no custom glyphs.")
    drawing = empty_glyph(panel)
    text = editor.with_value(state.history.text, key, drawing)
    return Edited(text, f"added: glyph {letter}; shift and arrows go to a dot, x lights it", key)


def _add_item(editor: Editor, state: State, typed: str) -> Edited:
    panel, face = panel_in_front(state), face_in_front(state)
    channels = state.project.channels
    units = {name: channel.unit for name, channel in channels.items()}

    def called(words: str) -> str:
        return channel_called(words, units, state.channel)

    bare, printed_at = placed(typed.strip(), panel) if "{" in typed or "%" in typed else (typed, None)
    if (pieces := template_said(bare, channels, state.channel, called)) is not None:
        return with_printed_line(editor, state, pieces, printed_at, partial(_free_place, face, panel))
    said, (typed, place) = typed, item_plainly(typed, channels, panel, called)
    word, _, rest = typed.strip().partition(" ")
    rest = rest.strip()
    if word == "face":
        return _add_face(editor, state, panel, rest)
    if word in ("arrange", "refit"):
        return arranged(editor, state, panel, face, rest) if word == "arrange" else refitted(editor, state, face, rest)
    if word not in ITEMS and (otherwise := driven_otherwise(said)):
        raise RequestError(otherwise)
    if word not in ITEMS and (how := done_otherwise(said)):
        raise RequestError(f'"{said.strip()}" is not an item; {how}.')
    if word not in ITEMS and (IS_DISPLAY.search(typed.lower()) or SIZE.fullmatch(typed.strip().lower())):
        raise RequestError(f'"{typed.strip()}" is not a display Lesart knows; {PANEL_HOW}.')
    if word not in ITEMS:
        hint = meant(word, WORDS) or f"{HOW}."
        raise RequestError(f'"{typed.strip()}" is not an item; {hint}')
    text, name = state.history.text, face.name if face else panel.name
    if face is None:
        if name in state.project.faces:
            name = _free("face", state.project.faces)
        text = editor.with_table(text, ("faces", name), {"panel": panel.name})
    if word in ONLY_PIXELS and panel.grid is None:
        raise RequestError(f"A {word} is made of pixels; {panel.says()} has none.")
    if word not in ("label", "text", "box", "picture") and rest not in state.project.channels:
        rest = rest.removeprefix("of ")  # as the list of items says it
    rest, own_unit = _with_unit(state, rest) if word == "field" else (rest, {})
    named = _named(state, word, rest)
    rest = rest or next(iter(named.values()), "")
    need = {"label": len(rest), "text": LEAST_TEXT, "alarm": 1, "bar": LEAST_BAR, "box": 1}.get(word, 1)
    if word == "field":
        need = state.project.channels[rest].field.width
    row, column = _free_place(face, panel, need) if place is None else place.on(panel, need)
    counted = panel.counted_from
    room = panel.columns - column
    entry: dict[str, str | int | bool] = {"kind": word}
    entry |= named
    entry |= {"row": row + counted, "column": column + counted}
    if word == "field":
        entry["width"] = min(state.project.channels[rest].field.width, _cells_in(panel, room))
        entry |= own_unit
    if word == "text":
        entry["width"] = min(_cells_in(panel, room), MOST_TEXT)
    if word in ("bar", "box", "trend", "spectrum"):
        entry["width"] = room
    index = len(face.items) if face else 0
    text = editor.with_entry(text, ("faces", name, "items"), entry)
    in_unit = f" in {own_unit['unit']}" if own_unit else ""
    where = "" if place is None else f", row {row + counted}, column {column + counted}"
    return Edited(text, f"added: {word} {rest}{in_unit}{where}", ("faces", name, "items", index, "column"))


def _with_unit(state: State, rest: str) -> tuple[str, dict[str, str]]:
    """``lid air in °F``: the channel, and the field's own unit. Raises RequestError for another quantity."""
    name, in_, symbol = rest.rpartition(" in ")
    if not in_ or rest in state.project.channels or name not in state.project.channels:
        return rest, {}
    channel = state.project.channels[name]
    try:
        unit = parse_unit(symbol)
        conversion(channel.unit, unit)
    except UnitError as error:
        raise RequestError(f"{name} is read in {channel.unit}: {error}") from error
    said = channel.field.unit_text
    text = said.replace(said.strip(), unit.symbol) if said.strip() else ""
    return name, {"unit": unit.symbol, **({"unit_text": text[:8]} if text else {})}


def _named(state: State, word: str, rest: str) -> dict[str, str]:
    """The key and name of an item's subject. Raises RequestError where there is no such thing."""
    if word == "box":
        if rest:
            raise RequestError(f'"box {rest}": a box holds nothing; + label {rest} adds a text.')
        return {}
    if word == "label":
        return {"text": rest or "text"}
    if word == "text":
        if rest in TEXTS:
            return {"shows": rest}
        return {"text": rest} if rest else {}
    if word == "picture":
        pictures = state.project.tables.get("pictures") or {}
        name = rest or next(iter(pictures), "")
        if name not in pictures:
            known = ", ".join(pictures) or "none; + on the leaf of pictures adds one"
            raise RequestError(f'"{name}" is not a picture; the project has {known}.')
        return {"picture": name}
    names = [part.strip() for part in rest.split("/")] if word == "bubble" else [rest or state.channel]
    keys = ("across", "up", "sized_by") if word == "bubble" else ("channel",)
    if word == "bubble" and len(names) not in (2, 3):
        raise RequestError("A bubble is moved by two channels: write bubble A / B, and / C for its size.")
    for name in names:
        if name not in state.project.channels:
            raise RequestError(f'"{name}" is not a channel; the project has {", ".join(state.project.channels)}.')
    return dict(zip(keys, names, strict=False))


def _add_face(editor: Editor, state: State, panel: Panel, name: str) -> Edited:
    name = free_name(state.project, "faces", name or _free("face", state.project.faces))
    text = with_face_in_turn(editor, state, name, panel.name)
    return Edited(text, f"added: face {name}, in turn with the others for {TURN} each; f goes through them")


def _free_place(face: Face | None, panel: Panel, need: int) -> tuple[int, int]:
    """The first row with so much room after its items, and where that begins; the roomiest one where none has it.

    On pixels below the lowest item.
    """
    items = face.items if face else ()
    if panel.grid is not None:
        feet = [item.row + size_of(item, panel)[1] + 1 for item in items]
        foot = max(feet, default=0)
        return (foot, 0) if foot < panel.rows else (0, 0)
    starts = []
    for row in range(panel.rows):
        ends = [item.column + width_of(item, panel) for item in items if item.row == row]
        end = max(ends, default=0)
        # A blank between two items, where it costs nothing.
        starts.append(end + 1 if ends and end + 1 + need <= panel.columns else end)
    fits = [(row, start) for row, start in enumerate(starts) if start + need <= panel.columns]
    roomiest = min(enumerate(starts), key=lambda each: each[1])
    row, column = fits[0] if fits else roomiest
    return row, min(column, panel.columns - 1)


def _cells_in(panel: Panel, room: int) -> int:
    """Cells that a row has room for."""
    if panel.grid is None:
        return max(room, 1)
    font = panel.grid.font(DEFAULT_FONT)
    return max((room + font.gap) // (font.widest + font.gap), 1)


def selected_item(state: State) -> tuple[Face, int]:
    """The face and index of the item whose value is selected. Raises RequestError."""
    face, selected = face_in_front(state), state.selected_at(Step.GLASS)
    if face is None or not face.items:
        raise RequestError(f"There is no item yet; + adds one: {HOW}.")
    if selected is None or selected[:3] != ("faces", face.name, "items") or int(selected[3]) >= len(face.items):
        return face, 0
    return face, int(selected[3])


def take_entry(editor: Editor, state: State) -> Edited:
    """The text without the selected item, glyph, or the panel in front with its faces.

    Raises RequestError where there is none.
    """
    leaf, text, selected = state.leaf_of(Step.GLASS), state.history.text, state.selected_at(Step.GLASS)
    panel = panel_in_front(state)
    if selected is not None and selected[0] in ("pictures", "fonts"):
        return Edited(editor.without(text, selected[:2]), f"removed: {selected[0][:-1]} {selected[1]}")
    if leaf == "glyphs":
        if selected is None or selected[2:3] != ("glyphs",):
            raise RequestError("Select a glyph; tab goes to the values.")
        return Edited(editor.without(text, selected), f"removed: glyph {selected[3]}")
    if leaf == "items":
        face, index = selected_item(state)
        said = face.items[index].named()
        return Edited(editor.without(text, ("faces", face.name, "items", index)), f"removed: {said}")
    if leaf != "panel":
        raise RequestError("Nothing can be removed here; an item, a glyph or a panel can, on its own leaf.")
    for face in state.project.faces_on(panel.name):
        text = editor.without(text, ("faces", face.name))
    return Edited(editor.without(text, ("panels", panel.name)), f"removed: panel {panel.name} with its faces")


def dot_turned(editor: Editor, state: State) -> Edited:
    """The text with a dot or segment of the selected glyph toggled."""
    panel, letter = panel_in_front(state), selected_glyph(state)
    key: Key = ("panels", panel.name, "glyphs", letter)
    drawn, what = glyph_turned(panel, str(value_at(state.project.tables, key) or ""), state.glass.dot)
    return Edited(editor.with_value(state.history.text, key, drawn), f"{letter}: {what} turned")


def selected_glyph(state: State) -> str:
    """The letter of the glyph that is worked on. Raises RequestError without one."""
    panel, selected = panel_in_front(state), state.selected_at(Step.GLASS)
    own = value_at(state.project.tables, ("panels", panel.name, "glyphs")) or {}
    if not own:
        raise RequestError(f"{panel.name} has no glyph of its own yet; + adds one by its letter.")
    if selected is not None and selected[:3] == ("panels", panel.name, "glyphs") and selected[3] in own:
        return str(selected[3])
    return str(next(iter(own)))
