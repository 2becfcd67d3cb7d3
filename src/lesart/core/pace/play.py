"""A loop played event by event, in whole nanoseconds: what ran when, what waited, what was skipped.

One processor. Tasks in the loop run one at a time to completion, of those that are due the most important first; those
without a period run in turn while nothing is due. An interrupt preempts what runs, unless that is closed to interrupts,
and is never preempted; one that needs a busy bus waits for it. A background transfer needs no processor, but its bus. A
task that is due again before it ran runs once: the other run is skipped.
"""

from __future__ import annotations

from dataclasses import field
from functools import cached_property
from heapq import heappop, heappush

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.pace.task import BACKGROUND, INTERRUPT, LOOP, Loop, Task

Nanoseconds = npt.NDArray[np.int64]
MOST_RUNS = 1_000_000
"""A loop with more runs within the played time is stopped: the figures are known long before."""


@dataclass(frozen=True)
class Ran:
    """One run of a task: when it was due, begun and done, in nanoseconds from the start."""

    due_ns: int
    start_ns: int
    end_ns: int


@dataclass(frozen=True, eq=False)
class RunTimes:
    """Run times, shape (n,) each, int64, rising."""

    starts_ns: Nanoseconds
    ends_ns: Nanoseconds


@dataclass(frozen=True)
class Played:
    """``runs`` and ``skipped`` by task.

    ``busy_ns`` is the processor's working time; ``busy`` its uninterrupted spans, cut at the end of each pass of the
    loop, as starts and ends. ``bus_ns`` is the time that each bus was in use. ``length_ns`` is the time played.
    """

    loop: Loop
    length_ns: int
    runs: dict[str, tuple[Ran, ...]]
    skipped: dict[str, int]
    busy_ns: int
    busy: tuple[tuple[int, int], ...]
    bus_ns: dict[str, int]
    is_cut: bool = False

    @property
    def load(self) -> float:
        """Share of the time that the processor is busy, 0 to 1."""
        return self.busy_ns / self.length_ns if self.length_ns else 0.0

    def times(self, task: str) -> RunTimes:
        """When the runs of a task began and ended; empty for an unknown task."""
        return self._times.get(task) or RunTimes(np.empty(0, np.int64), np.empty(0, np.int64))

    @cached_property
    def _times(self) -> dict[str, RunTimes]:
        return {
            name: RunTimes(
                np.array([ran.start_ns for ran in runs], np.int64), np.array([ran.end_ns for ran in runs], np.int64)
            )
            for name, runs in self.runs.items()
        }

    def bus_load(self, bus: str) -> float:
        """Share of the time that a bus is in use, 0 to 1."""
        return self.bus_ns.get(bus, 0) / self.length_ns if self.length_ns else 0.0


@dataclass
class _Chance:
    """Pseudo-random integers from a seed: the same on every machine and in every version.

    A linear congruential generator modulo 2**64, of which the upper half is used; its low bits repeat too soon.
    """

    state: int

    def between(self, low: int, high: int) -> int:
        """A number from low to high, both included."""
        self.state = (self.state * 6364136223846793005 + 1442695040888963407) % 2**64
        return low + ((self.state >> 32) * (high - low + 1) >> 32)


@dataclass
class _State:
    """The state of a play; times in nanoseconds."""

    loop: Loop
    length: int
    chance: _Chance
    most: int
    heap: list[tuple[int, int]] = field(default_factory=list)
    due: dict[int, int] = field(default_factory=dict)
    """When each waiting task was due, by index."""
    runs: dict[int, list[Ran]] = field(default_factory=dict)
    skipped: dict[int, int] = field(default_factory=dict)
    bus_free: dict[str, int] = field(default_factory=dict)
    bus_used: dict[str, int] = field(default_factory=dict)
    stretches: list[tuple[int, int, bool]] = field(default_factory=list)
    """Start and end of each run in the loop, and whether a pass of the loop ends with it."""
    holding: str = ""
    """The bus that the task in the loop holds; background transfers on it are ``held`` until then."""
    held: dict[int, int] = field(default_factory=dict)
    beside: dict[int, tuple[int, int]] = field(default_factory=dict)
    """When each background transfer last began and was done, or will be, once its bus is free."""
    now: int = 0
    turn: int = 0
    count: int = 0


def play(loop: Loop, length_ns: int, most_runs: int = MOST_RUNS) -> Played:
    """Play from all tasks due at once, for a time or until a number of runs.

    What is under way at the end is cut off.
    """
    state = _State(loop, length_ns, _Chance(loop.seed), most_runs)
    for place, task in enumerate(loop.tasks):
        state.runs[place], state.skipped[place] = [], 0
        if task.period_ns and not task.is_polled:
            heappush(state.heap, (0, place))
    free = [place for place, task in enumerate(loop.tasks) if not task.period_ns]
    while state.now < length_ns and state.count < most_runs:
        _release(state)
        chosen = _next(state, free)
        if chosen is not None:
            _run(state, chosen)
        elif state.heap:
            state.now = state.heap[0][0]
        else:
            break
    # What fell due while the last one ran counts as well.
    _release(state)
    return _played(state, is_cut=state.count >= most_runs)


def _release(state: _State, ahead: int = 0) -> None:
    """What is due by now waits from now on; background starts at once.

    What waits for the processor or for a bus, both taken until ``ahead`` at least, is left out as often as it is due
    until then, all at once: step by step a task of each nanosecond would take for ever.
    """
    limit = min(state.now, state.length - 1)
    until = min(max(state.now, ahead), state.length - 1)
    while state.heap and state.heap[0][0] <= limit and state.count < state.most:
        at, place = heappop(state.heap)
        task = state.loop.tasks[place]
        waiting = place in state.due or place in state.held
        stays = place in state.held or task.runs == LOOP or bool(task.bus and task.bus == state.holding)
        moments = ((until if stays else limit) - at) // task.period_ns + 1 if waiting else 1
        heappush(state.heap, (at + moments * task.period_ns, place))
        if waiting:
            state.skipped[place] += moments
        elif task.runs != BACKGROUND:
            state.due[place] = at
        elif task.bus and task.bus == state.holding:
            state.held[place] = at
        else:
            _beside(state, place, at, at)


def _beside(state: _State, place: int, due: int, from_ns: int) -> None:
    """Start background transfers as soon as their bus is free."""
    task = state.loop.tasks[place]
    begun, done = state.beside.get(place, (-1, 0))
    if begun > due:
        # The previous one has not begun yet: this one is skipped.
        state.skipped[place] += 1
        state.count += 1
        return
    start = max(from_ns, done, state.bus_free.get(task.bus, 0) if task.bus else 0)
    end = start + _duration(state, task)
    state.beside[place] = (start, end)
    _done(state, place, due, start, end)


def _next(state: _State, free: list[int]) -> int | None:
    """The next task: interrupts first, then what is due in the loop, then what runs in every pass."""
    if state.due:
        tasks = state.loop.tasks
        return min(state.due, key=lambda place: (tasks[place].runs != INTERRUPT, -tasks[place].priority, place))
    if not free:
        return None
    state.turn = (state.turn + 1) % len(free)
    return free[state.turn]


def _run(state: _State, place: int) -> None:
    """Run a task to its end; interrupts that fall due meanwhile run in between and delay it."""
    task = state.loop.tasks[place]
    due = state.due.pop(place, state.now)
    start = state.now
    while task.bus and state.now < min(state.bus_free.get(task.bus, 0), state.length):
        # The processor waits for the bus and does nothing else, as firmware does that has no queue.
        _work(state, state.bus_free[task.bus] - state.now, interruptible=task.runs != INTERRUPT)
    began, state.holding = state.now, task.bus
    _work(state, _duration(state, task), interruptible=task.runs != INTERRUPT and not task.closed)
    state.stretches.append((start, state.now, not task.period_ns and task.runs == LOOP))
    _done(state, place, due, began, state.now)
    state.holding, held, state.held = "", state.held, {}
    for waiting, at in held.items():
        _beside(state, waiting, at, state.now)


def _work(state: _State, needed: int, *, interruptible: bool) -> None:
    """Spend processor time from now on, with the interrupts that come in between."""
    left = needed
    while True:
        coming = state.heap[0][0] if state.heap else state.length
        is_over = coming >= min(state.now + left, state.length) or state.count >= state.most
        if is_over or not interruptible:
            state.now += left
            return
        left -= max(coming - state.now, 0)
        state.now = max(coming, state.now)
        _release(state, state.now + left - 1)
        while state.due and state.count < state.most:
            place = _interrupt(state)
            if place is None:
                break
            task = state.loop.tasks[place]
            due = state.due.pop(place)
            start = max(state.now, state.bus_free.get(task.bus, 0) if task.bus else 0)
            state.now = start + _duration(state, task)
            _done(state, place, due, start, state.now)
            _release(state, state.now + left - 1)


def _interrupt(state: _State) -> int | None:
    """The next interrupt.

    One that needs the busy bus waits: it is masked meanwhile, or both transfers would be spoilt.
    """
    tasks, held = state.loop.tasks, state.holding
    waiting = [
        place for place in state.due if tasks[place].runs == INTERRUPT and not (held and tasks[place].bus == held)
    ]
    return min(waiting, key=lambda place: (-tasks[place].priority, place), default=None)


def _duration(state: _State, task: Task) -> int:
    if task.shortest_ns >= task.longest_ns:
        return task.shortest_ns
    return state.chance.between(task.shortest_ns, task.longest_ns)


def _done(state: _State, place: int, due: int, start: int, end: int) -> None:
    task = state.loop.tasks[place]
    state.count += 1
    if start >= state.length:
        return
    state.runs[place].append(Ran(due, start, min(end, state.length)))
    if task.bus:
        state.bus_free[task.bus] = max(state.bus_free.get(task.bus, 0), end)
        state.bus_used[task.bus] = state.bus_used.get(task.bus, 0) + min(end, state.length) - start


def _played(state: _State, *, is_cut: bool) -> Played:
    names = [task.name for task in state.loop.tasks]
    # A loop with too many runs is known up to where it was stopped.
    length = min(state.now, state.length) if is_cut else state.length
    busy = _merged(state.stretches, length)
    return Played(
        loop=state.loop,
        length_ns=length,
        runs={names[place]: tuple(runs) for place, runs in state.runs.items()},
        skipped={names[place]: count for place, count in state.skipped.items()},
        busy_ns=sum(end - start for start, end in busy),
        busy=busy,
        bus_ns=state.bus_used,
        is_cut=is_cut,
    )


def _merged(stretches: list[tuple[int, int, bool]], length: int) -> tuple[tuple[int, int], ...]:
    """Adjoining spans merged, up to the end. The end of a pass of the loop separates them: there it polls its pins."""
    found: list[tuple[int, int]] = []
    turned = True
    for start, end, turns in stretches:
        end = min(end, length)
        if end <= start:
            continue
        if found and found[-1][1] == start and not turned:
            found[-1] = (found[-1][0], end)
        else:
            found.append((start, end))
        turned = turns
    return tuple(found)
