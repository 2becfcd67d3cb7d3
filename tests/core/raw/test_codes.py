"""Raw values that say that a sensor failed, and codes that never come."""

from __future__ import annotations

import numpy as np
import pytest

from lesart.core.block import Mark, block_of
from lesart.core.notes import DOUBT, REMARK, Note
from lesart.core.raw.codes import ENDS, REGISTER_ENDS, Coded, code_step, full_at, inspect_codes, inspect_empty_frames
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.units import parse_unit

CHANCE = np.random.default_rng(11)
NOISY = CHANCE.integers(2000, 2040, 500).astype(float)


def said(x: object, bits: int = 0, unit: str = "ct", *, is_counts: bool = True) -> list[Note]:
    return inspect_codes(Coded("c", block_of(np.asarray(x, np.float64), 10.0), parse_unit(unit), is_counts, bits))


@pytest.mark.parametrize("step", [1, 2, 4, 16, 3])
def test_the_step_of_codes(step: int) -> None:
    """Of whole counts in any order, from wherever they begin."""
    assert code_step(7 + step * CHANCE.integers(0, 50, 400).astype(float)) == step


def test_codes_that_have_no_step() -> None:
    """Fractions, too few, none."""
    assert code_step(np.linspace(0, 1, 100)) == 1
    assert code_step(np.array([16.0, 32.0, 48.0])) == 1
    assert code_step(np.zeros(0)) == 1


def test_twelve_bits_in_sixteen() -> None:
    """Its figure is the step; a reading is that much coarser."""
    (note,) = said(16 * NOISY, 16)
    assert (note.mark, note.figure) == (DOUBT, 16.0)
    assert "12 bits in 16" in note.text


def test_a_converter_of_fewer_bits_than_stated() -> None:
    """Its counts end where twelve bits do; sixteen would go on."""
    x = np.minimum(CHANCE.integers(3000, 4300, 300), 4095).astype(float)
    (note,) = said(x, 16)
    assert (note.figure, note.limit) == (12.0, 16.0)
    assert said(x, 12) == []


@pytest.mark.parametrize("code", [0.0, 65_535.0, -1.0, -32_768.0, 255.0, 16_777_215.0])
def test_a_code_of_all_bits_far_from_the_others(code: float) -> None:
    """As often as it comes; a signal that reaches it is none of that."""
    x = NOISY.copy()
    x[[100, 200, 300]] = code
    (note,) = said(x)
    assert (note.mark, note.figure) == (DOUBT, 3.0)
    assert "00:00:10.0" in note.text
    assert said(np.abs(code) + np.arange(-20.0, 21.0).repeat(5)) == []


@pytest.mark.parametrize(("places", "said_so"), [
    ([100], "c: 1 of 500 raw values (0.2 %) is 65 535 ct, far from all others, first at 00:00:10.0: "),
    ([100, 7, 300], "c: 3 of 500 raw values (0.6 %) are 65 535 ct, far from all others, first at 00:00:00.7: "),
])  # fmt: skip
def test_how_often_and_when_first_is_said(places: list[int], said_so: str) -> None:
    x = NOISY.copy()
    x[places] = 65_535.0
    (note,) = said(x)
    assert note.text == said_so + "every one of 16 bits is set, as where nothing answers."


def test_a_converter_of_fewer_bits_is_said_in_full() -> None:
    (note,) = said(16 * NOISY, 16)
    assert note.text == (
        "c: its counts come in steps of 16: 12 bits in 16; a reading is 16 times as coarse as its counts look."
    )
    (note,) = said(3 * NOISY, 16)
    assert note.text == "c: its counts come in steps of 3; a reading is 3 times as coarse as its counts look."
    assert (note.figure, note.unit, note.limit) == (3.0, "ct", 1.0)
    x = np.minimum(CHANCE.integers(3000, 4300, 300), 4095).astype(float)
    (note,) = said(x, 16)
    assert note.text == "c: its counts end at 4095 ct, which is all that 12 bits can say; 16 are stated."


def test_a_failure_in_words_of_its_unit() -> None:
    """A thermometer that does not answer, and one that was just switched on."""
    for value in (-127.0, 85.0):
        x = np.where(np.arange(200) == 60, value, 21.0 + 0.1 * (np.arange(200) % 7))
        (note,) = said(x, unit="°C", is_counts=False)
        assert note.figure == 1.0
    assert said(np.linspace(80.0, 90.0, 101), unit="°C", is_counts=False) == []


def test_several_that_stand_for_a_failure_do_not_hide_each_other() -> None:
    """Between −127 and 85 lie all readings, and neither is near them; so with the two ends of a register."""
    x = 21.0 + 0.1 * (np.arange(400) % 7)
    x[[60, 160]], x[[70, 170, 270]] = -127.0, 85.0
    assert sorted(note.figure or 0 for note in said(x, unit="°C", is_counts=False)) == [2.0, 3.0]
    counts = NOISY.copy()
    counts[[1, 2]], counts[[3, 4, 5]], counts[7] = 0.0, 65_535.0, -32_768.0
    assert sorted(note.figure or 0 for note in said(counts)) == [1.0, 2.0, 3.0]


def test_what_comes_again_and_again_far_from_all_others() -> None:
    """A lost echo has its longest time, whatever the unit; a switch has two values, and a tail is not alone."""
    x = np.random.default_rng(4).normal(4000, 30, 500)
    x[[3, 80, 81, 200]] = 38_000.0
    (note,) = said(x, unit="µs", is_counts=False)
    assert note.text == (
        "c: 4 of 500 raw values (0.8 %) are 38 000 µs, far from all others, first at 00:00:00.3: "
        "exactly the same each time, like an error code."
    )
    x[[3, 80]] = 4000.0
    assert said(x, unit="µs", is_counts=False) == []
    assert said(np.where(np.arange(500) % 9 == 0, 100.0, 0.0), unit="%", is_counts=False) == []
    assert said(np.minimum(np.random.default_rng(4).exponential(1.0, 500), 3.0), unit="V", is_counts=False) == []


@pytest.mark.parametrize("bits", [16, 24, 32])
def test_a_counter_that_comes_round_may_be_one(bits: int) -> None:
    """It only rises, and falls where it is full; so does what rises through nothing, and both are said."""
    (note,) = said((2**bits - 200 + 7 * np.arange(60)) % 2**bits)
    assert note.text.endswith(
        f"negative numbers of {bits} bits, read without their sign, or a running counter that came round."
    )
    assert note.remedy.endswith(f" else x - {2**bits}; of a counter type a {bits} bit counter there")
    (note,) = said(np.rint(300 * np.sin(np.arange(1200) / 30)) % 2**bits)
    assert "counter" not in note.text + note.remedy


@pytest.mark.parametrize("bits", [16, 24, 32])
def test_negative_numbers_without_their_sign(bits: int) -> None:
    """Of a wave about nothing half are below; with the sign, or where it goes all the way, nothing is said."""
    wave = np.rint(300 * np.sin(np.arange(1200) / 30))
    (note,) = said(wave % 2**bits)
    assert note.figure == np.count_nonzero(wave < 0)
    assert note.remedy == (
        f"read them as signed, or begin 3 Law with formula x if x < {2 ** (bits - 1)} else x - {2**bits}"
    )
    assert said(wave) == []
    assert said(wave + 300) == []
    assert said(np.linspace(0, 2**bits - 1, 1200).round()) == []
    # A switch between the rails of a converter is none.
    assert said(np.where(wave > 0, 1015.0, 8.0) + np.arange(1200) % 5) == []


@pytest.mark.parametrize("bits", [16, 24, 32])
def test_nothing_but_negative_numbers(bits: int) -> None:
    """A frosty night in a register of nobody knows how many bits; not where it is said, and not farther down."""
    frost = -80.0 + np.rint(3 * np.sin(np.arange(600) / 30))
    (note,) = said(frost % 2**bits)
    assert (note.mark, note.figure, note.limit) == (REMARK, 2.0**bits - 83, 2.0**bits)
    assert note.remedy == f"if they are, begin 3 Law with formula x if x < {2 ** (bits - 1)} else x - {2**bits}"
    assert f"negative numbers of {bits} bits" in note.text
    assert said(frost % 2**bits, bits=bits) == []
    assert said(frost % 2**bits - 2 ** (bits - 4)) == []
    assert said(frost % 2**bits, unit="µs", is_counts=False) == []


def test_a_signal_that_stands_still() -> None:
    """Where it moves otherwise; one that is quiet all the time is no doubt."""
    x = NOISY.copy()
    x[200:260] = x[200]
    (note,) = said(x)
    assert note.figure == 60.0
    at = f"{int(x[200]) // 1000}{int(x[200]) % 1000:03d}"
    assert note.text.startswith(
        f"c: it stays at {at} ct for 5.9 s from 00:00:20.0 on, 60 samples; elsewhere it moves by "
    )
    quiet = np.repeat(np.arange(10.0), 60)
    assert said(quiet) == []


def test_a_whole_capture_of_one_value() -> None:
    """All zeros say it twice over, once is enough to say."""
    (note,) = said(np.full(300, 512.0))
    assert (note.figure, note.text) == (300.0, "c: all 300 raw values are 512 ct.")
    assert said(np.full(20, 512.0)) == []


def test_bad_samples_are_no_codes() -> None:
    """What was marked already is not told again."""
    block = block_of(np.where(np.arange(500) == 5, 65_535.0, NOISY), 10.0)
    mark = np.where(block.x == 65_535, np.uint8(Mark.CHECKSUM), np.uint8(0))
    assert inspect_codes(Coded("c", block.with_values(block.x, mark), parse_unit("ct"), True)) == []


@pytest.mark.parametrize("byte", [0, 255])
def test_frames_of_nothing(byte: int) -> None:
    """A sum over zeros is zero, so the check lets them pass; broken frames are told elsewhere."""
    good = ByteFrame(1.0, 1.1, bytes([1, 2, 3]))
    empty = ByteFrame(2.0, 2.1, bytes([byte] * 5))
    broken = ByteFrame(3.0, 3.1, bytes([byte] * 5), mark=int(Mark.CHECKSUM))
    (note,) = inspect_empty_frames("c", [good, empty, broken, empty])
    assert (note.figure, note.mark) == (2.0, DOUBT)
    assert inspect_empty_frames("c", [good, broken]) == []


@pytest.mark.parametrize(("count", "does"), [(1, "marks it"), (2, "marks them"), (5, "marks them")])
def test_the_key_says_how_many_it_marks(count: int, does: str) -> None:
    """As a person would say it."""
    x = NOISY.copy()
    x[100 : 100 + count] = 65_535.0
    coded = Coded("c", block_of(x, 10.0), parse_unit("ct"), True, 16, none_key=("inputs", "c", "no_reading"))
    (note,) = inspect_codes(coded)
    assert (note.figure, note.m_does) == (float(count), does)


def test_the_ends_of_registers_and_of_meters() -> None:
    """By bits, of integers with and without a sign; by digits, of those that count on a drum."""
    assert {32767.0, -32768.0, 65535.0, 2147483647.0, -2147483648.0, 4294967295.0, 6553.5} <= REGISTER_ENDS
    assert [*ENDS] == sorted([2**8, 2**16, 2**24, 2**32, *(10**digits for digits in range(3, 9))])


@pytest.mark.parametrize("full", ENDS)
def test_where_a_counter_wraps_is_seen(full: float) -> None:
    counts = (full - 60 + 7 * np.arange(20)) % full
    assert full_at(counts) == full
    assert full_at(np.sort(counts)) == 0.0
