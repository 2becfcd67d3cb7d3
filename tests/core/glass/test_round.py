"""Round glass: what is seen of a square of pixels, what reaches beyond its edge, and where items are placed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from lesart.core.glass.bus.patterns import pattern
from lesart.core.glass.faces.arrange import arrange
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.inspect_round import inspect_round, pixels_beyond
from lesart.core.glass.faces.items import Label
from lesart.core.glass.faces.shapes import Box, Dial, Scale
from lesart.core.glass.panels.colour_panel import BESIDE_GLASS, ColourPanel
from lesart.core.glass.panels.frame import ColourFrame
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.pixels import colours_of
from lesart.core.parameters import read_table


def round_panel(side: int = 240, **told: object) -> ColourPanel:
    values, problems = read_table(
        KINDS["colours"].parameters, {"width": side, "height": side, "disc": True, **told}, "p"
    )
    assert not problems
    panel = KINDS["colours"].build("p", values, Given())
    assert isinstance(panel, ColourPanel)
    return panel


def test_a_disc_of_its_pixels_is_seen() -> None:
    """As many as a disc has, to the width of its edge; the corners are no pixels, and all are sent."""
    panel = round_panel()
    frame = panel.lit(pattern(panel, "all on", 0))
    seen = panel.seen(frame)
    assert isinstance(seen, ColourFrame)
    assert seen.lit_count == pytest.approx(np.pi * 120**2, rel=0.002)
    colours = colours_of(seen)
    assert (colours[0, 0] == BESIDE_GLASS).all()
    assert (colours[120, 120] == 255).all()
    assert (colours[120, 0] == 255).all()
    assert panel.sent(frame) == replace(panel, disc=False).sent(frame)
    assert panel.says() == "240×240 colours, round"


def test_what_reaches_beyond_the_edge_is_told_by_how_much() -> None:
    """Corners of a square of 240 pixels are 169.7 from the middle, of which 120 are glass: 49.7."""
    panel = round_panel()
    corner, middle = (
        Box(row=0, column=0, width=9, tall=9, filled=True),
        Box(row=100, column=100, width=9, tall=9, filled=True),
    )
    assert pixels_beyond(corner, panel) == 50
    assert pixels_beyond(middle, panel) == 0
    (note,) = inspect_round(Face("f", "p", (corner, middle)), panel)
    assert note.text == "p: the box reaches 50 pixels beyond the edge of the round glass."
    assert note.place == ("faces", "f", "items", 0, "column")
    assert list(inspect_round(Face("f", "p", (corner,)), replace(panel, disc=False))) == []


def test_a_scale_counts_by_its_ink() -> None:
    """A dial all around fits where the corners of its box do not; an outlined box of the same size does not."""
    panel = round_panel()
    scale = Scale("c", 0.0, 1.0)
    dial = Dial(channel="c", row=1, column=1, width=238, tall=238, scale=scale, sweep_deg=270.0)
    assert pixels_beyond(dial, panel) == 0
    assert pixels_beyond(Box(row=1, column=1, width=238, tall=238, filled=False), panel) == 49


@pytest.mark.parametrize("side", [128, 240])
def test_arranged_items_are_seen_whole(side: int) -> None:
    panel = round_panel(side)
    items = (Label("outside", 0, 0), Label("24.9", 20, 0, importance=9), Label("below", 40, 0))
    found = arrange(items, panel)
    assert found.dropped == ()
    assert [pixels_beyond(found.items[place], panel) for place in range(3)] == [0, 0, 0]
    assert found == arrange([found.items[place] for place in range(3)], panel)
