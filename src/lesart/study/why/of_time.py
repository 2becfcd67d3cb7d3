"""A wrong time: it flickers, it lags, pulses are missing, it freezes.

The task or setting that explains it is found by playing the loop again with each of them changed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.notes import Key, Written
from lesart.core.pace.task import BACKGROUND, COUNT, DRAW, INTERRUPT, LOOP, NS, READ, SCAN, Task
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import format_quantity
from lesart.core.units import parse_unit
from lesart.project.check import check_tables, read_tables
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.loop_verdicts import Paced, paced
from lesart.study.timing import brief_time
from lesart.study.why.suspect import OFTEN, RARE, USUAL

SYMPTOMS: dict[str, tuple[str, ...]] = {
    "flickers": ("refresh of", "slowest round", "digits uneven", "is empty", "dark between"),
    "lags": (" to ", "at most old"),
    "missed": ("missed", "too soon"),
    "freezes": ("left out", "processor at work", "in use"),
}
"""Symptoms, and words in the names of verdicts about them."""
NOT = {
    "flickers": "nothing flickers",
    "lags": "nothing lags",
    "missed": "nothing is missed",
    "freezes": "nothing freezes",
}
"""Words in the names of verdicts that are not about them."""
SHOWN = 5
Tables = dict[str, Any]


@dataclass(frozen=True, eq=False)
class TimeSuspect:
    """``says`` what is changed; ``changed`` applies it to the project's tables.

    ``is_cause``: it removes something, which finds the culprit but is not a remedy.
    """

    says: str
    weight: float
    changed: Callable[[Tables], Tables]
    edits: tuple[tuple[Key, Written], ...] = ()
    is_cause: bool = False


@dataclass(frozen=True)
class Explained:
    """With ``suspect`` the figure of ``verdict`` becomes ``figure``; ``is_met``: within its limit."""

    suspect: TimeSuspect
    figure: float
    is_met: bool


@dataclass(frozen=True)
class WhyTime:
    """``verdict`` is unmet; ``causes`` are tasks without which it would be met, ``mends`` are changes that meet it,
    both the likeliest first; ``nearer`` are changes that only help, where nothing suffices alone."""

    verdict: Verdict
    causes: tuple[Explained, ...]
    mends: tuple[Explained, ...]
    nearer: tuple[Explained, ...]
    tried: int


def verdicts_of(found: Paced, symptom: str) -> list[Verdict]:
    """Unmet verdicts about a symptom, the worst first. Raises RequestError for an unknown symptom."""
    if symptom not in SYMPTOMS:
        raise RequestError(f'"{symptom}" is not a symptom; it is one of {", ".join(SYMPTOMS)}.')
    about = [each for each in (*found.verdicts, *found.traced) if any(word in each.name for word in SYMPTOMS[symptom])]
    return sorted((each for each in about if not each.ok), key=lambda each: (each.rank, each.margin or -1.0))


def why_time(project: Project, bench: Bench, text: str, symptom: str) -> list[WhyTime]:
    """Each unmet verdict about the symptom, with its explanations; empty where all are met."""
    found = paced(project, bench)
    wrong = verdicts_of(found, symptom)
    if not wrong:
        return []
    suspects = list(time_suspects(project, found))
    tried: list[tuple[TimeSuspect, Paced]] = []
    tables = read_tables(text)
    for each in suspects:
        try:
            tried.append((each, paced(check_tables(each.changed(tables), text, project), bench)))
        except (LesartError, ValueError, KeyError):
            continue  # an impossible change explains nothing
    return [_explained(verdict, tried) for verdict in wrong]


def _explained(verdict: Verdict, tried: list[tuple[TimeSuspect, Paced]]) -> WhyTime:
    met: list[Explained] = []
    nearer: list[Explained] = []
    for suspect, found in tried:
        now = next((each for each in (*found.verdicts, *found.traced) if _is_same(each, verdict)), None)
        if now is None:
            # A task included again has no entry, unless it is the one removed.
            task, _, what = verdict.name.rpartition(", ")
            if what == "left out" and not suspect.says.startswith(task):
                met.append(Explained(suspect, 0.0, True))
        elif now.ok:
            met.append(Explained(suspect, now.figure, True))
        elif abs(_beyond(now)) < 0.9 * abs(_beyond(verdict)):
            nearer.append(Explained(suspect, now.figure, False))
    met.sort(key=lambda each: -each.suspect.weight)
    nearer.sort(key=lambda each: each.figure, reverse=verdict.at_least)
    causes = tuple(each for each in met if each.suspect.is_cause)
    mends = tuple(each for each in met if not each.suspect.is_cause)
    return WhyTime(verdict, causes, mends, tuple(nearer[:SHOWN]), len(tried))


def _is_same(one: Verdict, other: Verdict) -> bool:
    return (one.name, one.of) == (other.name, other.of)


def _beyond(verdict: Verdict) -> float:
    return verdict.figure - (verdict.limit or 0.0)


def time_suspects(project: Project, found: Paced) -> Iterator[TimeSuspect]:
    """Suspects: each task removed, run differently, faster or less often; scanned digits, buses, faces and filters
    changed."""
    for task in found.loop.tasks:
        yield from _of_task(task)
    clock = project.loop.processor.clock_hz
    yield _valued(
        f"the processor is clocked at {format_quantity(2 * clock, parse_unit('Hz'))}",
        RARE,
        (("loop", "clock"), format_quantity(2 * clock, parse_unit("Hz"))),
    )
    for name, panel in project.panels.items():
        if panel.scan is not None:
            for factor in (0.8, 0.6, 0.4):
                written = brief_time(panel.scan.on_time_ms * factor * NS / 1000)
                yield _valued(f"{name} is lit {written} a digit", USUAL, (("panels", name, "scan", "on_time"), written))
        if panel.bus is not None and panel.bus.kind == "two-wire" and panel.bus.clock_hz < 400e3:
            yield _valued(f"the bus of {name} is clocked at 400 kHz", OFTEN, (("panels", name, "clock"), "400 kHz"))
    for name, face in project.faces.items():
        if face.redraw_hz > 1:
            written = format_quantity(face.redraw_hz / 2, parse_unit("Hz"), 3)
            yield _valued(f"{name} is drawn at {written}", OFTEN, (("faces", name, "redraw"), written))
    for channel in project.channels.values():
        for place, each in enumerate(channel.filters):
            key: Key = ("channels", channel.name, "calm", place)
            yield TimeSuspect(
                f"the filter {each.says} of {channel.name}",
                OFTEN,
                lambda tables, key=key: _without(tables, key),  # type: ignore[misc]
                is_cause=True,
            )


def _of_task(task: Task) -> Iterator[TimeSuspect]:
    key: Key = ("loop", "tasks", task.name)
    took = brief_time(task.longest_ns)
    off = _valued(f"{task.name}, which takes {took}", OFTEN, ((*key, "off"), True))
    yield TimeSuspect(off.says, off.weight, off.changed, off.edits, is_cause=True)
    for runs in (INTERRUPT, BACKGROUND, LOOP):
        sensible = (runs == INTERRUPT and task.does in (COUNT, READ, SCAN)) or (
            runs == BACKGROUND and task.does in (DRAW, READ)
        )
        if runs != task.runs and sensible:
            yield _valued(f"{task.name} runs {runs}", USUAL, ((*key, "runs"), runs))
    if task.longest_ns > 0:
        shorter = brief_time(task.longest_ns / 10)
        yield _valued(
            f"{task.name} takes {shorter} instead of {took}",
            RARE,
            ((*key, "longest"), shorter),
            ((*key, "shortest"), shorter),
        )
    if task.period_ns > 0 and task.does in (DRAW, READ):
        rarer = brief_time(2 * task.period_ns)
        yield _valued(f"{task.name} comes every {rarer}", RARE, ((*key, "period"), rarer))


def _valued(says: str, weight: float, *edits: tuple[Key, Written]) -> TimeSuspect:
    def changed(tables: Tables) -> Tables:
        for key, value in edits:
            tables = _with(tables, key, value)
        return tables

    return TimeSuspect(says, weight, changed, edits)


def _with(node: Any, key: Key, value: Written) -> Any:
    """Tables with another value; the rest is shared."""
    if not key:
        return value
    first, *rest = key
    if isinstance(node, list) and isinstance(first, int):
        return [*node[:first], _with(node[first], tuple(rest), value), *node[first + 1 :]]
    node = node if isinstance(node, dict) else {}
    return {**node, first: _with(node.get(first), tuple(rest), value)}


def _without(node: Any, key: Key) -> Any:
    """Tables without an entry of a list."""
    first, *rest = key
    if not rest:
        return [each for place, each in enumerate(node) if place != first]
    return {**node, first: _without(node[first], tuple(rest))}
