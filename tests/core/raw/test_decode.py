"""Decoders: what senders made by hand send is read back, jitter and glitches allowed for; any trace is taken."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.raw.decode import KINDS, Decoded
from lesart.core.raw.decode.uart import found_baud
from lesart.core.raw.edges import HIGH, LOW, UNKNOWN, Edges, edges_of, without_glitches
from lesart.core.units import parse_unit
from tests.core.raw.traces import Line, TwoWire, by_length, decode, four_wire, random_edges, uart

FRAMES = st.lists(st.binary(min_size=1, max_size=8), min_size=1, max_size=4)
FORTY = st.lists(st.binary(min_size=5, max_size=5), min_size=1, max_size=4)


# Edges


def test_a_change_to_the_same_level_is_no_edge() -> None:
    edges = edges_of([1, 2, 3, 4], [1, 1, 0, 0], first=0)
    assert (edges.t.tolist(), edges.level.tolist()) == ([1, 3], [1, 0])


def test_glitches_go_and_are_counted() -> None:
    """A dip of 1 µs in a pulse, and a needle before it: two pairs of edges less."""
    line = Line(0).stay(1e-3).to(1).stay(1e-6).to(0).stay(1e-3)
    line.to(1).stay(1e-3).to(0).stay(1e-6).to(1).stay(1e-3).to(0).stay(1e-3)
    cleaned, removed = without_glitches(line.edges(), 5e-6)
    assert removed == 4
    assert cleaned.level.tolist() == [1, 0]
    assert np.diff(cleaned.t) == pytest.approx([2.001e-3])


def test_a_bouncing_contact_is_one_edge() -> None:
    line = Line(1).stay(1e-2)
    for _ in range(4):
        line.to(0).stay(3e-4).to(1).stay(2e-4)
    line.to(0).stay(5e-2).to(1).stay(1e-2)
    cleaned, removed = without_glitches(line.edges(), 1e-3)
    assert (cleaned.level.tolist(), removed) == ([0, 1], 8)


@given(st.integers(0, 10**6), st.integers(0, 60), st.floats(0, 1e-2))
def test_after_cleaning_nothing_is_shorter_and_nothing_is_new(seed: int, count: int, shortest: float) -> None:
    edges = random_edges(seed, count)
    cleaned, removed = without_glitches(edges, shortest)
    assert len(cleaned) + removed == len(edges)
    assert set(cleaned.t.tolist()) <= set(edges.t.tolist())
    assert (np.diff(cleaned.level.astype(int)) != 0).all()
    again, none = without_glitches(cleaned, shortest)
    assert none == 0
    assert again.t.tolist() == cleaned.t.tolist()


def test_the_level_at_a_moment() -> None:
    edges = edges_of([1.0, 2.0], [1, 0], first=UNKNOWN)
    assert edges.level_at(np.array([0.5, 1.0, 1.5, 2.0, 9.0])).tolist() == [UNKNOWN, HIGH, HIGH, LOW, LOW]


# Pulses


def test_widths_of_echoes() -> None:
    """Pulses of 1 and 25 ms, and one of 40 ms that no echo is that long."""
    line = Line(0)
    for width in (1e-3, 25e-3, 40e-3):
        line.stay(0.1).to(1).stay(width).to(0)
    found = decode("pulse width", line.stay(0.1).edges(), most="30 ms").columns["width"]
    assert found.x == pytest.approx([1e-3, 25e-3, 40e-3])
    assert found.mark.tolist() == [0, 0, Mark.RANGE]
    assert found.t == pytest.approx([0.101, 0.226, 0.366])


def test_a_pulse_that_was_there_before_the_trace_has_no_width() -> None:
    edges = edges_of([1.0, 2.0, 2.5], [0, 1, 0], first=HIGH, end_s=3.0)
    assert decode("pulse width", edges).columns["width"].x.tolist() == [0.5]
    assert decode("pulse width", edges, level="low").columns["width"].x.tolist() == [1.0]


def test_intervals_and_counts_in_a_gate() -> None:
    """Four turns a second for two seconds, two a second for one."""
    line = Line(0)
    for _ in range(8):
        line.to(1).stay(0.05).to(0).stay(0.2)
    for _ in range(2):
        line.to(1).stay(0.05).to(0).stay(0.45)
    edges = line.edges()
    assert decode("pulse interval", edges).columns["interval"].x == pytest.approx([0.25] * 8 + [0.5])
    gates = decode("gate count", edges, gate="1 s").columns["count"]
    assert (gates.t.tolist(), gates.x.tolist()) == ([1.0, 2.0, 3.0], [4.0, 4.0, 2.0])


def test_bounce_is_counted_once() -> None:
    line = Line(0)
    for _ in range(5):
        line.to(1).stay(1e-4).to(0).stay(1e-4).to(1).stay(0.05).to(0).stay(0.1498)
    assert decode("gate count", line.edges(), gate="1 s").columns["count"].x.tolist() == [10]
    assert decode("gate count", line.edges(), gate="1 s", shortest="1 ms").columns["count"].x.tolist() == [5]


# Bits by length


def test_forty_bits_with_the_margin_of_each() -> None:
    """A one of 70 µs is 22 µs above the threshold of 48 µs, a zero of 26 µs as much below."""
    found = decode("bits by length", by_length([bytes([0x02, 0x8C, 0x01, 0x5F, 0xEE])]).edges())
    assert found.frames is not None
    assert [(frame.data.hex(), frame.mark) for frame in found.frames] == [("028c015fee", 0)]
    assert found.bits is not None
    assert len(found.bits.value) == 40
    assert found.bits.margin == pytest.approx(22 / 48)
    assert found.found["least margin"] == pytest.approx(22 / 48)


def test_where_no_bit_is_left_there_is_no_margin() -> None:
    """All pulses of the frame are passed over."""
    found = decode("bits by length", by_length([bytes([0x02, 0x8C, 0x01, 0x5F, 0xEE])]).edges(), skip=100)
    assert found.bits is not None
    assert len(found.bits.value) == 0
    assert "least margin" not in found.found


@given(FORTY, st.lists(st.floats(-20e-6, 20e-6), max_size=160))
def test_forty_bits_come_back_under_jitter(frames: list[bytes], jitter: list[float]) -> None:
    """Any jitter that leaves zeros below and ones above the threshold."""
    for by, more in (("threshold", {}), ("low time", {"ratio": "0.96"})):
        found = decode("bits by length", by_length(frames, jitter).edges(), by=by, **more)
        assert found.frames is not None
        assert [frame.data for frame in found.frames] == frames
        assert not any(frame.mark for frame in found.frames)


def test_a_broken_frame_is_marked_and_the_next_is_read() -> None:
    line = by_length([b"\x01\x02\x03\x04\x0a"], skip_bits=9)
    more = by_length([b"\x05\x00\x00\x00\x05"])
    t = [*line.t, *(line.now + moment for moment in more.t)]
    edges = edges_of(t, [*line.levels, *more.levels], 1, 0.0, line.now + more.now)
    frames = decode("bits by length", edges).frames
    assert frames is not None
    # The 31 bits and the rest before the next start, which is no bit any more.
    assert [bool(frame.mark) for frame in frames] == [True, False]
    assert "too long" in frames[0].why or "of 40 bits came" in frames[0].why
    assert frames[1].data == b"\x05\x00\x00\x00\x05"


def test_nobody_answers() -> None:
    line = Line().stay(0.1).to(0).stay(0.018).to(1).stay(1.0)
    frames = decode("bits by length", line.to(0).stay(0.018).to(1).stay(1.0).edges()).frames
    assert frames is not None
    assert {frame.why for frame in frames} == {"no bit came: there was no answer"}


# Serial bytes


@given(FRAMES, st.sampled_from([9600, 19200, 115200]), st.sampled_from(["none", "even", "odd"]), st.floats(-0.02, 0.02))
def test_serial_bytes_come_back(frames: list[bytes], baud: int, parity: str, off: float) -> None:
    """A sender whose clock is up to two in a hundred off."""
    line = uart(frames, baud * (1 + off), parity=parity)
    found = decode("serial bytes", line.edges(), baud=baud, parity=parity)
    assert found.frames is not None
    assert [frame.data for frame in found.frames] == frames
    assert not any(frame.mark for frame in found.frames)


RATES = (300, 600, 1200, 2400, 4800, 9600, 14400, 19200, 28800, 38400, 57600, 115_200, 230_400, 460_800, 921_600)


@pytest.mark.parametrize("baud", RATES)
def test_the_rate_is_found_from_the_edges(baud: int) -> None:
    line = uart([b"linden yard, hive 2: 42.5 kg\r\n"], baud * 1.01)
    assert found_baud(line.edges()) == baud
    found = decode("serial bytes", line.edges())
    assert found.frames is not None
    assert (found.frames[0].data, found.found["baud"]) == (b"linden yard, hive 2: 42.5 kg\r\n", baud)


def test_wrong_parity_and_a_missing_stop_break_the_frame() -> None:
    line = uart([b"A\x03"], 9600, parity="even")
    frames = decode("serial bytes", line.edges(), baud=9600, parity="odd").frames
    assert frames is not None
    assert (frames[0].mark, frames[0].why) == (Mark.CHECKSUM, "byte 1: parity")
    held = Line().stay(1e-3).to(0).stay(5e-3).to(1).stay(1e-2).edges()
    frames = decode("serial bytes", held, baud=9600).frames
    assert frames is not None
    assert (frames[0].mark, frames[0].why) == (Mark.MISSING, "byte 1: a break, low for longer than a word")
    slow = decode("serial bytes", uart([b"A\x03"], 8700).edges(), baud=9600).frames
    assert slow is not None
    assert "framing error, no stop bit" in slow[0].why


# Two-wire bus


def test_a_register_read_on_the_two_wire_bus() -> None:
    bus = TwoWire().start().byte(0xEC).byte(0xF7).start().byte(0xED).byte(0x51).byte(0x80, acknowledged=False).stop()
    frames = decode("two-wire bus", bus.lines).frames
    assert frames is not None
    assert [(frame.says, frame.data.hex(), frame.why) for frame in frames] == [
        ("write 0x76", "f7", ""),
        ("read 0x76 after 0xF7", "5180", ""),
    ]


def test_what_goes_wrong_on_the_two_wire_bus() -> None:
    bus = TwoWire().start().byte(0x78, acknowledged=False).stop()
    bus.start().byte(0xEC).byte(0x01, acknowledged=False).byte(2).stop()
    bus.start().byte(0xEC).bit(1).bit(0).stop()
    bus.start().bit(1).stop()
    frames = decode("two-wire bus", bus.lines).frames
    assert frames is not None
    assert [frame.why for frame in frames] == [
        "no device answers at 0x3C",
        "byte 1 was not acknowledged",
        "2 bits are left over",
        "1 bit came, and an address takes 9",
    ]
    assert all(frame.mark for frame in frames)


def test_a_held_clock_is_counted() -> None:
    bus = TwoWire().start().byte(0xEC, held=40).byte(1).byte(2).stop()
    found = decode("two-wire bus", bus.lines)
    assert found.found["times the clock was held"] == 1
    assert found.found["longest clock low"] == pytest.approx(42 * 2.5e-6)


@given(st.lists(st.tuples(st.integers(8, 0x77), st.booleans(), st.binary(max_size=6)), min_size=1, max_size=4))
def test_transfers_come_back(transfers: list[tuple[int, bool, bytes]]) -> None:
    bus = TwoWire()
    for address, reads, data in transfers:
        bus.start().byte(address << 1 | reads)
        for byte in data:
            bus.byte(byte)
        bus.stop()
    frames = decode("two-wire bus", bus.lines).frames
    assert frames is not None
    said, written = [], {}
    for address, reads, data in transfers:
        behind = written.get(address, b"") if reads else b""
        after = f" after 0x{behind.hex().upper()}" if behind else ""
        said.append(f"{'read' if reads else 'write'} 0x{address:02X}{after}")
        if not reads and len(data) in (1, 2):  # a register, or a command
            written[address] = data
    assert [(frame.says, frame.data, frame.mark) for frame in frames] == [
        (words, data, 0) for words, (_, _, data) in zip(said, transfers, strict=True)
    ]


# Four-wire serial


@given(FRAMES, st.integers(0, 3), st.booleans())
def test_four_wire_frames_come_back_in_every_mode(frames: list[bytes], mode: int, lowest: bool) -> None:
    lines = four_wire(frames, mode, lowest_first=lowest)
    found = decode("four-wire serial", lines, mode=mode, first="lowest" if lowest else "highest").frames
    assert found is not None
    assert [(frame.data, frame.says, frame.mark) for frame in found] == [(data, "data", 0) for data in frames]


def test_without_a_select_line_a_rest_parts_frames() -> None:
    lines = four_wire([b"\x12\x34", b"\x56"], 0, command=0)
    found = decode("four-wire serial", {"clock": lines["clock"], "data": lines["data"]}, rest="3 µs").frames
    assert found is not None
    assert [frame.data for frame in found] == [b"\x12\x34", b"\x56"]
    assert decode("four-wire serial", lines).frames[0].says == "command"  # type: ignore[index]


# Any trace


@pytest.mark.parametrize("kind", KINDS)
@given(st.integers(0, 10**6), st.integers(0, 300))
@settings(max_examples=60)
def test_any_trace_is_decoded_without_raising(kind: str, seed: int, count: int) -> None:
    """No NaN without a mark, times in order, and nothing said to be good that has no bytes."""
    lines = {name: random_edges(seed + place, count) for place, name in enumerate(KINDS[kind].lines)}
    usual = {"gate": "10 ms"} if kind == "gate count" else {}
    found = decode(kind, lines, **usual)
    for block in found.columns.values():
        assert (np.diff(block.t) >= 0).all()
        assert not np.isnan(block.x[block.usable]).any()
    for frame in found.frames or ():
        assert frame.end >= frame.t
        assert bool(frame.mark) == bool(frame.why)


# A timer that wraps


def test_a_timer_captures_what_firmware_would_work_out() -> None:
    """8 MHz through a prescaler of 64 is 8 µs a tick; 16 bits of them go round in half a second."""
    line = Line(0)
    for apart_s in (0.010, 0.100, 0.300):
        line.to(1).stay(0.001).to(0).stay(apart_s - 0.001)
    found = decode("timer ticks", line.to(1).edges(), clock="8 MHz", prescaler=64)
    assert found.columns["ticks"].x.tolist() == [1250, 12_500, 37_500]
    assert found.columns["counter"].x.tolist() == [1250, 13_750, 51_250]
    assert found.found["one tick"] == pytest.approx(8e-6)
    assert found.found["a whole round"] == pytest.approx(0.524288)
    pulses = decode("timer ticks", line.edges(), clock="8 MHz", prescaler=64, of="high")
    assert pulses.columns["ticks"].x.tolist() == [125, 125, 125]


def test_a_wrap_between_two_captures_does_no_harm_and_a_whole_round_is_marked() -> None:
    """A byte of microseconds: 200 and then 200 more wraps once and is right; 300 reads 44, and nobody would know."""
    line = Line(0)
    for apart_s in (200e-6, 200e-6, 300e-6, 256e-6, 255e-6):
        line.to(1).stay(50e-6).to(0).stay(apart_s - 50e-6)
    ticks = decode("timer ticks", line.to(1).edges(), bits=8).columns["ticks"]
    assert ticks.x.tolist() == [200, 200, 44, 0, 255]
    assert ticks.mark.tolist() == [0, 0, Mark.RANGE, Mark.RANGE, 0]


@given(st.lists(st.integers(10, 600), min_size=1, max_size=20), st.integers(0, 255))
def test_a_timer_against_integers(apart: list[int], starts: int) -> None:
    """Independent of the decoder: whole microseconds, counted in integers."""
    line = Line(0).stay(starts * 1e-6)
    for each in apart:
        line.to(1).stay(4e-6).to(0).stay((each - 4) * 1e-6)
    ticks = decode("timer ticks", line.to(1).edges(), bits=8).columns["ticks"]
    assert ticks.x.tolist() == [each % 256 for each in apart]
    assert [bool(mark) for mark in ticks.mark] == [each >= 256 for each in apart]


WITHOUT_GUESSES: dict[str, dict[str, object]] = {"serial bytes": {"baud": 9600}, "gate count": {"gate": "10 ms"}}
"""Values with which a decoder finds nothing out from the whole trace, and comes to several values within it."""


def ends_of(decoded: Decoded) -> list[tuple[float, object]]:
    """When each value or frame was complete, and what it says."""
    frames = [(frame.end, (frame.data, frame.mark, frame.says)) for frame in decoded.frames or ()]
    values = [
        (float(t), (name, float(x), int(mark)))
        for name, block in decoded.columns.items()
        for t, x, mark in zip(block.t, block.x, block.mark, strict=True)
    ]
    return sorted([*frames, *values], key=lambda each: (each[0], repr(each)))


@pytest.mark.parametrize("kind", KINDS)
def test_what_comes_later_changes_nothing_that_was_complete(kind: str) -> None:
    """A trace that is cut gives what the whole one gave until then, and one that begins later gives the same later."""
    written, told = WITHOUT_GUESSES.get(kind, {}), 0
    for seed in range(12):
        lines = {name: random_edges(seed + place, 400) for place, name in enumerate(KINDS[kind].lines)}
        cut = 0.6 * max(edges.end_s for edges in lines.values())
        rest = 0.1 * cut
        whole = ends_of(decode(kind, lines, **written))
        part = ends_of(decode(kind, {name: before(edges, cut) for name, edges in lines.items()}, **written))
        known = [each for each in whole if each[0] < cut - rest]
        assert str([each for each in part if each[0] < cut - rest]) == str(known)
        told += len(known)
        moved = ends_of(decode(kind, {name: later(edges, 8.0) for name, edges in lines.items()}, **written))
        if kind != "timer ticks":  # it counts from where it started
            assert [each[0] for each in moved] == pytest.approx([each[0] + 8.0 for each in whole], abs=1e-9)
    assert told


def before(edges: Edges, end_s: float) -> Edges:
    """The trace, ended sooner."""
    kept = edges.t < end_s
    return replace(edges, t=edges.t[kept], level=edges.level[kept], end_s=min(edges.end_s, end_s))


def later(edges: Edges, by_s: float) -> Edges:
    """The same trace, taken later."""
    return replace(edges, t=edges.t + by_s, start_s=edges.start_s + by_s, end_s=edges.end_s + by_s)


@pytest.mark.parametrize("kind", KINDS)
def test_what_a_decoder_states_is_so(kind: str) -> None:
    """Values have a unit each and stand within the trace; frames come where values do not; the needed lines do."""
    record = KINDS[kind]
    lines = {name: random_edges(place, 400) for place, name in enumerate(record.lines[: record.needed])}
    decoded = decode(kind, lines, **WITHOUT_GUESSES.get(kind, {}))
    assert (decoded.frames is None) == record.gives_values == bool(decoded.columns)
    assert set(decoded.columns) == set(decoded.units)
    for name, block in decoded.columns.items():
        parse_unit(decoded.units[name])
        assert ((block.t >= 0) & (block.t <= max(edges.end_s for edges in lines.values()))).all()
