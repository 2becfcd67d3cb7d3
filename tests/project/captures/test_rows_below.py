"""What stands below a table is no sample of it; what is torn in it stays told."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.raw.source import Source
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.times import LEAST_ABOVE, MOST_BELOW, NEWEST_FIRST, below_said

ROWS = [f"{10 * k},{20 + k / 4}" for k in range(100)]
SOURCE = Source("s", "log.csv", header=1, time="t_s")


def read(folder: Path, rows: list[str]) -> Capture:
    (folder / "log.csv").write_text("\n".join(["t_s,temp", *rows]) + "\n")
    return read_capture(folder / "log.csv", SOURCE)


@pytest.mark.parametrize("below", [["mean,24.9"], ["", "mean,24.9", "max,99", "made by a logger"]], ids=len)
@pytest.mark.parametrize("back", [False, True])
def test_it_is_as_if_they_were_not_there(tmp_path: Path, below: list[str], back: bool) -> None:
    """Also below a table with the newest row on top, and beside a bad cell within."""
    rows = [row if k != 50 else "500,spike" for k, row in enumerate(ROWS)]
    rows = rows[::-1] if back else rows
    without, found = read(tmp_path, rows), read(tmp_path, [*rows, *below])
    assert np.array_equal(found.t, without.t)
    assert np.array_equal(found.columns["temp"].x, without.columns["temp"].x, equal_nan=True)
    assert (found.bad, found.bad_count) == (without.bad, 1)
    assert found.said == (*([NEWEST_FIRST] if back else []), below_said(len([row for row in below if row])))


def test_a_row_without_a_time_among_others_stays(tmp_path: Path) -> None:
    """It came, nobody knows when."""
    found = read(tmp_path, [*ROWS[:50], "never,30", *ROWS[50:]])
    assert (len(found.t), found.said) == (101, ())
    assert [(row.line, row.column) for row in found.bad] == [(52, "t_s")]


@pytest.mark.parametrize(("above", "below"), [(100, MOST_BELOW + 1), (LEAST_ABOVE * 3 - 1, 3)])
def test_too_many_are_a_clock_that_failed(tmp_path: Path, above: int, below: int) -> None:
    """All that came is kept, and each row is told."""
    found = read(tmp_path, [*ROWS[:above], *(f"?,{30 + k}" for k in range(below))])
    assert (len(found.t), len(found.bad), found.bad_count, found.said) == (above + below, below, below, ())
