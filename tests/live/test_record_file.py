"""Writing a recording: never torn, never silent about what was lost, patient with a disk that is full."""

from __future__ import annotations

import errno
import os
import resource
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.core.raw.lines.received import Event, Received
from lesart.core.raw.source import Source
from lesart.live.back_off import LONGEST_S, BackOff
from lesart.live.buffer import Buffer
from lesart.live.record_file import RecordFile
from lesart.live.tally import Tally
from lesart.project.captures.capture_read import read_capture

STARTED = datetime(2026, 5, 14, 8, tzinfo=UTC)


def batch(first: int, count: int = 10) -> Received:
    places = range(first, first + count)
    return Received(
        ("x",), tuple(place / 10 for place in places), tuple((float(place),) for place in places), (1,) * count
    )


def values(path: Path) -> list[float]:
    return read_capture(path, Source("s", path.name, format="recording")).columns["x"].x.tolist()


def test_a_recording_never_replaces_another(tmp_path: Path) -> None:
    (tmp_path / "r.csv").write_text("kept")
    with pytest.raises(StorageError, match="never replaces another"):
        RecordFile(tmp_path / "r.csv", "s", STARTED)
    assert (tmp_path / "r.csv").read_text() == "kept"


def test_without_a_row_there_is_no_file(tmp_path: Path) -> None:
    file = RecordFile(tmp_path / "deeper" / "r.csv", "s", STARTED)
    file.add(Received(events=(Event(0.1, "chatter", "hello"),)))
    assert file.close(1.0).rows == 0
    assert not (tmp_path / "deeper" / "r.csv").exists()


def test_what_happened_before_the_first_row_stands_behind_the_head(tmp_path: Path) -> None:
    file = RecordFile(tmp_path / "r.csv", "s", STARTED)
    file.add(Received(events=(Event(0.1, "chatter", '"hello"'),)))
    file.add(batch(3, 1))
    file.close(1.0)
    assert (tmp_path / "r.csv").read_text().splitlines()[3:] == [
        "t,x",
        '# 0.100000 chatter: "hello"',
        "0.300000,3",
        "# 0.300000 ended: 1 rows",
    ]


def _full_at(room: int, then: list[int]) -> Callable[[int, bytes], int]:
    """A disk with ``room`` bytes, and with more as soon as ``then`` has something to give."""
    left = room

    def write(handle: int, data: bytes) -> int:
        nonlocal left
        if left == 0 and then:
            left = then.pop()
        if left == 0:
            raise OSError(errno.ENOSPC, "No space left on device")
        part = data[:left]
        left -= len(part)
        return os.write(handle, part)

    return write


@pytest.mark.parametrize("room", [0, 1, 100, 137, 180])
def test_a_full_disk_is_said_and_nothing_is_torn_when_there_is_room_again(tmp_path: Path, room: int) -> None:
    then: list[int] = []
    file = RecordFile(tmp_path / "r.csv", "s", STARTED, write=_full_at(room, then))
    for place in range(5):
        file.add(batch(10 * place))
        file.write(float(place * 2))
    assert file.state.trouble == "No space left on device"
    then.append(10**6)
    recorded = file.close(20.0)
    assert (recorded.rows, recorded.lost, recorded.trouble) == (50, 0, "")
    assert values(tmp_path / "r.csv") == [float(place) for place in range(50)]


def test_what_has_no_room_to_wait_is_counted_and_named_in_the_file(tmp_path: Path) -> None:
    then: list[int] = []
    file = RecordFile(tmp_path / "r.csv", "s", STARTED, write=_full_at(0, then), room=300)
    for place in range(20):
        file.add(batch(10 * place))
        file.write(2.0 * place)
    then.append(10**6)
    file.write(100.0)
    file.add(batch(200))
    recorded = file.close(101.0)
    text = (tmp_path / "r.csv").read_text()
    assert recorded.lost > 0
    assert recorded.rows + recorded.lost == 210
    assert f"# 20.000000 lost: {recorded.lost} rows before this, No space left on device" in text
    assert values(tmp_path / "r.csv")[-10:] == [float(place) for place in range(200, 210)]


def test_one_whose_disk_stayed_full_does_not_say_that_it_ended(tmp_path: Path) -> None:
    """So that it is known for one that nobody took up, with the rows that are in it."""
    file = RecordFile(tmp_path / "r.csv", "s", STARTED, write=_full_at(150, []))
    for place in range(5):
        file.add(batch(10 * place))
        file.write(float(place * 2))
    recorded = file.close(20.0)
    assert recorded.rows + recorded.lost == 50
    assert recorded.trouble == "No space left on device"
    text = (tmp_path / "r.csv").read_text()
    assert " ended: " not in text
    whole = [line for line in text.splitlines(keepends=True)[4:] if line.endswith("\n")]
    assert recorded.rows <= len(whole)


def test_a_limit_of_the_operating_system_is_met_as_a_full_disk(tmp_path: Path) -> None:
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    file = RecordFile(tmp_path / "r.csv", "s", STARTED)
    try:
        resource.setrlimit(resource.RLIMIT_FSIZE, (1000, hard))
        for place in range(40):
            file.add(batch(10 * place))
            file.write(2.0 * place)
        assert file.state.trouble == "File too large"
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
    assert file.close(100.0).rows == 400
    assert values(tmp_path / "r.csv") == [float(place) for place in range(400)]


def test_it_is_forced_to_the_disk_at_least_every_second(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    forced: list[int] = []
    monkeypatch.setattr(os, "fsync", lambda handle: forced.append(handle))
    file = RecordFile(tmp_path / "r.csv", "s", STARTED)
    counts = []
    for place in range(12):
        file.add(batch(10 * place))
        file.write(0.25 * place)
        counts.append(len(forced))
        assert len(values(tmp_path / "r.csv")) == 10 * (place + 1)
    assert counts == [1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3]
    file.close(3.0)


# What is kept to look at


def test_views_of_a_buffer_stay_as_they_were_while_it_grows() -> None:
    buffer = Buffer()
    buffer.append(batch(0, 4000))
    _, before = buffer.view()
    for place in range(4000, 12_000, 1000):
        buffer.append(batch(place, 1000))
    _, after = buffer.view()
    assert before["x"].x.tolist() == [float(place) for place in range(4000)]
    assert after["x"].x.tolist() == [float(place) for place in range(12_000)]


def test_a_full_buffer_lets_its_older_half_go_and_says_so() -> None:
    buffer = Buffer(most_rows=10_000)
    for place in range(0, 30_000, 1000):
        buffer.append(batch(place, 1000))
    gone, columns = buffer.view()
    x = columns["x"].x.tolist()
    assert x == [float(place) for place in range(gone, 30_000)]
    assert 4000 <= len(x) <= 10_000


def test_rate_age_and_losses_of_a_line() -> None:
    tally = Tally()
    for place in range(100):
        tally = tally.heard(batch(place, 1), place / 10)
    assert tally.rate_hz(9.9) == pytest.approx(10, rel=0.1)
    assert tally.age_s(12.0) == pytest.approx(2.1)
    assert tally.rate_hz(13.0) == 0
    tally = tally.heard(
        Received(events=(Event(1, "garbage", "x"), Event(1, "chatter", "hi"), Event(1, "garbage", "y"))), 13.0
    )
    assert dict(tally.bad) == {"garbage": 2}


def test_a_line_that_is_gone_is_tried_less_and_less_often() -> None:
    waits, back_off = [], BackOff()
    for _ in range(8):
        waits.append(back_off.wait_s)
        back_off = back_off.failed()
    assert waits == [0.25, 0.5, 1, 2, 4, 8, LONGEST_S, LONGEST_S]
