"""Wire: connections and whether they can work, on six leaves: joins, parts, sums, supply, bring-up, why."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.notes import FAULT
from lesart.core.quantity import counted
from lesart.core.step import Step
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.sums import SUMS
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.desk.workspace.wire.bringup import bringup_lines
from lesart.desk.workspace.wire.joins import joins_lines
from lesart.desk.workspace.wire.parts import parts_lines
from lesart.desk.workspace.wire.sums import sums_lines
from lesart.desk.workspace.wire.supply import supply_lines
from lesart.desk.workspace.wire.why import why_lines
from lesart.study.views import Leaf, Line, Workspace, numeral

_LINES: dict[str, Callable[[Context], list[Line]]] = {
    "joins": joins_lines,
    "parts": parts_lines,
    "sums": sums_lines,
    "supply": supply_lines,
    "bring-up": bringup_lines,
    "why": why_lines,
}
_ADDS = {"sums": "add a sum, name = kind: "}
_HINTS = {
    "joins": ("j", "joins by role"),
    "sums": ("w", "writes the part"),
    "bring-up": ("enter", "measured"),
    "why": ("y", "which part"),
}
_ADDS_ELSE = "add a part, like a 10k resistor, or join pins, like a.pin > b.pin through r: "


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    leaf = context.state.leaf_of(Step.WIRE)
    lines = _LINES[leaf](context) if context.project.hookup.parts or leaf == "sums" else _nothing()
    adds = _ADDS.get(leaf, _ADDS_ELSE)
    hints = (("l", "turns"), *((_HINTS[leaf],) if leaf in _HINTS else ()))
    return Workspace(
        Step.WIRE, _subtitle(context), lines=tuple(lines), adds=adds, leaves=_leaves(context, leaf), hints=hints
    )


def _subtitle(context: Context) -> str:
    hookup = context.project.hookup
    if not hookup.parts:
        return "what is joined to what"
    faults = sum(note.step == Step.WIRE and note.mark == FAULT for note in context.notes)
    found = f" · † {faults}" if faults else ""
    return f"{counted(len(hookup.parts), 'part')}, {counted(len(hookup.joins), 'connection')}{found}"


def _leaves(context: Context, leaf: str) -> tuple[Leaf, ...]:
    numbered = [(number, note) for number, note in enumerate(context.notes, 1) if note.step == Step.WIRE and note.place]
    sums = " ".join(numeral(number) for number, note in numbered if note.place and note.place[0] == "sums")
    measured = " ".join(numeral(number) for number, note in numbered if note.place and note.place[0] == "wire")
    notes = {"sums": sums, "bring-up": measured}
    return tuple(Leaf(name, name == leaf, notes.get(name, "")) for name in LEAVES[Step.WIRE])


def _nothing() -> list[Line]:
    """What to type where there is nothing yet."""
    return [
        (text("No parts yet."),),
        (label("A hook-up says what is joined to what; then Lesart says what cannot work in it."),),
        (),
        (
            text("+"),
            label(" adds a part: "),
            text("node = 3.3 V board"),
            label(", then "),
            text("lid = two-wire module"),
        ),
        (text("j"), label(" joins all parts by the roles of their pins, in one step; ctrl+z undoes it.")),
        (label("Or say what the reading is: "), text("+"), label(" in 2 Raw; its parts come joined.")),
        (),
        (label("Kinds of parts"),),
        *wrapped(", ".join(KINDS), "text"),
        (label("A kind of your own is defined in lesart.toml under [kinds.NAME]."),),
        (),
        (label("Sums of the bench, on their own leaf"),),
        *wrapped(", ".join(SUMS), "text"),
    ]
