"""Checks of frames by their published vectors, and values by their place in a frame."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.raw.messages.checksums import MODBUS, Crc, FrameCheck
from lesart.core.raw.messages.frames import OF_TENTHS, SIGNS, ByteFrame, FieldSpec, checked, values_of
from lesart.project.tables.sources import check_source

NINE = b"123456789"
"""What the published check values of every CRC are worked out over."""
PUBLISHED = [
    (Crc(8, 0x07), 0xF4),
    (Crc(8, 0x31, 0xFF), 0xF7),
    (Crc(8, 0x31, reflect_in=True, reflect_out=True), 0xA1),
    (Crc(16, 0x8005, 0xFFFF, reflect_in=True, reflect_out=True), 0x4B37),
    (Crc(16, 0x1021), 0x31C3),
    (Crc(16, 0x1021, 0xFFFF), 0x29B1),
    (Crc(16, 0x1021, reflect_in=True, reflect_out=True), 0x2189),
    (Crc(16, 0x1021, 0xFFFF, reflect_in=True, reflect_out=True, xor_out=0xFFFF), 0x906E),
    (Crc(16, 0x8005, reflect_in=True, reflect_out=True), 0xBB3D),
]


@pytest.mark.parametrize(("crc", "value"), PUBLISHED, ids=[f"{value:X}" for _, value in PUBLISHED])
def test_published_check_values(crc: Crc, value: int) -> None:
    assert crc.of(NINE) == value


def test_modbus_by_its_own_example() -> None:
    """Bytes 02 07 give 0x1241; on the line the low byte comes first."""
    assert MODBUS.of(b"\x02\x07") == 0x1241
    assert FrameCheck("CRC-16", MODBUS, low_first=True).expected(b"\x02\x07") == b"\x41\x12"


def bitwise(data: bytes, poly: int, width: int, init: int) -> int:
    """The remainder by long division, a bit at a time, as in a textbook."""
    value = init
    for bit in "".join(f"{byte:08b}" for byte in data):
        top = value >> (width - 1) & 1
        value = (value << 1) & ((1 << width) - 1)
        if top ^ int(bit):
            value ^= poly
    return value


@given(st.binary(max_size=40), st.sampled_from([8, 16]), st.integers(0, 0xFFFF), st.integers(0, 0xFFFF))
def test_tables_agree_with_long_division(data: bytes, width: int, poly: int, init: int) -> None:
    mask = (1 << width) - 1
    assert Crc(width, poly & mask, init & mask).of(data) == bitwise(data, poly & mask, width, init & mask)


@given(
    st.binary(min_size=1, max_size=20),
    st.sampled_from(["sum", "sum-16", "xor", "LRC", "CRC-8", "CRC-16"]),
    st.integers(0, 159),
)
def test_a_flipped_bit_is_always_seen(data: bytes, kind: str, where: int) -> None:
    crc = Crc(16, 0x1021, 0xFFFF) if kind == "CRC-16" else Crc(8, 0x31, 0xFF)
    check = FrameCheck(kind, crc)  # type: ignore[arg-type]
    frame = data + check.expected(data)
    assert check.wrong(frame) == ""
    place = where % (8 * len(frame))
    spoiled = bytearray(frame)
    spoiled[place // 8] ^= 1 << place % 8
    assert kind in check.wrong(bytes(spoiled))


def test_a_sum_by_hand() -> None:
    """02 + 8C + 01 + 5F = EE, the example of every such sensor's sheet."""
    check = FrameCheck("sum")
    assert check.wrong(bytes.fromhex("028c015fee")) == ""
    assert check.wrong(bytes.fromhex("028c015fef")) == "sum is 0xEF, not 0xEE"
    assert check.wrong(b"\x00") == "1 byte, too few for a sum"
    # 0x42 + 0x4D + 0xFF + 0xFF = 0x28D.
    both = FrameCheck("sum-16"), FrameCheck("sum-16", low_first=True)
    assert [each.wrong(bytes.fromhex("424dffff028d")) for each in both] == ["", "sum-16 is 0x028D, not 0x8D02"]
    assert [each.wrong(bytes.fromhex("424dffff8d02")) for each in both] == ["sum-16 is 0x8D02, not 0x028D", ""]


FIELDS = [
    (FieldSpec("humidity", 0, 16, scale=0.1), "028c015fee", 65.2),
    (FieldSpec("cold", 16, 16, sign="sign bit", scale=0.1), "028c8065", -10.1),
    (FieldSpec("two's", 0, 16, sign="two's complement"), "fffe", -2),
    (FieldSpec("low first", 0, 16, "low first", "two's complement"), "feff", -2),
    (FieldSpec("nibble", 4, 4), "a7", 7),
    (FieldSpec("twelve", 4, 12, sign="two's complement"), "0fff", -1),
    (FieldSpec("24", 0, 24, "low first", "two's complement", 1 / 128), "0000ff", -512),
    (FieldSpec("pair", 0, 16, tenths=True), "1905", 25.5),
    (FieldSpec("cold pair", 0, 16, sign="sign bit", tenths=True), "8a05", -10.5),
    (FieldSpec("cold tenths", 0, 16, sign=OF_TENTHS, tenths=True), "0385", -3.5),
    (FieldSpec("warm tenths", 0, 16, sign=OF_TENTHS, tenths=True), "0305", 3.5),
    (FieldSpec("just below", 0, 16, sign=OF_TENTHS, tenths=True), "0081", -0.1),
    (FieldSpec("signed pair", 0, 16, sign="two's complement", tenths=True), "fd05", -3.5),
    (FieldSpec("words", 0, 32, word_swap=True), "00010002", 0x00020001),
    (FieldSpec("shifted", 0, 8, offset=-40.0), "50", 40),
]


@pytest.mark.parametrize(("spec", "data", "value"), FIELDS, ids=[row[0].name for row in FIELDS])
def test_fields_by_hand(spec: FieldSpec, data: str, value: float) -> None:
    assert spec.number(bytes.fromhex(data)) == pytest.approx(value)


def test_a_broken_frame_has_no_value_and_says_why() -> None:
    good, bad, short = (
        ByteFrame(t, t + 0.1, bytes.fromhex(data))
        for t, data in ((0.0, "028c015fee"), (1.0, "028c015fef"), (2.0, "02"))
    )
    frames = checked([good, bad, short], FrameCheck("sum"))
    block, wrong = values_of(frames, FieldSpec("humidity", 0, 16, scale=0.1))
    assert wrong == {}
    assert block.t.tolist() == [0.1, 1.1, 2.1]
    assert block.x[0] == pytest.approx(65.2)
    assert np.isnan(block.x[1:]).all()
    assert block.mark.tolist() == [0, Mark.CHECKSUM, Mark.CHECKSUM]
    block, wrong = values_of([ByteFrame(0, 0, b"\x01")], FieldSpec("far", 8, 8))
    assert wrong == {0: "it ends before bit 16"}
    assert block.mark.tolist() == [Mark.MISSING]


@given(st.binary(min_size=8, max_size=8), st.integers(0, 32), st.integers(1, 32))
def test_unsigned_fields_are_the_bits_that_stand_there(data: bytes, first: int, bits: int) -> None:
    text = "".join(f"{byte:08b}" for byte in data)[first : first + bits]
    assert FieldSpec("f", first, bits).number(data) == int(text, 2)


@pytest.mark.parametrize("sign", SIGNS)
def test_more_than_nine_tenths_are_none(sign: str) -> None:
    """A second half of 10 and more is not a digit behind the point: the field, or its sign, stands elsewhere."""
    spec = FieldSpec("t", 0, 16, sign=sign, tenths=True)
    assert spec.read(bytes([3, 9]))[0] == 3.9
    assert spec.read(bytes([3, 10])) == (None, "10 tenths are more than 9")
    block, wrong = values_of([ByteFrame(0, 0, bytes([3, 0x75]))], spec)
    assert (block.mark.tolist(), wrong) == ([Mark.MISSING], {0: "117 tenths are more than 9"})


@pytest.mark.parametrize(("data", "order", "bits", "wanted"), [
    # By the standard: sign, eight bits of exponent about 127, 23 of a fraction. 20.5 = 1.28125 · 2⁴.
    ("41a40000", "high first", 32, 20.5), ("0000a441", "low first", 32, 20.5), ("c1a40000", "high first", 32, -20.5),
    ("41a0cccd", "high first", 32, 20.1), ("00000000", "high first", 32, 0.0), ("7fc00000", "high first", 32, None),
    ("ff800000", "high first", 32, None), ("3ff8000000000000", "high first", 64, 1.5),
    ("000000000000f83f", "low first", 64, 1.5),
])  # fmt: skip
def test_floating_point_numbers(data: str, order: str, bits: int, wanted: float | None) -> None:
    spec = FieldSpec("f", 8, bits, order, floating=True)
    value, why = spec.read(b"\xaa" + bytes.fromhex(data))
    assert (value, why) == (wanted, "" if wanted is not None else "what its bits say is not a number")


def test_a_floating_point_number_has_32_or_64_bits() -> None:
    table = {"capture": "a.hex", "format": "hex", "fields": [{"name": "a", "bits": 16, "floating": True}]}
    source, problems = check_source("s", table)
    assert source is None
    assert str(problems[0]) == "sources.s.fields[0].bits = 16; a floating-point number has 32 or 64."
