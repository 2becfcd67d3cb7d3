"""A preview of a deed: its picture, from a copy of the desk."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of


def try_out(desk: Desk, deed: Callable[[Desk], None] | None) -> None:
    """Let the next pictures include the preview of a deed; none where it would be refused or change nothing."""
    desk.trial = None
    if deed is None:
        return
    beside = Desk(desk.folder, replace(desk.state, offers={}), desk.bench)
    beside.editor = desk.trial_editor
    deed(beside)
    if not beside.state.message_is_fault and beside.state.project is not desk.state.project:
        desk.trial = picture_of(beside, wait_for_notes=False, wait_for_others=False)
