"""What a terminal can draw beside letters."""

from __future__ import annotations

from dataclasses import dataclass

SIXEL, PLACED = PROTOCOLS = ("sixel", "placed images")


@dataclass(frozen=True)
class Graphics:
    """What the terminal says that it can: one of two open protocols, and how large its letters are in its pixels."""

    protocol: str
    cell_width: int
    cell_height: int
