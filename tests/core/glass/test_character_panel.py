"""Character panels: their codes and addresses, a person's own glyphs, and lines longer than the glass."""

from __future__ import annotations

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glyphs.cell5x8 import CELLS_5X8
from lesart.core.parameters import read_table

HEART = ".#.#./#####/#####/.###./..#.."


def panel_of(glyphs: dict[str, str] | None = None, **written: object) -> CharacterPanel:
    """As the project file would make it."""
    values, problems = read_table(KINDS["characters"].parameters, written, "p")
    assert not problems, problems
    panel = KINDS["characters"].build("p", values, Given(glyphs=glyphs or {}))
    assert isinstance(panel, CharacterPanel)
    return panel


ADDRESSES = [
    ({"columns": 16, "rows": 2}, (1, 3), 0x43),
    ({"columns": 8, "rows": 1}, (0, 7), 0x07),
    ({"columns": 20, "rows": 4}, (2, 0), 0x14),
    ({"columns": 20, "rows": 4}, (3, 19), 0x67),
    ({"columns": 16, "rows": 4}, (2, 0), 0x10),
    ({"columns": 40, "rows": 4}, (3, 0), 0x40),
    ({"columns": 16, "rows": 2, "addresses": "0x00 0x20"}, (1, 1), 0x21),
]


@pytest.mark.parametrize(("written", "cell", "address"), ADDRESSES)
def test_addresses_of_cells(written: dict[str, object], cell: tuple[int, int], address: int) -> None:
    """Rows three and four go on where one and two end; a map of one's own stands before that."""
    assert panel_of(**written).address(*cell) == address


def test_a_person_s_own_glyphs() -> None:
    """Under the codes 0 to 7 in the order they stand in, and again at 8 to 15; letters of the set stay."""
    panel = panel_of({"h": HEART, "1": "#####"})
    assert panel.code(Cell("h")) == 0
    assert panel.code(Cell("1")) == 1
    assert panel.code(Cell("2")) == 0x32
    assert panel.dots(0) == panel.dots(8) == (10, 31, 31, 14, 4, 0, 0, 0)
    assert panel.dots(5) == (0,) * 8
    many = panel_of(dict.fromkeys("abcdefghi", HEART))
    assert many.code(Cell("h")) == 7
    assert many.code(Cell("i")) == ord("i"), "the ninth has no slot, so the set's own letter is sent"


def test_the_display_can_be_shifted() -> None:
    """A line of memory is forty cells; which of them are behind the glass is a matter of the shift."""
    line = tuple(range(0x20, 0x20 + 40))
    straight, shifted = (panel_of(shift=shift).lit((line, line)) for shift in (0, 30))
    assert straight.codes[0] == tuple(range(0x20, 0x30))
    assert shifted.codes[0] == (*range(0x3E, 0x48), *range(0x20, 0x26))
    assert straight.dots[0][1] == CELLS_5X8["!"]
    assert len(panel_of(columns=20, rows=4).blank()[0]) == 20


WRONG = [
    ({"addresses": "0x00"}, None, 'needs 2 of them from 0x00 to 0x7F, like "0x00 0x40"'),
    ({"addresses": "0x00 0x80"}, None, "from 0x00 to 0x7F"),
    ({"addresses": "a b"}, None, "needs 2"),
    ({}, {"h": "###"}, 'glyph "h" = "###"; it must be up to eight rows'),
]


@pytest.mark.parametrize(("written", "glyphs", "says"), WRONG)
def test_what_is_wrong_says_what_would_be_right(
    written: dict[str, object], glyphs: dict[str, str] | None, says: str
) -> None:
    """With the value."""
    with pytest.raises(ValueError, match=says):
        panel_of(glyphs, **written)
