"""Pace: the loop played, a lane for each task; every figure with its limit; its tasks; one figure swept."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from lesart.core.glass.drive import PARAMETERS as SCAN_TIMES
from lesart.core.glass.panel import SegmentPanel
from lesart.core.notes import Key
from lesart.core.pace.play import Played, Ran, play
from lesart.core.pace.scan import judge_scan
from lesart.core.pace.task import CONVERT, COUNT, DRAW, NS, READ, SCAN, SETTINGS, TASK, WAIT, WORK, Loop, Task
from lesart.core.pace.verdict import Verdict
from lesart.desk.pace_entries import HOW
from lesart.desk.pacing import loop_of, paced, verdicts_known
from lesart.desk.state import LEAVES
from lesart.desk.views import Leaf, Line, Tone, Workspace, numeral
from lesart.desk.workspace.context import Context, label, number, rows_of, text, value
from lesart.desk.workspace.pace_sweep import sweep_chart, sweep_lines

LANE, NAME = 42, 17
TONES: dict[str, Tone] = {"scan": "rubric", "read": "lapis", "convert": "ochre", "draw": "verdigris"}
SHORT_NS = 100_000_000
"""Looked at where no digit is scanned."""
ADDS = f"a task that the firmware does besides; {HOW}: "
HINTS = {
    "loop": (("[ ]", "longer, shorter"), (", .", "on"), ("x", "keeps")),
    "tasks": (("+", "adds one"), ("delete", "drops it")),
    "digits": (("x", "keeps figures"),),
    "what if": (("x", "next one"),),
}
MS = NS // 1000


@dataclass(frozen=True)
class Window:
    """What of the loop is looked at, in nanoseconds."""

    start: int
    span: int

    def column(self, at_ns: int) -> int:
        """Where a moment stands in a lane, before or behind it too."""
        return (at_ns - self.start) * LANE // self.span


def build(context: Context) -> Workspace:
    """The leaf that is turned up."""
    leaf = context.state.leaf_of(8)
    leaves = tuple(Leaf(name, name == leaf) for name in LEAVES[8])
    subtitle, lines = _LEAVES[leaf](context)
    chart = sweep_chart(context) if leaf == "what if" else None
    hints = (("l", "turns"), *HINTS.get(leaf, ()))
    return Workspace(8, "Pace", subtitle, lines=tuple(lines), leaves=leaves, adds=ADDS, hints=hints, chart=chart)


# The loop


def _loop_leaf(context: Context) -> tuple[str, list[Line]]:
    """Lanes over a few periods, then the verdicts."""
    loop = loop_of(context.project, context.bench)
    if not loop.tasks:
        said = "Nothing is read, drawn or scanned yet; a face with a field makes the loop."
        return "refreshed in time", [(label(said),)]
    span, start = window_of(context, loop)
    # From a while before, so that what is under way at the left edge is there.
    played = context.bench.once_known(("played", loop, start + span), lambda: play(loop, start + span))
    subtitle = f"the loop, {number(span / MS, 'ms', 4)} of it"
    if start:
        subtitle += f" from {number(start / MS, 'ms', 6)} on"
    lines = [*_lanes(context, loop, played, start, span), ()]
    return subtitle, [*lines, *_verdict_lines(context)]


def window_of(context: Context, loop: Loop) -> tuple[int, int]:
    """How much of the loop is looked at, and from when, in nanoseconds: a round of scanned digits to begin with."""
    rounds = [
        judge_scan(panel.scan, panel.digits).period_ms for panel in context.project.panels.values()
        if isinstance(panel, SegmentPanel) and panel.scan is not None
    ]  # fmt: skip
    usual = max((round(each * MS) for each in rounds), default=SHORT_NS)
    span = max(round(usual * 2.0**context.state.pace_zoom), 1000)
    return span, round(max(context.state.pace_from, 0) * span / 4)


def _lanes(context: Context, loop: Loop, played: Played, start: int, span: int) -> list[Line]:
    """A lane for each digit, then for each task, with what it takes and how often; conversions share one."""
    middle = f"{number((start + span / 2) / MS, '', 4)}"
    first, last = number(start / MS, "ms", 4), number((start + span) / MS, "", 4)
    ends = f"{first:<{LANE // 2 - 2}}{middle:<{LANE // 2 - 6}}{last:>8}"
    lines: list[Line] = [(label(f"   {'':<{NAME}}{ends}"),)]
    window = Window(start, span)
    for task in loop.of(SCAN):
        lines += _digit_lanes(context, task, played.runs[task.name], window)
    for kinds in ((READ, COUNT), (CONVERT,), (DRAW, WORK, WAIT)):
        tasks = [task for task in loop.tasks if task.does in kinds]
        if kinds == (CONVERT,) and len(tasks) > 1:
            runs = sorted((ran for task in tasks for ran in played.runs[task.name]), key=lambda ran: ran.start_ns)
            spent = sum(task.mean_ns for task in tasks)
            lines.append(_lane(f"{len(tasks)} conversions", runs, window, "ochre", brief_time(spent)))
            continue
        for task in tasks:
            if task.is_polled:
                lines.append(_pulse_lane(context, task, played, window))
            else:
                lines.append(
                    _lane(task.name, played.runs[task.name], window, TONES.get(task.does, "text"), _takes(task))
                )
    return lines


def _digit_lanes(context: Context, task: Task, runs: tuple[Ran, ...], window: Window) -> list[Line]:
    """When each digit is lit, and strokes where all are dark."""
    panel = context.project.panels.get(task.of)
    if not isinstance(panel, SegmentPanel) or panel.scan is None:
        return [_lane(task.name, runs, window, "rubric", _takes(task))]
    on = round(panel.scan.on_time_ms * MS)
    lit = [Ran(ran.due_ns, ran.start_ns, min(ran.start_ns + on, later.start_ns))
           for ran, later in itertools.pairwise(runs)]  # fmt: skip
    if runs:
        lit.append(Ran(runs[-1].due_ns, runs[-1].start_ns, runs[-1].start_ns + on))
    lines = [
        _lane(f"digit {digit + 1}", lit[digit :: panel.digits], window, "rubric", brief_time(on))
        for digit in range(panel.digits)
    ]
    dark = {window.column(ran.end_ns) for ran in lit}
    strokes = "".join("│" if column in dark else " " for column in range(LANE))
    lines.append(
        (label(f"   {'blank':<{NAME}}"), label(strokes), label(f"  {brief_time(panel.scan.blanking_ms * MS)}"))
    )
    return [*lines, ()]


def _lane(name: str, runs: Sequence[Ran], window: Window, tone: Tone, said: str) -> Line:
    """Blocks where it runs: at least one for each run."""
    columns = [False] * LANE
    for ran in runs:
        if ran.end_ns <= window.start or ran.start_ns >= window.start + window.span:
            continue
        first = window.column(ran.start_ns)
        # A gap that is thinner than a column is drawn as one, where the run is longer: a ghost hides in it.
        for column in range(max(first, 0), min(max(window.column(ran.end_ns), first + 1), LANE)):
            columns[column] = True
    return (
        label(f"   {name[: NAME - 1]:<{NAME}}"), text("".join("█" if on else " " for on in columns), tone),
        label(f"  {said}"),
    )  # fmt: skip


def brief_time(ns: float) -> str:
    """In the unit that needs fewest digits, three of them."""
    for size, unit in ((NS, "s"), (MS, "ms")):
        if ns >= size:
            return number(ns / size, unit, 3)
    return number(ns / 1000, "µs", 3)


def _takes(task: Task) -> str:
    """E.g. ``110 µs, 10/s``."""
    often = f"{number(NS / task.period_ns, '', 2)}/s" if task.period_ns else "a turn"
    return f"{brief_time(task.mean_ns)}, {often}"


def _pulse_lane(context: Context, task: Task, played: Played, window: Window) -> Line:
    """A pulse where the next one would be, crossed where the loop misses it."""
    width = max(task.shortest_ns, 1)
    period = max(task.period_ns, 1)
    columns = [" "] * LANE
    for at in range(period // 2, window.start + window.span, period):
        column = window.column(at)
        if 0 <= column < LANE:
            lost = any(first <= at and at + width <= end for first, end in played.busy)
            columns[column] = "╳" if lost else "│"
    found = next((each for each in verdicts_at_hand(context) if each.name == f"{task.name}, missed"), None)
    said = "looked at" if found is None else f"{number(found.figure, '%', 2)} missed"
    return (label(f"   {task.name[: NAME - 1]:<{NAME}}"), text("".join(columns)), label(f"  {said}"))


def _verdict_lines(context: Context) -> list[Line]:
    """All of them, those that are not met first."""
    verdicts = sorted(verdicts_at_hand(context), key=lambda each: min(each.rank, 2))
    return [_verdict_head(context), *(_verdict_line(context, each) for each in verdicts)]


def verdicts_at_hand(context: Context) -> tuple[Verdict, ...]:
    """Those of the loop as it was played; in a picture that must be quick those that follow from times alone."""
    project, bench = context.state.project, context.bench
    if context.in_haste:
        return verdicts_known(project, bench)
    return paced(project, bench).verdicts


def _verdict_head(context: Context) -> Line:
    beside = f"{'kept':>11}" if context.state.pace_beside else ""
    return (label(f"   {'verdict':<30}{beside}{'figure':>12}{'limit':>12}{'margin':>10}"),)


def _verdict_line(context: Context, verdict: Verdict) -> Line:
    tone: Tone = "verdigris" if verdict.ok and verdict.limit is not None else "text" if verdict.ok else "rubric"
    margin = _margin_said(verdict.margin)
    limit = "" if verdict.limit is None else number(verdict.limit, verdict.unit, 3)
    marks = next((f"{note.mark} {_numeral(context, place)}" for place, note in enumerate(context.notes)
                  if verdict.note is not None and note.text == verdict.note.text), "")  # fmt: skip
    kept = dict(context.state.pace_beside)
    beside = f"{number(kept.get(verdict.name), '', 4):>11}" if kept else ""
    figure = number(verdict.figure, verdict.unit, 3)
    return (
        text(f"   {verdict.name[:29]:<30}"), label(beside), text(f"{figure:>12}", tone), label(f"{limit:>12}"),
        text(f"{margin:>10}"), text(f"  {marks}", "rubric"),
    )  # fmt: skip


def _margin_said(margin: float | None) -> str:
    """In % of the limit; how many times the limit where it is passed by far."""
    if margin is None:
        return ""
    if abs(margin) > 9.99:
        return f"{number(1 + abs(margin), '', 2)} times"
    return f"{100 * margin:+.0f} %".replace("-", "−")


def _numeral(context: Context, place: int) -> str:
    return numeral(place + 1)


# The tasks


def _task_leaf(context: Context) -> tuple[str, list[Line]]:
    """A row for each; the selected one with all that can be said of it."""
    loop = loop_of(context.project, context.bench)
    names = list(context.project.loop.usual)
    selected = context.state.selected_at(8)
    chosen = str(selected[2]) if selected and selected[:2] == ("loop", "tasks") else next(iter(names), "")
    lines: list[Line] = [(label(f"   {'task':<26}{'runs':<16}{'every':<12}takes"),)]
    there = {task.name for task in loop.tasks}
    for name in names:
        key: Key = ("loop", "tasks", name)
        own: Tone = "verdigris" if name in context.project.loop.overruled else "text"
        lines.append(
            (
                text(f"   {name[:25]:<26}", own if name in there else "faint"), *_padded(context, (*key, "runs"), 16),
                *_padded(context, (*key, "period"), 12), *_padded(context, (*key, "shortest"), 10),
            )
        )  # fmt: skip
        if name == chosen:
            rest = [each for each in TASK if each.name not in ("runs", "period", "shortest")]
            lines += [(label("      "), *row) for row in rows_of(context.project, key, rest, column=24)]
    lines += [(), *rows_of(context.project, ("loop",), SETTINGS)]
    return "what the firmware does, made from the project; what you overrule is green", lines


def _padded(context: Context, key: Key, width: int) -> Line:
    span = value(context.project, key)
    return span, label(" " * max(width - len(span.text), 1))


# Scanned digits


def _digits_leaf(context: Context) -> tuple[str, list[Line]]:
    """Everything that can be told of how digits are scanned, with its verdicts."""
    found = [
        panel for glass in context.glasses
        if isinstance(panel := context.project.panels[glass.name], SegmentPanel) and panel.scan is not None
    ]  # fmt: skip
    if not found:
        return "scanned digits", [
            (text("No panel here is scanned, so nothing can flicker."),),
            (label("A panel of segments with a [panels.NAME.scan] table is judged here."),),
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
    return "one figure swept, its limit drawn in", sweep_lines(context)


_LEAVES: dict[str, Callable[[Context], tuple[str, list[Line]]]] = {
    "loop": _loop_leaf,
    "tasks": _task_leaf,
    "digits": _digits_leaf,
    "what if": _what_if_leaf,
}
