"""Faces: items placed on a panel, composed into a frame; several in turn on one panel."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.fit.field import Reading
from lesart.core.fit.fill import Shown
from lesart.core.glass.faces.items import AlarmMark, Bar, FieldItem, Item, Label, written_cells
from lesart.core.glass.faces.pixel_items import with_item
from lesart.core.glass.faces.shapes import Box, Trend
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.panel import Memory, Panel, PixelGrid
from lesart.core.parameters import Parameter

PADDED, BARE, CLEARED = WRITES = ("over, padded", "over, as it comes", "cleared first")
FACE = (
    Parameter("panel", "panel", "text", "name of the panel it is for", longest=60, names="panels"),
    Parameter("lasts", "lasts", "quantity", "before the panel's next face; 0: it stays", "0 s", unit="s", lowest=0),
    Parameter("writes", "written", "choice", "what happens to what was there before", PADDED, choices=WRITES),
    Parameter(
        "redraw",
        "drawn at",
        "quantity",
        "how often firmware writes it",
        "5 Hz",
        unit="Hz",
        lowest=0,
        above=True,
        highest=1000,
    ),
    Parameter(
        "seen_from", "seen from", "quantity", "how far away people stand; 0: not known", "0 m", unit="m", lowest=0
    ),
)


@dataclass(frozen=True)
class Face:
    """One page of items on a panel. ``lasts_s`` is 0 where it stays; ``redraw_hz`` is its drawing rate."""

    name: str
    panel: str
    items: tuple[Item, ...]
    lasts_s: float = 0.0
    writes: str = PADDED
    redraw_hz: float = 5.0
    seen_from_m: float = 0.0

    def fields_of(self, channel: str) -> tuple[FieldItem, ...]:
        """The fields that show a channel."""
        return tuple(item for item in self.items if isinstance(item, FieldItem) and item.channel == channel)

    @property
    def channels(self) -> tuple[str, ...]:
        """The channels that it shows, each once."""
        return tuple(dict.fromkeys(name for item in self.items for name in item.reads))

    def looking_at(self, channel: str, variant: str) -> Face:
        """The face with a channel's fields as in one of its variants."""
        items = tuple(
            replace(item, field=item.of_variants.get(variant, item.field))
            if isinstance(item, FieldItem) and item.channel == channel
            else item
            for item in self.items
        )
        return replace(self, items=items)


@dataclass(frozen=True)
class Composed:
    """The frame, the panel's memory, and each field as shown, in the order of the items."""

    frame: Frame
    memory: Memory
    shown: tuple[Shown | None, ...]


def compose(
    face: Face, panel: Panel, readings: Mapping[str, Reading], memory: Memory | None = None, t_s: float = 0.0
) -> Composed:
    """Write all items over what the panel remembers, as they stand ``t_s`` after the face came on.

    A cell outside the panel is cut; a missing letter leaves ``?``.
    """
    before = panel.blank() if memory is None or face.writes == CLEARED else memory
    if panel.grid is not None:
        return _drawn(face, panel.grid, readings, before, t_s)
    cells = [list(row) for row in before]
    shown: list[Shown | None] = []
    for item in face.items:
        shown.append(item.shown(panel, readings) if isinstance(item, FieldItem) else None)
        written = written_cells(item, panel, readings, t_s)
        if face.writes == BARE and isinstance(item, FieldItem) and item.motion.is_still:
            written = item.shown(panel, readings).whole
        for column, cell in enumerate(written, item.column):
            if item.row < panel.rows and column < panel.line:
                cells[item.row][column] = _sent(panel, cell)
    after = tuple(tuple(row) for row in cells)
    return Composed(panel.lit(after), after, tuple(shown))


def _drawn(face: Face, panel: PixelGrid, readings: Mapping[str, Reading], memory: Memory, t_s: float) -> Composed:
    """The memory with all items drawn on pixels, in order."""
    for item in face.items:
        memory = with_item(memory, panel, item, readings, t_s, bare=face.writes == BARE)
    shown = tuple(item.shown(panel, readings) if isinstance(item, FieldItem) else None for item in face.items)
    return Composed(panel.lit(memory), memory, shown)


def _sent(panel: Panel, cell: Cell) -> int:
    code = panel.code(cell)
    if code is None:
        code = panel.code(Cell("?"))
    return panel.blank()[0][0] if code is None else code


def face_at(faces: Sequence[Face], t_s: float) -> tuple[Face, float]:
    """The face that is on at a time, and since when; faces take turns, up to the first that stays."""
    turn = []
    for face in faces:
        turn.append(face)
        if not face.lasts_s:
            break
    total = sum(face.lasts_s for face in turn)
    stays = not turn[-1].lasts_s
    within = t_s if stays else t_s % total
    for face in turn[:-1]:
        if within < face.lasts_s:
            return face, within
        within -= face.lasts_s
    return turn[-1], within


__all__ = ["AlarmMark", "Bar", "Box", "Composed", "Face", "FieldItem", "Item", "Label", "Trend", "compose", "face_at"]
