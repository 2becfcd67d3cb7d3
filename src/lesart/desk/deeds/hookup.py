"""Deeds with the hook-up as a whole: join by roles, write a sum's result."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries import wire as hookup_entries


def join_by_role(desk: Desk) -> None:
    """Propose a hook-up for everything that is not joined, as one edit, which undo takes back."""
    desk.turn(lambda state: replace(state, step=Step.WIRE).turned_to(Step.WIRE, "joins"))
    desk.change(lambda: hookup_entries.join_by_role(desk.editor, desk.state.history.text, desk.state.project))


def write_sum(desk: Desk) -> None:
    """Make the result of the selected sum a part of the hook-up."""
    selected = desk.state.selected_at(Step.WIRE)
    desk.change(lambda: hookup_entries.write_sum(desk.editor, desk.state.history.text, desk.state.project, selected))
