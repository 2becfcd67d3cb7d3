"""Frames in what came over a port: how long they are, what they begin with, and the check at their end."""

from __future__ import annotations

import random
import struct
from collections.abc import Callable

import pytest

from lesart.project.new.frames_heard import frames_heard


def dust(r: random.Random) -> bytes:
    """Thirty-two bytes: a head, twelve words, two bytes that say nothing, and the sum of all that in two."""
    body = b"\x42\x4d\x00\x1c" + b"".join(r.randint(0, 90).to_bytes(2, "big") for _ in range(12)) + b"\x97\x00"
    return body + (sum(body) & 0xFFFF).to_bytes(2, "big")


def gas(r: random.Random) -> bytes:
    """Nine bytes; the first is no part of the check, and a value's higher byte stands still."""
    body = b"\xff\x86" + (400 + r.randint(0, 90)).to_bytes(2, "big") + bytes((60 + r.randint(0, 3), 0, 0, 0))
    return body + bytes((-sum(body[1:]) & 0xFF,))


def far(r: random.Random) -> bytes:
    """Four bytes: a distance under 256 mm, behind a byte that begins; its higher byte is always nothing."""
    body = b"\xff" + r.randint(30, 250).to_bytes(2, "big")
    return body + bytes((sum(body) & 0xFF,))


def light(r: random.Random) -> bytes:
    body = b"\x59\x59" + struct.pack("<HHH", 100 + r.randint(0, 200), 3000 + r.randint(0, 900), 2064)
    return body + bytes((sum(body) & 0xFF,))


DEVICES: dict[Callable[[random.Random], bytes], tuple[str, int, str, int, list[int]]] = {
    dust: ("42 4D", 32, "sum-16", 0, [4, 6, 8, 10, 12, 14, 16]),
    gas: ("FF 86", 9, "LRC", 1, [2, 4]),
    far: ("FF", 4, "sum", 0, [1]),
    light: ("59 59", 9, "sum", 0, [2, 4]),
}
"""What each begins with, its length, its check, what that leaves out, and the first bytes of its values."""


@pytest.mark.parametrize("device", DEVICES, ids=lambda device: device.__name__)
@pytest.mark.parametrize("skipped", [0, 1, 3])
@pytest.mark.parametrize("is_cut", [True, False])
def test_they_are_told_apart(device: Callable[[random.Random], bytes], skipped: int, is_cut: bool) -> None:
    """Cut where the port rests, or in one piece that begins in the middle of a frame."""
    r = random.Random(skipped)
    frames = [device(r) for _ in range(60)]
    frames[0] = frames[0][skipped:]
    found = frames_heard(frames if is_cut else [b"".join(frames)])
    begins, length, check, unchecked, firsts = DEVICES[device]
    assert found is not None
    told = found.get("begins", ""), found["length"], found["check"], found.get("unchecked", 0)
    assert told == (begins, length, check, unchecked)
    assert [field["first_bit"] // 8 for field in found["fields"]][: len(firsts)] == firsts


def test_frames_without_a_check_are_those_between_rests() -> None:
    r = random.Random(2)
    frames = [
        b"\xa0\x41" + r.randint(0, 4000).to_bytes(2, "big") + r.randint(0, 900).to_bytes(2, "big") for _ in range(40)
    ]
    found = frames_heard(frames)
    assert found is not None
    assert (found["begins"], found["length"], "check" in found) == ("A0 41", 6, False)
    assert [field["first_bit"] for field in found["fields"]] == [16, 32]


def test_a_few_that_were_spoiled_hide_nothing() -> None:
    r = random.Random(3)
    frames = [dust(r) for _ in range(60)]
    for place in (7, 30):
        frames[place] = frames[place][:9] + bytes((frames[place][9] ^ 0x55,)) + frames[place][10:]
    found = frames_heard([b"".join(frames)])
    assert found is not None
    assert (found["begins"], found["length"], found["check"]) == ("42 4D", 32, "sum-16")


@pytest.mark.parametrize("data", [b"", b"\x00" * 400, b"one two\n" * 3, random.Random(4).randbytes(4000)])
def test_what_is_none_is_none(data: bytes) -> None:
    assert frames_heard([data] if data else []) is None
