"""The distance at which a face can be read, and the use of its glass: figures that a layout is judged by."""

from __future__ import annotations

import itertools
import math

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Bar, Item, size_of
from lesart.core.glass.faces.shapes import Shape
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import DOUBT, FAULT, Note
from lesart.core.quantity import plain_number
from lesart.core.step import Step

LEAST_MINUTES, COMFORT_MINUTES = 16.0, 22.0
"""Minutes of arc that a digit must cover to be just readable, and easily (ergonomics of displays, ISO 9241)."""


@dataclass(frozen=True)
class Legibility:
    """Distances in metres at which a text can just be read, and with ease; ``item`` is the limiting text."""

    item: Item
    height_mm: float
    least_m: float
    comfort_m: float


@dataclass(frozen=True)
class Layout:
    """``used``: share of the glass within the boxes of items.

    ``gap``: cells or pixels between the two nearest items, None with fewer than two. ``largest`` text in millimetres,
    None without one.
    """

    used: float
    gap: int | None
    largest_mm: float | None


def read_from_m(height_mm: float, minutes: float) -> float:
    """The distance at which a height covers an angle in minutes of arc: height ÷ tan(angle)."""
    return height_mm / 1000.0 / math.tan(math.radians(minutes / 60.0))


def text_height_mm(item: Item, panel: Panel) -> float | None:
    """Height of a digit or capital; None for an item that is not a text."""
    if isinstance(item, Bar | Shape):
        return None
    if panel.grid is not None:
        return panel.grid.font(item.font).ascent * panel.grid.pitch_mm
    return panel.digit_mm


def legibility(face: Face, panel: Panel) -> Legibility | None:
    """The legibility of a face's smallest text; None where it has none."""
    heights = [(height, place) for place, item in enumerate(face.items) if (height := text_height_mm(item, panel))]
    if not heights:
        return None
    height, place = min(heights)
    return Legibility(
        face.items[place], height, read_from_m(height, LEAST_MINUTES), read_from_m(height, COMFORT_MINUTES)
    )


def layout_of(face: Face, panel: Panel) -> Layout:
    """Figures of the boxes that items take."""
    boxes = [(item.column, item.row, *size_of(item, panel)) for item in face.items]
    covered = {
        (x, y)
        for left, top, width, height in boxes
        for x in range(left, min(left + width, panel.columns))
        for y in range(top, min(top + height, panel.rows))
    }
    gaps = [_gap(one, other) for one, other in itertools.combinations(boxes, 2)]
    heights = [height for item in face.items if (height := text_height_mm(item, panel)) is not None]
    return Layout(len(covered) / (panel.columns * panel.rows), min(gaps, default=None), max(heights, default=None))


def _gap(one: tuple[int, int, int, int], other: tuple[int, int, int, int]) -> int:
    """Gap between two boxes, the larger of across and down; 0 where they touch or overlap."""
    across = max(other[0] - one[0] - one[2], one[0] - other[0] - other[2], 0)
    down = max(other[1] - one[1] - one[3], one[1] - other[1] - other[3], 0)
    return max(across, down)


def inspect_legibility(face: Face, panel: Panel) -> list[Note]:
    """A note where a text cannot be read from the viewing distance; 0 means that none is stated."""
    found = legibility(face, panel)
    if found is None or not face.seen_from_m or found.comfort_m >= face.seen_from_m:
        return []
    mark = FAULT if found.least_m < face.seen_from_m else DOUBT
    wanted = face.seen_from_m * math.tan(math.radians(COMFORT_MINUTES / 60.0)) * 1000.0
    return [
        Note(
            mark,
            Step.GLASS,
            None,
            f"{face.panel}: the {found.item.named()}, {plain_number(found.height_mm, 2)} mm high, can be read from up "
            f"to {plain_number(found.least_m, 2)} m, comfortably up to {plain_number(found.comfort_m, 2)} m; people "
            f"stand {plain_number(face.seen_from_m, 2)} m away.",
            figure=found.comfort_m,
            unit="m",
            limit=face.seen_from_m,
            remedy=f"write it {plain_number(wanted, 2)} mm high",
            panel=face.panel,
            limit_at=("faces", face.name, "seen_from"),
        )
    ]
