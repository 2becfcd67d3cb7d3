"""Large files are read as small ones are: the same numbers, the same marks, the same bad lines by number."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.captures.capture import Capture
from lesart.project.captures.rows import csv_large
from lesart.project.captures.rows.csv_read import read_csv


@contextmanager
def small_pieces(large_from: int) -> Iterator[None]:
    """Files count as large from a size on, and are cut into pieces of a few rows."""
    usual = csv_large.LARGE, csv_large.PIECE, csv_large.FEW_ROWS
    csv_large.LARGE, csv_large.PIECE, csv_large.FEW_ROWS = large_from, 60, 2
    try:
        yield
    finally:
        csv_large.LARGE, csv_large.PIECE, csv_large.FEW_ROWS = usual


def both(path: Path, source: Source) -> tuple[object, object]:
    """The file as a large one and as a small one, or the sentences that say why not."""
    found = []
    for large_from in (0, 1 << 60):
        with small_pieces(large_from):
            try:
                found.append(facts(read_csv(path, source)))
            except CaptureError as error:
                found.append(str(error))
    return found[0], found[1]


def facts(capture: Capture) -> object:
    return (
        capture.t.tolist(),
        {
            name: (np.nan_to_num(block.x, nan=-1e300).tolist(), block.mark.tolist())
            for name, block in capture.columns.items()
        },
        capture.bad,
        capture.bad_count,
        capture.steps_back,
    )


CELL = st.one_of(
    st.floats(-1e6, 1e6).map(repr),
    st.integers(-(10**9), 10**9).map(str),
    st.sampled_from(
        ["", "n/a", "nan", "inf", " 5", "5 ", "+7", "1e3", ".5", "5.", "1_000", '"8"', "0x10", "−3", "1e999"]
    ),
)
ROW = st.one_of(
    st.lists(CELL, min_size=2, max_size=2),
    st.lists(CELL, min_size=1, max_size=4),
    st.just(["# a comment"]),
    st.just([""]),
)


@given(
    st.lists(ROW, min_size=1, max_size=30),
    st.sampled_from([",", ";", "tab"]),
    st.sampled_from(["\n", "\r\n"]),
    st.booleans(),
    st.booleans(),
)
@pytest.mark.long
@settings(max_examples=300)
def test_the_same_as_a_small_one(
    tmp_path_factory: pytest.TempPathFactory,
    rows: list[list[str]],
    delimiter: str,
    end: str,
    ends: bool,
    timed: bool,
) -> None:
    sign = {"tab": "\t"}.get(delimiter, delimiter)
    text = end.join(["t" + sign + "x", *(sign.join(row) for row in rows)]) + (end if ends else "")
    path = tmp_path_factory.mktemp("c") / "c.csv"
    path.write_text(text, encoding="utf-8", newline="")
    source = Source("s", "c.csv", delimiter=delimiter, header=1, time="t" if timed else "", rate_hz=2.0)
    large, small = both(path, source)
    assert large == small


def test_five_megabytes_with_a_few_bad_lines(tmp_path: Path) -> None:
    """As it comes by default: pieces in one go, the bad lines named."""
    rows = [f"{place / 100:.2f},{place % 4096}" for place in range(400_000)]
    rows[123_456] = "1234.56,"
    rows[300_001] = "3000.01,7,9"
    path = tmp_path / "c.csv"
    path.write_text("t,x\n" + "\n".join(rows) + "\n")
    assert path.stat().st_size > csv_large.LARGE
    source = Source("s", "c.csv", header=1, time="t")
    capture = read_csv(path, source)
    assert len(capture.t) == 400_000
    assert [(row.line, row.why) for row in capture.bad] == [
        (123_458, "x is empty"),
        (300_003, "3 cells where 2 belong"),
    ]
    assert capture.columns["x"].x[5000] == 5000 % 4096
    with_comma = replace(source, delimiter=";", decimal=",")
    path.write_text("t;x\n" + "\n".join(row.replace(",", ";").replace(".", ",") for row in rows) + "\n")
    again = read_csv(path, with_comma)
    assert again.t.tolist() == capture.t.tolist()
