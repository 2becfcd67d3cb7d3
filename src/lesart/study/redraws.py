"""What firmware would have written before the cursor: readings of a face's channels at the moments it is drawn."""

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
"""Draws before the cursor that a tail is looked for in; what is older was overwritten, or is as good as new."""
COUNTED = 300
"""Draws before the cursor that changes are counted over."""


def readings_before(
    project: Project, bench: Bench, chosen: Channel, face: Face, cursor_s: float, draws: int
) -> list[dict[str, Reading]]:
    """At each of so many draws up to the cursor, oldest first; channels that cannot be read are silent."""
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
    """What panels remember, by name, whose face is written over what stood there as it comes."""
    found: dict[str, Memory] = {}
    for name, panel in project.panels.items():
        faces = project.faces_on(name)
        face = face_at(faces, cursor_s)[0] if faces else None
        if face is not None and face.writes == BARE:
            earlier = readings_before(project, bench, chosen, face, cursor_s, BEFORE)
            found[name] = remembered(face, panel, earlier)
    return found


def redraws_before(project: Project, bench: Bench, chosen: Channel, face: Face, cursor_s: float) -> Redraws:
    """Writes a minute of a face, over the last draws before the cursor."""
    earlier: Sequence[Mapping[str, Reading]] = readings_before(project, bench, chosen, face, cursor_s, COUNTED)
    return redraws(face, project.panels[face.panel], earlier, max(len(earlier) - 1, 0) / face.redraw_hz)
