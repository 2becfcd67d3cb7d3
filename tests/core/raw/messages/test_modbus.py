"""Modbus RTU: messages as the standard's examples have them, replies told from requests, registers as columns."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.messages.modbus import EXCEPTIONS, Message, message_of, read_messages
from tests.core.raw.traces import decode, uart


def with_crc(data: bytes) -> bytes:
    """By the loop of the standard, written here once more."""
    crc = 0xFFFF
    for byte in data:
        crc ^= byte
        for _ in range(8):
            crc = crc >> 1 ^ 0xA001 if crc & 1 else crc >> 1
    return data + crc.to_bytes(2, "little")


ASKED = Message(0x11, 3, False, 0x6B, 3)
# Bodies of the examples in the application protocol, section 6.
EXAMPLES = [
    ("11 03 006B 0003", None, ASKED, "unit 17: read 3 holding from 107"),
    ("11 03 06 022B 0000 0064", ASKED, Message(0x11, 3, True, registers=(555, 0, 100)), "unit 17: 3 holding"),
    ("11 04 0008 0001", None, Message(0x11, 4, False, 8, 1), "unit 17: read 1 input from 8"),
    ("11 04 02 000A", Message(0x11, 4, False, 8, 1), Message(0x11, 4, True, registers=(10,)), "unit 17: 1 input"),
    ("11 06 0001 0003", None, Message(0x11, 6, False, 1, 1, (3,)), "unit 17: write 1 holding from 1"),
    (
        "11 10 0001 0002 04 000A 0102",
        None,
        Message(0x11, 16, False, 1, 2, (10, 258)),
        "unit 17: write 2 holding from 1",
    ),
    ("11 10 0001 0002", None, Message(0x11, 16, True, 1, 2), "unit 17: wrote 2 holding from 1"),
    ("11 83 02", ASKED, Message(0x11, 3, True, exception=2), "unit 17 refuses: no such register"),
]


@pytest.mark.parametrize(("body", "asked", "wanted", "says"), EXAMPLES, ids=[row[3] for row in EXAMPLES])
def test_examples(body: str, asked: Message | None, wanted: Message, says: str) -> None:
    found = message_of(with_crc(bytes.fromhex(body)), asked)
    assert found == wanted
    assert wanted.says == says


def test_what_is_no_message() -> None:
    assert message_of(b"") is None
    assert message_of(with_crc(b"\x01\x2b\x00")) is None
    assert message_of(with_crc(b"\x01\x03\x00\x00\x00\x01")[:-1] + b"\x00") is None


def frame(t: float, body: str) -> ByteFrame:
    return ByteFrame(t, t + 0.01, with_crc(bytes.fromhex(body)))


def test_registers_of_a_mast() -> None:
    """Two registers asked each second; the second reply never comes, the third is refused, the fourth is spoiled."""
    spoiled = ByteFrame(3.1, 3.11, with_crc(bytes.fromhex("020304 2710 0002"))[:-1] + b"\0")
    frames = [
        frame(0.0, "02030000 0002"),
        frame(0.1, "020304 2710 0001"),
        frame(1.0, "02030000 0002"),
        frame(2.0, "02030000 0002"),
        frame(2.1, "028304"),
        frame(3.0, "02030000 0002"),
        spoiled,
        frame(4.0, "02030000 0002"),
        frame(4.1, "020304 2711 FFFF"),
    ]
    found = read_messages(frames)
    said, columns = found.frames, found.columns
    assert found.from_frame["unit 2 holding 0"] == (1, 3, 4, 7, 8)
    assert list(columns) == ["unit 2 holding 0", "unit 2 holding 1"]
    first, second = columns.values()
    assert first.t == pytest.approx([0.11, 2.0, 2.11, 4.0, 4.11])
    assert first.mark.tolist() == [0, Mark.MISSING, Mark.MISSING, Mark.MISSING, 0]
    assert first.x[[0, 4]].tolist() == [10_000, 10_001]
    assert second.x[[0, 4]].tolist() == [1, 65_535]
    assert [bool(each.mark) for each in said] == [False, False, False, False, True, False, True, False, False]
    assert said[4].why == "unit 2 refuses: device failed"
    assert said[6].why.startswith("CRC-16 is")


def test_out_of_the_bytes_of_a_line() -> None:
    """From edges to registers: what is sent on one line at 9600 baud."""
    line = uart([with_crc(bytes.fromhex("02030000 0001")), with_crc(bytes.fromhex("020302 00FA"))], 9600)
    frames = decode("serial bytes", line.edges(), baud=9600).frames
    assert frames is not None
    columns = read_messages(frames).columns
    assert columns["unit 2 holding 0"].x.tolist() == [250]


@given(st.lists(st.binary(max_size=12), max_size=12), st.data())
def test_any_frames_are_taken(bodies: list[bytes], data: st.DataObject) -> None:
    frames = []
    for place, body in enumerate(bodies):
        whole = with_crc(body) if data.draw(st.booleans()) else body
        frames.append(ByteFrame(float(place), place + 0.5, whole))
    found = read_messages(frames)
    said, columns = found.frames, found.columns
    assert all(len(found.from_frame[name]) == len(block) for name, block in columns.items())
    assert len(said) == len(frames)
    for block in columns.values():
        assert (np.diff(block.t) >= 0).all()
        assert not np.isnan(block.x[block.usable]).any()


@given(
    st.integers(1, 247),
    st.sampled_from([3, 4]),
    st.integers(0, 65_000),
    st.lists(st.integers(0, 65_535), min_size=1, max_size=20),
)
def test_what_is_asked_is_answered(unit: int, function: int, address: int, values: list[int]) -> None:
    asked = with_crc(bytes((unit, function)) + address.to_bytes(2, "big") + len(values).to_bytes(2, "big"))
    body = b"".join(value.to_bytes(2, "big") for value in values)
    reply = with_crc(bytes((unit, function, len(body))) + body)
    columns = read_messages([ByteFrame(0.0, 0.1, asked), ByteFrame(0.2, 0.3, reply)]).columns
    assert [block.x.tolist() for block in columns.values()] == [[value] for value in values]


SPECIFIED = {
    1: ("function",), 2: ("register",), 3: ("value",), 4: ("device", "failed"), 5: ("acknowledged",), 6: ("busy",),
    8: ("parity",), 10: ("gateway", "path"), 11: ("gateway", "answer"),
}  # fmt: skip
"""What each refusal is about. Source: Modbus application protocol, section 7."""


def test_each_refusal_says_what_it_is_about() -> None:
    assert set(EXCEPTIONS) == set(SPECIFIED)
    for code, words in SPECIFIED.items():
        found = message_of(with_crc(bytes((0x11, 0x83, code))), ASKED)
        assert found is not None
        assert found.exception == code
        assert all(word in found.says for word in words)
