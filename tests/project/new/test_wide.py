"""Floating-point numbers, counters and values of three bytes in frames of which nobody says where they stand: made with
the standard library's own packing, so that their places are known."""

from __future__ import annotations

import math
import random
import struct
from pathlib import Path
from typing import Any

import pytest

from lesart.core.raw.messages.frames import FieldSpec
from lesart.project.captures.capture_read import read_capture
from lesart.project.check import check_project
from lesart.project.new.devices import equal_frames
from lesart.project.new.make import make_project

ORDERS = pytest.mark.parametrize("order", ["<", ">"])
COUNTS = pytest.mark.parametrize("count", [40, 200, 1000])


def places(frames: list[bytes]) -> list[tuple[int, int, bool]]:
    """First byte, bytes, and whether it is a floating-point number, of each value that is found."""
    return [
        (each["first_bit"] // 8, each["bits"] // 8, each.get("floating", False)) for each in equal_frames(frames).fields
    ]


def told(frames: list[bytes]) -> list[list[float | None]]:
    """What the found fields read, a list a field."""
    specs = [
        FieldSpec(
            each["name"], each["first_bit"], each["bits"], each.get("order", "high first"), each.get("sign", "none"),
            floating=each.get("floating", False),
        )
        for each in equal_frames(frames).fields
    ]  # fmt: skip
    return [[spec.number(frame) for frame in frames] for spec in specs]


def climate(seed: int, count: int) -> list[tuple[float, float, float]]:
    """Warmth with noise, moisture with more, and a pressure that goes more slowly than its last bits go round."""
    r = random.Random(seed)
    return [
        (21.3 + 2 * math.sin(k / 50) + r.gauss(0, 0.02), 45 + r.gauss(0, 0.3), 1013.2 + 0.001 * k) for k in range(count)
    ]


@ORDERS
@COUNTS
def test_numbers_behind_a_head(order: str, count: int) -> None:
    values = climate(1, count)
    frames = [struct.pack(f"{order}Bfff", 7, *each) for each in values]
    assert places(frames) == [(1, 4, True), (5, 4, True), (9, 4, True)]
    for found, wanted in zip(told(frames), zip(*values, strict=True), strict=True):
        assert found == pytest.approx(wanted, rel=1e-6)


@ORDERS
def test_a_clock_of_milliseconds_before_them(order: str) -> None:
    """It rises by about as much each time, and further than two bytes count."""
    r = random.Random(2)
    clock = [5000 + 1000 * k + r.randint(0, 3) for k in range(300)]
    frames = [struct.pack(f"{order}Ifff", t, *each) for t, each in zip(clock, climate(3, 300), strict=True)]
    assert places(frames) == [(0, 4, False), (4, 4, True), (8, 4, True), (12, 4, True)]
    assert told(frames)[0] == clock


def test_a_byte_that_counts_frames_and_a_word_before_one() -> None:
    r = random.Random(4)
    cells = [3700 + r.randint(-5, 5) for _ in range(300)]
    frames = [
        struct.pack("<BHf", k & 255, cell, each[0])
        for k, (cell, each) in enumerate(zip(cells, climate(5, 300), strict=True))
    ]
    assert places(frames) == [(1, 2, False), (3, 4, True), (0, 1, False)]
    assert told(frames)[::2] == [cells, [k & 255 for k in range(300)]]


@ORDERS
@COUNTS
def test_six_axes_about_nothing(order: str, count: int) -> None:
    """Of either sign, and as near to zero as chance has it."""
    r = random.Random(6)
    axes = [[r.gauss(m, 0.02) for m in (0, 0, 1)] + [r.gauss(0, 3) for _ in range(3)] for _ in range(count)]
    frames = [struct.pack(f"{order}BB6f", 0xAA, 0x55, *each) for each in axes]
    assert places(frames) == [(2 + 4 * k, 4, True) for k in range(6)]


@ORDERS
@pytest.mark.parametrize("was_short", [True, False])
def test_numbers_of_eight_bytes(order: str, was_short: bool) -> None:
    """Also of a number that was one of four before it was written."""
    values = [each[:2] for each in climate(7, 100)]
    if was_short:
        values = [struct.unpack("2f", struct.pack("2f", *each)) for each in values]
    frames = [struct.pack(f"{order}Bdd", 1, *each) for each in values]
    assert places(frames) == [(1, 8, True), (9, 8, True)]
    assert told(frames) == [list(each) for each in zip(*values, strict=True)]


def test_tenths_and_whole_numbers() -> None:
    """Their last bytes are few, or nothing."""
    r = random.Random(8)
    tenths = [round(21 + 3 * math.sin(k / 40) + r.gauss(0, 0.1), 1) for k in range(200)]
    assert places([struct.pack("<BBf", 0xAA, 0x55, each) for each in tenths]) == [(2, 4, True)]
    counts = [float(int(512 + 400 * math.sin(k / 9))) for k in range(200)]
    assert places([struct.pack("<f", each) for each in counts]) == [(0, 4, True)]


def test_a_sensor_that_fails_now_and_then_leaves_them_what_they_are(tmp_path: Path) -> None:
    """Frames of a dump with their check; no text, though lines end in them by chance. What is no number is marked."""
    lines = []
    for k, each in enumerate(climate(9, 300)):
        frame = struct.pack("<BBIfff", 0xAA, 0x55, 5000 + 1000 * k, each[0] if k != 40 else math.nan, *each[1:])
        lines.append(f"{k}  {(frame + bytes((sum(frame) & 0xFF,))).hex(' ')}\n")
    (tmp_path / "node.hex").write_text("".join(lines))
    made = make_project(tmp_path / "node.hex", tmp_path / "made")
    source = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8")).sources["capture"]
    assert [(each.first_bit, each.bits, each.floating) for each in source.fields] == [
        (16, 32, False), (48, 32, True), (80, 32, True), (112, 32, True),
    ]  # fmt: skip
    assert source.decoding is not None
    assert (source.decoding.check.kind, source.decoding.messages) == ("sum", "none")
    capture = read_capture(tmp_path / "node.hex", source)
    assert capture.bad_count == 1
    assert math.isnan(capture.columns["bytes 7 to 10"].x[40])
    assert capture.columns["bytes 15 to 18"].x[-1] == pytest.approx(1013.499, abs=1e-3)


def signed(order: Any, size: int, values: list[int]) -> bytes:
    return b"".join(each.to_bytes(size, order, signed=True) for each in values)


@pytest.mark.parametrize("order", ["big", "little"])
@pytest.mark.parametrize("head", [b"", b"\xc0\x00\x00"])
@pytest.mark.parametrize("middles", [(0x402000, 0x390000, 0x41AAAA), (-5000, 200_000, 90), (1000, -2000, 30)])
def test_values_of_three_bytes(order: str, head: bytes, middles: tuple[int, ...]) -> None:
    """Of converters of 24 bits, some of them where the highest bytes look like an exponent."""
    r = random.Random(10)
    values = [[round(r.gauss(m, 2000)) for m in middles] for _ in range(120)]
    frames = [head + signed(order, 3, each) for each in values]
    assert places(frames) == [(len(head) + 3 * k, 3, False) for k in range(3)]
    assert told(frames) == [list(each) for each in zip(*values, strict=True)]


@pytest.mark.parametrize("order", ["big", "little"])
def test_words_are_no_numbers_of_four_bytes(order: str) -> None:
    """Six axes of 16 bits that are shaken, one of which stands where exponents are; a counter beside such a word; bytes
    that say nothing."""
    r = random.Random(11)
    middles = (0, 0, 16_384, 0, 0, 0)
    shaken = [[max(min(round(r.gauss(m, 5000)), 32_767), -32_768) for m in middles] for _ in range(300)]
    assert places([signed(order, 2, each) for each in shaken]) == [(2 * k, 2, False) for k in range(6)]
    counted = [[16_400 + k % 3, (k * 517) % 32_768, 17_000 + r.randint(-9, 9)] for k in range(300)]
    assert places([signed(order, 2, each) for each in counted]) == [(2 * k, 2, False) for k in range(3)]
    noise = [r.randbytes(12) for _ in range(300)]
    assert not any(floating for *_, floating in places(noise))
