"""Panels that take time to change: how long a drawing takes, their bytes, what leaves shadows or changes too soon."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controllers import CONTROLLERS, PAGES, PAPER, WINDOWS
from lesart.core.glass.bus.interpreter import interpret
from lesart.core.glass.bus.transmissions import transmissions_for
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.items import Label
from lesart.core.glass.faces.motion import LEFT, Motion
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.catalogue import CATALOGUE, has_third_ink, is_paper
from lesart.core.glass.panels.inspect_panel import inspect_panel
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.pixel_panel import PixelPanel, written_box
from lesart.core.glass.panels.slow_change import SlowChange
from lesart.core.notes import FAULT
from lesart.core.raw.bus_bytes import Words
from lesart.study.packing.redraws import redraw_of
from tests.core.glass.test_pixel_panel import panel_of

PAPERS = [name for name, table in CATALOGUE.items() if is_paper(table) and not has_third_ink(table)]


def paper(name: str, **told: object) -> PixelPanel:
    return panel_of(**{key: value for key, value in CATALOGUE[name].items() if key != "kind"} | told)


def test_there_are_papers() -> None:
    assert len(PAPERS) > 3


@pytest.mark.parametrize(
    ("change", "usual_s", "leaves"),
    [
        (SlowChange(), 0.0, False),
        (SlowChange(quick_ones=0), 0.0, False),
        (SlowChange(5.0), 5.0, False),
        (SlowChange(5.0, 0.0, 0), 5.0, False),
        (SlowChange(2.0, 0.3), 0.3, False),
        (SlowChange(2.0, 0.3, 0), 0.3, True),
    ],
)
def test_most_changes_are_quick_ones_where_there_are(change: SlowChange, usual_s: float, leaves: bool) -> None:
    assert change.usual_s == usual_s
    assert change.leaves_traces == leaves


@pytest.mark.parametrize("name", PAPERS)
def test_white_is_all_ones_row_by_row_from_the_left(name: str) -> None:
    """Its memory has a 1 for white: a bare panel is all of it, and what fills a row up to bytes is white too."""
    panel = paper(name)
    across = -(-panel.width // 8)
    blank = panel.sent(panel.lit(panel.blank()))
    assert blank == b"\xff" * (across * panel.height)
    corner = panel.sent(panel.lit(written_box(panel.blank(), panel.columns, 0, 0, 1, 1, filled=True)))
    assert corner == b"\x7f" + blank[1:]
    below = panel.sent(panel.lit(written_box(panel.blank(), panel.columns, 9, 1, 1, 1, filled=True)))
    assert [place for place, byte in enumerate(below) if byte != 0xFF] == [across + 1]
    assert below[across + 1] == 0b1011_1111


@pytest.mark.parametrize(
    ("name", "sent_s", "changes_s"), [("122×250 e-paper", 0.008, 0.3), ("800×480 e-paper", 0.096, 5)]
)
def test_a_drawing_is_sent_and_then_changes(name: str, sent_s: float, changes_s: float) -> None:
    """Sixteen bytes times 250, and a hundred times 480, of eight clocks each at 4 MHz."""
    panel = paper(name)
    drawing = drawing_of(Face("f", "p", ()), panel)
    assert drawing.seconds == pytest.approx(sent_s)
    assert drawing.changes_s == changes_s
    assert panel.shown_after_s(panel.frame_size) == pytest.approx(sent_s + changes_s)


def test_a_quick_change_is_the_quicker_one() -> None:
    with pytest.raises(ValueError, match=r"quick_change = 2 s; it must take less than a whole change, which takes 2 s"):
        KINDS["pixels"].build("p", {**_values(), "change": 2.0, "quick_change": 2.0}, Given())


def _values() -> dict[str, object]:
    from lesart.core.parameters import read_table

    return read_table(KINDS["pixels"].parameters, {}, "p")[0]


@pytest.mark.parametrize(("ones", "count"), [(0, 1), (1, 0), (10, 0)])
def test_only_quick_changes_leave_shadows(ones: int, count: int) -> None:
    panel = paper("128×296 e-paper", keeps=False, quick_ones=ones)
    notes = inspect_panel(panel)
    assert [note.place for note in notes] == [("panels", "p", "quick_ones")] * count


@pytest.mark.parametrize(
    ("motion", "every_s", "mended"),
    [
        (Motion(), None, None),
        (Motion(blink_hz=1.0), None, None),
        (Motion(blink_hz=2.0), 0.25, ("blink", "0 Hz")),
        (Motion(blink_hz=0.1), None, None),
        (Motion(moves=LEFT, step_s=0.4), None, None),
        (Motion(moves=LEFT, step_s=0.2), 0.2, ("moves", "stands")),
        (Motion(moves=LEFT, step_s=0.4, blink_hz=4.0), 0.125, ("moves", "stands")),
    ],
)
def test_what_changes_sooner_than_the_panel_is_a_fault(
    motion: Motion, every_s: float | None, mended: tuple[str, str] | None
) -> None:
    """The panel takes 0.3 s; the same on one that shows at once is none."""
    face = Face("f", "p", (Label("hi", 20, 20, motion=motion),))
    slow, fast = paper("128×296 e-paper"), panel_of(width=128, height=64)
    found = [note for note in inspect_face(face, slow) if note.mark == FAULT]
    assert [note.figure for note in found] == ([] if every_s is None else [every_s])
    assert [(mend.key[-1], mend.value) for note in found for mend in note.mend] == ([] if mended is None else [mended])
    assert [note for note in inspect_face(face, fast) if note.mark == FAULT] == []


def test_the_bytes_of_a_small_paper() -> None:
    """By hand, after the data sheet: each command alone, its bytes as data, rows in two bytes, the low one first."""
    panel = paper("122×250 e-paper", width=16, height=258)
    memory = written_box(panel.blank(), panel.columns, 9, 257, 1, 1, filled=True)
    bare = b"\xff" * (2 * 258)
    told = [(False, "44"), (True, "0001"), (False, "45"), (True, "00000101"), (False, "4E"), (True, "00")]
    told += [
        (False, "4F"),
        (True, "0000"),
        (False, "24"),
        (True, bare.hex()),
        (False, "22"),
        (True, "F7"),
        (False, "20"),
    ]
    whole = transmissions_for(panel, PAPER, panel.blank())
    assert [(each.is_data, each.data.hex().upper()) for each in whole] == [
        (is_data, said.upper()) for is_data, said in told
    ]
    # One pixel more, the second of the second byte of the last row: 0xBF there, and nothing else is sent.
    told = [(False, "44"), (True, "0101"), (False, "45"), (True, "01010101"), (False, "4E"), (True, "01")]
    told += [(False, "4F"), (True, "0101"), (False, "24"), (True, "BF"), (False, "22"), (True, "F7"), (False, "20")]
    change = changes_for(panel, PAPER, panel.blank(), memory)
    assert [(each.is_data, each.data.hex().upper()) for each in change] == told
    start = start_for(panel, PAPER)
    assert [(each.is_data, each.data.hex()) for each in start[:3]] == [(False, "12"), (False, "01"), (True, "010100")]


RENEWED_PAGES = replace(PAGES, name="renewed", renew=(b"\x20\x01",))


def test_whatever_is_drawn_is_renewed_once() -> None:
    """Pages one by one too, all of them or what differs; where nothing differs nothing is renewed."""
    panel = panel_of(width=16, height=16)
    dot = written_box(panel.blank(), panel.columns, 0, 0, 1, 1, filled=True)
    for sent in (
        transmissions_for(panel, RENEWED_PAGES, dot),
        changes_for(panel, RENEWED_PAGES, panel.blank(), dot),
        changes_for(panel, RENEWED_PAGES, None, dot),
    ):
        assert [each.data for each in sent if b"\x20\x01" in each.data] == [b"\0\x20\x01"]
        assert sent[-1].data == b"\0\x20\x01"
    assert changes_for(panel, RENEWED_PAGES, dot, dot) == ()
    assert redraw_of(panel, RENEWED_PAGES, ()) is None
    assert redraw_of(panel, PAGES, ()) is not None


def test_a_panel_of_windows_is_switched_on_by_commands_alone() -> None:
    """And a start of one's own is cut at its commands, each of which stands alone."""
    panel = panel_of(width=16, height=16, bus="four-wire", bytes="rows of eight columns")
    assert [(each.is_data, each.data.hex()) for each in start_for(panel, WINDOWS)] == [
        (False, "13"),
        (False, "20"),
        (False, "29"),
    ]
    own = panel_of(width=16, height=16, bus="four-wire", bytes="rows of eight columns", start="11 36 48 29")
    assert [(each.is_data, each.data.hex()) for each in start_for(own, WINDOWS)] == [
        (False, "11"),
        (False, "36"),
        (True, "48"),
        (False, "29"),
    ]


@pytest.mark.parametrize("low_first", [False, True])
@pytest.mark.parametrize("name", CONTROLLERS)
def test_numbers_are_read_in_the_order_in_which_they_are_sent(name: str, low_first: bool) -> None:
    controller = replace(CONTROLLERS[name], low_first=low_first)
    for command in controller.commands:
        if command.more and command == next(each for each in controller.commands if each.does == command.does):
            wanted = 0x0102 if command.more > 1 else 0x02
            said = controller.code_of(command.does, wanted)
            assert command.value(said[0], list(said[1:]), controller.bytes_order) == wanted


def test_a_position_within_the_window_is_obeyed() -> None:
    """The second of three columns, the row below the window's first; from there on row by row, and round again."""
    told = [(0, "44"), (1, "0204"), (0, "45"), (1, "0a000b00"), (0, "4e"), (1, "03"), (0, "4f"), (1, "0b00"), (0, "24")]
    there = StandIn([*told, (1, "010203")])
    assert there.cells() == {(3, 11): 1, (4, 11): 2, (2, 10): 3}


class StandIn:
    """What a controller of 8 by 16 cells makes of commands and data."""

    def __init__(self, told: list[tuple[int, str]]) -> None:
        data = [(byte, is_data) for is_data, said in told for byte in bytes.fromhex(said)]
        number = np.arange(len(data))
        value = np.array([byte for byte, _ in data], np.uint8)
        by_line = np.array([is_data == 1 for _, is_data in data])
        moments = number.astype(np.float64)
        self._obeyed = interpret(PAPER, Words(moments, value, by_line, number, moments, moments), 8, 16)

    def cells(self) -> dict[tuple[int, int], int]:
        """Column and page of each cell that was written, and its byte."""
        return {
            (int(cell) % 8, int(cell) // 8): int(value)
            for cell, value in zip(self._obeyed.cell, self._obeyed.value, strict=True)
        }
