"""What firmware would have written before the cursor: readings of a face's channels at its drawing times."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.errors import LesartError
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import BARE, Face, face_at
from lesart.core.glass.faces.panel_memory import Redraws, redraws, remembered
from lesart.core.glass.panels.panel import Memory
from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.alarms import with_alarms
from lesart.study.bench import Bench
from lesart.study.past_readings import wanted_of, with_past

BEFORE = 60
"""Draws before the cursor in which a tail is looked for; older content has been overwritten."""
COUNTED = 300
"""Draws before the cursor over which changes are counted."""


def readings_before(
    project: Project, bench: Bench, chosen: Channel, face: Face, cursor_s: float, draws: int
) -> list[dict[str, Reading]]:
    """Readings at each of a number of draws up to the cursor, oldest first; without channels that cannot be read."""
    times = [cursor_s - place / face.redraw_hz for place in range(draws - 1, -1, -1)]
    times = [at for at in times if at >= 0]
    found: list[dict[str, Reading]] = [{} for _ in times]
    wanted = wanted_of([face])
    for name in face.channels:
        channel = chosen if name == chosen.name else project.channels[name]
        try:
            run = bench.run(project, channel)
        except LesartError:
            continue
        for readings, at in zip(found, times, strict=True):
            reading = with_alarms(bench, channel, run, run.reading_at(Step.CALM, at), at)
            readings[name] = with_past(reading, run, at, wanted[name]) if name in wanted else reading
    return found


def memories(project: Project, bench: Bench, chosen: Channel, cursor_s: float) -> Mapping[str, Memory]:
    """Memories by name of panels whose face is written over earlier content."""
    found: dict[str, Memory] = {}
    for name, panel in project.panels.items():
        faces = project.faces_on(name)
        face = face_at(faces, cursor_s)[0] if faces else None
        if face is not None and face.writes == BARE:
            earlier = readings_before(project, bench, chosen, face, cursor_s, BEFORE)
            found[name] = remembered(face, panel, earlier)
    return found


def redraws_before(project: Project, bench: Bench, chosen: Channel, face: Face, cursor_s: float) -> Redraws:
    """Writes of a face per minute, over the last draws before the cursor."""
    earlier: Sequence[Mapping[str, Reading]] = readings_before(project, bench, chosen, face, cursor_s, COUNTED)
    return redraws(face, project.panels[face.panel], earlier, max(len(earlier) - 1, 0) / face.redraw_hz)
