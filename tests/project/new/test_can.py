"""Logs of a CAN bus: each identifier is a source, and what its words are was packed by the test."""

from __future__ import annotations

import math
import struct
from collections.abc import Callable, Sequence
from pathlib import Path

import pytest

from lesart.core.errors import CaptureError
from lesart.core.raw.messages.frames import ByteFrame
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.can_read import can_frame, can_frames, is_can
from lesart.project.check import check_project
from lesart.project.new.format import format_of
from lesart.project.new.make import make_project

BEGAN = 1_767_225_600
LEVELS = [round(200 + 500 * math.sin(k / 30)) for k in range(400)]
COUNTS = [5000 + 3 * k for k in range(400)]
MILLIVOLTS = [round(3000 + 100 * math.sin(k / 11)) for k in range(80)]


def compact(second: float, identifier: str, data: bytes) -> str:
    return f"({BEGAN + second:.6f}) can0 {identifier}#{data.hex().upper()}"


def spaced(second: float, identifier: str, data: bytes) -> str:
    return f" ({BEGAN + second:.6f})  can0  {identifier}   [{len(data)}]  {data.hex(' ').upper()}"


def dated(second: float, identifier: str, data: bytes) -> str:
    minute, rest = divmod(second, 60)
    return f" (2026-05-14 08:{int(minute):02d}:{rest:09.6f})  can1  {identifier}   [{len(data)}]  {data.hex(' ')}"


@pytest.mark.parametrize("line", [compact, spaced, dated])
def test_each_identifier_is_a_source_with_its_words(line: Callable[[float, str, bytes], str], tmp_path: Path) -> None:
    """High bytes first and low bytes first, below zero too, at the times that the lines have."""
    lines = []
    for k, (level, count) in enumerate(zip(LEVELS, COUNTS, strict=True)):
        lines.append(line(k / 10, "123", struct.pack(">hH", level, count)))
        if k % 5 == 0:
            lines.append(line(k / 10 + 0.003, "18FEF100", struct.pack("<HI", MILLIVOLTS[k // 5], 0xFFFFFFFF)))
        if k % 50 == 0:
            lines.append(line(k / 10 + 0.004, "7DF", bytes.fromhex("02010D")))
    (tmp_path / "bus.log").write_text("\n".join(lines) + "\n")
    assert format_of(tmp_path / "bus.log") == "hex"
    made = make_project(tmp_path / "bus.log", tmp_path / "bus")
    assert made.heard == (
        "identifier 123: 400 frames of 4 bytes, every 0.1 s",
        "identifier 18FEF100: 80 frames of 6 bytes, every 0.5 s",
        "identifier 7DF: 8 frames of 3 bytes, every 5 s; they never change",
    )
    assert made.bad_rows == 0
    assert made.channels == ("123 1-2", "123 3-4", "18FEF100")
    project = check_project((tmp_path / "bus" / "lesart.toml").read_text(encoding="utf-8"))
    read = {
        name: read_capture(tmp_path / "bus" / "captures" / "bus.log", project.sources[name]) for name in project.sources
    }
    assert sorted(read) == ["id 123", "id 18FEF100"]
    columns = {**read["id 123"].columns, "millivolts": next(iter(read["id 18FEF100"].columns.values()))}
    assert columns["bytes 1 and 2"].x.tolist() == LEVELS
    assert columns["bytes 3 and 4"].x.tolist() == COUNTS
    assert columns["millivolts"].x.tolist() == MILLIVOLTS
    assert columns["bytes 1 and 2"].t.tolist() == pytest.approx([k / 10 for k in range(400)], abs=1e-9)
    assert columns["millivolts"].t.tolist() == pytest.approx([k / 2 + 0.003 for k in range(80)], abs=1e-9)


def test_identifiers_beyond_those_that_are_read_are_said_to_be_left_out(tmp_path: Path) -> None:
    """They change, and nobody is told that they do not."""
    lines = [compact(k / 10, f"1{at:02X}", bytes([k % 100])) for k in range(100) for at in range(14)]
    (tmp_path / "bus.log").write_text("\n".join(lines))
    made = make_project(tmp_path / "bus.log", tmp_path / "bus")
    assert len(made.channels) == 12
    assert [said for said in made.heard if ";" in said] == [
        f"identifier {name}: 100 frames of 1 byte, every 0.1 s; left out, for 12 are read already"
        for name in ("10C", "10D")
    ]


def whole(frames: Sequence[ByteFrame]) -> list[tuple[float, str]]:
    return [(round(frame.t, 6), frame.data.hex()) for frame in frames if not frame.mark]


def test_what_is_no_frame_says_its_line() -> None:
    """A request has no bytes and is left out; what is cut off is broken, and all others are whole."""
    text = "\n".join(
        [
            compact(0.0, "001", b"\x01"),
            "(1767225600.5) can0 001#R",
            "can0 bus error",
            "(1767225600.7) can0 001#0",
            compact(1.0, "001", b"\x02\x03"),
            "can0  001   [1]  04",
            "(999999999999999) can0 001#0A",
            compact(0.5, "1ABCDEF0", b"\x05"),
        ]
    )
    frames = can_frames(text)
    assert [frame.why for frame in frames if frame.mark] == [
        "line 3 is no frame of a CAN bus",
        "line 4 is no frame of a CAN bus",
        "line 6 has no time",
        "line 7 is 9.99998e+14 s behind the first",
    ]
    # Time never goes back; 29 bits have four bytes, the first bit of which tells them from the two of 11 bits.
    assert whole(frames) == [(0.0, "000101"), (1.0, "00010203"), (1.0, "9abcdef005")]


@pytest.mark.parametrize(
    ("line", "identifier", "data"),
    [
        ("(0.125) can0 123#00C8", "0123", "00c8"),
        ("(0.125) vcan3 7FF#", "07ff", ""),
        ("(12) can0 00000123##1AABB", "80000123", "aabb"),
        (" (0.1)  can0  123   [2]  00 C8   '..'", "0123", "00c8"),
        ("(2026-05-14 08:00:00.5) can0 123#11.22.33", "0123", "112233"),
    ],
)
def test_a_frame_in_any_form(line: str, identifier: str, data: str) -> None:
    found = can_frame(line)
    assert found is not None
    assert (found.identifier.hex(), found.data.hex()) == (identifier, data)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "(1.5) temp 21.5",
        "[0.125] 123 00 C8",
        "0.125  01 03 04 1f",
        "T=21.5 H=60 %",
        "(0.1) can0 12345#00",
        "(0.1) can0 123#0",
        "a b 123 [2] 00 ZZ",
    ],
)
def test_other_lines_are_no_frames(text: str) -> None:
    assert not is_can("\n".join([text] * 20))


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        (["(0.1) can0 123#0102"] * 20, "the bytes of its identifiers never change, so there is nothing to read."),
        (["can0  123   [2]  01 02"] * 20, "its frames have no times; let them be printed, like (0.125) can0 123#00C8."),
    ],
)
def test_where_there_is_nothing_to_read(lines: list[str], says: str, tmp_path: Path) -> None:
    (tmp_path / "bus.log").write_text("\n".join(lines))
    with pytest.raises(CaptureError) as error:
        make_project(tmp_path / "bus.log", tmp_path / "bus")
    assert str(error.value) == f"{tmp_path / 'bus.log'}: {says}"
    assert not (tmp_path / "bus").exists()
