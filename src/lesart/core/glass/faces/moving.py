"""Moving pictures: the window in which they change, its cost on the bus, and frames that are never seen."""

from __future__ import annotations

import itertools

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.changes import window_of
from lesart.core.glass.bus.transmissions import cells_of
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Item
from lesart.core.glass.faces.shapes import PictureItem
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel, stamped
from lesart.core.notes import DOUBT, Mend, Note
from lesart.core.quantity import counted, plain_number
from lesart.core.step import Step

MOST_DRAWN = 2000
"""Drawings that are tried before a frame counts as never shown."""
MOST_HZ = 1000.0


@dataclass(frozen=True)
class Window:
    """The smallest window of whole bytes in which a picture changes: columns and rows of the controller, first and one
    past the last; ``size`` bytes, sent at most ``rate_hz`` times a second."""

    left: int
    top: int
    right: int
    foot: int
    size: int
    rate_hz: float


def window_of_picture(item: Item, panel: Panel) -> Window | None:
    """The window over all changes, the one from the last frame to the first included.

    None without changes or pixels.
    """
    if not isinstance(item, PictureItem) or item.is_still or not isinstance(panel, PixelPanel):
        return None
    data = [_sent(item, number, panel) for number in range(len(item.frames))]
    # In chained modules the numbers before the pixels never change.
    data = [each[1::2] for each in data] if panel.modules else data
    columns, pages = cells_of(panel)
    boxes = [
        box
        for one, other in itertools.pairwise([*data, data[0]])
        if (box := window_of(one, other, columns, pages)) is not None
    ]
    if not boxes:
        return None
    if panel.sends_all:
        return Window(0, 0, panel.width, panel.height, panel.frame_size, 1.0 / panel.shown_after_s(panel.frame_size))
    left, top = min(box[0] for box in boxes), min(box[1] for box in boxes)
    right, foot = max(box[2] for box in boxes), max(box[3] for box in boxes)
    if isinstance(panel, ColourPanel):
        left, right = left // panel.pixel_bytes, -(-right // panel.pixel_bytes)
    size = (right - left) * (foot - top) * (panel.pixel_bytes if isinstance(panel, ColourPanel) else 1)
    if panel.modules:
        # Each number goes to all of them at once.
        size = (foot - top) * 2 * panel.modules
    return Window(left, top, right, foot, size, 1.0 / panel.shown_after_s(size))


def _sent(item: PictureItem, number: int, panel: PixelPanel) -> bytes:
    """The panel's bytes with only one frame on it."""
    frame = item.frames[number]
    rows = stamped(panel.blank(), panel.columns, item.column, item.row, frame.width, frame.rows)
    return panel.sent(panel.lit(rows))


def never_shown(item: PictureItem, redraw_hz: float) -> int:
    """Frames that a face at this drawing rate never shows, however long it is on."""
    if item.is_still or not all(item.durations_s):
        return 0
    seen = set()
    for drawing in range(MOST_DRAWN):
        seen.add(id(item.frame_at(drawing / redraw_hz + 1e-9)))
    return len({id(frame) for frame in item.frames} - seen)


def inspect_moving(face: Face, panel: Panel) -> list[Note]:
    """A note on each picture that moves faster than it is drawn."""
    notes = []
    for index, item in enumerate(face.items):
        if not isinstance(item, PictureItem) or panel.grid is None:
            continue
        unseen = never_shown(item, face.redraw_hz)
        if unseen:
            notes.append(_unseen(face, panel, index, item, unseen))
    return notes


def _unseen(face: Face, panel: Panel, index: int, item: PictureItem, unseen: int) -> Note:
    shortest_s = min(item.durations_s)
    wanted_hz = 1.0 / shortest_s
    window = window_of_picture(item, panel)
    can = window is not None and window.rate_hz >= wanted_hz and wanted_hz <= MOST_HZ
    remedy = f"draw it {plain_number(wanted_hz, 3)} times a second" if can else ""
    if not can:
        most_hz = min(window.rate_hz if window is not None else face.redraw_hz, MOST_HZ)
        remedy = f"leave each frame for {plain_number(1e3 / most_hz, 3)} ms at least; its bus allows no more"
    are = "is" if unseen == 1 else "are"
    return Note(
        DOUBT,
        Step.GLASS,
        None,
        f"{face.panel}: {counted(unseen, 'frame')} of {len(item.frames)} of {item.named()} {are} never shown: it "
        f"changes every {plain_number(1e3 * shortest_s, 3)} ms, and is drawn every "
        f"{plain_number(1e3 / face.redraw_hz, 3)} ms.",
        figure=float(unseen),
        limit=0.0,
        remedy=remedy,
        mend=(Mend(("faces", face.name, "redraw"), f"{wanted_hz:g} Hz"),) if can else (),
        panel=face.panel,
        place=("faces", face.name, "items", index, "column"),
        limit_at=("faces", face.name, "redraw"),
    )
