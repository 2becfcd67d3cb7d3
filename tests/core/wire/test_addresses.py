"""Addresses on two wires: seven bits, without those that the bus keeps for itself."""

from __future__ import annotations

import pytest

from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.part import parse_address
from tests.core.wire.hookups import hookup


@pytest.mark.parametrize("address", range(0x100))
def test_an_address_has_seven_bits(address: int) -> None:
    """0x08 to 0x77 are free for parts; up to 0xEF one may be printed with the bit for reading behind it."""
    if 0x08 <= address <= 0x77:
        assert parse_address(f"0x{address:02X}") == parse_address(str(address)) == address
        return
    with pytest.raises(ValueError, match='from "0x08" to "0x77"') as refused:
        parse_address(f"0x{address:02X}")
    in_eight = f"printed with eight bits, 0x{address:02X} is 0x{address >> 1:02X}"
    assert (in_eight in str(refused.value)) is (0x78 <= address <= 0xEF)


def test_a_short_hides_no_other_fault() -> None:
    """Both are told, in whichever order they were joined."""
    parts = {"board": "5 V board", "glass": "two-wire pixel display"}
    joins = ["glass.supply > board.gnd", "board.5V > board.gnd", "glass.data > board.a1"]
    for order in (joins, joins[::-1]):
        told = [note.text for note in inspect_hookup(hookup(parts, "; ".join(order)))]
        assert sum("that is a short of" in text for text in told) == 1, told
        assert sum("does not work with" in text for text in told) == 2, told
