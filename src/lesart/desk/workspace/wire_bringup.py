"""The leaf of bringing up: what to check in which order, what was measured, and what a wrong value means."""

from __future__ import annotations

import textwrap

from lesart.core.wire.check import Check, judge
from lesart.desk.views import Line, Span, numeral
from lesart.desk.workspace.context import WIDTH, Context, label, text, value


def bringup_lines(context: Context) -> list[Line]:
    """In order; enter types what the meter shows."""
    checks = context.project.checks
    if not checks:
        return [(text("Nothing is joined yet, so there is nothing to check."),)]
    done = sum(check.key in context.project.measured for check in checks)
    lines: list[Line] = [
        (label(f"   {done} of {len(checks)} done; "), text("enter", "ochre"), label(" types what the meter shows, "),
         text("delete", "ochre"), label(" forgets it")),
        (),
    ]  # fmt: skip
    for number, check in enumerate(checks, 1):
        lines += _check(context, number, check)
    return lines


def _check(context: Context, number: int, check: Check) -> list[Line]:
    measured = context.project.measured.get(check.key)
    key = ("wire", "measured", check.key)
    found = value(context.project, key)
    mark, said = text("·", "faint"), ""
    if measured is None:
        found = Span("measure" if check.unit else "yes or no", "faint", False, found.edit)
    else:
        judged = judge(check, measured)
        mark = text("✓", "verdigris") if judged.good else text("†", "rubric")
        said = judged.says
    first, *more = textwrap.wrap(check.does, WIDTH - 7)
    notes = " ".join(numeral(index) for index, note in enumerate(context.notes, 1) if note.place == key)
    lines: list[Line] = [(text(f"{number:>3} "), mark, text(f" {first}"))]
    lines += [(text(f"      {rest}"),) for rest in more]
    lines.append(
        (label("      right "), text(check.expects), label("   measured "), found, text(f"  {notes}", "rubric"))
    )  # fmt: skip
    lines += [(text(f"      {rest}", "rubric"),) for rest in textwrap.wrap(said, WIDTH - 7)]
    return lines
