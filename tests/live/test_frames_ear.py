"""Frames of bytes over a serial port: the rig's smoke sensor, one that has to be asked, and what goes wrong."""

from __future__ import annotations

import os
import pty
import threading
import tty
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.live.frames_ear import pieces_heard
from lesart.live.listening import Listening
from lesart.live.rig.rig import Rig
from lesart.project.tables.sources import check_source
from tests.live.sources import source_of
from tests.live.waiting import wait_for

FIELDS = [
    {"name": "count", "first_bit": 16, "bits": 8},
    {"name": "smoke", "first_bit": 24, "bits": 16},
    {"name": "warm", "first_bit": 40, "bits": 32, "order": "low first", "floating": True},
]
SMOKE = {"kind": "serial frames", "port": "rig/smoke", "begins": "5A A5", "length": 11, "check": "sum-16"}


def listening_to(folder: Path, line: dict[str, Any]) -> Listening:
    listening = Listening(source_of(line), folder)
    listening.start()
    return listening


@pytest.fixture
def rig(tmp_path: Path) -> Iterator[Rig]:
    rig = Rig(tmp_path / "rig", frames_hz=100.0)
    rig.start()
    yield rig
    rig.stop()


def test_every_frame_is_heard_with_its_values(rig: Rig, tmp_path: Path) -> None:
    listening = listening_to(tmp_path, {**SMOKE, "fields": FIELDS})
    wait_for(lambda: listening.state.tally.rows > 40, "the smoke sensor was heard")
    listening.stop()
    columns = listening.view()[1]
    assert list(columns) == ["count", "smoke", "warm"]
    assert set(np.diff(columns["count"].x) % 256) == {1.0}
    assert (abs(columns["smoke"].x - 85) < 20).all()
    assert (abs(columns["warm"].x - 27) < 0.5).all()
    assert not any(block.mark.any() for block in columns.values())


def test_spoiled_frames_are_rows_without_values(rig: Rig, tmp_path: Path) -> None:
    listening = listening_to(tmp_path, {**SMOKE, "fields": FIELDS})
    wait_for(lambda: listening.state.tally.rows > 5, "the smoke sensor was heard")
    rig.fault("checksum", 0.3)
    wait_for(lambda: listening.state.tally.rows > 80, "the smoke sensor was heard again")
    listening.stop()
    block = listening.view()[1]["smoke"]
    spoiled = (block.mark & Mark.CHECKSUM) != 0
    assert 10 < np.count_nonzero(spoiled) < 50
    assert np.isnan(block.x[spoiled]).all()
    assert block.usable[-10:].all()


def test_where_nothing_is_listed_it_is_said(rig: Rig, tmp_path: Path) -> None:
    listening = listening_to(tmp_path, SMOKE)
    wait_for(lambda: listening.state.trouble not in ("", "not opened yet"), "it says why")
    assert listening.state.trouble == "no field is listed; add one under fields"
    listening.stop()


def test_a_device_that_answers_only_is_asked(tmp_path: Path) -> None:
    """Nine bytes ask, nine answer, of whose check the first is no part."""
    ask = bytes.fromhex("FF 01 86 00 00 00 00 00 79")
    handle, other = pty.openpty()
    tty.setraw(other)
    asked: list[bytes] = []

    def answer() -> None:
        data = b""
        while True:
            try:
                data += os.read(handle, 64)
            except OSError:  # the other end is gone: nobody asks any more
                return
            while len(data) >= len(ask):
                asked.append(data[: len(ask)])
                data = data[len(ask) :]
                body = bytes((0xFF, 0x86)) + (400 + len(asked)).to_bytes(2, "big") + bytes(4)
                os.write(handle, body + bytes((-sum(body[1:]) & 0xFF,)))

    threading.Thread(target=answer, daemon=True).start()
    line = {
        "kind": "serial frames", "port": os.ttyname(other), "begins": "FF 86", "length": 9, "check": "LRC",
        "unchecked": 1, "asks": ask.hex(" "), "period": "0.02 s",
        "fields": [{"name": "gas", "first_bit": 16, "bits": 16}],
    }  # fmt: skip
    listening = listening_to(tmp_path, line)
    wait_for(lambda: listening.state.tally.rows >= 10, "it was asked and answered")
    listening.stop()
    assert set(asked) == {ask}
    assert listening.view()[1]["gas"].x[:10].tolist() == [401.0 + k for k in range(10)]
    os.close(handle)
    os.close(other)


def test_what_a_port_says_is_cut_where_it_rests(rig: Rig) -> None:
    most = 0
    for _ in range(20):
        pieces = pieces_heard(os.path.realpath(rig.folder / "smoke"), 9600, 0.4, rest_s=0.004)
        assert sum(map(len, pieces)) >= 11 * 20
        # Where the machine is busy some come at once; none is cut within.
        assert {len(piece) % 11 for piece in pieces[1:-1]} <= {0}
        most = max(most, len(pieces))
        if most > 5:
            break
    assert most > 5


@pytest.mark.parametrize(("wrong", "said"), [
    ({"begins": "5A A"}, 'line.begins = "5A A"; it must be bytes in hexadecimal, like CC BE'),
    ({"asks": "xy"}, 'line.asks = "xy"; it must be bytes in hexadecimal, like CC BE'),
    ({"length": 4}, "line.length = 4; what it begins with, a value and its check take 5 bytes at least; 0: a rest ends it"),
    ({"check": "CRC-8", "poly": "0x1FF"}, 'line: poly = "0x1FF"; it must be a number of 8 bits'),
    ({"fields": [{"name": "x", "first_bit": 73, "bits": 16}]},
     "line.fields[0].first_bit = 73; its 16 bits end after those of the frame, which has 88"),
    ({"fields": [{"name": "x", "bits": 16, "floating": True}]}, "line.fields[0].bits = 16; a floating-point number has 32 or 64"),
])  # fmt: skip
def test_what_cannot_be_is_said_with_its_place(wrong: dict[str, Any], said: str) -> None:
    source, problems = check_source("s", {"line": {**SMOKE, "fields": FIELDS, **wrong}})
    assert source is None
    (problem,) = problems
    assert str(problem).startswith(f"sources.s.{said}")
