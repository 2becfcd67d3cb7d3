"""New parts joined by role as they are added; a hook-up without a board gets one, which is assumed."""

from __future__ import annotations

from collections.abc import Collection

from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.core.wire.entry import free_name
from lesart.core.wire.hookup import End
from lesart.core.wire.proposal.propose import mends_for, propose
from lesart.project.assumed import ASSUMED
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.project.text import Editor

FIVE_VOLT, LOWER = "5 V board", "3.3 V board"
LOWER_V = 3.6
"""A reference above that is one of a board for 5 V."""
VOLT = parse_unit("V")


def with_joined(editor: Editor, text: str, before: Project, parts: Collection[str], volts: str = "5 V") -> str:
    """The text with the connections of new parts; on a board for so many ``volts`` where there was none."""
    boards = [part for part in before.hookup.parts.values() if part.kind.group == "board"]
    if not boards:
        level = parse_quantity(volts.partition("±")[0], VOLT).to(VOLT)
        kind = FIVE_VOLT if level > LOWER_V else LOWER
        name = free_name(check_project(text, before).hookup.parts, "board")
        text = editor.with_table(text, ("parts", name), {"kind": kind, ASSUMED: "kind"})
    hookup = check_project(text, before).hookup
    ends = [End(name, pin.name) for name in parts for pin in hookup.parts[name].kind.pins]
    return editor.mended(text, mends_for(hookup, propose(hookup), ends))
