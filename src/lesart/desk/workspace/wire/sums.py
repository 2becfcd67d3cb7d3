"""The leaf of sums: inputs, editable in place; results; and the resulting part."""

from __future__ import annotations

import textwrap

from lesart.core.quantity import format_quantity
from lesart.core.units import parse_unit
from lesart.core.wire.entry import PREFIXED, written
from lesart.core.wire.faults.sums import differs, shown_part
from lesart.core.wire.sums import SUMS, Figure, Sum, SumResult
from lesart.desk.workspace.context import WIDTH, Context, label, rows_of, text, value, wrapped
from lesart.study.views import Line, numeral

LONG_S = 3600.0


def sums_lines(context: Context) -> list[Line]:
    """All sums of the project, then all kinds."""
    lines: list[Line] = []
    for each in context.project.sums.values():
        lines += [*_sum(context, each), ()]
    if not lines:
        lines += [(text("No sum yet. "), text("+", "ochre"), label(" adds one: "), text("lamp = lamp resistor")), ()]
    lines.append((label("Sums for "), text("+")))
    for kind in SUMS.values():
        first, *more = textwrap.wrap(kind.says, WIDTH - 24)
        lines.append((text(f"   {kind.name:<20}"), label(first)))
        lines += [(label(f"{'':<23}{rest}"),) for rest in more]
    return lines


def _sum(context: Context, each: Sum) -> list[Line]:
    project = context.project
    result = each.result()
    head: Line = (
        text(f" {each.name}", bold=True),
        label("  kind "),
        value(project, ("sums", each.name, "kind")),
        text(f"  {_numerals(context, each)}", "rubric"),
    )
    rows = [(label("   "), *row) for row in rows_of(project, ("sums", each.name), each.kind.parameters)]
    formula = [(label(" "), *line) for line in wrapped(each.kind.formula, "faint", WIDTH - 1)]
    lines = [head, *formula, *rows, *_figures(result)]
    if result.warning:
        lines += [(label(" "), *line) for line in wrapped(f"‡ {result.warning}", "rubric", WIDTH - 1)]
    return [*lines, *_part_lines(context, each, result)]


def _numerals(context: Context, each: Sum) -> str:
    place = ("sums", each.name)
    return " ".join(numeral(number) for number, note in enumerate(context.notes, 1) if note.place == place)


def _figures(result: SumResult) -> list[Line]:
    """Figures in two columns."""
    cells = [(label(f"{each.label} "), text(shown(each), "verdigris")) for each in result.figures]
    lines: list[Line] = []
    for start in range(0, len(cells), 2):
        line: Line = (label("   "),)
        for cell in cells[start : start + 2]:
            gap = max(37 - sum(len(span.text) for span in cell), 2)
            line = (*line, *cell, label(" " * gap))
        lines.append(line[:-1])
    return lines


def shown(figure: Figure) -> str:
    """A figure as ``4.7 kΩ``; long times in hours; a share in per cent."""
    if figure.unit == "1":
        return f"{figure.value * 100:.3g} %"
    if figure.unit == "s" and figure.value >= LONG_S:
        hours = figure.value / 3600
        return f"{hours:.3g} h" if hours < 96 else f"{hours / 24:.3g} d"
    if figure.unit in (*PREFIXED, "s"):
        return written(float(f"{figure.value:.4g}"), figure.unit).replace("-", "−")
    return format_quantity(figure.value, parse_unit(figure.unit), 4)


def _part_lines(context: Context, each: Sum, result: SumResult) -> list[Line]:
    name = value(context.project, ("sums", each.name, "part"))
    if not result.part:
        return [(label("   part "), name, label(" gets nothing from this"))]
    differing = differs(result, context.project.hookup.parts.get(each.part))
    if name.text == "none":
        # Without a name of its own the part takes that of the sum.
        name = type(name)(each.part, name.tone, name.bold, name.edit)
    said: Line = (label("   part "), name, label(f"  {shown_part(result)}  "))
    if differing:
        return [said, (text(f"   {differing}", "rubric"), label("; "), text("w", "ochre"), label(" writes it"))]
    return [(*said, text("✓ in the hook-up", "verdigris"))]
