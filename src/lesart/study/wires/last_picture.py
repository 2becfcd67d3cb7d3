"""What the glass of a traced panel shows at the end of its trace, as a terminal prints it."""

from __future__ import annotations

from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.glass import glass_of
from lesart.study.lit.lattice import Lattice, lattice_of
from lesart.study.wires.tracing import BusSeen, digits_shown, frame_shown, seen

_HALVES = " ▀▄█"
"""Neither dot of a cell, the upper, the lower, both."""


def last_frame(project: Project, bench: Bench, panel: str) -> Frame:
    """Raises CaptureError where the trace cannot be read."""
    found, glass = seen(project, bench, panel), project.panels[panel]
    if isinstance(found, BusSeen):
        return frame_shown(glass, found.obeyed, len(found.obeyed), found.end_s)
    assert isinstance(glass, SegmentPanel)
    return digits_shown(glass, found)


def printed(project: Project, bench: Bench, panel: str) -> list[str]:
    """Rows of half blocks, two dots each. Raises CaptureError."""
    return in_halves(lattice_of(glass_of(project.panels[panel], last_frame(project, bench, panel))))


def in_halves(lattice: Lattice) -> list[str]:
    """Every second row of dots under the one above it; dark ends of rows are left out."""
    rows = []
    for y in range(0, lattice.height, 2):
        cells = []
        for x in range(lattice.width):
            lower = y + 1 < lattice.height and lattice.is_lit(x, y + 1)
            cells.append(_HALVES[lattice.is_lit(x, y) + 2 * lower])
        rows.append("".join(cells).rstrip())
    return rows
