"""A serial line that is heard at another rate: the very bits, sampled elsewhere."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.live.rig.other_rate import as_heard


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
