"""How a panel may be drawn: the way a person wants, what the terminal can, and how much room there is."""

from __future__ import annotations

from enum import Enum

from lesart.core.dataclass_later import dataclass
from lesart.tui.graphics.terminal import Graphics


class Way(Enum):
    """By the word that the screen says. ``BEST`` is the best one that fits."""

    BEST = "the best that fits"
    PIXELS = "true pixels"
    HALVES = "half blocks"
    QUARTERS = "quarter blocks"
    LITTLE = "miniature"
    LIFE = "life size"


@dataclass(frozen=True)
class Means:
    """What panels are drawn with. Without ``graphics`` there are only letters."""

    way: Way = Way.BEST
    graphics: Graphics | None = None

    @property
    def ways(self) -> tuple[Way, ...]:
        """Those there are here."""
        return tuple(way for way in Way if way not in (Way.PIXELS, Way.LIFE) or self.graphics is not None)

    def turned(self) -> Means:
        """With the next way."""
        at = self.ways.index(self.way) if self.way in self.ways else 0
        return Means(self.ways[(at + 1) % len(self.ways)], self.graphics)


PLAIN = Means()


@dataclass(frozen=True)
class Room:
    """Columns and rows. ``little``: there is something more important to look at. ``scale``: at most so many times."""

    width: int
    height: int
    scale: int = 1
    little: bool = False
