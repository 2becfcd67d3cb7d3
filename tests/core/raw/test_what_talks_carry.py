"""What a talk carries tells it from others: messages of bytes, commands of a driver, digits in turn, tenths."""

from __future__ import annotations

import pytest

from lesart.core.raw.edges import edges_of
from lesart.core.raw.talks.recognise import recognise
from tests.core.raw.traces import TwoLines, by_length, uart


def _in_letters(*message: int) -> bytes:
    """Modbus ASCII: a colon, two letters a byte, what brings their sum to zero, and the end of a line."""
    data = bytes((*message, -sum(message) & 0xFF))
    return b":" + data.hex().upper().encode() + b"\r\n"


def _checked(*message: int) -> bytes:
    """Modbus RTU: with the remainder of 0xA001, lowest first, by its bits."""
    left = 0xFFFF
    for byte in message:
        left ^= byte
        for _ in range(8):
            left = left >> 1 ^ (0xA001 if left & 1 else 0)
    return bytes((*message, left & 0xFF, left >> 8))


@pytest.mark.parametrize(
    ("words", "messages"),
    [
        ([_in_letters(1, 3, 0, unit, 0, 2) for unit in range(6)], "Modbus ASCII"),
        ([_checked(1, 3, 0, unit, 0, 2) for unit in range(6)], "Modbus RTU"),
        ([f"at 12:{minute} T={20 + minute / 10}\r\n".encode() for minute in range(10, 18)], "text lines"),
        ([b"at noon: nothing\r\n"] * 6, "none"),
    ],
)
def test_what_serial_bytes_say(words: list[bytes], messages: str) -> None:
    """By what they hold; a colon alone makes no message of a line."""
    (talk,) = recognise({"x": uart(words, 9600, gap_bits=60).edges()})
    assert (talk.kind, talk.messages) == ("serial bytes", messages)


@pytest.mark.parametrize(
    ("commands", "is_driver"),
    [
        ((0x40, 0xC0, 0x8A), True),  # digits one after the other, from the first, as bright as that
        ((0x44, 0xC0, 0x8F), True),  # one digit at its address
        ((0x44, 0xCF, 0x80), True),  # the last address, dark
        ((0x42, 0x80), True),  # keys are read
        ((0x45, 0xC0, 0x8A), False),
        ((0x41, 0xC0, 0x8A), False),
        ((0x40, 0xBF, 0x8A), False),
        ((0x40, 0xD0, 0x8A), False),
        ((0x40, 0xC0, 0x90), False),
    ],
)
def test_commands_that_such_a_driver_has(commands: tuple[int, ...], is_driver: bool) -> None:
    """Each of them alone, and what stands beside them in its code."""
    bus = TwoLines(bit_s=20e-6)
    for _ in range(8):
        for command in commands:
            bus.start().byte(command).stop()
    assert (recognise(bus.lines)[0].kind == "two-line driver") is is_driver


@pytest.mark.parametrize(("late", "are_digits"), [(0, True), (1, True), (4, False)])
def test_digits_in_turn_come_round_steadily(late: int, are_digits: bool) -> None:
    """One round in ten may be held up; of what comes round as it likes one line at a time is on by chance."""
    t, changes = 0.0, [[] for _ in range(4)]
    for place in range(200):
        for each in changes:
            each += [t, t + 2e-3]
            t += 2.1e-3
        t += 6e-3 * ((7 * place) % 10 < late)
    lines = {f"dig{place}": edges_of(each, [1, 0] * (len(each) // 2), 0, 0.0, t) for place, each in enumerate(changes)}
    assert ("scanned digits" in {talk.kind for talk in recognise(lines)}) is are_digits


@pytest.mark.parametrize(("tenths", "is_whole"), [((0, 9), True), ((9, 9), True), ((0, 10), False), ((10, 0), False)])
def test_tenths_behind_whole_numbers_are_told_from_tenths_over_two_bytes(
    tenths: tuple[int, int], is_whole: bool
) -> None:
    """Where the second bytes are never above nine; either may be the one that is."""
    frames = []
    for first in range(20, 32):
        data = bytes((first, tenths[0], first + 30, tenths[1]))
        frames.append(data + bytes((sum(data) & 0xFF,)))
    talk = recognise({"x": by_length(frames).edges()})[0]
    assert talk.kind == "bits by length"
    assert [bool(field.get("tenths")) for field in talk.fields] == [is_whole, is_whole]
