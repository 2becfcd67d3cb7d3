"""The graphics of a terminal."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass

SIXEL, PLACED = PROTOCOLS = ("sixel", "placed images")


USUAL_PER_INCH = 96.0
"""Default pixels per inch."""
INCH_MM = 25.4


@dataclass(frozen=True)
class Graphics:
    """What the terminal says that it can: one of two open protocols, and how large its letters are in its pixels.

    ``pixels_per_inch`` are the screen's, for what is shown in life size.
    """

    protocol: str
    cell_width: int
    cell_height: int
    pixels_per_inch: float = USUAL_PER_INCH
