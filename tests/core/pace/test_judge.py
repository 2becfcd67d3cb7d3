"""A loop judged: what its figures and notes say of what was played."""

from __future__ import annotations

import re
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest

from lesart.core.pace.freshness import Reach, ShownTimes, freshness, shown_times
from lesart.core.pace.jitter import punctual
from lesart.core.pace.judge import buses, counts, done_in_time, drawings, energy, reads
from lesart.core.pace.limits import Limits
from lesart.core.pace.play import play
from lesart.core.pace.pulses import missed
from lesart.core.pace.task import BACKGROUND, COUNT, DRAW, INTERRUPT, READ, WORK, Loop, Task
from tests.core.pace.tasks import MS, US, S, timed


def test_more_than_there_is_time_for() -> None:
    """An interrupt of 2 ms each millisecond: 200 % wanted; who never runs says who takes the time."""
    loop = Loop((timed("read", 100 * MS, MS), timed("tick", MS, 2 * MS, INTERRUPT)))
    load, read, tick = done_in_time(play(loop, S))
    assert load.figure == pytest.approx(201.0)
    assert load.note is not None
    assert "all tasks together take 201 % of the time there is; tick alone takes 200 %" in load.note.text
    assert read.note is not None
    assert read.note.remedy == "tick takes 100 % of the time: do that less often, or in background"
    assert tick.note is not None
    assert tick.note.remedy == "do it less often; it takes 100 % of the time"


def test_pulses_lost_to_a_closed_task_are_told() -> None:
    """Counted by interrupt each 2 ms beside 5 ms that let none in, each 100 ms."""
    send = timed("send", 100 * MS, 5 * MS, closed=True)
    count = timed("count", 2 * MS, 10 * US, INTERRUPT, does=COUNT)
    (verdict,) = counts(play(Loop((send, count)), S), {})
    # From 0.01 ms to 5.01 ms: those of 2 and 4 are due, one of them runs; ten times.
    assert verdict.figure == pytest.approx(100 * 10 / 500)
    assert verdict.note is not None
    assert verdict.note.text == (
        "count: 10 of 500 pulses are missed; they come while send lets no interrupt in, for up to 5 ms."
    )
    beside = replace(send, runs=BACKGROUND)
    assert [each.figure for each in counts(play(Loop((beside, count)), S), {})] == [0.0]


def test_what_takes_most_of_the_time_is_to_be_done_less_often() -> None:
    """8 of each 10 ms, and a reading of 3 ms each 10 ms that does not fit in."""
    loop = Loop((timed("draw", 10 * MS, 8 * MS, priority=9), timed("read", 10 * MS, 3 * MS)))
    left_out = next(each for each in done_in_time(play(loop, 1000 * MS)) if each.name == "read, left out")
    assert left_out.note is not None
    assert re.fullmatch(
        r"draw takes (7\d|80) % of the time: do that less often, or in background", left_out.note.remedy or ""
    )


def test_from_sensor_to_glass() -> None:
    """Read at 0 for 1 ms, converted for 2, drawn for 4, each 100 ms: 7 ms late, and 107 old before the next."""
    loop = Loop(
        (
            Task("read", READ, 100 * MS, MS, MS, priority=7),
            timed("convert", 100 * MS, 2 * MS, priority=6),
            Task("draw", DRAW, 100 * MS, 4 * MS, 4 * MS, priority=4),
        )
    )
    played = play(loop, S)
    reach = Reach("mass", "door", "read", "convert", "draw", 0.5, 0.05, 1.0)
    assert shown_times(played, reach) == ShownTimes(7 * MS, 107 * MS)
    late, oldest, old, alarm = freshness(played, reach, Limits(most_lag_s=0.4))
    assert oldest.figure == pytest.approx(607.0)
    assert oldest.limit is None
    assert late.figure == pytest.approx(507.0)
    assert late.note is not None
    assert "most of it by its filters" in late.note.text
    # 400 ms are wanted and 7 pass otherwise: filters may take 393.
    assert late.note.remedy == "filters that lag by 0.39 s at most"
    assert old.figure == pytest.approx(0.107)
    assert not old.ok
    assert alarm.figure == pytest.approx(1607.0)


def test_readings_too_early() -> None:
    """A sensor that needs 2 s and is read each second says so, with the period that mends it."""
    loop = Loop((Task("read node", READ, S, MS, MS, wanted_s=2.0),))
    (verdict,) = reads(play(loop, 10 * S))
    assert verdict.figure == pytest.approx(1.0)
    assert not verdict.ok
    assert verdict.note is not None
    assert verdict.note.mend[0].key == ("loop", "tasks", "read node", "period")
    (well,) = reads(play(Loop((replace(loop.tasks[0], period_ns=2 * S),)), 10 * S))
    assert well.ok
    assert well.note is None


def test_a_bus_that_is_used_too_much() -> None:
    """Drawing takes 160 of 200 ms, reading 2 of 100: 82 %. The proposed period brings it to 60 % or less."""
    draw = Task("draw lid", DRAW, 200 * MS, 160 * MS, 160 * MS, bus="two-wire bus", of="lid")
    read = Task("read", READ, 100 * MS, 2 * MS, 2 * MS, bus="two-wire bus", priority=7)
    verdict, left = buses(play(Loop((draw, read)), 10 * S), Limits(most_bus=0.6))
    assert left.figure == pytest.approx(20.0)  # 160 of 200 ms are drawn
    assert verdict.figure == pytest.approx(82.0, abs=0.5)
    assert verdict.note is not None
    assert verdict.note.mend[0].value == "280 ms"
    assert verdict.note.text == "two-wire bus: in use 82 % of the time, draw lid alone 80 %."
    # 82 % into the 60 % that are allowed: a clock 1.37 times as fast.
    assert verdict.note.remedy == "draw lid every 280 ms and not every 200 ms, or a clock 1.4 times as fast"
    assert Fraction(160, 280) + Fraction(2, 100) <= Fraction(60, 100) < Fraction(160, 270) + Fraction(2, 100)
    well = replace(draw, period_ns=280 * MS)
    assert buses(play(Loop((well, read)), 10 * S), Limits(most_bus=0.6))[0].note is None
    (most,) = drawings(play(Loop((draw,)), S), {"lid": 5.0})
    assert most.figure == pytest.approx(6.25)
    assert most.ok


def test_each_bus_has_its_own_load() -> None:
    """What is drawn on one leaves the other one free, whichever name comes first."""
    lid = Task("draw lid", DRAW, 200 * MS, 40 * MS, 40 * MS, bus="two-wire bus", of="lid")
    mast = Task("draw mast", DRAW, 200 * MS, 100 * MS, 100 * MS, bus="four-wire bus", of="mast")
    found = {each.name: each.figure for each in buses(play(Loop((lid, mast)), 10 * S), Limits())}
    assert found["two-wire bus left for sensors"] == pytest.approx(80.0)
    assert found["four-wire bus left for sensors"] == pytest.approx(50.0)


def test_a_battery() -> None:
    """Half of the time at 20 mA, half at 4, displays 8: 20 mA, so 1000 mAh last 50 h."""
    played = play(Loop((timed("work", 10 * MS, 5 * MS),)), S)
    mean, awake, waiting, displays, lasts = energy(
        played, Limits(active_ma=20, idle_ma=4, shown_ma=8, capacity_mah=1000)
    )
    assert (mean.figure, lasts.figure) == (pytest.approx(20.0), pytest.approx(50.0))
    assert (awake.figure, waiting.figure, displays.figure) == (pytest.approx(10.0), pytest.approx(2.0), 8.0)


def test_how_punctual_a_task_is() -> None:
    """Reading each 10 ms; each fifth time a drawing of 4 ms is in the way: it waits 4 ms then, and 0 else."""
    loop = Loop((timed("draw", 50 * MS, 4 * MS, priority=9), timed("read", 10 * MS, MS)))
    found = punctual(play(loop, S), "read")
    assert found.rate_hz == pytest.approx(100.0)
    assert found.worst_wait_ms == pytest.approx(4.0)
    assert found.mean_wait_ms == pytest.approx(0.8)
    # From start to start 6, 10, 10, 10, 14 ms: a variance of 32 ÷ 5, but for the one that is cut at the end.
    assert found.jitter_ms == pytest.approx((32 / 5) ** 0.5, rel=0.02)
    assert found.share == pytest.approx(0.1)
    assert found.skipped == 0


@pytest.mark.parametrize(("redraw_ms", "after_ms"), [(5000, 4), (1000, 1004), (200, 204), (50, 54)])
def test_drawing_more_often_shows_a_reading_sooner(redraw_ms: int, after_ms: int) -> None:
    """Read every 5 s; a new reading waits for the next drawing at most. What stands there grows 5 s old however often it
    is drawn, and one drawing more."""
    loop = Loop(
        (
            Task("read", READ, 5 * S, MS, MS, priority=7),
            timed("convert", 5 * S, MS, priority=6),
            Task("draw", DRAW, redraw_ms * MS, 2 * MS, 2 * MS, priority=4),
        )
    )
    found = shown_times(play(loop, 60 * S), Reach("air", "lid", "read", "convert", "draw", 0.0, 100.0))
    assert found is not None
    # A drawing that is due with the reading is done right behind it; else one period and its own time pass at most.
    assert found.after_ns <= after_ms * MS
    assert 5 * S < found.oldest_ns <= (5000 + redraw_ms + 4) * MS


def test_a_task_in_each_turn_hides_no_pulse() -> None:
    """A turn of 16 µs looks at the pin as often: pulses of 20 ms are all seen, and some of 10 µs are not. A task of 50 ms
    hides what comes and goes meanwhile."""
    turning = Loop((Task("shift out", WORK, 0, 16_000, 16_000), Task("log", WORK, S, 50 * MS, 50 * MS)))
    played = play(turning, 2 * S, 1_000_000)
    rise = np.arange(100 * MS, 900 * MS, 40 * MS)
    assert not missed(rise, rise + 20 * MS, played.busy).any()
    short = np.arange(100 * MS, 900 * MS, 7_777_777)
    lost = missed(short, short + 10_000, played.busy)
    assert 0 < lost.sum() < len(lost)
    during = np.array([S + 10 * MS])
    assert missed(during, during + 20 * MS, played.busy).all()


def test_a_bus_that_nobody_uses_is_free() -> None:
    """No share of it, nor of any in a loop that was not played at all."""
    assert play(Loop((timed("a", MS, US, bus="a bus"),)), S).bus_load("another") == 0.0
    assert play(Loop((timed("a", MS, US, bus="a bus"),)), S).bus_load("a bus") == pytest.approx(1e-3)
