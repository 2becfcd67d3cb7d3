"""A byte of a register or an address, as it is written in a project."""

from __future__ import annotations

import pytest

from lesart.core.raw.lines.line import byte_of


@pytest.mark.parametrize(("written", "number"), [("0xF7", 0xF7), ("247", 247), ("0", 0), ("0b101", 5), ("0xFF", 255)])
def test_a_byte_is_read(written: str, number: int) -> None:
    assert byte_of(written) == number


@pytest.mark.parametrize("written", ["", "F7", "abc", "-1", "256", "1.5", "0x100"])
def test_what_is_none_is_refused(written: str) -> None:
    with pytest.raises(ValueError, match="^it must be a number from 0x00 to 0xFF, like 0x7F$"):
        byte_of(written)


def test_an_address_has_seven_bits() -> None:
    assert byte_of("0x7F", 0x7F) == 0x7F
    with pytest.raises(ValueError, match="^it must be a number from 0x00 to 0x7F, like 0x3F$"):
        byte_of("0x80", 0x7F)
