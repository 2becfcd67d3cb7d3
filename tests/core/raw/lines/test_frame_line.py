"""Frames of bytes in pieces of any size: found, believed, spoiled, lost and found again."""

from __future__ import annotations

import math
import struct
from collections.abc import Sequence
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.raw.lines.frame_line import FrameShape, FrameState, opened, take
from lesart.core.raw.lines.received import Received
from lesart.core.raw.messages.checksums import Crc, FrameCheck
from lesart.core.raw.messages.frames import FieldSpec

BEGINS = b"\x5a\xa5"
SUM = FrameCheck("sum-16")
FIELDS = (FieldSpec("smoke", 32, 16), FieldSpec("warm", 48, 32, order="low first", floating=True))
KNOWN = FrameShape(BEGINS, 12, check=SUM)


def frame(count: int, smoke: int, warm: float) -> bytes:
    """Written here once more."""
    body = BEGINS + bytes((count & 0xFF, 0)) + smoke.to_bytes(2, "big") + struct.pack("<f", warm)
    return body + (sum(body) % 65_536).to_bytes(2, "big")


def heard(shape: FrameShape, pieces: Sequence[tuple[float, bytes]]) -> tuple[FrameState, list[Received]]:
    """All that comes of pieces with their moments."""
    state = opened(FrameState(shape, FIELDS), 0.0)
    found = []
    for at, data in pieces:
        state, received = take(state, data, at)
        found.append(received)
    return state, found


def rows(found: Sequence[Received]) -> list[tuple[float, ...]]:
    return [row for each in found for row in each.values]


def events(found: Sequence[Received]) -> list[tuple[str, str]]:
    return [(event.what, event.says) for each in found for event in each.events]


VALUES = [(80 + k, 26.5 + k / 4) for k in range(20)]
STREAM = b"".join(frame(k, *each) for k, each in enumerate(VALUES))


@given(cuts=st.lists(st.integers(0, len(STREAM)), max_size=30))
def test_pieces_of_any_size_give_the_same_rows(cuts: list[int]) -> None:
    places = sorted({0, *cuts, len(STREAM)})
    pieces = [(1.0 + 0.01 * k, STREAM[a:b]) for k, (a, b) in enumerate(pairwise(places))]
    state, found = heard(KNOWN, pieces)
    assert rows(found) == VALUES
    assert events(found) == []
    assert state.rest == b""


def test_times_go_back_by_what_each_byte_takes() -> None:
    """Three frames at once, 9600 baud: each was over twelve bytes before the next."""
    byte_s = 10 / 9600
    state, found = take(FrameState(KNOWN, FIELDS, byte_s, last_read=0.9), STREAM[: 3 * 12], 1.0)
    assert found.t == pytest.approx([1.0 - 24 * byte_s, 1.0 - 12 * byte_s, 1.0], abs=1e-6)
    _, later = take(state, STREAM[36:48], 1.0)
    assert later.t[0] > found.t[-1]


@given(lost=st.integers(0, 40), start=st.integers(0, 100))
def test_after_bytes_that_are_lost_the_next_whole_frame_is_found(lost: int, start: int) -> None:
    """Whatever is cut out: every row that comes is one that was sent, and all behind the hole do come."""
    data = STREAM[:start] + STREAM[start + lost :]
    _, found = heard(KNOWN, [(1.0, data)])
    good = [row for row in rows(found) if not any(map(math.isnan, row))]
    behind = -(-(start + lost) // 12) if lost else 0
    assert [row for row in good if row not in VALUES] == []
    assert good[-(20 - behind) :] == VALUES[behind:]
    # The end of one frame behind the beginning of another is whole where both begin alike.
    sent = {STREAM[place : place + 12] for place in range(0, len(STREAM), 12)}
    assert len(good) == sum(data[place : place + 12] in sent for place in range(len(data)))


def test_a_spoiled_frame_is_a_row_without_values_that_says_why() -> None:
    spoiled = bytearray(STREAM)
    spoiled[12 * 3 + 5] ^= 0x40
    _, found = heard(KNOWN, [(1.0, bytes(spoiled))])
    got = rows(found)
    assert [k for k, row in enumerate(got) if math.isnan(row[0])] == [3]
    assert got[4:] == VALUES[4:]
    assert [mark for each in found for mark in each.marks][3] == Mark.CHECKSUM
    ((what, says),) = events(found)
    assert what == "checksum"
    came, right = sum(STREAM[36:46]), sum(spoiled[36:46])
    assert says.endswith(f"sum-16 is 0x{came:04X}, not 0x{right:04X}")


def test_what_stands_before_the_first_frame_is_said_once() -> None:
    """A line that is opened in the middle of a frame, and a device that greets."""
    _, found = heard(KNOWN, [(1.0, STREAM[7:12] + b"hello" + STREAM[12:36])])
    assert rows(found) == VALUES[1:3]
    ((what, says),) = events(found)
    assert what == "garbage"
    assert "hello" in says


def test_noise_without_a_frame_is_said_and_kept_nowhere() -> None:
    noise = bytes((k * 37 + 11) & 0x7F for k in range(20_000))
    state, found = heard(KNOWN, [(1.0 + k / 100, noise[k * 500 : k * 500 + 500]) for k in range(40)])
    assert rows(found) == []
    assert {what for what, _ in events(found)} == {"garbage"}
    assert len(state.rest) <= 4096 + 500


@pytest.mark.parametrize("gap_s", [0.06, 0.4])
def test_frames_of_no_known_length_end_where_the_line_rests(gap_s: float) -> None:
    """Each in two parts, which an adapter hands on 16 ms apart."""
    shape = FrameShape(BEGINS, 0, check=SUM)
    pieces, at = [], 1.0
    for k in range(20):
        pieces += [(at, STREAM[12 * k : 12 * k + 7]), (at + 0.016, STREAM[12 * k + 7 : 12 * k + 12])]
        at += 0.016 + gap_s
        if gap_s > 0.1:
            pieces.append((at - 0.2, b""))
    _, found = heard(shape, [*pieces, (at + 1.0, b"")])
    assert rows(found) == VALUES
    assert events(found) == []
    t = [moment for each in found for moment in each.t]
    assert t == pytest.approx([1.016 + (0.016 + gap_s) * k for k in range(20)])


def test_a_line_opened_within_a_frame_that_a_rest_ends_has_no_spoiled_one() -> None:
    shape = FrameShape(BEGINS, 0, check=SUM)
    _, found = heard(shape, [(1.0, STREAM[5:12]), (2.0, STREAM[12:24]), (3.0, STREAM[24:35]), (4.0, b"")])
    got = rows(found)
    assert got[0] == VALUES[1]
    assert [math.isnan(row[0]) for row in got] == [False, True]
    assert [what for what, _ in events(found)] == ["garbage", "checksum"]


def test_half_a_frame_and_no_more_is_said() -> None:
    _, found = heard(KNOWN, [(1.0, STREAM[:12]), (2.0, STREAM[12:19]), (3.0, b""), (4.0, STREAM[24:36])])
    got = rows(found)
    assert (got[0], got[2]) == (VALUES[0], VALUES[2])
    assert math.isnan(got[1][0])
    assert [says.partition(", ")[2] for _, says in events(found)] == ["7 bytes of 12, and no more"]


def test_without_a_beginning_the_check_finds_frames() -> None:
    check = FrameCheck("CRC-8", Crc(8, 0x31, 0xFF))
    bodies = [bytes((0, 0, 0, 0)) + smoke.to_bytes(2, "big") + struct.pack("<f", warm) for smoke, warm in VALUES]
    stream = b"\x07\x09" + b"".join(body + check.expected(body) for body in bodies)
    _, found = heard(FrameShape(b"", 11, check=check), [(1.0, stream)])
    assert rows(found) == VALUES


def test_of_lost_bytes_a_check_alone_finds_the_way_back() -> None:
    """One frame is lost with the byte, and the one behind it where that is met in its middle."""
    check = FrameCheck("CRC-8", Crc(8, 0x31, 0xFF))
    bodies = [bytes((0, 0, 0, 0)) + smoke.to_bytes(2, "big") + struct.pack("<f", warm) for smoke, warm in VALUES]
    stream = b"".join(body + check.expected(body) for body in bodies)
    _, found = heard(FrameShape(b"", 11, check=check), [(1.0, stream[:60] + stream[61:])])
    good = [row for row in rows(found) if not math.isnan(row[0])]
    assert good == [*VALUES[:5], *VALUES[-len(good) + 5 :]]
    assert len(good) >= 18


def test_while_all_are_spoiled_each_is_a_row() -> None:
    """The last of them too, once the line rests."""
    spoiled = b"".join(STREAM[12 * k : 12 * k + 11] + bytes((STREAM[12 * k + 11] ^ 1,)) for k in range(1, 20))
    _, found = heard(KNOWN, [(1.0, STREAM[:12] + spoiled), (2.0, b"")])
    assert len(rows(found)) == 20
    assert {what for what, _ in events(found)} == {"checksum"}


def test_a_check_may_leave_out_what_a_frame_begins_with() -> None:
    bodies = [bytes((0xFF, 0x86, 0, 0)) + smoke.to_bytes(2, "big") + bytes(2) for smoke, _ in VALUES]
    stream = b"".join(body + bytes((-sum(body[1:]) & 0xFF,)) for body in bodies)
    shape = FrameShape(b"\xff", 9, check=FrameCheck("LRC"), unchecked=1)
    state = opened(FrameState(shape, FIELDS[:1]), 0.0)
    _, found = take(state, stream, 1.0)
    assert [row[0] for row in found.values] == [smoke for smoke, _ in VALUES]
