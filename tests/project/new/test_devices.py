"""Of a bus that nobody describes: each register that changes, each device on one wire, and how its words are to be
read."""

from __future__ import annotations

import math
import random
import struct
from pathlib import Path

import pytest

from lesart.core.raw.decode import KINDS
from lesart.core.raw.messages.frames import FieldSpec
from lesart.project.new.devices import equal_frames
from lesart.project.new.words import check_of, words_in
from lesart.project.tables.sources import check_source
from tests.core.raw.traces import TwoWire, four_wire, one_wire, uart
from tests.project.new.test_trace import made_of


def _read(bus: TwoWire, address: int, register: bytes, data: bytes) -> None:
    bus.start().byte(address << 1)
    for byte in register:
        bus.byte(byte)
    bus.start().byte(address << 1 | 1)
    for place, byte in enumerate(data, 1):
        bus.byte(byte, acknowledged=place < len(data))
    bus.stop()


def test_registers_that_change_are_sources_and_numbers_of_the_device_are_none(tmp_path: Path) -> None:
    """Who it is, what it was calibrated with, then three axes low byte first and a temperature high byte first."""
    bus, dice = TwoWire(), random.Random(3)
    wanted, heat = [], []
    _read(bus, 0x68, b"\x75", b"\x68")
    for k in range(24):
        axes = [round(9000 * math.sin(k / 4 + axis)) + dice.randrange(-9, 9) for axis in range(3)]
        wanted.append(axes)
        heat.append(2500 + 7 * k)
        _read(bus, 0x68, b"\x3b", b"".join(each.to_bytes(2, "little", signed=True) for each in axes))
        _read(bus, 0x68, b"\x41", heat[-1].to_bytes(2, "big"))
        _read(bus, 0x68, b"\x75", b"\x68")
    _, project, captures = made_of(tmp_path, {"q": bus.data.edges(), "r": bus.clock.edges()})
    assert list(project.sources) == ["0x68 3B", "0x68 41"]
    axes_read = captures["0x68 3B"]
    assert [axes_read.columns[name].x.tolist() for name in ("bytes 1 and 2", "bytes 3 and 4", "bytes 5 and 6")] == [
        [float(each[axis]) for each in wanted] for axis in range(3)
    ]
    assert captures["0x68 41"].columns["bytes 1 and 2"].x.tolist() == heat
    assert not any(capture.bad_count for capture in captures.values())
    assert ("sources", "0x68 3B", "fields", 0, "order") in project.assumed


def _crc(data: bytes) -> int:
    """Of eight bits by x^8 + x^5 + x^4 + 1, the lowest bit first, bit by bit as the bus's description has it."""
    value = 0
    for byte in data:
        for _ in range(8):
            mixed = (value ^ byte) & 1
            value, byte = value >> 1 ^ (0x8C if mixed else 0), byte >> 1
    return value


def _pad(sixteenths: int) -> bytes:
    data = sixteenths.to_bytes(2, "little", signed=True) + bytes((0x4B, 0x46, 0x7F, 0xFF, 0x0C, 0x10))
    return data + bytes((_crc(data),))


def test_a_thermometer_on_one_wire_has_its_sixteenths_below_zero_too(tmp_path: Path) -> None:
    """Commands are no readings, and one that is told to measure and answers nothing has none missing."""
    values = [-81 + 8 * k for k in range(14)]
    asked = [part for each in values for part in (b"\xcc\x44", b"\xcc\xbe" + _pad(each))]
    made, project, captures = made_of(tmp_path, {"q": one_wire(asked).edges()})
    assert made.channels == ("one wire",)
    (source,), (capture,) = project.sources.values(), captures.values()
    assert capture.columns["bytes 1 and 2"].x.tolist() == values
    assert capture.bad_count == 0
    assert source.decoding is not None
    assert (source.decoding.begins, source.decoding.check.kind) == (b"\xcc\xbe", "CRC-8")


def test_two_thermometers_on_one_wire_are_two_sources(tmp_path: Path) -> None:
    serials = [bytes((0x28, 1, 2, 3, 4, 5, 6, 7)), bytes((0x28, 9, 9, 9, 4, 5, 6, 8))]
    asked = [
        b"\x55" + serial + b"\xbe" + _pad(300 + 100 * place + k)
        for k in range(9)
        for place, serial in enumerate(serials)
    ]
    made, _, captures = made_of(tmp_path, {"q": one_wire(asked).edges()})
    assert made.channels == ("one wire 1", "one wire 2")
    assert [capture.columns["bytes 1 and 2"].x.tolist() for capture in captures.values()] == [
        [300.0 + k for k in range(9)], [400.0 + k for k in range(9)],
    ]  # fmt: skip


@pytest.mark.parametrize("mode", range(4))
def test_what_is_asked_on_four_wires_parts_the_answers(tmp_path: Path, mode: int) -> None:
    """Two channels of a converter, asked by their second byte; who it is, is asked once."""
    asked, answers, wanted = [b"\x8f\x00\x00"], [b"\x00\x33\x00"], {"wires 0180": [], "wires 0190": []}  # type: ignore[var-annotated]
    for k in range(30):
        for name, value in (("wires 0180", 512 + round(300 * math.sin(k / 9))), ("wires 0190", 700 + k % 5)):
            asked.append(bytes.fromhex(name.removeprefix("wires ")) + b"\x00")
            answers.append(b"\x00" + value.to_bytes(2, "big"))
            wanted[name].append(float(value))
    lines = dict(four_wire(answers, mode)) | {"sent": four_wire(asked, mode)["data"]}
    del lines["command"]
    named = {f"q{place}": line for place, line in enumerate(lines.values())}
    _, project, captures = made_of(tmp_path, named)
    assert list(project.sources) == ["wires 0180", "wires 0190"]
    assert {name: capture.columns["bytes 2 and 3"].x.tolist() for name, capture in captures.items()} == wanted


def test_a_question_that_is_repeated_is_no_channel_and_a_sum_may_leave_the_first_byte_out(tmp_path: Path) -> None:
    """Asked on one line, answered on the other, the sum over all but the byte that begins a frame."""
    question, answers = bytes((0xFF, 1, 0x86, 0, 0, 0, 0, 0, 0x79)), []
    for k in range(12):
        body = bytes((0x86, (415 + 9 * k) >> 8, (415 + 9 * k) & 0xFF, 62, 0, 0, 0))
        answers.append(b"\xff" + body + bytes((-sum(body) & 0xFF,)))
    lines = {
        "p": uart([question] * 12, 9600, gap_bits=9600).edges(),
        "q": uart(answers, 9600, gap_bits=9600).edges(),
    }
    made, project, captures = made_of(tmp_path, lines)
    assert made.channels == ("serial",)
    (source,), (capture,) = project.sources.values(), captures.values()
    assert capture.columns["bytes 3 and 4"].x.tolist() == [415 + 9 * k for k in range(12)]
    assert capture.bad_count == 0
    assert source.decoding is not None
    assert (source.decoding.begins, source.decoding.check.kind) == (b"\xff", "LRC")


def test_a_value_beside_the_byte_that_a_frame_begins_with_is_kept() -> None:
    """A byte alone behind it, whose word would reach into it."""
    frames = [bytes((0xFF, 40 + k, 7)) for k in range(30)]
    told = [frame + bytes((-sum(frame[1:]) & 0xFF,)) for frame in frames]
    way = equal_frames(told)
    assert (way.decode["check"], way.decode["begins"]) == ("LRC", "FF")
    specs = [FieldSpec("f", each["first_bit"], each["bits"]) for each in way.fields]
    assert [spec.number(told[3][1:-1]) for spec in specs] == [float(43 << 8 | 7)]


def test_where_all_say_one_thing_it_is_a_channel_nevertheless(tmp_path: Path) -> None:
    """A question and an answer that never change: nothing else could be one."""
    lines = {
        "p": uart([b"\x01\x86\x00"] * 8, 9600, gap_bits=960).edges(),
        "q": uart([b"\x01\x86\x2a"] * 8, 9600, gap_bits=960).edges(),
    }
    made, _, _ = made_of(tmp_path, lines)
    assert len(made.channels) == 2


@pytest.mark.parametrize("size", [1, 2])
def test_words_that_are_checked_one_by_one(size: int) -> None:
    """Two bytes and their remainder each, as such a sensor's data sheet gives an example of: 0xBEEF has 0x92."""
    dice = random.Random(size)

    def crc(word: bytes) -> int:
        value = 0xFF
        for byte in word:
            value ^= byte
            for _ in range(8):
                value = (value << 1 ^ (0x31 if value & 0x80 else 0)) & 0xFF
        return value

    assert crc(b"\xbe\xef") == 0x92
    frames = []
    for k in range(20):
        words = [(0x6000 + 40 * k + dice.randrange(20) + 9000 * place).to_bytes(2, "big") for place in range(size)]
        frames.append(b"".join(word + bytes((crc(word),)) for word in words))
    assert [field["first_bit"] for field in words_in(frames)] == [0, 24][:size]


@pytest.mark.parametrize(("order", "sign", "start", "step"), [
    ("big", "none", 20_000, 37), ("little", "none", 20_000, 37), ("big", "two's complement", -300, 31),
    ("little", "two's complement", -300, 31), ("big", "none", 60_000, -450),
])  # fmt: skip
def test_the_order_and_the_sign_of_a_word_are_seen(order: str, sign: str, start: int, step: int) -> None:
    values = [start + step * k for k in range(40)]
    frames = [(each & 0xFFFF).to_bytes(2, order) for each in values]  # type: ignore[arg-type]
    (field,) = words_in(frames)
    assert field.get("order", "high first") == ("high first" if order == "big" else "low first")
    assert field.get("sign", "none") == sign


def test_three_bytes_are_one_value_and_a_byte_that_is_left_is_one() -> None:
    values = [-5000 + 311 * k for k in range(40)]
    (field,) = words_in([(each & 0xFFFFFF).to_bytes(3, "big") for each in values])
    assert (field["name"], field["bits"], field["sign"]) == ("bytes 1 to 3", 24, "two's complement")
    fields = words_in([struct.pack(">HHB", 1000 + 97 * k, 5000 + 83 * k, 3 * k) for k in range(40)])
    assert [(field["name"], field["first_bit"], field["bits"]) for field in fields] == [
        ("bytes 1 and 2", 0, 16), ("bytes 3 and 4", 16, 16), ("byte 5", 32, 8),
    ]  # fmt: skip


def test_two_bytes_that_both_change_and_fill_no_range_are_two_values() -> None:
    """Moisture and warmth of a byte each; of a word the lower one goes all round, or is full when the higher one goes
    on, as where it stands about a multiple of 256."""
    two = [bytes((45 + k % 7, 21 + k % 3)) for k in range(40)]
    assert [(field["first_bit"], field["bits"]) for field in words_in(two)] == [(0, 8), (8, 8)]
    about = [(254 + (7 * k) % 5).to_bytes(2, "big") for k in range(40)]
    assert [(field["first_bit"], field["bits"]) for field in words_in(about)] == [(0, 16)]


@pytest.mark.parametrize(("head", "tail", "starts"), [
    (b"", b"", [0, 16, 32]), (b"\x55\xaa", b"", [16, 32, 48]), (b"\x55\xaa\x07", b"", [24, 40, 56]),
    (b"\x55\xaa\x07", b"\x01", [24, 40, 56]), (b"\x42\x4d\x00\x1c\x00\x11", b"\x97\x00", [48, 64, 80]), (b"\x55\xaa", b"\x01\x00", [16, 32, 48]),
])  # fmt: skip
@pytest.mark.parametrize("order", ["big", "little"])
def test_words_begin_behind_what_heads_all_frames(head: bytes, tail: bytes, starts: list[int], order: str) -> None:
    """Three values of 16 bits, one of them through zero; the first changes its higher byte."""
    frames, wanted = [], []
    for k in range(60):
        values = (round(2000 * math.sin(k / 7)), -300 + 4 * k, 5000 + 3 * k)
        wanted.append([float(each) for each in values])
        body = b"".join((each & 0xFFFF).to_bytes(2, order) for each in values)  # type: ignore[arg-type]
        frames.append(head + body + tail)
    fields = words_in(frames)
    assert [field["first_bit"] for field in fields] == starts
    specs = [
        FieldSpec("f", field["first_bit"], 16, field.get("order", "high first"), field.get("sign", "none"))
        for field in fields
    ]
    assert [[spec.number(frame) for spec in specs] for frame in frames] == wanted


def test_a_zero_before_what_changes_is_the_higher_byte_of_a_word() -> None:
    """As a dust sensor sends small numbers: a head, its length, words high byte first, two bytes that say nothing."""
    frames = [b"\x42\x4d\x00\x1c" + bytes((0, 20 + k, 0, 30 + 2 * k)) + b"\x97\x00" for k in range(30)]
    assert [field["first_bit"] for field in words_in(frames)] == [32, 48]


def test_words_of_one_frame_have_one_order() -> None:
    """The second one turns over its lower byte and says so; of the first only a zero stands still."""
    frames = [bytes((120 + k, 0)) + (4000 + 37 * k).to_bytes(2, "little") for k in range(40)]
    assert [field.get("order") for field in words_in(frames)] == ["low first", "low first"]


def test_a_word_of_which_one_byte_stands_still_is_as_usual() -> None:
    assert words_in([bytes((k, 0)) for k in range(20)])[0]["order"] == "low first"
    frames = [bytes((k, 1)) for k in range(20)]
    assert "order" not in words_in(frames)[0]
    assert words_in(frames, low_first=True)[0]["order"] == "low first"


@pytest.mark.parametrize("seed", range(20))
def test_bytes_of_chance_have_no_check(seed: int) -> None:
    dice = random.Random(seed)
    assert check_of([bytes(dice.randrange(256) for _ in range(5)) for _ in range(6)]) == {}


WRITTEN = ["", "xyz", "0x_1", "0x1_2", "0X7", "0b11", "0x", "-1", "0x76", "300", "0xFFFFFFFF", "1e3", "٣"]


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("text", WRITTEN)
def test_no_text_that_a_decoder_is_told_ends_it(kind: str, text: str) -> None:
    """Each of all decoders, with what nobody should write: a problem that names the key, or a decoder that runs."""
    decoder = KINDS[kind]
    lines = TwoWire().start().byte(0xEC).byte(0xF7).start().byte(0xED).byte(0x51, acknowledged=False).stop().lines
    told = {role: role for role in decoder.lines}
    for parameter in decoder.parameters:
        if parameter.kind != "text":
            continue
        table = {"capture": "a.vcd", "format": "vcd", "decode": {"kind": kind, **told, parameter.name: text}}
        source, problems = check_source("s", table)
        if source is None:
            assert [problem.place for problem in problems] == [f"sources.s.decode.{parameter.name}"]
            assert f'"{text}"' in str(problems[0])
            continue
        assert source.decoding is not None
        some = list(lines.values())
        edges = {role: some[place % 2] for place, role in enumerate(decoder.lines)}
        decoder.decode(edges, dict(source.decoding.values))


def test_answers_are_told_apart_only_where_it_is_heard_what_is_asked() -> None:
    told = {"kind": "four-wire serial", "clock": "c", "data": "d", "after": "0xE8"}
    source, problems = check_source("s", {"capture": "a.vcd", "format": "vcd", "decode": told})
    assert source is None
    assert str(problems[0]) == (
        'sources.s.decode.after = "0xE8"; answers are told apart by what is asked; name the signal of that as sent.'
    )
    source, problems = check_source("s", {"capture": "a.vcd", "format": "vcd", "decode": {**told, "sent": "m"}})
    assert source is not None


@pytest.mark.parametrize("text", ["xyz", "C", "CC B", "0xCC"])
def test_what_a_frame_begins_with_is_bytes(text: str) -> None:
    source, problems = check_source(
        "s", {"capture": "a.vcd", "format": "vcd", "decode": {"kind": "one-wire bus", "line": "q", "begins": text}}
    )
    assert source is None
    assert str(problems[0]) == f'sources.s.decode.begins = "{text}"; it must be bytes in hexadecimal, like CC BE.'
