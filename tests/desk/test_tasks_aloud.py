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
from lesart.desk.entries.pace.tasks import HOW
from lesart.study.project_loop import loop_of

SECOND = parse_unit("s")
IN_EACH_TURN = {"period": "0 ms", "does": "wait"}
SENDS = {"does": "send"}
SAID: list[tuple[str, str, dict[str, Any]]] = [
    ("log every 5 s takes 40 ms", "log", {"period": "5 s", "shortest": "40 ms"}),
    ("read sensor every 100 ms", "read log", {"period": "100 ms"}),
    ("sample rate 50 Hz", "read log", {"period": "20 ms"}),
    ("reading the probe takes 94 ms", "read log", {"shortest": "94 ms"}),
    ("sensor takes 750 ms to convert", "read log", {"shortest": "750 ms"}),
    ("conversion takes 94 ms", "read log", {"shortest": "94 ms"}),
    ("adc conversion 100 us", "read log", {"shortest": "100 us"}),
    ("the sensor needs 2 s for a reading", "read log", {"shortest": "2 s"}),
    ("the display needs 20 ms to redraw", "draw door", {"shortest": "20 ms"}),
    ("blocking delay of 1 s", "delay", {**IN_EACH_TURN, "shortest": "1 s"}),
    # 40 bytes of ten bits at 9600 bits a second.
    (
        "send over serial every second at 9600 baud, 40 bytes",
        "send",
        {**SENDS, "data": 40, "period": "1 s", "shortest": "41.6666667 ms"},
    ),
    (
        "send over serial 115200 every second 40 bytes",
        "send",
        {**SENDS, "data": 40, "period": "1 s", "shortest": "3.47222222 ms"},
    ),
    (
        "poll the node every 100 ms at 9600 baud 24 bytes",
        "poll the node",
        {**SENDS, "data": 24, "period": "100 ms", "shortest": "25 ms"},
    ),
    # 50 and 40 of ten bits each.
    (
        "serial print 50 chars at 115200 every 20 ms",
        "print",
        {**SENDS, "data": 50, "period": "20 ms", "shortest": "4.34027778 ms"},
    ),
    (
        "print to serial every 100 ms at 9600 baud, 40 characters",
        "print",
        {**SENDS, "data": 40, "period": "100 ms", "shortest": "41.6666667 ms"},
    ),
    ("sample rate 200 sps", "read log", {"period": "5 ms"}),
    ("read sensor 20 samples per second", "read log", {"period": "50 ms"}),
    ("read sensor every half second", "read log", {"period": "500 ms"}),
    ("log every other second, 35 ms each", "log", {"period": "2 s", "shortest": "35 ms"}),
    ("log every 5 s takes 40 ms worst 250 ms", "log", {"period": "5 s", "shortest": "40 ms", "longest": "250 ms"}),
    ("update the display in background", "draw door", {"runs": "in background"}),
    ("the door refresh takes 12 ms", "draw door", {"shortest": "12 ms"}),
    ("draw door priority 8", "draw door", {"priority": 8}),
    ("count every 20 ms priority high", "count", {"period": "20 ms", "priority": 8}),
    ("delay(100);", "delay", {**IN_EACH_TURN, "shortest": "100 ms"}),
    ("gps at 1 Hz sends 480 bytes over serial at 9600", "gps", {**SENDS, "data": 480, "shortest": "500 ms"}),
    ("20 bytes over I2C every second", "send", {**SENDS, "data": 20, "bus": "two-wire bus", "period": "1 s"}),
    ("a button interrupt 20 us every 2 s", "button interrupt", {"shortest": "20 us", "runs": "by interrupt"}),
    ("log to sd card every 10 s, takes 30 ms", "log to sd card", {"period": "10 s", "shortest": "30 ms"}),
    ("every second, log to the card for 30 ms", "log to the card", {"period": "1 s", "shortest": "30 ms"}),
    ("redraw 5 times a second, takes 20 ms", "draw door", {"period": "200 ms", "shortest": "20 ms"}),
    ("blink twice per second", "blink", {"period": "500 ms", "shortest": "1 ms"}),
    ("beep once a minute", "beep", {"period": "1 min"}),
    ("refresh at 60 Hz takes 2 ms", "draw door", {"period": "16.6666667 ms", "shortest": "2 ms"}),
    ("sample at 1 kHz by interrupt, takes 5 µs", "read log", {"period": "1 ms", "shortest": "5 µs"}),
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
    ("loop delay 100 ms", "delay", {**IN_EACH_TURN, "shortest": "100 ms"}),
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
        ("timer of 1 ms", '"1 ms"'),
        ("wifi every 10 minutes for 3 s at 80 mA", '"at 80 mA"'),
        ("log 3.3 V", '"3.3 V"'),
        ("log every 5 s evry 3 s", '"evry"'),
        ("every 5 s takes 40 ms", "needs a name"),
        ("count every 20 ms priority 12", '"priority 12"'),
    ],
)
def test_a_figure_that_says_nothing_of_a_task_is_named(line: str, named: str, desk: Desk) -> None:
    """It would be a task of the usual times by that name."""
    desk.add(line)
    assert desk.state.message_is_fault
    assert named in desk.state.message
    assert loop_in(desk) == {}


SLEEP = "the processor is idle whenever no task is due and wakes when one is; sleep 10 µA says what it draws meanwhile"
TURNS = "the loop turns as fast as its tasks let it; delay 10 ms makes it wait in each turn"
HELD = "say what it holds, like battery 2000 mAh; the figures then say how long it lasts"
LASTS = "how long a battery lasts is one of the figures; battery 2000 mAh says what it holds"
ALONE = (
    "what a single task draws is not counted by itself: awake 40 mA is while the processor works, and other parts 20 mA "
    "all else"
)
BESIDE = "for what runs beside the loop type it so, like draw door in background"
LATE = "a task has no limit of its own; most lag 2 s limits how late a reading is shown"
BAUD = (
    "the baud rate of a line is one of its values in 2 Raw; a task that sends has its own, like debug every 1 s "
    "sends 40 bytes over serial at 9600"
)
CHANGED = (
    "the figures of a display have both its bytes a drawing and those of only what changes; its task, like draw door takes "
    "5 ms, says what yours needs"
)
NO_TASKS: list[tuple[str, str]] = [
    ("run in background", "say what does, like draw door in background"),
    ("jitter", "the figures show how late a task comes; a higher priority helps"),
    (
        "run.vcd",
        "a trace of what the firmware does belongs on the leaf trace: l turns to it, and + there takes its file",
    ),
    (
        "too slow",
        "each task shows its share of the time, and the figures how late a reading is; y with late asks why",
    ),
    *((line, SLEEP) for line in ("deep sleep", "sleep for 5 minutes", "wake every 10 min", "idle", "sleep 5 minutes")),
    ("averaging 16 samples", "a filter belongs in 5 Calm, where + takes a line like moving average of 16"),
    ("camera 30 fps", "bands on a camera follow from its shutter; camera 20 ms says it"),
    *((line, LASTS) for line in ("runs for a year", "should last 6 months", "lasts 12 hours")),
    *((line, ALONE) for line in ("consumes 80 mA while sending", "current 120 mA during wifi")),
    *((line, TURNS) for line in ("loop every 10 ms", "loop time 50 ms", "the main loop every second")),
    *((line, HELD) for line in ("battery for a year", "runs on 2 AA", "two AA cells")),
    *((line, BESIDE) for line in ("dma", "use DMA for the display", "rtos", "two tasks", "core 1")),
    *((line, LATE) for line in ("deadline 100 ms", "budget 20 ms", "watchdog 2 s")),
    *((line, BAUD) for line in ("baud 9600", "9600 baud", "115200", "serial 9600 8N1")),
    *((line, CHANGED) for line in ("draw only what changed", "only send changes", "full redraw", "redraw everything")),
]


@pytest.mark.parametrize(("line", "says"), NO_TASKS, ids=[line for line, _ in NO_TASKS])
def test_what_is_no_task_is_told_where_it_is_said(line: str, says: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.message == f'"{line}": {says}.'
    assert loop_in(desk) == {}


@pytest.mark.parametrize(
    ("line", "asks", "then"),
    [
        ("timer 1 kHz", '"timer" every 1 ms: how long does it take?', "timer every 1 ms takes 20 µs"),
        (
            "print debug every loop",
            '"print debug" every turn: how long does it take?',
            "print debug every turn takes 20 µs",
        ),
        ("radio takes 750 ms", '"radio": how often?', "radio every 10 s takes 750 ms"),
        (
            "button interrupt 20 us",
            '"button interrupt": how often?',
            "button interrupt every 1 s takes 20 us by interrupt",
        ),
        ("buffer 64 bytes", '"buffer": how often?', "buffer every 1 s sends 64 bytes"),
    ],
)
def test_a_time_that_would_be_a_guess_is_asked_for(line: str, asks: str, then: str, desk: Desk) -> None:
    """What is proposed is taken as it stands, but for bytes: of those it is asked what they go over."""
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.message == f"{asks} Write it like {then}."
    assert loop_in(desk) == {}
    desk.add(then)
    if "sends" in then:
        over = "buffer every 1 s sends 64 bytes over serial at 9600"
        assert desk.state.message == (
            f'"buffer": how long 64 bytes take is not known; write it like {over}, or say takes 5 ms.'
        )
        desk.add(over)
    assert not desk.state.message_is_fault, desk.state.message
    assert len(loop_in(desk)["tasks"]) == 1


@pytest.mark.parametrize("line", ["yield", "tearing", "queue of 8", "log"])
def test_a_name_alone_is_no_task(line: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message == f'"{line}" says neither how often nor how long; a task is written as {HOW}.'
    assert loop_in(desk) == {}


@pytest.mark.parametrize(
    ("line", "rate"),
    [
        ("refresh 50 Hz", "50 Hz"),
        ("60 fps", "60 Hz"),
        ("frame rate 30", "30 Hz"),
        ("update the screen every 250 ms", "4 Hz"),
    ],
)
def test_how_often_a_display_is_drawn_is_a_value_of_its_faces(line: str, rate: str, desk: Desk) -> None:
    """Its task follows, and the limit of its figure too."""
    desk.add(line)
    assert desk.state.message == f"door: drawn at {rate}"
    faces = tomllib.loads(desk.state.history.text)["faces"]
    assert {face["redraw"] for face in faces.values() if face["panel"] == "door"} == {rate}
    drawn = next(task for task in loop_of(desk.state.project, desk.bench).tasks if task.name == "draw door")
    assert drawn.period_ns == pytest.approx(1e9 / float(rate.removesuffix(" Hz")), abs=1)
    assert loop_in(desk) == {}


@pytest.mark.parametrize(
    ("line", "key", "value"),
    [
        ("battery 2000 mAh", "capacity", "2000 mAh"),
        ("lag at most 500 ms", "most_lag", "500 ms"),
        ("latency under 1 s", "most_lag", "1 s"),
        ("display should follow within 1 s", "most_lag", "1 s"),
        ("active current 80 mA", "active", "80 mA"),
        ("sleep current 10 uA", "idle", "10 uA"),
        ("a battery of 2 Ah", "capacity", "2 Ah"),
        ("deep sleep 10 uA", "idle", "10 uA"),
        ("awake = 40 mA", "active", "40 mA"),
        ("the backlight draws 20 mA", "shown", "20 mA"),
        ("clock 8 MHz", "clock", "8 MHz"),
        ("most lag 1 s", "most_lag", "1 s"),
        ("usable 80 %", "usable", "80 %"),
        ("latency 500 ms", "most_lag", "500 ms"),
        ("must react within 100 ms", "most_lag", "100 ms"),
        ("mcu at 240 MHz", "clock", "240 MHz"),
        ("battery 2x AA 2500 mAh", "capacity", "2500 mAh"),
        ("18650 3000 mAh", "capacity", "3000 mAh"),
        ("camera shutter 1/60", "shutter", "16.67 ms"),
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


def test_a_value_that_it_has_already_is_told(desk: Desk) -> None:
    desk.add("clock 8 MHz")
    desk.add("cpu 8 MHz")
    assert desk.state.message_is_fault
    assert desk.state.message == "clock is 8 MHz already."


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
