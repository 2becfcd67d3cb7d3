"""A played loop judged: is everything done in time, is what stands on the glass fresh, how long does a battery last."""

from __future__ import annotations

import bisect
import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from lesart.core.block import Bools
from lesart.core.notes import DOUBT, FAULT, Mend, Note
from lesart.core.pace.play import Played, Ran
from lesart.core.pace.task import BACKGROUND, COUNT, DRAW, INTERRUPT, LOOP, NS, READ, Task
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import plain_number

MOST_EMPTY_MS = 10.0
"""A display that is empty for longer, again and again, is seen to flicker."""


@dataclass(frozen=True)
class Reach:
    """How a channel comes to a panel: the tasks that read, convert and draw it. ``lag_s`` is that of its filters;
    ``alarm_s`` how long its slowest alarm waits, None without one; ``stale_after_s`` when the panel says so."""

    channel: str
    panel: str
    read: str
    convert: str
    draw: str
    lag_s: float
    stale_after_s: float
    alarm_s: float | None = None
    most_lag_s: float = 0.0
    """What its channel is allowed; the loop's own limit holds where that is more."""


@dataclass(frozen=True)
class Limits:
    """Shares of time 0 to 1, seconds, milliamperes, milliampere-hours."""

    most_bus: float = 0.6
    most_lag_s: float = 1.0
    active_ma: float = 0.0
    idle_ma: float = 0.0
    shown_ma: float = 0.0
    capacity_mah: float = 0.0


def done_in_time(played: Played) -> list[Verdict]:
    """The processor's load, and each task that was skipped because it was due again before it ran."""
    verdicts = [_load(played)]
    if played.is_cut:
        verdicts.append(Verdict("played only for", played.length_ns / NS, "s"))
    for task in played.loop.tasks:
        skipped, runs = played.skipped[task.name], len(played.runs[task.name])
        if not skipped or task.does == COUNT:
            continue
        note = Note(FAULT, "pace", None, f"{task.name}: {skipped} of {skipped + runs} times it was due again before it "
                    "ran, and was left out.", figure=100.0 * skipped / (skipped + runs), unit="%", limit=0.0,
                    remedy=_relief(played, task))  # fmt: skip
        verdicts.append(Verdict(f"{task.name}, left out", 100.0 * skipped / (skipped + runs), "%", 0.0, note=note))
    return verdicts


def _load(played: Played) -> Verdict:
    """What the processor does; where it should do more than it can, how much that is."""
    wanted = sum(task.mean_ns / task.period_ns for task in played.loop.tasks
                 if task.runs != BACKGROUND and task.period_ns and not task.is_polled)  # fmt: skip
    if wanted <= 1:
        return Verdict("processor at work", 100 * played.load, "%", 100.0)
    share = {task.name: task.mean_ns / task.period_ns for task in played.loop.tasks
             if task.runs != BACKGROUND and task.period_ns}  # fmt: skip
    worst = max(share, key=lambda name: share[name])
    note = Note(FAULT, "pace", None, f"all tasks together take {plain_number(100 * wanted, 3)} % of the time there is; "
                f"{worst} alone takes {plain_number(100 * share[worst], 3)} %.", figure=100 * wanted, unit="%",
                limit=100.0, remedy=f"{worst} less often, faster, or in background")  # fmt: skip
    return Verdict("processor at work", 100 * wanted, "%", 100.0, note=note)


def _relief(played: Played, task: Task) -> str:
    """What keeps a task from running, and what would help."""
    spans = {each.name: sum(ran.end_ns - ran.start_ns for ran in played.runs[each.name]) for each in played.loop.tasks
             if each.runs != BACKGROUND}  # fmt: skip
    worst = max(spans, key=lambda name: spans[name], default=task.name)
    share = 100.0 * spans.get(worst, 0) / max(played.length_ns, 1)
    if worst == task.name:
        return f"do it less often; it takes {share:.0f} % of the time"
    return f"{worst} takes {share:.0f} % of the time: do that less often, or in background"


def buses(played: Played, limits: Limits) -> list[Verdict]:
    """Share of the time that each bus is in use, with what uses it most."""
    verdicts = []
    for bus in dict.fromkeys(task.bus for task in played.loop.tasks if task.bus):
        wanted = sum(task.mean_ns / task.period_ns for task in played.loop.tasks if task.bus == bus and task.period_ns)
        share = max(played.bus_load(bus), wanted)
        note = None
        if share > limits.most_bus:
            users = {task.name: task.mean_ns / task.period_ns for task in played.loop.tasks
                     if task.bus == bus and task.period_ns}  # fmt: skip
            worst = max(users, key=lambda name: users[name])
            note = Note(FAULT if share > 1 else DOUBT, "pace", None,
                        f"{bus}: in use {plain_number(100 * share, 3)} % of the time, {worst} alone "
                        f"{plain_number(100 * users[worst], 3)} %.", figure=100 * share, unit="%",
                        limit=100 * limits.most_bus,
                        **_room_on(users, worst, limits.most_bus, played))  # fmt: skip
        verdicts.append(Verdict(f"{bus} in use", 100 * share, "%", 100 * limits.most_bus, note=note))
        drawn = sum(
            task.mean_ns / task.period_ns for task in played.loop.of(DRAW) if task.bus == bus and task.period_ns
        )
        verdicts.append(Verdict(f"{bus} left for sensors", 100 * max(1 - drawn, 0.0), "%"))
    return verdicts


def _room_on(users: Mapping[str, float], worst: str, most: float, played: Played) -> dict[str, Any]:
    """Remedy and mend: how often the worst user of a bus may use it so that all is well, or how much faster it is."""
    left = most - sum(users.values()) + users[worst]
    if left <= 0:
        return {"remedy": f"a clock {plain_number(sum(users.values()) / most, 2)} times as fast"}
    task = next(each for each in played.loop.tasks if each.name == worst)
    needed = _tidied_up(task.mean_ns / left)
    return {
        "remedy": f"{worst} every {needed} and not every {plain_number(task.period_ns / 1e6, 3)} ms, or a clock "
                  f"{plain_number(sum(users.values()) / most, 2)} times as fast",
        "mend": (Mend(("loop", "tasks", worst, "period"), needed),),
    }  # fmt: skip


def _tidied_up(ns: float) -> str:
    """A time of two digits that is not below this one, in milliseconds."""
    ms = ns / 1e6
    step = 10.0 ** (math.floor(math.log10(ms)) - 1)
    return f"{plain_number(math.ceil(ms / step - 1e-9) * step, 4)} ms"


def drawings(played: Played, often_hz: Mapping[str, float]) -> list[Verdict]:
    """How many pictures a second a panel could be drawn at most, beside how many it is: ``often_hz`` by panel."""
    return [
        Verdict(f"pictures of {task.of} at most", NS / task.mean_ns, "/s", often_hz[task.of], True, of=task.of)
        for task in played.loop.of(DRAW) if task.of in often_hz and task.mean_ns
    ]  # fmt: skip


def emptied(panel: str, face: str, empty_ms: float, redraw_hz: float) -> Verdict:
    """A display that is cleared before each drawing is empty until it is written again."""
    note = None
    if empty_ms > MOST_EMPTY_MS:
        note = Note(DOUBT, "pace", None, f"{panel}: cleared before each drawing, it is empty for "
                    f"{plain_number(empty_ms, 3)} ms, {plain_number(redraw_hz, 3)} times a second, and flickers.",
                    figure=empty_ms, unit="ms", limit=MOST_EMPTY_MS, remedy="write over what stands there, padded",
                    mend=(Mend(("faces", face, "writes"), "over, padded"),), panel=panel)  # fmt: skip
    return Verdict(f"{panel} empty, each time", empty_ms, "ms", MOST_EMPTY_MS, False, note, panel)


def reads(played: Played) -> list[Verdict]:
    """Readings that came sooner than the sensor allows."""
    verdicts = []
    for task in played.loop.of(READ):
        runs = played.runs[task.name]
        if not task.wanted_s or len(runs) < 2:
            continue
        least = min(later.start_ns - earlier.start_ns for earlier, later in itertools.pairwise(runs)) / NS
        note = None
        if least < task.wanted_s - 1e-9:
            needed = f"{task.wanted_s:g} s"
            note = Note(FAULT, "pace", None, f"{task.name}: read again after {plain_number(least, 3)} s; the sensor "
                        f"needs {needed}, and repeats its last value before.", figure=least, unit="s",
                        limit=task.wanted_s, remedy=f"read it every {needed}",
                        mend=(Mend(("loop", "tasks", task.name, "period"), needed),))  # fmt: skip
        verdicts.append(Verdict(f"{task.name}, apart by", least, "s", task.wanted_s, True, note))
    return verdicts


def counts(played: Played, lost: Mapping[str, Bools]) -> list[Verdict]:
    """Pulses missed by each task that counts: ``lost`` says it of those that the loop looks at, by name."""
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
            longest = max((end - start for start, end in played.busy), default=0) / 1e6
            note = Note(FAULT, "pace", task.of or None, f"{task.name}: {missed} of {total} pulses come and go while "
                        f"the loop is busy, for up to {plain_number(longest, 3)} ms, and are missed.",
                        figure=100.0 * missed / total, unit="%", limit=0.0,
                        remedy="count them by interrupt" if task.runs == LOOP else "count them in background",
                        mend=(Mend(("loop", "tasks", task.name, "runs"),
                                   INTERRUPT if task.runs == LOOP else BACKGROUND),))  # fmt: skip
        verdicts.append(Verdict(f"{task.name}, missed", 100.0 * missed / total, "%", 0.0, note=note, of=task.of))
    return verdicts


def freshness(played: Played, reach: Reach, limits: Limits) -> list[Verdict]:
    """From the sensor to the glass: how late what is drawn is, and how old it becomes before it is drawn again."""
    ages = shown_ages(played, reach)
    if not ages:
        return []
    lag = max(late for late, _ in ages) / NS + reach.lag_s
    most_s = max(limits.most_lag_s, reach.most_lag_s)
    oldest = max(old for _, old in ages) / NS + reach.lag_s
    note = None
    if lag > most_s:
        by_filters = reach.lag_s > lag / 2
        most = "its filters" if by_filters else "waiting for reading, converting and drawing"
        room = most_s - lag + reach.lag_s
        calmer = f"filters that lag by {plain_number(room, 2)} s at most" if room > 0 else "filters that lag less"
        note = Note(DOUBT, "pace", reach.channel, f"{reach.channel} on {reach.panel}: what is drawn is up to "
                    f"{plain_number(lag, 3)} s late, most of it {most}; {plain_number(most_s, 3)} s is "
                    "wanted.",
                    figure=lag, unit="s", limit=most_s,
                    remedy=calmer if by_filters else "read or draw it more often",
                    panel=reach.panel)  # fmt: skip
    verdicts = [Verdict(f"{reach.channel} to {reach.panel}", 1000 * lag, "ms", 1000 * most_s, False, note,
                        reach.channel)]  # fmt: skip
    if oldest - reach.lag_s > reach.stale_after_s:
        note = Note(DOUBT, "pace", reach.channel, f"{reach.channel} on {reach.panel}: between two readings it grows "
                    f"{plain_number(oldest - reach.lag_s, 3)} s old and is shown as stale from "
                    f"{plain_number(reach.stale_after_s, 3)} s on.", figure=oldest - reach.lag_s, unit="s",
                    limit=reach.stale_after_s, remedy="read it more often, or let it grow older",
                    panel=reach.panel)  # fmt: skip
        verdicts.append(Verdict(f"{reach.channel}, oldest shown", oldest - reach.lag_s, "s", reach.stale_after_s, False,
                                note, reach.channel))  # fmt: skip
    if reach.alarm_s is not None:
        verdicts.append(Verdict(f"alarm of {reach.channel} shows in", 1000 * (oldest + reach.alarm_s), "ms",
                                of=reach.channel))  # fmt: skip
    return verdicts


def shown_ages(played: Played, reach: Reach) -> list[tuple[int, int]]:
    """For each drawing: from the start of the reading it shows to its end, and on to the end of the next drawing."""
    read, convert, draw = (played.runs.get(name, ()) for name in (reach.read, reach.convert, reach.draw))
    found = []
    for this, following in itertools.pairwise(draw):
        made = _latest(convert, this.start_ns)
        taken = None if made is None else _latest(read, made.start_ns)
        if taken is not None:
            found.append((this.end_ns - taken.start_ns, following.end_ns - taken.start_ns))
    return found


def _latest(runs: Sequence[Ran], before_ns: int) -> Ran | None:
    """The last run that was done by then."""
    place = bisect.bisect_right(runs, before_ns, key=lambda ran: ran.end_ns)
    return runs[place - 1] if place else None


def energy(played: Played, limits: Limits) -> list[Verdict]:
    """Mean current, and how long a battery lasts."""
    if not limits.capacity_mah:
        return []
    mean = limits.idle_ma + (limits.active_ma - limits.idle_ma) * played.load + limits.shown_ma
    verdicts = [
        Verdict("mean current", mean, "mA"),
        Verdict("of it awake", limits.active_ma * played.load, "mA"),
        Verdict("of it waiting", limits.idle_ma * (1 - played.load), "mA"),
        Verdict("of it displays", limits.shown_ma, "mA"),
    ]  # fmt: skip
    return [*verdicts, Verdict("battery lasts", limits.capacity_mah / mean, "h")] if mean > 0 else verdicts
