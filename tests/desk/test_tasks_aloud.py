"""Tasks as people say them, and values of the loop, held against what they become in the project."""

from __future__ import annotations

import random
import tomllib
from typing import Any

import pytest

from lesart.core.pace.task import SETTINGS
from lesart.core.quantity import parse_quantity
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.tasks import CALLED, setting_said, task_plainly
from lesart.study.project_loop import loop_of

SECOND = parse_unit("s")
IN_EACH_TURN = {"period": "0 ms", "does": "wait"}
SENDS = {"does": "send"}
SAID: list[tuple[str, str, dict[str, Any]]] = [
    ("log every 5 s takes 40 ms", "log", {"period": "5 s", "shortest": "40 ms"}),
    ("read sensor every 100 ms", "read sensor", {"period": "100 ms", "shortest": "1 ms"}),
    ("log to sd card every 10 s, takes 30 ms", "log to sd card", {"period": "10 s", "shortest": "30 ms"}),
    ("every second, log to the card for 30 ms", "log to the card", {"period": "1 s", "shortest": "30 ms"}),
    ("redraw 5 times a second, takes 20 ms", "redraw", {"period": "200 ms", "shortest": "20 ms"}),
    ("blink twice per second", "blink", {"period": "500 ms", "shortest": "1 ms"}),
    ("beep once a minute", "beep", {"period": "1 min"}),
    ("refresh 50 Hz", "refresh", {"period": "20 ms"}),
    ("refresh at 60 Hz takes 2 ms", "refresh", {"period": "16.6666667 ms", "shortest": "2 ms"}),
    ("sample at 1 kHz by interrupt, takes 5 µs", "sample", {"period": "1 ms", "shortest": "5 µs"}),
    ("task poll 5 ms every 1 s", "poll", {"period": "1 s", "shortest": "5 ms"}),
    ("poll every 20 ms, taking 1 to 3 ms", "poll", {"period": "20 ms", "shortest": "1 ms", "longest": "3 ms"}),
    ("poll every 20 s takes 300 ms to 2 s", "poll", {"period": "20 s", "shortest": "300 ms", "longest": "2 s"}),
    ("poll every 20 ms takes 1 ms at most 5 ms", "poll", {"shortest": "1 ms", "longest": "5 ms"}),
    ("write to flash once a minute, takes up to 50 ms", "write to flash", {"period": "1 min", "shortest": "50 ms"}),
    ("poll every day takes 2 seconds", "poll", {"period": "24 h", "shortest": "2 s"}),
    ("check the button every turn, takes 10 µs", "check the button", {"period": "0 ms", "shortest": "10 µs"}),
    ("poll the radio every 20 ms in the background", "poll the radio", {"runs": "in background"}),
    ("a timer interrupt every 1 ms takes 20 µs", "timer interrupt", {"period": "1 ms", "runs": "by interrupt"}),
    ("timer every 1 ms in an interrupt, takes 20 µs", "timer", {"shortest": "20 µs", "runs": "by interrupt"}),
    ("sound every 1 ms by DMA", "sound", {"period": "1 ms", "runs": "in background"}),
    ("delay 10 ms", "delay", {**IN_EACH_TURN, "shortest": "10 ms"}),
    ("wait 2 seconds", "wait", {**IN_EACH_TURN, "shortest": "2 s"}),
    ("delay 10 ms every 1 s", "delay", {"period": "1 s", "shortest": "10 ms", "does": "wait"}),
    ("wifi send every 10 minutes takes 3 s", "wifi send", {"period": "10 min", "shortest": "3 s"}),
    ("report every 1 s sends 32 bytes over two-wire bus", "report", {**SENDS, "data": 32, "bus": "two-wire bus"}),
    (
        "report every second, 32 bytes over I2C at 400 kHz",
        "report",
        {**SENDS, "data": 32, "bus": "two-wire bus", "clock": "400 kHz", "period": "1 s"},
    ),
    (
        "report 64 bytes over SPI at 1 MHz every 250 ms",
        "report",
        {**SENDS, "data": 64, "bus": "four-wire bus", "clock": "1 MHz", "period": "250 ms"},
    ),
    (
        "report every 5 min, 96 bytes over serial at 9600 baud",  # ten bits a byte: 960 bits at 9600 a second
        "report",
        {**SENDS, "data": 96, "bus": "serial line", "shortest": "100 ms", "period": "5 min"},
    ),
]


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.PACE)
    return hut


def loop_in(desk: Desk) -> dict[str, Any]:
    found: dict[str, Any] = tomllib.loads(desk.state.history.text).get("loop", {})
    return found


@pytest.mark.parametrize(("line", "name", "wanted"), SAID, ids=[line for line, _, _ in SAID])
def test_a_task_is_what_was_said(line: str, name: str, wanted: dict[str, Any], desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    tasks = loop_in(desk)["tasks"]
    assert list(tasks) == [name]
    assert {key: tasks[name].get(key) for key in wanted} == wanted


@pytest.mark.parametrize(
    ("line", "named"),
    [
        ("i2c at 100 kHz", '"100 kHz"'),
        ("sleep 5 minutes", '"5 minutes"'),
        ("timer of 1 ms", '"1 ms"'),
        ("wifi every 10 minutes for 3 s at 80 mA", '"at 80 mA"'),
        ("log 3.3 V", '"3.3 V"'),
        ("log every 5 s evry 3 s", '"evry"'),
        ("every 5 s takes 40 ms", "needs a name"),
    ],
)
def test_a_figure_that_says_nothing_of_a_task_is_named(line: str, named: str, desk: Desk) -> None:
    """It would be a task of the usual times by that name."""
    desk.add(line)
    assert desk.state.message_is_fault
    assert named in desk.state.message
    assert loop_in(desk) == {}


@pytest.mark.parametrize(
    ("line", "key", "value"),
    [
        ("battery 2000 mAh", "capacity", "2000 mAh"),
        ("a battery of 2 Ah", "capacity", "2 Ah"),
        ("deep sleep 10 uA", "idle", "10 uA"),
        ("awake = 40 mA", "active", "40 mA"),
        ("the backlight draws 20 mA", "shown", "20 mA"),
        ("clock 8 MHz", "clock", "8 MHz"),
        ("most lag 1 s", "most_lag", "1 s"),
        ("usable 80 %", "usable", "80 %"),
    ],
)
def test_a_value_of_the_loop_is_set(line: str, key: str, value: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert loop_in(desk) == {key: value}


def test_every_value_with_a_unit_can_be_said() -> None:
    for setting in SETTINGS:
        if setting.kind == "quantity" and setting.unit != "1":
            assert setting_said(f"{setting.title} 7 {setting.unit}") == (setting.name, f"7 {setting.unit}")
    assert set(CALLED.values()) <= {each.name for each in SETTINGS}


def test_a_value_that_cannot_be_is_refused(desk: Desk) -> None:
    desk.add("usable 180 %")
    assert desk.state.message_is_fault
    assert 'usable = "180 %"' in desk.state.message
    assert loop_in(desk) == {}


def test_a_task_that_there_is_takes_what_is_said(desk: Desk) -> None:
    """And keeps the rest; it is done again where it was left out."""
    before = next(task for task in loop_of(desk.state.project, desk.bench).tasks if task.name == "draw door")
    desk.add("draw door every 500 ms")
    assert loop_in(desk) == {"tasks": {"draw door": {"period": "500 ms"}}}
    desk.edit(("loop", "tasks", "draw door", "off"), "yes")
    assert all(task.name != "draw door" for task in loop_of(desk.state.project, desk.bench).tasks)
    desk.add("draw door every 700 ms")
    assert desk.state.message == "draw door: every 700 ms"
    after = next(task for task in loop_of(desk.state.project, desk.bench).tasks if task.name == "draw door")
    assert after.period_ns == 700_000_000
    assert (after.shortest_ns, after.bus) == (before.shortest_ns, before.bus)
    desk.add("draw door")
    assert desk.state.message_is_fault


def test_the_message_says_what_was_not_said_too(desk: Desk) -> None:
    desk.add("beep every 2 s")
    assert desk.state.message == "added: beep, every 2 s, takes 1 ms"
    desk.add("delay 3 ms")
    assert desk.state.message == "added: delay, in each turn of the loop, takes 3 ms"


def test_times_by_chance_are_the_times_that_were_said() -> None:
    """Every spelling of a time, in both places, against its unit's seconds."""
    chance = random.Random(26)
    seconds = {"µs": 1e-6, "us": 1e-6, "ms": 1e-3, "milliseconds": 1e-3, "s": 1.0, "sec": 1.0, "seconds": 1.0}
    seconds |= {"min": 60.0, "minutes": 60.0, "h": 3600.0, "hours": 3600.0}
    each = {"second": 1.0, "minute": 60.0, "hour": 3600.0}
    for _ in range(300):
        unit, number, often = (
            chance.choice(list(seconds)),
            chance.choice([1, 2, 7, 12, 45, 0.5, 2.5]),
            chance.choice(list(each)),
        )
        for line, wanted_s in (
            (f"log every {number} {unit}", number * seconds[unit]),
            (f"log {number} times a {often}", each[often] / number),
        ):
            said = task_plainly(line)
            assert said.startswith("log every "), said
            period_s = parse_quantity(said.removeprefix("log every "), SECOND).to(SECOND)
            assert period_s == pytest.approx(wanted_s), (line, said)
        taken = task_plainly(f"log every 9 h for {number} {unit}").partition(" takes ")[2]
        assert parse_quantity(taken, SECOND).to(SECOND) == pytest.approx(number * seconds[unit]), taken
