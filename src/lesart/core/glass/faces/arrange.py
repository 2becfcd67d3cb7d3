"""Placing by rules: items in rows, the important ones largest, nothing touching a neighbour at any value.

Rows keep the order of items on the face, and items side by side stay so where there is room. Fonts begin small and
grow, the most important item first, as long as everything fits. Items without a place are left out, the least important
first. Pinned items stay, and rows keep clear of them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.faces.items import Bar, FieldItem, Item, Label, size_of, texts_of
from lesart.core.glass.faces.shapes import USUAL, Box, PictureItem, Shape, Spectrum, Trend
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.panel import Panel, PixelGrid

LADDER = ("tiny 4", "text 5", "text 7", "text 10", "text 14", "numerals 14", "text 21", "numerals 21")
"""Fonts from small to large; an item uses those with all of its letters."""
OF_LABELS = LADDER[:4]
"""Fonts of a label not marked important: it must not outshine its reading."""
LEAST_BAR = {True: 16, False: 4}
"""Pixels or cells that a bar needs to be readable."""
BAR_TALL = 6
FEWEST_STEPS = 3
"""Fewest steps per cell of a bar; in halves of a digit it would not be worth its place."""
SHAPE_SHARE, LEAST_SHAPE = 3, 5
"""A trend or dial takes at most a third of the height, so that there is room for its reading."""
ACROSS, DOWN = {True: 3, False: 1}, {True: 1, False: 0}
"""Gaps between items and between rows, for pixels and for cells."""

Rows = tuple[tuple[int, ...], ...]


@dataclass(frozen=True)
class Arranged:
    """Items by their index with their new places, and the indexes of those left out, the least important first."""

    items: dict[int, Item]
    dropped: tuple[int, ...]


def arrange(items: Sequence[Item], panel: Panel) -> Arranged:
    """Place all items on a panel by the rules. The same items on the same panel always give the same places.

    On a round one they stay within the square that fits into it.
    """
    if isinstance(panel, ColourPanel) and panel.disc:
        side = int(min(panel.width, panel.height) / math.sqrt(2))
        left, top = (panel.columns - side) // 2, (panel.rows - side) // 2
        moved = [replace(item, row=item.row - top, column=item.column - left) for item in items]
        found = arrange(moved, replace(panel, width=side, height=side, disc=False))
        placed = {
            index: replace(item, row=item.row + top, column=item.column + left) for index, item in found.items.items()
        }
        return Arranged(placed, found.dropped)
    usable = {index: item for index, item in enumerate(items) if _is_usable(item, panel)}
    dropped = [index for index in range(len(items)) if index not in usable]
    pinned = {index: item for index, item in usable.items() if item.pinned}
    free = {index: _smallest(item, panel) for index, item in usable.items() if not item.pinned}
    blocked = _spans(pinned.values(), panel)
    while True:
        rows = _rows(free, items)
        rows = _broken(rows, free, panel)
        if _fits(rows, free, panel, blocked):
            break
        if not free:
            break
        least = min(free, key=lambda index: (free[index].importance, -index))
        dropped.append(least)
        del free[least]
    grown = _grown(rows, free, panel, blocked)
    return Arranged(pinned | _placed(rows, grown, panel, blocked), tuple(dropped))


def _is_usable(item: Item, panel: Panel) -> bool:
    """True where a panel can show the item: segments show one row of text only, boxes need pixels."""
    if isinstance(item, PictureItem):
        return panel.grid is not None and item.width <= panel.columns and item.tall <= panel.rows
    if isinstance(item, Shape):
        return panel.grid is not None
    return not isinstance(item, Bar) or panel.grid is not None or len(panel.bar_letters) >= FEWEST_STEPS


def _smallest(item: Item, panel: Panel) -> Item:
    is_pixels = panel.grid is not None
    if isinstance(item, Box):
        return replace(item, width=panel.columns, tall=1, filled=True)
    if isinstance(item, Bar):
        return replace(item, width=LEAST_BAR[is_pixels], tall=BAR_TALL)
    if isinstance(item, PictureItem):
        return item
    if isinstance(item, Shape):
        return _shrunk(item, panel)
    if panel.grid is not None:
        return _in_font(item, _fonts(item, panel.grid)[0])
    if isinstance(item, FieldItem) and item.motion.is_still and item.field.width > panel.columns:
        # A field of fewer cells may still hold its range; where it does not, Fit reports it.
        return replace(item, field=replace(item.field, width=panel.columns))
    return item


def _shrunk(item: Shape, panel: Panel) -> Shape:
    """A shape at most a third of the height; round ones keep their shape, trends and spectra their width."""
    tall = min(item.tall, max(panel.rows // SHAPE_SHARE, LEAST_SHAPE))
    width = item.width if isinstance(item, Trend | Spectrum) else max(item.width * tall // item.tall, LEAST_SHAPE)
    return replace(item, width=min(width, panel.columns), tall=tall)


def _in_font(item: Item, name: str) -> Item:
    assert not isinstance(item, Bar | Shape)
    return replace(item, font=name)


def _fonts(item: Item, panel: PixelGrid) -> tuple[str, ...]:
    """Fonts with all letters of an item, from small to large; a person's own choice is kept."""
    assert not isinstance(item, Bar | Shape)
    if item.font in panel.fonts:
        return (item.font,)
    letters = set("".join(texts_of(item)))
    ladder = OF_LABELS if isinstance(item, Label) and item.importance <= USUAL else LADDER
    return tuple(name for name in ladder if letters <= set(panel.font(name).glyphs)) or LADDER[:1]


def _rows(free: dict[int, Item], items: Sequence[Item]) -> Rows:
    """Rows of items that were side by side, in the order of the face."""
    order = sorted(free, key=lambda index: (items[index].row, items[index].column, index))
    rows: list[list[int]] = []
    for index in order:
        if rows and items[rows[-1][0]].row == items[index].row and not isinstance(free[index], Box):
            rows[-1].append(index)
        else:
            rows.append([index])
    return tuple(map(tuple, rows))


def _broken(rows: Rows, free: dict[int, Item], panel: Panel) -> Rows:
    """Rows that are too wide continue in the next one; on cells short rows are merged where there are too few."""
    found: list[list[int]] = []
    for row in rows:
        found.append([])
        for index in row:
            if found[-1] and _row_width([*found[-1], index], free, panel) > panel.columns:
                found.append([])
            found[-1].append(index)
    if panel.grid is None:
        while len(found) > panel.rows:
            pair = next(
                (
                    at
                    for at in range(len(found) - 1)
                    if _row_width([*found[at], *found[at + 1]], free, panel) <= panel.columns
                ),
                None,
            )
            if pair is None:
                break
            found[pair] += found.pop(pair + 1)
    return tuple(tuple(row) for row in found if row)


def _row_width(row: Sequence[int], free: dict[int, Item], panel: Panel) -> int:
    gap = ACROSS[panel.grid is not None]
    return sum(size_of(free[index], panel)[0] for index in row) + gap * (len(row) - 1)


def _row_height(row: Sequence[int], free: dict[int, Item], panel: Panel) -> int:
    return max(size_of(free[index], panel)[1] for index in row)


def _spans(items: Iterable[Item], panel: Panel) -> tuple[tuple[int, int], ...]:
    """Rows of the panel taken by pinned items, first and one past the last."""
    spans = [(item.row, item.row + size_of(item, panel)[1]) for item in items]
    return tuple(sorted(spans))


def _tops(rows: Rows, free: dict[int, Item], panel: Panel, blocked: tuple[tuple[int, int], ...]) -> list[int] | None:
    """The upper edge of each row, as high as possible; None where there are too many."""
    gap = DOWN[panel.grid is not None]
    tops, y = [], 0
    for row in rows:
        height = _row_height(row, free, panel)
        for first, behind in blocked:
            if y < behind + gap and first < y + height + gap:
                y = behind + gap
        if y + height > panel.rows:
            return None
        tops.append(y)
        y += height + gap
    return tops


def _fits(rows: Rows, free: dict[int, Item], panel: Panel, blocked: tuple[tuple[int, int], ...]) -> bool:
    across = all(_row_width(row, free, panel) <= panel.columns for row in rows)
    return across and _tops(rows, free, panel, blocked) is not None


def _grown(rows: Rows, free: dict[int, Item], panel: Panel, blocked: tuple[tuple[int, int], ...]) -> dict[int, Item]:
    """Fonts as large as fit, the most important first; nothing less important grows beyond it."""
    grown, grid = dict(free), panel.grid
    if grid is None:
        return grown
    texts = [index for index, item in free.items() if not isinstance(item, Bar | Shape)]
    for index in sorted(texts, key=lambda each: (-free[each].importance, each)):
        above = [_height(grown[each], grid) for each in texts if free[each].importance > free[index].importance]
        for name in _fonts(free[index], grid)[1:]:
            trial = {**grown, index: _in_font(grown[index], name)}
            if grid.font(name).height > min(above, default=10**6) or not _fits(rows, trial, panel, blocked):
                break
            grown = trial
    return grown


def _height(item: Item, panel: PixelGrid) -> int:
    assert not isinstance(item, Bar | Shape)
    return panel.font(item.font).height


def _placed(rows: Rows, grown: dict[int, Item], panel: Panel, blocked: tuple[tuple[int, int], ...]) -> dict[int, Item]:
    """Rows spread over the free height, items over the width."""
    tops = _tops(rows, grown, panel, blocked) or []
    heights = [_row_height(row, grown, panel) for row in rows]
    tops = _spread(tops, heights, panel, blocked)
    found: dict[int, Item] = {}
    for row, top in zip(rows, tops, strict=True):
        height = _row_height(row, grown, panel)
        for index, (column, item) in zip(row, _across(row, grown, panel), strict=True):
            # Texts of different height share their baseline.
            found[index] = replace(item, row=top + height - size_of(item, panel)[1], column=column)
    return found


def _spread(tops: list[int], heights: list[int], panel: Panel, blocked: tuple[tuple[int, int], ...]) -> list[int]:
    """Rows at equal distances over the free height: all of it, or between pinned items."""
    found: list[int] = []
    gap = DOWN[panel.grid is not None]
    edges = [first for first, _ in blocked if tops and first > tops[0]]
    while len(found) < len(tops):
        start = len(found)
        foot = next((edge - gap for edge in edges if edge > tops[start]), panel.rows)
        band = [place for place in range(start, len(tops)) if tops[place] + heights[place] <= foot]
        spare = foot - (tops[band[-1]] + heights[band[-1]])
        found += [tops[place] + spare * (at + 1) // (len(band) + 1) for at, place in enumerate(band)]
    return found


def _across(row: Sequence[int], grown: dict[int, Item], panel: Panel) -> list[tuple[int, Item]]:
    """Columns of items: one alone in the middle, two at the edges, more at equal distances; a bar takes the rest."""
    spare = panel.columns - _row_width(row, grown, panel)
    items = [grown[index] for index in row]
    bars = [place for place, item in enumerate(items) if isinstance(item, Bar)]
    for place in bars:
        bar = items[place]
        assert isinstance(bar, Bar)
        items[place] = replace(bar, width=bar.width + spare // len(bars))
    spare = 0 if bars else spare
    if len(items) == 1:
        return [(spare // 2, items[0])]
    gap, found, x = ACROSS[panel.grid is not None], [], 0
    for place, item in enumerate(items):
        found.append((x + spare * place // (len(items) - 1), item))
        x += size_of(item, panel)[0] + gap
    return found
