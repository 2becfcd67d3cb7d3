"""Verdicts on a played loop: is everything done in time, is the glass fresh, how long does a battery last."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.block import Bools
from lesart.core.notes import DOUBT, FAULT, Mend, Note
from lesart.core.pace.limits import Limits
from lesart.core.pace.play import Played, play
from lesart.core.pace.task import BACKGROUND, COUNT, DRAW, INTERRUPT, LOOP, NS, READ, Loop, Task, closed_longest
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import counted_of, plain_number, told_apart
from lesart.core.raw.settling import SOON_SHARE, is_too_soon
from lesart.core.step import Step

MOST_EMPTY_MS = 10.0
"""A display that is repeatedly empty for longer visibly flickers."""


def done_in_time(played: Played) -> list[Verdict]:
    """Verdicts on the processor's load, and on each task that was skipped because it was due again before it ran."""
    verdicts = [_load(played)]
    if played.is_cut:
        verdicts.append(Verdict("played only for", played.length_ns / NS, "s"))
    for task in played.loop.tasks:
        skipped, runs = played.skipped[task.name], len(played.runs[task.name])
        if not skipped or task.does == COUNT:
            continue
        note = Note(
            FAULT,
            Step.PACE,
            None,
            f"{task.name}: {skipped} of {skipped + runs} times it was due again before it ran, and was left out.",
            figure=100.0 * skipped / (skipped + runs),
            unit="%",
            limit=0.0,
            remedy=_relief(played, task),
        )
        verdicts.append(Verdict(f"{task.name}, left out", 100.0 * skipped / (skipped + runs), "%", 0.0, note=note))
    return verdicts


def _load(played: Played) -> Verdict:
    """Verdict on the processor's load; where it is overloaded, by how much."""
    wanted = sum(
        task.mean_ns / task.period_ns
        for task in played.loop.tasks
        if task.runs != BACKGROUND and task.period_ns and not task.is_polled
    )
    if wanted <= 1:
        return Verdict("processor at work", 100 * played.load, "%", 100.0)
    share = {
        task.name: task.mean_ns / task.period_ns
        for task in played.loop.tasks
        if task.runs != BACKGROUND and task.period_ns
    }
    worst = max(share, key=lambda name: share[name])
    note = Note(
        FAULT,
        Step.PACE,
        None,
        f"all tasks together take {plain_number(100 * wanted, 3)} % of the time there is; "
        f"{worst} alone takes {plain_number(100 * share[worst], 3)} %.",
        figure=100 * wanted,
        unit="%",
        limit=100.0,
        remedy=f"{worst} less often, faster, or in background",
    )
    return Verdict("processor at work", 100 * wanted, "%", 100.0, note=note)


def _relief(played: Played, task: Task) -> str:
    """What keeps a task from running, and what would help."""
    spans = {
        each.name: sum(ran.end_ns - ran.start_ns for ran in played.runs[each.name])
        for each in played.loop.tasks
        if each.runs != BACKGROUND
    }
    worst = max(spans, key=lambda name: spans[name], default=task.name)
    share = 100.0 * spans.get(worst, 0) / max(played.length_ns, 1)
    if worst == task.name:
        return f"do it less often; it takes {share:.0f} % of the time"
    longest_ns = max((ran.end_ns - ran.start_ns for ran in played.runs.get(worst, ())), default=0)
    if 0 < task.period_ns < longest_ns:
        # Less often would lose fewer, and one each time all the same.
        return (
            f"{worst} takes {_time(longest_ns)} at a time, longer than the {_time(task.period_ns)} between two of "
            "these: run it in background"
        )
    return f"{worst} takes {share:.0f} % of the time: do that less often, or in background"


def _time(ns: int) -> str:
    return f"{plain_number(ns / NS, 3)} s" if ns >= NS else f"{plain_number(1e3 * ns / NS, 3)} ms"


def buses(played: Played, limits: Limits) -> list[Verdict]:
    """Verdicts on the share of time that each bus is in use, with its heaviest user."""
    verdicts = []
    for bus in dict.fromkeys(task.bus for task in played.loop.tasks if task.bus):
        share = max(played.bus_load(bus), _mean_use(played.loop, bus))
        note = None
        if share > limits.most_bus:
            users = {
                task.name: task.mean_ns / task.period_ns
                for task in played.loop.tasks
                if task.bus == bus and task.period_ns
            }
            worst = max(users, key=lambda name: users[name])
            note = Note(
                FAULT if share > 1 else DOUBT,
                Step.PACE,
                None,
                f"{bus}: in use {plain_number(100 * share, 3)} % of the time, {worst} alone "
                f"{plain_number(100 * users[worst], 3)} %.",
                figure=100 * share,
                unit="%",
                limit=100 * limits.most_bus,
                limit_at=("loop", "most_bus"),
                **_room_on(users, worst, limits.most_bus, played),
            )
        verdicts.append(Verdict(f"{bus} in use", 100 * share, "%", 100 * limits.most_bus, note=note))
        drawn = sum(
            task.mean_ns / task.period_ns for task in played.loop.of(DRAW) if task.bus == bus and task.period_ns
        )
        verdicts.append(Verdict(f"{bus} left for sensors", 100 * max(1 - drawn, 0.0), "%"))
    return verdicts


def _room_on(users: Mapping[str, float], worst: str, most: float, played: Played) -> dict[str, Any]:
    """Remedy and mend for a bus: how often its heaviest user may use it, or how much faster the bus must be."""
    task = next(each for each in played.loop.tasks if each.name == worst)
    bus, faster = task.bus or "", f"a clock {plain_number(sum(users.values()) / most, 2)} times as fast"
    left = most - sum(users.values()) + users[worst]
    # A play measures a little more than the mean: each task may begin once more than its period says.
    tried = _notches(task.mean_ns / left, 8) if left > 0 else []
    notch = next((each for each in tried if _in_use(played, task, each, bus) <= most), None)
    if notch is None:
        return {"remedy": faster}
    needed = f"{plain_number(notch, 4)} ms"
    return {
        "remedy": f"{worst} every {needed} and not every {plain_number(task.period_ns / 1e6, 3)} ms, or {faster}",
        "mend": (Mend(("loop", "tasks", worst, "period"), needed),),
    }


def _in_use(played: Played, task: Task, period_ms: float, bus: str) -> float:
    """The load of a bus with another period of one task: played again, and by its mean."""
    loop = replace(
        played.loop,
        tasks=tuple(
            replace(each, period_ns=round(period_ms * 1e6)) if each.name == task.name else each
            for each in played.loop.tasks
        ),
    )
    return max(play(loop, played.length_ns).bus_load(bus), _mean_use(loop, bus))


def _mean_use(loop: Loop, bus: str) -> float:
    return sum(task.mean_ns / task.period_ns for task in loop.tasks if task.bus == bus and task.period_ns)


def _notches(ns: float, count: int, digits: int = 2) -> list[float]:
    """A number of times in ms with a given number of digits, each the next above the last; the first is not below
    ``ms``."""
    ms = ns / 1e6
    step = 10.0 ** (math.floor(math.log10(ms)) - digits + 1)
    first = math.ceil(ms / step - 1e-9)
    return [(first + index) * step for index in range(count)]


def drawings(played: Played, often_hz: Mapping[str, float]) -> list[Verdict]:
    """Verdicts on the greatest drawing rate of each panel, next to its actual one: ``often_hz`` by panel."""
    return [
        Verdict(f"pictures of {task.of} at most", NS / task.mean_ns, "/s", often_hz[task.of], True, of=task.of)
        for task in played.loop.of(DRAW)
        if task.of in often_hz and task.mean_ns
    ]


def emptied(panel: str, face: str, empty_ms: float, redraw_hz: float) -> Verdict:
    """Verdict on a display that is cleared before each drawing: it is empty until it is written again."""
    note = None
    if empty_ms > MOST_EMPTY_MS:
        note = Note(
            DOUBT,
            Step.PACE,
            None,
            f"{panel}: cleared before each drawing, it is empty for "
            f"{plain_number(empty_ms, 3)} ms, {plain_number(redraw_hz, 3)} times a second, and flickers.",
            figure=empty_ms,
            unit="ms",
            limit=MOST_EMPTY_MS,
            remedy="write over what is there, padded",
            mend=(Mend(("faces", face, "writes"), "over, padded"),),
            panel=panel,
        )
    return Verdict(
        name=f"{panel} empty, each time",
        figure=empty_ms,
        unit="ms",
        limit=MOST_EMPTY_MS,
        at_least=False,
        note=note,
        of=panel,
    )


def reads(played: Played) -> list[Verdict]:
    """Verdict on readings sooner than the sensor allows."""
    verdicts = []
    for task in played.loop.of(READ):
        runs = played.runs[task.name]
        if not task.wanted_s or len(runs) < 2:
            continue
        least = min(later.start_ns - earlier.start_ns for earlier, later in itertools.pairwise(runs)) / NS
        note = None
        if is_too_soon(least, task.wanted_s):
            shown, limit = told_apart(least, task.wanted_s)
            # Other tasks may delay one reading and not the next one: that much is added to the needed period.
            wanted_ns = (task.wanted_s + max(task.period_ns / NS - least, 0.0)) * NS
            needed = f"{plain_number(_notches(wanted_ns, 1, 3)[0], 5)} ms"
            note = Note(
                FAULT,
                Step.PACE,
                None,
                f"{task.name}: read again after {shown} s; the sensor needs {limit} s, "
                "and repeats its last value before.",
                figure=least,
                unit="s",
                limit=task.wanted_s,
                remedy=f"read it every {needed}",
                limit_at=("sources", task.of, "least_interval"),
                mend=(Mend(("loop", "tasks", task.name, "period"), needed),),
            )
        verdicts.append(Verdict(f"{task.name}, apart by", least, "s", task.wanted_s * (1 - SOON_SHARE), True, note))
    return verdicts


def counts(played: Played, lost: Mapping[str, Bools]) -> list[Verdict]:
    """Verdicts on pulses missed by each counting task; ``lost``, shape (pulses,), marks those missed by polling."""
    verdicts = []
    for task in played.loop.of(COUNT):
        if task.is_polled:
            found = lost.get(task.name)
            missed, total = (0, 0) if found is None else (int(found.sum()), len(found))
        else:
            missed = played.skipped[task.name]
            total = missed + len(played.runs[task.name])
        if not total:
            continue
        note = None
        if missed:
            note = Note(
                FAULT,
                Step.PACE,
                task.of or None,
                f"{task.name}: {counted_of(missed, total, 'pulse')} {'is' if missed == 1 else 'are'} missed; "
                f"{_why_missed(played, task)}.",
                figure=100.0 * missed / total,
                unit="%",
                limit=0.0,
                remedy="count them by interrupt" if task.runs == LOOP else "count them in background",
                mend=(Mend(("loop", "tasks", task.name, "runs"), INTERRUPT if task.runs == LOOP else BACKGROUND),),
            )
        verdicts.append(Verdict(f"{task.name}, missed", 100.0 * missed / total, "%", 0.0, note=note, of=task.of))
    return verdicts


def _why_missed(played: Played, task: Task) -> str:
    """Why pulses are missed, in a clause."""
    closed = closed_longest(played.loop)
    if task.runs == INTERRUPT and closed is not None:
        longest = plain_number(closed.longest_ns / 1e6, 3)
        return f"they come while {closed.name} lets no interrupt in, for up to {longest} ms"
    longest = plain_number(max((end - start for start, end in played.busy), default=0) / 1e6, 3)
    return f"they come and go while the loop is busy, for up to {longest} ms"


def energy(played: Played, limits: Limits) -> list[Verdict]:
    """Verdicts on the mean current, and on battery life."""
    if not limits.capacity_mah:
        return []
    beside = limits.shown_ma + limits.others_ma
    mean = limits.idle_ma + (limits.active_ma - limits.idle_ma) * played.load + beside
    verdicts = [
        Verdict("mean current", mean, "mA"),
        Verdict("of which awake", limits.active_ma * played.load, "mA"),
        Verdict("of which waiting", limits.idle_ma * (1 - played.load), "mA"),
        Verdict("of which displays", limits.shown_ma, "mA"),
    ]
    if limits.others_ma:
        verdicts.append(Verdict("of which other parts", limits.others_ma, "mA"))
    lasts_h = limits.capacity_mah * limits.usable / mean if mean > 0 else 0.0
    return [*verdicts, Verdict("battery lasts", lasts_h, "h")] if mean > 0 else verdicts
