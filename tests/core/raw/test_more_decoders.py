"""Decoders of one line or two beside the great buses, and what none of them makes of a line that nobody knows."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.core.raw.decode import KINDS
from lesart.core.raw.edges import UNKNOWN, Edges, edges_of, without_glitches
from lesart.core.raw.messages.frames import ByteFrame, FieldSpec
from lesart.core.raw.messages.modbus import OF_ASCII, ascii_frames, read_messages
from lesart.core.raw.messages.registers import RegisterSpec
from tests.core.raw.traces import Line, TwoLines, by_length, decode, four_wire, infrared, one_wire, quadrature, uart


def frames_of(found: object) -> list[tuple[str, bytes, str]]:
    return [(frame.says, frame.data, frame.why) for frame in found.frames]  # type: ignore[attr-defined]


@pytest.mark.parametrize("begins", [0, 1])
def test_a_device_on_one_wire_answers_and_sends_lowest_bit_first(begins: int) -> None:
    found = decode("one-wire bus", one_wire([b"\xcc\x44", b"\xcc\xbe\x91\x01"], begins=begins).edges())
    assert frames_of(found) == [("presence", b"\xcc\x44", ""), ("presence", b"\xcc\xbe\x91\x01", "")]
    assert found.bits is not None
    assert float(found.bits.margin.min()) > 0.7


@pytest.mark.parametrize(("answer_us", "is_there"), [(45, False), (55, True), (290, True), (320, False)])
def test_an_answer_is_as_long_as_answers_are(answer_us: float, is_there: bool) -> None:
    """From 50 to 300 µs; a spike behind a reset is nobody, and so is a line that is held."""
    found = decode("one-wire bus", one_wire([b""], answer_s=answer_us * 1e-6).edges())
    assert found.frames is not None
    assert (found.frames[0].says == "presence") == is_there


def test_a_part_of_a_trace_begins_with_the_level_that_stands_there() -> None:
    edges = edges_of([1.0, 2.0, 3.0], [1, 0, 1], 0, 0.0, 4.0)
    for start_s, level in ((0.5, 0), (1.5, 1), (2.5, 0), (3.5, 1)):
        part = edges.between(start_s, 4.0)
        assert (part.first, part.start_s, part.end_s) == (level, start_s, 4.0)
        assert part.t.tolist() == [moment for moment in (1.0, 2.0, 3.0) if moment >= start_s]


def test_a_reset_that_nobody_answers_says_so() -> None:
    found = decode("one-wire bus", one_wire([b""], present=False).edges())
    assert frames_of(found) == [("reset", b"", "nobody is there: no presence after the reset")]
    assert found.frames is not None
    assert found.frames[0].mark == Mark.MISSING


@pytest.mark.parametrize("light", [0, 1])
def test_an_infrared_code_and_its_repeats(light: int) -> None:
    line = infrared([b"\x00\xff\x45\xba"], repeats=2, light=light).edges()
    found = decode("infrared by distance", line, light="high" if light else "low")
    assert frames_of(found) == [
        ("code", b"\x00\xff\x45\xba", ""),
        ("repeats the last", b"", ""),
        ("repeats the last", b"", ""),
    ]


@pytest.mark.parametrize("behind", [1, 2])
def test_a_code_broken_off_by_the_start_of_the_next(behind: int) -> None:
    """A long mark ends it with no rest before; what follows is whole."""
    line = Line(1).stay(0.02).to(0).stay(9e-3).to(1).stay(4.5e-3)
    for _ in range(10):
        line.to(0).stay(560e-6).to(1).stay(560e-6)
    for _ in range(behind):
        line.to(0).stay(9e-3).to(1).stay(4.5e-3)
        for place in range(32):
            line.to(0).stay(560e-6).to(1).stay(1690e-6 if b"\x00\xff\x45\xba"[place // 8] >> place % 8 & 1 else 560e-6)
        line.to(0).stay(560e-6).to(1).stay(0.04)
    found = decode("infrared by distance", line.edges())
    assert frames_of(found) == [("code", b"", "10 of 32 bits came"), *[("code", b"\x00\xff\x45\xba", "")] * behind]


def test_a_carrier_within_the_marks_is_closed() -> None:
    """The lamp's own line chops each mark with 38 kHz."""
    plain = infrared([b"\x12\xed"], light=1)
    chopped = Line(0)
    t = [0.0, *plain.t, plain.now]
    for place in range(len(t) - 1):
        if place % 2 == 0:
            chopped.to(0).stay(t[place + 1] - t[place])
            continue
        for _ in range(round((t[place + 1] - t[place]) * 38_000)):
            chopped.to(1).stay(13e-6).to(0).stay(1 / 38_000 - 13e-6)
    found = decode("infrared by distance", chopped.edges(), light="high", bits=16)
    assert frames_of(found)[0] == ("code", b"\x12\xed", "")


def test_an_encoder_counts_on_and_back_and_marks_what_it_cannot_have_done() -> None:
    steps = [1, 1, 1, 1, 1, -1, -1, 1, 1]
    found = decode("quadrature", quadrature(steps))
    assert found.columns["position"].x.tolist() == np.cumsum(steps).tolist()
    assert decode("quadrature", quadrature(steps), edges=4).columns["position"].x[-1] == sum(steps) / 4
    both = edges_of([1.0], [1], 0, 0.0, 2.0)
    jump = decode("quadrature", {"a": both, "b": both})
    assert jump.columns["position"].mark.tolist() == [Mark.MISSING]
    assert jump.found["steps that are impossible"] == 1
    # Nobody knows which way a step of both lines went: the count goes on from before it.
    over = decode("quadrature", quadrature([1, 1, 2, 1, 1])).columns["position"]
    assert over.x[over.mark == 0].tolist() == [1, 2, 3, 4]


def test_a_driver_of_digits_is_written_and_read() -> None:
    """No address, lowest bit first; behind the command that reads the driver sends, and the last byte has no answer."""
    bus = TwoLines()
    bus.start().byte(0x40).stop()
    bus.start().byte(0xC0).byte(0x3F).byte(0x06).stop()
    bus.start().byte(0x42).byte(0xF7, acknowledged=False).stop()
    bus.start().byte(0x8F, acknowledged=False).stop()
    assert frames_of(decode("two-line driver", bus.lines)) == [
        ("writes", b"\x40", ""),
        ("writes", b"\xc0\x3f\x06", ""),
        ("reads", b"\x42\xf7", ""),
        ("writes", b"\x8f", "byte 1 was not answered"),
    ]


def test_command_and_data_in_one_selection_are_two_parts() -> None:
    """Where the line for data and command changes while a display stays selected, its bytes say which they are."""
    lines = four_wire([b"\xae\x01\x80\x7f"], 0)
    clock = lines["clock"]
    middle = float(clock.t[2 * 16])
    lines["command"] = edges_of([middle - 0.2e-6], [1], 0, 0.0, clock.end_s)
    found = decode("four-wire serial", lines)
    assert frames_of(found) == [("command", b"\xae\x01", ""), ("data", b"\x80\x7f", "")]


def ascii_line(body: bytes, lrc: int | None = None) -> bytes:
    """As it goes over the line."""
    total = -sum(body) & 0xFF if lrc is None else lrc
    return b":" + body.hex().upper().encode() + f"{total:02X}\r\n".encode()


def test_modbus_in_letters() -> None:
    """A request and its reply; the check over bytes, whatever rests part the letters; a wrong one is named."""
    sent = ascii_line(b"\x11\x03\x00\x6b\x00\x02"), ascii_line(b"\x11\x03\x04\x00\x0a\x12\x34")
    found = decode("serial bytes", uart([*sent, ascii_line(b"\x11\x03\x00\x6b\x00\x02", 0)], 9600).edges(), baud=9600)
    messages = read_messages(ascii_frames(found.frames or ()), OF_ASCII)
    assert [frame.says for frame in messages.frames[:2]] == ["unit 17: read 2 holding from 107", "unit 17: 2 holding"]
    assert {name: block.x.tolist() for name, block in messages.columns.items()} == {
        "unit 17 holding 107": [10.0],
        "unit 17 holding 108": [0x1234],
    }
    assert messages.frames[2].why == "LRC is 0x00, not 0x7F"
    odd = ascii_frames([ByteFrame(0.0, 1.0, b":0Z\r\n")])
    assert odd[0].why == "it is not made of pairs of hexadecimal digits"


@pytest.mark.parametrize(
    ("words", "bytes_", "wanted"),
    [(False, False, "abcd"), (True, False, "cdab"), (False, True, "badc"), (True, True, "dcba")],
)
def test_every_order_of_four_bytes(words: bool, bytes_: bool, wanted: str) -> None:
    """Of registers that are asked and of frames that are heard; the same bytes, the same value."""
    data = {"a": 0x41, "b": 0xBC, "c": 0x00, "d": 0x07}
    sent = bytes(data[letter] for letter in wanted)
    true = int.from_bytes(bytes(data.values()), "big")
    register = RegisterSpec("x", "holding", 0, "uint32", words, bytes_)
    assert register.value((int.from_bytes(sent[:2], "big"), int.from_bytes(sent[2:], "big"))) == true
    assert FieldSpec("x", 0, 32, word_swap=words, byte_swap=bytes_).number(sent) == true


# Unknown stretches, and bounces


def holed(t: list[float], level: list[int], end: float) -> Edges:
    return edges_of(t, level, 0, 0.0, end)


HOLE = holed([1.0, 1.1, 2.0, 2.1, 2.5, 3.0, 4.0, 4.1, 5.0, 5.1], [1, 0, 1, 0, UNKNOWN, 0, 1, 0, 1, 0], 6.0)
"""Pulses a second apart, unknown from 2.5 s to 3 s."""


def test_no_interval_reaches_over_what_nobody_knows() -> None:
    found = decode("pulse interval", HOLE).columns["interval"]
    assert (found.t.tolist(), found.x.tolist()) == ([2.0, 5.0], [1.0, 1.0])


def test_a_gate_with_an_unknown_part_counts_nothing() -> None:
    found = decode("gate count", HOLE, gate="1 s").columns["count"]
    assert found.mark.tolist() == [0, 0, Mark.MISSING, 0, 0, 0]
    assert found.x[[0, 1, 3, 4, 5]].tolist() == [0, 1, 0, 1, 1]
    assert np.isnan(found.x[2])


@pytest.mark.parametrize("of", ["rising to rising", "falling to falling", "high", "low"])
def test_a_timer_measures_nothing_over_what_nobody_knows(of: str) -> None:
    ticks = decode("timer ticks", HOLE, of=of, clock="1 kHz").columns["ticks"]
    assert set(ticks.x.tolist()) <= {1000.0, 100.0, 900.0}


def test_what_lasts_no_time_was_never_there() -> None:
    assert edges_of([1.0, 1.0, 2.0], [1, 0, 1], 0).t.tolist() == [2.0]


def test_a_bounce_is_dated_by_its_first_edge_or_its_last() -> None:
    """0.8 ms of bouncing at each end; a needle long before leaves the date alone."""
    t = [0.1, 0.1 + 1e-6, 1.0, 1.0002, 1.0004, 1.0005, 1.0008, 2.0, 2.0003, 2.0004]
    line = edges_of(t, [1, 0] * 5, 0, 0.0, 3.0)
    last, _ = without_glitches(line, 1e-3)
    first, _ = without_glitches(line, 1e-3, from_first=True)
    np.testing.assert_allclose(last.t, [1.0008, 2.0004])
    np.testing.assert_allclose(first.t, [1.0, 2.0])
    found = decode("pulse width", line, shortest="1 ms", dated="first edge").columns["width"]
    np.testing.assert_allclose(found.x, [1.0])


DATED = [name for name, kind in KINDS.items() if any(each.name == "dated" for each in kind.parameters)]


@pytest.mark.parametrize("name", DATED)
@pytest.mark.parametrize(("dated", "late_s"), [("first edge", 0.0), ("last edge", 0.0006)])
def test_every_decoder_dates_a_bounce_as_it_is_told(name: str, dated: str, late_s: float) -> None:
    """What bounces for 0.6 ms is read as one that does not, at the first of its edges or at the last."""
    at, names = [0.5, 0.7, 1.1, 1.2, 1.6, 1.8], KINDS[name].lines
    bounced, clean = {}, {}
    for place, line in enumerate(names):
        begins = [moment + 0.04 * place for moment in at]
        bounces = [moment + late for moment in begins for late in (0.0, 0.0002, 0.0006)]
        levels = [level for up in (1, 0) * (len(at) // 2) for level in (up, 1 - up, up)]
        bounced[line] = edges_of(bounces, levels, 0, 0.0, 3.0)
        clean[line] = edges_of([moment + late_s for moment in begins], (1, 0) * (len(at) // 2), 0, 0.0, 3.0)
    found = decode(name, bounced, shortest="1 ms", dated=dated)
    wanted = decode(name, clean, shortest="1 ms")
    assert found.columns.keys() == wanted.columns.keys()
    assert any(len(block) for block in wanted.columns.values())
    for column, block in wanted.columns.items():
        np.testing.assert_allclose(found.columns[column].t, block.t, atol=1e-9)
        np.testing.assert_allclose(found.columns[column].x, block.x, atol=1e-9)


@pytest.mark.parametrize("name", KINDS)
def test_nothing_at_all_gives_nothing(name: str) -> None:
    """A line that never moves, and one of which nobody knows anything, have no values and no frames."""
    kind = KINDS[name]
    for first in (0, 1, UNKNOWN):
        still = Edges(np.zeros(0), np.zeros(0, np.uint8), first, 0.0, 0.5)
        found = decode(name, dict.fromkeys(kind.lines, still))
        assert not found.frames
        assert all(not block.usable.any() for block in found.columns.values())


def test_a_sensor_that_is_asked_again_is_told_from_one_that_is_silent() -> None:
    """A request without an answer and another one soon behind it is one reading tried twice."""
    good = bytes((2, 1, 0, 9, 12))
    line = by_length([good]).stay(1.8)
    for _ in range(3):
        line.stay(1.8).to(0).stay(0.018).to(1).stay(0.2)  # nobody answers
        later = by_length([good])
        shift = line.now - 0.1
        line.t += [t + shift for t in later.t]
        line.levels += later.levels
        line.now += later.now - 0.1
    found = decode("bits by length", line.edges())
    assert [len(frame.data) for frame in found.frames or ()] == [5, 0, 5, 0, 5, 0, 5]
    assert found.found["asked again"] == 3


def test_a_sensor_that_is_silent_is_not_asked_again() -> None:
    """A request without an answer, and the next one when it is due: nobody tried again."""
    line = by_length([bytes((2, 1, 0, 9, 12))])
    for _ in range(4):
        line.stay(2.0).to(0).stay(0.018).to(1)
    found = decode("bits by length", line.stay(2.0).edges())
    assert [len(frame.data) for frame in found.frames or ()] == [5, 0, 0, 0]
    assert "asked again" not in found.found
