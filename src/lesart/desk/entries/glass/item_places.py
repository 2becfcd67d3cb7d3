"""Items of a face moved by keys: by a step, to the next line of alignment, to equal distances."""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.glass.faces.arrange import ACROSS, DOWN
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Bar, Item, Label, size_of
from lesart.core.glass.faces.shapes import Shape
from lesart.core.glass.panels.panel import Panel
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.glass.leaves import selected_item
from lesart.desk.in_front import panel_in_front
from lesart.desk.state import State
from lesart.project.text import Editor

Span = tuple[int, int]
"""First cell or pixel, and how many."""
LARGE_STEP = 8
"""Step in pixels for an item without letters: a byte of the frame."""
FEWEST = 3
"""Fewest items for equal distances."""


def moved_by(editor: Editor, state: State, right: int, down: int, *, by_cell: bool = False) -> Edited:
    """The text with the selected item moved by cells or pixels, within the panel; on pixels ``by_cell`` by those of a
    letter."""
    face, index = selected_item(state)
    panel, item = panel_in_front(state), face.items[index]
    across, high = _cell(item, panel) if by_cell else (1, 1)
    width, height = size_of(item, panel)
    row = min(max(item.row + down * high, 0), max(panel.rows - height, 0))
    column = min(max(item.column + right * across, 0), max(panel.columns - width, 0))
    return placed(editor, state, face, index, row, column)


def _cell(item: Item, panel: Panel) -> tuple[int, int]:
    if panel.grid is None:
        return 1, 1
    if isinstance(item, Bar | Shape):
        return LARGE_STEP, LARGE_STEP
    font = panel.grid.font(item.font)
    return font.pitch or font.widest + font.gap, font.height


def aligned(editor: Editor, state: State) -> Edited:
    """The text with the selected item aligned left, then centred, then right."""
    face, index = selected_item(state)
    panel, item = panel_in_front(state), face.items[index]
    room = max(panel.columns - size_of(item, panel)[0], 0)
    stops = [0, room // 2, room]
    later = [stop for stop in stops if stop > item.column]
    column = later[0] if later else 0
    return placed(editor, state, face, index, item.row, column)


def snapped(editor: Editor, state: State, right: int, down: int) -> Edited:
    """The text with the item at the next edge, middle, or line of another item.

    Raises RequestError where there is none.
    """
    face, index = selected_item(state)
    panel, item = panel_in_front(state), face.items[index]
    width, height = size_of(item, panel)
    is_pixels = panel.grid is not None
    others = [(each, size_of(each, panel)) for place, each in enumerate(face.items) if place != index]
    row, column = item.row, item.column
    if right:
        spans = [(each.column, size[0]) for each, size in others]
        column = _next(_stops(panel.columns, width, spans, ACROSS[is_pixels]), column, right)
    else:
        spans = [(each.row, size[1]) for each, size in others]
        row = _next(_stops(panel.rows, height, spans, DOWN[is_pixels]), row, down)
    return placed(editor, state, face, index, row, column)


def _stops(room: int, size: int, others: Iterable[Span], gap: int) -> set[int]:
    """Positions at which an item of a size is aligned with the panel or with another item, or next to it."""
    found = {0, (room - size) // 2, room - size}
    for first, length in others:
        behind = first + length
        found |= {first, behind - size, first + (length - size) // 2, behind + gap, first - gap - size}
    return {stop for stop in found if 0 <= stop <= room - size}


def _next(stops: Iterable[int], at: int, way: int) -> int:
    further = [stop for stop in stops if (stop - at) * way > 0]
    if not further:
        raise RequestError("There is nothing further that way to line up with.")
    return min(further, key=lambda stop: abs(stop - at))


def spread(editor: Editor, state: State) -> Edited:
    """The text with equal distances between the items beside the selected one, or else between all items one below the
    other. The first and the last one stay. Raises RequestError where there are fewer than three."""
    face, index = selected_item(state)
    panel = panel_in_front(state)
    boxes = [(item.column, item.row, *size_of(item, panel)) for item in face.items]
    _, top, _, height = boxes[index]
    beside = [place for place, (_, y, _, high) in enumerate(boxes) if y < top + height and top < y + high]
    across = len(beside) >= FEWEST
    chosen = beside if across else list(range(len(boxes)))
    if len(chosen) < FEWEST:
        raise RequestError(f"Equal distances need {FEWEST} items; there are {len(chosen)}.")
    axis = 0 if across else 1
    spans = {place: (boxes[place][axis], boxes[place][axis + 2]) for place in chosen}
    found = _equal(spans, frozenset(place for place in chosen if face.items[place].pinned))
    if found is None:
        raise RequestError("They overlap, or there are fewer than three below each other; move one first.")
    text = state.history.text
    counted = _counted_from(panel)
    for place, first in found.items():
        if first != spans[place][0]:
            key = ("faces", face.name, "items", place, "column" if across else "row")
            text = editor.with_value(text, key, first + counted)
    where = "beside" if across else "below"
    return Edited(text, f"{len(found)} items {where} each other at equal distances")


def _equal(spans: dict[int, Span], pinned: frozenset[int]) -> dict[int, int] | None:
    """Where each begins, so that all distances are the same to a cell; those that begin together stay together, those
    that are pinned stay where they are, and the distances are the same from one to the next of them.

    None where they overlap, or there is nothing between the first and the last.
    """
    groups: list[list[int]] = []
    for place in sorted(spans, key=lambda each: spans[each]):
        if groups and spans[place][0] == spans[groups[-1][0]][0]:
            groups[-1].append(place)
        else:
            groups.append([place])
    if len(groups) < FEWEST:
        return None
    stays = [0, *(at for at in range(1, len(groups) - 1) if pinned & set(groups[at])), len(groups) - 1]
    found: dict[int, int] = {}
    for first, last in itertools.pairwise(stays):
        between = _between(groups[first : last + 1], spans)
        if between is None:
            return None
        found |= between
    return found


def _between(groups: list[list[int]], spans: dict[int, Span]) -> dict[int, int] | None:
    """Positions between the first and the last, which stay; None where there is no room."""
    lengths = [max(spans[place][1] for place in group) for group in groups]
    start, last = spans[groups[0][0]][0], spans[groups[-1][0]][0]
    spare = last - start - sum(lengths[:-1])
    if spare < 0:
        return None
    found: dict[int, int] = {}
    at = start
    for number, group in enumerate(groups):
        found |= dict.fromkeys(group, at + spare * number // (len(groups) - 1))
        at += lengths[number]
    return found


def placed(editor: Editor, state: State, face: Face, index: int, row: int, column: int) -> Edited:
    """The text with the item at a row and column, counted from 0."""
    counted = _counted_from(panel_in_front(state))
    text, key = state.history.text, ("faces", face.name, "items", index)
    item = replace(face.items[index], row=row, column=column)
    if item.row != face.items[index].row:
        text = editor.with_value(text, (*key, "row"), row + counted)
    text = editor.with_value(text, (*key, "column"), column + counted)
    what = item.named() if not isinstance(item, Label) else f'"{item.text}"'
    return Edited(text, f"{what} at row {row + counted}, column {column + counted}", (*key, "column"))


def _counted_from(panel: Panel) -> int:
    return panel.counted_from
