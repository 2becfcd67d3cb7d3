"""What is shown and sent first, by hand: patterns of every kind of panel, a start that a person wrote, times of
letters."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lesart.core.glass.bus.changes import start_for
from lesart.core.glass.bus.controllers import LETTERS, NUMBERS
from lesart.core.glass.bus.patterns import pattern, steps_of
from lesart.core.glass.faces.face import CLEARED, PADDED, Face
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.contrast import inspect_contrast
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import NUMBERED, SegmentPanel
from lesart.project.tables.panels import check_panel

PIXELS = PixelPanel("lid", 16, 24, "white")


def rows(panel: PixelPanel, name: str, step: int) -> list[str]:
    return [format(row, f"0{panel.columns}b") for row in pattern(panel, name, step)[0]]


def test_patterns_of_pixels() -> None:
    """Pages of eight rows, every second pixel, a column and a row that run; each begins again where it says."""
    dark, lit = "0" * 16, "1" * 16
    assert rows(PIXELS, "pages", 0) == [dark] * 8 + [lit] * 8 + [dark] * 8
    assert rows(PIXELS, "pages", 1) == [lit] * 8 + [dark] * 8 + [lit] * 8
    assert rows(PIXELS, "checkerboard", 0) == ["01" * 8, "10" * 8] * 12
    assert rows(PIXELS, "checkerboard", 1) == ["10" * 8, "01" * 8] * 12
    assert set(rows(PIXELS, "running column", 3)) == {"0001" + "0" * 12}
    assert rows(PIXELS, "running row", 5)[5] == lit
    assert [steps_of(PIXELS, name) for name in ("pages", "checkerboard", "running column", "running row")] == [
        2,
        2,
        16,
        24,
    ]
    framed = rows(PIXELS, "frame and corner", 0)
    assert framed[:2] == [lit, "1" * 7 + "0" * 8 + "1"]
    assert framed[-1] == lit
    assert framed[12] == "1" + "0" * 14 + "1"


def test_patterns_of_digits_and_letters_go_round() -> None:
    """A checkerboard has two steps: the digits, or cells, that are dark in one are lit in the other."""
    stand = SegmentPanel("stand", 4, True, "red")
    (first,), (second,) = (pattern(stand, "checkerboard", step) for step in range(2))
    assert [bool(each) for each in first] == [False, True, False, True]
    assert [bool(each) for each in second] == [True, False, True, False]
    assert steps_of(stand, "checkerboard") == 2
    door = CharacterPanel("door", 16, 2, "green light")
    assert steps_of(door, "checkerboard") == 2
    full = max(pattern(door, "all on", 0)[0][:16])
    blank = door.blank()[0][0]
    assert pattern(door, "checkerboard", 0)[0][:4] == (blank, full, blank, full)
    assert pattern(door, "checkerboard", 0)[1][:4] == (full, blank, full, blank)
    assert pattern(door, "checkerboard", 1)[0][:4] == (full, blank, full, blank)


def test_a_start_that_was_written_goes_out_as_its_driver_wants_it() -> None:
    """In pairs to a driver that is told numbers; byte by byte to others."""
    numbered = SegmentPanel("n", 8, True, "red", drive=NUMBERED, start=bytes.fromhex("0C010A05"))
    assert [each.data.hex() for each in start_for(numbered, NUMBERS)] == ["0c01", "0a05"]
    plain = replace(numbered, drive="two-line driver")
    assert [each.data.hex() for each in start_for(plain, NUMBERS)] == ["0c", "01", "0a", "05"]


def test_letters_take_their_time_and_a_clear_takes_more() -> None:
    """Two rows of an address and sixteen letters, 40 µs each; clearing takes 1.6 ms besides."""
    told = {"kind": "characters", "columns": 16, "rows": 2, "hookup": "8 lines"}
    door, problems = check_panel("door", told, {}, {})
    assert door is not None, problems
    face = Face("f", "door", ())
    assert drawing_of(replace(face, writes=PADDED), door).seconds == pytest.approx(34 * 40e-6)
    assert drawing_of(replace(face, writes=CLEARED), door).seconds == pytest.approx(34 * 40e-6 + 1.6e-3)


def test_light_before_something_bright_is_hardly_seen() -> None:
    """White #dfe9f2 before #d9d4c6: (0.807 + 0.05) ÷ (0.661 + 0.05) = 1.2."""
    pane = PixelPanel("pane", 16, 8, "white", see_through=True, behind="bright")
    (note,) = inspect_contrast(pane)
    assert note.text == ("pane: its white light before something bright has a contrast of 1.2; 3 is needed to be read.")
    assert note.figure == pytest.approx(1.2, abs=0.01)
    assert not inspect_contrast(replace(pane, behind="dark"))


def test_no_pixel_in_colours_shares_a_byte() -> None:
    """Nothing is sent beside those of the glass, whatever its size."""
    panel = ColourPanel("lid", 13, 7, "white")
    assert panel.padded(13, 7) == (0, 0)
    assert PixelPanel("lid", 13, 7, "white").padded(13, 7) == (0, 1)
    assert panel.size_of(13, 7) == 182


def test_own_glyphs_are_sent_behind_what_sets_it_up() -> None:
    """To the first place of the memory of glyphs, eight rows each."""
    rows = (0, 10, 31, 31, 14, 4, 0, 0)
    door = CharacterPanel("door", 16, 2, "green light")
    plain = start_for(door, LETTERS)
    own = start_for(replace(door, glyphs={"♥": rows}), LETTERS)
    assert own[: len(plain)] == plain
    # Over an expander each half of a byte is told by three bytes: its upper bits carry it, the lowest says it is data.
    told = [each.data for each in own[len(plain) :]]
    assert [((data[0] & 0xF0) | data[3] >> 4, data[0] & 1) for data in told] == [(0x40, 0), *((row, 1) for row in rows)]
