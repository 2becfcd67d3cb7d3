"""The pin of the board that a line about a signal names: ``a 10k thermistor on A3``. Its parts are joined there."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from lesart.core.errors import RequestError
from lesart.core.wire.hookup import End, signal_ends
from lesart.core.wire.part import Part
from lesart.core.wire.pinout import ANALOG, use_met_by
from lesart.core.wire.role import roles_meet
from lesart.desk.entries.aloud.wired.on_pins import pin_of_board, pins_named
from lesart.desk.entries.aloud.wired.pinouts import pins_besides, uses_said
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.recipes.phrases.aloud import PIN
from lesart.desk.entries.wire import with_values
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

_COUNTED_THROUGH = re.compile(r"(?:gpio|io)\d", re.IGNORECASE)
"""Pins of boards that number all pins alike, those that measure a voltage among them: which ones, the person knows."""


def with_pin_said(editor: Editor, made: Edited, before: Project, name: str, said: str) -> Edited:
    """The signal of channel ``name`` with its parts at the pin that is ``said``; unchanged where none is.

    Where nothing is joined by it, the deed says where a pin is said.
    """
    found = PIN.search(said)
    if found is None:
        return made
    pin = _on_board(found)
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
    written = value_at(project.tables, ("parts", board.name)) or {}
    ends = (join.other(there[0]) for join in hookup.joins_at(there[0]))
    roles = next(hookup.pin(end).roles for end in ends if end.part == reads)
    if to is None:
        more = pins_besides(pins_named(f"on {pin}"), board, written, hookup)
        text, project = with_values(editor, text, project, board.name, more)
        to = pin_of_board(pin, project.hookup.parts[board.name])
        if to is None:
            return replace(made, deed=f"{made.deed}; {board.name} has no {called}, so it is on {there[0].pin}")
    measures_nothing = _measures_nothing(project.hookup.parts[board.name], to, roles)
    if measures_nothing and not _COUNTED_THROUGH.match(pin) and to in {each.name for each in board.kind.pins}:
        like = next((each.name for each in board.kind.pins if "analog in" in each.roles), "")
        raise RequestError(
            f"{to} of {board.name} measures no voltage; name one that does{f', like {like}' if like else ''}, or add "
            f"it to the analog pins of {board.name} in 1 Wire."
        )
    if measures_nothing or to not in {each.name for each in board.kind.pins}:
        uses = uses_said([(roles, to)], project.hookup.parts[board.name], written, project.hookup, {to})
        text, project = with_values(editor, text, project, board.name, uses)
    for join in hookup.joins:
        if there[0] in join.ends and (join.through in parts or parts & {end.part for end in join.ends}):
            word = "pin" if join.pin == there[0] else "to"
            text = editor.with_value(text, ("wire", "joins", join.index, word), str(End(board.name, to)))
    return replace(made, text=text)


def _on_board(found: re.Match[str]) -> str:
    """The pin as boards print it: ``A0`` for analog pin 0, analog input 0 and ADC0, ``GPIO26`` for GP26."""
    pin = re.sub(r"^GP(?=\d)", "GPIO", found["pin"].replace(" ", ""), flags=re.IGNORECASE)
    is_analog = re.search(r"\banalog(?:ue)?\b", found[0], re.IGNORECASE) and pin.isdigit()
    return f"A{pin}" if is_analog else re.sub(r"^ADC(?=\d)", "A", pin, flags=re.IGNORECASE)


def without_pin(typed: str) -> str:
    """The line without the pin that it ends at; empty where it ends at none."""
    found = PIN.search(typed)
    return typed[: found.start()] if found is not None and not typed[found.end() :].strip(" .") else ""


def _measures_nothing(board: Part, pin: str, roles: Sequence[str]) -> bool:
    """True where what is measured would be at a pin that only is low or high."""
    found, met = board.kind.pin(pin), use_met_by(roles)
    return found is not None and met is not None and met[0] is ANALOG and not roles_meet(tuple(roles), found.roles)
