"""The list of notes: faults first, then doubts, then remarks, folded into a line."""

from __future__ import annotations

from collections import Counter

from lesart.core.notes import REMARK, Note
from lesart.core.quantity import counted
from lesart.desk.note_place import is_listed
from lesart.desk.workspace.context import Context
from lesart.study.key_places import said_at
from lesart.study.views import NoteRow, numeral

FEWEST = 3
"""Fewest remarks that are folded."""


def note_rows(context: Context) -> list[NoteRow]:
    """A row for each listed note. Remarks after other notes are folded, until one of them is chosen."""
    state = context.state
    there = [(index, note) for index, note in enumerate(context.notes) if is_listed(state, note)]
    remarks = [(index, note) for index, note in there if note.mark == REMARK]
    is_chosen = any(index == state.note for index, _ in remarks)
    if state.remarks_unfolded or is_chosen or len(remarks) < FEWEST or len(remarks) == len(there):
        return [_row(context, index, note) for index, note in there]
    rows = [_row(context, index, note) for index, note in there if note.mark != REMARK]
    steps = Counter(note.step.shown for _, note in remarks)
    of_steps = ", ".join(f"{step} {count}" for step, count in steps.items())
    said = f"{counted(len(remarks), 'remark')}: {of_steps}."
    return [*rows, NoteRow("", REMARK, "", said, "N unfolds them.", chosen=False, count=len(remarks))]


def _row(context: Context, index: int, note: Note) -> NoteRow:
    remedy = f"{note.remedy[0].upper()}{note.remedy[1:]}." if note.remedy else ""
    if note.mend:
        remedy += f" m {note.m_does}."
    if note.limit_at is not None and (where := said_at(context.project, note.limit_at)):
        remedy += f" Its limit is {where}; H goes there."
    chosen = index == context.state.note
    return NoteRow(numeral(index + 1), note.mark, note.step.capitalize(), note.text, remedy, chosen, index)
