"""Recordings: what is read back is what came, to the last bit and the last mark; half a line is not a line."""

from __future__ import annotations

import math
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.errors import CaptureError, ProjectError
from lesart.core.raw.lines.received import Event, Received
from lesart.core.raw.source import Source
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.recording import head_text, rows_text
from lesart.project.captures.rows.csv_shape import find_shape
from lesart.project.check import check_project

STARTED = datetime(2026, 5, 14, 8, tzinfo=UTC)
SOURCE = Source("s", "r.csv", format="recording")
NAN = math.nan


def read_back(path: Path, *batches: Received, cut: int = 0) -> Capture:
    text = head_text("source s", STARTED, batches[0].columns) + "".join(map(rows_text, batches))
    data = text.encode()
    path.write_bytes(data[: len(data) - cut])
    return read_capture(path, SOURCE)


CELL = st.one_of(
    st.floats(allow_nan=False, allow_infinity=False), st.integers(-(2**40), 2**40).map(float), st.just(NAN)
)
ROWS = st.lists(
    st.tuples(CELL, CELL, st.sampled_from([Mark.MISSING, Mark.CHECKSUM, Mark.RANGE]), st.integers(1, 10**6)),
    min_size=1,
    max_size=30,
)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(ROWS)
def test_values_marks_and_times_come_back_to_the_bit(
    tmp_path: Path, rows: list[tuple[float, float, Mark, int]]
) -> None:
    if all(math.isnan(a) and math.isnan(b) for a, b, _, _ in rows):
        return
    times = tuple(round(float(step), 6) for step in np.cumsum([step / 1e6 for *_, step in rows]))
    heard = Received(
        ("a", 'b, "c"'), times, tuple((a, b) for a, b, *_ in rows), tuple(int(mark) for *_, mark, _ in rows)
    )
    capture = read_back(tmp_path / "r.csv", heard)
    assert list(capture.columns) == ["a", 'b, "c"']
    assert capture.t.tolist() == list(times)
    for place, block in enumerate(capture.columns.values()):
        assert [repr(value) for value in block.x.tolist()] == [
            repr(row[place] + 0.0) if row[place] else repr(row[place]) for row in rows
        ]
        assert block.mark.tolist() == [int(mark) if math.isnan(row[place]) else 0 for row in rows for mark in row[2:3]]


def test_what_happened_stands_beside_the_rows_and_is_no_row(tmp_path: Path) -> None:
    events = (Event(0.5, "garbage", '"\\x1b": no\nline'), Event(2.0, "gone", "the port went away"))
    capture = read_back(tmp_path / "r.csv", Received(("x",), (1.0, 2.0), ((5.0,), (NAN,)), (1, 1), events))
    text = (tmp_path / "r.csv").read_text()
    assert text.splitlines()[4:] == [
        '# 0.500000 garbage: "\\x1b": no\\x0aline',
        "1.000000,5",
        "# 2.000000 gone: the port went away",
        "2.000000,missing",
    ]
    assert capture.columns["x"].mark.tolist() == [0, Mark.MISSING]
    assert capture.bad[0].why == "x is marked missing"


@pytest.mark.parametrize("cut", range(1, 9))
def test_half_a_line_at_the_end_is_left_out(tmp_path: Path, cut: int) -> None:
    """A kill may end a file in half a number, and half of 81234 is a number too."""
    capture = read_back(tmp_path / "r.csv", Received(("x",), (1.0, 2.0), ((7.0,), (81234.0,)), (1, 1)), cut=cut)
    assert capture.columns["x"].x.tolist() == [7.0]


def test_a_large_recording_reads_as_a_small_one(tmp_path: Path) -> None:
    """From four megabytes on another reader takes over; marks and the torn end come through it too."""
    count = 170_000
    times = tuple(place / 100 for place in range(count))
    values = tuple((NAN if place % 50_001 == 7 else place * 1.25, float(place)) for place in range(count))
    marks = tuple(int(Mark.CHECKSUM) if place % 2 else int(Mark.MISSING) for place in range(count))
    capture = read_back(tmp_path / "r.csv", Received(("a", "b"), times, values, marks), cut=2)
    assert (tmp_path / "r.csv").stat().st_size > 4 << 20
    a = capture.columns["a"]
    assert len(a) == count - 1
    assert [(int(place), int(a.mark[place])) for place in np.flatnonzero(a.mark)] == [
        (7, Mark.CHECKSUM),
        (50_008, Mark.MISSING),
        (100_009, Mark.CHECKSUM),
        (150_010, Mark.MISSING),
    ]
    assert capture.columns["b"].x[-1] == count - 2


def test_any_program_can_read_it(tmp_path: Path) -> None:
    """It is a file of numbers like others: what finds out how a file is written finds it out."""
    read_back(tmp_path / "r.csv", Received(("count", "lid_mv"), (1.0, 2.0), ((5.0, 1.5), (6.0, 2.5)), (1, 1)))
    shape = find_shape(tmp_path / "r.csv")
    assert (shape.delimiter, shape.header, shape.time, shape.time_unit) == (",", 4, "t", "s")
    assert shape.whole == {"count"}


def test_nothing_recorded_yet_says_which_key_records(tmp_path: Path) -> None:
    project = check_project('lesart = 1\n[sources.s.line]\nkind = "text line"\nport = "p"\n')
    with pytest.raises(CaptureError) as refused:
        read_capture(tmp_path, project.sources["s"])
    assert str(refused.value) == "s: nothing is recorded of p, 115200 baud yet; o listens to it, r records."


@pytest.mark.parametrize(
    ("table", "place", "wanted"),
    [
        ('kind = "text lines"\nport = "p"', "line.kind", "did you mean text line?"),
        ('kind = "text line"', "line.port", "it is missing"),
        ('kind = "text line"\nport = "p"\nbaud = 0', "line.baud", "a whole number from 50 to 4 000 000"),
        ('kind = "Modbus RTU"\nport = "p"\nunit = 0', "line.unit", "a whole number from 1 to 247"),
        ('kind = "Modbus TCP"\nhost = "h"\nperiod = "0 s"', "line.period", "above 0 s"),
        ('kind = "this computer"\nregisters = []', "line.registers", "this key is not known here"),
        (
            'kind = "Modbus TCP"\nhost = "h"\n[[sources.s.line.registers]]\nname = "a"\naddress = 65535\ntype = "uint32"',
            "line.registers[0].address",
            "its 2 registers must end by 65535",
        ),
        ('kind = "Modbus TCP"\nhost = "h"\nregisters = 5', "line.registers", "it must be a list of tables"),
    ],
)
def test_a_wrong_line_says_what_would_be_right(table: str, place: str, wanted: str) -> None:
    with pytest.raises(ProjectError) as caught:
        check_project(f"lesart = 1\n[sources.s.line]\n{table}\n")
    assert any(problem.place == f"sources.s.{place}" and wanted in problem.wanted for problem in caught.value.problems)
