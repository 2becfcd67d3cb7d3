"""What a panel still shows of earlier writes of a field, oldest first."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Reading
from lesart.core.glass.bus.sent_bytes import sent_for
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.items import FieldItem
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel

Cells = npt.NDArray[np.int64]


def remembered(face: Face, panel: Panel, earlier: Iterable[Mapping[str, Reading]]) -> Memory:
    """The memory after a face was written with each of these readings in turn."""
    memory = panel.blank()
    for readings in earlier:
        memory = compose(face, panel, readings, memory).memory
    return memory


@dataclass(frozen=True)
class Redraws:
    """Writes of a face per minute, in cells or in bytes of a pixel panel's frame: with everything written each time,
    and with only the changes."""

    always: float
    changed: float
    lit_in_all: PixelFrame | None = None
    """Pixels lit in every one of them; None for other panels."""

    @property
    def saved(self) -> float:
        """The share of unnecessary writes."""
        return 1.0 - self.changed / self.always if self.always else 0.0


def redraws(face: Face, panel: Panel, readings: Iterable[Mapping[str, Reading]], seconds: float) -> Redraws:
    """Writes counted over readings as the firmware would draw them, over ``seconds`` in all."""
    always = changed = 0
    before: Cells | None = None
    last: Memory | None = None
    lit: tuple[int, ...] | None = None
    for each in readings:
        memory = compose(face, panel, each).memory
        # Most drawings change nothing: only the others are encoded.
        units = before if before is not None and memory == last else _units(panel, memory)
        last = memory
        if panel.grid is not None:
            lit = memory[0] if lit is None else tuple(one & other for one, other in zip(lit, memory[0], strict=True))
        always += len(units) if panel.grid is not None else sum(_width(item) for item in face.items)
        if before is not None and before is not units:
            changed += int((before != units).sum())
        before = units
    minutes = seconds / 60.0
    in_all = None if lit is None else PixelFrame(panel.columns, panel.rows, lit)
    return Redraws(always / minutes, changed / minutes, in_all) if minutes else Redraws(0.0, 0.0, in_all)


def _units(panel: Panel, memory: Memory) -> Cells:
    """The units that are sent: bytes, or cells.

    In colours a pixel counts with all its bytes, since it is sent whole.
    """
    if isinstance(panel, PixelPanel) and panel.sends_all:
        return np.full(panel.frame_size, hash(panel.sent(panel.lit(memory))))
    if isinstance(panel, ColourPanel):
        pixels = np.frombuffer(panel.lit(memory).colours, np.uint8).reshape(-1, 3).astype(np.int64)
        return np.repeat(pixels[:, 0] << 16 | pixels[:, 1] << 8 | pixels[:, 2], panel.pixel_bytes)
    if panel.grid is not None:
        return np.frombuffer(b"".join(each.data for each in sent_for(panel, memory)), np.uint8).astype(np.int64)
    return np.array([code for row in memory for code in row], np.int64)


def _width(item: object) -> int:
    return item.field.width if isinstance(item, FieldItem) else 0
