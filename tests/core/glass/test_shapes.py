"""Dials, spectra, bubbles and pictures: where they light what, and that they stay in their box."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import Label, compose
from lesart.core.glass.faces.inspect_face import clashing_pixels
from lesart.core.glass.faces.items import Item, size_of
from lesart.core.glass.faces.panel_memory import redraws
from lesart.core.glass.faces.partial_redraw import bytes_touched
from lesart.core.glass.faces.plotting import Canvas
from lesart.core.glass.faces.shapes import Box, Bubble, Dial, PictureItem, Scale, Spectrum
from lesart.core.glass.panels.contrast import contrast, inspect_contrast
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import BYTES
from lesart.core.glass.panels.pixel_panel import TURNS
from lesart.core.glass.panels.transfer import FOUR_WIRE, PARALLEL, TWO_WIRE, Bus
from lesart.core.raw.spectrum import Bands, levels_db
from tests.core.glass.test_pixel_panel import face, lit_at, mass, panel_of

WIND = Scale("wind", 0.0, 20.0, stale_after_s=10.0)
BAD = [Reading(5.0, int(Mark.MISSING)), Reading(math.nan), Reading(5.0, age_s=11.0)]
SIDE = st.integers(5, 60)


def drawn(rows: tuple[int, ...], width: int) -> list[str]:
    """As a person would draw it."""
    return ["".join("#" if row >> (width - 1 - x) & 1 else "." for x in range(width)) for row in rows]


def dial(**rules: object) -> Dial:
    """Of the wind, 21 pixels wide."""
    values: dict[str, object] = {"row": 0, "column": 0, "width": 21, "tall": 11, "channel": "wind", "scale": WIND}
    return Dial(**(values | rules))  # type: ignore[arg-type]


@pytest.mark.parametrize(("wind", "tip"), [(0.0, (2, 10)), (10.0, (10, 2)), (20.0, (18, 10)), (99.0, (18, 10))])
def test_the_needle_by_hand(wind: float, tip: tuple[int, int]) -> None:
    """Left at the low end, up in the middle, right at the high end and beyond; its axis in the middle below."""
    rows = dial().rows({"wind": Reading(wind)}, 0.0)
    lit = {(x, y) for y, line in enumerate(drawn(rows, 21)) for x, sign in enumerate(line) if sign == "#"}
    assert tip in lit
    assert (10, 10) in lit
    assert {(0, 10), (20, 10), (10, 0)} <= lit, "both ends of the scale, and its top"


@pytest.mark.parametrize("reading", BAD)
def test_without_a_reading_there_is_no_needle(reading: Reading) -> None:
    """Bad, missing or old: the scale alone, as with no channel at all."""
    alone = dial().rows({}, 0.0)
    assert dial().rows({"wind": reading}, 0.0) == alone
    assert dial().rows({"wind": Reading(5.0)}, 0.0) != alone


@given(width=SIDE, tall=SIDE, sweep=st.floats(30, 330), wind=st.floats(-50, 50))
def test_a_dial_uses_its_box_and_stays_in_it(width: int, tall: int, sweep: float, wind: float) -> None:
    """The scale's radius is as large as the box allows and not larger; the whole circle lies within."""
    item = dial(width=width, tall=tall, sweep_deg=sweep)
    half = math.radians(sweep / 2)
    steps = [math.pi / 2 - half + 2 * half * n / 200 for n in range(201)]
    xs = [(width - 1) / 2 + item.radius * math.cos(angle) for angle in steps]
    ys = [item.radius - item.radius * math.sin(angle) for angle in steps]
    assert min(xs) >= -0.01
    assert max(xs) <= width - 1 + 0.01
    assert max(*ys, item.radius if sweep < 180 else 0.0) <= tall - 1 + 0.01
    touches = max(xs) >= width - 1 - 0.05 * width or max(*ys, item.radius) >= tall - 1 - 0.05 * tall
    assert touches
    assert all(row < 1 << width for row in item.rows({"wind": Reading(wind)}, 0.0))


@given(x0=st.integers(0, 39), y0=st.integers(0, 29), x1=st.integers(0, 39), y1=st.integers(0, 29))
def test_a_line_has_no_holes(x0: int, y0: int, x1: int, y1: int) -> None:
    """Both ends lit, one pixel a column or row of the longer way, each beside the one before."""
    canvas = Canvas(40, 30)
    canvas.line(x0, y0, x1, y1)
    lit = [(x, y) for y, row in enumerate(canvas.rows()) for x in range(40) if row >> (39 - x) & 1]
    assert {(x0, y0), (x1, y1)} <= set(lit)
    assert len(lit) == max(abs(x1 - x0), abs(y1 - y0)) + 1
    for x, y in lit:
        # No pixel is further from the ideal line than half a pixel.
        length = math.hypot(x1 - x0, y1 - y0)
        off = abs((x1 - x0) * (y0 - y) - (x0 - x) * (y1 - y0)) / length if length else 0.0
        assert off <= 0.5 + 1e-9


def test_a_disc_is_round() -> None:
    """Five pixels across, its corners dark."""
    canvas = Canvas(7, 7)
    canvas.disc(3, 3, 5)
    assert drawn(canvas.rows(), 7) == [".......", "..###..", ".#####.", ".#####.", ".#####.", "..###..", "......."]


def bubble(sized: Scale | None = None) -> Bubble:
    """Eleven pixels a side, a disc of three."""
    return Bubble(
        row=0, column=0, width=11, tall=11, across=Scale("x", -1, 1), up=Scale("y", -1, 1), sized_by=sized, size=3
    )


@pytest.mark.parametrize(("x", "y", "middle"), [(0, 0, (5, 5)), (-1, -1, (2, 8)), (1, 1, (8, 2)), (9, -9, (8, 8))])
def test_the_bubble_by_hand(x: float, y: float, middle: tuple[int, int]) -> None:
    """To the right and up with its channels, stopped by the outline; that is all that is left of a bad reading."""
    lines = drawn(bubble().rows({"x": Reading(x), "y": Reading(y)}, 0.0), 11)
    inside = {(at, row) for row in range(1, 10) for at in range(1, 10) if lines[row][at] == "#"}
    across, down = middle
    assert inside == {(across + dx, down + dy) for dx in (-1, 0, 1) for dy in (-1, 0, 1)}
    outline = drawn(bubble().rows({"x": Reading(x), "y": Reading(math.nan)}, 0.0), 11)
    assert outline == ["#" * 11, *["#.........#"] * 9, "#" * 11]


def test_a_third_channel_sizes_the_bubble() -> None:
    """A pixel at its low end, the whole disc at its high one."""
    item = bubble(Scale("z", 0, 10))
    counts = [
        sum(row.bit_count() for row in item.rows({"x": Reading(0), "y": Reading(0), "z": Reading(z)}, 0.0)) - 40
        for z in (0, 10)
    ]
    assert counts == [1, 9]


def test_a_spectrum_of_two_tones() -> None:
    """Parseval: a tone of amplitude A has 10·log₁₀(A²/2) dB in its band; bars stand for levels, the loudest full."""
    bands, rate = Bands(0.5, 4, 100.0, 1600.0), 8000.0
    t = np.arange(4000) / rate
    x = 3.0 + 2.0 * np.sin(2 * np.pi * 150 * t) + 0.2 * np.sin(2 * np.pi * 1200 * t)
    levels = levels_db(x, 1 / rate, bands)
    assert bands.edges_hz() == pytest.approx([100, 200, 400, 800, 1600])
    assert levels[0] == pytest.approx(10 * math.log10(2.0), abs=0.01)
    assert levels[3] == pytest.approx(10 * math.log10(0.02), abs=0.01)
    assert max(levels[1:3]) < -60
    item = Spectrum(row=0, column=0, width=8, tall=10, channel="m", bands=bands, range_db=40.0)
    lines = drawn(item.rows({"m": Reading(0.0, spectra=((bands, levels),))}, 0.0), 8)
    heights = [sum(line[2 * bar] == "#" for line in lines) for bar in range(4)]
    assert heights == [10, 1, 1, 5], "20 dB below is half of 40"
    assert all(line[2 * bar + 1] == "." for line in lines for bar in range(4))
    wide = drawn(replace(item, width=24).rows({"m": Reading(0.0, spectra=((bands, levels),))}, 0.0), 24)
    assert [line[:6] for line in wide] == ["#####."] * 10, "bars are full"


def test_a_line_at_an_edge_is_in_one_band() -> None:
    """Edges at 1, 2, 4 … 512 Hz are bins of a second of samples: all bands together have the power of these bins."""
    x = np.random.default_rng(4).standard_normal(2048)
    levels = levels_db(x, 1 / 2048, Bands(1.0, 9, 1.0, 512.0))
    window = np.hanning(2048)
    power = 2 * np.abs(np.fft.rfft((x - x.mean()) * window)) ** 2 / (2048 * np.sum(window**2))
    assert sum(10 ** (level / 10) for level in levels) == pytest.approx(power[1:512].sum(), rel=1e-9)


@given(n=st.integers(0, 400), count=st.integers(1, 20), seed=st.integers(0, 99))
@settings(max_examples=40)
def test_bands_take_all_the_power_there_is(n: int, count: int, seed: int) -> None:
    """Of noise, bands over all frequencies hold its variance under the window; too few samples give no answer."""
    x = np.random.default_rng(seed).standard_normal(n)
    levels = levels_db(x, 1e-3, Bands(1.0, count, 1e-3, 499.999))
    assert len(levels) == count
    if n < 16:
        assert all(math.isnan(level) for level in levels)
        return
    window = np.hanning(n)
    spectrum = np.abs(np.fft.fft((x - x.mean()) * window)) ** 2 / (n * np.sum(window**2))
    total = sum(10 ** (level / 10) for level in levels)
    # A band narrower than a bin counts its nearest bin again, so narrow bands may hold more, never less.
    assert total >= 0.9 * (spectrum.sum() - spectrum[0] - (spectrum[n // 2] if n % 2 == 0 else 0.0))


def picture(durations: tuple[float, ...]) -> PictureItem:
    """Frames of 4×2 pixels, each with a column of its own lit."""
    frames = tuple(PixelFrame(4, 2, (8 >> place, 8 >> place)) for place in range(len(durations)))
    return PictureItem(row=1, column=2, width=4, tall=2, picture="p", frames=frames, durations_s=durations)


@pytest.mark.parametrize(("t", "lit"), [(0.0, 0), (0.19, 0), (0.2, 1), (0.49, 1), (0.5, 2), (1.0, 0), (1.25, 1)])
def test_frames_take_their_turn(t: float, lit: int) -> None:
    """Each for its time, then from the first on."""
    assert picture((0.2, 0.3, 0.5)).rows({}, t) == (8 >> lit, 8 >> lit)
    assert picture((0.0,)).rows({}, 99.0) == (8, 8)


def test_pictures_stand_where_they_are_put() -> None:
    """And what lies beyond the glass is cut."""
    panel = panel_of(width=8, height=8)
    assert lit_at(panel.lit(compose(face(picture((0.0,))), panel, {}).memory)) == {(2, 1), (2, 2)}
    assert picture((0.0,)).is_still
    assert not picture((0.1, 0.1)).is_still


@pytest.mark.long
@given(
    row=st.integers(0, 40),
    column=st.integers(0, 60),
    width=st.integers(1, 64),
    tall=st.integers(1, 48),
    turned=st.sampled_from(list(TURNS)),
    bytes_=st.sampled_from(BYTES[:2]),
    offset=st.integers(0, 4),
)
def test_what_an_item_alone_costs(
    row: int, column: int, width: int, tall: int, turned: str, bytes_: str, offset: int
) -> None:
    """Byte by byte: those that change when any one pixel of its box does."""
    panel = panel_of(width=64, height=48, turned=turned, bytes=bytes_, offset=offset)
    item = Box(row=row, column=column, width=width, tall=tall)
    dark = panel.sent(panel.lit(panel.blank()))
    touched = set()
    for y in range(row, min(row + tall, panel.rows)):
        for x in range(column, min(column + width, panel.columns)):
            rows = [0] * panel.rows
            rows[y] = 1 << (panel.columns - 1 - x)
            sent = panel.sent(PixelFrame(panel.columns, panel.rows, tuple(rows)))
            touched |= {place for place in range(len(dark)) if sent[place] != dark[place]}
    assert bytes_touched(panel, item) == len(touched)


def test_a_box_beside_the_byte_costs_more() -> None:
    """Eight rows on a page's edge are a byte a column, one row lower two."""
    panel = panel_of(width=128, height=64)
    assert bytes_touched(panel, Box(row=8, column=3, width=20, tall=8)) == 20
    assert bytes_touched(panel, Box(row=9, column=3, width=20, tall=8)) == 40


@pytest.mark.parametrize(
    ("bus", "count", "clocks"),
    [
        (Bus(TWO_WIRE, 100e3), 1, 9 + 18 + 2),
        (Bus(TWO_WIRE, 400e3), 1024, 1024 * 9 + 20),
        (Bus(TWO_WIRE, 400e3, 32), 1024, 1024 * 9 + 32 * 20),
        (Bus(TWO_WIRE, 400e3, 32), 33, 33 * 9 + 40),
        (Bus(FOUR_WIRE, 2e6), 504, 4032),
        (Bus(PARALLEL, 1e6), 10, 10),
        (Bus(), 0, 0),
    ],
)
def test_clocks_of_a_transfer_by_hand(bus: Bus, count: int, clocks: int) -> None:
    """Nine clocks a byte by two wires, address and control byte, start and stop before and behind each part."""
    assert bus.transfer_s(count) == pytest.approx(clocks / bus.clock_hz, rel=1e-12)


@pytest.mark.parametrize(
    ("one", "other", "wanted"),
    [
        ("#000000", "#ffffff", 21.0),
        ("#777777", "#777777", 1.0),
        ("#777777", "#ffffff", 4.48),
        ("#0000ff", "#ffffff", 8.59),
    ],
)
def test_contrast_by_the_published_figures(one: str, other: str, wanted: float) -> None:
    """Black on white 21; the grey that just misses 4.5; blue on white 8.59."""
    assert contrast(one, other) == pytest.approx(wanted, abs=0.005)


def test_light_before_light_is_noted() -> None:
    """A see-through panel before something bright; not before something dark, nor one with a ground of its own."""
    bright = {"width": 64, "height": 48, "behind": "bright"}
    (note,) = inspect_contrast(panel_of(**bright, see_through=True))
    assert note.figure is not None
    assert note.figure < 3
    assert inspect_contrast(panel_of(**bright)) == []
    assert inspect_contrast(panel_of(width=64, height=48, see_through=True)) == []


def test_where_items_clash_on_pixels() -> None:
    """The rectangle that both claim, and the edge that one runs out of; an outline may frame what stands in it."""
    panel = panel_of(width=32, height=16)
    one, two = Box(row=0, column=0, width=10, tall=10), Box(row=5, column=6, width=10, tall=20)
    items: tuple[Item, ...] = (one, two, Box(row=0, column=0, width=32, tall=16, filled=False))
    assert clashing_pixels(face(*items), panel) == ((6, 5, 10, 10), (6, 15, 16, 16))


def test_pixels_that_never_go_dark() -> None:
    """Of a label all of them; of a field those that are lit at both values."""
    panel = panel_of(width=64, height=16)
    placed = face(Label("kg", 0, 40), mass(width=3))
    readings = [{"mass": Reading(1.0)}, {"mass": Reading(8.0)}]
    found = redraws(placed, panel, readings, 1.0).lit_in_all
    frames = [panel.lit(compose(placed, panel, each).memory) for each in readings]
    assert found is not None
    assert lit_at(found) == lit_at(frames[0]) & lit_at(frames[1])
    width, height = size_of(placed.items[0], panel)
    label_alone = lit_at(panel.lit(compose(face(Label("kg", 0, 40)), panel, {}).memory))
    assert {(x, y) for x, y in lit_at(found) if 40 <= x < 40 + width and y < height} == label_alone


@given(x=st.integers(-20, 40), y=st.integers(-10, 20), width=st.integers(1, 40), height=st.integers(1, 20))
def test_a_part_of_a_frame(x: int, y: int, width: int, height: int) -> None:
    """Pixel by pixel, dark where there was nothing."""
    frame = PixelFrame(16, 6, tuple(0b1011_0010_1110_0101 ^ (row * 37) for row in range(6)))
    part = frame.part(x, y, width, height)
    assert (part.width, part.height) == (width, height)
    for across in range(width):
        for down in range(height):
            assert part.lit(across, down) == frame.lit(x + across, y + down)


@pytest.mark.parametrize("sweep", [90.0, 180.0, 270.0])
def test_a_dial_has_five_ticks_from_its_scale_inwards(sweep: float) -> None:
    """At its ends, its quarters and its middle: two pixels towards the axis, on the way of the radius."""
    item = dial(width=61, tall=41, sweep_deg=sweep)
    rows = item.rows({}, 0.0)
    lit = {(x, y) for y, line in enumerate(drawn(rows, 61)) for x, sign in enumerate(line) if sign == "#"}
    for quarter in range(5):
        angle = math.radians(90 + sweep / 2 - quarter / 4 * sweep)
        for inwards in (0, 1, 2):
            x = 30 + math.cos(angle) * (item.radius - inwards)
            y = item.radius - math.sin(angle) * (item.radius - inwards)
            assert any(math.dist((x, y), each) < 0.8 for each in lit), (sweep, quarter, inwards)
    beside = [each for each in lit if math.dist(each, (30, item.radius)) < item.radius - 3.5]
    assert beside == [], "nothing else stands within the scale"
