"""Totals and changes as people say them, held against the laws that they become."""

from __future__ import annotations

import re
import tomllib
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.fit.field import Reading
from lesart.core.fit.fill import fill
from lesart.core.law import KINDS
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.deeds.why import ask_why
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.over_time import over_time_plainly
from lesart.desk.opening import open_desk
from lesart.desk.picture import look
from lesart.project.new.make import make_project

TIPS, CURRENT, METER = "tips", "current [mA]", "meter"


@pytest.fixture
def mast(tmp_path: Path) -> Desk:
    """Three days of a mast, a row every ten minutes: tips since the last, a current, and a counter of 16 bits."""
    random, meter = np.random.default_rng(5), 65_400
    rows = [f"time [min],{TIPS},{CURRENT},{METER}"]
    for place in range(432):
        tips = int(random.integers(0, 4)) if 100 < place < 160 else 0
        meter = (meter + int(random.integers(0, 9))) % 65_536
        rows.append(f"{10 * place},{tips},{120 + 5 * random.random():.1f},{meter}")
    (tmp_path / "mast.csv").write_text("\n".join(rows) + "\n")
    make_project(tmp_path / "mast.csv", tmp_path / "mast")
    desk = open_desk(tmp_path / "mast")
    desk.open_step(Step.LAW)
    return desk


def laws(desk: Desk) -> list[dict[str, Any]]:
    """Of the chosen channel, as the project file says them."""
    table = tomllib.loads(desk.state.history.text)["channels"][desk.state.chosen.name]
    return list(table.get("law", []))


def notes(desk: Desk) -> set[str]:
    """Faults and doubts of the chosen channel behind Raw, where a counter that comes round is told before it is one."""
    found = (note for note in desk.notes if note.channel == desk.state.chosen.name and note.step is not Step.RAW)
    return {note.text for note in found if note.mark in "†‡"}


SAID: list[tuple[str, str, dict[str, Any]]] = [
    (CURRENT, "total", {"kind": "total over time", "begin": "0 mAh"}),
    (CURRENT, "a total in Ah", {"kind": "total over time", "begin": "0 Ah"}),
    (CURRENT, "add it up to Ah per day", {"kind": "total over time", "begin": "0 Ah", "every": "24 h"}),
    (CURRENT, "charge in milliamp hours", {"kind": "total over time", "begin": "0 mAh"}),
    (CURRENT, "mAh", {"kind": "total over time", "begin": "0 mAh"}),
    (CURRENT, "integrate it", {"kind": "total over time", "begin": "0 mAh"}),
    (CURRENT, "total over time Ah, every = 12 h", {"kind": "total over time", "begin": "0 Ah", "every": "12 h"}),
    (TIPS, "add up", {"kind": "sum", "begin": "0 ct", "every": "0 s"}),
    (TIPS, "Daily total", {"kind": "sum", "every": "24 h"}),
    (TIPS, "sum of all tips per hour", {"kind": "sum", "every": "1 h"}),
    (TIPS, "running total, reset every 12 h", {"kind": "sum", "every": "12 h"}),
    (TIPS, "rainfall per week", {"kind": "sum", "every": "168 h"}),
    (METER, "add up", {"kind": "counter rise", "full": "65536"}),
    (METER, "a 16 bit counter", {"kind": "counter rise", "full": "65536"}),
    (METER, "a running counter that wraps at 65535", {"kind": "counter rise", "full": "65536"}),
    (METER, "what it has counted", {"kind": "counter rise", "full": "65536"}),
    (METER, "since the start", {"kind": "counter rise"}),
    (METER, "counts per second", {"kind": "change over time", "per": "1/s"}),
    (METER, "counter to rate per minute over 1 h", {"kind": "change over time", "per": "1/min", "over": "1 h"}),
    (CURRENT, "rate of change per hour over 3 h", {"kind": "change over time", "per": "1/h", "over": "3 h"}),
    (CURRENT, "how fast it rises", {"kind": "change over time", "unit": "mA"}),
]


@pytest.mark.parametrize(("channel", "line", "says"), SAID)
def test_what_is_said_becomes_its_law(mast: Desk, channel: str, line: str, says: dict[str, Any]) -> None:
    """And what comes of it is a reading within its range."""
    mast.choose_channel(channel)
    mast.add(line)
    assert not mast.state.message_is_fault, mast.state.message
    (law,) = laws(mast)
    assert {name: law[name] for name in says} == says
    chosen = mast.state.project.channels[channel]
    calm = mast.bench.run(mast.state.project, chosen).calm
    good = calm.x[calm.usable]
    assert len(good) > 400
    assert chosen.lowest <= good.min() <= good.max() <= chosen.highest
    assert not notes(mast)


def test_the_whole_rain_of_three_days(mast: Desk) -> None:
    """By a plain sum of what the file says, in millimetres."""
    mast.choose_channel(TIPS)
    mast.add("linear mm, slope = 0.2 mm/ct")
    mast.add("total")
    rows = (mast.folder / "captures" / "mast.csv").read_text().splitlines()[1:]
    tips = [int(row.split(",")[1]) for row in rows]
    calm = mast.bench.run(mast.state.project, mast.state.project.channels[TIPS]).calm
    assert float(calm.x[-1]) == pytest.approx(0.2 * sum(tips))
    assert str(mast.state.project.channels[TIPS].unit) == "mm"
    # A tip is one of many: tenths are no finer than what is counted.
    assert mast.state.chosen.field.decimals == 1
    assert not notes(mast)


TIPS_A_MINUTE = "what comes in is not a running counter; add up makes one of it, and change over time, per = 1/min is taken after that."
REFUSED = [
    ("total in kg", "the laws end in mA, which adds up to mAh over time, or to mA one a sample, not to kg."),
    ("total in blips", '"blips" is not a unit; mA adds up to mAh.'),
    ("total since midnight", None),
    ("rain since midnight", None),
    ("total per month", "not every month is as long; type every = 30 d, or never with 0 s."),
    ("clicks per minute", TIPS_A_MINUTE),
    ("a 64 bit counter", "counters here have up to 53 bits."),
]
MIDNIGHT = "say how long it is from the first sample to midnight, like sum, every = 24 h, first = 9 h."


@pytest.mark.parametrize(("line", "why"), REFUSED)
def test_what_cannot_be_is_said_with_what_would_do(mast: Desk, line: str, why: str | None) -> None:
    """Nothing is changed."""
    mast.choose_channel(CURRENT)
    mast.add(line)
    assert mast.state.message_is_fault
    assert mast.state.message == f'"{line}": {why or MIDNIGHT}'
    assert not laws(mast)


def test_the_name_of_a_law_is_that_law() -> None:
    """And so is a name with values; nothing of the capture is looked at."""

    def never() -> Any:
        raise AssertionError("nobody has to look")

    for name in KINDS:
        for line in (name, f"{name} V", f"{name}, unit = V"):
            assert over_time_plainly(line, parse_unit("mA"), never) == line


def said_in_law(desk: Desk) -> str:
    """All that stands in 3 Law, and the thread's word on it."""
    picture = look(desk)
    lines = ["".join(span.text for span in line) for line in picture.workspace.lines]
    law = next(step for step in picture.thread if step.step is Step.LAW)
    return "\n".join([*lines, law.detail])


def test_what_is_said_of_a_total_is_no_slope(mast: Desk) -> None:
    """One value does not say what all before it came to; by hand it lasts a whole period."""
    mast.choose_channel(CURRENT)
    mast.add("total in Ah per day")
    shown = said_in_law(mast)
    assert re.search(r"at the cursor 12\d\.\d mA came; with all before it that makes \d\.\d+ Ah", shown)
    assert "slope" not in shown
    assert shown.endswith("anew every 24 h")
    mast.take_hand("125 mA")
    assert "125 mA → 3 Ah in 24 h" in said_in_law(mast)


def test_three_figures_of_a_total_are_shown(mast: Desk) -> None:
    """3 Ah a day with whole numbers would say next to nothing."""
    mast.choose_channel(CURRENT)
    mast.add("total in Ah per day")
    assert mast.state.chosen.field.decimals == 2
    mast.undo()
    mast.add("total in mAh")
    assert mast.state.chosen.field.decimals == 0


def test_why_of_a_total_is_asked_of_what_it_adds_up(mast: Desk) -> None:
    """One moment's raw value says nothing of what all before it came to."""
    mast.choose_channel(CURRENT)
    mast.add("total in Ah")
    ask_why(mast, "3 Ah")
    assert mast.state.message_is_fault
    assert mast.state.message == (
        f"{CURRENT}: its total over time is made of all that came before, and one reading cannot say what is wrong in "
        "it; ask of a channel that has the same laws without it."
    )


DAYS: list[tuple[Step, str, dict[str, str]]] = [
    (Step.LAW, "rain since midnight", {"kind": "sum", "every": "24 h", "first": "34793 s"}),
    (Step.LAW, "daily total", {"kind": "sum", "every": "24 h", "first": "34793 s"}),
    (Step.LAW, "total, reset every 24 h", {"kind": "sum", "every": "24 h", "first": "0 s"}),
    (Step.LAW, "add up per hour", {"kind": "sum", "every": "1 h", "first": "0 s"}),
    (Step.CALM, "highest of the day", {"kind": "highest so far", "every": "24 h", "first": "34793 s"}),
    (Step.CALM, "minimum every 24 h", {"kind": "lowest so far", "every": "24 h", "first": "34793 s"}),
    (Step.CALM, "highest so far 24 h", {"kind": "highest so far", "every": "24 h", "first": "0 s"}),
]


@pytest.mark.parametrize(("step", "line", "says"), DAYS)
def test_a_day_ends_at_midnight_where_the_file_says_when_that_is(
    step: Step, line: str, says: dict[str, str], tmp_path: Path
) -> None:
    """It begins at 14:20:07, and the first sample is bad: 9 h 39 min 53 s are left of it, less ten minutes."""
    at = [datetime(2031, 5, 14, 14, 10, 7) + timedelta(minutes=10 * place) for place in range(300)]
    rows = [f"{each:%Y-%m-%d %H:%M:%S},{place % 3 if place else ''}" for place, each in enumerate(at)]
    (tmp_path / "mast.csv").write_text("\n".join(["time,tips", *rows]) + "\n")
    make_project(tmp_path / "mast.csv", tmp_path / "mast")
    desk = open_desk(tmp_path / "mast")
    desk.open_step(step)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    channel = tomllib.loads(desk.state.history.text)["channels"]["tips"]
    (entry,) = channel["law" if step is Step.LAW else "calm"]
    assert {name: entry[name] for name in says} == says
    if line == "daily total":
        calm = desk.bench.run(desk.state.project, desk.state.chosen).calm
        midnight = at.index(datetime(2031, 5, 15, 0, 0, 7))
        of_day = sum(place % 3 for place in range(1, midnight))
        assert calm.x[midnight - 1 : midnight + 1].tolist() == [of_day, midnight % 3]


def test_a_log_of_tips_becomes_rain_of_the_day_that_fits(tmp_path: Path) -> None:
    """Three lines; no tip stands still, no rest is a gap, and the margin has room for what the glass shows."""
    random, at = np.random.default_rng(11), datetime(2031, 5, 1, 6, 2, 37)
    rests = [int(each) for each in random.integers(40, 1500, 599)]
    moments = [at]
    for rest in rests:
        moments.append(moments[-1] + timedelta(seconds=rest))
    (tmp_path / "rain.csv").write_text("".join(f"{each:%Y-%m-%d %H:%M:%S},tip\n" for each in moments))
    make_project(tmp_path / "rain.csv", tmp_path / "rain")
    desk = open_desk(tmp_path / "rain")
    desk.open_step(Step.LAW)
    desk.add("0.2 mm per tip")
    desk.add("rain since midnight")
    desk.open_step(Step.FIT)
    desk.add("1 decimal")
    of_day: dict[int, int] = {}
    for each in moments:
        of_day[each.day] = of_day.get(each.day, 0) + 1
    chosen, most = desk.state.chosen, 0.2 * max(of_day.values())
    assert chosen.highest >= most
    filled = fill(chosen.field, Reading(most))
    assert (filled.state, filled.text.strip()) == ("value", f"{most:.1f}mm")
    usual = f"{np.median(rests):.3g} s apart, at most {max(rests)} s."
    assert [note.text for note in desk.notes if note.step is Step.RAW] == [
        f"tip: samples come at no fixed rate, usually {usual}"
    ]
    assert notes(desk) == set()
