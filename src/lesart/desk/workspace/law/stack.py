"""Law, first leaf: the stack of laws, each with its input and output at the cursor, and its values."""

from __future__ import annotations

import numpy as np

from lesart.core.block import UNUSABLE, block_of, mark_word
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.record import LawEntry
from lesart.core.law.stage import WindowStage
from lesart.core.notes import Key
from lesart.core.quantity import format_quantity, slope_unit_said
from lesart.core.step import Step
from lesart.core.wire.part import Part
from lesart.desk.workspace.context import WIDTH, Context, label, number, rows_of, text, value, wrapped
from lesart.study.sureness import one_count_of
from lesart.study.views import Line, Span

NEAREST = "a thermistor half on a 10-bit converter"
"""The signals that makers read most."""


def laws_lines(context: Context) -> list[Line]:
    """One group of rows per law, the point at the cursor, the slope per count."""
    channel, project = context.channel, context.project
    lines: list[Line] = [*_at_cursor(context), ()]
    flows = _flows(context)
    for index, entry in enumerate(channel.laws):
        kind = entry.kind
        place: Key = (*channel.key("law"), index)
        title = f"{index + 1}  {kind.title}"
        lines += [
            (text(title, "ochre"), text(" " * max(44 - len(title), 2)), *flows[index]),
            *[(label(" "), *line) for line in wrapped(kind.formula, "faint", WIDTH - 2)],
            *[(label("   "), *row) for row in rows_of(project, place, kind.parameters)],
            *_part_rows(context, entry),
            *([(label("   = "), text(entry.derived))] if entry.derived else []),
            (),
        ]
    if not channel.laws:
        said = (label("No law: the reading is the raw value. "), text("+"), label(" adds one."))
        lines += [*(what_it_is(context) if is_unsaid(context) else (said,)), ()]
    lines.append(
        (
            label("reading in "),
            value(project, ("channels", channel.name, "unit")),
            label("   from "),
            value(project, ("channels", channel.name, "lowest")),
            label(" to "),
            value(project, ("channels", channel.name, "highest")),
            label("   beyond: "),
            value(project, ("channels", channel.name, "outside")),
        )
    )
    return lines


def is_unsaid(context: Context) -> bool:
    """True for a bare number without a stated meaning."""
    channel = context.channel
    return not channel.laws and channel.unit_raw.symbol in ("ct", "1") and channel.unit.symbol in ("ct", "1")


def what_it_is(context: Context) -> list[Line]:
    """What to type where nothing is stated about the raw values yet."""
    unit = context.channel.unit_raw.symbol
    return [
        (label("No law: the reading is the raw value, in "), text(unit, "lapis"), label(".")),
        (text("+"), label(" says what it is, like: "), text(NEAREST)),
    ]


def _flows(context: Context) -> list[tuple[Span, ...]]:
    """Input and output of each law at the cursor, or by hand."""
    block = block_of([context.here[Step.RAW].value])
    flows: list[tuple[Span, ...]] = []
    for link in context.standing.chain.links:
        if not link.place.startswith("law["):
            continue
        stage = link.stage
        if isinstance(stage, WindowStage):
            # One value is not a window; the last window's result is shown above.
            flows.append((label(f"a window of {stage.unit_in} → {stage.unit_out}"),))
            block = block[:0]
            continue
        if isinstance(stage, OverTimeStage) and context.state.hand is None:
            # Nor does one value say what earlier ones added up to.
            flows.append((label(f"{stage.unit_in} → {stage.unit_out}, {stage.law.says}"),))
            block = block[:0]
            continue
        if not len(block) or not np.isfinite(block.x[0]):
            flows.append((label(f"{stage.unit_in} → {stage.unit_out}"),))
            continue
        into = float(block.x[0] * link.scale + link.offset)
        block = link.settled(block)
        out, mark = float(block.x[0]), int(block.mark[0])
        shown = text(format_quantity(out, stage.unit_out, 6), "ochre")
        if mark & UNUSABLE:
            shown = text(mark_word(mark) or "", "rubric")
        taken = f" {stage.law.by_hand}" if isinstance(stage, OverTimeStage) else ""
        flows.append((text(format_quantity(into, stage.unit_in, 6), "lapis"), label(" → "), shown, label(taken)))
    return flows


def _part_rows(context: Context, entry: LawEntry) -> list[Line]:
    """The values of a part that a law takes from the hook-up, editable in place: the part's own, not a copy."""
    lines: list[Line] = []
    for parameter in entry.kind.parameters:
        part = entry.values[parameter.name] if parameter.kind == "part" else None
        if isinstance(part, Part):
            rows = rows_of(context.project, ("parts", part.name), part.kind.parameters)
            lines += [(label("   ↳ "), *row) for row in rows]
    return lines


def _at_cursor(context: Context) -> list[Line]:
    channel = context.channel
    if context.run is None:
        return wrapped(context.problem, "rubric")
    raw, quantity = context.here[Step.RAW].value, context.here[Step.LAW].value
    if not np.isfinite(raw):
        return [(label("The sample at the cursor has no value."),)]
    unit, unit_raw = channel.unit.symbol, channel.unit_raw.symbol
    if len(context.run.blocks[Step.RAW]) != len(context.run.blocks[Step.LAW]):
        return [(label("the window before the cursor gives "), text(number(quantity, unit, 6), "ochre"))]
    if channel.chain.is_lasting(Step.LAW) and context.state.hand is None:
        came = (
            label("at the cursor "),
            text(number(raw, unit_raw, 9), "lapis"),
            label(" came; with all before it "),
        )
        return [(*came, label("that makes "), text(number(quantity, unit, 7), "ochre")), *_while(context)]
    slope = context.standing.chain.slope(raw)
    count = one_count_of(context.bench, context.standing, context.run.blocks[Step.RAW], raw)
    per = label("   one count is ") if count else label("   slope ")
    fine = number(count, unit, 3) if count else number(slope, slope_unit_said(unit, unit_raw), 4)
    line = (
        label("at the cursor "),
        text(number(raw, unit_raw, 9), "lapis"),
        label(" is "),
        text(number(quantity, unit, 7), "ochre"),
        per,
        text(fine),
    )
    return [line, *_while(context)]


def _while(context: Context) -> list[Line]:
    beside = _beside(context)
    return [(label("while"), *beside)] if beside else []


def _beside(context: Context) -> list[Span]:
    """Present readings of the channels that the laws read."""
    spans = []
    for name in context.channel.chain.reads:
        unit = context.project.channels[name].unit.symbol
        spans += [label(f"  {name} is "), text(number(context.readings[name].value, unit, 4), "verdigris")]
    return spans
