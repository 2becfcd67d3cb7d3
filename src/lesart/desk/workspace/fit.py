"""Fit: the cells large with code and glyph, the film strip of every ugly value, the rules."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from lesart.core.fit.cells import Cell
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import Field
from lesart.core.fit.fill import Shown, fill
from lesart.core.fit.inspect import honest_decimals
from lesart.core.fit.strip import film_strip
from lesart.core.glass.frame import SegmentFrame
from lesart.core.glass.panel import Panel
from lesart.core.glyphs.segments import lit_names
from lesart.core.parameters import Parameter
from lesart.desk.glass import glass_of
from lesart.desk.inspect import field_key, one_count
from lesart.desk.views import CellRow, Line, Span, Workspace
from lesart.desk.workspace.context import Context, label, number, text, value

MOST_CELLS = 10
"""Cells drawn large; a wider field shows its first ones, and says so."""


def build(context: Context) -> Workspace:
    """The field on the panel brought forward."""
    channel = context.channel
    front = context.front()
    if front is None:
        lines: tuple[Line, ...] = (
            (text("No panel shows this channel yet."),),
            (label("Add an item of kind field to a face in lesart.toml; its rules then stand here."),),
        )
        return Workspace(6, "Fit", "a number in its place", lines=lines)
    panel, item, face = front
    shown = fill(item.field, context.readings[channel.name], joined=panel.joined)
    subtitle = f"{_cells_word(item.field.width)} on {panel.name}, from column {item.column}"
    rows = _rules(context, [(parameter, field_key(channel, face, item, parameter.name)) for parameter in FIELD])
    scope = [parameter.title for parameter in FIELD if parameter.name in item.own_keys]
    stated = (
        f"{', '.join(scope)} stated for {panel.name}; the rest for the channel" if scope else "stated for the channel"
    )
    return Workspace(
        6, "Fit", subtitle, cells=_cells(panel, shown),
        lines=(*_strip(context, panel, item.field), *_honest(context, item.field), (), *rows, (label(stated),)),
    )  # fmt: skip


def _cells_word(width: int) -> str:
    return f"{width} cell" + ("s" if width != 1 else "")


def _cells(panel: Panel, shown: Shown) -> CellRow:
    """The cells lit as the panel lights them, with code and what they are under each."""
    some = shown.cells[:MOST_CELLS]
    codes = [panel.code(cell) for cell in some]
    blank = panel.blank()[0][0]
    frame = panel.lit((tuple(blank if code is None else code for code in codes),))
    captions = []
    for cell, code in zip(some, codes, strict=True):
        hexed = Span(f"0x{code:02X}", "lapis") if code is not None else Span("none", "rubric")
        if isinstance(frame, SegmentFrame):
            named = lit_names(code or 0) or "dark"
        else:
            named = cell.letter if cell.letter != " " else "pad"
        captions.append((hexed, Span(named, "faint")))
    return CellRow(glass_of(panel, frame), tuple(captions))


def _strip(context: Context, panel: Panel, field: Field) -> list[Line]:
    channel = context.channel
    typical = _typical(context)
    stills = film_strip(field, channel.lowest, channel.highest, typical, joined=panel.joined)
    lines: list[Line] = [(label(f"film strip   every ugly value of {channel.name}"),)]
    unit = field.unit_shown.symbol
    for still in stills:
        there = "" if still.value is None else number(field.shown_value(still.value), unit, 6)
        there = f"< {there}" if still.title.startswith("before") else there
        state = "" if still.shown.state == "value" else f"{still.shown.state} text"
        lines.append(
            (label(f"   {still.title:<24}"), text(f"{there:>14}  ", "ochre"), *_shown(still.shown), label(f"  {state}"))
        )
    return lines


def _shown(shown: Shown) -> Iterable[Span]:
    return (Span("".join(map(_cell_text, shown.cells)), "cells"),)


def _cell_text(cell: Cell) -> str:
    return str(cell)


def _typical(context: Context) -> float:
    """The middle reading of the capture, or of the channel's range without one."""
    if context.run is not None:
        good = context.run.calm.x[context.run.calm.usable]
        if len(good):
            some = good[:: max(len(good) // 999, 1)]
            return float(np.median(some[: len(some) - 1 + len(some) % 2]))
    return (context.channel.lowest + context.channel.highest) / 2


def _honest(context: Context, field: Field) -> list[Line]:
    """How many decimals the number is worth, by what one count and the noise are."""
    if context.run is None:
        return []
    raw = context.here["raw"].value
    count = one_count(context.channel, raw) if math.isfinite(raw) else 0.0
    noise = context.bench.noise(context.run.calm)
    restless = context.bench.restless(field, context.run.calm)
    unit = context.channel.unit.symbol
    honest = honest_decimals(max(count, noise))
    return [
        (
            label("honest decimals "), text(str(honest), "verdigris"),
            label("  one count "), text(number(count, unit, 2) if count else "—"),
            label("  noise "), text(number(noise, unit, 2)),
            label("  changes "), text(f"{number(restless, '', 2)}/min"),
            label(f" {context.numerals('fit', channel=context.channel.name)}"),
        ),
    ]  # fmt: skip


def _rules(context: Context, rules: list[tuple[Parameter, tuple[str | int, ...]]]) -> list[Line]:
    lines, row = [], []
    for index, (parameter, key) in enumerate(rules):
        span = value(context.project, key)
        filler = max(20 - len(parameter.title) - len(span.text) - 1, 2)
        row += [label(f"{parameter.title} "), span, label(" " * filler)]
        if index % 4 == 3 or index == len(rules) - 1:
            lines.append(tuple(row[:-1]))
            row = []
    return lines
