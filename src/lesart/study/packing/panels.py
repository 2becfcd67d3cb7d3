"""The panels of a project for its firmware: bytes for set-up, faces, test patterns and pictures."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.errors import LesartError
from lesart.core.glass.bus.changes import RESET_PAPER, RESTS_BEHIND, start_for
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.controllers import PAPER
from lesart.core.glass.bus.patterns import pattern, patterns_of, steps_of
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.items import FieldItem
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.packing import pack
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.pace.task import Task
from lesart.core.pace.trace import is_scanned
from lesart.core.pack.written.c_panel import FieldPlace, PanelTables
from lesart.core.pack.written.redraw_ways import Redraw
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.packing.letters import NO_FORMS, Forms, letters_of
from lesart.study.packing.redraws import redraw_of
from lesart.study.packing.wanted import code_names
from lesart.study.project_loop import loop_of
from lesart.study.wires.panel_stream import stream_of

Runs = Mapping[str, tuple[str, tuple[Transmission, ...]]]
STILL = 1
"""Steps of a still pattern; moving ones are made by the firmware itself."""


def panel_tables(project: Project, forms: Forms = NO_FORMS) -> tuple[PanelTables, ...]:
    """Tables of every panel with a bus, and of scanned ones. ``forms`` are its channels in integers, by name."""
    # A panel may have the name of a channel, whose functions begin with it.
    names = code_names(project.panels, before="glass_", taken=code_names(project.channels).values())
    return tuple(_of_panel(project, panel, names[name], forms) for name, panel in project.panels.items())


def _of_panel(project: Project, panel: Panel, name: str, forms: Forms) -> PanelTables:
    faces = project.faces_on(panel.name)
    words = code_names(face.name for face in faces)
    places = _places(project, faces, {face.name: f"{name}_{words[face.name]}" for face in faces})
    scan, times = panel.scan, None
    if scan is not None:
        times = round(scan.on_time_ms * 1000), round(scan.blanking_ms * 1000), panel.columns
    runs, pictures = _runs(project, panel, name, words), _pictures(project, panel, name)
    says = f"{panel.name}: {panel.says()}."
    letters = letters_of(project, panel, name, words, forms) if isinstance(panel, PixelPanel) else None
    redraw, undrawn = _redraw(project, panel, name, words)
    letters = letters if redraw is not None else None
    return PanelTables(name, says, runs, pictures, places, times, letters, redraw, undrawn)


def _redraw(project: Project, panel: Panel, name: str, words: Mapping[str, str]) -> tuple[Redraw | None, str]:
    """How its frames are sent, or why they cannot be. None for a scanned panel: its digits are its frame."""
    if is_scanned(panel):
        return None, ""
    faces = [(f"{name}_frame_{words[face.name]}", face) for face in project.faces_on(panel.name)]
    try:
        controller = stream_of(project, panel.name).controller
        found = redraw_of(panel, controller, faces)
    except LesartError as error:
        return None, f"{panel.name}: no frame of it can be sent. {error}"
    lacks = "has no command that reaches every place of it"
    if controller.renew:
        lacks = "is renewed, which a pack writes only for windows with numbers whose low byte comes first"
    why = f"{panel.name}: its controller, {controller.name}, {lacks}. "
    return found, "" if found is not None else f"{why}Name another controller, or send its frames yourself."


def _places(project: Project, faces: Sequence[Face], words: Mapping[str, str]) -> tuple[FieldPlace, ...]:
    """The place of each field; a channel may be on a face several times."""
    channels = code_names(project.channels)
    seen: dict[str, int] = {}
    out = []
    for face in faces:
        for item in face.items:
            if isinstance(item, FieldItem):
                macro = f"{words[face.name]}_{channels[item.channel]}".upper()
                seen[macro] = seen.get(macro, 0) + 1
                which = f"_{seen[macro]}" if seen[macro] > 1 else ""
                out.append(FieldPlace(f"{macro}{which}", item.row, item.column, item.field.width))
    return tuple(out)


def _runs(project: Project, panel: Panel, name: str, words: Mapping[str, str]) -> Runs:
    """Runs of bytes; none for a scanned panel, or without a command to draw by."""
    if is_scanned(panel):
        return {}
    try:
        controller = stream_of(project, panel.name).controller
        runs = dict(_start(panel, controller, name))
        if isinstance(panel, ColourPanel):
            # Whole pictures would be tables of many thousand bytes: they are drawn from frames with one bit per pixel.
            return runs
        for face in project.faces_on(panel.name):
            bare = transmissions_for(panel, controller, compose(face, panel, {}).memory)
            runs[f"{name}_face_{words[face.name]}"] = (f"face {face.name} before any reading", bare)
        return {**runs, **_patterns(panel, controller, name)}
    except (LesartError, KeyError):
        return {}


def _start(panel: Panel, controller: Controller, name: str) -> Runs:
    """The set-up of a panel, split where it has to wait."""
    rests = _rests(panel, controller)
    parts: list[list[Transmission]] = [[]]
    for each in start_for(panel, controller):
        parts[-1].append(each)
        if not each.is_data and each.data[0] in rests:
            parts.append([])
    parts = [part for part in parts if part]
    out = {}
    for place, part in enumerate(parts, 1):
        which = f"_{place}" if len(parts) > 1 else ""
        waits = rests.get(part[-1].data[0], "") if not part[-1].is_data else ""
        says = f"sets it up, {place} of {len(parts)}{waits}" if which else "sets it up"
        out[f"{name}_start{which}"] = (says, tuple(part))
    return out or {f"{name}_start": ("sets it up", ())}


def _rests(panel: Panel, controller: Controller) -> Mapping[int, str]:
    """Commands behind which nothing may be sent for a while, each with a clause that says so."""
    if controller.name == PAPER.name:
        return {RESET_PAPER: "; then wait until it is not busy"}
    return dict.fromkeys(RESTS_BEHIND, "; then it rests for 120 ms") if isinstance(panel, ColourPanel) else {}


def _patterns(panel: Panel, controller: Controller, name: str) -> Runs:
    found = [each for each in patterns_of(panel) if steps_of(panel, each) == STILL]
    words = code_names(found)
    out = {}
    for each in found:
        sent = transmissions_for(panel, controller, pattern(panel, each, 0))
        out[f"{name}_test_{words[each]}"] = (f"test pattern: {each}", sent)
    return out


def _pictures(project: Project, panel: Panel, name: str) -> Mapping[str, tuple[str, bytes]]:
    """The pictures on its faces, in its own packing, each alone."""
    if not isinstance(panel, PixelPanel):
        return {}
    named = [str(getattr(item, "picture", "")) for face in project.faces_on(panel.name) for item in face.items]
    shown = {each: project.pictures[each] for each in named if each in project.pictures}
    words = code_names(shown)
    out: dict[str, tuple[str, bytes]] = {}
    for each, picture in shown.items():
        if picture.said:
            continue
        for place, frame in enumerate(picture.frames):
            which = f"_{place + 1}" if len(picture.frames) > 1 else ""
            says = f"picture {each}, {frame.width}x{frame.height}, {panel.packing.bytes}"
            out[f"{name}_picture_{words[each]}{which}"] = (says, pack(frame, panel.packing))
    return out


def tasks_of(project: Project, bench: Bench, operations: Mapping[str, int]) -> tuple[tuple[str, Task], ...]:
    """The tasks of the loop, each with an identifier; ``operations`` by packed channel."""
    tasks = loop_of(project, bench, operations).tasks
    words = code_names(task.name for task in tasks)
    return tuple((f"task_{words[task.name]}", task) for task in tasks)
