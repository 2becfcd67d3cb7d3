"""Faces: items placed on a panel, and composing them into a frame."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.glass.frame import Frame
from lesart.core.glass.panel import Memory, Panel
from lesart.core.notes import DOUBT, FAULT, Note
from lesart.core.parameters import Parameter

LABEL = (
    Parameter("text", "text", "text", "what it says"),
    Parameter("row", "row", "integer", "from 0 at the top", 0, lowest=0, highest=3),
    Parameter("column", "column", "integer", "from 0 at the left", 0, lowest=0, highest=39),
)
FIELD_PLACE = (
    Parameter("channel", "channel", "text", "whose reading it shows", longest=60),
    *LABEL[1:],
)


@dataclass(frozen=True)
class Label:
    """A text that stands."""

    text: str
    row: int
    column: int


@dataclass(frozen=True)
class FieldItem:
    """A channel's reading in a field. ``own_keys`` are the rules this item states itself; ``of_variants`` the field
    that each variant of the channel has here.
    """

    channel: str
    row: int
    column: int
    field: Field
    own_keys: frozenset[str]
    index: int
    of_variants: Mapping[str, Field] = dataclasses.field(default_factory=dict)


Item = Label | FieldItem


@dataclass(frozen=True)
class Face:
    """One page of items on a panel."""

    name: str
    panel: str
    items: tuple[Item, ...]

    def fields_of(self, channel: str) -> tuple[FieldItem, ...]:
        """The items that show a channel."""
        return tuple(item for item in self.items if isinstance(item, FieldItem) and item.channel == channel)

    @property
    def channels(self) -> tuple[str, ...]:
        """Those it shows, each once."""
        return tuple(dict.fromkeys(item.channel for item in self.items if isinstance(item, FieldItem)))

    def looking_at(self, channel: str, variant: str) -> Face:
        """The face with the fields of a channel as one of its variants has them."""
        items = tuple(
            replace(item, field=item.of_variants.get(variant, item.field))
            if isinstance(item, FieldItem) and item.channel == channel else item
            for item in self.items
        )  # fmt: skip
        return replace(self, items=items)


@dataclass(frozen=True)
class Composed:
    """What is lit, what the panel remembers now, and each field as shown, in the order of the items."""

    frame: Frame
    memory: Memory
    shown: tuple[Shown | None, ...]


def compose(face: Face, panel: Panel, readings: Mapping[str, Reading], memory: Memory | None = None) -> Composed:
    """Write all items over what the panel remembers. A cell outside the panel is cut; a missing letter leaves ``?``."""
    cells = [list(row) for row in (memory or panel.blank())]
    shown: list[Shown | None] = []
    for item in face.items:
        text = _cells_of(item, panel, readings)
        shown.append(text if isinstance(text, Shown) else None)
        written = text.cells if isinstance(text, Shown) else text
        for column, cell in enumerate(written, item.column):
            if item.row < panel.rows and column < panel.line:
                cells[item.row][column] = _sent(panel, cell)
    after = tuple(tuple(row) for row in cells)
    return Composed(panel.lit(after), after, tuple(shown))


def _cells_of(item: Item, panel: Panel, readings: Mapping[str, Reading]) -> Shown | tuple[Cell, ...]:
    if isinstance(item, Label):
        return split_cells(item.text, joined=panel.joined)
    silent = Reading(float("nan"), age_s=float("inf"))
    return fill(item.field, readings.get(item.channel, silent), joined=panel.joined)


def _sent(panel: Panel, cell: Cell) -> int:
    code = panel.code(cell)
    if code is None:
        code = panel.code(Cell("?"))
    return panel.blank()[0][0] if code is None else code


def width_of(item: Item, panel: Panel) -> int:
    """Cells an item takes."""
    if isinstance(item, FieldItem):
        return item.field.width
    return len(split_cells(item.text, joined=panel.joined))


def inspect_face(face: Face, panel: Panel) -> list[Note]:
    """Items that leave the panel, items that overlap, letters the panel does not have."""
    notes: list[Note] = []
    taken: dict[tuple[int, int], str] = {}
    for item in face.items:
        name = f'label "{item.text}"' if isinstance(item, Label) else f"field of {item.channel}"
        channel = item.channel if isinstance(item, FieldItem) else None
        end = item.column + width_of(item, panel)
        if item.row >= panel.rows or end > panel.columns:
            notes.append(
                Note(FAULT, "glass", channel,
                     f"{face.panel}: the {name} ends at row {item.row}, column {end - 1}; the panel ends at row "
                     f"{panel.rows - 1}, column {panel.columns - 1}.",
                     figure=float(end - 1), limit=float(panel.columns - 1), remedy="move it or make it narrower",
                     panel=face.panel)
            )  # fmt: skip
        places = [(item.row, column) for column in range(item.column, end)]
        under = {taken[place] for place in places if place in taken}
        for other in sorted(under):
            notes.append(
                Note(FAULT, "glass", channel, f"{face.panel}: the {name} covers the {other}.", remedy="move one",
                     panel=face.panel)
            )  # fmt: skip
        taken.update(dict.fromkeys(places, name))
        notes += _missing_letters(face, panel, item, name, channel)
    return notes


def _missing_letters(face: Face, panel: Panel, item: Item, name: str, channel: str | None) -> list[Note]:
    texts: Sequence[str] = [item.text] if isinstance(item, Label) else _texts(item.field)
    cells = [cell for text in texts for cell in split_cells(text, joined=panel.joined)]
    missing = sorted({str(cell) for cell in cells if panel.code(cell) is None})
    if not missing:
        return []
    return [
        Note(DOUBT, "glass", channel, f"{face.panel}: the panel has no shape for {' '.join(missing)} in the {name}.",
             remedy="use other letters", panel=face.panel)
    ]  # fmt: skip


def _texts(field: Field) -> list[str]:
    number = "0.0" if field.decimals else "0"
    sign = {"minus only": "-", "always": "-+", "never": ""}[field.sign]
    return [sign + number + field.unit_text, field.overflow, field.invalid, field.stale]
