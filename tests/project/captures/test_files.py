"""What is opened from outside must be a file that ends: pipes, devices, folders and endless files are refused at once,
by every reader there is; and what a damaged file does to a library is a sentence."""

from __future__ import annotations

import gzip
import os
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest

from lesart.core.errors import LesartError
from lesart.core.raw.source import FORMATS, Source
from lesart.project.assets.bdf_read import read_bdf
from lesart.project.assets.font_files import read_font
from lesart.project.assets.pictures import read_picture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.times import time_axis
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.folder.files import library, read_whole
from lesart.project.folder.store import read_text
from lesart.project.new.make import make_project

ENDINGS = {
    "csv": ".csv",
    "json lines": ".jsonl",
    "json": ".json",
    "spreadsheet": ".xlsx",
    "text log": ".log",
    "sentences": ".nmea",
    "arrays": ".npy",
    "sound": ".aiff",
    "binary": ".bin",
    "parquet": ".parquet",
    "wav": ".wav",
    "vcd": ".vcd",
    "hex": ".hex",
    "recording": ".csv",
}
READERS: dict[str, tuple[str, Callable[[Path], object]]] = {
    **{
        name: (ENDINGS[name], lambda path, name=name: read_capture(path, Source("s", path.name, format=name)))  # type: ignore[misc]
        for name in FORMATS
    },
    "new": (".csv", lambda path: make_project(path, path.with_name("project"))),
    "new of json": (".jsonl", lambda path: make_project(path, path.with_name("project"))),
    "picture": (".png", read_picture),
    "outline font": (".ttf", lambda path: read_font(path, "f", {"size": 12, "level": 50.0})),
    "font": (".bdf", read_bdf),
    "project": (".toml", read_text),
    "trace": (".vcd", read_vcd),
}


@pytest.mark.parametrize("name", READERS)
def test_only_files_that_end_are_read(name: str, tmp_path: Path) -> None:
    """Each is refused by its kind, at once; nobody waits for a pipe that nobody fills."""
    ending, read = READERS[name]
    path = tmp_path / f"odd{ending}"
    makers: dict[str, Callable[[], None]] = {
        "it is a pipe": lambda: os.mkfifo(path),
        "it is a device": lambda: path.symlink_to("/dev/zero"),
        "it is a folder": path.mkdir,
        "No such file or directory": lambda: None,
    }
    for says, make in makers.items():
        make()
        with pytest.raises(LesartError, match=says):
            read(path)
        if path.is_dir():
            path.rmdir()
        else:
            path.unlink(missing_ok=True)


def test_no_more_than_is_allowed_is_read(tmp_path: Path) -> None:
    """Whatever the file says of its size: one under /proc says 0."""
    (tmp_path / "a").write_bytes(b"x" * 1001)
    assert len(read_whole(tmp_path / "a", 1001)) == 1001
    with pytest.raises(LesartError, match="it has more than 1000 bytes, which is the most that is read of such a file"):
        read_whole(tmp_path / "a", 1000)
    with pytest.raises(LesartError, match="it has more than 10 bytes"):
        read_whole(Path("/proc/self/status"), 10)


@pytest.mark.parametrize("kind", [ValueError, IndexError, BaseException, MemoryError, RecursionError])
def test_what_a_library_raises_becomes_a_sentence(kind: type[BaseException], capfd: pytest.CaptureFixture[str]) -> None:
    """Also what is no ``Exception``; and what it prints past Python is dropped."""

    def fails() -> None:
        with library("a.png", "a picture"):
            os.write(2, b"panicked at nowhere")
            raise kind("out of\n nowhere.")

    with pytest.raises(LesartError) as caught:
        fails()
    assert str(caught.value) == "a.png: it cannot be read as a picture (out of nowhere)."
    os.write(2, b"heard again")
    assert capfd.readouterr().err == "heard again"


def test_who_wants_to_stop_is_not_held_up() -> None:
    def fails() -> None:
        with library("a.png", "a picture"):
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        fails()


@pytest.mark.long
def test_a_damaged_parquet_file_ends_no_process(tmp_path: Path) -> None:
    """Lengths exchanged for huge ones, bytes cut out: some of these end the library's process by a signal."""
    import polars

    path = tmp_path / "a.parquet"
    polars.DataFrame({"t": list(range(50)), "mass": [t % 7 for t in range(50)]}).write_parquet(path)
    whole = path.read_bytes()
    source = Source("s", path.name, format="parquet", time="t")
    assert read_capture(path, source).columns["mass"].x[:3].tolist() == [0.0, 1.0, 2.0]
    for at in range(len(whole) - 60, len(whole) - 4, 11):
        for put in (b"\xff\xff\xff\x7f", b"\0\0\0\0"):
            path.write_bytes(whole[:at] + put + whole[at + 4 :])
            try:
                found = read_capture(path, source)
            except LesartError as error:
                assert str(error).startswith(str(path))
            else:
                assert len(found.t) <= 50


def test_times_beyond_all_recordings_are_none() -> None:
    """They have the latest time so far, as times that are missing and times that run back have."""
    found = time_axis(np.array([np.nan, 100.0, 101.0, 1e300, np.inf, 100.5, -1e300, 102.0]))
    assert found is not None
    assert found[0].tolist() == [0.0, 0.0, 1.0, 1.0, 1.0, 1.0, 1.0, 2.0]
    assert found[1] == 1
    assert time_axis(np.array([np.nan, np.inf])) is None
    shifted = time_axis(np.array([5.0, 6.0]), 0.0)
    assert shifted is not None
    assert shifted[0].tolist() == [5.0, 6.0]


@pytest.mark.parametrize(("times", "refused"), [(10, False), (150, False), (3000, True)])
def test_a_packed_file_that_would_fill_memory_is_refused(tmp_path: Path, times: int, refused: bool) -> None:
    """By what it comes to for its size, once that is much at all: 60 MB that came to so many times their size."""
    size = 60_000_000
    noise = np.random.default_rng(3).integers(0, 256, size // times, np.uint8).tobytes()
    path = tmp_path / "a.csv.gz"
    path.write_bytes(gzip.compress(noise + b"0" * (size - len(noise)), 9))
    ratio = size / path.stat().st_size
    assert refused == (ratio > 200)
    if refused:
        with pytest.raises(LesartError, match="200 times its size"):
            read_whole(path)
    else:
        assert len(read_whole(path)) == size
