"""Fit, the leaf of the sweep: the whole range divided where the text's shape changes, found exactly."""

from __future__ import annotations

from lesart.core.fit.field import Field
from lesart.core.fit.sweep import sweep
from lesart.core.glass.panels.panel import Panel
from lesart.core.quantity import plain_number
from lesart.desk.workspace.context import Context, label, text
from lesart.study.glass import as_seen
from lesart.study.views import Line

DIGITS = 17
"""Digits of a float that tell neighbours apart."""


def sweep_lines(context: Context, panel: Panel, field: Field) -> list[Line]:
    """One row per piece, with its first and last text."""
    channel = context.channel
    pieces = sweep(field, channel.lowest, channel.highest, joined=panel.joined)
    unit = field.unit_shown.symbol
    word = "piece" if len(pieces) == 1 else "pieces"
    said = f"the range of {channel.name}, cut where its text changes its look: "
    lines: list[Line] = [
        (label(said), text(f"{len(pieces)} {word}")),
        (),
        (label(f"   {f'from / {unit}':>22}{f'to / {unit}':>24}   cells"),),
    ]
    for piece in pieces:
        first, last = (plain_number(float(field.shown_value(end)), DIGITS) for end in (piece.first, piece.last))
        state = piece.shape[0]
        begin, end = (as_seen(panel, shown.cells) for shown in (piece.at_first, piece.at_last))
        lines.append(
            (
                text(f"   {first:>22}{last:>24}   ", "ochre"),
                text(begin, "cells"),
                label(" … "),
                text(end, "cells"),
                text("" if state == "value" else f"  {state}", "rubric"),
            )
        )
    keys = (
        (
            label("By hand, "),
            text(", .", "ochre"),
            label(" go on by a last digit, "),
            text("< >", "ochre"),
            label(" by a hundred of them."),
        ),
        (text("h", "ochre"), label(" takes a value in hand.")),
    )
    return [*lines, (), *keys]
