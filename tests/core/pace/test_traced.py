"""Traces against the model: bus time to the clock, what is wasted and wrong, digits that are uneven or overlap."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.glass.bus.controllers import BANKS, PAGES
from lesart.core.glass.bus.interpreter import Cells, Interpreted, interpret
from lesart.core.glass.bus.transmissions import Transmission, cells_of, transmissions_for
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.transfer import FOUR_WIRE as FOUR
from lesart.core.glass.panels.transfer import TWO_WIRE as TWO
from lesart.core.glass.panels.transfer import Bus
from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.pace.bus_traced import Against, drawings_of, held_against, traced_verdicts, weighed
from lesart.core.pace.digits_traced import digit_verdicts, first_round_s, lines_of, trace_digits
from lesart.core.pace.edge_writer import evenly, four_wire, scanned, two_wire
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import Words, four_wire_words, two_wire_words
from lesart.core.raw.decode.four_wire import FOUR_WIRE
from lesart.core.raw.edges import HIGH, LOW, edges_of

LID = PixelPanel("lid", 16, 16, "white")


@settings(max_examples=40)
@given(st.lists(st.binary(min_size=1, max_size=12), min_size=1, max_size=5), st.sampled_from((1e5, 4e5, 1e6)))
def test_two_wires_there_and_back(sent: list[bytes], clock_hz: float) -> None:
    """Every byte comes back, each in its transmission; to another address it does not."""
    lines = two_wire([(1e-3, Transmission(each, True)) for each in sent], 0x3C, clock_hz, 1.0)
    words = two_wire_words(lines["clock"], lines["data"], 0x3C)
    assert words.value.tobytes() == b"".join(sent)
    assert words.part.tolist() == [place for place, each in enumerate(sent) for _ in each]
    assert (words.refused, words.broken) == (0, 0)
    assert len(two_wire_words(lines["clock"], lines["data"], 0x3D)) == 0


@settings(max_examples=40)
@given(st.lists(st.tuples(st.binary(min_size=1, max_size=12), st.booleans()), min_size=1, max_size=5))
def test_four_wires_there_and_back(sent: list[tuple[bytes, bool]]) -> None:
    """Bytes with what their line says; a wrong clock mode or bit order does not give them."""
    values, _ = read_table(FOUR_WIRE.parameters, {}, "")
    lines = four_wire([(1e-3, Transmission(*each)) for each in sent], 2e6, 1.0)
    words = four_wire_words(lines, values)
    assert words.value.tobytes() == b"".join(data for data, _ in sent)
    assert words.is_data.tolist() == [is_data for data, is_data in sent for _ in data]
    assert words.part.tolist() == [place for place, (data, _) in enumerate(sent) for _ in data]
    turned = four_wire_words(lines, {**values, "first": "lowest"})
    assert [int(f"{byte:08b}"[::-1], 2) for byte in turned.value.tolist()] == words.value.tolist()


@pytest.mark.parametrize(("count", "at_once"), [(1, 0), (128, 0), (1024, 0), (1024, 16), (100, 32), (7, 3)])
@pytest.mark.parametrize("clock_hz", [1e5, 4e5])
def test_the_model_of_a_bus_to_the_clock(count: int, at_once: int, clock_hz: float) -> None:
    """From start to start of the trace is what the model says, less than a clock off over all of it."""
    panel = replace(LID, bus=Bus(TWO, clock_hz, at_once))
    size = at_once or count
    told = [(0.0, Transmission(b"\x40" + b"\x5a" * min(size, count - first), True)) for first in range(0, count, size)]
    told.append((0.0, Transmission(b"\x00\xaf", False)))  # what begins when all data are done
    lines = two_wire(told, 0x3C, clock_hz, 2.0)
    words = two_wire_words(lines["clock"], lines["data"], 0x3C)
    took = float(words.start_s[-1] - words.start_s[0])
    assert took == pytest.approx(panel.bus.transfer_s(count), abs=0.5 / clock_hz)


def test_the_model_of_four_wires_to_the_clock() -> None:
    """Eight clocks a byte, from the first bit to the last."""
    lines = four_wire([(0.0, Transmission(bytes(504), True))], 2e6, 1.0)
    clock = lines["clock"]
    rises = clock.t[clock.level == HIGH]
    assert float(rises[-1] - rises[0]) == pytest.approx(Bus(FOUR, 2e6).transfer_s(504) - 1 / 2e6, abs=1e-9)


def _drawn(frames: list[tuple[int, ...]], every_s: float = 0.1) -> tuple[Words, Interpreted]:
    """A panel of 16×16 drawn again and again over two wires, decoded and obeyed."""
    told = [
        (place * every_s, each) for place, rows in enumerate(frames) for each in transmissions_for(LID, PAGES, (rows,))
    ]
    lines = two_wire(told, 0x3C, 4e5, every_s * len(frames))
    words = two_wire_words(lines["clock"], lines["data"], 0x3C)
    return words, interpret(PAGES, words, *cells_of(LID))


def _wanted(frames: list[tuple[int, ...]], obeyed: Interpreted, every_s: float = 0.1) -> list[Cells]:
    """Cells that each frame should leave; those of pages that the panel does not have do not matter."""
    found = []
    for rows in frames:
        cells = np.full(obeyed.columns * obeyed.pages, -1, np.int64)
        sent = np.frombuffer(LID.sent(LID.lit((rows,))), np.uint8)
        cells[: len(sent)] = sent
        found.append(cells)
    return found


def _against(
    frames: list[tuple[int, ...]], drawn: list[tuple[int, ...]] | None = None
) -> tuple[Against, Words, Interpreted]:
    words, obeyed = _drawn(drawn or frames)
    wanted = _wanted(frames, obeyed)
    against = held_against(
        obeyed, words, lambda t: wanted[round(t / 0.1)], 0.02, 0.1 * len(frames), by_bits=True, unit="pixels"
    )
    return against, words, obeyed


EMPTY, LEFT = (0,) * 16, (0xFF00,) * 16


def test_drawings_that_are_right() -> None:
    """Nothing differs at the end of any; the same frame again changes nothing."""
    against, words, obeyed = _against([EMPTY, LEFT, LEFT])
    assert [each.differs for each in against.redraws] == [0, 0, 0]
    assert [each.written for each in against.redraws] == [32, 32, 32]
    # Eight columns of two pages become lit in the second drawing, none in the third.
    assert [each.changed for each in against.redraws] == [0, 16, 0]
    assert against.wasted == pytest.approx(1 - 16 / 64)
    assert against.rate_hz == pytest.approx(10.0, rel=1e-6)
    # It is wrong from the start of the second drawing to its last byte that matters: column 7 of the second page.
    second = against.redraws[1]
    assert second.wrong_s == pytest.approx(float(obeyed.t[32 + 16 + 7]) - second.start_s)
    assert (against.redraws[0].wrong_s, against.redraws[2].wrong_s) == (0.0, 0.0)
    verdicts = {each.name: each for each in traced_verdicts("lid", against, words, obeyed, 10.0, 0.001)}
    assert verdicts["pixels that differ"].ok
    assert verdicts["drawings a second, traced"].ok


def test_a_drawing_with_a_wrong_page() -> None:
    """The lower page is not drawn as it should: 64 pixels stay wrong until the next drawing."""
    half = LEFT[:8] + EMPTY[8:]
    against, words, obeyed = _against([EMPTY, LEFT, EMPTY], [EMPTY, half, EMPTY])
    assert [each.differs for each in against.redraws] == [0, 64, 0]
    # From its start to that of the third: a tenth of a second, but for the moments of the bus.
    assert against.redraws[1].wrong_s == pytest.approx(0.1, abs=2e-3)
    found = {each.name: each for each in traced_verdicts("lid", against, words, obeyed, 20.0, 0.001)}
    verdict = found["pixels that differ"]
    assert (verdict.figure, verdict.limit) == (64, 0)
    assert verdict.note is not None
    assert verdict.note.mark == FAULT
    assert "drawing 2 of the trace leaves 64 pixels different from its face" in verdict.note.text
    (rate,) = (each for each in found.values() if each.note is not None and each is not verdict)
    assert rate.note is not None
    assert rate.note.mark == DOUBT
    assert 100 * against.wrong_s / against.looked_s == found["glass was wrong"].figure > 0


def test_what_nobody_can_judge_is_not_called_right() -> None:
    """A trace of which nobody says when it began: no figure of what differs, no share of time, and the key that would
    tell."""
    against, words, obeyed = _against([EMPTY, LEFT, EMPTY], [EMPTY, LEFT, EMPTY])
    found = traced_verdicts("lid", against, words, obeyed, 10.0, 0.001, is_judged=False)
    names = [each.name for each in found]
    assert "pixels that differ: not judged" in names
    assert not any(name in ("pixels that differ", "glass was wrong") for name in names)
    note = found[0].note
    assert note is not None
    assert note.mark == REMARK
    assert note.remedy == "set starts at, the moment of the captures at which it begins"


def test_an_empty_trace() -> None:
    """One verdict that says so, and no division by nothing."""
    lines = two_wire([], 0x3C, 4e5, 1.0)
    words = two_wire_words(lines["clock"], lines["data"], 0x3C)
    obeyed = interpret(PAGES, words, 16, 2)
    against = held_against(obeyed, words, lambda t: np.zeros(128, np.int64), 0.02, 1.0, by_bits=True, unit="pixels")
    (nothing,) = traced_verdicts("lid", against, words, obeyed, 5.0, 0.01)
    assert not nothing.ok
    assert drawings_of(obeyed, 0.02) == ()


def test_what_the_controller_does_not_know_is_said() -> None:
    """Bytes that are not a command are counted, and are a doubt."""
    lines = two_wire(
        [(0.0, Transmission(b"\x00\xff\xfe", False)), (0.01, Transmission(b"\x40\x01", True))], 0x3C, 4e5, 1.0
    )
    words = two_wire_words(lines["clock"], lines["data"], 0x3C)
    obeyed = interpret(BANKS, words, 16, 2)
    assert len(obeyed.unknown) == 0  # banks are told by a line, and here everything is data
    obeyed = interpret(PAGES, words, 16, 2)
    against = held_against(obeyed, words, lambda t: np.full(128, -1, np.int64), 0.02, 1.0, by_bits=True, unit="pixels")
    found = {each.name: each.figure for each in traced_verdicts("lid", against, words, obeyed, 5.0, 0.01)}
    assert found["bytes that are not a command"] == 2.0


@given(st.lists(st.tuples(st.integers(0, 255), st.integers(-1, 255)), max_size=30))
def test_what_differs_is_counted_bit_by_bit(pairs: list[tuple[int, int]]) -> None:
    """Or cell by cell; where nothing is wanted nothing differs."""
    cells, wanted = (np.array([pair[place] for pair in pairs], np.int64) for place in (0, 1))
    bits = [0 if aim < 0 else bin(cell ^ aim).count("1") for cell, aim in pairs]
    assert weighed(cells, wanted, by_bits=True).tolist() == bits
    assert weighed(cells, wanted, by_bits=False).tolist() == [int(each > 0) for each in bits]


# Scanned digits

BITS = (0x06, 0x5B, 0x4F, 0x66)


def test_even_digits() -> None:
    """6 ms each, 0.1 ms dark: 41 Hz, no jitter, no ghost; what they show comes back."""
    slots = evenly(6e-3, 1e-4, BITS, 1.0)
    traced = trace_digits(*scanned(slots, 4, 8, 1.0), on_level=HIGH, lit_level=HIGH)
    assert traced.overlaps == 0
    assert traced.gap_ms == pytest.approx(0.1)
    for digit, bits in zip(traced.digits, BITS, strict=True):
        assert digit.refresh_hz == pytest.approx(1000 / 24.4)
        assert digit.on_ms == (pytest.approx(6.0), pytest.approx(6.0), pytest.approx(6.0))
        assert digit.jitter_ms == pytest.approx(0.0, abs=1e-9)
        assert digit.bits == bits
        assert digit.ghosts == ()
    found = {each.name: each for each in digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {})}
    assert all(each.ok for each in found.values())


def test_common_anodes_are_low() -> None:
    """Lines that light by a low level, digits and segments alike."""
    slots = evenly(2e-3, 1e-4, BITS, 0.2)
    lines = scanned(slots, 4, 8, 0.2, on_level=LOW, lit_level=LOW)
    assert [digit.bits for digit in trace_digits(*lines, on_level=LOW, lit_level=LOW).digits] == list(BITS)


def test_one_uneven_digit() -> None:
    """The third is on for 3 of the others' 6 ms: half as bright."""
    slots, t = [], 0.0
    for place in range(400):
        on = 3e-3 if place % 4 == 2 else 6e-3
        slots.append((t, t + on, place % 4, BITS[place % 4]))
        t += 6.1e-3
    traced = trace_digits(*scanned(slots, 4, 8, t), on_level=HIGH, lit_level=HIGH)
    uneven = next(
        each
        for each in digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {})
        if each.name == "digits uneven, traced"
    )
    assert uneven.figure == pytest.approx(50.0, abs=0.1)
    assert uneven.note is not None
    assert "digit 3 is lit for 3 ms, the others for 6 ms; it is 50 % darker" in uneven.note.text


def test_one_long_time_in_many_makes_no_digit_brighter() -> None:
    """The light of a digit is its mean: once in a hundred rounds digit 2 is on for twice as long, which is 1 %."""
    slots, t = [], 0.0
    for place in range(400):
        on = 12e-3 if place == 201 else 6e-3
        slots.append((t, t + on, place % 4, BITS[place % 4]))
        t += on + 1e-4
    traced = trace_digits(*scanned(slots, 4, 8, t), on_level=HIGH, lit_level=HIGH)
    least, mean, most = traced.digits[1].on_ms
    assert (least, mean, most) == (pytest.approx(6.0), pytest.approx(6.06), pytest.approx(12.0))
    found = {each.name: each for each in digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {})}
    assert found["digits uneven, traced"].ok
    assert found["digits uneven, traced"].figure == pytest.approx(1.0, abs=0.02)


def test_digits_that_overlap() -> None:
    """Each stays on for 40 µs into the next one's time, whose segments show in it: 40 of 6040 µs of ghost."""
    slots = [(place * 6e-3, (place + 1) * 6e-3 + 40e-6, place % 4, BITS[place % 4]) for place in range(200)]
    traced = trace_digits(*scanned(slots, 4, 8, 1.3), on_level=HIGH, lit_level=HIGH)
    assert traced.overlaps == 199
    assert traced.overlap_ms == pytest.approx(0.04)
    dark = next(each for each in digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {}) if "dark" in each.name)
    assert dark.figure == pytest.approx(-40.0)
    assert dark.note is not None
    assert "lit at once 199 times, for up to 40 µs" in dark.note.text


def test_a_ghost_of_the_next_digit() -> None:
    """Segments change a tenth of its time before a digit goes off: those of the next glow in it."""
    changes = [place * 5e-3 for place in range(201)]
    on = [
        edges_of(
            *zip(
                *[
                    (t + off, level)
                    for place, t in enumerate(changes[:-1])
                    if place % 2 == digit
                    for off, level in ((0.0, HIGH), (4.9e-3, LOW))
                ],
                strict=True,
            ),
            LOW,
            0.0,
            1.01,
        )
        for digit in range(2)
    ]
    # One segment, lit in digit 1 only; it changes 0.5 ms before its digit does.
    lit = edges_of(
        [max(t - 0.5e-3, 0.0) for t in changes], [HIGH if place % 2 else LOW for place in range(201)], HIGH, 0.0, 1.01
    )
    first, second = trace_digits(on, [lit], on_level=HIGH, lit_level=HIGH).digits
    assert first.shares.mean() == pytest.approx(0.4 / 4.9, abs=1e-3)
    assert second.shares.mean() == pytest.approx(4.5 / 4.9, abs=1e-3)
    assert (first.bits, second.bits) == (0, 1)
    traced = trace_digits(on, [lit], on_level=HIGH, lit_level=HIGH)
    ghost = digit_verdicts("stand", traced, 40.0, 100.0, 4.9, 0.02, {0: "a"})[-1]
    assert ghost.note is not None
    assert ghost.note.text == (
        "stand: in the trace segment a of digit 1 is lit for 8.2 % of its time while it should be dark: a ghost."
    )


@pytest.mark.parametrize(("dark_s", "ok"), [(20e-6, True), (19.96e-6, False)])
def test_as_long_dark_as_is_needed_is_long_enough(dark_s: float, ok: bool) -> None:
    """At moments whose differences are not exact; and what is too short reads differently from what is needed."""
    slots = evenly(1.98e-3, dark_s, BITS, 1.0)
    slots = [(start + 0.01, end + 0.01, digit, bits) for start, end, digit, bits in slots]
    traced = trace_digits(*scanned(slots, 4, 8, 1.1), on_level=HIGH, lit_level=HIGH)
    (dark,) = (each for each in digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {}) if "dark" in each.name)
    assert dark.ok is ok
    if not ok:
        assert dark.note is not None
        assert dark.note.text == (
            "stand: in the trace only 19.96 µs are dark between two digits; one needs 20 µs to go dark."
        )


def test_a_number_that_changes_is_no_ghost() -> None:
    """34 for most of the time, then 12: each is shown while it stood, and what was lit before glows in nothing."""
    slots, t = [], 0.0
    for place in range(400):
        bits = (0x4F, 0x66) if place < 300 else (0x06, 0x5B)
        slots.append((t, t + 4.9e-3, place % 2, bits[place % 2]))
        t += 5e-3
    traced = trace_digits(*scanned(slots, 2, 8, t), on_level=HIGH, lit_level=HIGH)
    assert [digit.bits_at(-1.0) for digit in traced.digits] == [0x4F, 0x66]
    assert [digit.bits_at(1.499) for digit in traced.digits] == [0x4F, 0x66]
    # The first digit of the new number has been on, the second not yet.
    assert [digit.bits_at(1.506) for digit in traced.digits] == [0x06, 0x66]
    assert [digit.bits_at(9.0) for digit in traced.digits] == [0x06, 0x5B]
    assert [digit.bits for digit in traced.digits] == [0x4F, 0x66]
    assert [digit.ghosts for digit in traced.digits] == [(), ()]
    assert digit_verdicts("stand", traced, 40.0, 100.0, 4.9, 0.02, {})[-1].figure == 0.0


def test_jitter_and_the_slowest_round() -> None:
    """Every tenth round waits 10 ms for something else."""
    slots, t = [], 0.0
    for place in range(400):
        slots.append((t, t + 2e-3, place % 4, BITS[place % 4]))
        t += 2.1e-3 + (10e-3 if place % 40 == 39 else 0.0)
    traced = trace_digits(*scanned(slots, 4, 8, t), on_level=HIGH, lit_level=HIGH)
    # A round of four takes 8.4 ms, one of ten 18.4.
    assert traced.digits[0].slowest_hz == pytest.approx(1000 / 18.4)
    periods = [8.4] * 90 + [18.4] * 9
    assert traced.digits[0].jitter_ms == pytest.approx(float(np.std(periods)), rel=1e-6)
    slow = next(each for each in digit_verdicts("stand", traced, 60.0, 119.0, 2.0, 0.02, {}) if "slowest" in each.name)
    assert slow.note is not None
    assert "waits up to 18.4 ms" in slow.note.text


def test_a_digit_that_is_never_lit() -> None:
    """Said by its number; nothing else is judged."""
    digits, segments = scanned(evenly(6e-3, 1e-4, BITS[:3], 1.0), 4, 8, 1.0)
    traced = trace_digits(digits, segments, on_level=HIGH, lit_level=HIGH)
    (only,) = digit_verdicts("stand", traced, 40.0, 41.0, 6.0, 0.02, {})
    assert only.note is not None
    assert "digit 4 is never lit" in only.note.text
    # One round and a bit: only the first digit comes twice.
    short = trace_digits(*scanned(evenly(6e-3, 1e-4, BITS, 0.032), 4, 8, 0.032), on_level=HIGH, lit_level=HIGH)
    (only,) = digit_verdicts("stand", short, 40.0, 41.0, 6.0, 0.02, {})
    assert only.note is not None
    assert "digits 2, 3 and 4 are never lit, or only once" in only.note.text


def test_lanes_of_a_trace() -> None:
    """Whole nanoseconds from the first round on."""
    slots = [(start + 0.01, end + 0.01, digit, bits) for start, end, digit, bits in evenly(6e-3, 1e-4, BITS, 0.3)]
    traced = trace_digits(*scanned(slots, 4, 8, 0.4), on_level=HIGH, lit_level=HIGH)
    start_ns = round(first_round_s(traced) * 1e9)
    assert start_ns == 10_000_000
    lanes = lines_of(traced, start_ns, 24_400_000)
    assert [lane[0] for lane in lanes] == [(place * 6_100_000, place * 6_100_000 + 6_000_000) for place in range(4)]


def test_what_is_sent_for_nothing_is_said() -> None:
    """Of seven drawings behind the first, 224 bytes, 16 changed anything."""
    against, words, obeyed = _against([EMPTY, *[LEFT] * 7])
    verdicts = {each.name: each for each in traced_verdicts("lid", against, words, obeyed, 10.0, 0.001)}
    note = verdicts["bytes that change nothing"].note
    assert note is not None
    assert note.text == "lid: 93 % of the bytes that the trace sends change nothing."
