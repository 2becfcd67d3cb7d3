"""A large file opens again from what was kept of it, to the bit; a file that changed is read anew."""

from __future__ import annotations

import os
import threading
from pathlib import Path

import pytest

from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.project.captures import kept_capture, progress
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.kept_capture import keep
from lesart.project.tables.sources import check_source
from lesart.study.bench import Bench

SOURCE = Source("s", "c.csv", header=1, time="t")
ROWS = 3000


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A file that counts as large, with a torn row and cells that are none."""
    monkeypatch.setattr(kept_capture, "LARGE", 1000)
    rows = [f"{place / 10},{place * 1.1!r},{place % 7}" for place in range(ROWS)]
    rows[500], rows[900], rows[1200] = "50.0,3", "90.0,checksum,4", "120.0,inf,x"
    (tmp_path / "c.csv").write_text("t,a,b\n" + "\n".join(rows) + "\n")
    return tmp_path


def same(first: Capture, second: Capture) -> bool:
    return list(first.columns) == list(second.columns) and all(
        (one.t.tobytes(), one.x.tobytes(), one.mark.tobytes()) == (two.t.tobytes(), two.x.tobytes(), two.mark.tobytes())
        for one, two in zip(first.columns.values(), second.columns.values(), strict=True)
    )


def test_what_is_kept_is_what_was_read(folder: Path) -> None:
    read = read_capture(folder / "c.csv", SOURCE)
    keep(folder, folder / "c.csv", SOURCE, read).join()
    kept = kept_capture.kept_capture(folder, folder / "c.csv", SOURCE)
    assert kept is not None
    assert same(read, kept)
    assert (kept.bad, kept.bad_count, kept.steps_back, kept.name) == (
        read.bad,
        read.bad_count,
        read.steps_back,
        read.name,
    )
    assert kept.bad_in("a") == read.bad_in("a")


def test_sensors_with_times_of_their_own_are_kept_too(folder: Path) -> None:
    """One of them has two columns on one axis."""
    rows = [f"{k},{'abc'[k % 3]},{k / 7},{k if k % 3 == 1 else ''}" for k in range(ROWS)]
    (folder / "c.csv").write_text("t,sensor,x,y\n" + "\n".join(rows) + "\n")
    source = Source("s", "c.csv", header=1, time="t", whose="sensor")
    read = read_capture(folder / "c.csv", source)
    assert list(read.columns) == ["a x", "b x", "b y", "c x"]
    keep(folder, folder / "c.csv", source, read).join()
    kept = kept_capture.kept_capture(folder, folder / "c.csv", source)
    assert kept is not None
    assert same(read, kept)
    assert kept.columns["b x"].t is kept.columns["b y"].t
    assert kept.t.tolist() == list(range(ROWS))


def test_what_is_decoded_is_not_kept(folder: Path) -> None:
    """Its frames are more than columns: opened again, a decoder's pulses are looked at as before."""
    rows = [f"{k / 1000},{k // 10 % 2}" for k in range(ROWS)]
    (folder / "c.csv").write_text("t,q\n" + "\n".join(rows) + "\n")
    table = {"capture": "c.csv", "header": 1, "time": "t", "decode": {"kind": "pulse interval", "line": "q"}}
    source, problems = check_source("s", table)
    assert source is not None, problems
    first = Bench(folder).capture(source)
    for thread in [thread for thread in threading.enumerate() if thread.name == "keep"]:
        thread.join()
    again = Bench(folder).capture(source)
    assert first.lines.keys() == again.lines.keys() == {"q"}
    assert again.decoded is not None
    assert same(first, again)


def test_a_bench_reads_a_file_once_and_the_next_one_not_at_all(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    first = Bench(folder).capture(SOURCE)
    for thread in [thread for thread in threading.enumerate() if thread.name == "keep"]:
        thread.join()
    monkeypatch.setattr("lesart.study.bench.read_capture", lambda *_: pytest.fail("it was read again"))
    assert same(first, Bench(folder).capture(SOURCE))


@pytest.mark.parametrize("change", ["later", "longer", "told otherwise", "spoiled", "cut off"])
def test_what_changed_is_not_believed(folder: Path, change: str) -> None:
    path, source = folder / "c.csv", SOURCE
    keep(folder, path, source, read_capture(path, source)).join()
    kept = next((folder / ".lesart" / "read").glob("*.npy"))
    if change == "later":
        os.utime(path, (1, 1))
    elif change == "longer":
        with path.open("a") as file:
            file.write("301,1,1\n")
    elif change == "told otherwise":
        source = Source("s", "c.csv", header=1, time="t", time_unit="ms")
    elif change == "spoiled":
        kept.write_bytes(b"no array")
    else:
        kept.write_bytes(kept.read_bytes()[:5000])
    assert kept_capture.kept_capture(folder, path, source) is None


def test_only_the_last_few_are_kept(folder: Path) -> None:
    for turn in range(kept_capture.MOST_KEPT + 3):
        os.utime(folder / "c.csv", (turn, turn))
        keep(folder, folder / "c.csv", SOURCE, read_capture(folder / "c.csv", SOURCE)).join()
    assert len(list((folder / ".lesart" / "read").glob("*.npy"))) == kept_capture.MOST_KEPT


def test_a_folder_that_cannot_be_written_keeps_nothing_and_harms_nothing(folder: Path) -> None:
    (folder / ".lesart").write_text("in the way")
    keep(folder, folder / "c.csv", SOURCE, read_capture(folder / "c.csv", SOURCE)).join()
    assert Bench(folder).capture(SOURCE).columns["a"].x[1] == 1.1


# Progress, and a way to stop


def test_how_far_a_file_is_read_is_told(folder: Path) -> None:
    told: list[tuple[str, int, int, str]] = []
    progress.watch_with(lambda *far: told.append(far) is None)
    try:
        read_capture(folder / "c.csv", SOURCE)
    finally:
        progress.watch_with(None)
    assert told[-1][0] == "c.csv"
    assert told[-1][1] == told[-1][2] == ROWS + 1
    assert [done for _, done, _, _ in told] == sorted(done for _, done, _, _ in told)
    assert {doing for *_, doing in told} == {"Reading"}


def test_a_file_nobody_waits_for_is_stopped_and_said_and_read_when_it_is_wanted(folder: Path) -> None:
    bench = Bench(folder)
    progress.watch_with(lambda *_: False)
    try:
        with pytest.raises(CaptureError, match=r"c\.csv: reading was stopped at \d+ %\."):
            bench.capture(SOURCE)
    finally:
        progress.watch_with(None)
    with pytest.raises(CaptureError, match="o reads it"):
        bench.capture(SOURCE)
    bench.stopped.clear()
    assert len(bench.capture(SOURCE).t) == ROWS
