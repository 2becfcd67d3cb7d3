"""What the text of a new project takes from the file."""

from __future__ import annotations

import functools
import operator
import random
import struct
import tomllib
from pathlib import Path

import pytest

from lesart.desk.opening import open_desk
from lesart.project.captures.capture_read import read_capture
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.project.new.text import USUAL_AGE_S
from lesart.project.tables.channels import STALE_AFTER


@pytest.mark.parametrize(("step_s", "age_s"), [(1, 5.0), (2, 5.0), (10, 25.0), (60, 150.0), (600, 1500.0)])
def test_a_reading_of_a_slow_source_is_not_stale_before_the_next(tmp_path: Path, step_s: int, age_s: float) -> None:
    """The file says how often there is one; where that is often the usual age of five seconds stays."""
    path = tmp_path / "slow.csv"
    path.write_text("t,temp\n" + "".join(f"{k * step_s},{20 + k / 10}\n" for k in range(30)))
    made = make_project(path, tmp_path / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    assert project.channels["temp"].field.stale_after_s == age_s


def test_the_usual_age_is_that_of_a_field() -> None:
    assert STALE_AFTER.default == f"{USUAL_AGE_S:g} s"


def test_a_dump_of_a_field_bus_has_its_registers(tmp_path: Path) -> None:
    """Requests and replies with right sums; a unit's register that goes below nothing is said to lack its sign."""
    lines = []
    for second in range(40):
        asked = bytes([17, 3, 0, 9, 0, 2])
        reply = bytes([17, 3, 4]) + struct.pack(">hH", second - 15, 500 + second)
        for at, body in ((0.0, asked), (0.02, reply)):
            lines.append(f"{second + at:.2f}  {(body + crc_of(body)).hex(' ')}")
    path = tmp_path / "bus.hex"
    path.write_text("\n".join(lines) + "\n")
    made = make_project(path, tmp_path / "made")
    assert made.channels == ("unit 17 holding 9", "unit 17 holding 10")
    desk = open_desk(made.folder)
    try:
        capture = desk.bench.capture(desk.state.project.sources["capture"])
        assert capture.columns["unit 17 holding 10"].x.tolist() == [500.0 + second for second in range(40)]
        assert any("negative numbers of 16 bits" in note.text and note.figure == 15 for note in desk.notes)
    finally:
        desk.close()
    # What is no message of a bus has a value to start from, as before.
    plain = tmp_path / "plain.hex"
    plain.write_text("".join(f"{second}.0 0{second} 10 20\n" for second in range(8)))
    assert make_project(plain, tmp_path / "plain").channels == ("value",)


@pytest.mark.parametrize("check", ["sum", "xor", "LRC"])
def test_a_value_of_a_dump_begins_where_its_frames_differ(tmp_path: Path, check: str) -> None:
    """Behind two bytes that head all of them; the sum at the end is found by what it is of, and one wrong is marked."""
    ends = {
        "sum": lambda body: sum(body) & 0xFF,
        "xor": lambda body: functools.reduce(operator.xor, body),
        "LRC": lambda body: -sum(body) & 0xFF,
    }
    frames = [bytes([0xAA, 0x55]) + struct.pack(">HB", 1990 + 11 * place, 40 + place % 3) for place in range(40)]
    told = [frame + bytes([ends[check](frame) ^ (place == 7)]) for place, frame in enumerate(frames)]
    path = tmp_path / "dump.hex"
    path.write_text("".join(f"{place / 2}  {frame.hex(' ')}\n" for place, frame in enumerate(told)))
    made = make_project(path, tmp_path / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    source = project.sources["capture"]
    assert source.decoding is not None
    assert source.decoding.check.kind == check
    assert [(field.first_bit, field.bits) for field in source.fields] == [(16, 16), (32, 8)]
    assert {key[-1] for key in project.assumed} == {"first_bit", "bits"}
    columns = read_capture(path, source).columns
    good = [place for place in range(40) if place != 7]
    assert [block.x[block.usable].tolist() for block in columns.values()] == [
        [1990.0 + 11 * place for place in good],
        [40.0 + place % 3 for place in good],
    ]


def crc_of(body: bytes) -> bytes:
    """Of the serial field bus: polynomial 0x8005 reflected, from 0xFFFF, low byte first."""
    crc = 0xFFFF
    for byte in body:
        crc ^= byte
        for _ in range(8):
            crc = (crc >> 1) ^ 0xA001 if crc & 1 else crc >> 1
    return struct.pack("<H", crc)


LONG = "9" * 500


@pytest.mark.parametrize(
    ("name", "lines", "channels"),
    [
        ("counter.log", [f"I ({LONG}{place}) tag: T={place}.5" for place in range(20)], ("T",)),
        ("brackets.log", [f"[{LONG}{place}] T={place}.5" for place in range(20)], ("T",)),
        ("hex.csv", ["t,x,y", *(f"{place},0x{'F' * 400},{place}.5" for place in range(20))], ("y",)),
        ("times.csv", ["t,x", *(f"{LONG}{place},{place}.5" for place in range(20))], ("x",)),
        ("one.csv", ["t,x", *(f"{LONG if place == 7 else place},{place}.5" for place in range(20))], ("x",)),
        ("zones.csv", ["when,x", *(f"2031-01-01T00:00:{place:02}+{LONG}:00,{place}.5" for place in range(20))], ("x",)),
    ],
)
def test_numbers_of_five_hundred_digits_end_nothing(
    tmp_path: Path, name: str, lines: list[str], channels: tuple[str, ...], recwarn: pytest.WarningsRecorder
) -> None:
    """Wherever they stand; what is a number is read, and the array library has nothing to say on the way."""
    (tmp_path / name).write_text("\n".join(lines) + "\n")
    made = make_project(tmp_path / name, tmp_path / "made")
    assert made.channels == channels
    assert [str(each.message) for each in recwarn] == []


def test_what_comes_when_something_happens_is_stale_later(tmp_path: Path) -> None:
    """Tips a minute to a quarter of an hour apart: half of them would find the one before stale."""
    chance, at = random.Random(4), 0.0
    rows = []
    for _ in range(80):
        at += chance.choice((60, 90, 900))
        rows.append(f"{at:.0f},1")
    (tmp_path / "tips.csv").write_text("t [s],tips\n" + "\n".join(rows) + "\n")
    made = make_project(tmp_path / "tips.csv", tmp_path / "made")
    channel = tomllib.loads((made.folder / "lesart.toml").read_text())["channels"]["tips"]
    assert channel["fit"]["stale_after"] == "2250 s"
