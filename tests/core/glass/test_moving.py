"""Pictures that move: the window they change, frames that are never shown, items spread around those that are
pinned."""

from __future__ import annotations

import math

import pytest

from lesart.core.glass.faces.arrange import arrange
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Label, size_of
from lesart.core.glass.faces.moving import inspect_moving, never_shown, window_of_picture
from lesart.core.glass.faces.shapes import USUAL, PictureItem
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import MODULE_ROWS, Packing
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.transfer import Bus
from tests.core.glass.test_pixel_panel import panel_of

LID = PixelPanel("lid", 128, 64, "white")


def picture(frames: list[PixelFrame], every_s: float, row: int = 0, column: int = 0) -> PictureItem:
    """An item of frames that each stand as long."""
    return PictureItem(
        row=row, column=column, width=frames[0].width, tall=frames[0].height, picture="moon", frames=tuple(frames),
        durations_s=(every_s,) * len(frames),
    )  # fmt: skip


def dots(size: int, *lit: tuple[int, int]) -> PixelFrame:
    """A square with some dots lit."""
    return PixelFrame(size, size, tuple(sum(1 << (size - 1 - x) for x, y in lit if y == row) for row in range(size)))


def test_the_window_that_changes() -> None:
    """By hand: dots at 4, 4 and 10, 20 of a picture at column 30, row 8: columns 34 to 40 in pages 1 to 3, 21 bytes.
    By two wires that is 21 data bytes, two before them, nine clocks each, and two more."""
    item = picture([dots(32, (4, 4)), dots(32, (10, 20))], 0.01, row=8, column=30)
    window = window_of_picture(item, LID)
    assert window is not None
    assert (window.left, window.top, window.right, window.foot) == (34, 1, 41, 4)
    assert window.size == 21
    assert window.rate_hz == pytest.approx(400_000 / (23 * 9 + 2))
    # In colours the same pixels, two bytes each; of four modules rows 1 to 4, eight bytes each.
    coloured = window_of_picture(item, ColourPanel("lid", 128, 64, "white"))
    assert coloured is not None
    assert (coloured.left, coloured.top, coloured.right, coloured.foot) == (34, 12, 41, 29)
    assert coloured.size == 7 * 17 * 2
    chained = PixelPanel("shelf", 32, 8, "red", packing=Packing(MODULE_ROWS), bus=Bus("four-wire", 1e6))
    small = window_of_picture(picture([dots(8, (1, 1)), dots(8, (2, 4))], 0.1, column=8), chained)
    assert small is not None
    assert (small.left, small.top, small.right, small.foot) == (1, 1, 2, 5)
    assert (small.size, small.rate_hz) == (4 * 8, pytest.approx(1e6 / (4 * 8 * 8)))
    assert window_of_picture(picture([dots(8, (1, 1))], 0.0), LID) is None
    assert window_of_picture(picture([dots(8, (1, 1)), dots(8, (1, 1))], 0.1), LID) is None
    assert window_of_picture(Label("x", 0, 0), LID) is None


@pytest.mark.parametrize(
    ("frames", "every_ms", "redraw_hz", "unseen"),
    [(4, 10, 25.0, 3), (4, 40, 25.0, 0), (4, 20, 25.0, 2), (3, 20, 25.0, 0), (4, 10, 100.0, 0), (5, 10, 25.0, 0)],
)
def test_frames_that_are_never_shown(frames: int, every_ms: int, redraw_hz: float, unseen: int) -> None:
    """Drawn every 40 ms, of four frames of 10 ms always the same one is met; of five each in turn. By hand: drawing k
    meets frame floor(k · 40 / 10) mod 4 = 0."""
    item = picture([dots(8, (at, at)) for at in range(frames)], every_ms / 1000)
    assert never_shown(item, redraw_hz) == unseen
    met = {math.floor(k * (1000 / redraw_hz) / every_ms + 1e-9) % frames for k in range(500)}
    assert frames - len(met) == unseen


def test_the_note_says_what_would_do() -> None:
    """Where the bus can, a key draws it as often as it changes; where not, how long a frame should stand."""
    small = picture([dots(8, (at, at)) for at in range(4)], 0.01)
    (note,) = inspect_moving(Face("f", "lid", (small,), redraw_hz=25.0), LID)
    assert note.text == (
        "lid: 3 frames of 4 of picture moon are never shown: it changes every 10 ms, and is drawn every 40 ms."
    )
    assert note.remedy == "draw it 100 times a second"
    assert [(mend.key, mend.value) for mend in note.mend] == [(("faces", "f", "redraw"), "100 Hz")]
    assert inspect_moving(Face("f", "lid", (small,), redraw_hz=100.0), LID) == []
    # Drawn 30 times a second it is every 33.3 ms; of five frames of 10 ms some are missed.
    five = picture([dots(8, (at, at)) for at in range(5)], 0.01)
    (note,) = inspect_moving(Face("f", "lid", (five,), redraw_hz=30.0), LID)
    assert note.text.endswith(" never shown: it changes every 10 ms, and is drawn every 33.3 ms.")
    seventy = picture([dots(8, (at, at)) for at in range(4)], 0.07)
    (note,) = inspect_moving(Face("f", "lid", (seventy,), redraw_hz=1 / 0.28), LID)
    assert note.remedy == "draw it 14.3 times a second"  # 1 s ÷ 70 ms
    full = (1 << 128) - 1
    large = picture([PixelFrame(128, 64, (full * (at % 2),) * 64) for at in range(4)], 0.01)
    (note,) = inspect_moving(Face("f", "lid", (large,), redraw_hz=25.0), LID)
    assert note.mend == ()
    # 1026 bytes of nine clocks and two more at 400 kHz: 23.1 ms.
    assert note.remedy == "leave each frame for 23.1 ms at least; its bus allows no more"


def test_rows_are_spread_between_what_is_pinned() -> None:
    """One label is pinned in the middle; those above and below stand in the middle of what is left to them."""
    panel = panel_of(width=128, height=64)
    items = [
        Label("above", 0, 0, font="text 5", importance=USUAL + 1),
        Label("pinned", 30, 0, font="text 5", pinned=True),
        Label("below", 50, 0, font="text 5", importance=USUAL + 1),
    ]
    found = arrange(items, panel)
    assert not found.dropped
    above, below = found.items[0], found.items[2]
    assert found.items[1].row == 30
    high = size_of(above, panel)[1]
    room = 30 - 1 - high
    assert abs(above.row - room / 2) <= 1
    assert above.row + high < 30
    assert below.row > 36 or below.row + size_of(below, panel)[1] <= 30
