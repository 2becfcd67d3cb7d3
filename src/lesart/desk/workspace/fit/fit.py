"""Fit: the cells large with code and glyph, the film strip of every ugly value, the rules; how digits come about; the
whole range swept."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.border import end_said
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import Field
from lesart.core.fit.fill import Shown, fill
from lesart.core.fit.film_strip import film_strip
from lesart.core.glass.faces.face import FieldItem
from lesart.core.glass.panels.frame import SegmentFrame
from lesart.core.glass.panels.panel import Panel
from lesart.core.glyphs.segments import lit_names
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.quantity import times_said
from lesart.core.ranked import median
from lesart.core.step import Step
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, label, number, text, value
from lesart.desk.workspace.fit.digits import digits_line, digits_lines
from lesart.desk.workspace.fit.sweep import sweep_lines
from lesart.desk.worthwhile_decimals import MOST, decimals_worth
from lesart.study.glass import as_seen, glass_of
from lesart.study.inspect import field_key
from lesart.study.sureness import sureness_in_the_middle
from lesart.study.views import CellRow, Leaf, Line, Span, Workspace

MOST_CELLS = 10
"""Cells drawn large; a wider field shows its first ones, and says so."""
MAIN = ("width", "decimals", "align", "sign", "round", "unit")
"""Rules shown under the film strip; a leaf of their own has all of them."""
GROUPS = (
    ("cells", ("width", "align", "pad")),
    ("number", ("shows", "decimals", "decimals_are", "round", "sign", "point", "group")),
    ("unit", ("unit", "unit_text", "unit_place", "prefix")),
    ("in place of it", ("words", "calm_word", "time")),
    ("when there is none", ("overflow", "underflow", "invalid", "settling", "stale", "stale_after")),
    ("and", ("restless", "sent")),
)
IN_LINE, COLUMN = 3, 25
ADDS = "say rules, like 2 decimals, 6 wide, leading zeros, in °F: "


@dataclass(frozen=True)
class Place:
    """The field looked at, and its place."""

    panel: Panel
    item: FieldItem
    face: str


def build(context: Context) -> Workspace:
    """Build the open leaf, for the field on the panel in front."""
    front = context.front()
    leaf = context.state.leaf_of(Step.FIT)
    leaves = tuple(Leaf(name, name == leaf) for name in LEAVES[Step.FIT])
    if front is None:
        lines: tuple[Line, ...] = (
            (text("No panel shows this channel yet."),),
            (text("7", "ochre"), label(" Glass adds a field of it to a face by "), text("+", "ochre"), label(".")),
        )
        return Workspace(Step.FIT, "a number in its place", lines=lines)
    at = Place(*front)
    reading = context.readings[context.channel.name]
    shown = fill(at.item.field, reading, joined=at.panel.joined)
    width = f"{at.item.field.width} cell" + ("s" if at.item.field.width != 1 else "")
    subtitle = f"{width} on {at.panel.name}, from column {at.item.column}"
    return Workspace(
        Step.FIT,
        subtitle,
        cells=_cells(at.panel, shown) if leaf != "sweep" else None,
        lines=tuple(_LEAVES[leaf](context, at, shown)),
        leaves=leaves,
        adds=ADDS,
        hints=(("l", "turns"), ("h", "tries a value"), ("x", "own rule"), *_next_field(context, at)),
    )


def _next_field(context: Context, at: Place) -> tuple[tuple[str, str], ...]:
    fields = context.state.seen.fields_on(at.panel.name, context.channel.name)
    return (("f", "next field"),) if len(fields) > 1 else ()


def field_lines(context: Context, at: Place, shown: Shown) -> list[Line]:
    """How the digits come about, the rules that matter most, honest decimals, and the film strip."""
    field = at.item.field
    lines = [*digits_line(context, field), *_rows(context, at, MAIN)]
    return [*lines, *_honest(context, field), (), *_strip(context, at.panel, field)]


def rules_lines(context: Context, at: Place, shown: Shown) -> list[Line]:
    """Every rule, grouped by subject."""
    lines: list[Line] = []
    for title, names in GROUPS:
        lines += [(label(title),), *((label("   "), *row) for row in _rows(context, at, names))]
    scope = [parameter.title for parameter in FIELD if parameter.name in at.item.own_keys]
    if scope:
        return [*lines, (), (label(f"{', '.join(scope)} stated for this field alone; the rest for the channel"),)]
    hint = text("x", "ochre"), label(" makes the selected rule this field's own")
    return [*lines, (), (label("stated for the channel; "), *hint)]


def _rows(context: Context, at: Place, names: Iterable[str]) -> list[Line]:
    """Rules as short rows."""
    by_name: dict[str, Parameter] = {parameter.name: parameter for parameter in FIELD}
    rows: list[list[Span]] = [[]]
    room = 0
    for name in names:
        key: Key = field_key(context.channel, at.face, at.item, name)
        # The field's own rules stand out from those of the channel.
        span = value(context.project, key, tone="ochre" if name in at.item.own_keys else "text")
        wide = len(by_name[name].title) + 1 + len(span.text)
        takes = (wide // COLUMN + 1) * COLUMN
        if room + takes > IN_LINE * COLUMN and rows[-1]:
            rows.append([])
            room = 0
        rows[-1] += [label(f"{by_name[name].title} "), span, label(" " * (takes - wide))]
        room += takes
    return [tuple(row[:-1]) for row in rows]


def _cells(panel: Panel, shown: Shown) -> CellRow:
    """The cells as the panel lights them, with code and character under each."""
    some = shown.cells[:MOST_CELLS]
    codes = [panel.code(cell) for cell in some]
    blank = panel.blank()[0][0]
    frame = panel.cells_lit(tuple(blank if code is None else code for code in codes))
    captions = []
    for cell, code in zip(some, codes, strict=True):
        hexed = Span(f"0x{panel.sent_code(code):02X}", "lapis") if code is not None else Span("none", "rubric")
        if isinstance(frame, SegmentFrame):
            named = lit_names(code or 0, frame.alphabet) or "dark"
        else:
            named = cell.letter if cell.letter != " " else "pad"
        captions.append((hexed, Span(named, "faint")))
    return CellRow(glass_of(panel, frame), tuple(captions))


def _strip(context: Context, panel: Panel, field: Field) -> list[Line]:
    channel = context.channel
    stills = film_strip(field, channel.lowest, channel.highest, typical(context), joined=panel.joined)
    lines: list[Line] = [(label(f"film strip   every ugly value of {channel.name}"),)]
    for still in stills:
        there = "" if still.said is None else end_said(field, still.said)
        state = "" if still.shown.state == "value" else f"{still.shown.state} text"
        seen = as_seen(panel, still.shown.cells)
        lines.append(
            (label(f"   {still.title:<28}"), text(f"{there:>14}  ", "ochre"), text(seen, "cells"), label(f"  {state}"))
        )
    return lines


def typical(context: Context) -> float:
    """The median reading of the capture, or the middle of the channel's range without one; in six digits, as it is for
    people."""
    if context.run is not None:
        good = context.run.calm.x[context.run.calm.usable]
        if len(good):
            some = good[:: max(len(good) // 999, 1)]
            return float(f"{median(some[: len(some) - 1 + len(some) % 2]):.6g}")
    return (context.channel.lowest + context.channel.highest) / 2


def _honest(context: Context, field: Field) -> list[Line]:
    """The decimals that the number deserves, by one count, the noise and the tolerances."""
    if context.run is None or not field.is_number:
        return []
    if context.in_haste and not context.bench.knows("sureness", context.channel, context.run.blocks[Step.RAW]):
        return [(label("honest decimals …"),), (label("the last digit …"),)]
    sure = sureness_in_the_middle(context.project, context.channel, context.bench)
    if sure is None:
        return []
    unit = context.channel.unit.symbol
    restless = context.bench.restless(field, context.run.calm)
    worth = decimals_worth(field, sure)
    off = number(sure.off, unit, 2) if sure.off is not None and math.isfinite(sure.off) else "—"
    return [
        (
            label("honest decimals "),
            text(str(worth) if worth < MOST else "—", "verdigris"),
            label("  one count "),
            text(number(sure.one_count, unit, 2) if sure.one_count else "—"),
            label("  noise "),
            text(number(sure.rest, unit, 2)),
            label("  within ± "),
            text(off),
        ),
        (
            label("the last digit changes "),
            text(f"{times_said(number(restless, '', 2))} a minute"),
            label(f" {context.numerals(Step.FIT, channel=context.channel.name, most=2)}"),
        ),
    ]


_LEAVES: dict[str, Callable[[Context, Place, Shown], list[Line]]] = {
    "field": field_lines,
    "rules": rules_lines,
    "digits": lambda context, at, shown: digits_lines(context, at.panel, at.item.field, shown),
    "sweep": lambda context, at, shown: sweep_lines(context, at.panel, at.item.field),
}
