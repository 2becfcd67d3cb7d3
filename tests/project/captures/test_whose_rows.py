"""Rows that are each of one sensor: whose they are, when they came, and which of them are bad."""

from __future__ import annotations

import json
import tomllib
from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.whose_rows import CALLED
from lesart.project.new.make import make_project
from tests.core.raw.traces import TwoWire

OF_SENSOR = Source("log", "log.csv", header=1, time="t", whose="sensor")


def read(folder: Path, rows: list[str], source: Source = OF_SENSOR, head: str = "t,sensor,value") -> Capture:
    path = folder / "log.csv"
    path.write_text("\n".join([head, *rows]) + "\n")
    return read_capture(path, source)


def test_each_sensor_has_its_own_times(tmp_path: Path) -> None:
    capture = read(tmp_path, ["10,a,1", "11,b,2", "12.5,a,3", "14,b,4", "15,a,5"])
    assert list(capture.columns) == ["a", "b"]
    assert capture.columns["a"].t.tolist() == [0, 2.5, 5]
    assert capture.columns["a"].x.tolist() == [1, 3, 5]
    assert capture.columns["b"].t.tolist() == [1, 4]
    assert (capture.bad_count, capture.steps_back) == (0, 0)


def test_rows_behind_each_other_are_laid_by_time(tmp_path: Path) -> None:
    """One axis for all; nothing runs back."""
    behind = read(tmp_path, ["10,a,1", "12,a,3", "14,a,5", "10,b,2", "11,b,4"])
    assert behind.columns["a"].t.tolist() == [0, 2, 4]
    assert behind.columns["b"].t.tolist() == [0, 1]
    assert behind.columns["b"].x.tolist() == [2, 4]
    assert behind.steps_back == 0


def test_a_sensor_whose_own_times_run_back_is_told(tmp_path: Path) -> None:
    assert read(tmp_path, ["10,a,1", "11,b,2", "9,a,3", "12,b,4"]).steps_back == 1


def test_bad_rows_are_of_their_sensor(tmp_path: Path) -> None:
    """With the line of the file, also where rows were laid by time; a row of nobody is nobody's."""
    capture = read(tmp_path, ["10,a,1", "12,a,ouch", "14,a,5", "10,b,2", "11,,4", "12,b", "13,b,6"])
    assert [(row.line, row.column, row.why) for row in capture.bad] == [
        (3, "a", 'value is "ouch", not a number'),
        (6, None, "sensor is empty"),
        (7, None, "2 cells where 3 belong"),
    ]
    assert capture.bad_count == 3
    assert capture.columns["a"].mark.tolist() == [0, int(Mark.MISSING), 0]
    assert [row.line for row in capture.bad_in("b")] == [6, 7]


def test_numbers_that_name_are_as_they_are_written(tmp_path: Path) -> None:
    """017 is not 17; a sensor that never says a value has no column of it."""
    rows = ["1,017,20,", "1,17,,50", "2,017,21,", "2,17,,51"]
    capture = read(tmp_path, rows, head="t,sensor,temp,hum")
    assert list(capture.columns) == ["sensor 017 temp", "sensor 17 hum"]
    assert capture.columns["sensor 17 hum"].x.tolist() == [50, 51]
    assert capture.bad_count == 0


@pytest.mark.parametrize("suffix", ["csv", "jsonl"])
def test_what_names_no_sensor_is_said(tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"log.{suffix}"
    told = [(k, f"s{k}", k) for k in range(300)]
    if suffix == "csv":
        path.write_text("t,sensor,value\n" + "".join(f"{t},{name},{x}\n" for t, name, x in told))
    else:
        path.write_text("".join(json.dumps({"t": t, "sensor": name, "value": x}) + "\n" for t, name, x in told))
    format_ = "csv" if suffix == "csv" else "json lines"
    with pytest.raises(CaptureError, match='whose = "sensor": that column says more than 200 different things'):
        read_capture(path, Source("log", path.name, format=format_, header=1, time="t", whose="sensor"))
    with pytest.raises(
        CaptureError, match=r'sources\.log\.whose = "who"; the columns of log\.\w+ are t, sensor, value'
    ):
        read_capture(path, Source("log", path.name, format=format_, header=1, time="t", whose="who"))


def test_edges_one_below_the_other_are_a_trace(tmp_path: Path) -> None:
    """A row for each edge, with the line that it is on."""
    bus = TwoWire()
    for k in range(6):
        bus.start().byte(0x76 << 1 | 1).byte(0x12).byte(k, acknowledged=False).stop()
    lines = {"yellow": bus.clock.edges(), "green": bus.data.edges()}
    told = [(0.0, name, 1) for name in lines]
    told += [(t, name, x) for name, line in lines.items() for t, x in zip(line.t, line.level, strict=True)]
    rows = [f"{t:.9f},{name},{x}" for t, name, x in sorted(told, key=lambda each: each[0])]
    (tmp_path / "edges.csv").write_text("time,signal,level\n" + "\n".join(rows) + "\n")
    made = make_project(tmp_path / "edges.csv", tmp_path / "made")
    assert made.talks[0].kind == "two-wire bus"
    assert dict(made.talks[0].lines) == {"clock": "yellow", "data": "green"}
    assert made.channels == ("0x76",)


def test_many_rows_are_read_as_few(tmp_path: Path) -> None:
    """Of a file that is read in pieces of bytes, where numbers are names."""
    dice = np.random.default_rng(4)
    x = dice.normal(size=300_000).round(4)
    rows = [f"{k // 3},{k % 3 + 7},{value}" for k, value in enumerate(x.tolist())]
    capture = read(tmp_path, rows)
    assert list(capture.columns) == ["sensor 7", "sensor 8", "sensor 9"]
    np.testing.assert_array_equal(capture.columns["sensor 8"].x, x[1::3])


def names_in(folder: Path, head: str, rows: list[str]) -> str:
    """The column that is taken for the names of sensors in a new project; empty for none."""
    path = folder / "new.csv"
    path.write_text("\n".join([head, *rows]) + "\n")
    made = make_project(path, folder / "new")
    (source,) = tomllib.loads((made.folder / "lesart.toml").read_text())["sources"].values()
    return str(source.get("whose", ""))


@pytest.mark.parametrize("noise", [0.6, 8.0, *(pytest.param(each, marks=pytest.mark.long) for each in (0.3, 1.5))])
@pytest.mark.parametrize("called", sorted(CALLED))
def test_counts_under_noise_name_no_sensors(called: str, noise: float, tmp_path: Path) -> None:
    """Of a converter, in a column that is called by such a word, beside a temperature."""
    random = np.random.default_rng(11)
    counts = np.rint(620.5 + noise * random.standard_normal(400)).astype(int)
    rows = [f"{place},{count},{10 + 0.05 * random.standard_normal():.2f}" for place, count in enumerate(counts)]
    assert names_in(tmp_path, f"t,{called},water", rows) == ""


@pytest.mark.parametrize("called", sorted(CALLED))
@pytest.mark.parametrize(
    "numbers", [pytest.param((1, 2), marks=pytest.mark.long), (3, 7, 12), (4711, 4712, 4713, 5001)]
)
def test_numbers_that_take_turns_are_sensors(called: str, numbers: tuple[int, ...], tmp_path: Path) -> None:
    """In any order, each with a value of its own; one of them speaks half as often."""
    random = np.random.default_rng(12)
    weights = np.array([1.0, 2.0, 2.0, 2.0])[: len(numbers)]
    which = random.choice(len(numbers), 300, p=weights / weights.sum())
    rows = [
        f"{place},{numbers[one]},{20 + 3 * one + 0.1 * random.standard_normal():.2f}" for place, one in enumerate(which)
    ]
    assert names_in(tmp_path, f"t,{called},value", rows) == called
