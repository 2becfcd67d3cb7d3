"""Panels lit for the screen and for drawings: a frame with the panel's own colours."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.fit.field import Reading
from lesart.core.glass.face import compose
from lesart.core.glass.frame import Frame
from lesart.core.glass.panel import COLOURS, LIGHTS, CharacterPanel, Panel, SegmentPanel
from lesart.desk.views import Glass
from lesart.project.model import Project

DARK_GROUND = "#1a0b08"
"""Behind unlit segments: a smoked window, nearly black."""


def glass_of(panel: Panel, frame: Frame) -> Glass:
    """A frame as this panel shows it."""
    if isinstance(panel, SegmentPanel):
        ground, lit = DARK_GROUND, COLOURS[panel.colour]
    else:
        assert isinstance(panel, CharacterPanel)
        ground, lit = LIGHTS[panel.light]
    return Glass(panel.name, panel.says(), frame, ground, lit)


def all_glasses(project: Project, readings: Mapping[str, Reading], front: str) -> tuple[Glass, ...]:
    """Every panel as it would look now, the one brought forward first."""
    names = sorted(project.panels, key=lambda name: name != front)
    glasses = []
    for name in names:
        panel, faces = project.panels[name], project.faces_on(name)
        frame = compose(faces[0], panel, readings).frame if faces else panel.lit(panel.blank())
        glasses.append(glass_of(panel, frame))
    return tuple(glasses)
