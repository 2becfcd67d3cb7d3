"""A timing diagram: lanes of the played loop, for the screen and for paper alike."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.panel import Panel
from lesart.core.pace.play import Played, Ran
from lesart.core.pace.task import BLINK, CONVERT, COUNT, DRAW, NS, READ, SCAN, SEND, WAIT, WORK, Loop, Task
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import plain_number
from lesart.study.views import Tone

TONES: dict[str, Tone] = {SCAN: "rubric", READ: "lapis", CONVERT: "ochre", DRAW: "verdigris"}
MS, US = NS // 1000, NS // 1_000_000


@dataclass(frozen=True)
class Lane:
    """``spans`` are starts and ends in nanoseconds; one without length is a stroke. ``lost`` are strokes crossed out.

    ``says`` is what comes after it. ``group`` keeps lanes together.
    """

    name: str
    spans: tuple[tuple[int, int], ...]
    tone: Tone
    says: str
    group: int = 0
    lost: tuple[int, ...] = ()


@dataclass(frozen=True)
class Timing:
    """``span_ns`` of a loop or a trace, from ``start_ns`` on, with the verdicts that go with it."""

    title: str
    start_ns: int
    span_ns: int
    lanes: tuple[Lane, ...]
    verdicts: tuple[Verdict, ...] = ()


def lanes_of(loop: Loop, played: Played, panels: Mapping[str, Panel], said: Mapping[str, str]) -> tuple[Lane, ...]:
    """A lane for each digit, then for each task, with what it takes and how often; conversions share one.

    ``said`` comes after counts that are looked at, by task.
    """
    lanes: list[Lane] = []
    for task in loop.of(SCAN):
        lanes += _digits(task, played.runs[task.name], panels.get(task.of))
    for kinds in ((READ, COUNT), (CONVERT,), (DRAW, SEND, BLINK, WORK, WAIT)):
        tasks = [task for task in loop.tasks if task.does in kinds]
        if kinds == (CONVERT,) and len(tasks) > 1:
            runs = sorted((ran for task in tasks for ran in played.runs[task.name]), key=lambda ran: ran.start_ns)
            spent = brief_time(sum(task.mean_ns for task in tasks))
            lanes.append(Lane(f"{len(tasks)} conversions", _spans(runs), "ochre", spent, 1))
            continue
        for task in tasks:
            if task.is_polled:
                lanes.append(_pulses(task, played, said.get(task.name, "looked at")))
            else:
                tone = TONES.get(task.does, "text")
                lanes.append(Lane(task.name, _spans(played.runs[task.name]), tone, takes(task), 1))
    return tuple(lanes)


def _spans(runs: tuple[Ran, ...] | list[Ran]) -> tuple[tuple[int, int], ...]:
    return tuple((ran.start_ns, ran.end_ns) for ran in runs)


def _digits(task: Task, runs: tuple[Ran, ...], panel: Panel | None) -> list[Lane]:
    """When each digit is lit, and strokes where all go dark."""
    if panel is None or panel.scan is None:
        return [Lane(task.name, _spans(runs), "rubric", takes(task))]
    on = round(panel.scan.on_time_ms * MS)
    lit = [(ran.start_ns, min(ran.start_ns + on, later.start_ns)) for ran, later in itertools.pairwise(runs)]
    if runs:
        lit.append((runs[-1].start_ns, runs[-1].start_ns + on))
    lanes = [
        Lane(f"digit {digit + 1}", tuple(lit[digit :: panel.columns]), "rubric", brief_time(on))
        for digit in range(panel.columns)
    ]
    dark = tuple((end, end) for _, end in lit)
    return [*lanes, Lane("blank", dark, "faint", brief_time(panel.scan.blanking_ms * MS))]


def _pulses(task: Task, played: Played, said: str) -> Lane:
    """A pulse where the next one would be, crossed out where the loop misses it."""
    width, period = max(task.shortest_ns, 1), max(task.period_ns, 1)
    moments = range(period // 2, played.length_ns, period)
    lost = tuple(at for at in moments if any(first <= at and at + width <= end for first, end in played.busy))
    return Lane(task.name, tuple((at, at) for at in moments), "text", said, 1, lost)


def brief_time(ns: float) -> str:
    """A time in the unit that needs fewest digits, with three of them."""
    for size, unit in ((NS, "s"), (MS, "ms")):
        if ns >= size:
            return f"{plain_number(ns / size, 3)} {unit}"
    return f"{plain_number(ns / US, 3)} µs"


def takes(task: Task) -> str:
    """E.g. ``110 µs, 10/s``."""
    often = f"{plain_number(NS / task.period_ns, 2)}/s" if task.period_ns else "a turn"
    return f"{brief_time(task.mean_ns)}, {often}"


def said_of(verdict: Verdict) -> tuple[str, str, str, str]:
    """Name, figure, limit and margin as printed."""
    limit = "" if verdict.limit is None else _amount(verdict.limit, verdict.unit)
    return verdict.name, _amount(verdict.figure, verdict.unit), limit, _margin_said(verdict.margin)


def _amount(amount: float, unit: str) -> str:
    return f"{plain_number(amount, 3)} {unit}".strip() if math.isfinite(amount) else "—"


def _margin_said(margin: float | None) -> str:
    """The margin in % of the limit, or as a multiple of it where far exceeded."""
    if margin is None:
        return ""
    if abs(margin) > 9.99:
        return f"{plain_number(1 + abs(margin), 2)} times"
    return f"{round(100 * margin) or 0:+d} %".replace("-", "−").replace("+0", "0")
