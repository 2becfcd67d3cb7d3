"""Calm, the leaf of alarms: each with what it did over the capture, and the limits over the reading."""

from __future__ import annotations

import numpy as np

from lesart.core.calm.alarm import ABOVE, ALARM
from lesart.core.quantity import clock, format_quantity
from lesart.desk.workspace.context import Context, label, rows_of, span_of, text, trace, wrapped
from lesart.study.alarms import facts_of_alarm
from lesart.study.views import Chart, Line, Series

MOST_SHADED = 120


def alarms_lines(context: Context) -> list[Line]:
    """The values of each alarm, whether it is on at the cursor, and how often it went on."""
    channel, run = context.channel, context.run
    if not channel.alarms:
        return [
            (text("No alarm."),),
            (
                text("+", "ochre"),
                label(" adds one: "),
                text(f"alarm above {format_quantity(channel.highest, channel.unit)}"),
            ),
        ]
    lines: list[Line] = []
    for index, alarm in enumerate(channel.alarms):
        key = (*channel.key("alarms"), index)
        state = label("")
        if run is not None and len(run.calm):
            facts = facts_of_alarm(context.bench, channel, run.calm, index)
            place = max(run.index_at(context.state.cursor_s), 0)
            state = text("on", "rubric") if facts.on[place] else text("off", "verdigris")
        lines.append((text(f"{index + 1}  {alarm.name}", "ochre"), label("   at the cursor "), state))
        lines += [(label("   "), *row) for row in rows_of(context.project, key, ALARM)]
        if run is not None and len(run.calm):
            times = f"{facts.went_on} times" if facts.went_on != 1 else "once"
            soon = f"   {facts.soon} changes soon after another" if facts.soon else ""
            lines.append(
                (
                    label("   went on "),
                    text(times),
                    label(", in all for "),
                    text(clock(facts.on_s)),
                    text(soon, "rubric"),
                )
            )
        lines.append(())
    return lines if run is not None else [*lines, *wrapped(context.problem, "rubric")]


def alarms_chart(context: Context) -> Chart | None:
    """The calm reading in view with alarm limits and hysteresis; shaded where an alarm is on."""
    if context.run is None or not context.channel.alarms:
        return None
    channel, block = context.channel, context.run.calm
    line = trace(context, block, "after", "verdigris")
    start, end = context.view
    series = []
    bands = []
    for index, alarm in enumerate(channel.alarms):
        back = alarm.limit - alarm.hysteresis if alarm.side == ABOVE else alarm.limit + alarm.hysteresis
        series.append(Series(alarm.name, [start, end], [alarm.limit, alarm.limit], "rubric"))
        series.append(Series("hysteresis", [start, end], [back, back], "faint"))
        on = facts_of_alarm(context.bench, channel, block, index).on
        first, last = np.searchsorted(block.t, context.view)
        shaded = block.t[first:last][on[first:last]]
        if len(shaded):
            bands.append((alarm.name, shaded[:: max(len(shaded) // MOST_SHADED, 1)].tolist()))
    series.append(line)  # last, so that the limits do not hide it
    return Chart(
        title="alarms",
        series=tuple(series),
        x_label="time",
        y_label=f"{channel.name} / {channel.unit}",
        x_range=context.view,
        y_range=span_of(series, 0.1),
        cursor=context.state.cursor_s,
        bands=tuple(bands),
        time_axis=True,
    )
