"""Tables with the newest row on top, as pages and dashboards give them away, are read as if they stood the other
way."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from lesart.core.raw.source import Source
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.times import NEWEST_FIRST
from tests.corpus.formats import xlsx
from tests.corpus.habit import ROWS, Habit, Wanted, moments, outcome, text_file
from tests.corpus.times import TIMES

UNSURE = {
    "day or month, nobody knows",
    "a first column that rises evenly under another name",
    "a column without a name that rises",
}
"""What is no time for sure is none where it sinks: a fridge that cools rises nowhere."""


def reversed_rows(habit: Habit) -> Habit:
    """The same file with its rows the other way round, below the same head."""

    def write(folder: Path) -> Path:
        path = habit.write(folder)
        lines = path.read_bytes().removesuffix(b"\n").split(b"\n")
        path.write_bytes(b"\n".join([*lines[:-ROWS], *reversed(lines[-ROWS:])]) + b"\n")
        return path

    return replace(habit, write=write, said=NEWEST_FIRST)


CASES = [each for each in TIMES if each.wanted and each.wanted.rate_hz and each.name not in UNSURE]


@pytest.mark.parametrize("habit", CASES, ids=[each.name for each in CASES])
def test_every_way_to_write_a_time_may_run_back(tmp_path: Path, habit: Habit) -> None:
    """Rate, columns, units, first and last values as in the right order, and it is said."""
    found = outcome(reversed_rows(habit), tmp_path)
    assert found.right, (found.why, found.said)


AT = moments(10)
WANTED = Wanted(0.1, {"temp": "1"}, {"temp": (20.0, 20 + (ROWS - 1) / 4)})
FORMATS = {
    "spreadsheet": xlsx(["time", "temp"], *reversed([[m, 20 + k / 4] for k, m in enumerate(AT)])),
    "JSON": text_file(
        "log.json", json.dumps([{"time": m.isoformat(), "temp": 20 + k / 4} for k, m in reversed([*enumerate(AT)])])
    ),
    "JSON lines": text_file(
        "log.jsonl",
        *(json.dumps({"time": m.isoformat(), "temp": 20 + k / 4}) for k, m in reversed([*enumerate(AT)])),
    ),
    "text log": text_file(
        "log.txt", *(f"{m:%Y-%m-%d %H:%M:%S} temp={20 + k / 4}" for k, m in reversed([*enumerate(AT)]))
    ),
}


@pytest.mark.parametrize("name", FORMATS)
def test_other_formats(tmp_path: Path, name: str) -> None:
    found = outcome(Habit(name, FORMATS[name], WANTED, said=NEWEST_FIRST), tmp_path)
    assert found.right, (found.why, found.said)


def test_sensors_in_one_column(tmp_path: Path) -> None:
    """Two sensors a moment, newest first: each has its own, in order."""
    rows = [
        f"{m:%Y-%m-%d %H:%M:%S},{name},{20 + k / 4 + up}"
        for k, m in enumerate(AT)
        for name, up in (("a", 0), ("b", 10))
    ]
    wanted = Wanted(0.1, {"a": "1", "b": "1"}, {"a": (20.0, 29.75), "b": (30.0, 39.75)}, 2 * ROWS)
    found = outcome(Habit("sensors", text_file("log.csv", "time,sensor,value", *reversed(rows)), wanted), tmp_path)
    assert found.right, (found.why, found.said)


def test_what_is_bad_keeps_its_line_and_its_mark(tmp_path: Path) -> None:
    """The same samples and marks as in the right order, each bad cell at the line where it stands."""
    cells = [f"{k / 2:.1f}" for k in range(30)]
    cells[4], cells[20] = "spike", ""
    rows = [f"{10 * k},{cell}" for k, cell in enumerate(cells)]
    (tmp_path / "up.csv").write_text("\n".join(["t_s,temp", *rows]) + "\n")
    (tmp_path / "down.csv").write_text("\n".join(["t_s,temp", *reversed(rows)]) + "\n")
    source = Source("s", "up.csv", header=1, time="t_s")
    up, down = (read_capture(tmp_path / name, source) for name in ("up.csv", "down.csv"))
    assert np.array_equal(up.t, down.t)
    assert np.array_equal(up.columns["temp"].x, down.columns["temp"].x, equal_nan=True)
    assert np.array_equal(up.columns["temp"].mark, down.columns["temp"].mark)
    assert [row.line for row in up.bad] == [6, 22]
    assert [row.line for row in down.bad] == [11, 27]  # 30 rows: the 5th and the 21st from the end, below one of names
    assert (down.steps_back, down.said, up.said) == (0, (NEWEST_FIRST,), ())


def test_a_row_is_counted_from_the_top_of_the_file(tmp_path: Path) -> None:
    """Where the logger was switched on again, by the row where a person finds it."""
    times = [*range(40), *range(25)]  # row 41 of 65 begins anew; from the end it is row 25
    rows = [f"{k * 7},{20 + k}" for k in times]
    (tmp_path / "down.csv").write_text("\n".join(["t_s,temp", *reversed(rows)]) + "\n")
    source = Source("s", "down.csv", header=1, time="t_s")
    said = read_capture(tmp_path / "down.csv", source).said
    assert said[0] == NEWEST_FIRST
    assert said[1].startswith("at row 25 the time begins again")


def test_a_value_that_sinks_is_no_time(tmp_path: Path) -> None:
    """A fridge that cools, in a file that says nothing of times."""
    lines = [f"{25 - k / 10:.1f},{50 + k % 3}" for k in range(ROWS)]
    found = outcome(
        Habit("cooling", text_file("log.csv", "temp_c,hum_pct", *lines), Wanted(0, {"temp_c": "°C", "hum_pct": "%"})),
        tmp_path,
    )
    assert found.right, (found.why, found.said)
