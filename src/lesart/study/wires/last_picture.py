"""The glass of a traced panel at a time of its trace, or at its end, also as printed in a terminal."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.errors import LesartError
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.glass import glass_of
from lesart.study.lit.lattice import Lattice, lattice_of
from lesart.study.views import Glass
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import BusSeen, digits_shown, seen

_HALVES = " ▀▄█"
"""Neither dot of a cell, the upper, the lower, both."""


def with_traced(project: Project, bench: Bench, glasses: tuple[Glass, ...], t_s: float) -> tuple[Glass, ...]:
    """Panels with a trace but no face, as the trace lights them: another device's glass follows the cursor.

    One whose trace cannot be read stays dark; Pace says why.
    """
    found = []
    for glass in glasses:
        if glass.name in project.traces and not project.faces_on(glass.name):
            try:
                frame = frame_at(project, bench, glass.name, t_s)
            except LesartError:
                frame = None
            glass = glass if frame is None else glass_of(project.panels[glass.name], frame)
        found.append(glass)
    return tuple(found)


def trace_moment_s(project: Project, panel: str, t_s: float) -> float:
    """The time in a panel's trace for a time of the captures: where the trace is one of them, or states its beginning;
    else infinity, for its end."""
    trace = project.traces[panel]
    begins = trace.values["starts_at"]
    is_capture = any(source.capture == trace.capture for source in project.sources.values())
    return math.inf if begins is None and not is_capture else t_s - (begins or 0.0)


def frame_at(project: Project, bench: Bench, panel: str, t_s: float) -> Frame:
    """The frame at a time of the captures, or the last one. Raises CaptureError."""
    return last_frame(project, bench, panel, trace_moment_s(project, panel, t_s))


def last_frame(project: Project, bench: Bench, panel: str, until_s: float = math.inf) -> Frame:
    """The last frame up to a time of the trace. Raises CaptureError where that cannot be read."""
    found, glass = seen(project, bench, panel), project.panels[panel]
    if isinstance(found, BusSeen):
        count = int(np.searchsorted(found.obeyed.t, until_s, side="right"))
        return frame_shown(glass, found.obeyed, count, min(until_s, found.end_s))
    assert isinstance(glass, SegmentPanel)
    return digits_shown(glass, found, until_s)


def printed(project: Project, bench: Bench, panel: str) -> list[str]:
    """The glass as rows of half blocks, two dots each. Raises CaptureError."""
    return in_halves(lattice_of(glass_of(project.panels[panel], last_frame(project, bench, panel))))


def in_halves(lattice: Lattice) -> list[str]:
    """Pairs of dot rows as half blocks, without dark ends of rows."""
    rows = []
    for y in range(0, lattice.height, 2):
        cells = []
        for x in range(lattice.width):
            lower = y + 1 < lattice.height and lattice.is_lit(x, y + 1)
            cells.append(_HALVES[lattice.is_lit(x, y) + 2 * lower])
        rows.append("".join(cells).rstrip())
    return rows
