"""A serial line that is heard at another rate: the very bits, sampled elsewhere."""

from __future__ import annotations

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.cli.new.from_port import FEWEST_VALUES, RATES, is_text
from lesart.live.rig.other_rate import as_heard
from lesart.live.rig.signals import smoke_frame
from lesart.project.new.frames_heard import frames_heard


@given(st.binary(max_size=60))
def test_at_its_own_rate_every_byte_is_heard(data: bytes) -> None:
    assert as_heard(data, 9600, 9600) == data
    # A clock that is three in a hundred off samples the last bit 0.3 bits from its middle.
    assert as_heard(data, 9600, 9600 * 1.03) == data
    assert as_heard(data, 9600, 9600 * 0.97) == data


@pytest.mark.parametrize(
    ("data", "sent", "read", "heard"),
    [
        # Each bit is two: low low, high high, low low … The tenth is low, so the first one is broken; the next fall is
        # that of bit 5, and behind it come low, high high, low low, high high, and the rest.
        ("55", 9600, 19200, "00E6"),
        # Low for nine bits, which are eighteen: one broken byte, and no fall behind it.
        ("00", 9600, 19200, "00"),
        # Behind two low ones all are high.
        ("FF", 9600, 19200, "FE"),
        # Slower, the start bit is just seen at its end.
        ("FF", 9600, 5000, "FF"),
    ],
)
def test_by_hand(data: str, sent: int, read: int, heard: str) -> None:
    assert as_heard(bytes.fromhex(data), sent, read).hex().upper() == heard


def test_there_are_as_many_bytes_as_there_is_time_for() -> None:
    """Twelve times as fast a receiver makes many bytes of a text, none of them its letters; a slower one fewer."""
    text = b"temperature 21.5\r\n" * 20
    fast, slow = as_heard(text, 9600, 115200), as_heard(text, 9600, 2400)
    assert len(slow) < len(text) < len(fast)
    for other in (fast, slow):
        printed = sum(0x20 <= byte < 0x7F or byte in b"\r\n" for byte in other)
        assert printed < 0.5 * len(other)


@pytest.mark.parametrize(
    "sent",
    [9600, 38_400, *(pytest.param(each, marks=pytest.mark.long) for each in (115_200, 57_600, 19_200, 4800, 2400))],
)
def test_at_no_wrong_rate_is_a_check_right(sent: int) -> None:
    """Lines of text and frames of the smoke sensor, at each rate but their own: too few values of bytes, or no
    check."""
    dice = random.Random(sent)
    lines = [f"{place} {20 + dice.gauss(0, 1):.2f} {dice.randrange(1024)}\r\n".encode() for place in range(40)]
    frames = [smoke_frame(place, place / 4, dice) for place in range(40)]
    assert len(set(b"".join(frames))) >= FEWEST_VALUES
    right = frames_heard(frames)
    assert right is not None
    assert right["check"] == "sum-16"
    for messages in (lines, frames):
        for rate in RATES:
            if rate == sent:
                continue
            heard = [as_heard(message, sent, rate) for message in messages]
            assert not is_text(b"".join(heard))
            found = frames_heard(heard) if len(set(b"".join(heard))) >= FEWEST_VALUES else None
            assert found is None or "check" not in found, (rate, found)
