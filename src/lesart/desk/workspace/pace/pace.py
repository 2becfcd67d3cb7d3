"""Pace: the loop played, a lane for each task; every figure with its limit; its tasks; one figure swept."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from lesart.core.glass.panels.scan import PARAMETERS as SCAN_TIMES
from lesart.core.notes import Key
from lesart.core.pace.jitter import punctual
from lesart.core.pace.play import Played, play
from lesart.core.pace.scan import judge_scan
from lesart.core.pace.task import NS, SETTINGS, TASK
from lesart.core.pace.verdict import Verdict
from lesart.core.step import Step
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, cut, label, number, rows_of, text, value
from lesart.desk.workspace.pace.sweep import sweep_chart, sweep_lines
from lesart.desk.workspace.pace.timing import lane_lines
from lesart.desk.workspace.pace.trace import trace_leaf
from lesart.desk.workspace.pace.why import why_leaf
from lesart.study.loop_verdicts import SCREEN_RUNS, paced, verdicts_known
from lesart.study.project_loop import loop_of
from lesart.study.timing import Timing, brief_time, lanes_of, said_of
from lesart.study.views import Leaf, Line, Tone, Workspace, numeral

SHORT_NS = 100_000_000
"""Default window where no digit is scanned."""
ADDS = "add a task, like log every 5 s takes 40 ms, or report every 1 s sends 32 bytes: "
ALONE, KEPT = (30, 0, 12, 11, 11), (27, 9, 11, 10, 11)
"""Columns of verdicts: name, kept figure, figure, limit, margin."""
ADDS_TRACE = "trace of the panel in front, like captures/bus.vcd: "
HINTS = {
    "loop": (("[ ]", "wider"), (", .", "on"), ("x", "keeps")),
    "tasks": (("+", "adds"), ("delete", "drops")),
    "digits": (("x", "keeps figures"),),
    "what if": (("x", "next one"),),
    "trace": ((", .", "on"), ("x", "wanted")),
    "why": (("y", "what you see"), ("x", "writes the change")),
}
MS = NS // 1000


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    leaf = context.state.leaf_of(Step.PACE)
    leaves = tuple(Leaf(name, name == leaf) for name in LEAVES[Step.PACE])
    if leaf == "trace":
        subtitle, lines, glass, verdicts = trace_leaf(context)
        lines = [*lines, *([(), *_verdict_lines(context, verdicts)] if verdicts else [])]
        return Workspace(
            Step.PACE,
            subtitle,
            glass=glass,
            lines=tuple(lines),
            leaves=leaves,
            adds=ADDS_TRACE,
            hints=(("l", "turns"), *HINTS[leaf]),
        )
    subtitle, lines = _LEAVES[leaf](context)
    chart = sweep_chart(context) if leaf == "what if" else None
    hints = (("l", "turns"), *HINTS.get(leaf, ()))
    return Workspace(Step.PACE, subtitle, lines=tuple(lines), leaves=leaves, adds=ADDS, hints=hints, chart=chart)


# The loop


def _loop_leaf(context: Context) -> tuple[str, list[Line]]:
    """Lanes over a few periods, then the verdicts."""
    timing = timing_of(context)
    if timing is None:
        said = "Nothing is read, drawn or scanned yet; a face with a field makes the loop."
        return "refreshed in time", [(label(said),)]
    return timing.title, [*lane_lines(timing), (), *_verdict_lines(context, timing.verdicts)]


def timing_of(context: Context) -> Timing | None:
    """The loop in view, with all verdicts; None where there is no loop."""
    loop = loop_of(context.project, context.bench)
    if not loop.tasks:
        return None
    span, start = window_of(context)
    played = context.bench.once_known(("played", loop, start + span), lambda: play(loop, start + span, SCREEN_RUNS))
    title = f"the loop, {number(span / MS, 'ms', 4)} of it"
    if start:
        title += f" from {number(start / MS, 'ms', 6)} on"
    verdicts = verdicts_at_hand(context)
    said = {each.name.removesuffix(", missed"): f"{number(each.figure, '%', 2)} missed" for each in verdicts}
    lanes = lanes_of(loop, played, context.project.panels, said)
    return Timing(title, start, span, lanes, tuple(sorted(verdicts, key=lambda each: min(each.rank, 2))))


def window_of(context: Context) -> tuple[int, int]:
    """Length and start of the loop's window in nanoseconds; initially a round of scanned digits."""
    rounds = [
        judge_scan(panel.scan, panel.columns).period_ms
        for panel in context.project.panels.values()
        if panel.scan is not None
    ]
    usual = max((round(each * MS) for each in rounds), default=SHORT_NS)
    span = max(round(usual * 2.0**context.state.pace.zoom), 1000)
    return span, round(max(context.state.pace.first_quarter, 0) * span / 4)


def _verdict_lines(context: Context, verdicts: Sequence[Verdict]) -> list[Line]:
    return [_verdict_head(context), *(_verdict_line(context, each) for each in verdicts)]


def verdicts_at_hand(context: Context) -> tuple[Verdict, ...]:
    """Verdicts of the played loop; in a hasty picture those that follow from times alone."""
    project, bench = context.state.project, context.bench
    if context.in_haste:
        return verdicts_known(project, bench)
    return paced(project, bench).verdicts


def _verdict_head(context: Context) -> Line:
    widths = KEPT if context.state.pace.kept else ALONE
    return (label(_columns(widths, "verdict", "kept", "figure", "limit", "margin")),)


def _columns(widths: tuple[int, ...], name: str, *cells: str) -> str:
    """A row of a name, cut where too long, and right-aligned cells; those of width 0 are left out."""
    first, *rest = widths
    return f"   {cut(name, first - 1):<{first}}" + "".join(
        f"{cell:>{width}}" for cell, width in zip(cells, rest, strict=True) if width
    )


def _verdict_line(context: Context, verdict: Verdict) -> Line:
    tone: Tone = "verdigris" if verdict.ok and verdict.limit is not None else "text" if verdict.ok else "rubric"
    name, figure, limit, margin = said_of(verdict)
    said = verdict.note
    marks = (
        ""
        if said is None
        else next(
            (f"{note.mark} {numeral(place)}" for place, note in enumerate(context.notes, 1) if note.holds(said)),
            said.mark,  # one of so many channels that the note names none of them
        )
    )
    kept = dict(context.state.pace.kept)
    widths = KEPT if kept else ALONE
    beside = f"{number(kept.get(verdict.name), '', 4):>{widths[1]}}" if kept else ""
    return (
        text(_columns(widths[:1], name)),
        label(beside),
        text(f"{figure:>{widths[2]}}", tone),
        label(f"{limit:>{widths[3]}}"),
        text(f"{margin:>{widths[4]}}"),
        text(f"  {marks}", "rubric"),
    )


# The tasks


def _task_leaf(context: Context) -> tuple[str, list[Line]]:
    """A row per task; the selected one with all its values."""
    loop = loop_of(context.project, context.bench)
    names = list(context.project.loop.usual)
    selected = context.state.selected_at(Step.PACE)
    chosen = str(selected[2]) if selected and selected[:2] == ("loop", "tasks") else next(iter(names), "")
    lines: list[Line] = [(label(f"   {'task':<22}{'runs':<16}{'every':<12}{'takes':<11}waits up to"),)]
    played = None if context.in_haste else paced(context.state.project, context.bench).played
    there = {task.name for task in loop.tasks}
    for name in names:
        key: Key = ("loop", "tasks", name)
        own: Tone = "verdigris" if name in context.project.loop.overruled else "text"
        lines.append(
            (
                text(f"   {name[:21]:<22}", own if name in there else "faint"),
                *_padded(context, (*key, "runs"), 16),
                *_padded(context, (*key, "period"), 12),
                *_padded(context, (*key, "shortest"), 11),
                label(_waits(played, name)),
            )
        )
        if name == chosen:
            rest = [each for each in TASK if each.name not in ("runs", "period", "shortest")]
            lines += [(label("      "), *row) for row in rows_of(context.project, key, rest, column=24)]
            lines += [(label(f"      {_how_punctual(played, name)}"),)] if played is not None else []
    lines += [(), *rows_of(context.project, ("loop",), SETTINGS)]
    return "what the firmware does, made from the project; what you overrule is green", lines


def _waits(played: Played | None, name: str) -> str:
    """The longest wait from due to start."""
    if played is None or not played.runs.get(name):
        return ""
    return brief_time(punctual(played, name).worst_wait_ms * MS)


def _how_punctual(played: Played, name: str) -> str:
    """Punctuality in words, over all that was played."""
    if not played.runs.get(name):
        polled = any(task.name == name and task.is_polled for task in played.loop.tasks)
        missed = "never had its turn" if name in played.runs else "left out"
        return "looked at while nothing else is done" if polled else missed
    found = punctual(played, name)
    parts = [
        number(found.rate_hz, "/s", 3),
        f"jitter {brief_time(found.jitter_ms * MS)}",
        f"waits {brief_time(found.mean_wait_ms * MS)}",
        f"{number(100 * found.share, '%', 2)} of the time",
    ]
    if found.skipped:
        parts.append(f"{found.skipped} left out")
    return ", ".join(parts)


def _padded(context: Context, key: Key, width: int) -> Line:
    span = value(context.project, key)
    return span, label(" " * max(width - len(span.text), 1))


# Scanned digits


def _digits_leaf(context: Context) -> tuple[str, list[Line]]:
    """All values of the scan, with its verdicts."""
    panels = [context.project.panels[glass.name] for glass in context.glasses]
    found = [panel for panel in panels if panel.scan is not None]
    if not found:
        return "scanned digits", [
            (text("No digits here are lit in turn, so none can flicker."),),
            (label("A panel of several digits that is driven scanned is judged here."),),
        ]
    panel = found[0]
    lines = rows_of(context.project, ("panels", panel.name, "scan"), SCAN_TIMES)
    own = [each for each in verdicts_at_hand(context) if each.of == panel.name]
    return f"the digits of {panel.name}", [
        *lines,
        (),
        _verdict_head(context),
        *(_verdict_line(context, each) for each in own),
    ]


def _what_if_leaf(context: Context) -> tuple[str, list[Line]]:
    return "one figure swept", sweep_lines(context)


_LEAVES: dict[str, Callable[[Context], tuple[str, list[Line]]]] = {
    "loop": _loop_leaf,
    "tasks": _task_leaf,
    "digits": _digits_leaf,
    "what if": _what_if_leaf,
    "why": why_leaf,
}
