"""A count to try a display with: its range, its pace, its place, and what is wrong in a sentence."""

from __future__ import annotations

import pytest

from lesart.core.errors import RequestError
from lesart.core.fit.cells import Cell
from lesart.core.glass.bus.counting import Counting, read_counting
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now

STAND = SegmentPanel("stand", 4, True, "red", None)
DOOR = CharacterPanel("door", 16, 2, "grey")
LID = PixelPanel("lid", 128, 64, "white")


@pytest.mark.parametrize(
    ("typed", "counting"),
    [
        ("0 to 99", Counting(0, 99)),
        ("0 to 99 every 300 ms at column 2 width 2 padded 0", Counting(0, 99, 0.3, 0, 2, 2, "0")),
        ("count 10 to 0 every 1 s", Counting(10, 0, 1.0)),
        ("99 to 99, in 4 digits, padded with blanks", Counting(99, 99, 0.5, 0, 0, 4)),
    ],
)
def test_a_count_in_a_line(typed: str, counting: Counting) -> None:
    """As a person says it; what is left out has its usual value."""
    assert read_counting(typed, STAND) == counting


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("fast", '"fast" is not understood; say a count like 0 to 99 every 300 ms'),
        ("every 2 s", "its range is missing; say a count like"),
        ("0 to 9 sideways", '"sideways" is not understood'),
        ("0 to 9 every 5 kg", "every 5 kg"),
        ("0 to 9 every 0 s", "every 0 s: a step takes from 1 ms to 1 h."),
        ("0 to 9 at column 4", "row 0, column 4 is beyond stand, which has rows 0 to 0 and columns 0 to 3."),
        ("0 to 12345", "5 cells from column 0 on end beyond stand, which has 4."),
    ],
)
def test_what_is_no_count(typed: str, says: str) -> None:
    """The words that are wrong, and what would do."""
    with pytest.raises(RequestError) as caught:
        read_counting(typed, STAND)
    assert says in str(caught.value)


def test_up_down_and_padded() -> None:
    """By hand, and round again."""
    up, down = Counting(8, 11, width=3, pad="0"), Counting(2, 0)
    assert [up.text(step) for step in range(6)] == ["008", "009", "010", "011", "008", "009"]
    assert [down.text(step) for step in range(5)] == ["2", "1", "0", "2", "1"]
    assert [Counting(0, 9, 0.3).step_at(s) for s in (0.0, 0.29, 0.3, 0.95, 2.99)] == [0, 0, 1, 3, 9]


def test_where_it_stands() -> None:
    """In its cells and nowhere else; on pixels at its upper left corner."""
    counting = Counting(0, 99, row=1, column=3, width=2, pad="0")
    memory = counting.memory(DOOR, 7)
    assert bytes(memory[0]) == b" " * 40
    assert bytes(memory[1]) == b"   07" + b" " * 35
    digits = Counting(0, 99, column=2, width=2).memory(STAND, 42)
    assert digits == ((0, 0, STAND.code(Cell("4")), STAND.code(Cell("2"))),)
    drawn = LID.lit(Counting(8, 8, row=20, column=50).memory(LID, 0))
    lit = [(x, y) for y in range(64) for x in range(128) if drawn.lit(x, y)]
    assert min(x for x, _ in lit) >= 50
    assert min(y for _, y in lit) >= 20
    assert max(x for x, _ in lit) < 58
    assert max(y for _, y in lit) < 30


def test_a_count_on_the_screen(desk: Desk) -> None:
    """Typed on the leaf of test patterns, played at its pace; the project is as before."""
    text = desk.state.history.text
    desk.open_step(Step.GLASS)
    desk.choose_leaf("test")
    desk.add("0 to 99 every 300 ms padded 0")
    assert desk.state.message == "Counts 0 to 99 every 300 ms; space plays."
    desk.toggle_play()
    for _ in range(10):
        desk.tick(0.1)
    glass = workspace_now(desk).glass
    panel = desk.state.project.panels[desk.state.panel]
    assert glass is not None
    assert glass.frame == panel.lit(Counting(0, 99, pad="0").memory(panel, 3))
    desk.add("0 to x")
    assert "is not understood" in desk.state.message
    assert desk.state.history.text == text
