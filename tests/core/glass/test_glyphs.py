"""Glyphs: no two letters share a shape, and each shape is drawn as it should be."""

from __future__ import annotations

from collections import defaultdict
from itertools import pairwise

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.panel import CHARACTER_CODES, CharacterPanel, SegmentPanel
from lesart.core.glyphs.cell5x8 import CELLS_5X8, ORDER
from lesart.core.glyphs.segments import POINT, SEGMENTS, SHAPES_7, lit_names, mask_of

DIGITS_7 = {"0": "abcdef", "1": "bc", "2": "abdeg", "3": "abcdg", "4": "bcfg", "5": "acdfg", "6": "acdefg", "7": "abc",
            "8": "abcdefg", "9": "abcdfg"}  # fmt: skip


def twins(shapes: dict[str, object]) -> list[list[str]]:
    """Letters that look the same."""
    found: dict[object, list[str]] = defaultdict(list)
    for letter, shape in shapes.items():
        found[shape].append(letter)
    return [letters for letters in found.values() if len(letters) > 1]


@pytest.mark.parametrize("shapes", [CELLS_5X8, SHAPES_7])
def test_no_two_letters_share_a_shape(shapes: dict[str, object]) -> None:
    """What cannot be told apart is left out."""
    assert twins(shapes) == []


def test_every_printable_letter_is_drawn() -> None:
    """ASCII from blank to tilde, and the degree sign; each within five dots and eight rows."""
    assert set(ORDER) == {chr(code) for code in range(0x20, 0x7F)} | {"°"}
    assert len(ORDER) == len(CELLS_5X8)
    assert all(len(rows) == 8 and all(0 <= row < 32 for row in rows) for rows in CELLS_5X8.values())
    assert [letter for letter, rows in CELLS_5X8.items() if not any(rows)] == [" "]


def test_letters_stand_on_one_line() -> None:
    """Capitals and digits fill rows 0 to 6 and leave the row below free."""
    for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789":
        rows = CELLS_5X8[letter]
        assert rows[0], letter
        assert rows[6], letter
        assert rows[7] == 0, letter


@pytest.mark.parametrize(("digit", "lit"), DIGITS_7.items())
def test_digits_on_seven_segments(digit: str, lit: str) -> None:
    """As the trade draws them, 6 with its top and 9 with its foot."""
    assert SHAPES_7[digit] == mask_of(lit)
    assert lit_names(SHAPES_7[digit]) == lit
    assert lit_names(SHAPES_7[digit] | POINT) == lit + "."


def test_masks_go_there_and_back() -> None:
    """Any mask is its own letters."""
    for mask in range(128):
        assert mask_of(lit_names(mask)) == mask
    assert [mask_of(one) for one in SEGMENTS] == [1, 2, 4, 8, 16, 32, 64]


def test_degree_sign_has_a_code_of_its_own() -> None:
    """Sending the letter's own number would show something else."""
    panel = CharacterPanel("door", 16, 2, "grey")
    assert panel.code(Cell("°")) == 0xDF != ord("°")
    assert panel.code(Cell("A")) == 0x41
    assert panel.code(Cell("é")) is None
    codes = sorted(CHARACTER_CODES.values())
    assert all(first < second for first, second in pairwise(codes))


def test_points_only_where_there_are_points() -> None:
    """A panel without points has no code for a digit with one."""
    with_points = SegmentPanel("a", 4, True, "red", None)
    without = SegmentPanel("b", 4, False, "red", None)
    assert with_points.code(Cell("4", True)) == mask_of("bcfg") | POINT
    assert without.code(Cell("4", True)) is None
    assert without.code(Cell("4")) == mask_of("bcfg")
    assert with_points.code(Cell("K")) is None
