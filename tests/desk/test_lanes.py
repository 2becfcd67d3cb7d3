"""Lanes: edges in cells as a person would draw them, a strip a byte, doubts about narrow bits."""

from __future__ import annotations

from lesart.core.raw.edges import UNKNOWN, edges_of
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from lesart.desk.workspace.context import WIDTH
from lesart.desk.workspace.raw.lanes import lane


def words(desk: Desk) -> list[str]:
    desk.open_step(Step.RAW)
    return ["".join(span.text for span in line) for line in workspace_now(desk).lines]


def test_levels_edges_and_what_is_too_fast_for_a_cell() -> None:
    edges = edges_of([2.5, 5.5, 8.1, 8.2, 8.3, 8.4], [1, 0, 1, 0, 1, 0], first=0, end_s=10)
    assert lane(edges, 0, 10, 10) == "▁▁│▔▔│▁▁▒▁"
    assert lane(edges_of([1.0], [1], first=UNKNOWN, end_s=2), 0, 2, 4) == "░░│▔"


def test_the_frame_at_the_cursor_is_drawn_bit_by_bit(desk: Desk) -> None:
    """The reading of 00:24: humidity 73.8 %, 12.8 °C; the bits stand under their pulses in the order of the bytes."""
    desk.choose_channel("yard air")
    lines = words(desk)
    head = next(line for line in lines if line.startswith("frame at"))
    data = bytes.fromhex(head.partition("s   ")[2].strip())
    assert sum(data[:4]) & 0xFF == data[4]
    start = lines.index(head)
    bits = [line[5 : 5 + 56].replace(" ", "") for line in lines[start + 2 : start + 12 : 2]]
    assert bits == [f"{byte:08b}" for byte in data]
    assert all("least margin" in line for line in lines[start + 2 : start + 12 : 2])
    assert max(len(line) for line in lines) <= WIDTH + 2


def test_the_cursor_goes_from_frame_to_frame(desk: Desk) -> None:
    desk.choose_channel("yard air")
    first = next(line for line in words(desk) if line.startswith("frame at"))
    desk.move_cursor(1)
    second = next(line for line in words(desk) if line.startswith("frame at"))
    assert first != second


def test_a_broken_frame_says_why(desk: Desk) -> None:
    desk.choose_channel("yard air")
    desk.put_cursor(41 * 60 + 12.0)
    assert "sum is 0x" in next(line for line in words(desk) if line.startswith("frame at"))


def test_counts_show_the_edges_behind_them(desk: Desk) -> None:
    desk.choose_channel("entrance")
    lines = words(desk)
    assert any("▒" in line for line in lines)
    assert any(line.startswith("pulses in a gate") for line in lines)
    assert any("glitch edges" in line for line in lines)


def test_a_decoder_is_edited_in_place(desk: Desk) -> None:
    """A threshold beyond the ones makes every bit a zero, whose sum is right and value wrong; undo brings all back."""
    desk.choose_channel("yard air")
    desk.open_step(Step.RAW)
    desk.edit(("sources", "yard air", "decode", "threshold"), "90")
    assert 'threshold = "90 µs"' in desk.state.history.text
    wrong = desk.bench.raw(desk.state.project, desk.state.chosen)
    assert set(wrong.x[wrong.usable].tolist()) == {0.0}
    desk.undo()
    assert desk.bench.raw(desk.state.project, desk.state.chosen).usable.sum() == 116
    desk.edit(("sources", "yard air", "fields", 1, "bits"), "99")
    assert "from 1 to 64" in desk.state.message
