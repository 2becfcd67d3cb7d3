"""Law, third leaf: laws that may follow the present ones, by the unit they end in, with what they do."""

from __future__ import annotations

from lesart.core import law as laws
from lesart.core.law.record import LawKind
from lesart.desk.entries.chain import end_of_laws, fitting_kinds
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.study.views import Line

NAME_WIDTH = 24


def kinds_lines(context: Context) -> list[Line]:
    """A row for each law that accepts the present unit; the others by name."""
    end = end_of_laws(context.channel)
    fit, missing = fitting_kinds(context.channel, context.project.hookup.parts)
    lines: list[Line] = [
        (
            label("The laws end in "),
            text(end.symbol, "ochre"),
            label(". These take it; "),
            text("+"),
            label(" adds one, like linear °C:"),
        ),
        (),
        *[_row(kind) for kind in fit],
    ]
    if missing:
        lines += [(), (label("These would, with the part that they take their values from in 1 Wire:"),)]
        lines += [_row(kind) for kind in missing]
    others = [name for name, kind in laws.KINDS.items() if kind not in fit and kind not in missing]
    return [*lines, (), (label("Not for this unit:"),), *wrapped(", ".join(others), "faint")]


def _row(kind: LawKind) -> Line:
    return text(f" {kind.name:<{NAME_WIDTH}}", "ochre"), text(kind.title)
