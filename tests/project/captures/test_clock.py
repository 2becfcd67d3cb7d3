"""The time of day at which a capture begins, where its file says it."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from lesart.core.raw.source import Source
from lesart.project.assumed import ASSUMED
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.kept_capture import keep, kept_capture
from lesart.project.new.source import found_source
from lesart.project.tables.sources import check_source

START = datetime(2031, 5, 14, 14, 20, 7, tzinfo=UTC)
AT = [START + timedelta(minutes=10 * place) for place in range(30)]
OF_DAY = 14 * 3600 + 20 * 60 + 7.0
WAYS: dict[str, tuple[str, str, Callable[[datetime], str], float]] = {
    "ISO": ("a.csv", "time,x", lambda at: f"{at:%Y-%m-%dT%H:%M:%S},", OF_DAY),
    "day first": ("a.csv", "when;x", lambda at: f"{at:%d.%m.%Y %H:%M:%S};", OF_DAY),
    "without seconds": ("a.csv", "time,x", lambda at: f"{at:%Y-%m-%d %H:%M},", OF_DAY - 7),
    "day and clock apart": ("a.csv", "date,time,x", lambda at: f"{at:%Y-%m-%d},{at:%H:%M:%S},", OF_DAY),
    "clock alone": ("a.csv", "time,x", lambda at: f"{at:%H:%M:%S},", OF_DAY),
    "a log": ("a.log", "", lambda at: f"[{at:%Y-%m-%d %H:%M:%S}] temp=", OF_DAY),
    "seconds since 1970": ("a.csv", "time,x", lambda at: f"{at.timestamp():.0f},", math.nan),
    "seconds": ("a.csv", "t [s],x", lambda at: f"{(at - START).total_seconds():.0f},", math.nan),
    "no time": ("a.csv", "y,x", lambda at: f"{at.minute % 7}.5,", math.nan),
}


def source_of(path: Path) -> Source:
    """As a new project says it."""
    table = {key: value for key, value in found_source(path, path.name).table.items() if key != ASSUMED}
    source, problems = check_source("s", table)
    assert source is not None, problems
    return source


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("newest_first", [False, True])
def test_the_time_of_day_it_begins(way: str, newest_first: bool, tmp_path: Path) -> None:
    """As it is written; the newest row first or last."""
    name, head, row, clock_s = WAYS[way]
    rows = [f"{row(at)}{20 + place / 4}" for place, at in enumerate(AT)]
    told = rows[::-1] if newest_first else rows
    path = tmp_path / name
    path.write_text("\n".join([*([head] if head else []), *told]) + "\n")
    capture = read_capture(path, source_of(path))
    if newest_first and way in ("seconds", "no time"):
        return  # what only sinks is no time
    assert capture.clock_s == pytest.approx(clock_s, nan_ok=True)


def test_of_objects_and_of_what_is_kept(tmp_path: Path) -> None:
    """JSON has it too, and a capture that is opened again from the project's folder."""
    path = tmp_path / "a.json"
    path.write_text(json.dumps([{"time": f"{at:%Y-%m-%dT%H:%M:%S}", "x": place / 4} for place, at in enumerate(AT)]))
    source = source_of(path)
    assert read_capture(path, source).clock_s == OF_DAY
    path = tmp_path / "a.csv"
    path.write_text("time,x\n" + "".join(f"{at:%Y-%m-%dT%H:%M:%S},{place / 4}\n" for place, at in enumerate(AT)))
    source = source_of(path)
    keep(tmp_path, path, source, read_capture(path, source)).join()
    again = kept_capture(tmp_path, path, source)
    assert again is not None
    assert again.clock_s == OF_DAY
