"""The pin of the board that a line about a signal names: ``a 10k thermistor on A3``. Its parts are joined there."""

from __future__ import annotations

import re
from dataclasses import replace

from lesart.core.wire.hookup import End, signal_ends
from lesart.desk.entries.aloud.wired.on_pins import pin_of_board, pins_named
from lesart.desk.entries.aloud.wired.pinouts import pins_besides, uses_said
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.recipes.aloud import PIN
from lesart.desk.entries.wire import with_values
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

_NAME = re.compile(r"[A-Za-z]*\s?\d{1,2}$")


def with_pin_said(editor: Editor, made: Edited, before: Project, name: str, said: str) -> Edited:
    """The signal of channel ``name`` with its parts at the pin that is ``said``; unchanged where none is.

    Where nothing is joined by it, the deed says where a pin is said.
    """
    found = PIN.search(said)
    at = _NAME.search(found[0]) if found else None
    if at is None:
        return made
    pin = at[0].replace(" ", "").removeprefix("pin")
    called = f"pin {pin}" if pin.isdigit() else pin
    text, project = made.text, check_project(made.text, before)
    hookup, channel = project.hookup, project.channels[name]
    parts = {channel.part, *(str(value) for law in channel.laws for value in law.written.values())} & set(hookup.parts)
    reads = channel.part
    boards = [part for part in hookup.parts.values() if part.kind.group == "board"]
    there = signal_ends(hookup, reads) if reads in hookup.parts else ()
    if len(boards) != 1 or len(there) != 1:
        return replace(made, deed=f"{made.deed}; what {called} is joined to is said in 1 Wire")
    board = boards[0]
    to = pin_of_board(pin, board)
    if to is None:
        written = value_at(project.tables, ("parts", board.name)) or {}
        more = pins_besides(pins_named(f"on {pin}"), board, written, hookup)
        text, project = with_values(editor, text, project, board.name, more)
        to = pin_of_board(pin, project.hookup.parts[board.name])
        if to is None:
            return replace(made, deed=f"{made.deed}; {board.name} has no {called}, so it is on {there[0].pin}")
        ends = (join.other(there[0]) for join in hookup.joins_at(there[0]))
        roles = next(hookup.pin(end).roles for end in ends if end.part == reads)
        new = {to} - {each.name for each in board.kind.pins}
        uses = uses_said([(roles, to)], project.hookup.parts[board.name], written, project.hookup, new)
        text, project = with_values(editor, text, project, board.name, uses)
    for join in hookup.joins:
        if there[0] in join.ends and (join.through in parts or parts & {end.part for end in join.ends}):
            word = "pin" if join.pin == there[0] else "to"
            text = editor.with_value(text, ("wire", "joins", join.index, word), str(End(board.name, to)))
    return replace(made, text=text)
