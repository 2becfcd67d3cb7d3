"""Letters that a panel, or on pixels an item's font, has no shape for, and possible replacements."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import AlarmMark, Bar, FieldItem, Item, Label, size_of, texts_of
from lesart.core.glass.faces.shapes import Shape
from lesart.core.glass.panels.panel import Panel, PixelGrid
from lesart.core.glyphs.fonts import built_in
from lesart.core.notes import DOUBT, Key, Mend, Note
from lesart.core.step import Step

READ_AS = {
    "O": "0",
    "o": "0",
    "S": "5",
    "s": "5",
    "Z": "2",
    "z": "2",
    "I": "1",
    "l": "1",
    "B": "8",
    "g": "9",
    "q": "9",
    "G": "6",
}
"""Digits that read as letters where segments have no letter."""


def inspect_letters(face: Face, panel: Panel, item: Item, index: int) -> list[Note]:
    """One note on all of an item's letters without a shape."""
    cells = [cell for text in texts_of(item) for cell in split_cells(text, joined=panel.joined)]
    missing = sorted({cell.letter for cell in cells if not _has(panel, item, cell)})
    if not missing:
        return []
    place: Key = ("faces", face.name, "items", index)
    remedy, mend = _other_font(face, panel, index, missing) or _other_letters(panel, item, missing, place)
    return [
        Note(
            DOUBT,
            Step.GLASS,
            item.reads[0] if item.reads else None,
            f"{face.panel}: {_whose(panel, item)} has no shape for {' '.join(missing)} in the {item.named()}.",
            remedy=remedy,
            mend=mend,
            panel=face.panel,
            place=(*place, "column"),
        )
    ]


def _whose(panel: Panel, item: Item) -> str:
    if panel.grid is not None and isinstance(item, Label | AlarmMark | FieldItem):
        return f"the font {item.font}"
    return "the panel"


def _has(panel: Panel, item: Item, cell: Cell) -> bool:
    """True where the panel, or on pixels the item's font, has a shape for a cell."""
    if panel.grid is not None and not isinstance(item, Bar | Shape):
        return cell.letter in panel.grid.font(item.font).glyphs
    return panel.code(cell) is not None


def _other_letters(panel: Panel, item: Item, missing: list[str], place: Key) -> tuple[str, tuple[Mend, ...]]:
    """The text with letters that cannot be shown replaced."""
    nearest = {letter: _substitute(panel, item, letter) for letter in missing}
    swaps = ", ".join(f"{near} for {letter}" for letter, near in nearest.items() if near)
    remedy = f"write {swaps}" if swaps else "use other letters"
    if panel.slots is not None:
        remedy = f"{remedy}, or draw one of the eight glyphs"
    if not isinstance(item, Label | AlarmMark) or not all(nearest.values()):
        return remedy, ()
    text = "".join(nearest.get(letter) or letter for letter in item.text)
    return remedy, (Mend((*place, "text"), text),)


def _substitute(panel: Panel, item: Item, letter: str) -> str | None:
    """A replacement that can be shown: the other case, or the nearest letter of the set."""
    for near in (letter.swapcase(), READ_AS.get(letter, "")):
        if len(near) == 1 and near != letter and _has(panel, item, Cell(near)):
            return near
    alike = panel.substitute(letter)
    return alike if alike is not None and _has(panel, item, Cell(alike)) else None


def _other_font(face: Face, panel: Panel, index: int, missing: list[str]) -> tuple[str, tuple[Mend, ...]] | None:
    """On pixels the font nearest in size with every letter; it becomes a mend where the item still has room."""
    item, grid = face.items[index], panel.grid
    if grid is None or not isinstance(item, Label | AlarmMark | FieldItem):
        return None
    letters = {cell.letter for text in texts_of(item) for cell in split_cells(text, joined=panel.joined)}
    ascent = grid.font(item.font).ascent
    fit = [name for name, font in {**built_in(), **grid.fonts}.items() if letters <= font.glyphs.keys()]
    if not fit:
        return None
    best = min(fit, key=lambda name: (abs(grid.font(name).ascent - ascent), grid.font(name).height))
    mend = (Mend(("faces", face.name, "items", index, "font"), best),) if _has_room(face, grid, index, best) else ()
    return f"use the font {best}, which has {'it' if len(missing) == 1 else 'them'}", mend


def _has_room(face: Face, panel: PixelGrid, index: int, font: str) -> bool:
    """True where the item would still be on the panel, and over no other one."""
    item = face.items[index]
    assert isinstance(item, Label | AlarmMark | FieldItem)
    width, height = size_of(replace(item, font=font), panel)
    right, foot = item.column + width, item.row + height
    if right > panel.columns or foot > panel.rows:
        return False
    for other in (each for place, each in enumerate(face.items) if place != index):
        wide, tall = size_of(other, panel)
        beside = right <= other.column or other.column + wide <= item.column
        if not beside and item.row < other.row + tall and other.row < foot:
            return False
    return True
