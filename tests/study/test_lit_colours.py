"""A panel of colours as it is drawn: each pixel in its colour on the screen, in pictures and on paper."""

from __future__ import annotations

import io
import re
from dataclasses import replace

import numpy as np
import pytest

from lesart.core.glass.faces.hue import with_hue
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import ColourFrame
from lesart.core.glass.panels.pixels import colour_frame, colours_of, mirrored, turned
from lesart.draw.few_colours import few_colours
from lesart.draw.panel import draw_panel
from lesart.project.check import check_project
from lesart.study.glass import glass_of
from lesart.study.lit.lattice import GROUND, MOST_COLOURS, lattice_of
from lesart.study.lit.true_pixels import picture_file
from tests.small import small_project

BLACK = np.zeros(3, np.uint8)


@pytest.fixture(scope="module")
def panel() -> ColourPanel:
    told = 'kind = "colours"\nwidth = 16\nheight = 9\ncolour = "yellow"\nground = "blue"'
    found = check_project(f"{small_project()}\n[panels.probe]\n{told}\n").panels["probe"]
    assert isinstance(found, ColourPanel)
    return found


@pytest.fixture(scope="module")
def frame(panel: ColourPanel) -> ColourFrame:
    """Three lit pixels in a row: the panel's own colour, red, and black, which is lit too on blue."""
    rows = (0, 0b0111 << 8, *[0] * 7)
    memory = with_hue((rows, *panel.blank()[1:]), 16, (6, 1, 1, 1), "red")
    return panel.lit(with_hue(memory, 16, (7, 1, 1, 1), "black"))


def test_each_dot_has_the_colour_of_its_pixel(panel: ColourPanel, frame: ColourFrame) -> None:
    """Those that are not of the ground are light; a dimmed light dims all of them."""
    lattice = lattice_of(glass_of(panel, frame))
    assert (lattice.width, lattice.height) == (18, 11)
    seen = [lattice.colours[lattice.rows[2][x]] for x in range(5, 10)]
    assert seen == ["#0000ff", "#ffff00", "#ff0000", "#000000", "#0000ff"]
    assert [lattice.is_lit(x, 2) for x in range(5, 10)] == [False, True, True, True, False]
    assert {value for row in lattice.rows for value in row} - lattice.lit == {GROUND}
    dimmed = lattice_of(glass_of(replace(panel, backlight=0.0), frame))
    assert dimmed.colours[dimmed.rows[2][7]] == "#400000"  # a quarter of 255
    assert frame.lit_count == 3


def test_a_picture_file_has_the_very_pixels(panel: ColourPanel, frame: ColourFrame) -> None:
    """A pixel a pixel."""
    from PIL import Image

    image = Image.open(io.BytesIO(picture_file(glass_of(panel, frame), 1))).convert("RGB")
    assert (np.asarray(image) == colours_of(frame)).all()


def test_paper_has_each_lit_pixel_in_its_colour(panel: ColourPanel, frame: ColourFrame) -> None:
    """One path for those of a colour in a row."""
    glass = glass_of(panel, frame)
    figure = draw_panel(glass.frame, glass.ground, glass.lit, glass.unlit, "probe")
    out = io.BytesIO()
    figure.savefig(out, format="svg")
    found = re.findall(r'<g id="lit-1-(\d+)">\s*<path ([^>]*)>', out.getvalue().decode())
    fills = {int(x): re.findall("fill: (#[0-9a-f]{6})", path) for x, path in found}
    # Black is what a path is filled with that says nothing.
    assert fills == {5: ["#ffff00"], 6: ["#ff0000"], 7: []}


def test_more_colours_than_there_is_room_for_become_near_ones() -> None:
    """A picture of 4096 colours in 40: none is far off, and few colours stay as they are."""
    steps = np.stack(np.meshgrid(*[np.arange(0, 256, 17)] * 3, indexing="ij"), axis=-1).astype(np.uint8)
    picture = colour_frame(steps.reshape(64, 64, 3), BLACK)
    places, colours = few_colours(picture, MOST_COLOURS)
    assert len(colours) <= MOST_COLOURS
    table = np.array([list(bytes.fromhex(each[1:])) for each in colours], np.int64)
    off = table[np.frombuffer(places, np.uint8)] - steps.reshape(-1, 3).astype(np.int64)
    assert float(np.sqrt((off**2).sum(axis=1)).mean()) < 60
    few = colour_frame(steps.reshape(64, 64, 3)[:1, :30], BLACK)
    places, colours = few_colours(few, MOST_COLOURS)
    exact = b"".join(bytes.fromhex(colours[place][1:]) for place in places)
    assert exact == few.colours


def test_colours_turn_with_their_pixels(frame: ColourFrame) -> None:
    """A quarter clockwise, and left for right; four quarters are none."""
    quarter = turned(frame, 1)
    assert isinstance(quarter, ColourFrame)
    assert (quarter.width, quarter.height) == (9, 16)
    assert (colours_of(quarter)[6, 7] == [255, 0, 0]).all()
    assert quarter.lit(7, 6)
    assert turned(quarter, 3) == frame
    other = mirrored(frame)
    assert isinstance(other, ColourFrame)
    assert (colours_of(other)[1, 9] == [255, 0, 0]).all()
