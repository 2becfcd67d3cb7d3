"""How a panel may be drawn: the chosen way, the terminal's capabilities, and the room."""

from __future__ import annotations

from enum import Enum

from lesart.core.dataclass_later import dataclass
from lesart.tui.graphics.terminal import Graphics


class Way(Enum):
    """Ways to draw, by their word on the screen. ``BEST`` is the best one that fits."""

    BEST = "the best that fits"
    PIXELS = "true pixels"
    HALVES = "half blocks"
    QUARTERS = "quarter blocks"
    LITTLE = "miniature"
    LIFE = "life size"


@dataclass(frozen=True)
class Means:
    """The means to draw panels. Without ``graphics`` there are only characters."""

    way: Way = Way.BEST
    graphics: Graphics | None = None

    @property
    def ways(self) -> tuple[Way, ...]:
        """The available ways."""
        return tuple(way for way in Way if way not in (Way.PIXELS, Way.LIFE) or self.graphics is not None)

    def turned(self) -> Means:
        """The means with the next way."""
        at = self.ways.index(self.way) if self.way in self.ways else 0
        return Means(self.ways[(at + 1) % len(self.ways)], self.graphics)


PLAIN = Means()


@dataclass(frozen=True)
class Room:
    """Columns and rows. ``little``: something else is more important. ``scale``: the greatest enlargement."""

    width: int
    height: int
    scale: int = 1
    little: bool = False
