"""The colour of an item on a colour panel, and its colour during an alarm."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Reading
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.pixel_colours import COLOURS, OWN, PLACES, PLANES
from lesart.core.parameters import Parameter

AS_EVER = "as ever"
COLOUR = Parameter("colour", "colour", "choice", "on panels of colours", OWN, choices=PLACES)
ALARM_COLOUR = Parameter(
    "alarm_colour", "in an alarm", "choice", "its colour on panels of colours", AS_EVER, choices=(AS_EVER, *COLOURS)
)


@dataclass(frozen=True)
class Hue:
    """``alarm`` is used while an alarm of a channel that it shows is on."""

    colour: str = OWN
    alarm: str = AS_EVER

    def at(self, reads: tuple[str, ...], readings: Mapping[str, Reading]) -> str:
        """The colour that it has now."""
        if self.alarm != AS_EVER and any(readings[name].alarms for name in reads if name in readings):
            return self.alarm
        return self.colour


PLAIN = Hue()


def with_hue(memory: Memory, columns: int, box: tuple[int, int, int, int], colour: str) -> Memory:
    """The memory with the pixels of a box, by column, row, width and height, written in a colour."""
    x, y, width, height = box
    place, left, right = PLACES.index(colour), max(x, 0), min(x + width, columns)
    if right <= left:
        return memory
    hole = ((1 << (right - left)) - 1) << (columns - right)
    inside = range(max(y, 0), min(y + height, len(memory[0])))
    planes = []
    for bit, plane in enumerate(memory[1 : 1 + PLANES]):
        rows = list(plane)
        for row in inside:
            rows[row] = rows[row] | hole if place >> bit & 1 else rows[row] & ~hole
        planes.append(tuple(rows))
    return (memory[0], *planes)
