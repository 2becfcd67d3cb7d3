"""Paper with a third ink: which ink a colour becomes, both memories of a frame, and what a controller makes of them."""

from __future__ import annotations

import random
from dataclasses import replace
from itertools import product

import numpy as np
import pytest

from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controllers import PAPER, usual_controller
from lesart.core.glass.bus.interpreter import Interpreted, interpret
from lesart.core.glass.bus.patterns import pattern, patterns_of
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import Hue
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.items import Label
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.faces.shapes import Box
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.contrast import inspect_contrast
from lesart.core.glass.panels.ink_panel import INKS, InkPanel
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.pixel_colours import COLOURS
from lesart.core.glass.panels.pixel_panel import TURNS
from lesart.core.notes import DOUBT
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import Words


def paper(**told: object) -> InkPanel:
    values, problems = read_table(KINDS["inks"].parameters, told, "p")
    assert not problems
    panel = KINDS["inks"].build("p", values, Given())
    assert isinstance(panel, InkPanel)
    return panel


def boxes(panel: ColourPanel, *colours: str) -> Memory:
    """A pixel of each colour in the first row."""
    items = tuple(
        Box(row=0, column=place, width=1, tall=1, filled=True, hue=Hue(colour)) for place, colour in enumerate(colours)
    )
    return compose(Face("f", "p", items), panel, {}).memory


def obeyed(sent: tuple[Transmission, ...], columns: int, pages: int, memories: int) -> Interpreted:
    sizes = [len(each.data) for each in sent]
    part, starts = np.repeat(np.arange(len(sent)), sizes), np.arange(len(sent), dtype=np.float64)
    data = np.frombuffer(b"".join(each.data for each in sent), np.uint8)
    by_line = np.repeat([each.is_data for each in sent], sizes)
    words = Words(part.astype(np.float64), data, by_line, part, starts, starts)
    return interpret(replace(PAPER, memories=memories), words, columns, pages)


@pytest.mark.parametrize("third", INKS)
@pytest.mark.parametrize("colour", COLOURS)
def test_paper_stays_white_and_grey_is_black_and_all_else_the_third_ink(third: str, colour: str) -> None:
    panel = paper(third=third)
    wanted = {"white": "white", "grey": "black", "black": "black"}.get(colour, third)
    assert panel.ink_of(colour) == wanted
    if wanted == third:
        assert panel.as_seen(colour) == INKS[third]


def test_the_bytes_of_a_small_one() -> None:
    """By hand, after the data sheet: bits of white, then those of the third ink, each from the first cell on; a row of
    twelve pixels has two bytes, and beyond the glass it is white."""
    panel = paper(width=12, height=258)
    memory = boxes(panel, "black", "red", "white", "blue")
    rest, none = b"\xff" * (2 * 257), b"\0" * (2 * 257)
    told = [
        (False, b"\x44"),
        (True, b"\0\x01"),
        (False, b"\x45"),
        (True, b"\0\0\x01\x01"),
        (False, b"\x4e"),
        (True, b"\0"),
        (False, b"\x4f"),
        (True, b"\0\0"),
        (False, b"\x24"),
        (True, b"\x7f\xff" + rest),
        (False, b"\x4e"),
        (True, b"\0"),
        (False, b"\x4f"),
        (True, b"\0\0"),
        (False, b"\x26"),
        (True, b"\x50\x00" + none),
        (False, b"\x22"),
        (True, b"\xf7"),
        (False, b"\x20"),
    ]
    assert [(each.is_data, each.data) for each in transmissions_for(panel, PAPER, memory)] == told
    assert [(each.is_data, each.data) for each in changes_for(panel, PAPER, panel.blank(), memory)] == told
    assert changes_for(panel, PAPER, memory, memory) == ()
    low = transmissions_for(paper(width=12, height=258, third_low=True), PAPER, memory)
    assert low[15].data == b"\xaf\xff" + b"\xff" * (2 * 257)
    start = [(each.is_data, each.data) for each in start_for(panel, PAPER)]
    assert start[:3] == [(False, b"\x12"), (False, b"\x01"), (True, b"\x01\x01\x00")]


@pytest.mark.parametrize("told", list(product(TURNS, (False, True), INKS)))
def test_both_memories_show_what_was_drawn(told: tuple[str, bool, str]) -> None:
    """Turned in any way; and through a controller, whose cells hold nothing else."""
    turned, third_low, third = told
    panel = paper(width=21, height=30, turned=turned, third_low=third_low, third=third)
    chance = random.Random(f"{turned}{third_low}")
    rows = tuple(tuple(chance.getrandbits(panel.columns) for _ in range(panel.rows)) for _ in panel.blank())
    frame = panel.lit(rows)
    assert len({tuple(each) for each in np.frombuffer(frame.colours, np.uint8).reshape(-1, 3).tolist()}) == 3
    assert panel.shown(panel.sent(frame)) == frame
    seen = obeyed(transmissions_for(panel, PAPER, rows), panel.row_bytes, 2 * panel.height, 2)
    assert bytes(seen.memory(len(seen))[: panel.frame_size].tolist()) == panel.sent(frame)
    assert seen.beside == 0
    assert seen.unknown == ()
    with pytest.raises(ValueError, match=f"in three inks has {panel.frame_size} bytes, not 3"):
        panel.shown(b"abc")


def test_where_there_is_no_third_ink_the_second_memory_is_passed_over() -> None:
    panel = paper(width=16, height=8)
    sent = transmissions_for(panel, PAPER, boxes(panel, "black", "red"))
    seen = obeyed(sent, 2, 8, 1)
    assert len(seen) == 16
    assert bytes(seen.memory(len(seen))[:16].tolist()) == b"\x7f\xff" + b"\xff" * 14


def test_its_patterns_are_of_its_own_inks() -> None:
    panel = paper(third="yellow", width=16, height=8)
    assert "all yellow" in patterns_of(panel)
    assert not {"all red", "all green", "all blue"} & set(patterns_of(panel))
    assert panel.sent(panel.lit(pattern(panel, "all yellow", 0))) == b"\xff" * 32
    assert panel.sent(panel.lit(pattern(panel, "all on", 0))) == b"\0" * 32
    assert panel.sent(panel.lit(pattern(panel, "all off", 0))) == b"\xff" * 16 + b"\0" * 16


def test_it_is_sent_whole_and_changes_for_long() -> None:
    """Both memories, 16 bytes by 296 each, at 4 MHz; then 15 s."""
    panel = paper()
    drawing = drawing_of(Face("f", "p", ()), panel)
    assert drawing.seconds == pytest.approx(2 * 16 * 296 * 8 / 4e6)
    assert drawing.changes_s == 15.0
    assert panel.says() == "128×296 pixels in black, white and red"


@pytest.mark.parametrize(("width", "name"), [(128, "paper"), (400, "paper"), (408, "")])
def test_wide_ones_have_no_usual_controller(width: int, name: str) -> None:
    assert usual_controller(paper(width=width)) == name


@pytest.mark.parametrize(
    ("colour", "says"),
    [
        ("black", None),
        ("red", None),
        ("white", None),
        ("orange", 'p: the label "hi" is red, not orange; its inks are black, white and red.'),
        ("grey", 'p: the label "hi" is black, not grey; its inks are black, white and red.'),
    ],
)
def test_a_colour_that_no_ink_is_becomes_another(colour: str, says: str | None) -> None:
    face = Face("f", "p", (Label("hi", 20, 20, hue=Hue(colour)),))
    found = [note for note in inspect_face(face, paper()) if "inks" in note.text]
    assert [note.text for note in found] == ([] if says is None else [says])
    assert all(note.mark == DOUBT for note in found)
    assert [mend.value for note in found for mend in note.mend] == (
        [] if says is None else ["black" if colour == "grey" else "red"]
    )


def test_yellow_ink_is_hardly_read() -> None:
    """By IEC 61966-2-1 the luminances are about 0.65 of paper and 0.42 of the ink: (0.70 / 0.47), far below 3."""
    (note,) = inspect_contrast(paper(third="yellow", colour="yellow"))
    assert note.figure == pytest.approx(1.49, abs=0.03)
    assert note.text.startswith("p: yellow on white has a contrast of 1.5;")
    assert inspect_contrast(paper(colour="red")) == []


def test_its_colour_is_one_of_its_inks() -> None:
    values, _ = read_table(KINDS["inks"].parameters, {"colour": "yellow"}, "p")
    with pytest.raises(ValueError, match='colour = "yellow"; its third ink is red'):
        KINDS["inks"].build("p", values, Given())
