"""Calm: the signal before and after its filters, the values of each filter, and its cost."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from lesart.core import calm as filters
from lesart.core.block import Block
from lesart.core.calm.effect import lag_seen_s, worst_error
from lesart.core.calm.record import Cost, FilterKind, intervals_s, total_cost
from lesart.core.calm.spiked import spikes
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.state import LEAVES
from lesart.desk.workspace.calm.alarms import alarms_chart, alarms_lines
from lesart.desk.workspace.calm.response import frequency_chart, response_chart, response_lines
from lesart.desk.workspace.calm.variants import variants_chart, variants_lines
from lesart.desk.workspace.context import Context, label, number, rows_of, span_of, text, trace, value, wrapped
from lesart.study.intervals import filters_interval_s
from lesart.study.sureness import noise_behind_filters
from lesart.study.views import Chart, Leaf, Line, Span, Workspace

ROOM = 33
"""Columns for a filter's values, next to its name."""
SLOW_HALF_SPAN = 25
"""Half span of the slow reference's means, in samples."""


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    leaf = context.state.leaf_of(Step.CALM)
    lines, evidence = _LEAVES[leaf]
    hints = (("l", "turns"),)
    return Workspace(
        Step.CALM,
        "steady without being slow",
        chart=evidence(context),
        lines=tuple(lines(context)),
        hints=hints,
        adds="add a filter, like mean; or noise 0.02 kg; or alarm above 43 kg: ",
        leaves=tuple(Leaf(name, name == leaf) for name in LEAVES[Step.CALM]),
    )


def filters_lines(context: Context) -> list[Line]:
    """One row for each filter with its cost, then the figures from the data."""
    channel = context.channel
    head = (label(f"   {'filter':<21}{'':<34}{'delay':>7}{'noise':>7}{'memory':>7}"),)
    lines: list[Line] = [head] if channel.filters else []
    own = intervals_s(channel.filters, _interval_s(context))
    for index, (entry, own_s) in enumerate(zip(channel.filters, own, strict=False)):
        lines += _row(context, (*channel.key("calm"), index), index, entry.kind, entry.cost(own_s), own_s)
    if not channel.filters:
        lines.append((label("No filter: the reading is as measured. "), text("+"), label(" adds one.")))
    return [*lines, (), *_evidence(context)]


def kinds_lines(context: Context) -> list[Line]:
    """Every filter by name, with what it does."""
    lines: list[Line] = [(label("What there is; "), text("+", "ochre"), label(" adds one after the others.")), ()]
    lines += [(text(f" {name:<18}", "ochre"), text(kind.title)) for name, kind in filters.KINDS.items()]
    unit = context.channel.unit.step.symbol
    return [
        *lines,
        (),
        (text(f" noise 0.02 {unit}".ljust(19), "ochre"), text("the cheapest that leaves so little, in place of these")),
        (
            text(f" alarm above 9 {context.channel.unit}".ljust(19), "ochre"),
            text("an alarm; they have a leaf of their own"),
        ),
    ]


def _interval_s(context: Context) -> float:
    """Seconds between samples before the first filter."""
    return filters_interval_s(context.project, context.bench, context.channel) if context.run is not None else 0.0


def lag_s(context: Context) -> float:
    """How late the channel's filters are, one after another, in seconds."""
    return total_cost(context.channel.filters, _interval_s(context)).lag_s


def _row(context: Context, key: Key, index: int, kind: FilterKind, cost: Cost, interval: float) -> list[Line]:
    """Name, values and cost of a filter; what does not fit goes below."""
    rows = rows_of(context.project, key, kind.parameters, in_line=2, column=16)
    used = sum(len(span.text) for span in rows[0]) if rows else 0
    first = (
        text(f" {index + 1} {kind.name:<21}", "verdigris"),
        *(rows[0] if rows and used <= ROOM else ()),
        label(" " * max(ROOM + 1 - (used if used <= ROOM else 0), 1)),
        text(f"{number(cost.delay_samples * interval, 's', 3):>7}"),
        text(f"{f'×{cost.noise_factor:.2f}':>7}"),
        text(f"{cost.memory_bytes:>5} B"),
    )
    below = rows[1:] if used <= ROOM else rows
    return [first, *((label(" " * 24), *row) for row in below)]


def _evidence(context: Context) -> list[Line]:
    if context.run is None:
        return wrapped(context.problem, "rubric")
    before, after = context.run.blocks[Step.TRUE], context.run.calm
    unit = context.channel.unit.symbol
    noise_before = context.bench.noise(context.bench.on_a_line(context.channel, before))
    noise_after = noise_behind_filters(context.project, context.channel, context.bench)
    line = [
        label("noise "),
        text(number(noise_before, unit, 2), "ochre"),
        label(" → "),
        text(number(noise_after, unit, 2), "verdigris"),
        label("   lag "),
        text(number(lag_s(context), "s", 3)),
        label("   limit "),
        value(context.project, ("channels", context.channel.name, "most_lag")),
        label("" if context.channel.most_lag_s else " (none set)"),
    ]
    last: list[Span] = []
    front = context.front()
    if front is not None:
        restless = context.bench.restless(front[1].field, after)
        marks = context.numerals(Step.FIT, channel=context.channel.name, most=2)
        last = [label("   last digit changes "), text(f"{number(restless, '', 2)} /min"), label(f" {marks}")]
    held = context.bench.facts(after).marked
    words = "   ".join(f"{count} {word}" for word, count in held.items()) or "none"
    return [tuple(line), *_from_data(context, before, after), (label("marked after filters "), text(words), *last)]


def _from_data(context: Context, before: Block, after: Block) -> list[Line]:
    """Figures from the capture: lag, spikes, and the largest error against a filter that looks ahead."""
    unit, channel = context.channel.unit.symbol, context.channel
    stated = lag_s(context)
    before, after = (context.bench.on_a_line(channel, block) for block in (before, after))

    def compute() -> tuple[float, int, int, float]:
        most = max(4 * stated, 20 * _interval_s(context))
        return (
            lag_seen_s(before, after, most),
            spikes(before, context.bench.noise(before)),
            spikes(after, noise_behind_filters(context.project, channel, context.bench)),
            worst_error(before, after, SLOW_HALF_SPAN),
        )

    found = context.in_time("from data", channel, after, compute)
    if found is None:
        return [(label("from the data: …"),)]
    lag, spikes_before, spikes_after, worst = found
    seen = number(lag, "s", 2) if stated and math.isfinite(lag) else "—"
    return [
        (
            label("from the data: lag "),
            text(seen),
            label("   spikes "),
            text(f"{spikes_before} → {spikes_after}"),
            label("   worst off a slow reference "),
            text(number(worst, unit, 2)),
        )
    ]


def chart(context: Context) -> Chart | None:
    """The chart of the signal before filters, faint, and after them on top."""
    if context.run is None:
        return None
    after = trace(context, context.run.calm, "after", "verdigris")
    before = trace(context, context.run.blocks[Step.TRUE], "before", "faint")
    # Scaled to the calm signal: a rejected spike must not squeeze it flat.
    low, high = span_of([after], 0.25)
    clipped = [min(max(y, low), high) for y in before.y]
    before = replace(before, y=clipped, style="dots")
    channel = context.channel
    return Chart(
        title="calm",
        series=(before, after),
        x_label="time",
        y_label=f"{channel.name} / {channel.unit}",
        x_range=context.view,
        y_range=(low, high),
        cursor=context.state.cursor_s,
        time_axis=True,
    )


_LEAVES: dict[str, tuple[Callable[[Context], list[Line]], Callable[[Context], Chart | None]]] = {
    "filters": (filters_lines, chart),
    "variants": (variants_lines, variants_chart),
    "step": (response_lines, response_chart),
    "frequencies": (response_lines, frequency_chart),
    "alarms": (alarms_lines, alarms_chart),
    "what there is": (kinds_lines, lambda context: None),
}
