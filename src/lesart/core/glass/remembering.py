"""What a panel still shows of what was written before: writes of a field one after another, oldest first."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from lesart.core.fit.field import Reading
from lesart.core.glass.face import Face, compose
from lesart.core.glass.items import FieldItem
from lesart.core.glass.panel import Memory, Panel


def remembered(face: Face, panel: Panel, earlier: Iterable[Mapping[str, Reading]]) -> Memory:
    """The memory after a face was written with each of these readings in turn."""
    memory = panel.blank()
    for readings in earlier:
        memory = compose(face, panel, readings, memory).memory
    return memory


@dataclass(frozen=True)
class Redraws:
    """Writes of a face a minute: cells when all is written each time, and when only what changed is."""

    always_cells: float
    changed_cells: float

    @property
    def saved(self) -> float:
        """The share of writes that need not be done."""
        return 1.0 - self.changed_cells / self.always_cells if self.always_cells else 0.0


def redraws(face: Face, panel: Panel, readings: Iterable[Mapping[str, Reading]], seconds: float) -> Redraws:
    """Counted over readings as the firmware would draw them, which last so many seconds in all."""
    always = changed = 0
    before: Memory | None = None
    for each in readings:
        memory = compose(face, panel, each).memory
        always += sum(_width(item, panel) for item in face.items)
        if before is not None:
            changed += sum(
                a != b for old, new in zip(before, memory, strict=True) for a, b in zip(old, new, strict=True)
            )
        before = memory
    minutes = seconds / 60.0
    return Redraws(always / minutes, changed / minutes) if minutes else Redraws(0.0, 0.0)


def _width(item: object, panel: Panel) -> int:
    return item.field.width if isinstance(item, FieldItem) else 0
