"""Text that devices send over a traced line: values by their names, lines broken on the wire, parts of lines."""

from __future__ import annotations

import math

from lesart.core.block import Mark
from lesart.core.raw.lines.spoken_lines import spoken_lines
from lesart.core.raw.messages.frames import ByteFrame

LETTER_S = 1e-3


def heard(*words: bytes, damaged: int = -1) -> list[ByteFrame]:
    """Words of a UART, a letter per millisecond, a pause of ten between words; one word with a wrong parity bit."""
    frames, t = [], 0.0
    for place, word in enumerate(words):
        end = t + LETTER_S * len(word)
        mark, why = (int(Mark.CHECKSUM), "byte 2: parity") if place == damaged else (0, "")
        frames.append(ByteFrame(t, end, word, mark, why))
        t = end + 10 * LETTER_S
    return frames


def test_pauses_within_a_line_do_not_end_it() -> None:
    """A line is dated by its end of line; its value is there then, not before."""
    found = spoken_lines(heard(b"mass: 4", b"2.5 kg\r\n", b"mass: 42.6 kg\r\n"))
    assert [frame.data for frame in found.frames] == [b"mass: 42.5 kg", b"mass: 42.6 kg"]
    (column,) = found.columns.values()
    assert column.x.tolist() == [42.5, 42.6]
    # Seven letters, a pause, seven letters with the end of line; then 8 + 10 ms, and fourteen letters.
    assert column.t.tolist() == [round(0.007 + 0.010 + 0.007, 9), round(0.025 + 0.010 + 0.014, 9)]
    assert set(found.units.values()) == {"kg"}


def test_a_line_with_a_damaged_byte_gives_no_value_and_says_why() -> None:
    """Its number may be wrong, and nobody sees it in the number."""
    words = [b"mass: %d kg\r\n" % number for number in (41, 42, 43)]
    found = spoken_lines(heard(*words, damaged=1))
    assert [(frame.mark, frame.why) for frame in found.frames] == [(0, ""), (Mark.CHECKSUM, "byte 2: parity"), (0, "")]
    (column,) = found.columns.values()
    assert [value for value in column.x.tolist() if not math.isnan(value)] == [41, 43]
    assert column.mark.tolist() == [0, Mark.MISSING, 0]


def test_what_broke_stays_with_its_own_line() -> None:
    """Damage in the first half of a line counts for all of it, and not for the next."""
    found = spoken_lines(heard(b"mass: 4", b"1 kg\r\nmass: 42 kg\r\n", b"mass: 43 kg\r\n", damaged=0))
    assert [frame.why for frame in found.frames] == ["byte 2: parity", "", ""]


def test_a_line_without_its_end_is_no_value() -> None:
    """The trace ends within a number: 4 of 42 would be believed otherwise."""
    found = spoken_lines(heard(b"mass: 41 kg\r\n", b"mass: 42 kg\r\n", b"mass: 4"))
    assert [(frame.mark, frame.why) for frame in found.frames][-1] == (Mark.MISSING, "its end is not in the trace")
    (column,) = found.columns.values()
    assert [value for value in column.x.tolist() if not math.isnan(value)] == [41, 42]


def test_a_device_that_sends_one_quantity_at_a_time() -> None:
    """Each has a column; a line of another shape that comes once, as damage makes it, has none."""
    pairs = [b"mass: %d kg\r\nheat: %d C\r\n" % (40 + k, 20 + k) for k in range(12)]
    found = spoken_lines(heard(*pairs, b"mess: 7 kg\r\n"))
    assert {name: column.x.tolist() for name, column in found.columns.items()} == {
        "mass": [40.0 + k for k in range(12)],
        "heat": [20.0 + k for k in range(12)],
    }
    # Every sample points to the line it came from.
    assert found.from_frame["heat"] == tuple(range(1, 24, 2))
