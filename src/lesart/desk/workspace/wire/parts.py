"""The leaf of parts: kind, values and use of each; and all kinds."""

from __future__ import annotations

import textwrap

from lesart.core.quantity import listed
from lesart.core.wire.part import Part
from lesart.desk.workspace.context import WIDTH, Context, label, rows_of, text, value
from lesart.desk.workspace.wire.joins import marks
from lesart.project.tables.wiring import kinds_of
from lesart.study.views import Line


def parts_lines(context: Context) -> list[Line]:
    """All parts, then the catalogue, since one looks for a kind when adding a part."""
    lines: list[Line] = []
    for part in context.project.hookup.parts.values():
        lines += _part(context, part)
    lines += [(), (label("Kinds of parts for "), text("+"), label(", as in "), text("lid = two-wire module"))]
    for kind in kinds_of(context.project.tables).values():
        first, *more = textwrap.wrap(kind.says, WIDTH - 31)
        lines.append((text(f"   {kind.name:<27}"), label(first)))
        lines += [(label(f"{'':<30}{rest}"),) for rest in more]
    return lines


def _part(context: Context, part: Part) -> list[Line]:
    project = context.project
    used = _used(context, part)
    found = marks(context, part.name)
    head: Line = (
        text(f" {part.name:<18} ", bold=True),
        value(project, ("parts", part.name, "kind")),
        label(f"   {used}" if used else ""),
        text(f"  {found}" if found else "", "rubric"),
    )
    rows = [(label("   "), *row) for row in rows_of(project, ("parts", part.name), part.kind.parameters)]
    if part.address is not None:
        rows.insert(0, (label("   address "), value(project, ("parts", part.name, "address"))))
    return [head, *rows]


def _used(context: Context, part: Part) -> str:
    """Use of a part: channels read from it, or the number of connections through it."""
    channels = [channel.name for channel in context.project.channels.values() if channel.part == part.name]
    if channels:
        return f"read as {listed(channels if len(channels) < 3 else [channels[0], f'{len(channels) - 1} more'])}"
    if part.kind.group == "between":
        count = sum(join.through == part.name for join in context.project.hookup.joins)
        return f"in {count} connection{'s' if count != 1 else ''}" if count else "in no connection yet"
    return ""
