"""Notes on one value followed by hand. Apart from those on a project, because they need no capture and no bench."""

from __future__ import annotations

from lesart.core.block import block_of
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.notes import DOUBT, FAULT, Key, Note, ordered
from lesart.core.pace.scan import inspect_scan
from lesart.core.quantity import format_quantity
from lesart.core.step import Step
from lesart.core.true.inspect import inspect_correction
from lesart.desk.hand import HandResult, value_after
from lesart.project.model import Channel, Project


def inspect_hand(project: Project, channel: Channel, result: HandResult) -> tuple[Note, ...]:
    """Notes on one value followed by hand, and on the panel that shows it. Needs no capture."""
    notes: list[Note] = []
    for step in result.steps:
        if step.mark is not None and step.step in (Step.LAW, Step.CALM):
            value = format_quantity(result.steps[0].value, channel.unit_raw, 9)
            notes.append(Note(DOUBT, step.step, channel.name, f"{channel.name}: {value} is marked {step.mark}."))
            break
    indicated = value_after(result.steps, Step.LAW).value
    notes += inspect_correction(channel.name, channel.correction, block_of([indicated]))
    if result.shown is not None and result.shown.state == "overflow":
        reading = format_quantity(result.reading.value, channel.unit)
        notes.append(Note(FAULT, Step.FIT, channel.name, f"{channel.name}: {reading} does not fit its cells."))
    if result.panel is None:
        return ordered(notes)
    for face in project.faces_on(result.panel.name)[:1]:
        notes += inspect_face(face, result.panel)
    if result.panel is not None and result.panel.scan is not None:
        place: Key = ("panels", result.panel.name, "scan")
        notes += inspect_scan(result.panel.name, result.panel.scan, result.panel.columns, place)
    return ordered(notes)
