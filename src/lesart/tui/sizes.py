"""The arrangement for a window."""

from __future__ import annotations

from enum import Enum


class Size(Enum):
    """``WIDE`` shows all; ``MIDDLE`` one panel at the foot; ``SMALL`` one thing at a time; ``TINY`` a sentence."""

    WIDE = "wide"
    MIDDLE = "middle"
    SMALL = "small"
    TINY = "tiny"


def size_of(width: int, height: int) -> Size:
    """The size class by columns and rows."""
    if width >= 150 and height >= 40:
        return Size.WIDE
    if width >= 110 and height >= 32:
        return Size.MIDDLE
    if width >= 60 and height >= 16:
        return Size.SMALL
    return Size.TINY
