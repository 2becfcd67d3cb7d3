"""Pace, one figure swept: which one is shown, and what it takes to meet its limit."""

from __future__ import annotations

from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.pace.pulses import Counting
from lesart.core.pace.sweep import Sweep, sweep_clock, sweep_digits, sweep_gate, sweep_on_time
from lesart.core.pace.task import DRAW
from lesart.desk.workspace.context import Context, label, number, text
from lesart.study.loop_verdicts import gates, paced
from lesart.study.sureness import sureness_in_the_middle
from lesart.study.views import Chart, Line, Series


def sweeps_of(context: Context) -> list[tuple[str, Sweep]]:
    """Every sweep that applies to the project, with its subject."""
    found: list[tuple[str, Sweep]] = []
    project = context.project
    for glass in context.glasses:
        panel = project.panels[glass.name]
        if panel.scan is not None:
            found += [
                (panel.name, sweep_on_time(panel.scan, panel.columns)),
                (panel.name, sweep_digits(panel.scan, panel.columns)),
            ]
        faces = project.faces_on(panel.name)
        bus = panel.bus
        if bus is not None and faces:
            data = drawing_of(faces[0], panel).data
            found.append((panel.name, sweep_clock(bus, data, faces[0].redraw_hz, project.loop.limits.most_bus)))
    for channel, counting, _ in gates(project, context.bench):
        sure = sureness_in_the_middle(context.state.project, channel, context.bench)
        worth, unit = (sure.one_count, str(channel.unit)) if sure else (counting.step_per_min, "turns a minute")
        wanted = 10.0**-channel.field.decimals if sure else None
        found.append((channel.name, sweep_gate(counting, worth, unit, wanted)))
    return found


def _chosen(context: Context) -> tuple[list[tuple[str, Sweep]], int]:
    found = sweeps_of(context)
    return found, context.state.pace.sweep % len(found) if found else 0


def sweep_chart(context: Context) -> Chart | None:
    """The curve, its limit as a line, and a red line at the present value."""
    found, place = _chosen(context)
    if not found:
        return None
    of, sweep = found[place]
    ends = (sweep.x[0], sweep.x[-1])
    series = [Series(f"{sweep.y_label} of {of}", sweep.x, sweep.y, "ochre")]
    highest = max(sweep.y)
    if sweep.limit is not None:
        series.append(Series("limit", ends, (sweep.limit, sweep.limit), "rubric"))
        highest = min(highest, 4 * sweep.limit)
    return Chart(
        f"{sweep.name} of {of}",
        tuple(series),
        sweep.x_label,
        sweep.y_label,
        ends,
        (0.0, highest * 1.05),
        cursor=sweep.now,
    )


def sweep_lines(context: Context) -> list[Line]:
    """The possible sweeps, the present one marked, and where each meets its limit."""
    found, chosen = _chosen(context)
    if not found:
        return [(label("Nothing here can be swept: no digit is scanned, no pixel panel drawn, no pulse counted."),)]
    lines: list[Line] = []
    for place, (of, sweep) in enumerate(found):
        mark = text(" ▌ ", "rubric") if place == chosen else text("   ")
        crossing = sweep.crossing
        said = f"now {number(sweep.now, '', 4)}"
        if sweep.limit is not None:
            where = "nowhere here" if crossing is None else f"at {number(crossing, '', 3)}"
            said += f"; limit {number(sweep.limit, '', 3)} {where}"
        lines.append((mark, text(f"{f'{sweep.name} of {of}':<26}"), label(f"{sweep.x_label:<14}"), label(said)))
    for channel, counting, turns in gates(context.project, context.bench):
        lines += _gate_lines(context, channel.name, counting, turns)
    return lines


def _gate_lines(context: Context, name: str, counting: Counting, turns: float) -> list[Line]:
    """The resolution of a gate compared with timing intervals, and the cost of drawing while it is open."""
    mean, worst = counting.errors_per_min(turns)
    timed = counting.interval_error_per_min(turns)
    finer = "coarser" if worst < timed else "finer"
    played = paced(context.state.project, context.bench).played
    drawing = sum(ran.end_ns - ran.start_ns for task in played.loop.of(DRAW) for ran in played.runs[task.name])
    lost = drawing / played.length_ns
    off = f"{number(mean, '', 2)} on average, {number(worst, '', 2)} at worst"
    return [
        (),
        (label("   one pulse of "), text(name), label(" is "), text(number(counting.step_per_min, "/min", 3))),
        (label(f"   at {number(turns, '/min', 3)} counting is off by "), text(off)),
        (
            label("   timing an interval is off by "),
            text(number(timed, "", 2)),
            label(f", {finer}; both as fine at "),
            text(number(counting.crossing_per_min, "", 3)),
        ),
        (label("   if drawing stops the counting, it reads "), text(number(100 * lost, "%", 2)), label(" too low")),
    ]
