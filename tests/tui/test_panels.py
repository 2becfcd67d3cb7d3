"""Panels in a terminal: every way shows the same dots, and what does not fit is a window that says so."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.faces.hue import with_hue
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.study.glass import glass_of
from lesart.study.lit.lattice import lattice_of
from lesart.study.views import Glass
from lesart.tui.graphics.terminal import PLACED, SIXEL, Graphics
from lesart.tui.panels.drawn import Drawn, drawn
from lesart.tui.panels.room import Means, Room, Way
from lesart.tui.panels.strips import PixelRow
from tests.lit import Dots, hundredths, in_halves, in_little, in_quarters, lights, of_placed, of_sixels

RANDOM = random.Random(7)
DOOR = CharacterPanel("door", 16, 2, "green light")
STAND = SegmentPanel("stand", 4, True, "red", None)
LID = PixelPanel("lid", 128, 64, "white")
HUES = ColourPanel("hues", 64, 40, "white", colour="yellow", ground="blue")
CELLS = ((8, 17), (7, 15))
BLOCKS = (Way.HALVES, Way.QUARTERS, Way.LITTLE)


def glasses() -> dict[str, Glass]:
    """One of each kind, and odd ones: marked, struck, striped, round, of an odd width."""
    rows = tuple(RANDOM.getrandbits(128) & RANDOM.getrandbits(128) for _ in range(64))
    lid = glass_of(LID, PixelFrame(128, 64, rows))
    text = tuple(tuple(DOOR.code(Cell(letter)) or 0x20 for letter in line.ljust(40)) for line in ("hive 2", "35.3 kg"))
    door = glass_of(DOOR, DOOR.lit(text))
    stand = glass_of(STAND, STAND.lit(((0x66, 0xDB, 0xBF, 0x01),)))
    odd = glass_of(
        replace(LID, width=33, height=7), PixelFrame(33, 7, rows[0:1] * 0 + tuple(row >> 95 for row in rows[:7]))
    )
    coloured: Memory = (tuple(row >> 64 for row in rows[:40]), *HUES.blank()[1:])
    for hue, box in (("red", (3, 2, 30, 20)), ("cyan", (20, 10, 40, 9)), ("grey", (0, 30, 64, 10))):
        coloured = with_hue(coloured, 64, box, hue)
    return {
        "lid": lid,
        "marked": replace(lid, marked=((5, 10, 40), (20, 10, 40)), struck=((30, 30, 50, 40),)),
        "stripe": replace(lid, stripe=(16, "#201800", lid.lit)),
        "round": replace(lid, round=True),
        "odd": odd,
        "colours": glass_of(HUES, HUES.lit(coloured)),
        "door": door,
        "door marked": replace(door, marked=((0, 0, 6),), clashing=((1, 3),)),
        "stand": stand,
        "stand marked": replace(stand, marked=((0, 1, 3),)),
    }


GLASSES = glasses()


def lit_of(glass: Glass) -> Dots:
    """By the lattice."""
    lattice = lattice_of(glass)
    return {(x, y) for y in range(lattice.height) for x in range(lattice.width) if lattice.is_lit(x, y)}


def frame_dots(glass: Glass) -> int:
    """How many the frame itself lights; of pixels only."""
    assert isinstance(glass.frame, PixelFrame)
    return glass.frame.lit_count


@pytest.mark.parametrize("name", GLASSES)
@pytest.mark.parametrize("way", BLOCKS)
def test_blocks_show_the_same_dots(name: str, way: Way) -> None:
    """Whatever is marked or struck: what is lit is lit in every way, and nothing else."""
    glass = GLASSES[name]
    found = drawn(glass, Room(300, 100), Means(way))
    assert found.way is way
    read = {Way.HALVES: in_halves, Way.QUARTERS: in_quarters}.get(way, lambda lines, _: in_little(lines))
    assert read(found.lines, glass) == lit_of(glass)


@pytest.mark.parametrize("name", ["lid", "marked", "stripe", "round", "odd", "colours"])
def test_the_lattice_lights_what_the_frame_lights(name: str) -> None:
    """Pixel by pixel, with a margin of one."""
    glass = GLASSES[name]
    frame = glass.frame
    assert isinstance(frame, PixelFrame)
    wanted = {(x + 1, y + 1) for x in range(frame.width) for y in range(frame.height) if frame.lit(x, y)}
    assert lit_of(glass) == wanted


def pixels_of(found: Drawn, graphics: Graphics) -> list[list[tuple[int, int, int]]]:
    """What a terminal shows of its rows, in hundredths of colour."""
    rows: list[list[tuple[int, int, int]]] = []
    for parts in found.pixels:
        side_by_side = [_of_part(part, graphics) for part in parts]
        assert all(len(part[0]) <= 1000 for part in side_by_side)  # wider ones are not drawn by some terminals
        rows += [[pixel for part in lines for pixel in part] for lines in zip(*side_by_side, strict=True)]
    return rows


def _of_part(part: PixelRow, graphics: Graphics) -> list[list[tuple[int, int, int]]]:
    if graphics.protocol == SIXEL:
        drawn_rows = of_sixels(part.escape)
        assert all(pixel is not None for line in drawn_rows for pixel in line)
        return drawn_rows  # type: ignore[return-value]
    told, pixels = of_placed(part.escape)
    assert (told["a"], told["U"], told["r"]) == ("T", "1", "1")
    assert int(told["c"]) == part.width
    return [[tuple(round(each / 2.55) for each in pixel) for pixel in line] for line in pixels]  # type: ignore[misc]


MORE_PIXELS = [(PLACED, CELLS[0]), (SIXEL, CELLS[1]), (PLACED, CELLS[1])]


@pytest.mark.parametrize("name", [name for name in GLASSES if not name.startswith("stand")])
@pytest.mark.parametrize(
    ("protocol", "cell"),
    [(SIXEL, CELLS[0]), *(pytest.param(*each, marks=pytest.mark.long) for each in MORE_PIXELS)],
)
def test_true_pixels_show_the_same_dots(name: str, protocol: str, cell: tuple[int, int]) -> None:
    """The middle of each dot has the colour of light where it is lit, and only there, in either protocol."""
    glass, graphics = GLASSES[name], Graphics(protocol, *cell)
    found = drawn(glass, Room(140, 60), Means(Way.BEST, graphics))
    assert found.way is Way.PIXELS
    lattice, pixels = lattice_of(glass), pixels_of(found, graphics)
    pitch = min(140 * cell[0] // lattice.width, 60 * cell[1] // lattice.height, 12)
    light = {hundredths(each) for each in lights(glass)}
    middle = (pitch - 1) // 2
    lit = {
        (x, y)
        for y in range(lattice.height)
        for x in range(lattice.width)
        if pixels[y * pitch + middle][x * pitch + middle] in light
    }
    assert lit == lit_of(glass)
    assert {len(row) for row in pixels} == {sum(part.width for part in found.pixels[0]) * cell[0]}


@pytest.mark.parametrize("masks", [(0x66, 0xDB, 0xBF, 0x01), (0, 0, 0, 0), (0xFF,) * 4])
def test_segments_in_true_pixels(masks: tuple[int, ...]) -> None:
    """The middle of each lit segment is as bright as the light; of each dark one it is dark."""
    from lesart.draw.panel import DIGIT_H, PITCH, SLANT, segment_shapes
    from lesart.draw.raster import DIGITS_MARGIN, raster_of_digits

    glass = glass_of(STAND, STAND.lit((masks,)))
    raster = raster_of_digits(glass.frame, glass.ground, glass.lit, [glass.unlit] * 4, 8.0)  # type: ignore[arg-type]
    for digit, mask in enumerate(masks):
        for bit, (_, corners) in enumerate(segment_shapes("7").items()):
            x = sum(x for x, _ in corners) / len(corners)
            y = sum(y for _, y in corners) / len(corners)
            left = DIGITS_MARGIN + 1 + digit * PITCH + x + (DIGIT_H - y) * SLANT
            colour = raster.colours[raster.indices[round((4 + y) * 8), round(left * 8)]]
            parts = bytes.fromhex(colour[1:])
            nearest = min(
                (glass.lit, glass.unlit),
                key=lambda each: sum(abs(a - b) for a, b in zip(bytes.fromhex(each[1:]), parts, strict=True)),
            )
            assert nearest == (glass.lit if mask >> bit & 1 else glass.unlit), (digit, bit, colour)


ROOMS = [(width, height) for width in (20, 52, 66, 130) for height in (5, 23, 34)]


@pytest.mark.parametrize("name", ["lid", "marked", "odd", "door", "stand"])
@pytest.mark.parametrize("close", [False, True])
def test_nothing_is_cut_without_a_word(name: str, close: bool) -> None:
    """In any room: no line is wider, there are no more than asked but for the word, and what is not whole says so."""
    for focus in (None, (10, 1, 6, 1)):
        glass = replace(GLASSES[name], close=close, focus=focus)
        for width, height in ROOMS:
            for means in (Means(), Means(Way.BEST, Graphics(SIXEL, 8, 17)), *(Means(way) for way in BLOCKS)):
                found = drawn(glass, Room(width, height), means)
                assert all(sum(len(text) for text, _ in line) <= width for line in found.lines), (width, height, means)
                assert len(found.lines) <= max(height, 4)
                if not found.says and found.way in (Way.HALVES, Way.QUARTERS):
                    read = in_halves if found.way is Way.HALVES else in_quarters
                    assert read(found.lines, glass) == lit_of(glass)


@pytest.mark.parametrize(("room", "way"), [((130, 40), Way.HALVES), ((66, 34), Way.QUARTERS), ((10, 5), Way.LITTLE)])
def test_the_best_way_that_fits(room: tuple[int, int], way: Way) -> None:
    """Square dots where there is room, narrow ones, a mark that it is there; true pixels before all of them."""
    assert drawn(GLASSES["lid"], Room(*room), Means()).way is way
    assert drawn(GLASSES["lid"], Room(130, 40), Means(Way.BEST, Graphics(SIXEL, 8, 17))).way is Way.PIXELS


def test_a_window_shows_what_is_looked_at() -> None:
    """The dots around the item that is worked on, in their places, and which ones these are."""
    for x, y in ((0, 0), (100, 50), (60, 20)):
        glass = replace(GLASSES["lid"], focus=(x, y, 20, 10), close=True)
        found = drawn(glass, Room(93, 18), Means())
        assert found.way is Way.HALVES
        words = found.says.removeprefix("seen here: ")
        spans = {part.split()[0]: part.split()[1].split("–") for part in words.split(", ")}
        left, right = map(int, spans["columns"])
        top, foot = map(int, spans["rows"])
        assert left <= x
        assert x + 20 <= right + 1
        assert top <= y
        assert y + 10 <= foot + 1
        window = list(found.lines)
        seen = in_halves(tuple(_first(line, 93 - 26) for line in window), glass)
        first = (max(left - 1, 0) if left else 0, max(top - 1, 0) if top else 0)
        shift = (1 if left == 0 else 0, 1 if top == 0 else 0)
        frame = glass.frame
        assert isinstance(frame, PixelFrame)
        for dx in range(20):
            for dy in range(10):
                place = (x + dx - left + shift[0], y + dy - top + shift[1])
                assert (place in seen) == frame.lit(x + dx, y + dy), (first, place)


def _first(line: list[tuple[str, object]], width: int) -> list[tuple[str, object]]:
    """As many letters of a line."""
    kept: list[tuple[str, object]] = []
    for text, style in line:
        kept.append((text[: width - sum(len(each) for each, _ in kept)], style))
    return [each for each in kept if each[0]]


@pytest.mark.parametrize("per_inch", [96.0, 220.0])
@pytest.mark.parametrize(
    ("name", "wide_mm", "high_mm"),
    [("lid", 130 * 0.17, 66 * 0.17), ("door", 99 * 5 / 7, 21 * 5 / 7), ("stand", 66 * 14 / 18, 26 * 14 / 18)],
)
def test_life_size(name: str, wide_mm: float, high_mm: float, per_inch: float) -> None:
    """By hand: dots of 0.17 mm with one around them, capitals of 5 mm in seven dots, digits of 14 mm drawn 18 high."""
    graphics = Graphics(SIXEL, 10, 20, per_inch)
    found = drawn(GLASSES[name], Room(200, 60), Means(Way.LIFE, graphics))
    assert found.way is Way.LIFE
    assert found.says == f"life size, {wide_mm:.0f} × {high_mm:.0f} mm, at {per_inch:g} pixels an inch"
    ground = hundredths(GLASSES[name].ground)
    rows = pixels_of(found, graphics)
    wide, high = round(wide_mm * per_inch / 25.4), round(high_mm * per_inch / 25.4)
    assert len(rows) == -(-high // 20) * 20
    assert len(rows[0]) == -(-wide // 10) * 10
    assert all(pixel == ground for row in rows for pixel in row[wide:])
    small = drawn(GLASSES[name], Room(6, 3), Means(Way.LIFE, graphics))
    assert "% of life size" in small.says
    assert len(small.pixels) <= 3
