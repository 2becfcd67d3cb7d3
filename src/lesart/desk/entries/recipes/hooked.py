"""New parts joined by role as they are added; a hook-up without a board gets an assumed one."""

from __future__ import annotations

from collections.abc import Collection

from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.core.wire.entry import free_name
from lesart.core.wire.hookup import End, Hookup, Join
from lesart.core.wire.proposal.propose import mends_for, propose
from lesart.core.wire.role import is_rail
from lesart.project.assumed import ASSUMED
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.project.text import Editor

FIVE_VOLT, LOWER = "5 V board", "3.3 V board"
LOWER_V = 3.6
"""Above this reference voltage a 5 V board is assumed."""
VOLT = parse_unit("V")


def with_joined(editor: Editor, text: str, before: Project, parts: Collection[str], volts: str = "5 V") -> str:
    """The text with the connections of new parts, to an assumed board for these ``volts`` where there was none."""
    boards = [part for part in before.hookup.parts.values() if part.kind.group == "board"]
    if not boards:
        level = parse_quantity(volts.partition("±")[0], VOLT).to(VOLT)
        kind = FIVE_VOLT if level > LOWER_V else LOWER
        name = free_name(check_project(text, before).hookup.parts, "board")
        text = editor.with_table(text, ("parts", name), {"kind": kind, ASSUMED: "kind"})
    hookup = check_project(text, before).hookup
    ends = [End(name, pin.name) for name in parts for pin in hookup.parts[name].kind.pins]
    return editor.mended(text, mends_for(hookup, propose(hookup), ends))


def turned(editor: Editor, text: str, before: Project, sensor: str, resistor: str) -> str:
    """The text with a two-lead sensor moved to the supply and its resistor to ground."""
    hookup = check_project(text, before).hookup
    own = next((join for join in hookup.joins if sensor in _parts_at(join) and _rail(hookup, join)), None)
    other = next((join for join in hookup.joins if join.through == resistor and _rail(hookup, join)), None)
    if own is None or other is None:
        return text
    for join, instead in ((own, other), (other, own)):
        place = ("wire", "joins", join.index)
        word = "pin" if join.pin == _rail(hookup, join) else "to"
        text = editor.with_value(text, (*place, word), str(_rail(hookup, instead)))
        if instead.colour:
            text = editor.with_value(text, (*place, "colour"), instead.colour)
    return text


def _parts_at(join: Join) -> tuple[str, ...]:
    return tuple(end.part for end in join.ends)


def _rail(hookup: Hookup, join: Join) -> End | None:
    """The end of a join at a supply or ground of a board."""
    return next((end for end in join.ends if is_rail(hookup.pin(end).roles)), None)
