"""Calm, the leaf of variants: every variant of the channel compared, down to the glass."""

from __future__ import annotations

import math

from lesart.core.block import Block
from lesart.core.calm.effect import worst_error
from lesart.core.calm.record import total_cost
from lesart.core.calm.spiked import spikes
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.fit.field import Field
from lesart.core.fit.fill import fill
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, number, span_of, text, trace
from lesart.project.model import Channel
from lesart.project.tables.variants import FIRST
from lesart.study.intervals import filters_interval_s
from lesart.study.sureness import noise_behind_filters
from lesart.study.views import Chart, Line, Series, Tone

TONES: tuple[Tone, ...] = ("verdigris", "ochre", "lapis", "rubric", "text", "faint")
SLOW_HALF_SPAN = 25
NAME = 9


@dataclass(frozen=True)
class _Figures:
    """Figures of one variant over the capture; noise and worst error in the channel's unit."""

    noise: float
    lag_s: float
    spikes: int
    restless: float
    memory_bytes: int
    operations: float
    worst: float


def ways(context: Context) -> tuple[Channel, ...]:
    """The channel itself, and its variants."""
    base = context.project.channels[context.state.channel]
    return (base, *base.variants)


def variants_lines(context: Context) -> list[Line]:
    """Figures of each, then the field of each as on the glass."""
    every = ways(context)
    unit = context.channel.unit.symbol
    heads = f"{'noise':>10}{'lag':>8}{'spikes':>8}{'digit/min':>10}{'memory':>8}{'steps':>7}{'worst':>10}"
    lines: list[Line] = [(label(f"   {'':<{NAME}}{heads}"),)]
    cells: list[Line] = []
    for channel in every:
        chosen = channel.variant == context.channel.variant
        name = f"{channel.variant or FIRST}"
        try:
            run = context.bench.run(context.project, channel)
        except LesartError:
            lines.append((*_name(channel, chosen=chosen), label("no capture")))
            continue
        front = context.front()
        joined = front[0].joined if front else ""
        reading = run.reading_at(Step.CALM, context.state.cursor_s)
        shown = fill(_field(context, channel), reading, joined=joined)
        cells.append(
            (label("   "), text(f"{name:<{NAME}}", "ochre"), text(shown.text, "cells"), label(f"  {channel.says}"[:50]))
        )
        found = _figures(context, channel, run.blocks[Step.TRUE], run.calm)
        lines.append((*_name(channel, chosen=chosen), *(_row(found, unit) if found else (label("…"),))))
    if len(every) == 1:
        lines += [
            (),
            (text("V", "ochre"), label(" makes a variant as this one; what is changed then is changed in it alone.")),
        ]
    else:
        lines += [
            (),
            (
                text("v", "ochre"),
                label(" looks at the next, "),
                text("a", "ochre"),
                label(" adopts it, "),
                text("D", "ochre"),
                label(" drops it, "),
                text("R", "ochre"),
                label(" renames it"),
            ),
        ]
    return [*lines, (), (label("the field at the cursor"),), *cells]


def _name(channel: Channel, *, chosen: bool) -> Line:
    name = channel.variant or FIRST
    return text(" ▌ " if chosen else "   ", "rubric"), text(f"{name:<{NAME}}", "ochre", bold=chosen)


def _row(found: _Figures, unit: str) -> Line:
    return (
        text(f"{number(found.noise, unit, 2):>10}{number(found.lag_s, 's', 2):>8}{found.spikes:>8}"),
        text(f"{number(found.restless, '', 2):>10}{found.memory_bytes:>6} B{found.operations:>7.0f}"),
        text(f"{number(found.worst, unit, 2):>10}"),
    )


def _field(context: Context, channel: Channel) -> Field:
    """The field on the panel in front, or the channel's own."""
    front = context.front()
    if front is None:
        return channel.field
    face = context.state.project.looking_at(channel).faces[front[2]]
    return next(item.field for item in face.fields_of(channel.name) if item.index == front[1].index)


def _figures(context: Context, channel: Channel, before: Block, after: Block) -> _Figures | None:
    bench, field = context.bench, _field(context, channel)

    def compute() -> _Figures:
        noise = noise_behind_filters(context.project, channel, bench)
        cost = total_cost(channel.filters, filters_interval_s(context.project, bench, channel))
        return _Figures(
            noise=noise,
            lag_s=cost.lag_s,
            spikes=spikes(bench.on_a_line(channel, after), noise),
            restless=bench.restless(field, after),
            memory_bytes=cost.memory_bytes,
            operations=cost.operations,
            worst=worst_error(bench.on_a_line(channel, before), bench.on_a_line(channel, after), SLOW_HALF_SPAN),
        )

    return context.in_time(f"variant {field.decimals} {field.round} {field.unit_shown}", channel, after, compute)


def variants_chart(context: Context) -> Chart | None:
    """The chart of all variants in one frame."""
    series = []
    for place, channel in enumerate(ways(context)):
        try:
            block = context.bench.run(context.project, channel).calm
        except LesartError:
            continue
        series.append(trace(context, block, channel.variant or FIRST, TONES[min(place, len(TONES) - 1)]))
    drawn: list[Series] = [each for each in series if len(each.y) and math.isfinite(each.y[0])]
    if not drawn:
        return None
    channel = context.channel
    return Chart(
        title="variants",
        series=tuple(drawn),
        x_label="time",
        y_label=f"{channel.name} / {channel.unit}",
        x_range=context.view,
        y_range=span_of(drawn),
        cursor=context.state.cursor_s,
        time_axis=True,
    )
