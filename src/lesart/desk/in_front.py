"""What is in front: the panel, its face, and the object of rename and copy."""

from __future__ import annotations

from lesart.core.errors import RequestError
from lesart.core.glass.faces.face import Face
from lesart.core.glass.panels.panel import Panel
from lesart.core.step import Step
from lesart.desk.state import State

VARIANTS = "variants"


def looked_at(state: State) -> tuple[str, str]:
    """The group and the name of what R and C apply to. Raises RequestError where there is nothing."""
    if state.step is Step.WIRE:
        selected = state.selected_at(Step.WIRE)
        if selected is not None and selected[0] == "parts":
            return "parts", str(selected[1])
        raise RequestError("Select a part on the leaf parts of 1 Wire; tab goes to the values.")
    if state.step is Step.GLASS:
        face = face_in_front(state)
        if state.leaf_of(Step.GLASS) == "items" and face is not None:
            return "faces", face.name
        return "panels", panel_in_front(state).name
    return (VARIANTS, state.variant) if state.variant else ("channels", state.channel)


def panel_in_front(state: State) -> Panel:
    """The panel brought forward. Raises RequestError where the project has none."""
    panels = state.project.panels
    if not panels:
        raise RequestError("The project has no panel; + on the leaf of panels there are adds one.")
    return panels.get(state.panel) or next(iter(panels.values()))


def face_in_front(state: State) -> Face | None:
    """The face of that panel that is worked on."""
    faces = state.project.faces_on(panel_in_front(state).name)
    return next((face for face in faces if face.name == state.glass.face), faces[0] if faces else None)
