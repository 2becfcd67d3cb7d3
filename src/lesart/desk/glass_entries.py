"""Entries of Glass added, taken away and moved: panels and faces, items, glyphs; each a changed text."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from lesart.core.errors import RequestError
from lesart.core.glass.catalogue import CATALOGUE, named
from lesart.core.glass.face import Face
from lesart.core.glass.items import ITEMS, Label, size_of, width_of
from lesart.core.glass.panel import CharacterPanel, Panel, PixelPanel, SegmentPanel
from lesart.core.glass.pixel_panel import DEFAULT_FONT, font_named
from lesart.core.glyphs.charsets import SETS
from lesart.core.notes import Key
from lesart.desk.arranging import TURN, arranged, refitted, with_face_in_turn
from lesart.desk.changed import Changed
from lesart.desk.state import State
from lesart.project.bdf_read import read_bdf
from lesart.project.charsets import charset_table
from lesart.project.text import Editor, value_at

HOW = "write field, bar, trend or alarm and a CHANNEL, label TEXT, box, face NAME, arrange, or refit PANEL"
PANEL_HOW = f"write one of {', '.join(CATALOGUE)}, and a name behind it"
LEAST_BAR = 4
EMPTY_DRAWING = "/".join(["....."] * 7)


def panel_in_front(state: State) -> Panel:
    """The panel brought forward. Raises RequestError where the project has none."""
    panels = state.project.panels
    if not panels:
        raise RequestError("The project has no panel; + on the leaf of panels there are adds one.")
    return panels.get(state.panel) or next(iter(panels.values()))


def face_in_front(state: State) -> Face | None:
    """The face of that panel that is worked on."""
    faces = state.project.faces_on(panel_in_front(state).name)
    return next((face for face in faces if face.name == state.face), faces[0] if faces else None)


def add_entry(editor: Editor, state: State, typed: str, folder: Path) -> Changed:
    """What ``+`` means on the leaf that is turned up."""
    leaf = state.leaf_of(7)
    if leaf == "panels there are" or named(typed) is not None:
        return _add_panel(editor, state, typed)
    if leaf == "glyphs":
        return _add_glyph(editor, state, typed)
    if leaf == "panel":
        return _add_set(editor, state, typed, folder)
    return _add_item(editor, state, typed)


def _add_panel(editor: Editor, state: State, typed: str) -> Changed:
    found = named(typed)
    if found is None:
        raise RequestError(f'"{typed.strip()}" is no panel Lesart knows; {PANEL_HOW}.')
    kind, name = found
    name = name or _free("panel", state.project.panels)
    if name in state.project.panels:
        raise RequestError(f'There is a panel "{name}" already; give this one another name.')
    text = editor.with_table(state.history.text, ("panels", name), CATALOGUE[kind])
    face = name if name not in state.project.faces else _free("face", state.project.faces)
    text = editor.with_table(text, ("faces", face), {"panel": name})
    return Changed(text, f"added: {name}, {kind}, with an empty face")


def _add_set(editor: Editor, state: State, typed: str, folder: Path) -> Changed:
    """``NAME < fonts/mine.bdf``: the glyphs of a font as a character set of the project, used by the panel in front."""
    panel = panel_in_front(state)
    name, less, file = (part.strip() for part in typed.partition("<"))
    if not isinstance(panel, CharacterPanel) or not less or not name or not file:
        raise RequestError(f'"{typed.strip()}" is no set; on a panel of characters write my set < fonts/mine.bdf.')
    if name in (*SETS, *state.project.charsets):
        raise RequestError(f'There is a character set "{name}" already; give this one another name.')
    table = charset_table(read_bdf(folder / file), file)
    text = editor.with_table(state.history.text, ("charsets", name), table)
    text = editor.with_value(text, ("panels", panel.name, "charset"), name)
    return Changed(text, f"added: {name}, {len(table)} glyphs of {file}; {panel.name} has it now")


def _free(word: str, taken: object) -> str:
    return next(name for name in (f"{word} {number}" for number in range(1, 9999)) if name not in taken)  # type: ignore[operator]


def _add_glyph(editor: Editor, state: State, typed: str) -> Changed:
    panel, letter = panel_in_front(state), typed.strip() or typed
    if isinstance(panel, PixelPanel):
        raise RequestError(f"{panel.name} draws its letters from fonts; glyphs of one's own are for other panels.")
    if len(letter) != 1 or not letter.isprintable():
        raise RequestError(f'"{typed}" is not one letter; a glyph stands for one, like ° or ♥.')
    key: Key = ("panels", panel.name, "glyphs", letter)
    if value_at(state.project.tables, key) is not None:
        raise RequestError(f'There is a glyph "{letter}" already.')
    drawing = EMPTY_DRAWING if isinstance(panel, CharacterPanel) else ""
    text = editor.with_value(state.history.text, key, drawing)
    return Changed(text, f"added: glyph {letter}; shift and arrows go to a dot, x lights it", key)


def _add_item(editor: Editor, state: State, typed: str) -> Changed:
    panel, face = panel_in_front(state), face_in_front(state)
    word, _, rest = typed.strip().partition(" ")
    rest = rest.strip()
    if word == "face":
        return _add_face(editor, state, panel, rest)
    if word in ("arrange", "refit"):
        return arranged(editor, state, panel, face, rest) if word == "arrange" else refitted(editor, state, face, rest)
    if word not in ITEMS:
        raise RequestError(f'"{typed.strip()}" is no item; {HOW}.')
    text, name = state.history.text, face.name if face else panel.name
    if face is None:
        if name in state.project.faces:
            name = _free("face", state.project.faces)
        text = editor.with_table(text, ("faces", name), {"panel": panel.name})
    rest = rest or (state.channel if word not in ("label", "box") else "text")
    if word not in ("label", "box") and rest not in state.project.channels:
        raise RequestError(f'"{rest}" is no channel; there are {", ".join(state.project.channels)}.')
    need = {"label": len(rest), "alarm": 1, "bar": LEAST_BAR, "box": 1}.get(word, 1)
    if word == "field":
        need = state.project.channels[rest].field.width
    row, column = _free_place(face, panel, need)
    counted = panel.counted_from if isinstance(panel, CharacterPanel) else 0
    room = panel.columns - column
    entry: dict[str, str | int | bool] = {"kind": word}
    if word != "box":
        entry["text" if word == "label" else "channel"] = rest
    entry |= {"row": row + counted, "column": column + counted}
    if word == "field":
        entry["width"] = min(state.project.channels[rest].field.width, _cells_in(panel, room))
    if word in ("bar", "box", "trend"):
        entry["width"] = room
    index = len(face.items) if face else 0
    text = editor.with_entry(text, ("faces", name, "items"), entry)
    return Changed(text, f"added: {word} {rest}", ("faces", name, "items", index, "column"))


def _add_face(editor: Editor, state: State, panel: Panel, name: str) -> Changed:
    name = name or _free("face", state.project.faces)
    if name in state.project.faces:
        raise RequestError(f'There is a face "{name}" already.')
    text = with_face_in_turn(editor, state, name, panel.name)
    return Changed(text, f"added: face {name}, in turn with the others for {TURN} each; f goes through them")


def _free_place(face: Face | None, panel: Panel, need: int) -> tuple[int, int]:
    """The first row with so much room behind its items, and where that begins; the roomiest one where none has it.

    On pixels below the lowest item.
    """
    items = face.items if face else ()
    if isinstance(panel, PixelPanel):
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
    """Cells of a field that a row has room for."""
    if not isinstance(panel, PixelPanel):
        return max(room, 1)
    font = font_named(DEFAULT_FONT)
    return max((room + font.gap) // (font.widest + font.gap), 1)


def selected_item(state: State) -> tuple[Face, int]:
    """The face and index of the item whose value is selected. Raises RequestError."""
    face, selected = face_in_front(state), state.selected_at(7)
    if face is None or not face.items:
        raise RequestError(f"There is no item yet; + adds one: {HOW}.")
    if selected is None or selected[:3] != ("faces", face.name, "items") or int(selected[3]) >= len(face.items):
        return face, 0
    return face, int(selected[3])


def take_entry(editor: Editor, state: State) -> Changed:
    """Without the selected item, glyph, or the panel in front with its faces."""
    leaf, text, selected = state.leaf_of(7), state.history.text, state.selected_at(7)
    panel = panel_in_front(state)
    if leaf == "glyphs":
        if selected is None or selected[2:3] != ("glyphs",):
            raise RequestError("Select a glyph; tab goes to the values.")
        return Changed(editor.without(text, selected), f"taken away: glyph {selected[3]}")
    if leaf == "items":
        face, index = selected_item(state)
        said = face.items[index].named()
        return Changed(editor.without(text, ("faces", face.name, "items", index)), f"taken away: {said}")
    if leaf != "panel":
        raise RequestError("Nothing is taken away here; an item, a glyph and a panel on their leaves can be.")
    for face in state.project.faces_on(panel.name):
        text = editor.without(text, ("faces", face.name))
    return Changed(editor.without(text, ("panels", panel.name)), f"taken away: panel {panel.name} with its faces")


def moved_by(editor: Editor, state: State, right: int, down: int) -> Changed:
    """The selected item by so many cells, within the panel."""
    face, index = selected_item(state)
    panel, item = panel_in_front(state), face.items[index]
    width, height = size_of(item, panel)
    row = min(max(item.row + down, 0), max(panel.rows - height, 0))
    column = min(max(item.column + right, 0), max(panel.columns - width, 0))
    return _placed(editor, state, face, index, row, column)


def aligned(editor: Editor, state: State) -> Changed:
    """The selected item to the left edge, then the middle, then the right edge."""
    face, index = selected_item(state)
    panel, item = panel_in_front(state), face.items[index]
    room = max(panel.columns - width_of(item, panel), 0)
    stops = [0, room // 2, room]
    later = [stop for stop in stops if stop > item.column]
    column = later[0] if later else 0
    return _placed(editor, state, face, index, item.row, column)


def _placed(editor: Editor, state: State, face: Face, index: int, row: int, column: int) -> Changed:
    panel = panel_in_front(state)
    counted = panel.counted_from if isinstance(panel, CharacterPanel) else 0
    text, key = state.history.text, ("faces", face.name, "items", index)
    item = replace(face.items[index], row=row, column=column)
    if item.row != face.items[index].row:
        text = editor.with_value(text, (*key, "row"), row + counted)
    text = editor.with_value(text, (*key, "column"), column + counted)
    what = item.named() if not isinstance(item, Label) else f'"{item.text}"'
    return Changed(text, f"{what} at row {row + counted}, column {column + counted}", (*key, "column"))


def dot_turned(editor: Editor, state: State) -> Changed:
    """The dot or segment that is looked at, of the selected glyph, lit or darkened."""
    panel, letter = panel_in_front(state), selected_glyph(state)
    key: Key = ("panels", panel.name, "glyphs", letter)
    written = str(value_at(state.project.tables, key) or "")
    if isinstance(panel, SegmentPanel):
        segments = panel.alphabet.segments
        name = segments[state.dot % len(segments)]
        mask = panel.alphabet.mask(written) ^ panel.alphabet.mask(name)
        return Changed(
            editor.with_value(state.history.text, key, panel.alphabet.names(mask)), f"{letter}: {name} turned"
        )
    rows = [list(row.ljust(5, ".")) for row in (written.split("/") + [""] * 8)[:8]]
    y, x = divmod(state.dot % 40, 5)
    rows[y][x] = "." if rows[y][x] == "#" else "#"
    drawn = "/".join("".join(row) for row in rows)
    return Changed(editor.with_value(state.history.text, key, drawn), f"{letter}: dot {x + 1} of row {y + 1} turned")


def selected_glyph(state: State) -> str:
    """The letter of the glyph that is worked on. Raises RequestError without one."""
    panel, selected = panel_in_front(state), state.selected_at(7)
    own = value_at(state.project.tables, ("panels", panel.name, "glyphs")) or {}
    if not own:
        raise RequestError(f"{panel.name} has no glyph of its own yet; + adds one by its letter.")
    if selected is not None and selected[:3] == ("panels", panel.name, "glyphs") and selected[3] in own:
        return str(selected[3])
    return str(next(iter(own)))
