"""Calm: the signal before and after its filters, what each filter is told, and what it costs."""

from __future__ import annotations

from dataclasses import replace

from lesart.core import calm as filters
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.notes import Key
from lesart.core.parameters import read_table
from lesart.desk.views import Chart, Line, Workspace
from lesart.desk.workspace.context import Context, label, number, span_of, text, trace, value, wrapped
from lesart.project.text import value_at


def build(context: Context) -> Workspace:
    """One row for each filter with its cost, then the figures from the data."""
    channel = context.channel
    tables = value_at(context.project.tables, ("channels", channel.name, "calm")) or []
    lines: list[Line] = [(label(f"   {'filter':<21}{'':<34}{'delay':>7}{'noise':>7}{'memory':>7}"),)] if tables else []
    interval = _interval_s(context)
    for index, (kind, cost) in enumerate(_costs(context)):
        lines.append(_row(context, ("channels", channel.name, "calm", index), index, kind, cost, interval))
    if not tables:
        lines.append((label("No filter: the reading is as measured. "), text("+"), label(" adds one.")))
    lines += [(), *_evidence(context)]
    return Workspace(
        5, "Calm", f"steady without being slow: {channel.says}", chart=chart(context), lines=tuple(lines),
        adds=f"add a filter ({', '.join(filters.KINDS)}): ",
    )  # fmt: skip


def _costs(context: Context) -> list[tuple[FilterKind, Cost]]:
    """Each filter of the channel with what it costs."""
    found = []
    for table in value_at(context.project.tables, ("channels", context.channel.name, "calm")) or []:
        kind = filters.KINDS[table["kind"]]
        values, _ = read_table(kind.parameters, table, "", also=("kind",))
        found.append((kind, kind.cost(values)))
    return found


def _interval_s(context: Context) -> float:
    return context.bench.timing(context.run.calm).interval_s if context.run is not None else 0.0


def lag_s(context: Context) -> float:
    """How late the channel's filters are, one behind the other, in seconds."""
    return sum(cost.delay_samples for _, cost in _costs(context)) * _interval_s(context)


def _row(context: Context, key: Key, index: int, kind: FilterKind, cost: Cost, interval: float) -> Line:
    spans = [text(f" {index + 1} {kind.name:<21}", "verdigris")]
    used = 0
    for parameter in kind.parameters:
        span = value(context.project, (*key, parameter.name))
        spans += [label(f"{parameter.title} "), span, label("  ")]
        used += len(parameter.title) + len(span.text) + 3
    spans.append(label(" " * max(34 - used, 1)))
    spans.append(text(f"{number(cost.delay_samples * interval, 's', 3):>7}"))
    spans.append(text(f"{f'×{cost.noise_factor:.2f}':>7}"))
    spans.append(text(f"{cost.memory_bytes:>5} B"))
    return tuple(spans)


def _evidence(context: Context) -> list[Line]:
    if context.run is None:
        return wrapped(context.problem, "rubric")
    before, after = context.run.blocks["true"], context.run.calm
    unit = context.channel.unit.symbol
    noise_before, noise_after = context.bench.noise(before), context.bench.noise(after)
    line = [
        label("noise "), text(number(noise_before, unit, 2), "ochre"), label(" → "),
        text(number(noise_after, unit, 2), "verdigris"), label("   lag "), text(number(lag_s(context), "s", 3)),
    ]  # fmt: skip
    front = context.front()
    if front is not None:
        restless = context.bench.restless(front[1].field, after)
        marks = context.numerals("fit", channel=context.channel.name)
        line += [label("   last digit changes "), text(f"{number(restless, '', 2)} /min"), label(f" {marks}")]
    held = context.bench.facts(after).marked
    words = "   ".join(f"{count} {word}" for word, count in held.items()) or "none"
    return [tuple(line), (label("marked after filters "), text(words))]


def chart(context: Context) -> Chart | None:
    """Before, faint, and after over it."""
    if context.run is None:
        return None
    after = trace(context, context.run.calm, "after", "verdigris")
    before = trace(context, context.run.blocks["true"], "before", "faint")
    # The scale is that of the calm signal: a spike that was thrown out must not squeeze it flat.
    low, high = span_of([after], 0.25)
    clipped = [min(max(y, low), high) for y in before.y]
    before = replace(before, y=clipped, style="dots")
    channel = context.channel
    return Chart(
        "calm", (before, after), "time", f"{channel.name} / {channel.unit}", context.view, (low, high),
        context.state.cursor_s, time_axis=True,
    )  # fmt: skip
