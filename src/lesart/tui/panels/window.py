"""A window on a panel that is larger than its room: its position, and how that is described."""

from __future__ import annotations

from lesart.study.lit.lattice import Lattice
from lesart.study.views import Box


def around(focus: Box, width: int, height: int, lattice: Lattice) -> Box:
    """A window of a size with the focus in its middle, or with the beginning of a larger focus."""
    x = focus[0] + min(focus[2] - width, 0) // 2
    y = focus[1] + min(focus[3] - height, 0) // 2
    return (
        min(max(x, 0), lattice.width - width),
        min(max(y, 0), lattice.height - height),
        width,
        height,
    )


def said(box: Box, lattice: Lattice) -> str:
    """The window in dots of the panel, without margins."""
    width, height = lattice.width - 2 * lattice.margin, lattice.height - 2 * lattice.margin
    left, top = max(box[0] - lattice.margin, 0), max(box[1] - lattice.margin, 0)
    right = min(box[0] + box[2] - lattice.margin, width) - 1
    foot = min(box[1] + box[3] - lattice.margin, height) - 1
    parts = []
    if box[2] < lattice.width:
        parts.append(f"columns {left}–{right} of {width}")
    if box[3] < lattice.height:
        parts.append(f"rows {top}–{foot} of {height}")
    return "seen here: " + ", ".join(parts)
