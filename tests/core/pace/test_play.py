"""A loop played: closed forms, what must always hold, and what a person can count on paper."""

from __future__ import annotations

import itertools
import time
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.glass.panels.scan import Scan
from lesart.core.pace.judge import done_in_time
from lesart.core.pace.play import play
from lesart.core.pace.scan import judge_scan, scan_verdicts
from lesart.core.pace.task import BACKGROUND, INTERRUPT, LOOP, SCAN, WORK, Loop, Task
from tests.core.pace.tasks import MS, US, S, timed


def test_one_task_by_hand() -> None:
    """Every 10 ms for 3 ms over 100 ms: ten runs, a load of 30 %."""
    played = play(Loop((timed("work", 10 * MS, 3 * MS),)), 100 * MS)
    assert [(ran.due_ns, ran.start_ns, ran.end_ns) for ran in played.runs["work"]] == [
        (at * 10 * MS, at * 10 * MS, (at * 10 + 3) * MS) for at in range(10)
    ]
    assert played.load == pytest.approx(0.3, abs=0)
    assert played.skipped["work"] == 0


def test_the_more_important_goes_first_and_the_other_waits() -> None:
    """Both due at 0: priority 7 runs from 0 to 2, priority 4 from 2 to 5."""
    loop = Loop((timed("draw", 100 * MS, 3 * MS, priority=4), timed("read", 100 * MS, 2 * MS, priority=7)))
    played = play(loop, 100 * MS)
    assert played.runs["read"][0].start_ns == 0
    assert (played.runs["draw"][0].start_ns, played.runs["draw"][0].end_ns) == (2 * MS, 5 * MS)


def test_an_interrupt_that_cannot_keep_up() -> None:
    """2 ms each millisecond beside work of 50: it runs without a break, each second time it is due is left out."""
    loop = Loop((timed("work", 100 * MS, 50 * MS), timed("tick", MS, 2 * MS, INTERRUPT)))
    played = play(loop, 100 * MS)
    assert [ran.start_ns for ran in played.runs["tick"]] == [at * 2 * MS for at in range(50)]
    assert played.skipped["tick"] == 49  # due 100 times: 50 ran, and the last waits
    assert played.load == 1.0
    assert not played.runs["work"]


def test_a_closed_task_keeps_interrupts_waiting() -> None:
    """Work of 10 ms that lets nothing in, an interrupt each 4 ms from 0 on: 0–1 before it, then the one of 4 at 11,
    while that of 8 is lost, and that of 12 behind it in turn."""
    work = timed("work", 100 * MS, 10 * MS, closed=True)
    played = play(Loop((work, timed("tick", 4 * MS, MS, INTERRUPT))), 16 * MS)
    (ran,) = played.runs["work"]
    assert (ran.start_ns, ran.end_ns) == (MS, 11 * MS)
    assert [(each.due_ns // MS, each.start_ns // MS) for each in played.runs["tick"]] == [(0, 0), (4, 11), (12, 12)]
    assert played.skipped["tick"] == 1


def test_an_interrupt_stops_what_runs() -> None:
    """Work of 10 ms with an interrupt of 1 ms each 4 ms: it loses 0–1 before, then 4–5 and 8–9 and 12–13."""
    loop = Loop((timed("work", 100 * MS, 10 * MS), timed("tick", 4 * MS, MS, INTERRUPT)))
    played = play(loop, 20 * MS)
    (work,) = played.runs["work"]
    # 1–4, 5–8, 9–12 are nine milliseconds of work; the tenth is 13–14.
    assert (work.start_ns, work.end_ns) == (MS, 14 * MS)
    assert [ran.start_ns for ran in played.runs["tick"]] == [0, 4 * MS, 8 * MS, 12 * MS, 16 * MS]


def test_what_is_due_again_before_it_ran_is_skipped() -> None:
    """A drawing of 50 ms lets a reading each 10 ms through once, not five times."""
    loop = Loop((timed("draw", 100 * MS, 50 * MS, priority=9), timed("read", 10 * MS, MS)))
    played = play(loop, 100 * MS)
    # Due at 0, 10, 20, 30, 40, 50: at 50 one of them runs.
    assert played.runs["read"][0] == played.runs["read"][0].__class__(0, 50 * MS, 51 * MS)
    assert played.skipped["read"] == 5
    left_out = next(each for each in done_in_time(played) if each.name == "read, left out")
    assert left_out.note is not None
    assert "5 of 10 times" in left_out.note.text
    assert left_out.note.remedy is not None
    assert left_out.note.remedy == (
        "draw takes 50 ms at a time, longer than the 10 ms between two of these: run it in background"
    )


def test_background_takes_no_processor_but_its_bus() -> None:
    """Two users of a bus: one in background from 0 to 6, the other in the loop waits for it."""
    beside = timed("log", 50 * MS, 6 * MS, BACKGROUND, bus="two-wire bus")
    draw = timed("draw", 50 * MS, 4 * MS, bus="two-wire bus")
    played = play(Loop((beside, draw)), 50 * MS)
    assert (played.runs["log"][0].start_ns, played.runs["log"][0].end_ns) == (0, 6 * MS)
    assert (played.runs["draw"][0].start_ns, played.runs["draw"][0].end_ns) == (6 * MS, 10 * MS)
    assert played.bus_ns == {"two-wire bus": 10 * MS}
    assert played.busy == ((0, 10 * MS),)  # it waits for the bus and does nothing else


def test_background_that_cannot_keep_up() -> None:
    """30 ms each 10 ms: one run after the other, what is due before the last one began is left out."""
    played = play(Loop((timed("log", 10 * MS, 30 * MS, BACKGROUND),)), 100 * MS)
    assert [(ran.start_ns, ran.end_ns) for ran in played.runs["log"]] == [
        (0, 30 * MS),
        (30 * MS, 60 * MS),
        (60 * MS, 90 * MS),
        (90 * MS, 100 * MS),
    ]
    # Due at 0, 10 (begins at 30), 30 (at 60) and 60 (at 90); 20, 40, 50, 70, 80 are left out, 90 waits.
    assert played.skipped["log"] == 5


@pytest.mark.parametrize("runs", [LOOP, INTERRUPT, BACKGROUND])
def test_a_nanosecond_beside_half_an_hour(runs: str) -> None:
    """Absurd figures end soon: what is due a billion times a second beside what takes half an hour."""
    began = time.thread_time()
    loop = Loop((timed("work", 100 * MS, 1800 * S, bus="a bus"), timed("tick", 1, 1, runs, bus="a bus")))
    played = play(loop, 10 * S, 20_000)
    assert time.thread_time() - began < 2.0
    assert played.load <= 1.0


def test_what_has_no_period_runs_in_turn() -> None:
    """Two of 1 ms and 3 ms: each turn takes 4 ms."""
    played = play(Loop((timed("a", 0, MS), timed("b", 0, 3 * MS))), 40 * MS)
    assert len(played.runs["a"]) == len(played.runs["b"]) == 10
    assert played.load == 1.0


def test_a_loop_that_turns_too_fast_is_cut() -> None:
    """A nanosecond each turn would be a billion runs a second."""
    played = play(Loop((timed("spin", 0, 1),)), S, 5000)
    assert played.is_cut
    assert len(played.runs["spin"]) == 5000
    assert done_in_time(played)[1].figure == pytest.approx(5000 / S)  # a nanosecond each


tasks = st.builds(
    lambda place, period, takes, more, runs, priority, bus: Task(
        f"task {place}", WORK, period, takes, takes + more, runs, priority, bus
    ),
    st.integers(0, 10**9),
    st.integers(20, 500).map(lambda n: n * US),
    st.integers(0, 60).map(lambda n: n * US),
    st.integers(0, 40).map(lambda n: n * US),
    st.sampled_from((LOOP, INTERRUPT, BACKGROUND)),
    st.integers(1, 9),
    st.sampled_from(("", "", "a bus")),
)
loops = st.lists(tasks, min_size=1, max_size=6, unique_by=lambda task: task.name).map(lambda all_: Loop(tuple(all_)))


@settings(deadline=None, max_examples=150)
@given(loops, st.integers(1, 40).map(lambda n: n * 100 * US))
def test_what_always_holds(loop: Loop, length: int) -> None:
    """Time adds up, no two in the loop at once, each due moment is a run, a skip or still waits; loads at most 1."""
    played = play(loop, length)
    assert 0.0 <= played.load <= 1.0
    assert played.busy_ns == sum(end - start for start, end in played.busy)
    assert all(0.0 <= played.bus_load(bus) <= 1.0 for bus in played.bus_ns)
    for (_, first_end), (later_start, _) in itertools.pairwise(played.busy):
        assert first_end < later_start
    in_loop = sorted(
        (ran.start_ns, ran.end_ns) for task in loop.tasks if task.runs == LOOP for ran in played.runs[task.name]
    )
    assert all(end <= start for (_, end), (start, _) in itertools.pairwise(in_loop))
    for task in loop.tasks:
        runs = played.runs[task.name]
        # Each due moment ran, was skipped, or waits still: for the processor, or in background for its bus.
        due = -(-length // task.period_ns)
        came = len(runs) + played.skipped[task.name]
        assert came <= due
        # One waits for its turn; another may have had it, and waited for the bus until the end.
        assert came >= due - (2 if task.bus else 1) or (task.runs == BACKGROUND and task.bus)
        for ran in runs:
            assert 0 <= ran.due_ns <= ran.start_ns <= ran.end_ns <= length
            if task.runs != LOOP and ran.end_ns < length:
                assert task.shortest_ns <= ran.end_ns - ran.start_ns <= task.longest_ns
    processor = sum(
        ran.end_ns - ran.start_ns for task in loop.tasks if task.runs == INTERRUPT for ran in played.runs[task.name]
    )
    assert processor <= played.busy_ns


@settings(deadline=None, max_examples=40)
@given(loops)
def test_the_same_seed_plays_the_same(loop: Loop) -> None:
    """And another seed stays within the same bounds."""
    assert play(loop, 3 * MS) == play(loop, 3 * MS)
    longer = play(loop, 6 * MS)
    for name, runs in play(loop, 3 * MS).runs.items():
        whole = [ran for ran in runs if ran.end_ns < 3 * MS]
        assert list(longer.runs[name][: len(whole)]) == whole


@settings(deadline=None, max_examples=60)
@given(
    st.lists(st.tuples(st.sampled_from((10, 20, 25, 50, 100)), st.integers(1, 900)), min_size=1, max_size=6),
    st.sampled_from((LOOP, INTERRUPT)),
)
def test_the_load_is_the_sum_of_all_shares(tasks_: list[tuple[int, int]], runs: str) -> None:
    """Takes ÷ period, over all, where there is time for everything: here at most 54 %, and periods divide the
    length."""
    loop = Loop(
        tuple(timed(f"task {place}", period * MS, takes * US, runs) for place, (period, takes) in enumerate(tasks_))
    )
    played = play(loop, S)
    share = sum(Fraction(takes * US, period * MS) for period, takes in tasks_)
    assert Fraction(played.busy_ns, S) == share
    assert all(not skipped for skipped in played.skipped.values())


@settings(deadline=None, max_examples=60)
@given(st.integers(1, 8), st.integers(2, 80), st.integers(0, 10))
def test_a_scan_that_is_played_is_as_its_closed_form(digits: int, on: int, blanking: int) -> None:
    """Tenths of milliseconds: the slowest round of the play is what 1 ÷ (digits × (on + blanking)) says."""
    scan = Scan(on / 10, blanking / 10, 50.0)
    task = Task("scan stand", SCAN, (on + blanking) * 100 * US, 10 * US, 10 * US, INTERRUPT, 8, of="stand")
    runs = play(Loop((task,)), S).runs["scan stand"]
    found = {each.name: each for each in scan_verdicts("stand", scan, digits, 20.0, runs)}
    assert found["slowest round"].figure == pytest.approx(judge_scan(scan, digits).refresh_hz)
    assert found["digits uneven by"].figure == pytest.approx(0.0, abs=1e-9)


def test_durations_are_drawn_evenly() -> None:
    """From 1 to 3 ms: both ends come, the mean is near 2."""
    task = Task("work", WORK, 10 * MS, MS, 3 * MS)
    took = [ran.end_ns - ran.start_ns for ran in play(Loop((task,), seed=7), 20 * S).runs["work"]]
    assert len(took) == 2000
    assert min(took) < 1.01 * MS
    assert max(took) > 2.99 * MS
    # Standard error of the mean of an even spread of 2 ms over 2000 draws: 2 ÷ √12 ÷ √2000 = 0.013 ms.
    assert sum(took) / len(took) == pytest.approx(2 * MS, abs=0.065 * MS)


def _step_by_step(loop: Loop, length: int) -> tuple[dict[str, list[tuple[int, int]]], dict[str, int]]:
    """The same rules without an event: every nanosecond looked at. Tasks without a bus, of fixed time above nothing."""
    waiting: dict[str, int] = {}
    skipped = {task.name: 0 for task in loop.tasks}
    runs: dict[str, list[tuple[int, int]]] = {task.name: [] for task in loop.tasks}
    stack: list[list[Any]] = []  # what runs, with an interrupt above what it stopped: task, begin, left
    place = {task.name: index for index, task in enumerate(loop.tasks)}
    by_name = {task.name: task for task in loop.tasks}
    for now in range(length):
        for task in loop.tasks:
            if now % task.period_ns == 0:
                skipped[task.name] += task.name in waiting
                waiting.setdefault(task.name, now)
        if not stack or stack[-1][0].runs == LOOP:
            interrupts = [name for name in waiting if by_name[name].runs == INTERRUPT]
            ready = interrupts or ([] if stack else list(waiting))
            if ready:
                first = min(ready, key=lambda name: (-by_name[name].priority, place[name]))
                del waiting[first]
                stack.append([by_name[first], now, by_name[first].shortest_ns])
        if stack:
            stack[-1][2] -= 1
            if stack[-1][2] == 0:
                done, begun, _ = stack.pop()
                runs[done.name].append((begun, now + 1))
    for done, begun, _ in stack:
        runs[done.name].append((begun, length))
    return runs, skipped


simple = st.lists(
    st.tuples(st.integers(3, 60), st.integers(1, 25), st.sampled_from((LOOP, INTERRUPT)), st.integers(1, 3)),
    min_size=1,
    max_size=5,
)


@settings(deadline=None, max_examples=300)
@given(simple, st.integers(1, 400))
def test_a_play_is_what_happens_step_by_step(tasks_: list[tuple[int, int, str, int]], length: int) -> None:
    """Event by event or nanosecond by nanosecond: the same runs, the same left out."""
    loop = Loop(
        tuple(
            Task(f"task {place}", WORK, period, takes, takes, runs, priority)
            for place, (period, takes, runs, priority) in enumerate(tasks_)
        )
    )
    played = play(loop, length)
    runs, skipped = _step_by_step(loop, length)
    assert {name: [(ran.start_ns, ran.end_ns) for ran in each] for name, each in played.runs.items()} == runs
    assert played.skipped == skipped
