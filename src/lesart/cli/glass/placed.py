"""``lesart glass --arrange`` and ``--refit``: items placed by rules, without a screen."""

from __future__ import annotations

import argparse

from lesart.core.errors import RequestError
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.project.folder.store import FILE, write_whole


def place(options: argparse.Namespace, desk: Desk, name: str) -> int:
    """Arrange the first or the named face of a panel, or refit it to another panel."""
    faces = [face.name for face in desk.state.project.faces_on(name)]
    if options.face is not None and options.face not in faces:
        raise RequestError(f'--face "{options.face}" is not on {name}, which has {", ".join(faces) or "none"}.')
    desk.open_step(Step.GLASS)
    desk.choose_panel(name)
    desk.choose_face(options.face or next(iter(faces), ""))
    desk.add(f"refit {options.refit}" if options.refit is not None else "arrange")
    if desk.state.message_is_fault:
        raise RequestError(desk.state.message)
    if desk.state.history.text != desk.state.saved:
        write_whole(desk.folder / FILE, desk.state.history.text)
    print(desk.state.message)
    return 0
