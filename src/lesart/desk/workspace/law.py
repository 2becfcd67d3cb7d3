"""Law: the curve from raw to quantity with the operating point, and the constants it is made of."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core import law as laws
from lesart.core.block import block_of
from lesart.core.law.record import LawKind
from lesart.core.notes import Key
from lesart.desk.inspect import one_count
from lesart.desk.views import Chart, Line, Series, Workspace
from lesart.desk.workspace.context import Context, label, number, rows_of, span_of, text, value, wrapped
from lesart.project.text import value_at

CURVE_POINTS = 200


def build(context: Context) -> Workspace:
    """One group of rows for each law, the point at the cursor, the slope per count."""
    channel, project = context.channel, context.project
    lines: list[Line] = [*_at_cursor(context), ()]
    tables = value_at(project.tables, ("channels", channel.name, "law")) or []
    for index, table in enumerate(tables):
        kind = laws.KINDS[table["kind"]]
        place: Key = ("channels", channel.name, "law", index)
        stage = next(link.stage for link in channel.chain.links if link.place == f"law[{index}]")
        lines += [
            (
                text(f"{index + 1}  {kind.title}", "ochre"),
                label(f"   {stage.unit_in} → {stage.unit_out}"),
            ),
            (label(f"   {kind.formula}"),),
            *[(label("   "), *row) for row in rows_of(project, place, kind.parameters)],
            *_part_rows(context, table, kind),
            (),
        ]
    if not tables:
        lines += [(label("No law: the reading is the raw value. "), text("+"), label(" adds one.")), ()]
    lines.append(
        (
            label("reading in "), value(project, ("channels", channel.name, "unit")),
            label("   from "), value(project, ("channels", channel.name, "lowest")),
            label(" to "), value(project, ("channels", channel.name, "highest")),
        )
    )  # fmt: skip
    return Workspace(
        3, "Law", f"{channel.unit_raw} to {channel.unit}", chart=chart(context), lines=tuple(lines),
        adds=f"add a law ({', '.join(laws.KINDS)} UNIT): ",
    )  # fmt: skip


def _part_rows(context: Context, table: Mapping[str, Any], kind: LawKind) -> list[Line]:
    """The values of a part that a law takes from the hook-up, in place: they are the part's, not a copy of them."""
    lines: list[Line] = []
    for parameter in kind.parameters:
        part = context.project.hookup.parts.get(str(table.get(parameter.name))) if parameter.kind == "part" else None
        if part is not None:
            rows = rows_of(context.project, ("parts", part.name), part.kind.parameters)
            lines += [(label("   ↳ "), *row) for row in rows]
    return lines


def chart(context: Context) -> Chart | None:
    """Reading before correction over raw value, across the capture and what the channel can take."""
    if context.run is None:
        return None
    channel = context.channel
    raw, quantity = context.run.blocks["raw"], context.run.blocks["law"]
    good = quantity.usable
    if not good.any():
        return None
    ends = [channel.chain.raw_for(channel.lowest), channel.chain.raw_for(channel.highest)]
    low, high = min(ends), max(ends)
    across = np.linspace(low, high, CURVE_POINTS)
    links = [link for link in channel.chain.links if link.step == "law"]
    block = block_of(across)
    for link in links:
        _, block = link.run(link.stage.initial(), block)
    usable = block.usable
    curve = Series("law", across[usable].tolist(), block.x[usable].tolist(), "faint")
    # A few hundred samples show where the capture lies on the curve as well as all of them.
    step = max(len(raw) // 300, 1)
    lies = Series("capture", raw.x[good][::step].tolist(), quantity.x[good][::step].tolist(), "ochre", "dots")
    return Chart(
        "law", (curve, lies), f"raw / {channel.unit_raw}", f"{channel.name} / {channel.unit}", (low, high),
        span_of([curve, lies]), context.here["raw"].value,
    )  # fmt: skip


def _at_cursor(context: Context) -> list[Line]:
    channel = context.channel
    if context.run is None:
        return wrapped(context.problem, "rubric")
    raw, quantity = context.here["raw"].value, context.here["law"].value
    if not np.isfinite(raw):
        return [(label("The sample at the cursor has no value."),)]
    slope = channel.chain.slope(raw)
    count = one_count(channel, raw)
    unit, unit_raw = channel.unit.symbol, channel.unit_raw.symbol
    per = label("   one count is ") if count else label("   slope ")
    fine = number(count, unit, 3) if count else f"{number(slope, '', 4)} {unit} per {unit_raw}"
    return [
        (
            label("at the cursor "), text(number(raw, unit_raw, 9), "lapis"), label(" is "),
            text(number(quantity, unit, 7), "ochre"), per, text(fine),
        )
    ]  # fmt: skip
