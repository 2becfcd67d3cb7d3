"""A recording that was killed, or that the project could not be told of, is found and offered; a key takes it up."""

from __future__ import annotations

import os
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.notes import DOUBT
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.folder.store import FILE

HEAD = (
    "# lesart recording 1\n# source scale: text line, rig/scale, 115200 baud\n# t is seconds since 2031-05-14T08:00\n"
)
PROJECT = """lesart = 1
[sources.scale]
capture = "captures/scale-20310514-080000.csv"
[sources.scale.line]
kind = "text line"
port = "rig/scale"
[channels.mass]
source = "scale"
column = "mass"
raw_unit = "kg"
unit = "kg"
lowest = "0 kg"
highest = "100 kg"
"""


def recorded(folder: Path, name: str, rows: int, age_s: float, torn: str = "", source: str = "scale") -> None:
    """A file of so many rows that was last written some time ago."""
    path = folder / "captures" / name
    path.parent.mkdir(exist_ok=True)
    text = "".join(f"{k / 10:.6f},{40 + k}\n" for k in range(rows))
    path.write_text(HEAD.replace("scale:", f"{source}:") + "t,mass\n" + text + "# 9.000000 chatter: ready\n" * 2 + torn)
    moment = 1_900_000_000 - age_s
    os.utime(path, (moment, moment))


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / FILE).write_text(PROJECT)
    recorded(tmp_path, "scale-20310514-080000.csv", 5, 100)
    return tmp_path


def offers(desk: Desk) -> list[tuple[str, str]]:
    return [(note.mark, note.text) for note in desk.notes if "newer recording" in note.text]


def test_a_newer_one_is_offered_and_a_key_takes_it_up(folder: Path) -> None:
    """Its whole rows are counted: half a row at the end of a killed one is none."""
    recorded(folder, "scale-20310514-090000.csv", 42, 50, torn="4.2,8")
    recorded(folder, "other-20310514-100000.csv", 9, 10, source="other")
    desk = open_desk(folder)
    assert offers(desk) == [
        (
            DOUBT,
            "scale: a newer recording of it is there, captures/scale-20310514-090000.csv, with 42 rows up to 00:00:04.1; "
            "the project still names captures/scale-20310514-080000.csv.",
        )
    ]
    place = next(index for index, note in enumerate(desk.notes) if "newer recording" in note.text)
    desk.state = replace(desk.state, note=place)
    desk.mend()
    assert desk.state.project.sources["scale"].capture == "captures/scale-20310514-090000.csv"
    assert offers(desk) == []
    desk.close()


def test_older_ones_empty_ones_and_those_that_ended_well_are_not_offered(folder: Path) -> None:
    """Whoever ended a recording knows of it, and may have gone back to another."""
    recorded(folder, "scale-20310514-100000.csv", 8, 7, torn="# 0.700000 ended: 8 rows\n")
    recorded(folder, "scale-20310513-080000.csv", 50, 500)
    recorded(folder, "scale-20310514-110000.csv", 0, 5)
    desk = open_desk(folder)
    assert offers(desk) == []
    desk.close()


def test_one_is_offered_where_none_was_ever_taken_up(folder: Path) -> None:
    """The first recording of a source was killed."""
    (folder / FILE).write_text(PROJECT.replace('capture = "captures/scale-20310514-080000.csv"\n', ""))
    desk = open_desk(folder)
    assert offers(desk)[0][1].endswith("with 5 rows up to 00:00:00.4; the project names none.")
    desk.close()
